# Words for equivalence: the two sides, the verdict and what it means.

#' @rdname print.vandro_study
#' @export
format.vandro_equivalence <- function(x, ..., decimals = NULL, details = FALSE, width = cli::console_width()) {
  decimals <- check_decimals(decimals)
  if (in_one_table(x, check_flag(details))) {
    return(many_lines(
      x, "Equivalence", function(rows, records) many_equivalence_cells(rows, records, decimals), width,
      function(outcome) equivalence_notes(x, outcome_rows(x, outcome, "primary"), outcome)
    ))
  }
  blocks <- record_blocks(x, function(outcome) {
    row <- outcome_rows(x, outcome, "primary")
    c(
      heading_line(paste("Equivalence:", outcome_title(outcome)), row$comparison),
      equivalence_lines(x, row, outcome, equivalence_decimals(row, outcome_decimals(outcome, decimals)), width),
      excluded_entry(x$study, outcome, width)
    )
  }, beside = function(outcome) {
    entries("Also run", equivalence_beside_words(x, outcome, outcome_decimals(outcome, decimals)), width)
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

equivalence_lines <- function(x, row, outcome, decimals, width) {
  raw <- raw_number(outcome, decimals)
  reason <- x$settings$reason
  c(
    text_entry("Verdict", paste0(capital(row$verdict), ": ", verdict_meaning(row)), width),
    text_entry(estimate_label(row, x$study), paste0(
      raw(row$estimate), ", ", equivalence_interval_words(row, outcome, decimals)
    ), width),
    text_entry("Bounds", bounds_text(row, outcome, decimals), width),
    if (!is.null(reason)) text_entry("Reason", reason, width),
    text_entry("Lower side", side_entry_words(x, row, outcome, "low"), width),
    text_entry("Upper side", side_entry_words(x, row, outcome, "high"), width),
    text_entry("Against 0", zero_words(x, row, outcome, decimals), width),
    text_entry("Tightest", tightest_words(row, outcome, decimals), width),
    if (!is.na(row$d)) text_entry("In SDs", standardized_words(row, x$study), width),
    if (!is.na(row$p_sd_known)) text_entry("Known SD", known_sd_words(row), width),
    entries("Also run", equivalence_beside_words(x, outcome, decimals), width),
    entries("Note", equivalence_notes(x, row, outcome), width),
    text_table(group_cells(x$study, outcome, decimals)),
    pair_entry(outcome, width)
  )
}

estimate_label <- function(row, study) {
  estimand_fact(row$estimand, "entry", study)
}

# As many decimals as keep the limits on their side of the bounds: 2.004 beyond a bound of 2 must not read 2.00.
equivalence_decimals <- function(row, decimals) {
  limits <- c(row$lower, row$upper)
  bounds <- c(row$bound_low, row$bound_high)
  apart <- function(decimals) all(sign(round(limits, decimals) - bounds) == sign(limits - bounds))
  if (anyNA(limits)) return(decimals)
  more <- decimals
  while (more < decimals + 6 && !apart(more)) more <- more + 1L
  if (apart(more)) more else decimals
}

equivalence_interval_words <- function(row, outcome, decimals) {
  level <- format_percent(row$level)
  number <- raw_number(outcome, decimals)
  if (anyNA(c(row$lower, row$upper))) {
    ends <- c(
      if (!is.na(row$lower)) paste("from", number(row$lower)), if (!is.na(row$upper)) paste("to", number(row$upper))
    )
    half <- if (length(ends)) sprintf("; one side only: %s", ends) else ""
    return(sprintf("no finite %s CI with these sample sizes%s", level, half))
  }
  open <- c(
    if (isTRUE(row$open_low)) "lower limit excluded", if (isTRUE(row$open_high)) "upper limit excluded"
  )
  open <- if (length(open)) sprintf(" (%s)", paste(open, collapse = "; ")) else ""
  paste0(interval_words(row, with_unit(format_range(row$lower, row$upper, decimals), interval_unit(outcome))), open)
}

# "-0.5 to 0.5 SD (average SD of both groups, 2.67 cm): -1.33 to 1.33 cm"
bounds_text <- function(row, outcome, decimals) {
  if (row$bounds_in == "outcome") return(bound_range(row, outcome))
  sprintf(
    "%s SD (%s, %s): %s", sd_bound_range(row), row$standardizer,
    with_unit(format_number(row$sd_value, decimals), difference_unit(outcome)),
    with_unit(format_range(row$bound_low, row$bound_high, decimals), difference_unit(outcome))
  )
}

# The bounds as declared, in the unit of the outcome.
bound_range <- function(row, outcome) {
  with_unit(paste(format_short(row$bound_low), "to", format_short(row$bound_high)), difference_unit(outcome))
}

# The same in the unit of the outcome, also where they were declared in SD units.
bound_range_rounded <- function(row, outcome, decimals) {
  if (row$bounds_in == "outcome") return(bound_range(row, outcome))
  with_unit(format_range(row$bound_low, row$bound_high, decimals), difference_unit(outcome))
}

sd_bound_range <- function(row) {
  paste(format_short(signif(c(row$bound_low, row$bound_high) / row$sd_value, 12)), collapse = " to ")
}

# Whether the standardized difference decides about the bounds.
is_standardized <- function(row) !is.na(row$p_sd_known)

# A bound as it reads beside the numbers of the result.
bound_text <- function(row, outcome, side) {
  if (is_standardized(row)) {
    return(paste(format_short(signif(row[[paste0("bound_", side)]] / row$sd_value, 12)), "SD"))
  }
  bound <- if (side == "low") row$bound_low else row$bound_high
  text <- if (row$bounds_in == "sd") format_number(bound, outcome_decimals(outcome)) else format_short(bound)
  with_unit(text, difference_unit(outcome))
}

place_of <- function(x, row) {
  at <- x$table$outcome == row$outcome & x$table$method == row$method
  which(if (is.null(row$subgroup)) at else at & x$table$subgroup == row$subgroup)
}

# The test of one side as a row of test_difference(), so that it reads as such rows do.
side_row <- function(x, row, side) {
  at <- place_of(x, row)
  base <- column_row(x$detail$inferred$columns, at)
  found <- x$detail$sides[[at]][[side]]
  base$expect <- if (side == "low") "higher" else "lower"
  base$beyond <- if (side == "low") row$bound_low else row$bound_high
  base$p_adjusted <- NA_real_
  base$p_kind <- found$kind %||% base$p_kind
  base[c("statistic", "p", "log_p")] <- found[c("statistic", "p", "log_p")]
  if (!is.null(found$draws)) base$draws <- found$draws
  if (is_standardized(row)) base[c("df", "statistic_name")] <- list(found$df, "noncentral t")
  base
}

zero_row <- function(x, row) {
  at <- place_of(x, row)
  c(column_row(x$detail$inferred$columns, at), list(p_adjusted = NA_real_))
}

side_entry_words <- function(x, row, outcome, side) {
  governs <- row$governing == side
  paste0(
    sprintf(
      "%s %s: %s", if (side == "low") "above" else "below", bound_text(row, outcome, side),
      test_words(side_row(x, row, side))
    ),
    if (governs) "; the larger p-value, which decides",
    if (governs && !is.na(row$p_adjusted)) paste0("; adjusted for several outcomes ", format_p(row$p_adjusted))
  )
}

zero_words <- function(x, row, outcome, decimals) {
  interval <- if (anyNA(c(row$difference_lower, row$difference_upper))) {
    "CI not finite"
  } else {
    paste("CI", with_unit(format_range(row$difference_lower, row$difference_upper, decimals), interval_unit(outcome)))
  }
  zero <- zero_row(x, row)
  open <- if (is.null(zero$open_end) || is.na(zero$open_end)) "" else sprintf(" (%s limit excluded)", zero$open_end)
  sprintf("%s; %s %s%s", test_words(zero), format_percent(1 - row$alpha), interval, open)
}

# Beyond which bound the interval that decides lies.
beyond_bound <- function(row) {
  ends <- if (is_standardized(row)) c(row$d_lower, row$d_upper) * row$sd_value else c(row$lower, row$upper)
  if (isTRUE(ends[[1]] > row$bound_high)) return("upper")
  if (isTRUE(ends[[2]] < row$bound_low)) "lower" else "none"
}

# What a verdict means, in one line; the same words wherever it is shown.
verdict_meaning <- function(row) {
  switch(row$verdict,
    equivalent = "the difference lies within the bounds; a difference of 0 is not ruled out",
    "different but within bounds" = "there is a difference, and it lies within the bounds",
    different = switch(beyond_bound(row),
      none = "there is a difference, which is not shown to lie within the bounds",
      sprintf("there is a difference, and it lies beyond the %s bound", beyond_bound(row))
    ),
    inconclusive = paste(
      "neither a difference nor equivalence is shown; the data are compatible with 0 and with differences beyond a",
      "bound"
    )
  )
}

# Rounded up: the bound that is printed must hold.
tightest_words <- function(row, outcome, decimals) {
  if (is.na(row$tightest)) return("equivalence cannot be shown with any bounds, because the CI is not finite")
  up <- round_up(row$tightest, decimals)
  bound <- with_unit(format_number(up, decimals), difference_unit(outcome))
  sds <- if (!is.na(row$sd_value)) {
    sprintf(" (%s SD)", format_number(ceiling(1e3 * row$tightest / row$sd_value) / 1e3, 3))
  }
  # The limit of a counted interval is itself not rejected, as a rule.
  text <- if (counts_values(row)) {
    sprintf("wider than \u00b1%s%s", bound, sds %||% "")
  } else {
    sprintf("of \u00b1%s%s or wider", bound, sds %||% "")
  }
  sprintf("equivalence is shown with bounds %s; bounds chosen after looking are exploratory", text)
}

standardized_words <- function(row, study) {
  if (is_standardized(row)) {
    return(sprintf(
      "%s = %s, %s CI %s: %s %s. This interval decides about the bounds", effect_names(row$d_estimand, study),
      format_number(row$d), format_percent(row$level), format_range(row$d_lower, row$d_upper),
      if (row$d_inside) "within" else "not within", sd_bound_range(row)
    ))
  }
  sprintf(
    paste(
      "%s = %s, %s CI %s: %s %s. The test assumes that the SD is known; this interval does not, and may lead to",
      "another verdict%s"
    ),
    effect_names(row$d_estimand, study), format_number(row$d), format_percent(row$level),
    format_range(row$d_lower, row$d_upper), if (row$d_inside) "within" else "not within", sd_bound_range(row),
    if (row$d_inside == (row$p <= row$alpha)) "" else ", as it does here"
  )
}

# The reading that ignores the uncertainty of the SD, named as such.
known_sd_words <- function(row) {
  sprintf(
    "if the SD were known, the larger p-value would be %s and the verdict \"%s\"; this ignores the SD's uncertainty",
    sub("^p ?=? ?", "", format_p(row$p_sd_known)), row$verdict_sd_known
  )
}

equivalence_beside_words <- function(x, outcome, decimals) {
  primary <- outcome_rows(x, outcome, "primary")
  rows <- outcome_rows(x, outcome, "beside")
  vapply(seq_len(nrow(rows)), function(i) {
    row <- rows[i, ]
    if (is.na(row$verdict)) return(unanswered_words(row))
    side <- test_words(side_row(x, row, row$governing))
    same <- if (is.na(primary$verdict)) {
      sprintf("verdict \"%s\"; the primary method has no result", row$verdict)
    } else if (row$verdict == primary$verdict) {
      "the same verdict"
    } else {
      sprintf("another verdict than %s: \"%s\"", method_label(primary$method), row$verdict)
    }
    sprintf("%s (the larger p-value); %s; %s", side, beside_interval(row, decimals), same)
  }, "")
}

equivalence_notes <- function(x, row, outcome) {
  c(
    if (is.null(x$settings$reason)) "No reason for these bounds was given.",
    unused_blocks_sentence(x$study, row$method), dependence_sentence(x, outcome),
    wide_bounds_note(row, outcome, x$study), rounding_verdict_note(row),
    counted_verdict_notes(x, row, outcome),
    if (!is.na(row$p_adjusted) && row$p_adjusted > row$alpha && row$p <= row$alpha) {
      sprintf(
        paste(
          "The verdict uses the p-value adjusted for several outcomes, which is above alpha %s. The interval is that",
          "of this outcome alone."
        ),
        format_short(row$alpha)
      )
    }
  )
}

# Bounds that no difference within the data could reach.
wide_bounds_note <- function(row, outcome, study) {
  m <- outcome$moments
  ends <- if (is_paired(study)) c(m[[3]]$min, m[[3]]$max) else c(m[[1]]$min, m[[1]]$max, m[[2]]$min, m[[2]]$max)
  if (anyNA(ends)) return(NULL)
  reach <- if (is_paired(study)) max(abs(ends)) else max(ends) - min(ends)
  if (max(-row$bound_low, row$bound_high) <= reach) return(NULL)
  number <- raw_number(outcome, outcome_decimals(outcome))
  what <- if (is_paired(study)) "the largest single change is" else "all values together span"
  sprintf("The bounds reach beyond the data: %s %s. Hardly any result could lie outside them.", what, number(reach))
}

rounding_verdict_note <- function(row) {
  if (is.na(row$p_least) || format_p(row$p_least) == format_p(row$p_most)) return(NULL)
  p <- bare_p(c(row$p_least, row$p_most))
  sprintf(
    "The published numbers are rounded: unrounded ones could have given any p-value of both tests from %s to %s%s.",
    p[[1]],
    p[[2]], if (row$p_least <= row$alpha && row$p_most > row$alpha) ", and so another verdict" else ""
  )
}

counted_verdict_notes <- function(x, row, outcome) {
  if (row$method == "ranks") {
    return(paste(
      "The bounds refer to the shift, the distance between two distributions of the same shape."
    ))
  }
  if (row$method == "signed_ranks") {
    return(c(
      "The bounds refer to the centre of a symmetric distribution of changes.",
      bound_zeros_note(x$detail$sides[[place_of(x, row)]])
    ))
  }
  if (!method_is(row, "reassignment")) return(NULL)
  at <- place_of(x, row)
  # Columns of the side that decides, and the reassignment of the values themselves.
  decided <- utils::modifyList(side_row(x, row, row$governing), as.list(row[c(
    "counted_by", "assignments", "draws", "p_bracket_low", "p_bracket_high", "p_simulated_low", "p_simulated_high",
    "undecided"
  )]))
  detail <- x$detail$permutation[[at]]
  c(
    paste0("Counted: ", counted_words(decided, detail, outcome, x$study), "."),
    permutation_notes(decided, detail, x$study)
  )
}

# Changes that lie just on a bound are the zeros of the test against it.
bound_zeros_note <- function(sides) {
  zeros <- c(lower = sides$low$zeros, upper = sides$high$zeros)
  if (!any(zeros > 0)) return(NULL)
  on <- sprintf("%s on the %s bound", format_count(zeros), names(zeros))[zeros > 0]
  what <- if (sides$low$zeros_kept) {
    "ranked lowest, then excluded from the W of that side (Pratt 1959)"
  } else {
    "excluded from the W of the test against that bound"
  }
  sprintf("Changes exactly %s: %s.", paste(on, collapse = " and "), what)
}

# --- other bounds -----------------------------------------------------------------------------------

#' @rdname print.vandro_study
#' @export
format.vandro_bounds <- function(x, ..., decimals = NULL, width = cli::console_width()) {
  outcome <- x$study$outcomes[[1]]
  decimals <- outcome_decimals(outcome, check_decimals(decimals))
  cells <- other_bounds_cells(x, decimals)
  c(
    heading_line(paste("Other bounds:", outcome_title(outcome)), x$table$comparison[[1]]), text_table(cells),
    text_entry("Shown", sprintf("%s of %s pairs of bounds", length(cells$p), nrow(x$table)), width),
    text_entry("Method", method_label(x$table$method[[1]]), width),
    text_entry("Turns", turn_words(x, outcome, decimals), width),
    text_entry("Note", exploratory_note, width)
  )
}

other_bounds_cells <- function(x, decimals) {
  shown <- x$table[shown_bounds(x$table), ]
  list(
    from = format_number(shown$bound_low, decimals), to = format_number(shown$bound_high, decimals),
    p = bare_p(shown$p, alpha = shown$alpha), verdict = shown$verdict, standing = shown$standing
  )
}

exploratory_note <- paste(
  "Only the declared bounds were set before looking. The others are exploratory: they show how the verdict depends on",
  "the bounds, and support no claim of their own."
)

# Where the verdict turns, for bounds in the proportion of the declared ones.
turn_words <- function(x, outcome, decimals) {
  turn <- x$detail$turn
  if (is.na(turn)) return("equivalence cannot be shown with any bounds, because the CI is not finite")
  at <- x$table[x$table$standing == "declared", ]
  up <- round_up(turn * c(-at$bound_low, at$bound_high), decimals)
  sprintf(
    "equivalence is shown with bounds of %s or wider (%s times the declared bounds)",
    with_unit(format_range(-up[[1]], up[[2]], decimals), difference_unit(outcome)), format_number(turn)
  )
}

# At most a dozen rows: evenly spaced ones, the declared ones, and those on either side of a turn.
shown_bounds <- function(table, most = 12) {
  size <- nrow(table)
  if (size <= most) return(seq_len(size))
  turns <- which(table$verdict[-1] != table$verdict[-size])
  even <- round(seq(1, size, length.out = 7))
  sort(unique(c(even, turns, turns + 1, which(table$standing == "declared"))))
}
