# Everything a bootstrap does, by brute force in R.
set.seed(8)
a <- rexp(9) + 3
b <- rexp(14) * 2
groups <- list(core_bootstrap_sample(a), core_bootstrap_sample(b))
parts <- core_effect_parts(group_moments(a, b))
halves <- list(core_bootstrap_sample(a), core_bootstrap_sample(b[1:9]))
pairs <- core_pair_moments(a, b[1:9])
paired <- core_effect_parts(pairs$moments, pairs$r)

test_that("a sample is centred and scaled and can be brought back", {
  s <- groups[[1]]
  expect_relative(s$values * s$scale + s$centre, a, 1e-14)
  expect_lt(abs(mean(s$values)), 1e-15)
  expect_identical(core_bootstrap_sample(c(2, 2))$scale, 1)
})

test_that("draws are those of their seed and number, whatever the threads and steps", {
  all <- core_bootstrap_parts(groups, parts, FALSE, 5, 0, 300, 1L)
  expect_identical(core_bootstrap_parts(groups, parts, FALSE, 5, 0, 300, 2L), all)
  late <- core_bootstrap_parts(groups, parts, FALSE, 5, 200, 300, 1L)
  expect_identical(late$gap, all$gap[201:300])
  expect_false(any(all$gap == core_bootstrap_parts(groups, parts, FALSE, 6, 0, 300, 1L)$gap))
})

test_that("drawn moments spread as theory says", {
  drawn <- core_bootstrap_parts(groups, parts, FALSE, 5, 0, 20000, 1L)
  # A mean of n draws has variance sum((x - m)^2) / n^2.
  theory <- sum((a - mean(a))^2) / 81
  expect_relative(stats::var(drawn$mean_first), theory, 0.05)
  expect_relative(mean(drawn$mean_second), mean(b), 0.01)
  expect_relative(mean(drawn$sd_first^2), stats::var(a) * 8 / 9, 0.02)
  both <- core_bootstrap_parts(halves, paired, TRUE, 5, 0, 20000, 1L)
  expect_relative(mean(both$sd_change^2), stats::var(a - b[1:9]) * 8 / 9, 0.02)
  expect_relative(both$gap, both$mean_first - both$mean_second, 1e-10)
})

test_that("draws have the distribution found by enumeration", {
  # All 27 x 27 ways to draw from three and three values.
  x <- c(1, 2, 4)
  y <- c(0, 3, 5)
  ways <- as.matrix(expand.grid(1:3, 1:3, 1:3))
  effect <- function(a, b) {
    core_effect_point("d_average", core_effect_parts(group_moments(a, b)))
  }
  exact <- unlist(lapply(1:27, function(i) vapply(1:27, function(j) effect(x[ways[i, ]], y[ways[j, ]]), 0)))
  both <- list(core_bootstrap_sample(x), core_bootstrap_sample(y))
  drawn <- core_bootstrap_parts(both, core_effect_parts(group_moments(x, y)), FALSE, 3, 0, 40000, 1L)
  got <- core_effect_point("d_average", drawn)
  known <- is.finite(exact)
  # Nine of 729 ways have no spread at all; the same share of draws is infinite or undefined.
  expect_lt(abs(mean(is.finite(got)) - mean(known)), 0.003)
  for (at in c(-3, -1, -0.4, 0, 0.2, 0.9)) {
    # Between the values that occur, so that rounding does not matter.
    at <- at + 1e-4
    expect_lt(abs(mean(got[is.finite(got)] < at) - mean(exact[known] < at)), 0.012)
  }
})

test_that("SD of the changes and correlation come from variances and covariance", {
  x <- a / 2
  y <- b[1:9] / 3
  got <- core_with_covariance(list(), stats::var(x), stats::var(y), stats::cov(x, y), 2, 3)
  expect_relative(got$sd_change, sqrt(stats::var(a - b[1:9])), 1e-13)
  expect_relative(got$r, stats::cor(a, b[1:9]), 1e-13)
})

