full <- c(
  "  report: none" = "  report: [html, md]", "  figures: none" = "  figures: [svg]",
  "  tables: csv" = "  tables: [csv, md]"
)

test_that("a folder holds report, tables, figures, numbers and the record", {
  folder <- withr::local_tempdir()
  output <- file.path(folder, "results")
  run <- run_quiet(plan_file(full, folder = folder), output)
  held <- list.files(output, recursive = TRUE)
  expect_setequal(held, run$files)
  expect_true(all(c(
    "report.html", "report.md", "record.txt", "results.json", "runs.csv", "plan.yaml", "tables/difference.csv",
    "tables/height.md", "figures/height-paper.svg", "figures/height-difference.svg"
  ) %in% held))
  expect_identical(readLines(file.path(output, "plan.yaml")), readLines(file.path(folder, "plan.yaml")))
  back <- utils::read.csv(file.path(output, "tables/difference.csv"))
  expect_identical(back$p, as.data.frame(run$answers$height$difference)$p)
  expect_identical(back$standing, "planned")
  expect_match(paste(format(run, width = 80), collapse = "\n"), paste0("Written to ", output), fixed = TRUE)
  expect_length(list.files(folder, all.files = TRUE, no.. = TRUE), 2)
})

# Takes seconds: three runs with every kind of output.
test_that("running again gives the same bytes but for the date", {
  folder <- withr::local_tempdir()
  file <- plan_file(full, c("primary: welch" = "primary: permutation"), folder = folder)
  output <- file.path(folder, "results")
  run_quiet(file, output)
  first <- file_sums(output)
  run_quiet(file, output, overwrite = TRUE)
  expect_identical(file_sums(output), first)
  texts <- lapply(names(first), function(name) readLines(file.path(output, name), warn = FALSE))
  with_blank_figures(run_plan(file, output, overwrite = TRUE, quiet = TRUE, date = "2027-01-31"))
  again <- lapply(names(first), function(name) readLines(file.path(output, name), warn = FALSE))
  differ <- Map(function(a, b) cbind(a[a != b], b[a != b]), texts, again)
  expect_identical(names(first)[lengths(differ) > 0], c("report.html", "report.md", "results.json"))
  for (lines in differ[lengths(differ) > 0]) {
    expect_identical(gsub("2027-01-31", "2026-06-30", lines[, 2], fixed = TRUE), lines[, 1])
  }
})

test_that("a folder that is there is not replaced unasked, and never one with something else in it", {
  folder <- withr::local_tempdir()
  file <- plan_file(folder = folder)
  output <- file.path(folder, "results")
  run_quiet(file, output)
  before <- file_sums(output)
  expect_error(run_quiet(file, output), "holds an earlier run", class = "vandro_error_file_exists")
  writeLines("mine", file.path(output, "notes.txt"))
  e <- expect_error(run_quiet(file, output, overwrite = TRUE), class = "vandro_error_file_exists")
  expect_match(conditionMessage(e), "notes.txt", fixed = TRUE)
  unlink(file.path(output, "notes.txt"))
  expect_identical(file_sums(output), before)
  own <- file.path(folder, "own")
  dir.create(own)
  run_quiet(file, own)
  expect_true(file.exists(file.path(own, "results.json")))
  other <- file.path(folder, "other")
  dir.create(other)
  writeLines("{\"layout\": \"something\", \"files\": [\"a.txt\", \"results.json\"]}", file.path(other, "results.json"))
  expect_error(run_quiet(file, other, overwrite = TRUE), class = "vandro_error_file_exists")
  expect_error(run_quiet(file, file), "must be a folder", class = "vandro_error_output")
  expect_error(run_quiet(file, file.path(folder, "no", "where")), "is not there", class = "vandro_error_output")
})

test_that("a folder that may not be written to is an error before anything is computed", {
  skip_if(Sys.info()[["effective_user"]] == "root", "root may write everywhere")
  folder <- withr::local_tempdir()
  Sys.chmod(folder, "0500")
  expect_error(run_quiet(plan_file(), file.path(folder, "r")), "may not be written", class = "vandro_error_output")
})

# Takes seconds: two runs with every kind of output.
test_that("an error in the middle leaves the old folder whole and nothing beside it", {
  folder <- withr::local_tempdir()
  file <- plan_file(full, folder = folder)
  output <- file.path(folder, "results")
  run_quiet(file, output)
  before <- file_sums(output)
  run <- run_quiet(file)
  run$runs <- "no table"
  expect_error(write_run(run, output, plan_outputs(run$plan), function(...) NULL, TRUE), class = "vandro_error_output")
  expect_identical(file_sums(output), before)
  expect_length(list.files(folder, all.files = TRUE, no.. = TRUE), 2)
})

