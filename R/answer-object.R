# What a verb found. A list of class c("vandro_<kind>", "vandro_answer") with
#   table     data frame, one row per outcome and method; columns as below
#   study     the study asked
#   settings  all that is needed to ask again: verb, arguments, package version
#   detail    what the figures and texts need beyond the table

# Columns every verb's table may have, in this order: what is compared, size and interval, test.
# A verb adds its own after `level` or at the end. NA means not applicable, never unknown.
answer_columns <- c(
  "outcome", "comparison", "method", "estimand", "estimate", "se", "lower", "upper", "level",
  "statistic", "statistic_name", "df", "p", "p_kind", "expect", "beyond", "n_first", "n_second"
)

new_answer <- function(kind, table, study, settings, detail = list()) {
  if (is.null(settings$version)) settings$version <- getNamespaceVersion("vandro")[["version"]]
  answer <- list(table = lean_table(table), study = study, settings = settings, detail = detail)
  class(answer) <- c(paste0("vandro_", kind), "vandro_answer")
  answer
}

# An answer with another table, for the verbs themselves.
with_table <- function(answer, table) {
  kind <- class(answer)
  answer <- unclass(answer)
  answer$table <- table
  structure(answer, class = kind)
}

#' @export
`$<-.vandro_answer` <- function(x, name, value) {
  if (identical(name, "table")) abort_table_fixed()
  NextMethod()
}

#' @export
`[[<-.vandro_answer` <- function(x, i, value) {
  if (identical(i, "table")) abort_table_fixed()
  NextMethod()
}

# Its sentences, figures and reports would speak of rows that are no longer there.
abort_table_fixed <- function() {
  abort_vandro(
    c(
      "The table of an answer cannot be changed.",
      "i" = "To filter or sort it, take a data frame: {.code table <- as.data.frame(answer)}."
    ),
    "answer_fixed",
    call = NULL
  )
}

# Rows of one outcome; of a difference those of the declared method, or those beside it.
outcome_rows <- function(answer, outcome, role = NULL) {
  rows <- answer$table[is_row_of(answer$table, outcome), ]
  if (is.null(role)) rows else rows[rows$role == role, ]
}

# Why there is no answer about one outcome, by the declared method where there are several; NULL where there is one.
no_result <- function(answer, outcome) {
  if (is.null(answer$table$reason)) return(NULL)
  reason <- outcome_rows(answer, outcome, if (!is.null(answer$table$role)) "primary")$reason
  if (!anyNA(reason)) reason[[1]]
}

# The outcome named, or the first one that has an answer.
pick_answered <- function(answer, name, call = rlang::caller_env()) {
  study <- answer$study
  if (is.null(name)) study$outcomes <- answered_records(answer)
  outcome <- pick_outcome(study, name, call)
  reason <- no_result(answer, outcome)
  if (is.null(reason)) return(outcome)
  abort_vandro(
    c("There is nothing to show for {.val {record_name(outcome)}}.", "x" = "{reason}"), "no_figure", call = call
  )
}

answered_records <- function(answer) {
  if (is.null(answer$table$reason)) return(answer$study$outcomes)
  Filter(function(outcome) is.null(no_result(answer, outcome)), answer$study$outcomes)
}

# What the detail called `name` holds for the declared method of one outcome.
answer_detail <- function(answer, outcome, name) {
  answer$detail[[name]][[which(is_row_of(answer$table, outcome) & answer$table$role == "primary")]]
}

# One row of a list of columns, as a list.
column_row <- function(columns, i) lapply(columns, `[[`, i)

# Rows (lists with the same names) bound to one list of columns.
bind_rows <- function(rows) {
  if (length(rows) == 1) return(rows[[1]])
  names <- names(rows[[1]])
  stats::setNames(lapply(names, function(name) {
    unlist(lapply(rows, `[[`, name), use.names = FALSE)
  }), names)
}

# Data frames one below the other; columns that only some have are empty elsewhere.
stack_tables <- function(tables) {
  columns <- unique(unlist(lapply(tables, names)))
  whole <- lapply(tables, function(table) {
    table[setdiff(columns, names(table))] <- NA
    table[columns]
  })
  do.call(rbind, whole)
}

check_answer <- function(x, call = rlang::caller_env()) {
  if (inherits(x, "vandro_answer")) return(invisible(x))
  found <- class(x)[[1]]
  abort_vandro(
    c(
      "{.arg x} must be an answer of one of the verbs.",
      "x" = "It is of type {.cls {found}}.",
      "i" = "For example {.code test_difference(study)}."
    ),
    "not_an_answer",
    call = call
  )
}

#' An answer as a data frame
#'
#' Every verb keeps its numbers, unrounded, in one table with the same column names.
#'
#' @param x An answer, for example of [test_difference()].
#' @param row.names,optional Ignored.
#' @param ... Not used.
#' @return A data frame. Columns shared by all verbs: `outcome`, `comparison` (direction in words),
#'   `method`, `estimand`, `estimate`, `se`, `lower`, `upper`, `level` (confidence of the interval),
#'   `statistic`, `statistic_name`, `df`, `p`, `p_kind` ("exact", "bracketed", "asymptotic",
#'   "simulated"), `expect`, `beyond`, `n_first`, `n_second`. `NA` means not applicable. Each verb's
#'   help page names the columns it adds. Of a study with subgroups there is `subgroup`; where one of several outcomes
#'   or subgroups has no answer (one group only, no spread) its row has `NA` and there is a column `reason` that says
#'   why, itself `NA` beside an answer.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"))
#' as.data.frame(test_difference(study))
#' @export
as.data.frame.vandro_answer <- function(x, row.names = NULL, optional = FALSE, ...) x$table

#' @exportS3Method tibble::as_tibble
as_tibble.vandro_answer <- function(x, ...) tibble::as_tibble(x$table, ...)

#' @exportS3Method tibble::as_tibble
as_tibble.vandro_study <- function(x, ...) tibble::as_tibble(as.data.frame(x), ...)
