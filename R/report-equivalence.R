# The part of a report about equivalence.

# The answer about equivalence to the question of a report; a direction has no place beside bounds.
report_equivalence_answer <- function(study, asked, bounds) {
  refuse_direction(list(expect = asked$expect %||% "either", beyond = asked$beyond %||% 0), rlang::caller_env())
  asked[c("expect", "beyond", "level")] <- NULL
  rlang::inject(test_equivalence(study, !!!bounds, !!!asked))
}

equivalence_part <- function(i, study, answer) {
  outcome <- study$outcomes[[i]]
  row <- outcome_rows(answer, outcome, "primary")
  decimals <- equivalence_decimals(row, outcome_decimals(outcome))
  list(
    doc_paragraph(
      strong = "Bounds: ", paste0(bounds_text(row, outcome, decimals), ". "), strong = "Reason: ",
      paste0(sub("[.]$", "", answer$settings$reason %||% "none on record"), ".")
    ),
    verdict_paragraph(row),
    if (length(study$outcomes) > 1) doc_figure(autoplot(answer, outcome = outcome, view = "equivalence")),
    doc_table(
      equivalence_cells(answer, row, outcome),
      sprintf("Tests against the bounds and against 0, %s", study_direction(study)),
      paste(c(
        sprintf("Interval: %s.", equivalence_interval_words(row, outcome, decimals)),
        sprintf("Tightest: %s.", tightest_words(row, outcome, decimals)),
        if (!is.na(row$d)) paste0(capital(standardized_words(row, study)), "."),
        entry_sentences(equivalence_beside_words(answer, outcome, decimals), "Beside: "),
        equivalence_notes(answer, row, outcome)
      ), collapse = " ")
    ),
    doc_figure(autoplot(answer, view = "bounds", outcome = outcome))
  )
}

verdict_paragraph <- function(row) {
  doc_paragraph(strong = sprintf("Verdict: %s. ", row$verdict), paste0(capital(verdict_meaning(row)), "."))
}

equivalence_settings <- function(s) {
  list(
    within = setting_text(s$within), "bounds in" = s$bounds_in, "SD of" = s$sd_of,
    "reason for the bounds" = s$reason %||% "none on record"
  )
}

entry_sentences <- function(texts, lead) if (length(texts)) paste0(lead, texts, ".")

# A row for either side and one for no difference.
equivalence_cells <- function(answer, row, outcome) {
  sides <- list(side_row(answer, row, "low"), side_row(answer, row, "high"), zero_row(answer, row))
  bounds <- c(bound_text(row, outcome, "low"), bound_text(row, outcome, "high"))
  list(
    question = c(sprintf(c("above %s", "below %s"), bounds), "not 0"),
    test = vapply(sides, function(side) sub(", [^,]*sided$", "", test_words(side)), ""),
    sides = c("one", "one", "two"),
    decides = c(ifelse(row$governing == c("low", "high"), "about equivalence", ""), "about a difference")
  )
}
