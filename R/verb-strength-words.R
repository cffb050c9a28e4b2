# Words for the weight of evidence: only on request, never without their source. Thresholds on the factor, whichever
# hypothesis it speaks for.
known_strength_words <- list(
  jeffreys = list(
    thresholds = c(
      "barely worth mentioning" = 1, substantial = sqrt(10), strong = 10, "very strong" = 10^1.5, decisive = 100
    ),
    source = "Jeffreys 1961, appendix B"
  ),
  kass_raftery = list(
    thresholds = c("barely worth mentioning" = 1, positive = 3, strong = 20, "very strong" = 150),
    source = "Kass & Raftery 1995, section 3.2"
  )
)

own_strengths <- "c(some = 3, much = 30)"

# Of logarithms near a threshold the words of both sides are told.
strength_border <- 0.05

# Word of the factor, what its hypothesis is, and the words over the range of widths.
strength_columns <- function(log_bf, least, most, words) {
  if (is.null(words)) return(NULL)
  side <- function(x) if (x >= 0) "an effect" else "no effect"
  word <- function(x) word_for(exp(abs(x)), words$thresholds)
  marks <- log(words$thresholds)
  near <- which.min(abs(abs(log_bf) - marks))
  at_border <- abs(abs(log_bf) - marks[[near]]) <= strength_border && marks[[near]] > 0
  said <- if (at_border) {
    paste(word_for(words$thresholds[[near]] * (1 - 1e-9), words$thresholds), "to", names(marks)[[near]])
  } else {
    word(log_bf)
  }
  ends <- unique(sprintf("%s for %s", c(word(least), word(most)), c(side(least), side(most))))
  list(
    strength_word = sprintf("%s for %s", said, side(log_bf)), strength_range = paste(ends, collapse = " to "),
    strength_source = words$source
  )
}
