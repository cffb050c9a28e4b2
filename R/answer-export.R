#' Export an answer as JSON or CSV
#'
#' The same columns as `as.data.frame()`, with every digit: numbers are written in the shortest form
#' that reads back as the same number.
#'
#' @param x An answer.
#' @param file File to write, or `NULL` to return the text only.
#' @param format `"json"` or `"csv"`; left out, taken from the ending of `file`.
#' @param overwrite `TRUE` replaces a file that exists.
#' @param ... Must be empty.
#' @return The text, one element per line; invisibly when a file was written.
#' @section JSON layout, version 1: An object with `layout` ("vandro-answer"), `layout_version` (1), `kind`
#'   ("description", "assumptions", "difference", "subgroups", "equivalence", "bounds", "cross_check", "comparison",
#'   "effect", "evidence", "priors", "rehearsal", "audit"), `study` (`design`, `source`, `comparison`, `groups`, `unit`
#'   and `label` of each outcome, and its `subgroup` where there are some, `claim`, `assigned`, `left_out`, `notes`,
#'   `fingerprint`), `settings` (the arguments and the package's version) and `table` (an array with one object per
#'   row). Not applicable is `null`. The answers of several files ([vandro_command()]) are one object with `layout`
#'   ("vandro-answers"), `layout_version` (1) and `answers` (an array of objects with `file` and `answer`). Other
#'   tables have `layout` "vandro-rows", `kind` ("results", "columns", "differences") and `rows`. JSON Schemas of all
#'   layouts are in `system.file("schema", package = "vandro")`.
#' @section CSV: One header line, comma, decimal point; not applicable is an empty cell. Text that a spreadsheet
#'   would run as a formula (it begins with `=`, `+`, `-` or `@` and is no number) has an apostrophe in front.
#' @section Errors: `vandro_error_file_exists`, `vandro_error_file_is_input` (the file was read in this session),
#'   `vandro_error_output`, `vandro_error_bad_value`.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"))
#' cat(export_answer(test_difference(study), format = "csv"), sep = "\n")
#' @export
export_answer <- function(x, file = NULL, format = NULL, ..., overwrite = FALSE) {
  check_supplied(x)
  refuse_more(...)
  check_answer(x)
  check_flag(overwrite)
  check_text(file)
  if (is.null(format)) {
    format <- if (is.null(file)) "json" else tolower(sub("^.*[.]", "", basename(file)))
  }
  format <- check_choice(format, c("json", "csv"))
  if (!is.null(file)) file <- check_output_path(file, overwrite)
  text <- if (format == "json") answer_json(x) else table_csv(x$table)
  if (is.null(file)) return(text)
  write_whole_text(file, text)
  invisible(text)
}

table_csv <- function(table) {
  cells <- lapply(table, function(column) {
    text <- if (is.numeric(column)) exact_number(column) else csv_quote(column)
    ifelse(is.na(column), "", text)
  })
  c(
    paste(csv_quote(names(table)), collapse = ","),
    do.call(paste, c(unname(cells), sep = ","))
  )
}

csv_quote <- function(x) {
  x <- as.character(x)
  # What a spreadsheet would run as a formula is text to it with an apostrophe in front.
  runs <- grepl("^[\t\r\n ]*[-=+@]", x) & !grepl("^[-+]?[0-9.]+([eE][-+]?[0-9]+)?$", x)
  x[runs] <- paste0("'", x[runs])
  needs <- grepl("[\",\r\n]|^\\s|\\s$", x)
  x[needs] <- paste0("\"", gsub("\"", "\"\"", x[needs], fixed = TRUE), "\"")
  x
}

answer_json <- function(x) {
  need_package("jsonlite", "to write JSON")
  json_lines(answer_layout(x))
}

# Of several files: list of answers by file.
answers_json <- function(answers) {
  need_package("jsonlite", "to write JSON")
  json_lines(list(
    layout = "vandro-answers", layout_version = 1L,
    answers = lapply(names(answers), function(file) list(file = file, answer = answer_layout(answers[[file]])))
  ))
}

answer_layout <- function(x) {
  study <- x$study
  list(
    layout = "vandro-answer", layout_version = 1L, kind = sub("^vandro_", "", class(x)[[1]]),
    study = list(
      design = study$design, source = study$source, comparison = study_direction(study),
      groups = I(study$groups),
      outcomes = lapply(study$outcomes, function(o) {
        c(list(name = o$name, label = o$label, unit = o$unit), if (!is.null(o$subgroup)) list(subgroup = o$subgroup))
      }),
      claim = study$claim, assigned = study$assigned, left_out = json_rows(study$left_out), notes = I(study$notes),
      fingerprint = study_fingerprint(study)
    ),
    settings = lapply(x$settings, json_value), table = json_rows(x$table)
  )
}

json_lines <- function(layout) {
  text <- jsonlite::toJSON(
    layout,
    auto_unbox = TRUE, null = "null", na = "null", json_verbatim = TRUE, pretty = 2
  )
  strsplit(enc2utf8(as.character(text)), "\n", fixed = TRUE)[[1]]
}

# The rows of a table that belongs to no single answer; `kind` says of what.
table_json <- function(table, kind) {
  need_package("jsonlite", "to write JSON")
  json_lines(list(layout = "vandro-rows", layout_version = 1L, kind = kind, rows = json_rows(table)))
}

json_rows <- function(table) {
  if (is.null(table)) return(list())
  lapply(seq_len(nrow(table)), function(row) lapply(table, function(column) json_value(column[[row]])))
}

# Numbers go in as text that is already JSON, so that no digit is lost; NULL for not applicable.
json_value <- function(x) {
  if (is.list(x) || !is.null(names(x))) return(lapply(as.list(x), json_value))
  if (length(x) == 1 && is.na(x)) return(NULL)
  if (is.double(x)) {
    text <- exact_number(x)
    if (length(x) != 1) text <- paste0("[", paste(text, collapse = ","), "]")
    return(structure(text, class = "json"))
  }
  x
}
