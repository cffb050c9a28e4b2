#' Print a study or an answer
#'
#' `format()` makes the lines, `print()` shows them. Numbers are rounded here only.
#'
#' @param x,object A study, or an answer of a verb.
#' @param ... `print()`: arguments of `format()`.
#' @param decimals Decimals of numbers in the outcome's unit; by default as many as show the smaller
#'   standard deviation with three digits.
#' @param details Whether to add the details: hypotheses, degrees of freedom, single checks, accuracy.
#' @param style How numbers are written, from [number_style()].
#' @param width Width of the lines in characters.
#' @return `format()`: a character vector, one element per line. `print()`: `x`, invisibly.
#'   `summary()`: the study or answer itself, whose printed form is its summary.
#' @name print.vandro_study
#' @examples
#' study <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
#' print(describe_study(study), decimals = 1)
NULL

#' @rdname print.vandro_study
#' @export
format.vandro_study <- function(x, ..., width = cli::console_width()) {
  if (length(x$outcomes) > most_blocks) return(many_study_lines(x, width))
  blocks <- lapply(x$outcomes, function(outcome) {
    c(
      heading_line(paste("Study:", outcome_title(outcome)), study_direction(x)),
      text_table(study_cells(x, outcome)),
      text_entry("Design", design_words(x), width),
      if (!is.null(x$claim)) text_entry("Claim", claim_entry_words(x), width),
      if (!is.null(x$assigned)) text_entry("Assigned", assigned_words(x), width),
      pair_entry(outcome, width),
      excluded_entry(x, outcome, width)
    )
  })
  fingerprint <- text_entry("Data", paste("fingerprint", study_fingerprint(x)), width)
  c(join_blocks(blocks), note_lines(x, width), fingerprint)
}

# Of many outcomes a line each.
many_study_lines <- function(x, width) {
  shown <- utils::head(x$outcomes, most_lines)
  more <- length(x$outcomes) - length(shown)
  c(
    heading_line(paste("Study:", many_words(x)), study_direction(x)),
    text_table(many_study_cells(x, shown), width = width),
    if (more > 0) text_entry("Shown", sprintf("the first %d; %s more", length(shown), format_count(more)), width),
    text_entry("Design", design_words(x), width), note_lines(x, width)
  )
}

many_study_cells <- function(x, shown) {
  size <- vapply(shown, outcome_sizes, c(0, 0))
  cells <- list(outcome = vapply(shown, outcome_title_plain, ""))
  if (!is.null(x$each)) cells[[x$each$name]] <- vapply(shown, `[[`, "", "subgroup")
  if (is_paired(x)) {
    cells$pairs <- format_count(size[1, ])
  } else {
    cells[[x$groups[[1]]]] <- format_count(size[1, ])
    cells[[x$groups[[2]]]] <- format_count(size[2, ])
  }
  excluded <- vapply(shown, function(outcome) excluded_words(x, outcome) %||% "", "")
  if (any(nzchar(excluded))) cells$excluded <- excluded
  cells
}

#' @rdname print.vandro_study
#' @export
print.vandro_study <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @rdname print.vandro_study
#' @export
summary.vandro_study <- function(object, ...) object

claim_entry_words <- function(study) {
  sprintf(
    "%s and %s %s", study$groups[[1]], study$groups[[2]],
    if (study$claim == "same") "are the same; that needs bounds: test_equivalence()" else "differ"
  )
}

assigned_words <- function(study) {
  what <- if (is_paired(study)) "the order of the two measurements" else "units to the groups"
  if (study$assigned) paste(what, "at random") else paste(what, "not at random; a difference may have other causes")
}

study_cells <- function(x, outcome) {
  m <- outcome$moments
  groups <- x$groups
  if (is_paired(x)) {
    groups <- if (is.na(m[[1]]$mean)) study_direction(x) else c(groups, study_direction(x))
    if (length(groups) == 1) m <- m[3]
  }
  cells <- list(group = groups, n = format_count(vapply(m, `[[`, 0, "n")))
  if (x$source == "summary") {
    decimals <- outcome_decimals(outcome)
    cells$mean <- format_number(vapply(m, `[[`, 0, "mean"), decimals)
    cells$SD <- format_number(vapply(m, `[[`, 0, "sd"), decimals)
  }
  cells
}

design_words <- function(study) {
  from <- switch(study$source,
    summary = "from published numbers", database = "from a table in a database, by its own sums and counts",
    "from measurements"
  )
  design <- if (is_paired(study)) "pairs" else "two independent groups"
  rows <- vapply(study$rows, `[[`, "", "name")
  kinds <- c(order = "ordered by", blocks = "in blocks of", id = "units told by")
  paste(c(paste(design, from, sep = ", "), sprintf("%s %s", kinds[names(rows)], rows)), collapse = ", ")
}

# "within-pair correlation r = 0.62; 14 higher, 5 lower, 1 unchanged"
pair_words <- function(outcome) {
  p <- outcome$pairs
  if (is.null(p)) return(NULL)
  counts <- if (!is.na(p$up)) {
    sprintf("%s higher, %s lower, %s unchanged", format_count(p$up), format_count(p$down), format_count(p$same))
  }
  r <- if (!is.na(p$r)) sprintf("within-pair correlation r = %s", format_number(p$r))
  if (is.null(r) && is.null(counts)) return(NULL)
  paste(c(r, counts), collapse = "; ")
}

# "2 rows of compost without a value; 1 row without a group"
# The first few of the groups that are not compared by name, the others by their number.
first_groups <- function(left, most = 10) {
  other <- which(left$reason == "other group")
  if (length(other) <= most) return(left)
  rest <- other[-seq_len(most - 2)]
  last <- rest[[1]]
  left$n[[last]] <- sum(left$n[rest])
  left$reason[[last]] <- "more groups"
  left$group[[last]] <- sprintf("%s more groups", format_count(length(rest)))
  left[-rest[-1], ]
}
