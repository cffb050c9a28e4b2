# Shape: is a sample more skewed, heavier in the tails or less normal than chance makes normal samples?

# Standard errors of G1 and G2 in samples from a normal distribution (Joanes & Gill 1998, section 3).
core_skewness_error <- function(n) {
  if (n < 3) return(NA_real_)
  sqrt(6 * n * (n - 1) / ((n - 2) * (n + 1) * (n + 3)))
}

core_kurtosis_error <- function(n) {
  if (n < 4) return(NA_real_)
  2 * core_skewness_error(n) * sqrt((n^2 - 1) / ((n - 3) * (n + 5)))
}

# Skewness of the quartiles (Yule 1911): 0 where the median lies in their middle, within -1 and 1.
core_quartile_skewness <- function(q1, median, q3) {
  if (!isTRUE(q3 > q1)) return(NA_real_)
  ((q3 - median) - (median - q1)) / (q3 - q1)
}

core_polynomial <- function(coefficients, x) {
  value <- 0
  for (coefficient in rev(coefficients)) value <- value * x + coefficient
  value
}

# W of Shapiro & Wilk with the weights and the normalizing transformation of Royston (1995), for 3 to
# 5000 values that are not all equal.
core_shapiro_wilk <- function(values) {
  n <- length(values)
  if (n < 3 || n > 5000) return(list(statistic = NA_real_, log_p = NA_real_, reason = "size"))
  x <- sort(as.double(values))
  range <- x[[n]] / 2 - x[[1]] / 2
  if (range == 0) return(list(statistic = NA_real_, log_p = NA_real_, reason = "no_spread"))
  x <- (x - x[[(n + 1) %/% 2]]) / range
  weight <- core_royston_weights(n)
  x <- x - mean(x)
  # 1 - W as a product: near 1 the difference would lose its digits.
  a <- sqrt(sum(weight^2) * sum(x^2))
  b <- sum(weight * x)
  short <- (a - b) * (a + b) / a^2
  list(statistic = 1 - short, log_p = core_royston_log_p(short, n), reason = NULL)
}

# Royston (1995), equations for the weights: the outer one or two by a polynomial in 1 / sqrt(n).
core_royston_weights <- function(n) {
  if (n == 3) return(c(-1, 0, 1) * sqrt(0.5))
  m <- stats::qnorm((seq_len(n) - 0.375) / (n + 0.25))
  size <- sum(m^2)
  u <- 1 / sqrt(n)
  last <- m[[n]] / sqrt(size) + core_polynomial(c(0, 0.221157, -0.147981, -2.071190, 4.434685, -2.706056), u)
  if (n <= 5) {
    outer <- last
    inner <- sqrt((size - 2 * m[[n]]^2) / (1 - 2 * last^2))
  } else {
    second <- m[[n - 1]] / sqrt(size) +
      core_polynomial(c(0, 0.042981, -0.293762, -1.752461, 5.682633, -3.582633), u)
    outer <- c(second, last)
    inner <- sqrt((size - 2 * m[[n]]^2 - 2 * m[[n - 1]]^2) / (1 - 2 * last^2 - 2 * second^2))
  }
  weight <- m / inner
  k <- length(outer)
  weight[n - k + seq_len(k)] <- outer
  weight[seq_len(k)] <- -rev(outer)
  weight
}

# Logarithm of p from 1 - W.
core_royston_log_p <- function(short, n) {
  if (n == 3) {
    # Exact (Shapiro & Wilk 1965): W is at least 3/4.
    p <- 6 / pi * (asin(sqrt(1 - short)) - asin(sqrt(0.75)))
    return(log(min(1, max(p, 2^-52))))
  }
  y <- log(short)
  if (n <= 11) {
    gamma <- core_polynomial(c(-2.273, 0.459), n)
    if (y >= gamma) return(log(1e-99))
    y <- -log(gamma - y)
    mean <- core_polynomial(c(0.5440, -0.39978, 0.025054, -0.0006714), n)
    sd <- exp(core_polynomial(c(1.3822, -0.77857, 0.062767, -0.0020322), n))
  } else {
    mean <- core_polynomial(c(-1.5861, -0.31082, -0.083751, 0.0038915), log(n))
    sd <- exp(core_polynomial(c(-0.4803, -0.082676, 0.0030302), log(n)))
  }
  stats::pnorm((y - mean) / sd, lower.tail = FALSE, log.p = TRUE)
}

