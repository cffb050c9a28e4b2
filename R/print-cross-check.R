# Words for a conclusion seen by every method, and for answers laid side by side.

#' @rdname print.vandro_study
#' @export
format.vandro_cross_check <- function(x, ..., decimals = NULL, width = cli::console_width()) {
  decimals <- check_decimals(decimals)
  blocks <- record_blocks(x, function(outcome) {
    rows <- outcome_rows(x, outcome)
    decimals <- outcome_decimals(outcome, decimals)
    c(
      heading_line(paste("Cross-check:", outcome_title(outcome)), rows$comparison[[1]]),
      text_entry("Conclusion", depends_words(x, outcome), width),
      entries("Because of", hangs_words(x, outcome), width),
      text_table(cross_cells(rows, decimals, origin_label(x)), width = width),
      text_entry("Question", cross_question_words(x, rows, outcome), width),
      text_entry(capital(origin_label(x)), declared_words(rows), width),
      if (is.null(rows$bound_low)) entries("Claim", claim_words(x$study), width),
      entries("No answer", refused_words(x, outcome), width),
      entries("Note", cross_notes(x, rows, outcome), width),
      excluded_entry(x$study, outcome, width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

# "is the difference other than 0? two-sided in every row; 95% intervals"
cross_question_words <- function(x, rows, outcome) {
  row <- rows[1, ]
  level <- format_percent(row$level)
  if (!is.null(row$bound_low)) {
    row$bounds_in <- x$settings$bounds_in
    return(sprintf(
      "is the difference within %s? the larger p of both sides in every row; %s intervals",
      bound_range_rounded(row, outcome, outcome_decimals(outcome)), level
    ))
  }
  beyond <- with_unit(format_short(row$beyond), if (row$beyond != 0) difference_unit(outcome))
  sprintf(
    "is the difference %s %s? %s in every row; %s intervals",
    c(either = "other than", higher = "above", lower = "below")[[row$expect]], beyond,
    if (row$expect == "either") "two-sided" else "one-sided", level
  )
}

# `origin`: who chose the primary method, see origin_label().
cross_cells <- function(rows, decimals, origin) {
  each <- row_decimals(rows, decimals)
  cells <- list(
    method = capital_each(method_label(rows$method)), values = rows$values, estimate = format_each(rows$estimate, each),
    lower = ifelse(is.na(rows$lower), "-", format_each(rows$lower, each)),
    upper = ifelse(is.na(rows$upper), "-", format_each(rows$upper, each)),
    of = estimand_facts(rows$estimand, "short"),
    p = ifelse(rows$values == "all", bare_p(rows$p, alpha = rows$alpha), ""),
    verdict = paste0(
      ifelse(rows$values == "all", rows$verdict, "descriptive"),
      ifelse(rows$role == "primary", sprintf(" (%s)", origin), "")
    )
  )
  if (all(rows$values == "all")) cells$values <- NULL
  cells
}

# The one sentence: does the conclusion depend on the method?
depends_words <- function(x, outcome) {
  rows <- outcome_rows(x, outcome)
  rows <- rows[rows$values == "all", ]
  range <- p_range_words(rows)
  if (length(unique(rows$verdict)) == 1) {
    count <- nrow(rows)
    said <- switch(min(count, 3), "The only method gives", "Both methods give", sprintf("All %s methods give", count))
    return(sprintf("does not depend on the method. %s \"%s\" (%s)", said, rows$verdict[[1]], range))
  }
  said <- vapply(unique(rows$verdict), function(verdict) {
    sprintf("%s \"%s\"", paste(method_label(rows$method[rows$verdict == verdict]), collapse = ", "), verdict)
  }, "")
  sprintf("depends on the method: %s (%s)", paste(said, collapse = "; "), range)
}

p_range_words <- function(rows) {
  ends <- bare_p(range(rows$p), alpha = rows$alpha[[1]])
  if (ends[[1]] != ends[[2]]) return(sprintf("p from %s to %s", ends[[1]], ends[[2]]))
  paste("p", sub("^(?=[0-9.])", "= ", ends[[1]], perl = TRUE))
}

# Which assumption parts the methods that disagree, and what the data show of it.
hangs_words <- function(x, outcome) {
  hangs <- x$detail$hangs[[record_name(outcome)]]
  vapply(unique(hangs$assumption), function(assumption) {
    rows <- hangs[hangs$assumption == assumption, ]
    names <- method_label(c(rows$one[[1]], rows$other[[1]]))
    why <- switch(assumption,
      spread = if (any(method_is(rows$other, "reassignment"))) {
        "equal variances, which the permutation of plain differences assumes and Welch's test does not"
      } else {
        "equal variances, which Student's test assumes and Welch's test does not"
      },
      shape = paste(
        "the shape of the distribution:", names[[1]],
        "assumes that its statistic follows t, the permutation test does not"
      ),
      order = paste(
        "the weight of distant values: means depend on them, but ranks, trimmed means and medians do not, so that",
        "long tails or outliers separate them"
      ),
      blocks = paste(
        "the blocks: the permutation test reassigns values within them, and", setdiff(names, "permutation test"),
        "ignores them"
      ),
      few = "the sample size: with so few values one of the methods cannot reach significance, whatever the data",
      "same shape" = "equal shapes and variances, which Mann-Whitney assumes and Brunner-Munzel does not"
    )
    between <- paste(method_label(rows$one), "and", method_label(rows$other))
    sprintf("%s (%s)", why, paste(c(paste(between, collapse = ", "), seen_words(rows[1, ])), collapse = "; "))
  }, "", USE.NAMES = FALSE)
}

# What the data show of an assumption.
seen_words <- function(row) {
  if (!is.na(row$sd_ratio)) {
    if (is.infinite(row$sd_ratio)) return("one group does not vary")
    return(paste("SD ratio", format_number(row$sd_ratio)))
  }
  skewness <- c(row$skewness_first, row$skewness_second)
  skewness <- skewness[!is.na(skewness)]
  if (length(skewness)) paste("skewness", paste(format_number(skewness), collapse = " and "))
}

flagged_words <- function(x, outcome) {
  count <- x$detail$without[[record_name(outcome)]]
  if (length(count) == 0) return("none")
  groups <- if (is_paired(x$study)) "changes" else paste("of", x$study$groups)
  paste(format_count(count), groups, collapse = ", ")
}

declared_words <- function(rows) {
  primary <- rows[rows$role == "primary", ]
  sprintf(
    "%s, verdict \"%s\". It stands whatever the others give: no method is chosen for its result",
    method_label(primary$method), primary$verdict
  )
}

refused_words <- function(x, outcome) {
  refused <- x$detail$refused[[record_name(outcome)]]
  if (nrow(refused) == 0) return(NULL)
  sprintf(
    "%s%s: %s", method_label(refused$method), ifelse(refused$values == "all", "", paste0(" ", refused$values)),
    refused$why
  )
}

cross_notes <- function(x, rows, outcome) {
  primary <- rows[rows$role == "primary", ]
  c(
    if (other_level(x, rows)) {
      sprintf(
        "Verdicts use alpha %s; the intervals that agree with them have the level %s.",
        format_short(rows$alpha[[1]]), format_short(x$detail$agreeing)
      )
    },
    if (x$study$source == "summary") {
      "Published numbers give means and SDs only: ranks and permutations need the measurements."
    },
    if (x$settings$flagged == "both") {
      if (any(rows$values != "all")) {
        sprintf(
          paste(
            "Flagged: beyond 1.5 box lengths from the quartiles (Tukey 1977): %s. Rows without these values are",
            "descriptive: after values were excluded because of the outcome, no p-value is a valid test."
          ), flagged_words(x, outcome)
        )
      } else {
        "No value is flagged: nothing lies beyond 1.5 box lengths from the quartiles (Tukey 1977)."
      }
    },
    if (identical(x$settings$bounds_in, "sd")) {
      paste(
        "Bounds in SD units: tests of means test the standardized difference, with the uncertainty of the SD; the",
        "other methods assume that the SD is known. Intervals are those of the difference itself."
      )
    },
    cross_limit_notes(rows), unused_blocks_sentence(x$study, rows$method),
    if (!is.null(x$settings$seed)) {
      sprintf(
        "Random assignments: %s draws, seed %s.", format_count(x$settings$draws), format_count(x$settings$seed)
      )
    },
    if (!is.na(primary$p_adjusted)) {
      sprintf("p-value of the %s method, adjusted for several outcomes: %s.", origin_label(x),
        format_p(primary$p_adjusted, label = ""))
    },
    if (!is.null(rows$bound_low) && is.null(x$settings$reason)) {
      "No reason for these bounds was given."
    },
    if (!is.null(x$settings$reason)) paste0("Reason: ", sub("[.]$", "", x$settings$reason), ".")
  )
}

# What the sizes and the values leave to some methods.
cross_limit_notes <- function(rows) {
  rows <- rows[rows$values == "all", ]
  few <- rows[!is.na(rows$p_smallest) & rows$p_smallest > rows$alpha, ]
  # Complete separation leaves no statistic.
  apart <- rows[estimand_scale(rows) == "chance" & is.na(rows$statistic), ]
  chance <- rows[estimand_scale(rows) == "chance" & rows$expect == "either", ]
  parted <- which((chance$p <= chance$alpha) == (chance$lower <= 0.5 & 0.5 <= chance$upper))
  c(
    if (nrow(few)) {
      sprintf(
        "With these sizes p cannot get below alpha %s by %s.", format_short(rows$alpha[[1]]),
        paste(unique(method_label(few$method)), collapse = ", ")
      )
    },
    if (length(parted)) {
      sprintf(
        paste(
          "%s: the p-value and the interval disagree about a probability of 0.5. The p-value tests whether both",
          "distributions are the same; the interval allows unequal variances."
        ),
        paste(unique(method_label(chance$method[parted])), collapse = ", ")
      )
    },
    if (nrow(apart)) {
      sprintf(
        paste(
          "%s: every value of one group is higher. p counts assignments, the interval is made from the chance that all",
          "go one way; the two need not agree."
        ),
        paste(unique(method_label(apart$method)), collapse = ", ")
      )
    }
  )
}

# Whether the intervals are at another level than that which agrees with the verdicts.
other_level <- function(x, rows) abs(rows$level[[1]] - x$detail$agreeing) > 1e-9

# --- answers side by side ---------------------------------------------------------------------------

#' @rdname print.vandro_study
#' @export
format.vandro_comparison <- function(x, ..., decimals = NULL, width = cli::console_width()) {
  decimals <- check_decimals(decimals)
  names <- x$settings$answers
  parts <- split(x$table, factor(x$table$part, c("asked", "found")))
  lines <- lapply(parts, function(part) {
    if (nrow(part) == 0) return(NULL)
    text_table(comparison_cells(part, names, comparison_decimals(x, decimals)), width = width)
  })
  differing <- sum(!duplicated(x$table$line) & x$table$differs)
  c(
    paste("Side by side:", paste(names, collapse = ", ")), "Asked", lines$asked, "Found", lines$found,
    text_entry("Marked", sprintf("* %s of %s lines differ", differing, length(unique(x$table$line))), width),
    entries("Note", x$detail$notes, width)
  )
}

# A column for each answer, a row for each line; the first column marks what differs.
comparison_cells <- function(part, names, decimals) {
  lines <- unique(part$line)
  at <- match(lines, part$line)
  item <- item_label(part$item[at])
  values <- lapply(stats::setNames(nm = names), function(name) {
    mine <- part[part$answer == name, ]
    mine <- mine[match(lines, mine$line), ]
    comparison_text(mine, decimals)
  })
  c(
    list(" " = ifelse(part$differs[at], "*", ""), what = gsub("_", " ", part$quantity[at])),
    if (!all(is.na(item))) list(of = ifelse(is.na(item), "", item)), values
  )
}

# Items of a comparison that are methods, by their names.
item_label <- function(items) {
  known <- items %in% names(method_entries)
  items[known] <- method_label(items[known])
  items
}

comparison_text <- function(rows, decimals) {
  text <- ifelse(is.na(rows$text), "", rows$text)
  known <- which(!is.na(rows$value))
  is_p <- grepl("^(p|p_.*)$", rows$quantity[known])
  in_unit <- rows$in_unit[known]
  numbers <- mapply(function(value, p, unit) {
    if (p) return(bare_p(value))
    if (unit) return(format_number(value, decimals))
    format_plain(signif(value, 5), digits = 5)
  }, rows$value[known], is_p, in_unit)
  text[known] <- unlist(numbers)
  text
}

comparison_decimals <- function(x, decimals) outcome_decimals(x$study$outcomes[[1]], decimals)
