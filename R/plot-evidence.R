# Figures of the weight of evidence: prior and posterior of the effect, and how posterior and factor move with the width
# of the prior.

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_evidence <- function(object, ..., view = NULL, outcome = NULL, base_size = NULL, title = NULL,
                                     caption = NULL) {
  refuse_more(...)
  call <- rlang::current_env()
  look <- figure_look(base_size, title, caption, NULL, call)
  view <- check_choice(view %||% "evidence", c("evidence", "posterior", "widths"), arg = "view", call = call)
  outcome <- pick_answered(object, outcome)
  if (view == "posterior") return(draw_posterior(object, outcome, look))
  tried <- try_priors(object, outcome = outcome)
  if (view == "widths") return(draw_widths(tried, look))
  look$title <- look$title %||% default_title(outcome, object$study)
  part <- page_part(look)
  widths <- draw_widths(tried, part)
  plots <- list(posterior = draw_posterior(object, outcome, part), widths = widths)
  new_page(
    plots, look,
    paste(posterior_caption(object, outcome), widths_caption(tried), excluded_caption(object$study, outcome)),
    stacked = TRUE
  )
}

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_priors <- function(object, ..., base_size = NULL, title = NULL, caption = NULL) {
  refuse_more(...)
  draw_widths(object, figure_look(base_size, title, caption, NULL, rlang::current_env()))
}

prior_fill <- "#D5D9DC"

draw_posterior <- function(answer, outcome, look) {
  k <- look$base_size / 11
  study <- answer$study
  row <- outcome_rows(answer, outcome)
  data <- effect_densities(answer, outcome)
  top <- max(data$prior, data$posterior)
  inside <- data[data$effect >= row$lower & data$effect <= row$upper, ]
  null <- if (is.na(row$within_low)) c(0, 0) else c(row$within_low, row$within_high)
  look$title <- look$title %||% default_title(outcome, study)
  ggplot2::ggplot(data, ggplot2::aes(.data$effect)) +
    area_layer(ggplot2::aes(y = .data$prior), data, fill = prior_fill) +
    area_layer(ggplot2::aes(y = .data$posterior), inside, fill = meaning_colours[[1]], alpha = 0.35) +
    ggplot2::geom_line(ggplot2::aes(y = .data$posterior), colour = meaning_colours[[1]], linewidth = 0.9 * k) +
    ggplot2::annotate(
      "segment",
      x = null, xend = null, y = 0, yend = 1.02 * top, colour = ink, linewidth = 0.4 * k, linetype = "dotted"
    ) +
    ggplot2::annotate(
      "segment",
      x = row$lower, xend = row$upper, y = -0.06 * top, yend = -0.06 * top, colour = ink, linewidth = 1.8 * k
    ) +
    ggplot2::annotate("point", x = row$estimate, y = -0.06 * top, colour = ink, size = 3.4 * k, shape = 18) +
    posterior_labels(data, row, study, top, k) +
    ggplot2::scale_x_continuous(expand = ggplot2::expansion(mult = 0.03)) +
    ggplot2::scale_y_continuous(breaks = NULL, limits = c(-0.12 * top, 1.4 * top), expand = c(0, 0)) +
    figure_labels(
      look,
      x = effect_axis(row, outcome, study),
      caption = wrap_caption(posterior_caption(answer, outcome), excluded_caption(study, outcome)),
      alt = sprintf(
        "Prior and posterior of the standardized effect of %s, %s: %s. %s.", outcome$label, study_direction(study),
        posterior_words(row), capital(factor_words(row, outcome))
      )
    ) +
    ggplot2::coord_cartesian(clip = "off") +
    figure_theme(look$base_size) +
    ggplot2::theme(axis.title.x = ggplot2::element_text(hjust = 0.5))
}

# Names where the curves are, and at the ends who is higher there.
posterior_labels <- function(data, row, study, top, k) {
  ends <- range(data$effect)
  peak <- data[which.max(data$posterior), ]
  # The prior is named where it stands out most against the posterior, clear of other marks.
  marks <- c(0, row$within_low, row$within_high, peak$effect)
  taken <- vapply(data$effect, function(at) any(abs(at - marks) < 0.05 * diff(ends), na.rm = TRUE), NA)
  open <- data[which.max(data$prior - data$posterior - ifelse(taken, top, 0)), ]
  sides <- rev(study$groups)
  keep <- c(ends[[1]] < -0.1 * diff(ends), ends[[2]] > 0.1 * diff(ends))
  list(
    ggplot2::annotate(
      "text",
      x = peak$effect, y = peak$posterior + 0.08 * top, label = sprintf(
        "posterior: %s (%s)", format_number(row$estimate, 2), format_range(row$lower, row$upper, 2)
      ), size = 3.4 * k, colour = meaning_colours[[1]], fontface = "bold",
      hjust = min(1, max(0, (peak$effect - ends[[1]]) / diff(ends)))
    ),
    ggplot2::annotate(
      "text",
      x = open$effect, y = open$prior + 0.05 * top, label = "prior", size = 3.4 * k, colour = "#5B6469",
      hjust = min(1, max(0, (open$effect - ends[[1]]) / diff(ends)))
    ),
    ggplot2::annotate(
      "text",
      x = ends[keep], y = 1.31 * top, label = paste(sides, "higher")[keep], hjust = c(0, 1)[keep], size = 3.4 * k,
      colour = ink
    )
  )
}

