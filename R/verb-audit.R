#' Do printed numbers fit together?
#'
#' Recomputes what can be recomputed from the numbers of a paper or a table, in any combination, tells for each number
#' which values the others allow, given that all of them are rounded, and names the number that does not fit.
#'
#' @param data A data frame with one comparison in each row and columns named as the arguments here: `n_first`,
#'   `n_second`, `mean_first`, `mean_second`, `sd_first`, `sd_second`, `se_first`, `se_second`, `r`, `sd_change`,
#'   `difference`, `se_difference`, `t`, `df`, `p`, `lower`, `upper`, `d`, and `outcome` for its name. Other columns
#'   are named in a message. Left out for one comparison.
#' @param n,mean,sd,se Sizes, means, standard deviations, and standard errors of the means, of both groups (of pairs
#'   `n` is one number). Text keeps zeros at the end: `sd = c("3.90", "3.2")`.
#' @param r,sd_change Of pairs: correlation, and SD of the changes.
#' @param difference,se_difference First mean minus second (of pairs the mean change), and its standard error.
#' @param t,df,p Test statistic, degrees of freedom, and p, which may be an inequality: `"<.001"`.
#' @param lower,upper Limits of the interval of the difference at `level`.
#' @param d A standardized effect; which, `estimand` says.
#' @param ... Must be empty.
#' @param paired `TRUE` for pairs; taken from `r` or `sd_change` where these are given.
#' @param method `"welch"` or `"student"`. Left out: the one that fits.
#' @param estimand What `d` is: a code of [gauge_effect()] that divides by an SD. Left out: the one that fits.
#' @param level Confidence of the interval.
#' @param expect,beyond The question that p belongs to, as in [test_difference()].
#' @param step,limits What single measurements can be, where that is known: multiples of `step` (1: whole numbers),
#'   between `limits`, the ends of the scale. A mean of k items, each a whole number, has the step 1/k. Every printed
#'   mean and SD is then held against what n such values can have.
#' @param rounding `"nearest"`, or `"any"`: numbers may have been cut off as well.
#' @param groups,unit,label Labels of the groups, unit and label of the outcome.
#' @return An answer (classes `vandro_audit`, `vandro_answer`); its table has one row for each printed number, with
#'   `outcome`, `comparison`, `method`, `quantity`, `printed` (as it was given), `possible_from` and `possible_to`
#'   (what the other numbers allow the unrounded one to be; infinite at an open end, missing where they do not tell),
#'   `fits`, and `hint`: what would make it fit, where that is a common slip.
#'
#'   `detail$kind` has, per comparison, `"none"` off, `"one"`, `"one_of"` (one number is off, but which of those with
#'   `fits` `FALSE` the others do not tell), `"several"` (taken in the order n, means, SDs, difference, df, t,
#'   limits, p, d, these contradict the ones before), or `"impossible"`: the numbers fit each other, but no n multiples
#'   of `step` have them. `detail$impossible` says, per comparison, which means and SDs these are.
#' @section Formula: A printed number stands for all that round to it. Intervals of all numbers are narrowed by every
#'   equation between them until nothing moves (interval propagation, Davis 1987): \eqn{se = s / \sqrt n}{se = s /
#'   sqrt(n)}; standard error and degrees of freedom of Student, Welch or pairs; \eqn{t = (\bar x_1 - \bar x_2 -
#'   \code{beyond}) / se}{t = (m1 - m2 - beyond) / se}; p from t and df; limits \eqn{\bar x_1 - \bar x_2 \mp t_{df}
#'   se}{m1 - m2 -+ t(df) se}; d from the difference and its standardizer, or from t. A number is off if the others
#'   contradict each other no longer without it. The ranges hold every possible value; where a number enters several
#'   equations they may be a little wide.
#'
#'   With `step` s, n values have a sum that is a multiple of s, so that a possible mean is a multiple of s/n. In units
#'   of s the sum of squares is a whole number, even or odd as the sum S is, at least \eqn{S^2/n}{S^2 / n}, and at most
#'   that of values of which all but one lie at the ends of the scale; an SD is possible where such a number lies in the
#'   range that rounds to it. Up to 120 steps in all (n times the width of the scale) every possible sum of squares is
#'   listed.
#' @section Errors: `vandro_error_bad_value` for what is no number, naming it; `vandro_error_missing_ingredient` with
#'   fewer than two numbers; `vandro_error_contradiction`.
#' @section Where it holds: Ranges never miss a possible value; how the numbers behind them are checked:
#'   `vignette("validation", package = "vandro")`.
#' @references Davis, E. (1987). Constraint propagation with interval labels. *Artificial Intelligence* 32, 281-331.
#' @examples
#' audit_numbers(
#'   n = c(18, 20), mean = c("22.1", "19.8"), sd = c("3.9", "3.2"), t = "2.00", df = "36",
#'   p = ".13", d = "0.65",
#'   groups = c("compost", "peat"), unit = "cm", label = "Stem height"
#' )
#' audit_numbers(t = "2.10", df = "30", p = "<.05")
#' @export
audit_numbers <- function(data = NULL, ..., n = NULL, mean = NULL, sd = NULL, se = NULL, r = NULL, sd_change = NULL,
                          difference = NULL, se_difference = NULL, t = NULL, df = NULL, p = NULL, lower = NULL,
                          upper = NULL, d = NULL, paired = FALSE, method = NULL, estimand = NULL, level = 0.95,
                          expect = "either", beyond = 0, step = NULL, limits = NULL, rounding = c("nearest", "any"),
                          groups = c("first", "second"), unit = NULL, label = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  given <- keep_given(list(
    n = n, mean = mean, sd = sd, se = se, r = r, sd_change = sd_change, difference = difference,
    se_difference = se_difference, t = t, df = df, p = p, lower = lower, upper = upper, d = d
  ))
  asked <- list(
    paired = check_flag(paired),
    method = if (!is.null(method)) check_choice(method_codes(method), audited_methods(), "method"),
    estimand = if (!is.null(estimand)) check_choice(estimand, estimands_where(audited = c("independent", "paired"))),
    level = check_level(level), expect = check_choice(expect, directions), beyond = check_number(beyond),
    step = check_step(step, limits, call), limits = check_limits(limits, call),
    rounding = check_choice(rounding, c("nearest", "any"))
  )
  label <- check_text(label)
  lines <- if (is.null(data)) audit_line(given, label, call) else audit_lines(data, given, call)
  study <- audited_study(lines, asked, check_labels(groups), check_text(unit))
  asked$paired <- is_paired(study)
  found <- unname(Map(audit_one, lines, study$outcomes, MoreArgs = list(study = study, asked = asked, call = call)))
  new_answer(
    "audit", bind_rows(lapply(found, `[[`, "row")), study,
    settings = c(list(verb = "audit_numbers"), asked),
    detail = list(
      kind = vapply(found, `[[`, "", "kind"), estimand = vapply(found, `[[`, "", "estimand"),
      methods = lapply(found, `[[`, "methods"), printed = lapply(found, `[[`, "printed"),
      impossible = lapply(found, `[[`, "impossible")
    )
  )
}

