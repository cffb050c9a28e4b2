# Area under a drawn tail, by the trapezoid rule.
area <- function(part) sum(diff(part$t) * (utils::head(part$density, -1) + part$density[-1]) / 2)

test_that("the shaded share is p", {
  for (expect in c("either", "higher", "lower")) {
    study <- versus_summary(n = c(18, 20), mean = c(21.1, 19.8), sd = c(3.9, 3.2))
    row <- test_difference(study, expect = expect)$table
    data <- null_data(row)
    shaded <- sum(vapply(split(data$tails, data$tails$region), area, 0))
    beyond_axis <- sum(vapply(data$regions, function(region) {
      (if (is.infinite(region[[1]])) stats::pt(-data$reach, row$df) else 0) +
        (if (is.infinite(region[[2]])) stats::pt(-data$reach, row$df) else 0)
    }, 0))
    expect_lt(abs(shaded + beyond_axis - row$p), 1e-4)
  }
})

test_that("the observed t is drawn where it lies, or at the edge when it is beyond", {
  answer <- test_difference(height_study())
  plot <- autoplot(answer, view = "null")
  expect_identical(ggplot2::layer_data(plot, 3)$x, answer$table$statistic)
  expect_match(plot$labels$alt, "the shaded share is p < .001", fixed = TRUE)
  expect_match(plot$labels$caption, "population means of compost")
  far <- autoplot(test_difference(two_groups(c(1, 2, 3), c(101, 102, 103))), view = "null")
  expect_identical(ggplot2::layer_data(far, 3)$x, -9)
  expect_silent(ggplot2::ggplot_build(far))
})
