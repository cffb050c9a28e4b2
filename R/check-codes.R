# Labels and codes: what a column of groups, subgroups, blocks or units says in each row, whatever its class.

# Whole numbers from here on share one double with their neighbours.
largest_code <- 2^53

# A plain factor, text, logical or number, in which different units and groups stay different. Refuses numbers that
# print alike.
plain_codes <- function(x, name, call) {
  if (is.factor(x)) return(without_na_level(x))
  if (inherits(x, "integer64")) return(integer64_text(x))
  x <- unlabelled(x)
  if (is.character(x)) return(without_blanks(x))
  if (is.double(x) && !is.object(x)) check_codes_differ(x, name, call)
  x
}

# A blank label is a missing one.
without_blanks <- function(x) {
  words <- unique(x)
  blank <- words[!is.na(words) & is_blank(words)]
  if (length(blank)) x[x %in% blank] <- NA
  x
}

# Bytes that are no text are no blanks either.
is_blank <- function(text) is_text(text) & !grepl("[^[:space:]]", ifelse(is_text(text), text, "x"))

# A factor whose levels contain NA, or a blank, codes a missing value like any other.
without_na_level <- function(x) {
  gone <- which(is.na(levels(x)) | is_blank(levels(x)))
  if (length(gone) == 0) return(x)
  keep <- seq_along(levels(x))[-gone]
  structure(match(as.integer(x), keep), levels = levels(x)[keep], class = class(x))
}

# All digits of 64-bit integers, which a double does not hold. They come as doubles whose bits are the integer.
integer64_text <- function(x) {
  halves <- matrix(readBin(writeBin(as.vector(unclass(x)), raw(), endian = "little"), "integer", 2 * length(x),
    endian = "little"
  ), 2)
  high <- halves[2, ]
  missing <- is.na(high) & halves[1, ] %in% 0L
  high[is.na(high)] <- -2^31
  low <- as.double(halves[1, ])
  low[is.na(low)] <- -2^31
  low <- low %% 2^32
  negative <- high < 0
  # Two's complement: what is below zero is turned round before its digits are taken.
  carry <- negative & low == 0
  high[negative] <- -high[negative] - 1 + carry[negative]
  low[negative & !carry] <- 2^32 - low[negative & !carry]
  # Limbs of 16 bits are divided by 10000 until nothing is left.
  limbs <- list(high %/% 65536, high %% 65536, low %/% 65536, low %% 65536)
  text <- character(length(x))
  for (round in 1:5) {
    rest <- 0
    for (k in 1:4) {
      value <- rest * 65536 + limbs[[k]]
      limbs[[k]] <- value %/% 10000
      rest <- value %% 10000
    }
    text <- paste0(sprintf("%04.0f", rest), text)
  }
  text <- sub("^0+(?=[0-9])", "", text, perl = TRUE)
  text <- ifelse(negative, paste0("-", text), text)
  text[missing] <- NA
  text
}

# Codes as text: all digits of whole numbers, fifteen of others, never "1e+05".
group_text <- function(x) if (is.double(x) && !is.object(x)) number_text(x) else as.character(x)

number_text <- function(x) {
  x <- x + 0
  whole <- is.finite(x) & x == round(x) & abs(x) < largest_code
  out <- rep(NA_character_, length(x))
  out[whole] <- sprintf("%.0f", x[whole])
  other <- !whole & !is.na(x)
  out[other] <- sprintf("%.15g", x[other])
  out
}

check_codes_differ <- function(x, name, call) {
  known <- x[!is.na(x)]
  if (all(known == round(known) & abs(known) < largest_code)) return(invisible())
  large <- which(!is.na(x) & abs(x) >= largest_code & is.finite(x))
  if (length(large)) {
    shown <- sprintf("%.17g", x[[large[[1]]]])
    abort_vandro(
      c(
        "Codes in {.val {name}} must be smaller than 2^53, beyond which numbers cannot be told apart.",
        "x" = "Row {large[[1]]} holds {shown}.",
        "i" = "Read such codes as text. {.fn read_measurements} does so; other readers do with
          {.code colClasses = c({name} = \"character\")}."
      ),
      "codes",
      column = name, row = large[[1]], call = call
    )
  }
  value <- unique(known)
  text <- number_text(value)
  twin <- which(duplicated(text))
  if (length(twin) == 0) return(invisible())
  pair <- sprintf("%.17g", value[c(match(text[[twin[[1]]]], text), twin[[1]])])
  abort_vandro(
    c(
      "Codes in {.val {name}} must differ within their first 15 digits.",
      "x" = "The column holds both {pair[[1]]} and {pair[[2]]}, which print alike.",
      "i" = "Round it first: {.code data${name} <- round(data${name}, 10)}."
    ),
    "codes",
    column = name, call = call
  )
}
