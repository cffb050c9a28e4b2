# From what the analyst wrote to columns: bare names, strings, `.data$x`, `!!x`, and for several at
# once tidyselect's helpers.

is_given <- function(quosure) !rlang::quo_is_missing(quosure) && !rlang::quo_is_null(quosure)

# The name of one column.
column_name <- function(quosure, data, arg, call) {
  names <- column_names(quosure, data, arg, call)
  if (length(names) == 1) return(names)
  example <- sprintf("versus_paired(data, %s, %s)", code_names(names[[1]]), code_names(names[[2]]))
  abort_vandro(
    c(
      "{.arg {arg}} must name one column.", "x" = "It names {length(names)}: {.val {names}}.",
      "i" = if (arg == "change") "To compare two occasions, name these two: {.code {example}}."
    ),
    "not_a_column",
    arg = arg, call = call
  )
}

# The names of one or several columns.
column_names <- function(quosure, data, arg, call) {
  expression <- rlang::quo_get_expr(quosure)
  if (!is_given(quosure)) {
    hint <- suggestion("", names(data), "Columns")
    abort_vandro(
      c("{.arg {arg}} must name a column.", "x" = "It was not given.", "i" = "{hint}"),
      "missing_argument",
      arg = arg, call = call
    )
  }
  named <- plain_names(expression)
  if (is.null(named)) return(selected_names(quosure, data, arg, call))
  vapply(named, function(name) {
    found <- near_column(name, data)
    if (!is.null(found)) return(found)
    if (is.symbol(expression)) abort_if_variable(name, quosure, arg, call)
    check_column_exists(name, data, arg, call)
  }, "", USE.NAMES = FALSE)
}

# Returns the column of that name, or else the only one whose name differs from it in blanks at its ends, or NULL.
near_column <- function(name, data) {
  if (name %in% names(data)) return(name)
  near <- names(data)[trimws(names(data)) == trimws(name)]
  if (length(near) == 1) near
}

# `height`, "height", c(height, "leaf_area"), .data$height; NULL for anything else.
plain_names <- function(expression) {
  if (is.symbol(expression)) return(as_utf8(as.character(expression)))
  if (is.character(expression) && !anyNA(expression)) return(as_utf8(expression))
  if (rlang::is_call(expression, "$") && identical(expression[[2]], quote(.data))) {
    return(as.character(expression[[3]]))
  }
  if (!rlang::is_call(expression, "c") || !is.null(names(expression))) return(NULL)
  parts <- lapply(as.list(expression)[-1], plain_names)
  if (any(vapply(parts, is.null, NA))) NULL else unlist(parts)
}

selected_names <- function(quosure, data, arg, call) {
  expression <- rlang::quo_get_expr(quosure)
  if (rlang::is_call(expression, "[[") && identical(expression[[2]], quote(.data))) {
    key <- rlang::eval_tidy(expression[[3]], env = rlang::quo_get_env(quosure))
    if (is.character(key) && length(key) == 1) {
      return(near_column(key, data) %||% check_column_exists(key, data, arg, call))
    }
  }
  written <- rlang::as_label(expression)
  foreign <- foreign_code(expression)
  if (!is.null(foreign)) abort_values_as_column(foreign, names(data), arg, call)
  need_package("tidyselect", sprintf("to select columns by %s", written), call)
  found <- tryCatch(
    names(tidyselect::eval_select(quosure, data, allow_rename = FALSE)),
    error = function(e) {
      abort_vandro(
        c(
          "{.arg {arg}} must name columns.",
          "x" = "It is {.code {written}}.",
          "i" = "To compare a computed value, add it to the data as a column first."
        ),
        "not_a_column",
        arg = arg, call = call, parent = if (inherits(e, "vctrs_error_subscript")) e else NA
      )
    }
  )
  if (length(found)) return(found)
  abort_vandro(
    c("{.arg {arg}} must name columns.", "x" = "{.code {written}} selects none."),
    "not_a_column",
    arg = arg, call = call
  )
}

# Code that is no way of selecting columns, such as `data$height`: its values would be taken for their places. NULL
# where there is none; what stands within a helper is its own affair.
foreign_code <- function(expression) {
  if (!is.call(expression)) return(NULL)
  head <- if (rlang::is_call(expression, ns = "tidyselect")) "all_of" else rlang::as_label(expression[[1]])
  if (head %in% selecting_helpers) return(NULL)
  if (head %in% c("$", "[[") && identical(expression[[2]], quote(.data))) return(NULL)
  if (!head %in% c("c", ":", "-", "!", "&", "|", "(")) return(expression)
  for (part in as.list(expression)[-1]) {
    found <- foreign_code(part)
    if (!is.null(found)) return(found)
  }
  NULL
}

