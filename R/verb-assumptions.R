#' Look at the assumptions
#'
#' What the methods lean on: shape, spread, outlying values, ties, the order of measurement, and whether
#' rows belong together. Every line says what was looked at, what was found, how that reads and which
#' methods lean on it. Nothing here chooses a method, and nothing is stamped as passed: that a check finds
#' nothing is not evidence that the assumption holds.
#'
#' @inheritParams test_difference
#' @param check_alpha Significance level of the checks themselves, apart from `alpha`.
#' @param centre Centre of the test of spread: `"median"` (Brown & Forsythe 1974), which keeps its level
#'   with skewed values, or `"mean"` (Levene 1960).
#' @param spread_rule Rule of thumb for the larger SD over the smaller one.
#' @param spread_source Where a rule of your own comes from; 2 is that of Moore & McCabe (1989).
#' @param limits Smallest and largest value the outcome can have, for example `c(0, 10)` for a score: values at
#'   these ends are counted, of pairs those of both measurements. `NULL` counts those at the lowest and
#'   highest value seen.
#' @param alpha Significance level of the analysis, for what unequal spread does to its error rate.
#' @param level Confidence of the interval for the ratio of the SDs.
#' @return An answer (classes `vandro_assumptions`, `vandro_answer`); its table has one row per outcome,
#'   check and group with the columns
#'   \describe{
#'     \item{`group`}{a group's label; `NA` where both are looked at; the direction for changes.}
#'     \item{`check`}{code: `size`, `skewness`, `kurtosis`, `normality`, `symmetry`, `zeros`, `fences`, `far`,
#'       `ties`, `distinct`, `lowest`, `highest`, `sd_ratio`, `deviations`, `f_ratio`, `error_student`,
#'       `error_welch`, `order`, `error_order`, `pairing`, and, for what published numbers do not show, `hidden`.}
#'     \item{`method`}{how it was looked at.}
#'     \item{`estimate`, `se`, `lower`, `upper`, `level`}{what was found; counts are numbers of values.}
#'     \item{`statistic`, `statistic_name`, `df`, `df_second`, `p`}{of a test, where there is one.}
#'     \item{`n`}{values looked at.}
#'     \item{`cases`}{row numbers, or the declared `id`, of the values that stand out.}
#'     \item{`seen`}{how it reads.}
#'     \item{`leaning`}{which methods lean on it.}
#'     \item{`source`}{where the check comes from.}
#'   }
#' @section What is looked at: Of pairs the changes, of independent groups each group.
#'   * Shape: skewness \eqn{G_1}, excess kurtosis \eqn{G_2} with their standard errors in normal samples (Joanes
#'     & Gill 1998); W of Shapiro & Wilk after Royston (1995) for 3 to 5000 values, beyond the sum of the
#'     squared z of skewness and kurtosis (D'Agostino & Pearson 1973; Anscombe & Glynn 1983). Of changes also
#'     the skewness of the quartiles (Yule 1911) and zeros.
#'   * Outlying values: 1.5 box lengths from the quartiles (Tukey 1977); more than 3.5 robust SDs from the
#'     median (Iglewicz & Hoaglin 1993). Ties, different values, values at the ends of the scale.
#'   * Spread: ratio of the SDs with the interval from the F distribution; Brown-Forsythe or Levene test; F
#'     ratio. How often Student's and Welch's test would reject a true null hypothesis were the populations
#'     normal with the SDs seen here: exact, by integration over the share of one group in the sum of squares.
#'     Of pairs the ratio of both SDs (Pitman 1939; Morgan 1939).
#'   * Order, where `order` was declared: correlation \eqn{r_1} of neighbours (Bartlett 1946), and the number of
#'     independent values \eqn{n (1 - r_1)/(1 + r_1)}{n (1 - r1)/(1 + r1)} (Bayley & Hammersley 1946), with the
#'     error rate of a test that takes all values to be independent.
#'   * Pairing: whether rows declared independent go together, and what pairing gained.
#' @section Errors: `vandro_error_bad_value`. What cannot be looked at is a row that says so, never an error.
#' @references Anscombe, F. J. & Glynn, W. J. (1983). Distribution of the kurtosis statistic b2 for normal
#'   samples. *Biometrika* 70, 227-234.
#'
#'   Bartlett, M. S. (1946). On the theoretical specification and sampling properties of autocorrelated
#'   time-series. *Supplement to the Journal of the Royal Statistical Society* 8, 27-41.
#'
#'   Bayley, G. V. & Hammersley, J. M. (1946). The "effective" number of independent observations in an
#'   autocorrelated time series. *Supplement to the Journal of the Royal Statistical Society* 8, 184-197.
#'
#'   Brown, M. B. & Forsythe, A. B. (1974). Robust tests for the equality of variances. *Journal of the
#'   American Statistical Association* 69, 364-367.
#'
#'   D'Agostino, R. & Pearson, E. S. (1973). Tests for departure from normality. *Biometrika* 60, 613-622.
#'
#'   Iglewicz, B. & Hoaglin, D. C. (1993). *How to detect and handle outliers*.
#'
#'   Joanes, D. N. & Gill, C. A. (1998). Comparing measures of sample skewness and kurtosis.
#'   *The Statistician* 47, 183-189.
#'
#'   Levene, H. (1960). Robust tests for equality of variances. In *Contributions to probability and
#'   statistics*, 278-292.
#'
#'   Moore, D. S. & McCabe, G. P. (1989). *Introduction to the practice of statistics*.
#'
#'   Morgan, W. A. (1939). A test for the significance of the difference between the two variances in a
#'   sample from a normal bivariate population. *Biometrika* 31, 13-19.
#'
#'   Pitman, E. J. G. (1939). A note on normal correlation. *Biometrika* 31, 9-12.
#'
#'   Royston, P. (1995). Remark AS R94: a remark on algorithm AS 181: the W-test for normality. *Applied
#'   Statistics* 44, 547-551.
#'
#'   Shapiro, S. S. & Wilk, M. B. (1965). An analysis of variance test for normality (complete samples).
#'   *Biometrika* 52, 591-611.
#'
#'   Tukey, J. W. (1977). *Exploratory data analysis*, section 2C.
#' @examples
#' study <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"), id = plant)
#' vet_assumptions(study)
#' autoplot(vet_assumptions(study))
#'
#' # The probes are read hour by hour
#' probes <- versus_paired(moisture, probe_a, probe_b, order = hour, unit = "%")
#' vet_assumptions(probes)
#' @export
vet_assumptions <- function(study, ..., check_alpha = 0.05, centre = c("median", "mean"), spread_rule = 2,
                            spread_source = NULL, limits = NULL, alpha = 0.05, level = 0.95) {
  if (...length()) rlang::check_dots_empty()
  call <- rlang::current_env()
  check_study(study)
  ask <- list(
    check_alpha = check_alpha(check_alpha, call), centre = check_choice(centre, c("median", "mean")),
    spread_rule = check_number(spread_rule, 1), limits = check_limits(limits, call),
    alpha = check_alpha(alpha, call), level = check_level(level)
  )
  ask$spread_source <- check_spread_source(spread_source, ask$spread_rule, call)
  rows <- each_outcome(study, outcome_checks, study, ask)
  new_answer(
    "assumptions", bind_rows(unlist(rows, recursive = FALSE)), study,
    settings = c(list(verb = "vet_assumptions"), ask)
  )
}

