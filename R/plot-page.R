# Several figures on one page, under one title and over one caption.

# The look of a figure on a page: smaller text, without title and caption of its own.
page_part <- function(look) {
  look$title <- ""
  look$caption <- ""
  look$base_size <- 0.85 * look$base_size
  look
}

# Figures stand two beside each other in the first row, the others below; or, `stacked`, one below the other.
new_page <- function(plots, look, caption, stacked = FALSE) {
  views <- names(plots)
  rows <- if (stacked || length(views) == 1) as.list(views) else Filter(length, list(views[1:2], views[-(1:2)]))
  alt <- paste(vapply(plots, function(plot) plot$labels$alt, ""), collapse = " ")
  structure(
    list(
      plots = plots, rows = rows, heights = if (stacked) c(1, 1.2) else c(1.15, 1), title = look$title,
      caption = look$caption %||% caption, base_size = look$base_size, labels = list(alt = alt)
    ),
    class = "vandro_page"
  )
}

#' @rdname autoplot
#' @export
print.vandro_page <- function(x, ...) {
  grid::grid.newpage()
  width <- grid::convertWidth(grid::unit(1, "npc"), "pt", valueOnly = TRUE)
  text <- page_text_lines(x, width)
  shape <- page_rows(x, width)
  rows <- shape$rows
  heights <- grid::unit.c(
    grid::unit(text$title_room, "pt"), grid::unit(shape$heights, "null"), grid::unit(text$caption_room, "pt")
  )
  last <- length(rows) + 2
  grid::pushViewport(grid::viewport(layout = grid::grid.layout(last, 2, heights = heights)))
  page_text(text$title, 1, 1.1 * x$base_size, fontface = "bold")
  for (i in seq_along(rows)) {
    for (j in seq_along(rows[[i]])) {
      part_width <- page_part_width(x, rows[[i]], rows, width / 72)
      columns <- if (part_width < width / 72) j else 1:2
      name <- rows[[i]][[j]]
      grid::pushViewport(grid::viewport(layout.pos.row = i + 1, layout.pos.col = columns))
      grid::grid.draw(x$grobs[[name]] %||% fit_plot(x$plots[[name]], part_width)$grob)
      grid::upViewport()
    }
  }
  page_text(text$caption, last, 0.7 * x$base_size, col = "#555555")
  grid::popViewport()
  invisible(x)
}

# Title and caption in lines that fit, with the points of height they take.
page_text_lines <- function(x, width) {
  size <- 0.7 * x$base_size
  wrapped <- function(text, size, face) {
    if (nzchar(text)) strsplit(wrap_measured(join_lines(text), (width - 20) / 72, size, face), "\n", fixed = TRUE)[[1]]
  }
  caption <- wrapped(gsub("[[:space:]]+", " ", x$caption), size, "plain")
  title <- wrapped(x$title, 1.1 * x$base_size, "bold")
  room <- function(lines, space, text_size) if (length(lines)) (length(lines) + space) * text_size else 0
  list(
    title = title, caption = caption, title_room = room(title, 0.6, 1.35 * x$base_size),
    caption_room = room(caption, 1, 1.3 * size)
  )
}

# In a column of a journal there is no room for two figures beside each other.
page_rows <- function(x, width) {
  if (width > 340) return(list(rows = x$rows, heights = x$heights[seq_along(x$rows)]))
  list(rows = as.list(seq_along(x$plots)), heights = rep(1, length(x$plots)))
}

# Half the page where two stand beside each other; in a figure of lettered panels all are of one size.
page_part_width <- function(x, row, rows, width) {
  whole <- length(row) == 1 && (!isTRUE(x$even) || max(lengths(rows)) == 1)
  if (whole) width else width / 2
}

page_text <- function(lines, row, size, ...) {
  grid::grid.text(
    paste(lines, collapse = "\n"),
    x = grid::unit(8, "pt"), hjust = 0, vp = grid::viewport(layout.pos.row = row),
    gp = grid::gpar(fontsize = size, lineheight = 1.2, ...)
  )
}

#' @rdname autoplot
#' @export
plot.vandro_page <- function(x, ...) print(x)

# So that ggplot2::ggsave() can write a page.
#' @exportS3Method grid::grid.draw
grid.draw.vandro_page <- function(x, recording = TRUE) print(x)
