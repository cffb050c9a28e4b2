# A declaration as R code, so that a report can say how to make it again.

# Columns by name, everything else by value, what is the default not at all. `frame` is that of the declaring function;
# a data frame that has no name there is called `data`, and what is too long to be written out by its argument's name.
declared_call <- function(verb, frame) {
  defaults <- formals(rlang::frame_fn(frame))
  columns <- if (!grepl("summary", verb)) {
    c("outcome", "by", "first", "second", "change", "id", "order", "blocks", "counts", "each")
  }
  expression_of <- function(name) {
    rlang::quo_get_expr(eval(as.call(list(rlang::enquo, as.name(name))), frame))
  }
  names <- setdiff(names(defaults), "...")
  is_missing <- function(name) eval(as.call(list(missing, as.name(name))), frame)
  given <- names[!vapply(names, is_missing, NA)]
  texts <- lapply(given, function(name) {
    # Once it was looked at only the promise knows how the data frame was called.
    if (name == "data") return(data_text(eval(quote(substitute(data)), frame)))
    if (name %in% columns) return(paste(name, "=", code_text(expression_of(name), name)))
    value <- frame[[name]]
    if (!identical(value, defaults[[name]])) paste(name, "=", code_text(value, name))
  })
  # Columns of pairs come by position, or by their names in `...`.
  more <- if (verb == "versus_paired") eval(quote(rlang::enquos(...)), frame)
  dots <- vapply(seq_along(more), function(i) {
    name <- names(more)[[i]]
    paste0(if (nzchar(name)) paste(name, "= "), code_text(rlang::quo_get_expr(more[[i]]), name))
  }, "")
  at <- match("data", given, nomatch = 0)
  sprintf("%s(%s)", verb, paste(append(unlist(texts), dots, after = at), collapse = ", "))
}

data_text <- function(expression) {
  if (is.symbol(expression) && expression != quote(.)) as.character(expression) else "data"
}

# R code of a value or an expression; its name where the code would be long.
code_text <- function(x, name) {
  if (is.symbol(x)) return(deparse(x, backtick = TRUE))
  if (is.atomic(x) && length(x) > 50) return(name)
  text <- deparse(x, 500, control = c("keepNA", "niceNames"))
  # Letters that the session cannot write are written as their code, which R reads back.
  if (!l10n_info()[["UTF-8"]]) text <- gsub("<U[+]([0-9A-F]{4,8})>", "\\\\u{\\1}", text)
  if (length(text) > 1) text <- paste(trimws(text), collapse = " ")
  if (nchar(text) > 300 || grepl("^structure\\(|^<", text)) name else text
}
