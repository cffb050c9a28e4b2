nitrate_study <- function(groups = c("bare", "sown"), ...) {
  versus(leaching, nitrate, cover, groups = groups, unit = "mg/l", label = "Nitrate", ...)
}
# Warnings have tests of their own.
permuted <- function(...) {
  suppressWarnings(
    as.data.frame(quiet(flatly(test_difference, ..., method = "permutation"))), classes = "vandro_warning"
  )
}

test_that("all 462 assignments of the plots, with everything a reader needs", {
  row <- permuted(nitrate_study(), statistic = "difference")
  values <- with(leaching, split(nitrate, cover))
  pooled <- unlist(values[c("bare", "sown")], use.names = FALSE)
  gaps <- utils::combn(11, 6, function(i) mean(pooled[i]) - mean(pooled[-i]))
  observed <- mean(values$bare) - mean(values$sown)
  expect_equal(row$p, 2 * mean(gaps >= observed - 1e-9))
  expect_equal(row$estimate, observed)
  expect_identical(
    row[c("p_kind", "counted_by", "compared_by", "assignments", "estimand")],
    data.frame(
      p_kind = "exact", counted_by = "listed", compared_by = "difference", assignments = 462,
      estimand = "mean_difference"
    )
  )
  expect_equal(row$p_smallest, 2 / 462)
  expect_true(all(is.na(row[c("draws", "p_bracket_low", "p_simulated_low", "run_length", "df")])))
  welch <- permuted(nitrate_study())
  expect_equal(welch$statistic, as.data.frame(test_difference(nitrate_study()))$statistic)
  expect_identical(welch$compared_by, "studentized")
})

# Null values at and beside the limits, where a disagreement would show.
expect_agreement <- function(study, ..., statistic = NULL, at = 0.3, few = FALSE) {
  ask <- function(beyond, expect = "either") {
    permuted(study, ..., statistic = statistic, beyond = beyond, expect = expect)
  }
  start <- ask(0)
  width <- start$upper - start$lower
  beside <- c(start$lower + c(-0.02, 0.02) * width, start$upper + c(-0.02, 0.02) * width)
  nulls <- c(start$lower, start$upper, if (!few) c(beside, at))
  for (beyond in nulls) {
    row <- ask(beyond)
    inside <- row$lower <= beyond && beyond <= row$upper
    expect_identical(inside, row$p > row$alpha, info = paste(row$counted_by, statistic, beyond))
    if (!beyond %in% nulls[1:2]) next
    sided <- ask(beyond, "higher")
    expect_identical(beyond < sided$at_least, sided$p <= sided$alpha, info = paste(sided$counted_by, statistic, beyond))
  }
}

# Takes seconds: every way of counting is asked at, beside and beyond its own limits.
test_that("p is at most alpha exactly when the interval excludes the null value, counted in any way", {
  set.seed(21)
  small <- two_groups(c(5.1, 6.2, 7.7, 6.9, 8.4, 7.1), c(4.4, 5.2, 6.1, 5.9, 4.1))
  for (statistic in permutation_statistics) expect_agreement(small, statistic = statistic)
  expect_agreement(two_groups(c(2, 3, 3, 5, 1, 4, 4), c(0, 1, 3, 2, 2, 1)), statistic = "difference")
  middle <- two_groups(rnorm(15) + 0.8, rnorm(14))
  expect_agreement(middle, statistic = "difference")
  expect_agreement(middle, draws = 999, seed = 2, few = TRUE)
  expect_agreement(middle, draws = 999, seed = 2, statistic = "difference", few = TRUE)
  expect_agreement(middle, draws = 199, seed = 2, statistic = "median", few = TRUE)
  # The bracketed p itself stands for p.
  expect_agreement(two_groups(rnorm(40) + 0.4, rnorm(38)), statistic = "difference", few = TRUE)
  expect_agreement(two_groups(round(rnorm(30), 1) + 0.4, round(rnorm(25), 1)), statistic = "difference", few = TRUE)
  pairs <- function(change) versus_paired(data.frame(change = change), change = change)
  expect_agreement(pairs(c(1.2, 0.4, -0.3, 0.9, 1.7, 0.2, 0.8, 0.6)))
  expect_agreement(pairs(c(1.2, 0.4, -0.3, 0.9, 1.7, 0.2, 0.8, 0.6)), statistic = "trimmed")
  expect_agreement(pairs(rnorm(24) + 0.4), few = TRUE)
  expect_agreement(pairs(rnorm(70) + 0.3), few = TRUE)
  expect_agreement(pairs(round(rnorm(60), 1) + 0.2), at = 0.15)
  expect_agreement(pairs(round(rnorm(60), 1) + 0.2), draws = 999, seed = 1)
})