check_limits <- function(limits, call) {
  if (is.null(limits)) return(NULL)
  good <- is.numeric(limits) && length(limits) == 2 && !anyNA(limits) && limits[[1]] < limits[[2]]
  if (good) return(as.double(limits))
  found <- describe_value(limits)
  abort_vandro(
    c(
      "{.arg limits} must be the smallest and the largest possible value.",
      "x" = "It is {found}.", "i" = "For example {.code limits = c(0, 10)}."
    ),
    "bad_value",
    arg = "limits", value = limits, call = call
  )
}

check_spread_source <- function(source, rule, call) {
  source <- check_text(source, arg = "spread_source", call = call)
  if (!is.null(source)) return(source)
  if (rule == 2) "Moore & McCabe 1989" else "declared by the analyst"
}

outcome_checks <- function(outcome, study, ask) {
  if (study$source == "summary") return(c(spread_checks(outcome, study, ask), hidden_checks(outcome, study)))
  looked <- if (is_paired(study)) 3 else 1:2
  per_group <- lapply(looked, function(which) {
    values <- exact_values(outcome, which)
    quarters <- quartiles_of(outcome, which)
    c(
      shape_checks(outcome, study, which, values, quarters, ask),
      oddity_checks(outcome, study, which, values, quarters, ask)
    )
  })
  c(
    side_by_side(per_group), end_checks(outcome, study, ask), spread_checks(outcome, study, ask),
    order_checks(outcome, study, ask, looked), pairing_checks(outcome, study)
  )
}