selecting_helpers <- c(
  "starts_with", "ends_with", "contains", "matches", "num_range", "all_of", "any_of", "everything", "last_col", "where"
)

abort_values_as_column <- function(code, known, arg, call) {
  written <- rlang::as_label(code)
  named <- if (rlang::is_call(code, c("$", "[[")) && length(code) == 3) as.character(code[[3]]) else ""
  example <- sprintf("%s = %s", arg, if (named %in% known) named else "name")
  abort_vandro(
    c(
      "{.arg {arg}} must name columns of {.arg data}.",
      "x" = "It is {.code {written}}, which gives values.",
      "i" = if (named %in% known) "Write {.code {example}}." else
        "Add computed values to the data as a column, and name that: {.code {example}}."
    ),
    "not_a_column",
    arg = arg, call = call
  )
}

# `outcome = trait` where `trait` holds a name: say how to write it rather than guess.
abort_if_variable <- function(name, quosure, arg, call) {
  held <- rlang::env_get(rlang::quo_get_env(quosure), name, default = NULL, inherit = TRUE)
  if (!is.character(held) || length(held) != 1) return(invisible())
  written <- sprintf("%s = .data[[%s]]", arg, name)
  abort_vandro(
    c(
      "Column {.val {name}} ({.arg {arg}}) was not found.",
      "i" = "{.code {name}} is a variable that holds {.val {held}}: to use the column of that name,
        write {.code {written}}."
    ),
    "missing_column",
    column = name, arg = arg, call = call
  )
}

# A column that comes along with the rows (order, blocks, id), or NULL.
optional_column <- function(quosure, data, arg, call) {
  if (!is_given(quosure)) return(NULL)
  name <- column_name(quosure, data, arg, call)
  values <- data[[name]]
  if (!is.atomic(values) || !is.null(dim(values))) abort_column_type(values, name, arg, call)
  check_bytes(values, name, call)
  values <- unlabelled(values)
  if (arg %in% c("blocks", "id", "each")) {
    values <- plain_codes(values, name, call)
  } else if (inherits(values, "integer64")) {
    values <- as.numeric(integer64_text(values))
    check_codes_differ(values, name, call)
  }
  list(name = name, values = values)
}

# A matrix or a list in a column has no one value for a row.
abort_column_type <- function(values, name, arg, call) {
  kind <- if (is.null(dim(values))) class(values)[[1]] else "matrix"
  abort_vandro(
    c(
      "Column {.val {name}}, given as {.arg {arg}}, must hold one value in every row.",
      "x" = "It is of type {.cls {kind}}.",
      "i" = "Name a plain column, or take one out of it first."
    ),
    "column_type",
    column = name, call = call
  )
}

# Where no one column has a name to give: answers are found by it, so that it is never empty.
label_as_name <- function(label, call) {
  name <- text_for(label, "value", "label", call)[[1]] %||% ""
  if (nzchar(name)) name else "value"
}

# One text for all outcomes, or one each by name: unit = c(height = "cm", dry_mass = "g").
text_for <- function(x, outcomes, arg, call) {
  if (is.null(x)) return(stats::setNames(vector("list", length(outcomes)), outcomes))
  if (length(x) == 1 && is.null(names(x))) {
    x <- stats::setNames(rep(check_text(x, arg = arg, call = call), length(outcomes)), outcomes)
  }
  unknown <- setdiff(names(x), outcomes)
  fit <- is.character(x) && !anyNA(x) && all(is_text(x))
  if (!fit || is.null(names(x)) || length(unknown)) {
    abort_vandro(
      c(
        "{.arg {arg}} must be one text, or one for each outcome by name.",
        "x" = if (length(unknown)) "There is no outcome {.val {unknown}}.",
        "i" = "Outcomes: {.val {outcomes}}."
      ),
      "bad_value",
      arg = arg, value = x, call = call
    )
  }
  given <- match(outcomes, names(x))
  lapply(stats::setNames(given, outcomes), function(at) if (!is.na(at)) x[[at]])
}

abort_same_column <- function(column, args, call) {
  abort_vandro(
    c("{.arg {args[[1]]}} and {.arg {args[[2]]}} must be two columns.", "x" = "Both are {.val {column}}."),
    "same_column",
    column = column, call = call
  )
}

abort_all_missing <- function(moments, labels, name, call) {
  empty <- vapply(moments, function(m) m$n == 0, NA)
  group <- labels[empty]
  rows <- vapply(moments, `[[`, 0, "missing")[empty]
  abort_vandro(
    c(
      "Outcome {.val {name}} must have values in both groups.",
      "x" = "{cli::qty(length(group))}All values are missing in {.val {group}} ({rows} row{?s})."
    ),
    "all_missing",
    column = name, group = group, call = call
  )
}
