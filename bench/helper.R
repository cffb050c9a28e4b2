# Times expressions in turn, several rounds, and prints medians and the ratio to the first one. Only
# ratios within one run mean anything: the machine's speed drifts.
side_by_side <- function(title, ..., rounds = 7) {
  tasks <- list(...)
  for (task in tasks) task()
  seconds <- replicate(rounds, vapply(tasks, function(task) {
    gc(FALSE)
    start <- proc.time()[["elapsed"]]
    task()
    proc.time()[["elapsed"]] - start
  }, 0))
  seconds <- matrix(seconds, length(tasks))
  median <- apply(seconds, 1, stats::median)
  ratio <- apply(seconds / seconds[rep(1, nrow(seconds)), ], 1, stats::median)
  cat("\n", title, "\n", sep = "")
  cat(sprintf("  %-44s %10.2f ms   x %.2f\n", names(tasks), 1000 * median, ratio), sep = "")
  keep_results(title, names(tasks), median, ratio)
  invisible(ratio)
}

# With BENCH_RESULTS set (as `make bench` does), a row for each task is put into that file.
keep_results <- function(title, tasks, seconds, ratio) {
  file <- Sys.getenv("BENCH_RESULTS")
  if (!nzchar(file)) return(invisible())
  rows <- data.frame(what = title, task = tasks, ms = signif(1000 * seconds, 3), ratio_to_first = signif(ratio, 3))
  there <- file.exists(file)
  utils::write.table(rows, file, sep = ",", row.names = FALSE, col.names = !there, append = there)
}

repeated <- function(times, task) function() for (i in seq_len(times)) task()
