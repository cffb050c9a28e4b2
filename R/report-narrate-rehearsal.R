# Sentences about rehearsals.

#' @exportS3Method
tell.vandro_rehearsal <- function(x, voice, decimals, ...) {
  decimals <- outcome_decimals(x$study$outcomes[[1]], decimals)
  vapply(seq_len(nrow(x$table)), function(i) {
    row <- as.list(x$table[i, ])
    world <- if (is.na(row$world)) x$detail$worlds[[1]] else x$detail$worlds[[row$world]]
    if (voice == "plain") plain_rehearsal(row, x, world) else journal_rehearsal(row, x, world, decimals)
  }, "")
}

sizes_words <- function(row, study) {
  if (is_paired(study)) return(paste(format_count(row$n_first), "pairs"))
  sprintf(
    "%s units %s and %s %s", format_count(row$n_first), at_group(study, 1), format_count(row$n_second),
    at_group(study, 2)
  )
}

journal_rehearsal <- function(row, x, world, decimals) {
  s <- x$settings
  outcome <- x$study$outcomes[[1]]
  what <- if (is.null(s$within)) {
    sprintf(
      "reject at alpha %s (%s) that the difference is %s %s", format_short(s$alpha),
      if (s$expect == "either") "two-sided" else "one-sided",
      switch(s$expect, either = "exactly", higher = "at most", lower = "at least"),
      with_unit(format_short(s$beyond), difference_unit(outcome))
    )
  } else {
    sprintf(
      "show at alpha %s that the difference lies within %s to %s", format_short(s$alpha), format_short(row$bound_low),
      with_unit(format_short(row$bound_high), difference_unit(outcome))
    )
  }
  range <- if (row$computed_by == "simulation") {
    sprintf(
      " (%s made-up studies, seed %s; 95%% interval %s to %s)", format_count(s$draws), format_count(s$seed),
      rate_percent(row$power_low), rate_percent(row$power_high)
    )
  } else {
    " (exact)"
  }
  half <- if (is.na(row$half_width)) "" else sprintf(
    " The %s interval would have an expected half-width of %s.", format_percent(row$level),
    if (row$method == "relative") format_number(row$half_width, 3) else with_unit(
      format_number(row$half_width, decimals), outcome$unit
    )
  )
  sprintf(
    "For %s (%s; %s), %s with %s would %s in %s of studies%s.%s%s", inside_sentence(outcome$label), row$comparison,
    world_line(world), method_phrase(row$method), sizes_words(row, x$study), what, rate_percent(row$power), range,
    half, if (is.na(row$assurance)) "" else sprintf(
      " Averaged over the possible true differences: %s.", rate_percent(row$assurance)
    )
  )
}

plain_rehearsal <- function(row, x, world) {
  claim <- if (is.null(x$settings$within)) "find a difference" else "show that it is within the bounds"
  sprintf(
    "If the true difference of %s is %s, a study with %s would %s in about %s of 100 studies.%s",
    inside_sentence(x$study$outcomes[[1]]$label), with_unit(format_short(signif(world$difference, 6)), world$unit),
    sizes_words(row, x$study), claim, times_in_hundred(row$power),
    if (row$null_true) " Each of these results would be wrong." else ""
  )
}

times_in_hundred <- function(rate) {
  times <- round(100 * rate)
  if (times == 0) "0 to 1" else if (times == 100 && rate < 1) "99 to 100" else sprintf("%.0f", times)
}
