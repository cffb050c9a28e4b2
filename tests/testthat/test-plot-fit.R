measured <- function(code) {
  grDevices::pdf(NULL, 4, 3)
  on.exit(grDevices::dev.off())
  code
}

test_that("text too wide is broken between words, short lines stay as they are", {
  words <- "one two three four five six seven eight nine ten"
  measured({
    lines <- strsplit(wrap_measured(words, 1, 10, "plain"), "\n")[[1]]
    expect_gt(length(lines), 2)
    expect_identical(paste(lines, collapse = " "), words)
    width <- function(text) {
      grob <- grid::textGrob(text, gp = grid::gpar(fontsize = 10))
      grid::convertWidth(grid::grobWidth(grob), "inches", valueOnly = TRUE)
    }
    expect_true(all(vapply(lines, width, 0) <= 1))
    expect_identical(wrap_measured("a\nb", 1, 10, "plain"), "a\nb")
    whole <- strrep("unbreakably", 3)
    expect_identical(wrap_measured(whole, 0.3, 10, NULL), whole)
  })
  expect_identical(join_lines("a line that was broken because it was so long\nand its end"), paste(
    "a line that was broken because it was so long and its end"
  ))
  expect_identical(join_lines("Stem heights\nin March"), "Stem heights\nin March")
})

test_that("no title, subtitle, caption or axis title of any figure is wider than 85 mm", {
  study <- height_study()
  figures <- list(
    autoplot(study, base_size = 8), autoplot(study, base_size = 8, view = "points"),
    autoplot(test_difference(study, "relative"), base_size = 8), autoplot(cross_check(plots_study()), base_size = 8),
    autoplot(gauge_effect(study, "all", seed = 1), base_size = 8),
    autoplot(test_equivalence(study, 5), view = "bounds", base_size = 8),
    autoplot(test_difference(conductance_study(), "permutation"), view = "pairing", base_size = 8)
  )
  width <- 85 / 25.4
  measured(for (figure in figures) {
    fitted <- fit_plot(figure, width)$plot
    for (name in c("title", "subtitle", "caption", "x")) {
      lines <- unlist(strsplit(as.character(fitted$labels[[name]]), "\n"))
      element <- c(title = "plot.title", subtitle = "plot.subtitle", caption = "plot.caption", x = "axis.title.x")
      look <- ggplot2::calc_element(element[[name]], fitted$theme)
      for (line in lines) {
        grob <- grid::textGrob(line, gp = grid::gpar(fontsize = look$size, fontface = look$face %||% "plain"))
        expect_lt(grid::convertWidth(grid::grobWidth(grob), "inches", valueOnly = TRUE), width)
      }
    }
  })
})

test_that("a figure of someone else's is left as it is", {
  own <- ggplot2::ggplot() + ggplot2::labs(title = strrep("long ", 60))
  expect_identical(measured(fit_plot(own, 2))$plot$labels$title, own$labels$title)
})

test_that("a number stays with its sign where text is broken", {
  measured({
    lines <- strsplit(wrap_measured("all five methods agree (p < .001) and n = 24", 1.2, 10, "plain"), "\n")[[1]]
    expect_false(any(grepl("[<=]$|^[<=]", lines)))
    expect_identical(paste(lines, collapse = " "), "all five methods agree (p < .001) and n = 24")
  })
})
