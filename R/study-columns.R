# From what the analyst wrote to a column: bare names, strings, `.data$x`, `!!x`.

# Returns the column's name. A bare name or a string is looked up at once; anything else must
# evaluate to one name.
column_name <- function(quosure, data, arg, call) {
  expression <- rlang::quo_get_expr(quosure)
  if (rlang::is_missing(expression) || rlang::quo_is_null(quosure)) {
    hint <- suggestion("", names(data), "Columns")
    abort_vandro(
      c("{.arg {arg}} must name a column.", "x" = "It was not given.", "i" = "{hint}"),
      "missing_argument",
      arg = arg, call = call
    )
  }
  if (is.symbol(expression)) {
    name <- as.character(expression)
    if (!name %in% names(data)) abort_if_variable(name, quosure, arg, call)
  } else if (is.character(expression) && length(expression) == 1 && !is.na(expression)) {
    name <- expression
  } else {
    name <- pronoun_name(quosure, arg, call)
  }
  check_column_exists(name, data, arg, call)
}

# `.data$height`, `.data[["height"]]`, `.data[[trait]]`.
pronoun_name <- function(quosure, arg, call) {
  expression <- rlang::quo_get_expr(quosure)
  if (rlang::is_call(expression, c("$", "[[")) && identical(expression[[2]], quote(.data))) {
    key <- expression[[3]]
    if (rlang::is_call(expression, "$")) return(as.character(key))
    key <- rlang::eval_tidy(key, env = rlang::quo_get_env(quosure))
    if (is.character(key) && length(key) == 1) return(key)
  }
  written <- rlang::as_label(expression)
  abort_vandro(
    c(
      "{.arg {arg}} must name one column.",
      "x" = "It is {.code {written}}.",
      "i" = "To compare a computed value, add it to the data as a column first."
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
      "Column {.val {name}} ({.arg {arg}}) is not in {.arg data}.",
      "i" = "{.code {name}} is a variable that holds {.val {held}}: to use the column of that name,
        write {.code {written}}."
    ),
    "missing_column",
    column = name, arg = arg, call = call
  )
}
