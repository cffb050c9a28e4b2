test_that("answers side by side are drawn with their own estimates and limits", {
  answers <- list(measured = test_difference(height_study()), published = test_difference(published_study()))
  both <- do.call(compare_answers, answers)
  data <- comparison_data(both)
  expect_identical(as.character(data$answer), names(answers))
  for (column in c("estimate", "lower", "upper")) {
    expect_identical(data[[column]], unname(vapply(answers, function(answer) answer$table[[column]], 0)))
  }
  plot <- autoplot(both)
  unwrapped <- gsub("\n", " ", plot$labels$caption)
  expect_match(unwrapped, "Dotted line: no difference. The answers are about different data", fixed = TRUE)
  expect_silent(ggplot2::ggplot_build(plot))
  sizes <- comparison_data(compare_answers(gauge_effect(height_study()), gauge_effect(height_study(), level = 0.9)))
  expect_identical(nlevels(sizes$item), 5L)
  # Chances and differences do not share an axis.
  methods <- compare_answers(test_difference(height_study()), test_difference(height_study(), "relative"))
  expect_identical(levels(comparison_data(methods)$item), c("mean difference", "superiority"))
  expect_identical(comparison_data(methods)$in_unit, c(TRUE, FALSE))
  described <- compare_answers(describe_study(height_study()), describe_study(published_study()))
  expect_error(autoplot(described), class = "vandro_error_no_figure")
})

test_that("answers about equivalence are drawn with their own bounds and verdicts", {
  probes <- versus_paired(moisture, probe_a, probe_b, unit = "%")
  answers <- list(narrow = test_equivalence(probes, 0.3), wide = test_equivalence(probes, 0.6))
  plot <- autoplot(rlang::inject(compare_answers(!!!answers)))
  layers <- ggplot2::ggplot_build(plot)$data
  strokes <- Filter(function(layer) all(c("x", "ymin") %in% names(layer)), layers)
  expect_equal(sort(unlist(lapply(strokes, `[[`, "x"))), c(-0.6, -0.3, 0.3, 0.6))
  verdicts <- Find(function(layer) "label" %in% names(layer), layers)
  expect_setequal(verdicts$label, vapply(answers, function(x) x$table$verdict, ""))
})
