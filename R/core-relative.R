# The relative effect, P(first > second) + P(equal) / 2, with variances of its own in both groups.

# t of Brunner & Munzel (2000), section 3, positive where the first group tends to be larger; `se` of the
# estimate, `df` by Satterthwaite's formula.
core_relative_effect <- function(counts) {
  n <- counts$n_first
  m <- counts$n_second
  estimate <- counts$u / counts$pairs
  if (n < 2 || m < 2) return(list(estimate = estimate, reason = "one_value"))
  parts <- counts$placement_variance / (c(n, m) * c(m, n)^2)
  se <- sqrt(sum(parts))
  separated <- estimate == 0 || estimate == 1
  list(
    estimate = estimate, se = se, t = if (estimate == 0.5) 0 else (estimate - 0.5) / se,
    df = if (se == 0) NA_real_ else sum(parts)^2 / sum(parts^2 / (c(n, m) - 1)), separated = separated,
    reason = if (se == 0 && !separated) "no_spread"
  )
}

# Limits from t quantiles `low` and `high` (signed) on the logit scale, and so within 0 and 1. An infinite
# quantile leaves the end of the scale.
core_logit_limits <- function(estimate, se, low, high) {
  slope <- se / (estimate * (1 - estimate))
  stats::plogis(stats::qlogis(estimate) - c(high, low) * slope)
}

# Of complete separation: among min(n, m) pairs without a common member all go the same way, which has
# probability theta^min(n, m) (Clopper & Pearson 1934); two-sided at `level`.
core_separated_limits <- function(estimate, n, m, level) {
  least <- ((1 - level) / 2)^(1 / min(n, m))
  if (estimate == 1) c(least, 1) else c(0, 1 - least)
}

# With Student's t, or with `drawn` (see core_relative_assignments) in its place.
core_relative_inference <- function(counts, expect, level, alpha, drawn = NULL) {
  effect <- core_relative_effect(counts)
  if (!is.null(effect$reason)) return(effect)
  n <- counts$n_first
  m <- counts$n_second
  matched <- core_matched_level(expect, alpha)
  limits <- lapply(c(level, matched), function(level) {
    if (effect$separated) return(core_separated_limits(effect$estimate, n, m, level))
    ends <- core_relative_quantiles(effect$df, (1 - level) / 2, drawn)
    core_logit_limits(effect$estimate, effect$se, ends[[1]], ends[[2]])
  })
  p <- core_relative_p(effect, counts, expect, drawn)
  c(p, list(
    estimate = effect$estimate, se = if (effect$separated) NA_real_ else effect$se,
    lower = limits[[1]][[1]], upper = limits[[1]][[2]],
    at_least = if (expect == "higher") limits[[2]][[1]] else NA_real_,
    at_most = if (expect == "lower") limits[[2]][[2]] else NA_real_,
    statistic = if (effect$separated) NA_real_ else effect$t, df = if (is.null(drawn)) effect$df else NA_real_,
    matched_level = matched, matched_lower = limits[[2]][[1]], matched_upper = limits[[2]][[2]],
    separated = effect$separated, reason = NULL
  ))
}

# Quantiles that leave `tail` to either side: of Student's t, or of the logit statistic under assignment (Pauly
# et al. 2016).
core_relative_quantiles <- function(df, tail, drawn) {
  if (is.null(drawn)) return(stats::qt(c(tail, 1 - tail), df))
  order <- order(drawn$logits)
  t <- drawn$logits[order]
  extra <- if (drawn$kind == "simulated") 1 else 0
  share <- function(weights) (cumsum(weights) + extra) / (drawn$total + extra)
  # The outermost values whose tail, themselves included, keeps within `tail`; equal ones go together.
  slack <- tail * (1 + 1e-12)
  low <- which(share(drawn$weights[order]) <= slack & c(diff(t) != 0, TRUE))
  high <- which(rev(share(rev(drawn$weights[order]))) <= slack & c(TRUE, diff(t) != 0))
  c(if (length(low)) t[[max(low)]] else -Inf, if (length(high)) t[[min(high)]] else Inf)
}

core_relative_p <- function(effect, counts, expect, drawn) {
  if (effect$separated) {
    # One assignment of all is as extreme, whatever the statistic.
    one <- -lchoose(counts$n_first + counts$n_second, counts$n_first)
    logs <- if (effect$estimate == 0) c(one, 0) else c(0, one)
    # Small numbers of assignments as they are, so that 1 / 20 is just that.
    p <- if (one > -30) 1 / choose(counts$n_first + counts$n_second, counts$n_first) else exp(one)
    found <- list(kind = "exact", p = ifelse(logs == 0, 1, p), log = logs, smallest = one)
  } else if (is.null(drawn)) {
    logs <- c(
      stats::pt(effect$t, effect$df, log.p = TRUE), stats::pt(effect$t, effect$df, lower.tail = FALSE, log.p = TRUE)
    )
    found <- list(kind = "asymptotic", p = exp(logs), log = logs, smallest = -Inf)
  } else {
    extra <- if (drawn$kind == "simulated") 1 else 0
    p <- (c(drawn$at_most, drawn$at_least) + extra) / (drawn$total + extra)
    found <- list(kind = drawn$kind, p = p, log = log(p), smallest = -log(drawn$total + extra))
  }
  null <- list(
    p_low = found$p[[1]], p_high = found$p[[2]], log_low = found$log[[1]], log_high = found$log[[2]],
    log_smallest = c(low = found$smallest, high = found$smallest)
  )
  out <- c(core_rank_p(null, expect), kind = found$kind)
  if (found$kind == "asymptotic") out$p_smallest <- NA_real_
  out
}

# t under assignments of the observed values to the groups (Neubert & Brunner 2007): every one (`draws` 0), or
# that many random ones. `at_least` and `at_most` count those at or beyond the observed one, ties decided in
# whole numbers.
core_relative_assignments <- function(samples, draws = 0, seed = 0, threads = 1L) {
  found <- core_pooled_runs(samples)
  drawn <- native_relative_null(found$runs, found$in_first, draws, seed, threads)
  c(drawn, list(kind = if (draws > 0) "simulated" else "exact"))
}

# Different assignments, equal values not told apart. Those of the smaller sample tell the other's.
core_count_assignments <- function(samples) {
  native_count_assignments(core_pooled_runs(samples)$runs, min(length(samples$first), length(samples$second)))
}

# How often each different value occurs, and how often in the first sample.
core_pooled_runs <- function(samples) {
  shifted <- core_shifted_samples(samples)
  values <- native_sorted(unique(unlist(shifted)))
  in_first <- tabulate(match(shifted[[1]], values), length(values))
  list(runs = in_first + tabulate(match(shifted[[2]], values), length(values)), in_first = in_first)
}

# Interval of a simulated p from `count` among `draws` (Clopper & Pearson 1934).
core_simulated_range <- function(count, draws, level = 0.95) {
  tail <- (1 - level) / 2
  c(
    if (count == 0) 0 else stats::qbeta(tail, count, draws - count + 1),
    if (count == draws) 1 else stats::qbeta(1 - tail, count + 1, draws - count)
  )
}
