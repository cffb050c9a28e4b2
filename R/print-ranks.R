# Words for what rank methods find.

# Above 0: towards the first group being higher.
side_of <- function(row) {
  if (method_is(row, "ranks") && !is.na(row$z)) row$z else row$estimate - null_of(row)
}

# "Mann-Whitney U = 549", as a sentence or a table names the test.
rank_statistic <- function(row) {
  name <- method_fact(row$method, "test_label")
  if (is.na(row$statistic)) return(paste(name, "(complete separation)"))
  if (!is.na(row$df)) return(sprintf("%s t(%s) = %s", name, format_df(row$df), format_number(row$statistic)))
  value <- if (row$statistic_name == "t") format_number(row$statistic) else format_short(row$statistic)
  sprintf("%s %s = %s", name, row$statistic_name, value)
}

exact_where <- "(exact if both distributions are the same)"

# How p was found.
p_source <- function(row) {
  switch(row$p_kind,
    exact = if (estimand_scale(row) == "chance") gsub("[()]", "", exact_where) else "exact",
    bracketed = "bracketed",
    simulated = "simulated",
    if (row$statistic_name == "t") "t approximation" else "normal approximation"
  )
}

rank_test_words <- function(row) {
  sprintf(
    "%s, %s, %s, %s", rank_statistic(row), format_p(row$p, alpha = row$alpha), p_source(row),
    if (row$expect == "either") "two-sided" else "one-sided"
  )
}

# " by more than 5 cm", where the null value is not 0.
margin_text <- function(row, outcome) {
  if (row$beyond == 0) "" else paste(" by more than", with_unit(format_short(row$beyond), difference_unit(outcome)))
}

# What the estimate is, in words that cannot be taken for a difference of medians.
estimand_words <- function(row, outcome, study) {
  first <- study$groups[[1]]
  second <- study$groups[[2]]
  if (row$estimand == "superiority") {
    return(sprintf(
      "probability that a random value from %s is higher than one from %s%s, ties counted half", first, second,
      margin_text(row, outcome)
    ))
  }
  if (row$estimand == "rank_biserial") {
    return("rank sum of the positive changes minus that of the negative ones, as a share of both (Kerby 2014)")
  }
  if (row$method == "signed_ranks") return("median of all pairwise averages of changes, Hodges-Lehmann")
  sprintf("median of all differences between a value from %s and one from %s, Hodges-Lehmann", first, second)
}

rank_estimate_entry <- function(row, outcome, study, decimals, widest, width) {
  value <- row_number(row, outcome, decimals)(row$estimate)
  interval <- rank_interval_words(row, outcome, widest, decimals)
  text <- sprintf("%s, %s; %s", value, interval, estimand_words(row, outcome, study))
  text_entry(estimand_fact(row$estimand, "entry", study), text, width)
}

# "0.33: of 100 random pairs, ..."
superiority_words <- function(row, outcome, study) {
  sprintf(
    "%s: of 100 random pairs of values, %s is higher%s in about %.0f (ties counted half)",
    format_number(row$superiority, 3), study$groups[[1]], margin_text(row, outcome), 100 * row$superiority
  )
}

# Decimals and unit of a row's estimate and limits.
row_decimals <- function(row, decimals) {
  own <- scale_facts(estimand_scale(row), "decimals")
  ifelse(is.na(own), decimals, own)
}
row_unit <- function(row, outcome) if (in_outcome_unit(row)) difference_unit(outcome)

row_number <- function(row, outcome, decimals) {
  function(x) with_unit(format_number(x, row_decimals(row, decimals)), row_unit(row, outcome))
}

# The interval, or why there is none and which one could be had.
rank_interval_words <- function(row, outcome, widest, decimals) {
  decimals <- row_decimals(row, decimals)
  limits <- function(lower, upper) with_unit(format_range(lower, upper, decimals), row_unit(row, outcome))
  if (row$estimand == "rank_biserial" && is.na(row$lower)) return("no CI without single changes")
  if (anyNA(c(row$lower, row$upper))) return(no_interval_words(row, widest, "these sample sizes", limits))
  interval_words(row, limits(row$lower, row$upper))
}

