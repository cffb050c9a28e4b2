# Many outcomes, or all subgroups, in one figure.

many_views <- c("intervals", "overview")
# Beyond these there is no room for names.
most_named <- 60
labelled_points <- 8

draw_many <- function(answer, view, look, call) {
  if (length(answered_records(answer)) < 2) {
    abort_view(view, "several outcomes or subgroups with a result.", "bad_value", call)
  }
  if (view == "intervals") draw_intervals(answer, look) else draw_overview(answer, look)
}

# A row for each outcome with a result: estimate and intervals on a scale that they share, and whether the test decides
# after adjustment.
many_data <- function(answer, standardized) {
  rows <- answer$table[answer$table$role == "primary", ]
  if (!is.null(rows$reason)) rows <- rows[is.na(rows$reason), ]
  records <- answer$study$outcomes[match(row_names(rows), vapply(answer$study$outcomes, record_name, ""))]
  p <- ifelse(is.na(rows$p_adjusted), rows$p, rows$p_adjusted)
  data <- data.frame(
    name = many_labels(rows, records, answer$study), estimate = rows$estimate, lower = rows$lower, upper = rows$upper,
    joint_lower = rows$joint_lower %||% NA_real_, joint_upper = rows$joint_upper %||% NA_real_, p = rows$p,
    # Also where p is below every double.
    height = -rows$log_p / log(10),
    decided = p <= rows$alpha, none = null_of(rows)
  )
  if (!standardized) return(data)
  size <- many_effects(answer, rows)
  data[c("estimate", "lower", "upper")] <- size[c("estimate", "lower", "upper")]
  data[c("joint_lower", "joint_upper")] <- NA_real_
  data$none <- 0
  # A test may have a result where its standardized effect has none.
  data[!is.na(data$estimate), ]
}

many_labels <- function(rows, records, study) {
  label <- vapply(records, outcome_name, "")
  if (is.null(study$each)) return(label)
  if (length(unique(rows$outcome)) == 1) rows$subgroup else paste0(label, ", ", rows$subgroup)
}

# The standardized effect that goes with the method, at the level of the answer.
many_effects <- function(answer, rows) {
  effect <- effect_beside(answer, scaled_estimand(answer))$table
  effect[match(row_names(rows), row_names(effect)), ]
}

# One unit for all (or none for any), and one kind of number.
share_unit <- function(answer) {
  units <- lapply(answer$study$outcomes, `[[`, "unit")
  length(unique(units)) == 1 && (!is.null(units[[1]]) || length(unique(vapply(
    answer$study$outcomes, `[[`, "", "name"
  ))) == 1)
}

# Whether the method has an effect size that outcomes of different units share.
has_scaled_effect <- function(answer) !is.na(method_fact(answer$settings$method[[1]], "scaled"))

# A study of changes alone takes the last of the usual effect sizes, which needs nothing else.
scaled_estimand <- function(answer) {
  method <- answer$settings$method[[1]]
  known_here(c(method_fact(method, "scaled"), rev(usual_set(method, answer$study))), answer$study)[[1]]
}

draw_intervals <- function(answer, look) {
  standardized <- !share_unit(answer) && has_scaled_effect(answer)
  data <- many_data(answer, standardized)
  data <- data[order(data$estimate), ]
  data$place <- seq_len(nrow(data))
  k <- look$base_size / 11
  few <- nrow(data) <= most_named
  thick <- if (few) 1.1 * k else max(0.12, 1.1 * k * most_named / nrow(data))
  joint <- data[!is.na(data$joint_lower), ]
  none <- unique(data$none)
  shade <- ifelse(data$decided, ink, faint)
  look$title <- look$title %||%
    wrap_label(sprintf("%s: %s", many_title(answer$study), study_direction(answer$study)), 58)
  ggplot2::ggplot(data, ggplot2::aes(.data$estimate, .data$place)) +
    ggplot2::geom_vline(xintercept = none, colour = ink, linewidth = 0.35 * k, linetype = "dotted") +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$joint_lower, xend = .data$joint_upper, yend = .data$place), joint,
      linewidth = thick / 3, colour = faint
    ) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, yend = .data$place), data[!is.na(data$lower + data$upper), ],
      linewidth = thick, colour = shade[!is.na(data$lower + data$upper)]
    ) +
    ggplot2::geom_point(
      size = if (few) 2.4 * k else 0.6 * k, shape = 23, colour = shade, fill = ifelse(data$decided, ink, "white")
    ) +
    ggplot2::scale_y_continuous(
      breaks = if (few) data$place, labels = if (few) wrap_label(data$name, 28), expand = ggplot2::expansion(add = 0.8)
    ) +
    intervals_labels(answer, data, standardized, look) +
    figure_theme(look$base_size)
}

