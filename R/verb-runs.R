# Series whose neighbours resemble each other: how much they tell, and runs that are reassigned whole.

# Serial correlation within the groups in the declared order, and the number of independent values that would carry as
# much information about the comparison; NULL without an order or with too few values.
series_dependence <- function(outcome, study) {
  if (is.null(study$rows$order)) return(NULL)
  found <- lapply(if (is_paired(study)) 3 else 1:2, function(which) {
    core_serial(ordered_values(study, outcome, which))
  })
  found <- Filter(function(one) is.null(one$reason), found)
  whole <- series_of(outcome, study)
  if (length(found) == 0 || !is.null(whole$reason)) return(NULL)
  n <- vapply(found, `[[`, 0, "n")
  r <- sum(vapply(found, `[[`, 0, "r") * n) / sum(n)
  list(r = r, n = sum(n), effective_n = whole$effective_n, each = mean(n))
}

# For each row, the serial correlation that its method ignores; NULL for a row without any.
ignored_dependence <- function(study, inferred) {
  ordered <- !is.null(study$rows$order) || (is_database(study) && isTRUE(study$outcomes[[1]]$data$ordered))
  if (!ordered) return(NULL)
  found <- lapply(study$outcomes, series_of, study)
  seen <- vapply(found, depends, NA, series_alpha)
  run_length <- inferred$columns$run_length
  lapply(seq_along(inferred$outcomes), function(i) {
    at <- inferred$outcomes[[i]]
    if (seen[[at]] && is.na(c(run_length, rep(NA, i))[[i]])) found[[at]]
  })
}

# An answer reports serial correlation whose p-value is at most this.
series_alpha <- 0.05

# Sums over runs of neighbours.
run_data <- function(outcome, study, question, call) {
  if (is.null(study$rows$order)) {
    abort_vandro(
      c("{.arg run_length} needs an order: declare it with {.code order = }.", "i" = "Runs are those of neighbours."),
      "needs_order",
      call = call
    )
  }
  groups <- if (is_paired(study)) 3 else 1:2
  series <- lapply(groups, function(which) one_series(outcome, study, which, call))
  effective <- series_dependence(outcome, study)
  length <- question$run_length
  estimated <- identical(length, "estimate")
  if (estimated) length <- if (is.null(effective)) 1 else core_run_length(effective$r, effective$each)
  numbers <- lapply(series, function(one) core_runs(one$n, length, one$gaps, full = !is_paired(study)))
  count <- vapply(numbers, function(run) max(0, run, na.rm = TRUE), 0)
  runs <- list(
    length = length, estimated = estimated, count = count, gaps = sum(lengths(lapply(series, `[[`, "gaps"))),
    left = sum(is.na(unlist(numbers)))
  )
  if (any(count == 0) || sum(count) < 2) abort_too_few_runs(runs, outcome, call)
  values <- sample_values(outcome, study)
  at <- lapply(series, `[[`, "at")
  sample <- if (is_paired(study)) {
    second <- if (!is.null(values[[2]])) values[[2]][at[[1]]]
    core_flip_sample(values[[1]][at[[1]]], second, question$beyond, numbers[[1]])
  } else {
    core_run_sample(values[[1]][at[[1]]], values[[2]][at[[2]]], numbers[[1]], numbers[[2]], question$beyond)
  }
  list(sample = sample, runs = runs, effective = effective)
}

# Where the values of one group stand in their order, and where it has gaps.
one_series <- function(outcome, study, which, call) {
  rows <- known_rows(outcome, which)
  position <- as.double(study$rows$order$values[rows])
  at <- order(position)
  position <- position[at]
  same <- which(diff(position) == 0)
  if (length(same) > 0) {
    pair <- rows[at[same[[1]] + 0:1]]
    abort_vandro(
      c(
        "Runs need one order: no two measurements of a group at one place.",
        "x" = "Rows {pair[[1]]} and {pair[[2]]} have the same {.val {study$rows$order$name}}.",
        "i" = "Average such measurements, or give them an order that tells them apart."
      ),
      "order",
      column = study$rows$order$name, rows = pair, call = call
    )
  }
  list(n = length(at), at = at, gaps = core_gaps(position))
}

abort_too_few_runs <- function(runs, outcome, call) {
  abort_vandro(
    c(
      "Too few runs of {runs$length} neighbours of {.val {outcome$label}} to reassign.",
      "x" = "Full runs: {runs$count}; gaps in the order that none reaches across: {runs$gaps}.",
      "i" = "Ask for a shorter {.arg run_length}."
    ),
    "too_few_runs",
    count = runs$count, call = call
  )
}