# The same check of both groups in neighbouring rows.
side_by_side <- function(per_group) {
  if (length(per_group) == 1) per_group[[1]] else c(rbind(per_group[[1]], per_group[[2]]))
}

# Known values; changes such that equal ones are equal as numbers.
exact_values <- function(outcome, which) {
  if (outcome$data$kind != "pairs") return(outcome_group_values(outcome, which))
  whole <- complete_pairs(outcome$data)
  core_exact_changes(as.double(whole[[1]]), as.double(whole[[2]]))
}

# One row. `...`: whatever of its numbers there is.
check_row <- function(outcome, study, which, check, method, reading, leaning, source, ...) {
  known <- list(...)
  number <- function(name) as.double(known[[name]] %||% NA_real_)
  text <- function(name) known[[name]] %||% NA_character_
  label <- if (is.na(which)) NA_character_ else c(study$groups, study_direction(study))[[which]]
  list(
    outcome = outcome$name, comparison = study_direction(study), group = label, check = check,
    method = method, estimate = number("estimate"), se = number("se"), lower = number("lower"),
    upper = number("upper"), level = number("level"), statistic = number("statistic"),
    statistic_name = text("statistic_name"), df = number("df"), df_second = number("df_second"),
    p = if (is.null(known$log_p)) NA_real_ else core_p_from_log(known$log_p), n = number("n"),
    cases = text("cases"), seen = reading, leaning = leaning, source = source
  )
}

# Who leans on what, in the words of the table.
leans_on <- list(
  shape = "Student, Welch, d and g: less, the larger the groups",
  shape_pairs = "paired t, d and g of changes: less, the more pairs",
  symmetry = "signed ranks; the mean as a summary of the changes",
  odd = "means, SDs and all that is made of them",
  ties = "rank-based methods",
  ends = "means, SDs, shape",
  spread = "Student, pooled d and g, rank shift; not Welch",
  spread_pairs = "d (repeated); not the paired t",
  serial = "every method",
  pairing = "every method for independent groups",
  pairing_pairs = "the gain of every paired method"
)

# --- shape ------------------------------------------------------------------------------------------

shape_checks <- function(outcome, study, which, values, quarters, ask) {
  m <- outcome$moments[[which]]
  paired <- is_paired(study)
  leaning <- leans_on[[if (paired) "shape_pairs" else "shape"]]
  row <- function(...) check_row(outcome, study, which, ..., n = m$n)
  skew_error <- core_skewness_error(m$n)
  tail_error <- core_kurtosis_error(m$n)
  rows <- list(
    row("size", "number of values", number_seen(m$n), leaning, NA_character_, estimate = m$n),
    row("skewness", "G1", skewness_seen(m$skewness, skew_error, ask), leaning, "Joanes & Gill 1998",
      estimate = m$skewness, se = skew_error
    ),
    row("kurtosis", "G2", kurtosis_seen(m$kurtosis, tail_error, ask), leaning, "Joanes & Gill 1998",
      estimate = m$kurtosis, se = tail_error
    ),
    normality_row(row, values, m, leaning, ask)
  )
  if (!paired) return(rows)
  bowley <- core_quartile_skewness(quarters[[1]], quarters[[2]], quarters[[3]])
  zeros <- sum(values == 0)
  c(rows, list(
    row("symmetry", "skewness of the quartiles", symmetry_seen(bowley), leans_on$symmetry, "Yule 1911",
      estimate = bowley
    ),
    row("zeros", "count", if (zeros) "changes of exactly 0 carry no direction" else "none", leans_on$symmetry,
      NA_character_,
      estimate = zeros
    )
  ))
}

