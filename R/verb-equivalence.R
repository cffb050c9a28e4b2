#' Test whether a difference is small enough to count as none
#'
#' Two one-sided tests against bounds that say which differences count as the same, the interval that decides as
#' they do, and one verdict of four. A large p of a test of difference never shows sameness; this does, or says that
#' the data do not tell.
#'
#' @inheritParams test_difference
#' @param within The bounds: one number, 3, for a difference between -3 and 3, or two, `c(-2, 3)`. With several
#'   outcomes of different units a list by name: `list(height = 3, dry_mass = c(-0.2, 0.3))`. There is no default:
#'   what counts as the same is for the field to say, before looking.
#' @param method The primary method, declared before looking: `"welch"` (the default), `"student"`, `"ranks"` (bounds
#'   for the shift); pairs: `"paired"` (the default), `"signed_ranks"`; both: `"permutation"`. Several: the first is the
#'   primary one, the others stand beside it.
#' @param bounds_in Unit of the bounds: `"outcome"`, or `"sd"` for multiples of a standard deviation.
#' @param sd_of Which one: `"average"` of both groups (root of the mean variance), `"pooled"`, `"first"`, `"second"`,
#'   of pairs also `"change"`. Default: "average"; "pooled" where the primary method is Student's; "change" of pairs.
#' @param alpha Significance level of either one-sided test, strictly between 0 and 0.5; the interval against the
#'   bounds has level 1 - 2 `alpha`, that of the difference 1 - `alpha`.
#' @param adjust Adjustment of the larger p for several outcomes and subgroups, one of those of [test_difference()] but
#'   for `"max_t"` and `"max_t_single"`. The verdict is that of p and interval as they are.
#' @param reason Why these bounds, decided before looking; kept and printed with the result.
#' @return An answer (classes `vandro_equivalence`, `vandro_answer`); its table has one row per outcome and method with
#'   the columns of [as.data.frame.vandro_answer()] and
#'   \describe{
#'     \item{`lower`, `upper`, `level`}{the interval at 1 - 2 `alpha`.}
#'     \item{`bound_low`, `bound_high`}{the bounds, always in the unit of the outcome.}
#'     \item{`bounds_in`, `sd_of`, `sd_value`, `standardizer`}{as given; the SD that the bounds are multiples of, in the
#'       outcome's unit and in words.}
#'     \item{`p_low`, `p_high`, `statistic_low`, `statistic_high`}{test against the lower bound (H0: the difference is
#'       at or below it) and against the upper one.}
#'     \item{`p`, `statistic`, `log_p`, `p_kind`, `governing`}{of the side with the larger p, "low" or "high": it
#'       decides.}
#'     \item{`p_difference`, `difference_lower`, `difference_upper`}{the two-sided test of no difference, with its
#'       interval at 1 - `alpha`.}
#'     \item{`verdict`}{"equivalent": the difference is smaller than the bounds; "different": there is a difference;
#'       "different but within bounds": both; "inconclusive": neither is shown.}
#'     \item{`tightest`}{the smallest symmetric bound for which these data would show equivalence, in the outcome's
#'       unit. For ranks with ties, whose distribution depends on the bound, it comes from the interval above.}
#'     \item{`p_sd_known`, `verdict_sd_known`}{with bounds in SD units: the result of a test of means that
#'       assumes the SD is known.}
#'     \item{`d`, `d_lower`, `d_upper`, `d_inside`, `d_estimand`, `d_method`}{with bounds in SD units: the standardized
#'       difference with its interval at 1 - 2 `alpha`, whether that lies between them, its code in [gauge_effect()] and
#'       that of the interval.}
#'     \item{`open_low`, `open_high`}{of rank methods and permutations: the limit equals the bound, and the test rejects
#'       just this value.}
#'     \item{`role`, `alpha`, `p_adjusted`, `p_least`, `p_most`}{as in [test_difference()], of the larger p.}
#'   }
#'   With a rank method or `"permutation"` in the call also `p_smallest`, `p_simulated_low`, `p_simulated_high`, and
#'   with `"permutation"` its columns in [test_difference()], all of the side that decides.
#' @section Formula: With the difference D, its standard error and degrees of freedom as in [test_difference()],
#'   \deqn{t_{low} = \frac{D - \code{bound\_low}}{se}, \quad t_{high} = \frac{D - \code{bound\_high}}{se},}{
#'     t_low = (D - bound_low) / se, t_high = (D - bound_high) / se,}
#'   p of the first is the upper tail, of the second the lower one, and equivalence is shown at `alpha` when the larger
#'   of the two is at most `alpha` (Schuirmann 1987, section 3). That is so exactly when the interval
#'   \eqn{D \pm t_{1-\alpha, df}\, se}{D -/+ t(1 - alpha; df) se} lies between the bounds, its ends included. Ranks and
#'   permutations: the one-sided tests of [test_difference()] with the bound as null value; each limit of the interval
#'   is the one-sided one that belongs to the test against its bound.
#'   Where the same test of a difference also has p at most `alpha` the verdict is "different but within bounds".
#'   Rank methods and permutations are asked three times, and take three times as long as one test.
#' @section Bounds in SD units: For means, the function tests the standardized difference d and accounts for the
#'   uncertainty of its SD. Where a t statistic belongs to its standardizer, \eqn{t = d \lambda}{t = d lambda} with the
#'   \eqn{\lambda}{lambda} of [gauge_effect()], that statistic is noncentral at a bound. With the noncentral
#'   distribution function F, \deqn{p_{low} = 1 - F(t; df, \lambda\,\code{low}), \quad p_{high} = F(t; df,
#'   \lambda\,\code{high}).}{
#'     p_low = 1 - F(t; df, lambda low), p_high = F(t; df, lambda high).}
#'   This is exact for `"pooled"` (with equal variances) and `"change"`. For `"average"`, `"first"` and `"second"`, no t
#'   is exact where variances differ. There, \eqn{z = (d - \code{bound}) / se}{z = (d - bound) / se} with the standard
#'   error of Bonett (2008) is compared with the normal distribution. The test always agrees with the interval that
#'   [gauge_effect()] gives by default at 1 - 2 `alpha`.
#'
#'   The columns `p_sd_known` and `verdict_sd_known` report a test that assumes the SD of the sample is known. That test
#'   declares equivalence too often: with 100 pairs and bounds of one SD of the changes, in 7.4% of studies at `alpha`
#'   5%. Rank methods and permutations have no such test. They assume that the SD is known, and the answer gives the
#'   interval of d as well.
#' @section One bound only: That a difference is not worse than a margin (non-inferiority), or better by more than one,
#'   is a question for [test_difference()] with `expect` and `beyond`.
#' @section Errors: Those of [test_difference()]; `vandro_error_method_bounds` for `"relative"`;
#'   `vandro_error_bad_bounds` for bounds that are missing, reversed, of no width, infinite, or do not lie on either
#'   side of 0; `vandro_error_limits_crossed` if so many values of two groups are tied that their ranks have
#'   another distribution at each bound and the limits cross. Bounds beyond the range of the data are noted.
#' @section Where it holds: How often equivalence is declared where the true difference lies at a bound is mapped
#'   in `vignette("validation", package = "vandro")`.
#' @references Schuirmann, D. J. (1987). A comparison of the two one-sided tests procedure and the power approach for
#'   assessing the equivalence of average bioavailability. *Journal of Pharmacokinetics and Biopharmaceutics* 15,
#'   657-680, section 3.
#' @seealso [try_bounds()] for other bounds, [cross_check()] for other methods.
#' @examples
#' probes <- versus_paired(moisture, probe_a, probe_b, unit = "%", label = "Soil moisture")
#' test_equivalence(probes, within = 0.5, reason = "the valve opens in steps of 0.5 %")
#'
#' # Bounds in SD units, from published numbers
#' published <- versus_summary(
#'   n = c(18, 20), mean = c(22.1, 19.8), sd = c(3.9, 3.2),
#'   groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' test_equivalence(published, within = 0.5, bounds_in = "sd")
#' @export
test_equivalence <- function(study, within, method = NULL, ..., bounds_in = c("outcome", "sd"), sd_of = NULL,
                             alpha = 0.05, adjust = "holm", reason = NULL, options = NULL, seed = NULL) {
  call <- rlang::current_env()
  options <- given_options(options, ..., verb = "test_equivalence", call = call)
  check_study(study)
  if (missing(within)) abort_no_bounds(call)
  methods <- check_bounded_methods(method, study, call)
  asked <- list(within = check_bounds(within, study, call), bounds_in = check_choice(bounds_in, c("outcome", "sd")))
  asked$sd_of <- check_sd_of(sd_of, asked$bounds_in, methods[[1]], study, call)
  asked$alpha <- check_alpha(alpha)
  asked$method_from <- method_origin(method)
  adjusting <- utils::modifyList(unadjusted, list(adjust = check_choice(adjust, setdiff(adjust_ways, joint_ways))))
  reason <- check_text(reason)
  counting <- check_counting_options(methods, options, seed, call)
  warn_counted(equivalence_answer(study, methods, asked, counting, adjusting, reason, call))
}

