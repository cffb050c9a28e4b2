written <- function(study, ..., .ending = ".html") {
  file <- withr::local_tempfile(fileext = .ending, .local_envir = parent.frame())
  with_blank_figures(write_report(study, file, date = "2026-03-01", ...))
  file
}

# The page without its pictures.
page_text <- function(file) {
  text <- gsub("data:image[^\"]*", "data:image", paste(readLines(file, encoding = "UTF-8"), collapse = "\n"))
  gsub("\u00a0", " ", text, fixed = TRUE)
}

test_that("a report holds every part and nothing from outside", {
  file <- written(height_study(), title = "Seedlings", author = "Ada Reed")
  text <- page_text(file)
  headings <- c(
    "Contents", "Answer", "Question", "Data", "Description", "Checks", "Size of the difference", "Test",
    "Agreement of the methods", "Sentences", "What the numbers are, and are not", "How it was computed", "Settings",
    "How to run it again"
  )
  expect_identical(gsub("</?h2>", "", regmatches(text, gregexpr("<h2>[^<]*</h2>", text))[[1]]), headings)
  expect_match(text, "compost minus peat", fixed = TRUE)
  expect_match(text, study_fingerprint(height_study()), fixed = TRUE)
  expect_match(text, as.character(utils::packageVersion("vandro")), fixed = TRUE)
  for (sentence in unclass(narrate(test_difference(height_study())))) {
    expect_match(text, gsub("<", "&lt;", sentence, fixed = TRUE), fixed = TRUE)
  }
  expect_false(grepl("https?://(?!www.w3.org)|<script|src=\"[^d]", text, perl = TRUE))
  expect_lt(file.size(file), 1e5)
})

test_that("everything that came from the data is escaped", {
  groups <- c("<script>alert(1)</script>", "a & \"b\" 'c'")
  data <- long_data(c(1, 2, 4), c(2, 5, 7), groups)
  names(data)[[1]] <- "<b>h</b>"
  study <- versus(data, "<b>h</b>", substrate, groups = groups, unit = "<i>", label = "{x} <u>")
  file <- written(study, title = "<img src=x>", author = "</style>")
  body <- page_text(file)
  expect_false(grepl("<script|<b>|<i>|<u>|<img src=x", body))
  expect_length(gregexpr("</style>", body, fixed = TRUE)[[1]], 1)
  expect_match(body, "&lt;script&gt;alert(1)&lt;/script&gt;", fixed = TRUE)
})

test_that("pairs, changes and several outcomes have reports of their own", {
  changes <- versus_paired(transform(conductance, ch = noon - dawn), ch, groups = c("noon", "dawn"))
  for (study in list(conductance_study(), changes, versus_paired_summary(9, mean_change = 3, sd_change = 4))) {
    text <- page_text(written(study))
    expect_match(text, "paired t test (Student 1908)", fixed = TRUE)
    expect_match(text, "Student (1908)", fixed = TRUE)
    # One effect size closes the paragraph, even if the study lacks some of the usual ones.
    expect_length(gregexpr("Effect size (", sub("<h2>Question.*", "", text), fixed = TRUE)[[1]], 1)
    expect_no_match(sub("<h2>Question.*", "", text), "; d = ", fixed = TRUE)
    expect_false(grepl("Welch (1947)|Biometrika 34", text))
  }
})

test_that("a report is not written where it should not be", {
  folder <- withr::local_tempdir()
  expect_error(write_report(height_study(), file.path(folder, "a.odt")), class = "vandro_error_output")
  file <- file.path(folder, "a.html")
  writeLines("mine", file)
  expect_error(write_report(height_study(), file), class = "vandro_error_file_exists")
  expect_identical(readLines(file), "mine")
  flat <- two_groups(c(1, 1), c(2, 2))
  expect_error(write_report(flat, file, overwrite = TRUE), class = "vandro_error_no_spread")
  expect_identical(readLines(file), "mine")
})

test_that("a report holds the checks, the hypotheses, the reason and every method asked for", {
  study <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"), id = plant)
  file <- written(study, method = c("welch", "student"), expect = "higher", reason = "R & <D>", alpha = 0.01)
  text <- page_text(file)
  expect_match(text, "<h2>Checks</h2>", fixed = TRUE)
  expect_match(text, "no check changes the method", fixed = TRUE)
  expect_match(text, "Reason: R &amp; &lt;D&gt;.", fixed = TRUE)
  expect_match(text, "H1: </strong>", fixed = TRUE)
  expect_match(text, "the population mean of compost is higher than that of peat", fixed = TRUE)
  expect_match(text, "<th scope=\"row\">Student</th>", fixed = TRUE)
  expect_match(text, "Levene|Brown &amp; Forsythe")
  expect_match(text, "Bonett, D. G. (2008)", fixed = TRUE)
  expect_false(grepl("Pitman|Algina|Holm, S.", text))
  expect_length(gregexpr("<svg ", text, fixed = TRUE)[[1]], 3)
  expect_error(written(study, metod = "welch"), class = "vandro_error_unknown_argument")
})

test_that("every source a report can cite is listed in full", {
  cited <- function(text) unlist(strsplit(text, "; (interval: )?"))
  studies <- list(height_study(), conductance_study())
  sources <- unlist(lapply(studies, function(study) {
    c(
      cited(gauge_effect(study)$table$source), cited(vet_assumptions(study)$table$source),
      cited(vet_assumptions(study, centre = "mean")$table$source)
    )
  }))
  sources <- unique(sources[!is.na(sources) & grepl("[0-9]{4}$", sources)])
  expect_identical(setdiff(sources, c(names(report_sources), "Levene 1960")), character())
})

test_that("a report opens with its answer, and only checks that stand out are open", {
  page <- withr::local_tempfile(fileext = ".html")
  study <- height_study()
  quick_report(list(test_equivalence(study, 5, reason = "shelf"), weigh_evidence(study)), page)
  text <- paste(readLines(page), collapse = "\n")
  top <- sub("<h2>Question.*", "", text)
  expected <- c("small enough to lie within the bounds", "How strongly", "Verdict: ", "95% CI", "BF10", "Excluded:")
  for (part in expected) {
    expect_match(gsub("\u00a0", " ", top), part, fixed = TRUE)
  }
  expect_no_match(top, "d_average|do compost and peat differ")
  checks <- sub(".*<h2>Checks", "", sub("<h2>Size of the difference.*", "", text))
  expect_match(checks, "Nothing stands out")
  expect_match(sub(".*<details>", "", checks), "Brown-Forsythe")
  expect_no_match(sub("<details>.*", "", checks), "Brown-Forsythe")
})
