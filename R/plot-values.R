# Views of single values and of means: points with boxes, distributions, means, values in order.
# Rows of the figures: first group at 2, second at 1.

group_rows <- function(description, outcome) {
  rows <- description$table[is_row_of(description$table, outcome), ][1:2, ]
  groups <- description$study$groups
  rows$row <- c(2, 1)
  rows$group <- factor(groups, groups)
  rows
}

group_axis <- function(rows, study) {
  ggplot2::scale_y_continuous(
    breaks = rows$row, expand = ggplot2::expansion(add = 0.12),
    labels = sprintf("%s\nn = %s", wrap_label(study$groups, 18), format_count(rows$n))
  )
}

# --- points with boxes ------------------------------------------------------------------------------

# Quartiles are the table's; fences are 1.5 box lengths from them (Tukey 1977).
points_data <- function(description, outcome) {
  study <- description$study
  rows <- group_rows(description, outcome)
  reach <- 1.5 * (rows$q3 - rows$q1)
  many <- max(rows$n) > points_at_most
  values <- lapply(1:2, function(which) {
    x <- outcome_group_values(outcome, which)
    data.frame(
      x = x, height = if (many) NA_real_ else spread_points(x)$height, row = rep(rows$row[[which]], length(x)),
      group = rep(rows$group[[which]], length(x)), label = value_labels(study, outcome, which),
      outside = x < rows$q1[[which]] - reach[[which]] | x > rows$q3[[which]] + reach[[which]]
    )
  })
  inside <- lapply(values, function(v) range(v$x[!v$outside]))
  rows$whisker_low <- vapply(inside, `[[`, 0, 1)
  rows$whisker_high <- vapply(inside, `[[`, 0, 2)
  list(rows = rows, values = do.call(rbind, values), many = many)
}

draw_points <- function(description, outcome, look, label) {
  k <- look$base_size / 11
  study <- description$study
  data <- points_data(description, outcome)
  rings <- sum(data$values$outside)
  ggplot2::ggplot() +
    points_layers(data, outcome, study, k) +
    box_layers(data$rows, k) +
    ring_layers(data, label, k) +
    group_scales(look) +
    group_axis(data$rows, study) +
    figure_labels(
      look,
      x = wrap_label(outcome_title(outcome), 60),
      caption = wrap_caption(
        if (data$many) "Bars: distribution of the values." else "Points: single values, moved up and down only.",
        "Boxes: quartiles (rule 7) and median; whiskers to the last value within 1.5 box lengths",
        if (rings > 0) {
          sprintf("(Tukey 1977); rings: %s %s beyond.", format_count(rings), if (rings == 1) "value" else "values")
        } else {
          "(Tukey 1977)."
        },
        excluded_caption(study, outcome)
      ),
      alt = sprintf(
        "Values of %s with boxes. Medians: %s.", outcome$label,
        paste(study$groups, format_number(data$rows$median, outcome_decimals(outcome)), collapse = ", ")
      )
    ) +
    figure_theme(look$base_size)
}

points_layers <- function(data, outcome, study, k) {
  values <- if (data$many) {
    pieces <- estimation_values(outcome, study)
    # The difference figure's rows are one higher.
    list(many = TRUE, data = transform(pieces$data, row = pieces$data$row - 1))
  } else {
    list(many = FALSE, data = data$values)
  }
  estimation_values_layer(values, k)
}

box_layers <- function(rows, k) {
  segment <- function(mapping, width) ggplot2::geom_segment(mapping, rows, linewidth = width * k)
  list(
    segment(
      ggplot2::aes(
        x = .data$whisker_low, xend = .data$whisker_high, y = .data$row - 0.12, yend = .data$row - 0.12,
        colour = .data$group
      ), 0.5
    ),
    ggplot2::geom_rect(
      ggplot2::aes(
        xmin = .data$q1, xmax = .data$q3, ymin = .data$row - 0.22, ymax = .data$row - 0.02,
        colour = .data$group
      ),
      rows,
      fill = "white", linewidth = 0.6 * k
    ),
    segment(
      ggplot2::aes(
        x = .data$median, xend = .data$median, y = .data$row - 0.22, yend = .data$row - 0.02,
        colour = .data$group
      ), 1.4
    )
  )
}

