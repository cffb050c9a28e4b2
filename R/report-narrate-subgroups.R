# Sentences about differences between subgroups, one text per outcome.

#' @exportS3Method
tell.vandro_subgroups <- function(x, voice, decimals, ...) {
  vapply(unique(x$table$outcome), function(name) {
    rows <- x$table[x$table$outcome == name, ]
    record <- subgroup_record(x, name)
    if (!is.na(rows$reason[[1]])) {
      return(sprintf("%s could not be compared between subgroups: %s", capital(outcome_name(record)), rows$reason[[1]]))
    }
    if (voice == "plain") plain_subgroups(rows, record, x) else journal_subgroups(rows, record, x, decimals)
  }, "", USE.NAMES = FALSE)
}

journal_subgroups <- function(rows, record, x, decimals) {
  all <- rows[1, ]
  decimals <- outcome_decimals(record, decimals)
  pair <- rows[2, ]
  adjusted <- if (is.na(all$p_adjusted)) "" else paste0(", adjusted ", format_p(all$p_adjusted))
  verdict <- if (decided_p(all) <= all$alpha) "differed" else "was not shown to differ"
  gap <- if (nrow(rows) == 2) {
    sprintf(
      "; %s: %s, %s", pair$contrast, with_unit(format_number(pair$estimate, decimals), difference_unit(record)),
      ci_words(pair, decimals)
    )
  }
  sprintf(
    "The difference in %s (%s) %s between the subgroups (%s: %s), F(%s, %s) = %s, %s%s%s.",
    inside_sentence(outcome_name(record)), study_direction(x$study), verdict, x$study$each$name,
    listed_subgroups(x, rows$outcome[[1]]), format_df(all$df), format_df(all$df_second), format_number(all$statistic),
    format_p(all$p, alpha = all$alpha), adjusted, gap %||% ""
  )
}

plain_subgroups <- function(rows, record, x) {
  all <- rows[1, ]
  listed <- listed_subgroups(x, rows$outcome[[1]])
  if (decided_p(all) <= all$alpha) {
    return(sprintf(
      "The difference in %s (%s) depends on %s (%s): chance alone would rarely make the subgroups differ as much (%s).",
      inside_sentence(outcome_name(record)), study_direction(x$study), x$study$each$name, listed,
      format_p(decided_p(all), alpha = all$alpha)
    ))
  }
  sprintf(
    paste(
      "The data do not show that the difference in %s depends on %s (%s; %s). This is not evidence that it is the same",
      "in all subgroups, even if it is significant in one and not in another."
    ),
    inside_sentence(outcome_name(record)), x$study$each$name, listed, format_p(decided_p(all), alpha = all$alpha)
  )
}

# The subgroups that have a difference.
listed_subgroups <- function(x, name) {
  rows <- x$detail$differences
  paste(rows$subgroup[rows$outcome == name & !is.na(rows$estimate)], collapse = ", ")
}
