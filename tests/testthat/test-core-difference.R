test_that("Welch's error and degrees of freedom equal the hand-worked fractions", {
  # 1..5 against 2, 4, 6, 8: variances 5/2 and 20/3, se^2 = 1/2 + 5/3 = 13/6,
  # df = (13/6)^2 / ((1/2)^2 / 4 + (5/3)^2 / 3) = 2028/427.
  m <- group_moments(1:5 + 0, c(2, 4, 6, 8))
  error <- core_welch_error(m[[1]], m[[2]])
  expect_relative(error$se, sqrt(13 / 6), 1e-15)
  expect_relative(error$df, 2028 / 427, 1e-15)
  expect_null(error$reason)
})

test_that("Welch's error neither under- nor overflows", {
  for (size in c(1e-200, 1e-160, 1e160, 1e200)) {
    error <- core_welch_error(core_summary_moments(4, 0, 2 * size), core_summary_moments(6, 0, size))
    expect_relative(error$se / size, sqrt(1 + 1 / 6), 1e-14)
    expect_relative(error$df, (7 / 6)^2 / (1 / 3 + 1 / 36 / 5), 1e-14)
  }
})

test_that("what has no answer has a reason", {
  flat <- core_summary_moments(5, 1, 0)
  expect_identical(core_welch_error(flat, flat)$reason, "no_spread")
  expect_identical(core_welch_error(core_summary_moments(1, 1, NA_real_), flat)$reason, "one_value")
  expect_null(core_welch_error(flat, core_summary_moments(5, 1, 2))$reason)
})

test_that("inference from t equals closed forms for 1 and 2 degrees of freedom", {
  one <- core_t_inference(3, 1.5, 1, 0, "either", 0.9, 0.05)
  expect_relative(one$p, 1 - 2 * atan(2) / pi, 1e-12)
  expect_relative(one$upper, 3 + 1.5 * tan(0.45 * pi), 1e-12)
  # df = 2: P(T > t) = 1/2 - t / (2 sqrt(2 + t^2)).
  two <- core_t_inference(3, 1.5, 2, 1, "higher", 0.95, 0.05)
  t <- 4 / 3
  expect_relative(two$p, 1 / 2 - t / (2 * sqrt(2 + t^2)), 1e-12)
  expect_relative(two$at_least, 3 - 1.5 * 0.9 * sqrt(2 / (1 - 0.81)), 1e-11)
  expect_missing(two$at_most)
  expect_identical(two$matched_level, 0.9)
})

test_that("p is at most alpha exactly when the matching interval excludes the null value", {
  set.seed(4)
  for (i in 1:300) {
    expect <- sample(c("either", "higher", "lower"), 1)
    alpha <- runif(1, 0.001, 0.3)
    got <- core_t_inference(rnorm(1, 0, 3), rexp(1), runif(1, 1, 40), rnorm(1), expect, 0.95, alpha)
    beyond <- got$estimate - got$statistic * got$se
    excludes <- switch(expect,
      either = got$matched_lower > beyond || got$matched_upper < beyond,
      higher = got$at_least > beyond,
      lower = got$at_most < beyond
    )
    expect_identical(got$p <= alpha, excludes)
  }
})

test_that("one side of a directional test takes all of alpha", {
  expect_identical(core_matched_level("either", 0.05), 0.95)
  expect_identical(core_matched_level("higher", 0.05), 0.9)
  expect_identical(core_matched_level("lower", 0.01), 0.98)
})

test_that("a reach is half an interval, and log p is exact where p underflows", {
  expect_relative(core_t_reach(2, 1, 0.5), 2, 1e-14)
  # df = 2, far tail: P(T > t) ~ 1/(2 t^2), twice that for both sides.
  expect_relative(core_t_log_p(1e170, 2, "either"), -2 * log(1e170), 1e-12)
  expect_relative(core_t_log_p(-1e170, 2, "lower"), log(0.5) - 2 * log(1e170), 1e-12)
  expect_identical(core_t_log_p(0, 7, "either"), 0)
  expect_gt(core_p_from_log(-1e5), 0)
  expect_identical(core_p_from_log(log(0.5)), 0.5)
})

test_that("the error of a mean change is s / sqrt(n) on n - 1 degrees of freedom", {
  got <- core_paired_error(core_summary_moments(16, 3, 2))
  expect_identical(got, list(se = 0.5, df = 15, reason = NULL))
  expect_identical(core_paired_error(core_summary_moments(1, 3, NA_real_))$reason, "one_value")
  expect_identical(core_paired_error(core_summary_moments(4, 3, 0))$reason, "no_spread")
})

