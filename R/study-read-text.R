# Text files: encoding, separators, marks of numbers, and what text in a column means.

read_text <- function(opened, options, call) {
  need_package("data.table", "to read text files", call)
  file <- opened$given
  read <- in_utf8(opened, options$encoding, call)
  if (read != opened$file) on.exit(unlink(read))
  data <- read_table(read, file, options, call)
  check_encoding(data, file, call)
  if (!is.null(options$thousands)) data <- each_column(data, without_thousands, options)
  if (options$decimal_mark == ",") data <- each_column(data, with_decimal_point)
  names(data) <- single_quotes(names(data))
  each_column(data, function(column) {
    if (is.character(column)) column <- single_quotes(column)
    if (options$as_written) column else as_meant(column)
  })
}

# Text in quotes doubles the quotes in it, and the reader leaves them so.
single_quotes <- function(text) gsub('""', '"', text, fixed = TRUE)

# Whole numbers with zeros in front, or with more digits than a double holds, are codes and stay text; other numbers
# that came as text are numbers. The reader's own class of dates is R's.
as_meant <- function(column) {
  if (inherits(column, "IDate")) return(as.Date(column))
  if (!is.character(column)) return(column)
  known <- column[!is.na(column)]
  plain <- "^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$"
  if (length(known) == 0 || !grepl(plain, known[[1]]) || !all(grepl(plain, known))) return(column)
  number <- as.numeric(column)
  codes <- any(grepl("^[-+]?0[0-9]", known) | abs(number[!is.na(number)]) >= largest_code)
  if (codes && !any(grepl("[.eE]", known))) column else number
}

# Where words among the numbers ("n/a") made a column text, its numbers still get the decimal point that
# they will be read by.
with_decimal_point <- function(column) {
  if (!is.character(column)) return(column)
  written <- grepl("^\\s*[-+]?[0-9]*,?[0-9]+\\s*$", column)
  # A point among such numbers may mark thousands: 1.234 is not to become a little more than 1.
  if (any(grepl("^\\s*[-+]?[0-9]+[.][0-9.]*,?[0-9]*\\s*$", column))) return(column)
  if (!any(written) || mean(written[!is.na(column)]) <= 0.5) return(column)
  column[written] <- sub(",", ".", column[written], fixed = TRUE)
  column
}

# "1,234.5" with its mark taken out, where every value of a column is a number written so.
without_thousands <- function(column, options) {
  if (!is.character(column)) return(column)
  mark <- gsub("([.])", "\\\\\\1", options$thousands)
  point <- gsub("([.])", "\\\\\\1", options$decimal_mark)
  number <- sprintf("^[-+]?[0-9]{1,3}(%s[0-9]{3})*(%s[0-9]+)?$|^[-+]?[0-9]+(%s[0-9]+)?$", mark, point, point)
  known <- !is.na(column)
  if (!any(known) || !all(grepl(number, column[known]))) return(column)
  plain <- gsub(options$thousands, "", column, fixed = TRUE)
  plain <- sub(options$decimal_mark, ".", plain, fixed = TRUE)
  if (options$as_written) plain else as.numeric(plain)
}

# The file itself, or a copy of it in UTF-8.
in_utf8 <- function(opened, encoding, call) {
  file <- opened$file
  if (toupper(encoding) %in% c("UTF-8", "UTF8")) {
    check_text_bytes(opened, call)
    return(file)
  }
  bytes <- readBin(file, "raw", file.size(file))
  from <- if (tolower(encoding) %in% c("latin-1", "latin1")) "ISO-8859-1" else encoding
  text <- tryCatch(iconv(list(bytes), from, "UTF-8", toRaw = TRUE)[[1]], error = function(e) NULL)
  if (is.null(text)) {
    abort_vandro(
      c(
        "File {.file {opened$given}} could not be read in the encoding {.val {encoding}}.",
        "i" = "Usual ones are UTF-8, Latin-1, windows-1252 and UTF-16."
      ),
      "encoding",
      file = opened$given, call = call
    )
  }
  copy <- tempfile(fileext = ".txt")
  writeBin(text, copy)
  copy
}

check_text_bytes <- function(opened, call) {
  file <- opened$given
  mark <- readBin(opened$file, "raw", 2)
  if (identical(mark, as.raw(c(0xff, 0xfe))) || identical(mark, as.raw(c(0xfe, 0xff)))) {
    abort_vandro(
      c(
        "File {.file {file}} is not in UTF-8.",
        "x" = "Its first bytes are those of UTF-16.",
        "i" = "Read it with {.code encoding = \"UTF-16\"}, or save it as {.val CSV UTF-8}."
      ),
      "encoding",
      file = file, call = call
    )
  }
  invisible()
}

read_table <- function(read, file, options, call) {
  notes <- character()
  data <- rlang::try_fetch(
    withCallingHandlers(
      data.table::fread(
        file = read, dec = options$decimal_mark, encoding = "UTF-8", na.strings = c("", "NA"),
        header = TRUE, showProgress = FALSE, data.table = FALSE, integer64 = "character", keepLeadingZeros = TRUE,
        logical01 = FALSE, strip.white = TRUE, colClasses = if (options$as_written) "character"
      ),
      warning = function(w) {
        # What a file before this one left behind says nothing of this one.
        if (!grepl("^Previous fread", conditionMessage(w))) notes <<- c(notes, conditionMessage(w))
        invokeRestart("muffleWarning")
      }
    ),
    error = function(e) abort_unreadable(file, "a table", e, call)
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
  check_first_line(data, read, file, call)
  data
}

# Lines at the top with another number of fields than those below are passed over by the reader without a word.
check_first_line <- function(data, read, file, call) {
  lines <- readLines(read, 1000, warn = FALSE, skipNul = TRUE)
  first <- sub("^\ufeff", "", lines[grepl("[^[:space:]]", lines, useBytes = TRUE)][1], useBytes = TRUE)
  # A first column without a name is called V1.
  if (is.na(first) || grepl("^[ \"]*($|[,;|:\t])", first, useBytes = TRUE)) return(invisible())
  bare <- function(x) charToRaw(gsub("[\"[:space:]]", "", x, useBytes = TRUE))
  name <- bare(sub("\n.*", "", names(data)[[1]], useBytes = TRUE))
  if (identical(utils::head(bare(first), length(name)), name)) return(invisible())
  shown <- if (validUTF8(first)) cli::ansi_strtrim(first, 60) else "bytes that are not UTF-8"
  abort_vandro(
    c(
      "File {.file {file}} is not one regular table.",
      "x" = "Its first line has another number of fields than those below: {.val {shown}}.",
      "i" = "Delete lines above the header; every other line must have as many fields as it."
    ),
    "file",
    file = file, call = call
  )
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
  # By their places: names may come twice; that is an error of its own, later.
  for (k in which(vapply(data, is.character, NA))) {
    valid <- validUTF8(data[[k]])
    if (all(valid)) next
    row <- which(!valid)[[1]]
    name <- names(data)[[k]]
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
