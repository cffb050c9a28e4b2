#' Sentences for a paper, from an answer
#'
#' Writes what was found: size and interval first, then the test. The direction is always named. A large p is never
#' turned into "no difference": the sentence then says which differences are still compatible with the data.
#'
#' @param x A study, an answer of any verb, or a list of answers about one study, which become one paragraph. A study is
#'   tested by the default method of its design, and the paragraph closes with the effect size that goes with it.
#' @param ... For a study: arguments of [test_difference()]. Otherwise must be empty.
#' @param voice `"journal"`: statistics as the Publication Manual of the American Psychological Association (2020,
#'   sections 6.36 and 6.43) has them: no leading zero in p, p to three decimals or as an inequality. `"plain"`: for
#'   readers who do not read statistics. `"claim"`, of a study, [test_difference()] or [test_equivalence()]: whether
#'   there is enough evidence to support, or to reject, the study's claim (`claim =` of [versus()]; left out, that there
#'   is a difference, with bounds that there is none beyond them).
#' @param estimands Which effect sizes close the paragraph about a study or a tested difference: codes of
#'   [gauge_effect()]. If `NULL` (the default), a study has the one that goes with its method, an answer none.
#' @param decimals Decimals of numbers in the outcome's unit; see [print.vandro_study()].
#' @param style How numbers are written, from [number_style()].
#' @param explain `TRUE` adds what p, confidence and credible intervals and the Bayes factor are, and are not, in fixed
#'   words; only of what the answer holds.
#' @param sources `TRUE` adds the sources of the methods, effect sizes, words and rules of writing that were used, and
#'   of no others.
#' @return A character vector with one element per outcome (class `vandro_text`), then those of `explain` and `sources`;
#'   printing wraps it. Every number in it is one of the answer's, rounded.
#' @section Claims: Where equality is on the side of the null hypothesis, a claim of a difference can be supported and
#'   one of sameness can only be rejected; within bounds ([test_equivalence()]) it is the other way round. So there are
#'   four sentences: enough evidence to support, or not; enough to reject, or not. Not enough to reject is said not to
#'   be evidence for it. Of several outcomes the adjusted p decides.
#' @section Causes: Only a study declared with `assigned = TRUE` ([versus()]) is told in words of cause ("raised"), and
#'   only where the interval, or the test, excludes no effect. `assigned = FALSE` adds that other causes are possible.
#' @section Errors: `vandro_error_not_an_answer`, `vandro_error_bad_value`, and for a study those of
#'   [test_difference()].
#' @references American Psychological Association (2020). *Publication manual*, 7th ed.
#'
#'   Neyman, J. (1937). Outline of a theory of statistical estimation based on the classical theory of probability.
#'   *Philosophical Transactions of the Royal Society A* 236, 333-380.
#'
#'   Wasserstein, R. L. & Lazar, N. A. (2016). The ASA statement on p-values: context, process, and purpose. *The
#'   American Statistician* 70, 129-133.
#' @examples
#' study <- versus(seedlings, height, substrate,
#'   groups = c("compost", "peat"), unit = "cm", label = "Stem height", assigned = TRUE
#' )
#' narrate(study, sources = TRUE)
#' narrate(test_difference(study), voice = "plain", explain = TRUE)
#' narrate(study, voice = "claim")
#' narrate(study, style = number_style(leading_zero = TRUE, decimal_mark = ","))
#' @export
narrate <- function(x, ..., voice = c("journal", "plain", "claim"), estimands = NULL, decimals = NULL, style = NULL,
                    explain = FALSE, sources = FALSE) {
  check_supplied(x)
  voice <- check_choice(voice, c("journal", "plain", "claim"))
  decimals <- check_decimals(decimals)
  style <- check_style(style)
  check_flag(explain)
  check_flag(sources)
  answers <- if (inherits(x, "vandro_study")) {
    asked_answers(x, ..., estimands = estimands)
  } else {
    refuse_more(...)
    given_answers(x, voice, estimands)
  }
  with_style(style, {
    told <- join_texts(answers, voice, decimals)
    text <- as_text(told, answers[[1]]$study)
    structure(c(
      text, if (explain) explanations(answers), if (sources) sources_sentence(answers, voice, style, explain)
    ), class = "vandro_text")
  })
}

