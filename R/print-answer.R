#' @rdname print.vandro_study
#' @export
print.vandro_answer <- function(x, ..., style = NULL) {
  style <- check_style(style)
  given <- rlang::list2(...)
  known <- c("decimals", "details", "width")
  if (!all(rlang::names2(given) %in% known)) refuse_more(..., known = c(known, "style"))
  emit(with_style(style, format(x, ...)))
  invisible(x)
}

#' @rdname print.vandro_study
#' @export
summary.vandro_answer <- function(object, ...) object

#' @rdname print.vandro_study
#' @export
format.vandro_difference <- function(x, ..., decimals = NULL, details = FALSE, width = cli::console_width()) {
  decimals <- check_decimals(decimals)
  if (in_one_table(x, check_flag(details))) {
    return(many_lines(
      x, "Differences", function(rows, records) many_difference_cells(rows, records, decimals), width,
      function(outcome) interval_notes(x, outcome, outcome_decimals(outcome, decimals))
    ))
  }
  blocks <- record_blocks(x, function(outcome) {
    row <- outcome_rows(x, outcome, "primary")
    decimals <- outcome_decimals(outcome, decimals)
    lines <- if (method_is(row, "ranks")) rank_lines else mean_lines
    c(
      heading_line(paste("Difference:", outcome_title(outcome)), row$comparison),
      lines(x, row, outcome, decimals, details, width),
      entries("Claim", claim_words(x$study), width),
      excluded_entry(x$study, outcome, width)
    )
  }, beside = function(outcome) {
    entries("Also run", beside_words(x, outcome, outcome_decimals(outcome, decimals)), width)
  })
  c(
    join_blocks(blocks),
    if (any(!is.na(x$table$p_adjusted))) text_entry("Adjusted", paste("by", adjust_phrase(x)), width),
    note_lines(x$study, width)
  )
}

# What a test of a difference has to say to a claim of sameness.
claim_words <- function(study) {
  if (!identical(study$claim, "same")) return(NULL)
  paste(
    "sameness. No test of a difference can support that, whatever its p. Declare the bounds within which a difference",
    "counts as none, before looking, and ask test_equivalence(study, within = )."
  )
}

mean_lines <- function(x, row, outcome, decimals, details, width) {
  if (method_is(row, "reassignment")) return(permutation_lines(x, row, outcome, decimals, details, width))
  raw <- raw_number(outcome, decimals)
  interval <- interval_words(row, with_unit(format_range(row$lower, row$upper, decimals), interval_unit(outcome)))
  c(
    text_entry("Difference", paste0(raw(row$estimate), ", ", interval), width),
    question_lines(x, row, outcome, raw, width, paste0("; SE ", raw(row$se))),
    entries("Also run", beside_words(x, outcome, decimals), width),
    entries("Note", interval_notes(x, outcome, decimals), width),
    text_table(group_cells(x$study, outcome, decimals)),
    pair_entry(outcome, width),
    if (details) detail_lines(row, outcome, x$study, width, text_entry("df", df_words(row), width))
  )
}

permutation_lines <- function(x, row, outcome, decimals, details, width) {
  raw <- raw_number(outcome, decimals)
  detail <- answer_detail(x, outcome, "permutation")
  interval <- permutation_interval_words(row, outcome, detail$widest, decimals)
  c(
    text_entry("Difference", paste0(
      raw(row$estimate), ", ", interval, permuted_estimate_words(row, x$study, detail)
    ), width),
    question_lines(x, row, outcome, raw, width),
    text_entry("Assignments", counted_words(row, detail, outcome, x$study), width),
    if (details || row$p_smallest > row$alpha) text_entry("Smallest p", smallest_words(row), width),
    entries("Also run", beside_words(x, outcome, decimals), width),
    entries("Note", interval_notes(x, outcome, decimals), width),
    entries("Note", permutation_notes(row, detail, x$study), width),
    text_table(group_cells(x$study, outcome, decimals)),
    pair_entry(outcome, width),
    if (details) {
      detail_lines(row, outcome, x$study, width, text_entry("Statistic", compared_words(row, x$study), width))
    }
  )
}

