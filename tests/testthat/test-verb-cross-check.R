test_that("every row is the test of its own method, all asked alike", {
  questions <- list(list(), list(expect = "higher", beyond = 1), list(expect = "lower", level = 0.9, alpha = 0.01))
  for (question in questions) {
    table <- do.call(cross_check, c(list(height_study(), seed = 5), question))$table
    question$level <- question$level %||% if (is.null(question$expect)) 0.95 else 0.9
    expect_identical(table$method, c("welch", "student", "ranks", "relative", "permutation"))
    expect_length(unique(table$expect), 1)
    expect_length(unique(table$beyond), 1)
    for (i in seq_len(nrow(table))) {
      seed <- if (table$method[[i]] == "permutation") list(seed = 5)
      one <- do.call(test_difference, c(list(height_study(), table$method[[i]]), question, seed))$table
      shared <- c("estimand", "estimate", "se", "lower", "upper", "level", "statistic", "df", "p", "p_kind")
      expect_equal(as.list(table[i, shared]), as.list(one[shared]))
      expect_identical(table$verdict[[i]], if (one$p <= one$alpha) "different" else "inconclusive")
    }
  }
  expect_identical(table$role, c("primary", rep("beside", 4)))
})

test_that("with bounds every row is the equivalence test of its method, against the same bounds", {
  table <- cross_check(height_study(), "student", within = 2, bounds_in = "sd", seed = 5)$table
  expect_identical(table$method, c("student", "welch", "ranks", "permutation"))
  expect_length(unique(table$bound_high), 1)
  expect_equal(table$bound_high[[1]], test_equivalence(height_study(), 2, "student", bounds_in = "sd")$table$bound_high)
  for (i in seq_len(nrow(table))) {
    seed <- if (table$method[[i]] == "permutation") list(seed = 5)
    # Tests of means judge the standardized difference, the others the bounds in the unit of the outcome.
    bounds <- if (method_is(table$method[[i]], "means")) {
      list(within = 2, bounds_in = "sd", sd_of = "pooled")
    } else {
      list(within = table$bound_high[[i]])
    }
    one <- do.call(test_equivalence, c(list(height_study(), method = table$method[[i]]), bounds, seed))$table
    shared <- c("lower", "upper", "level", "p", "p_difference", "verdict")
    expect_equal(as.list(table[i, shared]), as.list(one[shared]))
  }
})

test_that("the design and the source decide which methods apply", {
  pairs <- cross_check(conductance_study())$table
  expect_identical(pairs$method, c("paired", "signed_ranks", "permutation"))
  expect_identical(cross_check(published_study())$table$method, c("welch", "student"))
  expect_identical(cross_check(height_study(), c("ranks", "welch"))$table$method, c("ranks", "welch"))
  expect_error(cross_check(height_study(), "paired"), class = "vandro_error_method_design")
  expect_error(cross_check(published_study(), "ranks"), class = "vandro_error_needs_values")
  expect_error(cross_check(published_study(), flagged = "both"), class = "vandro_error_needs_values")
  expect_error(cross_check(height_study(), within = 3, expect = "higher"), class = "vandro_error_contradiction")
  expect_error(cross_check(height_study(), within = 3, level = 0.9), class = "vandro_error_contradiction")
  expect_error(cross_check(height_study(), bounds_in = "sd"), class = "vandro_error_bad_bounds")
  expect_error(cross_check(height_study(), reason = "none"), class = "vandro_error_contradiction")
  expect_error(cross_check(published_study(), seed = 2), class = "vandro_error_contradiction")
})

test_that("a method that cannot answer is named with its reason; the declared one's error is the caller's", {
  study <- two_groups(5, c(1, 2, 3, 4))
  answer <- suppressWarnings(cross_check(study, "student"))
  expect_setequal(answer$detail$refused$height$method, c("welch", "relative", "permutation"))
  expect_match(format(answer), "too few values to tell its spread", fixed = TRUE, all = FALSE)
  expect_error(cross_check(study, "welch"), class = "vandro_error_one_value")
})

