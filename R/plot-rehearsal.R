# Figures of rehearsals: power over n, rates over worlds, half-width over n.

#' @rdname autoplot
#' @exportS3Method ggplot2::autoplot
autoplot.vandro_rehearsal <- function(object, ..., view = NULL, base_size = NULL, title = NULL, caption = NULL) {
  refuse_more(...)
  look <- figure_look(base_size, title, caption, NULL, rlang::current_env())
  s <- object$settings
  usual <- if (!is.null(s$half_width)) "width" else "power"
  if (length(object$detail$worlds) > 1 && length(s$n) == 1) usual <- "rates"
  view <- check_choice(view %||% usual, c("power", "rates", "width"), arg = "view")
  if (view == "rates") return(draw_rates(object, look))
  draw_over_n(object, look, view)
}

# Colour, shape and line of each method, in words in the legend.
method_scales <- function(methods, k) {
  names <- capital_each(method_label(methods))
  values <- function(field) stats::setNames(method_facts(methods, field), methods)
  list(
    ggplot2::scale_colour_manual(values = values("colour"), labels = names, breaks = methods),
    ggplot2::scale_shape_manual(values = values("shape"), labels = names, breaks = methods),
    ggplot2::scale_linetype_manual(values = values("line"), labels = names, breaks = methods),
    ggplot2::guides(
      colour = method_guide(methods, k, list(linewidth = 0.9 * k)), shape = method_guide(methods, k),
      linetype = method_guide(methods, k)
    ),
    ggplot2::theme(
      legend.position = "top", legend.justification = 0, legend.title = ggplot2::element_blank(),
      legend.key.width = grid::unit(20 * k, "pt"), legend.key.height = grid::unit(13 * k, "pt"),
      legend.text = ggplot2::element_text(size = ggplot2::rel(0.85)), legend.spacing.x = grid::unit(4 * k, "pt"),
      legend.spacing.y = grid::unit(0, "pt"), legend.margin = ggplot2::margin(0, 0, 4 * k, 0),
      axis.title.y = ggplot2::element_text(angle = 90)
    )
  )
}

# In rows of two where text is small: a column of 85 mm holds no more.
method_guide <- function(methods, k, look = list()) {
  rows <- ceiling(length(methods) / if (k < 0.9) 2 else 5)
  ggplot2::guide_legend(nrow = rows, byrow = TRUE, override.aes = look)
}

draw_over_n <- function(answer, look, view) {
  k <- look$base_size / 11
  s <- answer$settings
  outcome <- answer$study$outcomes[[1]]
  rows <- answer$table
  rows$value <- if (view == "power") rows$power else rows$half_width
  if (view == "width") rows <- rows[in_unit_by(rows$method), ]
  curve <- rehearsal_curve(answer)
  curve$value <- if (view == "power") curve$power else curve$half_width
  curve <- curve[!is.na(curve$value) & curve$method %in% rows$method, ]
  # Intervals of a handful of values would hide the rest.
  if (view == "width") curve <- curve[curve$value <= 4 * max(rows$value, na.rm = TRUE), ]
  if (nrow(rows) == 0) return(draw_nothing(look, "No method here has an interval in the outcome's unit."))
  methods <- unique(rows$method)
  many <- length(answer$detail$worlds) > 1
  rows$x <- design_place(rows, answer)
  curve$x <- design_place(curve, answer)
  # No line is drawn between simulated sample sizes, or between designs that have no order.
  solid <- curve[curve$computed_by == "formula" & !unequal_designs(answer), ]
  tried <- curve[curve$computed_by != "formula", ]
  goal <- if (view == "power") s$power else s$half_width
  look$title <- look$title %||% default_title(outcome, answer$study, "Rehearsal: ")
  plot <- ggplot2::ggplot(
    curve, ggplot2::aes(.data$x, .data$value, colour = .data$method, linetype = .data$method)
  ) +
    (if (!is.null(goal)) goal_layer(goal, curve, view, outcome, k)) +
    (if (view == "power") {
      ggplot2::geom_hline(yintercept = s$alpha, colour = faint, linewidth = 0.35 * k, linetype = "dotted")
    }) +
    ggplot2::geom_line(data = solid, linewidth = 0.9 * k) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$method), tried, size = 1.6 * k) +
    made_up_bars(tried, view, k) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$method), rows, size = 2.8 * k) +
    (if (!is.null(goal) && !many) found_labels(rows, answer, if (view == "power") 1 else max(curve$value), k)) +
    (if (many) world_panels(answer)) +
    over_n_scale(answer)
  plot + over_n_axes(answer, view, outcome, look, s) + figure_theme(look$base_size) + horizontal_guides() +
    method_scales(methods, k)
}

