# Two runs side by side: what differs in the set-up, the data and the numbers.

#' Compare two runs
#'
#' What differs between two runs: fields of the set-up, the files the data came from, and the numbers of every answer
#' that both have. Next month's run beside this month's; one field changed, and what followed from it.
#'
#' @param first,second Runs of [run_plan()], or folders that one wrote.
#' @param ... Must be empty.
#' @return A comparison (class `vandro_runs_compared`); `as.data.frame()` has one row per difference: `part` ("set-up",
#'   "data", "version", "numbers"), `study`, `question`, `item` (the field, or outcome, method and column), `first`,
#'   `second` (text; numbers in full precision; `NA` where one run has no such item).
#' @section Errors: `vandro_error_file` for a folder without the results of a run, `vandro_error_bad_value`.
#' @seealso [compare_answers()] for single answers.
#' @examples
#' plan <- system.file("examples", "plan.yaml", package = "vandro")
#' first <- run_plan(plan, quiet = TRUE)
#' compare_runs(first, run_plan(plan, instead = c(probes.equivalence.within = "0.3"), quiet = TRUE))
#' @export
compare_runs <- function(first, second, ...) {
  check_supplied(first)
  check_supplied(second)
  refuse_more(...)
  first <- run_results(first)
  second <- run_results(second)
  table <- rbind(
    different_fields("set-up", unlist(first$plan$record), unlist(second$plan$record)),
    different_fields("data", data_prints(first), data_prints(second)),
    different_fields("version", c(vandro = first$version), c(vandro = second$version)),
    different_numbers(first$answers, second$answers)
  )
  structure(list(table = table, dates = c(first$date, second$date)), class = "vandro_runs_compared")
}

# What results.json holds, of a run or of its folder.
run_results <- function(x, arg = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (inherits(x, "vandro_run")) return(parse_results(run_json(x), "the run", call))
  if (!is.character(x) || length(x) != 1 || is.na(x)) {
    found <- describe_value(x)
    abort_vandro(
      c("A run, or the folder of one, is needed.", "x" = "It is {found}."), "bad_value",
      arg = arg, call = call
    )
  }
  file <- if (dir.exists(x)) file.path(x, "results.json") else x
  if (!file.exists(file)) {
    abort_vandro(
      c("{.file {x}} holds no results of a run.", "i" = "A run writes {.file results.json} into its folder."), "file",
      file = x, call = call
    )
  }
  parse_results(readLines(file, encoding = "UTF-8", warn = FALSE), file, call)
}

parse_results <- function(lines, file, call) {
  need_package("jsonlite", "to read results", call)
  # Numbers were written so that they read back as the same.
  found <- tryCatch(
    jsonlite::fromJSON(paste(lines, collapse = "\n"), simplifyVector = FALSE),
    error = function(e) NULL
  )
  if (identical(found$layout, "vandro-run") && identical(found$layout_version, 1L)) return(found)
  abort_vandro(
    c("{.file {file}} does not hold the results of a run (layout 1)."), "file",
    file = file, call = call
  )
}

data_prints <- function(run) {
  unlist(lapply(run$data, function(one) stats::setNames(one$fingerprint, one$name)))
}

compared_row <- function(part, study, question, item, first, second) {
  data.frame(
    part = rep(part, length(item)), study = study, question = question, item = item, first = first, second = second
  )
}

no_rows <- function() compared_row("", character(), character(), character(), character(), character())

different_fields <- function(part, first, second) {
  found <- record_differences(first %||% character(), second %||% character())
  if (nrow(found) == 0) return(no_rows())
  place <- strsplit(found$field, ".", fixed = TRUE)
  pick <- function(at) vapply(place, function(words) if (length(words) > at) words[[at]] else "", "")
  question <- ifelse(pick(2) %in% names(plan_verbs), pick(2), "")
  compared_row(part, if (part == "set-up") pick(1) else "", question, found$field, found$first, found$second)
}

# Rows of tables are the same where what they are about is (`row_names_of`); what differs is their numbers.
different_numbers <- function(first, second) {
  first <- numbers_by_name(first)
  second <- numbers_by_name(second)
  items <- union(names(first), names(second))
  same <- vapply(items, function(item) identical(first[[item]]$value, second[[item]]$value), NA)
  rows <- lapply(items[!same], function(item) {
    one <- first[[item]]
    two <- second[[item]]
    either <- one %||% two
    compared_row(
      "numbers", either$study, either$question, either$item, one$value %||% NA_character_, two$value %||% NA_character_
    )
  })
  do.call(rbind, c(list(no_rows()), rows))
}

