# Words of an example as a shell would part them.
shell_words <- function(line) scan(text = line, what = "", quiet = TRUE, quote = "\"")

# Takes seconds: some sixty commands.
test_that("every example of the help runs, and its output is there", {
  withr::local_dir(withr::local_tempdir())
  file.copy(list.files(system.file("extdata", package = "vandro"), full.names = TRUE), ".")
  file.copy(list.files(system.file("examples", package = "vandro"), "yaml$", full.names = TRUE), ".")
  writeLines(sub("../extdata/", "", readLines("plan.yaml"), fixed = TRUE), "plan.yaml")
  for (command in names(cli_commands)) {
    examples <- cli_commands[[command]]$examples
    expect_gt(length(examples), 0)
    help <- run_here("help", command)$out
    expect_lte(max(nchar(help)), 80)
    shown <- gsub(" +", " ", gsub("\\\n", "", paste(help, collapse = "\n"), fixed = TRUE))
    for (example in examples) expect_match(shown, example, fixed = TRUE)
    # The demo has a test of its own.
    for (example in if (command != "demo") examples) {
      words <- shell_words(example)
      expect_identical(words[1:2], c("vandro", command))
      got <- run_here(words[-1])
      expect_identical(got$status, 0L, label = paste(example, "->", paste(got$err, collapse = " ")))
      at <- match("--output", words)
      if (is.na(at)) expect_gt(length(got$out), 0) else expect_true(file.exists(words[[at + 1]]))
    }
  }
})

test_that("every verb and declaration has its command", {
  files <- list.files(package_source(), "^cli-.*[.]R$", full.names = TRUE)
  named <- paste(grep("^#", unlist(lapply(files, readLines)), value = TRUE, invert = TRUE), collapse = " ")
  verbs <- setdiff(
    grep("^native_", getNamespaceExports("vandro"), value = TRUE, invert = TRUE),
    # Laid side by side at the command line are runs; conventions are a file there; a table of a database is none.
    # Shells need no other names of columns.
    c("vandro_command", "compare_answers", "house_conventions", "take_sample", "tidy", "glance")
  )
  missing <- Filter(function(verb) !grepl(verb, named, fixed = TRUE), verbs)
  expect_identical(missing, character())
})

test_that("help of help, and of what is not there", {
  expect_identical(run_here("help", "one", "two")$status, 2L)
  expect_identical(run_here("help", "diference")$status, 2L)
  expect_identical(run_here("difference", "--help")$out, run_here("help", "difference")$out)
})