intervals_labels <- function(answer, data, standardized, look) {
  lost <- length(answer$study$outcomes) - nrow(data)
  figure_labels(
    look,
    x = many_axis(answer, standardized),
    caption = wrap_caption(
      many_bars(answer, data, standardized), many_dark(answer), "Dotted line: the null value.",
      if (lost > 0) sprintf("No result for %s.", format_count(lost))
    ),
    alt = sprintf(
      "Intervals of %d differences in order of size, from %s to %s; %d significant%s.", nrow(data),
      format_number(data$estimate[[1]]), format_number(data$estimate[[nrow(data)]]), sum(data$decided),
      if (any(!is.na(answer$table$p_adjusted))) " after adjustment" else ""
    )
  )
}

many_title <- function(study) {
  outcomes <- unique(vapply(study$outcomes, `[[`, "", "name"))
  if (length(outcomes) > 1) return(capital(many_words(study)))
  paste0(capital(outcome_name(study$outcomes[[1]])), " by ", study$each$name)
}

many_axis <- function(answer, standardized) {
  method <- answer$settings$method[[1]]
  if (!standardized) {
    row <- answer$table[1, ]
    if (!in_outcome_unit(row)) return(scale_facts(estimand_scale(row), "axis"))
    unit <- answer$study$outcomes[[1]]$unit
    kind <- estimand_fact(row$estimand, "entry", answer$study)
    return(if (is.null(unit)) kind else sprintf("%s (%s)", kind, unit))
  }
  scaled <- scaled_estimand(answer)
  if (estimand_is(scaled, "ranks")) return(capital(estimand_fact(scaled, "name", answer$study)))
  sprintf("Standardized difference, %s", effect_names(scaled, answer$study))
}

many_bars <- function(answer, data, standardized) {
  level <- format_percent(answer$settings$level)
  paste0(
    sprintf("Bars: %s intervals%s", level, if (standardized) " of the standardized difference" else ""),
    if (any(!is.na(data$joint_lower))) paste0("; thin: ", joint_interval_words(answer)), "."
  )
}

many_dark <- function(answer) {
  alpha <- format_short(answer$settings$alpha)
  if (all(is.na(answer$table$p_adjusted))) return(sprintf("Dark: p at most %s.", alpha))
  sprintf("Dark: p adjusted by %s at most %s.", adjust_phrase(answer), alpha)
}

# --- effect against p -------------------------------------------------------------------------------

draw_overview <- function(answer, look) {
  standardized <- has_scaled_effect(answer)
  data <- many_data(answer, standardized)
  k <- look$base_size / 11
  named <- utils::head(data[order(-data$height, -abs(data$estimate)), ], labelled_points)
  limit <- if (any(data$decided)) min(data$height[data$decided])
  look$title <- look$title %||%
    wrap_label(sprintf("%s, effect and p: %s", many_title(answer$study), study_direction(answer$study)), 58)
  ggplot2::ggplot(data, ggplot2::aes(.data$estimate, .data$height)) +
    ggplot2::geom_vline(xintercept = data$none[[1]], colour = ink, linewidth = 0.35 * k, linetype = "dotted") +
    (if (!is.null(limit)) {
      ggplot2::geom_hline(yintercept = limit, colour = faint, linewidth = 0.4 * k, linetype = "dashed")
    }) +
    ggplot2::geom_point(
      size = (if (nrow(data) > 500) 1 else 2.2) * k, shape = ifelse(data$decided, 16, 1),
      colour = ifelse(data$decided, ink, faint), alpha = if (nrow(data) > 500) 0.5 else 0.9
    ) +
    ggplot2::geom_text(
      ggplot2::aes(label = .data$name), named,
      size = 2.9 * k, colour = ink, vjust = -0.9, hjust = "inward", check_overlap = TRUE
    ) +
    ggplot2::scale_x_continuous(expand = ggplot2::expansion(mult = 0.12)) +
    ggplot2::scale_y_continuous(
      breaks = p_breaks(max(data$height)), labels = p_tick, expand = ggplot2::expansion(mult = c(0.02, 0.1))
    ) +
    figure_labels(
      look,
      x = many_axis(answer, standardized),
      caption = wrap_caption(
        "Every point an outcome; p upwards towards 0, on a logarithmic axis.", many_dark(answer),
        if (!is.null(limit)) "Dashed: the largest such p."
      ),
      alt = sprintf(
        "Effect and p of %d outcomes; %d significant. Smallest p: %s.", nrow(data), sum(data$decided),
        paste(utils::head(named$name, 3), collapse = ", ")
      )
    ) +
    ggplot2::labs(y = "p") +
    figure_theme(look$base_size) +
    ggplot2::theme(panel.grid.major.y = grid_line())
}

