test_that("a world holds what was supposed, in either way of saying it", {
  world <- suppose_world(standardized = 0.5, sd = c(3, 4))
  expect_relative(world$difference, 0.5 * sqrt(12.5), 1e-12)
  pairs <- suppose_world(standardized = 0.5, sd = c(3, 4), r = 0.5)
  expect_relative(pairs$sd_change, sqrt(13), 1e-12)
  expect_relative(pairs$difference, 0.5 * sqrt(13), 1e-12)
  expect_true(pairs$paired)
  expect_identical(suppose_world(standardized = 1)$sd, c(1, 1))
  expect_missing(suppose_world(1, sd_change = 2)$r)
})

test_that("what is missing or contradicts is said", {
  refused <- function(expr, class) expect_error(expr, class = paste0("vandro_error_", class))
  refused(suppose_world(2), "missing_ingredient")
  refused(suppose_world(2, r = 0.5), "missing_ingredient")
  refused(suppose_world(sd = 2), "contradiction")
  refused(suppose_world(2, sd = 2, standardized = 1), "contradiction")
  refused(suppose_world(2, sd = c(1, 0)), "bad_value")
  refused(suppose_world(2, sd = 1, r = 1), "bad_value")
  refused(suppose_world(2, sd = 1, shape = "lumpy"), "bad_value")
  refused(suppose_world(2, sd = 1, rounded_to = 0), "bad_value")
})

test_that("worlds vary in what is named, everything else kept", {
  world <- suppose_world(1, sd = c(2, 2), groups = c("compost", "peat"), unit = "cm")
  worlds <- vary_world(world, sd_ratio = c(1, 3), shape = c("normal", "skewed"))
  expect_length(worlds, 4)
  expect_identical(names(worlds)[[4]], "SD ratio 3, skewed")
  spread <- worlds[[2]]$sd
  expect_relative(spread[[1]] / spread[[2]], 3, 1e-12)
  expect_relative(sum(spread^2), 8, 1e-12)
  pairs <- suppose_world(1, sd = c(2, 2), r = 0.2)
  expect_relative(vary_world(pairs, r = c(0.2, 0.8))[[2]]$sd_change, sqrt(8 * 0.2), 1e-12)
  expect_identical(vary_world(world, standardized = c(0, 1))[[2]]$difference, 2)
  refused(bad_value = vary_world(world, spread = 2), contradiction = vary_world(pairs, sd_ratio = 2))
})

test_that("a world prints what it supposes", {
  lines <- format(suppose_world(
    2.5,
    sd = c(3, 4), difference_sd = 1, rounded_to = 0.5, shape = c("normal", "skewed"), groups = c("compost", "peat"),
    unit = "cm", label = "Stem height"
  ), width = 200)
  told <- c(
    "2.5 cm (0.71 SD), uncertain with an SD of 1 cm", "3 cm of compost, 4 cm of peat", "to 0.5 cm", "peat skewed"
  )
  for (text in told) {
    expect_match(lines, text, fixed = TRUE, all = FALSE)
  }
  expect_match(format(suppose_world(1, sd = c(2, 3), r = 0.5)), "of the changes, r = 0.5", fixed = TRUE, all = FALSE)
})