# What only `details = TRUE` prints: `more`, and the hypotheses.
detail_lines <- function(row, outcome, study, width, more = NULL) {
  hypotheses <- hypothesis_words(row, outcome, study)
  c(more, text_entry("H0", hypotheses[[1]], width), text_entry("H1", hypotheses[[2]], width))
}

# Bound, test with `more` behind it, margin and reason.
question_lines <- function(x, row, outcome, raw, width, more = NULL) {
  c(
    if (row$expect != "either" && !all(is.na(c(row$at_least, row$at_most)))) {
      text_entry("Bound", one_sided_bound_words(row, raw), width)
    },
    if (!is.na(row$joint_lower %||% NA)) {
      limits <- paste(raw(row$joint_lower), "to", raw(row$joint_upper))
      text_entry("Joint", paste0(limits, ", ", joint_interval_words(x)), width)
    },
    text_entry("Test", paste0(test_words(row), more), width),
    entries("Margin", margin_verdict(row, outcome, x$study), width),
    if (!is.null(x$settings$reason)) text_entry("Reason", x$settings$reason, width)
  )
}

rank_lines <- function(x, row, outcome, decimals, details, width) {
  detail <- answer_detail(x, outcome, "ranks")
  counted <- method_fact(row$method, "null_curve") == "counts"
  c(
    rank_estimate_entry(row, outcome, x$study, decimals, detail$widest, width),
    question_lines(x, row, outcome, row_number(row, outcome, decimals), width),
    if (row$method == "ranks" && row$estimand == "shift") {
      text_entry("Superiority", superiority_words(row, outcome, x$study), width)
    },
    entries("Also run", beside_words(x, outcome, decimals), width),
    entries("Note", interval_notes(x, outcome, decimals), width),
    entries("Note", rank_notes(row, detail, outcome, x$study, decimals), width),
    text_table(quartile_cells(detail, decimals)),
    pair_entry(outcome, width),
    if (details) {
      detail_lines(row, outcome, x$study, width, if (counted) {
        c(
          if (!is.na(row$level_true) && row$p_kind == "exact") {
            text_entry("CI level", sprintf("exactly %s", format_percent(round(row$level_true, 4))), width)
          },
          text_entry("Statistic", rank_sum_words(row, detail$largest, x$study), width),
          text_entry("Critical", critical_words(row), width)
        )
      })
    }
  )
}

# A difference on the scale of the outcome.
raw_number <- function(outcome, decimals) {
  function(x) with_unit(format_number(x, decimals), difference_unit(outcome))
}

group_cells <- function(study, outcome, decimals) {
  m <- outcome$moments
  groups <- c(study$groups, if (is_paired(study)) study_direction(study))
  known <- !is.na(vapply(m, `[[`, 0, "mean"))
  pick <- function(what) vapply(m[known], `[[`, 0, what)
  number <- function(what) format_each(pick(what), level_decimals_each(what, outcome, decimals)[which(known)])
  list(group = groups[known], n = format_count(pick("n")), mean = number("mean"), SD = number("sd"))
}

test_words <- function(row) {
  paste0(
    if (method_is(row, "ranks")) {
      rank_test_words(row)
    } else if (method_is(row, "reassignment")) {
      permutation_test_words(row)
    } else {
      sprintf(
        "%s = %s, %s, %s", t_words(row, method_label(row$method)), format_number(row$statistic),
        format_p(row$p, alpha = row$alpha), if (row$expect == "either") "two-sided" else "one-sided"
      )
    },
    if (!is.na(row$p_adjusted)) paste0("; adjusted for several outcomes ", format_p(row$p_adjusted))
  )
}

# "Welch t(44.5)", of a standardized difference "noncentral t(44.5)", or "z" where its interval is a normal one.
t_words <- function(row, whose) {
  if (row$statistic_name != "noncentral t") return(sprintf("%s t(%s)", whose, format_df(row$df)))
  if (is.na(row$df)) "z" else sprintf("noncentral t(%s)", format_df(row$df))
}

# Where the degrees of freedom come from.
df_words <- function(row) {
  fill_slots(
    method_fact(row$method, "df_text"),
    df = format_df(row$df), n_first = format_count(row$n_first), n_second = format_count(row$n_second)
  )
}

