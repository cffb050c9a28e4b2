# Spreadsheets: every cell is taken as it is, and the type of a column is decided from all of them.

# More cells than this are no table of measurements but one stray cell far away.
most_cells <- 5e7

# A column of cells, each of its own type. Cells of different types become text, and text means what it would in a text
# file: blanks at its ends do not count, and nothing, or NA, is a missing value.
from_cells <- function(cells) {
  kind <- vapply(cells, function(cell) {
    if (length(cell) == 0 || is.na(cell)) return("blank")
    if (is.character(cell) && trimws(cell) %in% c("", "NA")) "blank" else class(cell)[[1]]
  }, "", USE.NAMES = FALSE)
  known <- unique(kind[kind != "blank"])
  cells[kind == "blank"] <- NA
  if (length(known) == 0) return(rep(NA, length(cells)))
  if (length(known) == 1 && known != "character") return(cells_of(cells, known))
  out <- rep(NA_character_, length(cells))
  for (one in known) {
    at <- kind == one
    out[at] <- cell_text(cells_of(cells[at], one))
  }
  as_meant(out)
}

# Days without a time of day are dates.
cells_of <- function(cells, kind) {
  if (kind != "POSIXct") return(unlist(cells))
  seconds <- vapply(cells, as.double, 0)
  if (all(seconds %% 86400 == 0, na.rm = TRUE)) return(as.Date(seconds / 86400, origin = "1970-01-01"))
  as.POSIXct(seconds, origin = "1970-01-01", tz = "UTC")
}

cell_text <- function(x) {
  if (inherits(x, "POSIXct")) {
    text <- format(x, "%Y-%m-%d %H:%M:%S", tz = "UTC")
    return(sub(" 00:00:00$", "", text))
  }
  if (!is.numeric(x)) return(trimws(as.character(x)))
  short <- number_text(x)
  ifelse(as.numeric(short) == x, short, exact_number(x))
}

# Refuses a sheet whose cells span more than a table can, before anything of that size is made.
check_sheet_size <- function(opened, sheet, call) {
  file <- opened$given
  xml <- tryCatch(suppressWarnings(sheet_xml(opened$file, sheet)), error = function(e) NULL)
  if (is.null(xml)) return(invisible())
  at <- gregexpr(' r="[A-Z]{1,3}[0-9]{1,7}"', xml, useBytes = TRUE)
  named <- unique(substring(regmatches(xml, at)[[1]], 5))
  if (length(named) == 0) return(invisible())
  named <- sub('"', "", named, fixed = TRUE)
  row <- as.numeric(gsub("[A-Z]", "", named))
  word <- gsub("[0-9]", "", named)
  place <- vapply(strsplit(unique(word), ""), function(letter) {
    sum(match(letter, LETTERS) * 26^(rev(seq_along(letter)) - 1))
  }, 0)
  column <- place[match(word, unique(word))]
  rows <- diff(range(row)) + 1
  columns <- diff(range(column)) + 1
  if (rows * columns <= most_cells) return(invisible())
  limit <- format_plain(most_cells, big.mark = " ", scientific = FALSE)
  far <- named[[which.max(rank(row) + rank(column))]]
  abort_vandro(
    c(
      "The sheet of {.file {file}} must span at most {limit} cells.",
      "x" = "It spans {rows} rows and {columns} columns; the cell farthest out is {far}.",
      "i" = "Delete what stands outside the table, or save the table as a CSV file."
    ),
    "too_large",
    file = file, cell = far, call = call
  )
}

# The XML of one sheet, by name or number.
sheet_xml <- function(file, sheet) {
  part <- function(name) {
    connection <- unz(file, name, "rb")
    on.exit(close(connection))
    pieces <- list()
    repeat {
      piece <- readBin(connection, "raw", 1e7)
      if (length(piece) == 0) break
      pieces[[length(pieces) + 1]] <- piece
    }
    rawToChar(unlist(pieces))
  }
  tags <- function(xml, tag) regmatches(xml, gregexpr(sprintf("<%s [^>]*>", tag), xml, useBytes = TRUE))[[1]]
  value <- function(tag, name) sub(sprintf('.* %s="([^"]*)".*', name), "\\1", tag, useBytes = TRUE)
  sheets <- tags(part("xl/workbook.xml"), "sheet")
  at <- if (is.numeric(sheet)) sheet else match(sheet, readxl::excel_sheets(file))
  relations <- tags(part("xl/_rels/workbook.xml.rels"), "Relationship")
  target <- value(relations[value(relations, "Id") == value(sheets[[at]], "r:id")], "Target")
  part(if (startsWith(target, "/")) substring(target, 2) else paste0("xl/", target))
}
