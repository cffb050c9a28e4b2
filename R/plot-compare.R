# The figure of answers laid side by side: their estimates with intervals, one row each.

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_comparison <- function(object, ..., base_size = NULL, title = NULL, caption = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  look <- figure_look(base_size, title, caption, NULL, call)
  data <- comparison_data(object)
  if (is.null(data)) {
    abort_vandro(
      c("These answers have no estimates that could share an axis.", "i" = "Print the comparison instead."),
      "no_figure",
      call = call
    )
  }
  k <- look$base_size / 11
  known <- data[!is.na(data$lower) & !is.na(data$upper), ]
  look$title <- look$title %||% wrap_label(paste("Side by side:", paste(object$settings$answers, collapse = ", ")), 58)
  bounded <- data[!is.na(data$bound_low), ]
  ggplot2::ggplot(data, ggplot2::aes(.data$estimate, .data$answer)) +
    zero_layer(data, k) +
    bounds_layers(bounded, k) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, yend = .data$answer), known,
      linewidth = 1.3 * k, colour = ink
    ) +
    ggplot2::geom_point(size = 3.4 * k, shape = 18, colour = ink) +
    # The axis stays discrete, although strokes reach above and below their row.
    ggplot2::scale_y_discrete() +
    # One unit, one axis.
    ggplot2::facet_wrap(
      ~item,
      ncol = 1, scales = if (all(data$in_unit)) "fixed" else "free_x", labeller = ggplot2::label_wrap_gen(60)
    ) +
    figure_labels(
      look,
      x = if (all(data$in_unit)) comparison_axis(object) else "Estimate",
      caption = wrap_caption(
        sprintf("Points with bars: estimates with their intervals, %s.", comparison_levels(object)),
        if (nrow(bounded)) "Upright strokes: the equivalence bounds of each answer.",
        if (all(data$in_unit)) "Dotted line: no difference.", object$detail$notes
      ),
      alt = comparison_alt(data)
    ) +
    figure_theme(look$base_size)
}

# Estimates and limits as plain numbers, a panel per outcome and item; NULL where there are none.
comparison_data <- function(answer) {
  found <- answer$table[answer$table$part == "found", ]
  found$panel <- paste(found$outcome, found$item, sep = "\r")
  keys <- unique(found[found$quantity == "estimate" & !is.na(found$value), c("panel", "outcome", "item", "answer")])
  if (nrow(keys) == 0 || !"lower" %in% found$quantity) return(NULL)
  pick <- function(quantity, column = "value") {
    rows <- found[found$quantity == quantity, ]
    rows[[column]][match(paste(keys$panel, keys$answer), paste(rows$panel, rows$answer))]
  }
  item <- item_label(keys$item)
  item[is.na(item)] <- ""
  # What is not the same kind of number has no axis in common.
  estimand <- gsub("_", " ", pick("estimand", "text"))
  if (length(unique(estimand)) > 1) item <- sub("^, ", "", paste(item, estimand, sep = ", "))
  if (length(unique(keys$outcome)) > 1) item <- sub(", $", "", paste(keys$outcome, item, sep = ", "))
  data.frame(
    item = factor(item, unique(item)), answer = factor(keys$answer, rev(answer$settings$answers)),
    estimate = pick("estimate"), lower = pick("lower"), upper = pick("upper"),
    in_unit = pick("estimate", "in_unit"), bound_low = pick("bound_low"), bound_high = pick("bound_high"),
    verdict = pick("verdict", "text")
  )
}

zero_layer <- function(data, k) {
  if (!all(data$in_unit)) return(NULL)
  ggplot2::geom_vline(xintercept = 0, colour = ink, linewidth = 0.35 * k, linetype = "dotted")
}

# Draws the bounds of every answer, and its verdict above its interval.
bounds_layers <- function(bounded, k) {
  if (nrow(bounded) == 0) return(NULL)
  edge <- function(at) {
    ggplot2::geom_errorbar(
      ggplot2::aes(x = .data[[at]], ymin = as.numeric(.data$answer) - 0.3, ymax = as.numeric(.data$answer) + 0.3),
      bounded, colour = faint, linewidth = 0.9 * k, width = 0, inherit.aes = FALSE
    )
  }
  verdicts <- ggplot2::geom_text(
    ggplot2::aes(label = .data$verdict), bounded,
    vjust = -1.2, size = 3.2 * k, colour = ink
  )
  list(edge("bound_low"), edge("bound_high"), verdicts)
}

comparison_alt <- function(data) {
  number <- function(x) format_plain(signif(x, 3), trim = TRUE)
  said <- sprintf(
    "%s %s [%s to %s]%s", data$answer, number(data$estimate), number(data$lower), number(data$upper),
    ifelse(is.na(data$bound_low), "", sprintf(
      ", bounds %s to %s, %s", number(data$bound_low), number(data$bound_high), data$verdict
    ))
  )
  item <- as.character(data$item)
  paste0("Side by side: ", paste0(ifelse(nzchar(item), paste0(item, ", "), ""), said, collapse = "; "), ".")
}

comparison_axis <- function(answer) {
  paste0("Difference: ", study_direction(answer$study), unit_in_brackets(answer$study$outcomes[[1]]))
}

comparison_levels <- function(answer) {
  levels <- unique(unlist(answer$detail$levels))
  if (length(levels) == 0) "as each was asked" else paste(format_percent(levels), collapse = " and ")
}
