# The part of a report about subgroups: their differences side by side, and the test of whether they differ.

subgroups_part <- function(answer) {
  names <- utils::head(unique(answer$table$outcome), most_panels)
  c(
    list(doc_paragraphs(tell(answer, "plain", NULL)), doc_figure(autoplot(answer))),
    lapply(names, function(name) {
      rows <- answer$table[answer$table$outcome == name, ]
      if (nrow(rows) < 3) return(NULL)
      record <- subgroup_record(answer, name)
      doc_table(
        subgroup_pair_cells(rows, record, NULL),
        sprintf("Subgroups two by two, %s", inside_sentence(outcome_title_plain(record))),
        sprintf(
          "Estimate: the difference (%s) of the first less that of the second. %s.%s", study_direction(answer$study),
          all_subgroups_words(rows[1, ]),
          if (all(is.na(rows$p_adjusted[-1]))) "" else sprintf(" Adjusted over the pairs by %s.", adjust_phrase(answer))
        )
      )
    })
  )
}