# Both orders of the statistic, and what it counts.
rank_sum_words <- function(row, largest, study) {
  if (row$method == "signed_ranks") {
    return(sprintf(
      "W = %s for changes above %s, %s for changes below, of %s in all; z = %s", format_short(row$statistic),
      format_short(row$beyond), format_short(row$statistic_opposite), format_short(largest), format_number(row$z)
    ))
  }
  beyond <- if (row$beyond == 0) "" else sprintf(" (less %s)", format_short(row$beyond))
  sprintf(
    "U = %s of %s pairs with %s%s above %s, %s the other way round, ties counted half; z = %s",
    format_short(row$statistic), format_short(largest), study$groups[[1]], beyond, study$groups[[2]],
    format_short(row$statistic_opposite), format_number(row$z)
  )
}

# The limits that belong to alpha and direction, their true tails, and on which side the statistic lies.
critical_words <- function(row) {
  name <- row$statistic_name
  sides <- c(
    if (!is.na(row$critical_low)) limit_text("at most", row$critical_low, row$tail_low),
    if (!is.na(row$critical_high)) limit_text("at least", row$critical_high, row$tail_high)
  )
  per_side <- if (row$expect == "either") row$alpha / 2 else row$alpha
  asked <- sprintf(
    "alpha %s, %s", format_short(row$alpha), if (row$expect == "either") "half in each tail" else "one-sided"
  )
  if (length(sides) == 0) {
    return(sprintf("none: no value of %s has a tail of %s or less (%s)", name, format_short(per_side), asked))
  }
  place <- if (!is.na(row$critical_low) && row$statistic <= row$critical_low) {
    "outside, beyond the lower limit"
  } else if (!is.na(row$critical_high) && row$statistic >= row$critical_high) {
    "outside, beyond the upper limit"
  } else if (length(sides) == 2) {
    "inside the limits"
  } else {
    "inside: the limit is not reached"
  }
  sprintf("%s %s; %s: %s lies %s", name, paste(sides, collapse = " or "), asked, format_short(row$statistic), place)
}

limit_text <- function(side, limit, tail) sprintf("%s %s (tail %s)", side, format_short(limit), tail_text(tail))

rank_hypotheses <- function(row, outcome, study) {
  first <- study$groups[[1]]
  second <- study$groups[[2]]
  beyond <- with_unit(format_short(row$beyond), difference_unit(outcome))
  moved <- if (row$beyond == 0) first else sprintf("%s less %s", first, beyond)
  if (row$method == "signed_ranks") {
    claims <- switch(row$expect,
      either = c("", "not "),
      higher = c("or below ", "above "),
      lower = c("or above ", "below ")
    )
    h0 <- sprintf("the changes, %s, are spread symmetrically about %s", study_direction(study), beyond)
    h1 <- switch(row$expect,
      either = sprintf("their centre is not %s", beyond),
      sprintf("their centre is %s%s", claims[[2]], beyond)
    )
    return(c(h0, h1))
  }
  if (row$method == "relative") {
    claims <- switch(row$expect,
      either = c("is", "is not"),
      higher = c("is at most", "is above"),
      lower = c("is at least", "is below")
    )
    chance <- sprintf("the probability that a value of %s is higher than one of %s (ties counted half)", moved, second)
    # Assignments have the p-value of equal distributions.
    if (row$p_kind != "asymptotic") {
      return(c(
        sprintf("the populations of %s and %s have the same distribution", moved, second),
        paste(chance, claims[[2]], "0.5")
      ))
    }
    return(paste(chance, claims, "0.5"))
  }
  c(
    sprintf("the populations of %s and %s have the same distribution", moved, second),
    switch(row$expect,
      either = "values of one of them tend to be higher",
      sprintf("values of %s tend to be %s than those of %s", moved, row$expect, second)
    )
  )
}

