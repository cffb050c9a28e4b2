# The estimation figure: groups above, their difference on its own aligned axis below.
# Rows of the figure: first group at 3, second at 2, difference at 1.

points_at_most <- 400

# Everything drawn, as plain numbers: tests compare these with the answers they come from.
estimation_data <- function(description, outcome, difference = NULL) {
  study <- description$study
  rows <- description$table[is_row_of(description$table, outcome), ]
  groups <- data.frame(
    row = c(3, 2), group = factor(study$groups, study$groups), n = rows$n[1:2],
    mean = rows$mean[1:2], lower = rows$lower[1:2], upper = rows$upper[1:2], sd = rows$sd[1:2]
  )
  row <- difference_row_of(difference, outcome)
  ranked <- !is.null(row) && method_is(row, "ranks")
  if (ranked) groups[c("mean", "lower", "upper")] <- quartile_marks(answer_detail(difference, outcome, "ranks"))
  centre <- if (ranked) "median" else "mean"
  if (!is.null(row) && estimand_is(row, "robust")) {
    # What is compared stands at the centre, or the difference would not begin under it.
    centre <- if (row$estimand == "median_difference") "median" else "trimmed mean"
    groups$mean <- answer_detail(difference, outcome, "permutation")$centres
    groups[c("lower", "upper")] <- rows[1:2, c("q1", "q3")]
  }
  # One limit without the other is no interval.
  if (!is.null(row) && anyNA(c(row$lower, row$upper))) row[c("lower", "upper")] <- NA_real_
  gap <- row %||%
    data.frame(estimate = rows$mean[[3]], lower = rows$lower[[3]], upper = rows$upper[[3]])
  zero <- groups$mean[[2]]
  list(
    groups = groups, zero = zero, ranked = ranked, centre = centre,
    # In the coordinates of the values: the difference is drawn from the second mean (median) on.
    gap = data.frame(
      row = 1, estimate = zero + gap$estimate, lower = zero + gap$lower, upper = zero + gap$upper
    ),
    values = if (has_values(study) || is_database(study)) estimation_values(outcome, study)
  )
}

# Median with quartiles, for both groups.
quartile_marks <- function(detail) {
  pick <- function(at) vapply(detail$quartiles[1:2], function(q) q$values[[at]], 0)
  data.frame(mean = pick(2), lower = pick(1), upper = pick(3))
}

difference_row_of <- function(difference, outcome) {
  if (is.null(difference)) return(NULL)
  outcome_rows(difference, outcome, "primary")
}

# Single values as points, or more than can be told apart as the bars of a histogram.
estimation_values <- function(outcome, study) {
  groups <- study$groups
  if (is_database(study)) {
    bars <- engine_histogram(outcome, 60, if (is_whole(outcome)) 1)
    data <- data.frame(
      x = bars$low, x_end = bars$high, height = 0.4 * bars$count / stats::ave(bars$count, bars$which, FUN = max),
      row = c(3, 2)[bars$which], group = factor(groups[bars$which], groups)
    )
    return(list(many = TRUE, data = data))
  }
  values <- lapply(1:2, function(which) outcome_group_values(outcome, which))
  many <- max(lengths(values)) > points_at_most
  edges <- if (many) histogram_edges(unlist(values))
  pieces <- Map(function(x, row, group) {
    data <- if (many) histogram_bars(x, edges) else spread_points(x)
    data$row <- row
    data$group <- factor(group, groups)
    data
  }, values, c(3, 2), groups)
  list(many = many, data = do.call(rbind, pieces))
}

# Points move up and down only, and always in the same way. Similar values get different heights, and equal values form
# a stack with even steps.
spread_points <- function(x) {
  step <- (rank(x, ties.method = "first") * 0.61803398874989485) %% 1
  same <- match(x, x)
  size <- tabulate(same, length(x))[same]
  at <- stats::ave(seq_along(x), same, FUN = seq_along)
  step <- ifelse(size > 1, (at - 0.5) / size, step)
  data.frame(x = x, height = 0.12 + 0.26 * step)
}

# Edges of about 60 bars for both groups.
histogram_edges <- function(x, bins = 60) {
  stepped_breaks(range(x), value_step(x), bins) %||% seq(min(x), max(x), length.out = bins + 1)
}

# The tallest bar of a group is 0.4 high.
histogram_bars <- function(x, edges) {
  count <- tabulate(findInterval(x, edges, rightmost.closed = TRUE, all.inside = TRUE), length(edges) - 1)
  data.frame(x = utils::head(edges, -1), x_end = edges[-1], height = 0.4 * count / max(count))
}

