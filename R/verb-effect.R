#' Effect sizes with intervals
#'
#' The difference in the unit of the outcome first, then the standardized difference; or what ranks tell. Every row
#' names its standardizer, its interval and when to use it, and carries the sign of the contrast, first group minus
#' second.
#'
#' @inheritParams test_difference
#' @param estimands Which rows. `NULL`: a short set that goes with design and `method`. `"all"`: all that
#'   the study allows. Else codes from the table below.
#' @param method The primary method, as in [test_difference()]: it chooses the short set and the interval
#'   of the raw difference.
#' @param interval `NULL`: each row's own, the first one named in the table. `"noncentral_t"` or `"bonett"`
#'   for the rows that know both. `"bootstrap"`: bias-corrected and accelerated, for every row.
#' @param options From [method_options()]: `draws` and `threads` of the bootstrap, `exact` of the shift, `zeros` of
#'   ranks of changes.
#' @param size_words `NULL`: no words. `"cohen"`: small from 0.2, medium from 0.5,
#'   large from 0.8, for differences in units of the spread within a group. Or thresholds of your own
#'   field, named by the word that begins there: `c(slight = 0.1, clear = 0.4)`, with 0 for the word of the lowest
#'   class. Your own words are for the effect sizes named in `estimands`, of any kind, else for those in SD units. A
#'   chance or a ratio counts in its larger direction (0.3 as 0.7, 0.8 as 1.25).
#' @param size_source Where thresholds of your own come from.
#' @return An answer (classes `vandro_effect`, `vandro_answer`); its table has one row per outcome and
#'   estimand with the columns of [as.data.frame.vandro_answer()] (`method` is the interval's) and
#'   \describe{
#'     \item{`standardizer`}{what the difference is divided by, in words; `NA` for difference and ratio.}
#'     \item{`standardizer_value`}{its size, in the unit of the outcome.}
#'     \item{`use`, `source`}{when to use the row; who defined it and its interval.}
#'     \item{`size_word`, `size_range`, `size_border`, `size_source`}{with `size_words` only: the word, both
#'       words where the value lies within 0.05 of a border; the words over the interval; the border; the
#'       source.}
#'   }
#'   `se` is given for intervals made from one. `detail$left_out` names the effect sizes that the study does
#'   not allow, with the reason; asked for by name they are errors. `detail$undefined` counts the bootstrap
#'   samples in which an effect size did not exist because all values drawn were equal; they are left out, and
#'   said.
#' @section Estimands: With means \eqn{m}, standard deviations \eqn{s}, correlation \eqn{r} and for pairs
#'   the standard deviation \eqn{s_c}{sc} of the changes:
#'
#'   | code | estimate | intervals |
#'   |---|---|---|
#'   | `mean_difference` | m1 - m2 | that of `method` |
#'   | `mean_ratio` | m1 / m2, for outcomes without negative values | `log_delta` |
#'   | `d_pooled` | (m1 - m2) / sp, sp the pooled SD | `noncentral_t` |
#'   | `g` | J(n1 + n2 - 2) d_pooled | `noncentral_t` |
#'   | `d_average` | (m1 - m2) / sqrt((s1^2 + s2^2)/2) | `bonett`, `noncentral_t` |
#'   | `g_average`, `g_by_first`, `g_by_second`, `g_repeated` | J times the d of that name | as that d |
#'   | `d_by_first`, `d_by_second` | (m1 - m2) / s1, (m1 - m2) / s2 | `bonett`, independent groups also `noncentral_t` |
#'   | `d_change` | (m1 - m2) / sc | `noncentral_t` |
#'   | `g_change` | J(n - 1) d_change | `noncentral_t` |
#'   | `d_repeated` | (m1 - m2) sqrt(2 (1 - r)) / sc | `noncentral_t` |
#'   | `shift` | median of all differences, of pairs of all means of two changes | `ranks`, `signed_ranks` |
#'   | `superiority` | P(first > second) + P(equal)/2, independent groups | `relative` |
#'   | `rank_biserial` | 2 `superiority` - 1 (Cliff's delta); pairs (W+ - W-)/(W+ + W-) | `relative`; `bootstrap` |
#'   | `r_rank` | z / sqrt(N), N in `standardizer` | `bootstrap` |
#'
#'   Where all values of one group are higher, or all changes go the same way, `one_way` is the interval of
#'   `superiority` and `rank_biserial`: from the chance with which min(n1, n2) pairs of values, or floor(n/2) means of
#'   two changes, without a common member all go that way (Clopper & Pearson 1934). `bootstrap` is known to all of
#'   them. The last four need the measurements. `ranks`, `signed_ranks` and `relative` are the intervals of the methods
#'   with these names in [test_difference()], so that `gauge_effect()` and the test give the same interval for the same
#'   data. In groups below ten the interval of superiority comes from assignments (`assignments`). N is the number of
#'   measurements, or of all pairs, or with `zeros = "drop"` of the pairs that changed.
#' @section Formula: The exact correction for small samples is (Hedges 1981)
#'   \deqn{J(df) = \frac{\Gamma(df/2)}{\sqrt{df/2}\;\Gamma((df-1)/2)}}{J(df) = gamma(df/2) / (sqrt(df/2)
#'     gamma((df-1)/2)).}
#'   `noncentral_t`: the noncentralities at which the observed t has tail probability (1 - `level`)/2 above
#'   and below (Steiger & Fouladi 1997), divided by what makes t out of the effect size. For `d_pooled` and
#'   `d_change` they are exact for normal populations (the first with equal spread), and computed to a
#'   relative accuracy of 1e-9 for |t| up to 1000 and df up to 1e7; those of `g` and `g_change` are these
#'   times J. For `d_by_first` and `d_by_second` it is exact with equal variances. Where one SD is twice the other,
#'   it contains the true value in only about 80% of studies, so that `bonett` is the default. Corrected versions
#'   multiply both limits by J, for the degrees of freedom of their own SD; of the average SD of pairs \eqn{(n -
#'   1)(s_1^2 + s_2^2)^2 / (s_1^4 + s_2^4 + 2 r^2 s_1^2 s_2^2)}{(n - 1)(s1^2 + s2^2)^2 / (s1^4 + s2^4 + 2 r^2 s1^2
#'   s2^2)}. Independent `d_average`: Welch's t with \eqn{df = (s_1^2+s_2^2)^2 / (s_1^4/(n_1-1) + s_2^4/(n_2-1))}{df =
#'   (s1^2+s2^2)^2 / (s1^4/(n1-1) + s2^4/(n2-1))} (Delacre et al. 2021). Paired `d_average` and `d_repeated`: limits of
#'   the d of changes times the ratio of the standardizers (Algina & Keselman 2003).
#'
#'   `bonett`: estimate -/+ z se (Bonett 2008), with \eqn{s} the standardizer and
#'   \itemize{
#'     \item average SD: se^2 = d^2 (s1^4/df1 + s2^4/df2)/(8 s^4) + (s1^2/df1 + s2^2/df2)/s^2,
#'     \item paired: se^2 = d^2 (s1^4 + s2^4 + 2 r^2 s1^2 s2^2)/(8 df s^4) + sc^2/(df s^2),
#'     \item one group's SD: se^2 = d^2/(2 df of that group) + (s1^2/df1 + s2^2/df2)/s^2, for pairs
#'       d^2/(2 df) + sc^2/(df s^2).
#'   }
#'   `log_delta`: log ratio -/+ t se with se^2 = s1^2/(n1 m1^2) + s2^2/(n2 m2^2) and Satterthwaite's degrees
#'   of freedom; for pairs minus 2 r s1 s2/(n m1 m2), on n - 1 (Bonett & Price 2020).
#'   `bootstrap`: bias-corrected and accelerated (Efron 1987), each group, or whole pairs, drawn within
#'   itself; for ranks the acceleration comes from the placements. How often the approximate intervals hold the
#'   true value is tabulated in
#'   `vignette("effect-sizes")`.
#' @section Errors: As [test_difference()], and `vandro_error_flat_group`, `vandro_error_not_positive` (a
#'   ratio), `vandro_error_too_few_for_g`, `vandro_error_needs_values` (a bootstrap of published numbers;
#'   an effect size that needs both measurements of a column of changes), `vandro_error_no_bootstrap`,
#'   `vandro_error_no_source`, `vandro_error_contradiction`.
#' @section Where it holds: Coverage of every interval by population, size and spread, and the digits of every
#'   number: `vignette("validation", package = "vandro")` and `vignette("effect-sizes", package = "vandro")`.
#' @references Algina, J. & Keselman, H. J. (2003). Approximate confidence intervals for effect sizes.
#'   *Educational and Psychological Measurement* 63, 537-553.
#'
#'   Bonett, D. G. (2008). Confidence intervals for standardized linear contrasts of means.
#'   *Psychological Methods* 13, 99-109.
#'
#'   Bonett, D. G. & Price, R. M. (2020). Confidence intervals for ratios of means and medians. *Journal of
#'   Educational and Behavioral Statistics* 45, 750-770.
#'
#'   Clopper, C. J. & Pearson, E. S. (1934). The use of confidence or fiducial limits illustrated in the case of the
#'   binomial. *Biometrika* 26, 404-413.
#'
#'   Cliff, N. (1993). Dominance statistics: ordinal analyses to answer ordinal questions. *Psychological Bulletin*
#'   114, 494-509.
#'
#'   Cohen, J. (1988). *Statistical power analysis for the behavioral sciences*, 2nd ed., eq. 2.5.1, section
#'   2.2.3 (words) and p. 48 (changes).
#'
#'   Cohen, J. (1992). A power primer. *Psychological Bulletin* 112, 155-159.
#'
#'   Delacre, M., Lakens, D., Ley, C., Liu, L. & Leys, C. (2021). Why Hedges' g*s based on the non-pooled
#'   standard deviation should be reported with Welch's t-test. Preprint.
#'
#'   Efron, B. (1987). Better bootstrap confidence intervals. *Journal of the American Statistical
#'   Association* 82, 171-185.
#'
#'   Glass, G. V. (1976). Primary, secondary, and meta-analysis of research. *Educational Researcher* 5
#'   (10), 3-8.
#'
#'   Hedges, L. V. (1981). Distribution theory for Glass's estimator of effect size and related
#'   estimators. *Journal of Educational Statistics* 6, 107-128.
#'
#'   Kerby, D. S. (2014). The simple difference formula: an approach to teaching nonparametric correlation.
#'   *Comprehensive Psychology* 3, 11.IT.3.1.
#'
#'   Morris, S. B. & DeShon, R. P. (2002). Combining effect size estimates in meta-analysis with repeated
#'   measures and independent-groups designs. *Psychological Methods* 7, 105-125.
#'
#'   Rosenthal, R. (1991). *Meta-analytic procedures for social research*, 2nd ed.
#'
#'   Steiger, J. H. & Fouladi, R. T. (1997). Noncentrality interval estimation and the evaluation of
#'   statistical models. In *What if there were no significance tests?*, 221-257.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' gauge_effect(study)
#' gauge_effect(study, c("d_average", "mean_ratio"), interval = "bootstrap", seed = 7)
#' gauge_effect(study, "g", size_words = "cohen")
#' gauge_effect(study, method = "ranks")
#' @export
gauge_effect <- function(study, estimands = NULL, ..., method = NULL, interval = NULL, level = 0.95,
                         size_words = NULL, size_source = NULL, options = NULL, seed = NULL) {
  call <- rlang::current_env()
  options <- given_options(options, ..., verb = "gauge_effect", call = call)
  study <- asked_study(study, call)
  check_study(study)
  method <- check_methods(method, study, call)[[1]]
  wanted <- check_estimands(estimands, study, method, call)
  ask <- list(
    level = check_level(level), method = method,
    interval = check_interval(interval, wanted$codes, study, call),
    threads = as.integer(options$threads %||% 1)
  )
  words <- check_size_words(size_words, size_source, call)
  # Words of one's own are for the effect sizes that are named with them.
  if (!is.null(words) && is.null(words$estimands) && wanted$by_name) words$estimands <- wanted$codes
  ranked <- check_effect_options(wanted$codes, options, study, call)
  ask <- c(ask, ranked)
  drawn <- any(vapply(wanted$codes, effect_method, "", study, ask) == "bootstrap")
  assigned <- any(vapply(wanted$codes, effect_method, "", study, ask) == "relative")
  if (!drawn && !assigned && !(is.null(options$draws) && is.null(seed))) abort_no_draws(call)
  draws <- options$draws %||% 9999
  ask$bootstrap <- check_bootstrap(drawn, ask$interval, draws, seed, study, call)
  # Assignments of small groups are drawn with the same seed, which is on record if they are.
  used <- NULL
  own_seed <- one_seed(seed %||% ask$bootstrap$seed)
  ask$assigned <- list(draws = draws, seed = function() used <<- own_seed())
  found <- effect_table(study, wanted, ask, words, call)
  # The settings hold a seed only where something was drawn.
  if (!"bootstrap" %in% found$table$method) ask$bootstrap <- NULL
  if (is.null(ask$bootstrap) && !is.null(used)) ask$bootstrap <- list(draws = draws, seed = used)
  new_answer(
    "effect", found$table, study,
    settings = c(
      list(verb = "gauge_effect", estimands = wanted$codes), ask[c("method", "interval", "level")],
      ask$bootstrap[c("draws", "seed")], list(size_words = words$thresholds, size_source = words$source), ranked
    ),
    detail = found[c("left_out", "undefined")]
  )
}

