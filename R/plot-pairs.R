# Views of pairs: one line per pair, and the changes.

pairs_at_most <- 400

# One row per complete pair and how many are equal to it, or per bundle of pairs that start and end alike.
pair_lines <- function(outcome, bins = 40) {
  whole <- complete_pairs(outcome$data)
  data <- data.frame(second = whole[[2]], first = whole[[1]])
  if (nrow(data) > pairs_at_most) {
    edges <- seq(min(data$first, data$second), max(data$first, data$second), length.out = bins + 1)
    middle <- (utils::head(edges, -1) + edges[-1]) / 2
    cell <- function(x) findInterval(x, edges, rightmost.closed = TRUE, all.inside = TRUE)
    from <- cell(data$second)
    to <- cell(data$first)
    key <- (from - 1) * bins + to
    count <- tabulate(key, bins * bins)
    used <- which(count > 0)
    data <- data.frame(
      second = middle[(used - 1) %/% bins + 1], first = middle[(used - 1) %% bins + 1],
      count = count[used]
    )
  } else {
    key <- match(paste(data$second, data$first), paste(data$second, data$first))
    data <- cbind(data, count = tabulate(key, nrow(data)))[unique(key), ]
  }
  way <- ifelse(data$first > data$second, "up", ifelse(data$first < data$second, "down", "same"))
  data$way <- factor(way, c("up", "down", "same"))
  data
}

# From the earlier occasion on the left to the later one on the right.
draw_pairs <- function(description, outcome, look) {
  k <- look$base_size / 11
  study <- description$study
  data <- pair_lines(outcome)
  rows <- group_rows(description, outcome)
  earlier <- study$earlier %||% 2
  place <- if (earlier == 1) 1:2 else 2:1
  means <- data.frame(x = place, mean = rows$mean, lower = rows$lower, upper = rows$upper)
  bundled <- outcome_sizes(outcome)[[1]] > pairs_at_most
  words <- c(up = "higher", down = "lower", same = if (bundled) "about the same" else "the same")
  ggplot2::ggplot() +
    ggplot2::geom_segment(
      ggplot2::aes(
        x = place[[2]] + 0.08 * (3 - 2 * place[[2]]), xend = place[[1]] + 0.08 * (3 - 2 * place[[1]]),
        y = .data$second, yend = .data$first, colour = .data$way,
        linetype = .data$way, alpha = .data$count / max(.data$count)
      ),
      data,
      linewidth = 0.5 * k * if (bundled) 1 else sqrt(data$count)
    ) +
    ggplot2::scale_alpha_continuous(range = if (bundled) c(0.08, 1) else c(0.75, 0.75), guide = "none") +
    ggplot2::geom_linerange(
      ggplot2::aes(x = .data$x, ymin = .data$lower, ymax = .data$upper),
      means[!is.na(means$lower), ],
      colour = ink, linewidth = 1.3 * k
    ) +
    ggplot2::geom_point(ggplot2::aes(.data$x, .data$mean), means, colour = ink, size = 3.2 * k, shape = 18) +
    ggplot2::scale_colour_manual(
      values = c(up = meaning_colours[[1]], down = meaning_colours[[2]], same = faint), labels = words
    ) +
    ggplot2::scale_linetype_manual(values = c(up = "solid", down = "longdash", same = "dotted"), labels = words) +
    ggplot2::scale_x_continuous(
      breaks = 1:2, limits = c(0.8, 2.2), labels = wrap_label(study$groups[order(place)], 18), name = NULL
    ) +
    pairs_labels(bundled, max(data$count) > 1, description, outcome, look) +
    figure_theme(look$base_size) +
    ggplot2::theme(
      legend.position = "right", axis.text.x = ggplot2::element_text(size = ggplot2::rel(1.15)),
      panel.grid.major.x = ggplot2::element_blank(),
      panel.grid.major.y = grid_line()
    )
}

