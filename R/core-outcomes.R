# Many outcomes of the same rows at once: Welch's test with its interval, and exact intervals of g.

# `values`: a matrix with a column per outcome. Every entry of the list has one element per outcome; NaN
# where a group has fewer than two values or nothing varies.
core_welch_many <- function(values, codes, first, second, expect, beyond, level) {
  sides <- c(either = 0L, higher = 1L, lower = -1L)[[expect]]
  out <- native_welch_many(values, codes, first, second, sides, beyond, level)
  out$p <- core_p_from_log(out$log_p)
  out$lower <- out$estimate - out$reach
  out$upper <- out$estimate + out$reach
  out
}

# g with exact limits for what core_welch_many() found.
core_g_many <- function(found, level) {
  parts <- list(
    n_first = found$n_first, n_second = found$n_second, sd_first = found$sd_first,
    sd_second = found$sd_second, gap = found$estimate
  )
  interval <- core_interval_ncp("g", parts, level)
  list(estimate = core_effect_point("g", parts), lower = interval$lower, upper = interval$upper)
}
