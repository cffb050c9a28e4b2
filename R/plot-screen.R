# Figures on the screen fit their text to the device on which they are printed.

#' @rdname autoplot
#' @param newpage,vp If `newpage` is `TRUE`, the figure starts a new page; `vp` is the grid viewport to draw into.
#' @export
print.vandro_figure <- function(x, newpage = is.null(vp), vp = NULL, ...) {
  if (!is.null(vp)) return(NextMethod())
  if (newpage) grid::grid.newpage()
  width <- grid::convertWidth(grid::unit(1, "npc"), "inches", valueOnly = TRUE)
  grid::grid.draw(fit_plot(x, width)$grob)
  ggplot2::set_last_plot(x)
  invisible(x)
}

#' @rdname autoplot
#' @export
plot.vandro_figure <- function(x, ...) print(x, ...)

# ggplot2::ggsave() draws a figure in this way.
#' @exportS3Method grid::grid.draw
grid.draw.vandro_figure <- function(x, recording = TRUE) print(x, newpage = FALSE)
