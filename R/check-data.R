# Checks of data: columns, their types, their values.

check_data_frame <- function(data, call = rlang::caller_env()) {
  if (!is.data.frame(data)) {
    found <- if (is.character(data)) "text" else class(data)[[1]]
    hint <- if (is.character(data)) {
      "Read a file first: {.code read_measurements(\"...\")}."
    } else {
      "For published n, mean and SD use {.fn versus_summary}."
    }
    abort_vandro(
      c("{.arg data} must be a data frame.", "x" = "It is {found}.", "i" = hint),
      "data_type",
      call = call
    )
  }
  check_names_text(names(data), call)
  twice <- unique(names(data)[duplicated(names(data))])
  if (length(twice)) {
    abort_vandro(
      c(
        "Every column of {.arg data} must have a name of its own.",
        "x" = "{cli::qty(length(twice))}Name{?s} used more than once: {.val {twice}}.",
        "i" = "Rename the columns, so that it is certain which one is meant."
      ),
      "duplicate_columns",
      columns = twice, call = call
    )
  }
  if (nrow(data) == 0) {
    abort_vandro(
      c("{.arg data} must have at least one row.", "x" = "It has none."),
      "empty_data",
      call = call
    )
  }
  invisible(data)
}

check_names_text <- function(names, call) {
  odd <- not_text(names)
  if (length(odd) == 0) return(invisible())
  abort_vandro(
    c(
      "The names of columns must be text in UTF-8.",
      "x" = "{cli::qty(length(odd))}{odd} {?is/are} none.",
      "i" = "{.code names(data) <- iconv(names(data), \"latin1\", \"UTF-8\")} converts what was written in Latin-1."
    ),
    "encoding",
    call = call
  )
}

check_column_exists <- function(name, data, arg, call = rlang::caller_env()) {
  if (name %in% names(data)) return(name)
  hint <- suggestion(name, names(data), "Columns")
  abort_vandro(
    c("Column {.val {name}} ({.arg {arg}}) is not in {.arg data}.", "i" = "{hint}"),
    "missing_column",
    column = name, arg = arg, call = call
  )
}

# Bytes that are no text in their encoding, as they can be shown.
not_text <- function(x) encodeString(x[!validEnc(x)], quote = "\"")

# Such bytes can be neither printed nor compared.
check_bytes <- function(x, name, call = rlang::caller_env(), hint = NULL) {
  odd <- not_text(if (is.factor(x)) levels(x) else if (is.character(x)) x else character())
  if (length(odd) == 0) return(invisible())
  target <- if (is.factor(x)) "levels(x)" else "x"
  hint <- hint %||% "{.code {target} <- iconv({target}, \"latin1\", \"UTF-8\")} converts what was written in Latin-1;
    files are read by {.code read_measurements(file, encoding = \"Latin-1\")}."
  abort_vandro(
    c("Column {.val {name}} holds bytes that are no text in UTF-8.", "x" = "The first is {odd[[1]]}.", "i" = hint),
    "encoding",
    column = name, call = call
  )
}

# NA for what is no number; R's own conversion stops at text in another encoding.
text_number <- function(x) {
  x <- enc2utf8(as.character(x))
  x[!validUTF8(x)] <- NA
  suppressWarnings(as.numeric(x))
}

# The outcome as a plain integer or double vector, without a copy where that is possible.
check_outcome <- function(x, name, call = rlang::caller_env()) {
  if (is.character(x)) abort_text_outcome(x, name, call)
  plain <- is.numeric(x) && is.null(dim(x)) && !inherits(x, c("integer64", "Date", "POSIXct"))
  if (plain) return(if (is.object(x)) as.vector(unclass(x)) else x)
  if (inherits(x, "difftime")) return(as.double(x))
  kind <- if (is.null(dim(x))) class(x)[[1]] else "matrix"
  hint <- switch(kind,
    factor = "If its labels are numbers: {.code as.numeric(as.character(x))}.",
    integer64 = "Convert it with {.code as.double()}.",
    logical = "Yes/no outcomes are compared as proportions, which is another job.",
    "Name a column of measurements."
  )
  abort_vandro(
    c("Outcome {.val {name}} must be numeric.", "x" = "It is of type {.cls {kind}}.", "i" = hint),
    "not_numeric",
    column = name, call = call
  )
}

abort_text_outcome <- function(x, name, call) {
  number <- text_number(x)
  bad <- which(is.na(number) & !is.na(x))
  if (length(bad) == 0) {
    abort_vandro(
      c(
        "Outcome {.val {name}} must be numeric.",
        "x" = "It is text, although every value in it is a number.",
        "i" = "Convert the column with {.code as.numeric()}."
      ),
      "not_numeric",
      column = name, call = call
    )
  }
  row <- bad[[1]]
  value <- x[[row]]
  comma <- grepl("^\\s*[-+]?[0-9]+,[0-9]+\\s*$", value)
  words <- utils::head(unique(x[bad]), 3)
  written <- paste("missing =", paste(deparse(words), collapse = ""))
  hint <- if (comma) {
    "It looks like a decimal comma: read the file with {.code decimal = \",\"}."
  } else {
    "Correct the value or, if it stands for a missing one, declare it: {.code {written}}."
  }
  abort_vandro(
    c(
      "Outcome {.val {name}} must be numeric.",
      "x" = "Row {row} holds {.val {value}}.",
      "x" = if (length(bad) > 1) "{length(bad)} values in all are not numbers.",
      "i" = hint
    ),
    "not_numeric",
    column = name, row = row, value = value, rows = bad, call = call
  )
}

check_no_infinite <- function(values, used, name, call = rlang::caller_env()) {
  at <- which(is.infinite(values) & used)
  if (length(at) == 0) return(invisible())
  row <- at[[1]]
  value <- format(values[[row]])
  abort_vandro(
    c(
      "Outcome {.val {name}} must be finite.",
      "x" = "{cli::qty(length(at))}{length(at)} value{?s} {?is/are} infinite; the first, {value}, is in row {row}.",
      "i" = "Often a division by zero or a logarithm of zero: correct it, or set it to NA."
    ),
    "infinite",
    column = name, row = row, rows = at, call = call
  )
}
