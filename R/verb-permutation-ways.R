# Which way of counting a permutation test takes, by what each would cost.

# Counted without being asked: a few seconds' work, p and interval together.
counted_seconds <- 4
# Assignments listed rather than counted where there are so few.
listed_at_most <- 1e6
# Half-sums of a count that is repeated until the limits are known to their last digits.
fine_half_sums <- 2e7
# Bracketed p: about this long, and steps of the grid at most and at least so many over the range.
grid_seconds <- 0.5
grid_steps <- c(1e5, 1000)
# Beyond so many values not even the cost of counting sums is worth telling.
countable_values <- 10000

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
  if (isTRUE(question$exact)) return(insisted_way(ways, seconds, fits, call))
  quick <- which(fits & seconds <= (question$seconds %||% counted_seconds))
  if (length(quick)) return(ways[[quick[[which.min(seconds[quick])]]]])
  way <- if (sums_only(sample, statistic)) grid_way(sample, estimate, question)
  if (is.null(way)) drawn_way(sample, statistic, question) else way
}

insisted_way <- function(ways, seconds, fits, call) {
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
  by_sums <- sums_only(sample, statistic)
  # Seconds for each assignment; limits of trimmed means ask for every shift anew.
  each <- if (by_sums) 4e-8 else if (statistic == "studentized") 1.7e-7 else 70 * 4e-9 * n
  listed <- list(how = "listed", seconds = total * each, bytes = total)
  # Signs are listed in the bits of one number.
  if (core_is_flips(sample) && n > 62) listed$seconds <- Inf
  if (!by_sums || total <= listed_at_most) return(list(listed))
  decimals <- if (sample$whole && estimate$rough > 0 && n <= countable_values) {
    c(list(how = "decimals"), core_null_cost(sample, estimate))
  }
  Filter(length, list(listed, decimals, quarters_way(sample, threads)))
}

# Of up to 64 values in one block, or signs of 62 changes: p, and both limits, where a count takes long no closer than
# interpolation needs.
quarters_way <- function(sample, threads) {
  if (length(sample$sizes) > 1 || length(sample$values) > (if (core_is_flips(sample)) 62 else 64)) return(NULL)
  sums <- core_half_sums(sample)
  fine <- sums <= fine_half_sums
  counts <- if (fine) 14 else 6
  list(
    how = "quarters", seconds = sums * 8e-9 * counts / min(threads, 2), bytes = 5e7 * threads, fine = fine,
    counts = counts
  )
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
  list(how = "drawn", draws = draws, seed = question$seed(), seconds = 0, bytes = 0)
}

carry_out <- function(way, sample, estimate, statistic, alphas, question) {
  draws <- way$draws %||% 0
  seed <- way$seed %||% 0
  switch(way$how,
    decimals = core_null_inference(sample, estimate, alphas),
    grid = core_null_inference(sample, estimate, alphas, way$step),
    quarters = core_quarters_inference(
      sample, estimate, alphas, question$threads, if (isTRUE(way$progress)) counting_progress(way$counts), way$fine
    ),
    if (sums_only(sample, statistic)) {
      core_sums_inference(sample, alphas, draws, seed, question$threads, draw_shares)
    } else if (statistic == "studentized") {
      core_studentized_inference(sample, estimate, alphas, draws, seed, question$threads, draw_shares)
    } else {
      core_location_inference(sample, statistic, alphas, estimate$rough, draws, seed, question$threads)
    }
  )
}

# Tells the share of a long count now and then; several counts make one result.
counting_progress <- function(counts) {
  last <- Sys.time()
  done <- 0
  before <- 0
  function(share) {
    if (share < before) done <<- done + 1
    before <<- share
    if (difftime(Sys.time(), last, units = "secs") < 5) return(invisible())
    last <<- Sys.time()
    inform_vandro(
      c("i" = "Count {done + 1} of about {counts}: {round(100 * share)} % done."), "progress", share = share
    )
  }
}
