equivalence_row_of <- function(...) as.list(quiet(test_equivalence(...))$table[1, ])

probes <- function(...) versus_paired(moisture, probe_a, probe_b, unit = "%", label = "Soil moisture", ...)

test_that("either side is the one-sided test of test_difference(), whatever the method", {
  study <- height_study()
  pairs <- probes()
  cases <- list(
    list(study, "welch"), list(study, "student"), list(study, "ranks"), list(study, "permutation", seed = 3),
    list(study, "permutation", options = how(statistic = "difference"), seed = 3),
    list(study, "permutation", options = how(statistic = "median", draws = 999), seed = 3),
    list(pairs, "paired"), list(pairs, "signed_ranks"), list(pairs, "permutation")
  )
  for (case in cases) {
    ask <- function(...) as.data.frame(do.call(test_difference, c(case, list(...))))
    bounds <- if (is_paired(case[[1]])) c(-0.4, 0.3) else c(-2, 4.5)
    got <- as.list(do.call(test_equivalence, c(case[1], list(bounds), case[-1]))$table)
    low <- ask(expect = "higher", beyond = bounds[[1]])
    high <- ask(expect = "lower", beyond = bounds[[2]])
    none <- ask()
    expect_relative(c(got$p_low, got$p_high, got$p_difference), c(low$p, high$p, none$p), 1e-12)
    expect_identical(c(got$statistic_low, got$statistic_high), c(low$statistic, high$statistic))
    expect_equal(c(got$lower, got$upper), c(low$at_least, high$at_most))
    expect_identical(got$p, max(got$p_low, got$p_high))
    expect_identical(got$governing, if (low$p >= high$p) "low" else "high")
    expect_identical(c(got$difference_lower, got$difference_upper), c(none$lower, none$upper))
  }
})

# Whether the interval lies between the bounds, ends included; of rank methods and permutations the ends are shifts that
# the test does not reject, unless it says so.
inside_bounds <- function(row) {
  counted <- row$method %in% c("ranks", "signed_ranks", "permutation")
  if (anyNA(c(row$lower, row$upper))) return(FALSE)
  if (!counted) return(row$lower >= row$bound_low && row$upper <= row$bound_high)
  (row$lower > row$bound_low || isTRUE(row$open_low)) && (row$upper < row$bound_high || isTRUE(row$open_high))
}

# Takes seconds: 250 studies by four methods each.
test_that("verdict of test and of interval are the same in many random cases", {
  set.seed(72)
  rows <- list()
  draw <- function(n) if (runif(1) < 0.5) round(rnorm(n, 0, 2), 1) else rnorm(n, 0, 2)
  for (i in 1:250) {
    paired <- i %% 2 == 0
    n <- sample(3:9, 2, replace = TRUE)
    study <- if (paired) {
      versus_paired(data.frame(change = draw(n[[1]]) + runif(1, -1, 1)), change = change, groups = c("noon", "dawn"))
    } else {
      two_groups(draw(n[[1]]) + runif(1, -1, 1), draw(n[[2]]))
    }
    if (max(vapply(study$outcomes[[1]]$moments, `[[`, 0, "sd"), na.rm = TRUE) == 0) next
    bounds <- round(c(-rexp(1, 0.3), rexp(1, 0.3)) - c(0.1, -0.1), 1)
    methods <- if (paired) c("paired", "signed_ranks", "permutation") else c("welch", "student", "ranks", "permutation")
    alpha <- sample(c(0.025, 0.05, 0.2, 0.4), 1)
    answer <- tryCatch(
      suppressWarnings(test_equivalence(study, bounds, methods, alpha = alpha), classes = "vandro_warning"),
      vandro_error_all_zero = function(e) NULL, vandro_error_no_spread = function(e) NULL
    )
    if (is.null(answer)) next
    rows <- c(rows, lapply(seq_len(nrow(answer$table)), function(k) c(as.list(answer$table[k, ]), alpha = alpha)))
  }
  verdict <- vapply(rows, `[[`, "", "verdict")
  expect_identical(grepl("within bounds|equivalent", verdict), vapply(rows, inside_bounds, NA))
  expect_identical(grepl("different", verdict), vapply(rows, function(row) row$p_difference <= row$alpha, NA))
  expect_setequal(verdict, c("equivalent", "different", "different but within bounds", "inconclusive"))
  expect_gt(length(verdict), 750)
  expect_gt(min(table(verdict)), 15)
})

