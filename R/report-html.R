# Blocks as one self-contained page. Everything passes htmltools, which escapes it.

page_html <- function(page, sources = figure_drawings(page$blocks)) {
  tags <- htmltools::tags
  style <- paste(readLines(system.file("report", "style.css", package = "vandro")), collapse = "\n")
  contents <- html_contents(page$blocks)
  body <- htmltools::tagList(
    tags$header(tags$h1(page$title), tags$p(class = "meta", paste(c(page$author, page$date), collapse = ", "))),
    tags$nav("aria-label" = "Contents", class = "beside", tags$h2("Contents"), contents),
    tags$nav("aria-label" = "Contents", class = "above", tags$details(tags$summary("Contents"), contents)),
    tags$main(html_blocks(page$blocks, sources))
  )
  # The frame is written out: htmltools would move a head it finds inside a page out of it.
  paste(c(
    "<!DOCTYPE html>", "<html lang=\"en\">", "<head>", "<meta charset=\"utf-8\">",
    "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">",
    if (!is.null(page$author)) as.character(tags$meta(name = "author", content = page$author)),
    as.character(tags$title(page$title)), "<style>", style, "</style>", "</head>", "<body>",
    as.character(body), "</body>", "</html>"
  ), collapse = "\n")
}

# Links lead to the parts of a report, or to its chapters and their parts.
html_contents <- function(blocks) {
  tags <- htmltools::tags
  sections <- Filter(function(block) block$type == "section", blocks)
  if (length(sections) == 0) return(NULL)
  tags$ul(lapply(sections, function(block) {
    tags$li(tags$a(href = paste0("#", paste0("part-", block$number)), block$heading), html_contents(block$blocks))
  }))
}

html_blocks <- function(blocks, sources) lapply(blocks, html_block, sources)

html_block <- function(block, sources) {
  tags <- htmltools::tags
  switch(block$type,
    section = tags$section(
      id = paste0("part-", block$number), html_heading(block$heading, block$level), html_blocks(block$blocks, sources)
    ),
    details = tags$details(tags$summary(block$summary), html_blocks(block$blocks, sources)),
    heading = html_heading(block$text, block$level),
    paragraph = tags$p(lapply(block$runs, function(run) {
      text <- html_lines(keep_together(run$text))
      if (run$strong) tags$strong(text) else text
    })),
    table = html_table(block$cells, sprintf("Table %d. %s", block$number, block$caption), block$note),
    figure = tags$figure(
      tabindex = "0",
      sources[[block$number]],
      tags$figcaption(sprintf("Figure %d. %s", block$number, block$legend))
    ),
    items = tags$ul(class = "sources", lapply(block$texts, tags$li)),
    code = tags$pre(tags$code(paste(block$lines, collapse = "\n")))
  )
}

html_heading <- function(text, level) htmltools::tag(paste0("h", min(level, 6)), list(text))

html_lines <- function(text) {
  lines <- strsplit(text, "\n", fixed = TRUE)[[1]]
  if (length(lines) < 2) return(text)
  breaks <- c(rep(list(htmltools::tags$br()), length(lines) - 1), list(NULL))
  Map(function(line, br) list(line, br), lines, breaks)
}

# Text columns to the left, numbers to the right; the first column names the row.
html_table <- function(cells, caption, note = NULL) {
  tags <- htmltools::tags
  class <- ifelse(vapply(cells, is_numeric_column, NA), "number", "text")
  head <- Map(function(name, class) tags$th(scope = "col", class = class, name), names(cells), class)
  body <- lapply(seq_along(cells[[1]]), function(row) {
    values <- lapply(cells, `[[`, row)
    tags$tr(
      tags$th(scope = "row", values[[1]]),
      unname(Map(function(value, class) tags$td(class = class, value), values[-1], class[-1]))
    )
  })
  # A table too wide for a phone is scrolled by itself, with the keyboard too.
  tags$div(
    class = if (length(cells) > 8) "table wide" else "table", tabindex = "0", role = "group", "aria-label" = caption,
    tags$table(tags$caption(tags$span(caption)), tags$thead(tags$tr(unname(head))), tags$tbody(body)),
    if (!is.null(note)) tags$p(class = "note", note)
  )
}

# --- figures inside the page -----------------------------------------------------------------------------

