damage_study <- function(groups = c("compost", "peat"), ...) {
  versus(root_damage, score, substrate, counts = plants, groups = groups, label = "Root damage", ...)
}
tidy_row <- function(...) as.data.frame(flatly(test_difference, ...))

test_that("ranks answer with U of both orders, critical limits, shift and superiority", {
  row <- tidy_row(damage_study(), "ranks")
  expect_identical(row$statistic + row$statistic_opposite, 40 * 42)
  expect_identical(row[c("estimand", "statistic_name", "p_kind", "method")], list(
    estimand = "shift", statistic_name = "U", p_kind = "exact", method = "ranks"
  ), ignore_attr = TRUE)
  expect_true(is.na(row$df))
  expect_true(is.na(row$se))
  expect_equal(row$superiority, row$statistic / 1680)
  values <- with(root_damage, split(rep(score, plants), rep(substrate, plants)))
  gaps <- outer(values$compost, values$peat, "-")
  expect_identical(row$statistic, sum(gaps > 0) + sum(gaps == 0) / 2)
  expect_identical(row$estimate, stats::median(gaps))
  expect_lte(row$tail_low, 0.025)
  expect_lte(row$tail_high, 0.025)
  expect_lt(row$statistic, row$critical_low)
})

test_that("the null value at the border of the interval is named as open", {
  row <- tidy_row(damage_study(), "ranks")
  expect_identical(row$upper, 0)
  expect_lte(row$p, 0.05)
  expect_identical(row$open_end, "upper")
  expect_match(paste(format(test_difference(damage_study(), "ranks")), collapse = " "), "open at that end")
})

test_that("beyond shifts the null, not the estimate", {
  study <- height_study()
  plain <- tidy_row(study, "ranks")
  beyond <- tidy_row(study, "ranks", beyond = 1)
  expect_identical(plain$estimate, beyond$estimate)
  expect_identical(plain[c("lower", "upper")], beyond[c("lower", "upper")])
  values <- split(seedlings$height, seedlings$substrate)
  gaps <- outer(values$compost[!is.na(values$compost)], values$peat[!is.na(values$peat)], "-")
  expect_identical(beyond$statistic, sum(round(gaps, 1) > 1) + sum(round(gaps, 1) == 1) / 2)
  expect_equal(
    tidy_row(conductance_study(), "signed_ranks", beyond = 10)$p,
    tidy_row(versus_paired(change = conductance$noon - conductance$dawn - 10), "signed_ranks")$p
  )
})

test_that("exact is as declared; the default weighs the cost; insisting says it first or refuses", {
  study <- height_study()
  expect_identical(tidy_row(study, "ranks", exact = FALSE)$p_kind, "asymptotic")
  large <- two_groups(rep(1:500, 4), rep(3:502, 4))
  expect_identical(tidy_row(large, "ranks")$p_kind, "asymptotic")
  expect_error(test_difference(large, "ranks", options = how(exact = TRUE)), class = "vandro_error_exact_cost")
  expect_message(
    expect_identical(choose_exact(list(seconds = 12, bytes = 4e8, possible = TRUE), TRUE, NULL), TRUE),
    class = "vandro_message_cost"
  )
  expect_identical(cost_words(list(seconds = 0.1, bytes = 10)), "less than a second")
  expect_identical(cost_words(list(seconds = 7200, bytes = 1.24e9)), "about 2 hours and 1.2 GB of memory")
})

test_that("zeros are dropped with their count, or kept as Pratt does", {
  study <- versus_paired(moisture, probe_a, probe_b, unit = "%")
  drop <- tidy_row(study, "signed_ranks", zeros = "drop")
  pratt <- tidy_row(study, "signed_ranks")
  expect_identical(drop$zeros, 3)
  expect_identical(drop$statistic + drop$statistic_opposite, 45 * 46 / 2)
  expect_identical(pratt$statistic + pratt$statistic_opposite, 48 * 49 / 2 - 3 * 4 / 2)
  text <- paste(format(test_difference(study, "signed_ranks", options = how(zeros = "drop"))), collapse = " ")
  expect_match(text, "3 pairs have no change and are excluded from W")
})

