# Aligned columns and wrapped lines for the console.

# `cells`: named list of character columns. Text to the left, numbers to the right. Where lines would be
# longer than `width` the last column is wrapped.
text_table <- function(cells, indent = 2, gap = 2, width = Inf) {
  if (length(cells) == 0) return(character())
  cells <- wrap_last(cells, indent, gap, width)
  columns <- Map(function(name, column) {
    column <- enc2utf8(column)
    column[is.na(column)] <- ""
    all_numbers <- all(grepl("^[-+0-9.,eE ]*$|^to$", column))
    cli::ansi_align(c(name, column),
      width = max(cli::ansi_nchar(c(name, column), "width")),
      align = if (all_numbers) "right" else "left"
    )
  }, names(cells), cells)
  lines <- do.call(paste, c(unname(columns), sep = strrep(" ", gap)))
  sub(" +$", "", paste0(strrep(" ", indent), lines))
}

wrap_last <- function(cells, indent, gap, width) {
  last <- length(cells)
  used <- vapply(names(cells)[-last], function(name) {
    max(cli::ansi_nchar(c(name, enc2utf8(cells[[name]])), "width"))
  }, 0)
  room <- width - indent - sum(used + gap)
  if (room < 20 || all(cli::ansi_nchar(cells[[last]], "width") <= room)) return(cells)
  pieces <- lapply(cells[[last]], wrap_lines, room)
  lines <- pmax(1, lengths(pieces))
  first <- cumsum(c(1, utils::head(lines, -1)))
  spread <- function(column) replace(rep("", sum(lines)), first, column)
  out <- lapply(cells[-last], spread)
  out[[names(cells)[[last]]]] <- unlist(pieces)
  out
}

# Lines of at most this width, in which a number stays with what it is of.
wrap_lines <- function(text, width, ...) {
  gsub("\u00a0", " ", as.character(cli::ansi_strwrap(keep_together(text), width, ...)), fixed = TRUE)
}

# "Label   text", wrapped with a hanging indent.
text_entry <- function(label, text, width, indent = 2, label_width = 12) {
  lead <- paste0(strrep(" ", indent), formatC(label, width = -label_width))
  body <- wrap_lines(text, max(30, width - indent - label_width))
  paste0(c(lead, rep(strrep(" ", indent + label_width), length(body) - 1)), body)
}

heading_line <- function(title, direction) paste0(title, ", ", direction)

emit <- function(lines) cat(lines, sep = "\n")

entries <- function(label, texts, width) unlist(lapply(texts, text_entry, label = label, width = width))