report_figure_width <- 6.5

# Draws every figure of a report and returns the contents of the files: lines of SVG, or bytes.
drawn_figures <- function(blocks, kind, dpi = 220) {
  on_two_cores(blocks_of(blocks, "figure"), function(block) {
    fitted <- fit_figure(block$plot, report_figure_width, kind)
    draft <- tempfile(fileext = paste0(".", kind))
    on.exit(unlink(draft))
    draw_file(fitted, draft, report_figure_width, fitted$height, dpi)
    if (kind == "svg") readLines(draft, encoding = "UTF-8") else readBin(draft, "raw", file.size(draft))
  })
}

# Drawings are part of the page, so that lines and text stay sharp at any size.
figure_drawings <- function(blocks) {
  drawn <- drawn_figures(blocks, "svg")
  lapply(seq_along(drawn), function(i) htmltools::HTML(inside_page(drawn[[i]], i)))
}

# Removes the styles and the size of a drawing, which the page sets (style.css), and makes its ids unique in the page.
inside_page <- function(lines, number) {
  text <- paste(lines[-1], collapse = "\n")
  text <- sub("(?s)<defs>\\s*<style.*?</style>\\s*</defs>\n?", "", text, perl = TRUE)
  text <- sub(" width='[^']*' height='[^']*'", "", text)
  gsub("(id='|url\\(#)cp", sprintf("\\1figure-%d-", number), text)
}

# Word processors get pictures instead of drawings.
figure_pictures <- function(blocks) {
  Map(function(bytes, block) {
    uri <- paste0("data:image/png;base64,", gsub("\n", "", jsonlite::base64_enc(bytes)))
    htmltools::tags$img(src = uri, alt = block$alt)
  }, drawn_figures(blocks, "png"), blocks_of(blocks, "figure"))
}

# --- Word --------------------------------------------------------------------------------------------------

need_pandoc <- function(call = rlang::caller_env()) {
  need_package("rmarkdown", "to write Word files", call)
  if (rmarkdown::pandoc_available()) return(invisible())
  abort_vandro(
    c("pandoc is needed to write Word files.", "i" = "Install it, or write {.val .html}: word processors read it."),
    "package_missing",
    call = call
  )
}

# By pandoc, from the page with figures as points; its time stamps are those of the date that is printed.
write_page_word <- function(page, file, call) {
  sources <- figure_pictures(page$blocks)
  page$blocks <- doc_blocks(doc_paragraph(paste(c(page$author, page$date), collapse = ", ")), page$blocks)
  text <- page_html(page, sources)
  # The title is in the head, from where pandoc takes it.
  text <- sub("<header>.*?</header>", "", text)
  # Pandoc would take the caption of a figure for its text alternative.
  text <- gsub(
    "(?s)<figure[^>]*>\\s*<img( [^>]*)/>\\s*<figcaption>(.*?)</figcaption>\\s*</figure>",
    "<p><img width=\"6.2in\"\\1/></p><p>\\2</p>", text,
    perl = TRUE
  )
  text <- sub("<meta name=\"author\"[^>]*>", "", gsub("(?s)<nav .*?</nav>", "", text, perl = TRUE))
  convert_to_word(text, ".html", file, page$date, call)
}

convert_to_word <- function(text, ending, file, date = NULL, call = rlang::caller_env()) {
  source <- tempfile(fileext = ending)
  on.exit(unlink(source))
  write_whole_text(source, text, call)
  day <- tryCatch(as.numeric(as.POSIXct(date %||% "2000-01-01", tz = "UTC")), error = function(e) 946684800)
  write_whole(file, function(draft) {
    # pandoc works in the folder of its source.
    whole <- file.path(normalizePath(dirname(draft)), basename(draft))
    before <- Sys.getenv("SOURCE_DATE_EPOCH", NA)
    on.exit(if (is.na(before)) Sys.unsetenv("SOURCE_DATE_EPOCH") else Sys.setenv(SOURCE_DATE_EPOCH = before))
    Sys.setenv(SOURCE_DATE_EPOCH = format_plain(max(day, 315532800), scientific = FALSE))
    from <- if (ending == ".html") "html" else "markdown"
    rmarkdown::pandoc_convert(source, from = from, output = whole)
  }, call = call)
}
