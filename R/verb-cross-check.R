#' Does the conclusion depend on the method?
#'
#' Every method that applies, asked the same question in the same direction and with the same sidedness, in one table
#' and one figure. The declared method stands out and its verdict stands; none is chosen for what it found.
#'
#' @inheritParams test_difference
#' @param study A study, for example from [versus()] or [versus_paired()].
#' @param method The declared, primary method; every other one that applies stands beside it. Several: just these, the
#'   first is the declared one. As in [test_difference()].
#' @param within,bounds_in,sd_of Bounds, where the question is equivalence: as in [test_equivalence()]. `sd_of` left out
#'   is that of the declared method, for all methods alike.
#' @param level Confidence of the two-sided intervals. `NULL`: the level at which they agree with the verdicts, 1 -
#'   `alpha`, or 1 - 2 `alpha` for a directional question; with bounds always 1 - 2 `alpha`.
#' @param reason Why one direction, or these bounds, were declared.
#' @param flagged `"both"`: every method also without the values beyond 1.5 box lengths from the quartiles (Tukey 1977;
#'   of pairs the changes), those that [vet_assumptions()] names. `"kept"`: with all values.
#' @param options From [method_options()]: `statistic`, `draws` and `threads`. Permutations beside another declared
#'   method are counted exactly only where that takes no more than a fifth of a second.
#' @return An answer (classes `vandro_cross_check`, `vandro_answer`); its table has one row per outcome, set of values
#'   and method with the columns of [as.data.frame.vandro_answer()] and `values` ("all" or "without flagged"), `role`,
#'   `alpha`, `verdict`; with bounds also `bound_low`, `bound_high` and `p_difference`, and p is that of the side that
#'   decides. Verdicts are those of [test_equivalence()]; without bounds "different" or "inconclusive", since no large p
#'   shows sameness. `detail$depends` says per outcome whether any verdict differs from that of the declared method,
#'   `detail$hangs` on which assumption (a table with `assumption`, the methods `one` and `other`, and what the data
#'   show of it: `sd_ratio`, `skewness_first`, `skewness_second`), `detail$refused` which methods could not answer and
#'   why.
#' @section What a disagreement hangs on: Methods are compared two by two, where one assumption parts them: *spread*,
#'   Student and Welch (equal variances); *shape*, Welch, or the paired t, and reassignment (the t distribution for
#'   values that are not normal), which with plain differences reassigned is *spread*; *order*, means and ranks (how
#'   much a value's distance counts); *few*, a method whose p these sizes keep above `alpha`; *same shape*, Mann-Whitney
#'   and Brunner-Munzel (equal shapes and spreads); *flagged*, with and without the flagged values. Where such a pair
#'   disagrees, that assumption is named with what the data show of it.
#' @section Errors: Those of [test_difference()] and [test_equivalence()]; `vandro_error_needs_values` for
#'   `flagged = "both"` from published numbers; `vandro_error_contradiction` for bounds with a directional question.
#' @references Tukey, J. W. (1977). *Exploratory data analysis*, section 2C.
#' @seealso [compare_answers()] lays any answers side by side.
#' @examples
#' leaf <- versus(seedlings, leaf_area, substrate, groups = c("compost", "peat"), unit = "cm2")
#' cross_check(leaf, seed = 1)
#' autoplot(cross_check(leaf, flagged = "both", seed = 1))
#'
#' probes <- versus_paired(moisture, probe_a, probe_b, unit = "%")
#' cross_check(probes, within = 0.5)
#' @export
cross_check <- function(study, method = NULL, ..., expect = "either", beyond = 0, within = NULL,
                        bounds_in = c("outcome", "sd"), sd_of = NULL, level = NULL, alpha = 0.05, reason = NULL,
                        flagged = c("kept", "both"), options = NULL, seed = NULL) {
  call <- rlang::current_env()
  options <- given_options(options, ..., verb = "cross_check", call = call)
  check_study(study)
  methods <- cross_methods(method, study, !is.null(within), call)
  asked <- list(
    expect = check_choice(expect, directions), beyond = check_number(beyond), alpha = check_alpha(alpha),
    method_from = method_origin(method)
  )
  # Intervals stand beside verdicts: they are to agree.
  agreeing <- if (is.null(within)) core_matched_level(asked$expect, asked$alpha) else 1 - 2 * asked$alpha
  asked$level <- if (is.null(level)) agreeing else check_level(level)
  bounds_in <- check_choice(bounds_in, c("outcome", "sd"))
  if (is.null(within)) {
    reason <- check_reason(reason, asked$expect, call)
    if (bounds_in == "sd" || !is.null(sd_of)) abort_no_bounds(call)
  } else {
    refuse_direction(asked, call)
    asked$within <- check_bounds(within, study, call)
    asked$bounds_in <- bounds_in
    asked$sd_of <- check_sd_of(sd_of, bounds_in, methods[[1]], study, call)
    if (!is.null(level)) abort_bounded_level(call)
    reason <- check_text(reason)
  }
  flagged <- check_choice(flagged, c("kept", "both"))
  if (flagged == "both" && !has_values(study)) abort_no_flags(call)
  counting <- check_counting_options(methods, options, seed, call)
  # `draws` limits random draws here; it does not ask for them in place of exact counting.
  if (!is.null(counting)) counting$draws_given <- FALSE
  answer <- cross_answer(study, methods, asked, counting, reason, flagged, call)
  answer$detail$agreeing <- agreeing
  answer
}

