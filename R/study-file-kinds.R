# A file is recognised by its first bytes; its name decides only where bytes cannot.

# Each entry names the bytes (in hexadecimal, or as text) that such a file begins with, what it is, and how its data
# get out. The signs are long enough that no header of a text table begins like that.
foreign_kinds <- list(
  list(
    begins = c("RDX2\nX\n", "RDX3\nX\n", "RDA2\nA\n", "RDA3\nA\n"), is = "an R workspace, which can hold many objects",
    way = "In R, {.code load(\"{file}\")} shows them; give the data frame among them to {.fn versus}."
  ),
  list(
    begins = c(
      "$FL2@(#)", "$FL3@(#)", "HEADER RECORD*******", "0x3c73746174615f6474613e", "0x710201", "0x720201", "0x730201",
      "0x710101", "0x720101", "0x730101", "0x000000000000000000000000c2ea8160"
    ),
    is = "the binary data file of a statistics program",
    way = "Export it from there as a CSV file. In R, a data frame made from it by any package for such files will do."
  ),
  list(
    begins = "%PDF-", is = "a PDF document",
    way = "Type the n, mean and SD that it prints into {.fn versus_summary}, or copy its table into a CSV file."
  ),
  list(
    begins = "SQLite format 3", is = "a database",
    way = "Connect to it with {.code DBI::dbConnect()}, and give {.code dplyr::tbl(connection, \"table\")} to
      {.fn versus}."
  ),
  list(
    begins = c("0x4152524f57310000", "0x46454131000000"), is = "an Arrow file",
    way = "Save it as a Parquet or CSV file."
  ),
  list(
    begins = "{\\rtf1", is = "a document of a word processor", way = "Copy its table into a CSV file."
  ),
  list(
    begins = c("0x89504e47", "0xffd8ff", "GIF87a", "GIF89a"), is = "a picture",
    way = "Type the n, mean and SD that it shows into {.fn versus_summary}."
  ),
  list(begins = c("<!doctype", "<html", "<table"), is = "a web page", way = "Save its table as a CSV file."),
  list(begins = "<?xml", is = "an XML file", way = "Save its table as a CSV file."),
  list(begins = c("{\"", "[{"), is = "a JSON file", way = "Save its table as a CSV file."),
  list(
    begins = c("0x28b52ffd", "0x377abcaf271c", "0x526172211a07"),
    is = "an archive of a kind that cannot be opened here",
    way = "Unpack it first."
  )
)

# Returns "parquet", "rds", "xlsx", "xls", "zip", "packed" (one compressed file) or "text"; stops at any other kind.
content_kind <- function(file, given, call) {
  first <- readBin(file, "raw", 512)
  if (begins_with(first, "PAR1") && begins_with(last_bytes(file, 4), "PAR1")) return("parquet")
  if (begins_with(first, c("0x580a0000", "0x420a0200", "0x420a0300"))) return("rds")
  if (begins_with(first, "0xd0cf11e0")) return("xls")
  if (begins_with(first, "0x504b0304")) return(zip_kind(file, given, call))
  if (begins_with(first, c("0x1f8b08", sprintf("BZh%d1AY&SY", 1:9), "0xfd377a585a00"))) return("packed")
  for (kind in foreign_kinds) if (begins_with(first, kind$begins)) abort_foreign(kind, given, call)
  ending <- file_ending(given)
  if (ending %in% c("rds", "parquet", "xlsx", "xls")) ending else "text"
}

last_bytes <- function(file, count) {
  connection <- file(file, "rb")
  on.exit(close(connection))
  seek(connection, max(0, file.size(file) - count))
  readBin(connection, "raw", count)
}

# Markup is compared in small letters, after any byte order mark and blanks; everything else byte by byte.
begins_with <- function(first, signs) {
  plain <- sub("^(\\xef\\xbb\\xbf)?\\s*", "", rawToChar(first[first != as.raw(0)]), perl = TRUE, useBytes = TRUE)
  any(vapply(signs, function(sign) {
    if (grepl("^[<{[]", sign)) return(startsWith(ascii_lower(plain), sign))
    digits <- if (startsWith(sign, "0x")) substring(sign, seq(3, nchar(sign), 2), seq(4, nchar(sign), 2))
    bytes <- if (is.null(digits)) charToRaw(sign) else as.raw(strtoi(digits, 16L))
    identical(utils::head(first, length(bytes)), bytes)
  }, NA))
}

# Bytes of other alphabets are left alone.
ascii_lower <- function(text) {
  bytes <- charToRaw(text)
  upper <- bytes >= as.raw(65) & bytes <= as.raw(90)
  bytes[upper] <- bytes[upper] | as.raw(32)
  rawToChar(bytes)
}

