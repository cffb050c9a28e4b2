# Words for what permutation tests find.

# What is compared with its values under reassignment.
compared_words <- function(row, study) {
  switch(row$compared_by,
    studentized = if (is_paired(study)) "the mean change" else "Welch's t",
    difference = if (is_paired(study)) "the mean change" else "the difference of the means",
    trimmed = if (is_paired(study)) "the trimmed mean change" else "the difference of the trimmed means",
    median = if (is_paired(study)) "the median change" else "the difference of the medians"
  )
}

# " - difference of the means without a fifth of the values at either end", where it is not that of the means.
permuted_estimate_words <- function(row, study, detail) {
  what <- if (is_paired(study)) "changes" else "groups"
  switch(row$compared_by,
    trimmed = if (is_paired(study)) {
      sprintf(" - mean of the changes without the %s at either end", format_count(detail$trims))
    } else {
      sprintf(
        " - difference of the trimmed means, without the %s (%s) and %s (%s) values at either end",
        format_count(detail$trims[[1]]), study$groups[[1]], format_count(detail$trims[[2]]), study$groups[[2]]
      )
    },
    median = paste(" -", if (is_paired(study)) "median of the changes" else "difference of the medians"),
    if (!is.na(row$blocks)) {
      sprintf(" - within %s blocks, weighted by n1 n2 / (n1 + n2)", format_count(row$blocks))
    }
  )
}

permutation_statistic <- function(row, decimals = 3) {
  if (row$statistic_name == "t") return(paste("t =", format_number(row$statistic)))
  paste(row$statistic_name, "=", format_number(row$statistic, decimals))
}

permutation_test_words <- function(row) {
  sprintf(
    "permutation, %s, %s, %s, %s", permutation_statistic(row), format_p(row$p, alpha = row$alpha), row$p_kind,
    if (row$expect == "either") "two-sided" else "one-sided"
  )
}

# 462, or 1.3e59 beyond what a double counts.
format_many <- function(count, log_count) {
  if (log_count < log(1e12)) return(format_count(count))
  exponent <- floor(log_count / log(10))
  point_to_mark(sprintf("%.1fe%.0f", exp(log_count - exponent * log(10)), exponent))
}

assignment_words <- function(row, study, runs) {
  if (is_paired(study)) {
    if (is.null(runs)) "sets of signs of the changes" else sprintf("sets of signs of %s runs", format_count(runs$count))
  } else if (!is.null(runs)) {
    sprintf("assignments of %s runs to the groups", paste(format_count(runs$count), collapse = " + "))
  } else if (!is.na(row$blocks)) {
    sprintf("assignments of the values to the groups within %s blocks", format_count(row$blocks))
  } else {
    "assignments of the values to the groups"
  }
}

# Which rung of the ladder, and how many.
counted_words <- function(row, detail, outcome, study) {
  many <- format_many(row$assignments, detail$log_assignments)
  what <- assignment_words(row, study, detail$runs)
  switch(row$counted_by,
    listed = sprintf("all %s %s, one by one", many, what),
    decimals = sprintf("all %s %s, by counting their sums, which are decimals", many, what),
    quarters = sprintf("all %s %s, by counting their sums in quarters", many, what),
    grid = sprintf(
      "all %s %s, with sums rounded to steps of %s; the exact p-value lies between %s and %s", many, what,
      with_unit(format_plain(signif(detail$way$step, 2), digits = 2), difference_unit(outcome)),
      certain_text(row$p_bracket_low, FALSE), certain_text(row$p_bracket_high, TRUE)
    ),
    drawn = sprintf(
      "%s random ones of %s %s, seed %s; with 95%% confidence the exact p-value is %s",
      format_count(row$draws), many, what, format_count(detail$seed), simulated_limits(row)
    )
  )
}

# Ends of a bracket are rounded outwards, to three digits more than separate them.
certain_text <- function(p, up, digits = 4) {
  if (p == 0) return("0")
  scale <- 10^(digits - 1 - floor(log10(p)))
  rounded <- (if (up) ceiling(p * scale) else floor(p * scale)) / scale
  text <- format_plain(rounded, digits = digits, scientific = p < 1e-5)
  point_to_mark(if (style_rule("leading_zero")) text else sub("^0[.]", ".", text))
}

# "between .012 and .015"; where both ends are below .0001 or above .9999, that.
simulated_limits <- function(row) {
  ends <- unique(c(tail_text(row$p_simulated_low), tail_text(row$p_simulated_high)))
  if (length(ends) == 1 || grepl("^>", ends[[1]])) ends[[1]] else sprintf("between %s and %s", ends[[1]], ends[[2]])
}