test_that("published numbers give what the measurements give, and say what rounding leaves open", {
  study <- height_study()
  m <- study$outcomes[[1]]$moments
  from <- versus_summary(
    n = c(m[[1]]$n, m[[2]]$n), mean = c(m[[1]]$mean, m[[2]]$mean), sd = c(m[[1]]$sd, m[[2]]$sd),
    groups = c("compost", "peat")
  )
  columns <- c("lower", "upper", "p_low", "p_high", "p_difference", "tightest", "verdict")
  expect_equal(equivalence_row_of(from, 4)[columns], equivalence_row_of(study, 4)[columns], tolerance = 1e-10)
  rounded <- equivalence_row_of(published_study(), 4.3)
  expect_lt(rounded$p_least, rounded$p)
  expect_gt(rounded$p_most, rounded$p)
  expect_true(any(grepl("another verdict", format(test_equivalence(published_study(), 4.3), width = 200))))
  expect_error(test_equivalence(published_study(), 3, "ranks"), class = "vandro_error_needs_values")
})

test_that("bounds in SD units name their SD, and the standardized difference stands beside them", {
  study <- height_study()
  for (which in c("average", "pooled", "first", "second")) {
    got <- equivalence_row_of(study, 0.5, bounds_in = "sd", sd_of = which)
    estimand <- c(average = "d_average", pooled = "d_pooled", first = "d_by_first", second = "d_by_second")[[which]]
    d <- as.data.frame(gauge_effect(study, estimand, level = 0.9))
    expect_equal(c(got$d, got$d_lower, got$d_upper), c(d$estimate, d$lower, d$upper))
    expect_equal(got$bound_high, 0.5 * d$standardizer_value)
    expect_equal(got$sd_value, d$standardizer_value)
    expect_equal(got$p_sd_known, equivalence_row_of(study, 0.5 * d$standardizer_value)$p)
  }
  expect_identical(equivalence_row_of(study, 1, bounds_in = "sd")$sd_of, "average")
  expect_identical(equivalence_row_of(study, 1, "student", bounds_in = "sd")$sd_of, "pooled")
  expect_identical(equivalence_row_of(probes(), 1, bounds_in = "sd")$sd_of, "change")
  # One SD for all methods of a call, so that the bounds are the same.
  both <- test_equivalence(study, 1, c("student", "welch"), bounds_in = "sd")$table
  expect_identical(both$bound_high[[1]], both$bound_high[[2]])
  # The interval of d decides; what the SD taken as known would say is told.
  tightest <- both$tightest[[1]] / both$sd_value[[1]]
  verdict_at <- function(bound) equivalence_row_of(study, bound, "student", bounds_in = "sd")$verdict
  expect_identical(verdict_at(tightest * (1 + 1e-9)), "different but within bounds")
  expect_identical(verdict_at(tightest * (1 - 1e-9)), "different")
  between <- test_equivalence(study, tightest * 0.99, "student", bounds_in = "sd")
  expect_true(any(grepl("If the SD were known", narrate(between))))
  told <- format(between, width = 400)
  known <- "if the SD were known, the larger p-value would be .* and the verdict \"different but within"
  expect_match(told, known, all = FALSE)
  expect_match(told, "noncentral t[(]45[)]", all = FALSE)
  expect_match(narrate(between, voice = "claim"), "between the bounds -1[.][0-9]+ and 1[.][0-9]+ SD", all = FALSE)
  curve <- as.data.frame(try_bounds(between, c(tightest * 1.01, tightest * 0.98)))
  expect_identical(curve$verdict[[3]], "different but within bounds")
  crossed <- cross_check(study, "student", within = tightest * 0.99, bounds_in = "sd")
  expect_equal(crossed$table$p[[1]], between$table$p[[1]])
  # Of pairs and the SD of one half, by the normal interval.
  one <- equivalence_row_of(probes(), 0.2, bounds_in = "sd", sd_of = "first")
  expect_identical(one$d_inside, one$p <= 0.05)
  expect_true(is.na(one$df))
})

test_that("several outcomes take bounds of their own, by name, and p is adjusted", {
  study <- versus(seedlings, c(height, chlorophyll), substrate, groups = c("compost", "peat"))
  table <- test_equivalence(study, list(chlorophyll = c(-3, 2), height = 5))$table
  expect_identical(table$bound_high, c(5, 2))
  expect_equal(table$p_adjusted, cummax(pmin(1, sort(table$p) * 2:1))[rank(table$p)])
  refused(bad_bounds = test_equivalence(study, list(height = 5)), bad_bounds = test_equivalence(study, list(1, 2)))
})