abort_foreign <- function(kind, file, call) {
  way <- gsub("{file}", file, kind$way, fixed = TRUE)
  abort_vandro(
    c(
      "File {.file {file}} must be a text table, a Parquet file, a spreadsheet or an .rds file.",
      "x" = paste0("It is ", kind$is, "."), "i" = way
    ),
    "file",
    file = file, call = call
  )
}

# Spreadsheets are archives too.
zip_kind <- function(file, given, call) {
  names <- zip_names(file, given, call)
  if (any(startsWith(names, "xl/"))) return("xlsx")
  other <- c("word/" = "a document of a word processor", "ppt/" = "a presentation", "META-INF/" = "an open document")
  for (folder in names(other)) {
    if (!any(startsWith(names, folder))) next
    way <- "Save its table as a CSV file or as an .xlsx spreadsheet."
    abort_foreign(list(is = other[[folder]], way = way), given, call)
  }
  "zip"
}

# Lists the files in an archive, except those that an operating system adds for itself.
zip_names <- function(file, given, call) {
  names <- tryCatch(suppressWarnings(utils::unzip(file, list = TRUE)$Name), error = function(e) {
    abort_unreadable(given, "an archive", e, call)
  })
  names[!grepl("/$|^__MACOSX/|(^|/)[.]", names)]
}

# Returns the one file of an archive, unpacked into `folder`.
from_zip <- function(file, given, folder, call) {
  names <- zip_names(file, given, call)
  if (length(names) != 1) {
    abort_vandro(
      c(
        "Archive {.file {given}} must hold exactly one table.",
        "x" = if (length(names)) "It holds {length(names)}: {.file {names}}." else "It is empty.",
        "i" = "Unpack it, and read the file that is meant."
      ),
      "file",
      file = given, files = names, call = call
    )
  }
  found <- tryCatch(
    utils::unzip(file, names, exdir = folder, junkpaths = TRUE), warning = identity, error = identity
  )
  if (inherits(found, "condition")) abort_unreadable(given, "an archive", found, call)
  found
}

# Returns a compressed file, unpacked into `folder`. Data frames that R saved stay compressed.
from_packed <- function(file, given, folder, call) {
  input <- gzfile(file, "rb")
  on.exit(close(input))
  tryCatch(suppressWarnings(save_stream(input, tempfile(tmpdir = folder))), error = function(e) {
    abort_unreadable(given, "a compressed file", e, call)
  })
}

# Returns the file that is to be read, its kind, and the name that messages give it. Archives and compressed files are
# unpacked into `folder`.
opened_file <- function(file, given, folder, encoding, call) {
  kind <- content_kind(file, given, call)
  for (layer in 1:3) {
    if (!kind %in% c("zip", "packed")) break
    unpack <- if (kind == "zip") from_zip else from_packed
    file <- unpack(file, given, folder, call)
    check_some_bytes(file, given, call)
    kind <- content_kind(file, given, call)
  }
  if (kind %in% c("zip", "packed")) {
    abort_foreign(list(is = "an archive of archives", way = "Unpack it, and read the table in it."), given, call)
  }
  if (kind == "text" && toupper(encoding) %in% c("UTF-8", "UTF8")) check_no_nul(file, given, call)
  list(file = file, kind = kind, given = given)
}

# No text in UTF-8 has bytes of zero.
check_no_nul <- function(file, given, call) {
  first <- readBin(file, "raw", 4096)
  if (any(first[1:2] %in% as.raw(c(0xff, 0xfe))) || !any(first == as.raw(0))) return(invisible())
  abort_vandro(
    c(
      "File {.file {given}} must be a text table, a Parquet file, a spreadsheet or an .rds file.",
      "x" = "It holds bytes of zero, which no text in UTF-8 does.",
      "i" = "If it is text in UTF-16, read it with {.code encoding = \"UTF-16LE\"}; else export it as a CSV file."
    ),
    "file",
    file = given, call = call
  )
}

abort_unreadable <- function(file, kind, e, call) {
  said <- conditionMessage(e)
  abort_vandro(
    c("File {.file {file}} could not be read as {kind}.", "x" = "{said}"), "file",
    file = file, call = call
  )
}

check_some_bytes <- function(file, given, call) {
  if (file.size(file) > 0) return(invisible())
  abort_vandro(
    c("File {.file {given}} is empty.", "i" = "It has no bytes: export it again."),
    "empty_data",
    file = given, call = call
  )
}

save_stream <- function(input, file) {
  output <- base::file(file, "wb")
  on.exit(close(output))
  repeat {
    bytes <- readBin(input, "raw", 2^20)
    if (length(bytes) == 0) break
    writeBin(bytes, output)
  }
  file
}
