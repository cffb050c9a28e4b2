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
    "Question", "Data", "Description", "Checks", "Size of the difference", "Test", "Agreement of the methods",
    "Sentences", "What the numbers are, and are not", "How it was computed", "Settings", "How to run it again"
  )
  expect_identical(gsub("</?h2>", "", regmatches(text, gregexpr("<h2>[^<]*</h2>", text))[[1]]), headings)
  expect_match(text, "compost minus peat", fixed = TRUE)
  expect_match(text, study_fingerprint(height_study()), fixed = TRUE)
  expect_match(text, as.character(utils::packageVersion("vandro")), fixed = TRUE)
  for (sentence in unclass(narrate(test_difference(height_study())))) {
    expect_match(text, gsub("<", "&lt;", sentence, fixed = TRUE), fixed = TRUE)
  }
  expect_false(grepl("https?://|<script|src=\"[^d]", text))
  expect_lt(file.size(file), 1e6)
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

test_that("a report from published numbers, and from a directional question, is whole", {
  text <- page_text(written(published_study(), expect = "higher", beyond = 1))
  expect_match(text, "Declared: compost is expected to be higher", fixed = TRUE)
  expect_match(text, "Bound: at least 0.33 cm", fixed = TRUE)
  expect_match(text, "the published numbers do not say", fixed = TRUE)
})

test_that("pairs, changes and several outcomes have reports of their own", {
  changes <- versus_paired(transform(conductance, ch = noon - dawn), ch, groups = c("noon", "dawn"))
  for (study in list(conductance_study(), changes, versus_paired_summary(9, mean_change = 3, sd_change = 4))) {
    text <- page_text(written(study))
    expect_match(text, "paired t test (Student 1908)", fixed = TRUE)
    expect_match(text, "Student (1908)", fixed = TRUE)
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
  expect_match(text, "Checks inform, they do not choose", fixed = TRUE)
  expect_match(text, "Reason: R &amp; &lt;D&gt;.", fixed = TRUE)
  expect_match(text, "H1: </strong>", fixed = TRUE)
  expect_match(text, "the population mean of compost is higher than that of peat", fixed = TRUE)
  expect_match(text, "<th scope=\"row\">Student</th>", fixed = TRUE)
  expect_match(text, "Levene|Brown &amp; Forsythe")
  expect_match(text, "Bonett, D. G. (2008)", fixed = TRUE)
  expect_false(grepl("Pitman|Algina|Holm, S.", text))
  expect_length(gregexpr("<img ", text, fixed = TRUE)[[1]], 3)
  expect_error(written(study, metod = "welch"), class = "rlib_error_dots_nonempty")
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

# Takes seconds: two reports with equivalence.
test_that("with bounds a report tells verdict, reason, both sides and other bounds", {
  study <- height_study()
  file <- written(study, within = c(-2, 5), reason = "R & <D>", method = c("permutation", "welch"))
  text <- page_text(file)
  expect_match(text, "<h2>Equivalence</h2>", fixed = TRUE)
  expect_match(text, "Reason: </strong>\\s+R &amp; &lt;D&gt;.")
  expect_match(text, "Verdict: different but within bounds. ", fixed = TRUE)
  expect_match(text, "Schuirmann, D. J. (1987)", fixed = TRUE)
  expect_match(text, "reason for the bounds", fixed = TRUE)
  expect_match(text, "pairs of bounds. Declared: -2 to 5 cm", fixed = TRUE)
  expect_length(gregexpr("<img ", text, fixed = TRUE)[[1]], 5)
  # One seed for the difference and for both sides: both are found again from the settings.
  seed <- sub("[^0-9].*$", "", sub("^.*<th scope=\"row\">seed</th>\\s*<td class=\"text\">", "", gsub("\n", "", text)))
  again <- test_equivalence(study, c(-2, 5), "permutation", seed = as.numeric(seed))
  expect_match(text, format_p(again$table$p_high), fixed = TRUE)
  expect_false(grepl("Schuirmann", page_text(written(study))))
  refused(contradiction = written(study, within = 3, expect = "higher"), bad_bounds = written(study, within = c(3, 1)))
  claimed <- written(height_study(claim = "same"))
  expect_match(readLines(claimed), "No test of a difference can support that", fixed = TRUE, all = FALSE)
})

# Takes seconds: a report with every part.
test_that("a report tells the weight of evidence that it is given, of the same study only", {
  study <- height_study()
  file <- withr::local_tempfile(fileext = ".html")
  answer <- weigh_evidence(study, strength_words = "kass_raftery_1995", reason = "effects of one SD are usual here")
  write_report(study, file, evidence = answer)
  page <- paste(readLines(file), collapse = " ")
  has <- function(text) expect_true(grepl(text, page, fixed = TRUE), label = text)
  has("Kass, R. E.")
  has("A credible interval holds the effect")
  has("effects of one SD are usual here")
  has("347 times as probable under an effect")
  other <- weigh_evidence(height_study(c("peat", "compost")))
  expect_error(write_report(study, file, evidence = other, overwrite = TRUE), class = "vandro_error_bad_value")
  expect_error(write_report(study, file, evidence = 3, overwrite = TRUE), class = "vandro_error_bad_value")
})