# Powers of ten, at most seven of them; 0.05 where it does not fall upon one.
p_breaks <- function(highest) {
  most <- max(1, ceiling(highest))
  steps <- c(outer(c(1, 2, 5), 10^(0:ceiling(log10(most))), "*"))
  step <- min(steps[steps >= most / 6])
  c(seq(0, most, by = step), if (step <= 2) -log10(0.05))
}

p_tick <- function(height) {
  vapply(height, function(h) {
    if (is.na(h)) return("")
    if (h > 4) return(sprintf("1e-%d", round(h)))
    text <- format_plain(signif(10^-h, 3), scientific = FALSE)
    point_to_mark(if (style_rule("leading_zero")) text else sub("^0[.]", ".", text))
  }, "")
}

# --- subgroups --------------------------------------------------------------------------------------

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_subgroups <- function(object, ..., outcome = NULL, base_size = NULL, title = NULL, caption = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  look <- figure_look(base_size, title, caption, NULL, call)
  known <- unique(object$table$outcome)
  if (!is.null(outcome)) known <- check_choice(outcome, known, arg = "outcome", call = call)
  shown <- min(length(known), most_panels)
  told <- if (shown < length(known)) sprintf("The first %d of %d outcomes.", shown, length(known))
  known <- known[seq_len(shown)]
  rows <- object$detail$differences
  rows <- rows[rows$outcome %in% known & !is.na(rows$estimate), ]
  k <- look$base_size / 11
  panels <- vapply(known, function(name) subgroup_panel(object, name), "")
  labels <- rev(object$study$each$labels)
  data <- data.frame(
    panel = factor(panels[rows$outcome], panels), subgroup = factor(rows$subgroup, labels), estimate = rows$estimate,
    lower = rows$lower, upper = rows$upper
  )
  centre <- object$table[object$table$contrast == "all" & object$table$outcome %in% known & !is.na(object$table$p), ]
  centre <- data.frame(panel = factor(panels[centre$outcome], panels), estimate = centre$estimate)
  look$title <- look$title %||%
    wrap_label(sprintf("Difference by %s: %s", object$study$each$name, study_direction(object$study)), 58)
  ggplot2::ggplot(data, ggplot2::aes(.data$estimate, .data$subgroup)) +
    ggplot2::geom_vline(xintercept = 0, colour = ink, linewidth = 0.35 * k, linetype = "dotted") +
    ggplot2::geom_vline(
      ggplot2::aes(xintercept = .data$estimate), centre, colour = faint, linewidth = 0.5 * k, linetype = "dashed"
    ) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, yend = .data$subgroup), data[!is.na(data$lower), ],
      linewidth = 1.3 * k, colour = ink
    ) +
    ggplot2::geom_point(size = 3.4 * k, shape = 18, colour = ink) +
    ggplot2::facet_wrap(~panel, ncol = 1, scales = "free_x", labeller = ggplot2::label_wrap_gen(60)) +
    subgroups_labels(object, data, panels, told, look) +
    figure_theme(look$base_size)
}

# What a figure of subgroups says; `told`: of outcomes that are not shown.
subgroups_labels <- function(object, data, panels, told, look) {
  units <- unique(lapply(object$study$outcomes, `[[`, "unit"))
  figure_labels(
    look,
    x = if (length(units) == 1 && !is.null(units[[1]])) sprintf("Difference (%s)", units[[1]]) else "Difference",
    caption = wrap_caption(
      told, sprintf("Bars: %s intervals within each subgroup.", format_percent(object$settings$level)),
      "Dotted: no difference; dashed: mean over the subgroups, weighted by 1 / SE\u00b2.",
      sprintf(
        "p above a panel: of the test that the difference is the same in all subgroups%s.",
        if (object$settings$method == "student") "" else " (Welch 1951)"
      )
    ),
    alt = paste(c(
      panels, paste(data$subgroup, format_number(data$estimate), sep = ": ", collapse = "; ")
    ), collapse = " ")
  )
}

# "Height (cm)", and below "F(2, 19.3) = 1.88, p = .180"
subgroup_panel <- function(object, name) {
  row <- object$table[object$table$outcome == name & object$table$contrast == "all", ]
  title <- capital(outcome_title_plain(subgroup_record(object, name)))
  if (is.na(row$p)) return(paste0(title, "\n", row$reason))
  sprintf(
    "%s\nF(%s, %s) = %s, %s%s", title, format_df(row$df), format_df(row$df_second), format_number(row$statistic),
    format_p(row$p, alpha = row$alpha),
    if (is.na(row$p_adjusted)) "" else sprintf(", adjusted %s", format_p(row$p_adjusted))
  )
}
