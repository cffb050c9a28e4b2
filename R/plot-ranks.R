# Figures of rank methods: the distribution of the statistic under the null hypothesis, and superiority.

draw_rank_null <- function(answer, outcome, look) {
  k <- look$base_size / 11
  row <- outcome_rows(answer, outcome, "primary")
  data <- rank_null_bars(answer, outcome)
  bars <- data$bars
  top <- max(bars$density)
  shown <- row$statistic
  name <- row$statistic_name
  right <- shown > data$mean
  look$title <- look$title %||% default_title(outcome, answer$study)
  shaded <- bare_p(data$shaded)
  share <- if (row$expect == "either" && !data$both) {
    sprintf("shaded share: %s\ntwice that is p", shaded)
  } else {
    paste("shaded share:", format_p(row$p))
  }
  ggplot2::ggplot(bars) +
    ggplot2::geom_rect(
      ggplot2::aes(
        xmin = .data$from - data$step / 2, xmax = .data$to + data$step / 2, ymin = 0, ymax = .data$density,
        fill = .data$shaded
      )
    ) +
    ggplot2::geom_hline(yintercept = 0, colour = faint, linewidth = 0.3 * k) +
    observed_layers(shown, sprintf("observed %s = %s", name, format_short(shown)), data$ends, top, k) +
    critical_layers(row, top, k) +
    share_layer(share, if (right) "left" else "right", data$ends, 0.62 * top, k) +
    ggplot2::scale_fill_manual(values = c(`FALSE` = "#C9CDD1", `TRUE` = meaning_colours[[2]])) +
    ggplot2::scale_x_continuous(limits = data$ends + c(-1, 1) * data$step) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.06)), breaks = NULL) +
    rank_null_sentences(answer, outcome, row, data, shaded, look) +
    figure_theme(look$base_size)
}

# Dashed lines mark the critical values.
critical_layers <- function(row, top, k) {
  at <- stats::na.omit(c(row$critical_low, row$critical_high))
  if (length(at) == 0) return(NULL)
  ggplot2::annotate(
    "segment",
    x = at, xend = at, y = 0, yend = 0.42 * top, colour = ink, linewidth = 0.5 * k, linetype = "dashed"
  )
}

rank_null_sentences <- function(answer, outcome, row, data, shaded, look) {
  name <- row$statistic_name
  how <- if (row$p_kind == "exact") "exact distribution" else "normal approximation to the distribution"
  outwards <- switch(row$expect,
    either = if (data$both) {
      sprintf("Shaded: both tails as far out as the observed %s.", name)
    } else {
      sprintf("Shaded: the tail from the observed %s outwards; ties make the distribution lopsided.", name)
    },
    sprintf("Shaded: the tail on the %s side, from the observed %s outwards.", row$expect, name)
  )
  figure_labels(
    look,
    x = rank_axis(row, data, answer$study),
    caption = wrap_caption(
      sprintf("Bars: %s of %s if", how, name), paste0(hypothesis_words(row, outcome, answer$study)[[1]], "."), outwards,
      if (data$shaded < unseen_share) unseen_words,
      if (!all(is.na(c(row$critical_low, row$critical_high)))) {
        sprintf("Dashed lines: critical values at alpha %s.", sub("^0", "", format_short(row$alpha)))
      },
      excluded_caption(answer$study, outcome)
    ),
    alt = sprintf(
      "Distribution of %s from 0 to %s with the observed value %s; shaded share %s, %s.", name,
      format_short(data$largest), format_short(row$statistic), shaded, format_p(row$p)
    )
  )
}

rank_axis <- function(row, data, study) {
  if (row$method == "signed_ranks") {
    return(wrap_label(sprintf(
      "W, sum of the ranks of changes above %s (0 to %s)", format_short(row$beyond), format_short(data$largest)
    ), 70))
  }
  wrap_label(sprintf(
    "U, pairs with %s above %s (0 to %s)", study$groups[[1]], study$groups[[2]], format_short(data$largest)
  ), 70)
}

