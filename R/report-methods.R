# What was done, in the words of a methods section, and the sources of just that.

# One sentence about the method of one row of an answer about a difference.
method_sentences <- function(row, paired, detail = NULL) {
  text <- method_fact(row$method, "text")
  if (is.function(text)) return(text(row, paired))
  fill_slots(text, distribution = rank_distribution(row, detail))
}

rank_distribution <- function(row, detail) {
  if (row$p_kind != "exact") return("its normal approximation")
  if (isTRUE(detail$tied > 0)) {
    "its exact distribution given the midranks (Streitberg & Roehmel 1986)"
  } else {
    "its exact distribution"
  }
}

equivalence_method_sentences <- paste(
  "Equivalence was tested by two one-sided tests against the declared bounds (Schuirmann 1987), each at alpha, with",
  "the interval at 1 - 2 alpha that decides as they do."
)

# Of each outcome the sentence about the declared method, each once.
difference_method_texts <- function(x) {
  unique(vapply(answered_records(x), function(outcome) {
    row <- outcome_rows(x, outcome, "primary")
    method_sentences(row, is_paired(x$study), if (method_is(row, "ranks")) answer_detail(x, outcome, "ranks"))
  }, ""))
}

# What the notes about ranks and permutations cite.
rank_note_texts <- function(difference) {
  unlist(lapply(answered_records(difference), function(outcome) {
    row <- outcome_rows(difference, outcome, "primary")
    if (method_is(row, "reassignment")) {
      return(permutation_notes(row, answer_detail(difference, outcome, "permutation"), difference$study))
    }
    if (method_is(row, "ranks")) {
      rank_notes(row, answer_detail(difference, outcome, "ranks"), outcome, difference$study, 2)
    }
  }))
}

# Text that names, by author and year, everything an answer rests on.
answer_citations <- function(x) {
  paste(unlist(switch(sub("^vandro_", "", class(x)[[1]]),
    difference = c(
      difference_method_texts(x), rank_note_texts(x), method_facts(x$table$method[x$table$role == "beside"], "source"),
      if (any(!is.na(x$table$p_adjusted))) adjust_citations[[x$settings$adjust %||% "holm"]]
    ),
    equivalence = c(
      equivalence_method_sentences, difference_method_texts(difference_of(x)),
      method_facts(x$table$method[x$table$role == "beside"], "source"),
      if (any(!is.na(x$table$p_adjusted))) adjust_citations[[x$settings$adjust %||% "holm"]]
    ),
    subgroups = c(
      if (x$settings$method == "student") "Fisher 1925" else "Welch 1951",
      if (any(!is.na(x$table$p_adjusted))) adjust_citations[[x$settings$adjust]]
    ),
    cross_check = c(
      method_facts(x$table$method, "source"), if ("without flagged" %in% x$table$values) "Tukey 1977",
      if (!is.null(x$table$bound_low)) "Schuirmann 1987"
    ),
    evidence = , priors = c(evidence_method_sentences(x$settings), x$settings$strength_source),
    effect = c(x$table$source, x$table$size_source), assumptions = x$table$source,
    description = if (!is.null(x$table$median)) "Hyndman & Fan 1996"
  )), collapse = "; ")
}

# Full references of all that is cited in a text.
references_in <- function(text) {
  text <- paste(text, collapse = "; ")
  unname(report_sources[vapply(names(report_sources), grepl, NA, text, fixed = TRUE)])
}

# --- notes of a text -----------------------------------------------------------------------------------

# "Sources: ..." of a text of `answers`; of the rules of writing where they are the default.
sources_sentence <- function(answers, voice, style, explain) {
  cited <- c(
    vapply(answers, answer_citations, ""), if (explain) explanations(answers),
    if (voice != "plain" && is.null(style)) "American Psychological Association 2020"
  )
  references <- references_in(cited)
  if (length(references)) paste("Sources:", paste(references, collapse = " "))
}

# What the kinds of numbers in `answers` are and are not.
explanations <- function(answers) {
  tables <- lapply(answers, `[[`, "table")
  has <- function(name) any(vapply(tables, function(table) any(!is.na(table[[name]])), NA))
  bayes <- vapply(answers, inherits, NA, c("vandro_evidence", "vandro_priors"))
  levels <- function(which) {
    found <- unique(unlist(lapply(tables[which], function(table) table$level[!is.na(table$lower)])))
    paste(format_percent(found), collapse = " or ")
  }
  interval <- function(which) any(vapply(tables[which], function(table) any(!is.na(table$lower)), NA))
  c(
    if (any(!bayes) && has("p")) p_explanation,
    if (any(!bayes) && interval(!bayes)) sprintf(confidence_explanation, levels(!bayes), levels(!bayes)),
    if (any(bayes)) c(
      if (has("log_bf")) factor_explanation, if (interval(bayes)) sprintf(credible_explanation, levels(bayes))
    )
  )
}

p_explanation <- paste(
  "About p: computed as if the null hypothesis and all assumptions of the test were true, it is the probability of a",
  "result at least as far from that hypothesis as the one seen. It is not the probability that the hypothesis is true,",
  "nor that the result came about by chance, and a large p-value is not evidence that there is no difference",
  "(Wasserstein & Lazar 2016)."
)

confidence_explanation <- paste(
  "About the confidence interval: it comes from a procedure that, where its assumptions hold, covers the true value in",
  "%s of all studies. This describes the procedure; it is not the probability that this one interval contains the true",
  "value, nor a range for %s of the measurements (Neyman 1937)."
)

factor_explanation <- paste(
  "About the Bayes factor: it says how many times as probable the data are under one hypothesis as under the other,",
  "given the prior of the effect. It is not the probability of either hypothesis (Jeffreys 1961)."
)

credible_explanation <- paste(
  "About the credible interval: given the data, the model and the prior, the effect lies in it with a probability",
  "of %s."
)

evidence_method_sentences <- function(s) {
  usual <- s$prior_location == 0 && s$prior_df == 1
  sprintf(
    paste(
      "The weight of evidence is the Bayes factor of a standardized effect with the declared prior against none",
      "(Jeffreys 1961; Rouder et al. 2009%s)."
    ),
    if (usual) "" else "; a prior with a location or more degrees of freedom: Gronau et al. 2020"
  )
}
