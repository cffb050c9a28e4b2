#' Print a study or an answer
#'
#' `format()` makes the lines, `print()` shows them. Numbers are rounded here only.
#'
#' @param x,object A study, or an answer of a verb.
#' @param ... Not used.
#' @param digits Decimals of numbers in the outcome's unit; by default as many as show the smaller
#'   standard deviation with three digits.
#' @param width Width of the lines.
#' @return `format()`: a character vector, one element per line. `print()`: `x`, invisibly.
#'   `summary()`: the study or answer itself, whose printed form is its summary.
#' @name print.vandro_study
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' print(describe_study(study), digits = 1)
NULL

#' @rdname print.vandro_study
#' @export
format.vandro_study <- function(x, ..., width = cli::console_width()) {
  unlist(lapply(x$outcomes, function(outcome) {
    cells <- list(group = x$groups, n = format_count(outcome_sizes(outcome)))
    if (x$source == "summary") {
      decimals <- outcome_decimals(outcome)
      cells$mean <- format_number(vapply(outcome$moments, `[[`, 0, "mean"), decimals)
      cells$SD <- format_number(vapply(outcome$moments, `[[`, 0, "sd"), decimals)
    }
    c(
      heading_line(paste("Study:", outcome_title(outcome)), study_direction(x)),
      text_table(cells),
      text_entry("Design", design_words(x), width),
      text_entry("Left out", left_out_words(x, outcome), width)
    )
  }))
}

#' @rdname print.vandro_study
#' @export
print.vandro_study <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @rdname print.vandro_study
#' @export
summary.vandro_study <- function(object, ...) object

design_words <- function(study) {
  from <- if (study$source == "summary") "from published n, mean and SD" else "from measurements"
  paste("two independent groups,", from)
}

# "2 rows of compost without a value; 1 row of peat without a value; no row without a group"
left_out_words <- function(study, outcome) {
  if (is.null(study$left_out)) return("not known: the published numbers do not say")
  left <- study$left_out[study$left_out$outcome == outcome$name, ]
  rows <- function(n) if (n == 1) "1 row" else paste(format_count(n), "rows")
  missing <- left[left$reason == "outcome missing", ]
  others <- left[left$reason == "other group", ]
  no_group <- left$n[left$reason == "group missing"]
  words <- c(
    if (any(missing$n > 0)) {
      sprintf("%s of %s without a value", vapply(missing$n, rows, ""), missing$group)[missing$n > 0]
    },
    if (no_group > 0) sprintf("%s without a group", rows(no_group)),
    if (nrow(others)) sprintf("%s of %s, not compared", vapply(others$n, rows, ""), others$group)
  )
  if (length(words) == 0) "nothing (no missing values, no other groups)" else paste(words, collapse = "; ")
}
