# What the verbs share: the rows of several outcomes, and refusing what has no answer.

directions <- c("either", "higher", "lower")

# What `one(outcome, ...)` finds for each outcome.
each_outcome <- function(study, one, ...) each_record(study$outcomes, function(outcome, k) one(outcome, ...), study)

# The same for any list of records of a study; `k`: which of them. Among several outcomes one without an answer does not
# stop the others: in its place stands the error, see is_unanswered().
each_record <- function(records, one, study) {
  if (length(study$outcomes) == 1) return(lapply(seq_along(records), function(k) one(records[[k]], k)))
  cli::cli_progress_bar("Outcomes", total = length(records))
  found <- vector("list", length(records))
  for (k in seq_along(records)) {
    got <- tryCatch(
      {
        refuse_incomparable(records[[k]])
        one(records[[k]], k)
      },
      vandro_error = function(e) if (isTRUE(e$unanswered)) e else rlang::cnd_signal(e)
    )
    if (!is.null(got)) found[[k]] <- got
    cli::cli_progress_update()
  }
  if (all(vapply(found, is_unanswered, NA))) rlang::cnd_signal(found[[1]])
  found
}

# Rows (of each record one or several) bound to columns. A record without an answer has rows of the same kind without
# numbers, and the reason.
bind_answered <- function(found, records) {
  lost <- vapply(found, is_unanswered, NA)
  if (!any(lost)) return(bind_rows(unlist(found, recursive = FALSE)))
  template <- found[!lost][[1]]
  reason <- rep(NA_character_, length(found))
  reason[lost] <- vapply(found[lost], first_sentence, "")
  found[lost] <- lapply(records[lost], function(record) lapply(template, row_without_numbers, record))
  columns <- bind_rows(unlist(found, recursive = FALSE))
  columns$reason <- rep(reason, lengths(found))
  columns
}

# What a row keeps of the question.
asked_columns <- c(
  "comparison", "method", "role", "estimand", "level", "expect", "beyond", "alpha", "statistic_name", "group", "check",
  "bounds_in", "sd_of", "standardizer", "use", "source", "prior_location", "prior_half", "prior_df", "within_low",
  "within_high"
)

row_without_numbers <- function(row, record) {
  keep <- names(row) %in% asked_columns
  row[!keep] <- lapply(row[!keep], function(x) x[NA_integer_])
  row[names(record_cells(record))] <- record_cells(record)
  n <- outcome_sizes(record)
  if (!is.null(row$n_first)) row[c("n_first", "n_second")] <- n
  row
}

is_unanswered <- function(found) inherits(found, "vandro_error")

# One row as the rows of its record.
row_or_error <- function(row) if (is_unanswered(row)) row else list(row)

# A part of what was found for each record, `other` where there is no answer.
found_part <- function(found, name, other = NULL) {
  lapply(found, function(one) if (is_unanswered(one)) other else one[[name]])
}

# Re-raise a reason that is already a sentence.
abort_with_sentence <- function(reason, outcome, call) {
  abort_vandro("{reason}", "unanswered", outcome = outcome$name, unanswered = TRUE, call = call)
}

# The first sentence of an error, as one line.
first_sentence <- function(e) cli::ansi_strip(e$message)

# The same for reason codes, NA where there is none.
reason_sentences <- function(codes, study) {
  at <- which(!is.na(codes))
  codes[at] <- vapply(at, function(k) {
    outcome <- study$outcomes[[k]]
    if (!is.null(outcome$incomparable)) return(incomparable_sentence(outcome))
    words <- reason_words(codes[[k]], outcome, study)[[1]]
    cli::ansi_strip(cli::format_inline(words, .envir = list2env(list(name = outcome$label), parent = baseenv())))
  }, "")
  codes
}

# Where no outcome has an answer that is an error.
settle_reasons <- function(part, study, call) {
  if (is.null(part$code) || anyNA(part$code)) return(invisible())
  outcome <- study$outcomes[[1]]
  refuse_incomparable(outcome, call)
  abort_reason(part$code[[1]], outcome, study, call)
}

incomparable_sentence <- function(outcome) sprintf("%s allows no comparison: %s.", outcome$label, outcome$incomparable)

refuse_incomparable <- function(outcome, call = rlang::caller_env()) {
  if (is.null(outcome$incomparable)) return(invisible())
  words <- incomparable_sentence(outcome)
  abort_vandro("{words}", "all_missing", outcome = outcome$name, unanswered = TRUE, call = call)
}

# Turns a reason code of the core into the error that explains it.
abort_reason <- function(reason, outcome, study, call, estimand = NULL) {
  abort_vandro(
    reason_words(reason, outcome, study), reason_fact(reason, "class"),
    outcome = outcome$name, estimand = estimand, group = short_groups(outcome, study), unanswered = TRUE, call = call,
    .envir = list2env(list(name = outcome$label, estimand = estimand), parent = baseenv())
  )
}

# Of doubles whose differences hold anything but rounding no t is larger.
largest_t <- 1e14

# Why a study has no single values, and what there is instead.
no_values_sentence <- function(study) {
  if (is_database(study)) {
    "The measurements stay in the database, which gives sums, counts and ranks only."
  } else {
    "The study has published numbers only: n, mean and SD do not tell single values."
  }
}

instead_of_values <- function(study) {
  if (is_database(study)) {
    paste(
      "Take a sample of the rows, {.code take_sample(table, 10000, id = plant, seed = 1)}, or a method for means or",
      "ranks."
    )
  } else {
    "Declare the measurements, or take a method for means."
  }
}

short_groups <- function(outcome, study) {
  if (is_paired(study)) study_direction(study) else study$groups[outcome_sizes(outcome) < 2]
}

# The words of a reason about one outcome.
reason_words <- function(reason, outcome, study) {
  quoted <- function(text) gsub("([{}])", "\\1\\1", encodeString(text, quote = "\""))
  reason_fact(reason, "words")(list(
    paired = is_paired(study), means = vapply(outcome$moments, function(m) format_plain(m$mean), ""),
    groups = quoted(study$groups), lone = quoted(short_groups(outcome, study)), t_limit = format_plain(largest_t),
    no_values = no_values_sentence(study), instead = instead_of_values(study)
  ))
}

# Values of both groups, or both halves of pairs; ready-made changes alone.
sample_values <- function(outcome, study) {
  if (!is_paired(study)) return(lapply(1:2, function(which) outcome_group_values(outcome, which)))
  if (outcome$data$kind == "changes") return(list(outcome_group_values(outcome, 3), NULL))
  complete_pairs(outcome$data)[1:2]
}

# For description beside the ranks: quartiles of groups, or of both halves and the changes.
group_quartiles <- function(outcome, study) {
  groups <- c(study$groups, if (is_paired(study)) study_direction(study))
  known <- which(!is.na(vapply(outcome$moments, `[[`, 0, "mean")))
  lapply(known, function(which) {
    list(group = groups[[which]], n = outcome$moments[[which]]$n, values = quartiles_of(outcome, which))
  })
}