# Designs whose groups have different ratios of sample sizes are drawn side by side.
unequal_designs <- function(answer) {
  !is_paired(answer$study) && length(unique(round(answer$table$n_second / answer$table$n_first, 2))) > 1 &&
    length(answer$settings$n) > 1
}

design_names <- function(rows) paste(format_count(rows$n_first), "+", format_count(rows$n_second))

design_place <- function(rows, answer) {
  if (!unequal_designs(answer)) return(rows$n_first)
  names <- unique(design_names(answer$table))
  methods <- unique(answer$table$method)
  # Methods are drawn side by side.
  aside <- (match(rows$method, methods) - (length(methods) + 1) / 2) * 0.12
  match(design_names(rows), names) + aside
}

over_n_scale <- function(answer) {
  if (!unequal_designs(answer)) {
    return(ggplot2::scale_x_continuous(
      breaks = function(limits) unique(round(pretty(limits, 5))), expand = ggplot2::expansion(mult = c(0.02, 0.06))
    ))
  }
  names <- unique(design_names(answer$table))
  ggplot2::scale_x_continuous(breaks = seq_along(names), labels = names, limits = c(0.5, length(names) + 0.5))
}

world_panels <- function(answer) {
  worlds <- names(answer$detail$worlds)
  width <- if (length(worlds) > 4) 20 else 30
  ggplot2::facet_wrap(~ factor(.data$world, worlds), labeller = ggplot2::label_wrap_gen(width))
}

# Bars show the uncertainty of the simulation.
made_up_bars <- function(tried, view, k) {
  half <- stats::qnorm(0.975) * tried$half_width_se
  tried$low <- if (view == "power") tried$power_low else tried$half_width - half
  tried$high <- if (view == "power") tried$power_high else tried$half_width + half
  ggplot2::geom_linerange(
    ggplot2::aes(ymin = .data$low, ymax = .data$high), tried[!is.na(tried$low), ],
    linewidth = 0.6 * k, linetype = "solid", show.legend = FALSE
  )
}

goal_layer <- function(goal, curve, view, outcome, k) {
  text <- format_short(goal)
  text <- if (view == "power") sub("^0", "", text) else with_unit(text, difference_unit(outcome))
  list(
    ggplot2::geom_hline(yintercept = goal, colour = ink, linewidth = 0.4 * k, linetype = "dashed"),
    ggplot2::annotate(
      "text",
      x = if (view == "power") min(curve$x) else max(curve$x), y = goal, label = paste("wanted:", text),
      hjust = if (view == "power") 0 else 1, vjust = -0.6, size = 3.2 * k, colour = ink
    )
  )
}

shared_caption <- function(worlds) {
  line <- shared_world_line(worlds)
  if (nzchar(line)) paste0(capital(line), ".")
}

computed_caption <- function(answer, bars) {
  by <- answer$table$computed_by
  s <- answer$settings
  drawn <- sprintf(
    "from %s made-up studies, seed %s%s", format_count(s$draws), format_count(s$seed),
    if (bars) " (bars: 95% intervals)" else ""
  )
  if (all(by == "formula")) return("By exact formula.")
  if (all(by == "simulation")) return(paste0(capital(drawn), "."))
  sprintf("t tests of normal values by exact formula, the rest %s.", drawn)
}

