test_that("every number of the description equals its formula", {
  study <- height_study()
  table <- describe_study(study)$table
  x <- seedlings$height[seedlings$substrate == "compost"]
  x <- x[!is.na(x)]
  row <- table[1, ]
  expect_relative(row$mean, mean(x), 1e-14)
  expect_relative(row$sd, stats::sd(x), 1e-13)
  expect_relative(row$se, stats::sd(x) / sqrt(24), 1e-13)
  expect_identical(c(row$min, row$max), range(x))
  expect_equal(c(row$q1, row$median, row$q3), unname(stats::quantile(x, c(0.25, 0.5, 0.75), type = 7)))
  expect_identical(c(row$n, row$missing), c(24, 2))
  m <- function(k) mean((x - mean(x))^k)
  expect_relative(row$skewness, m(3) / m(2)^1.5 * sqrt(24 * 23) / 22, 1e-12)
  expect_relative(row$kurtosis, 23 / (22 * 21) * (25 * (m(4) / m(2)^2 - 3) + 6), 1e-12)
  test <- test_difference(study)$table
  expect_identical(unlist(table[3, c("mean", "se", "lower", "upper")], use.names = FALSE),
    unlist(test[c("estimate", "se", "lower", "upper")], use.names = FALSE))
})

test_that("one value, and no spread, are described as far as they go", {
  table <- describe_study(two_groups(4, c(3, 3)))$table
  expect_identical(table$mean, c(4, 3, 1))
  expect_identical(table$sd, c(NA, 0, NA))
  expect_false(any(is.nan(unlist(table[vapply(table, is.numeric, NA)]))))
  expect_identical(describe_study(published_study())$table$median, rep(NA_real_, 3))
})