normality_row <- function(row, values, m, leaning, ask) {
  small <- m$n <= 5000
  found <- if (small) core_shapiro_wilk(values) else core_omnibus(m$n, m$skewness, m$kurtosis)
  method <- if (small) "Shapiro-Wilk" else "omnibus of skewness and kurtosis"
  source <- if (small) "Shapiro & Wilk 1965; Royston 1995" else "D'Agostino & Pearson 1973"
  if (is.na(found$log_p)) {
    seen <- if (m$n < 3) "too few values to look" else "the values do not vary"
    return(row("normality", method, seen, leaning, source))
  }
  row("normality", method, normality_seen(found$log_p, m$n, ask), leaning, source,
    statistic = found$statistic, statistic_name = if (small) "W" else "K2",
    df = if (small) NULL else 2, log_p = found$log_p
  )
}

number_seen <- function(n) {
  if (n < 10) {
    return("so few that checks of shape see next to nothing: what the methods lean on must come from elsewhere")
  }
  if (n < 30) return("checks of shape see strong departures only")
  if (n <= 1000) return("means of so many values vary about normally, unless the values are very skewed")
  "checks of shape find departures that are too small to matter for means"
}

beyond_chance <- function(estimate, se, ask) {
  abs(estimate) > stats::qnorm(1 - ask$check_alpha / 2) * se
}

skewness_seen <- function(skewness, se, ask) {
  if (is.na(skewness)) return("not known: fewer than 3 values, or no spread")
  side <- if (skewness > 0) "high" else "low"
  if (beyond_chance(skewness, se, ask)) {
    return(sprintf("a long tail of %s values, longer than chance gives normal samples of this size", side))
  }
  "within what chance gives normal samples of this size; not evidence of symmetry"
}

kurtosis_seen <- function(kurtosis, se, ask) {
  if (is.na(kurtosis)) return("not known: fewer than 4 values, or no spread")
  if (beyond_chance(kurtosis, se, ask)) {
    return(sprintf(
      "tails %s than chance gives normal samples of this size", if (kurtosis > 0) "heavier" else "lighter"
    ))
  }
  "within what chance gives normal samples of this size; not evidence of normal tails"
}

normality_seen <- function(log_p, n, ask) {
  if (log_p <= log(ask$check_alpha)) {
    many <- if (n > 1000) "; in so many values even a harmless one shows" else ""
    return(paste0("a departure from the normal shape beyond chance", many))
  }
  few <- if (n < 30) "; so few values hide all but strong departures" else ""
  paste0("no departure seen, which is not evidence of normality", few)
}

symmetry_seen <- function(bowley) {
  if (is.na(bowley)) return("not known: half of the changes or more are equal")
  if (abs(bowley) < 0.1) return("the median lies about midway between the quartiles")
  sprintf("the middle half of the changes reaches farther %s", if (bowley > 0) "up" else "down")
}

# --- outlying values, ties, ends --------------------------------------------------------------------