test_that("what cannot be bounds is refused, with what to do", {
  study <- height_study()
  expect_snapshot(error = TRUE, {
    test_equivalence(study)
    test_equivalence(study, c(1, 3))
    test_equivalence(study, c(-4, -1))
    test_equivalence(study, c(2, -2))
    test_equivalence(study, -3)
    test_equivalence(study, 0)
    test_equivalence(study, c(-2, Inf))
    test_equivalence(study, "3")
    test_equivalence(study, 3, "relative")
    test_equivalence(study, 3, sd_of = "pooled")
  })
  for (bad in list(c(1, 3), c(2, -2), -3, 0, c(2, 2), c(-2, Inf), NA, 1:3, "3", c(0, 2))) {
    expect_error(test_equivalence(study, bad), class = "vandro_error_bad_bounds")
  }
  expect_error(test_equivalence(study, 3, alpha = 0.5), class = "vandro_error_bad_value")
  expect_error(test_equivalence(study, 3, bounds_in = "sd", sd_of = "change"), class = "vandro_error_bad_value")
  expect_error(test_equivalence(study, 3, seed = 1), class = "vandro_error_contradiction")
  expect_error(test_equivalence(two_groups(c(1, 1), c(2, 2)), 3), class = "vandro_error_no_spread")
  flat <- two_groups(c(1, 1, 1), c(2, 3, 4))
  expect_error(test_equivalence(flat, 1, bounds_in = "sd", sd_of = "first"), class = "vandro_error_flat_group")
})

test_that("too few values, and draws that leave the verdict open, are warned of", {
  plots <- versus(leaching, nitrate, cover, groups = c("bare", "sown"))
  tiny <- two_groups(c(1, 2), c(1.5, 3))
  expect_warning(test_equivalence(tiny, 4, "permutation"), class = "vandro_warning_unattainable")
  near <- test_equivalence(plots, 30, "permutation", options = how(statistic = "difference"))$table$upper
  expect_warning(
    test_equivalence(
      plots, near * 1.002, "permutation", options = how(statistic = "difference", draws = 199), seed = 4
    ),
    class = "vandro_warning_undecided"
  )
})

test_that("a claim of sameness is turned away by a test of a difference, and names bounds", {
  study <- height_study(claim = "same")
  expect_match(format(test_difference(study)), "test_equivalence(study, within = )", fixed = TRUE, all = FALSE)
  expect_match(format(study), "that needs bounds", fixed = TRUE, all = FALSE)
  expect_match(narrate(test_difference(study)), "no test of a difference can support", fixed = TRUE)
  expect_no_match(narrate(test_difference(height_study(claim = "different"))), "no test of a difference")
  for (make in list(
    function(...) versus_summary(n = c(9, 9), mean = c(1, 2), sd = c(1, 1), ...),
    function(...) versus_paired_summary(n = 9, mean_change = 1, sd_change = 1, ...),
    function(...) conductance_study(...)
  )) {
    expect_identical(make(claim = "same")$claim, "same")
    expect_error(make(claim = "equal"), class = "vandro_error_bad_value")
  }
})

test_that("non-inferiority and superiority by a margin have their own words", {
  words <- function(...) narrate(test_difference(height_study(), ...))
  expect_match(words(expect = "higher", beyond = -1), "Non-inferiority by a margin of 1 cm is shown", fixed = TRUE)
  expect_match(
    words(expect = "lower", beyond = 1), "is not shown: compost may be higher than peat by 1 cm or more", fixed = TRUE
  )
  expect_match(words(expect = "higher", beyond = 1), "Superiority by a margin of 1 cm is shown", fixed = TRUE)
  expect_match(words(expect = "lower", beyond = -1), "not shown to be lower than peat by more than 1 cm", fixed = TRUE)
  expect_no_match(words(expect = "higher"), "margin")
})