# Around the points of values beyond the whiskers; where bars stand for points, beside the whiskers.
ring_layers <- function(data, label, k) {
  outside <- data$values[data$values$outside, ]
  if (nrow(outside) == 0) return(NULL)
  outside$y <- outside$row + if (data$many) -0.12 else outside$height
  list(
    ggplot2::geom_point(
      ggplot2::aes(.data$x, .data$y, colour = .data$group), outside,
      shape = 1, size = 2.6 * k, stroke = 0.8 * k
    ),
    if (label) {
      ggplot2::geom_text(
        ggplot2::aes(.data$x, .data$y, label = .data$label), outside,
        vjust = 1.9, size = 2.9 * k, colour = ink
      )
    }
  )
}

# --- distributions ----------------------------------------------------------------------------------

# Counts over breaks shared by all groups.
distribution_data <- function(values, groups) {
  breaks <- shared_breaks(unlist(values))
  counts <- Map(function(x, group) {
    cell <- findInterval(x, breaks, rightmost.closed = TRUE, all.inside = TRUE)
    data.frame(
      low = utils::head(breaks, -1), high = breaks[-1], count = tabulate(cell, length(breaks) - 1),
      group = factor(group, groups)
    )
  }, values, groups)
  do.call(rbind, unname(counts))
}

# Freedman & Diaconis (1981) ask for a bin width of 2 IQR n^(-1/3); kept between 8 and 60 bins.
shared_breaks <- function(x) {
  range <- range(x)
  if (range[[1]] == range[[2]]) return(range[[1]] + c(-0.5, 0.5) * max(abs(range[[1]]), 1) * 0.01)
  width <- 2 * stats::IQR(x) / length(x)^(1 / 3)
  bins <- if (width > 0) (range[[2]] - range[[1]]) / width else 30
  bins <- max(8, min(60, ceiling(bins)))
  stepped_breaks(range, value_step(x), bins) %||% pretty(range, n = bins)
}

# The step on which all values lie (whole numbers: 1), NULL where there is none or it is too fine to be seen.
value_step <- function(x, most = 500) {
  values <- sort(unique(x))
  if (length(values) < 2 || length(values) > most) return(NULL)
  gaps <- diff(values)
  step <- min(gaps)
  if ((values[[length(values)]] - values[[1]]) / step > most) return(NULL)
  if (max(abs(gaps / step - round(gaps / step))) < 1e-6) step
}

# Ticks of an axis of counts.
whole_ticks <- function(limits) unique(round(pretty(c(0, limits[[2]]), 4)))

# If `shares` is TRUE, bars show the percentage of each group instead of counts.
draw_distributions <- function(description, outcome, look, shares = FALSE) {
  study <- description$study
  rows <- group_rows(description, outcome)
  data <- if (is_database(study)) {
    bars <- engine_histogram(outcome, 30, if (is_whole(outcome)) 1)
    data.frame(bars[c("low", "high", "count")], group = factor(study$groups[bars$which], study$groups))
  } else {
    distribution_data(lapply(1:2, function(which) outcome_group_values(outcome, which)), study$groups)
  }
  names <- stats::setNames(strip_label(sprintf("%s (n = %s)", study$groups, format_count(rows$n))), study$groups)
  if (shares) data$count <- 100 * data$count / rows$n[match(data$group, study$groups)]
  ggplot2::ggplot(data) +
    ggplot2::geom_rect(
      ggplot2::aes(
        xmin = .data$low, xmax = .data$high, ymin = 0, ymax = .data$count, fill = .data$group
      ),
      colour = "white", linewidth = 0.2
    ) +
    # A light line below keeps the dashes readable on dark bars.
    ggplot2::geom_vline(ggplot2::aes(xintercept = .data$mean), rows, colour = "white", linewidth = 1.3) +
    ggplot2::geom_vline(
      ggplot2::aes(xintercept = .data$mean), rows,
      colour = ink, linewidth = 0.6, linetype = "dashed"
    ) +
    ggplot2::facet_wrap(~ .data$group, ncol = 1, labeller = ggplot2::as_labeller(names)) +
    group_scales(look) +
    ggplot2::scale_y_continuous(
      breaks = if (shares) ggplot2::waiver() else whole_ticks, expand = ggplot2::expansion(mult = c(0, 0.05))
    ) +
    figure_labels(
      look,
      x = wrap_label(outcome_title(outcome), 60),
      caption = wrap_caption(
        sprintf("Bars: %s; both groups have the same breaks.", if (shares) "shares of a group" else "number of values"),
        "Dashed lines: means.", if (!shares && diff(range(rows$n)) > 0.1 * max(rows$n)) {
          "The groups differ in size: view \"shares\" compares their shapes."
        },
        excluded_caption(study, outcome)
      ),
      alt = sprintf("Histograms of %s. Means: %s.", outcome$label, paste(sprintf(
        "%s %s (n = %s)", study$groups, format_number(rows$mean, outcome_decimals(outcome)), format_count(rows$n)
      ), collapse = ", "))
    ) +
    ggplot2::ylab(if (shares) "Share of the values (%)" else "Number of values") +
    figure_theme(look$base_size)
}

