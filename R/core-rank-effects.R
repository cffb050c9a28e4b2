# Rank-based effect sizes and their bootstrap.

# Values of the rank-based effect sizes. `found` holds, as numbers or columns of draws: `share` (U over all
# pairs, or the sum of the ranks of positive changes over that of all), `z`, and `centre`.
core_rank_effect <- function(estimand, found, n) {
  switch(estimand,
    superiority = found$share,
    rank_biserial = 2 * found$share - 1,
    r_rank = found$z / sqrt(n),
    shift = found$centre
  )
}

# Samples drawn with replacement: `samples` of two groups, or a sample of changes.
core_rank_draws <- function(samples, zeros, seed, from, to, threads, with_centre) {
  drawn <- if (is.null(samples$changes)) {
    native_bootstrap_ranks(samples$first, samples$second, seed, from, to, threads, with_centre)
  } else {
    native_bootstrap_signed_ranks(samples$changes, zeros == "pratt", seed, from, to, threads, with_centre)
  }
  drawn$centre <- drawn$centre / samples$power
  drawn
}

# Stand-ins for jackknife values, up to a positive factor: minus the influence of each measurement, which for
# ranks is its placement among the others (for the shift, once the samples are moved together).
core_rank_jackknife <- function(samples, shift = 0) {
  moved <- shift * samples$power
  if (is.null(samples$changes)) {
    first <- samples$first - moved
    second <- samples$second
    values <- c(-native_placements(first, second), native_placements(second, first))
    group <- rep(1:2, c(length(first), length(second)))
  } else {
    changes <- samples$changes - moved
    values <- -native_placements(changes, rev(-changes))
    group <- rep(1, length(changes))
  }
  sizes <- as.double(table(group))[group]
  list(values = values / pmax(1, sizes - 1), group = group)
}

# Of n changes that all go the same way: as core_separated_limits(), for the means of pairs of changes without a
# common member, on the scale from -1 to 1.
core_balance_limits <- function(estimate, n, level) {
  2 * core_separated_limits((estimate + 1) / 2, floor(n / 2), floor(n / 2), level) - 1
}