test_that("printed results and sentences say verdict, sides and bounds in the same words", {
  withr::local_options(width = 100)
  expect_snapshot({
    print(test_equivalence(probes(), 0.5, reason = "the valve opens in steps of 0.5 %"))
    print(test_equivalence(published_study(), 0.5, bounds_in = "sd"))
    print(test_equivalence(height_study(), c(-1, 4), c("ranks", "welch")))
    narrate(test_equivalence(probes(), 0.5, reason = "the valve opens in steps of 0.5 %"))
    narrate(test_equivalence(published_study(), 0.5, bounds_in = "sd"))
    narrate(test_equivalence(height_study(), 2), voice = "plain")
    narrate(test_equivalence(height_study(), 4, "ranks"))
  })
})

test_that("a limit just beyond a bound does not print as if it were the bound", {
  row <- equivalence_row_of(height_study(), 1)
  answer <- test_equivalence(height_study(), round(row$upper, 2))
  shown <- grep("90% CI", format(answer), value = TRUE)
  expect_length(shown, 1)
  expect_no_match(shown, sprintf("to %s cm", format(round(row$upper, 2))))
})

test_that("limits that the test itself rejects are told to be excluded", {
  damage <- versus(root_damage, score, substrate, counts = plants, groups = c("compost", "peat"))
  told <- format(test_equivalence(damage, 1, "ranks"), width = 200)
  expect_match(told, "95% CI -2.00 to 0.00 (upper limit excluded)", fixed = TRUE, all = FALSE)
  # Scores are whole: a bound between two of them cannot be a limit.
  expect_false(any(unlist(test_equivalence(damage, 1.5, "ranks")$table[c("open_low", "open_high")])))
})

test_that("no text calls a large p sameness, and four verdicts have four meanings", {
  inconclusive <- test_equivalence(versus(seedlings, chlorophyll, substrate, groups = c("compost", "peat")), 0.5)
  expect_identical(inconclusive$table$verdict, "inconclusive")
  expect_match(narrate(inconclusive, voice = "plain"), "not evidence that the groups are equal", fixed = TRUE)
  equal <- test_equivalence(versus(seedlings, chlorophyll, substrate, groups = c("compost", "peat")), 3)
  expect_identical(equal$table$verdict, "equivalent")
  expect_match(narrate(equal, voice = "plain"), "smaller than that", fixed = TRUE)
  far <- test_equivalence(height_study(), 1)
  expect_match(format(far, width = 100), "lies beyond the upper bound", fixed = TRUE, all = FALSE)
  mirrored <- test_equivalence(height_study(c("peat", "compost")), 1)
  expect_match(format(mirrored, width = 100), "lies beyond the lower bound", fixed = TRUE, all = FALSE)
})

test_that("settings and seed reproduce the answer, and JSON carries bounds and verdict", {
  answer <- test_equivalence(height_study(), 5, "permutation")
  again <- test_equivalence(height_study(), 5, "permutation", seed = answer$settings$seed)
  expect_identical(again$table, answer$table)
  json <- jsonlite::fromJSON(paste(export_answer(answer), collapse = "\n"))
  expect_identical(json$kind, "equivalence")
  claimed <- export_answer(test_difference(height_study(claim = "same")))
  expect_identical(jsonlite::fromJSON(paste(claimed, collapse = "\n"))$study$claim, "same")
  expect_equal(json$settings$within, c(-5, 5))
  expect_identical(json$table$verdict, answer$table$verdict)
})

test_that("limits of signed ranks do not cross, however many changes lie on the bounds", {
  changes <- rep(-3:2, c(1, 9, 28, 39, 33, 10))
  study <- versus_paired(data.frame(change = changes), change, groups = c("noon", "dawn"))
  dropped <- test_equivalence(study, c(-1, 2), "signed_ranks", options = how(zeros = "drop"))
  kept <- test_equivalence(study, c(-1, 2), "signed_ranks")
  expect_lte(kept$table$lower, kept$table$upper)
  expect_identical(dropped$table[c("lower", "upper")], kept$table[c("lower", "upper")])
  told <- paste(format(kept, width = 500), collapse = " ")
  expect_match(told, "28 on the lower bound and 10 on the upper bound: ranked")
  wide <- test_equivalence(study, 2.5, "signed_ranks")
  expect_no_match(paste(format(wide), collapse = " "), "lie just")
  expect_identical(try_bounds(wide, list(c(-1, 2), 4))$table$bound_high, c(2, 2.5, 4))
  expect_identical(nrow(cross_check(study, within = c(-1, 2))$detail$refused[[1]]), 0L)
})

