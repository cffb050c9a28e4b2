test_that("numbers are written in the shortest form that reads back", {
  x <- c(0.1, 1 / 3, 1e-300, 123456789.123456789, -0.5, 2^-1074, 1e22, 0.1 + 0.2)
  expect_identical(as.numeric(exact_number(x)), x)
  expect_identical(exact_number(c(0.1, 24, NA)), c("0.1", "24", NA))
})

test_that("CSV carries every digit and quotes what needs it", {
  study <- two_groups(c(1, 2, 4), c(3, 4.5, 9))
  text <- export_answer(gauge_effect(study), format = "csv")
  back <- utils::read.csv(text = text)
  expect_identical(back$estimate, gauge_effect(study)$table$estimate)
  expect_identical(
    csv_quote(c("a,b", "say \"x\"", "plain", " lead")),
    c("\"a,b\"", "\"say \"\"x\"\"\"", "plain", "\" lead\"")
  )
})

test_that("JSON has the documented layout, with null for what does not apply", {
  json <- export_answer(test_difference(height_study()))
  got <- jsonlite::fromJSON(paste(json, collapse = "\n"), simplifyVector = FALSE, digits = NA)
  expect_identical(got$layout, "vandro-answer")
  expect_identical(got$layout_version, 1L)
  expect_identical(got$study$comparison, "compost minus peat")
  expect_identical(got$study$outcomes[[1]]$unit, "cm")
  expect_identical(got$study$left_out[[1]]$n, 2L)
  table <- test_difference(height_study())$table
  expect_identical(names(got$table[[1]]), names(table))
  expect_identical(got$table[[1]]$lower, table$lower)
  expect_null(got$table[[1]]$at_least)
  odd <- versus(
    long_data(1:3, c(2, 2, 9), c("a\"b", "<c>\\")), height, substrate, groups = c("a\"b", "<c>\\")
  )
  back <- jsonlite::fromJSON(paste(export_answer(describe_study(odd)), collapse = "\n"))
  expect_identical(back$study$groups, c("a\"b", "<c>\\"))
})

test_that("files take their format from their name and are not replaced unasked", {
  file <- file.path(withr::local_tempdir(), "a.csv")
  answer <- test_difference(height_study())
  expect_invisible(export_answer(answer, file))
  expect_identical(readLines(file), export_answer(answer, format = "csv"))
  expect_error(export_answer(answer, file), class = "vandro_error_file_exists")
  expect_error(export_answer(answer, "a.xyz"), class = "vandro_error_bad_value")
  expect_error(export_answer(height_study()), class = "vandro_error_not_an_answer")
})
