#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_effect <- function(object, ..., outcome = NULL, base_size = 11, title = NULL,
                                   caption = NULL) {
  if (...length()) rlang::check_dots_empty()
  look <- figure_look(base_size, title, caption, NULL, rlang::current_env())
  k <- look$base_size / 11
  study <- object$study
  outcome <- pick_outcome(study, outcome)
  data <- effect_data(object, outcome)
  look$title <- look$title %||% paste0(outcome$label, ": ", study_direction(study))
  method <- if (is_paired(study)) "t of the changes" else "Welch"
  level <- format_percent(object$settings$level)
  ggplot2::ggplot(data, ggplot2::aes(.data$estimate, .data$label)) +
    ggplot2::geom_vline(xintercept = 0, colour = ink, linewidth = 0.35 * k, linetype = "dotted") +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, yend = .data$label),
      linewidth = 1.3 * k, colour = ink
    ) +
    ggplot2::geom_point(size = 3.6 * k, shape = 18, colour = ink) +
    ggplot2::geom_text(
      ggplot2::aes(label = .data$text),
      vjust = -1, size = 3.3 * k, colour = ink
    ) +
    ggplot2::facet_wrap(~ .data$scale, ncol = 1, scales = "free", strip.position = "top") +
    ggplot2::scale_x_continuous(expand = ggplot2::expansion(mult = 0.15)) +
    figure_labels(
      look,
      x = "Effect size",
      caption = wrap_caption(
        sprintf("Points with bars: estimates with %s intervals", level),
        sprintf("(difference: %s; standardized: exact noncentral t).", method),
        "Dotted line: no difference."
      ),
      alt = paste0("Effect sizes of ", outcome$label, ": ", paste(data$label, data$text, collapse = "; "))
    ) +
    figure_theme(base_size)
}

effect_data <- function(answer, outcome) {
  rows <- answer$table[answer$table$outcome == outcome$name, ]
  raw <- is.na(rows$standardizer)
  decimals <- ifelse(raw, outcome_decimals(outcome), 2L)
  unit <- if (is.null(outcome$unit)) "unit of the outcome" else outcome$unit
  scales <- c(sprintf("In %s", unit), "In SD units")
  label <- unname(estimand_words[rows$estimand])
  data.frame(
    label = factor(label, rev(label)), scale = factor(scales[2 - raw], scales),
    estimate = rows$estimate, lower = rows$lower, upper = rows$upper,
    text = sprintf(
      "%s [%s to %s]", format_each(rows$estimate, decimals), format_each(rows$lower, decimals),
      format_each(rows$upper, decimals)
    )
  )
}
