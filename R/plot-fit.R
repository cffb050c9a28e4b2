# Text of a figure that is wider than the paper is wrapped, never cut, and the paper is as high as the figure needs.

# Wraps the text of a figure to this width, builds the figure once for measuring and drawing, and finds the height it
# needs (in inches). `kind` is the ending of the file that the figure is drawn into.
fit_figure <- function(figure, width, kind = "png") {
  # Text is measured on a device of the kind that will be drawn on.
  draft <- tempfile(fileext = paste0(".", kind))
  current <- grDevices::dev.cur()
  open_device(draft, width, width, 72)
  device <- grDevices::dev.cur()
  on.exit({
    close_device(device, current)
    unlink(draft)
  })
  if (inherits(figure, "vandro_page")) return(fit_page(figure, width))
  fitted <- fit_plot(figure, width)
  list(figure = fitted$plot, grob = fitted$grob, height = part_height(fitted, width))
}

fit_page <- function(page, width) {
  rows <- page_rows(page, 72 * width)$rows
  heights <- vapply(rows, function(row) {
    part_width <- page_part_width(page, row, rows, width)
    fitted <- lapply(page$plots[unlist(row)], fit_plot, part_width)
    page$plots[unlist(row)] <<- lapply(fitted, `[[`, "plot")
    page$grobs[names(fitted)] <<- lapply(fitted, `[[`, "grob")
    max(vapply(fitted, part_height, 0, part_width))
  }, 0)
  text <- page_text_lines(page, 72 * width)
  list(figure = page, height = sum(heights) + (text$title_room + text$caption_room) / 72)
}

# Half as high as wide, or a line's room for each row that has a name.
part_height <- function(fitted, width) {
  heights <- fitted$grob$heights
  free <- grid::unitType(heights) == "null"
  text <- sum(grid::convertHeight(heights[!free], "inches", valueOnly = TRUE))
  rows <- marked_rows(fitted$plot, fitted$built)
  drawn <- max(width * if (width < 4.7) 0.55 else 0.4, row_height(fitted$plot) * rows, sum(free) * 0.22 * width)
  min(text + drawn, 12)
}

# A row needs the height of its name, in inches.
row_height <- function(plot) {
  labels <- plot$scales$get_scales("y")$labels
  lines <- if (is.character(labels)) max(lengths(strsplit(labels, "\n", fixed = TRUE))) else 1
  max(0.33, 1.25 * lines * (ggplot2::calc_element("axis.text.y", plot$theme)$size %||% 8) / 72)
}

# Rows with a name each: of a discrete axis, or at places that the figure chose.
marked_rows <- function(plot, built) {
  chosen <- plot$scales$get_scales("y")$breaks
  if (is.numeric(chosen)) return(length(chosen))
  rows <- built$layout$panel_params[[1]]$y$breaks
  if (is.character(rows)) length(rows) else 0
}

# The figure with its title, subtitle, caption and axis titles in lines that `width` (inches) can hold, measured on the
# device that is open, with what ggplot2 made of it. Line breaks after short lines stay.
fit_plot <- function(plot, width) {
  # Only the package's figures have a whole theme of their own, from which sizes can be read.
  session <- usual_printing()
  on.exit(options(session))
  own <- isTRUE(attr(plot$theme, "complete")) && !is.null(plot$theme$plot.title)
  texts <- c(title = "plot.title", subtitle = "plot.subtitle", caption = "plot.caption")
  if (own) plot <- fit_labels(plot, texts, width - 0.3)
  made <- make_plot(plot)
  if (!own) return(made)
  # What the labels beside them leave for the panels.
  widths <- made$grob$widths
  free <- grid::unitType(widths) == "null"
  panels <- max(0.5, width - sum(grid::convertWidth(widths[!free], "inches", valueOnly = TRUE)))
  fitted <- fit_scale(fit_labels(plot, c(x = "axis.title.x"), panels), panels)
  # Building takes longest: only where a title of an axis has changed is it done again.
  if (identical(fitted, plot)) made else make_plot(fitted)
}