oddity_checks <- function(outcome, study, which, values, quarters, ask) {
  n <- length(values)
  row <- function(...) check_row(outcome, study, which, ..., n = n)
  labels <- function(at) case_words(outcome, study, which, at)
  fences <- core_beyond_fences(values, quarters[[1]], quarters[[3]])
  far <- core_far_from_median(values, quarters[[2]])
  repeats <- core_repeats(values)
  apart <- "look these up: a slip of the pen, or a true value that moves mean and SD?"
  list(
    row("fences", "1.5 box lengths from the quartiles", if (length(fences)) apart else "none beyond",
      leans_on$odd, "Tukey 1977",
      estimate = length(fences), cases = labels(fences)
    ),
    row("far", "3.5 robust SDs from the median", far_seen(far, apart), leans_on$odd, "Iglewicz & Hoaglin 1993",
      estimate = if (is.null(far)) NULL else length(far), cases = labels(far)
    ),
    row("ties", "values equal to another one", ties_seen(repeats$tied, n), leans_on$ties, NA_character_,
      estimate = repeats$tied
    ),
    row("distinct", "different values", distinct_seen(repeats$distinct, n), leans_on$ties, NA_character_,
      estimate = repeats$distinct
    )
  )
}

# The scale has its ends where it was measured: of pairs both measurements are looked at.
end_checks <- function(outcome, study, ask) {
  looked <- if (outcome$data$kind == "changes") 3 else 1:2
  side_by_side(lapply(looked, function(which) {
    values <- outcome_group_values(outcome, which)
    n <- length(values)
    found <- core_repeats(values, ask$limits)
    row <- function(check, value, count) {
      check_row(outcome, study, which, check, end_words(check, value, ask$limits),
        end_seen(count, n, found$outside, ask), leans_on$ends, NA_character_,
        estimate = count, n = n
      )
    }
    list(row("lowest", found$low, found$at_low), row("highest", found$high, found$at_high))
  }))
}

# Up to ten, by row number or declared id; the rest is counted.
case_words <- function(outcome, study, which, at, most = 10) {
  if (length(at) == 0) return(NULL)
  labels <- value_labels(study, outcome, which)[at]
  more <- if (length(labels) > most) sprintf(" and %d more", length(labels) - most) else ""
  paste0(paste(utils::head(labels, most), collapse = ", "), more)
}

far_seen <- function(far, apart) {
  if (is.null(far)) return("not known: half of the values or more are equal")
  if (length(far)) apart else "none so far away"
}

ties_seen <- function(tied, n) {
  if (tied == 0) "none" else if (tied < n / 2) "some ranks are shared" else "most ranks are shared"
}

distinct_seen <- function(distinct, n) {
  if (n >= 10 && (distinct <= 10 || distinct < n / 4)) {
    "a coarse scale: few steps for so many values"
  } else {
    "a fine scale for this number of values"
  }
}

end_words <- function(end, value, limits) {
  if (is.null(limits)) return(paste("values at the", end, "one seen"))
  sprintf("values at %s, the %s possible", format(value, digits = 15), end)
}

end_seen <- function(count, n, outside, ask) {
  if (!is.null(ask$limits) && outside > 0) return("some values lie outside the limits declared: check both")
  if (count >= 3 && count >= 0.1 * n) {
    return("values pile up at this end: what would lie beyond is cut off, mean and SD are drawn in")
  }
  "no pile at this end"
}

# --- spread -----------------------------------------------------------------------------------------

spread_checks <- function(outcome, study, ask) {
  if (is_paired(study)) return(paired_spread_checks(outcome, study, ask))
  m <- outcome$moments
  row <- function(...) check_row(outcome, study, NA, ..., n = m[[1]]$n + m[[2]]$n)
  found <- core_variance_ratio(m[[1]], m[[2]], ask$level)
  if (!is.null(found$reason)) {
    seen <- if (found$reason == "one_value") "not known: a group has one value" else "a group does not vary"
    return(list(row("sd_ratio", "F distribution", seen, leans_on$spread, ask$spread_source)))
  }
  c(
    list(row("sd_ratio", "F distribution", ratio_seen(found$ratio, study, ask), leans_on$spread,
      ask$spread_source,
      estimate = found$ratio, lower = found$lower, upper = found$upper, level = ask$level
    )),
    deviation_checks(row, outcome, study, ask),
    list(row("f_ratio", "F ratio of the variances",
      spread_seen(found$log_p, ask, "; leans on normal shape itself"), leans_on$spread, "Fisher 1925",
      statistic = found$statistic, statistic_name = "F", df = found$df[[1]], df_second = found$df[[2]],
      log_p = found$log_p
    )),
    error_checks(row, m, found$ratio, study, ask)
  )
}

