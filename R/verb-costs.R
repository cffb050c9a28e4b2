# What exact work costs, how much of it is done unasked, and the seed of random work.

# Exact without being asked: about a second's work.
exact_seconds <- 1

exact_bytes <- 1e9

# Exact when insisted on: an hour, and what fits into an ordinary machine.
insisted_seconds <- 3600

insisted_bytes <- 4e9

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

# From R's own generator, so that set.seed() fixes it.
draw_seed <- function() as.double(sample.int(.Machine$integer.max, 1))

# The seed of a call, drawn when it is first asked for: every outcome and method takes the one on record.
one_seed <- function(seed) {
  function() {
    if (is.null(seed)) seed <<- draw_seed()
    seed
  }
}

# About 0.2 seconds of work at a time, with a bar where it takes long: draw(from, to) gives a column for each
# effect size. `weight`: what a draw costs, in measurements.
draw_in_steps <- function(draw, weight, draws) {
  pieces <- in_shares(draws, max(64, min(draws, floor(2e7 / weight))), draw, "Drawing samples")
  codes <- names(pieces[[1]])
  stats::setNames(lapply(codes, function(code) unlist(lapply(pieces, `[[`, code))), codes)
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
