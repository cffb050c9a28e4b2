# Ranks of the sizes of changes, each with its sign.

# Changes sorted, in steps of 1 / `power`: of both measurements, subtracted as whole numbers, or ready-made.
core_change_sample <- function(first, second = NULL, beyond = 0) {
  steps <- core_whole_steps(if (is.null(second)) list(first, beyond) else list(first, second, beyond))
  last <- length(steps$parts)
  changes <- if (is.null(second)) steps$parts[[1]] else steps$parts[[1]] - steps$parts[[2]]
  list(
    changes = core_snapped(native_sorted(changes), steps$near), beyond = steps$parts[[last]], power = steps$power,
    whole = steps$whole, near = steps$near
  )
}

# W, the sum of the ranks of changes above `beyond`. Changes equal to it ("zeros") are dropped, or take the lowest ranks
# before they drop out ("pratt", Pratt 1959).
core_signed_counts <- function(sample, zeros = "pratt") {
  shifted <- sample$changes - sample$beyond
  if (sample$near > 0) shifted <- sign(shifted) * core_snapped(abs(shifted), sample$near)
  counts <- native_signed_counts(shifted, zeros == "pratt")
  counts$below <- if (zeros == "pratt") counts$zeros else 0
  total <- counts$plus + counts$minus
  sd <- sqrt(counts$rank_squares) / 2
  c(counts, list(total = total, mean = total / 2, sd = sd, z = (counts$plus - total / 2) / sd))
}

core_signed_rank_cost <- function(n) {
  cost <- native_signed_rank_cost(n)
  list(seconds = cost[["seconds"]], bytes = cost[["bytes"]], possible = TRUE)
}

core_signed_rank_null <- function(counts, exact, alphas) {
  if (!exact) {
    return(core_normal_null(counts$plus, counts$mean, counts$sd, counts$tied > 0, alphas, counts$total))
  }
  core_exact_null(native_signed_rank_null(counts$runs, counts$below, 2 * counts$plus, alphas))
}

# Everything the signed ranks tell: W and its p; the centre of all changes, with the interval from inverting the test.
core_signed_rank_inference <- function(sample, counts, expect, level, alpha, exact) {
  if (counts$n == counts$zeros) return(list(reason = "all_zero"))
  tail <- if (expect == "either") alpha / 2 else alpha
  alphas <- c((1 - level) / 2, tail)
  null <- core_signed_rank_null(counts, exact, alphas)
  n <- as.double(length(sample$changes))
  size <- n * (n + 1) / 2
  inverted <- core_signed_limits(sample, exact, alphas)
  centre <- core_centre_and_limits(
    sample$changes, NULL, inverted$places, size, 2 * range(sample$changes), 2 * sample$power
  )
  if (!is.null(centre$reason)) return(centre)
  centre$null <- inverted$null
  core_rank_answer(null, centre, counts$plus, counts$minus, counts$z, expect, alpha)
}

# Places of the limits among the ordered sums of two changes: a shift belongs to the interval if neither one-sided test
# against it rejects. Shifts between these sums leave no zeros. Where all changes differ they leave no ties either, and
# the untied distribution gives the places of every shift at once; `null`. Equal changes are tied at every shift, in
# ranks that depend on the shift: then each shift is tested against its own distribution, found by search.
core_signed_limits <- function(sample, exact, alphas) {
  n <- as.double(length(sample$changes))
  size <- n * (n + 1) / 2
  null <- if (exact) {
    core_exact_null(native_signed_rank_null(rep(1, n), 0, 0, alphas))
  } else {
    core_normal_null(0, size / 2, sqrt(size * (2 * n + 1) / 12), FALSE, alphas, size)
  }
  places <- core_limit_places(null, size, size)
  if (anyDuplicated(sample$changes) == 0) return(list(null = null, places = places))
  # Each of two limits takes about thirty tests; a normal one costs 2e-7 s per change.
  work <- 60 * if (exact) native_signed_rank_cost(n)[["seconds"]] else 2e-7 * n
  # Too many to search: the ties at the limits without them are taken for those at every shift.
  if (work > 1) return(core_signed_limits_once(sample, exact, alphas, null, places))
  for (i in seq_along(alphas)) {
    below <- core_first_kept(sample$changes, sample$whole, exact, alphas[[i]], places$lower[[i]])
    above <- core_first_kept(-rev(sample$changes), sample$whole, exact, alphas[[i]], size + 1 - places$upper[[i]])
    places$lower[[i]] <- below$place
    places$upper[[i]] <- size + 1 - above$place
    null$tail_low[[i]] <- below$tail
    null$tail_high[[i]] <- above$tail
  }
  list(null = null, places = places)
}

