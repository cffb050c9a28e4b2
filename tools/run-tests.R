# Runs the tests against the installed package; the last line counts them.
# Usage: Rscript tools/run-tests.R KERNEL_LOG
Sys.setenv(NOT_CRAN = "true") # the snapshots count too
kernel_log <- readLines(commandArgs(trailingOnly = TRUE)[[1]])
kernel_ok <- any(grepl("^(All tests passed|Passed all)", kernel_log))
results <- testthat::test_dir(
  "tests/testthat",
  package = "vandro", load_package = "installed", reporter = testthat::SummaryReporter,
  stop_on_failure = FALSE
)
counts <- as.data.frame(results)
expectations <- sum(counts$nb)
failed <- sum(counts$failed) + sum(counts$error)
skipped <- sum(counts$skipped)
if (skipped > 0) cat("Skipped:", unique(counts$test[counts$skipped]), sep = "\n  ")
passed <- expectations - sum(counts$failed) - skipped + kernel_ok
failed <- failed + !kernel_ok
cat(sprintf("%d passed, %d failed\n", as.integer(passed), as.integer(failed)))
quit(save = "no", status = if (failed > 0) 1 else 0)
