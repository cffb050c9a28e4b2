# The parts of a report about one study, as blocks, in the order in which a reader asks.

# `marks` contains text that precedes a part, by name; `wanted` names the parts in their order.
report_parts <- function(study, answers, own, marks = list(), wanted = chapter_parts) {
  if (length(study$outcomes) > most_blocks) return(report_parts_many(study, answers, own, marks, wanted))
  # `of`: the answer that a part is about; `beside`: what to say of other methods where the declared one has no result.
  each <- function(part, of, ..., beside = NULL) {
    lapply(seq_along(study$outcomes), function(i) {
      outcome <- study$outcomes[[i]]
      reason <- if (!is.null(of)) no_result(of, outcome)
      if (is.null(reason)) return(part(i, study = study, ...))
      others <- if (!is.null(beside)) entry_sentences(beside(of, outcome, outcome_decimals(outcome)), "Beside: ")
      list(doc_paragraph(strong = "No result: ", reason), lapply(others, doc_paragraph))
    })
  }
  part <- report_part(own, c(marks, told_marks(answers)), wanted)
  in_order(list(
    part("answer", answer_part(study, answers)),
    part("question", question_parts_of(study, answers)),
    part(
      "data", each(data_part, NULL), small_group_part(study), lapply(study$notes, doc_paragraph, strong = "Note: ")
    ),
    part("description", description_part(study, answers)),
    part("checks", each(assumptions_part, answers$assumptions, answer = answers$assumptions)),
    part("size", each(size_part, answers$effect, answers = answers)),
    part("test", each(test_part, answers$difference, answers = answers, beside = beside_words)),
    part("subgroups", if (!is.null(answers$subgroups)) subgroups_part(answers$subgroups)),
    part(
      "equivalence", if (!is.null(answers$equivalence)) {
        each(equivalence_part, answers$equivalence, answer = answers$equivalence, beside = equivalence_beside_words)
      },
      if (!is.null(answers$bounds)) exploratory_part(answers$bounds, "Other bounds")
    ),
    part(
      "evidence", if (!is.null(answers$evidence)) each(evidence_part, answers$evidence, answer = answers$evidence),
      if (!is.null(answers$priors)) exploratory_part(answers$priors, "Other priors")
    ),
    part("further", lapply(answers$further, further_part, study, answers, each)),
    part("agreement", each(agreement_part, answers$agreement, answer = answers$agreement)),
    part("sentences", sentences_part(answers))
  ), wanted)
}

data_part <- function(i, study) {
  outcome <- study$outcomes[[i]]
  excluded <- excluded_words(study, outcome)
  list(
    doc_paragraph(sprintf(
      "%s; %s: %s.", capital(outcome_title(outcome)), design_words(study), group_size_words(study, outcome)
    )),
    if (!is.null(excluded)) doc_paragraph(strong = "Excluded: ", paste0(excluded, "."))
  )
}

# Whoever knows n, mean and SD of two values knows the values.
told_apart_below <- 5

small_group_part <- function(study) {
  if (study$source == "summary") return(NULL)
  sizes <- vapply(study$outcomes, function(outcome) min(outcome_sizes(outcome)), 0)
  sizes <- sizes[sizes > 0 & sizes < told_apart_below]
  if (length(sizes) == 0) return(NULL)
  doc_paragraph(
    strong = "Small groups: ", sprintf(
      "the smallest has %d %s. Its mean, SD, quartiles and ends say what the single values are, and %s", min(sizes),
      if (min(sizes) == 1) "value" else "values",
      "figures show them: think of that before this report is passed on, where these belong to persons or firms."
    )
  )
}

description_part <- function(study, answers) {
  answer <- answers$description
  c(
    lapply(seq_along(study$outcomes), function(i) {
      outcome <- study$outcomes[[i]]
      cells <- description_cells(answer, outcome, outcome_decimals(outcome))
      list(
        doc_paragraph(tell(answer, "journal", NULL)[[i]]),
        doc_table(
          cells$centre, paste("Means and SDs of", inside_sentence(outcome_title(outcome))),
          sprintf("SE: standard error. Lower, upper: intervals at %s.", description_interval_words(answer))
        ),
        if (!is.null(cells$shape)) {
          doc_table(
            cells$shape, paste("Distribution of", inside_sentence(outcome_title(outcome))),
            "Quartiles q1 and q3 by rule 7 of Hyndman & Fan (1996); skewness G1 and excess kurtosis G2."
          )
        },
        if (length(pair_words(outcome))) doc_paragraph(paste0("Pairs: ", pair_words(outcome), "."))
      )
    }),
    if (bounds_alone(study, answers)) list(doc_figure(paper_figure(answers$difference, answer)))
  )
}

