# Sentences about a difference in the form of a journal.

# "3.46 cm higher": size without sign, and the side the first group is on.
side_words <- function(estimate, raw) {
  size <- raw(abs(estimate))
  tiny <- estimate != 0 && !grepl("[1-9]", sub("[^0-9.,e-].*$", "", size))
  side <- if (estimate > 0) "higher" else "lower"
  if (tiny) {
    smallest <- sub("^([0-9.,]*)0", "\\11", size)
    return(sprintf("less than %s %s", smallest, side))
  }
  paste(size, side)
}

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
      plain_size(row, outcome, study, decimals, detail), plain_test(row, outcome, study, decimals)
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

# "Welch's t(44.5) = 4.45, p < .001"
statistic_text <- function(row) {
  if (method_is(row, "ranks")) {
    return(paste0(rank_statistic(row), ", ", p_words(row), if (row$expect == "either") "" else ", one-sided"))
  }
  if (method_is(row, "reassignment")) return(permutation_text(row))
  sprintf(
    "%s t(%s) = %s, %s%s", method_fact(row$method, "possessive"), format_df(row$df), format_number(row$statistic),
    if (row$expect == "either") "" else "one-sided ", format_p(row$p, alpha = row$alpha)
  )
}

# "permutation test of t = 2.76, exact p = .013"
permutation_text <- function(row) {
  of <- estimand_fact(row$estimand, "test_of")
  if (row$statistic_name == "t") of <- paste("of", permutation_statistic(row))
  within <- c(
    if (!is.na(row$blocks)) sprintf("within %s blocks", format_count(row$blocks)),
    if (!is.na(row$run_length)) sprintf("in runs of %s neighbours", format_count(row$run_length)),
    if (!is.na(row$draws)) sprintf("%s draws", format_count(row$draws))
  )
  sprintf(
    "permutation test %s%s, %s%s", of, if (length(within)) sprintf(" (%s)", paste(within, collapse = ", ")) else "",
    p_words(row), if (row$expect == "either") "" else ", one-sided"
  )
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

asked_words <- function(row, outcome, study) {
  if (row$expect == "either") {
    return(sprintf("The difference was tested against %s.", with_unit(format_short(row$beyond), outcome$unit)))
  }
  expected <- if (row$expect == "higher") 1 else 2
  sprintf(
    "The question was directional: whether %s exceeds %s%s.", study$groups[[expected]],
    study$groups[[3 - expected]], margin_words(row, outcome)
  )
}

# " by more than 1 cm", seen from the group that was expected to be higher.
margin_words <- function(row, outcome) {
  margin <- if (row$expect == "higher") row$beyond else -row$beyond
  if (margin == 0) return("")
  text <- with_unit(format_short(abs(margin)), outcome$unit)
  if (margin > 0) paste(" by more than", text) else paste(", or falls short by less than", text)
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

# What a large p must not be taken for.
null_claim <- function(row, outcome) {
  if (row$beyond == 0) return("that the groups are equal")
  limit <- switch(row$expect, either = "", higher = " or less", lower = " or more")
  paste0("that the difference is ", with_unit(format_short(row$beyond), outcome$unit), limit)
}

# "a mean from 2.12 cm lower to 1.98 cm higher in compost than in peat"
compatible_words <- function(row, outcome, study, decimals) {
  side <- function(x) if (x < 0) "lower" else "higher"
  number <- function(x) format_number(abs(x), decimals)
  unit <- if (is.null(outcome$unit)) "" else paste0(" ", outcome$unit)
  what <- estimand_fact(row$estimand, "centre")
  if (side(row$lower) == side(row$upper)) {
    ends <- sort(abs(c(row$lower, row$upper)))
    return(sprintf(
      "%s from %s to %s%s %s in %s than in %s", what, number(ends[[1]]), number(ends[[2]]), unit,
      side(row$lower), study$groups[[1]], study$groups[[2]]
    ))
  }
  sprintf(
    "%s from %s%s lower to %s%s higher in %s than in %s", what, number(row$lower), unit,
    number(row$upper), unit, study$groups[[1]], study$groups[[2]]
  )
}
