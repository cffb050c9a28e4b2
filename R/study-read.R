#' Read measurements from a file
#'
#' Reads a text table (CSV, TSV and other separators, found by themselves) with the package data.table,
#' Parquet with nanoparquet, a spreadsheet (.xlsx, .xls) with readxl, or a data frame saved as .rds, and
#' reports what it found. Nothing is repaired in silence: a file that cannot be read as it stands is an
#' error that says where and what to do.
#'
#' @param file Path of the file. Its format is recognised from its content, whatever its name is. A file that is
#'   compressed (gzip, bzip2, xz), or alone in a zip archive, is unpacked first. An .rds file can run its
#'   author's code when R reads it: open only those you trust, and pass data on as CSV or Parquet.
#' @param decimal_mark Decimal mark of a text file: `"."` or `","`.
#' @param thousands Thousands mark of a text file (`","`, `"."`, `"'"`, `" "`), or `NULL` for none.
#' @param missing Values that stand for a missing one: `c(-99, "n/a")`. Empty cells and `NA` always do.
#' @param encoding Encoding of a text file: `"UTF-8"` (with or without byte order mark), `"Latin-1"`,
#'   `"UTF-16"`, `"windows-1252"` or any other name that [iconv()] knows.
#' @param sheet Name or number of the sheet of a spreadsheet.
#' @param as_written `TRUE` keeps every value of a text file as the text that stands there: `3.90` is not `3.9` to
#'   [audit_numbers()].
#' @param quiet `TRUE` keeps the message about what was found to itself.
#' @param ... Must be empty.
#' @details Every cell of a spreadsheet is read as it is, and the type of a column is decided from all its cells. A
#'   column with a late date or word is text, as it would be in a text file. Whole numbers with leading zeros, or with
#'   more digits than a double holds, are codes and stay text. A pipe is read like a file.
#'   Columns of equal names are numbered (`height_1`, `height_2`), and a message lists them.
#' @return A data frame, with an attribute that tells [write_plan()] where it was read from. Text stays text. The
#'   message names every column with its type and missing values
#'   and, for columns in which most values are numbers, the rows and values that are not.
#' @section Errors: `vandro_error_file` (not there, a folder, not readable, lines of different length),
#'   `vandro_error_empty_data` (no bytes, or only a header), `vandro_error_encoding` (with the column and row),
#'   `vandro_error_too_large` (a spreadsheet that spans more than 50 million cells), `vandro_error_package_missing`.
#' @examples
#' path <- system.file("extdata", "seedlings.csv", package = "vandro")
#' seedlings <- read_measurements(path)
#' versus(seedlings, height, substrate, groups = c("compost", "peat"))
#' @export
read_measurements <- function(file, ..., decimal_mark = c(".", ","), thousands = NULL, missing = NULL,
                              encoding = "UTF-8", sheet = 1, as_written = FALSE, quiet = FALSE) {
  check_supplied(file)
  refuse_more(...)
  call <- rlang::current_env()
  file <- check_readable(file)
  options <- list(
    decimal_mark = check_choice(decimal_mark, c(".", ",")), thousands = check_thousands(thousands, call),
    missing = check_missing_codes(missing, call),
    encoding = check_text(encoding, null = FALSE), sheet = sheet, as_written = check_flag(as_written)
  )
  check_flag(quiet)
  given <- file
  # A pipe can be read only once.
  if (file_kind(file) == "other") {
    file <- copy_stream(file)
    on.exit(unlink(file))
  } else {
    note_input(file)
  }
  check_some_bytes(file, given, call)
  folder <- tempfile()
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE), add = TRUE)
  opened <- opened_file(file, given, folder, options$encoding, call)
  data <- switch(opened$kind,
    parquet = read_parquet(opened, call),
    rds = read_rds(opened, call),
    xlsx = ,
    xls = read_spreadsheet(opened, sheet, call),
    read_text(opened, options, call)
  )
  check_read_table(data, given, call)
  data <- number_names(data, given)
  data <- recode_missing(data, options$missing, options$decimal_mark)
  if (!quiet) say_what_was_read(data, given)
  # write_plan() says where the data came from.
  attr(data, "vandro_read") <- read_options(file, options, opened$kind)
  data
}

