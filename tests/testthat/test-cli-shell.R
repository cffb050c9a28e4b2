complete <- function(...) {
  script <- withr::local_tempfile(lines = c(
    bash_completion(names(cli_commands)), sprintf("COMP_WORDS=(%s)", paste(shQuote(c("vandro", ...)), collapse = " ")),
    "COMP_CWORD=$((${#COMP_WORDS[@]} - 1))", "_vandro", "printf '%s\\n' \"${COMPREPLY[@]}\""
  ))
  system2("bash", script, stdout = TRUE)
}

test_that("completion knows commands, their options, and values", {
  skip_if(!nzchar(Sys.which("bash")), "bash")
  withr::local_dir(withr::local_tempdir())
  writeLines("x", "seedlings.csv")
  expect_setequal(complete("e"), c("equivalence", "evidence", "effect"))
  expect_identical(complete("help", "eq"), "equivalence")
  expect_setequal(complete("bounds", "--wi"), "--within")
  expect_setequal(complete("difference", "f.csv", "--expect", ""), directions)
  expect_identical(complete("difference", "see"), "seedlings.csv")
  for (command in names(cli_commands)) {
    names <- vapply(cli_spec_of(command), `[[`, "", "name")
    expect_setequal(complete(command, "--"), paste0("--", names))
  }
})

test_that("zsh and fish know them too", {
  written <- function(shell) {
    withr::local_tempfile(lines = run_here("completion", "--shell", shell)$out, .local_envir = parent.frame())
  }
  zsh <- written("zsh")
  fish <- written("fish")
  spec <- cli_spec_of("difference")
  for (o in spec) {
    expect_true(any(grepl(paste0(" -l ", o$name, " "), readLines(fish), fixed = TRUE)), info = o$name)
    expect_true(any(grepl(paste0("'--", o$name, ":"), readLines(zsh), fixed = TRUE)), info = o$name)
  }
  skip_if(!nzchar(Sys.which("zsh")) || !nzchar(Sys.which("fish")), "zsh and fish")
  expect_identical(system2("zsh", c("-n", zsh)), 0L)
  typed <- sprintf("source %s; complete -C 'vandro difference f.csv --expect '", fish)
  given <- system2("fish", c("-c", shQuote(typed)), stdout = TRUE)
  expect_setequal(sub("\t.*", "", given), directions)
})

test_that("values that are completed are those that the options take", {
  known <- vapply(cli_spec(), `[[`, "", "name")
  expect_identical(setdiff(names(option_values()), known), character())
})

# Takes seconds: the whole help is set in type.
test_that("the man page holds every command, option and example", {
  lines <- manual_lines(cli_commands)
  page <- gsub("\\-", "-", paste(lines, collapse = "\n"), fixed = TRUE)
  for (command in names(cli_commands)) {
    expect_match(page, paste("vandro", command), fixed = TRUE)
    for (o in cli_spec_of(command)) expect_match(page, paste0(".B --", o$name), fixed = TRUE)
  }
  # No line of text is taken for a request.
  requests <- c(".TH", ".SH", ".SS", ".TP", ".B", ".PP", ".nf", ".fi")
  expect_true(all(sub("^([.][A-Za-z]+).*$", "\\1", grep("^[.]", lines, value = TRUE)) %in% requests))
  skip_if(!nzchar(Sys.which("man")) || nzchar(Sys.which("mandoc")), "man")
  file <- withr::local_tempfile(fileext = ".1", lines = lines)
  shown <- suppressWarnings(system2("man", c("--warnings", "-l", file), stdout = TRUE, stderr = TRUE))
  expect_false(any(grepl("warning", shown)))
})

test_that("both are printed and written by commands", {
  withr::local_dir(withr::local_tempdir())
  expect_identical(run_here("completion")$out, bash_completion(names(cli_commands)))
  expect_identical(run_here("manual", "--output", "vandro.1")$status, 0L)
  expect_identical(readLines("vandro.1"), manual_lines(cli_commands))
  expect_identical(run_here("manual", "file.csv")$status, 2L)
})