# Tests of groups that n, mean and SD suffice for: what a printed t may be.
audited_methods <- function() methods_where(design = "independent", summaries = TRUE)

check_step <- function(step, limits, call) {
  if (is.null(step)) {
    if (is.null(limits)) return(NULL)
    abort_vandro(
      c(
        "{.arg limits} need {.arg step}: the smallest step of a single measurement.",
        "i" = "{.code step = 1} for whole numbers."
      ),
      "contradiction",
      call = call
    )
  }
  step <- check_number(step, call = call)
  if (step > 0) return(step)
  abort_vandro(
    c("{.arg step} must be above 0.", "x" = "It is {step}.", "i" = "{.code step = 1} for whole numbers."), "bad_value",
    arg = "step", call = call
  )
}

# --- what was printed --------------------------------------------------------------------------------

audit_line <- function(given, label, call) {
  both <- c("n", "mean", "sd", "se")
  line <- list()
  for (name in names(given)) {
    value <- given[[name]]
    single <- !name %in% both || (name == "n" && length(value) == 1)
    if (!is.atomic(value) || length(value) != if (single) 1 else 2) {
      found <- describe_value(value)
      abort_vandro(
        c(
          "{.arg {name}} must be {if (single) 'one number' else 'two numbers, first group first'}.",
          "x" = "It is {found}.",
          "i" = "Several comparisons go in rows of {.arg data}."
        ),
        "bad_value",
        arg = name, call = call
      )
    }
    into <- if (name == "n" && single) "n_first" else if (name %in% both) paste0(name, c("_first", "_second")) else name
    # Numbers of one argument are written with as many decimals.
    line[into] <- as.list(printed_text(value))
  }
  stats::setNames(list(line), label %||% "the printed numbers")
}