# Takes seconds: reports with and without results.
test_that("a method without an answer keeps its row, and others stand beside it", {
  data <- data.frame(
    height = c(3.1, 4.2, 5.5, 2.2, 3.7, 4.4, 5.1, 6.2, 3.9, 4), bench = rep(c("east", "west"), c(6, 4)),
    substrate = c("compost", "compost", "compost", "peat", "peat", "peat", "compost", "compost", "compost", "peat")
  )
  study <- versus(data, height, substrate, groups = c("compost", "peat"), each = bench)
  named <- test_equivalence(study, list(height = 2))
  expect_identical(named$table$bound_high, test_equivalence(study, 2)$table$bound_high)
  expect_identical(named$settings$within, list(height = c(-2, 2)))
  file <- withr::local_tempfile(fileext = ".md")
  suppressWarnings(suppressMessages(quick_report(test_equivalence(study, 2, c("ranks", "welch")), file)))
  expect_match(readLines(file), "^\\*\\*Verdict:", all = FALSE)
  for (methods in list(c("student", "welch"), c("welch", "student"))) {
    answer <- test_equivalence(study, 2, methods)
    table <- answer$table
    expect_identical(table$method, rep(methods, 2))
    expect_identical(table$role, rep(c("primary", "beside"), 2))
    expect_identical(is.na(table$p), c(FALSE, FALSE, methods == "welch"))
    expect_identical(table$n_second, c(3, 3, 1, 1))
    text <- paste(format(answer, width = 500, details = TRUE), collapse = " ")
    told <- narrate(answer)
    if (methods[[1]] == "welch") {
      expect_match(text, "Also run +Student t\\(2\\) = .*; the primary method has no result")
      expect_match(told[[2]], "too few values.*Other methods: Student \"inconclusive\".")
    } else {
      expect_match(text, "Welch: no result, .*too few values")
      expect_match(told[[2]], "Welch no result")
    }
  }
})

test_that("bounds beyond a double are refused, and studies with an empty label have answers", {
  wide <- versus(first = c(1e4, 3e4, 7e4, 5e4), second = c(2e4, 4e4, 1e4, 9e4), groups = c("compost", "peat"))
  for (method in c("welch", "ranks")) {
    expect_error(
      test_equivalence(wide, 1e305, method, bounds_in = "sd"), class = "vandro_error_out_of_range"
    )
  }
  expect_error(
    try_bounds(test_equivalence(wide, 1, bounds_in = "sd"), c(1, 1e305)), class = "vandro_error_out_of_range"
  )
  world <- suppose_world(difference = 0, sd = 1e5)
  expect_error(
    rehearse_study(world, n = c(9, 9), within = 1e305, bounds_in = "sd"), class = "vandro_error_out_of_range"
  )
  vectors <- versus(first = 1:4, second = 3:6, groups = c("compost", "peat"), label = "")
  expect_identical(vectors$outcomes[[1]]$name, "value")
  expect_identical(nrow(test_equivalence(vectors, 3)$table), 1L)
  pairs <- data.frame(noon = c(1, 2, 4, 3, 6), dawn = c(2, 4, 3, 6, 7))
  unnamed <- versus_paired(pairs, noon, dawn, label = "")
  named <- versus_paired(pairs, noon, dawn)
  expect_identical(test_equivalence(unnamed, 3)$table$p, test_equivalence(named, 3)$table$p)
})

test_that("with several outcomes the adjusted p decides verdict, claim and table alike", {
  study <- versus(
    seedlings, c(height, leaf_area, dry_mass, chlorophyll), substrate, groups = c("compost", "peat"), claim = "same"
  )
  bounds <- list(height = 4.9, leaf_area = 15, dry_mass = 0.16, chlorophyll = 3.9)
  answer <- test_equivalence(study, bounds)
  table <- answer$table
  inside <- grepl("within|equivalent", table$verdict)
  expect_identical(inside, table$p_adjusted <= table$alpha)
  expect_true(any(table$p <= table$alpha & !inside))
  claims <- narrate(answer, voice = "claim")
  expect_identical(grepl("there is enough evidence", claims), inside)
  said <- narrate(answer)
  expect_identical(grepl("Verdict: (equivalent|different but within)", said), inside)
  expect_match(paste(format(answer, width = 300), collapse = " "), "verdict uses the p-value adjusted")
  alone <- test_equivalence(study, bounds, adjust = "none")$table
  expect_identical(alone$verdict != table$verdict, table$p <= 0.05 & !inside)
})