# The answer to a question whose parts have been checked: what is found about the difference, and both sides.
equivalence_answer <- function(study, methods, asked, counting, adjusting, reason, call) {
  question <- c(list(expect = "either", beyond = 0, level = 1 - asked$alpha, alpha = asked$alpha), counting)
  inferred <- infer_cases(study, methods, question, call)
  records <- study$outcomes[inferred$outcomes]
  sides <- each_record(records, function(outcome, i) {
    row <- column_row(inferred$columns, i)
    if (!is.na(row$reason %||% NA)) abort_with_sentence(row$reason, outcome, call)
    equivalence_sides(outcome, row, study, asked, counting, call)
  }, study)
  table <- bind_answered(lapply(seq_along(sides), function(i) {
    if (is_unanswered(sides[[i]])) return(sides[[i]])
    list(equivalence_row(column_row(inferred$columns, i), sides[[i]], records[[i]], asked, methods))
  }), records)
  # A row without an answer keeps its own method.
  own <- c("method", "role", "estimand", "statistic_name")
  table[own] <- inferred$columns[own]
  table$p_adjusted <- adjusted_p(table, adjusting$adjust)
  table$verdict <- adjusted_verdicts(table, adjusting$adjust)
  settings <- c(list(
    verb = "test_equivalence", method = methods,
    within = if (length(study$outcomes) > 1) asked$within else asked$within[[1]], bounds_in = asked$bounds_in,
    sd_of = asked$sd_of, alpha = asked$alpha, method_from = asked$method_from, adjust = adjusting$adjust,
    reason = reason
  ), counting_settings(counting, methods, inferred$found))
  detail <- list(inferred = inferred, sides = sides, series = ignored_dependence(study, inferred))
  if (any(method_is(methods, "reassignment"))) {
    detail$permutation <- lapply(sides, function(one) {
      if (is_unanswered(one)) return(NULL)
      permutation_detail(if (one$high$p > one$low$p) one$high else one$low)
    })
  }
  new_answer("equivalence", table, study, settings, detail)
}

