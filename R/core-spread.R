# Spread: how different two SDs are, and what that does to the tests of a difference.

# F ratio of two variances, its two-sided p, and the interval for the ratio of the SDs. Exact for normal
# populations only.
core_variance_ratio <- function(a, b, level) {
  if (a$n < 2 || b$n < 2) return(list(reason = "one_value"))
  if (a$sd == 0 || b$sd == 0) return(list(reason = "no_spread"))
  ratio <- a$sd / b$sd
  if (core_too_unlike(ratio)) return(list(reason = "out_of_range"))
  df <- c(a$n, b$n) - 1
  tails <- c(core_f_log_tail(ratio^2, df[[1]], df[[2]], TRUE), core_f_log_tail(ratio^2, df[[1]], df[[2]], FALSE))
  tail <- (1 - level) / 2
  list(
    ratio = ratio, statistic = ratio^2, df = df, log_p = min(0, log(2) + min(tails)),
    lower = ratio / sqrt(stats::qf(tail, df[[1]], df[[2]], lower.tail = FALSE)),
    upper = ratio * sqrt(stats::qf(tail, df[[2]], df[[1]], lower.tail = FALSE)), reason = NULL
  )
}

# Log of a tail of F. R's own gives up where a tail below the smallest double meets few and many degrees of freedom;
# that far out the continued fraction of the incomplete beta function (Olver et al. 2010, eq. 8.17.22) needs few steps.
core_f_log_tail <- function(f, df, df_second, lower) {
  # The tail beyond the mean is where the fraction holds.
  if (isTRUE(f < 1)) return(core_f_log_tail(1 / f, df_second, df, !lower))
  odds <- log(f) + log(df / df_second)
  a <- df_second / 2
  b <- df / 2
  front <- a * stats::plogis(-odds, log.p = TRUE) + b * stats::plogis(odds, log.p = TRUE) - lbeta(a, b) - log(a)
  if (!isTRUE(front < -300)) return(stats::pf(f, df, df_second, lower.tail = lower, log.p = TRUE))
  upper <- front + log(core_beta_fraction(stats::plogis(-odds), a, b))
  if (lower) log1p(-exp(upper)) else upper
}

# The fraction by Lentz's method, for x below the mean of the beta distribution.
core_beta_fraction <- function(x, a, b) {
  apart <- function(z) if (abs(z) < 1e-300) 1e-300 else z
  above <- 1
  below <- 1 / apart(1 - (a + b) * x / (a + 1))
  value <- below
  for (m in seq_len(10000)) {
    steps <- c(
      m * (b - m) * x / ((a + 2 * m - 1) * (a + 2 * m)), -(a + m) * (a + b + m) * x / ((a + 2 * m) * (a + 2 * m + 1))
    )
    for (step in steps) {
      below <- 1 / apart(1 + step * below)
      above <- apart(1 + step / above)
      value <- value * above * below
    }
    if (abs(above * below - 1) < 1e-15) break
  }
  value
}

# A ratio whose square, or its inverse, leaves the range of doubles.
core_too_unlike <- function(ratio) !(ratio > 1e-150 && ratio < 1e150)

# Interval for one SD from the chi-square distribution of its square; exact for normal populations only.
core_sd_interval <- function(n, sd, level) {
  if (n < 2) return(c(NA_real_, NA_real_))
  tail <- (1 - level) / 2
  sd * sqrt((n - 1) / c(
    stats::qchisq(tail, n - 1, lower.tail = FALSE), stats::qchisq(tail, n - 1)
  ))
}

# Ratio of the SDs of the two halves of pairs (Pitman 1939; Morgan 1939): sums and differences of pairs are
# uncorrelated exactly when the spreads are equal.
core_paired_variance_ratio <- function(a, b, r, level) {
  if (a$n < 3) return(list(reason = "one_value"))
  if (is.na(r)) return(list(reason = "no_correlation"))
  if (a$sd == 0 || b$sd == 0 || abs(r) >= 1) return(list(reason = "no_spread"))
  ratio <- a$sd / b$sd
  if (core_too_unlike(ratio)) return(list(reason = "out_of_range"))
  df <- a$n - 2
  statistic <- (ratio - 1 / ratio) * sqrt(df) / (2 * sqrt(1 - r^2))
  t <- stats::qt((1 - level) / 2, df, lower.tail = FALSE)
  # Ratios x whose statistic (x - 1/x) ... equals -/+ t, as exp(-/+ asinh(.)).
  reach <- exp(asinh(t * sqrt((1 - r^2) / df)))
  list(
    ratio = ratio, statistic = statistic, df = df, log_p = core_t_log_p(statistic, df, "either"),
    lower = ratio / reach, upper = ratio * reach, reason = NULL
  )
}

# Do values lie farther from their centre in one group? F of the absolute deviations: from the median
# (Brown & Forsythe 1974; `median`) or from the mean (Levene 1960).
core_deviation_test <- function(first, second, median) {
  core_deviation_from(
    core_sample_moments(core_deviations(first, median)), core_sample_moments(core_deviations(second, median))
  )
}

# Distances from the centre by way of a value in the middle: the centre itself would be rounded to a double, which far
# from 0 is coarse beside the spread.
core_deviations <- function(values, median) {
  middle <- sort(values, partial = ceiling(length(values) / 2))[[ceiling(length(values) / 2)]]
  away <- values - middle
  abs(away - if (median) stats::median(away) else mean(away))
}

# The same from the moments of the deviations.
core_deviation_from <- function(a, b) {
  error <- core_student_error(a, b)
  if (!is.null(error$reason)) return(error["reason"])
  t <- core_mean_gap(a, b) / error$se
  list(
    statistic = t^2, df = c(1, error$df), log_p = core_t_log_p(t, error$df, "either"),
    deviations = c(a$mean, b$mean), reason = NULL
  )
}

# How often Student's or Welch's test at `alpha` rejects a true null hypothesis when the populations are normal with
# SDs in the ratio `ratio` (first over second).
core_true_size <- function(method, n_first, n_second, ratio, alpha) {
  # Unit SD for the larger one.
  sd <- c(min(1, ratio), min(1, 1 / ratio))
  core_t_rate(core_error_parts(method, n_first, n_second, sd), 0, core_sides("either", 0, NULL, alpha))
}