# Numbers as text with the fewest decimals that tell them all.
written_alike <- function(x) {
  half <- core_half_unit(x[is.finite(x)])
  decimals <- if (half > 0) round(-log10(2 * half)) else 15
  out <- if (half > 0) sprintf("%.*f", as.integer(decimals), x) else format_plain(x, digits = 15, trim = TRUE)
  out[is.na(x)] <- NA
  out
}

audit_lines <- function(data, given, call) {
  if (!is.data.frame(data) || nrow(data) == 0) {
    found <- if (is.data.frame(data)) "a data frame without rows" else describe_value(data)
    abort_vandro(
      c("{.arg data} must be a data frame with a comparison in each row.", "x" = "It is {found}."), "bad_value",
      arg = "data", call = call
    )
  }
  if (length(given)) {
    abort_vandro(
      c(
        "Give the numbers in {.arg data} or as arguments, not both.", "x" = "Also given: {.arg {names(given)}}."
      ),
      "contradiction",
      call = call
    )
  }
  known <- intersect(core_audit_trust, names(data))
  other <- setdiff(names(data), c(known, "outcome"))
  if (length(other)) inform_vandro(c("i" = "Not used: column{?s} {.val {other}}."), "columns", columns = other)
  text <- lapply(data[known], printed_text)
  lines <- lapply(seq_len(nrow(data)), function(i) {
    line <- lapply(text, `[[`, i)
    line[!vapply(line, function(x) is.na(x) || !nzchar(trimws(x)), NA)]
  })
  labels <- if (is.null(data$outcome)) paste("row", seq_along(lines)) else as.character(data$outcome)
  stats::setNames(lines, make.unique(labels, " "))
}

# Bytes that are no text are shown as bytes, for the error that follows.
printed_text <- function(x) {
  x <- unlabelled(x)
  if (is.numeric(x)) written_alike(x) else iconv(enc2utf8(as.character(x)), "UTF-8", "UTF-8", sub = "byte")
}

# "22.10", "<.001", "-1.2e-5" -> the numbers that are printed so.
audit_read <- function(text, name, rounding, call) {
  plain <- gsub("\u2212", "-", gsub("[[:space:]]", "", enc2utf8(text)), fixed = TRUE)
  sign <- sub("^([<>=]?).*$", "\\1", plain)
  number <- sub("^[<>=]", "", plain)
  is_number <- grepl("^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$", number)
  if (!is_number || (sign %in% c("<", ">") && name != "p")) {
    abort_vandro(
      c(
        "{.arg {name}} must be a number as it is printed.", "x" = "It is {.val {text}}.",
        "i" = "For example \"22.10\"; p may be an inequality, \"<.001\"."
      ),
      "bad_value",
      arg = name, value = text, call = call
    )
  }
  value <- as.numeric(number)
  power <- if (grepl("[eE]", number)) as.numeric(sub("^.*[eE]", "", number)) else 0
  fraction <- sub("[eE].*$", "", number)
  decimals <- if (grepl(".", fraction, fixed = TRUE)) nchar(sub("^.*[.]", "", fraction)) else 0
  unit <- 10^(power - decimals)
  range <- value + c(-1, 1) * unit * if (rounding == "any") 1 else 0.5
  if (name %in% c("n_first", "n_second")) range <- c(value, value)
  if (sign == "<") range <- c(0, value)
  if (sign == ">") range <- c(value, 1)
  list(
    text = text, value = value, unit = unit, decimals = max(0, decimals - power), inequality = sign %in% c("<", ">"),
    range = check_printed(range, value, name, text, call)
  )
}

