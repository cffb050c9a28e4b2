test_that("bars are what the others allow, in units of the last digit, cut where they leave the figure", {
  answer <- audit_numbers(
    n = c(18, 20), mean = c("22.1", "19.8"), sd = c("3.9", "3.2"), t = "2.00", df = "36", p = ".13", lower = "-0.03",
    groups = c("compost", "peat"), unit = "cm", label = "Stem height"
  )
  data <- audit_data(answer, 1)
  at <- which(answer$table$quantity == "mean_first")
  expect_relative(data$from[[at]], (answer$table$possible_from[[at]] - 22.1) / 0.1, 1e-9)
  p <- which(answer$table$quantity == "p")
  expect_true(data$off[[p]] && data$cut_low[[p]] && data$from[[p]] == -4)
  plot <- autoplot(answer)
  expect_match(plot$labels$alt, "p = .13 (the others allow .053 to .054) does not fit", fixed = TRUE)
  built <- ggplot2::ggplot_build(plot)$data
  expect_true("p  .13" %in% ggplot2::ggplot_build(plot)$layout$panel_params[[1]]$y$get_labels())
  expect_true(any(vapply(built, function(layer) any(layer$label %in% "\u25C0"), NA)))
})
