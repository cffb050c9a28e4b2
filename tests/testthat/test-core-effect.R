independent_parts <- function(a, b) core_effect_parts(group_moments(a, b))

paired_parts <- function(a, b) {
  found <- core_pair_moments(a, b)
  core_effect_parts(found$moments, found$r)
}

interval_of <- function(estimand, parts, level = 0.95, method = NULL) {
  paired <- !is.null(parts$sd_change)
  if (is.null(method)) method <- core_interval_methods(estimand, paired)[[1]]
  core_effect_interval(estimand, parts, level, method)
}

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

test_that("many limits at once are those found one by one", {
  set.seed(31)
  for (df in c(1, 2.5, 30, 198, 1e6)) {
    t <- c(rnorm(400), rexp(200) * 50, runif(40, -1000, 1000))
    together <- core_ncp_limits(t, df, 0.95)
    some <- c(1:40, 601:640)
    alone <- vapply(some, function(i) unlist(core_ncp_limits(t[[i]], df, 0.95)), c(0, 0))
    size <- pmax(1, abs(t[some]))
    expect_lt(max(abs(together$lower[some] - alone[1, ]) / size), 1e-10)
    expect_lt(max(abs(together$upper[some] - alone[2, ]) / size), 1e-10)
  }
  expect_missing(core_ncp_limits(c(1, NA), c(5, 5), 0.95)$lower[[2]])
})

test_that("the small-sample factor equals its closed form and its series", {
  # J(7) = gamma(7/2) / (sqrt(7/2) gamma(3)) with gamma(7/2) = 15 sqrt(pi) / 8.
  expect_relative(core_hedges_factor(7), 15 * sqrt(pi) / 8 / (sqrt(3.5) * 2), 1e-14)
  # gamma(1/2) / (sqrt(1) gamma(1/2)) at df = 2 has gamma(1) / gamma(1/2).
  expect_relative(core_hedges_factor(2), 1 / sqrt(pi), 1e-14)
  # Large df: J = 1 - 3/(4 df) - 7/(32 df^2) - ... , exact to 1e-20 at 1e7.
  expect_relative(1 - core_hedges_factor(1e7), 3 / 4e7 + 7 / 32e14, 1e-8)
  expect_missing(core_hedges_factor(1))
})

test_that("root mean squares stay in range and pass over groups without a say", {
  expect_relative(core_root_mean_square(3, 4), sqrt(12.5), 1e-15)
  expect_relative(core_root_mean_square(3e200, 4e200), sqrt(12.5) * 1e200, 1e-15)
  expect_relative(core_root_mean_square(3e-200, 4e-200), sqrt(12.5) * 1e-200, 1e-15)
  expect_identical(core_root_mean_square(NA, 4, 0, 5), 4)
  expect_identical(core_root_mean_square(0, 0), 0)
  expect_relative(core_root_mean_square(c(1, 2, 3), c(4, 5, 6), 2, 1), sqrt((2 * (1:3)^2 + (4:6)^2) / 3), 1e-15)
})

test_that("every effect size is the formula, from values", {
  # 1..5 against 2, 4, 6, 8: means 3 and 5, variances 2.5 and 20/3.
  p <- independent_parts(1:5 + 0, c(2, 4, 6, 8))
  v <- c(2.5, 20 / 3)
  point <- function(estimand) core_effect_point(estimand, p)
  expect_identical(point("mean_difference"), -2)
  expect_relative(point("mean_ratio"), 3 / 5, 1e-15)
  pooled <- sqrt((4 * v[[1]] + 3 * v[[2]]) / 7)
  expect_relative(point("d_pooled"), -2 / pooled, 1e-14)
  expect_relative(point("g"), -2 / pooled * core_hedges_factor(7), 1e-14)
  expect_relative(point("d_average"), -2 / sqrt(mean(v)), 1e-14)
  expect_relative(point("d_by_first"), -2 / sqrt(v[[1]]), 1e-14)
  expect_relative(point("d_by_second"), -2 / sqrt(v[[2]]), 1e-14)
  expect_relative(core_standardizer("d_average", p), sqrt(mean(v)), 1e-14)
  expect_null(core_standardizer("mean_ratio", p))
  expect_relative(core_pooled_of(p), core_standardizer("g", p), 0)
  # A new effect size is one formula.
  core_effects$d_larger <- core_effect_formula(function(parts) pmax(parts$sd_first, parts$sd_second), NULL, "group")
  expect_identical(core_effects$d_larger$intervals(TRUE), "noncentral_t")
  expect_identical(core_effect_df("g", p), 7)
  expect_relative(core_average_df(p), sum(v)^2 / (v[[1]]^2 / 4 + v[[2]]^2 / 3), 1e-14)
  expect_relative(core_effect_df("d_average", p), core_average_df(p), 0)
})