# Within what such a number can be at all.
check_printed <- function(range, value, name, text, call) {
  limits <- core_audit_limits(name)
  wrong <- value < limits[[1]] || value > limits[[2]] || (name %in% c("n_first", "n_second") && value != round(value))
  if (!wrong) return(c(max(range[[1]], limits[[1]]), min(range[[2]], limits[[2]])))
  abort_vandro(
    c("{.arg {name}} cannot be {.val {text}}.", "i" = switch(name,
      n_first = , n_second = "Sizes are whole numbers of at least 2.", df = "Degrees of freedom are at least 1.",
      p = "p lies between 0 and 1.",
      r = "A correlation lies between -1 and 1.", "It cannot be negative."
    )),
    "bad_value",
    arg = name, value = text, call = call
  )
}

# A study without data, for direction, unit and labels.
audited_study <- function(lines, asked, groups, unit) {
  paired <- asked$paired || any(c("r", "sd_change") %in% unlist(lapply(lines, names)))
  number <- function(line, name) {
    text <- line[[name]]
    if (is.null(text)) NA_real_ else text_number(text)
  }
  records <- Map(function(line, label) {
    moments <- lapply(c("first", "second", if (paired) "change"), function(side) {
      known <- core_unknown_moments(number(line, if (side == "second" && !paired) "n_second" else "n_first"))
      known$mean <- known$base <- number(line, if (side == "change") "difference" else paste0("mean_", side))
      known$sd <- number(line, paste0("sd_", side))
      known
    })
    new_outcome(label, label, unit, moments, list(kind = "printed"))
  }, lines, names(lines))
  new_study(if (paired) "paired" else "independent", "printed", groups, unname(records), left_out = NULL)
}

# --- one comparison ----------------------------------------------------------------------------------

audit_one <- function(line, outcome, study, asked, call) {
  if (length(line) < 2) {
    abort_vandro(
      c(
        "At least two numbers are needed to see whether they fit.", "x" = "{.val {outcome$label}} has {length(line)}."
      ),
      "missing_ingredient",
      call = call
    )
  }
  printed <- Map(audit_read, line, names(line), MoreArgs = list(rounding = asked$rounding, call = call))
  ranges <- lapply(printed, `[[`, "range")
  ways <- audit_ways(asked, study, "d" %in% names(line))
  rules <- lapply(ways, function(way) {
    core_audit_rules(is_paired(study), way$method, way$estimand, asked$level, asked$expect, asked$beyond)
  })
  # The reading with the fewest contradictions, of equals the first.
  off <- vapply(rules, function(rules) length(core_audit_later(ranges, rules)), 0L)
  best <- which.min(off)
  found <- core_audit(ranges, rules[[best]])
  way <- ways[[best]]
  hints <- mapply(
    audit_hint, printed, names(printed), found$fits, found$from, found$to,
    MoreArgs = list(printed = printed, paired = is_paired(study))
  )
  count <- length(line)
  impossible <- impossible_numbers(printed, study, asked)
  fits <- unname(found$fits)
  fits[names(line) %in% vapply(impossible, `[[`, "", "name")] <- FALSE
  list(
    row = list(
      outcome = rep(outcome$name, count), comparison = rep(study_direction(study), count),
      method = rep(way$method, count), quantity = names(line),
      printed = vapply(printed, `[[`, "", "text", USE.NAMES = FALSE), possible_from = unname(found$from),
      possible_to = unname(found$to),
      fits = fits, hint = unname(hints)
    ),
    kind = if (found$kind == "none" && length(impossible)) "impossible" else found$kind,
    impossible = impossible, estimand = if ("d" %in% names(line)) way$estimand else NA_character_,
    # Both tests where the numbers do not tell them apart.
    methods = unique(vapply(ways[off == off[[best]]], `[[`, "", "method")), printed = printed
  )
}

