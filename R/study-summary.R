#' Declare a comparison of two independent groups from published numbers
#'
#' For a table in a paper: n, mean and standard deviation of both groups. Everything that can be
#' computed from them is computed by the same verbs as from measurements.
#'
#' @param n Sizes of the two groups, first minus second: whole numbers of at least 1.
#' @param mean Their means.
#' @param sd Their standard deviations (not variances, not standard errors), above 0.
#' @param groups Labels of the two groups.
#' @param outcome Name of the outcome, used where no `label` is given.
#' @inheritParams versus
#' @return A study (class `vandro_study`), see [versus()].
#' @section Errors: `vandro_error_bad_value` for sizes that are not whole, SDs that are not above 0 and
#'   numbers that are not finite, naming the group; verbs and figures that need the measurements
#'   themselves say so with `vandro_error_needs_values`.
#' @examples
#' published <- versus_summary(
#'   n = c(18, 20), mean = c(22.1, 19.8), sd = c(3.9, 3.2),
#'   groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' test_difference(published)
#' @export
versus_summary <- function(n, mean, sd, groups = c("first", "second"), ..., outcome = "outcome",
                           unit = NULL, label = NULL) {
  rlang::check_dots_empty()
  groups <- check_labels(groups)
  n <- check_pair(n, low = 1, whole = TRUE, groups = groups)
  mean <- check_pair(mean, groups = groups)
  sd <- check_pair(sd, low = 0, open = TRUE, groups = groups)
  moments <- Map(core_summary_moments, n, mean, sd)
  record <- new_outcome(
    check_text(outcome, null = FALSE), check_text(label), check_text(unit), unname(moments)
  )
  new_study("summary", groups, list(record), left_out = NULL)
}

check_labels <- function(groups, call = rlang::caller_env()) {
  good <- is.character(groups) && length(groups) == 2 && !anyNA(groups) &&
    all(nzchar(groups)) && groups[[1]] != groups[[2]]
  if (good) return(enc2utf8(unname(groups)))
  found <- describe_value(groups)
  abort_vandro(
    c(
      "{.arg groups} must be two different labels, first minus second.",
      "x" = "It is {found}.",
      "i" = "For example {.code groups = c(\"compost\", \"peat\")}."
    ),
    "bad_groups",
    groups = groups, call = call
  )
}
