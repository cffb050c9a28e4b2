# Numbers to text. Rounding happens here and nowhere else.

# Decimals that show `spread` (an SD or SE in the unit of the outcome) with `keep` digits.
decimals_for <- function(spread, keep = 3) {
  spread <- spread[is.finite(spread) & spread > 0]
  if (length(spread) == 0) return(2)
  as.integer(max(0, keep - 1 - floor(log10(min(spread)))))
}

# Fixed decimals, never "-0.00"; scientific where fixed notation would be unreadable.
format_number <- function(x, decimals = style_rule("decimals")) {
  out <- sprintf("%.*f", as.integer(decimals), x)
  wide <- is.finite(x) & (abs(x) >= 1e12 | decimals > 8)
  out[wide] <- sprintf("%.4g", x[wide])
  out <- point_to_mark(sub("^-(0([.]0*)?)$", "\\1", out))
  out[is.na(x)] <- ""
  out
}

# Upwards in the last decimal; what is too large for that has no such decimals.
round_up <- function(x, decimals) {
  up <- ceiling((x - abs(x) * 1e-12) * 10^decimals) / 10^decimals
  ifelse(is.finite(up), up, x)
}

format_count <- function(n) ifelse(is.na(n), "", format_plain(n, big.mark = "", scientific = FALSE, trim = TRUE))

# Decimals with which a reader puts p on its side of alpha.
p_decimals <- function(p, alpha, decimals) {
  if (is.na(p)) return(decimals)
  told <- function(d) if (p < 10^-d) p <= alpha && 10^-d <= alpha else (round(p, d) <= alpha) == (p <= alpha)
  enough <- Filter(told, seq(decimals, 8))
  if (length(enough)) enough[[1]] else decimals
}

# "p = .003", "p < .001", "p > .999": as a value where it can be told, else as an inequality.
# Exactly 1 is 1; nothing else is printed as 0 or 1. With `alpha` there are as many decimals more as keep p on its side
# of it: .0503 at .05 must not read .050.
format_p <- function(p, decimals = style_rule("p_decimals"), leading_zero = style_rule("leading_zero"), label = "p ",
                     alpha = NULL) {
  if (style_rule("p_as") == "inequality") {
    text <- vapply(p, p_inequality, "", alpha)
  } else {
    if (!is.null(alpha)) decimals <- mapply(p_decimals, p, alpha, decimals)
    least <- 10^-decimals
    text <- ifelse(p < least, sprintf("< %.*f", decimals, least),
      ifelse(p < 1 & p > 1 - least / 2, sprintf("> %.*f", decimals, 1 - least),
        ifelse(p == 1, "= 1", sprintf("= %.*f", decimals, p))
      )
    )
  }
  if (!leading_zero) text <- sub(" 0[.]", " .", text)
  paste0(label, point_to_mark(text))
}

# "< 0.01", "> 0.05": against the nearest of the usual thresholds and alpha.
p_inequality <- function(p, alpha) {
  if (is.na(p)) return(NA_character_)
  thresholds <- sort(unique(c(0.001, 0.01, alpha %||% 0.05)))
  if (p %in% thresholds) return(paste("=", format_plain(p)))
  above <- thresholds[thresholds > p]
  if (length(above)) paste("<", format_plain(above[[1]])) else paste(">", format_plain(max(thresholds)))
}

# ".003", "< .001": for columns and ranges that name p themselves.
bare_p <- function(p, ...) ifelse(is.na(p), "", sub("^= ", "", format_p(p, label = "", ...)))

# "p < .001", "n = 24" and "[1.89, 5.02]" are not to be parted by the end of a line.
keep_together <- function(text) {
  text <- gsub(" ([<=>]) (?=[-.,0-9])", "\u00a0\\1\u00a0", text, perl = TRUE)
  gsub("(\\[[-.,0-9]+[,;]) ([-.,0-9]+\\])", "\\1\u00a0\\2", text)
}

# Degrees of freedom: whole ones as they are, others with one decimal.
format_df <- function(df) ifelse(df == round(df), sprintf("%.0f", df), point_to_mark(sprintf("%.1f", df)))

format_percent <- function(level) {
  paste0(point_to_mark(sub("[.]?0+$", "", sprintf("%.4f", 100 * level))), "%")
}

# "3.46 cm"
with_unit <- function(text, unit) if (is.null(unit)) text else paste(text, unit)

# The unit of a difference: that of percentages is percentage points.
difference_unit <- function(outcome) {
  if (is.null(outcome$unit) || !outcome$unit %in% c("%", "percent", "per cent")) return(outcome$unit)
  "percentage points"
}

