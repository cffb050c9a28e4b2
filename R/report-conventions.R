# What a house has agreed on, once: how numbers look, which method, which level. Reports print it.

#' House conventions
#'
#' Journals, courses and research groups have rules: two decimals, no leading zero, a level, the method when nothing
#' else was declared, the level of the checks, the words for size and where they come from, the look of figures. A
#' profile says them once, for [write_report()], [run_plan()] and the command line (`--conventions`); the report prints
#' it. What a call says itself goes before the profile.
#'
#' @param name Name of the profile, printed in the report.
#' @param ... Must be empty.
#' @param style How numbers are written, from [number_style()].
#' @param level Confidence of the two-sided intervals.
#' @param alpha Significance level of decisions.
#' @param method The method where none was declared: `c(independent = "student", paired = "signed_ranks")`, or one of
#'   the two.
#' @param checks List of arguments of [vet_assumptions()]: `check_alpha`, `centre`, `spread_rule`, `spread_source`.
#' @param estimands Effect sizes that sentences, tables and reports carry: codes of [gauge_effect()], those that a study
#'   does not have left aside.
#' @param size_words,size_source Words for the size of effects, and the source of thresholds of one's own, as in
#'   [gauge_effect()].
#' @param figures List: `base_size` (points), `palette` (two colours, first group first), `font` (a family that the
#'   device knows), `grid` (`FALSE` draws no grid lines).
#' @return Conventions (class `vandro_conventions`). What is `NULL` is left to the defaults of the verbs.
#' @section Errors: `vandro_error_bad_value`; `vandro_error_no_source` for words without one.
#' @seealso [read_conventions()] for the same in a file.
#' @examples
#' house <- house_conventions(
#'   "Station handbook",
#'   style = number_style(leading_zero = TRUE), level = 0.9,
#'   method = c(independent = "student"), size_words = "cohen"
#' )
#' house
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' write_report(study, tempfile(fileext = ".md"), conventions = house)
#' @export
house_conventions <- function(name = "house conventions", ..., style = NULL, level = NULL, alpha = NULL, method = NULL,
                              checks = NULL, estimands = NULL, size_words = NULL, size_source = NULL,
                              figures = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  check_size_words(size_words, size_source, call)
  for (one in estimands) check_choice(one, names(estimand_entries), arg = "estimands", call = call)
  structure(
    list(
      name = check_text(name, null = FALSE), style = check_style(style),
      level = if (!is.null(level)) check_level(level), alpha = if (!is.null(alpha)) check_alpha(alpha),
      method = check_house_method(method, call), checks = check_house_checks(checks, call),
      estimands = estimands, size_words = size_words,
      size_source = size_source, figures = check_house_figures(figures, call)
    ),
    class = "vandro_conventions"
  )
}

check_house_method <- function(method, call) {
  if (is.null(method)) return(NULL)
  designs <- c("independent", "paired")
  if (!is.character(method) || !all(names(method) %in% designs) || is.null(names(method))) {
    abort_value(
      method, "method", "must name a method for {.val independent} or {.val paired}",
      "method = c(independent = \"student\")", call
    )
  }
  method[] <- method_codes(method)
  for (design in names(method)) {
    check_choice(method[[design]], methods_where(design = design),
      arg = "method",
      call = call
    )
  }
  method
}

check_house_checks <- function(checks, call) {
  if (is.null(checks)) return(NULL)
  check_known_names(checks, c("check_alpha", "centre", "spread_rule", "spread_source"), "checks", call)
  if (!is.null(checks$check_alpha)) check_number(checks$check_alpha, 0, 1, TRUE, arg = "check_alpha", call = call)
  if (!is.null(checks$centre)) check_choice(checks$centre, c("median", "mean"), arg = "centre", call = call)
  if (!is.null(checks$spread_rule)) check_number(checks$spread_rule, 1, Inf, arg = "spread_rule", call = call)
  check_text(checks$spread_source, arg = "spread_source", call = call)
  checks
}

check_house_figures <- function(figures, call) {
  if (is.null(figures)) return(NULL)
  check_known_names(figures, c("base_size", "palette", "font", "grid"), "figures", call)
  figure_look(figures$base_size, NULL, NULL, figures$palette, call)
  check_text(figures$font, arg = "font", call = call)
  if (!is.null(figures$grid)) check_flag(figures$grid, arg = "grid", call = call)
  figures
}

