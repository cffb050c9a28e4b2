# Differences between subgroups as text.

#' @rdname print.vandro_study
#' @export
format.vandro_subgroups <- function(x, ..., decimals = NULL, width = cli::console_width()) {
  decimals <- check_decimals(decimals)
  names <- unique(x$table$outcome)
  blocks <- lapply(utils::head(names, most_blocks), function(name) {
    outcome <- subgroup_record(x, name)
    rows <- x$table[x$table$outcome == name, ]
    c(
      heading_line(
        sprintf("Between subgroups (%s): %s", x$study$each$name, outcome_title_plain(outcome)), study_direction(x$study)
      ),
      text_table(subgroup_cells(x, name, decimals), width = width),
      text_entry("All", all_subgroups_words(rows[1, ]), width),
      if (nrow(rows) > 1) {
        cells <- subgroup_pair_cells(rows, outcome, decimals)
        c(paste0("  Two by two, ", estimate_gap_words(x$study)), text_table(cells))
      },
      if (rows$among[[1]] > x$detail$paired_up_to) {
        text_entry(
          "Two by two", sprintf("every two are compared for at most %d subgroups", x$detail$paired_up_to), width
        )
      },
      if (nrow(rows) > 2 && any(!is.na(rows$p_adjusted[-1]))) {
        text_entry("Adjusted", sprintf("over the pairs by %s", adjust_phrase(x)), width)
      },
      entries("Excluded", subgroups_left_out(x, name), width)
    )
  })
  more <- length(names) - most_blocks
  if (more > 0) blocks <- c(blocks, list(sprintf("and %d more outcomes: as.data.frame() has every row.", more)))
  c(join_blocks(blocks), note_lines(x$study, width))
}

# A record of the outcome, whichever subgroup it is of.
subgroup_record <- function(x, name) {
  names <- vapply(x$study$outcomes, `[[`, "", "name")
  x$study$outcomes[[match(name, names)]]
}

estimate_gap_words <- function(study) {
  sprintf("difference (%s) of the first less that of the second:", study_direction(study))
}

# The differences that are compared.
subgroup_cells <- function(x, name, decimals) {
  rows <- x$detail$differences[x$detail$differences$outcome == name, ]
  decimals <- outcome_decimals(subgroup_record(x, name), decimals)
  number <- function(value) ifelse(is.na(value), "", format_number(value, decimals))
  cells <- list(rows$subgroup)
  names(cells) <- x$study$each$name
  n <- if (is_paired(x$study)) {
    list(pairs = format_count(rows$n_first))
  } else {
    list(n = paste(format_count(rows$n_first), "+", format_count(rows$n_second)))
  }
  c(cells, n, list(difference = number(rows$estimate), lower = number(rows$lower), upper = number(rows$upper)))
}

all_subgroups_words <- function(row) {
  if (!is.na(row$reason)) return(row$reason)
  sprintf(
    "F(%s, %s) = %s, %s%s: %s", format_df(row$df), format_df(row$df_second), format_number(row$statistic),
    format_p(row$p, alpha = row$alpha),
    if (is.na(row$p_adjusted)) "" else sprintf(", adjusted for several outcomes %s", format_p(row$p_adjusted)),
    heterogeneity_words(row)
  )
}

heterogeneity_words <- function(row) {
  p <- if (is.na(row$p_adjusted)) row$p else row$p_adjusted
  if (p <= row$alpha) {
    "the difference is not the same in all subgroups"
  } else {
    "not shown to differ between the subgroups, which does not show that it is the same in all"
  }
}

subgroup_pair_cells <- function(rows, outcome, decimals) {
  rows <- rows[-1, ]
  number <- function(value) format_number(value, outcome_decimals(outcome, decimals))
  cells <- list(
    subgroups = rows$contrast, estimate = number(rows$estimate), lower = number(rows$lower),
    upper = number(rows$upper), t = format_number(rows$statistic), df = format_df(rows$df), p = bare_p(rows$p)
  )
  if (any(!is.na(rows$p_adjusted))) cells[["p adjusted"]] <- bare_p(rows$p_adjusted)
  cells
}

subgroups_left_out <- function(x, name) {
  left <- x$detail$left_out
  if (!is.null(left)) sub("[.]$", "", left$reason[left$outcome == name])
}
