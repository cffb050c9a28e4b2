# Words for the size of an effect: only on request, never without their source.

# Thresholds on the absolute value; below the first one stands "below" and its word.
cohen_words <- list(
  thresholds = c(small = 0.2, medium = 0.5, large = 0.8),
  # Made for differences in units of the spread within a group.
  estimands = c("d_pooled", "g", "d_average", "d_by_first", "d_by_second", "d_repeated")
)
known_size_words <- list(
  cohen_1988 = c(cohen_words, source = "Cohen 1988, section 2.2.3"),
  cohen_1992 = c(cohen_words, source = "Cohen 1992, table 1")
)

# A value this close to a threshold gets the words of both sides.
border_width <- 0.05

check_size_words <- function(size_words, size_source, call) {
  size_source <- check_text(size_source, arg = "size_source", call = call)
  if (is.null(size_words)) {
    if (!is.null(size_source)) {
      abort_vandro(
        c(
          "{.arg size_source} belongs to {.arg size_words}.",
          "i" = "Give the thresholds too: {.code size_words = c(small = 0.2, medium = 0.5)}."
        ),
        "contradiction",
        call = call
      )
    }
    return(NULL)
  }
  if (is.character(size_words)) {
    name <- check_choice(size_words, names(known_size_words), arg = "size_words", call = call)
    return(known_size_words[[name]])
  }
  check_own_words(size_words, call)
  if (is.null(size_source)) {
    abort_vandro(
      c(
        "Words for size need a source.",
        "i" = "Say where the thresholds come from: {.code size_source = \"Author (year)\"}."
      ),
      "no_source",
      call = call
    )
  }
  list(thresholds = size_words, source = size_source, estimands = NULL)
}

check_own_words <- function(size_words, call) {
  names <- names(size_words)
  ordered <- is.numeric(size_words) && length(size_words) > 0 && all(is.finite(size_words)) &&
    all(size_words > 0) && !is.unsorted(size_words, strictly = TRUE)
  named <- !is.null(names) && all(nzchar(names)) && !anyDuplicated(names)
  if (ordered && named) return(invisible())
  abort_vandro(
    c(
      "{.arg size_words} must be {.val cohen_1988}, {.val cohen_1992} or thresholds of your own.",
      "i" = "Thresholds are positive numbers in increasing order, each named by the word that begins there:
        {.code c(slight = 0.1, clear = 0.4)}."
    ),
    "bad_value",
    arg = "size_words", call = call
  )
}

word_for <- function(size, thresholds) {
  at <- findInterval(abs(size), thresholds)
  if (at == 0) paste("below", names(thresholds)[[1]]) else names(thresholds)[[at]]
}

# Word of the estimate (both words beside a border), the words over its interval, the border and the
# source; NA for estimands the words were not made for.
size_word_columns <- function(row, words, study) {
  none <- list(
    size_word = NA_character_, size_range = NA_character_, size_border = NA_real_, size_source = NA_character_
  )
  standardized <- !is.na(row$standardizer) && !row$estimand %in% rank_estimands
  if (!standardized || !(is.null(words$estimands) || row$estimand %in% words$estimands)) return(none)
  thresholds <- words$thresholds
  near <- which.min(abs(abs(row$estimate) - thresholds))
  at_border <- abs(abs(row$estimate) - thresholds[[near]]) <= border_width
  word <- if (at_border) {
    paste(word_for(thresholds[[near]] * (1 - 1e-9), thresholds), "to", names(thresholds)[[near]])
  } else {
    word_for(row$estimate, thresholds)
  }
  list(
    size_word = word, size_range = size_range_words(row$lower, row$upper, thresholds, study),
    size_border = if (at_border) thresholds[[near]] else NA_real_, size_source = words$source
  )
}

# "small to large (compost higher)"; both sides are named where the interval reaches over 0.
size_range_words <- function(lower, upper, thresholds, study) {
  side <- function(x) paste0("(", study$groups[[if (x < 0) 2 else 1]], " higher)")
  low <- word_for(lower, thresholds)
  high <- word_for(upper, thresholds)
  if (lower < 0 && upper > 0) return(paste(low, side(lower), "to", high, side(upper)))
  ends <- if (upper <= 0) c(high, low) else c(low, high)
  paste(paste(unique(ends), collapse = " to "), side(lower + upper))
}