# H0 and H1 about the populations, with the groups' own names.
hypothesis_words <- function(row, outcome, study) {
  first <- study$groups[[1]]
  second <- study$groups[[2]]
  if (method_is(row, "ranks")) return(rank_hypotheses(row, outcome, study))
  if (method_is(row, "reassignment")) return(permutation_hypotheses(row, outcome, study))
  if (row$beyond != 0) return(margin_hypotheses(row, outcome, study))
  switch(row$expect,
    either = sprintf(
      "the population means of %s and %s are %s", first, second, c("equal", "not equal")
    ),
    sprintf(
      "the population mean of %s is %s than that of %s", first,
      paste0(c("not ", ""), row$expect), second
    )
  )
}

# Whether non-inferiority or superiority by a margin is shown; NULL where no margin was declared.
margin_verdict <- function(row, outcome, study) {
  if (row$expect == "either" || row$beyond == 0) return(NULL)
  margin <- with_unit(format_short(abs(row$beyond)), difference_unit(outcome))
  better <- row$expect
  worse <- if (better == "higher") "lower" else "higher"
  first <- study$groups[[1]]
  second <- study$groups[[2]]
  shown <- row$p <= row$alpha
  if (row$beyond < 0 && better == "higher" || row$beyond > 0 && better == "lower") {
    return(sprintf(
      "non-inferiority by a margin of %s is %s: %s %s %s than %s by %s or more", margin,
      if (shown) "shown" else "not shown", first, if (shown) "is not" else "may be", worse, second, margin
    ))
  }
  sprintf(
    "superiority by a margin of %s is %s: %s is %s%s than %s by more than %s", margin,
    if (shown) "shown" else "not shown", first, if (shown) "" else "not shown to be ", better, second, margin
  )
}

margin_hypotheses <- function(row, outcome, study) {
  beyond <- with_unit(format_short(row$beyond), difference_unit(outcome))
  claims <- switch(row$expect,
    either = c(beyond, paste("not", beyond)),
    higher = c(paste(beyond, "or less"), paste("more than", beyond)),
    lower = c(paste(beyond, "or more"), paste("less than", beyond))
  )
  sprintf("the difference of the population means, %s, is %s", study_direction(study), claims)
}

# The other methods asked for, and whether they would decide otherwise.
beside_words <- function(x, outcome, decimals) {
  primary <- outcome_rows(x, outcome, "primary")
  rows <- outcome_rows(x, outcome, "beside")
  vapply(seq_len(nrow(rows)), function(i) {
    row <- rows[i, ]
    if (is.na(row$p)) return(unanswered_words(row))
    same <- (row$p <= row$alpha) == (primary$p <= primary$alpha)
    sprintf(
      "%s; %s; %s", test_words(row), beside_interval(row, decimals),
      if (is.na(same)) {
        "the primary method has no result"
      } else if (same) {
        sprintf("same decision as %s at alpha %s", method_label(primary$method), format_short(row$alpha))
      } else {
        sprintf("other decision than %s at alpha %s", method_label(primary$method), format_short(row$alpha))
      }
    )
  }, "")
}

# "Mann-Whitney: no result, ..."
unanswered_words <- function(row) {
  sprintf("%s: no result%s", method_label(row$method), if (is.null(row$reason)) "" else paste0(", ", row$reason))
}

# The interval of a row beside, by what it is about.
beside_interval <- function(row, decimals) {
  what <- paste("interval of", estimand_fact(row$estimand, "interval_of"))
  if (anyNA(c(row$lower, row$upper))) return(paste("no", what))
  paste(what, format_range(row$lower, row$upper, row_decimals(row, decimals)))
}

one_sided_bound_words <- function(row, raw) {
  sure <- format_percent(1 - row$alpha)
  if (row$expect == "higher") {
    sprintf("at least %s (one-sided, %s)", raw(row$at_least), sure)
  } else {
    sprintf("at most %s (one-sided, %s)", raw(row$at_most), sure)
  }
}

# The difference went the other way than a directional question expected.
wrong_side <- function(row) {
  (row$expect == "higher" && side_of(row) < 0) || (row$expect == "lower" && side_of(row) > 0)
}

