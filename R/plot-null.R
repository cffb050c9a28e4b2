# Where the observed t lies in its distribution under the null hypothesis. The shaded share is p.

null_data <- function(row) {
  t <- row$statistic
  # Far observed values stay in sight, and the bell keeps most of the width.
  reach <- max(4.2, min(abs(t) * 1.15, 9))
  x <- seq(-reach, reach, length.out = 601)
  regions <- switch(row$expect,
    either = list(c(-Inf, -abs(t)), c(abs(t), Inf)),
    higher = list(c(t, Inf)),
    lower = list(c(-Inf, t))
  )
  tails <- lapply(seq_along(regions), function(i) {
    ends <- pmin(reach, pmax(-reach, regions[[i]]))
    inside <- sort(unique(c(ends, x[x >= ends[[1]] & x <= ends[[2]]])))
    data.frame(t = inside, density = stats::dt(inside, row$df), region = i)
  })
  list(
    curve = data.frame(t = x, density = stats::dt(x, row$df)), tails = do.call(rbind, tails),
    regions = regions, reach = reach, beyond_sight = abs(t) > reach
  )
}

# The observed statistic on its distribution: a line, and above it what it is. The text leans away from both ends.
observed_layers <- function(at, label, ends, top, k, lift = 1.08) {
  list(
    ggplot2::annotate(
      "segment",
      x = at, xend = at, y = 0, yend = (lift - 0.05) * top, colour = ink, linewidth = 1.1 * k
    ),
    ggplot2::annotate(
      "text",
      x = at, y = lift * top, hjust = (at - ends[[1]]) / diff(ends), size = 3.6 * k, colour = ink,
      label = label
    )
  )
}

# A smaller share of the area cannot be seen.
unseen_share <- 5e-4
unseen_words <- "The shaded share is too small to be seen."

# What the shaded share is, at the end that the observed statistic is not at.
share_layer <- function(label, side, ends, y, k) {
  left <- side == "left"
  ggplot2::annotate(
    "text",
    x = ends[[if (left) 1 else 2]], y = y, hjust = if (left) 0 else 1, size = 3.6 * k, colour = ink, label = label,
    lineheight = 1
  )
}

draw_null <- function(answer, outcome, look, curve = FALSE) {
  k <- look$base_size / 11
  row <- outcome_rows(answer, outcome, "primary")
  if (method_is(row, "reassignment")) return(draw_permuted_null(answer, outcome, look, curve))
  if (method_fact(row$method, "null_curve") == "counts") return(draw_rank_null(answer, outcome, look))
  data <- null_data(row)
  ends <- c(-data$reach, data$reach)
  shown <- max(-data$reach, min(data$reach, row$statistic))
  right <- row$statistic > 0
  top <- stats::dt(0, row$df)
  look$title <- look$title %||% default_title(outcome, answer$study)
  ggplot2::ggplot(data$curve, ggplot2::aes(.data$t, .data$density)) +
    area_layer(ggplot2::aes(group = .data$region), data$tails, fill = meaning_colours[[2]], alpha = 0.85) +
    ggplot2::geom_line(linewidth = 0.7 * k, colour = ink) +
    observed_layers(shown, paste0(
      "observed t = ", format_number(row$statistic, 2), if (data$beyond_sight) " (beyond the axis)"
    ), ends, top, k) +
    share_layer(paste("shaded share:", format_p(row$p)), if (right) "left" else "right", ends, 0.22 * top, k) +
    ggplot2::scale_x_continuous(limits = ends) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.06)), breaks = NULL) +
    figure_labels(
      look,
      x = sprintf("t on %s degrees of freedom", format_df(row$df)),
      caption = wrap_caption(
        sprintf("Curve: distribution of t (%s) if", method_label(row$method)),
        paste0(hypothesis_words(row, outcome, answer$study)[[1]], "."),
        if (row$p < unseen_share) unseen_words,
        switch(row$expect,
          either = "Shaded: both tails as far out as the observed t.",
          sprintf("Shaded: the tail on the %s side, from the observed t outwards.", row$expect)
        ),
        excluded_caption(answer$study, outcome)
      ),
      alt = sprintf(
        "Distribution of t on %s degrees of freedom with the observed t of %s; the shaded share is %s.",
        format_df(row$df), format_number(row$statistic, 2), format_p(row$p)
      )
    ) +
    figure_theme(look$base_size)
}
