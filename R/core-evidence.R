# Weight of evidence: the Bayes factor of a standardized effect against none, and the posterior of the effect.

# What a t statistic counts for: the number that its noncentrality is the effect times the root of.
core_evidence_size <- function(n_first, n_second = NULL) {
  if (is.null(n_second)) n_first else n_first / (n_first + n_second) * n_second
}

# Mass of a t prior between two effects.
core_prior_mass <- function(prior, from, to) {
  low <- (from - prior$location) / prior$scale
  high <- (to - prior$location) / prior$scale
  # The tail asked for, never one minus the other.
  if (low >= 0) {
    return(stats::pt(low, prior$df, lower.tail = FALSE) - stats::pt(high, prior$df, lower.tail = FALSE))
  }
  stats::pt(high, prior$df) - stats::pt(low, prior$df)
}

# Bayes factor for a difference and posterior of the effect, for every width among `prior$scale` (the first is the
# declared one). `expect`: the prior lies on that side only. `within`: the null hypothesis is not a point but this
# interval. `limits`: median and limits for every width too. `prior`: list of location, scale and df; df 1 is Cauchy's
# (Rouder et al. 2009; Gronau, Ly & Wagenmakers 2020).
core_evidence <- function(t, df, size, prior, expect = "either", level = 0.95, within = NULL, limits = FALSE) {
  side <- switch(expect, either = c(-Inf, Inf), higher = c(0, Inf), lower = c(-Inf, 0))
  expected <- if (expect == "lower") c(-Inf, 0) else c(0, Inf)
  inside <- if (is.null(within)) c(0, 0) else c(max(within[[1]], side[[1]]), min(within[[2]], side[[2]]))
  other <- -rev(expected)
  from <- c(side[[1]], -Inf, expected[[1]], inside[[1]], other[[1]])
  to <- c(side[[2]], Inf, expected[[2]], inside[[2]], other[[2]])
  found <- native_evidence(
    t, df, size, prior$location, prior$scale, prior$df, from, to, c(0.5, (1 - level) / 2, (1 + level) / 2), limits
  )
  masses <- vapply(prior$scale, function(scale) {
    one <- list(location = prior$location, scale = scale, df = prior$df)
    c(core_prior_mass(one, side[[1]], side[[2]]), core_prior_mass(one, inside[[1]], inside[[2]]))
  }, c(0, 0))
  log_bf <- if (is.null(within)) {
    found$log[, 1] - log(masses[1, ])
  } else {
    core_interval_factor(found$log[, 1], found$log[, 4], masses[1, ], masses[2, ])
  }
  known <- if (limits) seq_along(prior$scale) else 1
  list(
    log_bf = log_bf, error = found$error[, 1], median = found$quantile[known, 1], lower = found$quantile[known, 2],
    upper = found$quantile[known, 3], expected = exp(found$log[1, 3] - found$log[1, 2]),
    # Its complement, also where that is far below rounding.
    unexpected = exp(found$log[1, 5] - found$log[1, 2]), log_all = found$log[[1, 1]]
  )
}

# log of the odds of outside against inside an interval, posterior over prior.
core_interval_factor <- function(log_all, log_inside, prior_all, prior_inside) {
  share <- exp(log_inside - log_all)
  log1p(-share) - log(share) - (log1p(-prior_inside / prior_all) - log(prior_inside / prior_all))
}

# Smallest and largest of a smooth curve known at even steps: where an extreme lies inside, that of the parabola through
# the three points there.
core_extremes <- function(y) {
  c(-core_summit(-y), core_summit(y))
}

core_summit <- function(y) {
  at <- which.max(y)
  if (at == 1 || at == length(y)) return(y[[at]])
  bend <- y[[at - 1]] - 2 * y[[at]] + y[[at + 1]]
  if (bend == 0) return(y[[at]])
  y[[at]] - (y[[at + 1]] - y[[at - 1]])^2 / (8 * bend)
}

# Densities of prior and posterior of the effect; `log_all`: log of the likelihood ratio times the prior over the side
# that the prior lies on (core_evidence()'s `log_all`).
core_effect_density <- function(t, df, size, prior, expect, at, log_all) {
  z <- (at - prior$location) / prior$scale
  density <- stats::dt(z, prior$df, log = TRUE) - log(prior$scale)
  on_side <- switch(expect, either = rep(TRUE, length(at)), higher = at >= 0, lower = at <= 0)
  side <- switch(expect, either = c(-Inf, Inf), higher = c(0, Inf), lower = c(-Inf, 0))
  list(
    prior = ifelse(on_side, exp(density) / core_prior_mass(prior, side[[1]], side[[2]]), 0),
    posterior = ifelse(on_side, exp(density + native_effect_likelihood(t, df, size, at) - log_all), 0)
  )
}

# Where half of the prior lies: its middle half, of a directional one the half next to 0.
core_prior_middle <- function(prior, expect) {
  place <- function(p) prior$location + prior$scale * stats::qt(p, prior$df)
  below <- stats::pt(-prior$location / prior$scale, prior$df)
  switch(expect,
    either = place(c(0.25, 0.75)), higher = c(0, place(below + (1 - below) / 2)), lower = c(place(below / 2), 0)
  )
}
