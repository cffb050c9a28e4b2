# Permutation tests: what may be reassigned, and which way of counting is taken.

permutation_statistics <- c("studentized", "difference", "trimmed", "median")

# Counted without being asked: a few seconds' work, p and interval together.
counted_seconds <- 4
# Assignments listed rather than counted where there are so few.
listed_at_most <- 1e6
# Bracketed p: about this long, and steps of the grid at most and at least so many over the range.
grid_seconds <- 0.5
grid_steps <- c(1e5, 1000)
# Beyond so many values not even the cost of counting sums is worth telling.
countable_values <- 10000

# What one outcome shows, by reassigning values, signs or runs of them.
permutation_inference <- function(outcome, study, method, question, call) {
  if (study$source == "summary") abort_reason("needs_measurements", outcome, study, call)
  data <- permutation_data(outcome, study, question, call)
  sample <- data$sample
  estimate <- core_permuted_estimate(sample)
  if (estimate$flat && !varies(outcome, study)) abort_reason("no_spread", outcome, study, call)
  statistic <- choose_statistic(question, data, outcome, study, call)
  if (statistic == "studentized" && !is.null(data$blocks) && estimate$se == 0) abort_flat_blocks(outcome, call)
  alphas <- c((1 - question$level) / 2, if (question$expect == "either") question$alpha / 2 else question$alpha)
  way <- choose_way(sample, estimate, statistic, question, call)
  found <- carry_out(way, sample, estimate, statistic, alphas, question)
  c(
    permutation_numbers(found, way, sample, estimate, statistic, data, outcome, study, question),
    list(
      runs = data$runs, block_count = data$blocks, statistic_kind = statistic, trims = found$trims,
      centres = group_centres(outcome, study, statistic),
      effective = data$effective
    )
  )
}

# Trimmed means or medians of both groups, for figures; NULL where means are compared, or changes alone are known.
group_centres <- function(outcome, study, statistic) {
  if (!statistic %in% c("trimmed", "median") || outcome$data$kind == "changes") return(NULL)
  vapply(sample_values(outcome, study), function(values) {
    core_trimmed_mean(values, core_trim(length(values), statistic))
  }, 0)
}

abort_flat_blocks <- function(outcome, call) {
  abort_vandro(
    c(
      "Less its block's mean, {.val {outcome$label}} does not vary within the groups: t has nothing to judge by.",
      "i" = "{.code statistic = \"difference\"} needs no spread of its own."
    ),
    "no_spread",
    outcome = outcome$name, call = call
  )
}

varies <- function(outcome, study) {
  looked <- if (is_paired(study)) 3 else 1:2
  any(vapply(outcome$moments[looked], function(m) m$max > m$min, NA))
}

# "studentized" unless declared; runs know the plain difference only. Of pairs the studentized mean orders all signs
# as the mean itself does.
choose_statistic <- function(question, data, outcome, study, call) {
  statistic <- question$statistic
  if (is.null(statistic)) statistic <- if (is.null(data$runs) || is_paired(study)) "studentized" else "difference"
  if (!is.null(data$runs) && !is_paired(study) && statistic != "difference") {
    abort_vandro(
      c(
        "Runs of values are reassigned by their sums: {.code statistic = \"difference\"}.",
        "x" = "{.arg statistic} is {.val {statistic}}."
      ),
      "contradiction",
      call = call
    )
  }
  if (!is.null(data$runs) && statistic %in% c("trimmed", "median")) {
    abort_vandro(
      c(
        "{.arg statistic} {.val {statistic}} does not go with runs: they are flipped by their sums.",
        "i" = "Leave {.arg statistic} out."
      ),
      "contradiction",
      call = call
    )
  }
  if (statistic == "studentized" && !is_paired(study) && min(outcome_sizes(outcome)) < 2) {
    abort_vandro(
      c(
        "A studentized difference of {.val {outcome$label}} needs two values in each group.",
        "i" = "{.code statistic = \"difference\"} needs one."
      ),
      "one_value",
      outcome = outcome$name, call = call
    )
  }
  statistic
}

