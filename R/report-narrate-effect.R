# Sentences about effect sizes.

effect_sentence <- function(rows, outcome, study, voice, decimals) {
  if (voice == "plain") return(plain_effect(rows, outcome, study, decimals))
  parts <- vapply(seq_len(nrow(rows)), function(i) effect_part(rows[i, ], outcome, study, decimals), "")
  paste0("Effect size (", study_direction(study), "): ", paste(parts, collapse = "; "), ".")
}

# A sentence for each outcome, after a blank, that names an interval of a rank-based effect size which contradicts the
# test of `difference`.
parted_effects <- function(difference, effect) {
  narrate_outcomes(difference, function(outcome) {
    row <- outcome_rows(difference, outcome, "primary")
    rows <- outcome_rows(effect, outcome)
    none <- no_effect(rows)
    comparable <- row$expect == "either" && row$beyond == 0 && abs(row$level + row$alpha - 1) < 1e-9
    excluded <- rows$lower > none | rows$upper < none
    parted <- which(estimand_is(rows, "ranks") & excluded != (row$p <= row$alpha))
    if (!comparable || length(parted) == 0) return("")
    at <- parted[[1]]
    sprintf(
      " The interval of the %s %s %s, while the p-value is %s alpha: the two come from different methods.",
      estimand_fact(rows$estimand[[at]], "name", difference$study), if (excluded[[at]]) "excludes" else "includes",
      format_short(none[[at]]), if (row$p <= row$alpha) "not above" else "above"
    )
  }, instead = "")
}

# "d = 1.30, 95% CI [0.65, 1.94] (average SD of both groups, 2.67 cm)"
effect_part <- function(row, outcome, study, decimals) {
  if (estimand_is(row, "ranks")) return(rank_effect_part(row, outcome, study, decimals))
  if (in_outcome_unit(row)) {
    text <- with_unit(format_number(row$estimate, decimals), difference_unit(outcome))
    return(sprintf("the difference was %s, %s", text, ci_words(row, decimals)))
  }
  size <- sprintf("%s = %s, %s", estimand_fact(row$estimand, "symbol"), format_number(row$estimate), ci_words(row))
  if (is.na(row$standardizer)) return(size)
  divisor <- with_unit(format_number(row$standardizer_value, decimals), difference_unit(outcome))
  word <- if (!is.null(row$size_word) && !is.na(row$size_word)) {
    sprintf(", %s according to %s; over the interval %s", row$size_word, row$size_source, row$size_range)
  }
  paste0(size, " (", row$standardizer, ", ", divisor, word, ")")
}

plain_effect <- function(rows, outcome, study, decimals) {
  last <- rows[nrow(rows), ]
  if (estimand_is(last, "ranks")) return(plain_rank_effect(last, outcome, study, decimals))
  standardized <- rows[!is.na(rows$standardizer), ]
  if (nrow(standardized) == 0) return(plain_raw_effect(rows[nrow(rows), ], outcome, study, decimals))
  row <- standardized[nrow(standardized), ]
  spread <- estimand_fact(row$estimand, "divisor_of")
  sprintf(
    paste(
      "The difference (%s) is %s times the standard deviation %s; the data are compatible with %s to %s times",
      "(%s confidence interval)."
    ),
    study_direction(study), format_number(row$estimate), spread, format_number(row$lower), format_number(row$upper),
    format_percent(row$level)
  )
}

plain_raw_effect <- function(row, outcome, study, decimals) {
  if (estimand_scale(row) == "ratio") {
    return(sprintf(
      "The mean of %s %s was %s times that %s; the data are compatible with %s to %s times (%s confidence interval).",
      inside_sentence(outcome$label), at_group(study, 1), format_number(row$estimate), at_group(study, 2),
      format_number(row$lower), format_number(row$upper), format_percent(row$level)
    ))
  }
  plain_size(row, outcome, study, decimals)
}

# "Hodges-Lehmann shift 3.3 cm, 95% CI [1.6, 5.1]"
rank_effect_part <- function(row, outcome, study, decimals) {
  name <- fill_slots(estimand_fact(row$estimand, "name", study), standardizer = row$standardizer)
  value <- if (in_outcome_unit(row)) {
    with_unit(format_number(row$estimate, decimals), difference_unit(outcome))
  } else {
    drop_leading_zero(format_number(row$estimate))
  }
  if (row$method == "none") return(sprintf("%s %s (no interval without single values)", name, value))
  if (anyNA(c(row$lower, row$upper))) {
    return(sprintf("%s %s (no finite %s CI with these sample sizes)", name, value, format_percent(row$level)))
  }
  if (in_outcome_unit(row)) return(sprintf("%s %s, %s", name, value, ci_words(row, decimals)))
  sprintf("%s %s, %s", name, value, drop_leading_zero(ci_words(row)))
}

plain_rank_effect <- function(row, outcome, study, decimals) {
  first <- study$groups[[1]]
  level <- format_percent(row$level)
  switch(estimand_scale(row),
    chance = sprintf(
      paste(
        "Of 100 random pairs of values, the one %s would be higher in about %.0f; the data are compatible with %.0f to",
        "%.0f (%s confidence interval)."
      ),
      at_group(study, 1), 100 * row$estimate, 100 * row$lower, 100 * row$upper, level
    ),
    outcome = sprintf(
      "The typical difference, %s, was %s; %s.", study_direction(study),
      with_unit(format_number(row$estimate, decimals), difference_unit(outcome)),
      if (anyNA(c(row$lower, row$upper))) {
        sprintf("there are too few values for a %s interval", level)
      } else {
        range <- with_unit(format_range(row$lower, row$upper, decimals), difference_unit(outcome))
        sprintf("the data are compatible with %s (%s confidence interval)", range, level)
      }
    ),
    sprintf(
      "On a scale from -1 (always lower) to 1 (always higher %s), the difference is %s%s.", at_group(study, 1),
      format_number(row$estimate),
      if (anyNA(c(row$lower, row$upper))) {
        ""
      } else {
        sprintf(
          "; the data are compatible with %s (%s confidence interval)", format_range(row$lower, row$upper), level
        )
      }
    )
  )
}
