# Checks of the spread: how unlike the SDs are, and what that does to the tests.

spread_checks <- function(outcome, study, ask) {
  if (is_paired(study)) return(paired_spread_checks(outcome, study, ask))
  m <- outcome$moments
  row <- function(...) check_row(outcome, study, NA, ..., n = m[[1]]$n + m[[2]]$n)
  found <- core_variance_ratio(m[[1]], m[[2]], ask$level)
  if (!is.null(found$reason)) {
    reading <- switch(found$reason,
      one_value = "not known: a group has one value", no_spread = "not known: a group does not vary",
      out_of_range = "not known: the SDs differ beyond the range of numbers"
    )
    return(list(row("sd_ratio", "F distribution", reading, depends_on$spread, ask$spread_source)))
  }
  c(
    list(row("sd_ratio", "F distribution", ratio_reading(found$ratio, study, ask), depends_on$spread,
      ask$spread_source,
      estimate = found$ratio, lower = found$lower, upper = found$upper, level = ask$level
    )),
    deviation_checks(row, outcome, study, ask),
    list(row("f_ratio", "F ratio of the variances",
      spread_reading(found$log_p, ask, "; this test assumes normal populations"), depends_on$spread, "Fisher 1925",
      statistic = found$statistic, statistic_name = "F", df = found$df[[1]], df_second = found$df[[2]],
      log_p = found$log_p
    )),
    error_checks(row, m, found, ask)
  )
}

ratio_reading <- function(ratio, study, ask) {
  if (ratio == 1) return("the SDs are equal in these samples")
  larger <- study$groups[[if (ratio > 1) 1 else 2]]
  within <- max(ratio, 1 / ratio) <= ask$spread_rule
  rule <- sprintf("the rule of thumb (%s)", format_plain(ask$spread_rule))
  reading <- sprintf(
    "the SD is larger for %s, %s %s; the interval is exact for normal populations only", larger,
    if (within) "within" else "beyond", rule
  )
  if (within) reading else notable(reading)
}

spread_reading <- function(log_p, ask, also = "") {
  if (log_p <= log(ask$check_alpha)) {
    return(notable(paste0("the variances differ more than expected by chance", also)))
  }
  paste0("no difference in variance detected", also)
}

deviation_checks <- function(row, outcome, study, ask) {
  if (study$source == "summary") return(NULL)
  median <- ask$centre == "median"
  found <- if (is_database(study)) {
    database_deviations(outcome, vapply(1:2, function(which) {
      if (median) quartiles_of(outcome, which)[[2]] else outcome$moments[[which]]$mean
    }, 0))
  } else {
    core_deviation_test(outcome_group_values(outcome, 1), outcome_group_values(outcome, 2), median)
  }
  method <- if (median) "Brown-Forsythe, from the medians" else "Levene, from the means"
  source <- if (median) "Brown & Forsythe 1974" else "Levene 1960"
  if (!is.null(found$reason)) {
    return(list(row("deviations", method, "not known: the deviations do not vary", depends_on$spread, source)))
  }
  list(row("deviations", method, spread_reading(found$log_p, ask), depends_on$spread, source,
    statistic = found$statistic, statistic_name = "F", df = found$df[[1]], df_second = found$df[[2]],
    log_p = found$log_p
  ))
}

# What the SDs seen, together with the sizes, would do to the error rate of both t tests.
error_checks <- function(row, m, found, ask) {
  true_size <- function(method, ratio) core_true_size(method, m[[1]]$n, m[[2]]$n, ratio, ask$alpha)
  student <- true_size("student", found$ratio)
  # What the SDs' own uncertainty leaves open about the rate.
  ends <- c(found$lower, found$upper)
  ends <- if (length(ends) == 2 && all(is.finite(ends) & ends > 0)) {
    range(vapply(ends, true_size, 0, method = "student"), student)
  } else {
    c(NA_real_, NA_real_)
  }
  method <- "rejections of a true null hypothesis, with the SDs observed"
  list(
    row("error_student", paste0("Student: ", method), student_reading(student, ends, m, found$ratio, ask$alpha),
      depends_on$spread, "exact integration",
      estimate = student, lower = ends[[1]], upper = ends[[2]], level = ask$level
    ),
    row("error_welch", paste0("Welch: ", method), "Welch's test does not assume equal variances",
      depends_on$spread, "exact integration",
      estimate = true_size("welch", found$ratio)
    )
  )
}

# `ends`: the rates at the ends of the interval of the SD ratio.
student_reading <- function(size, ends, m, ratio, alpha) {
  smaller_spreads_more <- (m[[1]]$n - m[[2]]$n) * (ratio - 1) < 0
  sure <- !anyNA(ends) && ends[[1]] > 1.2 * alpha
  if (size > 1.2 * alpha && sure && smaller_spreads_more) {
    return(notable("the smaller group has the larger SD, and Student's test rejects too often"))
  }
  if (size > 1.2 * alpha && smaller_spreads_more) {
    return(notable(
      "the smaller group has the larger SD: Student's test may reject too often, but these SDs leave that open"
    ))
  }
  if (size > 1.2 * alpha) return(notable("Student's test may reject too often"))
  if (size < 0.8 * alpha) return(notable("the larger group has the larger SD: Student's test misses differences"))
  if (m[[1]]$n == m[[2]]$n) return("with equal sample sizes unequal SDs change little")
  "close to alpha with these sample sizes and SDs"
}

paired_spread_checks <- function(outcome, study, ask) {
  m <- outcome$moments
  r <- outcome$pairs$r %||% NA_real_
  found <- if (is.na(m[[1]]$mean)) {
    list(reason = "no_halves")
  } else {
    core_paired_variance_ratio(m[[1]], m[[2]], r, ask$level)
  }
  row <- function(...) check_row(outcome, study, NA, ..., n = m[[3]]$n)
  if (!is.null(found$reason)) {
    reading <- switch(found$reason,
      no_halves = "cannot be checked: the study has the changes only",
      out_of_range = "not known: the SDs differ beyond the range of numbers",
      "not known: too few pairs, or a measurement that does not vary"
    )
    return(list(row("sd_ratio", "both measurements", reading, depends_on$spread_pairs, "Pitman 1939; Morgan 1939")))
  }
  list(row("sd_ratio", "both measurements", spread_reading(found$log_p, ask), depends_on$spread_pairs,
    "Pitman 1939; Morgan 1939",
    estimate = found$ratio, lower = found$lower, upper = found$upper, level = ask$level,
    statistic = found$statistic, statistic_name = "t", df = found$df, log_p = found$log_p
  ))
}

# Brown-Forsythe or Levene from the distances that the engine sums.
database_deviations <- function(outcome, centres) {
  core_deviation_from(engine_deviations(outcome, 1, centres[[1]]), engine_deviations(outcome, 2, centres[[2]]))
}
