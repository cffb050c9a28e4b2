#' Weigh the evidence for a difference against that for none
#'
#' The Bayes factor of a standardized effect, both ways round: how much more probable the data are if there is an effect
#' drawn from the declared prior than if there is none, and the reverse. A p cannot speak for the null hypothesis; this
#' can. With it the posterior of the effect, in the direction of the contrast.
#'
#' @inheritParams test_difference
#' @param ... Must be empty.
#' @param expect `"either"`, or `"higher"` or `"lower"`: the prior then lies on that side only.
#' @param beyond The difference under the null hypothesis, in the unit of the outcome.
#' @param prior_half How large effects are expected to be before the data, in SD units, above 0: half of the prior
#'   probability lies within this distance of `prior_location`. The default, `sqrt(2) / 2`, expects every second effect
#'   to be smaller than 0.71 SD. This suits studies in which small and large effects are about equally plausible; choose
#'   less where only small effects are. [try_priors()] shows how much the choice matters.
#' @param prior_location Where the prior is centred, in SD units; other than 0 for an informed prior.
#' @param prior_df Degrees of freedom of the prior's t distribution; 1 is Cauchy's. Whatever they are, `prior_half`
#'   keeps its meaning: the scale of the distribution is `prior_half` over the upper quartile of t.
#' @param within An interval null: effects between these bounds, in SD units, count as none. One number is taken to both
#'   sides. `NULL`: no effect at all.
#' @param level Probability of the posterior interval.
#' @param strength_words Words for the factor, only on request: `"jeffreys"` (substantial from 3.2, strong from 10,
#'   very strong from 32, decisive from 100), `"kass_raftery"` (positive from 3, strong from 20, very strong from
#'   150), or thresholds of your own, named by the word that begins there.
#' @param strength_source Where thresholds of your own come from.
#' @return An answer (classes `vandro_evidence`, `vandro_answer`); its table has one row per outcome with the columns of
#'   [as.data.frame.vandro_answer()] and
#'   \describe{
#'     \item{`estimate`, `lower`, `upper`}{posterior median and equal-tailed interval of the standardized effect
#'       (`estimand` "d_pooled", of pairs "d_change"), in SD units.}
#'     \item{`bf_difference`, `bf_null`, `log_bf`}{the factor for an effect, its inverse, and the natural logarithm of
#'       the first, exact where the factor itself leaves the range of numbers (`Inf`, 0).}
#'     \item{`bf_error`}{relative error of the factor by the quadrature's own estimate.}
#'     \item{`p_expected`, `p_unexpected`}{posterior probability that the first group is higher (with `expect =
#'       "lower"`: lower), under the prior for both directions, and its complement, exact where it is far below
#'       rounding.}
#'     \item{`prior_location`, `prior_half`, `prior_df`, `prior_low`, `prior_high`, `within_low`, `within_high`}{the
#'       prior, between which effects half of it lies (the middle half, of a directional one the half next to 0), and
#'       the interval null.}
#'     \item{`log_bf_least`, `log_bf_most`}{smallest and largest `log_bf` with values from half to twice `prior_half`.}
#'     \item{`strength_word`, `strength_range`, `strength_source`}{with `strength_words` only: the word with what it
#'       speaks for (within 5 % of a border both words), the words over those widths, and the source.}
#'     \item{`d`}{the standardized difference of the samples.}
#'   }
#'   `detail$true_size` has, per outcome, the true level of Student's test with the SDs and sizes seen,
#'   `detail$rounding` the range of `log_bf` that the rounding of published numbers leaves open.
#' @section Formula: With t and df of Student's test, or of the paired one, and N = n1 n2 / (n1 + n2), or the number of
#'   pairs,
#'   \deqn{BF = \frac{\int f(t \mid df, \delta \sqrt{N})\, \pi(\delta)\, d\delta}{f(t \mid df, 0)},}{BF = integral of
#'     f(t | df, delta sqrt(N)) prior(delta) over delta, divided by f(t | df, 0),}
#'   f the noncentral t density (Rouder et al. 2009, eq. 1, for the Cauchy prior of Jeffreys 1961; t priors: Gronau, Ly
#'   & Wagenmakers 2020, eq. 5). A directional prior is the same on one side, doubled there where it is centred on 0.
#'   With `within` the factor is the posterior odds of outside against inside over the prior odds. Integrals on the
#'   logarithmic scale by Gauss-Kronrod rules.
#' @section Reading it: The posterior interval is one given the data, the model and the prior, and given that there is
#'   an effect (with `within`: whatever its size): the effect lies in it with probability `level`. A confidence interval
#'   is another thing: a procedure that in `level` of all studies covers the true value. No prior is free of
#'   information, so the answer says in words what the prior expects, and how far the factor moves with its width
#'   ([try_priors()]).
#' @section Errors: `vandro_error_bad_value`, `vandro_error_bad_bounds`, `vandro_error_no_source` for words without a
#'   source, and those of [test_difference()] for outcomes that do not vary.
#' @seealso [try_priors()] for other widths, [test_equivalence()] for a test of equivalence.
#' @section Where it holds: `vignette("validation", package = "vandro")` shows that posterior intervals hold
#'   effects drawn from the prior at their level, how seldom a factor misleads where there is no effect, and the
#'   digits reached.
#' @references Gronau, Q. F., Ly, A. & Wagenmakers, E.-J. (2020). Informed Bayesian t-tests. *The American Statistician*
#'   74, 137-143, eq. 5.
#'
#'   Jeffreys, H. (1961). *Theory of probability*, 3rd ed., section 5.2; words: appendix B.
#'
#'   Kass, R. E. & Raftery, A. E. (1995). Bayes factors. *Journal of the American Statistical Association* 90, 773-795,
#'   section 3.2.
#'
#'   Rouder, J. N., Speckman, P. L., Sun, D., Morey, R. D. & Iverson, G. (2009). Bayesian t tests for accepting and
#'   rejecting the null hypothesis. *Psychonomic Bulletin & Review* 16, 225-237, eq. 1.
#' @examples
#' study <- versus(seedlings, chlorophyll, substrate,
#'   groups = c("compost", "peat"), label = "Chlorophyll"
#' )
#' weigh_evidence(study)
#' weigh_evidence(study, within = 0.2, strength_words = "jeffreys")
#' autoplot(weigh_evidence(study))
#' @export
weigh_evidence <- function(study, ..., expect = "either", beyond = 0, prior_half = sqrt(2) / 2, prior_location = 0,
                           prior_df = 1, within = NULL, level = 0.95, strength_words = NULL, strength_source = NULL,
                           reason = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  study <- asked_study(study, call)
  check_study(study)
  asked <- list(
    expect = check_choice(expect, directions), beyond = check_number(beyond),
    prior_half = check_prior_half(prior_half, call), prior_location = check_number(prior_location),
    prior_df = check_number(prior_df, 0.1, 1e7), within = if (!is.null(within)) check_bound_pair(within, call),
    level = check_level(level)
  )
  reason <- check_text(reason)
  words <- check_words(
    strength_words, strength_source, known_strength_words, c("strength_words", "strength_source"), call
  )
  rows <- each_outcome(study, evidence_row, study, asked, words, call)
  new_answer(
    "evidence", bind_answered(lapply(rows, row_or_error), study$outcomes), study,
    settings = c(
      list(verb = "weigh_evidence"), asked,
      list(strength_words = words$thresholds, strength_source = words$source, reason = reason)
    ),
    detail = list(
      true_size = vapply(study$outcomes, evidence_true_size, 0, study = study),
      rounding = lapply(study$outcomes, evidence_rounding, study, asked)
    )
  )
}

