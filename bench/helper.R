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
  invisible(ratio)
}

repeated <- function(times, task) function() for (i in seq_len(times)) task()