cross_answer <- function(study, methods, asked, counting, reason, flagged, call) {
  if (!is.null(counting)) counting$draws_given <- !is.null(counting$draws)
  found <- each_outcome(study, cross_outcome, study, methods, asked, counting, flagged, call)
  table <- lean_table(bind_answered(lapply(found, function(one) {
    if (is_unanswered(one)) return(one)
    lapply(seq_len(nrow(one$table)), column_row, columns = one$table)
  }), study$outcomes))
  table$p_adjusted <- adjusted_p(table, "holm")
  used <- counting_settings(counting, methods, unlist(found_part(found, "used"), recursive = FALSE))
  named <- function(part) stats::setNames(found_part(found, part), vapply(study$outcomes, record_name, ""))
  if (!is.null(asked$within) && length(study$outcomes) == 1) asked$within <- asked$within[[1]]
  bounded <- !is.null(asked$within)
  new_answer(
    "cross_check", table, study,
    settings = c(
      list(verb = "cross_check", method = methods), asked[setdiff(names(asked), "within")], asked["within"[bounded]],
      list(reason = reason, flagged = flagged), used[c("statistic", "draws", "seed")]
    ),
    detail = list(
      depends = unlist(found_part(found, "depends", NA)), hangs = named("hangs"), refused = named("refused"),
      without = named("without")
    )
  )
}

# All methods on one outcome, with all values and, on request, without the flagged ones.
cross_outcome <- function(outcome, study, methods, asked, counting, flagged, call) {
  in_sd <- asked
  # Bounds in SD units are those of all values. Tests of means judge the standardized difference.
  if (identical(asked$bounds_in, "sd")) {
    standard <- bound_standard(outcome, study, asked, call)
    asked$within[[outcome$name]] <- asked$within[[outcome$name]] * standard$value
  }
  asked$within <- asked$within[outcome$name]
  asked[c("bounds_in", "sd_of")] <- list("outcome", NULL)
  sets <- list(all = one_outcome(study, outcome))
  rows <- if (flagged == "both") flagged_rows(outcome, study)
  if (length(unlist(rows))) sets[["without flagged"]] <- study_without(study, outcome, rows)
  asked_each <- lapply(names(sets), function(set) {
    lapply(methods, function(method) {
      primary <- set == "all" && method == methods[[1]]
      standardized <- set == "all" && method_is(method, "means") && !is.null(in_sd$within)
      cross_ask(sets[[set]], method, set, primary, if (standardized) in_sd else asked, counting, call)
    })
  })
  got <- unlist(asked_each, recursive = FALSE)
  refused <- vapply(got, function(one) is.null(one$row), NA)
  table <- lean_table(bind_rows(lapply(got[!refused], `[[`, "row")))
  list(
    table = table, used = lapply(got[!refused], `[[`, "used"),
    depends = length(unique(table$verdict[table$values == "all"])) > 1,
    hangs = disagreements(table, outcome, study, counting$statistic), refused = refused_table(got[refused]),
    without = removed_counts(outcome$data, rows)
  )
}

# Permutations beside the declared method are counted exactly where that takes about so long.
beside_seconds <- 0.2

# One method's row, or why it cannot answer. The declared method's error is the caller's.
cross_ask <- function(study, method, set, primary, asked, counting, call) {
  if (!primary && !is.null(counting)) counting$seconds <- beside_seconds
  ask <- function() {
    if (is.null(asked$within)) {
      difference_answer(study, method, asked, counting, unadjusted, NULL, call)
    } else {
      equivalence_answer(study, method, asked, counting, unadjusted, NULL, call)
    }
  }
  answer <- if (primary) ask() else tryCatch(ask(), vandro_error = function(e) e)
  if (inherits(answer, "vandro_error")) {
    return(list(method = method, set = set, why = conditionMessage(answer)))
  }
  row <- lapply(answer$table, `[[`, 1)
  list(
    row = cross_row(row, set, primary, asked),
    used = list(seed = answer$settings$seed %||% NA_real_, draws = answer$settings$draws %||% NA_real_)
  )
}

cross_row <- function(row, set, primary, asked) {
  bounded <- !is.null(asked$within)
  # Values flagged by the outcome itself leave no valid test: such a row describes.
  verdict <- if (bounded) row$verdict else if (row$p <= row$alpha) "different" else "inconclusive"
  c(
    row[c("outcome", if (!is.null(row$subgroup)) "subgroup", "comparison")], list(values = set), row["method"],
    list(role = if (primary) "primary" else "beside"),
    row[c("estimand", "estimate", "se", "lower", "upper", "level")],
    if (bounded) row[c("bound_low", "bound_high")], row[c("statistic", "statistic_name", "df", "p", "p_kind")],
    list(expect = asked$expect, beyond = asked$beyond, alpha = row$alpha), if (bounded) row["p_difference"],
    row[c("n_first", "n_second")],
    list(
      p_smallest = row$p_smallest %||% NA_real_,
      verdict = if (set == "all") verdict else NA_character_
    )
  )
}