# How often the test whose t is weighed would reject a true null hypothesis at 5 % with the SDs seen; NA for pairs.
evidence_true_size <- function(outcome, study) {
  if (length(study$outcomes) > 100) return(NA_real_)
  student_true_size(outcome, pooled_method(study), list(level = 0.95, alpha = 0.05))
}

# Smallest and largest log factor that the rounding of published numbers leaves open; NA from values.
evidence_rounding <- function(outcome, study, asked) {
  open <- rounded_errors(outcome, pooled_method(study))
  if (is.null(open) || length(open$errors) == 0) return(c(NA_real_, NA_real_))
  given <- evidence_given(outcome, study, asked, NULL)
  t <- range(outer(open$gaps - asked$beyond, vapply(open$errors, `[[`, 0, "se"), "/"))
  # The factor is least where t fits no effect best: at 0, or somewhere between with an informed prior.
  inside <- if (asked$prior_location == 0) 0 else seq(t[[1]], t[[2]], length.out = 5)
  t <- c(t, inside[inside > t[[1]] & inside < t[[2]]])
  prior <- prior_of(asked, asked$prior_half)
  range(vapply(t, function(t) {
    core_evidence(t, given$df, given$size, prior, asked$expect, asked$level, asked$within)$log_bf
  }, 0))
}

check_prior_half <- function(width, call, arg = "prior_half") {
  width <- check_number(width, arg = arg, call = call)
  if (width > 0 && width <= 1e6) return(width)
  abort_vandro(
    c(
      "{.arg {arg}} must be above 0 and at most 1000000.", "x" = "It is {width}.",
      "i" = "It says how large effects are expected to be, in SD units. At 0 the prior would be the null hypothesis."
    ),
    "bad_value",
    arg = arg, call = call
  )
}

