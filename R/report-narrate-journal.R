# Sentences about a difference in the form of a journal.

difference_sentence <- function(row, outcome, study, voice, decimals, detail = NULL) {
  text <- if (method_is(row, "ranks")) {
    rank_sentence(row, detail, outcome, study, voice, decimals)
  } else if (voice == "journal") {
    paste(c(
      journal_size(row, outcome, study, decimals, detail), journal_question(row, outcome, study, decimals),
      journal_reading(row, outcome, study, decimals)
    ), collapse = " ")
  } else {
    paste(c(
      plain_size(row, outcome, study, decimals), plain_test(row, outcome, study)
    ), collapse = " ")
  }
  margin <- margin_verdict(row, outcome, study)
  paste(c(
    text, if (!is.null(margin)) paste0(capital(margin), "."), cause_sentence(row, outcome, study, decimals),
    if (identical(study$claim, "same")) same_needs_bounds
  ), collapse = " ")
}

journal_size <- function(row, outcome, study, decimals, detail = NULL) {
  raw <- raw_number(outcome, decimals)
  first <- group_words(outcome, study, 1, decimals)
  second <- group_words(outcome, study, 2, decimals)
  test <- statistic_text(row)
  if (!is.na(row$p_adjusted)) test <- paste0(test, ", adjusted ", format_p(row$p_adjusted))
  lead <- centre_lead(row, study)
  label <- if (nzchar(lead)) paste0(lead, inside_sentence(outcome$label)) else outcome$label
  interval <- difference_ci(row, detail, decimals)
  changes <- ""
  if (is_paired(study)) {
    label <- sprintf("Over %s pairs, %s", format_count(row$n_first), inside_sentence(label))
    changes <- paste0(", SD of the changes ", format_number(outcome$moments[[3]]$sd, decimals))
  }
  if (row$estimate == 0) {
    return(sprintf(
      "Mean %s was the same in the samples of %s and %s%s, %s for %s, %s.",
      inside_sentence(outcome$label), first, second, changes, interval,
      study_direction(study), test
    ))
  }
  sprintf(
    "%s was %s in %s than in %s%s, %s for %s, %s.", capital(label),
    side_words(row$estimate, raw), first, second, changes, interval,
    study_direction(study), test
  )
}

# "the median of ", where it is not the mean that is compared.
centre_lead <- function(row, study) {
  estimand_fact(row$estimand, "lead", study)
}

# The interval, or that there is none, of a permutation test with few assignments.
difference_ci <- function(row, detail, decimals) {
  if (anyNA(c(row$lower, row$upper))) return(no_ci_text(row, detail$widest, "so few assignments", decimals))
  ci_words(row, decimals)
}

# What was asked, where it was not simply "is there a difference?".
journal_question <- function(row, outcome, study, decimals) {
  if (row$expect == "either" && row$beyond == 0) return(NULL)
  question <- asked_words(row, outcome, study)
  if (row$expect == "either") return(question)
  raw <- raw_number(outcome, decimals)
  if (all(is.na(c(row$at_least, row$at_most)))) return(question)
  bound <- if (row$expect == "higher") {
    paste("at least", raw(row$at_least))
  } else {
    paste("at most", raw(row$at_most))
  }
  paste(question, sprintf(
    "The difference (%s) is %s (one-sided %s bound).", study_direction(study), bound,
    format_percent(1 - row$alpha)
  ))
}

journal_reading <- function(row, outcome, study, decimals) {
  if (decided_p(row) <= row$alpha) return(NULL)
  if (wrong_side(row)) {
    return("The difference lies on the other side than was expected.")
  }
  if (row$p <= row$alpha) return(adjusted_reading(row, outcome))
  if (anyNA(c(row$lower, row$upper))) return(sprintf("This is not evidence %s.", null_claim(row, outcome)))
  sprintf(
    "The data are compatible with %s; this is not evidence %s.",
    compatible_words(row, outcome, study, decimals), null_claim(row, outcome)
  )
}
