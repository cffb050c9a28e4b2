evidence_figures <- function(...) {
  answer <- weigh_evidence(height_study(), ...)
  list(answer = answer, page = autoplot(answer))
}

test_that("one page: prior and posterior above, widths below, with the table's numbers at the declared width", {
  made <- evidence_figures()
  expect_s3_class(made$page, "vandro_page")
  expect_named(made$page$plots, c("posterior", "widths"))
  row <- made$answer$table
  layers <- ggplot2::ggplot_build(made$page$plots$widths)$data
  marks <- Filter(function(d) "shape" %in% names(d) && nrow(d) == 2, layers)[[1]]
  expect_relative(sort(marks$y), sort(c(row$estimate, row$log_bf)), 1e-10)
  expect_relative(2^marks$x, rep(row$prior_half, 2), 1e-10)
  expect_match(made$page$labels$alt, "347 times", fixed = TRUE)
})

test_that("the posterior figure says who is higher on which side, and marks the null", {
  plot <- autoplot(weigh_evidence(height_study(), within = 0.3), view = "posterior")
  layers <- ggplot2::ggplot_build(plot)$data
  labels <- unlist(lapply(layers, function(d) d$label))
  expect_true(all(c("peat higher", "compost higher", "prior") %in% labels))
  nulls <- Filter(function(d) all(c("xend", "linetype") %in% names(d)) && nrow(d) == 2, layers)[[1]]
  expect_identical(nulls$x, c(-0.3, 0.3))
  one_sided <- autoplot(weigh_evidence(height_study(), expect = "higher"), view = "posterior")
  labels <- unlist(lapply(ggplot2::ggplot_build(one_sided)$data, function(d) d$label))
  expect_false("peat higher" %in% labels)
})

test_that("views, pages and files can be written", {
  made <- evidence_figures()
  file <- tempfile(fileext = ".png")
  ggplot2::ggsave(file, made$page, width = 7, height = 5)
  expect_gt(file.size(file), 10000)
  expect_s3_class(autoplot(made$answer, view = "widths"), "ggplot")
  expect_s3_class(autoplot(try_priors(made$answer)), "ggplot")
  expect_error(autoplot(made$answer, view = "bounds"), class = "vandro_error_bad_value")
})