# Effect sizes beside a difference: at its level, with its options, and so that they come out the same every time.
# `...`: further arguments of gauge_effect().
effect_beside <- function(difference, estimands = NULL, ...) {
  study <- difference$study
  s <- difference$settings
  method <- s$method[[1]]
  codes <- estimands %||% usual_set(method, study)
  options <- c(
    if (method_is(method, "ranks") && "shift" %in% codes) s["exact"],
    if (any(estimand_is(codes, "ranks"))) s["zeros"],
    draws_beside(intersect(codes, names(estimand_entries)), study, s)
  )
  asked <- with_method_options(keep_given(options))
  rlang::inject(gauge_effect(study, estimands, method = method, level = s$level, !!!asked, ...))
}

# Where an interval may be drawn at random, a seed. Assignments of the ranks are those of the test, if it drew any.
draws_beside <- function(estimands, study, settings) {
  method <- settings$method[[1]]
  ways <- vapply(estimands, effect_method, "", study, list(method = method))
  if (!any(ways %in% c("bootstrap", "relative"))) return(NULL)
  test_drew <- "relative" %in% ways && method_is(method, "ranks") && !is.null(settings$seed)
  if (test_drew) settings[c("draws", "seed")] else list(seed = 1)
}

# Which estimands, and whether each one was asked for by name.
check_estimands <- function(estimands, study, method, call) {
  known <- offered_estimands(study)
  if (is.null(estimands)) return(list(codes = usual_set(method, study), by_name = FALSE))
  if (identical(estimands, "all")) return(list(codes = known, by_name = FALSE))
  if (!is.character(estimands) || length(estimands) == 0) {
    check_choice(estimands, c(known, "all"), arg = "estimands", call = call)
  }
  estimands <- codes_of(estimands, stats::setNames(effect_names(known, study), known))
  for (one in estimands) check_choice(one, c(known, "all"), arg = "estimands", call = call)
  if ("all" %in% estimands) return(list(codes = known, by_name = FALSE))
  list(codes = unique(estimands), by_name = TRUE)
}
