# What ranks tell about one outcome, for test_difference() and gauge_effect() alike.

# Exact without being asked: about a second's work.
exact_seconds <- 1
exact_bytes <- 1e9
# Exact when insisted on: an hour, and what fits into an ordinary machine.
insisted_seconds <- 3600
insisted_bytes <- 4e9
# Assignments listed one by one for the relative effect: each takes a walk over the different values, about a
# second in all; on insistence as many as fit into memory. Draws of more values than these are not begun: t then.
listed_steps <- 5e7
insisted_steps <- 1e10
insisted_assignments <- 2e7
drawn_values <- 1e5
relative_draws <- 9999
# Below this size of a group Student's t is no longer trusted for the relative effect (Brunner & Munzel 2000).
t_needs <- 10

# Options of methods that count, from the frame of the verb that was given them; `left`: those left at their defaults.
counting_options <- function(frame) {
  names <- c("exact", "zeros", "draws", "seed", "threads", "statistic", "run_length", "max_memory")
  left <- vapply(names, function(name) eval(call("missing", as.name(name)), frame), NA)
  list(values = mget(names, envir = frame), left = names[left])
}

# Options of methods that count, refused where none of the methods knows them; NULL where no method counts. `left`:
# the names of those that were not given.
check_counting_options <- function(methods, options, left, call, joint = FALSE) {
  given <- setdiff(names(options)[!vapply(options, is.null, NA)], left)
  if (!joint && !any(counts_values(methods)) && length(given) == 0) return(NULL)
  together <- if (joint) methods[[1]]
  counting <- c(methods_where(draws = TRUE), together)
  reassigning <- methods_where(family = "reassignment")
  knows <- list(
    exact = c(methods_where(family = c("ranks", "reassignment")), together),
    zeros = methods_where(family = "ranks", design = "paired"), draws = counting, seed = counting, threads = counting,
    statistic = reassigning, run_length = reassigning, max_memory = reassigning
  )
  for (name in given) {
    if (!any(methods %in% knows[[name]])) abort_option_unused(name, methods, knows[[name]], call)
  }
  pick <- function(name, check, ...) {
    if (is.null(options[[name]])) NULL else check(options[[name]], ..., arg = name, call = call)
  }
  exact <- pick("exact", check_flag)
  if (isTRUE(exact) && "draws" %in% given && "permutation" %in% methods) {
    abort_vandro(
      c("{.code exact = TRUE} and {.arg draws} ask for two things.", "i" = "Leave out one: draws are random."),
      "contradiction",
      call = call
    )
  }
  seed <- pick("seed", check_whole, 0, 2^53)
  list(
    exact = exact, zeros = pick("zeros", check_choice, c("drop", "pratt")),
    draws = pick("draws", check_whole, 199, 1e8), draws_given = "draws" %in% given,
    seed = one_seed(seed), threads = as.integer(pick("threads", check_whole, 1, 256)),
    statistic = pick("statistic", check_choice, permutation_statistics),
    run_length = pick("run_length", check_run_length), max_memory = pick("max_memory", check_number, 1e-3, 1e4)
  )
}

# The seed of a call, drawn when it is first asked for: every outcome and method takes the one on record.
one_seed <- function(seed) {
  function() {
    if (is.null(seed)) seed <<- draw_seed()
    seed
  }
}

abort_option_unused <- function(name, methods, knowing, call) {
  abort_vandro(
    c(
      "{.arg {name}} has no meaning for method {.val {methods}}.",
      "i" = "It belongs to {.val {knowing}}. Leave it out, or name that method."
    ),
    "contradiction",
    call = call
  )
}

check_run_length <- function(run_length, arg, call) {
  if (identical(run_length, "estimate")) return(run_length)
  if (is.numeric(run_length)) return(check_whole(run_length, 1, 1e6, arg = arg, call = call))
  found <- describe_value(run_length)
  abort_vandro(
    c(
      "{.arg run_length} must be a number of neighbours or {.val estimate}.", "x" = "It is {found}.",
      "i" = "For example {.code run_length = 4}."
    ),
    "bad_value",
    arg = arg, call = call
  )
}

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

# For description beside the ranks: quartiles of groups, or of both halves and the changes.
group_quartiles <- function(outcome, study) {
  groups <- c(study$groups, if (is_paired(study)) study_direction(study))
  known <- which(!is.na(vapply(outcome$moments, `[[`, 0, "mean")))
  lapply(known, function(which) {
    list(group = groups[[which]], n = outcome$moments[[which]]$n, values = quartiles_of(outcome, which))
  })
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

# Whether the exact distribution is taken: as declared, else where it costs about a second at most.
choose_exact <- function(cost, exact, call) {
  if (is.null(exact)) return(cost$possible && cost$seconds <= exact_seconds && cost$bytes <= exact_bytes)
  if (!exact) return(FALSE)
  words <- cost_words(cost)
  if (!cost$possible || cost$seconds > insisted_seconds || cost$bytes > insisted_bytes) {
    abort_exact_cost("The exact distribution", words, call)
  }
  if (cost$seconds > exact_seconds) {
    inform_vandro(c("i" = "The exact distribution takes {words}."), "cost", seconds = cost$seconds)
  }
  TRUE
}

abort_exact_cost <- function(what, words, call) {
  abort_vandro(
    c(
      "{.code exact = TRUE} is out of reach here.",
      "x" = "{what} would take {words}.",
      "i" = "Leave {.arg exact} out: at this size the approximation serves."
    ),
    "exact_cost",
    call = call
  )
}

# "about 40 seconds and 1.2 GB of memory"
cost_words <- function(cost) {
  if (is.infinite(cost$seconds)) return("more time than can be told")
  units <- c(years = 365.25 * 86400, days = 86400, hours = 3600, minutes = 60, seconds = 1)
  unit <- which(cost$seconds >= units)[1]
  time <- if (is.na(unit)) {
    "less than a second"
  } else {
    paste("about", format_plain(signif(cost$seconds / units[[unit]], 2), digits = 2), names(units)[[unit]])
  }
  if (cost$bytes < 1e8) return(time)
  sprintf("%s and %s GB of memory", time, format_plain(signif(cost$bytes / 1e9, 2), digits = 2))
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

# What chance leaves open about a simulated p: `counts` of both tails among so many draws.
simulated_range <- function(counts, draws, question) {
  ends <- function(count) core_simulated_range(count, draws)
  p_of_tails(ends(counts[["at_most"]]), ends(counts[["at_least"]]), question)
}

# p of the question from the tails towards lower and higher values: two-sided twice the smaller.
p_of_tails <- function(low, high, question) {
  switch(question$expect, either = pmin(1, 2 * pmin(low, high)), higher = high, lower = low)
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

# What methods that count leave open, said before the answer is given.
warn_counted <- function(answer) {
  if (!is.null(answer$table$p_smallest)) warn_unattainable(answer$table)
  if (!is.null(answer$table$counted_by)) warn_undecided(answer$table)
  answer
}

# A p that cannot get below alpha whatever the data.
warn_unattainable <- function(table) {
  at <- which(table$role == "primary" & !is.na(table$p_smallest) & table$p_smallest > table$alpha)
  if (length(at) == 0) return(invisible())
  smallest <- signif(max(table$p_smallest[at]), 3)
  warn_vandro(
    c(
      "!" = "With these sizes p cannot get below {smallest}: at alpha {table$alpha[[1]]} this test can decide
        nothing.",
      "i" = "Report estimate and interval, or plan a larger study."
    ),
    "unattainable",
    smallest = smallest
  )
}
