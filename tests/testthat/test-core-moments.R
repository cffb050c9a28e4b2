naive <- function(x) {
  d <- x - x[[1]]
  d <- d - mean(d)
  list(mean = x[[1]] + mean(x - x[[1]]), sd = sqrt(sum(d^2) / (length(x) - 1)))
}

test_that("moments equal the textbook formulas, group by group", {
  for (name in setdiff(names(zoo), c("tiny", "huge"))) {
    x <- zoo[[name]]
    codes <- rep(c(4L, 9L), c(length(x), length(zoo$ties)))
    got <- core_group_moments(c(x, zoo$ties), codes, 4L, 9L)
    expect_equal(got[[1]]$n, length(x))
    expect_relative(got[[1]]$mean, naive(x)$mean, 1e-14)
    expect_relative(got[[1]]$sd, naive(x)$sd, 1e-13)
    expect_equal(c(got[[1]]$min, got[[1]]$max), range(x))
    expect_relative(got[[2]]$sd, naive(zoo$ties)$sd, 1e-14)
  }
})

test_that("magnitude changes nothing but the unit", {
  small <- group_moments(zoo$tiny, zoo$huge)
  expect_relative(small[[1]]$sd * 1e160, small[[2]]$sd / 1e160, 1e-13)
  expect_relative(small[[1]]$skewness, small[[2]]$skewness, 1e-13)
})

test_that("skewness and kurtosis agree with hand-worked values", {
  # x = 1, 1, 4: m2 = 6, m3 = 6, so g1 = sqrt(3) 6 / 6^1.5 = 1/sqrt(2), G1 = g1 sqrt(6) = sqrt(3).
  expect_relative(core_skewness(3, 6, 6), sqrt(3), 1e-15)
  # x = 0, 0, 1, 1: m2 = 1, m4 = 1/4, g2 = 4/4 - 3 = -2, G2 = 3 / (2 * 1) (5 * -2 + 6) = -6.
  expect_relative(core_kurtosis(4, 1, 1 / 4), -6, 1e-15)
  expect_missing(core_skewness(2, 1, 0))
  expect_missing(core_kurtosis(3, 1, 1))
  expect_missing(core_skewness(5, 0, 0))
})

test_that("finished moments of nothing and of one value are NA, not NaN", {
  empty <- core_finish_moments(list(
    n = 0, missing = 2, base = 0, scale = 1, mean = 0, m2 = 0, m3 = 0, m4 = 0, min = Inf, max = -Inf
  ))
  expect_missing(empty$mean)
  expect_missing(empty$min)
  expect_missing(group_moments(4, c(1, 2))[[1]]$sd)
})

test_that("a gap of means survives an offset that its means do not", {
  a <- group_moments(1e12 + c(1, 2, 3), 1e12 + c(1.5, 2.5, 3.5))
  expect_identical(core_mean_gap(a[[1]], a[[2]]), -0.5)
})

test_that("pooled SD is the hand formula at every magnitude", {
  a <- core_summary_moments(5, 0, 3)
  b <- core_summary_moments(9, 0, 4)
  expect_relative(core_pooled_sd(a, b), sqrt((4 * 9 + 8 * 16) / 12), 1e-15)
  big <- core_pooled_sd(core_summary_moments(5, 0, 3e200), core_summary_moments(9, 0, 4e200))
  expect_relative(big, core_pooled_sd(a, b) * 1e200, 1e-14)
  expect_identical(core_pooled_sd(core_summary_moments(2, 1, 0), core_summary_moments(2, 1, 0)), 0)
})

test_that("the interval of a mean is mean -/+ t SE, and there is none for one value", {
  # n = 2: t with one degree of freedom is Cauchy, its 97.5 % point tan(0.475 pi).
  got <- core_mean_interval(core_summary_moments(2, 10, sqrt(2)), 0.95)
  expect_relative(got$upper, 10 + tan(0.475 * pi), 1e-12)
  expect_relative(got$se, 1, 1e-15)
  expect_missing(core_mean_interval(core_summary_moments(1, 10, NA_real_), 0.95)$lower)
})