test_that("every effect size of pairs is the formula", {
  a <- c(5, 7, 9, 6, 8)
  b <- c(4, 5, 9, 3, 6)
  p <- paired_parts(a, b)
  change <- a - b
  s <- sqrt(mean((change - mean(change))^2) * 5 / 4)
  r <- stats::cor(a, b)
  point <- function(estimand) core_effect_point(estimand, p)
  expect_relative(point("d_change"), mean(change) / s, 1e-14)
  expect_relative(point("g_change"), mean(change) / s * core_hedges_factor(4), 1e-14)
  expect_relative(point("d_repeated"), mean(change) / s * sqrt(2 * (1 - r)), 1e-13)
  expect_relative(point("d_average"), mean(change) / sqrt((stats::var(a) + stats::var(b)) / 2), 1e-14)
  # With equal spreads the repeated-measures SD is the common one.
  equal <- paired_parts(c(1, 2, 3, 4), c(2, 1, 4, 3))
  expect_relative(core_standardizer("d_repeated", equal), core_standardizer("d_average", equal), 1e-14)
  expect_relative(core_paired_share("d_repeated", p), 1 / sqrt(2 * (1 - r)), 1e-13)
})

test_that("exact intervals are limits of the noncentrality over what makes t", {
  p <- independent_parts(1:5 + 0, c(2, 4, 6, 8))
  size <- sqrt(20 / 9)
  limits <- core_ncp_limits(core_effect_point("d_pooled", p) * size, 7, 0.9)
  d <- core_interval_ncp("d_pooled", p, 0.9)
  expect_relative(c(d$lower, d$upper), c(limits$lower, limits$upper) / size, 1e-15)
  g <- core_interval_ncp("g", p, 0.9)
  expect_relative(c(g$lower, g$upper), c(d$lower, d$upper) * core_hedges_factor(7), 1e-15)
  expect_relative(core_ncp_size("d_by_first", p), size, 1e-15)
  # The average SD: t is Welch's.
  error <- core_welch_error(group_moments(1:5 + 0, c(2, 4, 6, 8))[[1]], group_moments(1:5 + 0, c(2, 4, 6, 8))[[2]])
  expect_relative(core_effect_point("d_average", p) * core_ncp_size("d_average", p), -2 / error$se, 1e-14)
  # Equal spreads and sizes: the average SD is the pooled one, with the same interval.
  same <- independent_parts(c(1, 2, 3), c(3, 4, 5))
  one <- core_interval_ncp("d_average", same, 0.95)
  two <- core_interval_ncp("d_pooled", same, 0.95)
  expect_relative(c(one$lower, one$upper, one$df), c(two$lower, two$upper, two$df), 1e-12)
  # Pairs.
  pairs <- paired_parts(c(5, 7, 9, 6, 8), c(4, 5, 9, 3, 6))
  changes <- interval_of("d_change", pairs)
  repeated <- interval_of("d_repeated", pairs)
  # Near r = 1 the SDs keep the digits, and at r = 1 the effect is 0.
  close <- list(
    n_first = 5, n_second = 5, mean_first = 1, mean_second = 0, gap = 1, sd_first = 2, sd_second = 2,
    sd_change = 2e-6, r = 1 - 5e-13
  )
  expect_relative(core_less_than_one(close), 5e-13, 1e-14)
  expect_relative(core_standardizer("d_repeated", close), 2, 1e-14)
  close$sd_change <- 0.5
  close[c("sd_first", "r")] <- list(2.5, 1)
  expect_identical(core_effect_point("d_repeated", close), 0)
  expect_identical(core_interval_ncp("d_repeated", close, 0.95)[c("lower", "upper")], list(lower = 0, upper = 0))
  ratio <- core_effect_point("d_repeated", pairs) / core_effect_point("d_change", pairs)
  expect_relative(c(repeated$lower, repeated$upper), c(changes$lower, changes$upper) * ratio, 1e-13)
})

