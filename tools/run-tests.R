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
# Counted one by one: the summary of a test forgets an error that is followed by a warning.
kinds <- unlist(lapply(results, function(test) {
  vapply(test$results, function(expectation) class(expectation)[[1]], "")
}))
count <- function(kind) sum(kinds == paste0("expectation_", kind))
skipped <- vapply(results, function(test) {
  any(vapply(test$results, inherits, NA, "expectation_skip"))
}, NA)
if (any(skipped)) {
  cat("Skipped:", vapply(results[skipped], `[[`, "", "test"), sep = "\n  ")
}
passed <- count("success") + kernel_ok
failed <- count("failure") + count("error") + !kernel_ok
cat(sprintf("%d passed, %d failed\n", as.integer(passed), as.integer(failed)))
quit(save = "no", status = if (failed > 0) 1 else 0)