ratio_seen <- function(ratio, study, ask) {
  if (ratio == 1) return("the SDs are equal in these samples")
  larger <- study$groups[[if (ratio > 1) 1 else 2]]
  within <- max(ratio, 1 / ratio) <= ask$spread_rule
  rule <- sprintf("the rule of thumb (%s)", format(ask$spread_rule))
  sprintf(
    "%s spreads more; %s; the interval is exact for normal populations only", larger,
    if (within) paste0("within ", rule, ", which is not evidence of equality") else paste("beyond", rule)
  )
}

spread_seen <- function(log_p, ask, also = "") {
  seen <- if (log_p <= log(ask$check_alpha)) {
    "spreads differ beyond chance"
  } else {
    "no difference of spread seen, which is not evidence of equality"
  }
  paste0(seen, also)
}

deviation_checks <- function(row, outcome, study, ask) {
  if (study$source == "summary") return(NULL)
  values <- lapply(1:2, function(which) outcome_group_values(outcome, which))
  median <- ask$centre == "median"
  centres <- if (median) {
    vapply(1:2, function(which) quartiles_of(outcome, which)[[2]], 0)
  } else {
    vapply(outcome$moments[1:2], `[[`, 0, "mean")
  }
  found <- core_deviation_test(values[[1]], values[[2]], centres)
  method <- if (median) "Brown-Forsythe, from the medians" else "Levene, from the means"
  source <- if (median) "Brown & Forsythe 1974" else "Levene 1960"
  if (!is.null(found$reason)) {
    return(list(row("deviations", method, "not known: the deviations do not vary", leans_on$spread, source)))
  }
  list(row("deviations", method, spread_seen(found$log_p, ask), leans_on$spread, source,
    statistic = found$statistic, statistic_name = "F", df = found$df[[1]], df_second = found$df[[2]],
    log_p = found$log_p
  ))
}

# What the SDs seen, together with the sizes, would do to the error rate of both t tests.
error_checks <- function(row, m, ratio, study, ask) {
  true_size <- function(method) core_true_size(method, m[[1]]$n, m[[2]]$n, ratio, ask$alpha)
  student <- true_size("student")
  method <- "rejections of a true null, with SDs as seen"
  list(
    row("error_student", paste0("Student: ", method), student_seen(student, m, ratio, ask$alpha),
      leans_on$spread, "exact integration",
      estimate = student
    ),
    row("error_welch", paste0("Welch: ", method), "Welch's test does not take the spreads to be equal",
      leans_on$spread, "exact integration",
      estimate = true_size("welch")
    )
  )
}

student_seen <- function(size, m, ratio, alpha) {
  smaller_spreads_more <- (m[[1]]$n - m[[2]]$n) * (ratio - 1) < 0
  if (size > 1.2 * alpha && smaller_spreads_more) {
    return("DANGER: the smaller group spreads more, and Student's test would reject too often")
  }
  if (size > 1.2 * alpha) return("Student's test would reject too often")
  if (size < 0.8 * alpha) return("the larger group spreads more: Student's test would miss differences")
  if (m[[1]]$n == m[[2]]$n) return("with equal sizes unequal spread changes little")
  "close to alpha with these sizes and SDs"
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
    seen <- if (found$reason == "no_halves") {
      "cannot be looked at: the study has the changes only"
    } else {
      "not known: too few pairs, or a half that does not vary"
    }
    return(list(row("sd_ratio", "both measurements", seen, leans_on$spread_pairs, "Pitman 1939; Morgan 1939")))
  }
  list(row("sd_ratio", "both measurements", spread_seen(found$log_p, ask), leans_on$spread_pairs,
    "Pitman 1939; Morgan 1939",
    estimate = found$ratio, lower = found$lower, upper = found$upper, level = ask$level,
    statistic = found$statistic, statistic_name = "t", df = found$df, log_p = found$log_p
  ))
}