# What a figure of pairs says.
pairs_labels <- function(bundled, repeated, description, outcome, look) {
  study <- description$study
  figure_labels(
    look,
    colour = paste(study$groups[[1]], "is"), linetype = paste(study$groups[[1]], "is"),
    subtitle = outcome_title(outcome),
    caption = wrap_caption(
      if (bundled) {
        "Lines: bundles of pairs, darker where there are more."
      } else if (repeated) {
        "Lines: one per complete pair, thicker where several are equal."
      } else {
        "Lines: one per complete pair."
      },
      sprintf("Diamonds with bars: means with %s intervals (t).", format_percent(description$settings$level)),
      paste0("Pairs: ", pair_words(outcome), "."), excluded_caption(study, outcome)
    ),
    alt = sprintf(
      "%s of each pair, %s beside %s. %s.", outcome$label, study$groups[[1]], study$groups[[2]],
      capital(pair_words(outcome))
    )
  )
}

changes_bars <- function(data) {
  if (is.null(data)) return(NULL)
  ggplot2::geom_rect(
    ggplot2::aes(xmin = .data$low, xmax = .data$high, ymin = 0, ymax = .data$count), data,
    fill = neutral, colour = "white", linewidth = 0.2
  )
}

# `answer`: a row of test_difference(); of signed ranks the centre is drawn in place of the mean.
draw_changes <- function(description, outcome, look, beyond, answer = NULL) {
  k <- look$base_size / 11
  study <- description$study
  row <- description$table[is_row_of(description$table, outcome), ][3, ]
  permuted <- !is.null(answer) && method_is(answer, "reassignment")
  ranked <- !is.null(answer) && method_is(answer, "ranks")
  what <- if (ranked) "centre of the changes" else "mean change"
  if (permuted) what <- sub("^the ", "", compared_words(answer, study))
  if (ranked || permuted) row[c("mean", "lower", "upper")] <- answer[c("estimate", "lower", "upper")]
  # Published changes have a mean and an interval, but no distribution to draw.
  drawn <- study$source == "values"
  data <- if (drawn) distribution_data(list(outcome_group_values(outcome, 3)), study_direction(study))
  top <- if (drawn) max(data$count) else 1
  way <- if (ranked || permuted) interval_label(answer$method) else "t"
  at <- unique(c(0, beyond))
  ggplot2::ggplot() +
    changes_bars(data) +
    ggplot2::geom_vline(
      xintercept = at, colour = ink, linewidth = 0.5 * k,
      linetype = c("dotted", rep("dashed", length(at) - 1))
    ) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, y = -0.09 * top, yend = -0.09 * top),
      row[!is.na(row$lower), ],
      linewidth = 1.3 * k, colour = ink
    ) +
    ggplot2::geom_point(
      ggplot2::aes(.data$mean, -0.09 * top), row,
      size = 3.6 * k, shape = 18, colour = ink
    ) +
    ggplot2::expand_limits(x = c(at, row$lower, row$upper)) +
    ggplot2::scale_y_continuous(breaks = if (drawn) whole_ticks) +
    changes_labels(row, what, way, beyond, drawn, description, outcome, look) +
    ggplot2::ylab(if (drawn) "Number of changes") +
    figure_theme(look$base_size)
}

# What a figure of changes says; `way`: of the interval.
changes_labels <- function(row, what, way, beyond, drawn, description, outcome, look) {
  study <- description$study
  axis <- paste0("Change of ", inside_sentence(outcome$label), ": ", study_direction(study), unit_in_brackets(outcome))
  figure_labels(
    look,
    x = wrap_label(axis, 42),
    caption = wrap_caption(
      if (drawn) "Bars: number of changes.", "Dotted line: no change.",
      if (beyond != 0) {
        null <- with_unit(format_short(beyond), difference_unit(outcome))
        sprintf("Dashed line: the difference under the null, %s.", null)
      },
      sprintf(
        "Diamond with bar: %s with its %s interval (%s).", what, format_percent(description$settings$level), way
      ),
      if (drawn) paste0("Pairs: ", pair_words(outcome), "."), excluded_caption(study, outcome)
    ),
    alt = sprintf(
      "Changes of %s, %s. %s %s.", outcome$label, study_direction(study), capital(what),
      with_unit(format_number(row$mean, outcome_decimals(outcome)), difference_unit(outcome))
    )
  )
}
