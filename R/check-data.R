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

# A data.table can be changed in place after a study was declared on it: its columns are copied.
own_data <- function(data) {
  if (!inherits(data, "data.table")) return(data)
  kept <- attributes(data)[c("names", "row.names", "vandro_read")]
  attributes(data) <- NULL
  data <- lapply(data, rlang::duplicate, shallow = FALSE)
  attributes(data) <- c(kept[lengths(kept) > 0], class = "data.frame")
  data
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
    c("Column {.val {name}} ({.arg {arg}}) was not found.", "i" = "{hint}"),
    "missing_column",
    column = name, arg = arg, call = call
  )
}

# Text in a known encoding, not a string of bytes.
is_text <- function(x) validEnc(x) & Encoding(x) != "bytes"

# Bytes that are no text in their encoding, as they can be shown.
not_text <- function(x) encodeString(x[!is_text(x)], quote = "\"")

# The same in every language of the session.
sorted_text <- function(x) sort(as_utf8(x), method = "radix")

# Where the session's own encoding is none, text that is typed there is taken to be UTF-8.
as_utf8 <- function(x) {
  if (!l10n_info()[["UTF-8"]] && !l10n_info()[["Latin-1"]]) {
    typed <- Encoding(x) == "unknown" & validUTF8(x)
    Encoding(x[typed]) <- "UTF-8"
  }
  # What is no text stays as it is, for whoever checks it.
  known <- is_text(x)
  x[known] <- enc2utf8(x[known])
  x
}

# A name of a file as its system has it: there it is its bytes.
file_name <- function(file) {
  if (!l10n_info()[["UTF-8"]] && !l10n_info()[["Latin-1"]]) Encoding(file) <- "unknown"
  file
}

# Characters that no printed page, figure or file of ours can hold are written as their code.
printable <- function(x) {
  x <- as_utf8(x)
  odd <- grepl("[\\x01-\\x08\\x0b\\x0c\\x0e-\\x1f\\x7f]", x, perl = TRUE) | grepl("[\ufffe\uffff]", x)
  x[odd] <- vapply(strsplit(x[odd], ""), function(character) {
    code <- vapply(character, utf8ToInt, 0L)
    bad <- (code < 32 & !code %in% c(9, 10, 13)) | code %in% c(127, 65534, 65535)
    character[bad] <- sprintf("<U+%04X>", code[bad])
    paste(character, collapse = "")
  }, "")
  x
}

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
  if (is.character(x)) return(if (is_digits(x)) as.numeric(x) else abort_text_outcome(x, name, call))
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

# Digits only: codes of a file whose leading zeros, or whose places beyond those of a double, were kept as text.
is_digits <- function(x) {
  known <- x[!is.na(x)]
  length(known) > 0 && all(grepl("^[-+]?[0-9]+$", known)) && any(grepl("^[-+]?0[0-9]|[0-9]{16}", known))
}

# The unit that a column carries itself, or NULL.
column_unit <- function(x) {
  if (inherits(x, "difftime")) return(units(x))
  if (!inherits(x, "units")) return(NULL)
  written <- attr(x, "units", exact = TRUE)
  parts <- vapply(unclass(written)[c("numerator", "denominator")], paste, "", collapse = "*")
  if (nzchar(parts[[2]])) paste(parts, collapse = "/") else parts[[1]]
}

# Two columns in one unit: durations are converted to that of the first one, other units must agree.
in_one_unit <- function(columns, names, call) {
  unit <- lapply(columns, column_unit)
  if (identical(unit[[1]], unit[[2]])) return(columns)
  if (all(vapply(columns, inherits, NA, "difftime"))) {
    units(columns[[2]]) <- unit[[1]]
    return(columns)
  }
  told <- vapply(unit, function(one) if (is.null(one)) "no unit" else one, "")
  abort_vandro(
    c(
      "Columns {.val {names}} must have the same unit.",
      "x" = "{.val {names[[1]]}} has {told[[1]]}, {.val {names[[2]]}} has {told[[2]]}.",
      "i" = "Convert one of them first."
    ),
    "units_differ",
    columns = names, call = call
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
  words <- utils::head(unique(x[bad]), 3)
  written <- paste("missing =", paste(deparse(words), collapse = ""))
  hint <- marks_hint(x[bad], x) %||%
    "Correct the value or, if it stands for a missing one, declare it: {.code {written}}."
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

# What to say to the reader of a file where numbers are written with other marks: a template of cli, or NULL.
marks_hint <- function(bad, all) {
  if (!any(grepl("^[-+]?[0-9]+([., '][0-9]+)+$", trimws(bad)))) return(NULL)
  written <- trimws(all[!is.na(all)])
  written <- written[grepl("^[-+]?[0-9][0-9., ']*$", written)]
  has <- function(mark) any(grepl(mark, written, fixed = TRUE))
  for (mark in c("'", " ")) {
    if (marks_thousands(written, mark)) return(read_with(if (has(",")) ",", mark))
  }
  comma <- marks_thousands(written, ",")
  point <- marks_thousands(written, ".")
  if (!has(",")) return(if (point) read_with(",", "."))
  if (!has(".")) return(if (comma) either_mark else read_with(",", NULL))
  if (point == comma) return("Some of its numbers have a comma and some a point: write all of them alike.")
  if (point) read_with(",", ".") else read_with(NULL, ",")
}

either_mark <- paste0(
  "If the comma marks thousands, read the file with {.code thousands = \",\"}; if it marks decimals, ",
  "with {.code decimal_mark = \",\"}."
)

# Whether every number with this mark has three digits after each of them, as in 1,234,567.8.
marks_thousands <- function(written, mark) {
  own <- written[grepl(mark, written, fixed = TRUE)]
  length(own) > 0 && all(grepl(sprintf("^[-+]?[0-9]{1,3}([%s][0-9]{3})+($|[^0-9%s])", mark, mark), own))
}

read_with <- function(decimal_mark, thousands) {
  marks <- c(decimal_mark = decimal_mark, thousands = thousands)
  sprintf("Read the file with {.code %s}.", paste(sprintf("%s = \"%s\"", names(marks), marks), collapse = ", "))
}

check_no_infinite <- function(values, used, name, call = rlang::caller_env()) {
  at <- which(is.infinite(values) & used)
  if (length(at) == 0) return(invisible())
  row <- at[[1]]
  value <- format_plain(values[[row]])
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
