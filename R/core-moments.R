# Moments of the two groups. A group is a plain list; its mean is kept as `base + rest`, because the
# difference of two means must not pass through their rounded sums (1e9 + 0.1 loses nine digits).

# Moments of the rows whose code is `first` and `second`, in one pass without copies.
core_group_moments <- function(values, codes, first, second) {
  sums <- native_group_moments(values, codes, first, second)
  list(core_finish_moments(sums[[1]]), core_finish_moments(sums[[2]]))
}

# The same list from published numbers.
core_summary_moments <- function(n, mean, sd) {
  list(
    n = n, missing = NA_real_, base = mean, rest = 0, mean = mean, sd = sd,
    skewness = NA_real_, kurtosis = NA_real_, min = NA_real_, max = NA_real_
  )
}

# `s`: sums of one sample, or vectors of the sums of many. `size`: of the numbers whose rounding the values carry.
core_finish_moments <- function(s, size = pmax(abs(s$min), abs(s$max))) {
  # Values that lie within rounding of each other are one value: their deviations are dust.
  dust <- which(s$n > 1 & s$max - s$min <= 8 * .Machine$double.eps * size)
  s$m2[dust] <- s$m3[dust] <- s$m4[dust] <- 0
  rest <- s$mean / s$scale
  unknown <- s$n == 0
  sd <- rep(NA_real_, length(s$n))
  several <- s$n > 1
  sd[several] <- sqrt(s$m2[several] / (s$n[several] - 1)) / s$scale[several]
  mean <- s$base + rest
  mean[unknown] <- s$min[unknown] <- s$max[unknown] <- NA
  list(
    n = s$n, missing = s$missing, base = s$base, rest = rest, mean = mean, sd = sd,
    skewness = core_skewness(s$n, s$m2, s$m3), kurtosis = core_kurtosis(s$n, s$m2, s$m4), min = s$min, max = s$max
  )
}

# The moments of many samples at once, as a list for each.
core_split_moments <- function(m) lapply(seq_along(m$n), function(i) lapply(m, `[[`, i))

# The other way round: lists of moments (one per group) of many outcomes as vectors, a list for each group.
core_join_moments <- function(moments) native_join_moments(moments)

# Moments of both groups for every column of a list of outcomes measured on the same rows.
core_group_moments_many <- function(columns, codes, first, second) {
  each <- core_split_moments(core_finish_moments(native_group_moments_many(columns, codes, first, second)))
  lapply(seq_along(columns), function(j) each[2 * j - 1:0])
}

# G1 of Joanes & Gill (1998, section 2), from sums of powers of the deviations.
core_skewness <- function(n, m2, m3) {
  out <- rep(NA_real_, length(n))
  known <- n >= 3 & m2 > 0
  if (!any(known)) return(out)
  n <- n[known]
  out[known] <- sqrt(n) * m3[known] / m2[known]^1.5 * sqrt(n * (n - 1)) / (n - 2)
  out
}

# G2 of Joanes & Gill (1998, section 2): excess kurtosis, 0 for a normal distribution.
core_kurtosis <- function(n, m2, m4) {
  out <- rep(NA_real_, length(n))
  known <- n >= 4 & m2 > 0
  if (!any(known)) return(out)
  n <- n[known]
  g2 <- n * m4[known] / m2[known]^2 - 3
  out[known] <- (n - 1) / ((n - 2) * (n - 3)) * ((n + 1) * g2 + 6)
  out
}

# First mean minus second mean.
core_mean_gap <- function(a, b) (a$base - b$base) + (a$rest - b$rest)

# Root of the pooled variance.
core_pooled_sd <- function(a, b) core_root_mean_square(a$sd, b$sd, a$n - 1, b$n - 1)

