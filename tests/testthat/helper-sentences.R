# What a sentence says, read back: its numbers, and whether its grammar is whole.

# Numbers of a text as they stand, decimal commas read as points.
numbers_in <- function(text) {
  text <- gsub("(?<=[0-9]),(?=[0-9])|(?<![0-9]),(?=[0-9])", ".", text, perl = TRUE)
  # p against a threshold is looked at by untrue_p().
  text <- gsub("p [<>] [0-9]*\\.?[0-9]+", " ", text)
  # Not part of a number: what an expectation about the whole cannot know.
  text <- gsub("(19|20)[0-9]{2}|[0-9]+\\.[0-9]+e[-+]?[0-9]+", " ", text)
  unlist(regmatches(text, gregexpr("[0-9]*\\.?[0-9]+", text)))
}

# Every number that an answer holds, in any of the ways in which it may be told.
numbers_of <- function(answers) {
  tables <- unlist(lapply(answers, function(x) Filter(is.numeric, as.list(x$table))), use.names = FALSE)
  study <- answers[[1]]$study
  moments <- unlist(lapply(study$outcomes, function(o) {
    c(unlist(lapply(o$moments, function(m) c(m$n, m$mean, m$sd))), unlist(o$pairs))
  }))
  details <- unlist(lapply(answers, function(x) {
    c(unlist(x$detail, use.names = FALSE), unlist(x$settings[c("alpha", "level", "seed", "draws", "within")]))
  }))
  details <- suppressWarnings(as.numeric(details))
  levels <- unlist(lapply(answers, function(x) x$table$level))
  alphas <- unlist(lapply(answers, function(x) x$settings$alpha))
  known <- c(tables, moments, details, study$left_out$n, 1 - alphas, 1 - 2 * alphas)
  known <- known[is.finite(known)]
  # Levels are told per cent, chances per hundred or per thousand studies.
  shares <- known[known >= 0 & known <= 1]
  c(known, 100 * shares, 1000 * shares, 1, 100, 1000, 0.5)
}

# Tokens that are no number of the answer, rounded to as many decimals as they have.
strange_numbers <- function(text, answers) {
  known <- abs(numbers_of(answers))
  tokens <- unique(numbers_in(text))
  strange <- vapply(tokens, function(token) {
    decimals <- nchar(sub("^[^.]*\\.?", "", token))
    value <- as.numeric(token)
    !any(abs(known - value) <= 0.5 * 10^-decimals * (1 + 1e-9))
  }, NA)
  tokens[strange]
}

# "p < .001", "p = .034": whether each is true of some p of the answer.
untrue_p <- function(text, answers) {
  text <- gsub("(?<![0-9]),(?=[0-9])|(?<=0),(?=[0-9])", ".", text, perl = TRUE)
  p <- unlist(lapply(answers, function(x) {
    unlist(x$table[grep("^p($|_)", names(x$table))], use.names = FALSE)
  }))
  two_sided <- unlist(lapply(answers, function(x) x$detail$matched$p_two_sided))
  p <- suppressWarnings(as.numeric(c(p, two_sided)))
  p <- p[is.finite(p)]
  said <- regmatches(text, gregexpr("p [<>=] [0-9]*\\.?[0-9]+", text))[[1]]
  true <- vapply(said, function(one) {
    value <- as.numeric(sub("^p . ", "", one))
    decimals <- nchar(sub("^[^.]*\\.?", "", sub("^p . ", "", one)))
    switch(substr(one, 3, 3),
      "<" = any(p < value), ">" = any(p > value), "=" = any(abs(p - value) <= 0.5 * 10^-decimals * (1 + 1e-9))
    )
  }, NA)
  said[!true]
}

# What is wrong with the form of a text; character() where nothing is.
form_faults <- function(text) {
  count <- function(mark) lengths(regmatches(text, gregexpr(mark, text, fixed = TRUE)))
  faults <- c(
    "two blanks" = grepl("  ", text), "blank before a mark" = grepl(" [,.;:]( |$)", text),
    "two marks" = grepl("[.,;:][.,;]( |$)", text), "missing value" = grepl("\\b(NA|NaN|NULL|Inf|character)\\b", text),
    "no end" = !grepl("[.]$", text), "brackets" = count("(") != count(")") || count("[") != count("]"),
    "no capital" = !grepl("^([[:upper:]]|pH)", text) || grepl("[a-z)][.] [a-z]", text),
    "number and noun" = grepl("\\b1 (rows|pairs|values|draws)\\b|\\b([2-9]|[0-9]{2,}) (row|pair|value)\\b", text),
    "no words" = grepl("%[sd]\\b", text)
  )
  names(faults)[faults]
}