row_names_of <- c("outcome", "group", "quantity", "check", "set", "method", "estimand")

numbers_by_name <- function(answers) {
  found <- unlist(lapply(answers, function(one) {
    unlist(lapply(one$answer$table, function(row) {
      label <- paste(unlist(row[intersect(row_names_of, names(row))]), collapse = ", ")
      numbers <- row[vapply(row, is.numeric, NA)]
      verdict <- row[intersect(c("verdict", "reading"), names(row))]
      values <- c(lapply(numbers, exact_number), keep_given(verdict))
      lapply(names(values), function(column) {
        list(
          study = one$study, question = one$question, item = paste0(label, ": ", column), value = values[[column]]
        )
      })
    }), recursive = FALSE)
  }), recursive = FALSE)
  keys <- vapply(found, function(x) paste(x$study, x$question, x$item, sep = "\r"), "")
  stats::setNames(found, make.unique(keys, "\r"))
}

#' @rdname print.vandro_study
#' @export
format.vandro_runs_compared <- function(x, ..., width = cli::console_width()) {
  table <- x$table
  lead <- sprintf("Two runs, of %s and %s", x$dates[[1]], x$dates[[2]])
  if (nrow(table) == 0) return(c(lead, "Nothing differs: set-up, data and numbers are the same."))
  part <- function(name, heading) {
    rows <- table[table$part == name, ]
    if (nrow(rows)) c("", heading, wrapped_lines(paste(rows$item, change_arrow(rows), sep = ": "), width))
  }
  numbers <- table[table$part == "numbers", ]
  c(
    lead, part("set-up", "Set-up"), part("data", "Bytes of data"), part("version", "Version"), "",
    if (nrow(numbers)) changed_numbers(numbers, width) else "All numbers are the same."
  )
}

wrapped_lines <- function(texts, width) {
  unlist(lapply(texts, wrap_lines, width, indent = 2, exdent = 4))
}

change_arrow <- function(rows) {
  told <- function(text) ifelse(is.na(text), "none", shorter_number(text))
  paste(told(rows$first), "->", told(rows$second))
}

# What readers look at; the rest is counted.
told_columns <- c(
  "estimate", "lower", "upper", "at_least", "at_most", "p", "p_adjusted", "p_low", "p_high", "verdict", "reading",
  "bf_difference", "posterior_median", "n_first", "n_second", "n", "mean", "sd"
)

# One line for each row of an answer; rows that one run has alone are told by what matters most.
changed_numbers <- function(rows, width) {
  column <- sub("^.*: ", "", rows$item)
  row <- paste0(rows$study, ", ", rows$question, ": ", sub(": [^:]*$", "", rows$item))
  alone <- vapply(split(is.na(rows$first) == is.na(rows$second), row), any, NA)
  alone <- !alone[row]
  shown <- column %in% told_columns & (!alone | column %in% c("estimate", "lower", "upper", "p", "bf_difference"))
  lines <- vapply(unique(row[shown]), function(one) {
    at <- which(shown & row == one)
    told <- if (alone[at[[1]]]) {
      first <- is.na(rows$second[[at[[1]]]])
      values <- shorter_number(if (first) rows$first[at] else rows$second[at])
      paste(if (first) "only in the first:" else "only in the second:", paste(column[at], values, collapse = ", "))
    } else {
      paste(column[at], change_arrow(rows[at, ]), collapse = "; ")
    }
    paste0(one, ": ", told)
  }, "")
  rest <- sum(!shown)
  c(
    "Numbers", wrapped_lines(unname(lines), width),
    if (rest) sprintf("  %d more, of the tables' other columns (as.data.frame() or --format csv has all).", rest)
  )
}

# Six digits for print; text that is no number stays.
shorter_number <- function(text) {
  number <- text_number(text)
  ifelse(is.na(number), text, vapply(number, format, "", digits = 6))
}

#' @rdname print.vandro_study
#' @export
print.vandro_runs_compared <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @rdname as.data.frame.vandro_answer
#' @export
as.data.frame.vandro_runs_compared <- function(x, row.names = NULL, optional = FALSE, ...) x$table
