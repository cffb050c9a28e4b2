# Whether differences differ between subgroups. Every function takes `estimate`, `se` and `df` with one entry per
# subgroup.

# Welch's (1951) test of the equality of several means, on independent estimates with standard errors and degrees of
# freedom of their own; with two it is the t test of their difference with Satterthwaite's degrees of freedom.
core_heterogeneity <- function(estimate, se, df) {
  k <- length(estimate)
  if (k < 2) return(list(reason = "one_subgroup"))
  # Weights relative to the smallest error, so that no square leaves the range.
  w <- (min(se) / se)^2
  share <- w / sum(w)
  centre <- sum(share * (estimate - estimate[[1]])) + estimate[[1]]
  spread <- sum(((estimate - centre) / se)^2) / (k - 1)
  lambda <- sum((1 - share)^2 / df)
  f <- spread / (1 + 2 * (k - 2) / (k^2 - 1) * lambda)
  core_f_tail(f, k - 1, (k^2 - 1) / (3 * lambda), centre, min(se) / sqrt(sum(w)))
}

# The same from one variance that all groups of all subgroups share: the interaction of a two-way layout. `unit`: the
# standard error of each estimate in units of the common SD.
core_pooled_heterogeneity <- function(estimate, unit, sd, df) {
  k <- length(estimate)
  if (k < 2) return(list(reason = "one_subgroup"))
  w <- (min(unit) / unit)^2
  share <- w / sum(w)
  centre <- sum(share * (estimate - estimate[[1]])) + estimate[[1]]
  core_f_tail(
    sum(((estimate - centre) / (unit * sd))^2) / (k - 1), k - 1, df, centre, sd * min(unit) / sqrt(sum(w))
  )
}

core_f_tail <- function(f, df, df_second, centre, se) {
  log_p <- core_f_log_tail(f, df, df_second, FALSE)
  list(
    statistic = f, df = df, df_second = df_second, p = core_p_from_log(log_p), log_p = log_p, centre = centre, se = se
  )
}

# SD that all groups share, from their SDs and degrees of freedom, and their sum.
core_common_sd <- function(sd, df) {
  df[is.na(sd)] <- 0
  sd[is.na(sd)] <- 0
  size <- max(sd)
  if (size == 0) return(list(sd = 0, df = sum(df)))
  list(sd = size * sqrt(sum(df * (sd / size)^2) / sum(df)), df = sum(df))
}

# First estimate less second, with Satterthwaite's degrees of freedom.
core_estimate_gap <- function(estimate, se, df) {
  size <- max(se)
  share <- (se / size)^2
  total <- sum(share)
  list(estimate = estimate[[1]] - estimate[[2]], se = size * sqrt(total), df = total^2 / sum(share^2 / df))
}
