# Effect sizes of means and their intervals. Every function works on `parts`: a list of n_first,
# n_second, mean_first, mean_second, sd_first, sd_second, gap (first minus second mean, not through
# their rounded values), and for pairs sd_change and r. Its entries may be vectors, one element per data
# set: one data set, its jackknife, its bootstrap draws and a simulation take the same path.

core_effect_parts <- function(m, r = NULL) {
  parts <- list(
    n_first = m[[1]]$n, n_second = m[[2]]$n, mean_first = m[[1]]$mean, mean_second = m[[2]]$mean,
    sd_first = m[[1]]$sd, sd_second = m[[2]]$sd, gap = core_mean_gap(m[[1]], m[[2]])
  )
  if (length(m) == 3) {
    parts$gap <- m[[3]]$mean
    parts$sd_change <- m[[3]]$sd
    parts$r <- if (is.null(r)) NA_real_ else r
  }
  parts
}

# Limits of the noncentrality of `t`: at the lower limit the tail beyond t, at the upper limit the
# tail before it, has probability (1 - level) / 2 (Steiger & Fouladi 1997).
# Of many each has the digits that it has alone.
core_ncp_limits <- function(t, df, level, threads = 1L) {
  limits <- native_ncp_limits(as.double(t), rep_len(as.double(df), length(t)), level, threads)
  list(lower = limits[, 1], upper = limits[, 2])
}

# Exact small-sample correction J(df) of Hedges (1981),
#   J = gamma(df / 2) / (sqrt(df / 2) gamma((df - 1) / 2)),
# written as a beta function: the logarithms of two large gammas would cancel. It does not exist for
# df = 1, where d has no mean.
core_hedges_factor <- function(df) {
  df[!(df > 1)] <- NA_real_
  sqrt(pi) / (sqrt(df / 2) * beta((df - 1) / 2, 1 / 2))
}

# How an effect size is computed.
#   divisor    function(parts): what the difference is divided by; NULL where it is not divided
#   df         function(parts): degrees of freedom of the divisor, of groups; of pairs it is n - 1
#   corrected  times the small-sample factor of Hedges (1981)
#   spread     whose SD it is: of both groups "apart", "pooled" (one group may have a single value), of the "first" or
#              "second" group, of the "changes", or "repeated"
#   intervals  function(paired): ways to an interval, the default first; every one also has the bootstrap
core_effect_formula <- function(divisor, df, spread = "apart", corrected = FALSE,
                                intervals = function(paired) "noncentral_t") {
  list(divisor = divisor, df = df, spread = spread, corrected = corrected, intervals = intervals)
}

core_pooled_of <- function(parts) {
  core_pooled_sd(list(sd = parts$sd_first, n = parts$n_first), list(sd = parts$sd_second, n = parts$n_second))
}

# 1 - r; where r is close to 1 from the SDs, which keep the digits: (sd_change^2 - (sd_first - sd_second)^2) over twice
# the product of both SDs. 0 where only rounding is left.
core_less_than_one <- function(parts) {
  plain <- 1 - parts$r
  apart <- abs(parts$sd_first - parts$sd_second)
  left <- parts$sd_change - apart
  left[which(left <= 8 * .Machine$double.eps * pmax(parts$sd_first, parts$sd_second))] <- 0
  near <- which(plain < 1e-3)
  plain[near] <- (left / parts$sd_first * (parts$sd_change + apart) / parts$sd_second / 2)[near]
  plain
}

core_by_average <- function(corrected) {
  core_effect_formula(
    function(parts) core_root_mean_square(parts$sd_first, parts$sd_second), function(parts) core_average_df(parts),
    corrected = corrected, intervals = function(paired) c("bonett", "noncentral_t")
  )
}

core_by_group <- function(side, corrected) {
  core_effect_formula(
    function(parts) parts[[paste0("sd_", side)]], function(parts) parts[[paste0("n_", side)]] - 1, side, corrected,
    intervals = function(paired) c("bonett", if (!paired) "noncentral_t")
  )
}

core_by_repeated <- function(corrected) {
  core_effect_formula(
    function(parts) parts$sd_change / sqrt(2 * core_less_than_one(parts)), NULL, "repeated", corrected
  )
}

core_effects <- list(
  mean_difference = core_effect_formula(NULL, NULL, intervals = function(paired) character()),
  mean_ratio = core_effect_formula(
    NULL, function(parts) core_log_ratio(parts)$df,
    intervals = function(paired) "log_delta"
  ),
  d_pooled = core_effect_formula(core_pooled_of, function(parts) parts$n_first + parts$n_second - 2, "pooled"),
  g = core_effect_formula(core_pooled_of, function(parts) parts$n_first + parts$n_second - 2, "pooled", TRUE),
  d_average = core_by_average(FALSE), g_average = core_by_average(TRUE),
  d_by_first = core_by_group("first", FALSE), g_by_first = core_by_group("first", TRUE),
  d_by_second = core_by_group("second", FALSE), g_by_second = core_by_group("second", TRUE),
  d_change = core_effect_formula(function(parts) parts$sd_change, NULL, "changes"),
  g_change = core_effect_formula(function(parts) parts$sd_change, NULL, "changes", TRUE),
  d_repeated = core_by_repeated(FALSE), g_repeated = core_by_repeated(TRUE)
)

