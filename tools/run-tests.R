# Runs the tests against the installed package and prints a line per file as it ends; the last line counts them.
# The kernels' own tests, compiled with sanitizers, are one of the jobs.
# Usage: Rscript tools/run-tests.R [PATTERN]    only files whose name contains PATTERN
Sys.setenv(NOT_CRAN = "true") # the snapshots count too
pattern <- c(commandArgs(trailingOnly = TRUE), "")[[1]]
cores <- max(1L, parallel::detectCores())

# What failed, and how many expectations passed, as a list whatever became of the job.
run_file <- function(file) {
  # Messages and bars of progress of what is tested are not the tests' own.
  aside <- file(tempfile(), "w")
  sink(aside, type = "message")
  on.exit({
    sink(type = "message")
    close(aside)
  })
  output <- utils::capture.output(results <- testthat::test_file(
    file,
    package = "vandro", load_package = "installed", reporter = testthat::SummaryReporter, stop_on_failure = FALSE
  ))
  # Counted one by one: the summary of a test forgets an error that is followed by a warning.
  kinds <- unlist(lapply(results, function(test) {
    vapply(test$results, function(expectation) class(expectation)[[1]], "")
  }))
  skipped <- vapply(results, function(test) any(vapply(test$results, inherits, NA, "expectation_skip")), NA)
  list(
    output = output, passed = sum(kinds == "expectation_success"),
    failed = sum(kinds %in% c("expectation_failure", "expectation_error")),
    warned = sum(kinds == "expectation_warning"), skipped = vapply(results[skipped], `[[`, "", "test")
  )
}

run_kernels <- function() {
  output <- suppressWarnings(system2(
    "make", c("--no-print-directory", "-f", "tests/cpp/Makefile", paste0("FILES=", shQuote(pattern))),
    stdout = TRUE, stderr = TRUE
  ))
  # Test cases are counted: some of them compare thousands of values.
  summary <- grep("^(All tests passed|Passed all)", output, value = TRUE)
  passed <- as.integer(sub("^.*?([0-9]+) test cases?.*$", "\\1", summary))
  ok <- length(passed) == 1 && is.null(attr(output, "status"))
  list(output = output, passed = if (ok) passed else 0L, failed = as.integer(!ok), warned = 0L, skipped = character())
}

run_job <- function(job) {
  started <- proc.time()[["elapsed"]]
  result <- tryCatch(if (job == "kernels") run_kernels() else run_file(job), error = function(e) {
    list(output = conditionMessage(e), passed = 0L, failed = 1L, warned = 0L, skipped = character())
  })
  seconds <- proc.time()[["elapsed"]] - started
  bad <- result$failed + result$warned > 0
  line <- sprintf("%-44s %5d passed %7.1f s", basename(job), result$passed, seconds)
  if (bad) line <- sprintf("%s  %d FAILED, %d warnings", line, result$failed, result$warned)
  writeLines(c(line, if (bad) result$output))
  result$output <- NULL
  result
}

# The longest jobs come first, so that no core waits for one at the end.
files <- list.files("tests/testthat", "^test-.*[.]R$", full.names = TRUE)
files <- grep(pattern, files, value = TRUE, fixed = TRUE)
kernel_tests <- grep(pattern, list.files("tests/cpp", "^test-.*[.]cpp$"), value = TRUE, fixed = TRUE)
slow <- "documents|crossing|properties|report-write|interrupts|cli-|study-database|examples|plan-|verb-permutation"
files <- files[order(!grepl(sub("[|]cli-.*$", "", slow), files), !grepl(slow, files), -file.size(files))]
jobs <- c(if (length(kernel_tests)) "kernels", files)
if (length(jobs) == 0) stop("No test file's name contains \"", pattern, "\".")
# What the files need is loaded once, before the jobs part ways.
if (length(files)) {
  library(testthat)
  library(vandro)
  for (name in c("ggplot2", "dbplyr", "RSQLite", "jsonlite", "htmltools", "yaml", "withr", "knitr")) {
    requireNamespace(name, quietly = TRUE)
  }
}
started <- proc.time()[["elapsed"]]
done <- parallel::mclapply(jobs, run_job, mc.cores = cores, mc.preschedule = FALSE)

whole <- vapply(done, function(one) is.list(one) && !is.null(one$passed), NA)
if (!all(whole)) cat("broke off:", basename(jobs[!whole]), "\n")
skipped <- unlist(lapply(done[whole], `[[`, "skipped"))
if (length(skipped)) cat("Skipped (make extras installs what optional tests need):", skipped, sep = "\n  ")
total <- function(field) sum(vapply(done[whole], function(one) as.integer(one[[field]]), 0L))
failed <- total("failed") + sum(!whole)
cat(sprintf("%.0f seconds\n", proc.time()[["elapsed"]] - started))
cat(sprintf("%d passed, %d failed\n", total("passed"), failed))
quit(save = "no", status = if (failed > 0) 1 else 0)