test_that("Holm's adjustment equals the hand-worked example", {
  # Sorted 0.01, 0.02, 0.03, 0.9: times 4, 3, 2, 1, then never below the one before.
  expect_equal(core_adjust_p(c(0.03, 0.01, 0.9, 0.02), "holm"), c(0.06, 0.04, 0.9, 0.06))
  expect_identical(core_adjust_p(c(0.6, 0.7), "holm"), c(1, 1))
})

test_that("p moves with rounding as far as brute force finds", {
  expect_identical(core_half_unit(c(22.1, 19.8)), 0.05)
  expect_identical(core_half_unit(c(22, 19)), 0.5)
  expect_identical(core_half_unit(pi), 0)
  set.seed(5)
  errors <- list(
    list(se = 1, df = 10), list(se = 1.3, df = 12), list(se = 1.1, df = 9), list(se = 1.25, df = 11)
  )
  got <- core_p_range(c(2, 3), errors, 0, "either")
  expect_relative(got, c(2 * stats::pt(-3, 10), 2 * stats::pt(-2 / 1.3, 12)), 1e-12)
  expect_identical(core_p_range(c(-1, 3), errors, 0, "either")[[2]], 1)
  expect_identical(core_p_range(c(-1, 3), list(), 0, "either"), c(NA_real_, NA_real_))
  expect_relative(core_p_range(2, errors[1], 0, "higher"), rep(stats::pt(-2, 10), 2), 1e-12)
  ends <- core_change_sd_ends(c(41, 36), 0.62, 0.5, 0.005)
  inside <- replicate(500, {
    core_change_sd(c(41, 36) + runif(2, -0.5, 0.5), 0.62 + runif(1, -0.005, 0.005))
  })
  expect_true(all(inside >= ends[[1]] & inside <= ends[[2]]))
  expect_gt(diff(range(inside)) / diff(ends), 0.6)
})

test_that("Student's standard error is the pooled one, also with one value in a group", {
  m <- group_moments(c(1, 2, 3, 4, 5), c(2, 4, 6, 8))
  error <- core_student_error(m[[1]], m[[2]])
  expect_relative(error$se, sqrt((10 + 20) / 7 * (1 / 5 + 1 / 4)), 1e-14)
  expect_identical(error$df, 7)
  one <- group_moments(c(1, 2, 3), 7)
  expect_relative(core_student_error(one[[1]], one[[2]])$se, sqrt(1 * (1 / 3 + 1)), 1e-14)
  expect_identical(core_student_error(one[[2]], one[[2]])$reason, "one_value")
  flat <- group_moments(c(1, 1), c(2, 2))
  expect_identical(core_student_error(flat[[1]], flat[[2]])$reason, "no_spread")
})

test_that("numbers beyond the range of a double are a reason, not an infinite limit", {
  expect_identical(core_t_inference(Inf, 1, 5, 0, "either", 0.95, 0.05)$reason, "out_of_range")
})

test_that("many outcomes at once are each of them alone; reasons stand where there is no answer", {
  a <- list(n = c(5, 1, 4, 0), sd = c(2, NA, 0, NA))
  b <- list(n = c(6, 7, 3, 2), sd = c(1, 2, 0, 1))
  for (pair in list(
    list(core_welch_errors, core_welch_error), list(core_student_errors, core_student_error)
  )) {
    many <- pair[[1]](a, b)
    one <- pair[[2]](lapply(a, `[[`, 1), lapply(b, `[[`, 1))
    expect_identical(c(many$se[[1]], many$df[[1]]), c(one$se, one$df))
    expect_null(one$reason)
    expect_identical(many$reason[c(1, 3, 4)], c(NA, "no_spread", "one_value"))
    expect_true(all(is.na(many$se[!is.na(many$reason)])))
  }
  expect_identical(core_welch_errors(a, b)$reason[[2]], "one_value")
  expect_identical(core_student_errors(a, b)$reason[[2]], NA_character_)
  expect_identical(core_paired_errors(a)$reason, c(NA, "one_value", "no_spread", "one_value"))
  expect_identical(core_known_errors(1, 2, FALSE, TRUE)$reason, "no_spread")
  expect_identical(core_one_error(core_known_errors(1, 2, TRUE, NA))$reason, "one_value")
  found <- core_t_inference(c(1, Inf, 3), c(1, 1, 2), c(5, 5, 7), 0, "higher", 0.9, 0.05)
  alone <- core_t_inference(3, 2, 7, 0, "higher", 0.9, 0.05)
  expect_identical(found$p[[3]], alone$p)
  expect_identical(found$at_least[[3]], alone$at_least)
  expect_identical(found$reason, c(NA, "out_of_range", NA))
})
