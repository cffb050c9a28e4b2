# Permutation distributions counted without listing, and for figures.

# First guesses of the limits, relative to the null value, two per alpha.
core_limit_guesses <- function(gap, rough, alphas) {
  c(rbind(gap + rough * stats::qnorm(alphas), gap - rough * stats::qnorm(alphas)))
}

# Sums counted by dynamic programming. `step` 0: whole numbers, exact; else on a grid of that step, with a bracket.
core_null_inference <- function(sample, estimate, alphas, step = 0) {
  scale <- max(sample$times)
  rough <- estimate$rough
  z <- sample$values - sample$times * sample$beyond
  # Shifts are those of single measurements: a run of the first group moves by as many.
  guesses <- core_limit_guesses(estimate$gap, rough, alphas)
  reach <- 0.02 * rough
  found <- if (core_has_group_null(sample)) {
    native_group_null(
      z[sample$times > 0], z[sample$times == 0], step, alphas, guesses * scale, reach * scale, 1e-9 * rough * scale
    )
  } else {
    exact <- step == 0
    # Rounding to a grid moves anew with every shift: closer than this the tails jitter.
    native_shifted_null(
      z, sample$times, sample$sizes, sample$chosen, if (exact) core_fine_step(rough) else step, exact,
      exp(-core_log_assignments(sample)), alphas, guesses, reach, if (exact) 0 else 1e-5 * rough
    )
  }
  if (!core_has_group_null(sample)) scale <- 1
  list(
    high = found$low, low = found$high, lower = core_from_shift(sample, found$lower / scale),
    upper = core_from_shift(sample, found$upper / scale), ends = c(NA_real_, NA_real_),
    total = core_assignments(sample), kind = if (step == 0) "exact" else "bracketed"
  )
}

# Two groups without blocks have one distribution for every shift.
core_has_group_null <- function(sample) length(sample$sizes) == 1

# Shifts are tried in this part of a step, a power of two, so that one that is tried is small beside the standard
# error; between them the limit is interpolated.
core_fine_step <- function(rough) {
  finer <- ceiling(log2(100 / max(rough, 1e-3)))
  2^-min(max(0, finer), 12)
}

core_null_cost <- function(sample, estimate, step = 0) {
  z <- sample$values - sample$times * sample$beyond
  cost <- if (core_has_group_null(sample)) {
    native_group_null_cost(z[sample$times > 0], z[sample$times == 0], step)
  } else {
    # About sixteen shifts are tried.
    fine <- if (step == 0) core_fine_step(estimate$rough) else step
    native_shifted_null_cost(z, sample$sizes, sample$chosen, fine) * c(16, 1)
  }
  as.list(cost)
}

# Sums counted in quarters: one tail of p, the other from it, and limits near those of a grid.
core_quarters_inference <- function(sample, estimate, alphas, threads = 1L, progress = NULL, fine = TRUE) {
  n_first <- if (core_is_flips(sample)) -1L else as.integer(sum(sample$times > 0))
  total <- core_assignments(sample)
  smaller <- if (estimate$gap >= 0) 1L else -1L
  tail <- core_quarters_tail(sample, smaller, threads, progress)
  other <- (total - tail$count + tail$tied) / total
  tails <- list(core_plain_tail(tail$count / total), core_plain_tail(other))
  if (smaller < 0) tails <- rev(tails)
  scale <- if (core_is_flips(sample)) 1 else max(sample$times)
  near <- core_null_inference(sample, estimate, alphas, step = estimate$rough * scale / 200)
  limit <- function(sign, at) {
    alpha <- alphas[[at]]
    if (exp(-core_log_assignments(sample)) > alpha * (1 + 1e-12)) return(NA_real_)
    guess <- sign * (c(near$lower[[at]], near$upper[[at]])[[if (sign > 0) 1 else 2]] * sample$power - sample$beyond)
    sign * native_count_limit(
      sample$values, sample$times / scale, n_first, sample$beyond * scale, sign, total, alpha,
      tails[[if (sign > 0) 1 else 2]]$p, guess * scale, 1e-4 * estimate$rough * scale,
      (if (fine) 1e-9 else 1e-3) * estimate$rough * scale, threads, progress, sample$grain
    )[[1]] / scale
  }
  # Interval and test mostly ask for the same tail.
  each <- if (abs(alphas[[1]] - alphas[[2]]) <= 1e-12 * alphas[[1]]) c(1, 1) else 1:2
  limits <- vapply(unique(each), function(at) c(limit(1L, at), limit(-1L, at)), c(0, 0))[, each, drop = FALSE]
  list(
    high = tails[[1]], low = tails[[2]], lower = core_from_shift(sample, limits[1, ]),
    upper = core_from_shift(sample, limits[2, ]), ends = c(NA_real_, NA_real_), total = total, kind = "exact",
    undecided = tail$undecided
  )
}

# The tail that grows with the shift (`sign` 1) or the other: its count, ties among it, and sums so near the
# observed one that rounding could move them across.
core_quarters_tail <- function(sample, sign, threads = 1L, progress = NULL) {
  n_first <- if (core_is_flips(sample)) -1L else as.integer(sum(sample$times > 0))
  found <- native_count_tail(
    sample$values, sample$times, n_first, sample$beyond, sign, TRUE, threads, progress, sample$grain
  )
  tied <- found$count - found$beyond
  list(
    count = found$count, tied = tied,
    undecided = if (found$inexact == 0) 0 else max(0, tied - round(exp(core_log_equal(sample))))
  )
}

core_half_sums <- function(sample) {
  n_first <- if (core_is_flips(sample)) -1L else as.integer(sum(sample$times > 0))
  native_half_sums(length(sample$values), n_first)
}

# --- figures ----------------------------------------------------------------------------------------

# How many of all (`draws` 0) or random assignments have a statistic, less the observed one and in the unit of the
# outcome (Welch's t: t itself), between `breaks`.
core_permuted_histogram <- function(sample, statistic, breaks, draws, seed, threads = 1L, estimate = NULL) {
  if (statistic == "studentized") {
    return(native_permuted_histogram(
      estimate$centred, sample$times, sample$sizes, sample$chosen, 0, draws, seed, threads, "studentized", breaks
    ))
  }
  if (statistic %in% c("trimmed", "median")) {
    return(native_location_histogram(
      sample$values, sample$times, sample$sizes, sample$chosen, core_trim(core_sample_sizes(sample), statistic),
      sample$beyond, draws, seed, threads, breaks * sample$power
    ))
  }
  scale <- if (core_is_flips(sample)) sum(sample$times) else core_sum_scale(sample)
  native_permuted_histogram(
    sample$values, sample$times, sample$sizes, sample$chosen, sample$beyond, draws, seed, threads,
    if (core_is_flips(sample)) "flips" else "sums", breaks * sample$power * scale
  )
}

# What the first group's sum rises by when the estimate rises by one step.
core_sum_scale <- function(sample) {
  sum(sample$chosen * (sample$sizes - sample$chosen) / sample$sizes) * max(sample$times)
}

# Distance of neighbouring values of the estimate under reassignment, in the unit of the outcome; 0 where the values are
# no decimals.
core_sum_lattice <- function(sample) {
  if (!sample$whole) return(0)
  z <- sample$values - sample$times * sample$beyond
  flips <- core_is_flips(sample)
  step <- native_common_step(if (flips) abs(z) else z - z[[1]])
  # Flipping a sign changes the sum twice.
  step * (if (flips) 2 / sum(sample$times) else 1 / core_sum_scale(sample)) / sample$power
}
