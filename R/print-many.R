# Answers about many outcomes: a line for each instead of a page.

# A block of lines for each outcome, of many for the first ones; an outcome without an answer says why.
record_blocks <- function(x, block, beside = function(outcome) NULL) {
  outcomes <- x$study$outcomes
  blocks <- lapply(utils::head(outcomes, most_blocks), function(outcome) {
    reason <- no_result(x, outcome)
    if (is.null(reason)) return(block(outcome))
    c(heading_line(outcome_title(outcome), study_direction(x$study)), paste0("  No result: ", reason), beside(outcome))
  })
  more <- length(outcomes) - most_blocks
  if (more > 0) blocks <- c(blocks, list(sprintf("and %s more: as.data.frame() has every row.", format_count(more))))
  blocks
}

# The rows that are shown: all of few, else those of the smallest p, or of the clearest evidence.
shown_rows <- function(table) {
  if (nrow(table) <= most_lines) return(table)
  weight <- table$p_adjusted %||% table$p
  if (!is.null(table$p)) weight <- ifelse(is.na(weight), table$p, weight)
  if (is.null(weight)) weight <- if (is.null(table$log_bf)) seq_len(nrow(table)) else -abs(table$log_bf)
  at <- order(weight, table$p %||% weight, seq_len(nrow(table)))
  table[utils::head(at[!is.na(weight[at])], most_lines), ]
}

# `notes_of`: what qualifies the answer about one outcome.
many_lines <- function(x, title, cells_of, width, notes_of = function(outcome) NULL) {
  table <- x$table
  few <- !is_many(x)
  primary <- if (is.null(table$role)) table else table[table$role == "primary", ]
  if (!few) table <- primary
  answered <- if (is.null(table$reason)) rep(TRUE, nrow(table)) else is.na(table$reason)
  rows <- if (few) table[answered, ] else shown_rows(table[answered, ])
  # Of the records shown only: looking up ten thousand takes long.
  keys <- vapply(x$study$outcomes, record_name, "")
  records <- x$study$outcomes[match(row_names(rows), keys)]
  count <- length(x$study$outcomes)
  c(
    heading_line(sprintf("%s: %s", title, many_words(x$study)), study_direction(x$study)),
    text_table(c(
      many_names(rows, records, x$study),
      if (length(unique(rows$role)) > 1) list(method = capital_each(method_label(rows$method))),
      cells_of(rows, records)
    ), width = width),
    if (nrow(rows) < sum(answered)) {
      text_entry("Shown", sprintf(
        "%s of %s rows%s; as.data.frame() has every one", format_count(nrow(rows)), format_count(sum(answered)),
        if (!is.null(table$p)) ", those with the smallest p-values" else ""
      ), width)
    },
    many_decisions(x, primary[if (is.null(primary$reason)) TRUE else is.na(primary$reason), ], width),
    if (!all(answered)) {
      unanswered <- table[!answered, ]
      text_entry("No result", sprintf(
        "%s of %s: %s%s", format_count(nrow(unanswered)), format_count(count),
        paste(sub("[.]$", "", utils::head(unique(unanswered$reason), 3)), collapse = "; "),
        if (length(unique(unanswered$reason)) > 3) "; and others (column reason)" else ""
      ), width)
    },
    if (few) c(entries("Note", shared_notes(x, notes_of), width), many_excluded_entry(x$study, width)),
    utils::head(note_lines(x$study, width), 12)
  )
}

# Notes of each outcome, with its name where not all have the same.
shared_notes <- function(x, notes_of) {
  outcomes <- Filter(function(outcome) is.null(no_result(x, outcome)), x$study$outcomes)
  notes <- lapply(outcomes, notes_of)
  whose <- rep(vapply(outcomes, record_title, ""), lengths(notes))
  notes <- unlist(notes)
  vapply(unique(notes), function(note) {
    at <- whose[notes == note]
    if (length(at) == length(outcomes)) note else sprintf("%s: %s", paste(at, collapse = ", "), note)
  }, "", USE.NAMES = FALSE)
}

record_title <- function(outcome) {
  paste(c(outcome_title_plain(outcome), outcome$subgroup), collapse = ", ")
}

many_excluded_entry <- function(study, width) {
  words <- lapply(study$outcomes, function(outcome) {
    words <- excluded_words(study, outcome)
    if (!is.null(words)) sprintf("%s: %s", record_title(outcome), words)
  })
  words <- unlist(words)
  if (length(words)) text_entry("Excluded", paste0(paste(words, collapse = ". "), "."), width)
}