test_that("a run that was killed between the two renames is put right by the next one", {
  folder <- withr::local_tempdir()
  file <- plan_file(folder = folder)
  output <- file.path(folder, "results")
  run_quiet(file, output)
  before <- file_sums(output)
  # A process that is no more, and the names it had given.
  gone <- sprintf("%s%d-1a2b", draft_stem(), 4194305L)
  lock <- lock_of(output)
  dir.create(lock)
  writeLines(c(draft_stem(), "4194305"), file.path(lock, "owner"))
  writeLines(gone, file.path(lock, "aside"))
  file.rename(output, file.path(folder, gone))
  dir.create(file.path(folder, ".results-before"))
  expect_error(run_quiet(file, output), class = "vandro_error_file_exists")
  expect_identical(file_sums(output), before)
  # What others call by such a name stays.
  expect_setequal(list.files(folder, all.files = TRUE, no.. = TRUE), c("plan.yaml", "results", ".results-before"))
  # While another process holds the lock, nothing is touched.
  dir.create(lock)
  writeLines(c(draft_stem(), Sys.getpid()), file.path(lock, "owner"))
  recover_folder(output)
  expect_true(dir.exists(lock))
})

test_that("a folder that has come into being, or holds more, since it was looked at stays", {
  folder <- withr::local_tempdir()
  output <- file.path(folder, "results")
  appears <- function(draft) {
    writeLines("new", file.path(draft, "new.txt"))
    dir.create(output)
    writeLines("mine", file.path(output, "mine.txt"))
  }
  check <- function() refuse_held_files(output, TRUE, NULL)
  expect_error(write_whole_folder(output, appears, check = check), class = "vandro_error_file_exists")
  expect_identical(list.files(folder, all.files = TRUE, recursive = TRUE), "results/mine.txt")
  expect_error(run_quiet(plan_file(folder = folder), "/"), class = "vandro_error")
})

test_that("outputs that are not known are errors with their line", {
  e <- expect_error(run_quiet(plan_file(c("  figures: none" = "  figures: pngs"))), class = "vandro_error_plan")
  expect_identical(e$line, 19L)
  expect_match(conditionMessage(e), "Did you mean \"png\"", fixed = TRUE)
  expect_error(run_quiet(plan_file(c("  figures: none" = "  columns: 3"))), class = "vandro_error_plan")
})

test_that("every different way of asking is kept once, and told in the report", {
  folder <- withr::local_tempdir()
  output <- file.path(folder, "results")
  one <- plan_file(c("  report: none" = "  report: md"), folder = folder)
  run_quiet(one, output)
  expect_match(paste(readLines(file.path(output, "report.md")), collapse = " "), "in one way", fixed = TRUE)
  two <- plan_file(c("  report: none" = "  report: md", "primary: welch" = "primary: ranks"),
    folder = folder,
    name = "two.yaml"
  )
  run <- run_quiet(two, output, overwrite = TRUE)
  expect_identical(run$runs$asked, c("primary welch; alpha 0.05", "primary ranks; alpha 0.05"))
  text <- gsub("\\\\", "", paste(readLines(file.path(output, "report.md")), collapse = " "))
  expect_match(text, "Difference of height, 2 ways: primary welch; alpha 0.05 / primary ranks; alpha 0.05.",
    fixed = TRUE
  )
  # Running the same again, or a third time the first, adds nothing.
  expect_identical(nrow(run_quiet(one, output, overwrite = TRUE)$runs), 2L)
  back <- utils::read.csv(file.path(output, "runs.csv"), colClasses = "character")
  expect_identical(back$asked, run$runs$asked)
})

test_that("what spreadsheets would run comes back from the log as it was", {
  folder <- withr::local_tempdir()
  utils::write.csv(
    stats::setNames(seedlings[, c("height", "substrate")], c("=1+1", "substrate")), file.path(folder, "d.csv"),
    row.names = FALSE
  )
  lines <- sub("outcome: height", "outcome: \"=1+1\"", sub("seedlings: .*", "seedlings: d.csv", plan_text()))
  file <- plan_file(lines = lines, folder = folder)
  output <- file.path(folder, "results")
  run_quiet(file, output)
  again <- run_quiet(file, output, overwrite = TRUE)
  expect_identical(again$runs$outcome, "=1+1")
})

test_that("results.json holds every answer and follows its schema", {
  folder <- withr::local_tempdir()
  output <- file.path(folder, "results")
  run <- run_quiet(plan_file(c(
    "alpha: 0.05" = "alpha: 0.05\n      evidence: yes\n      equivalence: {within: 3, reason: pots}"
  ), folder = folder), output)
  found <- jsonlite::fromJSON(file.path(output, "results.json"), simplifyVector = FALSE)
  expect_identical(found$plan$fingerprint, run$plan$fingerprint)
  expect_setequal(unlist(found$files), list.files(output, recursive = TRUE))
  questions <- vapply(found$answers, `[[`, "", "question")
  # Subgroups are asked about where there are some.
  expect_setequal(questions, setdiff(names(plan_verbs), "subgroups"))
  at <- match("difference", questions)
  expect_identical(found$answers[[at]]$answer$table[[1]]$p, as.data.frame(run)$p)
  expect_identical(schema_faults(file.path(output, "results.json")), character())
})

test_that("a log that was changed is told, not forgotten", {
  folder <- withr::local_tempdir()
  file <- plan_file(folder = folder)
  run_quiet(file, file.path(folder, "out"))
  writeLines("a,b\n1,2", file.path(folder, "out", "runs.csv"))
  expect_error(
    run_quiet(file, file.path(folder, "out"), overwrite = TRUE), "log of earlier runs",
    class = "vandro_error_file"
  )
})
