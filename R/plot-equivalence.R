# The figures of equivalence: intervals against the bounds, and the verdict over other bounds.

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_equivalence <- function(object, ..., view = NULL, outcome = NULL, base_size = NULL, title = NULL,
                                        caption = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  look <- figure_look(base_size, title, caption, NULL, call)
  view <- check_choice(view %||% "equivalence", c("equivalence", "bounds"), arg = "view", call = call)
  outcome <- pick_answered(object, outcome)
  if (view == "bounds") return(draw_bounds(try_bounds(object, outcome = outcome), look))
  draw_equivalence(object, outcome, look)
}

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_bounds <- function(object, ..., base_size = NULL, title = NULL, caption = NULL) {
  refuse_more(...)
  draw_bounds(object, figure_look(base_size, title, caption, NULL, rlang::current_env()))
}

# Everything drawn, as plain numbers: a row for each interval, from the top.
equivalence_data <- function(answer, outcome) {
  row <- outcome_rows(answer, outcome, "primary")
  levels <- format_percent(c(row$level, 1 - row$alpha))
  what <- c(if (is_standardized(row)) "SD taken as known" else "against the bounds", "against 0")
  labels <- sprintf("%s interval\n%s", levels, what)
  rows <- data.frame(
    lower = c(row$lower, row$difference_lower), upper = c(row$upper, row$difference_upper), estimate = row$estimate
  )
  decimals <- equivalence_decimals(row, outcome_decimals(outcome))
  text <- ifelse(
    is.na(rows$lower) | is.na(rows$upper), "no finite interval",
    with_unit_each(format_range(rows$lower, rows$upper, decimals), interval_unit(outcome))
  )
  if (!is.na(row$d)) {
    # On the same axis: a standardized difference times the SD that it was divided by.
    rows <- rbind(rows, c(row$d_lower, row$d_upper, row$d) * row$sd_value)
    name <- effect_names(row$d_estimand, answer$study)
    labels <- c(labels, sprintf(
      "%s interval of %s,\n%s", levels[[1]], name,
      if (is_standardized(row)) "against the bounds" else "SD not taken as known"
    ))
    text <- c(text, paste(format_range(row$d_lower, row$d_upper, 2), "SD"))
  }
  rows$text <- text
  # The interval that decides comes first.
  if (is_standardized(row)) {
    rows <- rows[3:1, ]
    labels <- labels[3:1]
    text <- text[3:1]
  }
  rows$row <- rev(seq_len(nrow(rows)))
  list(rows = rows, labels = rev(paste0(labels, "\n", text)), bounds = c(row$bound_low, row$bound_high), row = row)
}

region_fill <- "#CFE3DC"

draw_equivalence <- function(answer, outcome, look) {
  k <- look$base_size / 11
  study <- answer$study
  data <- equivalence_data(answer, outcome)
  top <- max(data$rows$row) + 0.75
  unit <- unit_in_brackets(outcome)
  look$title <- look$title %||% default_title(outcome, study)
  known <- data$rows[!is.na(data$rows$lower) & !is.na(data$rows$upper), ]
  ggplot2::ggplot(data$rows) +
    ggplot2::annotate(
      "rect",
      xmin = data$bounds[[1]], xmax = data$bounds[[2]], ymin = 0.4, ymax = top - 0.3, fill = region_fill
    ) +
    ggplot2::annotate(
      "segment",
      x = data$bounds, xend = data$bounds, y = 0.4, yend = top - 0.3, colour = ink, linewidth = 0.45 * k
    ) +
    ggplot2::annotate(
      "segment",
      x = 0, xend = 0, y = 0.4, yend = top - 0.3, colour = ink, linewidth = 0.35 * k, linetype = "dotted"
    ) +
    region_label(data, outcome, top, k) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, y = .data$row, yend = .data$row), known,
      linewidth = c(1.8, 1.1, 1.1)[seq_len(nrow(known))] * k, colour = ink
    ) +
    ggplot2::geom_point(
      ggplot2::aes(.data$estimate, .data$row),
      size = 3.4 * k, shape = 18, colour = ink
    ) +
    ggplot2::scale_x_continuous(
      name = paste0("Difference: ", study_direction(study), unit), expand = ggplot2::expansion(mult = 0.12)
    ) +
    ggplot2::scale_y_continuous(
      breaks = sort(data$rows$row), labels = data$labels, limits = c(0.4, top + 0.12), expand = c(0, 0)
    ) +
    equivalence_labels(answer, data, outcome, look) +
    # A label that is wider than a narrow region must not be cut.
    ggplot2::coord_cartesian(clip = "off") +
    figure_theme(look$base_size)
}

