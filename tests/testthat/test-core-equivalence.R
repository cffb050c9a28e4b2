test_that("both sides equal closed forms for 1 and 2 degrees of freedom", {
  # df = 1: P(T > t) = 1/2 - atan(t) / pi. Estimate 1, se 2: t = 2 against -3, -1 against 3.
  one <- core_t_sides(1, 2, 1, -3, 3, 0.05)
  expect_identical(c(one$low$statistic, one$high$statistic), c(2, -1))
  expect_relative(one$low$p, 1 / 2 - atan(2) / pi, 1e-14)
  expect_relative(one$high$p, 1 / 2 - atan(1) / pi, 1e-14)
  expect_relative(one$upper, 1 + 2 * tan(0.45 * pi), 1e-12)
  # df = 2: P(T > t) = 1/2 - t / (2 sqrt(2 + t^2)).
  two <- core_t_sides(0.5, 0.25, 2, -0.5, 1, 0.1)
  expect_relative(two$low$p, 1 / 2 - 4 / (2 * sqrt(18)), 1e-13)
  expect_relative(two$high$p, 1 / 2 - 2 / (2 * sqrt(6)), 1e-13)
  expect_relative(two$lower, 0.5 - 0.25 * 0.8 * sqrt(2 / (1 - 0.64)), 1e-12)
})

test_that("p is one half where the estimate lies at a bound", {
  at <- core_t_sides(2, 1.7, 9, -2, 2, 0.05)
  expect_identical(at$high$p, 0.5)
  expect_lt(at$low$p, 0.5)
})

test_that("test and interval decide alike in thousands of random cases", {
  set.seed(70)
  n <- 5000
  estimate <- rnorm(n, 0, 2)
  se <- rexp(n) + 1e-3
  df <- runif(n, 1, 60)
  low <- -rexp(n, 0.3)
  high <- rexp(n, 0.3)
  alpha <- runif(n, 0.001, 0.49)
  found <- vapply(seq_len(n), function(i) {
    got <- core_t_sides(estimate[[i]], se[[i]], df[[i]], low[[i]], high[[i]], alpha[[i]])
    c(low = got$low$p, high = got$high$p, inside = got$lower >= low[[i]] && got$upper <= high[[i]])
  }, c(0, 0, 0))
  # The tails themselves, straight from the distribution: what the agreement with the interval may change is rounding.
  expect_relative(found["low", ], pt((estimate - low) / se, df, lower.tail = FALSE), 1e-10)
  expect_relative(found["high", ], pt((estimate - high) / se, df), 1e-10)
  expect_identical(pmax(found["low", ], found["high", ]) <= alpha, found["inside", ] == 1)
  # Both decisions occur often.
  expect_gt(sum(found["inside", ]), 500)
  expect_lt(sum(found["inside", ]), 4500)
})

test_that("a bound at a limit is decided by neither's rounding", {
  set.seed(71)
  p <- vapply(1:200, function(i) {
    alpha <- runif(1, 0.001, 0.4)
    free <- core_t_sides(rnorm(1), rexp(1), runif(1, 1, 50), -1e6, 1e6, alpha)
    se <- (1e6 + free$upper / 2 + free$lower / 2) / free$low$statistic
    df <- uniroot(function(df) qt(alpha, df, lower.tail = FALSE) * se - (free$upper - free$lower) / 2, c(0.5, 80))$root
    estimate <- free$upper / 2 + free$lower / 2
    reach <- core_t_reach(se, df, 1 - 2 * alpha)
    at <- core_t_sides(estimate, se, df, -1e6, estimate + reach, alpha)
    beyond <- core_t_sides(estimate, se, df, -1e6, (estimate + reach) * (1 - sign(estimate + reach) * 2^-50), alpha)
    c(at$high$p, beyond$high$p, alpha)
  }, c(0, 0, 0))
  expect_true(all(p[1, ] <= p[3, ] & p[2, ] > p[3, ]))
  expect_relative(p[1, ], p[3, ], 1e-9)
})

test_that("many bounds are asked at once", {
  low <- -(1:200) / 20
  high <- -2 * low
  all <- core_t_sides(1.3, 0.8, 17, low, high, 0.05)
  each <- vapply(1:200, function(i) core_t_sides(1.3, 0.8, 17, low[[i]], high[[i]], 0.05)$high$p, 0)
  expect_identical(all$high$p, each)
  expect_length(all$low$p, 200)
  expect_identical(core_t_sides(Inf, 1, 3, -1, 1, 0.05)$reason, "out_of_range")
})

