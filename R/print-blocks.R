# Lines that the prints of several verbs share.

# With more outcomes than this, only the first ones are printed in full; figures and reports treat them as many.
most_blocks <- 6

most_lines <- 20

is_many <- function(x) length(x$study$outcomes) > most_blocks

# Answers about more than one outcome or subgroup are printed as one table.
in_one_table <- function(x, details) length(x$study$outcomes) > 1 && !details

# "4 outcomes in 3 subgroups (bench)"
many_words <- function(study) {
  outcomes <- length(unique(vapply(study$outcomes, `[[`, "", "name")))
  words <- sprintf("%s outcome%s", format_count(outcomes), if (outcomes == 1) "" else "s")
  if (is.null(study$each)) return(words)
  if (outcomes == 1) words <- outcome_title_plain(study$outcomes[[1]])
  sprintf("%s in %d subgroups (%s)", words, length(study$each$labels), study$each$name)
}

note_lines <- function(study, width) {
  unlist(lapply(study$notes, function(note) text_entry("Note", note, width)))
}

# Returns NULL for measured data.
made_up_sentence <- function(study) {
  if (!is.null(study$made_up)) sprintf("The data are made up (seed %s).", study$made_up)
}

# "2 rows of compost without a value; 1 row without a group"; NULL where nothing was excluded, or nobody knows.
excluded_words <- function(study, outcome) {
  if (is.null(study$left_out)) return(NULL)
  left <- study$left_out[is_row_of(study$left_out, outcome) & study$left_out$n > 0, ]
  if (nrow(left) == 0) return(NULL)
  left <- first_groups(left)
  pairs <- grepl("half|halves|change", left$reason) | (is_paired(study) & left$reason == "flagged as outlying")
  unit <- ifelse(pairs, "pair", "row")
  count <- paste(format_count(left$n), ifelse(left$n == 1, unit, paste0(unit, "s")))
  code <- sub("^declared missing: ", "", left$reason)
  of_group <- ifelse(is.na(left$group), "", paste(" of", left$group))
  kind <- sub(":.*$", "", left$reason)
  # A pair lost through a declared code is counted by the half it lacks; the code only says why.
  declared <- if (is_paired(study)) {
    half <- ifelse(is.na(left$group), "", paste(" in", left$group))
    sprintf("%s of these for %s%s, declared missing", format_count(left$n), code, half)
  } else {
    sprintf("%s%s with %s, declared missing", count, of_group, code)
  }
  words <- vapply(seq_len(nrow(left)), function(i) {
    switch(kind[[i]],
      "outcome missing" = sprintf("%s%s without a value", count[[i]], of_group[[i]]),
      "declared missing" = declared[[i]],
      "group missing" = sprintf("%s without a group", count[[i]]),
      "other group" = sprintf("%s%s, not compared", count[[i]], of_group[[i]]),
      "more groups" = sprintf("%s of %s, not compared", count[[i]], left$group[[i]]),
      "half missing" = sprintf("%s without %s", count[[i]], left$group[[i]]),
      "both halves missing" = sprintf("%s with neither measurement", count[[i]]),
      "change missing" = sprintf("%s without a change", count[[i]]),
      "flagged as outlying" = sprintf("%s%s flagged as outlying", count[[i]], of_group[[i]]),
      "key missing" = sprintf("%s without a key", count[[i]])
    )
  }, "")
  paste(words, collapse = "; ")
}

# Rows or pairs that were excluded; nothing where there are none.
excluded_entry <- function(study, outcome, width) {
  words <- excluded_words(study, outcome)
  if (!is.null(words)) text_entry("Excluded", words, width)
}

# Blocks of lines with a blank line between them.
join_blocks <- function(blocks) utils::head(unlist(lapply(blocks, c, "")), -1)

pair_entry <- function(outcome, width) {
  words <- pair_words(outcome)
  if (length(words)) text_entry("Pairs", words, width)
}

# Why there is no interval at the level asked for, and the widest that can be had.
# `limits(lower, upper)`: the limits as the surface writes them.
no_interval_words <- function(row, widest, why, limits) {
  text <- sprintf("no finite %s CI with %s", format_percent(row$level), why)
  if (anyNA(c(widest$lower, widest$upper))) return(text)
  level <- format_percent(floor(1e4 * widest$level) / 1e4)
  sprintf("%s (widest possible: %s, %s)", text, level, limits(widest$lower, widest$upper))
}

# Only a plan declares a method; a call chooses one.
origin_label <- function(x) {
  c(default = "default", call = "chosen", plan = "declared")[[x$settings$method_from %||% "call"]]
}

origin_sentence <- function(x) {
  c(
    default = "The default method of the design was used; no check chose it.",
    call = "The method was chosen by the analyst; no check chose it.",
    plan = "The method was declared in a plan before the data were read; no check chose it."
  )[[x$settings$method_from %||% "call"]]
}

# A warning that the values are serially correlated, which the method ignores; NULL where they are not.
dependence_sentence <- function(answer, outcome, voice = "journal") {
  found <- answer_detail(answer, outcome, "series")
  if (is.null(found)) return(NULL)
  study <- answer$study
  # For two groups, `found` describes their difference along one order, not each group on its own.
  grows <- found$effective_n < found$n
  # A study in a database does not keep the name of its order.
  order <- study$rows$order$name
  what <- sprintf(
    "%s (in the %s)", if (is_paired(study)) "changes" else "values",
    if (is.null(order)) "declared order" else paste("order of", order)
  )
  if (voice == "plain") {
    return(sprintf(
      "Neighbouring %s are not independent, so that the uncertainty is %s than stated here.", what,
      if (grows) "larger" else "smaller"
    ))
  }
  sprintf(
    "The %s are serially correlated%s, which this test ignores: its p-value is too %s and its interval too %s.", what,
    if (is_paired(study)) sprintf(" (r1 = %s)", format_number(found$r, 2)) else "",
    if (grows) "small" else "large", if (grows) "narrow" else "wide"
  )
}

# Which methods of an answer ignore the blocks that the study declares; NULL where none does.
unused_blocks_sentence <- function(study, methods) {
  blocks <- study$rows$blocks
  ignoring <- methods[!method_is(methods, "reassignment")]
  if (is.null(blocks) || is_paired(study) || length(ignoring) == 0) return(NULL)
  sprintf(
    "%s %s not use the declared blocks (%s).", capital(paste(unique(method_phrase(ignoring)), collapse = ", ")),
    if (length(unique(ignoring)) == 1) "does" else "do", blocks$name
  )
}
