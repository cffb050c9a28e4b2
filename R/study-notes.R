# What a declaration looks like beside what was declared: noted, never acted on.

# Labels that differ only in case or blanks are probably one group.
note_near_labels <- function(labels, name) {
  plain <- tolower(gsub("\\s+", "", printable(labels), perl = TRUE))
  if (!anyDuplicated(plain)) return(NULL)
  twins <- plain %in% plain[duplicated(plain)]
  sprintf(
    "Labels of %s that differ only in case or blanks count as different groups: %s.", name,
    paste(encodeString(labels[twins], quote = "\""), collapse = ", ")
  )
}

# Rows of two independent samples of equal size that go together as pairs would. Noted from a
# correlation of 0.5 that chance would give in fewer than 1 of 1000 such data sets.
note_row_correlation <- function(first, second, groups) {
  n <- length(first)
  # A file sorted by its values correlates with any other: no sign of pairs.
  if (n != length(second) || n < 6 || n > 1e6 || (is_sorted(first) && is_sorted(second))) return(NULL)
  rows <- core_row_correlation(as.double(first), as.double(second))
  if (!is_strong(rows$r, rows$n)) return(NULL)
  sprintf(
    paste(
      "The rows of %s and %s are correlated (r = %.2f, %d rows), although the groups were declared independent.",
      "If a row is one unit measured twice, declare the data as pairs."
    ),
    groups[[1]], groups[[2]], rows$r, as.integer(rows$n)
  )
}

is_strong <- function(r, n) {
  if (is.na(r) || abs(r) < 0.5 || n < 6) return(FALSE)
  t <- r * sqrt((n - 2) / max(1 - r^2, 1e-300))
  2 * stats::pt(-abs(t), n - 2) <= 0.001
}

is_sorted <- function(x) !is.unsorted(x, na.rm = TRUE) || !is.unsorted(-x, na.rm = TRUE)

# Notes units that occur in both groups, and units with several rows. `fix` is code that averages these rows.
note_repeated_id <- function(id, codes, code_of, fix) {
  if (is.null(id)) return(NULL)
  of_groups <- lapply(code_of, function(code) {
    values <- id$values[which(codes == code)]
    values[!is.na(values)]
  })
  both <- length(intersect(of_groups[[1]], of_groups[[2]]))
  rows <- sum(lengths(of_groups))
  units <- sum(vapply(of_groups, function(values) length(unique(values)), 0L))
  c(
    if (both > 0) {
      sprintf(
        "%d %s of %s in both groups, which were declared independent. For pairs, declare the data as pairs.", both,
        if (both == 1) "value" else "values", id$name
      )
    },
    if (units < rows) {
      sprintf(
        paste(
          "%s The %s rows of both groups come from %s units (%s), and every test and interval here assumes one row for",
          "each unit. Average the rows of a unit first: `%s`."
        ),
        not_valid, format_plain(rows, big.mark = " "), format_plain(units, big.mark = " "), id$name, fix
      )
    }
  )
}

# This opens a note on a fault that invalidates every result, and such a note is announced like an error.
not_valid <- "The results are not valid as they stand."

# Pairs that do not go together: a wrong key, or a pairing that gains nothing.
note_weak_pairing <- function(r, n) {
  if (is.na(r) || n < 6 || r > 0.1) return(NULL)
  sprintf(
    paste(
      "The two measurements of a pair are hardly correlated (r = %.2f, %d pairs): check that they come from the same",
      "unit."
    ),
    r, as.integer(n)
  )
}

# Records that stay in the study although they allow no comparison.
note_incomparable <- function(records, most = 5) {
  why <- lapply(records, `[[`, "incomparable")
  at <- which(lengths(why) > 0)
  if (length(at) == 0) return(NULL)
  shown <- vapply(utils::head(at, most), function(k) sprintf("%s: %s", records[[k]]$label, why[[k]]), "")
  more <- length(at) - length(shown)
  sprintf(
    "No comparison is possible for %d of %d: %s%s.", length(at), length(records), paste(shown, collapse = "; "),
    if (more > 0) sprintf("; and %d more", more) else ""
  )
}

announce_notes <- function(notes) {
  for (note in notes) {
    sign <- if (startsWith(note, not_valid)) "x" else "!"
    inform_vandro(stats::setNames("{note}", sign), "note", note = note)
  }
}

announce_direction <- function(study) {
  if (!study$announced) return(invisible())
  direction <- study_direction(study)
  inform_vandro(
    c(
      "i" = "Direction: {.strong {direction}}.",
      " " = "Use {.arg groups} to choose it."
    ),
    "direction",
    groups = study$groups
  )
}