# A factor beyond the range of doubles is given as the last one of them, as p is; `log_bf` has its size.
plain_factor <- function(log_bf) pmin(pmax(exp(log_bf), 2^-1074), .Machine$double.xmax)

# Widths from half to twice the declared one, which comes first.
width_factors <- c(0, setdiff(seq(-1, 1, 0.25), 0))

evidence_row <- function(outcome, study, asked, words, call) {
  given <- evidence_given(outcome, study, asked, call)
  prior <- prior_of(asked, asked$prior_half * 2^width_factors)
  if (!isTRUE(abs(given$t) <= largest_t)) abort_reason("spread_lost", outcome, study, call)
  found <- core_evidence(given$t, given$df, given$size, prior, asked$expect, asked$level, asked$within)
  if (!all(is.finite(found$log_bf))) abort_reason("out_of_range", outcome, study, call)
  middle <- core_prior_middle(prior_of(asked, asked$prior_half), asked$expect)
  range <- core_extremes(found$log_bf[order(width_factors)])
  log_bf <- found$log_bf[[1]]
  n <- outcome_sizes(outcome)
  within <- asked$within %||% c(NA_real_, NA_real_)
  row <- c(record_cells(outcome), list(
    comparison = study_direction(study), method = given$method,
    estimand = sd_choices(study)[[method_fact(given$method, "sd_of")]], estimate = found$median[[1]],
    lower = found$lower[[1]],
    upper = found$upper[[1]], level = asked$level, bf_difference = plain_factor(log_bf),
    bf_null = plain_factor(-log_bf), log_bf = log_bf,
    bf_error = found$error[[1]], p_expected = found$expected, p_unexpected = found$unexpected,
    prior_location = asked$prior_location, prior_half = asked$prior_half, prior_df = asked$prior_df,
    prior_low = middle[[1]], prior_high = middle[[2]], within_low = within[[1]], within_high = within[[2]],
    log_bf_least = range[[1]], log_bf_most = range[[2]],
    statistic = given$t, statistic_name = "t", df = given$df, expect = asked$expect, beyond = asked$beyond,
    n_first = n[[1]], n_second = n[[2]], d = given$t / sqrt(given$size)
  ))
  c(row, strength_columns(log_bf, range[[1]], range[[2]], words))
}

# All that the data say about the effect: t, its degrees of freedom, and what it counts for.
evidence_given <- function(outcome, study, asked, call) {
  m <- outcome$moments
  paired <- is_paired(study)
  method <- pooled_method(study)
  error <- mean_error(method, m)
  if (!is.null(error$reason)) abort_reason(error$reason, outcome, study, call)
  gap <- mean_gap(method, m) - asked$beyond
  size <- if (paired) core_evidence_size(m[[3]]$n) else core_evidence_size(m[[1]]$n, m[[2]]$n)
  list(method = method, t = gap / error$se, df = error$df, size = size)
}

# The scale of the t prior with half of its probability within `halves` of the centre.
prior_of <- function(asked, halves) {
  list(location = asked$prior_location, scale = halves / stats::qt(0.75, asked$prior_df), df = asked$prior_df)
}

# Densities of prior and posterior where there is something to see.
effect_densities <- function(answer, outcome) {
  row <- outcome_rows(answer, outcome)
  asked <- answer$settings
  given <- evidence_given(outcome, answer$study, asked, NULL)
  prior <- prior_of(asked, row$prior_half)
  reach <- 0.6 * (row$upper - row$lower)
  shown <- range(row$lower - reach, row$upper + reach, 0, row$d)
  # The middle of the prior, where that does not make the posterior a needle.
  middle <- range(shown, row$prior_location + c(-2, 2) * row$prior_half)
  if (diff(middle) <= 3 * diff(shown)) shown <- middle
  if (row$expect == "higher") shown[[1]] <- -0.02 * diff(shown)
  if (row$expect == "lower") shown[[2]] <- 0.02 * diff(shown)
  at <- sort(unique(c(
    seq(shown[[1]], shown[[2]], length.out = 301), seq(row$lower, row$upper, length.out = 301), row$estimate,
    # Both sides of the end of a directional prior.
    0, if (row$expect != "either") c(-1, 1) * 1e-9 * diff(shown)
  )))
  at <- at[at >= shown[[1]] & at <= shown[[2]]]
  found <- core_evidence(given$t, given$df, given$size, prior, asked$expect, asked$level, asked$within)
  density <- core_effect_density(given$t, given$df, given$size, prior, asked$expect, at, found$log_all)
  data.frame(effect = at, prior = density$prior, posterior = density$posterior)
}