# Data on which just one assumption parts the methods.
test_that("a disagreement is put down to the assumption that parts the methods", {
  hangs <- function(...) {
    answer <- suppressWarnings(flatly(cross_check, ...))
    expect_true(answer$detail$depends)
    answer$detail$hangs[[1]]
  }
  # A small group with a large spread beside a large one with a small spread.
  uneven <- two_groups(c(9.1, 2.2, 14.8, 7.5, 12.9), seq(4, 8, length.out = 40))
  spread <- hangs(uneven, c("welch", "student"))
  expect_identical(spread$assumption, "spread")
  expect_equal(spread$sd_ratio, sd(c(9.1, 2.2, 14.8, 7.5, 12.9)) / sd(seq(4, 8, length.out = 40)))
  expect_true(is.na(spread$skewness_first))
  plain <- hangs(uneven, c("welch", "permutation"), statistic = "difference", seed = 1)
  expect_identical(plain$assumption, "spread")
  # Three and three: no rank or permutation test can get below .05.
  tiny <- two_groups(c(9.1, 9.2, 9.3), c(1.1, 1.2, 1.3))
  expect_identical(unique(hangs(tiny, c("welch", "permutation"))$assumption), "few")
  told <- format(suppressWarnings(cross_check(tiny)), width = 300)
  expect_match(told, "the sample size: with so few values", fixed = TRUE, all = FALSE)
  # One wild value hides a difference of means that the ranks show.
  wild <- two_groups(c(5.1, 5.4, 5.8, 6.2, 5.6, 5.9, 40), c(4.1, 4.4, 4.2, 4.9, 4.7, 4.6, 4.5))
  expect_identical(hangs(wild, c("welch", "relative"), seed = 1)$assumption, "order")
  changes <- data.frame(change = c(0.3, 0.5, 0.4, 0.7, 0.6, 0.2, 9))
  pairs <- versus_paired(changes, change, groups = c("noon", "dawn"))
  expect_true("order" %in% hangs(pairs)$assumption)
  words <- format(cross_check(wild, "welch", flagged = "both", seed = 1), width = 300)
  expect_match(words, "(Tukey 1977): 1 of compost, 0 of peat.", fixed = TRUE, all = FALSE)
  # A p after values were excluded because of the outcome is no test, and decides nothing.
  expect_match(words, "no p-value is a valid test", fixed = TRUE, all = FALSE)
  expect_match(words, "without flagged .* descriptive$", all = FALSE)
  both <- cross_check(wild, "welch", flagged = "both", seed = 1)$table
  expect_identical(is.na(both$verdict), both$values != "all")
  # Blocks part the permutation test from those that ignore them.
  blocked <- data.frame(
    height = rep(c(0, 4, 8, 12), each = 4) + rep(c(1.2, 0), 8) +
      c(1, -2, 0, 3, -1, 2, -3, 1, 0, 2, -1, 1, 3, 0, -2, 2) / 5,
    group = rep(c("compost", "peat"), 8), bench = rep(letters[1:4], each = 4)
  )
  study <- quiet(versus(blocked, height, group, groups = c("compost", "peat"), blocks = bench))
  expect_identical(hangs(study, c("welch", "permutation"))$assumption, "blocks")
  expect_match(narrate(study, method = "welch"), "Welch's test does not use the declared blocks (bench).", fixed = TRUE)
  expect_no_match(narrate(study, method = "permutation"), "does not use the declared blocks")
  expect_match(words, "the weight of distant values", fixed = TRUE, all = FALSE)
})

