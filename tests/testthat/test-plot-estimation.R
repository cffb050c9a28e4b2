drawn <- function(plot, layer) ggplot2::layer_data(plot, layer)

layer_of_geom <- function(plot, geom, which = 1) {
  is_geom <- vapply(plot$layers, function(l) inherits(l$geom, geom), NA)
  drawn(plot, which(is_geom)[[which]])
}

test_that("what is drawn equals the tables", {
  study <- height_study()
  table <- describe_study(study, level = 0.9)$table
  plot <- autoplot(study, level = 0.9)
  expect_s3_class(plot, "ggplot")
  segments <- lapply(plot$layers, function(l) if (inherits(l$geom, "GeomSegment")) l$data)
  bars <- Filter(function(d) is.data.frame(d) && "lower" %in% names(d), segments)
  expect_equal(bars[[1]]$lower, table$lower[1:2])
  expect_equal(bars[[1]]$upper, table$upper[1:2])
  expect_equal(bars[[2]]$lower - table$mean[[2]], table$lower[[3]])
  expect_equal(bars[[2]]$upper - table$mean[[2]], table$upper[[3]])
  values <- layer_of_geom(plot, "GeomPoint")
  expect_setequal(values$x, as.data.frame(study)$value)
  expect_identical(nrow(values), 47L)
})

test_that("the axis of the difference has its zero under the second mean", {
  study <- height_study()
  table <- describe_study(study)$table
  data <- estimation_data(describe_study(study), study$outcomes[[1]])
  expect_equal(data$zero, table$mean[[2]])
  expect_equal(data$gap$estimate, table$mean[[1]])
  # The second axis is the first one moved by the second mean.
  panel <- ggplot2::ggplot_build(autoplot(study))$layout$panel_params[[1]]
  expect_equal(panel$x$dimension() - panel$x.sec$dimension(), rep(table$mean[[2]], 2))
})

test_that("many values become bars that hold all of them", {
  set.seed(2)
  x <- rnorm(1000)
  bars <- histogram_bars(x, histogram_edges(x))
  counts <- bars$height / 0.4
  expect_equal(
    sum(counts) / max(counts),
    1000 / max(table(cut(x, c(bars$x, max(x)), include.lowest = TRUE, right = FALSE)))
  )
  plot <- autoplot(two_groups(x, x + 1))
  expect_true(any(vapply(plot$layers, function(l) inherits(l$geom, "GeomRect"), NA)))
})

test_that("a figure names direction, unit, bars and bound, and has a text alternative", {
  answer <- test_difference(height_study(), expect = "higher", beyond = 1)
  plot <- autoplot(answer)
  expect_match(plot$labels$caption, "means with 95%\\sintervals")
  expect_match(
    gsub("\n", " ", plot$labels$caption),
    "one-sided bound. Dashed line: the difference under the null"
  )
  expect_match(plot$labels$alt, "compost minus peat: 3.46 cm, 95% interval 1.89 to 5.02 cm", fixed = TRUE)
  outcome <- height_study()$outcomes[[1]]
  data <- estimation_data(describe_study(height_study()), outcome, answer)
  labels <- estimation_row_labels(data, answer$table, outcome, height_study())
  expect_identical(
    labels,
    c("compost\nn = 24", "peat\nn = 23", "difference\n3.46 cm\n1.89 to 5.02\nat least 2.15 cm")
  )
  expect_identical(one_sided_bound(answer$table), answer$table$at_least)
  expect_null(one_sided_bound(test_difference(height_study())$table))
})