# What a figure of bounds says.
equivalence_labels <- function(answer, data, outcome, look) {
  study <- answer$study
  row <- data$row
  figure_labels(
    look,
    subtitle = wrap_label(sprintf("Verdict: %s - %s.", row$verdict, verdict_meaning(row)), 64),
    caption = wrap_caption(
      sprintf("Shaded: the declared bounds%s.", bounds_reason(answer)),
      sprintf("Dotted: no difference. Intervals: %s.", equivalence_interval_source(row)),
      excluded_caption(study, outcome)
    ),
    alt = equivalence_alt(data, outcome, study)
  )
}

# Above the region: from where to where, and what it stands for.
region_label <- function(data, outcome, top, k) {
  row <- data$row
  range <- bound_range_rounded(row, outcome, outcome_decimals(outcome))
  if (row$bounds_in == "sd") range <- sprintf("%s SD, %s", sd_bound_range(row), range)
  ggplot2::annotate(
    "text",
    x = mean(data$bounds), y = top - 0.12, label = paste0("declared to count as the same: ", range), size = 3.3 * k,
    colour = ink, fontface = "bold"
  )
}

bounds_reason <- function(answer) {
  reason <- answer$settings$reason
  if (is.null(reason)) ", no reason on record" else sprintf(" (%s)", sub("[.]$", "", reason))
}

equivalence_interval_source <- function(row) {
  if (is.na(row$d)) return(interval_label(row$method))
  sprintf("%s; of the standardized difference %s", interval_label(row$method), interval_label(row$d_method))
}

equivalence_alt <- function(data, outcome, study) {
  row <- data$row
  sprintf(
    "Intervals of %s, %s, against bounds from %s to %s: %s. Verdict: %s.", outcome$label, study_direction(study),
    bound_text(row, outcome, "low"), bound_text(row, outcome, "high"),
    paste(gsub("\n", " ", rev(data$labels)), collapse = "; "), row$verdict
  )
}

verdict_colours <- c(
  equivalent = "#1F4F43", "different but within bounds" = "#6FA88C", different = "#B5477F", inconclusive = "#BEBEBE"
)

verdict_lines <- c(
  equivalent = "solid", "different but within bounds" = "solid", different = "22", inconclusive = "22"
)

declared_bound <- function(at, right, k) {
  list(
    ggplot2::annotate("segment", x = at$size, xend = at$size, y = 0, yend = 1.05, colour = ink, linewidth = 0.5 * k),
    ggplot2::geom_point(data = at, size = 4 * k, shape = 18, colour = ink),
    ggplot2::annotate(
      "text",
      x = at$size, y = 1.07, hjust = if (right) 1 else 0, vjust = 0, label = "declared", size = 3.3 * k,
      colour = ink, fontface = "bold"
    )
  )
}

