# Blocks as Markdown and as a part of a LaTeX document, with their figures in a folder beside the file.

# The folder of figures takes its place when the text is there in whole, beside its final name.
write_page_beside <- function(page, file, overwrite, call) {
  latex <- file_ending(file) == "tex"
  # Named after both, so that a report in either format keeps its own.
  folder <- sub("[.]([^.]*)$", "-\\1-figures", basename(file))
  figures <- drawn_figures(page$blocks, if (latex) "pdf" else "png")
  names <- sprintf("figure-%d.%s", seq_along(figures), if (latex) "pdf" else "png")
  paths <- file.path(folder, names)
  lines <- if (latex) page_latex(page, paths) else page_markdown(page, paths)
  place <- file.path(dirname(file), folder)
  if (length(figures)) check_figure_folder(place, overwrite, call)
  write_whole(file, function(draft) {
    put_text(draft, lines)
    if (length(figures)) write_figures(figures, place, names, overwrite, call)
  }, call)
}

# Only figures of an earlier report are replaced, and only if that is asked for.
check_figure_folder <- function(folder, overwrite, call) {
  there <- list.files(folder, all.files = TRUE, no.. = TRUE)
  foreign <- there[!grepl("^figure-[0-9]+[.](png|pdf)$", there)]
  if (file.exists(folder) && (!overwrite || length(foreign))) {
    way_out <- if (length(foreign)) "." else ", or say {.code overwrite = TRUE}."
    abort_vandro(
      c(
        "The folder for the figures, {.file {folder}}, exists already and was left as it is.",
        "x" = if (length(foreign)) "It holds other files: {.file {foreign[[1]]}}.",
        "i" = paste0("Choose another name, or move it away", way_out)
      ),
      "file_exists",
      file = folder, call = call
    )
  }
}

write_figures <- function(figures, folder, names, overwrite, call) {
  write_whole_folder(folder, function(draft) {
    for (i in seq_along(figures)) writeBin(figures[[i]], file.path(draft, names[[i]]))
  }, call, function() check_figure_folder(folder, overwrite, call))
}

# --- Markdown ------------------------------------------------------------------------------------------------

page_markdown <- function(page, paths) {
  about <- paste(c(page$author, page$date), collapse = ", ")
  c(
    paste("#", markdown_plain(page$title)), "", markdown_paragraph(about), "",
    unlist(lapply(page$blocks, markdown_block, paths))
  )
}

markdown_block <- function(block, paths) {
  switch(block$type,
    section = c(
      paste(strrep("#", block$level), markdown_plain(block$heading)), "",
      unlist(lapply(block$blocks, markdown_block, paths))
    ),
    details = unlist(lapply(block$blocks, markdown_block, paths)),
    heading = c(paste(strrep("#", block$level), markdown_plain(block$text)), ""),
    paragraph = c(markdown_runs(block$runs), ""),
    table = c(
      markdown_paragraph(sprintf("Table %d. %s", block$number, block$caption)), "", markdown_table(block$cells), "",
      if (!is.null(block$note)) c(markdown_paragraph(block$note), "")
    ),
    figure = c(
      sprintf("![%s](<%s>)", markdown_alt(block$alt), gsub("([<>\\\\])", "\\\\\\1", paths[[block$number]])), "",
      markdown_paragraph(sprintf("Figure %d. %s", block$number, block$legend)), ""
    ),
    items = c(paste("-", markdown_paragraph(block$texts)), ""),
    code = c(fence_lines(block$lines), "")
  )
}

# The text in place of a figure ends at the first bracket that is closed.
markdown_alt <- function(alt) {
  without_brackets(markdown_plain(alt))
}

# Line breaks of the user's own become hard ones; strong text has no blanks at its ends.
markdown_runs <- function(runs) {
  pieces <- vapply(seq_along(runs), function(i) {
    lines <- strsplit(runs[[i]]$text, "\n", fixed = TRUE)[[1]]
    edge <- regmatches(runs[[i]]$text, regexpr("[[:space:]]*$", runs[[i]]$text))
    # Only what begins a line could be taken for a list.
    plain <- markdown_paragraph(lines)
    if (i > 1) plain[[1]] <- markdown_plain(lines[[1]])
    plain <- trimws(plain)
    text <- paste(plain, collapse = "\\\n")
    lead <- if (i > 1 && grepl("^[[:space:]]", runs[[i]]$text)) " " else ""
    paste0(lead, if (runs[[i]]$strong) paste0("**", text, "**") else text, if (nzchar(edge)) " " else "")
  }, "")
  trimws(paste(pieces, collapse = ""))
}

markdown_table <- function(cells) {
  plain <- lapply(cells, markdown_plain)
  # Intervals are not to be parted by the end of a line.
  numeric <- numeric_columns(cells)
  plain[numeric] <- lapply(plain[numeric], function(column) gsub(" ", "\u00a0", column, fixed = TRUE))
  line <- function(values) paste0("| ", paste(values, collapse = " | "), " |")
  # Of wide tables pandoc takes the dashes for the shares of the columns.
  dashes <- strrep("-", vapply(cells, function(column) min(60, max(nchar(column), 3)), 0))
  c(
    line(markdown_plain(names(cells))), line(ifelse(numeric, paste0(dashes, ":"), paste0(":", dashes))),
    do.call(paste0, list("| ", do.call(paste, c(unname(plain), sep = " | ")), " |"))
  )
}

# A block of text, fenced by more tildes than it holds. (Back-ticks knitr would join with the code before.)
fence_lines <- function(lines) {
  runs <- regmatches(lines, gregexpr("~+", lines))
  fence <- strrep("~", max(3, nchar(unlist(runs)) + 1))
  c(fence, enc2utf8(lines), fence)
}