# Sample, and how it is made: in blocks, by runs, or value by value.
permutation_data <- function(outcome, study, question, call) {
  blocked <- !is.null(study$rows$blocks) && !is_paired(study)
  if (!is.null(question$run_length)) {
    if (blocked) {
      abort_vandro(
        c("Blocks and runs cannot both restrict the reassignment.", "i" = "Leave out {.arg run_length} or the blocks."),
        "contradiction",
        call = call
      )
    }
    return(run_data(outcome, study, question, call))
  }
  values <- sample_values(outcome, study)
  effective <- series_dependence(outcome, study)
  if (is_paired(study)) {
    return(list(sample = core_flip_sample(values[[1]], values[[2]], question$beyond), effective = effective))
  }
  blocks <- if (blocked) block_labels(outcome, study, call)
  list(
    sample = core_group_sample(values[[1]], values[[2]], question$beyond, blocks[[1]], blocks[[2]]),
    blocks = if (blocked) length(unique(blocks[[1]])), effective = effective
  )
}

# Values of both groups, or both halves of pairs; ready-made changes alone.
sample_values <- function(outcome, study) {
  if (!is_paired(study)) return(lapply(1:2, function(which) outcome_group_values(outcome, which)))
  if (outcome$data$kind == "changes") return(list(outcome_group_values(outcome, 3), NULL))
  complete_pairs(outcome$data)[1:2]
}

# The block of every value; each must hold both groups.
block_labels <- function(outcome, study, call) {
  column <- study$rows$blocks
  labels <- lapply(1:2, function(which) as.character(column$values[known_rows(outcome, which)]))
  if (anyNA(unlist(labels))) {
    rows <- unlist(lapply(1:2, function(which) known_rows(outcome, which)))
    row <- min(rows[is.na(unlist(labels))])
    abort_vandro(
      c(
        "Every measurement needs a block to be reassigned within it.",
        "x" = "Block {.val {column$name}} is missing in row {row}."
      ),
      "bad_blocks",
      row = row, call = call
    )
  }
  alone <- c(setdiff(labels[[1]], labels[[2]]), setdiff(labels[[2]], labels[[1]]))
  if (length(alone) > 0) {
    abort_vandro(
      c(
        "Every block must hold both groups: in the others nothing can be reassigned.",
        "x" = "Only one group in {.val {column$name}} {.val {alone}}.",
        "i" = "Leave these rows out yourself, so that the result says so, or join blocks that belong together."
      ),
      "bad_blocks",
      blocks = alone, call = call
    )
  }
  labels
}

# --- which way --------------------------------------------------------------------------------------

# The first way that is affordable: every assignment listed, sums counted, sums on a grid, random draws. With
# `exact` one of the first two; with `draws` random ones.
choose_way <- function(sample, estimate, statistic, question, call) {
  if (isFALSE(question$exact) || (is.null(question$exact) && question$draws_given)) {
    return(drawn_way(sample, statistic, question))
  }
  ways <- exact_ways(sample, estimate, statistic, question$threads)
  seconds <- vapply(ways, `[[`, 0, "seconds")
  memory <- vapply(ways, `[[`, 0, "bytes")
  fits <- memory <= question$max_memory * 1e9
  if (isTRUE(question$exact)) return(insisted_way(ways, seconds, fits, question, call))
  quick <- which(fits & seconds <= counted_seconds)
  if (length(quick)) return(ways[[quick[[which.min(seconds[quick])]]]])
  way <- if (sums_only(sample, statistic)) grid_way(sample, estimate, question)
  if (is.null(way)) drawn_way(sample, statistic, question) else way
}

