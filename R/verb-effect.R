#' Effect sizes with intervals
#'
#' The difference in the unit of the outcome first, then the standardized difference. Every row names
#' its standardizer and carries the sign of the contrast, first group minus second.
#'
#' @inheritParams test_difference
#' @param estimands Which rows, `NULL` for all that fit the design. Independent groups:
#'   `"mean_difference"`, `"d_pooled"`, `"g"`. Pairs: `"mean_difference"`, `"d_change"`, `"g_change"`.
#' @return An answer (classes `vandro_effect`, `vandro_answer`); its table has one row per outcome and
#'   estimand with the columns of [as.data.frame.vandro_answer()] (`method` is the interval's) and
#'   \describe{
#'     \item{`standardizer`}{what the difference is divided by, in words; `NA` for the raw difference.}
#'     \item{`standardizer_value`}{its size, in the unit of the outcome.}
#'   }
#'   Intervals of `d_pooled` and `g` are found by inverting the noncentral t and are not symmetric,
#'   so that `se` does not apply.
#' @section Formula: With \eqn{s_p^2 = ((n_1-1)s_1^2 + (n_2-1)s_2^2)/df}{sp^2 = ((n1-1)s1^2 +
#'   (n2-1)s2^2)/df} and \eqn{df = n_1+n_2-2}{df = n1+n2-2},
#'   \deqn{d = (m_1 - m_2)/s_p, \quad g = J(df)\,d, \quad
#'     J(df) = \frac{\Gamma(df/2)}{\sqrt{df/2}\;\Gamma((df-1)/2)}}{d = (m1 - m2)/sp, g = J(df) d,
#'     J(df) = gamma(df/2) / (sqrt(df/2) gamma((df-1)/2))}
#'   (Cohen 1988, eq. 2.5.1; Hedges 1981). Pairs: d of the changes is their mean over their standard
#'   deviation (Cohen 1988, p. 48), df = n - 1, and \eqn{\sqrt n}{sqrt(n)} in place of the root below. The
#'   limits of d are the noncentralities at which the
#'   observed t has tail probability (1 - `level`)/2 above and below, divided by
#'   \eqn{\sqrt{n_1 n_2/(n_1+n_2)}}{sqrt(n1 n2/(n1+n2))} (Steiger & Fouladi 1997); those of g are these
#'   times J. They are exact for normal populations with equal spread, and computed to a relative
#'   accuracy of 1e-9 for |t| up to 1000 and df up to 1e7. The interval of the raw difference is that
#'   of Welch, see [test_difference()].
#' @section Errors: As [test_difference()]. d and g need three values in all and some spread.
#' @references Cohen, J. (1988). *Statistical power analysis for the behavioral sciences*, 2nd ed.,
#'   eq. 2.5.1.
#'
#'   Hedges, L. V. (1981). Distribution theory for Glass's estimator of effect size and related
#'   estimators. *Journal of Educational Statistics* 6, 107-128.
#'
#'   Steiger, J. H. & Fouladi, R. T. (1997). Noncentrality interval estimation and the evaluation of
#'   statistical models. In *What if there were no significance tests?*, 221-257.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' gauge_effect(study)
#' @export
gauge_effect <- function(study, estimands = NULL, ..., level = 0.95) {
  if (...length()) rlang::check_dots_empty()
  call <- rlang::current_env()
  check_study(study)
  estimands <- check_estimands(estimands, estimand_codes[[study$design]], call)
  level <- check_level(level)
  found <- each_outcome(study, function(outcome) {
    lapply(estimands, effect_row, outcome = outcome, study = study, level = level, call = call)
  })
  new_answer(
    "effect", bind_rows(unlist(found, recursive = FALSE)), study,
    settings = list(verb = "gauge_effect", estimands = estimands, level = level)
  )
}

estimand_codes <- list(
  independent = c("mean_difference", "d_pooled", "g"),
  paired = c("mean_difference", "d_change", "g_change")
)

check_estimands <- function(estimands, known, call) {
  if (is.null(estimands)) return(known)
  if (!is.character(estimands) || length(estimands) == 0) {
    check_choice(estimands, known, arg = "estimands", call = call)
  }
  for (estimand in estimands) check_choice(estimand, known, arg = "estimands", call = call)
  unique(estimands)
}

effect_row <- function(estimand, outcome, study, level, call) {
  size <- outcome_sizes(outcome)
  if (estimand == "mean_difference") {
    question <- list(expect = "either", beyond = 0, level = level, alpha = 0.05)
    method <- difference_methods[[study$design]][[1]]
    found <- mean_inference(outcome, study, method, question, call)
    found$standardizer <- NA_real_
    words <- NA_character_
  } else {
    method <- "noncentral_t"
    found <- standardized_effect(estimand, outcome, study, level, call)
    words <- paste0(
      if (is_paired(study)) "SD of the changes" else "pooled SD",
      if (startsWith(estimand, "g")) ", corrected for small samples"
    )
  }
  list(
    outcome = outcome$name, comparison = study_direction(study), method = method,
    estimand = estimand, estimate = found$estimate, se = found$se %||% NA_real_,
    lower = found$lower, upper = found$upper, level = level, standardizer = words,
    standardizer_value = found$standardizer, df = found$df, n_first = size[[1]],
    n_second = size[[2]]
  )
}

standardized_effect <- function(estimand, outcome, study, level, call) {
  m <- outcome$moments
  d <- if (is_paired(study)) core_d_change(m[[3]], level) else core_d_pooled(m[[1]], m[[2]], level)
  if (!is.null(d$reason)) abort_reason(d$reason, outcome, study, call)
  if (startsWith(estimand, "g")) core_g(d) else d
}