# A hundred squares on an axis from 0 to 100, filled from the left by pairs with the first value higher, then
# equal ones; the estimate lies in the middle of these.
superiority_data <- function(answer, outcome) {
  study <- answer$study
  row <- outcome_rows(answer, outcome, "primary")
  shares <- pair_shares(study, outcome, row$beyond)
  whole <- whole_percent(shares)
  names <- c(paste(study$groups[[1]], "higher"), "equal", paste(study$groups[[2]], "higher"))
  if (row$beyond != 0) {
    names[[1]] <- paste(names[[1]], "by more than", with_unit(format_short(row$beyond), difference_unit(outcome)))
    names[[2]] <- "by just that"
  }
  kinds <- factor(rep(names, whole), names)
  square <- seq_len(100) - 1
  interval <- if (row$estimand == "superiority") row else outcome_rows(effect_beside(answer, "superiority"), outcome)
  list(
    squares = data.frame(x = 5 * (square %/% 5) + 2.5, y = 5 - square %% 5, kind = kinds), names = names,
    whole = whole, shares = shares, estimate = 100 * interval$estimate, lower = 100 * interval$lower,
    upper = 100 * interval$upper, level = interval$level, how = superiority_interval_words(interval)
  )
}

# How the interval was made: `row` of test_difference() or of gauge_effect().
superiority_interval_words <- function(row) {
  if (!is.null(row$role) && is.na(row$df)) {
    if (row$estimate %in% c(0, 1)) return(interval_label("one_way"))
    return("Brunner-Munzel under assignment, on the logit scale")
  }
  # Where there is no shift superiority is the estimate of the rank test itself.
  interval_label(if (row$method == "ranks") "relative" else row$method)
}

# Shares as whole numbers that add up to a hundred: the largest remainders are rounded up.
whole_percent <- function(shares) {
  whole <- floor(100 * shares)
  left <- 100 - sum(whole)
  up <- order(whole - 100 * shares)[seq_len(left)]
  whole[up] <- whole[up] + 1
  whole
}

draw_superiority <- function(answer, outcome, look) {
  k <- look$base_size / 11
  study <- answer$study
  data <- superiority_data(answer, outcome)
  fills <- stats::setNames(c(look$palette[[1]], "#C9CDD1", look$palette[[2]]), data$names)
  shown <- data$whole > 0
  look$title <- look$title %||% default_title(outcome, study)
  bar <- data.frame(estimate = data$estimate, lower = data$lower, upper = data$upper, y = -0.55)
  text <- sprintf("%.0f [%.0f to %.0f]", bar$estimate, bar$lower, bar$upper)
  ggplot2::ggplot(data$squares) +
    ggplot2::geom_tile(ggplot2::aes(.data$x, .data$y, fill = .data$kind), width = 4.4, height = 0.86) +
    ggplot2::annotate(
      "segment",
      x = 50, xend = 50, y = -1.1, yend = 5.6, linetype = "dotted", colour = ink, linewidth = 0.5 * k
    ) +
    ggplot2::geom_segment(
      ggplot2::aes(x = .data$lower, xend = .data$upper, y = .data$y, yend = .data$y), bar,
      linewidth = 1.3 * k, colour = ink
    ) +
    ggplot2::geom_point(ggplot2::aes(.data$estimate, .data$y), bar, size = 3.6 * k, shape = 18, colour = ink) +
    ggplot2::annotate(
      "text",
      x = bar$estimate, y = -0.05, label = text, size = 3.4 * k, colour = ink,
      hjust = bar$estimate / 100
    ) +
    ggplot2::scale_fill_manual(
      values = fills, breaks = data$names[shown], labels = sprintf("%s: %d", data$names, as.integer(data$whole))[shown]
    ) +
    ggplot2::scale_x_continuous(limits = c(-1, 101), breaks = seq(0, 100, 25), expand = c(0.01, 0)) +
    ggplot2::scale_y_continuous(limits = c(-1.1, 5.6), breaks = NULL, expand = c(0, 0)) +
    superiority_labels(data, text, study, outcome, look) +
    figure_theme(look$base_size) +
    ggplot2::theme(
      legend.position = "top", legend.justification = 0, legend.margin = ggplot2::margin(0, 0, 0, 0),
      panel.grid.major.x = ggplot2::element_blank()
    )
}

# What a figure of squares says.
superiority_labels <- function(data, text, study, outcome, look) {
  figure_labels(
    look,
    subtitle = wrap_label(sprintf(
      "Of 100 random pairs of values, one of %s and one of %s", study$groups[[1]], study$groups[[2]]
    ), 80),
    x = sprintf("Pairs of 100 in which %s is higher (ties counted half)", study$groups[[1]]), fill = NULL,
    caption = wrap_caption(
      sprintf(
        "Squares: pairs. Diamond with bar: superiority with its %s interval (%s).", format_percent(data$level),
        data$how
      ),
      "Dotted line: neither tends to be higher.",
      excluded_caption(study, outcome)
    ),
    alt = sprintf(
      "Of 100 random pairs %s; superiority %s of 100.",
      paste(sprintf("%s in %d", data$names, as.integer(data$whole)), collapse = ", "), text
    )
  )
}
