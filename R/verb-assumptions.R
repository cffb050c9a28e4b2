#' Look at the assumptions
#'
#' What the methods lean on: shape, spread, outlying values, ties, the order of measurement, and whether
#' rows belong together. Every line says what was looked at, what was found, how that reads and which
#' methods lean on it. Nothing here chooses a method, and nothing is stamped as passed: that a check finds
#' nothing is not evidence that the assumption holds.
#'
#' @inheritParams test_difference
#' @param ... Must be empty.
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
#'     \item{`stands_out`}{`TRUE` if the finding needs attention.}
#'     \item{`reading`}{what the finding means.}
#'     \item{`matters_for`}{the methods that depend on the assumption.}
#'     \item{`source`}{the source of the check.}
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
#'     independent values \eqn{n (1 - r_1)/(1 + r_1)}{n (1 - r1)/(1 + r1)} (Bayley & Hammersley 1946), of each group
#'     or of the changes. `error_order` is the error rate of a test that takes all values to be independent. Of two
#'     groups it is that of the test of their difference, from one order that both share: each value contributes its
#'     deviation from its group's mean over the group's size, the second group with the opposite sign. With S the sum of
#'     the squared contributions, P that of the squared sums at one place and \eqn{r}{r} the correlation of the sums at
#'     neighbouring places, the variance of the difference is
#'     \eqn{(P/S) (1 + r)/(1 - r)}{(P/S) (1 + r)/(1 - r)} times that of independent values. It is smaller than 1 where
#'     the groups alternate along one series.
#'   * Pairing: whether rows declared independent go together, and what pairing gained.
#' @section Errors: `vandro_error_bad_value`. What cannot be looked at is a row that says so, never an error.
#' @section Where it holds: How often each check speaks up where there is nothing to see is mapped in
#'   `vignette("validation", package = "vandro")`.
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
  refuse_more(...)
  call <- rlang::current_env()
  study <- asked_study(study, call)
  check_study(study)
  ask <- list(
    check_alpha = check_number(check_alpha, 0, 0.5, open = TRUE, call = call),
    centre = check_choice(centre, c("median", "mean")),
    spread_rule = check_number(spread_rule, 1), limits = check_limits(limits, call),
    alpha = check_alpha(alpha, call), level = check_level(level)
  )
  ask$spread_source <- check_spread_source(spread_source, ask$spread_rule, call)
  rows <- each_outcome(study, outcome_checks, study, ask)
  new_answer(
    "assumptions", bind_answered(rows, study$outcomes), study,
    settings = c(list(verb = "vet_assumptions"), ask)
  )
}

check_limits <- function(limits, call) {
  if (is.null(limits)) return(NULL)
  good <- is.numeric(limits) && length(limits) == 2 && !anyNA(limits) && limits[[1]] < limits[[2]]
  if (good) return(as.double(limits))
  abort_value(limits, "limits", "must be the smallest and the largest possible value", "limits = c(0, 10)", call)
}

check_spread_source <- function(source, rule, call) {
  source <- check_text(source, arg = "spread_source", call = call)
  if (!is.null(source)) return(source)
  if (rule == 2) "Moore & McCabe 1989" else "declared by the analyst"
}

outcome_checks <- function(outcome, study, ask) {
  if (is_database(study)) return(database_checks(outcome, study, ask))
  if (study$source == "summary") return(c(spread_checks(outcome, study, ask), hidden_checks(outcome, study)))
  looked <- if (is_paired(study)) 3 else 1:2
  per_group <- lapply(looked, function(which) {
    values <- exact_values(outcome, which)
    quarters <- quartiles_of(outcome, which)
    c(
      shape_checks(outcome, study, which, values, quarters, ask),
      oddity_checks(outcome, study, which, values, quarters)
    )
  })
  c(
    side_by_side(per_group), end_checks(outcome, study, ask), spread_checks(outcome, study, ask),
    order_checks(outcome, study, ask, looked), pairing_checks(outcome, study)
  )
}

# Known values; changes such that equal ones are equal as numbers.
exact_values <- function(outcome, which) {
  if (outcome$data$kind != "pairs") return(outcome_group_values(outcome, which))
  whole <- complete_pairs(outcome$data)
  core_exact_changes(as.double(whole[[1]]), as.double(whole[[2]]))
}

# What the figures draw, as plain numbers.

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
    data$n <- m$n
    box <- quartiles_of(outcome, which)[c(1, 3)]
    data$fenced <- abs(data$value - mean(box)) > 2 * diff(box)
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
  if (!has_values(study)) return(list(sds = sds, deviations = NULL))
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
