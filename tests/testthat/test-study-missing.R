test_that("declared codes are missing, counted by group and value, in numbers and in text", {
  data <- data.frame(
    height = c("21.5", "n/a", "-99", "18", "17.5", "n/a", ""),
    substrate = c("compost", "compost", "compost", "peat", "peat", "peat", "compost")
  )
  study <- versus(data, height, substrate, groups = c("compost", "peat"), missing = c(-99, "n/a"))
  expect_identical(outcome_sizes(study$outcomes[[1]]), c(1, 2))
  text <- paste(format(study, width = 300), collapse = " ")
  for (part in c(
    "1 row of compost with n/a, declared missing", "1 row of compost with -99, declared missing",
    "1 row of peat with n/a, declared missing", "1 row of compost without a value"
  )) {
    expect_match(text, part, fixed = TRUE)
  }
  numbers <- versus(
    data.frame(y = c(-99, 1, 2, 3, -99), g = c("a", "a", "b", "b", "b")), y, g, missing = -99,
    groups = c("a", "b")
  )
  expect_identical(outcome_sizes(numbers$outcomes[[1]]), c(1, 2))
  refused(
    not_numeric = versus(data, height, substrate, missing = "-99", groups = c("compost", "peat")),
    bad_value = versus(data, height, substrate, missing = list(1))
  )
})

test_that("declared codes work for groups, pairs, changes and padded columns", {
  groups <- data.frame(y = 1:5, g = c("a", "a", "b", "b", "?"))
  study <- versus(groups, y, g, groups = c("a", "b"), missing = "?")
  expect_identical(study$left_out$n[study$left_out$reason == "group missing"], 1)
  pairs <- versus_paired(data.frame(x = c(1, -9, 3), y = c(2, 2, -9)), x, y, missing = -9)
  expect_identical(outcome_sizes(pairs$outcomes[[1]])[[1]], 1)
  expect_match(paste(format(pairs, width = 300), collapse = ""), "1 of these for -9 in y, declared missing")
  changes <- versus_paired(data.frame(ch = c(1, 2, -9)), ch, groups = c("a", "b"), missing = -9)
  expect_identical(changes$outcomes[[1]]$moments[[3]]$n, 2)
})

test_that("codes that occur only in rows that are not compared leave the counts right", {
  data <- data.frame(y = c(1, 2, 3, 5, -99), g = c("a", "a", "b", "b", "c"), id = c(1, 2, 1, 2, 1))
  study <- versus(data, y, g, groups = c("a", "b"), missing = -99)
  expect_identical(nrow(study$left_out), 4L)
  expect_match(paste(format(study, width = 200), collapse = ""), "1 row of c, not compared", fixed = TRUE)
  pairs <- versus_paired(data, y, g, id, groups = c("b", "a"), missing = -99)
  expect_match(paste(format(pairs, width = 200), collapse = ""), "1 row of c, not compared", fixed = TRUE)
  # Every column of the table is as long as the others.
  for (table in list(study$left_out, pairs$left_out)) expect_length(unique(lengths(unclass(table))), 1)
})

test_that("blanks at the end are padding also in a column with declared codes", {
  data <- data.frame(x = c(1, -99, 3, 4, -99, NA, NA), y = c(2, 5, 6, 7, 9, 8, 1))
  study <- quiet(versus(data, first = x, second = y, missing = -99))
  expect_identical(outcome_sizes(study$outcomes[[1]]), c(3, 7))
  text <- paste(format(study, width = 200), collapse = "")
  expect_match(text, "2 rows of x with -99, declared missing", fixed = TRUE)
  expect_false(grepl("without a value", text))
})