# --- means ------------------------------------------------------------------------------------------

draw_means <- function(description, outcome, look) {
  k <- look$base_size / 11
  study <- description$study
  rows <- group_rows(description, outcome)
  ggplot2::ggplot(rows, ggplot2::aes(.data$mean, .data$row, colour = .data$group, shape = .data$group)) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, yend = .data$row),
      rows[!is.na(rows$lower), ],
      linewidth = 1.3 * k
    ) +
    ggplot2::geom_point(size = 3.4 * k) +
    group_scales(look) +
    group_axis(rows, study) +
    figure_labels(
      look,
      x = wrap_label(outcome_title(outcome), 60),
      caption = wrap_caption(
        sprintf("Points with bars: means with %s intervals (t).", format_percent(description$settings$level)),
        "Overlap of two such bars does not show whether the means differ.",
        excluded_caption(study, outcome)
      ),
      alt = sprintf(
        "Means of %s with intervals: %s.", outcome$label,
        paste(
          study$groups, format_number(rows$mean, outcome_decimals(outcome)),
          ifelse(is.na(rows$lower), "", sprintf("(%s)", format_range(
            rows$lower, rows$upper, outcome_decimals(outcome)
          ))),
          collapse = ", "
        )
      )
    ) +
    figure_theme(look$base_size)
}

# --- values in order --------------------------------------------------------------------------------

order_at_most <- 2000

# One row per known value, with its place in the order; thinned to means and ranges of neighbours where
# there are too many to tell apart.
order_data <- function(study, outcome) {
  place <- study$rows$order$values
  pieces <- lapply(1:2, function(which) {
    at <- known_rows(outcome, which)
    values <- outcome_group_values(outcome, which)
    sorted <- order(place[at])
    data <- data.frame(place = place[at][sorted], value = values[sorted])
    data <- if (nrow(data) > order_at_most) {
      thinned(data)
    } else {
      cbind(data, low = data$value, high = data$value)
    }
    data$group <- rep(factor(study$groups[[which]], study$groups), nrow(data))
    data
  })
  list(data = do.call(rbind, pieces), thin = max(outcome_sizes(outcome)) > order_at_most)
}

thinned <- function(data, bins = 300) {
  bin <- (seq_len(nrow(data)) - 1) %/% ceiling(nrow(data) / bins)
  first <- !duplicated(bin)
  by <- function(f) vapply(split(data$value, bin), f, 0, USE.NAMES = FALSE)
  data.frame(place = data$place[first], value = by(mean), low = by(min), high = by(max))
}

draw_order <- function(description, outcome, look) {
  k <- look$base_size / 11
  study <- description$study
  found <- order_data(study, outcome)
  aes <- ggplot2::aes(.data$place, .data$value, colour = .data$group, shape = .data$group)
  marks <- if (found$thin) {
    ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), alpha = 0.35, linewidth = 0.3 * k)
  } else {
    ggplot2::geom_point(size = 1.7 * k)
  }
  ggplot2::ggplot(found$data, aes) +
    marks +
    ggplot2::geom_line(linewidth = 0.5 * k, alpha = 0.8) +
    group_scales(look) +
    figure_labels(
      look,
      x = study$rows$order$name, colour = NULL, shape = NULL, subtitle = outcome_title(outcome),
      caption = wrap_caption(
        if (found$thin) {
          "Lines: means of neighbours; strokes: their range."
        } else {
          "Points: single values in their order."
        },
        excluded_caption(study, outcome)
      ),
      alt = sprintf("%s over %s, a line per group.", outcome$label, study$rows$order$name)
    ) +
    figure_theme(look$base_size) +
    ggplot2::theme(
      legend.position = "top", legend.justification = "left",
      panel.grid.major.y = grid_line()
    )
}
