# Sentences about a difference, whichever method found it.

# Size, interval and test of the difference, in the words for test_difference(), without the conclusion from p.
size_sentence <- function(difference, outcome, voice, decimals) {
  row <- outcome_rows(difference, outcome, "primary")
  study <- difference$study
  ranked <- method_is(row, "ranks")
  detail <- answer_detail(difference, outcome, if (ranked) "ranks" else "permutation")
  row$p_adjusted <- NA_real_
  row_size(row, detail, outcome, study, voice, decimals)
}

row_size <- function(row, detail, outcome, study, voice, decimals) {
  if (method_is(row, "ranks")) {
    if (voice == "journal") return(journal_rank_size(row, detail, outcome, study, decimals))
    return(plain_rank_size(row, outcome, study, decimals))
  }
  if (voice == "journal") return(journal_size(row, outcome, study, decimals, detail))
  plain_size(row, outcome, study, decimals)
}

difference_sentence <- function(row, outcome, study, voice, decimals, detail = NULL) {
  margin <- margin_verdict(row, outcome, study)
  paste(c(
    row_size(row, detail, outcome, study, voice, decimals), if (voice == "journal") {
      c(journal_question(row, outcome, study, decimals), journal_reading(row, outcome, study, decimals))
    } else {
      plain_test(row, outcome, study)
    },
    if (!is.null(margin)) paste0(capital(margin), "."), cause_sentence(row, outcome, study, decimals),
    if (identical(study$claim, "same")) same_needs_bounds
  ), collapse = " ")
}