test_that("the jackknife leaves one out at a time", {
  found <- core_jackknife_parts(groups, parts, FALSE)
  expect_identical(found$group, rep(1:2, c(9, 14)))
  by_hand <- function(i) {
    if (i <= 9) core_effect_parts(group_moments(a[-i], b)) else core_effect_parts(group_moments(a, b[-(i - 9)]))
  }
  for (estimand in c("mean_difference", "mean_ratio", "d_average", "d_by_first")) {
    expected <- vapply(1:23, function(i) core_effect_point(estimand, by_hand(i)), 0)
    expect_relative(core_effect_point(estimand, found$parts), expected, 1e-11)
  }
  scales <- c(halves[[1]]$scale, halves[[2]]$scale)
  rest <- function(s) list(rest = s$values - mean(s$values), n = 9)
  piece <- function(s) {
    x <- s$values - mean(s$values)
    list(n = 9, rest = x, shift = -x / 8, var_without = (sum(x^2) - x^2 * 9 / 8) / 7)
  }
  without <- core_jackknife_pairs(piece(halves[[1]]), piece(halves[[2]]), scales, paired)
  for (estimand in c("mean_difference", "mean_ratio", "d_average", "d_by_second", "d_change", "d_repeated")) {
    expected <- vapply(1:9, function(i) {
      m <- core_pair_moments(a[-i], b[1:9][-i])
      core_effect_point(estimand, core_effect_parts(m$moments, m$r))
    }, 0)
    expect_relative(core_effect_point(estimand, without$parts), expected, 1e-11)
  }
  expect_identical(core_jackknife_parts(halves, paired, TRUE)$group, rep(1, 9))
})

test_that("the acceleration of a mean is its skewness over 6 sqrt(n)", {
  # Efron (1987, eq. 7.3 and after): a = skewness / (6 sqrt(n)) with the moment estimate of skewness.
  leave_out <- vapply(1:9, function(i) mean(a[-i]), 0)
  g1 <- mean((a - mean(a))^3) / mean((a - mean(a))^2)^1.5
  expect_relative(core_acceleration(leave_out, rep(1, 9)), g1 / (6 * 3), 1e-12)
  expect_identical(core_acceleration(rep(1, 4), rep(1, 4)), 0)
})

test_that("limits are the corrected quantiles of the draws", {
  draws <- as.numeric(1:999)
  # No bias, no acceleration: plain percentiles.
  plain <- core_bca_limits(500, draws, rep(1, 5), rep(1, 5), 0.9)
  expect_relative(c(plain$lower, plain$upper), c(50, 950), 1e-12)
  # Bias: with a share of 0.6 below the estimate the tails move by twice its probit.
  biased <- core_bca_limits(600.2, draws, rep(1, 5), rep(1, 5), 0.9)
  z <- stats::qnorm(600 / 999)
  at <- stats::pnorm(2 * z + stats::qnorm(c(0.05, 0.95)))
  expect_relative(c(biased$lower, biased$upper), 1000 * at, 1e-10)
  # The outermost draws are the last that can be limits.
  expect_relative(core_bca_limits(500, draws, rep(1, 5), rep(1, 5), 1 - 2 * 1.0001e-3)$lower, 1.0001, 1e-9)
  expect_identical(core_bca_limits(500, draws, rep(1, 5), rep(1, 5), 1 - 2 * 0.9999e-3)$reason, "no_bootstrap")
  expect_identical(core_bca_limits(5000, draws, rep(1, 5), rep(1, 5), 0.9)$reason, "no_bootstrap")
  # One value in twenty far from the others: an acceleration that no level can bear.
  expect_identical(core_bca_limits(500, draws, c(-1e3, rep(0, 3)), rep(1, 4), 1 - 1e-9)$reason, "no_bootstrap")
  expect_identical(core_bca_limits(1, c(1, 1, NA), rep(NA_real_, 3), rep(1, 3), 0.9)$reason, "no_bootstrap")
  expect_identical(core_bca_limits(1, draws, c(Inf, rep(0, 4)), rep(1, 5), 0.9)$reason, "no_bootstrap")
  expect_identical(core_bca_limits(500, draws[1:100] * 9, rep(1, 5), rep(1, 5), 0.999)$reason, "no_bootstrap")
})

test_that("intervals of a skewed mean cover better than without corrections", {
  set.seed(4)
  held <- replicate(400, {
    x <- rexp(40)
    y <- rexp(40)
    both <- list(core_bootstrap_sample(x), core_bootstrap_sample(y))
    p <- core_effect_parts(group_moments(x, y))
    drawn <- core_bootstrap_parts(both, p, FALSE, sample(1e6, 1), 0, 999, 1L)
    without <- core_jackknife_parts(both, p, FALSE)
    limits <- core_bca_limits(
      p$mean_first / p$mean_second, core_effect_point("mean_ratio", drawn),
      core_effect_point("mean_ratio", without$parts), without$group, 0.9
    )
    limits$lower <= 1 && 1 <= limits$upper
  })
  expect_lt(abs(mean(held) - 0.9), 0.06)
})