# What a reader needs who reads no further: the sentences, the main figure, one table.
answer_part <- function(study, answers) {
  bounded <- bounds_alone(study, answers)
  records <- if (is.null(study$each)) answered_records(answers$difference)
  list(
    lapply(records, asked_paragraph, study, answers),
    if (bounded) verdict_paragraph(outcome_rows(answers$equivalence, study$outcomes[[1]], "primary")),
    doc_paragraphs(as_text(answer_sentences(answers, study), study)),
    doc_figure(if (bounded) {
      autoplot(answers$equivalence, view = "equivalence")
    } else {
      paper_figure(answers$difference, answers$description)
    }),
    compact_table(study, answers, closing_effect(answers))
  )
}

# Returns the paragraph that answers the question, one element for each outcome.
answer_sentences <- function(answers, study) {
  # If nobody chose effect sizes, the paragraph gives the one that goes with the method.
  method <- answers$difference$settings$method[[1]]
  usual <- setequal(answers$effect$table$estimand, known_here(usual_set(method, study), study))
  effect <- if (usual) closing_effect(answers) else answers$effect
  join_texts(unname(keep_given(c(main_answers(answers), list(effect)))), "journal", NULL)
}

# Returns the answers to what was asked, with the main one first.
main_answers <- function(answers) {
  more <- Filter(function(answer) report_place(answer) %in% c("difference", "equivalence"), answers$further)
  c(list(answers$equivalence %||% answers$difference), more, list(answers$evidence))
}

# Whether one outcome was asked about equivalence: the figure of its bounds is then the main one.
bounds_alone <- function(study, answers) {
  one <- !is.null(answers$equivalence) && length(study$outcomes) == 1
  one && is.null(no_result(answers$equivalence, study$outcomes[[1]]))
}

assumptions_part <- function(i, study, answer) {
  outcome <- study$outcomes[[i]]
  cells <- vet_cells(answer, outcome)
  views <- fitting_vet_views(study, outcome)
  out <- cells$stands_out
  table <- function(at, caption, note = NULL) {
    doc_table(
      list(
        check = cells$check[at], result = cells$value[at], reading = cells$reading[at],
        "matters for" = cells$matters_for[at]
      ),
      paste(caption, inside_sentence(outcome$label)), note
    )
  }
  list(
    doc_paragraph(if (any(out)) "These checks stand out. " else "Nothing stands out in the checks. ", vet_note),
    if (any(out)) table(out, "Checks that stand out for"),
    if (length(views)) doc_figure(autoplot(answer, outcome = outcome)),
    doc_details(
      sprintf("All checks for %s", inside_sentence(outcome$label)),
      table(TRUE, "Assumption checks for", paste0("Sources: ", vet_sources(answer, outcome), "."))
    )
  )
}

size_part <- function(i, study, answers) {
  outcome <- study$outcomes[[i]]
  decimals <- outcome_decimals(outcome)
  effects <- outcome_rows(answers$effect, outcome)
  left_out <- effects_left_out(answers$effect, outcome)
  list(
    doc_paragraph(size_sentence(answers$difference, outcome, "plain", decimals)),
    doc_table(
      effect_cells(answers$effect, outcome, decimals),
      paste0(capital(outcome$label), ": effect size, ", study_direction(study)),
      paste(c(
        paste0("Intervals: ", interval_method_words(answers$effect, effects), "."),
        no_interval_sentence(effects, study),
        if (length(left_out)) paste0("Not given: ", paste(names(left_out), left_out, collapse = "; "), ".")
      ), collapse = " ")
    )
  )
}

test_part <- function(i, study, answers) {
  outcome <- study$outcomes[[i]]
  decimals <- outcome_decimals(outcome)
  rows <- outcome_rows(answers$difference, outcome)
  row <- rows[rows$role == "primary", ]
  bound <- if (row$expect != "either") {
    paste0("Bound: ", one_sided_bound_words(row, row_number(row, outcome, decimals)), ".")
  }
  beside <- if (nrow(rows) > 1) sprintf("Primary method: %s; the others were also run.", method_label(row$method))
  list(
    doc_paragraph(plain_test(row, outcome, study)),
    doc_table(
      test_cells(rows, decimals),
      paste0("Test of H0: ", hypothesis_words(row, outcome, study)[[1]]),
      paste(c(
        statistic_notes(row, answers$difference, outcome, decimals), beside, bound,
        interval_notes(answers$difference, outcome, decimals)
      ), collapse = " ")
    ),
    if (method_is(row, "ranks")) {
      doc_table(
        quartile_cells(answer_detail(answers$difference, outcome, "ranks"), decimals),
        "Quartiles and medians, for description", "Rule 7 of Hyndman & Fan (1996). The test is not one of medians."
      )
    }
  )
}