# Behind a number with the same unit: percentage points are named once.
interval_unit <- function(outcome) if (identical(difference_unit(outcome), outcome$unit)) outcome$unit

# " (cm)" behind the name of an axis.
unit_in_brackets <- function(outcome) if (is.null(outcome$unit)) "" else sprintf(" (%s)", outcome$unit)

with_unit_each <- function(text, unit) vapply(text, with_unit, "", unit = unit, USE.NAMES = FALSE)

# "95% CI 1.89 to 5.02 cm"
interval_words <- function(row, limits) sprintf("%s CI %s", format_percent(row$level), limits)

# A Bayes factor from its logarithm; beyond a million as "3.1 \u00d7 10^24".
factor_text <- function(log_bf) {
  if (abs(log_bf) > log(1e6)) {
    exponent <- floor(log_bf / log(10))
    leading <- exp(log_bf - exponent * log(10))
    if (round(leading, 1) >= 10) {
      leading <- 1
      exponent <- exponent + 1
    }
    return(sprintf("%s \u00d7 10^%.0f", format_number(leading, 1), exponent))
  }
  value <- exp(log_bf)
  decimals <- if (value >= 100) 0 else if (value >= 10) 1 else if (value >= 1) 2 else ceiling(-log10(value)) + 2
  format_number(value, decimals)
}

# "1.89 to 5.02"
format_range <- function(lower, upper, decimals = style_rule("decimals")) {
  paste(format_number(lower, decimals), "to", format_number(upper, decimals))
}

# Decimals of an outcome's raw numbers: those that the reader chose; two for whole numbers; else what its SDs call for.
outcome_decimals <- function(outcome, decimals = NULL) {
  if (!is.null(decimals)) return(decimals)
  if (is_whole(outcome)) return(2)
  decimals_for(vapply(outcome$moments, function(m) m$sd, 0))
}

# Whether ends and sums of both groups are whole numbers, which needs no look at the data.
is_whole <- function(outcome) {
  if (identical(outcome$data$kind, "summary")) return(FALSE)
  all(vapply(outcome$moments[1:2], function(m) {
    x <- c(m$min, m$max, m$n * m$mean)
    !anyNA(x) && all(abs(x - round(x)) <= 1e-9 * pmax(1, abs(x))) && all(abs(x) < 1e12)
  }, NA))
}

# Decimals of both groups' means ("mean") or SDs ("sd"): published ones as they were given, unless they were computed
# from others or the reader chose the decimals.
level_decimals <- function(what, outcome, usual, of = 1:2) {
  if (!identical(outcome$data$kind, "summary") || usual != outcome_decimals(outcome)) return(usual)
  x <- vapply(outcome$moments[of], `[[`, 0, what)
  if (all(is.na(x))) return(usual)
  given <- sub("^[^.]*[.]?", "", format_plain(x[!is.na(x)], digits = 15, scientific = FALSE, trim = TRUE))
  most <- max(0, nchar(given))
  if (most > 6) usual else most
}

# The same for both groups and what is computed from them: the changes or the difference.
level_decimals_each <- function(what, outcome, usual) c(rep(level_decimals(what, outcome, usual), 2), usual)

# "Stem height" inside a sentence: "stem height"; "pH" and "DNA" stay as they are.
inside_sentence <- function(label) {
  if (!grepl("^[[:upper:]][[:lower:]]", label)) return(label)
  paste0(tolower(substr(label, 1, 1)), substring(label, 2))
}

# A column's name stays as it is: "leaf_area", never "Leaf_area".
capital <- function(label) {
  if (grepl("^[^ ]*[_.0-9][^ ]*( |$)", label)) return(label)
  if (grepl("^[[:lower:]]([[:lower:]]|[^[:alpha:]]|$)", label)) {
    label <- paste0(toupper(substr(label, 1, 1)), substring(label, 2))
  }
  label
}

capital_each <- function(labels) vapply(as.character(labels), capital, "", USE.NAMES = FALSE)

check_decimals <- function(decimals, call = rlang::caller_env()) {
  if (is.null(decimals)) return(NULL)
  as.integer(check_number(decimals, 0, 15, arg = "decimals", call = call))
}

# A number as the analyst typed it, or a count of wholes and halves: every digit.
format_short <- function(x) point_to_mark(format_plain(x, digits = 15, trim = TRUE))

format_each <- function(x, decimals) mapply(format_number, x, decimals)

tail_text <- function(p) bare_p(p, 4)
