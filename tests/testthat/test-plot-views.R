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

test_that("bars of values on a step are centred on the steps, in every histogram", {
  scores <- two_groups(rep(0:5, c(3, 9, 4, 1, 6, 7)), rep(0:5, 5))
  bars <- ggplot2::ggplot_build(autoplot(scores, view = "distributions"))$data[[1]]
  expect_equal(unique((bars$xmin + bars$xmax) / 2), 0:5)
  expect_equal(bars$ymax[1:6], c(3, 9, 4, 1, 6, 7))
  changes <- versus_paired(data.frame(a = c(1, 2, 3, 2, 1), b = 2), a, b)
  expect_equal(ggplot2::ggplot_build(autoplot(changes, view = "changes"))$data[[1]]$ymax, c(2, 2, 1))
  expect_null(value_step(c(0.1, 0.25, 0.31)))
  # Many values become such bars, too.
  set.seed(8)
  many <- two_groups(round(rnorm(450, 20, 2)), round(rnorm(450, 21, 2)))
  for (view in c("points", "difference")) {
    layers <- ggplot2::ggplot_build(autoplot(many, view = view))$data
    bars <- Find(function(layer) all(c("xmin", "ymax") %in% names(layer)) && nrow(layer) > 4, layers)
    expect_equal((bars$xmin + bars$xmax) / 2, round(bars$xmin + 0.5))
  }
  drawn <- test_difference(scores, "permutation", options = how(statistic = "difference"))
  bars <- permuted_null_bars(drawn, scores$outcomes[[1]])$bars
  inner <- bars$mass[bars$from > -1 & bars$to < 1]
  expect_lt(max(abs(diff(inner))), 0.03)
})

test_that("pairs run in time, and equal pairs are one thick line", {
  data <- data.frame(before = c(1, 1, 2, 5), after = c(3, 3, 1, 6))
  plot <- autoplot(quiet(versus_paired(data, before, after)), view = "pairs")
  lines <- ggplot2::ggplot_build(plot)$data[[1]]
  expect_identical(plot$scales$get_scales("x")$labels, c("before", "after"))
  expect_equal(nrow(lines), 3)
  expect_equal(lines$y[lines$x > 1.5], c(3, 1, 6))
  long <- data.frame(y = 1:6, time = factor(rep(c("dawn", "noon"), each = 3), c("noon", "dawn")), id = rep(1:3, 2))
  expect_identical(versus_paired(long, y, time, id, groups = c("dawn", "noon"))$earlier, 2L)
})

test_that("published numbers have their null distribution, made-up data say so", {
  expect_s3_class(autoplot(test_difference(published_study()), view = "null"), "ggplot")
  made <- make_up_study(suppose_world(difference = 2, sd = 3), n = 20, seed = 1)
  expect_match(autoplot(made)$labels$caption, "made up \\(seed 1\\)")
})

test_that("titles, legends and marks follow what is drawn", {
  scores <- two_groups(rep(0:5, c(3, 9, 4, 1, 6, 7)), rep(0:5, c(9, 8, 2, 1, 1, 1)))
  # Equal values form a stack with even steps.
  expect_equal(diff(spread_points(c(1, 2, 2, 2, 3))$height[2:4]), rep(0.26 / 3, 2))
  for (view in c("difference", "points", "distributions", "means")) {
    expect_identical(autoplot(scores, view = view)$labels$title, "Height: compost minus peat")
  }
  shares <- layer_values(autoplot(scores, view = "shares"), "GeomRect")
  expect_equal(tapply(shares$ymax, shares$PANEL, sum), c(100, 100), ignore_attr = TRUE)
  ranks <- test_difference(scores, "ranks")
  drawn <- ggplot2::ggplot_build(autoplot(ranks, view = "null"))$data
  limits <- unlist(ranks$table[c("critical_low", "critical_high")], use.names = FALSE)
  expect_true(any(vapply(drawn, function(layer) identical(as.numeric(layer$x), as.numeric(limits)), NA)))
  bounds <- autoplot(try_bounds(test_equivalence(versus_paired(moisture, probe_a, probe_b), 0.5)))
  expect_identical(levels(factor(bounds$scales$get_scales("colour")$palette(2))), sort(unname(
    verdict_colours[c("different", "different but within bounds")]
  )))
  outlying <- versus(first = c(1, 2, 2, 3, 20), second = c(4, 5, 5.5, 6, 7))
  marked <- ggplot2::ggplot_build(autoplot(vet_assumptions(outlying), view = "normal"))$data[[4]]
  expect_identical(marked$y, 20)
  # Effect sizes keep one order, in whatever order they were asked for.
  order_of <- function(...) effect_data(gauge_effect(scores, c(...)), scores$outcomes[[1]])$label
  expect_identical(order_of("g", "d_pooled"), order_of("d_pooled", "g"))
  # No line joins simulated sample sizes, and unequal designs are drawn side by side.
  world <- suppose_world(2, sd = 3, groups = c("a", "b"))
  some <- rehearse_study(world, n = list(c(8, 16), c(12, 12)), method = c("welch", "ranks"), draws = 100, seed = 1)
  drawn <- ggplot2::ggplot_build(autoplot(some))
  expect_identical(drawn$layout$panel_params[[1]]$x$get_labels(), c("8 + 16", "12 + 12"))
  expect_identical(nrow(ggplot2::layer_data(autoplot(some), which(geoms_of(autoplot(some)) == "GeomLine"))), 0L)
})
