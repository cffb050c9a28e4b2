# A report also has room for other bounds and priors, for a second answer of a verb, and for answers side by side.

# Reports bounds or priors that were tried after looking: a sentence, the figure, and the rows that print() shows.
exploratory_part <- function(answer, heading) {
  outcome <- answer$study$outcomes[[1]]
  cells <- if (inherits(answer, "vandro_bounds")) {
    other_bounds_cells(answer, outcome_decimals(outcome))
  } else {
    other_priors_cells(answer)
  }
  shown <- sprintf("%d of %d rows.", length(cells[[1]]), nrow(answer$table))
  list(
    doc_heading(heading), doc_paragraphs(as_text(tell(answer, "journal", NULL), answer$study)),
    doc_figure(autoplot(answer)),
    doc_table(
      cells, sprintf("%s: %s", heading, inside_sentence(outcome$label)),
      if (inherits(answer, "vandro_bounds")) paste(shown, exploratory_note) else shown
    )
  )
}

# Reports a second answer of a verb under a heading that names its question. `each` comes from report_parts().
further_part <- function(answer, study, answers, each) {
  place <- report_place(answer)
  with_it <- answers
  with_it[[place]] <- answer
  list(
    doc_heading(further_heading(answer, answers)),
    if (place %in% c("difference", "equivalence", "evidence")) {
      doc_paragraphs(as_text(tell(answer, "journal", NULL), study))
    },
    switch(place,
      description = description_part(study, with_it), subgroups = subgroups_part(answer),
      assumptions = each(assumptions_part, answer, answer = answer),
      effect = each(size_part, answer, answers = with_it),
      difference = each(test_part, answer, answers = with_it, beside = beside_words),
      equivalence = each(equivalence_part, answer, answer = answer, beside = equivalence_beside_words),
      evidence = each(evidence_part, answer, answer = answer),
      agreement = each(agreement_part, answer, answer = answer)
    )
  )
}

# "Equivalence: within -0.6 to 0.6", or the name that the analyst gave.
further_heading <- function(answer, answers) {
  if (!is.null(answer$told_as)) return(answer$told_as)
  place <- report_place(answer)
  heading <- part_headings[[place_parts[[place]]]]
  s <- answer$settings
  asked <- setdiff(names(s), c("verb", "version", "method", "method_from", "seed", "reason"))
  differs <- Filter(function(name) !identical(s[[name]], answers[[place]]$settings[[name]]), asked)
  said <- c(
    if (!identical(s$method, answers[[place]]$settings$method)) paste(method_label(s$method), collapse = ", "),
    sprintf("%s %s", gsub("_", " ", differs), vapply(s[differs], setting_text, ""))
  )
  paste0(heading, if (length(said)) ": ", paste(said, collapse = ", "))
}

# Returns the names that the analyst gave to the main answers; they precede the parts.
told_marks <- function(answers) {
  main <- keep_given(answers[setdiff(names(answers), "further")])
  named <- Filter(function(answer) !is.null(answer$told_as), main)
  stats::setNames(lapply(named, `[[`, "told_as"), place_parts[names(named)])
}

many_further_part <- function(answer, answers) {
  place <- report_place(answer)
  list(
    doc_heading(further_heading(answer, answers)),
    switch(place,
      difference = many_differences_part(answer$study, answer), equivalence = many_equivalence_part(answer),
      evidence = many_evidence_part(answer), assumptions = many_checks_part(answer),
      subgroups = subgroups_part(answer), doc_paragraphs(as_text(tell(answer, "plain", NULL), answer$study))
    )
  )
}

# Reports answers of compare_answers(), which may concern several studies.
compared_section <- function(compared) {
  each <- lapply(seq_along(compared), function(i) {
    answer <- compared[[i]]
    names <- answer$settings$answers
    table <- function(part, caption, note = NULL) {
      rows <- answer$table[answer$table$part == part, ]
      doc_table(comparison_cells(rows, names, comparison_decimals(answer, NULL)), caption, note)
    }
    title <- paste(names, collapse = ", ")
    marked <- "A star marks what differs."
    list(
      if (any(nzchar(names(compared)[i]))) doc_heading(names(compared)[[i]]),
      doc_paragraphs(as_text(tell(answer, "journal", NULL), answer$study)),
      if (!is.null(comparison_data(answer))) doc_figure(autoplot(answer)),
      table("found", paste("What was found,", title), marked),
      doc_details("What was asked of each", table("asked", paste("What was asked,", title), marked))
    )
  })
  if (length(each)) doc_section(part_headings[["compared"]], each)
}
