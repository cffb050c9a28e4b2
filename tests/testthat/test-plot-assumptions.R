leaf_vetted <- function() {
  vet_assumptions(versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"), id = plant, unit = "cm2"))
}
probes_vetted <- function() vet_assumptions(versus_paired(moisture, probe_a, probe_b, order = hour, unit = "%"))

test_that("the quantile plot draws the ordered values inside their band", {
  answer <- leaf_vetted()
  plot <- autoplot(answer, view = "normal")
  points <- ggplot2::layer_data(plot, 3)
  values <- sort(outcome_group_values(answer$study$outcomes[[1]], 1))
  expect_identical(sort(points$y[points$PANEL == 1]), values)
  band <- ggplot2::layer_data(plot, 1)
  expect_true(all(band$ymin < band$ymax))
  expect_match(plot$labels$alt, "of 26 outside")
  expect_match(gsub("\n", " ", plot$labels$caption), "not evidence of normality")
  changes <- autoplot(probes_vetted(), view = "normal")
  expect_identical(nrow(ggplot2::layer_data(changes, 3)), 48L)
})

test_that("spread is drawn from each group's own centre, with the SDs of the table", {
  answer <- leaf_vetted()
  plot <- autoplot(answer, view = "spread")
  sd <- describe_study(answer$study)$table$sd[1:2]
  bars <- ggplot2::layer_data(plot, 4)
  expect_identical(sort(bars$xend), sort(sd))
  expect_silent(ggplot2::ggplot_build(autoplot(vet_assumptions(published_study()))$plots$spread))
})

# Takes seconds: pages of four figures each.
test_that("a page holds every view the study allows", {
  expect_named(autoplot(leaf_vetted())$plots, c("normal", "spread"))
  page <- autoplot(probes_vetted(), title = "Probes")
  expect_named(page$plots, c("normal", "spread", "order"))
  expect_match(page$labels$alt, "simultaneous 95% band")
  expect_identical(page$title, "Probes")
  expect_named(autoplot(vet_assumptions(published_study()))$plots, "spread")
  file <- withr::local_tempfile(fileext = ".pdf")
  grDevices::pdf(file)
  expect_identical(print(page), page)
  plot(leaf_vetted())
  grDevices::dev.off()
  expect_gt(file.size(file), 5000)
  saved <- withr::local_tempfile(fileext = ".png")
  ggplot2::ggsave(saved, page, width = 7, height = 5, dpi = 72)
  expect_gt(file.size(saved), 5000)
  expect_identical(page$rows, list(c("normal", "spread"), "order"))
})

test_that("views without what they need are refused", {
  expect_error(autoplot(vet_assumptions(published_study()), view = "normal"), class = "vandro_error_needs_values")
  expect_error(autoplot(leaf_vetted(), view = "order"), class = "vandro_error_needs_order")
  changes <- vet_assumptions(versus_paired_summary(9, mean_change = 3, sd_change = 4))
  refused(needs_values = autoplot(changes, view = "spread"), bad_value = autoplot(leaf_vetted(), view = "qq"))
  tiny <- autoplot(vet_assumptions(two_groups(c(1, 2), c(3, 3))), view = "normal")
  expect_match(tiny$labels$alt, "three different values")
})
