# Figures of permutation tests: the distribution under reassignment, and what pairing is worth.

permuted_observed <- function(data, outcome) {
  if (data$studentized) return(paste("observed t =", format_number(data$observed, 2)))
  paste("observed:", with_unit(format_number(data$observed, outcome_decimals(outcome)), difference_unit(outcome)))
}

draw_permuted_null <- function(answer, outcome, look, curve) {
  k <- look$base_size / 11
  study <- answer$study
  row <- outcome_rows(answer, outcome, "primary")
  detail <- answer_detail(answer, outcome, "permutation")
  data <- permuted_null_bars(answer, outcome)
  shown <- permuted_observed(data, outcome)
  look$title <- look$title %||% default_title(outcome, study)
  share <- if (row$expect == "either" && !data$both) {
    sprintf("shaded share: %s\ntwice that is p", bare_p(data$share))
  } else {
    paste("shaded share:", format_p(row$p))
  }
  fine <- data$bars
  if (data$few) data$bars <- merged_stretches(data, diff(data$ends) / 41)
  data$fine <- fine
  top <- max(data$bars$density)
  ggplot2::ggplot(data$bars) +
    permuted_layers(data, row, k, top) +
    (if (curve) permuted_curve(data, outcome, study, k)) +
    ggplot2::geom_hline(yintercept = 0, colour = faint, linewidth = 0.3 * k) +
    # The label stands above those of the other attainable values.
    observed_layers(data$observed, shown, data$ends, top, k, if (nrow(permuted_marks(data, row))) 1.3 else 1.08) +
    share_layer(share, if (data$observed >= data$centre) "left" else "right", data$ends, 0.72 * top, k) +
    ggplot2::scale_fill_manual(values = c(`FALSE` = "#C9CDD1", `TRUE` = meaning_colours[[2]])) +
    # The outermost bars reach beyond the ends by less than a bar.
    ggplot2::scale_x_continuous(
      limits = range(data$ends, data$bars$from, data$bars$to) + c(-1, 1) * 0.01 * diff(data$ends)
    ) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.06)), breaks = NULL) +
    figure_labels(
      look,
      x = permuted_axis(data, row, outcome, study),
      caption = permuted_caption(data, row, detail, outcome, study, curve),
      alt = sprintf(
        "Distribution of %s under reassignment, %s; shaded share %s, %s.", compared_words(row, study), shown,
        bare_p(data$share), format_p(row$p)
      )
    ) +
    figure_theme(look$base_size)
}

# Bars; of tiny samples also the outermost values that occur, with the p that they would have.
permuted_layers <- function(data, row, k, top) {
  bars <- ggplot2::geom_rect(ggplot2::aes(
    xmin = .data$from, xmax = .data$to, ymin = 0, ymax = .data$density, fill = .data$shaded
  ))
  marks <- permuted_marks(data, row)
  if (nrow(marks) == 0) return(bars)
  marks$label <- bare_p(marks$p)
  height <- vapply(marks$at, function(at) max(data$bars$density[data$bars$from <= at & data$bars$to >= at], 0), 0)
  marks$y <- height + 0.02 * top
  list(
    bars,
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$at, xend = .data$at, y = .data$y, yend = .data$y + 0.05 * top), marks,
      linewidth = 0.5 * k, colour = ink
    ),
    ggplot2::geom_text(
      ggplot2::aes(.data$at, .data$y + 0.07 * top, label = .data$label), marks,
      angle = 90, hjust = 0, size = 3.2 * k, colour = ink
    )
  )
}

# Returns the outermost values that tiny samples can give. Values whose labels would touch each other, or the observed
# line, are excluded.
permuted_marks <- function(data, row) {
  if (!data$few) return(data.frame())
  marks <- attainable_p(list(bars = data$fine, high = data$high), row)
  gap <- 0.035 * diff(data$ends)
  marks <- marks[abs(marks$at - data$observed) > gap / 2, ]
  if (nrow(marks) < 2) return(marks)
  marks[Reduce(function(kept, i) {
    if (all(abs(marks$at[kept] - marks$at[[i]]) > gap)) c(kept, i) else kept
  }, seq_len(nrow(marks))[-1], 1L), ]
}

permuted_curve <- function(data, outcome, study, k) {
  curve <- permuted_curve_data(data, outcome, study)
  if (is.null(curve)) return(NULL)
  ggplot2::geom_line(ggplot2::aes(.data$x, .data$y), curve, linewidth = 0.6 * k, colour = ink)
}