test_that("where all agree the sentence says so, and where they do not, who says what", {
  expect_match(
    narrate(cross_check(height_study(), seed = 1)), 'does not depend on the method. All 5 methods give "different"',
    fixed = TRUE
  )
  expect_match(
    narrate(cross_check(published_study())), "does not depend on the method. Both methods give", fixed = TRUE
  )
  uneven <- two_groups(c(9.1, 2.2, 14.8, 7.5, 12.9), seq(4, 8, length.out = 40))
  text <- narrate(cross_check(uneven, c("welch", "student")))
  expect_match(text, 'depends on the method: Welch "inconclusive"; Student "different"', fixed = TRUE)
  expect_match(text, "comes from equal variances", fixed = TRUE)
  plain <- narrate(cross_check(uneven, c("welch", "student")), voice = "plain")
  expect_match(plain, "the chosen one stands", fixed = TRUE)
})

test_that("leaving out the flagged values is the study without them, declared by hand", {
  study <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"))
  table <- cross_check(study, c("welch", "ranks"), flagged = "both")$table
  expect_identical(table$values, rep(c("all", "without flagged"), each = 2))
  vetted <- as.data.frame(vet_assumptions(study))
  cases <- as.integer(unlist(strsplit(vetted$cases[vetted$check == "fences" & !is.na(vetted$cases)], ", ")))
  by_hand <- versus(seedlings[-cases, ], leaf_area, substrate, groups = c("compost", "peat"))
  less <- table[table$values == "without flagged", ]
  expect_equal(less$p, test_difference(by_hand, c("welch", "ranks"))$table$p)
  expect_equal(less$n_first + less$n_second, rep(nrow(as.data.frame(by_hand)), 2))
})

test_that("of counts the cases are flagged, not the rows", {
  data <- data.frame(
    score = c(1, 2, 3, 9, 1, 2, 3), bed = rep(c("compost", "peat"), c(4, 3)), plants = c(9, 9, 9, 2, 9, 9, 9)
  )
  study <- versus(data, score, bed, counts = plants, groups = c("compost", "peat"))
  answer <- cross_check(study, c("welch", "student"), flagged = "both")
  expect_identical(answer$detail$without[[1]], c(2, 0))
  expect_match(format(answer, width = 200), "2 of compost, 0 of peat", fixed = TRUE, all = FALSE)
  expect_identical(answer$table$n_first, c(29, 29, 27, 27))
})

test_that("intervals beside verdicts agree with them, whatever alpha and direction", {
  for (alpha in c(0.001, 0.02, 0.2)) {
    for (expect in c("either", "higher", "lower")) {
      methods <- c("welch", "student", "ranks")
      table <- cross_check(height_study(), methods, expect = expect, beyond = 1.8, alpha = alpha)$table
      excludes <- switch(expect,
        either = table$lower > 1.8 | table$upper < 1.8, higher = table$lower > 1.8, lower = table$upper < 1.8
      )
      expect_identical(table$verdict == "different", excludes)
    }
  }
  told <- format(cross_check(height_study(), seed = 1, alpha = 0.02, level = 0.95), width = 200)
  expect_match(told, "have the level 0.98", fixed = TRUE, all = FALSE)
})

test_that("printed cross-checks keep their words", {
  withr::local_options(width = 100)
  plots <- versus(leaching, nitrate, cover, groups = c("bare", "sown"), unit = "mg/l", label = "Nitrate")
  expect_snapshot({
    print(cross_check(plots, alpha = 0.02, flagged = "both"))
    print(cross_check(versus_paired(moisture, probe_a, probe_b, unit = "%"), within = 0.35))
  })
})

test_that("several outcomes give a block each, with the declared method's p adjusted", {
  study <- versus(seedlings, c(height, chlorophyll), substrate, groups = c("compost", "peat"))
  answer <- cross_check(study, seed = 2)
  table <- answer$table
  expect_identical(nrow(table), 10L)
  expect_identical(is.na(table$p_adjusted), table$role == "beside")
  expect_identical(unname(answer$detail$depends), c(FALSE, FALSE))
  json <- jsonlite::fromJSON(paste(export_answer(answer), collapse = "\n"))
  expect_identical(json$kind, "cross_check")
  expect_identical(nrow(json$table), 10L)
  expect_identical(cross_check(study, seed = answer$settings$seed)$table, table)
})