test_that("p moves to the side of alpha on which the interval lies, and no further", {
  moved <- core_p_beside(log(c(0.05, 0.05 * (1 + 1e-14), 0.01, 0.2)), 0.05, c(FALSE, TRUE, TRUE, FALSE))
  expect_gt(moved$p[[1]], 0.05)
  expect_identical(moved$p[2], 0.05)
  expect_relative(moved$p[3:4], c(0.01, 0.2), 1e-15)
  expect_relative(exp(moved$log_p), moved$p, 1e-15)
  # Far below the smallest double the logarithm keeps the size.
  expect_identical(core_p_beside(-1e5, 0.05, TRUE)$log_p, -1e5)
})

test_that("two questions make four verdicts", {
  expect_identical(
    core_verdict(c(TRUE, FALSE, TRUE, FALSE), c(FALSE, TRUE, TRUE, FALSE)),
    c("different", "equivalent", "different but within bounds", "inconclusive")
  )
})

test_that("the tightest bounds are those at which the larger p is alpha", {
  for (estimate in c(-2, 0, 0.4, 3)) {
    free <- core_t_sides(estimate, 0.7, 12, -9, 9, 0.05)
    tight <- core_tightest(free$lower, free$upper)
    at <- core_t_sides(estimate, 0.7, 12, -tight, tight, 0.05)
    expect_relative(max(at$low$p, at$high$p), 0.05, 1e-10)
    # In the proportion of lopsided bounds.
    times <- core_tightest(free$lower, free$upper, -1, 2.5)
    at <- core_t_sides(estimate, 0.7, 12, -times, 2.5 * times, 0.05)
    expect_relative(max(at$low$p, at$high$p), 0.05, 1e-10)
  }
  expect_missing(core_tightest(NA_real_, 3))
})

test_that("p of both sides moves with rounding as far as brute force finds", {
  errors <- list(list(se = 0.9, df = 20), list(se = 1.1, df = 22), list(se = 1, df = 21))
  # The middle of the bounds, 0.5, outside, at the end, and inside.
  for (gaps in list(c(0.2, 0.4), c(-0.3, 0.5), c(2.9, 3.3), c(-0.3, 1.3))) {
    grid <- unlist(lapply(errors, function(error) {
      vapply(seq(gaps[[1]], gaps[[2]], length.out = 2001), function(gap) {
        max(pt((gap + 2) / error$se, error$df, lower.tail = FALSE), pt((gap - 3) / error$se, error$df))
      }, 0)
    }))
    expect_relative(core_equivalence_range(gaps, errors, -2, 3), range(grid), 1e-6)
  }
})

test_that("the standardized test keeps its level at a bound, and its p is that of the noncentral t", {
  set.seed(4)
  n <- 100
  change <- matrix(rnorm(n * 4000, 1), n)
  parts <- list(n_first = n, gap = colMeans(change), sd_change = apply(change, 2, stats::sd))
  sides <- core_standardized_sides("d_change", parts, -1, 1, 0.05)
  expect_lt(abs(mean(sides$high$p <= 0.05) - 0.05), 0.012)
  t <- parts$gap[[1]] / parts$sd_change[[1]] * sqrt(n)
  expect_equal(sides$high$p[[1]], stats::pt(t, n - 1, sqrt(n)), tolerance = 1e-9)
  expect_equal(sides$low$p[[1]], stats::pt(t, n - 1, -sqrt(n), lower.tail = FALSE), tolerance = 1e-6)
  expect_identical(sides$upper <= 1, sides$high$p <= 0.05)
  expect_identical(core_effect_t("d_change", core_parts_at(parts, 1))$t, t)
  # Taking the SD as known rejects more often.
  known <- core_t_sides(parts$gap, parts$sd_change / sqrt(n), n - 1, -parts$sd_change, parts$sd_change, 0.05)
  expect_gt(mean(known$high$p <= 0.05), 0.06)
  # The rate that help states, in closed form: the upper test rejects where t is small enough.
  rate <- stats::pt(10 - stats::qt(0.95, 99), 99, 10)
  expect_identical(sprintf("%.1f", 100 * rate), "7.4")
  expect_lt(abs(mean(known$high$p <= 0.05) - rate), 0.013)
})
