# Worlds and rehearsals in words.

#' @rdname print.vandro_study
#' @export
format.vandro_world <- function(x, ..., width = cli::console_width()) {
  study <- supposed_study(x)
  outcome <- study$outcomes[[1]]
  raw <- function(value) with_unit(format_short(signif(value, 6)), x$unit)
  sds <- if (!anyNA(x$sd)) sprintf("%s of %s, %s of %s", raw(x$sd[[1]]), x$groups[[1]], raw(x$sd[[2]]), x$groups[[2]])
  changes <- if (x$paired) {
    r <- if (is.na(x$r)) "" else sprintf(", r = %s", format_short(signif(x$r, 6)))
    sprintf("%s of the changes%s", raw(x$sd_change), r)
  }
  c(
    heading_line(paste("Scenario:", outcome_title(outcome)), study_direction(study)),
    text_entry("Design", if (x$paired) "pairs" else "two independent groups", width),
    text_entry("Difference", sprintf(
      "%s (%s SD)%s", raw(x$difference), format_number(x$difference / world_sd(x)),
      if (x$difference_sd > 0) sprintf(", uncertain with an SD of %s", raw(x$difference_sd)) else ""
    ), width),
    text_entry("SD", paste(c(sds, changes), collapse = "; "), width),
    text_entry("Shape", shape_words(x), width),
    if (!is.null(x$rounded_to)) text_entry("Rounded", paste("to", raw(x$rounded_to)), width)
  )
}

#' @rdname print.vandro_study
#' @export
print.vandro_world <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @rdname print.vandro_study
#' @export
format.vandro_rehearsal <- function(x, ..., decimals = NULL, width = cli::console_width()) {
  outcome <- x$study$outcomes[[1]]
  decimals <- outcome_decimals(outcome, check_decimals(decimals))
  table <- x$table
  worlds <- x$detail$worlds
  named <- !is.null(names(worlds))
  c(
    heading_line(paste("Rehearsal:", outcome_title(outcome)), study_direction(x$study)),
    if (nrow(table) == 1) text_entry("Answer", rehearsal_answer_words(x), width),
    if (nrow(table) > 1) text_table(rehearsal_cells(x, decimals)),
    if (!is.null(wanted_words(x))) text_entry("Target", wanted_words(x), width),
    if (!named) text_entry("Scenario", world_line(worlds[[1]]), width),
    text_entry("Question", rehearsed_question_words(x), width),
    if (nrow(table) == 1) text_table(rehearsal_cells(x, decimals)),
    if (any(table$null_true)) text_entry("Errors", null_true_words(x), width),
    text_entry("Half-width", half_width_note(x), width),
    if (any(!is.na(table$assurance))) text_entry("Assurance", assurance_note, width),
    text_entry("Computed", computed_words(x), width),
    if (any(table$undefined > 0)) text_entry("Undefined", undefined_rate_words(table), width),
    if (named) {
      c("Scenarios", unlist(Map(function(name, world) {
        c(paste0("  ", name), text_entry("", world_line(world), width, indent = 4, label_width = 0))
      }, names(worlds), worlds), use.names = FALSE))
    }
  )
}

# "33 + 33 for power .806 (Welch)": what a single design comes to.
rehearsal_answer_words <- function(x) {
  row <- x$table[1, ]
  sizes <- rehearsed_sizes(row, x$study)
  rate <- sprintf("%s %s", rate_name(x), rate_text(row$power))
  half <- if (!is.null(x$settings$half_width)) {
    decimals <- outcome_decimals(x$study$outcomes[[1]])
    sprintf("expected half-width %s, ", with_unit(
      format_number(row$half_width, decimals), difference_unit(x$study$outcomes[[1]])
    ))
  }
  sprintf("sample size %s gives %s%s (%s)", sizes, half %||% "", rate, capital(method_label(row$method)))
}

rehearsed_sizes <- function(rows, study) {
  if (is_paired(study)) return(paste(format_count(rows$n_first), "pairs"))
  paste(format_count(rows$n_first), "+", format_count(rows$n_second))
}