# What was said about reading, beyond the defaults.
read_options <- function(file, options, kind) {
  keep_given(list(
    file = normalizePath(file), decimal_mark = if (options$decimal_mark != ".") options$decimal_mark,
    thousands = options$thousands, missing = if (length(options$missing)) as.character(options$missing),
    encoding = if (options$encoding != "UTF-8") options$encoding,
    sheet = if (kind %in% c("xlsx", "xls") && !identical(options$sheet, 1)) options$sheet
  ))
}

check_thousands <- function(thousands, call) {
  if (is.null(thousands)) return(NULL)
  check_choice(thousands, c(",", ".", "'", " "), arg = "thousands", call = call)
}

# A data frame with every column replaced; assigning to all of ten thousand takes longer than reading them.
each_column <- function(data, change, ...) {
  columns <- lapply(as.list(data), change, ...)
  attributes(columns) <- attributes(data)
  columns
}

read_parquet <- function(opened, call) {
  need_package("nanoparquet", "to read Parquet files", call)
  rlang::try_fetch(
    as.data.frame(nanoparquet::read_parquet(opened$file)),
    error = function(e) abort_unreadable(opened$given, "a Parquet file", e, call)
  )
}

read_spreadsheet <- function(opened, sheet, call) {
  need_package("readxl", "to read spreadsheets", call)
  if (opened$kind == "xlsx") check_sheet_size(opened, sheet, call)
  read <- if (opened$kind == "xlsx") readxl::read_xlsx else readxl::read_xls
  cells <- rlang::try_fetch(
    as.data.frame(suppressMessages(
      read(opened$file, sheet = sheet, col_types = "list", .name_repair = "minimal")
    )),
    error = function(e) abort_unreadable(opened$given, "a spreadsheet", e, call)
  )
  each_column(cells, from_cells)
}

read_rds <- function(opened, call) {
  file <- opened$given
  data <- rlang::try_fetch(
    suppressWarnings(readRDS(opened$file)),
    error = function(e) abort_unreadable(file, "an .rds file", e, call)
  )
  if (is.data.frame(data)) {
    check_names_text(names(data), call)
    for (k in seq_along(data)) check_bytes(data[[k]], names(data)[[k]], call)
    return(as.data.frame(data))
  }
  found <- class(data)[[1]]
  abort_vandro(
    c("File {.file {file}} must hold a data frame.", "x" = "It holds an object of type {.cls {found}}."),
    "file",
    file = file, call = call
  )
}

# Declared codes made missing; a column of text that is then all numbers becomes one.
recode_missing <- function(data, missing, decimal_mark) {
  if (length(missing) == 0) return(data)
  # Numbers among them are written as the file writes them.
  if (decimal_mark == ",") missing <- unique(c(missing, sub(",", ".", missing, fixed = TRUE)))
  each_column(data, function(column) {
    gone <- if (is.numeric(column)) {
      column %in% missing_numbers(missing)
    } else {
      as.character(column) %in% missing
    }
    if (!any(gone)) return(column)
    column[gone] <- NA
    number <- if (is.character(column)) text_number(column)
    if (is.null(number) || any(is.na(number) & !is.na(column))) column else number
  })
}

check_readable <- function(file, call = rlang::caller_env()) {
  file <- file_name(check_text(file, arg = "file", call = call, null = FALSE))
  problem <- if (!file.exists(file)) {
    "It does not exist."
  } else if (dir.exists(file)) {
    "It is a folder."
  } else if (file.access(file, 4) != 0) {
    "It may not be read by you."
  }
  if (!is.null(problem)) {
    beside <- basename(list.files(dirname(file)))
    near <- if (!file.exists(file)) near_names(basename(file), beside)
    abort_vandro(
      c(
        "File {.file {file}} could not be opened.",
        "x" = problem,
        "i" = if (length(near)) "Did you mean {.or {.file {near}}}?"
      ),
      "file",
      file = file, call = call
    )
  }
  file
}

