# Sentences about equivalence, other bounds, every method, and answers laid side by side.

#' @exportS3Method
tell.vandro_equivalence <- function(x, voice, decimals, ...) {
  if (voice == "claim") return(claim_sentences(x, decimals))
  difference <- difference_of(x)
  sizes <- narrate_outcomes(x, function(outcome) {
    decimals <- equivalence_decimals(outcome_rows(x, outcome, "primary"), outcome_decimals(outcome, decimals))
    size_sentence(difference, outcome, voice, decimals)
  }, instead = "")
  paste0(
    sizes, " ", equivalence_sentences(x, voice, decimals), dependence_sentences(x, voice), excluded_sentences(x),
    draws_sentence(x, voice)
  )
}

# Bounds, both sides and verdict of every outcome, for readers who know the size of the difference.
equivalence_sentences <- function(x, voice, decimals = NULL) {
  narrate_outcomes(x, function(outcome) {
    row <- outcome_rows(x, outcome, "primary")
    decimals <- equivalence_decimals(row, outcome_decimals(outcome, decimals))
    parts <- if (voice == "journal") {
      c(
        bounds_sentence(x, row, outcome, decimals), sides_sentence(x, row, outcome, decimals),
        standardized_sentence(row, x$study), verdict_sentence(row), other_verdicts_sentence(x, outcome)
      )
    } else {
      c(
        sprintf(
          "Differences from %s were declared to count as equivalent.", bound_range_rounded(row, outcome, decimals)
        ),
        plain_verdict(row)
      )
    }
    paste(parts, collapse = " ")
  }, beside = if (voice == "journal") function(outcome) other_verdicts_sentence(x, outcome))
}

bounds_sentence <- function(x, row, outcome, decimals) {
  reason <- x$settings$reason
  sprintf(
    "Equivalence bounds of %s were declared%s.", bounds_text(row, outcome, decimals),
    if (is.null(reason)) "" else sprintf(" (%s)", sub("[.]$", "", reason))
  )
}

# "The 90% CI [2.15, 4.76] lies within these bounds (two one-sided tests: above -5 cm ...; below 5 cm ...)."
sides_sentence <- function(x, row, outcome, decimals) {
  interval <- if (is_standardized(row)) {
    sprintf(
      "With %s = %s, the %s CI [%s%s %s] %s within these bounds", effect_names(row$d_estimand, x$study),
      format_number(row$d), format_percent(row$level), format_number(row$d_lower), limit_separator(),
      format_number(row$d_upper),
      if (row$p <= row$alpha) "lies" else "does not lie"
    )
  } else if (anyNA(c(row$lower, row$upper))) {
    sprintf("There is no finite %s CI to lie within them", format_percent(row$level))
  } else {
    sprintf(
      "The %s %s within these bounds", ci_words(row, decimals), if (row$p <= row$alpha) "lies" else "does not lie"
    )
  }
  sides <- vapply(c("low", "high"), function(side) statistic_text(side_row(x, row, side)), "")
  sprintf(
    "%s (two one-sided tests: above %s, %s; below %s, %s%s).", interval, bound_text(row, outcome, "low"), sides[[1]],
    bound_text(row, outcome, "high"), sides[[2]],
    if (is.na(row$p_adjusted)) "" else paste0("; the larger p adjusted ", format_p(row$p_adjusted))
  )
}

standardized_sentence <- function(row, study) {
  if (is.na(row$d)) return(NULL)
  if (is_standardized(row)) {
    if (row$verdict_sd_known == row$verdict) return(NULL)
    return(sprintf(
      "If the SD were known, which ignores its uncertainty, the verdict would be \"%s\" (%s).", row$verdict_sd_known,
      format_p(row$p_sd_known, alpha = row$alpha)
    ))
  }
  sprintf(
    "With the uncertainty of the SD, %s = %s, %s CI [%s%s %s], lies %s %s.",
    effect_names(row$d_estimand, study),
    format_number(row$d), format_percent(row$level), format_number(row$d_lower), limit_separator(),
    format_number(row$d_upper),
    if (row$d_inside) "within" else "not within", sd_bound_range(row)
  )
}

