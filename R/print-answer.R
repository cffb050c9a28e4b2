#' @rdname print.vandro_study
#' @export
print.vandro_answer <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @rdname print.vandro_study
#' @export
summary.vandro_answer <- function(object, ...) object

#' @rdname print.vandro_study
#' @export
format.vandro_difference <- function(x, ..., digits = NULL, width = cli::console_width()) {
  digits <- check_digits(digits)
  blocks <- lapply(seq_along(x$study$outcomes), function(i) {
    outcome <- x$study$outcomes[[i]]
    row <- x$table[i, ]
    decimals <- outcome_decimals(outcome, digits)
    raw <- function(value) with_unit(format_number(value, decimals), outcome$unit)
    interval <- with_unit(format_range(row$lower, row$upper, decimals), outcome$unit)
    notes <- interval_notes(row, x$detail$matched[[i]], raw)
    c(
      heading_line(paste("Difference:", outcome_title(outcome)), row$comparison),
      text_entry("Difference", raw(row$estimate), width),
      text_entry("Interval", paste0(interval, " (", format_percent(row$level), ", two-sided)"), width),
      if (row$expect != "either") text_entry("Bound", bound_words(row, raw), width),
      text_entry("Test", test_words(row), width),
      text_entry("Null", null_words(row, outcome, decimals), width),
      unlist(lapply(notes, text_entry, label = "Note", width = width)),
      text_table(group_cells(x$study, outcome, decimals)),
      pair_entry(outcome, width),
      text_entry("Left out", left_out_words(x$study, outcome), width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

group_cells <- function(study, outcome, decimals) {
  m <- outcome$moments
  groups <- c(study$groups, if (is_paired(study)) study_direction(study))
  known <- !is.na(vapply(m, `[[`, 0, "mean"))
  pick <- function(what) vapply(m[known], `[[`, 0, what)
  list(
    group = groups[known], n = format_count(pick("n")), mean = format_number(pick("mean"), decimals),
    SD = format_number(pick("sd"), decimals)
  )
}

method_names <- c(welch = "Welch", paired = "paired")

test_words <- function(row) {
  paste0(
    sprintf(
      "%s t(%s) = %s, %s, %s", method_names[[row$method]], format_df(row$df),
      format_number(row$statistic, 2), format_p(row$p),
      if (row$expect == "either") "two-sided" else "one-sided"
    ),
    if (!is.na(row$p_adjusted)) paste0("; adjusted for several outcomes ", format_p(row$p_adjusted))
  )
}

null_words <- function(row, outcome, decimals) {
  null <- if (row$beyond == 0) "0" else with_unit(format_short(row$beyond), outcome$unit)
  switch(row$expect,
    either = sprintf("the difference is %s", null),
    higher = sprintf("the difference is %s or less (higher was expected)", null),
    lower = sprintf("the difference is %s or more (lower was expected)", null)
  )
}

# A number the analyst typed, as typed.
format_short <- function(x) format(x, digits = 15, trim = TRUE)

bound_words <- function(row, raw) {
  sure <- format_percent(1 - row$alpha)
  if (row$expect == "higher") {
    sprintf("at least %s (one-sided, %s)", raw(row$at_least), sure)
  } else {
    sprintf("at most %s (one-sided, %s)", raw(row$at_most), sure)
  }
}

# The difference went the other way than a directional question expected.
wrong_side <- function(row) {
  (row$expect == "higher" && row$estimate < row$beyond) ||
    (row$expect == "lower" && row$estimate > row$beyond)
}

# What a reader must know when interval and test are read side by side.
interval_notes <- function(row, matched, raw) {
  excludes <- row$lower > row$beyond || row$upper < row$beyond
  significant <- row$p <= row$alpha
  level <- format_percent(matched$matched_level)
  c(
    if (row$expect != "either") {
      sprintf(
        "The two-sided interval that agrees with this one-sided test at alpha %s is the %s one, %s to %s.",
        format_short(row$alpha), level, raw(matched$matched_lower), raw(matched$matched_upper)
      )
    },
    if (row$expect == "either" && abs(matched$matched_level - row$level) > 1e-9) {
      sprintf(
        "The interval that agrees with the test at alpha %s is the %s one, %s to %s.",
        format_short(row$alpha), level, raw(matched$matched_lower), raw(matched$matched_upper)
      )
    },
    if (excludes != significant && !wrong_side(row)) {
      sprintf(
        "The %s interval %s the null value while p is %s alpha: they answer at different levels.",
        format_percent(row$level), if (excludes) "excludes" else "contains",
        if (significant) "at most" else "above"
      )
    },
    if (!is.na(row$p_least) && format_p(row$p_least) != format_p(row$p_most)) {
      p <- sub("^= ", "", format_p(c(row$p_least, row$p_most), label = ""))
      sprintf(
        "The published numbers are rounded: unrounded ones could have given any p from %s to %s.",
        p[[1]], p[[2]]
      )
    },
    if (wrong_side(row)) {
      "The difference lies on the other side than was expected; p is large for that reason."
    }
  )
}

#' @rdname print.vandro_study
#' @export
format.vandro_effect <- function(x, ..., digits = NULL, width = cli::console_width()) {
  digits <- check_digits(digits)
  blocks <- lapply(x$study$outcomes, function(outcome) {
    rows <- x$table[x$table$outcome == outcome$name, ]
    c(
      heading_line(paste("Effect size:", outcome_title(outcome)), rows$comparison[[1]]),
      text_table(effect_cells(x, outcome, outcome_decimals(outcome, digits))),
      text_entry("Intervals", interval_method_words(rows), width),
      text_entry("Groups", group_size_words(x$study, outcome), width),
      text_entry("Left out", left_out_words(x$study, outcome), width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

# Rounded columns of one outcome's effect sizes, for console and report alike.
effect_cells <- function(x, outcome, decimals) {
  rows <- x$table[x$table$outcome == outcome$name, ]
  raw <- is.na(rows$standardizer)
  each <- ifelse(raw, decimals, 2L)
  divisor <- with_unit(format_number(rows$standardizer_value, decimals), outcome$unit)
  list(
    effect = unname(estimand_words[rows$estimand]), size = format_each(rows$estimate, each),
    lower = format_each(rows$lower, each), upper = format_each(rows$upper, each),
    unit = ifelse(raw, outcome$unit %||% "", "SD"),
    "divided by" = ifelse(raw, "none", sprintf("%s, %s", rows$standardizer, divisor))
  )
}

format_each <- function(x, decimals) mapply(format_number, x, decimals)

estimand_words <- c(
  mean_difference = "difference", d_pooled = "d (pooled)", g = "g", d_change = "d (changes)",
  g_change = "g (changes)"
)

interval_method_words <- function(rows) {
  kinds <- c(
    welch = "Welch for the difference", paired = "t of the changes for the difference",
    noncentral_t = "exact noncentral t for d and g"
  )
  paste0(format_percent(rows$level[[1]]), "; ", paste(kinds[unique(rows$method)], collapse = ", "))
}

group_size_words <- function(study, outcome) {
  size <- format_count(outcome_sizes(outcome))
  if (is_paired(study)) return(sprintf("%s and %s, %s pairs", study$groups[[1]], study$groups[[2]], size[[1]]))
  paste(sprintf("%s n = %s", study$groups, size), collapse = ", ")
}

#' @rdname print.vandro_study
#' @export
format.vandro_description <- function(x, ..., digits = NULL, width = cli::console_width()) {
  digits <- check_digits(digits)
  blocks <- lapply(x$study$outcomes, function(outcome) {
    cells <- description_cells(x, outcome, outcome_decimals(outcome, digits))
    c(
      heading_line(paste("Description:", outcome_title(outcome)), study_direction(x$study)),
      text_table(cells$centre),
      if (!is.null(cells$shape)) text_table(cells$shape),
      pair_entry(outcome, width),
      text_entry("Intervals", description_interval_words(x), width),
      if (!is.null(cells$shape)) text_entry("Quartiles", "rule 7 of Hyndman & Fan (1996)", width),
      text_entry("Left out", left_out_words(x$study, outcome), width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

description_interval_words <- function(x) {
  paste0(
    format_percent(x$settings$level),
    if (is_paired(x$study)) "; t for each mean" else "; t for each mean, Welch for the difference"
  )
}

# Rounded columns of one outcome's description: centre and spread, and (full set) shape.
description_cells <- function(x, outcome, decimals) {
  rows <- x$table[x$table$outcome == outcome$name, ]
  rows <- rows[!is.na(rows$mean), ]
  number <- function(column) format_number(column, decimals)
  filled <- function(cells) cells[vapply(cells, function(cell) any(nzchar(cell)), NA)]
  centre <- filled(list(
    group = rows$group, n = format_count(rows$n), missing = format_count(rows$missing),
    mean = number(rows$mean), SD = number(rows$sd), SE = number(rows$se),
    lower = number(rows$lower), upper = number(rows$upper)
  ))
  if (is.null(rows$median)) return(list(centre = centre))
  shape <- rows[!is.na(rows$median), ]
  if (nrow(shape) == 0) return(list(centre = centre))
  list(centre = centre, shape = filled(list(
    group = shape$group, min = number(shape$min), q1 = number(shape$q1), median = number(shape$median),
    q3 = number(shape$q3), max = number(shape$max), skewness = format_number(shape$skewness, 2),
    kurtosis = format_number(shape$kurtosis, 2)
  )))
}
