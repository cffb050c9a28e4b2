test_that("standard errors of skewness and kurtosis are those of normal samples", {
  # n = 10: sqrt(6 * 10 * 9 / (8 * 11 * 13)).
  expect_relative(core_skewness_error(10), sqrt(540 / 1144), 1e-15)
  expect_relative(core_kurtosis_error(10), 2 * sqrt(540 / 1144) * sqrt(99 / (7 * 15)), 1e-15)
  expect_missing(core_skewness_error(2))
  expect_missing(core_kurtosis_error(3))
  set.seed(2)
  found <- replicate(4000, unlist(core_sample_moments(rnorm(25))[c("skewness", "kurtosis")]))
  expect_relative(apply(found, 1, stats::sd), c(core_skewness_error(25), core_kurtosis_error(25)), 0.06)
})

test_that("skewness of the quartiles is 0 in the middle and 1 at the end", {
  expect_identical(core_quartile_skewness(1, 2, 3), 0)
  expect_identical(core_quartile_skewness(1, 1, 3), 1)
  expect_missing(core_quartile_skewness(2, 2, 2))
})

test_that("a polynomial is evaluated from its highest power down", {
  expect_identical(core_polynomial(c(1, 2, 3), 2), 17)
})

test_that("weights have length one, mirror, and agree with the published ones", {
  for (n in c(3, 4, 5, 6, 11, 12, 50, 5000)) {
    w <- core_royston_weights(n)
    expect_length(w, n)
    expect_equal(w, -rev(w))
    expect_relative(sum(w^2), 1, 1e-12)
    expect_false(is.unsorted(w))
  }
  # Shapiro & Wilk (1965, table 5), n = 10 and 20.
  expect_lt(max(abs(core_royston_weights(10)[10:6] - c(0.5739, 0.3291, 0.2141, 0.1224, 0.0399))), 1e-3)
  expect_lt(max(abs(core_royston_weights(20)[20:17] - c(0.4734, 0.3211, 0.2565, 0.2085))), 1e-3)
})

test_that("W is the squared slope over the sum of squares, whatever scale and offset", {
  x <- c(2.1, 3.4, 1.9, 7.7, 4.2, 3.3, 5.0, 2.6)
  w <- core_royston_weights(8)
  by_hand <- sum(w * sort(x))^2 / sum((x - mean(x))^2)
  expect_relative(core_shapiro_wilk(x)$statistic, by_hand, 1e-13)
  expect_relative(core_shapiro_wilk(x * 1e200)$statistic, by_hand, 1e-12)
  expect_relative(core_shapiro_wilk(x + 1e6)$statistic, by_hand, 1e-8)
  expect_relative(core_shapiro_wilk(-x)$log_p, core_shapiro_wilk(x)$log_p, 1e-10)
})

test_that("p of W meets the published percentage points", {
  # Shapiro & Wilk (1965, table 6): W at 5 % and 1 % for n = 10 and 20.
  for (case in list(c(10, 0.842, 0.781), c(20, 0.905, 0.868))) {
    p <- exp(c(core_royston_log_p(1 - case[[2]], case[[1]]), core_royston_log_p(1 - case[[3]], case[[1]])))
    expect_lt(abs(p[[1]] - 0.05), 0.006)
    expect_lt(abs(p[[2]] - 0.01), 0.003)
  }
  # n = 3 is exact: W = 3/4 is the least there is.
  expect_relative(exp(core_royston_log_p(0, 3)), 1, 1e-12)
  expect_lt(core_royston_log_p(0.25, 3), -30)
})

test_that("p of W is uniform for normal samples and small for others", {
  set.seed(3)
  for (n in c(3, 4, 8, 11, 12, 40, 600)) {
    p <- exp(replicate(1500, core_shapiro_wilk(rnorm(n))$log_p))
    expect_lt(abs(mean(p < 0.05) - 0.05), 0.025)
    expect_lt(abs(mean(p < 0.5) - 0.5), 0.06)
  }
  expect_lt(core_shapiro_wilk(rexp(200))$log_p, log(1e-6))
  expect_identical(core_shapiro_wilk(c(1, 2))$reason, "size")
  expect_identical(core_shapiro_wilk(rep(1, 9))$reason, "no_spread")
})

test_that("z of skewness and kurtosis agree with a worked example", {
  # D'Agostino, Belanger & D'Agostino (1990, p. 318): n = 62, root b1 = 1.02, b2 = 4.58.
  expect_lt(abs(core_skewness_z(62, 1.02) - 3.14), 0.015)
  expect_lt(abs(core_kurtosis_z(62, 4.58) - 2.21), 0.01)
  # Their equations 6 to 19 in 50 digits.
  n <- c(20, 62, 5500)
  expect_relative(
    core_skewness_z(n, c(-0.75, 1, 0.0625)), c(-1.6025382263787101, 3.08221069106068, 1.8930153530725176), 1e-12
  )
  expect_relative(
    core_kurtosis_z(n, c(2.25, 4.5, 2.875)), c(-0.55387501909649523, 2.1524076911265572, -1.9737398037593789), 1e-12
  )
})

test_that("the omnibus statistic is the sum of both squares and keeps its level", {
  set.seed(5)
  x <- rnorm(62)
  m <- core_sample_moments(x)
  found <- core_omnibus(62, m$skewness, m$kurtosis)
  centred <- x - mean(x)
  g1 <- mean(centred^3) / mean(centred^2)^1.5
  b2 <- mean(centred^4) / mean(centred^2)^2
  expect_relative(found$statistic, core_skewness_z(62, g1)^2 + core_kurtosis_z(62, b2)^2, 1e-11)
  expect_relative(exp(found$log_p), exp(-found$statistic / 2), 1e-12)
  rejected <- replicate(2000, {
    m <- core_sample_moments(rnorm(100))
    core_omnibus(100, m$skewness, m$kurtosis)$log_p < log(0.05)
  })
  expect_lt(abs(mean(rejected) - 0.055), 0.02)
  expect_missing(core_omnibus(19, 0, 0)$statistic)
})

test_that("places cover small samples whole and large ones from end to end", {
  expect_identical(core_band_places(5), 1:5)
  places <- core_band_places(1e6)
  expect_identical(range(places), c(1, 1e6))
  expect_lte(length(places), 150)
  expect_false(is.unsorted(places, strictly = TRUE))
})

test_that("the band holds whole normal samples as often as it says", {
  set.seed(6)
  for (n in c(6, 60, 1500)) {
    band <- core_normal_plot(rnorm(n), 0, 1, 0.95)
    z <- replicate(1500, {
      x <- rnorm(n)
      x <- sort((x - mean(x)) / stats::sd(x))[band$place]
      all(x >= band$lower & x <= band$upper)
    })
    expect_lt(abs(mean(z) - 0.95), 0.025)
  }
  band <- core_normal_plot(c(3, 1, 2, 5), 2.75, 1.7, 0.95)
  expect_identical(band$value, c(1, 2, 3, 5))
  expect_relative(band$quantile, stats::qnorm((1:4 - 0.375) / 4.25), 1e-15)
  # The same every time, and no draw from R's own generator.
  seed <- .Random.seed
  expect_identical(core_normal_plot(c(3, 1, 2, 5), 2.75, 1.7, 0.95), band)
  expect_identical(.Random.seed, seed)
  expect_null(core_normal_plot(c(1, 1, 1), 1, 0, 0.95))
})
