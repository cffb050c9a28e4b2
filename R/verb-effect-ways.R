# Which kind of interval an effect size gets.

check_interval <- function(interval, estimands, study, call) {
  if (is.null(interval)) return(NULL)
  interval <- check_choice(interval, asked_intervals, arg = "interval", call = call)
  knows <- vapply(estimands, function(one) interval %in% known_intervals(one, study), NA)
  if (interval == "bootstrap" || any(knows)) return(interval)
  abort_vandro(
    c(
      "None of the effect sizes asked for has an interval {.val {interval}}.",
      "x" = "Asked for: {.val {estimands}}.",
      "i" = "The help page of {.fn gauge_effect} lists the intervals of each."
    ),
    "bad_value",
    arg = "interval", value = interval, call = call
  )
}

# How the interval of an effect size is made.
effect_method <- function(estimand, study, ask) {
  if (identical(ask$interval, "bootstrap")) return("bootstrap")
  if (estimand == "mean_difference") {
    return(mean_method(study, ask$method))
  }
  known <- known_intervals(estimand, study)
  if (isTRUE(ask$interval %in% known)) ask$interval else known[[1]]
}

# Ways to an interval, the default first.
known_intervals <- function(estimand, study) {
  known <- estimand_fact(estimand, "intervals")
  if (is.null(known)) return(core_interval_methods(estimand, is_paired(study)))
  known(is_paired(study), is_database(study))
}

check_bootstrap <- function(drawn, interval, draws, seed, study, call) {
  if (!is.null(seed)) seed <- check_whole(seed, 0, 2^53, arg = "seed", call = call)
  if (!drawn) return(NULL)
  if (identical(interval, "bootstrap") && !has_values(study)) {
    abort_vandro(
      c(
        "A bootstrap needs the measurements.",
        "x" = "{no_values_sentence(study)}",
        "i" = "Leave out {.code interval = \"bootstrap\"}: the other intervals need n, mean and SD only."
      ),
      "needs_values",
      call = call
    )
  }
  list(draws = draws, seed = seed %||% draw_seed())
}

abort_no_draws <- function(call) {
  abort_vandro(
    c(
      "{.arg draws} and {.arg seed} belong to the bootstrap.",
      "i" = "Say {.code interval = \"bootstrap\"}, or leave them out: nothing else is drawn at random."
    ),
    "contradiction",
    call = call
  )
}