test_that("an exact interval excludes zero exactly when Student's p says so", {
  set.seed(9)
  for (i in 1:100) {
    a <- core_summary_moments(sample(2:40, 1), rnorm(1), 1 + runif(1))
    b <- core_summary_moments(sample(2:40, 1), rnorm(1), 1 + runif(1))
    p <- core_effect_parts(list(a, b))
    t <- core_effect_point("d_pooled", p) * core_ncp_size("d_pooled", p)
    d <- interval_of("d_pooled", p, 0.9)
    expect_identical(2 * stats::pt(-abs(t), d$df) < 0.1, d$lower > 0 || d$upper < 0)
  }
})

test_that("intervals cover the true effect as often as they say", {
  set.seed(77)
  # Moments of many samples at once, from their distributions.
  draw <- function(n, mean, sd, times) {
    list(mean = mean + sd * rnorm(times) / sqrt(n), sd = sd * sqrt(rchisq(times, n - 1) / (n - 1)))
  }
  times <- 4000
  a <- draw(12, 10.8, 1, times)
  b <- draw(20, 10, 1, times)
  parts <- list(
    n_first = 12, n_second = 20, mean_first = a$mean, mean_second = b$mean, sd_first = a$sd, sd_second = b$sd,
    gap = a$mean - b$mean
  )
  cases <- list(
    list("d_pooled", "noncentral_t", 0.8), list("d_by_first", "noncentral_t", 0.8),
    list("d_average", "bonett", 0.8), list("d_average", "noncentral_t", 0.8), list("mean_ratio", "log_delta", 1.08)
  )
  for (case in cases) {
    interval <- core_effect_interval(case[[1]], parts, 0.9, case[[2]])
    coverage <- mean(interval$lower <= case[[3]] & case[[3]] <= interval$upper)
    # Four binomial standard errors, and for the approximate ones a percentage point more.
    slack <- 4 * sqrt(0.09 / times) + if (case[[1]] %in% c("d_pooled", "d_by_first")) 0 else 0.01
    expect_lt(abs(coverage - 0.9), slack)
  }
})

test_that("Bonett's variances are those of the article, written out", {
  z <- stats::qnorm(0.975)
  p <- independent_parts(c(3, 5, 8, 9, 11), c(1, 2, 2, 4))
  v <- c(stats::var(c(3, 5, 8, 9, 11)), stats::var(c(1, 2, 2, 4)))
  s2 <- mean(v)
  d <- core_effect_point("d_average", p)
  se <- sqrt(d^2 / 4 * (v[[1]]^2 / 4 + v[[2]]^2 / 3) / (2 * s2^2) + (v[[1]] / 4 + v[[2]] / 3) / s2)
  got <- core_interval_bonett("d_average", p, 0.95)
  expect_relative(c(got$lower, got$upper, got$se), c(d - z * se, d + z * se, se), 1e-13)
  d <- core_effect_point("d_by_second", p)
  se <- sqrt(d^2 / (2 * 3) + v[[1]] / v[[2]] / 4 + 1 / 3)
  expect_relative(core_interval_bonett("d_by_second", p, 0.95)$se, se, 1e-13)
  a <- c(5, 7, 9, 6, 8)
  b <- c(4, 5, 9, 3, 6)
  p <- paired_parts(a, b)
  v <- c(stats::var(a), stats::var(b))
  s2 <- mean(v)
  d <- core_effect_point("d_average", p)
  se <- sqrt(
    d^2 * (v[[1]]^2 + v[[2]]^2 + 2 * stats::cov(a, b)^2) / (8 * s2^2 * 4) + (sum(v) - 2 * stats::cov(a, b)) / (s2 * 4)
  )
  expect_relative(core_interval_bonett("d_average", p, 0.95)$se, se, 1e-13)
  d <- core_effect_point("d_by_first", p)
  se <- sqrt(d^2 / 8 + stats::var(a - b) / (4 * v[[1]]))
  expect_relative(core_interval_bonett("d_by_first", p, 0.95)$se, se, 1e-13)
})