refused_table <- function(refused) {
  lean_table(list(
    method = vapply(refused, `[[`, "", "method"), values = vapply(refused, `[[`, "", "set"),
    why = vapply(refused, function(one) sub("\n.*$", "", cli::ansi_strip(one$why)), "")
  ))
}

# --- what a disagreement hangs on -------------------------------------------------------------------

# A row for each pair of methods whose verdicts differ, with what the data show of the assumption.
disagreements <- function(table, outcome, study, statistic) {
  whole <- table[table$values == "all", ]
  differ <- function(pair) {
    verdicts <- whole$verdict[match(pair[1:2], whole$method)]
    !anyNA(verdicts) && verdicts[[1]] != verdicts[[2]]
  }
  parted <- Filter(differ, method_contrasts$first)
  if (length(parted) == 0 && length(unique(whole$verdict)) > 1) parted <- Filter(differ, method_contrasts$otherwise)
  few <- whole$method[!is.na(whole$p_smallest) & whole$p_smallest > whole$alpha]
  one <- vapply(parted, `[[`, "", 1)
  other <- vapply(parted, `[[`, "", 2)
  blocked <- !is.null(study$rows$blocks) && !is_paired(study)
  assumption <- vapply(parted, assumption_of, "", few, statistic, blocked)
  m <- outcome$moments
  looked <- if (is_paired(study)) m[3] else m[1:2]
  sds <- vapply(m[1:2], `[[`, 0, "sd")
  shown <- function(for_these, value) ifelse(assumption %in% for_these, value, NA_real_)
  lean_table(list(
    assumption = assumption, one = one, other = other,
    sd_ratio = shown(c("spread", "same shape"), max(sds) / min(sds)),
    skewness_first = shown(c("shape", "order"), looked[[1]]$skewness),
    skewness_second = shown(c("shape", "order"), if (length(looked) == 2) looked[[2]]$skewness else NA_real_)
  ))
}

# With too few values for one of them it is their number; plain differences are reassigned as if spreads were equal,
# and trimmed means and medians pass over outlying values as ranks do.
assumption_of <- function(pair, few, statistic, blocked) {
  if (any(pair[1:2] %in% few)) return("few")
  # Of all methods only reassignment keeps to the blocks.
  if (blocked && any(method_is(pair[1:2], "reassignment"))) return("blocks")
  if (!"permutation" %in% pair || !pair[[3]] %in% "shape") return(pair[[3]])
  switch(statistic %||% "studentized",
    studentized = "shape", difference = if ("welch" %in% pair) "spread" else "shape", "order"
  )
}

# --- checks, and the flagged values ------------------------------------------------------------------

cross_methods <- function(method, study, bounded, call) {
  if (length(method) > 1) {
    return(if (bounded) check_bounded_methods(method, study, call) else check_methods(method, study, call))
  }
  declared <- if (bounded) check_bounded_methods(method, study, call) else check_methods(method, study, call)
  fitting <- methods_where(design = study$design)
  able <- function(field) fitting[method_facts(fitting, field)]
  if (study$source == "summary") fitting <- able("summaries")
  if (is_database(study)) fitting <- able(if (bounded) "database_bounds" else "databases")
  if (bounded) fitting <- able("bounds")
  union(declared, fitting)
}

refuse_direction <- function(asked, call) {
  if (asked$expect == "either" && asked$beyond == 0) return(invisible())
  abort_vandro(
    c(
      "Bounds lie on both sides: {.arg within} does not go with {.arg expect} or {.arg beyond}.",
      "i" = "For one bound leave out {.arg within}: {.code expect = \"higher\", beyond = -2}."
    ),
    "contradiction",
    call = call
  )
}

abort_bounded_level <- function(call) {
  abort_vandro(
    c(
      "With bounds {.arg alpha} settles the level: 1 - 2 alpha.", "i" = "Leave out {.arg level}, or say {.arg alpha}."
    ),
    "contradiction",
    call = call
  )
}

abort_no_flags <- function(call) {
  abort_vandro(
    c(
      "Single values are needed to leave out flagged ones.", "x" = "The study has published numbers only.",
      "i" = "Leave out {.code flagged = \"both\"}."
    ),
    "needs_values",
    call = call
  )
}

# Rows of the values beyond the fences, per group, or of the changes.
flagged_rows <- function(outcome, study) {
  looked <- if (is_paired(study)) 3 else 1:2
  lapply(looked, function(which) {
    quarters <- quartiles_of(outcome, which)
    at <- core_beyond_fences(exact_values(outcome, which), quarters[[1]], quarters[[3]])
    unique(known_rows(outcome, which)[at])
  })
}