# --- order and pairing ------------------------------------------------------------------------------

order_checks <- function(outcome, study, ask, looked) {
  row <- function(which, ...) check_row(outcome, study, which, "order", ...)
  if (is.null(study$rows$order)) {
    return(list(row(NA, "correlation of neighbours", "not looked at: no order of measurement was declared",
      leans_on$serial, "Bartlett 1946"
    )))
  }
  side_by_side(lapply(looked, function(which) {
    found <- core_serial(ordered_values(study, outcome, which), ask$alpha)
    if (!is.null(found$reason)) {
      unknown <- "not known: too few values, or no spread"
      return(list(
        row(which, "correlation of neighbours", unknown, leans_on$serial, "Bartlett 1946"),
        check_row(outcome, study, which, "error_order", "rejections of a true null, with dependence as seen",
          unknown, leans_on$serial, "Bayley & Hammersley 1946"
        )
      ))
    }
    list(
      row(which, "correlation of neighbours", serial_seen(found, ask), leans_on$serial,
        "Bartlett 1946; Bayley & Hammersley 1946",
        estimate = found$r, se = found$se, statistic = found$effective_n, statistic_name = "effective n",
        log_p = found$log_p, n = found$n
      ),
      check_row(outcome, study, which, "error_order", "rejections of a true null, with dependence as seen",
        naive_seen(found$naive_error, ask), leans_on$serial, "Bayley & Hammersley 1946",
        estimate = found$naive_error, n = found$n
      )
    )
  }))
}

naive_seen <- function(error, ask) {
  if (error > 1.2 * ask$alpha) return("were the dependence as seen here, a test that ignores it would reject too often")
  "close to alpha for a test that ignores the order"
}

serial_seen <- function(found, ask) {
  if (found$log_p > log(ask$check_alpha)) {
    return("no dependence on the neighbour seen, which is not evidence of independence")
  }
  if (found$r > 0) {
    return("neighbours resemble each other: every interval here is too narrow and every p too small")
  }
  "neighbours alternate: intervals are wider than they need be"
}

pairing_checks <- function(outcome, study) {
  if (is_paired(study)) return(paired_gain(outcome, study))
  row <- function(...) check_row(outcome, study, NA, "pairing", "correlation of rows", ...)
  rows <- matched_rows(outcome, study)
  if (is.null(rows)) {
    return(list(row("not looked at: nothing tells which rows of the groups would belong together",
      leans_on$pairing, NA_character_
    )))
  }
  found <- core_row_correlation(rows[[1]], rows[[2]])
  seen <- if (is.na(found$r)) {
    "not known: a group does not vary"
  } else if (is_strong(found$r, found$n)) {
    "rows go together as pairs do: if a row is one unit measured twice, the design is another one"
  } else {
    "rows do not go together more than chance allows; whether they are pairs is a matter of the design"
  }
  list(row(seen, leans_on$pairing, NA_character_, estimate = found$r, n = found$n))
}

# Values of both groups that would belong together: in one row, with the same key, or, where the groups are
# equally large, at the same place of the row order. NULL where there is no such thing.
matched_rows <- function(outcome, study) {
  data <- outcome$data
  if (data$kind == "columns") {
    rows <- lapply(data$parts, as.double)
  } else if (data$kind == "long" && !is.null(study$rows$id)) {
    return(rows_by_key(data, study$rows$id$values))
  } else if (data$kind == "long") {
    rows <- lapply(1:2, function(which) as.double(data$values[which(data$codes == data$code_of[[which]])]))
  } else {
    return(NULL)
  }
  # Sorted values go together whatever they are.
  if (length(rows[[1]]) != length(rows[[2]]) || (is_sorted(rows[[1]]) && is_sorted(rows[[2]]))) NULL else rows
}

