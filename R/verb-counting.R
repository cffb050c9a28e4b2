# Options of methods that count, and what they leave open.

permutation_statistics <- c("studentized", "difference", "trimmed", "median")

relative_draws <- 9999

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

# Options that had a part in the result.
counting_settings <- function(counting, methods, found) {
  if (is.null(counting)) return(NULL)
  seeds <- unlist(lapply(found, `[[`, "seed"))
  drawn <- unlist(lapply(found, `[[`, "draws"))
  draws <- if (any(!is.na(drawn))) max(drawn, na.rm = TRUE) else counting$draws %||% relative_draws
  c(
    counting["exact"], if ("signed_ranks" %in% methods) counting["zeros"],
    if ("permutation" %in% methods) counting[c("statistic", "run_length", "max_memory")],
    if (any(!is.na(seeds))) list(draws = draws, seed = seeds[!is.na(seeds)][[1]])
  )
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
