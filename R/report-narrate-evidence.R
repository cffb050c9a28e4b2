# Sentences about the weight of evidence.

#' @exportS3Method
tell.vandro_evidence <- function(x, voice, decimals, ...) {
  narrate_outcomes(x, function(outcome) {
    row <- outcome_rows(x, outcome)
    if (voice == "plain") return(plain_evidence(row, outcome))
    paste0(
      journal_evidence(row, outcome, x$study, outcome_decimals(outcome, decimals)), excluded_sentence(x$study, outcome)
    )
  })
}

# Data and Bayes factor, prior, posterior, and how the Bayes factor depends on the prior.
journal_evidence <- function(row, outcome, study, decimals) {
  groups <- unlist(lapply(1:2, function(k) {
    numbers <- group_numbers(outcome, study, k, decimals)
    if (!is.null(numbers)) sprintf("%s: %s", study$groups[[k]], numbers)
  }))
  data <- if (is_paired(study)) c(sprintf("%s pairs", format_count(outcome_sizes(outcome)[[1]])), groups) else groups
  paste(c(
    sprintf(
      "For %s (%s), %s: %s, t(%s) = %s.", inside_sentence(outcome$label), paste(data, collapse = "; "),
      factor_words(row, outcome), factor_sides(row), format_df(row$df), format_number(row$statistic)
    ),
    sprintf("The prior of the standardized effect was %s.", prior_words(row)),
    sprintf(
      "The posterior median (%s, %s) was %s, %s credible interval %s%s.", effect_divisor(row), study_direction(study),
      format_number(row$estimate), format_percent(row$level), format_range(row$lower, row$upper),
      if (is.na(row$within_low)) ", given that there is an effect" else ""
    ),
    paste0(capital(range_words(row)), "."),
    if (!is.na(row$within_low) || row$beyond != 0) sprintf("H0: %s.", evidence_null_words(row, outcome)),
    if (!is.null(row$strength_word)) sprintf("In words: %s.", strength_words_of(row))
  ), collapse = " ")
}

plain_evidence <- function(row, outcome) {
  # Either side first, with its opposite.
  claims <- if (!is.na(row$within_low)) {
    c(
      "the difference lies outside the bounds", "it lies inside", "the difference lies inside the bounds",
      "it lies outside"
    )
  } else if (row$beyond == 0) {
    c("there is a difference", "there is none", "there is no difference", "there is one")
  } else {
    at <- with_unit(format_short(row$beyond), difference_unit(outcome))
    c(
      sprintf("the difference is not %s", at), "it is exactly that", sprintf("the difference is exactly %s", at),
      "it is not"
    )
  }
  sides <- if (row$log_bf > 0) claims[1:2] else claims[3:4]
  sprintf(
    paste(
      "The data for %s are %s times as probable if %s as if %s. This compares the two hypotheses; it is not the",
      "probability of either. It also depends on the effects that were expected beforehand: the prior puts half of its",
      "probability between %s SD."
    ),
    inside_sentence(outcome$label), factor_text(abs(row$log_bf)), sides[[1]], sides[[2]],
    paste(format_number(c(row$prior_low, row$prior_high)), collapse = " and ")
  )
}

#' @exportS3Method
tell.vandro_priors <- function(x, voice, decimals, ...) {
  outcome <- x$study$outcomes[[1]]
  at <- x$table[x$table$standing == "declared", ]
  sprintf(
    "For %s (%s), %s; with the declared %s SD, it is %s.", inside_sentence(outcome$label), at$comparison,
    priors_range_words(x), format_short(signif(at$prior_half, 3)), factor_text(at$log_bf)
  )
}