insisted_way <- function(ways, seconds, fits, question, call) {
  best <- which.min(ifelse(fits, seconds, Inf))
  if (!any(fits) || seconds[[best]] > insisted_seconds) {
    words <- cost_words(ways[[which.min(seconds)]])
    memory <- if (any(fits)) "" else ", more than {.arg max_memory} allows"
    counted <- if (length(ways) == 1 && ways[[1]]$how == "listed") {
      "Sums are counted without listing: {.code statistic = \"difference\"}."
    }
    abort_vandro(
      c(
        "{.code exact = TRUE} is out of reach here.",
        "x" = paste0("Counting all assignments would take {words}", memory, "."),
        "i" = "Leave {.arg exact} out for random draws or a bracket.", "i" = counted
      ),
      "exact_cost",
      seconds = min(seconds), call = call
    )
  }
  way <- ways[[best]]
  if (way$seconds > 1) {
    words <- cost_words(way)
    inform_vandro(c("i" = "Counting all assignments takes {words}."), "cost", seconds = way$seconds)
    way$progress <- way$how == "quarters"
  }
  way
}

# A statistic that is told by the sum of one group, or of the flipped changes.
sums_only <- function(sample, statistic) {
  statistic == "difference" || (statistic == "studentized" && core_is_flips(sample))
}

# Every exact way there is, with its cost in seconds and bytes; p and both limits together.
exact_ways <- function(sample, estimate, statistic, threads) {
  total <- exp(core_log_assignments(sample))
  n <- length(sample$values)
  sums <- sums_only(sample, statistic)
  location <- statistic %in% c("trimmed", "median")
  # Limits of trimmed means ask for every shift anew.
  each <- if (sums) 4e-8 else if (location) 70 * 4e-9 * n else 5e-8
  listed <- list(how = "listed", seconds = total * each, bytes = total)
  # Signs are listed in the bits of one number.
  if (core_is_flips(sample) && n > 62) listed$seconds <- Inf
  if (!sums) return(list(listed))
  if (total <= listed_at_most) return(list(listed))
  ways <- list(listed)
  if (sample$whole && estimate$rough > 0 && n <= countable_values) {
    ways <- c(ways, list(c(list(how = "decimals"), core_null_cost(sample, estimate))))
  }
  if (length(sample$sizes) < 2 && n <= (if (core_is_flips(sample)) 62 else 64)) {
    passes <- if (core_half_sums(sample) > 2e7) 6 else 14
    seconds <- core_half_sums(sample) * 8e-9 * passes / min(threads, 2)
    ways <- c(ways, list(list(how = "quarters", seconds = seconds, bytes = 5e7 * threads)))
  }
  ways
}

# As fine a grid as half a second allows; none where even a coarse one takes longer.
grid_way <- function(sample, estimate, question) {
  if (estimate$rough <= 0 || length(sample$values) > countable_values) return(NULL)
  z <- sample$values - sample$times * sample$beyond
  range <- if (core_is_flips(sample)) max(abs(z)) else diff(range(z))
  steps <- grid_steps[[1]]
  repeat {
    cost <- core_null_cost(sample, estimate, range / steps)
    if (cost$seconds <= grid_seconds && cost$bytes <= question$max_memory * 1e9) break
    if (steps <= grid_steps[[2]]) {
      if (cost$seconds > counted_seconds || cost$bytes > question$max_memory * 1e9) return(NULL)
      break
    }
    steps <- max(grid_steps[[2]], steps / 2)
  }
  c(list(how = "grid", step = range / steps), cost)
}

# Random assignments: as many as asked for, else what takes no more than some seconds.
drawn_way <- function(sample, statistic, question) {
  draws <- question$draws
  n <- length(sample$values)
  if (is.null(draws)) {
    draws <- if (statistic %in% c("trimmed", "median")) {
      if (n <= 2000) 9999 else 1999
    } else if (n <= 1.5e5) {
      99999
    } else {
      9999
    }
  }
  list(how = "drawn", draws = draws, seed = question$seed %||% draw_seed(), seconds = 0, bytes = 0)
}

