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

test_that("the length of runs grows with correlation and size, by Carlstein's rule", {
  expect_identical(core_run_length(-0.3, 50), 1)
  expect_identical(core_run_length(0, 50), 1)
  # (2 * 0.5 / 0.75)^(2/3) * 64^(1/3) = 1.2114 * 4
  expect_identical(core_run_length(0.5, 64), 5)
  expect_gt(core_run_length(0.8, 64), core_run_length(0.5, 64))
})

test_that("two groups as sums over full runs", {
  sample <- core_run_sample(c(1, 2, 3, 4, 9), c(5, 6, 7, 8), c(1, 1, 2, 2, NA), c(1, 1, 2, 2), beyond = 0.5)
  expect_identical(sample$values, c(30, 70, 110, 150))
  expect_identical(sample$times, c(2, 2, 0, 0))
  expect_identical(sample[c("sizes", "chosen", "beyond", "power")], list(sizes = 4, chosen = 2, beyond = 5, power = 10))
  # Sums of two values shifted by d move by 2 d: the interval is that of means over runs.
  found <- core_sums_inference(core_run_sample(c(3, 5, 8, 9, 4, 7), c(1, 2, 2, 4, 3, 3), rep(1:3, each = 2), rep(1:3, each = 2)), 0.1)
  means <- core_sums_inference(core_group_sample(c(4, 8.5, 5.5), c(1.5, 3, 3)), 0.1)
  expect_equal(found$lower, means$lower)
  expect_equal(found$high$p, means$high$p)
})