rehearsal_cells <- function(x, decimals) {
  table <- x$table
  in_unit <- in_unit_by(table$method)
  half <- ifelse(in_unit, format_number(table$half_width, decimals), format_number(table$half_width, 3))
  cells <- list()
  if (!is.null(names(x$detail$worlds))) cells$scenario <- table$world
  cells$method <- capital_each(method_label(table$method))
  cells$n <- rehearsed_sizes(table, x$study)
  cells[[rate_name(x)]] <- rate_text(table$power)
  if (any(table$computed_by == "simulation")) {
    cells[["95%"]] <- ifelse(
      is.na(table$power_low), "", paste(rate_text(table$power_low), "to", rate_text(table$power_high))
    )
  }
  if (any(!is.na(table$assurance))) cells$assurance <- rate_text(table$assurance)
  cells[["half-width"]] <- ifelse(
    is.na(table$half_width), "none", ifelse(in_unit, with_unit_each(half, x$study$outcomes[[1]]$unit), half)
  )
  cells$computed <- paste("by", table$computed_by)
  cells
}

rate_name <- function(x) {
  if (!is.null(x$settings$within)) "claims" else if (all(x$table$null_true)) "errors" else "power"
}

# Rates as p: never 0 or 1 that is not.
rate_text <- function(rate) ifelse(is.na(rate), "", bare_p(rate))

rehearsed_question_words <- function(x) {
  s <- x$settings
  outcome <- x$study$outcomes[[1]]
  alpha <- sprintf("alpha %s", format_short(s$alpha))
  if (!is.null(s$within)) {
    bounds <- paste(format_short(s$within), collapse = " to ")
    return(sprintf(
      "is the difference shown to lie within %s, each one-sided test at %s",
      if (s$bounds_in == "sd") paste(bounds, "SD") else with_unit(bounds, difference_unit(outcome)), alpha
    ))
  }
  sprintf(
    "is H0 rejected (a difference of %s %s); %s, %s",
    switch(s$expect, either = "exactly", higher = "at most", lower = "at least"),
    with_unit(format_short(s$beyond), difference_unit(outcome)), if (s$expect == "either") "two-sided" else "one-sided",
    alpha
  )
}

wanted_words <- function(x) {
  s <- x$settings
  what <- if (!is.null(s$power)) {
    sprintf("%s of %s", if (is.null(s$within)) "power" else "a rate of claims", format_short(s$power))
  } else if (!is.null(s$half_width)) {
    sprintf(
      "an expected half-width of at most %s",
      with_unit(format_short(s$half_width), difference_unit(x$study$outcomes[[1]]))
    )
  } else {
    return(NULL)
  }
  sprintf(
    "%s; smallest n that reaches it%s", what,
    if (s$ratio == 1) "" else sprintf(", the second group %s times the first", format_short(s$ratio))
  )
}

null_true_words <- function(x) {
  where <- if (all(x$table$null_true)) "" else " in some of these scenarios"
  if (!is.null(x$settings$within)) {
    return(sprintf(
      paste(
        "the true difference is not within the bounds%s: a verdict of equivalence is wrong there, and its rate is an",
        "error rate"
      ), where
    ))
  }
  sprintf(
    "H0 is true%s: the rate is that of wrong rejections, and should be at most alpha%s", where,
    if (!is_paired(x$study) && any(method_is(x$table, "ranks"))) {
      " (H0 about means; ranks compare something else where variances or shapes differ)"
    } else {
      ""
    }
  )
}

half_width_note <- function(x) {
  sprintf(
    "mean distance from the estimate to a limit of its %s interval%s", format_percent(x$table$level[[1]]),
    if (all(in_unit_by(x$table$method))) "" else "; for Brunner-Munzel on the probability scale"
  )
}

assurance_note <- "power averaged over the possible true differences"

computed_words <- function(x) {
  s <- x$settings
  how <- c(
    if ("formula" %in% x$table$computed_by) "by exact formula for t tests of normal values",
    if ("simulation" %in% x$table$computed_by) {
      sprintf(
        "from %s made-up studies for each design, seed %s%s", format_count(s$draws), format_count(s$seed),
        if (any(method_is(x$table, "reassignment"))) permuted_statistic_words(s$statistic) else ""
      )
    }
  )
  paste(how, collapse = "; ")
}

permuted_statistic_words <- function(statistic) {
  sprintf("; permutations compare %s", if (statistic == "studentized") "Welch's t" else "the difference of the means")
}

undefined_rate_words <- function(table) {
  sprintf("in up to %s of the studies no value varied; they count as not rejected", rate_percent(max(table$undefined)))
}

# "66.7%", never 0 or 100 that is not.
rate_percent <- function(rate) {
  if (rate > 0 && rate < 0.0005) return(point_to_mark("less than 0.1%"))
  if (rate < 1 && rate > 0.9995) return(point_to_mark("more than 99.9%"))
  point_to_mark(sprintf("%.1f%%", 100 * rate))
}
