test_that("fences and robust distances name the values beyond", {
  x <- c(1, 2, 3, 4, 5, 60, -40)
  expect_identical(core_beyond_fences(x, 1.5, 4.5), c(6L, 7L))
  expect_identical(core_beyond_fences(x, 1.5, 4.5, reach = 100), integer())
  # Median 3, median distance 2: 3.5 robust SDs are 3.5 * 2 / 0.6745 = 10.4.
  expect_identical(core_far_from_median(x, 3), c(6L, 7L))
  expect_identical(core_far_from_median(c(x, 13.3), 3), c(6L, 7L))
  expect_null(core_far_from_median(c(1, 1, 1, 9), 1))
})

test_that("changes that are equal are equal as numbers", {
  change <- core_exact_changes(c(0.3, 0.5, 1.1), c(0.1, 0.3, 0.9))
  expect_identical(change[[1]], change[[2]])
  expect_identical(change[[2]], change[[3]])
  expect_false(0.3 - 0.1 == 0.5 - 0.3)
  first <- c(pi, exp(1))
  expect_identical(core_exact_changes(first, c(1, 2)), first - c(1, 2))
  expect_identical(core_exact_changes(c(1e18, 2), c(1, 1)), c(1e18 - 1, 1))
})

test_that("ties, different values and values at the ends are counted", {
  found <- core_repeats(c(2, 5, 5, 7, 7, 7, 9))
  expect_identical(unlist(found[c("distinct", "tied", "at_low", "at_high")], use.names = FALSE), c(4, 5, 1, 1))
  limited <- core_repeats(c(0, 0, 3, 10, 12), c(0, 10))
  expect_identical(unlist(limited[c("at_low", "at_high", "outside")], use.names = FALSE), c(2, 1, 1))
  expect_identical(core_repeats(numeric())$distinct, 0)
})

test_that("the correlation of neighbours meets certified values", {
  # NIST Statistical Reference Datasets, univariate: lag-1 autocorrelation of NumAcc2 to NumAcc4 is -0.999.
  alternating <- c(0.2, rep(c(0.1, 0.3), 500))
  expect_relative(core_serial(1 + alternating)$r, -0.999, 1e-12)
  # At an offset the decimals themselves are rounded.
  for (offset in c(1e6, 1e7)) expect_relative(core_serial(offset + alternating)$r, -0.999, 1e-7)
})

test_that("dependence is seen and its cost in values told", {
  set.seed(11)
  independent <- replicate(1500, core_serial(rnorm(50))$log_p < log(0.05))
  expect_lt(abs(mean(independent) - 0.05), 0.02)
  x <- as.numeric(stats::filter(rnorm(5000), 0.6, "recursive"))
  found <- core_serial(x)
  expect_relative(found$r, 0.6, 0.06)
  expect_relative(found$effective_n, 5000 * 0.4 / 1.6, 0.15)
  # Two thousand such series of 60, tested as if their values were independent.
  series <- apply(matrix(rnorm(160 * 2000), 160), 2, function(x) stats::filter(x, 0.6, "recursive")[101:160])
  t <- colMeans(series) / (apply(series, 2, stats::sd) / sqrt(60))
  rejected <- mean(2 * stats::pt(-abs(t), 59) < 0.05)
  expect_lt(abs(found$naive_error - rejected), 0.05)
  expect_relative(core_serial(c(1, 3, 1, 3), alpha = 0.1)$naive_error, 0.1, 1e-12)
  expect_identical(core_serial(c(1, 2, 3))$reason, "too_few")
  expect_identical(core_serial(rep(1, 9))$reason, "no_spread")
  expect_identical(core_serial(c(1, 3, 1, 3))$effective_n, 4)
})

test_that("neighbours from their correlation alone", {
  x <- as.double(c(1, 3, 2, 5, 4, 6, 8, 7))
  expect_equal(core_serial_from(8, core_serial(x)$r), core_serial(x))
})

test_that("the variance of a difference along one order is that of simulated series", {
  set.seed(3)
  n <- 40
  along <- seq_len(2 * n)
  designs <- list(
    alternating = rep(c(TRUE, FALSE), n), halves = rep(c(TRUE, FALSE), each = n), mixed = sample(rep(c(TRUE, FALSE), n))
  )
  for (first in designs) {
    found <- replicate(300, {
      x <- as.numeric(stats::filter(rnorm(2 * n + 50), 0.5, "recursive"))[-(1:50)]
      seen <- core_serial_difference(x[first], x[!first], along[first], along[!first])
      c(mean(x[first]) - mean(x[!first]), seen$ratio)
    })
    # The variance that independent values of this SD would have.
    expect_lt(abs(log(stats::median(found[2, ]) / (var(found[1, ]) / (2 / n / 0.75)))), log(1.35))
  }
  # Both groups at the same places of one series.
  same <- core_serial_difference(c(1, 4, 2, 6, 3), c(1.1, 4.2, 2.1, 5.8, 3), 1:5, 1:5)
  expect_lt(same$ratio, 0.1)
  sums <- list(n = 8, places = 4, squares = 2, summed = 2, products = 1, shared = 0, shared_squares = 0)
  expect_equal(core_serial_difference_from(sums)$ratio, 3)
  expect_identical(core_serial_difference(1:3, 1:9, 1:3, 1:9)$reason, "too_few")
  expect_identical(core_serial_difference(rep(1, 5), rep(2, 5), 1:5, 1:5)$reason, "no_spread")
  # Under independence it speaks up as rarely as it should.
  alarms <- replicate(1500, {
    core_serial_difference(rnorm(20), rnorm(20), sample(1:30, 20), sample(1:30, 20))$log_p < log(0.05)
  })
  expect_lt(mean(alarms), 0.07)
})
