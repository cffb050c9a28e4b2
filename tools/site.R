# Builds the documentation as a site of static pages in site/, without a network, and makes the pages need none either:
# formulas become MathML, what they would fetch from elsewhere (search, fonts of icons) is left out.
library(pkgdown)
options(pkgdown.internet = FALSE)
build_site(".", examples = TRUE, devel = FALSE, lazy = FALSE, install = FALSE, new_process = FALSE, preview = FALSE)

pages <- list.files("site", "[.]html$", recursive = TRUE, full.names = TRUE)
texts <- lapply(pages, function(page) paste(readLines(page, encoding = "UTF-8", warn = FALSE), collapse = "\n"))

inline <- "\\\\\\((?s:.*?)\\\\\\)"
block <- "[$]{2}(?s:.*?)[$]{2}"
found <- unique(unlist(lapply(texts, function(text) {
  # Code blocks may hold either sign.
  bare <- gsub("<pre.*?</pre>|<script.*?</script>", "", text, perl = TRUE)
  unlist(regmatches(bare, gregexpr(paste0(inline, "|", block), bare, perl = TRUE)))
})))
as_mathml <- function(formulas) {
  plain <- gsub("&lt;", "<", gsub("&gt;", ">", gsub("&amp;", "&", formulas, fixed = TRUE), fixed = TRUE), fixed = TRUE)
  plain <- gsub("\\s+", " ", gsub("<[^>]*>", "", plain))
  body <- trimws(gsub("^([$]{2}|\\\\[(])|([$]{2}|\\\\[)])$", "", plain))
  # Rd escapes, and markup inside of formulas, that TeX does not know.
  body <- gsub("\\\\code\\{([^}]*)\\}", "\\\\mathrm{\\1}", body)
  source <- tempfile(fileext = ".md")
  display <- startsWith(plain, "$$")
  sign <- ifelse(display, "$$", "$")
  writeLines(enc2utf8(paste0(sign, body, sign, "\n\n@@@\n")), source, useBytes = TRUE)
  out <- system2("pandoc", c("-f", "markdown", "-t", "html", "--mathml", "--wrap=none", source), stdout = TRUE)
  parts <- strsplit(paste(out, collapse = "\n"), "\\s*<p>@@@</p>\\s*")[[1]]
  gsub("^\\s*<p>|</p>\\s*$", "", parts)
}
if (length(found)) {
  written <- as_mathml(found)
  stopifnot(length(written) == length(found))
  texts <- lapply(texts, function(text) {
    for (i in seq_along(found)) text <- gsub(found[[i]], written[[i]], text, fixed = TRUE)
    text
  })
}
# "On this page" is filled by a script that may be among what is left out: then by its headings here.
with_contents <- function(text) {
  if (grepl("<script[^>]*bootstrap-toc", text)) return(text)
  heading <- "<h2 id=\"([^\"]+)\"[^>]*>(.*?)<a class=\"anchor\""
  found <- regmatches(text, gregexpr(heading, text, perl = TRUE))[[1]]
  names <- trimws(gsub("<[^>]*>", "", sub(heading, "\\2", found, perl = TRUE)))
  links <- sprintf("<li class=\"mb-1\"><a href=\"#%s\">%s</a></li>", sub(heading, "\\1", found, perl = TRUE), names)
  list <- paste(c("<ul class=\"list-unstyled\">", links, "</ul>"), collapse = "\n")
  nav <- "(<nav id=\"toc\"[^>]*>\\s*<h2[^>]*>[^<]*</h2>)(?s:.*?)</nav>"
  filled <- if (length(found)) paste0("\\1\n", gsub("\\", "\\\\", list, fixed = TRUE), "</nav>") else ""
  sub(nav, filled, text, perl = TRUE)
}
for (i in seq_along(pages)) {
  text <- gsub("<(script|link)[^>]*(src|href)=\"(https?|file)://[^>]*>(\\s*</script>)?", "", texts[[i]], perl = TRUE)
  text <- gsub("<form[^>]*role=\"search\"(?s:.*?)</form>", "", text, perl = TRUE)
  writeLines(enc2utf8(with_contents(text)), pages[[i]], useBytes = TRUE)
}

# The pictures of the README, from where it looks for them.
for (picture in list.files("docs/screenshots", full.names = TRUE)) {
  place <- file.path("site", dirname(picture))
  dir.create(place, recursive = TRUE, showWarnings = FALSE)
  file.copy(picture, place, overwrite = TRUE)
}
