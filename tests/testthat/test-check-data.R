no_text <- "\xff\xfe"
in_latin1 <- function(text) `Encoding<-`(text, "latin1")

test_that("bytes that are no text are refused in every role, by the name of the column", {
  data <- data.frame(
    value = c(1.2, 2, 3.5, 4, 5.1, 6), half = c("a", "b"), key = c(1, 1, 2, 2, 3, 3), word = c("1", no_text, "3"),
    label = c("a", "a", no_text, no_text, "b", "b")
  )
  data$level <- factor(data$half, labels = c("a", no_text))
  refused <- function(code, column) {
    error <- expect_error(code, class = "vandro_error_encoding")
    expect_identical(error$column, column)
    expect_match(conditionMessage(error), "\\xff\\xfe", fixed = TRUE)
  }
  refused(versus(data, word, half), "word")
  refused(versus(data, word, half, missing = "-99"), "word")
  refused(versus(data, value, label), "label")
  refused(versus(data, value, level, groups = c("a", "b")), "level")
  refused(versus(data, first = value, second = word), "word")
  refused(versus(first = c("1", no_text), second = 1:3), "first")
  for (role in c("id", "blocks", "each", "order")) {
    refused(rlang::inject(versus(data, value, half, !!!stats::setNames("label", role))), "label")
  }
  refused(versus_paired(data, value, word), "word")
  refused(versus_paired(data, change = word), "word")
  refused(versus_paired(data, value, half, label), "label")
  refused(versus_paired(data, value, level, key), "level")
  refused(versus_paired(data, value, half, c(key, label)), "label")
  names(data)[[4]] <- no_text
  expect_error(versus(data, value, half), "\\xff\\xfe", fixed = TRUE, class = "vandro_error_encoding")
})

test_that("labels, reasons and titles are text", {
  study <- versus(first = c(1, 2, 4), second = c(2, 3, 7), groups = c("a", "b"))
  for (arg in c("unit", "label")) {
    given <- stats::setNames(list(no_text), arg)
    expect_error(do.call(versus, c(list(first = 1:3, second = 2:5), given)), class = "vandro_error_bad_value")
  }
  expect_error(versus(first = 1:3, second = 2:5, groups = c("a", no_text)), class = "vandro_error_bad_groups")
  data <- data.frame(value = 1:4, side = c("a", "b"))
  expect_error(versus(data, value, side, groups = c("a", no_text)), class = "vandro_error_bad_groups")
  expect_error(versus(data, value, side, unit = c(value = no_text)), class = "vandro_error_bad_value")
  asked <- quote(test_difference(study, expect = "higher", reason = no_text))
  expect_error(eval(asked), "\\xff\\xfe", fixed = TRUE, class = "vandro_error_bad_value")
  expect_error(read_measurements(no_text), "no text in UTF-8", class = "vandro_error_bad_value")
  own <- stats::setNames(c(0.1, 0.5), c("slight", no_text))
  expect_error(gauge_effect(study, size_words = own, size_source = "here"), class = "vandro_error_bad_value")
  file <- file.path(withr::local_tempdir(), "report.md")
  expect_error(write_report(study, file, text = no_text), class = "vandro_error_bad_value")
})

test_that("text that is marked as Latin-1 is the same text in UTF-8", {
  data <- data.frame(value = c(1.2, 2, 3.5, 4), side = c("gr\u00fcn", "rot"), word = c("1", "2", "\u00e9", "4"))
  marked <- data
  marked$side <- rep(in_latin1(c("gr\xfcn", "rot")), 2)
  marked$word[[3]] <- in_latin1("\xe9")
  names(data)[[1]] <- "H\u00f6he"
  names(marked)[[1]] <- in_latin1("H\xf6he")
  told <- function(data) {
    study <- suppressMessages(versus(data, tidyselect::all_of("H\u00f6he"), side))
    enc2utf8(format(narrate(test_difference(study))))
  }
  expect_identical(told(marked), told(data))
  expect_error(versus(marked, word, side), "Row 3 holds \"\u00e9\"", class = "vandro_error_not_numeric")
  expect_no_error(versus(marked, word, side, missing = "\u00e9", groups = c("gr\u00fcn", "rot")))
})

test_that("data kept by R, and tables of a database, are looked at as well", {
  file <- withr::local_tempfile(fileext = ".rds")
  saveRDS(data.frame(value = 1:2, side = c("a", no_text)), file)
  expect_error(read_measurements(file), "side", class = "vandro_error_encoding")
  saveRDS(data.frame(value = 1:2, side = in_latin1(c("gr\xfcn", "rot"))), file)
  expect_identical(read_measurements(file, quiet = TRUE)$side, c("gr\u00fcn", "rot"))
  con <- sqlite()
  DBI::dbExecute(con, "CREATE TABLE plots (value REAL, side TEXT, place TEXT)")
  DBI::dbExecute(con, paste(
    "INSERT INTO plots VALUES (1, 'a', 'p'), (2, 'a', 'p'), (3, 'b', 'p'), (5, 'b', 'p'),",
    "(1, 'a', CAST(X'FFFE' AS TEXT)), (7, CAST(X'FFFE' AS TEXT), 'p')"
  ))
  table <- lazy(con, "plots")
  expect_error(versus(table, value, side, groups = c("a", "b")), "side", class = "vandro_error_encoding")
  kept <- dplyr::filter(table, side %in% c("a", "b"))
  expect_error(versus(kept, value, side, groups = c("a", "b"), each = place), "place", class = "vandro_error_encoding")
  expect_no_error(versus(kept, value, side, groups = c("a", "b")))
})