# What that means, in a sentence: against a margin the estimate may well have the expected direction.
wrong_side_sentence <- function(row, outcome) {
  ranked <- method_is(row, "ranks")
  if (row$beyond == 0) {
    what <- if (ranked) "The values tend" else "The difference is"
    return(paste(what, "in the opposite direction to that expected."))
  }
  margin <- with_unit(format_short(row$beyond), difference_unit(outcome))
  if (!in_outcome_unit(row)) return(sprintf("These samples do not go beyond the margin of %s.", margin))
  sprintf(
    "The estimated %s does not lie %s %s.", if (ranked) "shift" else "difference",
    if (row$expect == "higher") "above" else "below", margin
  )
}

# What a reader must know when interval and test are read side by side.
interval_notes <- function(x, outcome, decimals) {
  at <- which(is_row_of(x$table, outcome) & x$table$role == "primary")
  row <- x$table[at, ]
  matched <- lapply(x$detail$matched, `[[`, at)
  number <- row_number(row, outcome, decimals)
  c(
    unused_blocks_sentence(x$study, row$method), dependence_sentence(x, outcome),
    direction_notes(row, outcome, matched$p_two_sided, x$settings$reason),
    error_note(row, x$detail$true_size[[at]]),
    if (!anyNA(c(matched$matched_lower, matched$matched_upper))) matched_note(row, matched, number),
    if (!anyNA(c(row$lower, row$upper))) level_note(row, matched),
    if (!is.na(row$p_least) && format_p(row$p_least) != format_p(row$p_most)) {
      p <- bare_p(c(row$p_least, row$p_most))
      sprintf(
        "The published numbers are rounded: unrounded ones could have given any p-value from %s to %s.",
        p[[1]], p[[2]]
      )
    }
  )
}

# The interval that agrees with the test, where it is not the one shown.
matched_note <- function(row, matched, number) {
  level <- format_percent(matched$matched_level)
  limits <- c(number(matched$matched_lower), number(matched$matched_upper))
  alpha <- format_short(row$alpha)
  if (row$expect != "either") {
    return(sprintf(
      "The two-sided interval that agrees with this one-sided test at alpha %s is the %s one, %s to %s.", alpha,
      level, limits[[1]], limits[[2]]
    ))
  }
  if (abs(matched$matched_level - row$level) > 1e-9) {
    sprintf(
      "The interval that agrees with the test at alpha %s is the %s one, %s to %s.", alpha, level, limits[[1]],
      limits[[2]]
    )
  }
}

level_note <- function(row, matched) {
  if (method_is(row, "ranks") && abs(matched$matched_level - row$level) < 1e-9) return(NULL)
  excludes <- row$lower > null_of(row) || row$upper < null_of(row)
  significant <- row$p <= row$alpha
  if (excludes == significant || wrong_side(row)) return(NULL)
  sprintf(
    "The %s interval %s the null value while p is %s alpha: they answer at different levels.",
    format_percent(row$level), if (excludes) "excludes" else "contains", if (significant) "at most" else "above"
  )
}

# Student's test with spreads and sizes that spoil its level.
error_note <- function(row, true_size) {
  if (is.na(true_size) || (true_size <= 1.2 * row$alpha && true_size >= 0.8 * row$alpha)) return(NULL)
  sprintf(
    paste(
      "With the SDs observed and these sample sizes, Student's test would reject a true null hypothesis in %s of",
      "studies instead of %s. Welch's test does not assume equal variances."
    ),
    format_percent(round(true_size, 3)), format_percent(row$alpha)
  )
}

direction_notes <- function(row, outcome, two_sided, reason) {
  if (row$expect == "either") return(NULL)
  c(
    if (wrong_side(row)) {
      sprintf(
        paste(
          "%s The one-sided p-value is therefore above .5; half of the two-sided p-value (%s) answers the opposite",
          "question."
        ),
        wrong_side_sentence(row, outcome), bare_p(two_sided)
      )
    },
    if (is.null(reason)) {
      sprintf(
        paste(
          "No reason is on record for asking in one direction; readers who doubt it may take the two-sided",
          "test, %s."
        ),
        format_p(two_sided)
      )
    }
  )
}
