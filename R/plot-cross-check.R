# The figure of a cross-check: every method's interval on one axis where they share the unit, the chance of a higher
# value on an axis of its own above, its 0.5 over the null value.

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_cross_check <- function(object, ..., outcome = NULL, base_size = NULL, title = NULL, caption = NULL) {
  refuse_more(...)
  look <- figure_look(base_size, title, caption, NULL, rlang::current_env())
  outcome <- pick_answered(object, outcome)
  draw_cross_check(object, outcome, look)
}

# Everything drawn, as plain numbers, from the top: superiority first, then what is in the unit of the outcome.
cross_data <- function(answer, outcome) {
  rows <- outcome_rows(answer, outcome)
  # On a scale of its own: the chance of a higher value, or the balance of the ranks.
  rows$chance <- !in_outcome_unit(rows)
  rows <- rows[order(!rows$chance, match(rows$method, unique(rows$method)), rows$values != "all"), ]
  null <- rows$beyond[[1]]
  raw <- rows[!rows$chance, ]
  bounds <- if (!is.null(rows$bound_low)) c(rows$bound_low[[1]], rows$bound_high[[1]])
  reach <- max(abs(c(raw$estimate, raw$lower, raw$upper, bounds) - null), na.rm = TRUE)
  if (!is.finite(reach) || reach == 0) reach <- 1
  # That scale over the same width, its value of no difference over the null value.
  own <- list(none = 0, width = 1)
  if (any(rows$chance)) {
    scale <- estimand_scale(rows[rows$chance, ])[[1]]
    own <- list(none = scale_facts(scale, "none"), width = if (scale == "chance") 0.5 else 1)
  }
  shown <- function(x) ifelse(rows$chance, null + (x - own$none) * reach / own$width, x)
  bars <- data.frame(
    y = rev(seq_len(nrow(rows))) + ifelse(rows$chance, 0.6, 0), estimate = shown(rows$estimate),
    lower = shown(rows$lower), upper = shown(rows$upper), primary = rows$role == "primary",
    whole = rows$values == "all", chance = rows$chance
  )
  origin <- ifelse(bars$primary, sprintf(" (%s)", origin_label(answer)), "")
  bars$label <- ifelse(
    bars$whole, paste0(capital_each(method_label(rows$method)), origin),
    "without flagged"
  )
  bars$says <- ifelse(
    bars$whole, sprintf("%s, %s", format_p(rows$p, alpha = rows$alpha), rows$verdict), "descriptive"
  )
  list(bars = bars, null = null, reach = reach, own = own, bounds = bounds, rows = rows)
}

draw_cross_check <- function(answer, outcome, look) {
  k <- look$base_size / 11
  study <- answer$study
  data <- cross_data(answer, outcome)
  bars <- data$bars
  known <- bars[!is.na(bars$lower) & !is.na(bars$upper), ]
  top <- max(bars$y) + 0.5
  look$title <- look$title %||% default_title(outcome, study)
  tones <- c(`TRUE` = ink, `FALSE` = "#7C8A90")
  ggplot2::ggplot(bars, ggplot2::aes(.data$estimate, .data$y, colour = .data$primary)) +
    cross_guides(data, top, k) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, yend = .data$y, linewidth = .data$primary), known
    ) +
    ggplot2::geom_point(
      ggplot2::aes(shape = interaction(.data$primary, .data$whole), size = .data$primary),
      fill = "white"
    ) +
    ggplot2::scale_colour_manual(values = tones) +
    ggplot2::scale_linewidth_manual(values = c(`TRUE` = 1.8, `FALSE` = 1) * k) +
    ggplot2::scale_size_manual(values = c(`TRUE` = 4, `FALSE` = 2.6) * k) +
    ggplot2::scale_shape_manual(values = c(TRUE.TRUE = 18, FALSE.TRUE = 16, FALSE.FALSE = 21)) +
    cross_axes(data, bars, outcome, study) +
    figure_labels(
      look,
      subtitle = cross_subtitle(answer, outcome),
      caption = cross_caption(answer, data, outcome), alt = cross_alt(answer, data, outcome)
    ) +
    figure_theme(look$base_size) +
    ggplot2::theme(
      axis.title.x.top = ggplot2::element_text(hjust = 0, margin = ggplot2::margin(b = 6)),
      axis.text.y.right = ggplot2::element_text(
        hjust = 0, size = ggplot2::rel(min(0.92, max(0.8, 4 / nrow(bars)))), lineheight = 0.85
      ),
      panel.grid.major.x = ggplot2::element_blank()
    )
}

