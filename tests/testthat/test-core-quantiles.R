test_that("quantiles follow rule 7, whatever the ties and the missing values", {
  x <- c(7, NA, 1, 3, 3, 10)
  codes <- c(1L, 1L, 1L, 1L, 2L, 1L)
  # Known values of group 1: 1, 3, 7, 10; positions 1 + 3 p.
  expect_equal(core_group_quantiles(x, codes, 1L, 4, c(0.25, 0.5, 0.75)), c(2.5, 5, 7.75))
  expect_equal(core_group_quantiles(x, codes, 2L, 1, c(0.25, 0.5)), c(3, 3))
  expect_missing(core_group_quantiles(x, codes, 9L, 0, 0.5))
})

test_that("one sample and frequency data have the same quantiles", {
  expect_equal(core_sample_quantiles(c(7, NA, 1, 3, 10), c(0.25, 0.5)), c(2.5, 5))
  expect_missing(core_sample_quantiles(NA_real_, 0.5))
  got <- core_counted_quantiles(c(7, 1, 3, 10), c(1, 1, 1, 1), rep(1L, 4), 1L, c(0.25, 0.5))
  expect_equal(got, c(2.5, 5))
  expect_missing(core_counted_quantiles(3, 0, 1L, 1L, 0.5))
})
