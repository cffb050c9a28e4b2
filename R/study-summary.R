#' Declare a comparison from published numbers
#'
#' For a table in a paper: n, mean and standard deviation of both groups, or of paired measurements.
#' Everything that can be computed from them is computed by the same verbs as from measurements.
#'
#' @param n Independent: sizes of the two groups, first minus second. Pairs: the number of pairs. Or a data frame of
#'   published numbers, see section Tables.
#' @param mean The two means.
#' @param sd The two standard deviations (not variances), above 0; `NA` for a group of one value, which has none.
#' @param groups Labels of the two groups.
#' @param se,lower,upper In place of `sd`: the two standard errors (`NA` for one value), or the limits of the two means'
#'   intervals at `level`, from which the SDs follow.
#' @param level Confidence of the interval that was given.
#' @param outcome Name of the outcome, used where no `label` is given.
#' @param columns What the columns of a data frame hold, where their names do not say it: `c(n = "plants", mean =
#'   "average")`; in a row for each comparison two names each, `list(n = c("plants_a", "plants_b"), ...)`.
#' @param ... Must be empty.
#' @inheritParams versus
#' @return A study (class `vandro_study`), see [versus()].
#' @section Formula: \eqn{s = se \sqrt n}{s = se sqrt(n)}; from an interval
#'   \eqn{se = (\code{upper} - \code{lower}) / (2 t_{1-(1-\code{level})/2, n-1})}{se = (upper - lower) /
#'   (2 t(1 - (1 - level)/2; n - 1))}. Pairs: \eqn{s_d^2 = s_1^2 + s_2^2 - 2 r s_1 s_2}{sd^2 = s1^2 + s2^2 -
#'   2 r s1 s2} gives the SD of the changes from r, and r from the SD of the changes.
#' @section Tables: A data frame has a row for each group (columns `group`, `n`, `mean`, and `sd`, `se`, or `lower` and
#'   `upper`), or a row for each comparison (`n_compost`, `n_peat`, `mean_compost`, ..., or `n1`, `n2`, `mean1`, ...).
#'   With a column `outcome`, and perhaps `unit`, it can hold several outcomes.
#' @section Rounding: Published numbers are rounded. From the decimals in which they are written,
#'   [test_difference()] works out the smallest and largest p that the unrounded numbers could have given,
#'   and prints them.
#' @section Errors: `vandro_error_bad_value` for sizes that are not whole (pairs: at least 2), SDs that are not above
#'   0, an SD of one value and numbers that are not finite, naming the group; `vandro_error_missing_ingredient` when
#'   what is given does not determine the spread (for pairs it names r or the SD of the changes: pairs are
#'   never treated as independent).
#' @examples
#' published <- versus_summary(
#'   n = c(18, 20), mean = c(22.1, 19.8), sd = c(3.9, 3.2),
#'   groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' test_difference(published)
#'
#' # The table of a paper
#' printed <- data.frame(
#'   substrate = c("compost", "peat"), n = c(18, 20), mean = c(22.1, 19.8), sd = c(3.9, 3.2)
#' )
#' versus_summary(printed, groups = c("compost", "peat"), unit = "cm", label = "Stem height")
#'
#' # Only standard errors were printed
#' versus_summary(n = c(18, 20), mean = c(22.1, 19.8), se = c(0.92, 0.72))
#'
#' # Pairs: both SDs and their correlation, or the changes alone
#' versus_paired_summary(
#'   n = 22, mean = c(214, 148), sd = c(41, 36), r = 0.62, groups = c("noon", "dawn")
#' )
#' versus_paired_summary(n = 22, mean_change = 66, sd_change = 33.6)
#' @export
versus_summary <- function(n, mean, sd = NULL, groups = c("first", "second"), ..., se = NULL,
                           lower = NULL, upper = NULL, level = 0.95, outcome = "outcome",
                           unit = NULL, label = NULL, claim = NULL, assigned = NULL,
                           phrases = NULL, columns = NULL) {
  check_supplied(n)
  refuse_more(...)
  if (is.data.frame(n)) {
    given <- as.list(rlang::current_env())[setdiff(names(as.list(match.call()))[-1], c("", "n", "columns"))]
    return(study_from_table(n, columns, given, substitute(n), rlang::current_env()))
  }
  check_supplied(mean)
  groups <- check_labels(groups)
  n <- check_pair(n, low = 1, whole = TRUE, groups = groups)
  mean <- check_pair(mean, groups = groups)
  spread <- spread_of(sd, se, lower, upper, n, level, groups, rlang::current_env())
  moments <- unname(Map(core_summary_moments, n, mean, spread$sd))
  ends <- list(
    gap = mean[[1]] - mean[[2]] + c(-2, 2) * core_half_unit(mean),
    sd = lapply(1:2, function(k) spread$sd[[k]] + c(-1, 1) * spread$half[[k]])
  )
  study <- summary_study("independent", moments, groups, NULL, ends, outcome, unit, label)
  study$claim <- check_claim(claim, rlang::current_env())
  study$assigned <- check_assigned(assigned, rlang::current_env())
  study$phrases <- check_phrases(phrases, groups, rlang::current_env())
  study$declared <- declared_call("versus_summary", rlang::current_env())
  study
}

