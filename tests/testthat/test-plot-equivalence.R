layer_of_geom <- function(plot, geom) Filter(function(layer) inherits(layer$geom, geom), plot$layers)

test_that("what is drawn is what the table says", {
  answer <- test_equivalence(height_study(), c(-2, 5))
  row <- answer$table
  data <- equivalence_data(answer, answer$study$outcomes[[1]])
  expect_identical(data$rows$lower, c(row$lower, row$difference_lower))
  expect_identical(data$rows$upper, c(row$upper, row$difference_upper))
  expect_identical(data$bounds, c(-2, 5))
  expect_match(data$labels[[2]], "^90% interval")
  expect_match(data$labels[[1]], "^95% interval")
  plot <- autoplot(answer)
  expect_match(plot$labels$subtitle, "Verdict: different but within bounds", fixed = TRUE)
  expect_match(plot$labels$alt, "from -2 cm to 5 cm", fixed = TRUE)
  built <- ggplot2::ggplot_build(plot)$data
  region <- built[[which(vapply(plot$layers, function(layer) inherits(layer$geom, "GeomRect"), NA))]]
  expect_identical(c(region$xmin, region$xmax), c(-2, 5))
  words <- unlist(lapply(built, function(layer) layer$label))
  expect_match(words, "declared to count as the same: -2 to 5 cm", fixed = TRUE, all = FALSE)
})

test_that("bounds in SD units add the standardized difference at the same scale", {
  answer <- test_equivalence(published_study(), 0.5, bounds_in = "sd")
  data <- equivalence_data(answer, answer$study$outcomes[[1]])
  expect_equal(data$rows$lower[[1]], answer$table$d_lower * answer$table$sd_value)
  plot <- autoplot(answer)
  expect_match(plot$labels$caption, "Bonett", fixed = TRUE)
  words <- unlist(lapply(ggplot2::ggplot_build(plot)$data, function(layer) layer$label))
  expect_match(words, "the same: -0.5 to 0.5 SD, -1.78 to 1.78 cm", fixed = TRUE, all = FALSE)
  expect_s3_class(autoplot(test_equivalence(published_study(), 0.5, "student", bounds_in = "sd")), "ggplot")
})

test_that("no interval is drawn where there is none", {
  answer <- suppressWarnings(test_equivalence(two_groups(c(1, 2), c(1.5, 3)), 4, "ranks"))
  data <- equivalence_data(answer, answer$study$outcomes[[1]])
  expect_match(data$labels, "no finite interval", all = FALSE)
  expect_silent(ggplot2::ggplot_build(autoplot(answer)))
})

test_that("the curve draws every bound tried, in stretches of one verdict, and the declared one", {
  answer <- test_equivalence(height_study(), 5)
  curve <- try_bounds(answer)
  data <- bounds_data(curve)
  expect_identical(data$p, curve$table$p)
  expect_identical(max(data$run), 2)
  for (plot in list(autoplot(curve), autoplot(answer, view = "bounds"))) {
    expect_match(plot$labels$caption, "exploratory", fixed = TRUE)
    words <- unlist(lapply(ggplot2::ggplot_build(plot)$data, function(layer) layer$label))
    expect_true("declared" %in% words)
    expect_identical(plot$labels$subtitle, "Declared, -5 to 5 cm: p = .026, different but within bounds")
  }
  lopsided <- autoplot(try_bounds(test_equivalence(height_study(), c(-1, 5))))
  expect_identical(bounds_axis_labels(c(2.5, NA), list(bound_low = -1, bound_high = 5)), c("-0.5 to 2.5", ""))
  expect_match(lopsided$labels$alt, "declared bounds", fixed = TRUE)
  expect_s3_class(autoplot(try_bounds(test_equivalence(height_study(), 5, "ranks"), c(2, 4))), "ggplot")
  expect_error(autoplot(answer, view = "null"), class = "vandro_error_bad_value")
})