test_that("the interval of a ratio of means is Welch's on the log scale", {
  p <- independent_parts(c(3, 5, 8, 9, 11), c(1, 2, 2, 4))
  parts <- c(stats::var(c(3, 5, 8, 9, 11)) / 5 / 7.2^2, stats::var(c(1, 2, 2, 4)) / 4 / 2.25^2)
  ratio <- core_log_ratio(p)
  expect_relative(c(ratio$log, ratio$se), c(log(7.2 / 2.25), sqrt(sum(parts))), 1e-14)
  expect_relative(ratio$df, sum(parts)^2 / (parts[[1]]^2 / 4 + parts[[2]]^2 / 3), 1e-14)
  got <- core_interval_log(p, 0.9)
  expect_relative(sqrt(got$lower * got$upper), 7.2 / 2.25, 1e-14)
  a <- c(5, 7, 9, 6, 8)
  b <- c(4, 5, 9, 3, 6)
  # Pairs: the variance of a / mean(a) - b / mean(b), over n.
  expect_relative(
    core_log_ratio(paired_parts(a, b))$se, sqrt(stats::var(a / mean(a) - b / mean(b)) / 5), 1e-13
  )
})

test_that("swapping, shifting and scaling do what they must", {
  a <- c(3.1, 5.2, 8.7, 9, 11.4)
  b <- c(1, 2.5, 2.75, 4)
  p <- independent_parts(a, b)
  swapped <- independent_parts(b, a)
  partner <- c(d_by_first = "d_by_second", d_by_second = "d_by_first")
  for (estimand in c("d_pooled", "g", "d_average", "d_by_first", "d_by_second")) {
    other <- if (estimand %in% names(partner)) partner[[estimand]] else estimand
    expect_relative(core_effect_point(other, swapped), -core_effect_point(estimand, p), 1e-13)
    one <- interval_of(estimand, p)
    two <- interval_of(other, swapped)
    expect_relative(c(one$lower, one$upper), -c(two$upper, two$lower), 1e-12)
    for (changed in list(independent_parts(a + 1e6, b + 1e6), independent_parts(a * 1e150, b * 1e150))) {
      expect_relative(core_effect_point(estimand, changed), core_effect_point(estimand, p), 1e-9)
      three <- interval_of(estimand, changed)
      expect_relative(c(three$lower, three$upper), c(one$lower, one$upper), 1e-8)
    }
  }
  ratio <- interval_of("mean_ratio", p)
  turned <- interval_of("mean_ratio", swapped)
  expect_relative(c(ratio$lower, ratio$upper), 1 / c(turned$upper, turned$lower), 1e-13)
})

test_that("what has no effect size has a reason", {
  flat <- core_summary_moments(3, 1, 0)
  one <- core_summary_moments(1, 1, NA_real_)
  fine <- core_summary_moments(4, 2, 1)
  reason <- function(estimand, ...) core_effect_reason(estimand, core_effect_parts(list(...)))
  expect_identical(reason("d_pooled", flat, flat), "no_spread")
  expect_identical(reason("d_by_first", flat, fine), "flat_group")
  expect_null(reason("d_by_second", flat, fine))
  expect_identical(reason("d_pooled", one, one), "one_value")
  expect_null(reason("g", one, fine))
  expect_identical(reason("d_average", one, fine), "one_value")
  expect_identical(reason("g", one, core_summary_moments(2, 3, 1)), "too_few_for_g")
  expect_identical(reason("mean_ratio", core_summary_moments(4, -1, 1), fine), "not_positive")
  expect_identical(reason("d_pooled", core_summary_moments(4, Inf, 1), fine), "out_of_range")
  expect_identical(reason("d_average", core_summary_moments(4, 1e160, 1e-12), fine), "out_of_range")
  expect_identical(core_ratio_reasons(NA_character_, core_effect_parts(list(flat, flat))), "no_spread")
  both <- core_effect_parts(list(fine, fine))
  expect_identical(core_standardizer_reasons("d_average", NA_character_, both), NA_character_)
  unknown <- core_unknown_moments(4)
  expect_identical(reason("d_average", unknown, unknown, fine), "no_halves")
  expect_identical(reason("d_repeated", fine, fine, fine), "no_correlation")
  expect_identical(reason("d_change", fine, fine, flat), "no_spread")
  expect_null(reason("d_change", unknown, unknown, fine))
})

