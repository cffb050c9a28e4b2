# What was done, in the words of a methods section, and the sources of just that.

# One sentence about the method of one row of an answer about a difference.
method_text <- function(row, paired, detail = NULL) {
  switch(row$method,
    welch = paste(
      "The difference of the two means was tested by Welch's test, which does not assume equal spread (Welch 1947;",
      "degrees of freedom after Satterthwaite 1946), with the interval from the same standard error and t distribution."
    ),
    student = paste(
      "The difference of the two means was tested by Student's test with the pooled variance (Student 1908; Fisher",
      "1925), which assumes equal spread, with the interval from the same standard error and t distribution."
    ),
    paired = paste(
      "The mean of the changes was tested by the paired t test (Student 1908), with the interval from the same",
      "standard error and t distribution on one degree of freedom less than there are pairs."
    ),
    ranks = sprintf(
      paste(
        "The two distributions were compared by ranks (Mann & Whitney 1947), p from %s; the shift was estimated by the",
        "middle of all pairwise differences (Hodges & Lehmann 1963) with an interval from the same distribution",
        "(Lehmann 1975)."
      ), rank_distribution(row, detail)
    ),
    signed_ranks = sprintf(
      paste(
        "The centre of the changes was tested by their signed ranks (Wilcoxon 1945), p from %s; it was estimated by",
        "the middle of all means of two changes (Hodges & Lehmann 1963) with an interval from the same distribution",
        "(Lehmann 1975)."
      ), rank_distribution(row, detail)
    ),
    relative = relative_method_text(row),
    permutation = permutation_method_text(row, paired)
  )
}

rank_distribution <- function(row, detail) {
  if (row$p_kind != "exact") return("its normal approximation")
  if (isTRUE(detail$tied > 0)) {
    "its exact distribution given the midranks (Streitberg & Roehmel 1986)"
  } else {
    "its exact distribution"
  }
}

relative_method_text <- function(row) {
  sprintf(
    "The chance of a higher value was tested with variances of its own in both groups (Brunner & Munzel 2000)%s.",
    if (row$p_kind == "asymptotic") {
      ", with the interval on the logit scale"
    } else {
      paste(
        ", p from assignments of the values to the groups (Neubert & Brunner 2007), with the interval from the same",
        "assignments (Pauly et al. 2016)"
      )
    }
  )
}

permutation_method_text <- function(row, paired) {
  how <- switch(row$p_kind,
    simulated = "at random (simulated p: Phipson & Smyth 2010)", bracketed = "in every way, p within a bracket",
    "in every way"
  )
  paste0(
    sprintf(
      paste(
        "The difference was tested by permutation (Fisher 1935; Pitman 1937): what chance could have assigned",
        "otherwise was reassigned %s, with the interval from the same reassignments."
      ), how
    ),
    if (row$statistic_name == "t" && !paired) {
      paste(
        " Welch's t under reassignment keeps its level in large samples whatever the spreads (Janssen 1997; Chung &",
        "Romano 2013)."
      )
    }
  )
}

# What a method beside the declared one is cited by.
beside_citations <- c(
  welch = "Welch 1947", student = "Student 1908", paired = "Student 1908", ranks = "Mann & Whitney 1947",
  relative = "Brunner & Munzel 2000", signed_ranks = "Wilcoxon 1945", permutation = "Fisher 1935"
)

equivalence_method_text <- paste(
  "Equivalence was tested by two one-sided tests against the declared bounds (Schuirmann 1987), each at alpha, with",
  "the interval at 1 - 2 alpha that decides as they do."
)

# Of each outcome the sentence about the declared method, each once.
difference_method_texts <- function(x) {
  unique(vapply(answered_records(x), function(outcome) {
    row <- outcome_rows(x, outcome, "primary")
    method_text(row, is_paired(x$study), if (is_rank_row(row)) answer_detail(x, outcome, "ranks"))
  }, ""))
}

# What the notes about ranks and permutations cite.
rank_note_texts <- function(difference) {
  unlist(lapply(answered_records(difference), function(outcome) {
    row <- outcome_rows(difference, outcome, "primary")
    if (is_permutation_row(row)) {
      return(permutation_notes(row, answer_detail(difference, outcome, "permutation"), outcome, difference$study))
    }
    if (is_rank_row(row)) rank_notes(row, answer_detail(difference, outcome, "ranks"), outcome, difference$study, 2)
  }))
}

# Text that names, by author and year, everything an answer rests on.
answer_citations <- function(x) {
  paste(unlist(switch(sub("^vandro_", "", class(x)[[1]]),
    difference = c(
      difference_method_texts(x), rank_note_texts(x), beside_citations[x$table$method[x$table$role == "beside"]],
      if (any(!is.na(x$table$p_adjusted))) adjust_citations[[x$settings$adjust %||% "holm"]]
    ),
    equivalence = c(
      equivalence_method_text, difference_method_texts(difference_of(x)),
      beside_citations[x$table$method[x$table$role == "beside"]],
      if (any(!is.na(x$table$p_adjusted))) adjust_citations[[x$settings$adjust %||% "holm"]]
    ),
    subgroups = c(
      if (x$settings$method == "student") "Fisher 1925" else "Welch 1951",
      if (any(!is.na(x$table$p_adjusted))) adjust_citations[[x$settings$adjust]]
    ),
    cross_check = c(
      beside_citations[x$table$method], if ("without flagged" %in% x$table$values) "Tukey 1977",
      if (!is.null(x$table$bound_low)) "Schuirmann 1987"
    ),
    evidence = , priors = c(evidence_method_text(x$settings), x$settings$strength_source),
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
  "nor that the result came about by chance, and a large p is no evidence that there is no difference",
  "(Wasserstein & Lazar 2016)."
)

confidence_explanation <- paste(
  "About the confidence interval: it comes from a procedure that, where its assumptions hold, covers the true value in",
  "%s of all studies. That is said of the procedure; it is not the probability that this one interval holds the true",
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
