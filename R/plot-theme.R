# One look for every figure. Built when a figure is made, never stored.

# Two colours told apart by colour-blind readers and, by their lightness, in grey print; the groups
# also differ in shape.
group_colours <- c("#0B5563", "#DD8A2E")
group_shapes <- c(16, 17)
ink <- "#222222"
faint <- "#8C8C8C"
# Anything other than the two groups has its own colours: two for opposite meanings, a grey for a single series, and a
# darker shade for text.
meaning_colours <- c("#3F4788", "#C9679B")
neutral <- "#66727D"
meaning_text <- "#A63C74"

check_base_size <- function(base_size, call = rlang::caller_env()) {
  check_number(base_size, 4, 60, arg = "base_size", call = call)
}

# What the house has decided about figures, for the time of one call (see with_style()).
with_figures <- function(figures, code) {
  before <- in_force$figures
  on.exit(in_force$figures <- before)
  in_force$figures <- figures %||% before
  force(code)
}

house_look <- function(what) in_force$figures[[what]]

# The theme has no frame and leaves room for long labels. The second element makes a figure fit its text to the screen.
figure_theme <- function(base_size) {
  list(plain_theme(base_size), structure(list(), class = "vandro_fitting"))
}

plain_theme <- function(base_size) {
  text <- ggplot2::element_text
  ggplot2::theme_minimal(base_size = base_size, base_family = house_look("font") %||% "") +
    ggplot2::theme(
      plot.title = text(face = "bold", size = ggplot2::rel(1.1)),
      plot.title.position = "plot",
      plot.caption = text(hjust = 0, colour = "#555555", size = ggplot2::rel(0.8)),
      plot.caption.position = "plot",
      plot.margin = ggplot2::margin(8, 12, 8, 8),
      panel.grid.minor = ggplot2::element_blank(),
      panel.grid.major.y = ggplot2::element_blank(),
      panel.grid.major.x = grid_line(),
      axis.text = text(colour = ink),
      axis.text.y = text(hjust = 1, size = ggplot2::rel(1.05)),
      axis.ticks.x = ggplot2::element_line(colour = faint, linewidth = 0.3),
      axis.line.x = ggplot2::element_line(colour = faint, linewidth = 0.3),
      strip.text = text(hjust = 0, face = "bold"),
      legend.position = "none"
    )
}

#' @exportS3Method ggplot2::ggplot_add
ggplot_add.vandro_fitting <- function(object, plot, ...) {
  class(plot) <- unique(c("vandro_figure", class(plot)))
  plot
}

grid_line <- function() {
  if (isFALSE(house_look("grid"))) return(ggplot2::element_blank())
  ggplot2::element_line(colour = "#E9E9E9", linewidth = 0.3)
}

# Down to zero, each as it is: aligning and stacking, the default, takes a second for a smooth curve.
area_layer <- function(...) ggplot2::geom_area(..., stat = "identity", position = "identity")

wrap_label <- function(text, width) {
  vapply(text, function(x) paste(strwrap(x, width), collapse = "\n"), "", USE.NAMES = FALSE)
}

default_title <- function(outcome, study, lead = "") {
  # One colon in a title.
  wrap_label(paste0(lead, capital(outcome$label), if (nzchar(lead)) ", " else ": ", study_direction(study)), 58)
}

# Wraps the names above panels to the width of a panel.
strip_label <- function(text, panels = 1) wrap_label(text, max(12, floor(62 / panels)))

wrap_caption <- function(..., width = 90) paste(strwrap(paste(c(...), collapse = " "), width), collapse = "\n")

# What the reader of the code may choose about any figure, checked once.
figure_look <- function(base_size, title, caption, palette, call) {
  base_size <- base_size %||% house_look("base_size") %||% 11
  palette <- palette %||% house_look("palette") %||% group_colours
  if (!is.character(palette) || length(palette) != 2 || !are_colours(palette)) {
    example <- "palette = c(\"#0B5563\", \"#DD8A2E\")"
    abort_value(palette, "palette", "must be two colours, first group first", example, call)
  }
  list(
    base_size = check_base_size(base_size, call), title = check_text(title, call = call),
    caption = check_text(caption, call = call), palette = palette
  )
}

are_colours <- function(x) {
  tryCatch(is.matrix(grDevices::col2rgb(x)), error = function(e) FALSE)
}

group_scales <- function(look) {
  list(
    ggplot2::scale_colour_manual(values = look$palette, aesthetics = c("colour", "fill"), drop = FALSE),
    ggplot2::scale_shape_manual(values = group_shapes, drop = FALSE)
  )
}

# The caption says what the bars are; an empty one of the user's own takes it away.
figure_labels <- function(look, caption, alt, ...) {
  own <- look$caption %||% caption
  ggplot2::labs(
    title = if (!identical(look$title, "")) look$title, y = NULL, caption = if (nzchar(own)) own, alt = alt, ...
  )
}

excluded_caption <- function(study, outcome) {
  words <- excluded_words(study, outcome)
  c(if (!is.null(words)) sprintf("Excluded: %s.", words), made_up_sentence(study))
}

most_panels <- 12

abort_view <- function(view, needs, class, call) {
  abort_vandro(c(paste("View {.val {view}} needs", needs)), class, view = view, call = call)
}