test_that("the ladder: each way where it belongs, and they tell the same", {
  set.seed(5)
  values <- list(rnorm(16) + 0.7, rnorm(17))
  study <- two_groups(values[[1]], values[[2]])
  counted <- permuted(study, statistic = "difference")
  expect_identical(counted[c("counted_by", "p_kind")], data.frame(counted_by = "quarters", p_kind = "exact"))
  drawn <- permuted(study, statistic = "difference", draws = 1e5, seed = 4)
  expect_identical(
    drawn[c("counted_by", "p_kind", "draws")], data.frame(counted_by = "drawn", p_kind = "simulated", draws = 1e5)
  )
  expect_gt(counted$p, drawn$p_simulated_low * 0.9)
  expect_lt(counted$p, drawn$p_simulated_high * 1.1)
  expect_equal(drawn$lower, counted$lower, tolerance = 0.05)
  decimals <- permuted(two_groups(round(values[[1]], 2), round(values[[2]], 2)), statistic = "difference")
  expect_identical(decimals$counted_by, "decimals")
  expect_equal(decimals$p, counted$p, tolerance = 0.1)
  large <- permuted(two_groups(rnorm(60), rnorm(55) + 0.3), statistic = "difference")
  expect_identical(large[c("counted_by", "p_kind")], data.frame(counted_by = "grid", p_kind = "bracketed"))
  expect_true(large$p_bracket_low <= large$p && large$p <= large$p_bracket_high)
  expect_lt(large$p_bracket_high - large$p_bracket_low, 0.01)
  expect_identical(permuted(study, seed = 1)$counted_by, "drawn")
  expect_identical(permuted(study, exact = FALSE, statistic = "difference", seed = 1)$counted_by, "drawn")
  expect_identical(permuted(study, statistic = "difference", max_memory = 0.001)$counted_by, "drawn")
})

test_that("exact = TRUE tells the cost first and refuses what is out of reach", {
  study <- height_study()
  expect_error(test_difference(study, "permutation", options = how(exact = TRUE)), class = "vandro_error_exact_cost")
  expect_error(
    test_difference(study, "permutation", options = how(exact = TRUE)), "statistic = \"difference\"", fixed = TRUE
  )
  expect_identical(permuted(study, exact = TRUE, statistic = "difference")$counted_by, "decimals")
  set.seed(1)
  expect_error(
    permuted(two_groups(rnorm(1000), rnorm(1000)), exact = TRUE), "more time than can be told",
    class = "vandro_error_exact_cost"
  )
  set.seed(2)
  more <- two_groups(rnorm(24), rnorm(24) + 1)
  expect_message(
    row <- as.data.frame(test_difference(more, "permutation", options = how(exact = TRUE, statistic = "difference"))),
    "Counting all assignments takes about", fixed = TRUE
  )
  expect_identical(row$counted_by, "quarters")
})

