# Answers inside a document of the user's own.

#' Answers in R Markdown
#'
#' In a document that knitr makes, sentences of [narrate()] become paragraphs, ready to stay in the text, and answers,
#' studies and worlds a block of text without comment marks. Nothing in a label is taken for Markdown.
#'
#' @param x An answer, a study, a world, or sentences.
#' @param ... Not used.
#' @return Text for knitr.
#' @name knit_print
#' @section Errors: None of their own.
#' @examplesIf requireNamespace("knitr", quietly = TRUE)
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' cat(knitr::knit_print(narrate(study)))
NULL

#' @rdname knit_print
#' @exportS3Method knitr::knit_print
knit_print.vandro_text <- function(x, ...) {
  knitr::asis_output(paste0("\n\n", paste(markdown_paragraph(unclass(x)), collapse = "\n\n"), "\n\n"))
}

#' @rdname knit_print
#' @exportS3Method knitr::knit_print
knit_print.vandro_answer <- function(x, ...) knit_block(format(x, width = 80))

#' @rdname knit_print
#' @exportS3Method knitr::knit_print
knit_print.vandro_study <- function(x, ...) knit_block(format(x, width = 80))

#' @rdname knit_print
#' @exportS3Method knitr::knit_print
knit_print.vandro_world <- function(x, ...) knit_block(format(x, width = 80))

knit_block <- function(lines) knitr::asis_output(paste(c("", "", fence_lines(lines), "", ""), collapse = "\n"))

# Text that Markdown shows as it is. Brackets stay as they are, unless what follows would make a link of them: a
# backslash before one would open a formula in R Markdown, so these and backslashes become entities.
markdown_plain <- function(text) {
  text <- gsub("[[:space:]]+", " ", enc2utf8(text))
  text <- gsub("\\", "\u0001", text, fixed = TRUE)
  text <- gsub("([`*_{}<>$^~#|@&!'\"])", "\\\\\\1", text)
  # Nor would dashes and dots stay what they are.
  text <- gsub("...", "..\\.", gsub("(?<=-)-", "\\\\-", text, perl = TRUE), fixed = TRUE)
  text <- gsub("\u0001", "&#92;", text, fixed = TRUE)
  # A word with a colon could become a live address.
  text <- gsub("([A-Za-z][A-Za-z0-9+.-]*):(?=[^\\s:])", "\\1&#58;", text, perl = TRUE)
  for (sign in c(":", "[", "(")) {
    text <- gsub(paste0("]", sign), sprintf("]&#%d;", utf8ToInt(sign)), text, fixed = TRUE)
  }
  # A bracket without its partner would look for one in all that follows.
  alone <- !vapply(text, is_balanced, NA)
  text[alone] <- without_brackets(text[alone])
  text
}

is_balanced <- function(text) {
  signs <- utf8ToInt(text)
  depth <- cumsum((signs == 91L) - (signs == 93L))
  length(depth) == 0 || is.na(depth[[1]]) || (min(depth) >= 0 && depth[[length(depth)]] == 0)
}

without_brackets <- function(text) gsub("]", "&#93;", gsub("[", "&#91;", text, fixed = TRUE), fixed = TRUE)

# A paragraph of it: without what would open a list, a definition or an example.
markdown_paragraph <- function(text) {
  text <- sub("^[(]", "&#40;", sub("^([-+:=])", "\\\\\\1", markdown_plain(text)))
  sub("^([0-9]+)([.)])", "\\1\\\\\\2", text)
}
