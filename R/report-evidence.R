# The part of a report about the weight of evidence.

# The two kinds of intervals, told apart.
credible_note <- paste(
  "A credible interval holds the effect with the stated probability, given data, model and prior. A confidence",
  "interval is a procedure that covers the true value in that share of all studies."
)

evidence_part <- function(i, study, answer) {
  outcome <- study$outcomes[[i]]
  row <- outcome_rows(answer, outcome)
  entries <- list(
    Factor = sprintf("%s (%s)", factor_words(row, outcome), factor_sides(row)),
    "In words" = if (!is.null(row$strength_word)) strength_words_of(row),
    Effect = posterior_words(row), Direction = expected_words(row, study, outcome),
    "Null hypothesis" = evidence_null_words(row, outcome), Prior = prior_words(row), Widths = range_words(row),
    "t statistic" = sprintf("t(%s) = %s", format_df(row$df), format_number(row$statistic)),
    Accuracy = sprintf("relative error of the factor below %s", error_ceiling(row$bf_error)),
    Note = if (length(evidence_notes(answer, i))) paste(evidence_notes(answer, i), collapse = " ")
  )
  entries <- keep_given(entries)
  list(
    doc_paragraph(tell(answer, "plain", NULL)[[i]]),
    doc_table(
      list(what = names(entries), found = unlist(entries, use.names = FALSE)),
      sprintf("Weight of evidence, %s: %s", inside_sentence(outcome$label), study_direction(study)), credible_note
    ),
    doc_figure(autoplot(answer, outcome = outcome))
  )
}

evidence_settings <- function(s) {
  list(
    "half of the prior within" = format_short(s$prior_half), "prior location" = format_short(s$prior_location),
    "prior df" = format_short(s$prior_df), "expected beforehand" = s$expect,
    "interval null (SD)" = if (!is.null(s$within)) setting_text(s$within),
    "reason for the prior" = s$reason %||% "none on record"
  )
}