test_that("random draws: never 0, a seed on record, threads and set.seed()", {
  study <- two_groups(c(9, 8, 9.5, 8.8, 9.1, 9.9, 8.7, 9.2), c(1, 2, 1.5, 2.2, 1.1, 0.9, 1.8, 1.3))
  answer <- quiet(test_difference(study, "permutation", options = how(draws = 999), seed = 3))
  expect_identical(answer$table$p, 2 / 1000)
  expect_identical(answer$settings[c("draws", "seed")], list(draws = 999, seed = 3))
  set.seed(6)
  one <- permuted(height_study(), draws = 2999)
  set.seed(6)
  two <- permuted(height_study(), draws = 2999, threads = 2)
  expect_identical(one, two)
  # One seed for all outcomes: the one on record gives the same again.
  several <- versus(seedlings, c(height, chlorophyll), substrate, groups = c("compost", "peat"))
  first <- test_difference(several, "permutation", options = how(draws = 499))
  expect_identical(
    first$table, test_difference(several, "permutation", options = how(draws = 499), seed = first$settings$seed)$table
  )
  close <- two_groups(c(5.1, 6.2, 7.7, 6.9, 8.4, 7.1, 6.6, 7.9), c(4.4, 6.2, 6.1, 6.9, 5.1, 6.3, 5.5, 5.8))
  exact <- permuted(close)
  expect_true(exact$p > 0.01 && exact$p < 0.09)
  expect_warning(
    quiet(test_difference(close, "permutation", options = how(draws = 199), seed = 1)),
    class = "vandro_warning_undecided"
  )
})

test_that("the smallest attainable p warns when nothing can be decided", {
  tiny <- two_groups(c(3, 5, 4), c(1, 2, 2.5))
  expect_warning(answer <- test_difference(tiny, "permutation"), class = "vandro_warning_unattainable")
  expect_equal(answer$table$p_smallest, 0.1)
  expect_true(is.na(answer$table$lower))
  expect_match(format(answer), "no finite 95% CI with so few assignments", fixed = TRUE, all = FALSE)
  expect_warning(alone <- test_difference(
    two_groups(5, c(2, 3, 1)), "permutation", options = how(statistic = "difference")
  ))
  expect_equal(alone$table$p, 0.5)
})

test_that("values are reassigned within declared blocks only", {
  beds <- data.frame(
    height = c(5, 7, 9, 3, 4, 8, 6, 6, 2, 5, 4, 7), substrate = rep(c("compost", "peat"), 6),
    bed = rep(c("a", "b", "c"), each = 4)
  )
  study <- versus(beds, height, substrate, blocks = bed, groups = c("compost", "peat"))
  row <- permuted(study, statistic = "difference")
  expect_identical(row$assignments, 6^3)
  beds$compost <- beds$substrate == "compost"
  expect_equal(row$estimate, coef(lm(height ~ compost + bed, beds))[["compostTRUE"]])
  printed <- format(quiet(test_difference(study, "permutation")))
  expect_match(printed, "within their block only", fixed = TRUE, all = FALSE)
  expect_agreement(study, statistic = "difference")
  expect_agreement(study)
  text <- narrate(study, method = "permutation", options = how(statistic = "difference"))
  expect_match(text, "permutation test of the difference (within 3 blocks)", fixed = TRUE)
  flat <- versus(transform(beds, height = match(bed, letters) + (substrate == "peat")), height, substrate,
    blocks = bed, groups = c("compost", "peat")
  )
  expect_error(permuted(flat), class = "vandro_error_no_spread")
  expect_lt(permuted(flat, statistic = "difference")$p, 0.05)
  bench <- height_study(blocks = bench)
  expect_identical(permuted(bench, statistic = "difference")$counted_by, "decimals")
  alone <- transform(beds, bed = ifelse(substrate == "peat" & bed == "c", "d", bed))
  expect_error(
    permuted(versus(alone, height, substrate, blocks = bed, groups = c("compost", "peat"))),
    class = "vandro_error_bad_blocks"
  )
  lost <- transform(beds, bed = replace(bed, 7, NA))
  expect_error(
    permuted(versus(lost, height, substrate, blocks = bed, groups = c("compost", "peat"))), "missing in row 7"
  )
})