row_names <- function(rows) if (is.null(rows$subgroup)) rows$outcome else paste0(rows$outcome, ": ", rows$subgroup)

many_names <- function(rows, records, study) {
  cells <- list(outcome = vapply(records, outcome_title_plain, ""))
  if (!is.null(study$each)) cells[[study$each$name]] <- rows$subgroup
  if (is_paired(study)) return(c(cells, list(pairs = format_count(rows$n_first))))
  c(cells, list("n" = paste(format_count(rows$n_first), "+", format_count(rows$n_second))))
}

# Numbers with the decimals of each record.
each_number <- function(x, records, decimals = NULL) {
  decimals <- vapply(records, function(record) as.double(outcome_decimals(record, decimals)), 0)
  format_each(x, decimals)
}

many_difference_cells <- function(rows, records, decimals) {
  raw <- in_outcome_unit(rows)
  number <- function(x) {
    out <- format_number(x)
    if (any(raw)) out[raw] <- each_number(x[raw], records[raw], decimals)
    ifelse(is.na(x), "", out)
  }
  cells <- list(estimate = number(rows$estimate), lower = number(rows$lower), upper = number(rows$upper))
  if (!is.null(rows$joint_lower)) {
    cells <- c(cells, list("joint lower" = number(rows$joint_lower), "joint upper" = number(rows$joint_upper)))
  }
  c(cells, list(p = bare_p(rows$p)), if (any(!is.na(rows$p_adjusted))) list("p adjusted" = bare_p(rows$p_adjusted)))
}

many_equivalence_cells <- function(rows, records, decimals) {
  number <- function(x) each_number(x, records, decimals)
  list(
    estimate = number(rows$estimate), lower = number(rows$lower), upper = number(rows$upper),
    bounds = paste(number(rows$bound_low), "to", number(rows$bound_high)), p = bare_p(rows$p), verdict = rows$verdict
  )
}

many_effect_cells <- function(rows, records, decimals, study) {
  raw <- in_outcome_unit(rows)
  number <- function(x) {
    out <- format_number(x, 2)
    if (any(raw)) out[raw] <- each_number(x[raw], records[raw], decimals)
    ifelse(is.na(x), "", out)
  }
  list(
    effect = effect_names(rows$estimand, study), size = number(rows$estimate), lower = number(rows$lower),
    upper = number(rows$upper)
  )
}

many_evidence_cells <- function(rows) {
  list(
    effect = format_number(rows$estimate), lower = format_number(rows$lower), upper = format_number(rows$upper),
    BF10 = vapply(rows$log_bf, factor_text, "")
  )
}

# How many p are at most alpha, as they are and adjusted, and how they were adjusted.
many_decisions <- function(x, table, width) {
  if (is.null(table$p) || is.null(table$alpha)) return(NULL)
  known <- sum(!is.na(table$p))
  alpha <- table$alpha[[1]]
  adjusted <- table$p_adjusted
  c(
    text_entry("Method", paste0(method_label(x$settings$method[[1]]), many_question_words(x$settings)), width),
    text_entry("Significant", paste0(
      sprintf("at alpha %s: %s of %s", format_short(alpha), format_count(sum(table$p <= alpha, na.rm = TRUE)),
        format_count(known)),
      if (any(!is.na(adjusted))) {
        sprintf("; after adjustment: %s", format_count(sum(adjusted <= alpha, na.rm = TRUE)))
      }
    ), width),
    if (any(!is.na(adjusted))) text_entry("Adjusted", paste("by", adjust_phrase(x)), width),
    if (!is.null(table$joint_lower)) text_entry("Joint", joint_interval_words(x), width)
  )
}

many_question_words <- function(s) {
  if (is.null(s$expect)) return("")
  sides <- if (s$expect == "either") ", two-sided" else sprintf(", one-sided (%s)", s$expect)
  paste0(sides, if (s$beyond == 0) "" else sprintf(", difference beyond %s", format_short(s$beyond)))
}

# "all of them at once at 95%: estimate -/+ 3.02 SE, from the largest t"
joint_interval_words <- function(x) {
  joint <- x$detail$joint
  level <- format_percent(x$settings$level)
  if (is.null(joint$limit)) return(sprintf("simultaneous %s intervals, by Bonferroni (Dunn 1961)", level))
  if (is.na(joint$limit)) return("none: too few assignments for simultaneous intervals at this level")
  sprintf(
    "simultaneous %s intervals: estimate -/+ %s SE, from the largest |t| (Westfall & Young 1993)", level,
    format_number(joint$limit)
  )
}
