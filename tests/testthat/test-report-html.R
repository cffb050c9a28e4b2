written <- function(study, ...) {
  file <- withr::local_tempfile(fileext = ".html", .local_envir = parent.frame())
  write_report(study, file, date = "2026-03-01", ...)
  file
}

test_that("a report holds every part and nothing from outside", {
  file <- written(height_study(), title = "Seedlings", author = "Ada Reed")
  text <- paste(readLines(file, encoding = "UTF-8"), collapse = "\n")
  for (heading in c(
    "Question", "Data", "Description", "Figure", "Size of the difference, then the test", "Sentences",
    "How it was computed", "Settings"
  )) {
    expect_match(text, paste0("<h2>", heading, "</h2>"), fixed = TRUE)
  }
  expect_match(text, "compost minus peat", fixed = TRUE)
  expect_match(text, study_fingerprint(height_study()), fixed = TRUE)
  expect_match(text, as.character(utils::packageVersion("vandro")), fixed = TRUE)
  for (sentence in unclass(narrate(test_difference(height_study())))) {
    expect_match(text, gsub("<", "&lt;", sentence, fixed = TRUE), fixed = TRUE)
  }
  expect_false(grepl("https?://|<script|src=\"[^d]", text))
  expect_lt(file.size(file), 1e6)
})

test_that("the same input gives the same file", {
  page <- function() rlang::hash(readLines(written(height_study())))
  expect_identical(page(), page())
})

test_that("everything that came from the data is escaped", {
  groups <- c("<script>alert(1)</script>", "a & \"b\" 'c'")
  data <- long_data(c(1, 2, 4), c(2, 5, 7), groups)
  names(data)[[1]] <- "<b>h</b>"
  study <- versus(data, "<b>h</b>", substrate, groups = groups, unit = "<i>", label = "{x} <u>")
  file <- written(study, title = "<img src=x>", author = "</style>")
  text <- paste(readLines(file), collapse = "\n")
  body <- gsub("data:image[^\"]*", "", text)
  expect_false(grepl("<script|<b>|<i>|<u>|<img src=x", body))
  expect_length(gregexpr("</style>", body, fixed = TRUE)[[1]], 1)
  expect_match(body, "&lt;script&gt;alert(1)&lt;/script&gt;", fixed = TRUE)
})

test_that("a report from published numbers, and from a directional question, is whole", {
  text <- paste(readLines(written(published_study(), expect = "higher", beyond = 1)), collapse = "\n")
  expect_match(text, "Declared: compost is expected to be higher", fixed = TRUE)
  expect_match(text, "Bound: at least 0.33 cm", fixed = TRUE)
  expect_match(text, "the published numbers do not say", fixed = TRUE)
})

test_that("pairs, changes and several outcomes have reports of their own", {
  changes <- versus_paired(transform(conductance, ch = noon - dawn), ch, groups = c("noon", "dawn"))
  for (study in list(conductance_study(), changes, versus_paired_summary(9, mean_change = 3, sd_change = 4))) {
    text <- paste(readLines(written(study)), collapse = "\n")
    expect_match(text, "paired t test (Student 1908)", fixed = TRUE)
    expect_match(text, "Student (1908)", fixed = TRUE)
    expect_false(grepl("Welch (1947)|Biometrika 34", text))
  }
})

test_that("a report is not written where it should not be", {
  folder <- withr::local_tempdir()
  expect_error(write_report(height_study(), file.path(folder, "a.docx")), class = "vandro_error_output")
  file <- file.path(folder, "a.html")
  writeLines("mine", file)
  expect_error(write_report(height_study(), file), class = "vandro_error_file_exists")
  expect_identical(readLines(file), "mine")
  flat <- two_groups(c(1, 1), c(2, 2))
  expect_error(write_report(flat, file, overwrite = TRUE), class = "vandro_error_no_spread")
  expect_identical(readLines(file), "mine")
})
