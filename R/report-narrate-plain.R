# Sentences for readers who do not read statistics.

plain_size <- function(row, outcome, study, decimals) {
  raw <- raw_number(outcome, decimals)
  label <- inside_sentence(outcome$label)
  average <- estimand_fact(row$estimand, "plain_lead")
  size <- if (row$estimate == 0) {
    sprintf("%s, %s was the same %s and %s.", average, label, at_group(study, 1), at_group(study, 2))
  } else {
    sprintf(
      "%s, %s was %s %s than %s.", average, label, side_words(row$estimate, raw), at_group(study, 1), at_group(study, 2)
    )
  }
  if (anyNA(c(row$lower, row$upper))) {
    return(sprintf("%s There are too few values for a %s interval.", size, format_percent(row$level)))
  }
  sprintf(
    paste(
      "%s The data are compatible with %s (%s confidence interval: intervals computed in this way contain the true",
      "difference in %s of studies)."
    ),
    size, compatible_words(row, outcome, study, decimals), format_percent(row$level),
    format_percent(row$level)
  )
}

plain_test <- function(row, outcome, study) {
  null <- "there were no difference"
  if (row$beyond != 0) {
    null <- sprintf("the true difference were %s", with_unit(format_short(row$beyond), difference_unit(outcome)))
  }
  side <- switch(row$expect,
    either = if (row$beyond == 0) "difference at least this large" else "difference at least as far from that",
    sprintf("result at least as far towards %s values %s", row$expect, at_group(study, 1))
  )
  chance <- sprintf(
    "If %s, a %s would occur %s (%s).", null, side, times_words(row$p),
    format_p(row$p, alpha = row$alpha)
  )
  if (decided_p(row) <= row$alpha) return(chance)
  if (row$p <= row$alpha) return(paste(chance, adjusted_reading(row, outcome)))
  reading <- if (wrong_side(row)) {
    wrong_side_sentence(row, outcome)
  } else {
    sprintf("This does not settle the question, and it does not show %s.", null_claim(row, outcome))
  }
  paste(chance, reading)
}

times_words <- function(p) {
  if (p < 0.001) return("in fewer than 1 of 1000 such studies")
  if (p < 0.01) return(sprintf("in about %.0f of 1000 such studies", 1000 * p))
  if (p > 0.995) return("in nearly every such study")
  sprintf("in about %.0f of 100 such studies", 100 * p)
}