# What a reader must know about these ranks.
rank_notes <- function(row, detail, outcome, study, decimals) {
  number <- row_number(row, outcome, decimals)
  c(
    zero_note(row), tie_note(row, detail), if (isTRUE(detail$separated)) separated_note(row, outcome, study),
    simulated_note(row, detail),
    if (!is.na(row$open_end)) {
      sprintf(
        paste(
          "The null value %s is the %s limit of the interval, but the test, with ties at just this value, rejects",
          "it: the interval is open at that end."
        ),
        number(row$beyond), row$open_end
      )
    },
    if (row$statistic_name == "t" && row$p_kind != "asymptotic") {
      paste(
        "The p-value comes from assignments, which are equally likely if both populations have the same distribution.",
        "As a test of a probability of 0.5 it is an approximation that can err in small groups with unequal variances."
      )
    },
    if (!is.na(row$p_smallest) && row$p_smallest > row$alpha) {
      sprintf(
        "With these sizes p cannot get below %s: at alpha %s this test can decide nothing.",
        format_short(signif(row$p_smallest, 3)), format_short(row$alpha)
      )
    },
    if (row$method == "relative" && (row$p <= row$alpha) == (row$lower <= 0.5 && row$upper >= 0.5)) {
      "Interval and test may part ways near the border: the interval is made on the logit scale, the test is not."
    }
  )
}

zero_note <- function(row) {
  if (is.na(row$zeros) || row$zeros == 0) return(NULL)
  what <- if (row$beyond == 0) "no change" else paste("a change of just", format_short(row$beyond))
  count <- sprintf("%s %s", format_count(row$zeros), if (row$zeros == 1) "pair has" else "pairs have")
  if (row$zeros_kept) {
    sprintf("%s %s: ranked lowest, then excluded from W (Pratt 1959).", count, what)
  } else {
    sprintf("%s %s and %s excluded from W.", count, what, if (row$zeros == 1) "is" else "are")
  }
}

tie_note <- function(row, detail) {
  if (is.null(detail$tied) || detail$tied == 0) return(NULL)
  how <- switch(row$p_kind,
    exact = "the exact distribution is that of these ties",
    simulated = "the assignments keep them",
    if (row$statistic_name == "t") "the variances take account of them" else "the variance is corrected for them"
  )
  sprintf("%s values share their rank with another one; %s.", format_count(detail$tied), how)
}

separated_note <- function(row, outcome, study) {
  if (row$method == "signed_ranks") {
    side <- if (row$statistic == 0) "below" else "above"
    null <- with_unit(format_short(row$beyond), difference_unit(outcome))
    what <- if (row$zeros > 0) sprintf("every change other than %s", null) else "every change"
    return(sprintf("Complete separation: %s is %s %s.", what, side, null))
  }
  up <- if (row$method == "ranks") row$statistic > 0 else row$estimate == 1
  higher <- study$groups[[if (up) 1 else 2]]
  if (row$method == "ranks") {
    less <- sprintf(" (%s less %s)", study$groups[[1]], with_unit(format_short(row$beyond), difference_unit(outcome)))
    return(sprintf(
      "Complete separation: every value of %s is the higher one%s.", higher, if (row$beyond == 0) "" else less
    ))
  }
  sprintf(
    paste(
      "Every value of %s is the higher one: there is no spread for a t. p is that of the one assignment as",
      "extreme as this one; the limit away from the end is that of %s pairs without a common member, all going",
      "the same way (Clopper & Pearson 1934)."
    ),
    higher, format_count(min(row$n_first, row$n_second))
  )
}

simulated_note <- function(row, detail) {
  if (row$p_kind == "simulated") {
    return(sprintf(
      "p from %s random assignments, seed %s; with 95%% confidence the p-value of all assignments is %s.",
      format_count(detail$assignments), format_count(detail$seed), simulated_limits(row)
    ))
  }
  if (row$method == "relative" && row$p_kind == "exact" && !isTRUE(detail$separated)) {
    sprintf("p from all %s assignments of the values to the groups.", format_count(detail$assignments))
  }
}

# Size, quartiles and median of both groups (or halves and changes), for description only.
quartile_cells <- function(detail, decimals) {
  quarters <- detail$quartiles
  number <- function(at) vapply(quarters, function(q) format_number(q$values[[at]], decimals), "")
  list(
    group = vapply(quarters, `[[`, "", "group"), n = vapply(quarters, function(q) format_count(q$n), ""),
    q1 = number(1), median = number(2), q3 = number(3)
  )
}
