#' Describe the groups and their difference
#'
#' Size, centre, spread and shape of both groups, and the difference of their means or, for pairs, the
#' changes, before any test.
#'
#' @inheritParams test_difference
#' @param method For groups, the method whose interval the difference has: `"welch"` (the default) or `"student"`.
#' @param ... Must be empty.
#' @param set `"full"` or `"short"`: without quartiles and shape.
#' @return An answer (classes `vandro_description`, `vandro_answer`); its table has per outcome one row
#'   for each group and one for the difference or the changes, with the columns `outcome`, `group`, `n`,
#'   `missing` (values the group lacks), `mean`, `sd`, `se` (of the mean), `lower`, `upper` (interval for
#'   the mean at `level`), `level` and, in the full set, `median`, `q1`, `q3`, `min`, `max`, `skewness`,
#'   `kurtosis`; for pairs also `r` (correlation of the halves) and the counts `up`, `down`, `same` (first
#'   above, below, equal to second). Pairs are described over the complete ones. In the row of an
#'   independent difference `mean` is first minus second, with the standard error and interval of `method`. `NA`
#'   where a number does not exist (SD of one value) or needs measurements that published numbers do not
#'   contain.
#' @section Formula: Interval of a mean: \eqn{m \pm t_{1-(1-\code{level})/2, n-1}\, s/\sqrt n}{m -/+
#'   t(1 - (1 - level)/2; n - 1) s/sqrt(n)}. Quartiles by rule 7 of Hyndman & Fan (1996). Skewness
#'   \eqn{G_1} and excess kurtosis \eqn{G_2} of Joanes & Gill (1998, section 2), from 3 and 4 values
#'   on.
#' @references Hyndman, R. J. & Fan, Y. (1996). Sample quantiles in statistical packages.
#'   *The American Statistician* 50, 361-365.
#'
#'   Joanes, D. N. & Gill, C. A. (1998). Comparing measures of sample skewness and kurtosis.
#'   *The Statistician* 47, 183-189.
#' @section Errors: `vandro_error_not_a_study`, `vandro_error_missing_argument`, `vandro_error_bad_value`.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' describe_study(study)
#' describe_study(study, method = "student", set = "short")
#' describe_study(versus_paired(conductance, noon, dawn, unit = "mmol"), set = "short")
#' @export
describe_study <- function(study, ..., method = NULL, set = c("full", "short"), level = 0.95) {
  refuse_more(...)
  study <- asked_study(study, rlang::current_env())
  check_study(study)
  set <- check_choice(set, c("full", "short"))
  if (set == "full") study <- full_study(study)
  level <- check_level(level)
  method <- check_means_method(method, study, rlang::current_env())
  rows <- lapply(with_lost_halves(study), function(outcome) {
    groups <- lapply(1:2, function(which) group_row(outcome, study, which, set, level))
    last <- if (is_paired(study)) {
      change_row(outcome, study, set, level)
    } else {
      difference_of_groups_row(outcome, study, method, set, level)
    }
    c(groups, list(last))
  })
  table <- bind_rows(unlist(rows, recursive = FALSE))
  new_answer(
    "description", table, study,
    settings = list(verb = "describe_study", method = method, set = set, level = level)
  )
}

check_means_method <- function(method, study, call) {
  if (is.null(method)) return(mean_method(study))
  check_choice(method_codes(method), methods_where(design = study$design, family = "means"), arg = "method", call = call)
}

group_row <- function(outcome, study, which, set, level) {
  m <- outcome$moments[[which]]
  interval <- core_mean_interval(m, level)
  missing <- if (is_paired(study)) outcome$lost_halves[[which]] else m$missing
  row <- list(
    group = c(study$groups, study_direction(study))[[which]], n = m$n, missing = missing,
    mean = m$mean, sd = m$sd, se = interval$se, lower = interval$lower, upper = interval$upper,
    level = level
  )
  row <- c(record_cells(outcome), row)
  pairs <- if (is_paired(study)) list(r = NA_real_, up = NA_real_, down = NA_real_, same = NA_real_)
  c(row, shape_columns(outcome, which, set), pairs)
}

change_row <- function(outcome, study, set, level) {
  row <- group_row(outcome, study, 3, set, level)
  row[c("r", "up", "down", "same")] <- outcome$pairs[c("r", "up", "down", "same")]
  row
}

# Without a spread there is still a difference, only no interval for it.
difference_of_groups_row <- function(outcome, study, method, set, level) {
  m <- outcome$moments
  error <- mean_error(method, m)
  gap <- if (is.na(m[[1]]$mean + m[[2]]$mean)) NA_real_ else mean_gap(method, m)
  reach <- if (is.null(error$reason)) core_t_reach(error$se, error$df, level) else NA_real_
  row <- list(
    group = study_direction(study), n = NA_real_, missing = NA_real_,
    mean = gap, sd = NA_real_, se = error$se, lower = gap - reach, upper = gap + reach,
    level = level
  )
  c(record_cells(outcome), row, shape_columns(NULL, 0, set))
}

# The outcomes of pairs, each with the number of pairs that lack one half or the other; looked up once for all of them.
with_lost_halves <- function(study) {
  if (!is_paired(study)) return(study$outcomes)
  if (is.null(study$left_out)) {
    return(lapply(study$outcomes, function(outcome) c(outcome, list(lost_halves = rep(NA_real_, 3)))))
  }
  left <- study$left_out[study$left_out$reason == "half missing", ]
  key <- function(name, subgroup, group) paste(name, subgroup %||% "", group, sep = "\r")
  lost <- if (nrow(left)) rowsum(left$n, key(left$outcome, left$subgroup, left$group))[, 1]
  lapply(study$outcomes, function(outcome) {
    counts <- if (is.null(lost)) c(0, 0) else unname(lost[key(outcome$name, outcome$subgroup, study$groups)])
    counts[is.na(counts)] <- 0
    c(outcome, list(lost_halves = c(counts, NA_real_)))
  })
}

shape_columns <- function(outcome, which, set) {
  if (set == "short") return(NULL)
  quartile <- quartiles_of(outcome, which)
  m <- if (is.null(outcome)) core_unknown_moments(NA_real_) else outcome$moments[[which]]
  list(
    median = quartile[[2]], q1 = quartile[[1]], q3 = quartile[[3]], min = m$min, max = m$max,
    skewness = m$skewness, kurtosis = m$kurtosis
  )
}

quartiles_of <- function(outcome, which) {
  quarters <- c(0.25, 0.5, 0.75)
  data <- outcome$data
  if (!is.null(outcome) && outcome$moments[[which]]$n == 0) return(rep(NA_real_, 3))
  switch(data$kind %||% "none",
    database = if (!is.na(outcome$moments[[which]]$mean)) engine_quartiles(outcome, which),
    long = core_group_quantiles(
      data$values, data$codes, data$code_of[[which]], outcome$moments[[which]]$n, quarters
    ),
    counted = core_counted_quantiles(
      data$values, data$counts, data$codes, data$code_of[[which]], quarters
    ),
    columns = core_sample_quantiles(as.double(data$parts[[which]]), quarters),
    pairs = core_sample_quantiles(complete_pairs(data)[[which]], quarters),
    changes = if (which == 3) core_sample_quantiles(as.double(data$values), quarters)
  ) %||% rep(NA_real_, 3)
}
