# Rank sums of two samples: U, its distribution under the null hypothesis, and the shift between the samples.

# Measurements as whole steps of their last decimal, so that ties and differences are those of the decimals;
# as they are where they are no decimals (`power` 1).
core_whole_steps <- function(parts) {
  decimals <- native_decimals(parts)
  if (decimals < 0) {
    # Rounding leaves this much between values that are equal: a change of unit must not part them.
    near <- 2^-46 * max(abs(unlist(parts)), na.rm = TRUE)
    return(list(parts = lapply(parts, as.double), power = 1, whole = FALSE, near = near))
  }
  list(parts = lapply(parts, native_whole, decimals), power = 10^decimals, whole = TRUE, near = 0)
}

# Values that lie within `near` of their neighbour as one value, the smallest of them; around 0 as 0.
core_snapped <- function(x, near) {
  if (near == 0 || length(x) == 0) return(x)
  at <- order(x)
  sorted <- x[at]
  first <- c(TRUE, diff(sorted) > near)
  x[at] <- sorted[first][cumsum(first)]
  x[abs(x) <= near] <- 0
  x
}

# The first sample less `beyond` and the second one, equal values equal.
core_shifted_samples <- function(samples) {
  first <- samples$first - samples$beyond
  if (samples$near == 0) return(list(first, samples$second))
  both <- core_snapped(c(first, samples$second), samples$near)
  list(both[seq_along(first)], both[-seq_along(first)])
}

# Both samples sorted, in steps of 1 / `power`, and `beyond` in the same steps.
core_rank_samples <- function(first, second, beyond = 0) {
  steps <- core_whole_steps(list(first, second, beyond))
  list(
    first = native_sorted(steps$parts[[1]]), second = native_sorted(steps$parts[[2]]),
    beyond = steps$parts[[3]], power = steps$power, near = steps$near
  )
}

# U of the first sample less `beyond`: pairs in which it is higher, equal ones half. `z` and `sd` given the ties,
# without continuity correction.
core_rank_counts <- function(samples) {
  shifted <- core_shifted_samples(samples)
  counts <- native_rank_counts(shifted[[1]], shifted[[2]])
  n <- counts$n_first
  m <- counts$n_second
  all <- n + m
  sd <- sqrt(n * m / 12 * max(0, (all + 1) - counts$tie_sum / (all * (all - 1))))
  # All values equal: rounding must not leave a spread.
  if (counts$distinct == 1) sd <- 0
  counts$pairs <- n * m
  c(counts, list(mean = n * m / 2, sd = sd, z = (counts$u - n * m / 2) / sd))
}

# Time in seconds and memory in bytes of the exact distribution, and whether it fits into numbers at all.
core_rank_sum_cost <- function(n_first, n_second, tied) {
  cost <- native_rank_sum_cost(n_first, n_second, tied)
  all <- n_first + n_second
  least <- min(n_first, n_second)
  bits <- if (tied) {
    half <- ceiling(all / 2)
    lchoose(half, min(least, floor(half / 2))) / log(2)
  } else {
    lchoose(all, least) / log(2)
  }
  list(
    seconds = cost[["seconds"]], bytes = cost[["bytes"]], possible = bits < if (tied) 990 else 1890
  )
}

# Tails of U at the observed value, and for each of `alphas` the limits that keep within it: `low`, the largest
# u with P(U <= u) <= alpha, and `high`; -1 and above `pairs` where there is none.
core_rank_sum_null <- function(counts, samples, exact, alphas) {
  if (!exact) return(core_normal_null(counts$u, counts$mean, counts$sd, counts$tied > 0, alphas, counts$pairs))
  shifted <- core_shifted_samples(samples)
  runs <- native_tie_runs(shifted[[1]], shifted[[2]])
  core_exact_null(native_rank_sum_null(runs, counts$n_first, counts$tied > 0, 2 * counts$u, alphas))
}

# The exact distribution where all values, or all changes but the zeros that were dropped, differ: sizes are enough.
core_untied_null <- function(counts, signed, alphas) {
  core_exact_null(core_untied_counts(counts, signed, 2 * if (signed) counts$plus else counts$u, alphas))
}

# Its cumulative probabilities.
core_untied_curve <- function(counts, signed, at) core_untied_counts(counts, signed, floor(2 * at), double())$p_low

