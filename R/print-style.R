# How numbers are written, chosen once for a text, a table or a report.

#' The style of numbers in a text
#'
#' Journals and languages differ in how numbers are written. A style says it once, for [narrate()], [results_table()]
#' and [write_report()]. It changes how numbers look and never which numbers they are; files of full precision
#' ([export_answer()], CSV) know no style.
#'
#' @param decimals Decimals of numbers without a unit: t, standardized effects, correlations, chances.
#' @param p_decimals Decimals of p; more are printed where p would otherwise land on the other side of alpha.
#' @param p_as `"value"`: p as a number, as an inequality only where it is smaller than can be printed.
#'   `"inequality"`: p against the nearest of .05, .01, .001 and alpha.
#' @param leading_zero `TRUE` writes 0.05 where a number cannot exceed 1; `FALSE` writes .05. Other numbers always have
#'   their zero.
#' @param decimal_mark `"."` or `","`. With a comma the limits of an interval are parted by a semicolon.
#' @return A style (class `vandro_style`). The defaults are the rules of the American Psychological Association (2020,
#'   sections 6.36 and 6.43).
#' @section Errors: `vandro_error_bad_value`.
#' @references American Psychological Association (2020). *Publication manual*, 7th ed.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' narrate(study, style = number_style(leading_zero = TRUE, decimal_mark = ","))
#' results_table(study, style = number_style(p_as = "inequality", decimals = 1))
#' @export
number_style <- function(decimals = 2, p_decimals = 3, p_as = c("value", "inequality"), leading_zero = FALSE,
                         decimal_mark = c(".", ",")) {
  structure(
    list(
      decimals = as.integer(check_whole(decimals, 0, 10)), p_decimals = as.integer(check_whole(p_decimals, 1, 10)),
      p_as = check_choice(p_as, c("value", "inequality")), leading_zero = check_flag(leading_zero),
      decimal_mark = check_choice(decimal_mark, c(".", ","))
    ),
    class = "vandro_style"
  )
}

#' @rdname print.vandro_study
#' @export
format.vandro_style <- function(x, ..., width = cli::console_width()) {
  c(
    "Style of numbers", text_entry("Decimals", sprintf("%d; of p %d", x$decimals, x$p_decimals), width),
    text_entry("p", if (x$p_as == "value") "as a value" else "as an inequality", width),
    text_entry("Example", with_style(x, sprintf(
      "%s CI [%s%s %s], %s", format_percent(0.95), format_number(0.1234, x$decimals), limit_separator(),
      format_number(1.2345, x$decimals), format_p(0.0123, alpha = 0.05)
    )), width)
  )
}

#' @rdname print.vandro_study
#' @export
print.vandro_style <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

check_style <- function(style, call = rlang::caller_env()) {
  if (is.null(style) || inherits(style, "vandro_style")) return(style)
  abort_value(style, "style", "must be a style of numbers", "style = number_style(decimal_mark = \",\")", call)
}

# The style in force, for the time of one call: every rounding asks it. A house's look of figures stands beside it
# (with_figures()).
in_force <- new.env(parent = emptyenv())
in_force$style <- list(decimals = 2L, p_decimals = 3L, p_as = "value", leading_zero = FALSE, decimal_mark = ".")

with_style <- function(style, code) {
  if (!is.null(style)) {
    before <- in_force$style
    on.exit(in_force$style <- before)
    in_force$style <- style
  }
  force(code)
}

style_rule <- function(what) in_force$style[[what]]

point_to_mark <- function(text) {
  if (style_rule("decimal_mark") == ".") text else sub(".", ",", text, fixed = TRUE)
}

# "[1.89, 5.02]", "[1,89; 5,02]".
limit_separator <- function() if (style_rule("decimal_mark") == ",") ";" else ","
