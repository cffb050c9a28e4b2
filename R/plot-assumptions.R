# Figures of vet_assumptions(): normal quantiles with a band, spread, order, and all on one page.

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_assumptions <- function(object, ..., view = NULL, outcome = NULL, base_size = NULL,
                                        title = NULL, caption = NULL, palette = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  look <- figure_look(base_size, title, caption, palette, call)
  study <- object$study
  outcome <- pick_answered(object, outcome)
  view <- check_vet_view(view, study, outcome, call)
  switch(view,
    normal = draw_normal(study, outcome, look),
    spread = draw_spread(study, outcome, look, object$settings$level),
    order = draw_serial(study, outcome, look),
    page = draw_vet_page(object, outcome, look)
  )
}

vet_views <- c("page", "normal", "spread", "order")

check_vet_view <- function(view, study, outcome, call) {
  view <- check_choice(view %||% "page", vet_views, arg = "view", call = call)
  if (view %in% c("normal", "order") && !has_values(study)) {
    abort_view(view, "single values, and the study has published numbers only.", "needs_values", call)
  }
  if (view == "spread" && is.na(outcome$moments[[1]]$mean)) {
    abort_view(view, "both measurements, and the study has their changes only.", "needs_values", call)
  }
  if (view == "order" && is.null(study$rows$order)) {
    abort_view(view, "an order: declare it with {.code order = }.", "needs_order", call)
  }
  view
}

# The views a study has what it needs for.
fitting_vet_views <- function(study, outcome) {
  c(
    if (study$source == "values") "normal", if (!is.na(outcome$moments[[1]]$mean)) "spread",
    if (!is.null(study$rows$order) && study$source == "values") "order"
  )
}

# Changes are drawn in grey, because they are not one of the groups.
vet_scales <- function(look, groups) {
  scales <- group_scales(look)
  if (groups == 2) return(scales)
  list(
    ggplot2::scale_colour_manual(values = neutral, aesthetics = c("colour", "fill")),
    ggplot2::scale_shape_manual(values = group_shapes[[1]])
  )
}

# --- normal quantiles -------------------------------------------------------------------------------

draw_normal <- function(study, outcome, look) {
  k <- look$base_size / 11
  data <- normal_curves(study, outcome)
  if (is.null(data)) return(draw_nothing(look, "Normal quantiles need three different values."))
  groups <- data[!duplicated(data$group), ]
  names <- stats::setNames(
    sprintf(
      "%s\n%s of %s outside", strip_label(as.character(groups$group), nrow(groups) + 0.5),
      format_count(groups$outside), format_count(groups$n)
    ), groups$group
  )
  ggplot2::ggplot(data, ggplot2::aes(.data$quantile, .data$value)) +
    ggplot2::geom_ribbon(
      ggplot2::aes(ymin = .data$lower, ymax = .data$upper, fill = .data$group),
      alpha = 0.16
    ) +
    ggplot2::geom_line(
      ggplot2::aes(y = .data$mean + .data$sd * .data$quantile),
      colour = faint, linewidth = 0.5 * k
    ) +
    ggplot2::geom_point(
      ggplot2::aes(colour = .data$group, shape = .data$group),
      size = 1.7 * k
    ) +
    ggplot2::geom_point(
      ggplot2::aes(colour = .data$group), data[data$fenced, ],
      shape = 1, size = 3.2 * k, stroke = 0.7 * k
    ) +
    ggplot2::facet_wrap(~ .data$group, labeller = ggplot2::as_labeller(names)) +
    vet_scales(look, nlevels(data$group)) +
    figure_labels(
      look,
      x = "Normal quantile", subtitle = vet_title(study, outcome),
      caption = wrap_caption(
        "Points: ordered values. Line: a normal distribution with their mean and SD.",
        "Band: a normal sample stays inside as a whole with probability 95%.",
        if (any(data$fenced)) "Rings: values beyond 1.5 box lengths.",
        "Points inside are not evidence of normality.", excluded_caption(study, outcome)
      ),
      alt = sprintf(
        "Normal quantile plots of %s with a simultaneous 95%% band. %s.", outcome$label,
        paste(gsub("\n", ": ", names, fixed = TRUE), collapse = "; ")
      )
    ) +
    figure_theme(look$base_size) +
    horizontal_guides()
}

vet_title <- function(study, outcome) {
  title <- outcome_title(outcome)
  if (is_paired(study)) paste0("Change of ", inside_sentence(title), ", ", study_direction(study)) else title
}

horizontal_guides <- function() {
  ggplot2::theme(panel.grid.major.y = grid_line())
}

draw_nothing <- function(look, text) {
  ggplot2::ggplot() +
    ggplot2::annotate("text", x = 0, y = 0, label = text, size = 3.6 * look$base_size / 11, colour = ink) +
    ggplot2::theme_void() +
    ggplot2::labs(alt = text)
}

# --- spread -----------------------------------------------------------------------------------------

