# Sentences about the weight of evidence.

#' @exportS3Method
tell.vandro_evidence <- function(x, voice, digits, ...) {
  narrate_outcomes(x, function(outcome) {
    row <- outcome_rows(x, outcome)
    if (voice == "plain") plain_evidence(row, outcome) else journal_evidence(row, outcome, x$study)
  })
}

journal_evidence <- function(row, outcome, study) {
  sprintf(
    paste(
      "For %s (%s), %s (%s; t(%s) = %s). %s The posterior median of the standardized effect (%s) was %s, %s credible",
      "interval %s%s. %s%s%s."
    ),
    inside_sentence(outcome$label), study_direction(study), factor_words(row, outcome), factor_sides(row),
    format_df(row$df),
    format_number(row$statistic), sprintf("The prior of the effect was %s.", prior_words(row)), effect_divisor(row),
    format_number(row$estimate), format_percent(row$level), format_range(row$lower, row$upper),
    if (is.na(row$within_low)) ", given that there is an effect" else "", capital(range_words(row)),
    if (!is.na(row$within_low) || row$beyond != 0) sprintf(". H0: %s", evidence_null_words(row, outcome)) else "",
    if (is.null(row$strength_word)) "" else sprintf(". In words: %s", strength_words_of(row))
  )
}

plain_evidence <- function(row, outcome) {
  # Either side first, with its opposite.
  claims <- if (!is.na(row$within_low)) {
    c("the difference counts as one", "it counts as none", "the difference counts as none", "it counts as one")
  } else if (row$beyond == 0) {
    c("there is a difference", "there is none", "there is no difference", "there is one")
  } else {
    at <- with_unit(format_short(row$beyond), outcome$unit)
    c(sprintf("the difference is not %s", at), "it is just that", sprintf("the difference is just %s", at), "it is not")
  }
  sides <- if (row$log_bf > 0) claims[1:2] else claims[3:4]
  sprintf(
    paste(
      "What was measured of %s would come up %s times as often if %s as if %s. That weighs the two against each",
      "other; it is not the probability of either. It also hangs on how large a difference was expected to be before:",
      "here half of what was expected lies between %s SD."
    ),
    inside_sentence(outcome$label), factor_text(abs(row$log_bf)), sides[[1]], sides[[2]],
    paste(format_number(c(row$prior_low, row$prior_high)), collapse = " and ")
  )
}

#' @exportS3Method
tell.vandro_priors <- function(x, voice, digits, ...) {
  outcome <- x$study$outcomes[[1]]
  at <- x$table[x$table$standing == "declared", ]
  sprintf(
    "For %s (%s), %s; with the declared width of %s SD it is %s.", inside_sentence(outcome$label), at$comparison,
    priors_range_words(x), format_short(signif(at$prior_width, 3)), factor_text(at$log_bf)
  )
}