make_plot <- function(plot) {
  built <- ggplot2::ggplot_build(plot)
  list(plot = plot, built = built, grob = ggplot2::ggplot_gtable(built))
}

fit_labels <- function(plot, elements, limit) {
  labels <- plot$labels[intersect(names(elements), names(plot$labels))]
  labels <- labels[vapply(labels, function(text) is.character(text) && any(nzchar(text)), NA)]
  fitted <- lapply(stats::setNames(nm = names(labels)), function(name) {
    look <- ggplot2::calc_element(elements[[name]], plot$theme)
    text <- if (name == "x") labels[[name]] else join_lines(labels[[name]])
    wrap_title(text, limit, look$size, look$face, all = name == "x")
  })
  if (identical(fitted, as.list(labels))) plot else plot + do.call(ggplot2::labs, fitted)
}

# Axis titles that a scale holds, its own and that of the axis on the other side.
fit_scale <- function(plot, limit) {
  scale <- plot$scales$get_scales("x")
  other <- scale$secondary.axis
  names <- list(scale$name, if (inherits(other, "AxisSecondary")) other$name)
  sides <- lapply(c("axis.title.x.top", "axis.title.x.bottom"), ggplot2::calc_element, plot$theme)
  faces <- vapply(sides, function(side) side$face %||% "plain", "")
  face <- if ("bold" %in% faces) "bold" else "plain"
  wrapped <- lapply(names, function(name) {
    if (is.character(name)) wrap_title(name, limit, sides[[1]]$size, face, all = TRUE) else name
  })
  if (identical(wrapped, names)) return(plot)
  # Scales are shared between copies of a figure: this one gets its own.
  plot$scales <- plot$scales$clone()
  scale <- plot$scales$get_scales("x")
  if (is.character(names[[1]])) scale$name <- wrapped[[1]]
  if (is.character(names[[2]])) scale$secondary.axis <- ggplot2::ggproto(NULL, other, name = wrapped[[2]])
  plot
}

# As it is where it fits; else its lines are joined (`all` of them, or only those that were broken for their length).
wrap_title <- function(text, limit, size, face, all = FALSE) {
  fitted <- wrap_measured(text, limit, size, face)
  if (fitted == text) return(text)
  wrap_measured(if (all) gsub("\n", " ", text, fixed = TRUE) else join_lines(text), limit, size, face)
}

# Long lines were broken for another width; short ones end where someone wanted it.
join_lines <- function(text) {
  lines <- strsplit(text, "\n", fixed = TRUE)[[1]]
  ends <- ifelse(nchar(lines) < 40 | seq_along(lines) == length(lines), "\n", " ")
  sub("\n$", "", paste0(lines, ends, collapse = ""))
}

wrap_measured <- function(text, limit, size, face) {
  measure <- function(line) {
    grob <- grid::textGrob(line, gp = grid::gpar(fontsize = size, fontface = face %||% "plain"))
    grid::convertWidth(grid::grobWidth(grob), "inches", valueOnly = TRUE)
  }
  lines <- unlist(lapply(strsplit(text, "\n", fixed = TRUE)[[1]], function(line) {
    whole <- measure(line)
    if (whole <= limit) return(line)
    words <- strsplit(keep_together(line), " ", fixed = TRUE)[[1]]
    out <- character()
    while (length(words)) {
      first <- function(k) paste(words[seq_len(k)], collapse = " ")
      # Measuring is slow, so it starts at the word where letters of average width would end.
      k <- max(1, sum(cumsum(nchar(words) + 1) * whole / nchar(line) <= limit))
      while (k < length(words) && measure(first(k + 1)) <= limit) k <- k + 1
      while (k > 1 && measure(first(k)) > limit) k <- k - 1
      out <- c(out, first(k))
      words <- words[-seq_len(k)]
    }
    out
  }))
  gsub("\u00a0", " ", paste(lines, collapse = "\n"), fixed = TRUE)
}
