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
  size <- 0.7 * x$base_size
  width <- grid::convertWidth(grid::unit(1, "npc"), "pt", valueOnly = TRUE)
  caption <- strwrap(x$caption, max(20, (width - 16) / (0.5 * size)))
  title <- strsplit(x$title, "\n", fixed = TRUE)[[1]]
  rows <- x$rows
  heights <- grid::unit.c(
    grid::unit((length(title) + 0.6) * 1.35 * x$base_size, "pt"),
    grid::unit(x$heights[seq_along(rows)], "null"), grid::unit((length(caption) + 1) * 1.3 * size, "pt")
  )
  last <- length(rows) + 2
  grid::pushViewport(grid::viewport(layout = grid::grid.layout(last, 2, heights = heights)))
  page_text(title, 1, 1.1 * x$base_size, fontface = "bold")
  for (i in seq_along(rows)) {
    for (j in seq_along(rows[[i]])) {
      columns <- if (length(rows[[i]]) == 1) 1:2 else j
      place <- grid::viewport(layout.pos.row = i + 1, layout.pos.col = columns)
      print(x$plots[[rows[[i]][[j]]]], vp = place)
    }
  }
  page_text(caption, last, size, col = "#555555")
  grid::popViewport()
  invisible(x)
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