# Interval for the mean of one group: mean -/+ t quantile times SE.
core_mean_interval <- function(m, level) {
  se <- m$sd / sqrt(m$n)
  reach <- if (m$n > 1) stats::qt((1 - level) / 2, m$n - 1, lower.tail = FALSE) * se else NA_real_
  list(se = se, lower = m$mean - reach, upper = m$mean + reach)
}

# Moments of one sample.
core_sample_moments <- function(values) core_finish_moments(native_moments(values))

# Moments of frequency data: row i stands for counts[i] rows.
core_counted_moments <- function(values, counts, codes, first, second) {
  sums <- native_counted_moments(values, counts, codes, first, second)
  list(core_finish_moments(sums[[1]]), core_finish_moments(sums[[2]]))
}

# Both halves and the changes of complete pairs, their correlation, and how many went up, down, or
# stayed the same.
core_pair_moments <- function(first, second) {
  sums <- native_pair_moments(first, second)
  # Changes carry the rounding of both halves.
  size <- max(abs(c(sums$first$min, sums$first$max, sums$second$min, sums$second$max)))
  list(
    moments = list(
      core_finish_moments(sums$first), core_finish_moments(sums$second), core_finish_moments(sums$change, size)
    ),
    r = core_correlation(sums$cross, sums$first$m2, sums$second$m2),
    up = sums$up, down = sums$down, same = sums$same,
    only_first = sums$only_first, only_second = sums$only_second, neither = sums$neither
  )
}

# Only the correlation of two columns and the number of their complete rows.
core_row_correlation <- function(first, second) {
  sums <- native_pair_moments(first, second)
  list(r = core_correlation(sums$cross, sums$first$m2, sums$second$m2), n = sums$change$n)
}

# Product-moment correlation; undefined where one half does not vary.
core_correlation <- function(cross, m2_first, m2_second) {
  size <- sqrt(m2_first) * sqrt(m2_second)
  if (!isTRUE(size > 0)) return(NA_real_)
  max(-1, min(1, cross / size))
}

# SD of the changes from both SDs and their correlation, and the correlation from all three:
# s_d^2 = s1^2 + s2^2 - 2 r s1 s2, on a scale on which squares stay in range.
core_change_sd <- function(sd, r) {
  size <- max(sd)
  if (size == 0) return(0)
  u <- sd / size
  # (u1 - u2)^2 + 2 u1 u2 (1 - r): no cancellation where r is near 1.
  size * sqrt((u[[1]] - u[[2]])^2 + 2 * u[[1]] * u[[2]] * (1 - r))
}

core_r_from_sds <- function(sd, sd_change) {
  u <- c(sd, sd_change) / max(sd)
  (u[[1]]^2 + u[[2]]^2 - u[[3]]^2) / (2 * u[[1]] * u[[2]])
}

# A group of which only the size is known.
core_unknown_moments <- function(n) {
  list(
    n = n, missing = NA_real_, base = NA_real_, rest = 0, mean = NA_real_, sd = NA_real_,
    skewness = NA_real_, kurtosis = NA_real_, min = NA_real_, max = NA_real_
  )
}

# SD behind a standard error, or behind an interval mean -/+ t SE at `level`.
core_sd_from_se <- function(se, n) se * sqrt(n)
core_sd_from_interval <- function(lower, upper, n, level) {
  core_sd_from_se((upper - lower) / 2 / stats::qt((1 - level) / 2, n - 1, lower.tail = FALSE), n)
}

# sqrt((w_first a^2 + w_second b^2) / (w_first + w_second)), on a scale on which squares stay in range.
# A group of weight 0 has no say, also where its SD does not exist.
core_root_mean_square <- function(a, b, w_first = 1, w_second = 1) {
  a[rep_len(w_first == 0, length(a))] <- 0
  b[rep_len(w_second == 0, length(b))] <- 0
  size <- pmax(a, b)
  safe <- size + (size == 0)
  size * sqrt((w_first * (a / safe)^2 + w_second * (b / safe)^2) / (w_first + w_second))
}
