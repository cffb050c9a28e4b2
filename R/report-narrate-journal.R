# Sentences about a difference in the form of a journal.

journal_size <- function(row, outcome, study, decimals, detail = NULL) {
  raw <- raw_number(outcome, decimals)
  first <- group_words(outcome, study, 1, decimals, at_group(study, 1))
  second <- group_words(outcome, study, 2, decimals, at_group(study, 2))
  test <- statistic_text(row)
  if (!is.na(row$p_adjusted)) test <- paste0(test, ", adjusted ", format_p(row$p_adjusted))
  lead <- centre_lead(row, study)
  same <- row$estimate == 0
  if (same && !nzchar(lead)) lead <- "the mean "
  label <- if (nzchar(lead)) paste0(lead, inside_sentence(outcome$label)) else outcome$label
  interval <- difference_ci(row, detail, decimals)
  if (is_paired(study)) {
    label <- sprintf(
      "Across %s pairs (SD of the changes = %s), %s", format_count(row$n_first),
      format_number(outcome$moments[[3]]$sd, level_decimals("sd", outcome, decimals, 3)), inside_sentence(label)
    )
  }
  if (same) {
    return(sprintf(
      "%s was the same %s and %s, %s for %s, %s.",
      capital(label), first, second, interval, study_direction(study), test
    ))
  }
  sprintf(
    "%s was %s %s than %s, %s for %s, %s.", capital(label), side_words(row$estimate, raw), first, second, interval,
    study_direction(study), test
  )
}

# "the median of ", where it is not the mean that is compared.
centre_lead <- function(row, study) {
  estimand_fact(row$estimand, "lead", study)
}

# The interval, or that there is none, of a permutation test with few assignments.
difference_ci <- function(row, detail, decimals) {
  if (anyNA(c(row$lower, row$upper))) {
    return(no_interval_words(row, detail$widest, "so few assignments", bracketed_limits(decimals)))
  }
  ci_words(row, decimals)
}

# What was asked, where it was not simply "is there a difference?".
journal_question <- function(row, outcome, study, decimals) {
  if (row$expect == "either" && row$beyond == 0) return(NULL)
  question <- asked_sentence(row, outcome, study)
  bound <- if (row$expect == "higher") row$at_least else row$at_most
  if (row$expect == "either" || is.na(bound)) return(question)
  subject <- if (method_is(row, "ranks")) {
    paste("The", sub("^a ", "", estimand_fact(row$estimand, "centre")))
  } else {
    sprintf("The difference (%s)", study_direction(study))
  }
  paste(question, sprintf(
    "%s is %s %s (one-sided %s bound).", subject, if (row$expect == "higher") "at least" else "at most",
    row_number(row, outcome, decimals)(bound), format_percent(1 - row$alpha)
  ))
}

# What a p above alpha leaves open.
journal_reading <- function(row, outcome, study, decimals) {
  if (decided_p(row) <= row$alpha) return(NULL)
  ranked <- method_is(row, "ranks")
  if (wrong_side(row)) return(wrong_side_sentence(row, outcome))
  if (row$p <= row$alpha) return(adjusted_reading(row, outcome))
  if (anyNA(c(row$lower, row$upper))) return(sprintf("This is not evidence %s.", null_claim(row, outcome)))
  compatible <- if (ranked) {
    sprintf(
      "%s from %s", estimand_fact(row$estimand, "centre"),
      with_unit(format_range(row$lower, row$upper, row_decimals(row, decimals)), row_unit(row, outcome))
    )
  } else {
    compatible_words(row, outcome, study, decimals)
  }
  sprintf("The data are compatible with %s; this is not evidence %s.", compatible, null_claim(row, outcome))
}