# Omnibus test of the third and fourth moment (D'Agostino & Pearson 1973), from G1 and G2: z of the
# skewness (D'Agostino 1970) and of the kurtosis (Anscombe & Glynn 1983), from 20 values on.
core_omnibus <- function(n, skewness, kurtosis) {
  if (n < 20 || is.na(skewness) || is.na(kurtosis)) {
    return(list(statistic = NA_real_, log_p = NA_real_, z_skewness = NA_real_, z_kurtosis = NA_real_))
  }
  g1 <- skewness * (n - 2) / sqrt(n * (n - 1))
  b2 <- (kurtosis * (n - 2) * (n - 3) / (n - 1) - 6) / (n + 1) + 3
  z <- c(core_skewness_z(n, g1), core_kurtosis_z(n, b2))
  statistic <- sum(z^2)
  list(
    statistic = statistic, log_p = stats::pchisq(statistic, 2, lower.tail = FALSE, log.p = TRUE),
    z_skewness = z[[1]], z_kurtosis = z[[2]]
  )
}

core_skewness_z <- function(n, g1) {
  y <- g1 * sqrt((n + 1) * (n + 3) / (6 * (n - 2)))
  beta2 <- 3 * (n^2 + 27 * n - 70) * (n + 1) * (n + 3) / ((n - 2) * (n + 5) * (n + 7) * (n + 9))
  w2 <- sqrt(2 * (beta2 - 1)) - 1
  asinh(y / sqrt(2 / (w2 - 1))) / sqrt(log(w2) / 2)
}

core_kurtosis_z <- function(n, b2) {
  variance <- 24 * n * (n - 2) * (n - 3) / ((n + 1)^2 * (n + 3) * (n + 5))
  x <- (b2 - 3 * (n - 1) / (n + 1)) / sqrt(variance)
  root_beta1 <- 6 * (n^2 - 5 * n + 2) / ((n + 7) * (n + 9)) *
    sqrt(6 * (n + 3) * (n + 5) / (n * (n - 2) * (n - 3)))
  a <- 6 + 8 / root_beta1 * (2 / root_beta1 + sqrt(1 + 4 / root_beta1^2))
  ratio <- (1 - 2 / a) / (1 + x * sqrt(2 / (a - 4)))
  (1 - 2 / (9 * a) - sign(ratio) * abs(ratio)^(1 / 3)) / sqrt(2 / (9 * a))
}

# Places (1-based ranks) at which a band is found and drawn: all of a small sample, else evenly spread
# over the normal quantiles.
core_band_places <- function(n, most = 150) {
  if (n <= most) return(seq_len(n))
  end <- stats::qnorm(n / (n + 1))
  unique(pmin(n, pmax(1, round((n + 1) * stats::pnorm(seq(-end, end, length.out = most))))))
}

# Normal quantiles (Blom 1958), ordered standardized values at the same places, and the simultaneous
# band that a whole normal sample stays inside with probability `level`.
core_normal_plot <- function(values, mean, sd, level, seed = 1) {
  n <- length(values)
  if (n < 3 || !isTRUE(sd > 0)) return(NULL)
  places <- core_band_places(n)
  draws <- as.integer(max(5000, min(10000, 5e6 / n)))
  band <- native_normal_band(n, as.integer(places), level, draws, seed)
  quantile <- stats::qnorm((seq_len(n) - 0.375) / (n + 0.25))
  values <- sort(values)
  limits <- mean + sd * band
  # Values between the places count too, because the band is straight there.
  at <- function(limit) if (n > length(places)) stats::approx(quantile[places], limit, quantile)$y else limit
  list(
    place = places, quantile = quantile[places], value = values[places], lower = limits[, 1], upper = limits[, 2],
    outside = rep(sum(values < at(limits[, 1]) | values > at(limits[, 2])), length(places))
  )
}
