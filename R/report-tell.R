# Sentences outcome by outcome: the generic, and what happens where an outcome has no answer.

# Text of an answer in one voice, an element per outcome.
tell <- function(x, voice, decimals, ...) UseMethod("tell")

# tell_one(outcome) for each outcome; for one without an answer the reason, or `instead`, and what other methods found.
narrate_outcomes <- function(answer, tell_one, instead = NULL, beside = NULL) {
  vapply(answer$study$outcomes, function(outcome) {
    reason <- no_result(answer, outcome)
    if (is.null(reason)) return(tell_one(outcome))
    paste(c(instead %||% capital(reason), if (!is.null(beside)) beside(outcome)), collapse = " ")
  }, "")
}

# One text per outcome, from the rows of the answer that belong to it.
narrate_rows <- function(answer, sentence, voice, decimals) {
  narrate_outcomes(answer, function(outcome) {
    decimals <- outcome_decimals(outcome, decimals)
    if (is.null(answer$table$role)) {
      return(sentence(outcome_rows(answer, outcome), outcome, answer$study, voice, decimals))
    }
    row <- outcome_rows(answer, outcome, "primary")
    detail <- answer_detail(answer, outcome, if (method_is(row, "reassignment")) "permutation" else "ranks")
    sentence(row, outcome, answer$study, voice, decimals, detail)
  })
}

# Sentences about `study`; that its data are made up is said in each of them, once.
as_text <- function(x, study) {
  if (!is.null(study$made_up)) {
    sentence <- paste0(" ", made_up_sentence(study))
    x <- paste0(gsub(sentence, "", x, fixed = TRUE), sentence)
  }
  structure(x, class = "vandro_text")
}

# " Excluded: 1 row of compost without a value.", where anything was.
excluded_sentences <- function(x) {
  narrate_outcomes(x, function(outcome) excluded_sentence(x$study, outcome), instead = "")
}

excluded_sentence <- function(study, outcome) {
  words <- excluded_words(study, outcome)
  if (is.null(words)) "" else sprintf(" Excluded: %s.", words)
}

# " Drawn at random: 9999 times, seed 7."
draws_sentence <- function(x, voice) {
  s <- x$settings
  if (is.null(s$seed) || voice == "plain") return("")
  sprintf(" Drawn at random: %s times, seed %s.", format_count(s$draws), format_count(s$seed))
}
