#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_effect <- function(object, ..., outcome = NULL, base_size = NULL, title = NULL,
                                   caption = NULL) {
  refuse_more(...)
  look <- figure_look(base_size, title, caption, NULL, rlang::current_env())
  k <- look$base_size / 11
  study <- object$study
  outcome <- pick_answered(object, outcome)
  data <- effect_data(object, outcome)
  shown <- data[data$drawn, ]
  shown$row <- rev(seq_len(nrow(shown)))
  look$title <- look$title %||% default_title(outcome, study)
  level <- format_percent(object$settings$level)
  intervals <- interval_method_words(object, outcome_rows(object, outcome))
  words <- paste(paste(data$label, data$text), collapse = "; ")
  ggplot2::ggplot(shown, ggplot2::aes(.data$estimate, .data$row)) +
    ggplot2::geom_vline(
      xintercept = shown$none[[1]], colour = ink, linewidth = 0.35 * k, linetype = "dotted"
    ) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, yend = .data$row), shown[!is.na(shown$lower), ],
      linewidth = 1.3 * k, colour = ink
    ) +
    ggplot2::geom_point(size = 3.6 * k, shape = 18, colour = ink) +
    ggplot2::scale_x_continuous(expand = ggplot2::expansion(mult = 0.06)) +
    ggplot2::scale_y_continuous(
      breaks = shown$row, labels = shown$label, limits = c(0.4, max(shown$row) + 0.6), expand = c(0, 0),
      sec.axis = ggplot2::dup_axis(labels = shown$text, name = NULL)
    ) +
    figure_labels(
      look,
      x = shown$axis[[1]],
      subtitle = if (!all(data$drawn)) {
        wrap_label(paste(paste(capital_each(data$label), data$text)[!data$drawn], collapse = "; "), 80)
      },
      caption = wrap_caption(
        sprintf("Points with bars: estimates with intervals, %s.", intervals),
        "Dotted line: no difference."
      ),
      alt = sprintf("Effect sizes of %s with %s intervals: %s", outcome$label, level, words)
    ) +
    figure_theme(look$base_size) +
    ggplot2::theme(axis.text.y.right = ggplot2::element_text(hjust = 0, size = ggplot2::rel(0.92)))
}

# Effects in one unit share the axis: standardized ones where there are any, else those on the scale from -1 to
# 1, and so on. Those in other units are written above.
effect_data <- function(answer, outcome) {
  # Rows keep the order of the catalogue, in whatever order they were asked for.
  answer <- with_table(answer, answer$table[order(match(answer$table$estimand, names(estimand_entries))), ])
  rows <- outcome_rows(answer, outcome)
  cells <- effect_cells(answer, outcome, outcome_decimals(outcome))
  scale <- estimand_scale(rows)
  axes <- scale_facts(scale, "axis")
  axes[scale == "outcome"] <- paste("Difference,", outcome_title(outcome))
  unit <- ifelse(scale == "outcome" & !is.null(outcome$unit), paste0(" ", difference_unit(outcome)), "")
  labels <- wrap_label(cells$effect, 22)
  data.frame(
    label = labels, axis = axes, none = no_effect(rows),
    drawn = scale == intersect(names(scale_entries), scale)[[1]], estimate = rows$estimate, lower = rows$lower,
    upper = rows$upper, text = paste0(
      cells$size, unit, ifelse(is.na(rows$lower), "", sprintf(" [%s to %s]", cells$lower, cells$upper))
    )
  )
}