rows_by_key <- function(data, id) {
  at <- lapply(1:2, function(which) which(data$codes == data$code_of[[which]]))
  keys <- lapply(at, function(rows) id[rows])
  both <- intersect(keys[[1]], keys[[2]])
  if (length(both) < 3 || anyDuplicated(keys[[1]]) || anyDuplicated(keys[[2]])) return(NULL)
  Map(function(at, keys) as.double(data$values[at[match(both, keys)]]), at, keys)
}

paired_gain <- function(outcome, study) {
  r <- outcome$pairs$r %||% NA_real_
  m <- outcome$moments
  seen <- if (is.na(r)) {
    "cannot be looked at: needs both measurements, and that they vary"
  } else if (m[[3]]$sd^2 < m[[1]]$sd^2 + m[[2]]$sd^2) {
    "pairing makes the interval narrower than independent groups of this size would have it"
  } else {
    "pairing gains nothing here: check that the halves belong to the same unit"
  }
  list(check_row(outcome, study, NA, "pairing", "correlation of the halves", seen, leans_on$pairing_pairs,
    NA_character_,
    estimate = r, n = m[[3]]$n
  ))
}

# What published numbers do not show, said once for each.
hidden_checks <- function(outcome, study) {
  hidden <- c(shape = "shape", odd = "outlying values", ties = "ties and ends", serial = "order")
  leaning <- leans_on[names(hidden)]
  if (is_paired(study)) leaning$shape <- leans_on$shape_pairs
  Map(function(what, leaning) {
    check_row(outcome, study, NA, "hidden", what, "cannot be looked at: needs the measurements", leaning, NA_character_)
  }, unname(hidden), unname(leaning))
}

# --- what the figures draw --------------------------------------------------------------------------

# Per group (pairs: the changes) normal quantiles, values and band; NULL where there is too little.
normal_curves <- function(study, outcome, band_level = 0.95) {
  looked <- if (is_paired(study)) 3 else 1:2
  labels <- c(study$groups, study_direction(study))[looked]
  pieces <- Map(function(which, label) {
    m <- outcome$moments[[which]]
    curve <- core_normal_plot(outcome_group_values(outcome, which), m$mean, m$sd, band_level)
    if (is.null(curve)) return(NULL)
    data <- lean_table(c(curve, list(group = rep(factor(label, labels), length(curve$place)))))
    data$mean <- m$mean
    data$sd <- m$sd
    data
  }, looked, labels)
  do.call(rbind, unname(pieces))
}

# Deviations from each group's own median, and the SDs with their intervals.
spread_data <- function(study, outcome, level) {
  sds <- do.call(rbind, lapply(1:2, function(which) {
    m <- outcome$moments[[which]]
    limits <- core_sd_interval(m$n, m$sd, level)
    data.frame(
      group = factor(study$groups[[which]], study$groups), n = m$n, sd = m$sd, lower = limits[[1]],
      upper = limits[[2]]
    )
  }))
  if (study$source == "summary") return(list(sds = sds, deviations = NULL))
  deviations <- lapply(1:2, function(which) {
    outcome_group_values(outcome, which) - quartiles_of(outcome, which)[[2]]
  })
  list(sds = sds, deviations = deviations)
}

# Values (of pairs changes) in the order declared.
order_series <- function(study, outcome) {
  looked <- if (is_paired(study)) 3 else 1:2
  labels <- c(study$groups, study_direction(study))[looked]
  do.call(rbind, unname(Map(function(which, label) {
    place <- study$rows$order$values[known_rows(outcome, which)]
    data.frame(
      place = place[order(place)], value = ordered_values(study, outcome, which),
      group = rep(factor(label, labels), length(place)), mean = outcome$moments[[which]]$mean
    )
  }, looked, labels)))
}