# With several outcomes adjusted p-values decide, about the bounds and about 0.
adjusted_verdicts <- function(table, adjust) {
  decided <- which(!is.na(table$p_adjusted))
  zero <- adjusted_p(list(role = table$role, p = table$p_difference), adjust)
  table$verdict[decided] <- core_verdict(
    zero[decided] <= table$alpha[decided], table$p_adjusted[decided] <= table$alpha[decided]
  )
  table$verdict
}

# The answer about the difference, at level 1 - alpha, from the same numbers.
difference_of <- function(x) {
  s <- x$settings
  s[c("within", "bounds_in", "sd_of", "reason")] <- NULL
  question <- list(verb = "test_difference", expect = "either", beyond = 0, level = 1 - s$alpha)
  adjusting <- utils::modifyList(unadjusted, list(adjust = s$adjust))
  inferred_answer(x$detail$inferred, x$study, utils::modifyList(s, question), adjusting)
}

# Bounds of one outcome in its unit, and the tests against them.
equivalence_sides <- function(outcome, row, study, asked, counting, call) {
  standard <- if (asked$bounds_in == "sd") bound_standard(outcome, study, asked, call)
  counted <- counts_values(row)
  bounds <- check_bounds_held(asked$within[[outcome$name]] * (standard$value %||% 1), call)
  sides <- if (counted) {
    counted_sides(outcome, row$method, study, bounds, asked$alpha, counting, call)
  } else {
    core_t_sides(row$estimate, row$se, row$df, bounds[[1]], bounds[[2]], asked$alpha)
  }
  if (!is.null(sides$reason)) abort_reason(sides$reason, outcome, study, call)
  # For tests of means the standardized difference decides, and the SD is not assumed known.
  if (!is.null(standard) && !counted) {
    sides$known <- max(sides$low$p, sides$high$p)
    sides[c("low", "high")] <- standard$sides[c("low", "high")]
  }
  if (isTRUE(sides$lower > sides$upper)) abort_reason("limits_crossed", outcome, study, call)
  c(sides, list(bounds = bounds, standard = standard))
}

