# What a decision means for a claim, and what may be called a cause.

# Size and interval first, then the claim.
claim_sentences <- function(x, decimals) {
  bounded <- inherits(x, "vandro_equivalence")
  difference <- if (bounded) difference_of(x) else x
  narrate_outcomes(x, function(outcome) {
    row <- outcome_rows(x, outcome, "primary")
    decimals <- outcome_decimals(outcome, decimals)
    if (bounded) decimals <- equivalence_decimals(row, decimals)
    said <- (if (bounded) bounded_claim else difference_claim)(row, outcome, x$study, decimals)
    size <- size_sentence(difference, outcome, "journal", decimals)
    paste(c(size, said, dependence_sentence(x, outcome)), collapse = " ")
  })
}

# The claim and whether equality makes it part of the null hypothesis.
difference_claim <- function(row, outcome, study, decimals) {
  in_null <- identical(study$claim, "same")
  claim <- hypothesis_words(row, outcome, study)[[if (in_null) 1 else 2]]
  # These name nothing that went before.
  claim <- sub("^values of one of them", sprintf("values of %s or %s", study$groups[[1]], study$groups[[2]]), claim)
  claim <- sub("^their centre", sprintf("the centre of the changes, %s,", study_direction(study)), claim)
  rejected <- decided_p(row) <= row$alpha
  # A large p is told as the differences that are still compatible with the data.
  c(
    claim_sentence(claim, in_null, rejected, row),
    journal_reading(row, outcome, study, decimals),
    if (in_null) same_needs_bounds
  )
}

bounded_claim <- function(row, outcome, study, decimals) {
  in_null <- identical(study$claim, "different")
  claim <- sprintf(
    "the difference, %s, lies %s %s", study_direction(study),
    if (in_null) "on or beyond one of the bounds" else "between the bounds",
    if (is_standardized(row)) {
      paste(sub(" to ", " and ", sd_bound_range(row), fixed = TRUE), "SD")
    } else {
      sub(" to ", " and ", bound_range_rounded(row, outcome, decimals), fixed = TRUE)
    }
  )
  rejected <- decided_p(row) <= row$alpha
  c(
    sub("\\(([a-z -]*\\bp [<>=])", "(larger of both sides: \\1", claim_sentence(claim, in_null, rejected, row)),
    if (!rejected) sprintf("That is not evidence %s it.", if (in_null) "for" else "against")
  )
}

# All four combinations of claim and decision.
claim_sentence <- function(claim, in_null, rejected, row) {
  sprintf(
    "At alpha %s there is %s to %s the claim that %s (%s).", alpha_text(row$alpha),
    if (rejected) "enough evidence" else "not enough evidence", if (in_null) "reject" else "support", claim,
    if (!is.na(row$p_adjusted)) {
      paste("adjusted", format_p(row$p_adjusted, alpha = row$alpha))
    } else if (method_is(row, "ranks") || method_is(row, "reassignment")) {
      p_words(row)
    } else {
      format_p(row$p, alpha = row$alpha)
    }
  )
}