#' @rdname versus_summary
#' @param r Correlation of the two measurements over the pairs, from -1 to 1.
#' @param mean_change,sd_change Mean and standard deviation of the changes, first minus second.
#' @param se_change In place of `sd_change`: the standard error of the mean change.
#' @export
versus_paired_summary <- function(n, mean = NULL, sd = NULL, r = NULL,
                                  groups = c("first", "second"), ..., mean_change = NULL,
                                  sd_change = NULL, se_change = NULL, outcome = "outcome",
                                  unit = NULL, label = NULL, claim = NULL, assigned = NULL,
                           phrases = NULL) {
  check_supplied(n)
  refuse_more(...)
  call <- rlang::current_env()
  groups <- check_labels(groups)
  n <- check_whole(n, 2, 1e15)
  check_not_of_change(mean, sd, mean_change, call)
  means <- if (!is.null(mean)) check_pair(mean, groups = groups)
  sds <- if (!is.null(sd)) check_pair(sd, low = 0, open = TRUE, groups = groups)
  gap <- mean_of_change(means, mean_change, call)
  spread <- change_spread(n, sds, r, sd_change, se_change, call)
  halves <- lapply(1:2, function(k) {
    half <- core_unknown_moments(n)
    if (!is.null(means)) half[c("base", "mean")] <- means[[k]]
    if (!is.null(sds)) half$sd <- sds[[k]]
    half
  })
  moments <- c(halves, list(core_summary_moments(n, gap, spread$sd)))
  pairs <- list(r = spread$r, up = NA_real_, down = NA_real_, same = NA_real_)
  half <- if (is.null(mean_change)) 2 * core_half_unit(means) else core_half_unit(mean_change)
  ends <- list(gap = gap + c(-1, 1) * half, sd = list(spread$ends))
  study <- summary_study("paired", moments, groups, pairs, ends, outcome, unit, label)
  study$claim <- check_claim(claim, call)
  study$assigned <- check_assigned(assigned, call)
  study$phrases <- check_phrases(phrases, groups, call)
  study$declared <- declared_call("versus_paired_summary", call)
  study
}

# `ends`: how far rounding leaves the gap of the means and the SDs open.
summary_study <- function(design, moments, groups, pairs, ends, outcome, unit, label) {
  record <- new_outcome(
    check_text(outcome, arg = "outcome", null = FALSE), check_text(label, arg = "label"),
    check_text(unit, arg = "unit"), moments, list(kind = "summary", ends = ends), pairs
  )
  new_study(design, "summary", groups, list(record), left_out = NULL)
}

# The SDs, from whatever tells them, and half a unit of the last place they were printed with.
spread_of <- function(sd, se, lower, upper, n, level, groups, call) {
  if (!is.null(sd)) {
    sd <- check_spreads(sd, n, groups, "sd", call)
    return(list(sd = sd, half = rep(core_half_unit(sd[!is.na(sd)]), 2)))
  }
  if (!is.null(se)) {
    se <- check_spreads(se, n, groups, "se", call)
    return(list(sd = core_sd_from_se(se, n), half = core_sd_from_se(core_half_unit(se[!is.na(se)]), n)))
  }
  if (is.null(lower) || is.null(upper)) {
    abort_vandro(
      c(
        "The SDs of the groups are needed.",
        "i" = "Give {.arg sd}, or {.arg se}, or the limits {.arg lower} and {.arg upper} of the means'
          intervals."
      ),
      "missing_ingredient",
      call = call
    )
  }
  lower <- check_pair(lower, groups = groups, arg = "lower", call = call)
  upper <- check_pair(upper, groups = groups, arg = "upper", call = call)
  if (any(upper <= lower) || any(n < 2)) {
    abort_vandro(
      c(
        "An interval must have {.arg lower} below {.arg upper} and at least two values behind it.",
        "x" = "Limits: {lower[[1]]} to {upper[[1]]} (n = {n[[1]]}), {lower[[2]]} to {upper[[2]]} (n = {n[[2]]})."
      ),
      "bad_value",
      call = call
    )
  }
  level <- check_level(level, call = call)
  half <- core_half_unit(c(lower, upper))
  list(
    sd = core_sd_from_interval(lower, upper, n, level),
    half = core_sd_from_interval(rep(-half, 2), rep(half, 2), n, level)
  )
}

# One value has no spread: NA stands for it.
check_spreads <- function(x, n, groups, arg, call) {
  alone <- n == 1
  if (is.logical(x) && all(is.na(x))) x <- as.double(x)
  if (!is.numeric(x) || length(x) != 2) return(check_pair(x, groups = groups, arg = arg, call = call))
  given <- which(alone & !is.na(x))
  if (length(given)) {
    group <- groups[[given[[1]]]]
    found <- format_plain(x[[given[[1]]]])
    abort_vandro(
      c(
        "{.arg {arg}} must be NA for a group of one value.",
        "x" = "For {.val {group}} (n = 1) it is {found}.",
        "i" = "One value has no spread; Student's test takes that of the other group."
      ),
      "bad_value",
      arg = arg, value = x, call = call
    )
  }
  x[alone] <- 1
  x <- check_pair(x, low = 0, open = TRUE, groups = groups, arg = arg, call = call)
  x[alone] <- NA
  x
}

