# Words for the weight of evidence. A Bayes factor is always reported in both directions.

#' @rdname print.vandro_study
#' @export
format.vandro_evidence <- function(x, ..., decimals = NULL, details = FALSE, width = cli::console_width()) {
  check_decimals(decimals)
  if (in_one_table(x, check_flag(details))) {
    return(many_lines(
      x, "Evidence", function(rows, records) many_evidence_cells(rows), width,
      function(outcome) evidence_notes(x, record_place(x$study, outcome))
    ))
  }
  blocks <- record_blocks(x, function(outcome) {
    i <- record_place(x$study, outcome)
    row <- outcome_rows(x, outcome)
    c(
      heading_line(paste("Evidence:", outcome_title(outcome)), row$comparison),
      text_entry("Evidence", sprintf("%s: %s", factor_sides(row), factor_words(row, outcome)), width),
      if (!is.null(row$strength_word)) text_entry("In words", strength_words_of(row), width),
      text_entry("Effect", posterior_words(row), width),
      text_entry("Direction", expected_words(row, x$study, outcome), width),
      text_entry("Prior", prior_words(row), width),
      text_entry("Sensitivity", range_words(row), width),
      if (details) {
        c(
          text_entry("H0", evidence_null_words(row, outcome), width),
          text_entry("Logarithm", sprintf("ln BF10 = %s", log_factor(row)), width),
          text_entry("Accuracy", sprintf("relative error of BF10 below %s", error_ceiling(row$bf_error)), width)
        )
      },
      if (!is.null(x$settings$reason)) text_entry("Reason", x$settings$reason, width),
      unlist(lapply(evidence_notes(x, i), function(note) text_entry("Note", note, width))),
      text_table(group_cells(x$study, outcome, outcome_decimals(outcome, decimals))),
      excluded_entry(x$study, outcome, width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

# The assumption of the Bayes factor where it fails, and what the rounding of published numbers leaves open.
evidence_notes <- function(x, i) {
  size <- x$detail$true_size[[i]]
  open <- x$detail$rounding[[i]]
  ends <- vapply(open[!is.na(open)], factor_text, "")
  c(
    if (!is.na(size) && (size > 0.06 || size < 0.04)) {
      sprintf(
        paste(
          "The Bayes factor assumes equal variances. With the SDs observed and these sample sizes, Student's test,",
          "whose t it uses, would reject a true null hypothesis in %s of studies instead of 5%%."
        ), format_percent(round(size, 3))
      )
    },
    if (length(unique(ends)) == 2) {
      sprintf(
        "The published numbers are rounded: unrounded ones could have given any BF10 from %s to %s.",
        ends[[1]], ends[[2]]
      )
    }
  )
}

posterior_words <- function(row) {
  sprintf(
    "posterior median %s SD, %s credible interval %s SD%s (%s; observed: %s)",
    format_number(row$estimate), format_percent(row$level), format_range(row$lower, row$upper),
    if (is.na(row$within_low)) ", if there is an effect" else "", effect_divisor(row),
    format_number(row$d)
  )
}

effect_divisor <- function(row) estimand_fact(row$estimand, "standardizer")

# Both hypotheses: what the first factor speaks for, and its opposite after "as under".
rival_words <- function(row, outcome) {
  if (!is.na(row$within_low)) {
    return(c("an effect outside the bounds", "one inside", "an effect inside the bounds", "one outside"))
  }
  side <- switch(row$expect, either = "", higher = " above 0", lower = " below 0")
  if (row$beyond == 0) return(c(paste0("an effect", side), "no effect", "no effect", paste0("an effect", side)))
  at <- with_unit(format_short(row$beyond), difference_unit(outcome))
  word <- switch(row$expect, either = "other than", higher = "above", lower = "below")
  c(sprintf(c("a difference %s %s", "one of %2$s", "a difference of %2$s", "one %s %s"), word, at))
}

# The side that the data speak for, first.
factor_words <- function(row, outcome) {
  names <- rival_words(row, outcome)
  sides <- if (row$log_bf > 0) names[1:2] else names[3:4]
  sprintf(
    "the data are %s times as probable under %s as under %s", factor_text(abs(row$log_bf)), sides[[1]], sides[[2]]
  )
}

factor_sides <- function(row) {
  sprintf("BF10 = %s, BF01 = %s", factor_text(row$log_bf), factor_text(-row$log_bf))
}

log_factor <- function(row) format_number(row$log_bf, if (abs(row$log_bf) >= 1000) 0 else 2)

strength_words_of <- function(row) {
  sprintf(
    "%s (%s); from half to twice the prior's width: %s", row$strength_word, row$strength_source, row$strength_range
  )
}

evidence_null_words <- function(row, outcome) {
  if (!is.na(row$within_low)) {
    return(sprintf(
      "the effect lies between %s and %s SD", format_short(row$within_low), format_short(row$within_high)
    ))
  }
  if (row$beyond == 0) return("the population means are equal: the effect is exactly 0")
  sprintf(
    "the population means differ by exactly %s; effects are measured from there",
    with_unit(format_short(row$beyond), difference_unit(outcome))
  )
}

# The prior in words.
prior_words <- function(row) {
  sprintf(
    "%s centred at %s with half of its probability within %s SD%s: between %s SD",
    if (row$prior_df == 1) "Cauchy" else sprintf("t with %s df", format_short(row$prior_df)),
    format_short(row$prior_location), format_short(signif(row$prior_half, 3)),
    switch(row$expect, either = "", higher = ", above 0 only", lower = ", below 0 only"),
    paste(format_number(c(row$prior_low, row$prior_high)), collapse = " and ")
  )
}

expected_words <- function(row, study, outcome) {
  side <- if (row$expect == "lower") "lower" else "higher"
  than <- if (row$beyond == 0) {
    sprintf("than %s", study$groups[[2]])
  } else {
    sprintf(
      "than %s by more than %s", study$groups[[2]],
      with_unit(format_short(if (side == "lower") -row$beyond else row$beyond), difference_unit(outcome))
    )
  }
  sprintf(
    "posterior probability that %s is %s %s: %s%s", study$groups[[1]], side, than,
    probability_text(row$p_expected, row$p_unexpected),
    if (row$expect == "either") "" else " (with the two-sided prior)"
  )
}

# Never 0 or 1 that is not.
probability_text <- function(p, other) {
  if (p > 0.999 && other > 0) return("> .999")
  bare_p(p)
}

range_words <- function(row) {
  ends <- c(row$log_bf_least, row$log_bf_most)
  turn <- if (all(ends > 0)) {
    "always evidence for it"
  } else if (all(ends < 0)) {
    "always evidence against it"
  } else {
    "its direction depends on the width"
  }
  sprintf(
    "with priors from half to twice as wide (half within %s SD), BF10 for %s lies between %s and %s: %s",
    format_range_words(row$prior_half / 2, 2 * row$prior_half),
    if (is.na(row$within_low)) "an effect" else "an effect outside the bounds", factor_text(ends[[1]]),
    factor_text(ends[[2]]), turn
  )
}

format_range_words <- function(low, high) {
  paste(format_short(signif(low, 3)), "to", format_short(signif(high, 3)))
}

error_ceiling <- function(error) format_plain(10^ceiling(log10(max(error, 1e-15))), digits = 1)

#' @rdname print.vandro_study
#' @export
format.vandro_priors <- function(x, ..., decimals = NULL, width = cli::console_width()) {
  check_decimals(decimals)
  outcome <- x$study$outcomes[[1]]
  at <- x$table[x$table$standing == "declared", ]
  cells <- other_priors_cells(x)
  c(
    heading_line(paste("Other priors:", outcome_title(outcome)), at$comparison), text_table(cells),
    text_entry("Shown", sprintf("%s of %s priors", length(cells$BF10), nrow(x$table)), width),
    text_entry("Range", priors_range_words(x), width),
    text_entry("Interval", sprintf("%s credible interval of the standardized effect", format_percent(at$level)), width)
  )
}

# A long table is cut to evenly spaced rows and the declared one.
other_priors_cells <- function(x) {
  table <- x$table
  few <- if (nrow(table) > 12) round(seq(1, nrow(table), length.out = 9)) else seq_len(nrow(table))
  shown <- table[sort(unique(c(few, which(table$standing == "declared")))), ]
  list(
    "half within (SD)" = vapply(signif(shown$prior_half, 3), format_short, ""), median = format_number(shown$estimate),
    interval = format_range(shown$lower, shown$upper), BF10 = vapply(shown$log_bf, factor_text, ""),
    "ln BF10" = format_number(shown$log_bf), standing = shown$standing
  )
}

priors_range_words <- function(x) {
  ends <- c(x$detail$least, x$detail$most)
  sprintf(
    "with half of the prior within %s SD, BF10 lies between %s and %s",
    format_range_words(min(x$table$prior_half), max(x$table$prior_half)), factor_text(ends[[1]]),
    factor_text(ends[[2]])
  )
}