draw_estimation <- function(description, outcome, look, difference = NULL) {
  k <- look$base_size / 11  # marks grow and shrink with the text
  study <- description$study
  data <- estimation_data(description, outcome, difference)
  row <- difference_row_of(difference, outcome)
  plot <- ggplot2::ggplot() +
    estimation_guides(data, row, outcome, k) +
    estimation_values_layer(data$values, k) +
    estimation_means_layers(data, study$source, k) +
    estimation_bound(data, row, k) +
    group_scales(look) +
    estimation_axes(data, row, outcome, study) +
    figure_labels(
      look,
      caption = estimation_caption(study, outcome, description, row, data),
      alt = estimation_alt(study, outcome, data, description$settings$level)
    ) +
    figure_theme(look$base_size)
  # The two axes belong to different rows: guide lines through both would mislead.
  plot + ggplot2::theme(
    panel.grid.major.x = ggplot2::element_blank(),
    axis.title.x.top = ggplot2::element_text(hjust = 0, margin = ggplot2::margin(b = 6)),
    axis.title.x.bottom = ggplot2::element_text(hjust = 0, face = "bold", margin = ggplot2::margin(t = 6))
  )
}

# Rule between groups and difference, line of no difference, the null value where it is another one.
estimation_guides <- function(data, row, outcome, k) {
  beyond <- row$beyond %||% 0
  at <- data$zero + unique(c(0, beyond))
  list(
    ggplot2::geom_hline(yintercept = 1.5, colour = faint, linewidth = 0.3 * k),
    ggplot2::annotate(
      "segment",
      x = at, xend = at, y = 0.55, yend = c(2, rep(1.45, length(at) - 1)), colour = ink,
      linewidth = 0.35 * k, linetype = c("dotted", rep("dashed", length(at) - 1))
    ),
    ggplot2::annotate(
      "segment",
      x = data$gap$estimate, xend = data$gap$estimate, y = 1, yend = 3, colour = faint,
      linewidth = 0.35 * k, linetype = "dotted"
    ),
    if (beyond != 0) {
      ggplot2::annotate(
        "text",
        x = data$zero + beyond, y = 1.38, hjust = -0.08, size = 3 * k, colour = ink,
        label = paste("null:", with_unit(format_short(beyond), difference_unit(outcome)))
      )
    }
  )
}

estimation_values_layer <- function(values, k) {
  if (is.null(values)) return(NULL)
  if (values$many) {
    return(ggplot2::geom_rect(
      ggplot2::aes(
        xmin = .data$x, xmax = .data$x_end, ymin = .data$row + 0.06,
        ymax = .data$row + 0.06 + .data$height, fill = .data$group
      ),
      data = values$data, alpha = 0.55
    ))
  }
  ggplot2::geom_point(
    ggplot2::aes(.data$x, .data$row + .data$height, colour = .data$group, shape = .data$group),
    data = values$data, size = 1.5 * k, alpha = 0.65
  )
}

# Thick bars from limit to limit, none where there is no interval, and the estimates on them.
estimation_means_layers <- function(data, source, k) {
  groups <- data$groups
  gap <- data$gap
  list(
    if (source == "summary") {
      ggplot2::geom_segment(
        ggplot2::aes(
          x = .data$mean - .data$sd, xend = .data$mean + .data$sd, y = .data$row,
          yend = .data$row, colour = .data$group
        ),
        groups[!is.na(groups$sd), ],
        linewidth = 0.4 * k
      )
    },
    ggplot2::geom_segment(
      ggplot2::aes(
        x = .data$lower, xend = .data$upper, y = .data$row, yend = .data$row, colour = .data$group
      ),
      groups[!is.na(groups$lower), ],
      linewidth = 1.3 * k
    ),
    ggplot2::geom_point(
      ggplot2::aes(.data$mean, .data$row, colour = .data$group, shape = .data$group),
      groups,
      size = 3.2 * k
    ),
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, y = .data$row, yend = .data$row),
      gap[!is.na(gap$lower), ],
      linewidth = 1.3 * k, colour = ink
    ),
    ggplot2::geom_point(
      ggplot2::aes(.data$estimate, .data$row), gap,
      size = 3.6 * k, colour = ink, shape = 18
    )
  )
}

# A stroke across the bar where a one-sided bound lies.
estimation_bound <- function(data, row, k) {
  bound <- one_sided_bound(row)
  if (is.null(bound)) return(NULL)
  ggplot2::annotate(
    "segment",
    x = data$zero + bound, xend = data$zero + bound, y = 0.9, yend = 1.1, colour = ink,
    linewidth = 0.7 * k
  )
}