# --- LaTeX ---------------------------------------------------------------------------------------------------

page_latex <- function(page, paths) {
  c(
    "% A part of a document that uses the packages graphicx and longtable.",
    sprintf("\\section{%s}", latex_plain(page$title)),
    sprintf("\\noindent %s\n", latex_plain(paste(c(page$author, page$date), collapse = ", "))),
    unlist(lapply(page$blocks, latex_block, paths))
  )
}

latex_heading <- function(text, level) {
  command <- c("section", "subsection", "subsubsection", "paragraph", "subparagraph")[[min(level, 5)]]
  sprintf("\\%s{%s}", command, latex_plain(text))
}

latex_block <- function(block, paths) {
  switch(block$type,
    section = c(latex_heading(block$heading, block$level), unlist(lapply(block$blocks, latex_block, paths))),
    details = unlist(lapply(block$blocks, latex_block, paths)),
    heading = latex_heading(block$text, block$level),
    paragraph = c(paste(vapply(block$runs, function(run) {
      text <- paste(latex_plain(strsplit(run$text, "\n", fixed = TRUE)[[1]]), collapse = "\\\\\n")
      if (run$strong) sprintf("\\textbf{%s}", text) else text
    }, ""), collapse = ""), ""),
    table = latex_long_table(block),
    # Not afloat: figures and tables stand where they are spoken of.
    figure = c(
      "\\par\\medskip\\noindent\\begin{minipage}{\\linewidth}",
      sprintf("\\includegraphics[width=\\linewidth]{%s}", paths[[block$number]]),
      sprintf("\\par\\smallskip\\small %s", latex_plain(sprintf("Figure %d. %s", block$number, block$legend))),
      "\\end{minipage}\\par\\medskip", ""
    ),
    items = c("\\begin{itemize}", paste("\\item", latex_plain(block$texts)), "\\end{itemize}", ""),
    code = c(
      "{\\ttfamily\\small\\raggedright\\noindent",
      paste0(gsub("^$", "\\\\strut", latex_plain(block$lines)), "\\\\"), "\\par}", ""
    )
  )
}

# Long texts share what short columns leave of the line; of many columns those with several words are broken.
latex_columns <- function(cells) {
  longest <- vapply(seq_along(cells), function(i) max(nchar(c(names(cells)[[i]], cells[[i]]), "width")), 0)
  long <- longest > if (sum(longest) > 80) 12 else 20
  if (!any(long)) return(paste(ifelse(numeric_columns(cells), "r", "l"), collapse = ""))
  left <- max(0.3, 0.96 - 0.013 * sum(longest[!long]) - 0.018 * length(cells))
  share <- left * sqrt(longest[long]) / sum(sqrt(longest[long]))
  kinds <- ifelse(numeric_columns(cells), "r", "l")
  kinds[long] <- sprintf("p{%.3f\\linewidth}", share)
  paste(kinds, collapse = "")
}

latex_rows <- function(cells) {
  plain <- lapply(cells, latex_plain)
  row <- function(values) paste(paste(values, collapse = " & "), "\\\\")
  body <- vapply(seq_along(plain[[1]]), function(i) row(vapply(plain, `[[`, "", i)), "")
  list(head = row(latex_plain(names(cells))), body = body)
}

# One table for a document, afloat.
latex_table <- function(cells, caption, note) {
  rows <- latex_rows(cells)
  c(
    "\\begin{table}", sprintf("\\caption{%s}", latex_plain(caption)), "\\footnotesize\\setlength{\\tabcolsep}{3pt}",
    sprintf("\\begin{tabular}{%s}", latex_columns(cells)), "\\hline", rows$head, "\\hline", rows$body, "\\hline",
    "\\end{tabular}", sprintf("\\par\\smallskip\\footnotesize %s", latex_plain(note)), "\\end{table}"
  )
}

# In a report, over as many pages as it takes.
latex_long_table <- function(block) {
  rows <- latex_rows(block$cells)
  c(
    sprintf("\\par\\medskip\\noindent\\textbf{%s}\\nopagebreak", latex_plain(
      sprintf("Table %d. %s", block$number, block$caption)
    )),
    "{\\footnotesize\\setlength{\\tabcolsep}{3pt}\\setlength{\\LTleft}{0pt}",
    "\\setlength{\\LTpre}{2pt}\\setlength{\\LTpost}{2pt}",
    sprintf("\\begin{longtable}{%s}", latex_columns(block$cells)), "\\hline", rows$head, "\\hline\\endhead", rows$body,
    "\\hline", "\\end{longtable}",
    if (!is.null(block$note)) sprintf("\\noindent %s\\par", latex_plain(block$note)), "}\\medskip", ""
  )
}

latex_plain <- function(text) {
  out <- gsub("[[:space:]]+", " ", enc2utf8(text))
  out <- gsub("\\", "\u0001", out, fixed = TRUE)
  out <- gsub("([&%$#_{}])", "\\\\\\1", out)
  special <- c(
    "~" = "\\textasciitilde{}", "^" = "\\textasciicircum{}", "<" = "\\textless{}", ">" = "\\textgreater{}",
    "|" = "\\textbar{}", "`" = "\\textasciigrave{}", "\"" = "{\\ttfamily\\char34}", "--" = "-{}-",
    "\u0001" = "\\textbackslash{}"
  )
  for (what in names(special)) out <- gsub(what, special[[what]], out, fixed = TRUE)
  out
}