# What the difference is divided by.
core_standardizer <- function(estimand, parts) {
  divisor <- core_effects[[estimand]]$divisor
  if (!is.null(divisor)) divisor(parts)
}

# Degrees of freedom of the standardizer.
core_effect_df <- function(estimand, parts) {
  if (!is.null(parts$sd_change)) return(parts$n_first - 1)
  df <- core_effects[[estimand]]$df
  if (!is.null(df)) df(parts)
}

# The factor of a corrected effect size, 1 of others: for the degrees of freedom of its own standardizer.
core_correction <- function(estimand, parts) {
  formula <- core_effects[[estimand]]
  if (!formula$corrected) return(1)
  df <- core_effect_df(estimand, parts)
  # The variances of two measurements of the same units are correlated by r^2.
  if (formula$spread == "apart" && !is.null(parts$sd_change)) {
    a <- parts$sd_first^2
    b <- parts$sd_second^2
    df <- df * (a + b)^2 / (a^2 + b^2 + 2 * parts$r^2 * a * b)
  }
  core_hedges_factor(df)
}

# Satterthwaite's degrees of freedom of (s1^2 + s2^2) / 2 (Delacre et al. 2021).
core_average_df <- function(parts) {
  whole <- core_root_mean_square(parts$sd_first, parts$sd_second)
  a <- (parts$sd_first / whole)^4 / (parts$n_first - 1)
  b <- (parts$sd_second / whole)^4 / (parts$n_second - 1)
  4 / (a + b)
}

# The point estimate: difference, ratio of means, or standardized difference.
core_effect_point <- function(estimand, parts) {
  if (estimand == "mean_difference") return(parts$gap)
  if (estimand == "mean_ratio") return(parts$mean_first / parts$mean_second)
  parts$gap / core_standardizer(estimand, parts) * core_correction(estimand, parts)
}

# Why there is no estimate or no interval, NA where there is.
core_effect_reasons <- function(estimand, parts) {
  reason <- rep(NA_character_, length(parts$gap))
  few_first <- parts$n_first < 2
  few_second <- parts$n_second < 2
  # The pooled SD needs two values in one group only.
  pooled <- core_effects[[estimand]]$spread == "pooled"
  reason <- core_first_reason(reason, if (pooled) few_first & few_second else few_first | few_second, "one_value")
  if (estimand == "mean_ratio") return(core_ratio_reasons(reason, parts))
  core_standardizer_reasons(estimand, reason, parts)
}

# The first reason that holds stands.
core_first_reason <- function(reason, holds, code) {
  reason[is.na(reason) & holds %in% TRUE] <- code
  reason
}

core_ratio_reasons <- function(reason, parts) {
  positive <- parts$mean_first > 0 & parts$mean_second > 0
  reason <- core_first_reason(reason, !(positive %in% TRUE), "not_positive")
  core_first_reason(reason, parts$sd_first == 0 & parts$sd_second == 0, "no_spread")
}

core_standardizer_reasons <- function(estimand, reason, parts) {
  if (!is.null(parts$sd_change)) reason <- core_first_reason(reason, parts$sd_change == 0, "no_spread")
  spread <- core_effects[[estimand]]$spread
  if (spread == "repeated") reason <- core_first_reason(reason, is.na(parts$r), "no_correlation")
  standardizer <- core_standardizer(estimand, parts)
  reason <- core_first_reason(reason, is.na(standardizer), "no_halves")
  by_group <- spread %in% c("first", "second")
  reason <- core_first_reason(reason, standardizer == 0, if (by_group) "flat_group" else "no_spread")
  needed_df <- if (core_effects[[estimand]]$corrected) 2 else 1
  reason <- core_first_reason(reason, core_effect_df(estimand, parts) < needed_df, "too_few_for_g")
  # Squares of what is larger leave the range of doubles.
  known <- !is.na(standardizer) & abs(parts$gap / standardizer) < 1e140
  core_first_reason(reason, !(known %in% TRUE), "out_of_range")
}

# The same for one data set: NULL where there is an answer.
core_effect_reason <- function(estimand, parts) {
  reason <- core_effect_reasons(estimand, parts)
  if (!is.na(reason)) reason
}

# Only where there is an answer: the others would leave the range of a logarithm.
core_parts_where <- function(parts, known) {
  if (all(known)) return(parts)
  lapply(parts, function(part) {
    part[!known] <- NA
    part
  })
}

# Data set number i of many.
core_parts_at <- function(parts, i) lapply(parts, function(part) part[[min(i, length(part))]])

# Interval methods of each estimand, the default first; every one also has the bootstrap.
core_interval_methods <- function(estimand, paired) core_effects[[estimand]]$intervals(paired)

