# A report of several studies opens with a table of all results and a paragraph for each study.

# `standing` contains a word for each comparison and question of a plan.
answers_section <- function(chapters, standing = NULL) {
  paragraphs <- lapply(names(chapters), function(name) {
    answers <- chapters[[name]]
    study <- answers$difference$study
    doc_paragraph(strong = paste0(sub("[.?!]$", "", name), ". "), paste(answer_texts(answers, study), collapse = " "))
  })
  rows <- unlist(lapply(names(chapters), function(name) answer_rows(name, chapters[[name]], standing)), FALSE)
  names <- names(rows[[1]])
  cells <- lapply(stats::setNames(nm = names), function(name) vapply(rows, `[[`, "", name))
  cells <- cells[vapply(cells, function(column) any(nzchar(column)), NA)]
  note <- if (length(chapters) > 1) "Each comparison has a chapter below."
  doc_section("Answers", doc_table(cells, "What was found", note), paragraphs)
}

# The overview uses plain language, because each chapter opens with sentences for a paper. With many outcomes it counts
# results.
answer_texts <- function(answers, study) {
  if (length(study$outcomes) > most_blocks) return(many_found_sentence(answers$difference))
  as_text(join_texts(unname(keep_given(main_answers(answers))), "plain", NULL), study)
}

# Returns a row for each outcome, or one row if there are many.
answer_rows <- function(name, answers, standing) {
  study <- answers$difference$study
  main <- answers$equivalence %||% answers$difference
  question <- if (is.null(answers$equivalence)) "difference" else "equivalence"
  if (length(study$outcomes) > most_blocks) {
    row <- answer_row(name, many_title(study), answers$difference, question, standing)
    row$found <- many_counts(answers$difference)
    return(list(row))
  }
  closing <- closing_effect(answers)
  lapply(study$outcomes, function(outcome) {
    row <- answer_row(name, if (length(study$outcomes) > 1) outcome$label else "", main, question, standing)
    n <- vapply(outcome_sizes(outcome), format_count, "")
    row$n <- if (is_paired(study)) paste(n[[1]], "pairs") else paste(n, collapse = " + ")
    if (!is.null(no_result(main, outcome))) {
      row$found <- "no result"
      return(row)
    }
    found <- outcome_rows(main, outcome, "primary")
    decimals <- row_decimals(found, outcome_decimals(outcome))
    row$found <- found_cell(found, study, decimals, in_outcome_unit(found), outcome)
    row$p <- bare_p(found$p, alpha = found$alpha)
    if (!is.null(found$p_adjusted) && !is.na(found$p_adjusted)) {
      row[["p adjusted"]] <- bare_p(found$p_adjusted, alpha = found$alpha)
    }
    size <- outcome_rows(closing, outcome)
    if (size$estimand != found$estimand) {
      row[["effect size"]] <- found_cell(size, study, if (in_outcome_unit(size)) decimals else 2, FALSE, outcome)
    }
    row$verdict <- found$verdict %||% ""
    row
  })
}

answer_row <- function(name, outcome, main, question, standing) {
  list(
    comparison = name, outcome = outcome, found = "", p = "", "p adjusted" = "", verdict = "", "effect size" = "",
    n = "", question = main_question(main, question),
    standing = if (is.null(standing)) "" else standing[[name]][[question]] %||% ""
  )
}

# "equivalence within -0.5 to 0.5", "difference, higher expected".
main_question <- function(main, question) {
  s <- main$settings
  if (question == "equivalence") return(paste("equivalence within", setting_text(s$within)))
  if (identical(s$expect, "either")) question else sprintf("%s, %s expected", question, s$expect)
}

# "mean difference 3.46 cm, 95% CI [1.89, 5.02]"
found_cell <- function(row, study, decimals, with_unit, outcome) {
  number <- format_number(c(row$estimate, row$lower, row$upper), decimals)
  estimate <- if (with_unit) with_unit(number[[1]], difference_unit(outcome)) else number[[1]]
  limits <- if (all(nzchar(number[-1]))) {
    sprintf(", %s CI [%s%s %s]", format_percent(row$level), number[[2]], limit_separator(), number[[3]])
  }
  paste0(effect_names(row$estimand, study), " ", estimate, limits)
}