carry_out <- function(way, sample, estimate, statistic, alphas, question) {
  draws <- way$draws %||% 0
  seed <- way$seed %||% 0
  switch(way$how,
    decimals = core_null_inference(sample, estimate, alphas),
    grid = core_null_inference(sample, estimate, alphas, way$step),
    quarters = core_quarters_inference(
      sample, estimate, alphas, question$threads, if (isTRUE(way$progress)) counting_progress(),
      fine = core_half_sums(sample) <= 2e7
    ),
    if (sums_only(sample, statistic)) {
      core_sums_inference(sample, alphas, draws, seed, question$threads)
    } else if (statistic == "studentized") {
      core_studentized_inference(sample, estimate, alphas, draws, seed, question$threads)
    } else {
      core_location_inference(sample, statistic, alphas, estimate$rough, draws, seed, question$threads)
    }
  )
}

# Tells the share of a long count now and then; several sweeps make one result.
counting_progress <- function() {
  last <- Sys.time()
  sweep <- 0
  before <- 0
  function(share) {
    if (share < before) sweep <<- sweep + 1
    before <<- share
    if (difftime(Sys.time(), last, units = "secs") < 5) return(invisible())
    last <<- Sys.time()
    inform_vandro(
      c("i" = "Counting: sweep {sweep + 1} of about 6, {round(100 * share)} % done."), "progress", share = share
    )
  }
}

# --- the answer -------------------------------------------------------------------------------------

permutation_numbers <- function(found, way, sample, estimate, statistic, data, outcome, study, question) {
  log_all <- core_log_assignments(sample)
  p <- core_permuted_p(found$low, found$high, question$expect, smallest_tails(sample, statistic, found, way))
  c(p, permutation_estimate(found, estimate, statistic, data, outcome, study, question), list(
    df = NA_real_, kind = found$kind, lower = found$lower[[1]], upper = found$upper[[1]],
    at_least = if (question$expect == "higher") found$lower[[2]] else NA_real_,
    at_most = if (question$expect == "lower") found$upper[[2]] else NA_real_,
    matched_level = if (question$expect == "either") 1 - question$alpha else 1 - 2 * question$alpha,
    matched_lower = found$lower[[2]], matched_upper = found$upper[[2]],
    counted_by = way$how, assignments = if (log_all < log(2^53)) round(exp(log_all)) else exp(min(log_all, 700)),
    log_assignments = log_all, draws = way$draws %||% NA_real_, seed = way$seed %||% NA_real_, way = way,
    simulated_range = if (way$how == "drawn") drawn_range(found, question),
    bracket = if (way$how == "grid") bracket_of_p(found, question), undecided = found$undecided %||% NA_real_,
    run_length = data$runs$length %||% NA_real_, blocks = data$blocks %||% NA_real_, widest = widest_interval(found, sample)
  ))
}

# What is estimated, with the statistic that is compared.
permutation_estimate <- function(found, estimate, statistic, data, outcome, study, question) {
  m <- outcome$moments
  plain <- if (is_paired(study)) m[[3]]$mean else core_mean_gap(m[[1]], m[[2]])
  if (statistic %in% c("trimmed", "median")) {
    return(list(
      estimand = paste0(statistic, "_difference"), estimate = found$estimate, se = NA_real_,
      statistic = found$estimate, statistic_name = "difference"
    ))
  }
  # Within blocks the difference is that within them.
  value <- if (is.null(data$blocks)) plain else estimate$estimate
  t <- if (statistic == "studentized" && is.null(data$runs)) {
    se <- if (is_paired(study)) core_paired_error(m[[3]])$se else estimate$se
    list(se = se, statistic = (value - question$beyond) / se, statistic_name = "t")
  }
  c(
    list(estimand = "mean_difference", estimate = value),
    t %||% list(se = NA_real_, statistic = value, statistic_name = "difference")
  )
}

# Logarithms of the smallest tails on either side that these values can give.
smallest_tails <- function(sample, statistic, found, way) {
  equal <- if (sums_only(sample, statistic)) {
    c(low = core_log_equal(sample, "smallest"), high = core_log_equal(sample, "largest"))
  } else {
    log(c(low = found$tied_low %||% 1, high = found$tied_high %||% 1))
  }
  tails <- pmin(equal - core_log_assignments(sample), 0)
  if (way$how == "drawn") tails <- pmax(tails, -log(way$draws + 1))
  tails
}

