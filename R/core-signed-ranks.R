# Ranks of the sizes of changes, each with its sign.

# Changes sorted, in steps of 1 / `power`: of both measurements, subtracted as whole numbers, or ready-made.
core_change_sample <- function(first, second = NULL, beyond = 0) {
  steps <- core_whole_steps(if (is.null(second)) list(first, beyond) else list(first, second, beyond))
  last <- length(steps$parts)
  changes <- if (is.null(second)) steps$parts[[1]] else steps$parts[[1]] - steps$parts[[2]]
  list(changes = native_sorted(changes), beyond = steps$parts[[last]], power = steps$power)
}

# W, the sum of the ranks of changes above `beyond`; changes equal to it ("zeros") are dropped, or take the
# lowest ranks before they drop out ("pratt"). `kept`: the changes whose pairwise means tell the centre.
core_signed_counts <- function(sample, zeros = "drop") {
  shifted <- sample$changes - sample$beyond
  counts <- native_signed_counts(shifted, zeros == "pratt")
  counts$kept <- if (zeros == "pratt") sample$changes else sample$changes[shifted != 0]
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

# Everything the signed ranks tell: W and its p, the centre of the changes with the interval from the same
# distribution.
core_signed_rank_inference <- function(sample, counts, expect, level, alpha, exact) {
  if (counts$n == counts$zeros) return(list(reason = "all_zero"))
  tail <- if (expect == "either") alpha / 2 else alpha
  null <- core_signed_rank_null(counts, exact, c((1 - level) / 2, tail))
  kept <- as.double(length(counts$kept))
  size <- kept * (kept + 1) / 2
  places <- core_limit_places(null, size, counts$total)
  centre <- core_centre_and_limits(
    counts$kept, NULL, places, size, 2 * range(counts$kept), 2 * sample$power
  )
  if (!is.null(centre$reason)) return(centre)
  core_rank_answer(null, centre, counts$plus, counts$minus, counts$z, expect, alpha)
}

core_signed_rank_curve <- function(counts, w) {
  native_signed_rank_null(counts$runs, counts$below, floor(2 * w), double())$p_low
}