# A shift just above the sum at `place`, below the next one.
core_shift_above <- function(changes, whole, place) {
  sum_at <- function(place) native_pairwise(changes, changes, TRUE, place)
  sum <- sum_at(place)
  # Sums of whole steps are whole.
  if (whole) return(sum / 2 + 0.25)
  size <- length(changes) * (length(changes) + 1) / 2
  low <- place
  high <- size
  if (sum_at(high) == sum) return(sum / 2 + max(1, abs(sum)))
  while (high - low > 1) {
    middle <- floor((low + high) / 2)
    if (sum_at(middle) == sum) low <- middle else high <- middle
  }
  sum / 4 + sum_at(high) / 4
}

# p of the test that the centre lies above `shift`.
core_signed_p_above <- function(changes, shift, exact) {
  counts <- core_signed_counts(list(changes = changes, beyond = shift, near = 0), "drop")
  core_signed_rank_null(counts, exact, double())$p_high
}

# The first place whose sum has shifts above it that the test does not reject at `alpha`, with the p-value of the
# shifts below. The place is NA where no shift is rejected. `guess` is the place without ties, or NA.
core_first_kept <- function(changes, whole, exact, alpha, guess) {
  n <- length(changes)
  size <- n * (n + 1) / 2
  # Many places share one sum, and each shift is tested once.
  tested <- double()
  found <- double()
  p_above <- function(place) {
    # Below all changes every sign is positive.
    shift <- if (place == 0) min(changes) - 1 - abs(min(changes)) else core_shift_above(changes, whole, place)
    if (!shift %in% tested) {
      tested <<- c(tested, shift)
      found <<- c(found, core_signed_p_above(changes, shift, exact))
    }
    found[[match(shift, tested)]]
  }
  # A p-value that equals alpha up to rounding rejects.
  kept_above <- function(place) p_above(place) > alpha * (1 + 1e-12)
  if (kept_above(0)) return(list(place = NA_real_, tail = 0))
  high <- if (is.na(guess)) 1 else min(guess, size)
  low <- high
  step <- 1
  while (!kept_above(high) && high < size) {
    low <- high
    high <- min(size, high + step)
    step <- 2 * step
  }
  if (low == high) {
    step <- 1
    while (low > 0 && kept_above(low)) {
      high <- low
      low <- max(0, low - step)
      step <- 2 * step
    }
  }
  # Now `low` (0: none) is rejected and `high` is not.
  while (high - low > 1) {
    middle <- floor((low + high) / 2)
    if (kept_above(middle)) high <- middle else low <- middle
  }
  list(place = high, tail = p_above(low))
}

# The same from one distribution for each limit, that of the ties just above the limit without ties.
core_signed_limits_once <- function(sample, exact, alphas, null, places) {
  size <- length(sample$changes) * (length(sample$changes) + 1) / 2
  for (i in seq_along(alphas)) {
    for (side in c("lower", "upper")) {
      at <- places[[side]][[i]]
      if (is.na(at)) next
      shift <- if (side == "lower") {
        core_shift_above(sample$changes, sample$whole, at)
      } else {
        -core_shift_above(-rev(sample$changes), sample$whole, size + 1 - at)
      }
      counts <- core_signed_counts(list(changes = sample$changes, beyond = shift, near = 0), "drop")
      tied <- core_signed_rank_null(counts, exact, alphas[[i]])
      places[[side]][[i]] <- core_limit_places(tied, size, size)[[side]]
    }
  }
  list(null = null, places = places)
}

core_signed_rank_curve <- function(counts, w) {
  native_signed_rank_null(counts$runs, counts$below, floor(2 * w), double())$p_low
}
