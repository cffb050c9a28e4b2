#' Read measurements from a file
#'
#' Reads a text table (CSV, TSV and other separators, found by themselves) with the package
#' data.table, and says what it found. Nothing is repaired in silence: a file that cannot be read as it
#' stands is an error that says where and what to do.
#'
#' @param file Path of the file.
#' @param decimal Decimal mark of the file: `"."` or `","`.
#' @param encoding Encoding of the file: `"UTF-8"` or `"Latin-1"`.
#' @param quiet `TRUE` keeps the message about what was found to itself.
#' @param ... Must be empty.
#' @return A data frame; empty cells and `NA` are missing. Text stays text.
#' @section Errors: `vandro_error_file` (not there, a folder, not readable),
#'   `vandro_error_empty_data` (no bytes, or only a header), `vandro_error_duplicate_columns`,
#'   `vandro_error_encoding` (with the column and row), `vandro_error_package_missing`.
#' @examples
#' path <- system.file("extdata", "seedlings.csv", package = "vandro")
#' seedlings <- read_measurements(path)
#' versus(seedlings, height, substrate, groups = c("compost", "peat"))
#' @export
read_measurements <- function(file, ..., decimal = c(".", ","), encoding = c("UTF-8", "Latin-1"),
                              quiet = FALSE) {
  rlang::check_dots_empty()
  need_package("data.table", "to read files")
  file <- check_readable(file)
  decimal <- check_choice(decimal, c(".", ","))
  encoding <- check_choice(encoding, c("UTF-8", "Latin-1"))
  check_flag(quiet)
  data <- read_table(file, decimal, encoding, rlang::current_env())
  check_read_table(data, file, encoding, rlang::current_env())
  data <- as.data.frame(data)
  if (!quiet) say_what_was_read(data, file)
  data
}

check_readable <- function(file, call = rlang::caller_env()) {
  file <- check_text(file, arg = "file", call = call, null = FALSE)
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
        "i" = if (length(near)) "Did you mean {.file {near}}?"
      ),
      "file",
      file = file, call = call
    )
  }
  if (file.size(file) == 0) {
    abort_vandro(
      c("File {.file {file}} is empty.", "i" = "It has no bytes: export it again."),
      "empty_data",
      file = file, call = call
    )
  }
  mark <- readBin(file, "raw", 2)
  if (identical(mark, as.raw(c(0xff, 0xfe))) || identical(mark, as.raw(c(0xfe, 0xff)))) {
    abort_vandro(
      c(
        "File {.file {file}} is in the encoding UTF-16, which is not read.",
        "i" = "Save it as {.val CSV UTF-8}."
      ),
      "encoding",
      file = file, call = call
    )
  }
  file
}

read_table <- function(file, decimal, encoding, call) {
  notes <- character()
  data <- rlang::try_fetch(
    withCallingHandlers(
      data.table::fread(
        file = file, dec = decimal, encoding = encoding, na.strings = c("", "NA"),
        header = TRUE, showProgress = FALSE, data.table = FALSE, integer64 = "double",
        logical01 = FALSE, strip.white = TRUE
      ),
      warning = function(w) {
        notes <<- c(notes, conditionMessage(w))
        invokeRestart("muffleWarning")
      }
    ),
    error = function(e) {
      said <- conditionMessage(e)
      abort_vandro(
        c("File {.file {file}} could not be read as a table.", "x" = "{said}"),
        "file",
        file = file, call = call
      )
    }
  )
  # The reader only warns when it stops early or skips lines; that would lose rows.
  if (length(notes)) {
    abort_vandro(
      c(
        "File {.file {file}} is not one regular table.",
        "x" = "{notes[[1]]}",
        "i" = "Correct the file: every line must have as many fields as the header."
      ),
      "file",
      file = file, call = call
    )
  }
  data
}

check_read_table <- function(data, file, encoding, call) {
  if (encoding == "UTF-8") check_encoding(data, file, call)
  twice <- unique(names(data)[duplicated(names(data))])
  if (length(twice)) {
    abort_vandro(
      c(
        "File {.file {file}} must have a different name for every column.",
        "x" = "{cli::qty(length(twice))}Name{?s} used more than once: {.val {twice}}.",
        "i" = "Rename the columns in the header line."
      ),
      "duplicate_columns",
      columns = twice, call = call
    )
  }
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

check_encoding <- function(data, file, call) {
  hint <- "Read it with {.code encoding = \"Latin-1\"}, or save it as UTF-8."
  if (!all(validUTF8(names(data)))) {
    abort_vandro(
      c("File {.file {file}} is not in UTF-8.", "x" = "Its header has other bytes.", "i" = hint),
      "encoding",
      file = file, call = call
    )
  }
  for (name in names(data)[vapply(data, is.character, NA)]) {
    bad <- which(!validUTF8(data[[name]]))
    if (length(bad) == 0) next
    row <- bad[[1]]
    abort_vandro(
      c(
        "File {.file {file}} is not in UTF-8.",
        "x" = "Column {.val {name}} has other bytes in row {row}.",
        "i" = hint
      ),
      "encoding",
      file = file, column = name, row = row, call = call
    )
  }
}

say_what_was_read <- function(data, file) {
  kinds <- vapply(data, function(x) if (is.numeric(x)) "number" else "text", "")
  missing <- vapply(data, function(x) sum(is.na(x)), 0)
  note <- ifelse(missing > 0, sprintf(", %d missing", as.integer(missing)), "")
  columns <- sprintf("%s (%s%s)", names(data), kinds, note)
  name <- basename(file)
  inform_vandro(
    c("i" = "Read {.file {name}}: {nrow(data)} rows, {ncol(data)} columns.", " " = "{.val {columns}}"),
    "read",
    file = file, columns = names(data)
  )
}