one_sided_bound <- function(row) {
  if (is.null(row) || row$expect == "either") return(NULL)
  bound <- if (row$expect == "higher") row$at_least else row$at_most
  if (!is.na(bound)) bound
}

# Names of the rows, with what a reader would otherwise have to look up: sizes, and the numbers of the
# difference.
estimation_row_labels <- function(data, row, outcome, study) {
  decimals <- outcome_decimals(outcome)
  raw <- function(x) with_unit(format_number(x, decimals), difference_unit(outcome))
  gap <- data$gap - data$zero
  bound <- one_sided_bound(row)
  words <- c(
    if (!data$ranked) "difference" else if (is_paired(study)) "centre of changes" else "shift", raw(gap$estimate),
    if (!is.na(gap$lower)) format_range(gap$lower, gap$upper, decimals),
    if (data$ranked && !is.na(row$open_end)) sprintf("(%s limit excluded)", row$open_end),
    if (!is.null(bound)) {
      paste(if (row$expect == "higher") "at least" else "at most", raw(bound))
    }
  )
  c(
    sprintf("%s\nn = %s", wrap_label(study$groups, 18), format_count(data$groups$n)),
    paste(words, collapse = "\n")
  )
}

estimation_axes <- function(data, row, outcome, study) {
  zero <- data$zero
  reach <- range(
    data$gap$estimate, data$gap$lower, data$gap$upper, data$groups$mean, data$groups$lower,
    data$groups$upper, data$values$data$x, data$values$data$x_end,
    if (study$source == "summary") c(data$groups$mean - data$groups$sd, data$groups$mean + data$groups$sd),
    na.rm = TRUE
  )
  unit <- unit_in_brackets(outcome)
  list(
    ggplot2::scale_x_continuous(
      name = wrap_label(outcome_title(outcome), 48), position = "top", limits = reach,
      expand = ggplot2::expansion(mult = 0.04),
      sec.axis = ggplot2::sec_axis(
        ~ . - zero,
        name = wrap_label(paste0("Difference: ", study_direction(study), unit), 44)
      )
    ),
    ggplot2::scale_y_continuous(
      breaks = 3:1, limits = c(0.55, 3.5), expand = c(0, 0),
      labels = estimation_row_labels(data, row, outcome, study)
    )
  )
}

estimation_caption <- function(study, outcome, description, row, data) {
  level <- format_percent(description$settings$level)
  values <- if (study$source == "summary") {
    "From published numbers; thin lines reach one SD to either side."
  } else if (data$values$many) {
    "Bars above: distribution of the values."
  } else {
    "Small points: single values."
  }
  method <- row$method %||% description$settings$method
  what <- if (data$ranked) {
    if (is_paired(study)) "centre of the changes" else "Hodges-Lehmann shift"
  } else if (!is.null(row) && estimand_is(row, "robust")) {
    sub("^the ", "", compared_words(row, study))
  } else if (is_paired(study)) {
    "mean change"
  } else {
    "difference of the means"
  }
  wrap_caption(
    values, if (data$centre == "mean") {
      sprintf("Large points with bars: means with %s intervals (t).", level)
    } else {
      sprintf("Large points with bars: %ss with quartiles, for description.", data$centre)
    },
    if (is.na(data$gap$lower)) {
      sprintf("Below: the %s (no finite %s interval with these sizes),", what, level)
    } else {
      sprintf("Below: the %s with its %s interval (%s),", what, level, interval_label(method))
    },
    sprintf("on an axis whose zero lies under the second %s.", data$centre),
    if (!is.null(one_sided_bound(row))) "Stroke across it: the one-sided bound.",
    if ((row$beyond %||% 0) != 0) "Dashed line: the difference under the null.",
    excluded_caption(study, outcome)
  )
}

estimation_alt <- function(study, outcome, data, level) {
  decimals <- outcome_decimals(outcome)
  mean <- with_unit_each(format_number(data$groups$mean, decimals), outcome$unit)
  gap <- data$gap - data$zero
  sprintf(
    "Estimation figure of %s. %s of %s: %s (n = %s); of %s: %s (n = %s). %s, %s: %s, %s interval %s.",
    outcome$label, capital(data$centre), study$groups[[1]], mean[[1]],
    format_count(data$groups$n[[1]]),
    study$groups[[2]], mean[[2]], format_count(data$groups$n[[2]]), if (data$ranked) "Shift" else "Difference",
    study_direction(study), with_unit(format_number(gap$estimate, decimals), difference_unit(outcome)),
    format_percent(level),
    if (is.na(gap$lower)) "none" else with_unit(format_range(gap$lower, gap$upper, decimals), difference_unit(outcome))
  )
}
