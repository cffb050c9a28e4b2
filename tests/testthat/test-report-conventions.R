test_that("two profiles on one study give two reports that say which", {
  folder <- withr::local_tempdir()
  write <- function(house) {
    file <- file.path(folder, paste0(house$name, ".md"))
    quick_report(height_study(), file, conventions = house, date = "2026-06-30")
    gsub("\\", "", paste(readLines(file), collapse = "\n"), fixed = TRUE)
  }
  first <- write(house_conventions("House A", style = number_style(leading_zero = TRUE, decimals = 1), level = 0.9))
  second <- write(house_conventions(
    "House B",
    method = c(independent = "student"), size_words = "cohen", checks = list(check_alpha = 0.1, centre = "mean"),
    alpha = 0.01, style = number_style(decimal_mark = ",")
  ))
  expect_match(first, "This report follows \"House A\"", fixed = TRUE)
  expect_match(first, "90% CI [2.15, 4.76] for compost minus peat, Welch's t(44.5) = 4.4,", fixed = TRUE)
  expect_match(first, "p < 0.001", fixed = TRUE)
  expect_match(first, "conventions *\\|? *House A")
  expect_match(second, "This report follows \"House B\"", fixed = TRUE)
  expect_match(second, "Student's t(45) = 4,43", fixed = TRUE)
  expect_match(second, "Cohen 1988, section 2.2.3", fixed = TRUE)
  expect_match(second, "check_alpha 0,1, centre mean", fixed = TRUE)
  expect_false(grepl("Cohen 1988, section", first))
})

test_that("what a call says itself goes before the house", {
  study <- height_study()
  house <- house_conventions(level = 0.9, alpha = 0.01, method = c(independent = "student", paired = "signed_ranks"))
  expect_identical(
    conventional(list(level = 0.8), "test_difference", study, house),
    list(level = 0.8, alpha = 0.01, method = "student")
  )
  expect_identical(conventional(list(), "test_difference", conductance_study(), house)$method, "signed_ranks")
  expect_identical(conventional(list(), "describe_study", study, house), list(level = 0.9))
  expect_identical(
    conventional(list(method = "ranks"), "cross_check", study, house),
    list(method = "ranks", alpha = 0.01)
  )
  expect_identical(conventional(list(a = 1), "test_difference", study, NULL), list(a = 1))
  # Published numbers know no ranks.
  pairs <- versus_paired_summary(22, c(214, 148), c(41, 36), r = 0.62)
  expect_null(conventional(list(), "test_difference", pairs, house)$method)
  words <- house_conventions(size_words = "cohen")
  expect_identical(
    conventional(list(size_words = c(a = 1), size_source = "us"), "gauge_effect", study, words),
    list(size_words = c(a = 1), size_source = "us")
  )
})

test_that("figures follow the house for the time of a call, and no longer", {
  house <- house_conventions(figures = list(base_size = 20, palette = c("black", "grey60"), grid = FALSE))
  drawn <- with_conventions(house, NULL, autoplot(height_study()))
  expect_identical(drawn$theme$text$size, 20)
  expect_s3_class(drawn$theme$panel.grid.major.x, "element_blank")
  plain <- autoplot(height_study())
  expect_identical(plain$theme$text$size, 11)
  expect_identical(with_conventions(house, NULL, autoplot(height_study(), base_size = 8))$theme$text$size, 8)
  try(with_conventions(house, NULL, abort_vandro("no", "usage")), silent = TRUE)
  expect_null(house_look("base_size"))
})

test_that("the shipped profile is read, and a file and a call make the same", {
  house <- read_conventions(system.file("examples", "house.yaml", package = "vandro"))
  expect_identical(house$name, "Station handbook")
  file <- yaml_file(
    "conventions: 1", "name: A", "numbers: {decimals: 3, decimal_mark: \",\"}", "method: {independent: student}",
    "size_words: {slight: 0.1, clear: 0.4}", "size_source: us", "figures: {palette: [black, grey60], grid: no}"
  )
  expect_identical(read_conventions(file), house_conventions(
    "A",
    style = number_style(decimals = 3, decimal_mark = ","), method = c(independent = "student"),
    size_words = c(slight = 0.1, clear = 0.4), size_source = "us",
    figures = list(palette = c("black", "grey60"), grid = FALSE)
  ))
})

test_that("what a house cannot decide is an error", {
  bad <- function(...) expect_error(house_conventions(...), class = "vandro_error_bad_value")
  bad(level = 95)
  bad(alpha = 0.7)
  bad(method = "welch")
  bad(method = c(independent = "paired"))
  bad(method = c(blocked = "welch"))
  bad(checks = list(chekc_alpha = 0.1))
  bad(checks = list(0.1))
  bad(checks = list(centre = "mode"))
  bad(figures = list(palette = "black"))
  bad(figures = list(grid = "none"))
  bad(style = "plain")
  bad(name = 1)
  expect_error(house_conventions(size_words = c(a = 1)), class = "vandro_error_no_source")
  expect_error(quick_report(height_study(), tempfile(fileext = ".md"), conventions = "A"),
    class = "vandro_error_bad_value"
  )
})