test_that("runs of neighbours are flipped or reassigned whole", {
  probes <- versus_paired(moisture, probe_a, probe_b, order = hour, unit = "%")
  row <- permuted(probes, run_length = 6)
  expect_identical(row$assignments, 2^8)
  change <- round(10 * with(moisture, probe_a - probe_b))
  sums <- tapply(change, rep(1:8, each = 6), sum)
  all <- as.matrix(expand.grid(rep(list(c(-1, 1)), 8))) %*% sums
  expect_equal(row$p, min(1, 2 * mean(all >= sum(sums))))
  expect_equal(row$estimate, mean(with(moisture, probe_a - probe_b)))
  printed <- format(quiet(test_difference(probes, "permutation")))
  expect_match(printed, "run_length = \"estimate\"", fixed = TRUE, all = FALSE)
  estimated <- quiet(test_difference(probes, "permutation", options = how(run_length = "estimate")))
  expect_match(format(estimated), "a length estimated", fixed = TRUE, all = FALSE)
  beds <- data.frame(
    moisture = c(3, 4, 4, 5, 8, 9, 8, 7, 2, 3, 3), cover = rep(c("bare", "sown", "bare"), c(4, 4, 3)),
    day = c(1:8, 20:22)
  )
  series <- versus(beds, moisture, cover, groups = c("bare", "sown"), order = day)
  quiet(expect_warning(
    answer <- test_difference(series, "permutation", options = how(run_length = 2)),
    class = "vandro_warning_unattainable"
  ))
  runs <- answer$detail$permutation[[1]]$runs
  expect_identical(c(runs$count, runs$left, runs$gaps), c(3, 2, 1, 1))
  expect_identical(answer$table$assignments, 10)
  tied <- versus(transform(beds, day = c(1, 1, 3:11)), moisture, cover, groups = c("bare", "sown"), order = day)
  expect_error(permuted(tied, run_length = 2), class = "vandro_error_order")
  expect_error(permuted(series, run_length = 5), class = "vandro_error_too_few_runs")
  expect_error(permuted(series, run_length = 2, statistic = "studentized"), class = "vandro_error_contradiction")
  expect_error(permuted(height_study(), run_length = 2), class = "vandro_error_needs_order")
  expect_error(permuted(probes, run_length = "long"), class = "vandro_error_bad_value")
})

test_that("what cannot be asked is refused with a reason", {
  refused(
    needs_values = permuted(published_study()), no_spread = permuted(two_groups(c(1, 1), c(2, 2, 2))),
    one_value = permuted(two_groups(5, c(2, 3, 1))),
    no_spread = permuted(versus_paired(data.frame(change = c(1, 1, 1)), change = change)),
    bad_value = permuted(height_study(), draws = 0),
    contradiction = permuted(height_study(), draws = 999, exact = TRUE),
    bad_value = permuted(height_study(), max_memory = 0), bad_value = permuted(height_study(), statistic = "mean"),
    contradiction = test_difference(height_study(), "welch", options = how(statistic = "median"))
  )
})