test_that("the relative effect uses t for groups of ten, assignments for smaller ones", {
  expect_identical(tidy_row(damage_study(), "relative")$p_kind, "asymptotic")
  small <- two_groups(c(1.2, 2.1, 3.4, 4.3, 5.1), c(4.1, 5.2, 6.6, 7.1, 8))
  answer <- test_difference(small, "relative")
  expect_identical(answer$table$p_kind, "exact")
  expect_true(is.na(answer$table$df))
  expect_identical(answer$detail$ranks[[1]]$assignments, 252)
  expect_identical(tidy_row(small, "relative", exact = FALSE)$p_kind, "asymptotic")
  set.seed(2)
  medium <- two_groups(stats::rnorm(9), stats::rnorm(60))
  drawn <- test_difference(medium, "relative", options = how(draws = 999), seed = 4)
  expect_identical(drawn$table$p_kind, "simulated")
  expect_identical(drawn$settings[c("draws", "seed")], list(draws = 999, seed = 4))
  expect_identical(
    drawn$table, test_difference(medium, "relative", options = how(draws = 999, threads = 2), seed = 4)$table
  )
  expect_true(drawn$table$p_simulated_low < drawn$table$p && drawn$table$p < drawn$table$p_simulated_high)
  expect_error(test_difference(medium, "relative", options = how(exact = TRUE)), class = "vandro_error_exact_cost")
  # Two values beside many: too many steps to list, though few assignments; beyond 1e5 values nothing is drawn.
  uneven <- two_groups(stats::rnorm(1500), c(0.1, 2))
  expect_identical(tidy_row(uneven, "relative", draws = 199, seed = 1)$p_kind, "simulated")
  expect_identical(tidy_row(two_groups(stats::rnorm(2e5), 1:9 / 3), "relative")$p_kind, "asymptotic")
})

test_that("separation, ties all over, zeros all over and single values are explained", {
  expect_warning(
    row <- tidy_row(two_groups(1:3, 4:6), c("relative", "ranks")),
    class = "vandro_warning_unattainable"
  )
  expect_identical(row$p, c(0.1, 0.1))
  expect_true(is.na(row$lower[[2]]))
  # Constant, but apart: nothing for means, everything for ranks.
  apart <- tidy_row(two_groups(rep(3, 6), rep(2, 6)), "ranks")
  expect_identical(c(apart$estimate, apart$lower, apart$upper), c(1, 1, 1))
  expect_equal(apart$p, 2 / choose(12, 6))
  expect_error(test_difference(two_groups(c(2, 2), c(2, 2)), "ranks"), class = "vandro_error_no_spread")
  same <- versus_paired(first = c(1, 2, 3), second = c(1, 2, 3))
  expect_error(test_difference(same, "signed_ranks"), class = "vandro_error_all_zero")
  expect_error(test_difference(two_groups(1, c(2, 5, 7)), "relative"), class = "vandro_error_one_value")
  one <- suppressWarnings(tidy_row(two_groups(1, c(2, 5, 7)), "ranks"))
  expect_identical(one$p, 0.5)
  expect_error(versus(first = c(1, Inf), second = c(2, 3)), class = "vandro_error")
})

test_that("published numbers, the other design and idle options are refused", {
  expect_error(test_difference(published_study(), "ranks"), class = "vandro_error_needs_values")
  expect_error(test_difference(height_study(), "signed_ranks"), class = "vandro_error_method_design")
  expect_error(
    test_difference(height_study(), "welch", options = how(exact = TRUE)), class = "vandro_error_contradiction"
  )
  expect_error(
    test_difference(height_study(), "ranks", options = how(zeros = "pratt")), class = "vandro_error_contradiction"
  )
  expect_error(test_difference(height_study(), "ranks", seed = 1), class = "vandro_error_contradiction")
  expect_error(
    test_difference(conductance_study(), "signed_ranks", options = how(zeros = "split")),
    class = "vandro_error_bad_value"
  )
})

