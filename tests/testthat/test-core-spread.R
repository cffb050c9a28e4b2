test_that("the interval of an SD is the chi-square one", {
  expect_relative(core_sd_interval(10, 2, 0.95), 2 * sqrt(9 / stats::qchisq(c(0.975, 0.025), 9)), 1e-14)
  # The square of one normal value: its quantiles are those of |z|.
  expect_relative(core_sd_interval(2, 1, 0.95), 1 / stats::qnorm(c(0.9875, 0.5125)), 1e-12)
  expect_identical(core_sd_interval(1, NA, 0.95), c(NA_real_, NA_real_))
})

test_that("the F ratio is the ratio of variances with both tails", {
  a <- core_summary_moments(10, 0, 3)
  b <- core_summary_moments(16, 0, 2)
  found <- core_variance_ratio(a, b, 0.95)
  expect_relative(found$statistic, 2.25, 1e-15)
  expect_relative(exp(found$log_p), 2 * stats::pf(2.25, 9, 15, lower.tail = FALSE), 1e-12)
  # p and interval decide alike.
  at_p <- core_variance_ratio(a, b, 1 - exp(found$log_p))
  expect_relative(at_p$lower, 1, 1e-8)
  other <- core_variance_ratio(b, a, 0.95)
  expect_relative(c(other$lower, other$upper), 1 / c(found$upper, found$lower), 1e-13)
  expect_identical(core_variance_ratio(a, core_summary_moments(5, 1, 0), 0.95)$reason, "no_spread")
  expect_identical(core_variance_ratio(a, core_summary_moments(1, 1, NA), 0.95)$reason, "one_value")
})

test_that("tails of F have a size below the smallest double", {
  # With an even number of degrees of freedom the incomplete beta function is a finite sum.
  finite <- function(f, df, df_second) {
    a <- df_second / 2
    j <- seq_len(df / 2) - 1
    x <- -log1p(f * df / df_second)
    y <- -log1p(df_second / df / f)
    terms <- lgamma(a + j) - lgamma(a) - lgamma(j + 1) + j * y
    a * x + max(terms) + log(sum(exp(terms - max(terms))))
  }
  for (df in c(2, 4, 30, 80)) for (df_second in c(3, 50, 1e6)) for (f in c(3, 30, 400, 1e10, 1e200)) {
    expect_relative(core_f_log_tail(f, df, df_second, FALSE), finite(f, df, df_second), 1e-9)
    expect_relative(core_f_log_tail(1 / f, df_second, df, TRUE), finite(f, df, df_second), 1e-9)
  }
  expect_lt(core_f_log_tail(400, 80, 1e6, FALSE), -15000)
  expect_identical(core_f_log_tail(400, 80, 1e6, TRUE), 0)
  expect_relative(core_f_log_tail(0.5, 7, 9, FALSE), stats::pf(0.5, 7, 9, lower.tail = FALSE, log.p = TRUE), 1e-14)
  expect_identical(core_f_log_tail(0, 7, 9, FALSE), 0)
  # 1e8 * 1e302 has no double; the tail is 1 - (1 - 2e-310)^5e7.
  expect_relative(core_f_log_tail(1e302, 1e8, 2, FALSE), -log(1e302), 1e-12)
  # Where both ways have an answer, they agree.
  for (x in c(1e-10, 0.1, 0.2)) {
    front <- 20 * log(x) + 30 * log1p(-x) - lbeta(20, 30) - log(20)
    expect_relative(
      front + log(core_beta_fraction(x, 20, 30)), stats::pbeta(x, 20, 30, log.p = TRUE), 1e-13
    )
  }
  many <- core_variance_ratio(core_summary_moments(30, 0, 40), core_summary_moments(1e6, 0, 1), 0.95)
  expect_lt(many$log_p, -2e4)
  expect_true(is.finite(many$log_p))
})

test_that("spreads of pairs are compared by the correlation of sums and differences", {
  set.seed(1)
  x <- rnorm(15)
  y <- 0.5 * x + rnorm(15)
  m <- core_pair_moments(x, y)
  found <- core_paired_variance_ratio(m$moments[[1]], m$moments[[2]], m$r, 0.95)
  r <- stats::cor(x + y, x - y)
  expect_relative(found$statistic, r * sqrt(13 / (1 - r^2)), 1e-12)
  at_p <- core_paired_variance_ratio(m$moments[[1]], m$moments[[2]], m$r, 1 - exp(found$log_p))
  expect_lt(min(abs(log(c(at_p$lower, at_p$upper)))), 1e-8)
  # Three pairs leave one degree of freedom, a Cauchy distribution.
  of <- function(n, sd) core_summary_moments(n, 0, sd)
  three <- core_paired_variance_ratio(of(3, 2), of(3, 1), 0.6, 0.95)
  expect_relative(three$statistic, 1.5 / 1.6, 1e-14)
  expect_relative(exp(three$log_p), 1 - 2 * atan(1.5 / 1.6) / pi, 1e-13)
  expect_identical(core_paired_variance_ratio(of(2, 2), of(2, 1), 0.6, 0.95)$reason, "one_value")
  expect_identical(core_paired_variance_ratio(m$moments[[1]], m$moments[[2]], NA, 0.95)$reason, "no_correlation")
  expect_identical(core_paired_variance_ratio(m$moments[[1]], m$moments[[2]], 1, 0.95)$reason, "no_spread")
})

