# A declaration as R code, so that a report can say how to make it again.

# Columns by name, everything else by value. `frame` is that of the declaring function; a data frame that has no name
# there is called `data`, and so is anything too long to be written out.
declared_call <- function(verb, frame) {
  call <- rlang::call_match(rlang::frame_call(frame), rlang::frame_fn(frame))
  args <- rlang::call_args(call)
  columns <- if (!grepl("summary", verb)) {
    c("outcome", "by", "first", "second", "change", "id", "order", "blocks", "counts")
  }
  names <- names(args) %||% rep("", length(args))
  texts <- vapply(seq_along(args), function(i) {
    name <- names[[i]]
    if (name == "data") return(if (is.symbol(args[[i]]) && args[[i]] != quote(.)) as.character(args[[i]]) else "data")
    # Columns of pairs come by position.
    if (name %in% c("", columns)) code_text(args[[i]], name) else code_text(rlang::env_get(frame, name), name)
  }, "")
  named <- ifelse(names %in% c("", "data"), texts, paste(names, "=", texts))
  sprintf("%s(%s)", verb, paste(named, collapse = ", "))
}

# R code of a value or an expression; its name where the code would be long.
code_text <- function(x, name) {
  if (is.atomic(x) && length(x) > 50) return(name)
  text <- paste(trimws(deparse(x, 500, control = c("keepNA", "niceNames"))), collapse = " ")
  if (nchar(text) > 300 || grepl("^structure\\(|^<", text)) name else text
}