permuted_axis <- function(data, row, outcome, study) {
  if (data$studentized) return("Welch's t under reassignment")
  what <- capital(sub("^the ", "", compared_words(row, study)))
  if (row$compared_by == "studentized") what <- "Mean change"
  unit <- unit_in_brackets(outcome)
  wrap_label(sprintf("%s, %s, under reassignment%s", what, study_direction(study), unit), 70)
}

permuted_caption <- function(data, row, detail, outcome, study, curve) {
  what <- assignment_words(row, study, detail$runs)
  source <- switch(row$counted_by,
    listed = sprintf("all %s %s", format_many(row$assignments, detail$log_assignments), what),
    drawn = sprintf("%s random %s, seed %s", format_count(row$draws), what, format_count(detail$seed)),
    sprintf("%s random %s, the tails as counted over all", format_count(shape_draws), what)
  )
  wrap_caption(
    sprintf("Bars: %s.", source),
    if (data$both) {
      "Shaded: both tails as far out as the observed value."
    } else if (row$expect == "either") {
      "Shaded: the tail from the observed value outwards."
    } else {
      sprintf("Shaded: the tail on the %s side, from the observed value outwards.", row$expect)
    },
    if (data$share < unseen_share) unseen_words,
    if (nrow(permuted_marks(data, row))) "Ticks: the most extreme attainable values, with their p-values.",
    if (curve) sprintf("Curve: %s.", if (is_paired(study)) "Student's t" else "t with Welch's degrees of freedom"),
    excluded_caption(study, outcome)
  )
}

# The same changes under both ways of reassignment, one above the other.
draw_pairing <- function(answer, outcome, look) {
  k <- look$base_size / 11
  study <- answer$study
  data <- pairing_bars(outcome, answer$settings$beyond)
  decimals <- outcome_decimals(outcome)
  look$title <- look$title %||% default_title(outcome, study)
  top <- stats::aggregate(density ~ way, data$bars, max)
  number <- function(x) with_unit(format_number(x, decimals), difference_unit(outcome))
  # The labels stand at the end opposite the observed change.
  left <- data$observed >= (min(data$bars$from) + max(data$bars$to)) / 2
  notes <- data.frame(
    way = factor(data$ways, data$ways), x = if (left) min(data$bars$from) else max(data$bars$to),
    y = 0.86 * top$density[match(data$ways, top$way)],
    label = paste("SD", vapply(data$spread, number, ""))
  )
  ggplot2::ggplot(data$bars) +
    ggplot2::geom_rect(ggplot2::aes(
      xmin = .data$from, xmax = .data$to, ymin = 0, ymax = .data$density, fill = .data$way
    )) +
    ggplot2::geom_vline(xintercept = data$observed, colour = ink, linewidth = 0.8 * k) +
    ggplot2::geom_text(
      ggplot2::aes(.data$x, .data$y, label = .data$label), notes,
      hjust = if (left) 0 else 1, size = 3.6 * k, colour = ink
    ) +
    ggplot2::facet_wrap(ggplot2::vars(.data$way), ncol = 1, scales = "free_y") +
    ggplot2::scale_fill_manual(values = c(neutral, "#A9B3BB")) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.06)), breaks = NULL) +
    pairing_labels(data, number, study, outcome, look) +
    figure_theme(look$base_size)
}

# What a figure of both ways to reassign says.
pairing_labels <- function(data, number, study, outcome, look) {
  worth <- sprintf(
    "Correlation of the pairs %s; SD with pairs kept over SD with pairs ignored: %s (%s without the mean change).",
    format_number(data$r, 2), format_number(data$ratio, 2), format_number(data$own_ratio, 2)
  )
  figure_labels(
    look,
    subtitle = wrap_label(worth, 80),
    x = sprintf("Mean change, %s, under reassignment%s", study_direction(study), unit_in_brackets(outcome)),
    caption = wrap_caption(
      sprintf("Bars: %s random reassignments each.", format_count(shape_draws)),
      sprintf("Line: the mean change observed, %s.", number(data$observed)),
      sprintf(
        "The mean change itself widens both. Without it, the SD with pairs kept is %s times the other, so pairing %s.",
        format_number(data$own_ratio, 2), if (data$own_ratio < 1) {
          "makes the comparison more precise"
        } else {
          "does not make the comparison more precise here"
        }
      ),
      excluded_caption(study, outcome)
    ),
    alt = paste(worth, sprintf("Mean change %s.", number(data$observed)))
  )
}