check_known_names <- function(x, known, arg, call) {
  unknown <- setdiff(names(x), known)
  if (is.list(x) && length(unknown) == 0 && length(names(x)) == length(x)) return(invisible(x))
  found <- if (length(unknown)) sprintf("It has \"%s\".", unknown[[1]]) else sprintf("It is %s.", describe_value(x))
  hint <- if (length(unknown)) suggestion(unknown[[1]], known) else suggestion("", known)
  abort_vandro(
    c("{.arg {arg}} must be a list of {.or {.val {known}}}.", "x" = "{found}", "i" = "{hint}"), "bad_value",
    arg = arg, call = call
  )
}

check_conventions <- function(conventions, call = rlang::caller_env()) {
  if (is.null(conventions) || inherits(conventions, "vandro_conventions")) return(conventions)
  found <- describe_value(conventions)
  abort_vandro(
    c(
      "{.arg conventions} must be made by {.fn house_conventions} or read by {.fn read_conventions}.",
      "x" = "It is {found}."
    ),
    "bad_value",
    arg = "conventions", call = call
  )
}

# The arguments of a verb with those the house decides where the call does not. Only what the verb has.
conventional <- function(asked, verb, study, house) {
  if (is.null(house)) return(asked)
  method <- if (!is.null(house$method)) house$method[intersect(study$design, names(house$method))]
  decided <- switch(verb,
    describe_study = house["level"],
    vet_assumptions = c(house[c("level", "alpha")], house$checks),
    gauge_effect = c(
      house["level"], list(estimands = house_estimands(house, study)),
      if (is.null(asked$size_words)) house[c("size_words", "size_source")]
    ),
    test_difference = house[c("level", "alpha")],
    test_equivalence = house["alpha"],
    weigh_evidence = house["level"],
    # Its level follows from alpha.
    cross_check = house["alpha"]
  )
  if (length(method) && verb %in% c("test_difference", "test_equivalence", "gauge_effect", "cross_check")) {
    decided$method <- method[[1]]
  }
  # Published numbers know no ranks: there the verb's own default stands.
  if (study$source == "summary" && !isTRUE(method_is(decided$method, "means"))) decided$method <- NULL
  keep_given(c(asked, decided[setdiff(names(decided), names(keep_given(asked)))]))
}

# The effect sizes of the house that the study has; NULL for the usual ones.
house_estimands <- function(house, study) {
  fitting <- intersect(house$estimands, known_here(offered_here(study), study))
  if (length(fitting)) fitting
}

# Numbers and figures of one call as the house has them; a style of the call's own goes before.
with_conventions <- function(house, style, code) with_figures(house$figures, with_style(style %||% house$style, code))

# What the house decides, in words: named texts.
convention_words <- function(house) {
  pairs <- function(x) paste(names(x), vapply(x, one_setting, ""), collapse = ", ")
  out <- list(
    numbers = if (!is.null(house$style)) style_words(house$style), level = one_setting(house$level),
    alpha = one_setting(house$alpha),
    method = if (length(house$method)) paste(names(house$method), house$method, collapse = ", "),
    checks = if (length(house$checks)) pairs(house$checks),
    "effect sizes" = if (length(house$estimands)) toString(house$estimands),
    "words for size" = if (is.numeric(house$size_words)) {
      sprintf("%s (%s)", pairs(as.list(house$size_words)), house$size_source)
    } else {
      house$size_words
    },
    figures = if (length(house$figures)) pairs(house$figures)
  )
  unlist(keep_given(out))
}

one_setting <- function(x) {
  if (is.null(x)) return(NULL)
  if (is.numeric(x)) return(paste(format_short(x), collapse = ", "))
  if (is.logical(x)) if (x) "yes" else "no" else paste(x, collapse = ", ")
}

style_words <- function(style) {
  sprintf(
    "%d decimals, p as %s with %d, leading zero %s, decimal mark %s", style$decimals, style$p_as, style$p_decimals,
    if (style$leading_zero) "always" else "left out", style$decimal_mark
  )
}

#' @rdname print.vandro_study
#' @export
format.vandro_conventions <- function(x, ..., width = cli::console_width()) {
  words <- convention_words(x)
  entries <- unlist(Map(
    function(name, text) text_entry(capital(name), text, width, label_width = 18), names(words),
    words
  ))
  c(paste("Conventions:", x$name), if (length(entries)) unname(entries) else "Nothing is decided: the defaults stand.")
}

#' @rdname print.vandro_study
#' @export
print.vandro_conventions <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}
