# What fits and what does not, in words.

#' @rdname print.vandro_study
#' @export
format.vandro_audit <- function(x, ..., width = cli::console_width()) {
  # Of many comparisons those that do not fit.
  many <- length(x$study$outcomes) > 3
  shown <- if (many) which(x$detail$kind != "none") else seq_along(x$study$outcomes)
  blocks <- lapply(shown, function(i) {
    outcome <- x$study$outcomes[[i]]
    rows <- outcome_rows(x, outcome)
    cells <- list(
      number = audit_names(rows$quantity, x$study), printed = rows$printed,
      "the others allow" = audit_allowed(x, i, rows),
      fits = ifelse(is.na(rows$fits), "not told", ifelse(rows$fits, "yes", "no"))
    )
    if (any(!is.na(rows$hint))) cells$hint <- ifelse(is.na(rows$hint), "", paste("fits", rows$hint))
    c(
      heading_line(paste("Audit:", outcome_title(outcome)), rows$comparison[[1]]),
      text_entry("Verdict", audit_verdict(x, i), width), text_table(cells, width = width),
      text_entry("Taken as", audit_readings(x, i), width)
    )
  })
  c(if (many) c(audit_count(x), if (length(blocks)) ""), if (length(blocks)) join_blocks(blocks))
}

audit_count <- function(x) {
  off <- x$detail$kind != "none"
  if (!any(off)) {
    return(sprintf("Audit: the numbers of all %d comparisons fit together, given their rounding", length(off)))
  }
  sprintf("Audit: of %d comparisons %d hold numbers that do not fit; these follow", length(off), sum(off))
}

# Names of the numbers, with the groups.
audit_names <- function(quantities, study) {
  side <- ifelse(grepl("_first$", quantities), study$groups[[1]], study$groups[[2]])
  what <- sub("_(first|second)$", "", quantities)
  words <- c(n = "n", mean = "mean", sd = "SD", se = "SE", df = "df", lower = "lower limit", upper = "upper limit")
  named <- quantities != what & !(is_paired(study) & what == "n")
  whole <- c(
    difference = if (is_paired(study)) "mean change" else "difference", se_difference = "SE of the difference",
    sd_change = "SD of the changes", n_first = "pairs", words
  )
  ifelse(named, paste(words[what], "of", side), ifelse(quantities %in% names(whole), whole[quantities], quantities))
}

# The values that would be printed, by the decimals of the number that is.
audit_allowed <- function(x, i, rows) {
  printed <- x$detail$printed[[i]]
  vapply(seq_len(nrow(rows)), function(k) {
    ends <- c(rows$possible_from[[k]], rows$possible_to[[k]])
    if (anyNA(ends)) return("")
    shown <- audit_round(ends, printed[[k]], rows$quantity[[k]])
    if (is.infinite(ends[[2]])) return(paste(shown[[1]], "or more"))
    if (is.infinite(ends[[1]])) return(paste(shown[[2]], "or less"))
    if (shown[[1]] == shown[[2]]) shown[[1]] else paste(shown, collapse = " to ")
  }, "")
}

audit_round <- function(ends, one, quantity) {
  # p is told to three decimals at least, whatever was printed.
  decimals <- if (quantity == "p") max(3, one$decimals) else one$decimals
  plain <- grepl("^[<>= ]*[.]", one$text)
  vapply(ends, function(end) {
    text <- format_number(end, decimals)
    if (grepl("^0[.,]0*$", text) && end > 0) text <- paste("<", format_number(10^-decimals, decimals))
    if (plain) sub("0([.,])", "\\1", text) else text
  }, "")
}

audit_verdict <- function(x, i) {
  rows <- outcome_rows(x, x$study$outcomes[[i]])
  off <- rows[rows$fits %in% FALSE, ]
  names <- audit_names(off$quantity, x$study)
  said <- paste(names, "=", off$printed)
  said <- sub("= ([<>])", "\\1", said)
  allowed <- audit_allowed(x, i, rows)[rows$fits %in% FALSE]
  should <- ifelse(nzchar(allowed), sprintf("%s (the others allow %s)", said, allowed), said)
  verdict <- switch(x$detail$kind[[i]],
    impossible = NULL,
    none = if (all(is.na(rows$fits))) {
      "the numbers have nothing to do with each other; nothing can be told"
    } else {
      sprintf("all %d numbers fit together, given their rounding", nrow(rows))
    },
    one = sprintf("%s does not fit the other numbers%s", should, hint_words(off)),
    one_of = sprintf(
      "the numbers contradict each other; one of these is wrong, and the others do not show which: %s",
      paste(should, collapse = "; ")
    ),
    several = sprintf(
      "more than one number is off; these contradict those before them, n, means and SDs first: %s",
      paste(should, collapse = "; ")
    )
  )
  paste(c(verdict, impossible_words(x$detail$impossible[[i]], x$settings)), collapse = "; ")
}

# "the mean of compost cannot be 3.45: no 19 whole numbers from 1 to 7 have it (the nearest possible: 3.421 and 3.474)"
impossible_words <- function(found, settings) {
  what <- if (identical(settings$step, 1)) "whole numbers" else paste("multiples of", format_short(settings$step))
  if (!is.null(settings$limits)) what <- paste(what, "from", paste(format_short(settings$limits), collapse = " to "))
  vapply(found, function(one) {
    if (!is.null(one$sd)) {
      return(sprintf(
        "the SD of %s cannot be %s: no %s %s have it with a mean of %s", one$group, one$sd, one$n, what, one$mean
      ))
    }
    sprintf(
      "the mean of %s cannot be %s: no %s %s have it (the nearest possible: %s)", one$group, one$mean, one$n, what,
      paste(format_number(one$beside, one$decimals), collapse = " and ")
    )
  }, "")
}

hint_words <- function(off) if (is.na(off$hint[[1]])) "" else sprintf("; it would fit %s", off$hint[[1]])

# How the numbers were understood.
audit_readings <- function(x, i) {
  s <- x$settings
  rows <- outcome_rows(x, x$study$outcomes[[i]])
  tests <- vapply(x$detail$methods[[i]], function(method) method_phrase(method), "")
  told <- any(c("t", "df", "p", "lower", "upper", "se_difference") %in% rows$quantity)
  estimand <- x$detail$estimand[[i]]
  paste(c(
    if (told) paste(tests, collapse = " or "),
    if ("p" %in% rows$quantity) if (s$expect == "either") "p two-sided" else sprintf("p one-sided (%s)", s$expect),
    if (any(c("lower", "upper") %in% rows$quantity)) paste("interval at", format_percent(s$level)),
    if (!is.na(estimand)) sprintf("d is %s", effect_names(estimand, x$study)),
    if (s$rounding == "nearest") "numbers rounded to nearest" else "numbers rounded or cut off",
    if (!is.null(s$step)) paste("single values in steps of", format_short(s$step))
  ), collapse = "; ")
}
