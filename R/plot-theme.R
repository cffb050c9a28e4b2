# One look for every figure. Built when a figure is made, never stored.

# Two colours told apart by colour-blind readers and, by their lightness, in grey print; the groups
# also differ in shape.
group_colours <- c("#0B5563", "#DD8A2E")
group_shapes <- c(16, 17)
ink <- "#222222"
faint <- "#8C8C8C"

check_base_size <- function(base_size, call = rlang::caller_env()) {
  check_number(base_size, 4, 60, arg = "base_size", call = call)
}

# No frame, and room for long labels.
figure_theme <- function(base_size) {
  text <- ggplot2::element_text
  ggplot2::theme_minimal(base_size = base_size) +
    ggplot2::theme(
      plot.title = text(face = "bold", size = ggplot2::rel(1.1)),
      plot.title.position = "plot",
      plot.caption = text(hjust = 0, colour = "#555555", size = ggplot2::rel(0.8)),
      plot.caption.position = "plot",
      plot.margin = ggplot2::margin(8, 12, 8, 8),
      panel.grid.minor = ggplot2::element_blank(),
      panel.grid.major.y = ggplot2::element_blank(),
      panel.grid.major.x = ggplot2::element_line(colour = "#E9E9E9", linewidth = 0.3),
      axis.text = text(colour = ink),
      axis.text.y = text(hjust = 1, size = ggplot2::rel(1.05)),
      axis.ticks.x = ggplot2::element_line(colour = faint, linewidth = 0.3),
      axis.line.x = ggplot2::element_line(colour = faint, linewidth = 0.3),
      strip.text = text(hjust = 0, face = "bold"),
      legend.position = "none"
    )
}

wrap_label <- function(text, width) {
  vapply(text, function(x) paste(strwrap(x, width), collapse = "\n"), "", USE.NAMES = FALSE)
}

wrap_caption <- function(..., width = 70) paste(strwrap(paste(...), width), collapse = "\n")

#' Figures of studies and answers
#'
#' `autoplot()` returns the figure that belongs to an object as a ggplot, `plot()` shows it and returns
#' the object. The direction, the unit and what each bar is are written on the figure.
#'
#' @param object,x A study, or an answer of [describe_study()], [test_difference()] or
#'   [gauge_effect()].
#' @param ... For methods. `plot()` hands them to `autoplot()`.
#' @param view Which figure; at present `"estimation"` for studies, descriptions and differences:
#'   above, the values of each group with mean and interval; below, on an axis of its own whose zero
#'   lies under the second mean, the difference with its interval. From published numbers the bars
#'   are the means' intervals and thin lines reach one SD to either side.
#' @param level Confidence of the intervals of a study's figure; an answer's figure uses its own.
#' @param base_size Size of the text in points; marks and lines follow. 11 suits a page, 8 a column of
#'   85 mm.
#' @return `autoplot()`: a ggplot. `plot()`: `x`, invisibly.
#' @section Large data: A group of more than 400 values is drawn as a histogram instead of points.
#' @section Scales: The axis of the difference has the same centimetres per unit as that of the values.
#'   In the figure of [gauge_effect()] the outcome's unit and SD units have a panel each.
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' autoplot(study)
#' autoplot(gauge_effect(study), base_size = 8)
#' @export
autoplot <- function(object, ...) ggplot2::autoplot(object, ...)

#' @rdname autoplot
#' @export
plot.vandro_study <- function(x, ...) {
  print(autoplot(x, ...))
  invisible(x)
}

#' @rdname autoplot
#' @export
plot.vandro_answer <- plot.vandro_study
