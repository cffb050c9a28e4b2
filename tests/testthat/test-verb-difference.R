numeric_columns <- function(table, columns) unlist(table[columns])

test_that("values give the hand-worked Welch test", {
  # 1..5 against 2, 4, 6, 8: see test-core-difference.R.
  table <- test_difference(two_groups(1:5, c(2, 4, 6, 8)))$table
  expect_equal(table$estimate, -2)
  expect_relative(table$se, sqrt(13 / 6), 1e-15)
  expect_relative(table$df, 2028 / 427, 1e-15)
  expect_relative(table$p, 2 * stats::pt(-2 / sqrt(13 / 6), 2028 / 427), 1e-14)
  expect_identical(c(table$n_first, table$n_second), c(5, 4))
  expect_identical(table$comparison, "compost minus peat")
})

test_that("swapping the groups flips signs, mirrors intervals and swaps sides", {
  a <- test_difference(height_study(), expect = "higher", beyond = 1)$table
  b <- test_difference(height_study(c("peat", "compost")), expect = "lower", beyond = -1)$table
  expect_equal(c(a$estimate, a$lower, a$upper), -c(b$estimate, b$upper, b$lower), tolerance = 1e-14)
  expect_equal(c(a$statistic, a$at_least), -c(b$statistic, b$at_most), tolerance = 1e-14)
  expect_relative(a$p, b$p, 1e-13)
})

test_that("row order, an offset and a change of unit change what they should and nothing else", {
  base <- test_difference(height_study())$table
  change <- function(f) {
    data <- f(seedlings)
    test_difference(versus(data, height, substrate, groups = c("compost", "peat")))$table
  }
  shuffled <- change(function(d) d[order(d$chlorophyll), ])
  expect_equal(shuffled, base, tolerance = 1e-13)
  moved <- change(function(d) transform(d, height = height + 2^30))
  same <- c("estimate", "se", "lower", "upper", "statistic", "df", "p")
  expect_equal(numeric_columns(moved, same), numeric_columns(base, same), tolerance = 1e-7)
  scaled <- change(function(d) transform(d, height = height * 1024))
  expect_identical(scaled$p, base$p)
  expect_identical(scaled$estimate, base$estimate * 1024)
  expect_identical(scaled$lower, base$lower * 1024)
})

test_that("a shift of the null equals a shift of the data", {
  data <- long_data(c(3, 5, 6, 9), c(2, 2.5, 4))
  a <- test_difference(versus(data, height, substrate, c("compost", "peat")), beyond = 2)$table
  data$height <- data$height - ifelse(data$substrate == "compost", 2, 0)
  b <- test_difference(versus(data, height, substrate, c("compost", "peat")))$table
  expect_equal(a$p, b$p, tolerance = 1e-13)
})

test_that("the two directional p add up to one, and a limit is always finite", {
  higher <- test_difference(height_study(), expect = "higher")$table
  lower <- test_difference(height_study(), expect = "lower")$table
  expect_equal(higher$p + lower$p, 1)
  expect_true(all(is.finite(c(higher$lower, higher$upper, higher$at_least, lower$at_most))))
})

test_that("nine digits of t hold at an offset of 1e9", {
  # Multiples of 1/16 are exact at 1e9: the test must not notice the offset at all.
  x <- c(1.0625, 2.5, 2.75, 4.125)
  y <- c(0.5, 1.25, 1.75)
  near <- test_difference(two_groups(x, y))$table
  far <- test_difference(two_groups(x + 1e9, y + 1e9))$table
  expect_relative(far$statistic, near$statistic, 1e-13)
})

test_that("extreme magnitudes and an extreme t still have a p that is not zero", {
  for (size in c(1e-160, 1e160)) {
    table <- test_difference(two_groups(c(1, 2, 4) * size, c(2, 4, 7) * size))$table
    expect_relative(table$p, test_difference(two_groups(c(1, 2, 4), c(2, 4, 7)))$table$p, 1e-12)
  }
  set.seed(1)
  far <- test_difference(two_groups(rnorm(500), rnorm(500, 1e6)))$table
  expect_gt(far$p, 0)
  expect_lt(far$log_p, log(1e-300))
})

test_that("what cannot be tested is an error that says why", {
  expect_error(test_difference(two_groups(c(2, 2), c(3, 3))), class = "vandro_error_no_spread")
  expect_error(
    test_difference(two_groups(2, c(3, 4))), "\"compost\" has only one value",
    class = "vandro_error_one_value"
  )
  expect_s3_class(test_difference(two_groups(c(2, 2), c(3, 4))), "vandro_answer")
})

test_that("options are checked", {
  study <- height_study()
  bad <- list(
    list(method = "welsh"), list(expect = "greater"), list(beyond = NA), list(level = 95),
    list(level = 0), list(alpha = 0), list(alpha = 0.7), list(beyond = "1")
  )
  for (arguments in bad) {
    expect_error(do.call(test_difference, c(list(study), arguments)), class = "vandro_error_bad_value")
  }
  expect_error(test_difference(study, "welch", "higher"), class = "rlib_error_dots_nonempty")
  expect_error(test_difference(seedlings), class = "vandro_error_not_a_study")
})