core_untied_counts <- function(counts, signed, doubled, alphas) {
  if (signed) return(native_signed_rank_null(rep(1, counts$n - counts$zeros), 0, doubled, alphas))
  native_rank_sum_null(rep(1, counts$n_first + counts$n_second), counts$n_first, FALSE, doubled, alphas)
}

# From doubled statistics back to single ones.
core_exact_null <- function(found) {
  list(
    kind = "exact", p_low = found$p_low, p_high = found$p_high, log_low = found$log_low,
    log_high = found$log_high, low = found$limit_low / 2, high = found$limit_high / 2,
    tail_low = found$tail_low, tail_high = found$tail_high, step = found$step / 2,
    least = found$least / 2, most = found$most / 2,
    log_smallest = c(low = found$log_least, high = found$log_most)
  )
}

# The same by the normal distribution with continuity correction; `pairs` is the largest value.
core_normal_null <- function(statistic, mean, sd, halves, alphas, pairs) {
  log_low <- function(s) stats::pnorm((s + 0.5 - mean) / sd, log.p = TRUE)
  log_high <- function(s) stats::pnorm((s - 0.5 - mean) / sd, lower.tail = FALSE, log.p = TRUE)
  step <- if (halves) 0.5 else 1
  low <- floor((mean - 0.5 + sd * stats::qnorm(alphas)) / step) * step
  low <- pmax(-step, low)
  high <- pairs - low
  list(
    kind = "asymptotic", p_low = exp(log_low(statistic)), p_high = exp(log_high(statistic)),
    log_low = log_low(statistic), log_high = log_high(statistic), low = low, high = high,
    tail_low = ifelse(low < 0, 0, exp(log_low(low))), tail_high = ifelse(low < 0, 0, exp(log_high(high))),
    step = step, least = 0, most = pairs, log_smallest = c(low = log_low(0), high = log_high(pairs))
  )
}

# p for the question asked: the tail on the expected side, or twice the smaller one.
core_rank_p <- function(null, expect) {
  two <- min(0, log(2) + min(null$log_low, null$log_high))
  log_p <- switch(expect, either = two, higher = null$log_high, lower = null$log_low)
  # Small counts over small counts: the quotients are exact where those of logarithms are not.
  p <- switch(expect,
    either = min(1, 2 * min(null$p_low, null$p_high)), higher = null$p_high, lower = null$p_low
  )
  smallest <- switch(expect,
    either = min(0, log(2) + min(null$log_smallest)), higher = null$log_smallest[["high"]],
    lower = null$log_smallest[["low"]]
  )
  list(
    p = max(p, 2^-1074), log_p = log_p, p_smallest = core_smallest_p(smallest, p),
    p_two_sided = core_p_from_log(two)
  )
}

# The smallest possible p-value, from its logarithm, in a form that can be compared with alpha: the observed p-value
# where the two are equal, else one or two assignments divided by their whole number.
core_smallest_p <- function(log_p, observed) {
  smallest <- core_p_from_log(log_p)
  if (abs(smallest - observed) <= 1e-12 * observed) return(observed)
  whole <- round(c(1, 2) / smallest)
  share <- c(1, 2) / whole
  hit <- whole < 1e12 & abs(share - smallest) <= 1e-12 * smallest
  if (any(hit)) share[hit][[1]] else smallest
}

# Places, from 1, of the limits among `size` ordered pairwise values, one per alpha; NA where no place keeps
# within alpha. `total` is the largest value of the statistic.
core_limit_places <- function(null, size, total) {
  # P(statistic <= k - 1) <= alpha, k as large as can be; the same from the other end.
  upper <- floor(null$low) + 1
  lower <- floor(total - null$high) + 1
  list(lower = ifelse(lower < 1, NA, lower), upper = ifelse(upper < 1, NA, size + 1 - upper))
}

# Ordered values of all differences of two samples or, with one, all sums of two of its values, at `places`
# (NA allowed): found together, each once.
core_pairwise_at <- function(first, second, places) {
  wanted <- sort(unique(places[!is.na(places)]))
  found <- if (length(wanted) == 0) {
    double()
  } else if (is.null(second)) {
    native_pairwise(first, first, TRUE, wanted)
  } else {
    native_pairwise(first, -rev(second), FALSE, wanted)
  }
  found[match(places, wanted)]
}

