# The parts of a report about many outcomes or subgroups: a table and a figure for all in place of a page for each.

# Rows of a table in a report; the numbers of all are in the data frame.
most_table_rows <- 200

report_parts_many <- function(study, answers, own, marks, wanted) {
  part <- report_part(own, marks, wanted)
  difference <- answers$difference
  name <- inside_sentence(many_title(study))
  in_order(list(
    part(
      "answer", asked_paragraph(answered_records(difference)[[1]], study, answers, name),
      many_differences_part(study, difference)
    ),
    part("question", question_parts_of(study, answers)),
    part("data", many_data_part(study)),
    part("description"),
    part("checks", many_checks_part(answers$assumptions)),
    part("size", many_sizes_part(answers)),
    part("test"),
    part("subgroups", if (!is.null(answers$subgroups)) subgroups_part(answers$subgroups)),
    part("equivalence", many_equivalence_part(answers$equivalence)),
    part("evidence", many_evidence_part(answers$evidence)),
    part("further", lapply(answers$further, many_further_part, answers)),
    part("agreement"),
    part("sentences", many_sentences_part(difference))
  ), wanted)
}

shown_words <- function(shown, all) {
  if (shown < all) sprintf(" %s of %s rows.", format_count(shown), format_count(all)) else ""
}

many_data_part <- function(study) {
  shown <- utils::head(study$outcomes, most_table_rows)
  list(
    doc_paragraph(paste0(capital(design_words(study)), ".")),
    doc_table(
      many_study_cells(study, shown), sprintf("Values compared, %s", many_words(study)),
      paste0("Numbers of values by group, and what was excluded.", shown_words(length(shown), length(study$outcomes)))
    ),
    lapply(study$notes, function(note) doc_paragraph(strong = "Note: ", note))
  )
}

# How many of all stand out in each check.
many_checks_part <- function(answer) {
  table <- answer$table
  if (is.null(answer)) return(NULL)
  counted <- c(
    normality = "p of the test of shape at most its alpha", deviations = "p of the test of spread at most its alpha",
    fences = "with values beyond 1.5 box lengths", order = "serial correlation beyond chance"
  )
  alpha <- answer$settings$check_alpha
  rows <- lapply(names(counted), function(check) {
    own <- table[table$check == check, ]
    known <- if (check == "fences") !is.na(own$estimate) else !is.na(own$p)
    if (!any(known)) return(NULL)
    out <- if (check == "fences") own$estimate > 0 else own$p <= alpha
    key <- if (is.null(own$subgroup)) own$outcome else paste(own$outcome, own$subgroup)
    c(counted[[check]], format_count(length(unique(key[known & out]))), format_count(length(unique(key[known]))))
  })
  rows <- do.call(rbind, rows)
  if (is.null(rows)) return(NULL)
  list(doc_table(
    list(check = rows[, 1], "stand out" = rows[, 2], checked = rows[, 3]), "Checks of all outcomes",
    sprintf(
      paste(
        "Checks at alpha %s each: with so many some stand out by chance. None of them chose the test, and a check that",
        "finds nothing is not evidence that an assumption holds."
      ), format_short(alpha)
    )
  ))
}

many_differences_part <- function(study, difference) {
  table <- difference$table[difference$table$role == "primary", ]
  answered <- if (is.null(table$reason)) table else table[is.na(table$reason), ]
  rows <- if (nrow(answered) > most_table_rows) shown_rows(answered) else answered
  records <- study$outcomes[match(row_names(rows), vapply(study$outcomes, record_name, ""))]
  lost <- unique(table$reason[!is.na(table$reason %||% rep(NA, nrow(table)))])
  list(
    doc_paragraph(many_found_sentence(difference)), doc_figure(autoplot(difference, view = "intervals")),
    doc_table(
      c(many_names(rows, records, study), many_difference_cells(rows, records, NULL)),
      sprintf("Differences, %s", study_direction(study)),
      paste0(
        sprintf("%s%s.", method_label(difference$settings$method[[1]]), many_question_words(difference$settings)),
        shown_words(nrow(rows), nrow(answered)),
        if (length(lost)) sprintf(" No result: %s", paste(utils::head(lost, 10), collapse = " "))
      )
    )
  )
}

# "4 of 12 comparisons have p at most .05; after adjustment by Holm's method, 3 do (Welch's test)."
many_found_sentence <- function(difference) {
  sprintf("%s (%s).", many_counts(difference), method_phrase(difference$settings$method[[1]]))
}

many_counts <- function(difference) {
  table <- difference$table[difference$table$role == "primary" & !is.na(difference$table$p), ]
  count <- function(p) sum(p <= table$alpha, na.rm = TRUE)
  n <- count(table$p)
  kept <- count(table$p_adjusted)
  paste0(
    sprintf(
      "%s of %s comparisons %s p at most %s", format_count(n), format_count(nrow(table)), if (n == 1) "has" else "have",
      sub("^0", "", format_short(difference$settings$alpha))
    ),
    if (any(!is.na(table$p_adjusted))) {
      sprintf(
        "; after adjustment by %s, %s %s", adjust_phrase(difference), format_count(kept),
        if (kept == 1) "does" else "do"
      )
    }
  )
}

many_sizes_part <- function(answers) {
  list(doc_figure(autoplot(answers$difference, view = "overview")))
}

many_equivalence_part <- function(answer) {
  if (is.null(answer)) return(NULL)
  many_table_part(answer, "Equivalence", function(rows, records) many_equivalence_cells(rows, records, NULL))
}

many_evidence_part <- function(answer) {
  if (is.null(answer)) return(NULL)
  many_table_part(answer, "Weight of evidence", function(rows, records) many_evidence_cells(rows))
}

many_table_part <- function(answer, title, cells_of) {
  study <- answer$study
  table <- answer$table
  if (!is.null(table$role)) table <- table[table$role == "primary", ]
  if (!is.null(table$reason)) table <- table[is.na(table$reason), ]
  rows <- utils::head(table, most_table_rows)
  records <- study$outcomes[match(row_names(rows), vapply(study$outcomes, record_name, ""))]
  list(doc_table(
    c(many_names(rows, records, study), cells_of(rows, records)), sprintf("%s, %s", title, study_direction(study)),
    shown_words(nrow(rows), nrow(table))
  ))
}

# Sentences for what is significant, after adjustment where there is one.
many_sentences_part <- function(difference) {
  table <- difference$table[difference$table$role == "primary", ]
  p <- ifelse(is.na(table$p_adjusted), table$p, table$p_adjusted)
  shown <- utils::head(which(p <= table$alpha), 20)
  after <- if (any(!is.na(table$p_adjusted))) " after adjustment" else ""
  if (length(shown) == 0) {
    said <- sprintf("No difference is significant%s; that is no evidence that there is none.", after)
    return(list(doc_paragraph(said)))
  }
  list(
    doc_paragraph(sprintf("Those significant%s:", after)), doc_paragraphs(tell(difference, "journal", NULL)[shown])
  )
}