draw_spread <- function(study, outcome, look, level) {
  k <- look$base_size / 11
  data <- spread_data(study, outcome, level)
  data$sds$row <- c(2, 1)
  decimals <- outcome_decimals(outcome)
  label <- ifelse(is.na(data$sds$sd), "one value, no SD", sprintf(
    "SD %s\n%s", with_unit_each(format_number(data$sds$sd, decimals), difference_unit(outcome)),
    format_range(data$sds$lower, data$sds$upper, decimals)
  ))
  values <- if (!is.null(data$deviations)) deviation_points(data, study)
  ggplot2::ggplot(data$sds) +
    ggplot2::geom_vline(xintercept = 0, colour = ink, linewidth = 0.35 * k, linetype = "dotted") +
    estimation_values_layer(values, k) +
    ggplot2::geom_segment(
      ggplot2::aes(
        x = -.data$upper, xend = .data$upper, y = .data$row - 0.1, yend = .data$row - 0.1,
        colour = .data$group
      ),
      linewidth = 0.5 * k, na.rm = TRUE
    ) +
    ggplot2::geom_segment(
      ggplot2::aes(
        x = -.data$sd, xend = .data$sd, y = .data$row - 0.1, yend = .data$row - 0.1, colour = .data$group
      ),
      linewidth = 2.4 * k, na.rm = TRUE
    ) +
    group_scales(look) +
    ggplot2::scale_y_continuous(
      breaks = c(2, 1), labels = paste0(wrap_label(study$groups, 18), "\n", label),
      expand = ggplot2::expansion(add = 0.15)
    ) +
    spread_labels(study, outcome, data$sds$sd, !is.null(values), level, look) +
    figure_theme(look$base_size)
}

spread_labels <- function(study, outcome, sd, values, level, look) {
  sd <- ifelse(is.na(sd), "none (one value)", format_number(sd, outcome_decimals(outcome)))
  figure_labels(
    look,
    x = paste0("Distance from centre", unit_in_brackets(outcome)),
    caption = wrap_caption(
      if (values) "Above each bar: values minus the median of their group.",
      sprintf("Thick bars: one SD to either side; thin ones: upper limit of its %s interval,", format_percent(level)),
      "exact for normal populations.", excluded_caption(study, outcome)
    ),
    alt = sprintf(
      "SDs of %s: %s in %s, %s in %s.", outcome$label, sd[[1]], study$groups[[1]], sd[[2]], study$groups[[2]]
    )
  )
}

deviation_points <- function(data, study) {
  many <- max(lengths(data$deviations)) > points_at_most
  pieces <- Map(function(x, row, group) {
    points <- if (many) histogram_bars(x, histogram_edges(unlist(data$deviations))) else spread_points(x)
    points$row <- row
    points$group <- factor(group, study$groups)
    points
  }, data$deviations, data$sds$row, study$groups)
  list(many = many, data = do.call(rbind, unname(pieces)))
}

# --- order ------------------------------------------------------------------------------------------

draw_serial <- function(study, outcome, look) {
  k <- look$base_size / 11
  data <- order_series(study, outcome)
  groups <- nlevels(data$group)
  thin <- max(table(data$group)) > order_at_most
  if (thin) {
    data <- do.call(rbind, lapply(split(data, data$group), function(part) {
      data.frame(thinned(part), group = part$group[[1]], mean = part$mean[[1]])
    }))
  }
  ggplot2::ggplot(data, ggplot2::aes(.data$place, .data$value, colour = .data$group, shape = .data$group)) +
    ggplot2::geom_hline(
      ggplot2::aes(yintercept = .data$mean),
      colour = faint, linewidth = 0.4 * k, linetype = "dashed"
    ) +
    ggplot2::geom_line(linewidth = 0.5 * k, alpha = 0.8) +
    (if (!thin) ggplot2::geom_point(size = 1.5 * k)) +
    (if (groups == 2) ggplot2::facet_wrap(~ .data$group, ncol = 1, labeller = ggplot2::label_wrap_gen(60))) +
    vet_scales(look, groups) +
    ggplot2::scale_y_continuous(n.breaks = 4) +
    figure_labels(
      look,
      x = study$rows$order$name, subtitle = vet_title(study, outcome),
      caption = wrap_caption(
        if (thin) "Lines: means of neighbours." else "Points: single values in their order.",
        "Dashed line: their mean. Runs on one side of it show dependence.", excluded_caption(study, outcome)
      ),
      alt = sprintf("%s over %s.", vet_title(study, outcome), study$rows$order$name)
    ) +
    figure_theme(look$base_size) +
    horizontal_guides()
}

has_shape <- function(study, outcome) {
  looked <- if (is_paired(study)) 3 else 1:2
  any(vapply(looked, function(which) length(unique(outcome_group_values(outcome, which))) > 2, NA))
}

# --- one page ---------------------------------------------------------------------------------------

draw_vet_page <- function(answer, outcome, look) {
  study <- answer$study
  views <- fitting_vet_views(study, outcome)
  # Two different values have no shape to draw.
  if (length(views) > 1 && "normal" %in% views && !has_shape(study, outcome)) views <- setdiff(views, "normal")
  part <- page_part(look)
  plots <- lapply(stats::setNames(nm = views), function(view) {
    switch(view,
      normal = draw_normal(study, outcome, part),
      spread = draw_spread(study, outcome, part, answer$settings$level),
      order = draw_serial(study, outcome, part)
    )
  })
  texts <- c(
    normal = "Quantiles: ordered values against a normal distribution with their mean and SD (line); a normal
      sample stays inside the band as a whole with probability 95%, and to be inside is not evidence of normality.",
    spread = "Variances: values minus the median of their group; thick bars: one SD to either side, thin ones: the upper
      limit of its interval, exact for normal populations.",
    order = "Order: single values, or means of neighbours where there are many, and their mean (dashed); runs on one
      side of it show dependence."
  )
  look$title <- look$title %||% default_title(outcome, study, "Assumptions: ")
  new_page(plots, look, paste(c(texts[views], excluded_caption(study, outcome)), collapse = " "))
}
