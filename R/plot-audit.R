# Figure of an audit: each number against what the others allow, in units of its last printed digit.

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_audit <- function(object, ..., outcome = NULL, base_size = NULL, title = NULL, caption = NULL) {
  refuse_more(...)
  look <- figure_look(base_size, title, caption, NULL, rlang::current_env())
  outcome <- pick_outcome(object$study, outcome)
  draw_audit(object, match(outcome$name, vapply(object$study$outcomes, `[[`, "", "name")), look)
}

# Bars from the printed value on, in units of its last digit; beyond `most` they are cut, with an arrow.
audit_data <- function(answer, i, most = 4) {
  rows <- outcome_rows(answer, answer$study$outcomes[[i]])
  printed <- answer$detail$printed[[i]]
  unit <- vapply(printed, `[[`, 0, "unit")
  value <- vapply(printed, `[[`, 0, "value")
  from <- (rows$possible_from - value) / unit
  to <- (rows$possible_to - value) / unit
  # An inequality is a limit; what is allowed lies on its side or not.
  open <- vapply(printed, `[[`, NA, "inequality")
  data.frame(
    y = rev(seq_len(nrow(rows))), from = pmax(-most, pmin(most, from)), to = pmax(-most, pmin(most, to)),
    cut_low = from < -most, cut_high = to > most, off = rows$fits %in% FALSE, told = !is.na(from) & !open,
    label = sprintf("%s  %s", audit_names(rows$quantity, answer$study), rows$printed),
    says = ifelse(
      is.na(from), ifelse(rows$fits %in% FALSE, "impossible", "not told by the others"),
      audit_allowed(answer, i, rows)
    )
  )
}

draw_audit <- function(answer, i, look) {
  k <- look$base_size / 11
  outcome <- answer$study$outcomes[[i]]
  data <- audit_data(answer, i)
  shown <- data[data$told, ]
  half <- if (answer$settings$rounding == "nearest") 0.5 else 1
  look$title <- look$title %||% default_title(outcome, answer$study, "Audit: ")
  ends <- rbind(
    data.frame(y = shown$y, x = shown$from, off = shown$off, cut = shown$cut_low, mark = rep("\u25C0", nrow(shown))),
    data.frame(y = shown$y, x = shown$to, off = shown$off, cut = shown$cut_high, mark = rep("\u25B6", nrow(shown)))
  )
  ggplot2::ggplot(shown, ggplot2::aes(y = .data$y, colour = .data$off)) +
    ggplot2::annotate("rect", xmin = -half, xmax = half, ymin = 0.4, ymax = nrow(data) + 0.6, fill = "#E3E8EA") +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$from, xend = .data$to, yend = .data$y, linewidth = .data$off)
    ) +
    ggplot2::geom_point(
      ggplot2::aes(x = (.data$from + .data$to) / 2, shape = .data$off), shown[abs(shown$from + shown$to) < 8, ],
      size = 3 * k
    ) +
    ggplot2::geom_text(
      ggplot2::aes(x = .data$x, label = .data$mark), ends[ends$cut, ],
      size = 4 * k, show.legend = FALSE
    ) +
    ggplot2::geom_text(
      ggplot2::aes(x = 4.4, label = .data$says), data,
      hjust = 0, size = 3.2 * k, colour = ifelse(data$off, meaning_text, ink),
      fontface = ifelse(data$off, "bold", "plain")
    ) +
    ggplot2::scale_colour_manual(values = c(`FALSE` = neutral, `TRUE` = meaning_colours[[2]])) +
    ggplot2::scale_linewidth_manual(values = c(`FALSE` = 1.4, `TRUE` = 2.2) * k) +
    ggplot2::scale_shape_manual(values = c(`FALSE` = 16, `TRUE` = 17)) +
    ggplot2::scale_y_continuous(
      breaks = data$y, labels = data$label, limits = c(0.4, nrow(data) + 0.6), expand = c(0, 0)
    ) +
    ggplot2::scale_x_continuous(breaks = -4:4, limits = c(-4.2, if (k < 0.9) 10.5 else 7.6), expand = c(0, 0)) +
    audit_labels(outcome, audit_verdict(answer, i), look) +
    figure_theme(look$base_size)
}

audit_labels <- function(outcome, verdict, look) {
  figure_labels(
    look,
    subtitle = wrap_label(sprintf("Verdict: %s.", verdict), 80),
    x = "Distance from the printed number\n(units of its last digit)",
    caption = wrap_caption(
      "Band: values that round to the printed number. Bars: values that the other numbers allow (listed at the right).",
      "If the bar and the band do not overlap, the number is inconsistent with the others."
    ),
    alt = sprintf("Audit of %s: %s.", outcome$label, verdict)
  )
}
