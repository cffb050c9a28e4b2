test_that("d, g and the raw difference come together and agree", {
  study <- height_study()
  table <- gauge_effect(study)$table
  expect_identical(table$estimand, c("mean_difference", "d_pooled", "g"))
  test <- test_difference(study)$table
  expect_identical(table$estimate[[1]], test$estimate)
  expect_identical(table$lower[[1]], test$lower)
  # Head-check: d times its standardizer is the difference.
  expect_relative(table$estimate[[2]] * table$standardizer_value[[2]], test$estimate, 1e-14)
  expect_true(all(table$lower < table$estimate & table$estimate < table$upper))
  expect_identical(gauge_effect(study, "g")$table$estimate, table$estimate[[3]])
})

test_that("a change of unit leaves standardized effects alone", {
  scaled <- transform(seedlings, height = height * 10)
  a <- gauge_effect(versus(scaled, height, substrate, c("compost", "peat")), c("d_pooled", "g"))$table
  b <- gauge_effect(height_study(), c("d_pooled", "g"))$table
  expect_equal(a$estimate, b$estimate, tolerance = 1e-13)
  expect_equal(a$upper, b$upper, tolerance = 1e-11)
})

test_that("wrong estimands and flat data are errors", {
  expect_error(
    gauge_effect(height_study(), "d_poled"), "Did you mean \"d_pooled\"",
    class = "vandro_error_bad_value"
  )
  expect_error(gauge_effect(height_study(), 3), class = "vandro_error_bad_value")
  expect_error(gauge_effect(two_groups(c(1, 1), c(2, 2)), "g"), class = "vandro_error_no_spread")
})