# The sizes found, at the foot of a line from their points, where no curve passes; methods that need the same size
# share a label.
found_labels <- function(rows, answer, top, k) {
  rows$label <- if (is_paired(answer$study)) {
    paste(format_count(rows$n_first), "pairs")
  } else {
    paste(format_count(rows$n_first), "+", format_count(rows$n_second))
  }
  rows <- rows[!duplicated(rows$label), ]
  # The smallest to the left of its line; of the others larger ones higher up, each line ending at its label: none
  # crosses another's.
  place <- rank(rows$n_first, ties.method = "first")
  rows$left <- place == 1 & nrow(rows) > 1
  rows$label <- ifelse(rows$left, paste0(rows$label, " "), paste0(" ", rows$label))
  rows$foot <- top * (0.035 + 0.09 * pmax(0, place - 2))
  list(
    ggplot2::geom_segment(
      ggplot2::aes(xend = .data$x, y = .data$foot - 0.035 * top, yend = .data$value), rows,
      linewidth = 0.4 * k, linetype = "solid", show.legend = FALSE
    ),
    ggplot2::geom_text(
      ggplot2::aes(y = .data$foot, label = .data$label, hjust = ifelse(.data$left, 1, 0)), rows,
      size = 3.3 * k, show.legend = FALSE, fontface = "bold"
    )
  )
}

over_n_axes <- function(answer, view, outcome, look, s) {
  ratio <- unique(round(answer$table$n_second / answer$table$n_first, 3))
  x <- if (is_paired(answer$study)) {
    "Pairs"
  } else if (length(ratio) == 1 && ratio != 1) {
    sprintf("n of %s (%s: %s times that)", answer$study$groups[[1]], answer$study$groups[[2]], format_short(ratio))
  } else if (length(ratio) == 1) {
    "n of each group"
  } else {
    sprintf("n of %s + n of %s", answer$study$groups[[1]], answer$study$groups[[2]])
  }
  y <- if (view == "power") {
    if (is.null(s$within)) "Rate of rejection" else "Rate of equivalence shown"
  } else {
    sprintf("Expected half-width%s", unit_in_brackets(outcome))
  }
  worlds <- answer$detail$worlds
  labels <- list(
    figure_labels(
      look,
      x = x,
      caption = wrap_caption(
        shared_caption(worlds),
        sprintf("%s%s.", capital(rehearsed_question_words(answer)), if (view == "power") " (dotted)" else ""),
        if (view == "width") paste0(capital(half_width_note(answer)), "."),
        computed_caption(answer, bars = TRUE)
      ),
      alt = rehearsal_alt(answer, view)
    ), ggplot2::ylab(y)
  )
  if (view == "width") return(c(labels, list(ggplot2::expand_limits(y = 0))))
  c(labels, list(ggplot2::scale_y_continuous(limits = c(0, 1), breaks = seq(0, 1, 0.2), expand = c(0, 0.01))))
}

rehearsal_alt <- function(answer, view) {
  table <- answer$table
  shown <- utils::head(table, 6)
  outcome <- answer$study$outcomes[[1]]
  wide <- view == "width"
  value <- if (wide) format_number(shown$half_width, outcome_decimals(outcome)) else rate_text(shown$power)
  sprintf(
    "%s of %s: %s%s.", if (wide) "Expected half-width" else "Rate of rejection", outcome$label,
    paste(sprintf(
      "%s%s, n %s + %s: %s", ifelse(is.na(shown$world), "", paste0(shown$world, ", ")), method_label(shown$method),
      shown$n_first, shown$n_second, value
    ), collapse = "; "), if (nrow(table) > 6) "; and more" else ""
  )
}

