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
  caption <- if (nzchar(x$caption)) strwrap(x$caption, max(20, (width - 16) / (0.5 * size)))
  title <- unlist(lapply(
    strsplit(x$title, "\n", fixed = TRUE)[[1]], strwrap, max(15, (width - 16) / (0.68 * x$base_size))
  ))
  room <- function(lines, space, text_size) if (length(lines)) (length(lines) + space) * text_size else 0
  shape <- page_rows(x, width)
  rows <- shape$rows
  heights <- grid::unit.c(
    grid::unit(room(title, 0.6, 1.35 * x$base_size), "pt"),
    grid::unit(shape$heights, "null"), grid::unit(room(caption, 1, 1.3 * size), "pt")
  )
  last <- length(rows) + 2
  grid::pushViewport(grid::viewport(layout = grid::grid.layout(last, 2, heights = heights)))
  page_text(title, 1, 1.1 * x$base_size, fontface = "bold")
  for (i in seq_along(rows)) {
    for (j in seq_along(rows[[i]])) {
      # In a figure of lettered panels all are of one size.
      alone <- length(rows[[i]]) == 1 && !(isTRUE(x$even) && max(lengths(rows)) > 1)
      columns <- if (alone) 1:2 else j
      place <- grid::viewport(layout.pos.row = i + 1, layout.pos.col = columns)
      room_in <- width / 72 / if (alone || max(lengths(rows)) == 1) 1 else 2
      print(fit_text(x$plots[[rows[[i]][[j]]]], room_in), vp = place)
    }
  }
  page_text(caption, last, size, col = "#555555")
  grid::popViewport()
  invisible(x)
}

# In a column of a journal there is no room for two figures beside each other.
page_rows <- function(x, width) {
  if (width > 340) return(list(rows = x$rows, heights = x$heights[seq_along(x$rows)]))
  list(rows = as.list(seq_along(x$plots)), heights = rep(1, length(x$plots)))
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
