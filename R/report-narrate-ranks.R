# Sentences about ranks. Medians stand there as description; what is estimated is named for what it is.

# "tended to be lower in compost than in peat"
tendency <- function(row, outcome, study, first = at_group(study, 1), second = at_group(study, 2)) {
  # The side of the samples themselves, not that of the null value.
  side <- if (row$beyond != 0 && in_outcome_unit(row)) row$estimate else side_of(row)
  if (row$beyond != 0 && estimand_scale(row) == "chance") {
    first <- sprintf("%s (less %s)", first, with_unit(format_short(row$beyond), difference_unit(outcome)))
  }
  if (side == 0) return(sprintf("tended to be neither higher nor lower %s than %s", first, second))
  sprintf("tended to be %s %s than %s", if (side > 0) "higher" else "lower", first, second)
}

median_words <- function(group, name, paired, decimals) {
  median <- format_number(group$values[[2]], decimals)
  parts <- c(if (!paired) paste("n =", format_count(group$n)), paste("Mdn =", median))
  sprintf("%s (%s)", name, paste(parts, collapse = ", "))
}

journal_rank_size <- function(row, detail, outcome, study, decimals) {
  paired <- is_paired(study)
  label <- if (paired) {
    sprintf("Across %s pairs, %s", format_count(row$n_first), inside_sentence(outcome$label))
  } else {
    capital(outcome$label)
  }
  known <- length(detail$quartiles) >= 2
  groups <- if (known) {
    vapply(1:2, function(k) median_words(detail$quartiles[[k]], at_group(study, k), paired, decimals), "")
  } else {
    c(at_group(study, 1), at_group(study, 2))
  }
  test <- statistic_text(row)
  if (!is.na(row$p_adjusted)) test <- paste0(test, ", adjusted ", format_p(row$p_adjusted))
  superiority <- if (row$method == "ranks" && row$estimand == "shift") {
    sprintf(
      " The probability that a random value %s is higher than one %s%s was %s in these samples (ties counted half).",
      at_group(study, 1), at_group(study, 2), margin_text(row, outcome),
      drop_leading_zero(format_number(row$superiority))
    )
  }
  paste0(sprintf(
    "%s %s: %s, %s, %s.", label, tendency(row, outcome, study, groups[[1]], groups[[2]]),
    rank_estimate_text(row, outcome, study, decimals), rank_ci_text(row, detail, decimals), test
  ), superiority)
}

rank_estimate_text <- function(row, outcome, study, decimals) {
  value <- with_unit(format_number(row$estimate, row_decimals(row, decimals)), row_unit(row, outcome))
  name <- switch(estimand_scale(row),
    chance = sprintf(
      "probability of a higher value %s%s (ties counted half)", at_group(study, 1), margin_text(row, outcome)
    ),
    balance = "balance of the ranks (rank-biserial)",
    if (is_paired(study)) "centre of the changes (Hodges-Lehmann)" else "Hodges-Lehmann shift"
  )
  if (!in_outcome_unit(row)) return(paste(name, drop_leading_zero(value)))
  sprintf("%s, %s, %s", name, study_direction(study), value)
}

rank_ci_text <- function(row, detail, decimals) {
  if (row$estimand == "rank_biserial" && is.na(row$lower)) return("no CI without single changes")
  if (!anyNA(c(row$lower, row$upper))) {
    open <- if (is.na(row$open_end)) "" else sprintf(" (%s limit excluded)", row$open_end)
    words <- ci_words(row, row_decimals(row, decimals))
    return(paste0(if (in_outcome_unit(row)) words else drop_leading_zero(words), open))
  }
  no_interval_words(row, detail$widest, "these sample sizes", bracketed_limits(decimals))
}

plain_rank_size <- function(row, outcome, study, decimals) {
  number <- row_number(row, outcome, decimals)
  label <- inside_sentence(outcome$label)
  superiority <- if (!is.na(row$superiority)) {
    sprintf(
      "Of 100 random pairs of values, the one %s would be higher%s in about %.0f (ties counted half).",
      at_group(study, 1), margin_text(row, outcome), 100 * row$superiority
    )
  }
  fit <- if (anyNA(c(row$lower, row$upper))) {
    sprintf("%s for a %s interval.", interval_lacks(row), format_percent(row$level))
  } else if (row$estimand == "superiority") {
    sprintf(
      "The data are compatible with %.0f to %.0f of 100 (%s confidence interval).", 100 * row$lower, 100 * row$upper,
      format_percent(row$level)
    )
  } else {
    sprintf(
      "The typical difference, %s, was %s; the data are compatible with %s to %s (%s confidence interval).",
      study_direction(study),
      number(row$estimate), number(row$lower), number(row$upper), format_percent(row$level)
    )
  }
  order <- if (row$estimand == "superiority") c(superiority, fit) else c(fit, superiority)
  paste(c(sprintf("%s %s.", capital(label), tendency(row, outcome, study)), order), collapse = " ")
}
