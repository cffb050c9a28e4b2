# A report as a list of blocks, without any file format. What blocks there are:
#   section    heading, level (1 the title's, 2, ...), blocks; of a study's chapter part, its name
#   details    summary, blocks: folded away where the format can fold
#   heading    text, level: a heading inside a section
#   paragraph  runs: pieces of text, strong or not; a line break inside a piece is one on paper
#   table      cells (named list of columns), caption, note
#   figure     plot, legend, alt
#   items      texts of a list
#   code       lines
# Only the writers (report-html.R, report-markdown.R) know how these look in a file, and escape.

doc_section <- function(heading, ..., level = 2) {
  list(type = "section", heading = heading, level = level, blocks = doc_blocks(...))
}

# Blocks that a reader opens on request; in print, Word and LaTeX they stand open.
doc_details <- function(summary, ...) list(type = "details", summary = summary, blocks = doc_blocks(...))

holds_blocks <- function(block) block$type %in% c("section", "details")

# Blocks, lists of blocks and NULL in any order.
doc_blocks <- function(...) {
  unlist(lapply(list(...), function(x) {
    if (is.null(x)) list() else if (!is.null(x$type)) list(x) else do.call(doc_blocks, x)
  }), recursive = FALSE)
}

doc_heading <- function(text, level = 3) list(type = "heading", text = text, level = level)

# Pieces of text; those named `strong` are.
doc_paragraph <- function(...) {
  pieces <- list(...)
  strong <- (names(pieces) %||% rep("", length(pieces))) == "strong"
  runs <- lapply(seq_along(pieces), function(i) list(text = pieces[[i]], strong = strong[[i]]))
  list(type = "paragraph", runs = runs)
}

doc_paragraphs <- function(texts) lapply(as.character(texts), doc_paragraph)

doc_table <- function(cells, caption, note = NULL) {
  list(type = "table", cells = lapply(cells, as.character), caption = caption, note = note)
}

# Title and caption of a figure become text below it, in every format.
doc_figure <- function(plot) {
  list(type = "figure", plot = without_legend(plot), legend = figure_legend(plot), alt = plot$labels$alt)
}

doc_items <- function(texts) list(type = "items", texts = as.character(texts))

doc_code <- function(lines) list(type = "code", lines = lines)

# Text of the user's own: blank lines part paragraphs, single line breaks stay.
doc_own_text <- function(text) {
  if (is.null(text)) return(NULL)
  text <- gsub("\r\n?", "\n", paste(text, collapse = "\n\n"))
  pieces <- trimws(strsplit(text, "\n[ \t]*\n[ \t\n]*", perl = TRUE)[[1]], whitespace = "[ \t\r\n]")
  doc_paragraphs(pieces[nzchar(pieces)])
}

# Figures, tables and sections are numbered through the whole report.
number_blocks <- function(blocks) {
  count <- c(figure = 0, table = 0, section = 0)
  walk <- function(blocks) {
    lapply(blocks, function(block) {
      if (block$type %in% names(count)) {
        count[[block$type]] <<- count[[block$type]] + 1
        block$number <- count[[block$type]]
      }
      if (holds_blocks(block)) block$blocks <- walk(block$blocks)
      block
    })
  }
  walk(blocks)
}

# Every block of one type, in order.
blocks_of <- function(blocks, type) {
  unlist(lapply(blocks, function(block) {
    if (holds_blocks(block)) blocks_of(block$blocks, type) else if (block$type == type) list(block)
  }), recursive = FALSE)
}

# Deeper by one: what is a section of a report of its own is one of a chapter here.
nest_blocks <- function(blocks) {
  lapply(blocks, function(block) {
    if (!is.null(block$level)) block$level <- block$level + 1
    if (holds_blocks(block)) block$blocks <- nest_blocks(block$blocks)
    block
  })
}

# Limits read "1.89 to 5.02", "3.46 [1.89, 5.02]": numbers too.
is_numeric_column <- function(column) all(grepl("^[-0-9.,;e+ to%<>()\\[\\]]*$", column, perl = TRUE))
numeric_columns <- function(cells) vapply(cells, is_numeric_column, NA)

study_title <- function(study) {
  if (!is.null(study$each) || length(study$outcomes) > most_blocks) {
    return(sprintf("%s: %s", many_title(study), study_direction(study)))
  }
  labels <- vapply(study$outcomes, function(outcome) inside_sentence(outcome$label), "")
  sprintf("%s: %s", capital(paste(labels, collapse = ", ")), study_direction(study))
}
