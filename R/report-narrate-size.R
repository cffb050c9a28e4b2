# Size, interval and test of a difference, whichever method found it.

# Size, interval and test of the difference, as test_difference() is told, without what it reads from p.
size_sentence <- function(difference, outcome, voice, decimals) {
  row <- outcome_rows(difference, outcome, "primary")
  study <- difference$study
  ranked <- method_is(row, "ranks")
  detail <- answer_detail(difference, outcome, if (ranked) "ranks" else "permutation")
  row$p_adjusted <- NA_real_
  if (voice == "journal") {
    if (ranked) return(journal_rank_size(row, detail, outcome, study, decimals))
    return(journal_size(row, outcome, study, decimals, detail))
  }
  if (ranked) return(plain_rank_size(row, outcome, study, decimals))
  plain_size(row, outcome, study, decimals)
}
