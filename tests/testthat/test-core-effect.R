test_that("limits of the noncentrality agree with high-precision values", {
  # Made by validation/noncentral_t_reference.py in 30-digit arithmetic.
  reference <- utils::read.csv(test_path("reference", "noncentral_t.csv"))
  expect_gt(nrow(reference), 100)
  for (level in unique(reference$level)) {
    rows <- reference[reference$level == level, ]
    got <- core_ncp_limits(rows$t, rows$df, level)
    expect_relative(got$lower, rows$lower, 1e-10)
    expect_relative(got$upper, rows$upper, 1e-10)
    mirrored <- core_ncp_limits(-rows$t, rows$df, level)
    expect_identical(mirrored$lower, -got$upper)
  }
})

test_that("the small-sample factor equals its closed form and its series", {
  # J(7) = gamma(7/2) / (sqrt(7/2) gamma(3)) with gamma(7/2) = 15 sqrt(pi) / 8.
  expect_relative(core_hedges_factor(7), 15 * sqrt(pi) / 8 / (sqrt(3.5) * 2), 1e-14)
  # gamma(1/2) / (sqrt(1) gamma(1/2)) at df = 2 has gamma(1) / gamma(1/2).
  expect_relative(core_hedges_factor(2), 1 / sqrt(pi), 1e-14)
  # Large df: J = 1 - 3/(4 df) - 7/(32 df^2) - ... , exact to 1e-20 at 1e7.
  expect_relative(1 - core_hedges_factor(1e7), 3 / 4e7 + 7 / 32e14, 1e-8)
})

test_that("d and g follow the formulas, sign included", {
  # 1..5 against 2, 4, 6, 8: pooled variance (10 + 20) / 7.
  m <- group_moments(1:5 + 0, c(2, 4, 6, 8))
  d <- core_d_pooled(m[[1]], m[[2]], 0.95)
  expect_relative(d$estimate, -2 / sqrt(30 / 7), 1e-14)
  expect_identical(d$df, 7)
  expect_true(d$lower < d$estimate && d$estimate < d$upper)
  swapped <- core_d_pooled(m[[2]], m[[1]], 0.95)
  expect_relative(swapped$lower, -d$upper, 1e-13)
  g <- core_g(d)
  expect_relative(c(g$estimate, g$lower, g$upper), c(d$estimate, d$lower, d$upper) * g$factor, 1e-15)
})

test_that("an exact interval excludes zero exactly when Student's p says so", {
  set.seed(9)
  for (i in 1:100) {
    a <- core_summary_moments(sample(2:40, 1), rnorm(1), 1 + runif(1))
    b <- core_summary_moments(sample(2:40, 1), rnorm(1), 1 + runif(1))
    d <- core_d_pooled(a, b, 0.9)
    t <- d$estimate * sqrt(a$n * b$n / (a$n + b$n))
    expect_identical(2 * stats::pt(-abs(t), d$df) < 0.1, d$lower > 0 || d$upper < 0)
  }
})

test_that("an exact interval covers the true effect as often as it says", {
  set.seed(77)
  a <- matrix(rnorm(5 * 2000, 0.8), 5)
  b <- matrix(rnorm(8 * 2000), 8)
  held <- vapply(1:2000, function(i) {
    m <- group_moments(a[, i], b[, i])
    d <- core_d_pooled(m[[1]], m[[2]], 0.9)
    d$lower <= 0.8 && 0.8 <= d$upper
  }, NA)
  # Binomial: 0.9 -/+ 4 standard errors.
  expect_lt(abs(mean(held) - 0.9), 4 * sqrt(0.09 / 2000))
})

test_that("what has no standardized effect has a reason", {
  flat <- core_summary_moments(3, 1, 0)
  expect_identical(core_d_pooled(flat, flat, 0.95)$reason, "no_spread")
  one <- core_summary_moments(1, 1, NA_real_)
  expect_identical(core_d_pooled(one, one, 0.95)$reason, "one_value")
})

test_that("d of changes is their mean over their SD, with the limits of the paired t", {
  change <- core_summary_moments(9, 2, 4)
  d <- core_d_change(change, 0.95)
  expect_identical(d$estimate, 0.5)
  limits <- core_ncp_limits(1.5, 8, 0.95)
  expect_relative(c(d$lower, d$upper), c(limits$lower, limits$upper) / 3, 1e-15)
  expect_identical(core_d_change(core_summary_moments(4, 1, 0), 0.95)$reason, "no_spread")
  expect_identical(core_d_change(core_summary_moments(1, 1, NA_real_), 0.95)$reason, "one_value")
})
