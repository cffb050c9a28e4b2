# The column names of packages that gather the results of many others.

tidy_names <- c(
  outcome = "outcome", comparison = "comparison", group = "group", method = "method", role = "role",
  estimand = "estimand", estimate = "estimate", se = "std.error", lower = "conf.low", upper = "conf.high",
  level = "conf.level", statistic = "statistic", df = "parameter", p = "p.value", p_adjusted = "adj.p.value",
  expect = "alternative", verdict = "verdict"
)

#' Results in the column names of other packages
#'
#' Methods for `tidy()` and `glance()` of the package generics, for those who gather results of many packages in one
#' table. They rename; every number is the answer's own.
#'
#' @param x An answer of any verb.
#' @param ... Not used.
#' @return `tidy()`: a data frame with a row for each row of the answer and, where it has them, `outcome`, `comparison`,
#'   `group`, `method`, `role`, `estimand`, `estimate`, `std.error`, `conf.low`, `conf.high`, `conf.level`, `statistic`,
#'   `parameter` (degrees of freedom), `p.value`, `adj.p.value`, `alternative` (`"two.sided"`, `"greater"`, `"less"`:
#'   of the first group) and `verdict`. Intervals of [weigh_evidence()] are credible ones.
#'
#'   `glance()`: one row with `verb`, `design`, `comparison`, `outcomes` (their number), `nobs` (values, or pairs,
#'   behind the outcomes together), `method` (the declared one), `conf.level`, `alternative`, `seed`.
#' @name tidy
#' @section Errors: None of their own.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' tidy(test_difference(study, c("welch", "student")))
#' glance(test_difference(study))
#' @aliases glance
#' @importFrom generics tidy glance
#' @rawNamespace export(tidy, glance)
NULL

#' @rdname tidy
#' @export
tidy.vandro_answer <- function(x, ...) {
  known <- intersect(names(tidy_names), names(x$table))
  columns <- stats::setNames(as.list(x$table[known]), tidy_names[known])
  if (!is.null(columns$alternative)) columns$alternative <- tidy_alternative(columns$alternative)
  lean_table(columns)
}

tidy_alternative <- function(expect) unname(c(either = "two.sided", higher = "greater", lower = "less")[expect])

#' @rdname tidy
#' @export
glance.vandro_answer <- function(x, ...) {
  s <- x$settings
  or_na <- function(value, none) if (is.null(value)) none else value[[1]]
  study <- x$study
  sizes <- vapply(study$outcomes, function(outcome) {
    n <- outcome_sizes(outcome)
    if (is_paired(study)) n[[1]] else sum(n)
  }, 0)
  lean_table(list(
    verb = s$verb, design = study$design, comparison = study_direction(study), outcomes = length(study$outcomes),
    nobs = sum(sizes), method = or_na(s$method, NA_character_), conf.level = or_na(s$level, NA_real_),
    alternative = if (is.null(s$expect)) NA_character_ else tidy_alternative(s$expect), seed = or_na(s$seed, NA_real_)
  ))
}