test_that("the deviation test is the one-way F of the absolute deviations", {
  first <- c(3, 5, 9, 4, 4)
  second <- c(10, 2, 7, 1)
  for (centre in list(stats::median, mean)) {
    found <- core_deviation_test(first, second, identical(centre, stats::median))
    deviation <- c(abs(first - centre(first)), abs(second - centre(second)))
    group <- factor(rep(1:2, c(5, 4)))
    expect_relative(found$statistic, stats::anova(stats::lm(deviation ~ group))[1, "F value"], 1e-12)
    expect_relative(exp(found$log_p), stats::anova(stats::lm(deviation ~ group))[1, "Pr(>F)"], 1e-10)
  }
  expect_identical(core_deviation_test(c(1, 3), c(2, 4), TRUE)$reason, "no_spread")
})

test_that("the median-centred test keeps its level where the mean-centred one does not", {
  set.seed(12)
  rejected <- rowMeans(replicate(1500, {
    x <- rexp(15)
    y <- rexp(15)
    c(
      core_deviation_test(x, y, TRUE)$log_p < log(0.05),
      core_deviation_test(x, y, FALSE)$log_p < log(0.05)
    )
  }))
  expect_lt(rejected[[1]], 0.065)
  expect_gt(rejected[[2]], 0.09)
})

test_that("true error rates agree with simulation, and Student's is exact with equal spread", {
  expect_relative(core_true_size("student", 7, 31, 1, 0.05), 0.05, 1e-8)
  set.seed(13)
  times <- 20000
  for (case in list(c(8, 30, 2), c(30, 8, 2), c(5, 5, 0.25))) {
    n <- case[1:2]
    ratio <- case[[3]]
    gap <- rnorm(times, 0, sqrt(ratio^2 / n[[1]] + 1 / n[[2]]))
    v <- cbind(ratio^2 * rchisq(times, n[[1]] - 1) / (n[[1]] - 1), rchisq(times, n[[2]] - 1) / (n[[2]] - 1))
    pooled <- ((n[[1]] - 1) * v[, 1] + (n[[2]] - 1) * v[, 2]) / (sum(n) - 2)
    student <- 2 * stats::pt(-abs(gap) / sqrt(pooled * sum(1 / n)), sum(n) - 2)
    part <- cbind(v[, 1] / n[[1]], v[, 2] / n[[2]])
    df <- rowSums(part)^2 / (part[, 1]^2 / (n[[1]] - 1) + part[, 2]^2 / (n[[2]] - 1))
    welch <- 2 * stats::pt(-abs(gap) / sqrt(rowSums(part)), df)
    expect_lt(abs(core_true_size("student", n[[1]], n[[2]], ratio, 0.05) - mean(student < 0.05)), 0.01)
    expect_lt(abs(core_true_size("welch", n[[1]], n[[2]], ratio, 0.05) - mean(welch < 0.05)), 0.007)
  }
  for (n in c(2, 1e6)) expect_true(is.finite(core_true_size("welch", n, 2, 1e-8, 0.05)))
  # Rare rejections by the trapezoidal rule with fine steps on the logit scale of the split.
  z <- seq(-120, 120, 0.005)
  weight <- exp(4.5 * stats::plogis(z, log.p = TRUE) + 0.5 * stats::plogis(-z, log.p = TRUE) - lbeta(4.5, 0.5)) * 0.005
  error <- (stats::plogis(z) + stats::plogis(-z) / 900) * (1 / 10 + 1 / 2)
  reach <- stats::qt(0.0005, 10, lower.tail = FALSE) * sqrt(error / (1 / 10 + 1 / 1800))
  expect_relative(core_true_size("student", 10, 2, 30, 0.001), sum(weight * 2 * stats::pt(-reach, 10)), 1e-8)
})

test_that("the test of deviations from their moments is that from the values", {
  x <- c(1, 4, 2, 8)
  y <- c(3, 3.5, 9, 20, 1)
  expect_identical(
    core_deviation_from(core_sample_moments(abs(x - 3)), core_sample_moments(abs(y - 3.5))),
    core_deviation_test(x, y, TRUE)
  )
})

test_that("deviations keep their digits far from 0", {
  near <- c(0.25, 1, 1.5, 4)
  expect_identical(core_deviations(near, TRUE), abs(near - 1.25))
  # The median of these lies between two doubles.
  far <- 2^52 + c(0, 1, 2, 9)
  expect_identical(core_deviations(far, TRUE), c(1.5, 0.5, 0.5, 7.5))
  expect_identical(core_deviations(far, FALSE), c(3, 2, 1, 6))
})

test_that("spreads whose ratio has no square are told apart from others", {
  for (ratio in c(0, 1e-160, 1e151)) expect_true(core_too_unlike(ratio))
  for (ratio in c(1e-100, 1, 1e149)) expect_false(core_too_unlike(ratio))
  flat <- function(sd) core_summary_moments(5, 0, sd)
  expect_identical(core_variance_ratio(flat(1e-160), flat(1), 0.95)$reason, "out_of_range")
  expect_identical(core_paired_variance_ratio(flat(1e160), flat(1), 0.3, 0.95)$reason, "out_of_range")
})
