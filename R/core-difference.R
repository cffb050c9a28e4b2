# Tests and intervals for a difference of means.

# Each takes the moments of one outcome, or of many as vectors. `reason` tells why there is no answer, NA where there is
# one.

# Standard error and Satterthwaite's degrees of freedom (Welch 1947, eq. 28), on a scale on which neither squares nor
# fourth powers under- or overflow.
core_welch_errors <- function(a, b) {
  part_a <- a$sd / sqrt(a$n)
  part_b <- b$sd / sqrt(b$n)
  size <- pmax(part_a, part_b)
  share_a <- (part_a / size)^2
  share_b <- (part_b / size)^2
  total <- share_a + share_b
  df <- 1 / ((share_a / total)^2 / (a$n - 1) + (share_b / total)^2 / (b$n - 1))
  core_known_errors(size * sqrt(total), df, a$n < 2 | b$n < 2, size == 0)
}

# The same from the pooled variance (Student 1908; two samples: Fisher 1925). One value in one of the
# groups tells nothing about spread and is no obstacle.
core_student_errors <- function(a, b) {
  sd <- core_pooled_sd(a, b)
  few <- a$n + b$n < 3 | a$n == 0 | b$n == 0
  core_known_errors(sd * sqrt(1 / a$n + 1 / b$n), a$n + b$n - 2, few, sd == 0)
}

# The same of the mean of changes.
core_paired_errors <- function(change) {
  core_known_errors(change$sd / sqrt(change$n), change$n - 1, change$n < 2, change$sd == 0)
}

core_known_errors <- function(se, df, few, flat) {
  reason <- rep(NA_character_, length(few))
  reason[which(flat)] <- "no_spread"
  reason[which(few)] <- "one_value"
  se[!is.na(reason)] <- df[!is.na(reason)] <- NA_real_
  list(se = se, df = df, reason = reason)
}

# The errors of one outcome: `reason` is NULL where there is an answer.
core_one_error <- function(errors) {
  if (is.na(errors$reason)) errors["reason"] <- list(NULL)
  errors
}
core_welch_error <- function(a, b) core_one_error(core_welch_errors(a, b))
core_student_error <- function(a, b) core_one_error(core_student_errors(a, b))
core_paired_error <- function(change) core_one_error(core_paired_errors(change))

# Everything a t statistic tells about `estimate`, or many: p for the question asked, the finite two-sided
# interval at `level`, the one-sided bound at 1 - alpha, and the two-sided interval that agrees with
# the test. `reason` is NULL where every one has an answer; out of range there is none.
core_t_inference <- function(estimate, se, df, beyond, expect, level, alpha) {
  reach <- core_t_reach(se, df, level)
  statistic <- (estimate - beyond) / se
  lost <- !is.finite(statistic) | !is.finite(abs(estimate) + reach)
  if (any(lost)) estimate[lost] <- se[lost] <- df[lost] <- statistic[lost] <- reach[lost] <- NA_real_
  log_p <- core_t_log_p(statistic, df, expect)
  log_both <- if (expect == "either") log_p else core_t_log_p(statistic, df, "either")
  matched_level <- core_matched_level(expect, alpha)
  matched <- if (matched_level == level) reach else core_t_reach(se, df, matched_level)
  none <- rep(NA_real_, length(estimate))
  list(
    estimate = estimate, se = se, lower = estimate - reach, upper = estimate + reach,
    at_least = if (expect == "higher") estimate - matched else none,
    at_most = if (expect == "lower") estimate + matched else none,
    statistic = statistic, df = df, p = core_p_from_log(log_p), log_p = log_p,
    p_two_sided = core_p_from_log(log_both), matched_level = rep(matched_level, length(estimate)),
    matched_lower = estimate - matched, matched_upper = estimate + matched,
    reason = if (any(lost)) ifelse(lost, "out_of_range", NA_character_)
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
    either = pmin(0, log(2) + stats::pt(-abs(statistic), df, log.p = TRUE)),
    higher = stats::pt(statistic, df, lower.tail = FALSE, log.p = TRUE),
    lower = stats::pt(statistic, df, log.p = TRUE)
  )
}

# A p below the smallest double is given as that double, never as 0; `log_p` has its size.
core_p_from_log <- function(log_p) {
  p <- exp(log_p)
  p[which(p == 0)] <- 2^-1074
  p
}

# Smallest and largest p over what rounding leaves open: every gap between the two ends of `gaps`, every
# error among `errors` (lists of se and df at the corners of the possible spreads). p falls with the
# distance of the gap from `beyond` and with the spread, so that the ends are among the corners.
core_p_range <- function(gaps, errors, beyond, expect) {
  log_p <- unlist(lapply(errors, function(error) {
    vapply((gaps - beyond) / error$se, core_t_log_p, 0, df = error$df, expect = expect)
  }))
  # Groups of one value have no error.
  if (length(log_p) == 0) return(c(NA_real_, NA_real_))
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
