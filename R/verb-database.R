# What the verbs find where single values stay in a database.

# Rank tests from counts that the engine made: exact without ties, where that is affordable, else the normal
# approximation with ties; of two groups the chance of a higher value with its interval in place of a shift, which needs
# every pair of values.
database_rank_inference <- function(outcome, study, method, question, call) {
  signed <- method == "signed_ranks"
  data <- database_rank_data(outcome, study, question$beyond, question$zeros)
  if (!is.null(data$reason)) abort_reason(data$reason, outcome, study, call)
  counts <- data$counts
  found <- if (method == "relative") {
    core_relative_inference(counts, question$expect, question$level, question$alpha)
  } else {
    database_rank_test(counts, signed, question, call)
  }
  if (!is.null(found$reason)) abort_reason(found$reason, outcome, study, call)
  most <- if (signed) counts$total else counts$pairs
  found$statistic_name <- if (method == "relative") "t" else if (signed) "W" else "U"
  found$estimand <- if (signed) "rank_biserial" else "superiority"
  found$superiority <- if (signed) NA_real_ else counts$u / counts$pairs
  found$zeros <- if (signed) counts$zeros else NA_real_
  found$zeros_kept <- question$zeros == "pratt"
  found$tied <- counts$tied
  found$largest <- most
  found$separated <- if (method == "relative") found$separated else found$statistic %in% c(0, most)
  found$open_end <- NA_character_
  found$quartiles <- group_quartiles(outcome, study)
  found$assignments <- found$seed <- NA_real_
  found
}

# Counts of ranks, without the samples behind them.
database_rank_data <- function(outcome, study, beyond, zeros) {
  if (is_paired(study)) {
    counts <- engine_signed_counts(outcome, beyond, zeros)
    return(list(counts = counts, reason = if (counts$total == 0) "all_zero"))
  }
  counts <- engine_rank_counts(outcome, beyond)
  list(counts = counts, reason = if (counts$distinct == 1) "no_spread")
}

database_rank_test <- function(counts, signed, question, call) {
  statistic <- if (signed) counts$plus else counts$u
  most <- if (signed) counts$total else counts$pairs
  # Ends that are not known: changes stay in the database.
  size <- list(
    centre = if (signed) (counts$plus - counts$minus) / counts$total else counts$u / counts$pairs,
    lower = c(NA_real_, NA_real_), upper = c(NA_real_, NA_real_), ends = c(NA_real_, NA_real_)
  )
  if (!signed) {
    effect <- core_relative_inference(counts, question$expect, question$level, question$alpha)
    if (is.null(effect$reason)) {
      size$lower <- c(effect$lower, effect$matched_lower)
      size$upper <- c(effect$upper, effect$matched_upper)
    }
  }
  tail <- if (question$expect == "either") question$alpha / 2 else question$alpha
  alphas <- c((1 - question$level) / 2, tail)
  null <- if (database_exact(counts, signed, question, call)) {
    core_untied_null(counts, signed, alphas)
  } else {
    core_normal_null(statistic, counts$mean, counts$sd, counts$tied > 0, alphas, most)
  }
  found <- core_rank_answer(null, size, statistic, most - statistic, counts$z, question$expect, question$alpha)
  found$true_level <- NA_real_
  found
}

# With ties the exact distribution needs to know them one by one.
database_exact <- function(counts, signed, question, call) {
  if (counts$tied > 0 || (signed && counts$zeros > 0 && question$zeros == "pratt")) {
    if (isTRUE(question$exact)) abort_engine_exact(call)
    return(FALSE)
  }
  cost <- if (signed) {
    core_signed_rank_cost(counts$n - counts$zeros)
  } else {
    core_rank_sum_cost(counts$n_first, counts$n_second, FALSE)
  }
  choose_exact(cost, question$exact, call)
}

abort_engine_exact <- function(call) {
  abort_vandro(
    c(
      "With ties {.code exact = TRUE} needs single measurements, which stay in the database.",
      "i" = "Leave it out: at such sizes the approximation serves. Or take a sample: {.fn take_sample}."
    ),
    "needs_values",
    call = call
  )
}

# Counts for effect sizes of ranks.
database_rank_effects <- function(outcome, study, ask) {
  paired <- is_paired(study)
  zeros <- ask$zeros %||% "pratt"
  data <- database_rank_data(outcome, study, 0, zeros)
  if (!is.null(data$reason)) return(data)
  counts <- data$counts
  share <- if (paired) counts$plus / counts$total else counts$u / counts$pairs
  n <- if (paired) counts$n - if (zeros == "drop") counts$zeros else 0 else counts$n_first + counts$n_second
  list(
    counts = counts, n = n, divisor = sprintf("the square root of N = %s", format_plain(n, scientific = FALSE)),
    found = list(share = share, z = counts$z, centre = NA_real_)
  )
}

# --- checks -----------------------------------------------------------------------------------------
