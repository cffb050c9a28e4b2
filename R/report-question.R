# The question of a report, and the frame of its parts.

report_part <- function(own, marks) {
  function(name, heading, ...) {
    said <- doc_blocks(...)
    mark <- if (!is.null(marks[[name]])) doc_paragraph(strong = marks[[name]])
    if (length(said)) doc_section(heading, mark, said, doc_own_text(own[[name]]))
  }
}

question_part <- function(outcome, study, difference, name = capital(outcome$label)) {
  row <- outcome_rows(difference, outcome, "primary")
  reason <- difference$settings$reason
  expected <- if (row$expect == "either") {
    "Either direction was of interest."
  } else {
    sprintf(
      "Declared: %s is expected to be %s. Reason: %s.", study$groups[[1]], row$expect,
      if (is.null(reason)) "none on record" else sub("[.]$", "", reason)
    )
  }
  hypotheses <- hypothesis_words(row, outcome, study)
  claim <- claim_words(study)
  list(
    doc_paragraph(sprintf(
      "%s: do %s and %s differ, by how much, and how precise is the estimate?", name, study$groups[[1]],
      study$groups[[2]]
    )),
    doc_paragraph(strong = "Direction: ", paste0(study_direction(study), ". "), expected),
    doc_paragraph(
      strong = "H0: ", paste0(hypotheses[[1]], ". "), strong = "H1: ", paste0(hypotheses[[2]], ".")
    ),
    if (!is.null(claim)) doc_paragraph(strong = "Claim: ", claim),
    doc_paragraph(strong = "Assignment: ", if (is.null(study$assigned)) {
      "random assignment was not declared, so no causal wording is used."
    } else {
      paste0(assigned_words(study), ".")
    })
  )
}

# One for each outcome; where there are subgroups, or many, one for all.
question_parts_of <- function(study, difference) {
  records <- answered_records(difference)
  if (is.null(study$each) && length(records) <= most_blocks) return(lapply(records, question_part, study, difference))
  list(question_part(records[[1]], study, difference, many_title(study)))
}
