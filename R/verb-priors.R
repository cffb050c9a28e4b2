#' What other priors would have said
#'
#' Factor and posterior over a range of prior widths. The declared width stands out; the others show how far the answer
#' hangs on it.
#'
#' @param x An answer of [weigh_evidence()].
#' @param widths Other values of `prior_half`, in SD units. `NULL`: `points` values from a quarter to four times the
#'   declared one.
#' @param ... Must be empty.
#' @param points Number of widths where `widths` is left out.
#' @param outcome Which outcome, by name, of several.
#' @return An answer (classes `vandro_priors`, `vandro_answer`); its table has one row for each width, the declared one
#'   among them, from narrow to wide, with `outcome`, `comparison`, `method`, `estimand`, `estimate`, `lower`, `upper`,
#'   `level`, `prior_half`, `bf_difference`, `bf_null`, `log_bf` and `standing`, "declared" or "beside". `detail$least`
#'   and `detail$most` are the smallest and largest `log_bf` among them.
#' @section Errors: `vandro_error_bad_value`, `vandro_error_not_an_answer`.
#' @seealso [weigh_evidence()] for the formulas.
#' @examples
#' study <- versus(seedlings, chlorophyll, substrate,
#'   groups = c("compost", "peat"), label = "Chlorophyll"
#' )
#' try_priors(weigh_evidence(study), c(0.2, 0.5, 1, 2))
#' @export
try_priors <- function(x, widths = NULL, ..., points = 81, outcome = NULL) {
  check_supplied(x)
  refuse_more(...)
  call <- rlang::current_env()
  check_evidence(x, call)
  tried <- keep_given(list(
    widths = widths, points = if (!missing(points)) points, outcome = if (!is.list(outcome)) outcome
  ))
  outcome <- pick_answered(x, outcome)
  points <- check_whole(points, 2, 1e4)
  declared <- x$settings$prior_half
  widths <- if (is.null(widths)) {
    declared * 2^seq(-2, 2, length.out = points)
  } else {
    vapply(as.list(widths), check_prior_half, 0, call = call, arg = "widths")
  }
  widths <- sort(unique(c(declared, widths)))
  asked <- x$settings
  given <- evidence_given(outcome, x$study, asked, call)
  found <- core_evidence(
    given$t, given$df, given$size, prior_of(asked, widths), asked$expect, asked$level, asked$within,
    limits = TRUE
  )
  row <- outcome_rows(x, outcome)
  many <- function(value) rep(value, length(widths))
  table <- c(lapply(as.list(row)[c("outcome", "comparison", "method", "estimand")], many), list(
    estimate = found$median, lower = found$lower, upper = found$upper, level = many(row$level), prior_half = widths,
    bf_difference = exp(found$log_bf), bf_null = exp(-found$log_bf), log_bf = found$log_bf,
    standing = ifelse(widths == declared, "declared", "beside")
  ))
  settings <- c(list(verb = "try_priors"), tried, asked[setdiff(names(asked), c("verb", "version"))])
  new_answer(
    "priors", table, one_outcome(x$study, outcome), settings,
    list(least = min(found$log_bf), most = max(found$log_bf))
  )
}

check_evidence <- function(x, call) {
  if (inherits(x, "vandro_evidence")) return(invisible(x))
  found <- class(x)[[1]]
  abort_vandro(
    c(
      "{.arg x} must be an answer of {.fn weigh_evidence}.", "x" = "It is of type {.cls {found}}.",
      "i" = "For example {.code try_priors(weigh_evidence(study))}."
    ),
    "not_an_answer",
    call = call
  )
}