# Rates over what varies among the worlds.
draw_rates <- function(answer, look) {
  k <- look$base_size / 11
  rows <- answer$table
  axis <- varied_axis(answer)
  rows$x <- axis$x[match(rows$world, names(answer$detail$worlds))]
  if (is.null(names(answer$detail$worlds))) rows$x <- axis$x[[1]]
  methods <- unique(rows$method)
  rows$group <- factor(rows$method, methods)
  outcome <- answer$study$outcomes[[1]]
  s <- answer$settings
  # Side by side where they would lie over each other.
  apart <- if (axis$number) 0 else 0.5
  top <- if (max(rows$power) > 0.5) 1 else 1.15 * max(c(rows$power, rows$power_high), na.rm = TRUE)
  place <- ggplot2::position_dodge(width = apart)
  look$title <- look$title %||% default_title(outcome, answer$study, "Rehearsal: ")
  ggplot2::ggplot(
    rows, ggplot2::aes(
      .data$x, .data$power,
      colour = .data$method, linetype = .data$method, group = .data$group
    )
  ) +
    ggplot2::geom_hline(yintercept = s$alpha, colour = ink, linewidth = 0.4 * k, linetype = "dotted") +
    (if (axis$number) ggplot2::geom_line(linewidth = 0.9 * k)) +
    ggplot2::geom_linerange(
      ggplot2::aes(ymin = .data$power_low, ymax = .data$power_high),
      linewidth = 0.6 * k, linetype = "solid", show.legend = FALSE, position = place, na.rm = TRUE
    ) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$method), size = 2.8 * k, position = place) +
    (if (length(s$n) > 1) ggplot2::facet_wrap(~ paste("n", .data$n_first, "+", .data$n_second))) +
    axis$scale +
    ggplot2::scale_y_continuous(limits = c(0, top), expand = c(0, 0.01 * top)) +
    rates_labels(answer, rows, axis, look) +
    ggplot2::ylab(if (is.null(s$within)) "Rate of rejection" else "Rate of equivalence shown") +
    figure_theme(look$base_size) +
    horizontal_guides() +
    method_scales(methods, k)
}

# What a figure of rates says.
rates_labels <- function(answer, rows, axis, look) {
  figure_labels(
    look,
    x = axis$name,
    caption = wrap_caption(
      sprintf("n %s.", paste(unique(paste(rows$n_first, "+", rows$n_second)), collapse = ", ")),
      shared_caption(answer$detail$worlds),
      sprintf("%s (dotted).", capital(rehearsed_question_words(answer))),
      if (all(rows$null_true)) "The null hypothesis is true: these are rates of errors.",
      computed_caption(answer, bars = TRUE)
    ),
    alt = rehearsal_alt(answer, "rates")
  )
}

# A numeric axis where one number alone varies, else the names of the worlds.
varied_axis <- function(answer) {
  worlds <- answer$detail$worlds
  values <- list(
    ratio = vapply(worlds, function(w) w$sd[[1]] / w$sd[[2]], 0), r = vapply(worlds, `[[`, 0, "r"),
    difference = vapply(worlds, `[[`, 0, "difference")
  )
  shapes <- vapply(worlds, function(w) paste(c(w$shape, w$rounded_to, w$difference_sd), collapse = " "), "")
  varied <- names(values)[vapply(values, function(x) length(unique(signif(x, 9))) > 1, NA)]
  names <- c(
    ratio = sprintf("SD of %s over that of %s", worlds[[1]]$groups[[1]], worlds[[1]]$groups[[2]]),
    r = "Correlation of the pairs", difference = paste0("True difference", unit_in_brackets(answer$study$outcomes[[1]]))
  )
  if (length(varied) == 1 && length(unique(shapes)) == 1 && !anyDuplicated(values[[varied]])) {
    trans <- if (varied == "ratio") "log2" else "identity"
    breaks <- if (length(worlds) <= 9) sort(values[[varied]]) else ggplot2::waiver()
    scale <- ggplot2::scale_x_continuous(
      trans = trans, breaks = breaks, labels = function(x) vapply(signif(x, 3), format_short, ""),
      expand = ggplot2::expansion(mult = 0.05)
    )
    return(list(x = unname(values[[varied]]), number = TRUE, name = names[[varied]], scale = scale))
  }
  labels <- if (is.null(names(worlds))) "this world" else names(worlds)
  list(
    x = factor(labels, unique(labels)), number = FALSE, name = NULL,
    scale = ggplot2::scale_x_discrete(labels = function(x) wrap_label(x, 16))
  )
}