# p of both sides together over the bounds; the declared ones stand out.
draw_bounds <- function(answer, look) {
  k <- look$base_size / 11
  outcome <- answer$study$outcomes[[1]]
  data <- bounds_data(answer)
  at <- data[data$standing == "declared", ]
  look$title <- look$title %||% default_title(outcome, answer$study)
  # The legend follows the picture from left to right.
  present <- unique(data$verdict)
  ggplot2::ggplot(data, ggplot2::aes(.data$size, .data$p)) +
    ggplot2::geom_hline(yintercept = at$alpha, colour = ink, linewidth = 0.35 * k, linetype = "dashed") +
    ggplot2::annotate(
      "text",
      x = max(data$size), y = at$alpha, label = paste("alpha", sub("^0", "", format_short(at$alpha))), hjust = 1,
      vjust = -0.6, size = 3 * k, colour = ink
    ) +
    ggplot2::geom_line(colour = faint, linewidth = 0.4 * k) +
    ggplot2::geom_line(
      ggplot2::aes(
        colour = factor(.data$verdict, present), linetype = factor(.data$verdict, present), group = .data$run
      ),
      linewidth = 1.6 * k
    ) +
    bounds_points(data, present, k) +
    declared_bound(at, right = at$size > stats::median(data$size), k) +
    ggplot2::scale_colour_manual(values = verdict_colours[present], drop = FALSE) +
    ggplot2::scale_linetype_manual(values = verdict_lines[present], drop = FALSE) +
    ggplot2::scale_y_continuous(breaks = seq(0, 1, 0.25), limits = c(0, 1.16), expand = c(0, 0.01)) +
    ggplot2::scale_x_continuous(
      expand = ggplot2::expansion(mult = c(0.02, 0.04)),
      labels = function(x) bounds_axis_labels(x, at)
    ) +
    bounds_figure_sentences(answer, at, look) +
    ggplot2::ylab("p") +
    figure_theme(look$base_size) +
    ggplot2::theme(
      legend.position = "top", legend.justification = 0, legend.title = ggplot2::element_blank(),
      legend.key.width = grid::unit(28 * k, "pt"),
      axis.title.y = ggplot2::element_text(angle = 0, vjust = 0.5)
    )
}

bounds_figure_sentences <- function(answer, at, look) {
  outcome <- answer$study$outcomes[[1]]
  figure_labels(
    look,
    subtitle = sprintf(
      "Declared, %s: %s, %s", bounds_axis_text(at, outcome), format_p(at$p, alpha = at$alpha), at$verdict
    ),
    x = bounds_axis_name(at, outcome), colour = "verdict", linetype = "verdict",
    caption = wrap_caption(
      sprintf("p: the larger one of both sides, %s.", method_label(at$method)),
      "All bounds but the declared ones are exploratory: chosen after looking, they support no claim."
    ),
    alt = bounds_alt(answer, outcome)
  )
}

# Bounds on one axis: the distance to either side, or of lopsided ones the upper bound.
bounds_data <- function(answer) {
  table <- answer$table
  table$size <- table$bound_high
  # Stretches with one verdict.
  table$run <- cumsum(c(1, table$verdict[-1] != table$verdict[-nrow(table)]))
  table
}

# Bounds that were counted one by one are shown one by one.
bounds_points <- function(data, present, k) {
  if (nrow(data) > 60) return(NULL)
  ggplot2::geom_point(
    ggplot2::aes(colour = factor(.data$verdict, present)),
    size = 1.9 * k, show.legend = FALSE
  )
}

is_symmetric_pair <- function(at) at$bound_low == -at$bound_high

bounds_axis_name <- function(at, outcome) {
  unit <- unit_in_brackets(outcome)
  paste0(if (is_symmetric_pair(at)) "Bounds, to either side of 0" else "Bounds, in the declared proportion", unit)
}

bounds_axis_labels <- function(x, at) {
  if (is_symmetric_pair(at)) return(format_plain(x, trim = TRUE))
  low <- signif(x * at$bound_low / at$bound_high, 3)
  ifelse(is.na(x), "", sprintf("%s to %s", format_plain(low, trim = TRUE), format_plain(x, trim = TRUE)))
}

bounds_axis_text <- function(at, outcome) {
  decimals <- outcome_decimals(outcome)
  short <- function(x) if (nchar(format_short(x)) <= 6) format_short(x) else format_number(x, decimals)
  with_unit(paste(short(at$bound_low), "to", short(at$bound_high)), difference_unit(outcome))
}

bounds_alt <- function(answer, outcome) {
  at <- answer$table[answer$table$standing == "declared", ]
  sprintf(
    "p of the equivalence test of %s, %s, over %s pairs of bounds. Declared: %s, %s, %s. %s.", outcome$label,
    study_direction(answer$study), nrow(answer$table), bounds_axis_text(at, outcome),
    format_p(at$p, alpha = at$alpha), at$verdict, capital(turn_words(answer, outcome, outcome_decimals(outcome)))
  )
}