core_effect_interval <- function(estimand, parts, level, method, threads = 1L) {
  switch(method,
    noncentral_t = core_interval_ncp(estimand, parts, level, threads),
    bonett = core_interval_bonett(estimand, parts, level),
    log_delta = core_interval_log(parts, level)
  )
}

# The t statistic whose noncentrality is `size` times the standardized effect, and its degrees of freedom.
core_effect_t <- function(estimand, parts) {
  paired <- !is.null(parts$sd_change)
  size <- if (paired) sqrt(parts$n_first) * core_paired_share(estimand, parts) else core_ncp_size(estimand, parts)
  t <- if (paired) {
    parts$gap / parts$sd_change * sqrt(parts$n_first)
  } else {
    parts$gap / core_standardizer(estimand, parts) * size
  }
  list(t = t, df = core_effect_df(estimand, parts), size = size)
}

# Limits of the noncentrality of a t statistic, divided by what makes that a standardized effect.
core_interval_ncp <- function(estimand, parts, level, threads = 1L) {
  found <- core_effect_t(estimand, parts)
  limits <- core_ncp_limits(found$t, found$df, level, threads)
  factor <- core_correction(estimand, parts)
  list(lower = limits$lower / found$size * factor, upper = limits$upper / found$size * factor, df = found$df)
}

# Noncentrality per unit of effect: equal spreads for d_pooled and the SD of one group, each group's own
# for the average SD, where t is Welch's (Delacre et al. 2021).
core_ncp_size <- function(estimand, parts) {
  if (core_effects[[estimand]]$spread != "apart") {
    return(sqrt(parts$n_first / (parts$n_first + parts$n_second) * parts$n_second))
  }
  whole <- core_root_mean_square(parts$sd_first, parts$sd_second)
  1 / sqrt((parts$sd_first / whole)^2 / parts$n_first + (parts$sd_second / whole)^2 / parts$n_second)
}

# Standardizer over the SD of the changes: what turns the paired t into another d (Algina & Keselman
# 2003). For the d of changes itself 1.
core_paired_share <- function(estimand, parts) {
  if (core_effects[[estimand]]$spread == "changes") return(1)
  core_standardizer(estimand, parts) / parts$sd_change
}

# Both terms of the variance of d by the average SD (Bonett 2008): that of the gap, and that of the standardizer for d =
# 1. `first`, `second`: the variances of both groups over the squared standardizer.
core_bonett_terms <- function(first, second, df_first, df_second) {
  list(gap = first / df_first + second / df_second, standardizer = (first^2 / df_first + second^2 / df_second) / 8)
}

# Normal intervals from the variances of Bonett (2008): of the average SD, and of one group's SD.
core_interval_bonett <- function(estimand, parts, level) {
  s <- core_standardizer(estimand, parts)
  d <- parts$gap / s
  u <- parts$sd_first / s
  v <- parts$sd_second / s
  df_first <- parts$n_first - 1
  df_second <- parts$n_second - 1
  paired <- !is.null(parts$sd_change)
  groups <- core_bonett_terms(u^2, v^2, df_first, df_second)
  of_gap <- if (paired) (parts$sd_change / s)^2 / df_first else groups$gap
  spread <- core_effects[[estimand]]$spread
  of_standardizer <- if (spread == "apart" && paired) {
    d^2 * (u^4 + v^4 + 2 * parts$r^2 * u^2 * v^2) / (8 * df_first)
  } else if (spread == "apart") {
    d^2 * groups$standardizer
  } else {
    d^2 / (2 * if (spread == "first") df_first else df_second)
  }
  se <- sqrt(of_gap + of_standardizer)
  reach <- stats::qnorm((1 - level) / 2, lower.tail = FALSE) * se
  factor <- core_correction(estimand, parts)
  list(lower = (d - reach) * factor, upper = (d + reach) * factor, se = se * factor)
}

# Logarithm of the ratio of means, its standard error by the delta method and Satterthwaite's degrees of
# freedom (Bonett & Price 2020).
core_log_ratio <- function(parts) {
  a <- (parts$sd_first / parts$mean_first)^2 / parts$n_first
  b <- (parts$sd_second / parts$mean_second)^2 / parts$n_second
  if (is.null(parts$sd_change)) {
    df <- (a + b)^2 / (a^2 / (parts$n_first - 1) + b^2 / (parts$n_second - 1))
    return(list(log = log(parts$mean_first / parts$mean_second), se = sqrt(a + b), df = df))
  }
  shared <- parts$r * (parts$sd_first / parts$mean_first) * (parts$sd_second / parts$mean_second)
  list(
    log = log(parts$mean_first / parts$mean_second),
    se = sqrt(pmax(0, a + b - 2 * shared / parts$n_first)), df = parts$n_first - 1
  )
}

core_interval_log <- function(parts, level) {
  ratio <- core_log_ratio(parts)
  reach <- stats::qt((1 - level) / 2, ratio$df, lower.tail = FALSE) * ratio$se
  list(lower = exp(ratio$log - reach), upper = exp(ratio$log + reach), df = ratio$df)
}
