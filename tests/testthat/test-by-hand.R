# Toy data solved with algebra; vignette("validation") shows the same numbers with their derivation.

three <- c(3, 5, 7)
other <- c(1, 2, 3)
study <- versus(first = three, second = other, groups = c("bare", "sown"))
row_of <- function(...) as.list(suppressWarnings(quiet(flatly(test_difference, ...)))$table)

# P(|T| > t) on 2 and 4 degrees of freedom: the integrals are elementary.
two_df <- function(t) 1 - t / sqrt(2 + t^2)
four_df <- function(t) {
  s <- t / sqrt(4 + t^2)
  1 - s * (1 + (1 - s^2) / 2)
}

test_that("Student and Welch: means 5 and 2, variances 4 and 1", {
  student <- row_of(study, "student")
  expect_relative(student$estimate, 3, 1e-15)
  expect_relative(student$se, sqrt(5 / 3), 1e-15)
  expect_relative(student$statistic^2, 27 / 5, 1e-14)
  expect_relative(student$p, 1 - sqrt(27 / 47) * 57 / 47, 1e-13)
  expect_relative(student$p, four_df(3 * sqrt(3 / 5)), 1e-13)
  welch <- row_of(study, "welch")
  expect_relative(welch$se, sqrt(5 / 3), 1e-15)
  expect_relative(welch$df, 50 / 17, 1e-14)
})

test_that("the directional p is half the two-sided one, and 1 less that on the other side", {
  higher <- row_of(study, "student", expect = "higher")
  lower <- row_of(study, "student", expect = "lower")
  expect_relative(higher$p, four_df(3 * sqrt(3 / 5)) / 2, 1e-13)
  expect_relative(lower$p, 1 - higher$p, 1e-14)
})

test_that("equivalence within 6: t of 9 and 3 standard errors", {
  found <- quiet(test_equivalence(study, 6, "student"))$table
  expect_relative(found$p_low, four_df(9 / sqrt(5 / 3)) / 2, 1e-12)
  expect_relative(found$p_high, four_df(3 / sqrt(5 / 3)) / 2, 1e-12)
})

test_that("effect sizes: pooled variance 5/2, J(4) = sqrt(2 / pi)", {
  found <- gauge_effect(study, c("d_pooled", "g", "d_average", "d_by_first", "mean_ratio"))$table
  d <- 3 / sqrt(5 / 2)
  expect_relative(found$estimate, c(5 / 2, d, d * sqrt(2 / pi), d, 3 / 2)[match(
    found$estimand, c("mean_ratio", "d_pooled", "g", "d_average", "d_by_first")
  )], 1e-14)
  bonett <- found[found$estimand == "d_average", ]
  variance <- (8 / 5 + 2 / 5) / 2 + d^2 / 8 * (64 / 25 + 4 / 25) / 2
  expect_relative(bonett$upper - bonett$lower, 2 * stats::qnorm(0.975) * sqrt(variance), 1e-13)
})

test_that("ranks and reassignments: two of twenty are as far out", {
  ranks <- row_of(study, "ranks")
  expect_identical(ranks[c("statistic", "p", "estimate")], list(statistic = 8.5, p = 0.2, estimate = 3))
  expect_relative(ranks$superiority, 17 / 18, 1e-15)
  permuted <- row_of(study, "permutation", statistic = "difference")
  expect_identical(permuted$p, 0.2)
  expect_identical(permuted$assignments, 20)
})

test_that("changes 1, 2, 3: t = 2 sqrt(3), all eight signs", {
  pairs <- versus_paired(data.frame(noon = c(4, 6, 9), dawn = c(3, 4, 6)), noon, dawn)
  paired <- row_of(pairs, "paired")
  expect_relative(paired$statistic, 2 * sqrt(3), 1e-15)
  expect_relative(paired$p, two_df(2 * sqrt(3)), 1e-13)
  expect_relative(paired$p, 1 - sqrt(6 / 7), 1e-13)
  # t with tail 1/40 to either side: 1 - t / sqrt(2 + t^2) = 1/20.
  expect_relative(paired$upper, 2 + sqrt(2 * 0.95^2 / (1 - 0.95^2)) / sqrt(3), 1e-13)
  signed <- row_of(pairs, "signed_ranks")
  expect_identical(signed[c("statistic", "p", "estimate")], list(statistic = 6, p = 0.25, estimate = 2))
  expect_identical(row_of(pairs, "permutation")$p, 0.25)
  expect_relative(gauge_effect(pairs, "g_change")$table$estimate, 2 / sqrt(pi), 1e-14)
})

test_that("checks: both deviations from the median are 2, 0, 2 and 1, 0, 1", {
  checks <- vet_assumptions(study)$table
  deviations <- checks[checks$check == "deviations", ]
  # Means 4/3 and 2/3, variances 4/3 and 1/3: F = (2/3)^2 / (5/9).
  expect_relative(deviations$statistic, 4 / 5, 1e-14)
  expect_relative(deviations$p, four_df(sqrt(4 / 5)), 1e-13)
  ratio <- checks[checks$check == "sd_ratio", ]
  expect_relative(ratio$estimate, 2, 1e-15)
  # F on 2 and 2 degrees of freedom: P(F > f) = 1 / (1 + f), so that its quantile at 1/40 is 39.
  expect_relative(c(ratio$lower, ratio$upper), 2 * c(1, 39) / sqrt(39), 1e-12)
  expect_relative(checks$p[checks$check == "f_ratio"], 2 / 5, 1e-13)
})