# One answer, or several about the same study, with the effect sizes that were asked for.
given_answers <- function(x, voice, estimands, call = rlang::caller_env()) {
  answers <- if (inherits(x, "vandro_answer") || !is.list(x)) list(x) else unname(x)
  if (length(answers) == 0) check_narrated(x, voice, call)
  for (answer in answers) check_narrated(answer, voice, call)
  # One answer needs no look at its data.
  prints <- if (length(answers) > 1) vapply(answers, function(answer) study_fingerprint(answer$study), "")
  if (length(unique(prints)) > 1) {
    abort_vandro(
      c(
        "The answers in a list must be about one study.", "x" = "They are about {length(unique(prints))} studies.",
        "i" = "Call {.fn narrate} for each study."
      ),
      "bad_value",
      arg = "x", call = call
    )
  }
  if (is.null(estimands)) return(answers)
  at <- which(vapply(answers, inherits, NA, "vandro_difference"))
  if (length(at) == 0) {
    abort_vandro(
      c(
        "{.arg estimands} closes the paragraph about a tested difference.",
        "i" = "Give a study, an answer of {.fn test_difference}, or an answer of {.fn gauge_effect} in the list."
      ),
      "contradiction",
      call = call
    )
  }
  c(answers, list(effect_beside(answers[[at[[1]]]], estimands)))
}

# The texts of several answers outcome by outcome. A sentence, or a reason for having no answer, appears once.
join_texts <- function(answers, voice, decimals) {
  texts <- lapply(answers, tell, voice = voice, decimals = decimals)
  # Some verbs give a text for each subgroup or design, not for each outcome.
  if (length(unique(lengths(texts))) > 1) return(unlist(texts))
  if (length(answers) == 1) return(texts[[1]])
  told <- vapply(seq_along(texts[[1]]), function(i) once_each(vapply(texts, `[[`, "", i)), "")
  pair <- inherits(answers[[1]], "vandro_difference") && inherits(answers[[length(answers)]], "vandro_effect")
  if (voice == "journal" && pair) told <- paste0(told, parted_effects(answers[[1]], answers[[length(answers)]]))
  lost <- which(!vapply(answers[[1]]$study$outcomes, function(outcome) is.null(no_result(answers[[1]], outcome)), NA))
  told[lost] <- texts[[1]][lost]
  told
}

# Texts in a row, each without the sentences that an earlier one has.
once_each <- function(texts) {
  said <- character()
  parts <- lapply(texts, function(text) {
    sentences <- strsplit(text, "(?<=[.]) (?=[[:upper:]])", perl = TRUE)[[1]]
    new <- sentences[!sentences %in% said]
    said <<- c(said, new)
    paste(new, collapse = " ")
  })
  paste(Filter(nzchar, parts), collapse = " ")
}

# The test of a study and the effect sizes that close the paragraph.
asked_answers <- function(study, ..., estimands = NULL) {
  difference <- test_difference(study, ...)
  closing <- estimands %||% closing_estimand(difference$settings$method[[1]], study)
  list(difference, effect_beside(difference, closing))
}

check_narrated <- function(x, voice, call = rlang::caller_env()) {
  found <- class(x)[[1]]
  if (!inherits(x, "vandro_answer")) {
    abort_vandro(
      c(
        "{.arg x} must be a study or an answer.", "x" = "It is of type {.cls {found}}.",
        "i" = "Declare a comparison with {.fn versus} first."
      ),
      "not_an_answer",
      call = call
    )
  }
  if (voice != "claim" || inherits(x, c("vandro_difference", "vandro_equivalence"))) return(invisible())
  abort_vandro(
    c(
      "Voice {.val claim} needs a test that decides.", "x" = "{.arg x} is of type {.cls {found}}.",
      "i" = "Give a study, or an answer of {.fn test_difference} or {.fn test_equivalence}."
    ),
    "bad_value",
    arg = "voice", call = call
  )
}

# The standardized effect that goes with the primary method: no pooled SD where spreads may differ.
closing_estimand <- function(method, study) {
  codes <- intersect(c(method_fact(method, "closing", study), rev(usual_set(method, study))), offered_here(study))
  known_here(codes, study)[[1]]
}