# One row per method: statistic, p, and the interval of what it estimates.
test_cells <- function(rows, decimals) {
  each <- lapply(seq_len(nrow(rows)), function(i) rows[i, ])
  statistic <- vapply(each, function(row) {
    value <- if (row$statistic_name == "t") {
      format_number(row$statistic)
    } else if (method_is(row, "reassignment")) {
      format_number(row$statistic, decimals)
    } else {
      format_short(row$statistic)
    }
    if (is.na(row$statistic)) "" else paste(row$statistic_name, "=", value)
  }, "")
  c(
    list(
      test = capital_each(method_label(rows$method)), statistic = statistic,
      df = ifelse(is.na(rows$df), "", format_df(rows$df)), p = bare_p(rows$p, alpha = rows$alpha)
    ),
    if (!all(is.na(rows$p_adjusted))) {
      list("p adjusted" = bare_p(rows$p_adjusted, alpha = rows$alpha))
    },
    list(
      interval = vapply(each, beside_interval, "", decimals),
      sides = ifelse(rows$expect == "either", "two", "one")
    )
  )
}

statistic_notes <- function(row, difference, outcome, decimals) {
  if (method_is(row, "reassignment")) return(permutation_statistic_notes(row, difference, outcome, decimals))
  if (!method_is(row, "ranks")) return(sprintf("df: %s.", df_words(row)))
  detail <- answer_detail(difference, outcome, "ranks")
  study <- difference$study
  c(
    sprintf("%s: %s.", capital(row$estimand), estimand_words(row, outcome, study)),
    sprintf("Interval: %s.", rank_interval_words(row, outcome, detail$widest, decimals)),
    if (row$method != "relative") {
      c(paste0(rank_sum_words(row, detail$largest, study), "."), paste0("Critical: ", critical_words(row), "."))
    },
    sprintf("p: %s.", p_source(row)), rank_notes(row, detail, outcome, study, decimals)
  )
}

permutation_statistic_notes <- function(row, difference, outcome, decimals) {
  detail <- answer_detail(difference, outcome, "permutation")
  study <- difference$study
  more <- permuted_estimate_words(row, study, detail)
  c(
    sprintf("Compared: %s%s.", compared_words(row, study), more %||% ""),
    sprintf("Interval: %s.", permutation_interval_words(row, outcome, detail$widest, decimals)),
    sprintf("Counted: %s. Smallest p: %s.", counted_words(row, detail, outcome, study), smallest_words(row)),
    permutation_notes(row, detail, study)
  )
}

agreement_part <- function(i, study, answer) {
  outcome <- study$outcomes[[i]]
  rows <- outcome_rows(answer, outcome)
  # A single method has nothing to agree with.
  if (length(unique(rows$method)) < 2) return(NULL)
  refused <- refused_words(answer, outcome)
  list(
    doc_paragraph(tell(answer, "journal", NULL)[[i]]),
    doc_figure(autoplot(answer, outcome = outcome)),
    doc_table(
      cross_cells(rows, outcome_decimals(outcome), origin_label(answer)),
      capital(cross_question_words(answer, rows, outcome)),
      paste(c(
        sprintf("The verdict of the %s method stands; no method is chosen for its result.", origin_label(answer)),
        if (length(refused)) sprintf("No answer: %s.", refused), cross_notes(answer, rows, outcome)
      ), collapse = " ")
    )
  )
}

sentences_part <- function(answers) {
  told <- c(
    tell(answers$difference, "plain", NULL),
    if (!is.null(answers$equivalence)) equivalence_sentences(answers$equivalence, "plain"),
    tell(answers$effect, "plain", NULL), if (!is.null(answers$evidence)) tell(answers$evidence, "plain", NULL)
  )
  study <- answers$difference$study
  list(
    if (!is.null(study$claim)) {
      list(doc_heading("About the claim"), doc_paragraphs(
        as_text(tell(answers$equivalence %||% answers$difference, "claim", NULL), study)
      ))
    },
    doc_heading("In plain language"), doc_paragraphs(as_text(told, study))
  )
}

# The table of results_table(), from the answer that is there.
compact_table <- function(study, answers, effect) {
  difference <- answers$difference
  doc_table(
    results_cells(study, difference, effect, NULL), study_title(study),
    paste(c(results_notes(study, difference, effect), spread_notes(study, answers$assumptions)), collapse = " ")
  )
}

# The effect size that closes a sentence, from the answer that a report has where that has it.
closing_effect <- function(answers) {
  difference <- answers$difference
  code <- closing_estimand(difference$settings$method[[1]], difference$study)
  table <- answers$effect$table
  kept <- table$estimand == code
  whole <- setequal(unique(row_names(table[kept, ])), unique(row_names(difference$table)))
  if (!whole || !identical(answers$effect$settings$level, difference$settings$level)) {
    return(effect_beside(difference, code))
  }
  with_table(answers$effect, table[kept, ])
}
