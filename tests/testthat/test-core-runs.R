test_that("runs are cut in order, never across a gap, and may have to be full", {
  expect_identical(core_runs(7, 3), c(1L, 1L, 1L, 2L, 2L, 2L, 3L))
  expect_identical(core_runs(7, 3, full = TRUE), c(1L, 1L, 1L, 2L, 2L, 2L, NA))
  expect_identical(core_runs(7, 3, gaps = 4L), c(1L, 1L, 1L, 2L, 3L, 3L, 3L))
  expect_identical(core_runs(7, 3, gaps = 4L, full = TRUE), c(1L, 1L, 1L, NA, 2L, 2L, 2L))
  expect_identical(core_runs(4, 1), 1:4)
  expect_true(all(is.na(core_runs(2, 5, full = TRUE))))
  expect_identical(core_gaps(c(1, 2, 3, 10, 11)), 3L)
  expect_identical(core_gaps(c(1, 3)), integer())
  expect_identical(core_gaps(5), integer())
})

test_that("runs are as long as makes them nearly independent, and at least eight", {
  expect_identical(core_run_length(-0.3, 50), 1)
  # The variance of the mean of n values against n / L runs of L, from the covariances themselves.
  understated <- function(r, length, n = 4000) {
    covariance <- function(size) sum(r^abs(outer(seq_len(size), seq_len(size), "-"))) / size
    1 - covariance(length) / ((1 + r) / (1 - r))
  }
  for (r in c(0.1, 0.3, 0.5)) {
    length <- core_run_length(r - (1 + 3 * r) / 4000 / (1 + 3 / 4000), 4000)
    expect_lte(understated(r, length), 0.1 + 1e-3)
    if (length > 1) expect_gt(understated(r, length - 1), 0.1 - 1e-3)
  }
  expect_equal(core_run_length(0.9, 64), 8)
  expect_equal(core_run_length(0.5, 12), 1)
})

test_that("two groups as sums over full runs", {
  second <- c(5, 6, 7, 8, 1, 2)
  sample <- core_run_sample(c(1, 2, 3, 4, 9), second, c(1, 1, 2, 2, NA), rep(1:3, each = 2), beyond = 0.5)
  expect_identical(sample$values, c(30, 70, 110, 150, 30))
  expect_identical(sample$times, c(2, 2, 0, 0, 0))
  expect_identical(sample[c("sizes", "chosen", "beyond", "power")], list(sizes = 5, chosen = 2, beyond = 5, power = 10))
  # Sums of two values shifted by d move by 2 d: the interval is that of means over runs.
  pairs <- rep(1:3, each = 2)
  found <- core_sums_inference(core_run_sample(c(3, 5, 8, 9, 4, 7), c(1, 2, 2, 4, 3, 3), pairs, pairs), 0.1)
  means <- core_sums_inference(core_group_sample(c(4, 8.5, 5.5), c(1.5, 3, 3)), 0.1)
  expect_equal(found$lower, means$lower)
  expect_equal(found$high$p, means$high$p)
})