smallest_words <- function(row) {
  smallest <- if (row$p_smallest < 1e-4) point_to_mark(sprintf("%.1e", row$p_smallest)) else tail_text(row$p_smallest)
  if (row$p_smallest > row$alpha) {
    return(sprintf("%s, above alpha %s: this test cannot reach significance", smallest, format_short(row$alpha)))
  }
  sprintf("%s with these values%s", smallest, if (is.na(row$draws)) "" else " and so many draws")
}

permutation_interval_words <- function(row, outcome, widest, decimals) {
  limits <- function(lower, upper) with_unit(format_range(lower, upper, decimals), interval_unit(outcome))
  if (anyNA(c(row$lower, row$upper))) return(no_interval_words(row, widest, "so few assignments", limits))
  interval_words(row, limits(row$lower, row$upper))
}

permutation_hypotheses <- function(row, outcome, study) {
  beyond <- with_unit(format_short(row$beyond), difference_unit(outcome))
  if (is_paired(study)) {
    side <- switch(row$expect, either = "not ", higher = "above ", lower = "below ")
    return(c(
      sprintf("the changes, %s, are spread symmetrically about %s", study_direction(study), beyond),
      sprintf("their centre is %s%s", side, beyond)
    ))
  }
  moved <- if (row$beyond == 0) study$groups[[1]] else sprintf("%s less %s", study$groups[[1]], beyond)
  c(
    sprintf("the populations of %s and %s have the same distribution", moved, study$groups[[2]]),
    switch(row$expect,
      either = "one of them tends to be higher", sprintf("that of %s tends to be %s", moved, row$expect)
    )
  )
}

# What a reader must know about this reassignment.
permutation_notes <- function(row, detail, study) {
  c(
    exchange_note(row, study), block_note(row), run_note(detail), series_note(row, detail),
    if (!is.na(row$undecided) && row$undecided > 0) {
      sprintf(
        "%s sums lie so near the observed one that rounding of the values could move them across; they count as ties.",
        format_count(row$undecided)
      )
    },
    open_decision_note(row), few_assignments_note(row)
  )
}

exchange_note <- function(row, study) {
  if (is_paired(study)) {
    return("The test assumes that under H0 each change could equally well have had the opposite sign.")
  }
  if (row$compared_by == "studentized") {
    return(paste(
      "Exact if both distributions are the same. If only their means are equal, the test is valid in large samples,",
      "whatever the variances."
    ))
  }
  paste(
    "This test of the difference assumes that values are exchangeable between the groups. With unequal variances and",
    "sample sizes it can err either way; statistic = \"studentized\" keeps its level there in large samples."
  )
}

block_note <- function(row) {
  if (is.na(row$blocks)) return(NULL)
  "Values were reassigned within their block only."
}

run_note <- function(detail) {
  runs <- detail$runs
  if (is.null(runs)) return(NULL)
  paste0(
    sprintf(
      "Runs of %s neighbours were reassigned whole%s.", format_count(runs$length),
      if (runs$estimated) ", a length estimated from their correlation (after Bayley & Hammersley 1946)" else ""
    ),
    if (runs$left > 0) sprintf(" %s values fill no run and stay where they are.", format_count(runs$left)),
    if (runs$gaps > 0) sprintf(" No run reaches across one of the %s gaps in the order.", format_count(runs$gaps))
  )
}

# Neighbours that resemble each other.
series_note <- function(row, detail) {
  series <- detail$effective
  if (is.null(series)) return(NULL)
  text <- sprintf(
    "Serial correlation in declared order: %s. The %s values carry as much information as about %s independent ones.",
    format_number(series$r), format_count(series$n), format_count(round(series$effective_n))
  )
  if (!is.na(row$run_length)) return(text)
  paste(text, "Reassigning single values treats them as independent; run_length = \"estimate\" reassigns runs.")
}

open_decision_note <- function(row) {
  bracket <- c(row$p_bracket_low, row$p_bracket_high)
  drawn <- c(row$p_simulated_low, row$p_simulated_high)
  ends <- if (!is.na(bracket[[1]])) bracket else drawn
  if (anyNA(ends) || ends[[1]] > row$alpha || ends[[2]] <= row$alpha) return(NULL)
  sprintf(
    "Whether p is at most alpha %s is open: %s.", format_short(row$alpha),
    if (is.na(bracket[[1]])) "more draws, or exact = TRUE, would tell" else "exact = TRUE may tell"
  )
}

few_assignments_note <- function(row) {
  if (is.na(row$draws) || row$assignments > row$draws) return(NULL)
  sprintf("There are only %s assignments: exact = TRUE lists them all.", format_count(row$assignments))
}