# Middle of the ordered values and the limits for both alphas, in the unit of the outcome; `ends`: the least
# and the largest of them.
core_centre_and_limits <- function(first, second, places, size, ends, scale) {
  middle <- c(floor((size + 1) / 2), ceiling((size + 1) / 2))
  values <- core_pairwise_at(first, second, c(middle, places$lower, places$upper))
  if (!all(is.finite(c(ends, values[1:2])))) return(list(reason = "out_of_range"))
  centre <- if (values[[1]] == values[[2]]) values[[1]] else values[[1]] / 2 + values[[2]] / 2
  list(
    centre = centre / scale, lower = values[3:4] / scale, upper = values[5:6] / scale, ends = ends / scale,
    reason = NULL
  )
}

# Everything the ranks of two samples tell: U and its p, the shift with the interval from the same
# distribution. `exact` says which distribution.
core_rank_inference <- function(samples, counts, expect, level, alpha, exact) {
  if (counts$sd == 0) return(list(reason = "no_spread"))
  tail <- if (expect == "either") alpha / 2 else alpha
  null <- core_rank_sum_null(counts, samples, exact, c((1 - level) / 2, tail))
  places <- core_limit_places(null, counts$pairs, counts$pairs)
  x <- range(samples$first)
  y <- range(samples$second)
  shift <- core_centre_and_limits(
    samples$first, samples$second, places, counts$pairs, x - rev(y), samples$power
  )
  if (!is.null(shift$reason)) return(shift)
  core_rank_answer(null, shift, counts$u, counts$pairs - counts$u, counts$z, expect, alpha)
}

core_rank_answer <- function(null, shift, statistic, opposite, z, expect, alpha) {
  p <- core_rank_p(null, expect)
  # Of signed ranks limits come from shifts without zeros, whose distribution is another one.
  limits <- if (is.null(shift$null)) null else shift$null
  widest <- 1 - exp(limits$log_smallest[["low"]]) - exp(limits$log_smallest[["high"]])
  none <- c(low = null$low[[2]] < null$least, high = null$high[[2]] > null$most)
  hidden <- c(low = expect == "higher" || none[["low"]], high = expect == "lower" || none[["high"]])
  c(p, list(
    estimate = shift$centre, se = NA_real_, lower = shift$lower[[1]], upper = shift$upper[[1]],
    at_least = if (expect == "higher") shift$lower[[2]] else NA_real_,
    at_most = if (expect == "lower") shift$upper[[2]] else NA_real_, df = NA_real_,
    statistic = statistic, opposite = opposite, z = z, kind = null$kind,
    critical_low = if (hidden[["low"]]) NA_real_ else core_on_lattice(null, "low"),
    critical_high = if (hidden[["high"]]) NA_real_ else core_on_lattice(null, "high"),
    tail_low = if (hidden[["low"]]) NA_real_ else null$tail_low[[2]],
    tail_high = if (hidden[["high"]]) NA_real_ else null$tail_high[[2]],
    true_level = if (anyNA(c(shift$lower[[1]], shift$upper[[1]]))) {
      NA_real_
    } else {
      1 - limits$tail_low[[1]] - limits$tail_high[[1]]
    },
    matched_level = core_matched_level(expect, alpha),
    matched_lower = shift$lower[[2]], matched_upper = shift$upper[[2]],
    widest = list(lower = shift$ends[[1]], upper = shift$ends[[2]], level = widest), reason = NULL
  ))
}

# A limit on the values that the statistic can take.
core_on_lattice <- function(null, side) {
  if (side == "low") {
    null$least + null$step * floor((null$low[[2]] - null$least) / null$step)
  } else {
    null$least + null$step * ceiling((null$high[[2]] - null$least) / null$step)
  }
}

# Cumulative exact distribution of U at the values `u`, for figures.
core_rank_sum_curve <- function(samples, counts, u) {
  shifted <- core_shifted_samples(samples)
  runs <- native_tie_runs(shifted[[1]], shifted[[2]])
  native_rank_sum_null(runs, counts$n_first, counts$tied > 0, floor(2 * u), double())$p_low
}