effect_axis <- function(row, outcome, study) {
  beyond <- with_unit(format_short(row$beyond), difference_unit(outcome))
  from <- if (row$beyond == 0) "" else paste(", beyond", beyond)
  sprintf("Standardized effect: %s%s (%s)", study_direction(study), from, effect_divisor(row))
}

posterior_caption <- function(answer, outcome) {
  row <- outcome_rows(answer, outcome)
  sprintf(
    "Grey: the prior, %s. Bar and shading: median and %s credible interval%s. Dotted: %s. %s.", prior_words(row),
    format_percent(row$level), if (is.na(row$within_low)) ", given an effect" else "",
    if (is.na(row$within_low)) "no effect" else "the bounds of what counts as none", capital(factor_words(row, outcome))
  )
}

declared_width <- function(at, k) {
  list(
    ggplot2::geom_point(ggplot2::aes(.data$x, .data$y), at, size = 3.4 * k, shape = 18, colour = ink),
    ggplot2::geom_text(
      ggplot2::aes(.data$x, .data$y, label = .data$label), at,
      hjust = -0.06, vjust = -0.9, size = 3.3 * k, colour = ink, fontface = "bold"
    )
  )
}

# Posterior and factor over one shared axis of prior widths.
draw_widths <- function(tried, look) {
  k <- look$base_size / 11
  outcome <- tried$study$outcomes[[1]]
  table <- tried$table
  at <- table[table$standing == "declared", ]
  parts <- widths_parts(table, at)
  posterior <- transform(table, part = parts$posterior)
  factor <- transform(table, part = parts$factor)
  look$title <- look$title %||% default_title(outcome, tried$study, "Other priors: ")
  ggplot2::ggplot(table, ggplot2::aes(.data$prior_half)) +
    ggplot2::geom_blank(ggplot2::aes(x = at$prior_half, y = .data$y), parts$room) +
    ggplot2::geom_hline(yintercept = 0, colour = ink, linewidth = 0.35 * k, linetype = "dotted") +
    ggplot2::geom_vline(xintercept = at$prior_half, colour = faint, linewidth = 0.5 * k) +
    ggplot2::geom_ribbon(
      ggplot2::aes(ymin = .data$lower, ymax = .data$upper), posterior,
      fill = meaning_colours[[1]], alpha = 0.22
    ) +
    ggplot2::geom_line(
      ggplot2::aes(y = .data$estimate), posterior,
      colour = meaning_colours[[1]], linewidth = 0.9 * k
    ) +
    ggplot2::geom_line(ggplot2::aes(y = .data$log_bf), factor, colour = meaning_colours[[2]], linewidth = 0.9 * k) +
    declared_width(parts$declared, k) +
    ggplot2::facet_wrap(~ .data$part, ncol = 1, scales = "free_y") +
    ggplot2::coord_cartesian(clip = "off") +
    ggplot2::scale_y_continuous(n.breaks = 4) +
    ggplot2::scale_x_continuous(
      trans = "log2", breaks = widths_breaks(table$prior_half, at$prior_half),
      labels = function(x) vapply(signif(x, 2), format_short, ""), expand = ggplot2::expansion(mult = 0.02)
    ) +
    figure_labels(
      look,
      x = "Half of the prior lies within (SD)", caption = wrap_caption(widths_caption(tried)),
      alt = sprintf(
        "Posterior and log Bayes factor over prior widths, %s, %s: %s; declared: %s.", outcome$label,
        study_direction(tried$study), priors_range_words(tried), format_short(signif(at$prior_half, 3))
      )
    ) +
    figure_theme(look$base_size) +
    horizontal_guides()
}

# The names of both parts, the declared width in each, and room for its label above the lines, 0 always in view.
widths_parts <- function(table, at) {
  names <- c("Posterior of the standardized effect", "ln BF10 (below 0: evidence against an effect)")
  part <- function(i) factor(names[[i]], names)
  declared <- data.frame(
    part = c(part(1), part(2)), y = c(at$estimate, at$log_bf), x = at$prior_half, label = c(
      sprintf("%s (%s)", format_number(at$estimate, 2), format_range(at$lower, at$upper, 2)),
      sprintf("%s: BF10 = %s", format_number(at$log_bf, 2), factor_text(at$log_bf))
    )
  )
  room <- data.frame(part = rep(c(part(1), part(2)), each = 3), y = c(
    0, widths_room(table$lower, table$upper), 0, widths_room(table$log_bf, table$log_bf)
  ))
  list(posterior = part(1), factor = part(2), declared = declared, room = room)
}

widths_room <- function(lower, upper) {
  ends <- range(0, lower, upper)
  ends + c(0, 0.4) * diff(ends)
}

widths_breaks <- function(widths, declared) {
  octaves <- declared * 2^(-12:12)
  octaves[octaves >= min(widths) * 0.999 & octaves <= max(widths) * 1.001]
}

widths_caption <- function(tried) {
  sprintf(
    "Over prior widths: posterior median with %s credible interval, and the Bayes factor; line: the declared prior.",
    format_percent(tried$table$level[[1]])
  )
}