verdict_sentence <- function(row) sprintf("Verdict: %s (%s).", row$verdict, verdict_meaning(row))

other_verdicts_sentence <- function(x, outcome) {
  rows <- outcome_rows(x, outcome, "beside")
  if (nrow(rows) == 0) return(NULL)
  said <- paste(method_label(rows$method), ifelse(is.na(rows$verdict), "no result", sprintf("\"%s\"", rows$verdict)))
  sprintf("Other methods: %s.", paste(said, collapse = ", "))
}

plain_verdict <- function(row) {
  switch(row$verdict,
    equivalent = "The data show that the difference is smaller than that.",
    "different but within bounds" = paste(
      "There is a difference, and the data show that it is smaller than that."
    ),
    different = if (beyond_bound(row) != "none") {
      "There is a difference, and the data show that it is larger than that."
    } else {
      "There is a difference, and the data do not show that it is smaller than that."
    },
    inconclusive = paste(
      "The data settle neither whether there is a difference nor whether it is smaller than that; this is not",
      "evidence that the groups are equal."
    )
  )
}

#' @exportS3Method
tell.vandro_bounds <- function(x, voice, decimals, ...) {
  outcome <- x$study$outcomes[[1]]
  at <- x$table[x$table$standing == "declared", ]
  sprintf(
    "The declared bounds of %s gave the verdict \"%s\" (%s). In an exploratory look at other bounds, %s.",
    bounds_axis_text(at, outcome), at$verdict, format_p(at$p, alpha = at$alpha),
    turn_words(x, outcome, outcome_decimals(outcome, decimals))
  )
}

#' @exportS3Method
tell.vandro_cross_check <- function(x, voice, decimals, ...) {
  narrate_outcomes(x, function(outcome) {
    rows <- outcome_rows(x, outcome)
    primary <- rows[rows$role == "primary", ]
    depends <- length(unique(rows$verdict[rows$values == "all"])) > 1
    hangs <- hangs_words(x, outcome)
    if (voice == "plain") {
      return(sprintf(
        "%s: %s.", capital(outcome$label), if (depends) {
          sprintf("the conclusion depends on the method; the %s one stands", origin_label(x))
        } else {
          "all applicable methods lead to the same conclusion"
        }
      ))
    }
    paste0(
      sprintf(
        "The conclusion about %s %s. The %s method, %s, stands.",
        inside_sentence(outcome$label), depends_words(x, outcome), origin_label(x), method_label(primary$method)
      ),
      if (length(hangs)) sprintf(" The disagreement comes from %s.", paste(hangs, collapse = "; and from "))
    )
  }, instead = "")
}

#' @exportS3Method
tell.vandro_comparison <- function(x, voice, decimals, ...) {
  names <- x$settings$answers
  decimals <- comparison_decimals(x, decimals)
  lines <- lapply(split(x$table, factor(x$table$line, unique(x$table$line))), function(line) {
    if (!line$differs[[1]] || line$quantity[[1]] == "data") return(NULL)
    line <- line[match(names, line$answer), ]
    said <- comparison_text(line, decimals)
    # What one of them lacks, or what is the same when rounded, is for the table.
    if (anyNA(line$answer) || !all(nzchar(said)) || length(unique(said)) == 1) return(NULL)
    item <- line$item[[1]]
    what <- paste(c(gsub("_", " ", line$quantity[[1]]), if (!is.na(item)) {
      sprintf("(%s)", item_label(item))
    }), collapse = " ")
    sprintf("%s %s", what, paste(said, collapse = " against "))
  })
  lines <- unlist(lines)
  who <- capital(paste(names, collapse = " and "))
  if (length(lines)) {
    sprintf("%s differ in: %s.", who, paste(lines, collapse = "; "))
  } else if (any(x$table$differs)) {
    sprintf("%s are the same when rounded; the table shows where they differ.", who)
  } else {
    sprintf("%s do not differ.", who)
  }
}
