# Figures on the screen: their text fits the device that they are printed on.

#' @rdname autoplot
#' @param newpage,vp As for any figure of ggplot2.
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

# So that ggplot2::ggsave() fits it too.
#' @exportS3Method grid::grid.draw
grid.draw.vandro_figure <- function(x, recording = TRUE) print(x, newpage = FALSE)