cross_guides <- function(data, top, k) {
  split <- if (any(data$bars$chance) && !all(data$bars$chance)) min(data$bars$y[data$bars$chance]) - 0.8
  list(
    if (!is.null(data$bounds)) {
      ggplot2::annotate(
        "rect",
        xmin = data$bounds[[1]], xmax = data$bounds[[2]], ymin = 0.5, ymax = split %||% top, fill = region_fill
      )
    },
    ggplot2::annotate(
      "segment",
      x = data$null, xend = data$null, y = 0.5, yend = top, colour = ink, linewidth = 0.35 * k, linetype = "dotted"
    ),
    if (!is.null(split)) ggplot2::geom_hline(yintercept = split, colour = faint, linewidth = 0.3 * k)
  )
}

cross_axes <- function(data, bars, outcome, study) {
  unit <- unit_in_brackets(outcome)
  name <- sprintf("Difference, shift: %s%s", study_direction(study), unit)
  null <- data$null
  own <- data$own
  per_unit <- own$width / data$reach
  chance <- if (any(bars$chance)) {
    name_above <- if (own$none == 0) {
      scale_facts("balance", "axis")
    } else {
      sprintf("Probability that %s is higher (ties counted half)", study$groups[[1]])
    }
    ggplot2::sec_axis(
      ~ (. - null) * per_unit + own$none,
      name = wrap_label(name_above, 32), breaks = own$none + own$width * c(-1, -0.5, 0, 0.5, 1)
    )
  } else {
    ggplot2::waiver()
  }
  list(
    ggplot2::scale_x_continuous(name = name, sec.axis = chance, expand = ggplot2::expansion(mult = 0.05)),
    ggplot2::scale_y_continuous(
      breaks = bars$y, labels = bars$label, limits = c(0.5, max(bars$y) + 0.5), expand = c(0, 0),
      sec.axis = ggplot2::dup_axis(labels = bars$says, name = NULL)
    )
  )
}

cross_subtitle <- function(answer, outcome) {
  wrap_label(sprintf("The conclusion %s.", depends_words(answer, outcome)), 62)
}

cross_caption <- function(answer, data, outcome) {
  row <- data$rows[1, ]
  wrap_caption(
    sprintf(
      "%s intervals, %s tests in every row. Dark: the %s method; no method is chosen for its result.",
      format_percent(row$level),
      if (!is.null(data$bounds)) "pairs of one-sided" else if (row$expect == "either") "two-sided" else "one-sided",
      origin_label(answer)
    ),
    if (other_level(answer, row)) {
      sprintf("Verdicts at alpha %s.", sub("^0", "", format_short(row$alpha)))
    },
    if (!is.null(data$bounds)) "Shaded: the declared bounds.",
    if (any(!data$bars$whole)) sprintf("Rings: without the flagged values (%s).", flagged_words(answer, outcome)),
    cross_limit_notes(data$rows), excluded_caption(answer$study, outcome)
  )
}

cross_alt <- function(answer, data, outcome) {
  sprintf(
    "%s, %s, by every method: %s. %s.", outcome$label, study_direction(answer$study),
    paste(
      sub(" \\((default|chosen|declared)\\)$", "", data$bars$label), gsub("\n", ", ", data$bars$says),
      collapse = "; "
    ),
    paste("The conclusion", depends_words(answer, outcome))
  )
}