# One mean of pairs is that of the changes; two are those of the measurements.
check_not_of_change <- function(mean, sd, mean_change, call) {
  one <- is.numeric(mean) && length(mean) == 1
  two <- is.numeric(mean_change) && length(mean_change) == 2
  if (!one && !two) return(invisible())
  given <- if (one) mean else mean_change
  fix <- if (two) {
    sprintf("mean = c(%s)", toString(format_plain(given, digits = 15, trim = TRUE)))
  } else if (is.numeric(sd) && length(sd) == 1) {
    sprintf("mean_change = %s, sd_change = %s", format_plain(given, digits = 15), format_plain(sd, digits = 15))
  } else {
    sprintf("mean_change = %s", format_plain(given, digits = 15))
  }
  abort_vandro(
    c(
      if (one) {
        "{.arg mean} must hold the means of both measurements, first group first."
      } else {
        "{.arg mean_change} must be one number, the mean of the changes."
      },
      "x" = "It holds {length(given)} number{?s}.", "i" = "Write {.code {fix}}."
    ),
    "bad_value",
    arg = if (one) "mean" else "mean_change", call = call
  )
}

mean_of_change <- function(means, mean_change, call) {
  if (is.null(mean_change)) {
    if (!is.null(means)) return(means[[1]] - means[[2]])
    abort_vandro(
      c("The means are needed.", "i" = "Give {.arg mean} (both) or {.arg mean_change}."),
      "missing_ingredient",
      call = call
    )
  }
  mean_change <- check_number(mean_change, call = call)
  off <- if (is.null(means)) 0 else abs(means[[1]] - means[[2]] - mean_change)
  if (off <= 1e-8 * max(abs(c(means, mean_change)), 0)) return(mean_change)
  abort_vandro(
    c(
      "{.arg mean_change} must be the first mean minus the second.",
      "x" = "{means[[1]]} minus {means[[2]]} is not {mean_change}.",
      "i" = "Where rounding is the reason, give one of the two only."
    ),
    "bad_value",
    arg = "mean_change", call = call
  )
}

# SD of the changes and correlation, each from the other.
change_spread <- function(n, sds, r, sd_change, se_change, call) {
  half <- NULL
  if (!is.null(se_change)) {
    sd_change <- core_sd_from_se(check_spread(se_change, "se_change", call), n)
    half <- core_sd_from_se(core_half_unit(se_change), n)
  }
  if (!is.null(sd_change)) {
    sd_change <- check_spread(sd_change, "sd_change", call)
    ends <- sd_change + c(-1, 1) * (half %||% core_half_unit(sd_change))
    found <- if (is.null(sds)) NA_real_ else core_r_from_sds(sds, sd_change)
    if (!is.na(found) && abs(found) > 1 + 1e-12) abort_impossible_sds(sds, sd_change, call)
    return(list(sd = sd_change, r = max(-1, min(1, found)), ends = ends))
  }
  if (is.null(r) || is.null(sds)) {
    abort_vandro(
      c(
        "The SD of the changes is needed.",
        "x" = "It does not follow from the means and SDs of the two measurements: it depends on their correlation.",
        "i" = "Give {.arg sd} and the correlation {.arg r}, or {.arg sd_change}. If the groups are
          independent, use {.fn versus_summary}."
      ),
      "missing_ingredient",
      call = call
    )
  }
  r <- check_number(r, -1, 1, arg = "r", call = call)
  ends <- core_change_sd_ends(sds, r, core_half_unit(sds), core_half_unit(r))
  list(sd = core_change_sd(sds, r), r = r, ends = ends)
}

check_spread <- function(x, arg, call) {
  x <- check_number(x, arg = arg, call = call)
  if (x > 0) return(x)
  abort_vandro(
    c("{.arg {arg}} must be above 0.", "x" = "It is {x}."), "bad_value",
    arg = arg, value = x, call = call
  )
}

abort_impossible_sds <- function(sds, sd_change, call) {
  low <- format_plain(abs(sds[[1]] - sds[[2]]))
  high <- format_plain(sum(sds))
  abort_vandro(
    c(
      "The three SDs do not fit together.",
      "x" = "With SDs of {sds[[1]]} and {sds[[2]]} that of the changes lies from {low} to {high}; it is
        {sd_change}.",
      "i" = "Is one of them a variance or a standard error?"
    ),
    "bad_value",
    arg = "sd_change", call = call
  )
}

check_labels <- function(groups, call = rlang::caller_env()) {
  good <- is.character(groups) && length(groups) == 2 && !anyNA(groups) &&
    all(nzchar(groups)) && all(is_text(groups)) && groups[[1]] != groups[[2]]
  if (good) return(label_text(unname(groups)))
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
