# Standardized effect sizes with exact intervals.

# Limits of the noncentrality of `t`: at the lower limit the tail beyond t, at the upper limit the
# tail before it, has probability (1 - level) / 2 (Steiger & Fouladi 1997).
core_ncp_limits <- function(t, df, level) {
  limits <- native_ncp_limits(t, df, level)
  list(lower = limits[, 1], upper = limits[, 2])
}

# Exact small-sample correction J(df) of Hedges (1981),
#   J = gamma(df / 2) / (sqrt(df / 2) gamma((df - 1) / 2)),
# written as a beta function: the logarithms of two large gammas would cancel.
core_hedges_factor <- function(df) sqrt(pi) / (sqrt(df / 2) * beta((df - 1) / 2, 1 / 2))

# d with the pooled SD, and the exact interval for the population effect: limits of the
# noncentrality of Student's t, divided by sqrt(n1 n2 / (n1 + n2)).
core_d_pooled <- function(a, b, level) {
  if (a$n + b$n < 3) return(list(reason = "one_value"))
  sd <- core_pooled_sd(a, b)
  if (sd == 0) return(list(reason = "no_spread"))
  df <- a$n + b$n - 2
  estimate <- core_mean_gap(a, b) / sd
  size <- sqrt(a$n / (a$n + b$n) * b$n)
  limits <- core_ncp_limits(estimate * size, df, level)
  list(
    estimate = estimate, lower = limits$lower / size, upper = limits$upper / size,
    df = df, standardizer = sd, reason = if (is.na(limits$lower)) "no_convergence"
  )
}

# d of the changes (Cohen 1988, p. 48), exact: noncentrality of the paired t over sqrt(n).
core_d_change <- function(change, level) {
  if (change$n < 2) return(list(reason = "one_value"))
  if (change$sd == 0) return(list(reason = "no_spread"))
  df <- change$n - 1
  estimate <- change$mean / change$sd
  limits <- core_ncp_limits(estimate * sqrt(change$n), df, level)
  list(
    estimate = estimate, lower = limits$lower / sqrt(change$n),
    upper = limits$upper / sqrt(change$n), df = df, standardizer = change$sd,
    reason = if (is.na(limits$lower)) "no_convergence"
  )
}

# g: d and its limits times J (Hedges 1981).
core_g <- function(d) {
  factor <- core_hedges_factor(d$df)
  scaled <- c("estimate", "lower", "upper")
  d[scaled] <- lapply(d[scaled], `*`, factor)
  d$factor <- factor
  d
}
