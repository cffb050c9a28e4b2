# Effect sizes as text: the table, and what each row is for.

#' @rdname print.vandro_study
#' @export
format.vandro_effect <- function(x, ..., decimals = NULL, details = FALSE, width = cli::console_width()) {
  decimals <- check_decimals(decimals)
  if (in_one_table(x, check_flag(details))) {
    cells <- function(rows, records) many_effect_cells(rows, records, decimals, x$study)
    return(many_lines(x, "Effect sizes", cells, width))
  }
  blocks <- record_blocks(x, function(outcome) {
    rows <- outcome_rows(x, outcome)
    c(
      heading_line(paste("Effect size:", outcome_title(outcome)), rows$comparison[[1]]),
      text_table(effect_cells(x, outcome, outcome_decimals(outcome, decimals)), width = width),
      text_entry("Intervals", interval_method_words(x, rows), width),
      entries("Note", c(undefined_sentence(x, outcome), no_interval_sentence(rows, x$study)), width),
      text_entry("Groups", group_size_words(x$study, outcome), width),
      excluded_entry(x$study, outcome, width),
      named_lines("In words", size_word_lines(rows, x$study), width),
      if (details) named_lines("When to use which", use_lines(rows, x$study), width),
      named_lines("Not available", effects_left_out(x, outcome), width)
    )
  })
  c(join_blocks(blocks), note_lines(x$study, width))
}

# Rounded columns of one outcome's effect sizes, for console and report alike.
effect_cells <- function(x, outcome, decimals) {
  rows <- outcome_rows(x, outcome)
  raw <- in_outcome_unit(rows)
  each <- ifelse(raw, decimals, 2L)
  divisor <- ifelse(
    is.na(rows$standardizer), "none",
    ifelse(is.na(rows$standardizer_value), rows$standardizer, sprintf(
      "%s, %s", rows$standardizer,
      with_unit_each(format_number(rows$standardizer_value, decimals), difference_unit(outcome))
    ))
  )
  list(
    effect = effect_names(rows$estimand, x$study), size = format_each(rows$estimate, each),
    lower = format_each(rows$lower, each), upper = format_each(rows$upper, each),
    unit = ifelse(raw, difference_unit(outcome) %||% "", scale_facts(estimand_scale(rows), "unit")),
    "divided by" = divisor
  )
}

# A heading and a line per effect size.
named_lines <- function(heading, texts, width) {
  if (length(texts) == 0) return(NULL)
  label_width <- max(16, cli::ansi_nchar(names(texts), "width") + 2)
  c(heading, unlist(Map(text_entry, names(texts), texts, width = width, label_width = label_width), use.names = FALSE))
}

use_lines <- function(rows, study) {
  stats::setNames(sprintf("%s (%s)", rows$use, rows$source), effect_names(rows$estimand, study))
}

# "small to medium (0.48 lies at the border 0.5); over the interval ... (Cohen 1988)"
size_word_lines <- function(rows, study) {
  if (is.null(rows$size_word)) return(NULL)
  rows <- rows[!is.na(rows$size_word), ]
  if (nrow(rows) == 0) return(c("none" = "these words are not defined for these effect sizes"))
  border <- ifelse(
    is.na(rows$size_border), "",
    sprintf(" (%s lies at the border %s)", format_number(abs(rows$estimate)), format_short(rows$size_border))
  )
  stats::setNames(
    sprintf("%s%s; over the interval: %s (%s)", rows$size_word, border, rows$size_range, rows$size_source),
    effect_names(rows$estimand, study)
  )
}

# Bootstrap samples without an effect size: counted, never dropped in silence.
undefined_sentence <- function(x, outcome) {
  at <- record_place(x$study, outcome)
  count <- x$detail$undefined[[at]]
  count <- count[count > 0]
  if (length(count) == 0) return(NULL)
  sprintf(
    "%s of %s bootstrap samples contained equal values only and have no %s; they are excluded.", format_count(count),
    format_count(x$settings$draws), effect_names(names(count), x$study)
  )
}

# A shift of which no two values are far enough out.
no_interval_sentence <- function(rows, study) {
  without <- rows[(is.na(rows$lower) | is.na(rows$upper)) & rows$method != "none", ]
  if (nrow(without) == 0) return(NULL)
  sprintf(
    "There is no finite %s interval of the %s with these sample sizes; test_difference() names the widest one.",
    format_percent(without$level[[1]]), paste(effect_names(without$estimand, study), collapse = ", ")
  )
}

# Effect sizes that the study does not allow, and why.
effects_left_out <- function(x, outcome) {
  at <- record_place(x$study, outcome)
  reasons <- x$detail$left_out[[at]]
  if (length(reasons) == 0) return(NULL)
  words <- vapply(reasons, reason_fact, "", "short")
  stats::setNames(unname(words), effect_names(names(reasons), x$study))
}

interval_method_words <- function(x, rows) {
  methods <- unique(rows$method)
  each <- vapply(methods, function(method) {
    names <- effect_names(rows$estimand[rows$method == method], x$study)
    sprintf("%s for %s", interval_label(method), paste(names, collapse = ", "))
  }, "")
  if (length(methods) == 1) each <- interval_label(methods)
  drawn <- if (!is.null(x$settings$draws)) {
    sprintf("; %s draws, seed %s", format_count(x$settings$draws), format_count(x$settings$seed))
  }
  paste0(format_percent(rows$level[[1]]), "; ", paste(each, collapse = "; "), drawn)
}

group_size_words <- function(study, outcome) {
  size <- format_count(outcome_sizes(outcome))
  if (is_paired(study)) return(sprintf("%s and %s, %s pairs", study$groups[[1]], study$groups[[2]], size[[1]]))
  paste(sprintf("%s n = %s", study$groups, size), collapse = ", ")
}