# One-sided tests with either bound as null value.
counted_sides <- function(outcome, method, study, bounds, alpha, counting, call) {
  side <- function(at, expect) {
    question <- c(list(expect = expect, beyond = bounds[[at]], level = 1 - 2 * alpha, alpha = alpha), counting)
    infer_difference(outcome, study, method, question, call)
  }
  low <- side(1, "higher")
  high <- side(2, "lower")
  low$open <- low$p <= alpha && isTRUE(low$at_least == bounds[[1]])
  high$open <- high$p <= alpha && isTRUE(high$at_most == bounds[[2]])
  list(lower = low$at_least, upper = high$at_most, low = low, high = high)
}

# The SD that bounds are multiples of, and the standardized difference with its interval at 1 - 2 alpha.
bound_standard <- function(outcome, study, asked, call) {
  estimand <- sd_choices(study)[[asked$sd_of]]
  parts <- core_effect_parts(outcome$moments, outcome$pairs$r)
  reason <- core_effect_reason(estimand, parts)
  if (!is.null(reason)) abort_reason(reason, outcome, study, call, estimand)
  within <- asked$within[[outcome$name]]
  sides <- core_standardized_sides(estimand, parts, within[[1]], within[[2]], asked$alpha)
  if (anyNA(c(sides$lower, sides$upper))) abort_reason("no_convergence", outcome, study, call, estimand)
  list(
    value = core_standardizer(estimand, parts), words = estimand_fact(estimand, "standardizer", study),
    estimand = estimand, way = sides$way, sides = sides, within = within,
    d = core_effect_point(estimand, parts), lower = sides$lower, upper = sides$upper,
    inside = sides$lower >= within[[1]] && sides$upper <= within[[2]]
  )
}

no_standard <- list(
  value = NA_real_, words = NA_character_, estimand = NA_character_, way = NA_character_, d = NA_real_,
  lower = NA_real_, upper = NA_real_, inside = NA
)

