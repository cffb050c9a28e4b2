# What may be called a cause.

# Words of cause only where units were assigned at random and an effect is shown.
cause_sentence <- function(row, outcome, study, decimals) {
  if (is.null(study$assigned)) return(NULL)
  paired <- is_paired(study)
  if (!study$assigned) {
    what <- if (paired) "The order of the two measurements was" else "The units were"
    return(sprintf(
      "%s not assigned %sat random; the %s may have other causes.", what, if (paired) "" else "to the groups ",
      if (paired) "change" else "difference"
    ))
  }
  if (!effect_is_shown(row)) return(NULL)
  sprintf(
    "Because the %s assigned at random, this can be read as an effect: %s %s compared with %s.",
    if (paired) "order of the two was" else "units were", study$groups[[1]], cause_words(row, outcome, decimals),
    study$groups[[2]]
  )
}

# By the interval, or by a test of no effect at all.
effect_is_shown <- function(row) {
  if (row$estimate == no_effect(row)) return(FALSE)
  excludes <- isTRUE(row$lower > no_effect(row)) || isTRUE(row$upper < no_effect(row))
  excludes || (row$beyond == 0 && decided_p(row) <= row$alpha && !wrong_side(row))
}

# "raised stem height by 3.46 cm"
cause_words <- function(row, outcome, decimals) {
  verb <- if (row$estimate > no_effect(row)) c("raise", "raised") else c("lower", "lowered")
  label <- inside_sentence(outcome$label)
  if (!in_outcome_unit(row)) return(sprintf("tended to %s %s", verb[[1]], label))
  size <- sub(" (higher|lower)$", "", side_words(row$estimate, raw_number(outcome, decimals)))
  sprintf("%s %s by %s", verb[[2]], label, size)
}
