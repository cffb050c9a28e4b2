# Words for the size of an effect: only on request, never without their source.

# Thresholds on the absolute value; below the first one stands "below" and its word.
known_size_words <- list(
  cohen = list(
    thresholds = c(small = 0.2, medium = 0.5, large = 0.8),
    # Made for differences in units of the SD within a group.
    estimands = estimands_where(size_words = TRUE), source = "Cohen 1988, section 2.2.3"
  )
)

# A value this close to a threshold gets the words of both sides.
border_width <- 0.05

check_size_words <- function(size_words, size_source, call) {
  check_words(size_words, size_source, known_size_words, c("size_words", "size_source"), call)
}

# Words of a known source by its name, or thresholds of one's own with their source.
check_words <- function(words, source, known, args, call) {
  source <- check_text(source, arg = args[[2]], call = call)
  example <- paste0(args[[1]], " = ", if (args[[1]] == "size_words") "c(small = 0.2, medium = 0.5)" else own_strengths)
  if (is.null(words)) {
    if (!is.null(source)) {
      abort_vandro(
        c("{.arg {args[[2]]}} belongs to {.arg {args[[1]]}}.", "i" = "Give the thresholds too: {.code {example}}."),
        "contradiction",
        call = call
      )
    }
    return(NULL)
  }
  if (is.character(words)) return(known[[check_choice(words, names(known), arg = args[[1]], call = call)]])
  check_own_words(words, names(known), args[[1]], example, call)
  if (is.null(source)) {
    abort_vandro(
      c(
        "Words need a source.",
        "i" = "Say where the thresholds come from: {.code {args[[2]]} = \"Author (year)\"}."
      ),
      "no_source",
      call = call
    )
  }
  list(thresholds = words, source = source, estimands = NULL)
}

check_own_words <- function(words, known, arg, example, call) {
  ordered <- is.numeric(words) && length(words) > 0 && all(is.finite(words)) && all(words >= 0) &&
    !is.unsorted(words, strictly = TRUE)
  if (ordered && are_own_names(names(words))) return(invisible())
  abort_vandro(
    c(
      "{.arg {arg}} must be {.or {.val {known}}}, or thresholds of your own.",
      "i" = "Thresholds are numbers from 0 on in increasing order, each named by the word that begins there:
        {.code {example}}."
    ),
    "bad_value",
    arg = arg, call = call
  )
}

word_for <- function(size, thresholds) {
  at <- findInterval(size, thresholds)
  if (at == 0) paste("below", names(thresholds)[[1]]) else names(thresholds)[[at]]
}

are_own_names <- function(names) {
  !is.null(names) && all(nzchar(names)) && all(is_text(names)) && !anyDuplicated(names)
}

# How far from no effect: both directions of a chance (0.3 and 0.7) and of a ratio (0.8 and 1.25) are equally far.
size_from_none <- function(x, scale) switch(scale, chance = pmax(x, 1 - x), ratio = pmax(x, 1 / x), abs(x))

# Word of the estimate (both words beside a border), the words over its interval, the border and the
# source; NA for estimands the words were not made for, and where no interval says how sure a word is.
size_word_columns <- function(row, words, study) {
  none <- list(
    size_word = NA_character_, size_range = NA_character_, size_border = NA_real_, size_source = NA_character_
  )
  known <- !anyNA(c(row$estimate, row$lower, row$upper))
  fits <- if (is.null(words$estimands)) estimand_scale(row) == "sd" else row$estimand %in% words$estimands
  if (!known || !fits) return(none)
  thresholds <- words$thresholds
  size <- size_from_none(row$estimate, estimand_scale(row))
  # Nothing lies below the size of no effect.
  borders <- thresholds[thresholds > size_from_none(no_effect(row), estimand_scale(row))]
  near <- which.min(abs(size - borders))
  at_border <- length(near) > 0 && abs(size - borders[[near]]) <= border_width
  word <- if (at_border) {
    paste(word_for(borders[[near]] * (1 - 1e-9), thresholds), "to", names(borders)[[near]])
  } else {
    word_for(size, thresholds)
  }
  list(
    size_word = word, size_range = size_range_words(row, thresholds, study),
    size_border = if (at_border) borders[[near]] else NA_real_, size_source = words$source
  )
}

# Of every row of a list of columns.
size_columns <- function(columns, words, study) {
  bind_rows(lapply(seq_along(columns$estimand), function(i) size_word_columns(column_row(columns, i), words, study)))
}

# "small to large (compost higher)"; both sides are named where the interval reaches over no effect.
size_range_words <- function(row, thresholds, study) {
  none <- no_effect(row)
  side <- function(x) paste0("(", study$groups[[if (x < none) 2 else 1]], " higher)")
  word <- function(x) word_for(size_from_none(x, estimand_scale(row)), thresholds)
  low <- word(row$lower)
  high <- word(row$upper)
  if (row$lower < none && row$upper > none) return(paste(low, side(row$lower), "to", high, side(row$upper)))
  below <- row$upper <= none
  ends <- if (below) c(high, low) else c(low, high)
  paste(paste(unique(ends), collapse = " to "), side(if (below) row$lower else row$upper))
}
