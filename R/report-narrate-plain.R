# Sentences for readers who do not read statistics.

plain_size <- function(row, outcome, study, decimals) {
  raw <- raw_number(outcome, decimals)
  label <- inside_sentence(outcome$label)
  average <- estimand_fact(row$estimand, "plain_lead")
  size <- if (row$estimate == 0) {
    sprintf("%s, %s was the same in the two samples.", average, label)
  } else {
    sprintf(
      "%s, %s was %s in %s than in %s.", average, label, side_words(row$estimate, raw),
      study$groups[[1]], study$groups[[2]]
    )
  }
  if (anyNA(c(row$lower, row$upper))) {
    return(sprintf("%s There are too few values for a %s interval.", size, format_percent(row$level)))
  }
  sprintf(
    paste(
      "%s The measurements fit %s (%s interval: an interval made in this way holds the true",
      "difference in %s of studies)."
    ),
    size, compatible_words(row, outcome, study, decimals), format_percent(row$level),
    format_percent(row$level)
  )
}

plain_test <- function(row, outcome, study) {
  null <- "there were no difference"
  if (row$beyond != 0) {
    null <- sprintf("the difference were %s", with_unit(format_short(row$beyond), outcome$unit))
  }
  side <- switch(row$expect,
    either = "at least as far from that",
    higher = sprintf("at least as much in favour of a higher value in %s", study$groups[[1]]),
    lower = sprintf("at least as much in favour of a lower value in %s", study$groups[[1]])
  )
  chance <- sprintf(
    "If %s, a result %s would come up %s (%s).", null, side, times_words(row$p),
    format_p(row$p, alpha = row$alpha)
  )
  if (decided_p(row) <= row$alpha) return(chance)
  if (row$p <= row$alpha) return(paste(chance, adjusted_reading(row, outcome)))
  reading <- if (wrong_side(row)) {
    wrong_side_text(row, outcome)
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