test_that("reasons, and effect sizes, of many data sets are those of each", {
  parts <- list(
    n_first = c(5, 1, 5, 5), n_second = c(6, 6, 6, 6), mean_first = c(1, 1, -1, 2), mean_second = c(2, 2, 2, 2),
    sd_first = c(1, NA, 1, 0), sd_second = c(1, 1, 1, 0), gap = c(-1, -1, -3, 0)
  )
  for (estimand in c("d_pooled", "g", "d_average", "d_by_first", "mean_ratio")) {
    many <- core_effect_reasons(estimand, parts)
    each <- lapply(1:4, function(i) core_effect_reason(estimand, core_parts_at(parts, i)) %||% NA_character_)
    expect_identical(many, unlist(each))
  }
  expect_identical(core_effect_reasons("mean_ratio", parts), c(NA, "one_value", "not_positive", "no_spread"))
  expect_identical(core_first_reason(c(NA, "a", NA), c(TRUE, TRUE, NA), "b"), c("b", "a", NA))
  expect_identical(core_parts_where(parts, c(TRUE, FALSE, TRUE, TRUE))$gap, c(-1, NA, -3, 0))
  expect_identical(core_parts_where(parts, rep(TRUE, 4)), parts)
})

test_that("corrected effect sizes are J times the d of their name, with limits that are as well", {
  parts <- list(
    n_first = 6, n_second = 9, mean_first = 12, mean_second = 10, sd_first = 2, sd_second = 3, gap = 2
  )
  average <- core_average_df(parts)
  expect_equal(core_correction("g_average", parts), core_hedges_factor(average))
  expect_equal(core_correction("g_by_second", parts), core_hedges_factor(8))
  expect_identical(core_correction("d_average", parts), 1)
  for (name in c("average", "by_first", "by_second")) {
    of <- function(letter) paste0(letter, "_", name)
    factor <- core_correction(of("g"), parts)
    expect_equal(core_effect_point(of("g"), parts), core_effect_point(of("d"), parts) * factor)
    for (way in c("bonett", "noncentral_t")) {
      g <- core_effect_interval(of("g"), parts, 0.95, way)
      d <- core_effect_interval(of("d"), parts, 0.95, way)
      expect_equal(c(g$lower, g$upper), c(d$lower, d$upper) * factor)
    }
  }
  # Of pairs with r = 0 the average SD is known as of two groups, with r = 1 and equal SDs as of one.
  pairs <- function(r) utils::modifyList(parts, list(n_second = 6, sd_change = sqrt(13 - 12 * r), r = r))
  expect_equal(core_correction("g_average", pairs(0)), core_hedges_factor(5 * 169 / 97))
  expect_equal(core_correction("g_repeated", pairs(0.5)), core_hedges_factor(5))
  expect_identical(core_by_average(TRUE)$corrected, TRUE)
  expect_equal(core_bonett_terms(1, 1, 4, 4), list(gap = 0.5, standardizer = 1 / 16))
  expect_identical(core_by_group("first", FALSE)$spread, "first")
  expect_identical(core_by_repeated(TRUE)$spread, "repeated")
  # Nearly without bias, where d has a third too much.
  set.seed(5)
  draws <- matrix(rnorm(5 * 20000, 1), 5)
  others <- matrix(rnorm(5 * 20000), 5)
  many <- list(
    n_first = 5, n_second = 5, sd_first = apply(draws, 2, sd), sd_second = apply(others, 2, sd),
    gap = colMeans(draws) - colMeans(others)
  )
  expect_lt(abs(mean(core_effect_point("g_by_first", many)) - 1), 0.03)
  expect_gt(mean(core_effect_point("d_by_first", many)), 1.2)
  expect_lt(abs(mean(core_effect_point("g_average", many)) - 1), 0.05)
})
