# Text of a figure that is wider than the paper is wrapped, never cut.

# The same figure with its title, subtitle, caption and axis titles in lines that `width` (inches) can hold, measured
# on the device that is open. Line breaks after short lines stay.
fit_text <- function(plot, width) {
  theme <- plot$theme
  # Only the package's figures have a whole theme of their own, from which sizes can be read.
  if (!isTRUE(attr(theme, "complete")) || is.null(theme$plot.title)) return(plot)
  labels <- plot$labels[intersect(c("title", "subtitle", "caption", "x"), names(plot$labels))]
  labels <- labels[vapply(labels, function(text) is.character(text) && any(nzchar(text)), NA)]
  if (length(labels) == 0) return(plot)
  limits <- c(title = width - 0.3, subtitle = width - 0.3, caption = width - 0.3)
  if ("x" %in% names(labels)) limits[["x"]] <- panel_width(plot, width)
  elements <- c(title = "plot.title", subtitle = "plot.subtitle", caption = "plot.caption", x = "axis.title.x")
  fitted <- lapply(names(labels), function(name) {
    look <- ggplot2::calc_element(elements[[name]], theme)
    text <- if (name %in% c("subtitle", "caption")) join_lines(labels[[name]]) else labels[[name]]
    fitted <- wrap_measured(text, limits[[name]], look$size, look$face)
    if (name != "x" || fitted == text) return(fitted)
    wrap_measured(gsub("\n", " ", text, fixed = TRUE), limits[[name]], look$size, look$face)
  })
  plot + do.call(ggplot2::labs, stats::setNames(fitted, names(labels)))
}

# What the labels beside them leave for the panels, in inches.
panel_width <- function(plot, width) {
  widths <- ggplot2::ggplotGrob(plot)$widths
  free <- grid::unitType(widths) == "null"
  max(0.5, width - sum(grid::convertWidth(widths[!free], "inches", valueOnly = TRUE)))
}

# Long lines were broken for another width; short ones end where someone wanted it.
join_lines <- function(text) {
  lines <- strsplit(text, "\n", fixed = TRUE)[[1]]
  ends <- ifelse(nchar(lines) < 40 | seq_along(lines) == length(lines), "\n", " ")
  sub("\n$", "", paste0(lines, ends, collapse = ""))
}

wrap_measured <- function(text, limit, size, face) {
  wide <- function(line) {
    grob <- grid::textGrob(line, gp = grid::gpar(fontsize = size, fontface = face %||% "plain"))
    grid::convertWidth(grid::grobWidth(grob), "inches", valueOnly = TRUE) > limit
  }
  lines <- unlist(lapply(strsplit(text, "\n", fixed = TRUE)[[1]], function(line) {
    if (!wide(line)) return(line)
    out <- character()
    for (word in strsplit(line, " ", fixed = TRUE)[[1]]) {
      longer <- if (length(out)) paste(out[[length(out)]], word) else word
      if (length(out) && wide(longer)) out <- c(out, word) else out[max(1, length(out))] <- longer
    }
    out
  }))
  paste(lines, collapse = "\n")
}
