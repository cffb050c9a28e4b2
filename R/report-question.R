# This file names the parts of a report, frames them, and writes the question.

# Returns a function that makes sections. It does not compute a part that is not wanted. A part that would be empty
# appears if the analyst gave text for it.
report_part <- function(own, marks, wanted = chapter_parts) {
  function(name, ...) {
    if (!name %in% wanted) return(NULL)
    said <- doc_blocks(...)
    if (length(said) == 0 && is.null(own[[name]])) return(NULL)
    mark <- if (!is.null(marks[[name]])) doc_paragraph(strong = marks[[name]])
    part <- doc_section(part_headings[[name]], mark, said, doc_own_text(own[[name]]))
    part$part <- name
    part
  }
}

# Sorts sections into the order that was asked for.
in_order <- function(sections, wanted) {
  sections <- doc_blocks(sections)
  sections[order(match(vapply(sections, `[[`, "", "part"), wanted))]
}

# Parts are chosen, and get text of the analyst, by these names.
part_headings <- c(
  answer = "Answer", question = "Question", data = "Data", description = "Description", checks = "Checks",
  size = "Size of the difference", test = "Test", subgroups = "Between subgroups", equivalence = "Equivalence",
  evidence = "Weight of evidence", further = "Further questions", agreement = "Agreement of the methods",
  sentences = "Sentences", compared = "Answers side by side", conclusion = "Conclusion",
  meaning = "What the numbers are, and are not", methods = "How it was computed", conventions = "House conventions",
  settings = "Settings", again = "How to run it again"
)
end_parts <- c("compared", "conclusion", "meaning", "methods", "conventions", "settings", "again")
chapter_parts <- setdiff(names(part_headings), end_parts)

# Returns the wanted parts in their order: the named ones, or all except those with a minus.
check_parts <- function(parts, call = rlang::caller_env()) {
  all <- names(part_headings)
  if (is.null(parts)) return(all)
  if (!is.character(parts) || length(parts) == 0 || anyNA(parts)) {
    abort_value(parts, "parts", "must name parts of a report", "parts = c(\"answer\", \"test\")", call)
  }
  less <- startsWith(parts, "-")
  for (name in sub("^-", "", parts)) check_choice(name, all, arg = "parts", call = call)
  if (any(less) && !all(less)) {
    abort_vandro(
      c(
        "{.arg parts} either names what is wanted or, with a minus, what is left out.",
        "x" = "{.val {parts[less][[1]]}} and {.val {parts[!less][[1]]}} stand together.",
        "i" = "Write {.code parts = c({paste0('\"', parts[!less], '\"', collapse = ', ')})}."
      ),
      "contradiction",
      arg = "parts", call = call
    )
  }
  if (any(less)) setdiff(all, sub("^-", "", parts)) else unique(parts)
}

# `name`: what the question is about, where no answer above has asked it.
question_part <- function(outcome, study, answers, name = NULL) {
  difference <- answers$difference
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
    if (!is.null(name)) asked_paragraph(outcome, study, answers, name),
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

asked_paragraph <- function(outcome, study, answers, name = inside_sentence(outcome$label)) {
  row <- outcome_rows(answers$difference, outcome, "primary")
  doc_paragraph(strong = "Question: ", asked_question(row, outcome, study, answers, name))
}

# The question that was asked: about bounds, one direction, or either.
asked_question <- function(row, outcome, study, answers, name) {
  bounded <- answers$equivalence
  main <- if (!is.null(bounded)) {
    row <- outcome_rows(bounded, outcome, "primary")
    sprintf(
      "Is the difference in %s between %s and %s small enough to lie within the bounds (%s)?", name, study$groups[[1]],
      study$groups[[2]], bounds_text(row, outcome, equivalence_decimals(row, outcome_decimals(outcome)))
    )
  } else if (row$expect != "either") {
    what <- if (method_is(row, "ranks")) "Do values of %s tend to be %s, and by how much?" else
      "Is the mean of %s %s, and by how much?"
    sprintf(what, name, directed_words(row, outcome, study))
  } else {
    sprintf(
      "Do %s and %s differ in %s, by how much, and how precise is the estimate?", study$groups[[1]],
      study$groups[[2]], name
    )
  }
  if (is.null(answers$evidence)) main else paste(main, "How strongly do the data support a difference, or none?")
}

# One for each outcome; where there are subgroups, or many, one for all.
question_parts_of <- function(study, answers) {
  records <- answered_records(answers$difference)
  if (is.null(study$each) && length(records) <= most_blocks) return(lapply(records, question_part, study, answers))
  list(question_part(records[[1]], study, answers, inside_sentence(many_title(study))))
}
