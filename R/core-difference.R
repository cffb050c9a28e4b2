# Tests and intervals for a difference of means.

# Standard error and Satterthwaite's degrees of freedom (Welch 1947, eq. 28), on a scale on which
# neither squares nor fourth powers under- or overflow. `reason` tells why there is no answer.
core_welch_error <- function(a, b) {
  if (a$n < 2 || b$n < 2) return(list(se = NA_real_, df = NA_real_, reason = "one_value"))
  parts <- c(a$sd / sqrt(a$n), b$sd / sqrt(b$n))
  size <- max(parts)
  if (size == 0) return(list(se = NA_real_, df = NA_real_, reason = "no_spread"))
  share <- (parts / size)^2
  total <- sum(share)
  df <- 1 / sum((share / total)^2 / (c(a$n, b$n) - 1))
  list(se = size * sqrt(total), df = df, reason = NULL)
}

# The same from the pooled variance (Student 1908; two samples: Fisher 1925). One value in one of the
# groups tells nothing about spread and is no obstacle.
core_student_error <- function(a, b) {
  if (a$n + b$n < 3) return(list(se = NA_real_, df = NA_real_, reason = "one_value"))
  sd <- core_pooled_sd(a, b)
  if (sd == 0) return(list(se = NA_real_, df = NA_real_, reason = "no_spread"))
  list(se = sd * sqrt(1 / a$n + 1 / b$n), df = a$n + b$n - 2, reason = NULL)
}

# The same of the mean of changes.
core_paired_error <- function(change) {
  if (change$n < 2) return(list(se = NA_real_, df = NA_real_, reason = "one_value"))
  if (change$sd == 0) return(list(se = NA_real_, df = NA_real_, reason = "no_spread"))
  list(se = change$sd / sqrt(change$n), df = change$n - 1, reason = NULL)
}

# Everything a t statistic tells about `estimate`: p for the question asked, the finite two-sided
# interval at `level`, the one-sided bound at 1 - alpha, and the two-sided interval that agrees with
# the test.
core_t_inference <- function(estimate, se, df, beyond, expect, level, alpha) {
  if (!is.finite(estimate) || !is.finite(se)) return(list(reason = "out_of_range"))
  statistic <- (estimate - beyond) / se
  log_p <- core_t_log_p(statistic, df, expect)
  matched_level <- core_matched_level(expect, alpha)
  reach <- core_t_reach(se, df, level)
  matched <- core_t_reach(se, df, matched_level)
  list(
    estimate = estimate, se = se, lower = estimate - reach, upper = estimate + reach,
    at_least = if (expect == "higher") estimate - matched else NA_real_,
    at_most = if (expect == "lower") estimate + matched else NA_real_,
    statistic = statistic, df = df, p = core_p_from_log(log_p), log_p = log_p,
    p_two_sided = core_p_from_log(core_t_log_p(statistic, df, "either")),
    matched_level = matched_level, matched_lower = estimate - matched,
    matched_upper = estimate + matched
  )
}

# Level of the two-sided interval that decides as a test at alpha does.
core_matched_level <- function(expect, alpha) if (expect == "either") 1 - alpha else 1 - 2 * alpha

core_t_reach <- function(se, df, level) {
  stats::qt((1 - level) / 2, df, lower.tail = FALSE) * se
}

# Natural logarithm of p: the tail asked for, never one minus the other.
core_t_log_p <- function(statistic, df, expect) {
  switch(expect,
    either = min(0, log(2) + stats::pt(-abs(statistic), df, log.p = TRUE)),
    higher = stats::pt(statistic, df, lower.tail = FALSE, log.p = TRUE),
    lower = stats::pt(statistic, df, log.p = TRUE)
  )
}

# A p below the smallest double is given as that double, never as 0; `log_p` has its size.
core_p_from_log <- function(log_p) {
  p <- exp(log_p)
  p[p == 0] <- 2^-1074
  p
}

# Adjusted p-values of Holm (1979): step down, never below the one before, at most 1.
core_holm <- function(p) {
  rank <- order(p)
  adjusted <- pmin(1, cummax(p[rank] * (length(p) - seq_along(p) + 1)))
  adjusted[order(rank)]
}

# Smallest and largest p over what rounding leaves open: every gap between the two ends of `gaps`, every
# error among `errors` (lists of se and df at the corners of the possible spreads). p falls with the
# distance of the gap from `beyond` and with the spread, so that the ends are among the corners.
core_p_range <- function(gaps, errors, beyond, expect) {
  log_p <- unlist(lapply(errors, function(error) {
    vapply((gaps - beyond) / error$se, core_t_log_p, 0, df = error$df, expect = expect)
  }))
  if (expect == "either" && min(gaps) <= beyond && max(gaps) >= beyond) log_p <- c(log_p, 0)
  core_p_from_log(range(log_p))
}

# Half a unit of the last decimal in which the numbers are written; 0 for eight decimals or more,
# which nobody prints.
core_half_unit <- function(x) {
  decimals <- 0
  while (decimals < 8 && any(abs(round(x, decimals) - x) > 1e-12 * abs(x))) decimals <- decimals + 1
  if (decimals >= 8) 0 else 0.5 * 10^-decimals
}

# Ends of the SD of the changes when both SDs and their correlation are known to half a unit only.
core_change_sd_ends <- function(sd, r, half_sd, half_r) {
  corners <- expand.grid(
    a = sd[[1]] + c(-1, 1) * half_sd, b = sd[[2]] + c(-1, 1) * half_sd,
    r = pmin(1, pmax(-1, r + c(-1, 1) * half_r))
  )
  range(mapply(function(a, b, r) core_change_sd(c(a, b), r), corners$a, corners$b, corners$r))
}
