#' Declare a comparison of two independent groups
#'
#' Says once what is compared with what. Everything computed from the study follows the same
#' direction, *first group minus second group*, and prints it.
#'
#' @param data A data frame in long form: one row per measurement. It is never changed.
#' @param outcome The column of measurements: a bare name, a string, or `.data[["name"]]`. Integer or
#'   double; `NA` and `NaN` are missing.
#' @param by The column that tells the groups apart: labels, a factor, or codes.
#' @param groups Which two groups, first minus second: `c("compost", "peat")`. Codes get labels by
#'   name: `c(compost = 1, peat = 2)`. Left out, the levels of a factor are taken in their order and
#'   other values as they first appear, and a message says which direction that is; with more than two
#'   groups it must be given.
#' @param unit Unit of the outcome, carried to every table, axis and sentence: `"cm"`.
#' @param label Name of the outcome as it should read: `"Stem height"`. Default: the column's name.
#' @param ... Must be empty.
#' @return A study (class `vandro_study`) to be given to [describe_study()], [test_difference()],
#'   [gauge_effect()], [narrate()], [write_report()] or `plot()`. Printing it shows the direction,
#'   the number of values per group and everything that was left out.
#' @section Missing values: Rows without an outcome or without a group, and rows of other groups, are
#'   left out, counted by reason, and printed with every result.
#' @section Errors: All errors have the class `vandro_error` and a class of their own:
#'   `vandro_error_missing_column`, `vandro_error_duplicate_columns`, `vandro_error_empty_data`,
#'   `vandro_error_not_numeric` (with the first row and value that is no number),
#'   `vandro_error_infinite`, `vandro_error_one_group`, `vandro_error_many_groups`,
#'   `vandro_error_unknown_group`, `vandro_error_bad_groups`, `vandro_error_all_missing`.
#' @section Dependencies: Means and spreads are computed here, in one pass (Chan, Golub & LeVeque 1983;
#'   Pebay 2008), relative to the first value of each group, so that an offset of 1e9 costs no digits.
#' @references Chan, T. F., Golub, G. H. & LeVeque, R. J. (1983). Algorithms for computing the sample
#'   variance. *The American Statistician* 37, 242-247.
#'
#'   Pebay, P. (2008). Formulas for robust, one-pass parallel computation of covariances and
#'   arbitrary-order statistical moments. Sandia Report SAND2008-6212.
#' @seealso [versus_summary()] for published n, mean and SD; [read_measurements()] for files.
#' @examples
#' versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#'
#' # Codes get their labels here
#' versus(seedlings, "dry_mass", by = "substrate_code", groups = c(compost = 1, peat = 2))
#' @export
versus <- function(data, outcome, by, groups = NULL, unit = NULL, label = NULL, ...) {
  rlang::check_dots_empty()
  call <- rlang::current_env()
  check_data_frame(data)
  outcome_name <- column_name(rlang::enquo(outcome), data, "outcome", call)
  by_name <- column_name(rlang::enquo(by), data, "by", call)
  check_different_columns(outcome_name, by_name, call)
  column <- data[[outcome_name]]
  unit <- check_text(unit) %||% (if (inherits(column, "difftime")) units(column))
  label <- check_text(label)
  values <- check_outcome(column, outcome_name)
  grouping <- resolve_groups(data[[by_name]], groups, by_name, call)
  moments <- core_group_moments(
    values, grouping$codes, grouping$code_of[[1]], grouping$code_of[[2]]
  )
  check_moments(moments, values, grouping, outcome_name, call)
  record <- new_outcome(
    outcome_name, label, unit, moments, values, grouping$codes, grouping$code_of
  )
  study <- new_study(
    "values", grouping$labels, list(record), count_left_out(outcome_name, moments, grouping),
    announced = grouping$announced
  )
  if (grouping$announced) announce_direction(study)
  study
}

check_different_columns <- function(outcome, by, call) {
  if (outcome != by) return(invisible())
  abort_vandro(
    c("{.arg outcome} and {.arg by} must be two columns.", "x" = "Both are {.val {outcome}}."),
    "same_column",
    column = outcome, call = call
  )
}

# What only the values can show: infinite ones, and groups in which nothing was measured.
check_moments <- function(moments, values, grouping, name, call) {
  ends <- c(moments[[1]]$min, moments[[1]]$max, moments[[2]]$min, moments[[2]]$max)
  if (any(is.infinite(ends))) {
    check_no_infinite(values, grouping$codes %in% grouping$code_of, name, call)
  }
  empty <- vapply(moments, function(m) m$n == 0, NA)
  if (!any(empty)) return(invisible())
  group <- grouping$labels[empty]
  rows <- vapply(moments, `[[`, 0, "missing")[empty]
  abort_vandro(
    c(
      "Outcome {.val {name}} must have values in both groups.",
      "x" = "{cli::qty(length(group))}All values are missing in {.val {group}} ({rows} rows)."
    ),
    "all_missing",
    column = name, group = group, call = call
  )
}

# One row per reason and group, also where nothing was left out: silence would leave the reader
# wondering.
count_left_out <- function(name, moments, grouping) {
  missing <- vapply(moments, `[[`, 0, "missing")
  others <- grouping$others
  lean_table(list(
    outcome = rep(name, 3 + length(others)),
    reason = c(rep("outcome missing", 2), "group missing", rep("other group", length(others))),
    group = c(grouping$labels, NA, names(others)),
    n = c(missing, grouping$no_group, unname(others))
  ))
}

announce_direction <- function(study) {
  direction <- study_direction(study)
  inform_vandro(
    c(
      "i" = "Direction taken: {.strong {direction}}.",
      " " = "Say {.arg groups} to choose it."
    ),
    "direction",
    groups = study$groups
  )
}
