# Moments from the aggregates that a database returns: sums of powers of deviations from a shift near the mean.

# `n`, `s1`, `s2`: number, sum and sum of squares of x - `shift`. Vectors of many groups.
core_shifted_moments <- function(n, missing, shift, s1, s2) {
  known <- n > 0
  rest <- ifelse(known, s1 / n, 0)
  m2 <- pmax(0, s2 - n * rest^2)
  list(
    n = n, missing = missing, base = ifelse(known, shift, 0), rest = rest, mean = ifelse(known, shift + rest, NA_real_),
    sd = ifelse(n > 1, sqrt(m2 / (n - 1)), NA_real_), skewness = rep(NA_real_, length(n)),
    kurtosis = rep(NA_real_, length(n)), min = rep(NA_real_, length(n)), max = rep(NA_real_, length(n))
  )
}

# Whether the shift is so far from a group's mean that the sum of squares lost digits: a hundred SDs cost four.
# Below 1e-140 squares lose digits, or all of them.
core_far_shift <- function(m) m$n > 1 & (!(abs(m$rest) <= 100 * m$sd) | (m$sd > 0 & m$sd < 1e-140))

# Third and fourth powers too, about a shift next to the mean; `min` and `max` as found.
core_full_moments <- function(m, s1, s2, s3, s4, min, max) {
  c1 <- ifelse(m$n > 0, s1 / m$n, 0)
  m2 <- pmax(0, s2 - m$n * c1^2)
  m3 <- s3 - 3 * c1 * s2 + 2 * m$n * c1^3
  m4 <- pmax(0, s4 - 4 * c1 * s3 + 6 * c1^2 * s2 - 3 * m$n * c1^4)
  flat <- min == max
  m2[flat %in% TRUE] <- 0
  m$skewness <- core_skewness(m$n, m2, m3)
  m$kurtosis <- core_kurtosis(m$n, m2, m4)
  m$min <- min
  m$max <- max
  m
}

# Moments of both measurements, of their changes, and their correlation, from sums about the shifts `a` and `b`.
core_paired_aggregates <- function(sums, a, b) {
  n <- sums$n
  moments <- list(
    core_shifted_moments(n, rep(0, length(n)), a, sums$sa, sums$qa),
    core_shifted_moments(n, rep(0, length(n)), b, sums$sb, sums$qb),
    core_shifted_moments(n, rep(0, length(n)), a - b, sums$sd, sums$qd)
  )
  cross <- sums$ab - sums$sa * sums$sb / n
  list(moments = moments, r = core_aggregate_correlation(cross, moments[[1]], moments[[2]]))
}

core_aggregate_correlation <- function(cross, a, b) {
  size <- a$sd * b$sd * (a$n - 1)
  ifelse(size > 0, pmax(-1, pmin(1, cross / size)), NA_real_)
}

# What core_rank_counts() finds, from sums over the different values: `u`, sum of t^3 - t, number of tied values and of
# different ones, and sums of the squares of placements among the other group.
core_rank_aggregates <- function(n, m, u, tie_sum, tied, distinct, squares_first, squares_second) {
  all <- n + m
  sd <- sqrt(n * m / 12 * max(0, (all + 1) - tie_sum / (all * (all - 1))))
  if (distinct == 1) sd <- 0
  spread <- function(squares, count, total) if (count > 1) max(0, squares - total^2 / count) / (count - 1) else NA_real_
  list(
    n_first = n, n_second = m, u = u, tie_sum = tie_sum, tied = tied, distinct = distinct, pairs = n * m,
    mean = n * m / 2, sd = sd, z = (u - n * m / 2) / sd,
    placement_variance = c(spread(squares_first, n, u), spread(squares_second, m, n * m - u))
  )
}

# The same of signed ranks: W upwards and downwards, the sum of the squared ranks.
core_signed_aggregates <- function(n, zeros, plus, minus, rank_squares, tied) {
  total <- plus + minus
  sd <- sqrt(rank_squares) / 2
  list(
    n = n, zeros = zeros, plus = plus, minus = minus, rank_squares = rank_squares, tied = tied, total = total,
    mean = total / 2, sd = sd, z = (plus - total / 2) / sd
  )
}
