# Runs the tests against the installed package, a file per process on every core; the last line counts them.
# Usage: Rscript tools/run-tests.R KERNEL_LOG
Sys.setenv(NOT_CRAN = "true") # the snapshots count too
kernel_log <- readLines(commandArgs(trailingOnly = TRUE)[[1]])
kernel_ok <- any(grepl("^(All tests passed|Passed all)", kernel_log))

run_file <- function(file) {
  started <- proc.time()[["elapsed"]]
  said <- utils::capture.output(results <- testthat::test_file(
    file,
    package = "vandro", load_package = "installed", reporter = testthat::SummaryReporter, stop_on_failure = FALSE
  ))
  # Counted one by one: the summary of a test forgets an error that is followed by a warning.
  kinds <- unlist(lapply(results, function(test) {
    vapply(test$results, function(expectation) class(expectation)[[1]], "")
  }))
  skipped <- vapply(results, function(test) {
    any(vapply(test$results, inherits, NA, "expectation_skip"))
  }, NA)
  list(
    said = said, kinds = kinds, skipped = vapply(results[skipped], `[[`, "", "test"),
    seconds = proc.time()[["elapsed"]] - started
  )
}

# The longest first, so that no core waits for it at the end.
files <- list.files("tests/testthat", "^test-.*[.]R$", full.names = TRUE)
slow <- grepl("report-(write|html|narrate)|cli-(main|table|plan)|examples", files)
files <- files[order(!slow, -file.size(files))]
done <- parallel::mclapply(files, run_file, mc.cores = max(1, parallel::detectCores()), mc.preschedule = FALSE)

whole <- vapply(done, function(one) is.list(one) && !is.null(one$said), NA)
for (i in order(files)) {
  if (!whole[[i]]) {
    cat(basename(files[[i]]), "broke off:", format(done[[i]]), "\n")
  } else if (any(grepl("failure|error|warning", done[[i]]$kinds))) {
    cat(done[[i]]$said, sep = "\n")
  } else {
    cat(sprintf("%s %d passed, %.0f s\n", basename(files[[i]]), length(done[[i]]$kinds), done[[i]]$seconds))
  }
}
skipped <- unlist(lapply(done[whole], `[[`, "skipped"))
if (length(skipped)) cat("Skipped:", skipped, sep = "\n  ")
kinds <- unlist(lapply(done[whole], `[[`, "kinds"))
count <- function(kind) sum(kinds == paste0("expectation_", kind))
passed <- count("success") + kernel_ok
failed <- count("failure") + count("error") + !kernel_ok + sum(!whole)
cat(sprintf("%d passed, %d failed\n", as.integer(passed), as.integer(failed)))
quit(save = "no", status = if (failed > 0) 1 else 0)