test_that("one sample, two groups and frequency data share their numbers", {
  x <- c(2.5, NA, 7, 7, 1)
  alone <- core_sample_moments(x)
  expect_identical(alone$n, 4)
  expect_identical(alone$missing, 1)
  grouped <- core_group_moments(c(x, 3, 4), rep(1:2, c(5, 2)), 1L, 2L)[[1]]
  expect_equal(alone, grouped)
  counted <- core_counted_moments(c(2.5, NA, 7, 1, 9), c(1, 1, 2, 1, 0), rep(1L, 5), 1L, 2L)[[1]]
  expect_identical(counted, core_group_moments(x, rep(1L, 5), 1L, 2L)[[1]])
})

test_that("pairs: changes, correlation and counts, over complete pairs", {
  got <- core_pair_moments(c(3, 5, NA, 2, 7), c(1, 5, 4, NA, 9))
  expect_identical(vapply(got$moments, `[[`, 0, "n"), c(3, 3, 3))
  expect_identical(got$moments[[3]]$mean, 0)
  # Deviations -2, 0, 2 and -4, 0, 4: r = 16 / sqrt(8 * 32).
  expect_relative(got$r, 1, 1e-15)
  expect_identical(c(got$up, got$down, got$same), c(1, 1, 1))
  rows <- core_row_correlation(c(3, 5, NA, 2, 7), c(1, 5, 4, NA, 9))
  expect_identical(rows, list(r = got$r, n = 3))
  expect_identical(core_correlation(3, 4, 9), 0.5)
  expect_missing(core_correlation(0, 0, 9))
  # The square of sqrt(2) is more than 2: rounding must not lead beyond 1.
  past <- 2 * (1 + 2^-51)
  expect_gt(past / (sqrt(2) * sqrt(2)), 1)
  expect_identical(c(core_correlation(past, 2, 2), core_correlation(-past, 2, 2)), c(1, -1))
})

test_that("SD of changes and correlation are each other's inverse, also near r = 1", {
  expect_relative(core_change_sd(c(3, 4), 0.5), sqrt(13), 1e-15)
  expect_relative(core_change_sd(c(3e200, 4e200), 0.5), sqrt(13) * 1e200, 1e-14)
  expect_identical(core_change_sd(c(2, 2), 1), 0)
  expect_identical(core_change_sd(c(0, 0), 0), 0)
  for (r in c(-1, -0.3, 0, 0.62, 0.999)) {
    expect_equal(core_r_from_sds(c(41, 36), core_change_sd(c(41, 36), r)), r, tolerance = 1e-12)
    expect_equal(core_r_from_sds(c(36, 41), core_change_sd(c(36, 41), r)), r, tolerance = 1e-12)
  }
})

test_that("SDs come out of standard errors and intervals", {
  expect_identical(core_sd_from_se(0.5, 16), 2)
  m <- core_summary_moments(2, 10, sqrt(2))
  i <- core_mean_interval(m, 0.9)
  expect_relative(core_sd_from_interval(i$lower, i$upper, 2, 0.9), sqrt(2), 1e-12)
  expect_identical(c(m$base, m$rest), c(10, 0))
  expect_identical(core_unknown_moments(7)[c("n", "rest")], list(n = 7, rest = 0))
  expect_missing(core_unknown_moments(7)$mean)
})

test_that("many columns at once are each alone, and lists and vectors of moments are the same numbers", {
  set.seed(3)
  columns <- list(rnorm(40), c(NA, 1:39), rep(2, 40), c(1e200, rnorm(39)) * 1e100)
  codes <- rep(c(1L, 2L, 3L, 1L), 10)
  many <- core_group_moments_many(columns, codes, 1L, 2L)
  expect_identical(many, lapply(columns, core_group_moments, codes, 1L, 2L))
  joined <- core_join_moments(many)
  expect_identical(joined[[2]]$sd, vapply(many, function(m) m[[2]]$sd, 0))
  expect_identical(core_split_moments(joined[[1]]), lapply(many, `[[`, 1))
  expect_error(native_join_moments(list(many[[1]], list(list(n = 1), list(n = 2)))), "differ")
})
