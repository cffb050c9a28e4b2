# What ranks tell about one outcome, for test_difference() and gauge_effect() alike.

# Assignments listed one by one for the relative effect: each takes a walk over the different values, about a
# second in all; on insistence as many as fit into memory. Draws of more values than these are not begun: t then.
listed_steps <- 5e7
insisted_steps <- 1e10
insisted_assignments <- 2e7
drawn_values <- 1e5
# Below this size of a group Student's t is no longer trusted for the relative effect (Brunner & Munzel 2000).
t_needs <- 10

# Both samples, or the changes, sorted and in whole steps of their decimals, with their counts. `reason` where
# the study has none.
rank_data <- function(outcome, study, beyond, zeros) {
  if (study$source == "summary") return(list(reason = "needs_measurements"))
  if (is_database(study)) return(database_rank_data(outcome, study, beyond, zeros))
  if (!is_paired(study)) {
    values <- lapply(1:2, function(which) outcome_group_values(outcome, which))
    samples <- core_rank_samples(values[[1]], values[[2]], beyond)
    counts <- core_rank_counts(samples)
    return(list(samples = samples, counts = counts, reason = if (counts$distinct == 1) "no_spread"))
  }
  samples <- if (outcome$data$kind == "changes") {
    core_change_sample(outcome_group_values(outcome, 3), NULL, beyond)
  } else {
    whole <- complete_pairs(outcome$data)
    core_change_sample(whole[[1]], whole[[2]], beyond)
  }
  counts <- core_signed_counts(samples, zeros)
  list(samples = samples, counts = counts, reason = if (counts$n == counts$zeros) "all_zero")
}

# What one method finds, with what the row and the printed result need beyond the numbers.
rank_inference <- function(outcome, study, method, question, call) {
  if (is_database(study)) return(database_rank_inference(outcome, study, method, question, call))
  data <- rank_data(outcome, study, question$beyond, question$zeros)
  if (!is.null(data$reason)) abort_reason(data$reason, outcome, study, call)
  found <- if (method == "relative") {
    relative_inference(data, question, call)
  } else {
    exact_or_normal(data, method, question, call)
  }
  if (!is.null(found$reason)) abort_reason(found$reason, outcome, study, call)
  counts <- data$counts
  found$superiority <- if (method == "signed_ranks") NA_real_ else counts$u / counts$pairs
  found$zeros <- if (method == "signed_ranks") counts$zeros else NA_real_
  found$zeros_kept <- question$zeros == "pratt"
  found$tied <- counts$tied
  found$quartiles <- group_quartiles(outcome, study)
  found$open_end <- find_open_end(found, question)
  found$largest <- if (method == "signed_ranks") counts$total else counts$pairs
  if (method != "relative") found$separated <- found$statistic %in% c(0, found$largest)
  found
}

# The limit that equals the null value while the test of just that value rejects it: ties at the null value put
# it between two values of U, and the interval is open there.
find_open_end <- function(found, question) {
  if (found$estimand != "shift" || found$p > question$alpha) return(NA_character_)
  at <- c(lower = found$matched_lower, upper = found$matched_upper) == question$beyond
  c(names(which(at)), NA_character_)[[1]]
}

exact_or_normal <- function(data, method, question, call) {
  counts <- data$counts
  signed <- method == "signed_ranks"
  cost <- if (signed) {
    core_signed_rank_cost(counts$n - counts$zeros)
  } else {
    core_rank_sum_cost(counts$n_first, counts$n_second, counts$tied > 0)
  }
  exact <- choose_exact(cost, question$exact, call)
  infer <- if (signed) core_signed_rank_inference else core_rank_inference
  found <- infer(data$samples, counts, question$expect, question$level, question$alpha, exact)
  found$statistic_name <- if (signed) "W" else "U"
  found$estimand <- "shift"
  found
}

# Student's t for groups of ten and more; for smaller ones assignments, all of them where they are few enough.
relative_inference <- function(data, question, call) {
  counts <- data$counts
  sizes <- c(counts$n_first, counts$n_second)
  drawn <- NULL
  seed <- NA_real_
  small <- min(sizes) < t_needs && sum(sizes) <= drawn_values
  if (min(sizes) > 1 && !isFALSE(question$exact) && (isTRUE(question$exact) || small)) {
    many <- core_count_assignments(data$samples)
    steps <- many * counts$distinct
    if (isTRUE(question$exact) && (many > insisted_assignments || steps > insisted_steps)) {
      values <- format_plain(sum(sizes), scientific = FALSE)
      words <- sprintf("%s assignments of %s values", format_plain(many, digits = 2), values)
      abort_exact_cost("A list of all assignments", words, call)
    }
    listed <- isTRUE(question$exact) || steps <= listed_steps
    if (!listed) seed <- question$seed()
    drawn <- if (listed) {
      core_relative_assignments(data$samples)
    } else {
      core_relative_assignments(data$samples, question$draws %||% relative_draws, seed, question$threads)
    }
  }
  found <- core_relative_inference(counts, question$expect, question$level, question$alpha, drawn)
  found$statistic_name <- "t"
  found$estimand <- "superiority"
  found$seed <- seed
  found$assignments <- if (is.null(drawn)) NA_real_ else drawn$total
  if (identical(found$kind, "simulated")) found$simulated_range <- simulated_range(drawn, drawn$total, question)
  found
}

# Columns that tables with a method that counts have on top; not applicable to the others. `ranked`: whether any of
# them goes by ranks.
counted_columns <- function(found, ranked) {
  pick <- function(name, at = 1) {
    value <- found[[name]]
    if (length(value) < at) NA_real_ else as.double(value[[at]])
  }
  p <- list(
    p_smallest = pick("p_smallest"), p_simulated_low = pick("simulated_range", 1),
    p_simulated_high = pick("simulated_range", 2)
  )
  if (!ranked) return(p)
  c(list(
    superiority = pick("superiority"), z = pick("z"), statistic_opposite = pick("opposite"),
    critical_low = pick("critical_low"), critical_high = pick("critical_high"),
    tail_low = pick("tail_low"), tail_high = pick("tail_high"), level_true = pick("true_level")
  ), p, list(
    zeros = pick("zeros"), zeros_kept = if (is.na(pick("zeros"))) NA else found$zeros_kept,
    open_end = found$open_end %||% NA_character_
  ))
}

# What texts and figures need beyond the table; NULL for methods without ranks.
rank_detail <- function(found) {
  found[intersect(c("widest", "separated", "tied", "largest", "seed", "assignments", "quartiles"), names(found))]
}