equivalence_row <- function(row, sides, outcome, asked, methods) {
  high <- sides$high$p > sides$low$p
  governing <- if (high) sides$high else sides$low
  standard <- sides$standard %||% no_standard
  bounds <- sides$bounds
  inside <- max(sides$low$p, sides$high$p) <= asked$alpha
  standardized <- !is.null(sides$known)
  range <- if (standardized) {
    standardized_rounding(outcome, standard, asked$alpha)
  } else {
    equivalence_rounding(outcome, row$method, bounds)
  }
  kept <- c("outcome", "subgroup", "comparison", "method", "role", "estimand", "estimate", "se")
  out <- c(row[intersect(kept, names(row))], list(
    lower = sides$lower, upper = sides$upper, level = 1 - 2 * asked$alpha, bound_low = bounds[[1]],
    bound_high = bounds[[2]], bounds_in = asked$bounds_in, sd_of = asked$sd_of %||% NA_character_,
    sd_value = standard$value, standardizer = standard$words, statistic = governing$statistic,
    statistic_name = row$statistic_name,
    df = if (standardized) governing$df else row$df, p = governing$p, p_kind = governing$kind %||% row$p_kind,
    log_p = governing$log_p,
    alpha = asked$alpha, n_first = row$n_first, n_second = row$n_second, governing = if (high) "high" else "low",
    p_low = sides$low$p, p_high = sides$high$p, statistic_low = sides$low$statistic,
    statistic_high = sides$high$statistic, p_difference = row$p, difference_lower = row$lower,
    difference_upper = row$upper, verdict = core_verdict(row$p <= asked$alpha, inside),
    tightest = if (standardized) {
      core_tightest(standard$lower, standard$upper) * standard$value
    } else {
      core_tightest(sides$lower, sides$upper)
    },
    p_sd_known = sides$known %||% NA_real_,
    verdict_sd_known = if (standardized) {
      core_verdict(row$p <= asked$alpha, sides$known <= asked$alpha)
    } else {
      NA_character_
    },
    d_estimand = standard$estimand, d_method = standard$way,
    d = standard$d, d_lower = standard$lower, d_upper = standard$upper, d_inside = standard$inside,
    open_low = sides$low$open %||% NA, open_high = sides$high$open %||% NA,
    p_least = range[[1]], p_most = range[[2]]
  ))
  if (!any(counts_values(methods))) return(out)
  permuted <- any(method_is(methods, "reassignment"))
  out <- c(out, counted_columns(governing, FALSE), if (permuted) permutation_columns(governing))
  # Either side may be the one that cannot decide.
  if (counts_values(row)) {
    out$p_smallest <- max(sides$low$p_smallest, sides$high$p_smallest)
  }
  out
}

equivalence_rounding <- function(outcome, method, bounds) {
  open <- rounded_errors(outcome, method)
  if (is.null(open)) return(c(NA_real_, NA_real_))
  core_equivalence_range(open$gaps, open$errors, bounds[[1]], bounds[[2]])
}

# Smallest and largest p of a standardized difference over what rounding leaves open: every end of the SDs and of the
# difference, and the difference midway between the bounds.
standardized_rounding <- function(outcome, standard, alpha) {
  ends <- outcome$data$ends
  if (is.null(ends)) return(c(NA_real_, NA_real_))
  parts <- core_effect_parts(outcome$moments, outcome$pairs$r)
  open <- stats::setNames(ends$sd, if (is.null(parts$sd_change)) c("sd_first", "sd_second") else "sd_change")
  middle <- min(max(mean(standard$within) * standard$value, ends$gap[[1]]), ends$gap[[2]])
  corners <- expand.grid(c(lapply(open, pmax, .Machine$double.xmin), list(gap = c(ends$gap, middle))))
  parts[names(corners)] <- corners
  sides <- core_standardized_sides(standard$estimand, parts, standard$within[[1]], standard$within[[2]], alpha)
  range(pmax(sides$low$p, sides$high$p))
}

# --- checks -----------------------------------------------------------------------------------------

check_bounded_methods <- function(method, study, call) {
  methods <- check_methods(method, study, call)
  if (is_database(study) && any(method_is(methods, "ranks"))) {
    abort_vandro(
      c("Bounds hold a difference of means where the measurements stay in a database.", "i" = instead_of_values(study)),
      "method_bounds",
      call = call
    )
  }
  unbounded <- setdiff(methods, methods_where(bounds = TRUE))
  if (length(unbounded) == 0) return(methods)
  abort_vandro(
    c(
      "Method {.val {unbounded}} has no difference in the outcome's unit that bounds could hold.",
      "i" = "Bounds for a shift: {.val ranks}."
    ),
    "method_bounds",
    call = call
  )
}

