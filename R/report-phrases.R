# Phrases that the sentences of several answers share.

ci_words <- function(row, decimals = style_rule("decimals")) {
  sprintf("%s CI %s", format_percent(row$level), bracketed_limits(decimals)(row$lower, row$upper))
}

# "[1.89, 5.02]"
bracketed_limits <- function(decimals) {
  function(lower, upper) {
    sprintf("[%s%s %s]", format_number(lower, decimals), limit_separator(), format_number(upper, decimals))
  }
}

# No leading zero in numbers that cannot exceed 1, as for p.
drop_leading_zero <- function(text) {
  if (style_rule("leading_zero")) return(text)
  gsub("(^|[^0-9.,])0([.,])(?=[0-9])", "\\1\\2", text, perl = TRUE)
}

# "exact p = .005"
p_words <- function(row) {
  p <- sided_p(row)
  # Assignments are equally likely only where both distributions are the same, which is more than a chance of one half.
  if (row$p_kind == "exact" && estimand_scale(row) == "chance") return(paste(p, exact_where))
  switch(row$p_kind, exact = paste("exact", p), simulated = paste("simulated", p), bracketed = paste("bracketed", p), p)
}

# "one-sided p = .012"
sided_p <- function(row) paste0(if (isTRUE(row$expect != "either")) "one-sided ", format_p(row$p, alpha = row$alpha))

# Of several outcomes the adjusted p decides.
decided_p <- function(row) if (is.na(row$p_adjusted)) row$p else row$p_adjusted

adjusted_reading <- function(row, outcome) {
  sprintf(
    "After adjustment for the other outcomes, the p-value is above alpha %s; this is not evidence %s.",
    alpha_text(row$alpha),
    null_claim(row, outcome)
  )
}

alpha_text <- function(alpha) drop_leading_zero(format_short(alpha))

# What a large p must not be taken for.
null_claim <- function(row, outcome) {
  if (row$beyond == 0) return("that the groups are equal")
  limit <- switch(row$expect, either = "", higher = " or less", lower = " or more")
  paste0("that the difference is ", with_unit(format_short(row$beyond), difference_unit(outcome)), limit)
}

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

# "a mean from 2.12 cm lower to 1.98 cm higher in compost than in peat"
compatible_words <- function(row, outcome, study, decimals) {
  side <- function(x) if (x < 0) "lower" else "higher"
  number <- function(x) format_number(abs(x), decimals)
  unit <- if (is.null(outcome$unit)) "" else paste0(" ", difference_unit(outcome))
  what <- estimand_fact(row$estimand, "centre")
  if (side(row$lower) == side(row$upper)) {
    ends <- sort(abs(c(row$lower, row$upper)))
    return(sprintf(
      "%s %s to %s%s %s %s than %s", what, number(ends[[1]]), number(ends[[2]]), unit,
      side(row$lower), at_group(study, 1), at_group(study, 2)
    ))
  }
  sprintf(
    "%s from %s%s lower to %s%s higher %s than %s", what, number(row$lower), unit,
    number(row$upper), unit, at_group(study, 1), at_group(study, 2)
  )
}

# "Welch's t(44.5) = 4.45, p < .001"
statistic_text <- function(row) {
  if (method_is(row, "ranks")) {
    return(paste0(rank_statistic(row), ", ", p_words(row)))
  }
  if (method_is(row, "reassignment")) return(permutation_text(row))
  sprintf(
    "%s = %s, %s", t_words(row, method_fact(row$method, "possessive")), format_number(row$statistic), sided_p(row)
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
    "permutation test %s%s, %s", of, if (length(within)) sprintf(" (%s)", paste(within, collapse = ", ")) else "",
    p_words(row)
  )
}

asked_sentence <- function(row, outcome, study) {
  if (row$expect == "either") {
    return(sprintf(
      "The difference was tested against %s.", with_unit(format_short(row$beyond), difference_unit(outcome))
    ))
  }
  sprintf(
    "The question was directional: whether %s %s.", if (method_is(row, "ranks")) "values tend to be" else "the mean is",
    directed_words(row, outcome, study)
  )
}

# "higher in the compost group than in the peat group by more than 1 cm"
directed_words <- function(row, outcome, study) {
  expected <- if (row$expect == "higher") 1 else 2
  sprintf(
    "higher %s than %s%s", at_group(study, expected), at_group(study, 3 - expected), margin_words(row, outcome)
  )
}

# " by more than 1 cm", seen from the group that was expected to be higher.
margin_words <- function(row, outcome) {
  margin <- if (row$expect == "higher") row$beyond else -row$beyond
  if (margin == 0) return("")
  text <- with_unit(format_short(abs(margin)), difference_unit(outcome))
  if (margin > 0) paste(" by more than", text) else paste(", or lower by less than", text)
}

group_words <- function(outcome, study, which, decimals, name = study$groups[[which]]) {
  numbers <- group_numbers(outcome, study, which, decimals)
  if (is.null(numbers)) name else sprintf("%s (%s)", name, numbers)
}

# "n = 24, M = 22.32, SD = 2.86"; NULL where the mean is not known.
group_numbers <- function(outcome, study, which, decimals) {
  m <- outcome$moments[[which]]
  if (is.na(m$mean)) return(NULL)
  paste(c(
    if (!is_paired(study)) paste("n =", format_count(m$n)),
    paste("M =", format_number(m$mean, level_decimals("mean", outcome, decimals))),
    if (!is.na(m$sd)) paste("SD =", format_number(m$sd, level_decimals("sd", outcome, decimals)))
  ), collapse = ", ")
}

# Why there is no interval, before "for a 95% interval".
interval_lacks <- function(row) {
  if (in_outcome_unit(row)) "There are too few values" else "Single changes would be needed"
}

same_needs_bounds <-
  "That the groups are the same is a claim that no test of a difference can support; it needs declared bounds."
