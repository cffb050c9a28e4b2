report_of <- function(..., lines = plan_text(), env = parent.frame()) {
  folder <- withr::local_tempdir(.local_envir = env)
  plan_file(folder = folder)
  file <- plan_file(c("  report: none" = "  report: md"), ..., lines = lines, name = "b.yaml", folder = folder)
  run_quiet(file, file.path(folder, "out"))
  text <- readLines(file.path(folder, "out", "report.md"))
  gsub("\\", "", paste(text, collapse = "\n"), fixed = TRUE)
}

test_that("a report begins with what was planned, by its date and fingerprint", {
  text <- report_of()
  print <- read_plan(plan_file())$fingerprint
  expect_match(text, paste0("Declared on 2026-03-02. The plan (b.yaml) has the fingerprint ", print), fixed = TRUE)
  expect_match(text, "1 question was carried out as declared; 1 was asked in addition and is exploratory.",
    fixed = TRUE
  )
  expect_lt(regexpr("## Plan", text), regexpr("## Question", text))
  expect_match(text, "primary welch; alpha 0.05", fixed = TRUE)
  expect_match(text, "vandro run b.yaml --output results", fixed = TRUE)
})

test_that("what was not planned is marked where it stands", {
  text <- report_of(c("alpha: 0.05" = "alpha: 0.01\n      evidence: yes"),
    lines = c(plan_text(), "departs_from: plan.yaml")
  )
  part <- function(heading) sub("\n## .*$", "", sub(paste0("^.*\n## ", heading, "\n"), "", text))
  expect_match(part("Weight of evidence"), "Exploratory, in addition to the plan: the question was not declared",
    fixed = TRUE
  )
  expect_match(part("Test"), "Departs from the plan: alpha: declared 0.05, now 0.01", fixed = TRUE)
  expect_match(part("Agreement of the methods"), "Exploratory", fixed = TRUE)
  expect_false(grepl("Exploratory|Departs", part("Description")))
  expect_match(text, "It departs from the plan in plan.yaml.", fixed = TRUE)
})

test_that("without a date the report says so, and hostile words come back as themselves", {
  text <- report_of(c(
    "declared:" = "author: x", "  date: 2026-03-02" = "",
    "title: Spring trial" = "title: \"<script>alert(1)</script> *a* | b\""
  ))
  expect_match(text, "No date of declaration is on record.", fixed = TRUE)
  folder <- withr::local_tempdir()
  file <- plan_file(
    c(
      "  report: none" = "  report: html", "title: Spring trial" = "title: \"<script>alert(1)</script>\"",
      "alpha: 0.05" = "alpha: 0.05\n        expect: higher\n        reason: \"<img src=x onerror=alert(2)>\""
    ),
    folder = folder
  )
  run_quiet(file, file.path(folder, "out"))
  page <- paste(readLines(file.path(folder, "out", "report.html")), collapse = "\n")
  expect_false(grepl("<script>alert|<img src=x", page))
  expect_match(page, "&lt;script&gt;alert(1)&lt;/script&gt;", fixed = TRUE)
})

test_that("sentences on standing count and agree in number", {
  of <- function(...) standing_words(data.frame(standing = c(...)))
  expect_identical(of("planned"), "1 question was carried out as declared.")
  expect_identical(
    of("planned", "planned", "departed", "in addition", "in addition", "not run", "as a rule"),
    paste(
      "2 questions were carried out as declared; 2 were asked in addition and are exploratory; 1 departs from the",
      "plan; 1 was declared and not carried out."
    )
  )
})

# Takes seconds: a plan is run twice.
test_that("how to run it again says what the call said", {
  folder <- withr::local_tempdir()
  file <- plan_file(c("  report: none" = "  report: md"), folder = folder)
  run <- run_quiet(file, file.path(folder, "out"), instead = c(height.difference.alpha = "0.01"))
  text <- gsub("\\", "", paste(readLines(file.path(folder, "out", "report.md")), collapse = "\n"), fixed = TRUE)
  code <- regmatches(text, regexpr("run_plan\\(.*?\n", text, perl = TRUE))
  withr::local_dir(folder)
  again <- eval(parse(text = sub("results", "again", code)))
  expect_identical(as.data.frame(again), as.data.frame(run))
  expect_match(text, "--instead 'height.difference.alpha=0.01'", fixed = TRUE)
  # A question that was not run was not asked with defaults.
  rows <- data.frame(
    study = c("height", "whole plan"), question = c("evidence", "seed"), standing = c("not run", "departed")
  )
  expect_identical(question_cells(run, rows), c("", ""))
})