#' @exportS3Method
tell.vandro_difference <- function(x, voice, decimals, ...) {
  if (voice == "claim") return(claim_sentences(x, decimals))
  text <- narrate_rows(x, difference_sentence, voice, decimals)
  reason <- x$settings$reason
  why <- if (is.null(reason) || voice == "plain") {
    ""
  } else {
    sprintf(" Reason for asking in one direction: %s.", sub("[.]$", "", reason))
  }
  blocks <- unused_blocks_sentence(x$study, x$settings$method[[1]])
  if (!is.null(blocks) && voice == "journal") why <- paste0(why, " ", blocks)
  why <- paste0(why, dependence_sentences(x, voice))
  paste0(text, why, beside_sentences(x, voice), excluded_sentences(x), draws_sentence(x, voice))
}

# What a reader must know about the order, after a blank.
dependence_sentences <- function(x, voice) {
  narrate_outcomes(x, function(outcome) {
    text <- dependence_sentence(x, outcome, voice)
    if (is.null(text)) "" else paste0(" ", text)
  }, instead = "")
}

# " Alongside Welch's test, Student's t(45) = 4.43, p < .001, leads to the same decision."
beside_sentences <- function(x, voice) {
  vapply(x$study$outcomes, function(outcome) {
    rows <- outcome_rows(x, outcome, "beside")
    if (nrow(rows) == 0 || voice == "plain") return("")
    primary <- outcome_rows(x, outcome, "primary")
    found <- vapply(seq_len(nrow(rows)), function(i) beside_clause(rows[i, ], primary), "")
    lead <- sprintf("Alongside %s,", method_phrase(primary$method))
    paste0(" ", paste0(lead, " ", found, ".", collapse = " "))
  }, "")
}

beside_clause <- function(row, primary) {
  if (is.na(row$p)) return(paste(method_phrase(row$method), "has no result"))
  if (is.na(primary$p)) return(paste0(statistic_text(row), ", was run"))
  same <- (row$p <= row$alpha) == (primary$p <= primary$alpha)
  sprintf("%s, leads to %s decision", statistic_text(row), if (same) "the same" else "another")
}

#' @exportS3Method
tell.vandro_effect <- function(x, voice, decimals, ...) {
  paste0(narrate_rows(x, effect_sentence, voice, decimals), draws_sentence(x, voice))
}

#' @exportS3Method
tell.vandro_description <- function(x, voice, decimals, ...) {
  narrate_rows(x, description_sentence, voice, decimals)
}

#' @export
format.vandro_text <- function(x, ..., width = cli::console_width()) {
  as.character(join_blocks(lapply(unclass(x), wrap_lines, width)))
}

#' @export
print.vandro_text <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

description_sentence <- function(rows, outcome, study, voice, decimals) {
  raw <- raw_number(outcome, decimals)
  level <- function(mean) with_unit(format_number(mean, decimals), outcome$unit)
  known <- which(!is.na(rows$mean[1:2]))
  if (voice == "journal") {
    groups <- vapply(known, function(k) group_words(outcome, study, k, decimals), "")
    return(sprintf(
      "%s: %s%s (%s) %s%s.", capital(outcome$label),
      if (length(known)) paste0(paste(groups, collapse = " and "), "; ") else "",
      if (is_paired(study)) "mean change" else "difference", study_direction(study),
      raw(rows$mean[[3]]), if (is.na(rows$lower[[3]])) "" else paste0(", ", ci_words(rows[3, ], decimals))
    ))
  }
  if (length(known) == 0) {
    return(sprintf(
      "The change of %s (%s) averaged %s (%s units).", inside_sentence(outcome$label),
      study_direction(study), raw(rows$mean[[3]]), format_count(rows$n[[3]])
    ))
  }
  measured <- if (is_paired(study)) "complete pairs" else "measured"
  sprintf(
    "%s averaged %s %s (%s %s) and %s %s (%s %s).", capital(outcome$label),
    level(rows$mean[[1]]), at_group(study, 1), format_count(rows$n[[1]]), measured,
    level(rows$mean[[2]]), at_group(study, 2), format_count(rows$n[[2]]), measured
  )
}
