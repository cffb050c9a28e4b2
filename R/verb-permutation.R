# Permutation tests: what may be reassigned, and the answer. Which way of counting is taken: verb-permutation-ways.R.

# What one outcome shows, by reassigning values, signs or runs of them.
permutation_inference <- function(outcome, study, method, question, call) {
  if (!has_values(study)) abort_reason("needs_measurements", outcome, study, call)
  data <- permutation_data(outcome, study, question, call)
  sample <- data$sample
  estimate <- core_permuted_estimate(sample)
  if (estimate$flat && !varies(outcome, study)) abort_reason("no_spread", outcome, study, call)
  if (estimate$flat && is.null(data$blocks)) abort_reason("spread_lost", outcome, study, call)
  # The grid on which sums are counted has no doubles below 1e-308.
  largest <- max(abs(sample$values - sample$times * sample$beyond))
  if (largest < 1e-280) abort_reason("out_of_range", outcome, study, call)
  statistic <- choose_statistic(question, data, outcome, study, call)
  if (statistic == "studentized" && !is.null(data$blocks) && estimate$se == 0) abort_flat_blocks(outcome, call)
  alphas <- c((1 - question$level) / 2, if (question$expect == "either") question$alpha / 2 else question$alpha)
  way <- choose_way(sample, estimate, statistic, question, call)
  found <- carry_out(way, sample, estimate, statistic, alphas, question)
  c(
    permutation_numbers(found, way, sample, estimate, statistic, data, outcome, study, question),
    list(
      runs = data$runs, statistic_kind = statistic, trims = found$trims,
      centres = group_centres(outcome, study, statistic), effective = data$effective
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
      "i" = "{.code statistic = \"difference\"} needs no variance of its own."
    ),
    "no_spread",
    outcome = outcome$name, unanswered = TRUE, call = call
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
      outcome = outcome$name, unanswered = TRUE, call = call
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

abort_missing_block <- function(name, row, call) {
  abort_vandro(
    c(
      "Every measurement needs a block to be reassigned within it.",
      "x" = "Block {.val {name}} is missing in row {row}."
    ),
    "bad_blocks",
    row = row, call = call
  )
}

# The block of every value; each must hold both groups.
block_labels <- function(outcome, study, call) {
  column <- study$rows$blocks
  labels <- lapply(1:2, function(which) group_text(column$values[known_rows(outcome, which)]))
  if (anyNA(unlist(labels))) {
    rows <- unlist(lapply(1:2, function(which) known_rows(outcome, which)))
    row <- min(rows[is.na(unlist(labels))])
    abort_missing_block(column$name, row, call)
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
      blocks = alone, unanswered = TRUE, call = call
    )
  }
  labels
}

# --- the answer -------------------------------------------------------------------------------------

permutation_numbers <- function(found, way, sample, estimate, statistic, data, outcome, study, question) {
  log_all <- core_log_assignments(sample)
  p <- core_permuted_p(found$low, found$high, question$expect, smallest_tails(sample, statistic, found, way))
  c(p, permutation_estimate(found, estimate, statistic, data, outcome, study, question), list(
    df = NA_real_, kind = found$kind, lower = found$lower[[1]], upper = found$upper[[1]],
    at_least = if (question$expect == "higher") found$lower[[2]] else NA_real_,
    at_most = if (question$expect == "lower") found$upper[[2]] else NA_real_,
    matched_level = core_matched_level(question$expect, question$alpha),
    matched_lower = found$lower[[2]], matched_upper = found$upper[[2]],
    counted_by = way$how, assignments = if (log_all < log(2^53)) round(exp(log_all)) else exp(min(log_all, 700)),
    log_assignments = log_all, draws = way$draws %||% NA_real_, seed = way$seed %||% NA_real_, way = way,
    simulated_range = if (way$how == "drawn") simulated_range(found$counts, way$draws, question),
    bracket = if (way$how == "grid") bracket_of_p(found, question), undecided = found$undecided %||% NA_real_,
    run_length = data$runs$length %||% NA_real_, blocks = data$blocks %||% NA_real_, widest = widest_interval(found)
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

# Between what p lies for certain.
bracket_of_p <- function(found, question) {
  c(p_of_tails(found$low$low, found$high$low, question), p_of_tails(found$low$high, found$high$high, question))
}

# Where there is no interval at the level asked for: from the outermost critical shifts, with its level.
widest_interval <- function(found) {
  list(
    lower = found$ends[[1]], upper = found$ends[[2]],
    level = found$widest_level %||% if (found$total > 2) 1 - 2 / found$total else 0
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
    c("way", "log_assignments", "runs", "effective", "trims", "centres", "widest", "seed"), names(found)
  )]
}