test_that("nothing in the words takes the test for one of medians", {
  texts <- c(
    format(test_difference(damage_study(), c("ranks", "relative"))),
    format(test_difference(conductance_study(), "signed_ranks")),
    narrate(test_difference(damage_study(), "ranks")), narrate(damage_study(), method = "relative", voice = "plain"),
    narrate(conductance_study(), method = "signed_ranks")
  )
  expect_false(any(grepl("medians (are|differ|were)|difference of medians|df", texts)))
})

test_that("the printed result is as it was approved", {
  expect_snapshot({
    test_difference(damage_study(), c("ranks", "relative"))
    test_difference(conductance_study(), "signed_ranks", expect = "higher", reason = "stomata open by day")
    test_difference(height_study(), "relative")
    narrate(test_difference(damage_study(), "ranks"))
    narrate(damage_study(), method = "ranks", voice = "plain")
    narrate(conductance_study(), method = "signed_ranks")
    narrate(height_study(), method = "relative")
  })
  small <- two_groups(c(1.2, 2.1, 3.4), c(4.1, 5.2, 6.6))
  expect_snapshot({
    suppressWarnings(test_difference(small, c("ranks", "relative")))
    suppressWarnings(narrate(small, method = "ranks"))
  })
})

test_that("a shifted question changes the words, not the side of the samples", {
  answer <- test_difference(height_study(), "ranks", beyond = 5)
  expect_lt(answer$table$z, 0)
  expect_match(narrate(answer), "Stem height tended to be higher in the compost group")
  expect_match(narrate(answer), "is higher than one in the peat group by more than 5 cm")
  expect_match(paste(format(answer), collapse = " "), "compost +is +higher +by +more +than +5 cm")
  relative <- narrate(test_difference(height_study(), "relative", beyond = 5), voice = "plain")
  expect_match(relative, "tended to be lower in the compost group \\(less 5 cm\\) than in the peat group")
  figure <- autoplot(test_difference(height_study(), "ranks", beyond = 5), view = "superiority")
  expect_match(figure$labels$alt, "compost higher by more than 5 cm in")
})

test_that("complete separation is flagged", {
  expect_match(format(test_difference(two_groups(11:16, 1:6), "ranks")), "Complete separation: every value of compost",
    all = FALSE
  )
  up <- versus_paired(first = 11:17, second = c(1, 3, 2, 5, 4, 8, 1))
  expect_match(format(test_difference(up, "signed_ranks")), "every change is above 0", all = FALSE)
})

test_that("a test whose smallest p is alpha itself can decide", {
  groups <- versus(first = c(4, 5, 6), second = c(1, 2, 3), groups = c("compost", "peat"))
  pairs <- versus_paired(change = c(1, 2, 3, 4.5), groups = c("noon", "dawn"))
  asked <- list(
    list(groups, "ranks", 0.05, "higher"), list(groups, "permutation", 0.05, "higher"),
    list(groups, "ranks", 0.1, "either"),
    list(groups, "relative", 0.05, "higher"), list(groups, "permutation", 0.1, "either"),
    list(pairs, "signed_ranks", 0.125, "either"), list(pairs, "permutation", 0.125, "either")
  )
  for (one in asked) {
    expect_no_warning(answer <- test_difference(one[[1]], one[[2]], alpha = one[[3]], expect = one[[4]]))
    expect_identical(c(answer$table$p, answer$table$p_smallest), rep(one[[3]], 2))
    expect_no_match(paste(format(answer, width = 500), collapse = " "), "cannot reach significance")
  }
  checked <- cross_check(pairs, alpha = 0.125)
  expect_no_match(paste(format(checked, width = 500), collapse = " "), "cannot get below")
})

test_that("assignments are never called exact for a chance of one half", {
  small <- versus(first = 101:103, second = 1:30, groups = c("compost", "peat"))
  said <- paste(format(test_difference(small, "relative"), width = 500, details = TRUE), collapse = " ")
  expect_match(said, "H0 +the populations of compost and peat have the same distribution")
  expect_match(said, "As a test of a probability of 0.5 it is an approximation")
})
