#' Describe the groups and their difference
#'
#' Size, centre, spread and shape of both groups, and the difference of their means, before any test.
#'
#' @inheritParams test_difference
#' @return An answer (classes `vandro_description`, `vandro_answer`); its table has per outcome one row
#'   for each group and one for the difference, with the columns `outcome`, `group`, `n`, `missing`
#'   (rows of the group without a value), `mean`, `sd`, `se` (of the mean), `lower`, `upper` (interval
#'   for the mean at `level`), `level`, `median`, `q1`, `q3`, `min`, `max`, `skewness`, `kurtosis`. In
#'   the row of the difference `mean` is first minus second, with Welch's standard error and interval.
#'   `NA` where a number does not exist (SD of one value) or needs measurements that published numbers
#'   do not contain.
#' @section Formula: Interval of a mean: \eqn{m \pm t_{1-(1-\code{level})/2, n-1}\, s/\sqrt n}{m -/+
#'   t(1 - (1 - level)/2; n - 1) s/sqrt(n)}. Quartiles by rule 7 of Hyndman & Fan (1996). Skewness
#'   \eqn{G_1} and excess kurtosis \eqn{G_2} of Joanes & Gill (1998, section 2), from 3 and 4 values
#'   on.
#' @references Hyndman, R. J. & Fan, Y. (1996). Sample quantiles in statistical packages.
#'   *The American Statistician* 50, 361-365.
#'
#'   Joanes, D. N. & Gill, C. A. (1998). Comparing measures of sample skewness and kurtosis.
#'   *The Statistician* 47, 183-189.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' describe_study(study)
#' @export
describe_study <- function(study, ..., level = 0.95) {
  rlang::check_dots_empty()
  check_study(study)
  level <- check_level(level)
  rows <- each_outcome(study, function(outcome) {
    groups <- lapply(1:2, function(which) group_row(outcome, study, which, level))
    c(groups, list(difference_of_groups_row(outcome, study, level)))
  })
  new_answer(
    "description", bind_rows(unlist(rows, recursive = FALSE)), study,
    settings = list(verb = "describe_study", level = level)
  )
}

group_row <- function(outcome, study, which, level) {
  m <- outcome$moments[[which]]
  interval <- core_mean_interval(m, level)
  quartile <- rep(NA_real_, 3)
  if (study$source == "values") {
    quartile <- core_group_quantiles(
      outcome$values, outcome$codes, outcome$code_of[[which]], m$n, c(0.25, 0.5, 0.75)
    )
  }
  list(
    outcome = outcome$name, group = study$groups[[which]], n = m$n, missing = m$missing,
    mean = m$mean, sd = m$sd, se = interval$se, lower = interval$lower, upper = interval$upper,
    level = level, median = quartile[[2]], q1 = quartile[[1]], q3 = quartile[[3]], min = m$min,
    max = m$max, skewness = m$skewness, kurtosis = m$kurtosis
  )
}

# Without a spread there is still a difference, only no interval for it.
difference_of_groups_row <- function(outcome, study, level) {
  a <- outcome$moments[[1]]
  b <- outcome$moments[[2]]
  error <- core_welch_error(a, b)
  gap <- core_mean_gap(a, b)
  reach <- if (is.null(error$reason)) core_t_reach(error$se, error$df, level) else NA_real_
  list(
    outcome = outcome$name, group = study_direction(study), n = NA_real_, missing = NA_real_,
    mean = gap, sd = NA_real_, se = error$se, lower = gap - reach, upper = gap + reach,
    level = level, median = NA_real_, q1 = NA_real_, q3 = NA_real_, min = NA_real_, max = NA_real_,
    skewness = NA_real_, kurtosis = NA_real_
  )
}