# Printed means, or SDs beside them, that no n multiples of the step have, by the name of the number: n and the numbers
# as printed, and the possible means beside it.
impossible_numbers <- function(printed, study, asked) {
  if (is.null(asked$step)) return(NULL)
  found <- lapply(c("first", "second"), function(side) {
    n <- printed[[if (is_paired(study)) "n_first" else paste0("n_", side)]]
    mean <- printed[[paste0("mean_", side)]]
    sd <- printed[[paste0("sd_", side)]]
    if (is.null(n) || is.null(mean)) return(NULL)
    fit <- core_step_audit(n$value, mean$range, sd$range, asked$step, asked$limits)
    if (fit$mean && !isFALSE(fit$sd)) return(NULL)
    list(
      name = paste0(if (fit$mean) "sd_" else "mean_", side), group = study$groups[[if (side == "first") 1 else 2]],
      n = n$text, mean = mean$text, sd = if (fit$mean) sd$text, beside = fit$beside, decimals = mean$decimals + 1
    )
  })
  Filter(Negate(is.null), found)
}

# The readings that are tried, in this order.
audit_ways <- function(asked, study, effect) {
  methods <- (if (!is_paired(study)) asked$method) %||% methods_where(design = study$design, summaries = TRUE)
  estimands <- asked$estimand %||% estimands_where(audited = study$design)
  if (!effect) estimands <- estimands[[1]]
  unlist(lapply(estimands, function(estimand) {
    lapply(methods, function(method) list(method = method, estimand = estimand))
  }), recursive = FALSE)
}

# What would make a number fit, where that is a common slip.
audit_hint <- function(one, name, fits, from, to, printed, paired) {
  if (!isFALSE(fits) || is.na(from) || one$inequality) return(NA_character_)
  inside <- function(slip) slip[[1]] + slip[[2]] >= from && slip[[1]] - slip[[2]] <= to
  side <- sub("^.*_", "", name)
  # Pairs have one n.
  n <- printed[[if (paired) "n_first" else paste0("n_", side)]]$value
  hit <- Filter(inside, audit_slips(one, name, n))
  if (length(hit)) names(hit)[[1]] else NA_character_
}

# What the number may have been meant to be: value and half a unit.
audit_slips <- function(one, name, n) {
  x <- one$value
  half <- one$unit / 2
  scaled <- function(by) c(by * x, by * half)
  root <- if (is.null(n)) NULL else sqrt(n)
  signed <- name %in% c("t", "difference", "d", "lower", "upper", "mean_first", "mean_second")
  own <- switch(sub("_(first|second|change)$", "", name),
    p = list("as a one-sided p" = scaled(2), "as a two-sided p" = scaled(0.5)),
    sd = c(
      if (!is.null(root)) list("as a standard error" = scaled(root)),
      if (x > 0) list("as a variance" = c(sqrt(x), half / (2 * sqrt(x))))
    ),
    se = if (!is.null(root)) list("as a standard deviation" = scaled(1 / root))
  )
  swaps <- audit_swaps(one$text)
  swapped <- lapply(swaps, function(text) c(as.numeric(text), half))
  c(
    if (signed) list("with the opposite sign" = c(-x, half)),
    list(
      "with the decimal point one place to the right" = scaled(10),
      "with the decimal point one place to the left" = scaled(0.1)
    ),
    own, list("cut off rather than rounded" = c(x + sign(x) * half, half)),
    stats::setNames(swapped, sprintf("with two digits swapped (%s)", swaps))
  )
}

# The number with two neighbouring digits changed about, in every way.
audit_swaps <- function(text) {
  characters <- strsplit(text, "")[[1]]
  digits <- which(grepl("[0-9]", characters))
  if (length(digits) < 2) return(character())
  out <- vapply(seq_len(length(digits) - 1), function(i) {
    moved <- characters
    moved[digits[c(i, i + 1)]] <- characters[digits[c(i + 1, i)]]
    paste(moved, collapse = "")
  }, "")
  setdiff(out, text)
}
