# Equivalence: two one-sided tests against bounds, and what they say together with the test of a difference.

# Both one-sided tests of a t statistic (Schuirmann 1987) and the interval at 1 - 2 alpha that decides as they do:
# `low` against the lower bound, `high` against the upper one. Bounds may be vectors: one data set, many bounds.
core_t_sides <- function(estimate, se, df, low, high, alpha) {
  reach <- core_t_reach(se, df, 1 - 2 * alpha)
  lower <- estimate - reach
  upper <- estimate + reach
  t_low <- (estimate - low) / se
  t_high <- (estimate - high) / se
  if (!all(is.finite(c(lower, upper, t_low, t_high)))) return(list(reason = "out_of_range"))
  list(
    lower = lower, upper = upper,
    low = c(list(statistic = t_low), core_p_beside(core_t_log_p(t_low, df, "higher"), alpha, lower >= low)),
    high = c(list(statistic = t_high), core_p_beside(core_t_log_p(t_high, df, "lower"), alpha, upper <= high)),
    reason = NULL
  )
}

# The same for a standardized difference and bounds in SD units, with the uncertainty of the SD: at a bound the t
# statistic is noncentral, with that bound times the root of the size as noncentrality; where no t belongs to the
# standardizer, by the normal approximation of its interval. `parts` or the bounds may be vectors.
core_standardized_sides <- function(estimand, parts, low, high, alpha) {
  way <- core_interval_methods(estimand, !is.null(parts$sd_change))[[1]]
  interval <- core_effect_interval(estimand, parts, 1 - 2 * alpha, way)
  if (way == "noncentral_t") {
    found <- core_effect_t(estimand, parts)
    tails <- function(bound) {
      size <- max(lengths(list(found$t, bound)))
      native_noncentral_t(rep_len(found$t, size), rep_len(found$df, size), rep_len(found$size * bound, size))
    }
    logs <- list(low = log(tails(low)[, 2]), high = log(tails(high)[, 1]))
    statistic <- list(low = found$t, high = found$t)
    df <- found$df
  } else {
    d <- core_effect_point(estimand, parts)
    statistic <- list(low = (d - low) / interval$se, high = (d - high) / interval$se)
    logs <- list(
      low = stats::pnorm(statistic$low, lower.tail = FALSE, log.p = TRUE),
      high = stats::pnorm(statistic$high, log.p = TRUE)
    )
    df <- NA_real_
  }
  least <- log(2^-1074)
  side <- function(which, inside) {
    c(list(statistic = statistic[[which]], df = df), core_p_beside(pmax(logs[[which]], least), alpha, inside))
  }
  list(
    lower = interval$lower, upper = interval$upper, way = way, low = side("low", interval$lower >= low),
    high = side("high", interval$upper <= high)
  )
}

# p on the side of alpha on which the interval lies. Both are the same comparison, but where a limit meets a bound
# rounding could part them in the last digit.
core_p_beside <- function(log_p, alpha, inside) {
  p <- core_p_from_log(log_p)
  parted <- (p <= alpha) != inside
  if (any(parted)) {
    p[parted] <- ifelse(inside[parted], alpha, alpha * (1 + 2^-52))
    log_p[parted] <- log(p[parted])
  }
  list(p = p, log_p = log_p)
}

# The one verdict of four: what the test of a difference and the tests against the bounds say together.
core_verdict <- function(different, inside) {
  c("inconclusive", "different", "equivalent", "different but within bounds")[1 + different + 2 * inside]
}

# The smallest multiple of the bounds between which the interval lies: the tightest bounds of this shape that the
# data support. With symmetric bounds of 1 the tightest bound itself.
core_tightest <- function(lower, upper, low = -1, high = 1) pmax(lower / low, upper / high)

# Smallest and largest p of both sides together over what rounding leaves open: every gap between the two ends of
# `gaps`, every error among `errors`. At a given error p is smallest with the gap midway between the bounds.
core_equivalence_range <- function(gaps, errors, low, high) {
  middle <- min(max(low / 2 + high / 2, gaps[[1]]), gaps[[2]])
  log_p <- unlist(lapply(errors, function(error) {
    vapply(c(gaps, middle), function(gap) {
      max(
        core_t_log_p((gap - low) / error$se, error$df, "higher"),
        core_t_log_p((gap - high) / error$se, error$df, "lower")
      )
    }, 0)
  }))
  core_p_from_log(range(log_p))
}