test_that("complete separation and awkward numbers have an answer", {
  apart <- permuted(two_groups(c(5, 6, 7, 8), c(1, 2, 3, 4)))
  expect_equal(apart$p, 2 / 70)
  # t of many thousands, known to few digits: the observed assignment is still one of all.
  for (gap in 10^(1:12)) {
    far <- permuted(two_groups(gap + c(0.11, 0.23, 0.31, 0.17), c(0.1, 0.25, 0.4, 0.3)))
    expect_equal(far$p, 2 / 70)
    expect_equal(permuted(two_groups(-gap + c(0.11, 0.23, 0.31), c(0.1, 0.25, 0.4, 0.3)))$p, 2 / 35)
  }
  for (sample in zoo[c("ties", "outlier", "tiny", "huge", "offset")]) {
    other <- sample[c(1, 1, 2)] + diff(range(sample))
    row <- suppressWarnings(permuted(two_groups(sample, other), statistic = "difference"))
    expect_true(is.finite(row$p) && row$p > 0)
    expect_equal(row$estimate, mean(sample) - mean(other), tolerance = 1e-7)
    scaled <- (c(sample, other) - sample[[1]]) / max(abs(c(sample, other) - sample[[1]]))
    own <- seq_along(sample)
    again <- permuted(two_groups(scaled[own], scaled[-own]), statistic = "difference")
    expect_equal(row$p, again$p)
  }
})

test_that("printed result, sentences and report name how p was counted", {
  answer <- test_difference(nitrate_study(), "permutation")
  expect_match(format(answer), "all 462 assignments of the values to the groups, one by one", fixed = TRUE, all = FALSE)
  text <- narrate(nitrate_study(), method = "permutation")
  expect_match(text, "permutation test of t = 2.76, exact p = .013", fixed = TRUE)
  plain <- narrate(nitrate_study(), method = "permutation", options = how(statistic = "median"), voice = "plain")
  expect_match(plain, "By the medians", fixed = TRUE)
  file <- withr::local_tempfile(fileext = ".html")
  quiet(quick_report(height_study(), file, method = "permutation", seed = 5))
  page <- paste(readLines(file), collapse = " ")
  expect_match(page, "Phipson", fixed = TRUE)
  expect_match(page, "5, for 99999 draws", fixed = TRUE)
})

test_that("values below the smallest normal numbers are refused, not counted on a grid without digits", {
  tiny <- versus(first = c(1, 2, 5, 7) * 1e-311, second = c(3, 4, 6, 9) * 1e-311, groups = c("compost", "peat"))
  expect_error(test_difference(tiny, "permutation"), class = "vandro_error_out_of_range")
  small <- versus(first = c(1, 2, 5, 7) * 1e-270, second = c(3, 4, 6, 9) * 1e-270, groups = c("compost", "peat"))
  plain <- versus(first = c(1, 2, 5, 7), second = c(3, 4, 6, 9), groups = c("compost", "peat"))
  expect_identical(test_difference(small, "permutation")$table$p, test_difference(plain, "permutation")$table$p)
})

test_that("where no shift of a median is rejected there is no limit, and the widest interval is named", {
  few <- versus(first = c(1, 2, 3, 4, 100), second = c(2, 3, 4), groups = c("compost", "peat"))
  answer <- suppressWarnings(test_difference(few, "permutation", options = how(statistic = "median")))
  expect_identical(c(answer$table$lower, answer$table$upper), c(NA_real_, NA_real_))
  widest <- answer$detail$permutation[[1]]$widest
  # However far the first group is moved, some of the 56 assignments have a median difference as large.
  expect_relative(c(widest$lower, widest$upper), c(-2, 97), 1e-6)
  far <- c(c(1, 2, 3, 4, 100) + 1e6, 2, 3, 4)
  gaps <- utils::combn(8, 5, function(taken) stats::median(far[taken]) - stats::median(far[-taken]))
  expect_relative(widest$level, 1 - 2 * mean(gaps >= gaps[[1]]), 1e-12)
  narrower <- suppressWarnings(
    test_difference(few, "permutation", options = how(statistic = "median"), level = widest$level - 1e-6)
  )$table
  expect_false(anyNA(c(narrower$lower, narrower$upper)))
  expect_match(narrate(answer), "no finite 95% CI")
  pairs <- versus_paired(change = c(1, 2.5, 3, -1, 5, 2, 2, 8), groups = c("noon", "dawn"))
  expect_true(is.na(suppressWarnings(test_difference(
    pairs, "permutation", options = how(statistic = "median")
  ))$table$lower))
})