# What comes through a pipe or a device, as a file.
copy_stream <- function(from) {
  input <- base::file(from, "rb", raw = TRUE)
  on.exit(close(input))
  save_stream(input, tempfile(fileext = ".txt"))
}

# Numbers columns of equal names, and always says so, because the first must not pass for the only one.
number_names <- function(data, file) {
  names <- names(data)
  twice <- unique(names[duplicated(names)])
  if (length(twice) == 0) return(data)
  for (name in twice) {
    at <- which(names == name)
    new <- paste0(name, "_", seq_along(at))
    while (any(new %in% names)) new <- paste0(new, "_")
    names[at] <- new
  }
  new <- names[names != names(data)]
  inform_vandro(
    c("!" = "Columns of {.file {basename(file)}} that had the same name were numbered: {.val {new}}."), "renamed",
    columns = new
  )
  names(data) <- names
  data
}

check_read_table <- function(data, file, call) {
  if (nrow(data) == 0) {
    abort_vandro(
      c(
        "File {.file {file}} holds no rows.",
        "x" = "There is only a header: {.val {names(data)}}."
      ),
      "empty_data",
      file = file, call = call
    )
  }
}

say_what_was_read <- function(data, file, most = 40) {
  shown <- as.list(data)[seq_len(min(most, ncol(data)))]
  missing <- vapply(shown, function(x) sum(is.na(x)), 0L)
  note <- ifelse(missing > 0, sprintf(", %d missing", missing), "")
  columns <- sprintf("%s (%s%s)", label_text(names(shown)), vapply(shown, column_kind, ""), note)
  more <- ncol(data) - length(shown)
  if (more > 0) columns <- c(columns, sprintf("and %d more", more))
  strange <- strange_values(data)
  if (length(strange) > most) {
    strange <- c(strange[seq_len(most)], sprintf("And %d more columns of such.", length(strange) - most))
  }
  question <- proposed_question(data)
  listed <- strwrap(paste(columns, collapse = ", "), cli::console_width() - 4)
  inform_lines(
    c(
      "i" = sprintf("Read %s: %d rows, %d columns.", basename(file), nrow(data), ncol(data)),
      stats::setNames(listed, rep(" ", length(listed))),
      stats::setNames(as.character(strange), rep("!", length(strange))),
      "i" = if (!is.null(question)) sprintf("Next, for example: `%s`", declaration_code(question, "data"))
    ),
    "read",
    file = file, columns = names(data)
  )
}

column_kind <- function(x) {
  if (inherits(x, c("Date", "POSIXct"))) return("date or time")
  if (is.numeric(x)) "number" else if (is.logical(x)) "yes or no" else "text"
}

# Text columns in which most values are numbers: which rows and values keep them from being read as such.
strange_values <- function(data) {
  found <- Map(function(column, name) {
    bad <- strange_rows(column)
    if (length(bad) == 0) return(NULL)
    shown <- utils::head(bad, 3)
    words <- sprintf("row %d %s", shown, encodeString(column[shown], quote = "\""))
    more <- length(bad) - length(shown)
    hint <- marks_hint(column[bad], column) %||% "Declare such values with missing =."
    sprintf(
      "Column %s was read as text because of %s%s. %s", name, paste(words, collapse = ", "),
      if (more > 0) sprintf(" and %d more", more) else "", gsub("\\{.code ([^}]*)\\}", "`\\1`", hint)
    )
  }, as.list(data), names(data))
  unlist(found, use.names = FALSE)
}

# Rows of what is no number in a text column in which most values are numbers.
strange_rows <- function(column) {
  if (!is.character(column)) return(integer())
  # A look at the first values spares columns of words, however long.
  first <- utils::head(column, 500)
  if (sum(is.na(text_number(first)) & !is.na(first)) > length(first) / 2) return(integer())
  known <- which(!is.na(column))
  bad <- known[is.na(text_number(column[known]))]
  if (length(bad) > length(known) / 2) integer() else bad
}
