# What a sentence says, read back: its numbers, and whether its grammar is whole.

# Numbers of a text as they stand, decimal commas read as points.
numbers_in <- function(text) {
  text <- gsub("(?<=[0-9]),(?=[0-9])|(?<![0-9]),(?=[0-9])", ".", text, perl = TRUE)
  # p against a threshold is looked at by untrue_p().
  text <- gsub("(p )?[<>] [0-9]*\\.?[0-9]+", " ", text)
  # Not numbers of the answer: years, names that end in digits, powers of ten, rules by number.
  text <- gsub(
    "\\b(19|20)[0-9]{2}\\b|BF(10|01)|[0-9.]+e[-+]?[0-9]+|[0-9.]+ . 10\\^-?[0-9]+|rule 7|2 superiority - 1", " ", text
  )
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
  evidence <- unlist(lapply(answers, function(x) {
    if (!inherits(x, "vandro_evidence")) return(NULL)
    logs <- c(x$table$log_bf_least, x$table$log_bf_most, unlist(x$detail$rounding))
    c(exp(logs), x$table$prior_half %o% c(0.25, 0.5, 2, 4), 0.05)
  }))
  counts <- c(study$left_out$n, vapply(answers, function(x) nrow(x$table), 0L))
  known <- c(tables, moments, details, evidence, counts, 1 - alphas, 1 - 2 * alphas)
  known <- known[is.finite(known)]
  # Levels are told per cent, chances per hundred or per thousand studies.
  shares <- known[known >= 0 & known <= 1]
  c(known, 100 * shares, 1000 * shares, 1, 100, 1000, 0.5)
}

# Tokens that are no number of the answer, rounded to as many decimals as they have.
strange_numbers <- function(text, answers, known = numbers_of(answers)) {
  known <- abs(known)
  # Bounds that just suffice are rounded outward; shares of 100 pairs sum to 100; notes and counts have their own tests.
  own <- "±[0-9.,]+|Of 100 random pairs[^;]*;|over prior widths.*|^  Note .*|^ *group  .*|all [0-9]+ assignments"
  text <- gsub(own, " ", text)
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

# "3.46 cm, 95% CI 1.89 to 5.02", "95% CI [1.89, 5.02]": what are no limits, with their estimate where it stands just
# before, of any row of the answers.
strange_intervals <- function(text, answers) {
  text <- gsub("(?<=[0-9]),(?=[0-9])|(?<![0-9]),(?=[0-9])", ".", text, perl = TRUE)
  number <- "(-?[0-9]*\\.?[0-9]+)"
  pattern <- paste0(
    "(?:", number, "(?: [^ ,=();]+| percentage points)?, )?", "9[0-9.]*% (?:CI|credible interval) \\[?",
    number, "(?: to |, )", number
  )
  said <- regmatches(text, gregexpr(pattern, text, perl = TRUE))[[1]]
  known <- vapply(regmatches(said, regexec(pattern, said, perl = TRUE)), function(parts) {
    close <- function(token, column) {
      token == "" | abs(column - as.numeric(token)) <= 0.5 * 10^-nchar(sub("^[^.]*\\.?", "", token)) * (1 + 1e-9)
    }
    any(vapply(answers, function(x) {
      row <- as.list(x$table)
      fits <- function(by, estimate, lower, upper) {
        limits <- close(parts[[3]], by * lower) & close(parts[[4]], by * upper)
        any(close(parts[[2]], by * estimate) & limits, na.rm = TRUE)
      }
      # An equivalence answer holds the interval of the difference as well.
      fits(1, row$estimate, row$lower, row$upper) || fits(100, row$estimate, row$lower, row$upper) ||
        !is.null(row$difference_lower) && fits(1, row$estimate, row$difference_lower, row$difference_upper)
    }, NA))
  }, NA)
  said[!known]
}

# Claims in words that the table of the answer does not bear out.
untrue_words <- function(text, answer, sources = list(answer)) {
  says <- function(pattern) grepl(pattern, text, ignore.case = TRUE)
  kinds <- answer$table[["p_kind"]]
  causes <- "raised|lowered|caused|effect of .* on|led to"
  faults <- c(
    exact = says("exact (one-sided )?p [<>=]") && !any(kinds == "exact"),
    seed = says("seed [0-9]") && all(vapply(sources, function(x) is.null(x$settings$seed), NA)),
    cause = !isTRUE(answer$study$assigned) && says(causes), declared = says("declared beforehand|pre-?registered"),
    reading = says("no (significant )?difference between|did not differ|no effect of|due to chance|proves?\\b"),
    verdict = nrow(answer$table) == 1 && says(opposite_words(answer)),
    agreement = inherits(answer, "vandro_cross_check") && says(
      if (length(unique(answer$table$verdict)) == 1) "conclusion.* depends on" else "does not depend on"
    )
  )
  names(faults)[faults]
}

# What would say the opposite of an answer with one row.
opposite_words <- function(answer) {
  row <- answer$table
  side <- paste(if (row$estimate > 0) "lower" else "higher", "in the compost (group|measurements) \\(")
  switch(class(answer)[[1]],
    vandro_evidence = if (row$bf_difference > 1) "under no effect as under" else "under an effect as under",
    vandro_equivalence = if (row$verdict %in% c("equivalent", "different but within bounds")) {
      "does not lie within these bounds"
    } else {
      "(\\]|CI) lies within these bounds"
    },
    vandro_difference = if (in_outcome_unit(row) && row$estimate != 0) side
  ) %||% "^$"
}
