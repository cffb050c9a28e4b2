geoms_of <- function(plot) vapply(plot$layers, function(l) class(l$geom)[[1]], "")

layer_values <- function(plot, geom) {
  ggplot2::layer_data(plot, which(geoms_of(plot) == geom)[[1]])
}

test_that("boxes and rings are the table's quartiles and fences", {
  study <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"), id = plant)
  table <- describe_study(study)$table
  plot <- autoplot(study, view = "points", outliers = "label")
  box <- layer_values(plot, "GeomRect")
  expect_equal(box$xmin, table$q1[1:2])
  expect_equal(box$xmax, table$q3[1:2])
  data <- points_data(describe_study(study), study$outcomes[[1]])$values
  fence <- table$q3[[1]] + 1.5 * (table$q3[[1]] - table$q1[[1]])
  expect_identical(data$label[data$outside], seedlings$plant[match(data$x[data$outside], seedlings$leaf_area)])
  expect_true(all(data$x[data$outside & data$row == 2] > fence))
  expect_setequal(data$x, as.data.frame(study)$value)
})

test_that("histograms share their breaks and hold every value", {
  values <- list(c(1, 2, 2.5, 9), c(3, 4))
  data <- distribution_data(values, c("a", "b"))
  expect_identical(data$low[data$group == "a"], data$low[data$group == "b"])
  expect_identical(tapply(data$count, data$group, sum)[["a"]], 4L)
  expect_identical(sum(data$count), 6L)
  expect_length(shared_breaks(rep(3, 5)), 2)
  bars <- layer_values(autoplot(height_study(), view = "distributions"), "GeomRect")
  expect_identical(sum(bars$ymax), 47)
})

test_that("means and changes are drawn as the table has them", {
  table <- describe_study(conductance_study(), level = 0.9)$table
  means <- layer_values(autoplot(conductance_study(), view = "means", level = 0.9), "GeomSegment")
  expect_equal(means$x, table$lower[1:2])
  expect_equal(means$xend, table$upper[1:2])
  changes <- autoplot(conductance_study(), view = "changes", beyond = 20, level = 0.9)
  bar <- layer_values(changes, "GeomSegment")
  expect_equal(c(bar$x, bar$xend), c(table$lower[[3]], table$upper[[3]]))
  expect_identical(layer_values(changes, "GeomVline")$xintercept, c(0, 20))
  expect_match(gsub("\n", " ", changes$labels$caption), "21 higher, 1 lower, 0 unchanged")
})

test_that("pairs have one line each; many become bundles that hold all of them", {
  lines <- pair_lines(conductance_study()$outcomes[[1]])
  expect_identical(nrow(lines), 22L)
  expect_identical(as.vector(table(lines$way)), c(21L, 1L, 0L))
  set.seed(1)
  x <- rnorm(5000)
  many <- versus_paired(first = x + rnorm(5000), second = x)
  bundles <- pair_lines(many$outcomes[[1]])
  expect_lt(nrow(bundles), 1600)
  expect_identical(sum(bundles$count), 5000L)
})

test_that("values stand in their declared order, thinned when they are many", {
  study <- versus_paired(moisture[48:1, ], probe_a, probe_b, order = hour)
  data <- order_data(study, study$outcomes[[1]])$data
  expect_identical(data$value[data$group == "probe_a"], moisture$probe_a)
  expect_identical(data$place[data$group == "probe_a"], as.integer(1:48))
  thin <- thinned(data.frame(place = 1:9000, value = as.double(1:9000)))
  expect_identical(nrow(thin), 300L)
  expect_equal(range(c(thin$low, thin$high)), c(1, 9000))
  expect_equal(mean(thin$value), mean(1:9000))
})

test_that("every view can be drawn, has a text alternative and takes the reader's words", {
  withr::local_pdf(NULL)
  ordered <- versus_paired(moisture, probe_a, probe_b, order = hour)
  for (view in setdiff(figure_views, "paper")) {
    plot <- autoplot(ordered, view = view, title = "Two\nprobes", caption = "", palette = c("black", "grey"))
    expect_silent(print(plot))
    expect_match(plot$labels$alt, "value|Change|change")
    expect_identical(plot$labels$title, "Two\nprobes")
    expect_null(plot$labels$caption)
  }
  expect_s3_class(autoplot(describe_study(ordered), view = "means"), "ggplot")
  expect_s3_class(autoplot(test_difference(ordered), view = "changes"), "ggplot")
})

test_that("a view that cannot be says what it needs", {
  error <- function(study, view, class) {
    expect_error(autoplot(study, view = view), class = paste0("vandro_error_", class))
  }
  error(published_study(), "points", "needs_values")
  error(height_study(), "pairs", "needs_pairs")
  error(height_study(), "changes", "needs_pairs")
  error(height_study(), "order", "needs_order")
  changes <- versus_paired(data.frame(ch = c(1, 2, 4)), ch, groups = c("b", "a"))
  error(changes, "points", "needs_values")
  expect_s3_class(autoplot(changes), "ggplot")
  withr::local_pdf(NULL)
  expect_silent(print(autoplot(versus_paired_summary(9, mean_change = 3, sd_change = 4))))
  expect_silent(print(autoplot(versus_paired_summary(9, mean = c(4, 1), sd_change = 4))))
  expect_error(autoplot(height_study(), palette = c("redd", "blue")), class = "vandro_error_bad_value")
})