check_sd_of <- function(sd_of, bounds_in, method, study, call) {
  if (bounds_in == "outcome") {
    if (is.null(sd_of)) return(NULL)
    abort_vandro(
      c("{.arg sd_of} belongs to bounds in SD units.", "i" = "Say {.code bounds_in = \"sd\"}, or leave it out."),
      "contradiction",
      call = call
    )
  }
  if (is.null(sd_of)) return(method_fact(method, "sd_of", study))
  check_choice(sd_of, names(sd_choices(study)), arg = "sd_of", call = call)
}

abort_no_bounds <- function(call) {
  abort_vandro(
    c(
      "{.arg within} is needed: between which bounds does a difference count as none?",
      "i" = "For example {.code within = 3} for -3 to 3. It is a matter of the field, to be settled before looking."
    ),
    "bad_bounds",
    call = call
  )
}

# Lower and upper bound for every outcome, by its name.
check_bounds <- function(within, study, call) {
  # Subgroups of an outcome share its bounds.
  names <- unique(vapply(study$outcomes, `[[`, "", "name"))
  if (!is.list(within)) return(stats::setNames(rep(list(check_bound_pair(within, call)), length(names)), names))
  if (!setequal(names(within), names) || anyDuplicated(names(within))) {
    found <- if (is.null(names(within))) "no names" else names(within)
    abort_vandro(
      c(
        "A list {.arg within} must have bounds for every outcome, by name.",
        "x" = "Outcomes: {.val {names}}; bounds: {.val {found}}."
      ),
      "bad_bounds",
      call = call
    )
  }
  lapply(within[names], check_bound_pair, call)
}

# Bounds in the outcome's unit: a large number of SDs can leave the range of doubles.
check_bounds_held <- function(bounds, call) {
  if (all(is.finite(bounds))) return(bounds)
  abort_vandro(
    c(
      "A bound leaves the range that a computer can hold.",
      "i" = "Check the bounds, and whether they are meant in SD ({.code bounds_in = \"sd\"})."
    ),
    "out_of_range",
    unanswered = TRUE, call = call
  )
}

check_bound_pair <- function(within, call) {
  refuse <- function(why, way) {
    found <- describe_value(within)
    if (is.numeric(within) && length(within) == 2) found <- toString(format_plain(within, digits = 15, trim = TRUE))
    abort_vandro(c(why, "x" = "It is {found}.", "i" = way), "bad_bounds", within = within, call = call)
  }
  if (!is.numeric(within) || !length(within) %in% 1:2 || anyNA(within)) {
    refuse(
      "{.arg within} must be one number, or a lower and an upper bound.",
      "For example {.code within = 3} for -3 to 3, or {.code within = c(-2, 3)}."
    )
  }
  if (any(is.infinite(within))) {
    refuse(
      "{.arg within} must be finite on both sides.",
      "Not worse than a margin of 2: {.code test_difference(study, expect = \"higher\", beyond = -2)}."
    )
  }
  pair <- if (length(within) == 1) c(-1, 1) * within else as.double(within)
  if (pair[[1]] == pair[[2]]) {
    refuse("{.arg within} leaves no width between the bounds.", "No data show that a difference is exactly one number.")
  }
  if (pair[[1]] > pair[[2]]) {
    way <- if (length(within) == 1) {
      "One number is the distance to both sides: {.code within = {abs(within)}}."
    } else {
      "Lower bound first: {.code within = c({pair[[2]]}, {pair[[1]]})}."
    }
    refuse("{.arg within} has its lower bound above its upper one.", way)
  }
  if (pair[[1]] >= 0 || pair[[2]] <= 0) {
    way <- if (pair[[1]] >= 0) {
      "Whether it is above {pair[[1]]}: {.code test_difference(study, expect = \"higher\", beyond = {pair[[1]]})}."
    } else {
      "Whether it is below {pair[[2]]}: {.code test_difference(study, expect = \"lower\", beyond = {pair[[2]]})}."
    }
    refuse("{.arg within} must hold 0: bounds lie on either side of no difference.", way)
  }
  pair
}
