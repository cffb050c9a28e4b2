test_that("every row of the table is drawn, chances on a scale whose .5 is the null value", {
  answer <- cross_check(height_study(), beyond = 1, seed = 1)
  data <- cross_data(answer, answer$study$outcomes[[1]])
  table <- answer$table
  expect_identical(nrow(data$bars), nrow(table))
  raw <- data$bars[!data$bars$chance, ]
  expect_identical(raw$lower, table$lower[table$estimand != "superiority"])
  chance <- data$bars[data$bars$chance, ]
  expect_equal((chance$estimate - 1) / (2 * data$reach) + 0.5, table$estimate[table$estimand == "superiority"])
  expect_identical(sum(data$bars$primary), 1L)
  expect_false(anyDuplicated(data$bars$y) > 0)
})

test_that("the figure says whether it depends, and marks what is without flagged values", {
  wild <- two_groups(c(5.1, 5.4, 5.8, 6.2, 5.6, 5.9, 40), c(4.1, 4.4, 4.2, 4.9, 4.7, 4.6, 4.5))
  plot <- autoplot(cross_check(wild, flagged = "both", seed = 1))
  expect_match(plot$labels$subtitle, "The conclusion depends on the method: ")
  unwrapped <- function(plot) gsub("\n", " ", plot$labels$caption)
  expect_match(unwrapped(plot), "Rings: without the flagged values", fixed = TRUE)
  expect_silent(ggplot2::ggplot_build(plot))
  bounded <- autoplot(cross_check(conductance_study(), within = 40))
  expect_match(unwrapped(bounded), "Shaded: the declared bounds", fixed = TRUE)
  shape <- vapply(bounded$layers, function(layer) inherits(layer$geom, "GeomRect"), NA)
  region <- ggplot2::ggplot_build(bounded)$data[[which(shape)]]
  expect_identical(c(region$xmin, region$xmax), c(-40, 40))
  expect_match(bounded$labels$alt, "Paired p =", fixed = TRUE)
  # Only chances: the axis of differences has nothing to hold.
  expect_silent(ggplot2::ggplot_build(autoplot(cross_check(height_study(), c("welch", "relative")))))
})