# Two-sided: twice the smaller tail.
side_of_p <- function(low, high, question) {
  switch(question$expect, either = pmin(1, 2 * pmin(low, high)), higher = high, lower = low)
}

# What chance leaves open about a simulated p.
drawn_range <- function(found, question) {
  ends <- function(count) core_simulated_range(count, found$total - 1)
  counts <- found$counts
  switch(question$expect,
    either = pmin(1, 2 * ends(min(counts))), higher = ends(counts[["at_least"]]), lower = ends(counts[["at_most"]])
  )
}

# Between what p lies for certain.
bracket_of_p <- function(found, question) {
  c(side_of_p(found$low$low, found$high$low, question), side_of_p(found$low$high, found$high$high, question))
}

# Where there is no interval at the level asked for: from the outermost critical shifts, with its level.
widest_interval <- function(found, sample) {
  list(
    lower = found$ends[[1]], upper = found$ends[[2]], level = if (found$total > 2) 1 - 2 / found$total else 0
  )
}

# --- series -----------------------------------------------------------------------------------------

# Correlation of neighbours in the order declared, of both groups together, and how many independent values tell as
# much; NULL without an order or with too few values.
series_dependence <- function(outcome, study) {
  if (is.null(study$rows$order)) return(NULL)
  found <- lapply(if (is_paired(study)) 3 else 1:2, function(which) {
    core_serial(ordered_values(study, outcome, which))
  })
  found <- Filter(function(one) is.null(one$reason), found)
  if (length(found) == 0) return(NULL)
  n <- vapply(found, `[[`, 0, "n")
  r <- sum(vapply(found, `[[`, 0, "r") * n) / sum(n)
  list(r = r, n = sum(n), effective_n = if (r > 0) sum(n) * (1 - r) / (1 + r) else sum(n), each = mean(n))
}

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

# --- table, detail, warnings ------------------------------------------------------------------------

# Columns that tables with a permutation test have on top; not applicable to other methods.
permutation_columns <- function(found) {
  number <- function(name, at = 1) {
    value <- found[[name]]
    if (length(value) < at || is.null(found$counted_by)) NA_real_ else as.double(value[[at]])
  }
  list(
    compared_by = found$statistic_kind %||% NA_character_, counted_by = found$counted_by %||% NA_character_,
    assignments = number("assignments"), draws = number("draws"), p_bracket_low = number("bracket", 1),
    p_bracket_high = number("bracket", 2), undecided = number("undecided"), run_length = number("run_length"),
    blocks = number("blocks")
  )
}

permutation_detail <- function(found) {
  if (is.null(found$counted_by)) return(NULL)
  found[intersect(
    c("way", "log_assignments", "runs", "block_count", "effective", "trims", "centres", "widest", "seed"), names(found)
  )]
}

# A decision that random draws, or the bracket, leave open.
warn_undecided <- function(table) {
  for (ends in list(c("p_simulated_low", "p_simulated_high"), c("p_bracket_low", "p_bracket_high"))) {
    if (!all(ends %in% names(table))) next
    low <- table[[ends[[1]]]]
    high <- table[[ends[[2]]]]
    at <- which(table$role == "primary" & !is.na(low) & low <= table$alpha & high > table$alpha)
    if (length(at) == 0) next
    at <- at[[1]]
    range <- signif(c(low[[at]], high[[at]]), 3)
    simulated <- ends[[1]] == "p_simulated_low"
    advice <- if (simulated) {
      "Take more {.arg draws}, or {.code exact = TRUE}."
    } else {
      "{.code exact = TRUE} or {.arg draws} may tell."
    }
    warn_vandro(
      c(
        "!" = "Whether p is below alpha {table$alpha[[1]]} is open: it lies between {range[[1]]} and {range[[2]]}.",
        "i" = advice
      ),
      "undecided",
      low = low[[at]], high = high[[at]]
    )
  }
}
