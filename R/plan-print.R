# Plans, runs and their comparison as text.

#' @rdname print.vandro_study
#' @export
format.vandro_plan <- function(x, ..., width = cli::console_width()) {
  fields <- x$fields
  asked <- lapply(names(fields$comparisons), function(name) {
    comparison <- fields$comparisons[[name]]
    questions <- paste(names(comparison$ask), collapse = ", ")
    direction <- if (length(comparison$groups) == 2) {
      paste(names(comparison$groups) %||% comparison$groups, collapse = " minus ")
    }
    text_entry(name, paste(c(direction, questions), collapse = ": "), width, label_width = 16)
  })
  declared <- fields$declared$date
  c(
    paste("Plan:", fields$title %||% basename(x$file)),
    text_entry("File", x$file, width, label_width = 16),
    text_entry("Declared", declared %||% "no date on record", width, label_width = 16),
    text_entry("Fingerprint", paste0(x$fingerprint, if (!is.null(fields$declared$fingerprint)) {
      if (fields$declared$fingerprint == x$fingerprint) {
        ", as declared"
      } else {
        sprintf("; declared %s: the plan was changed", fields$declared$fingerprint)
      }
    }), width, label_width = 16),
    if (length(fields$data)) {
      text_entry("Data", paste(vapply(fields$data, `[[`, "", "file"), collapse = ", "), width, label_width = 16)
    },
    if (!is.null(x$house)) text_entry("Conventions", x$house$name, width, label_width = 16),
    "Questions:", unlist(asked)
  )
}

#' @rdname print.vandro_study
#' @export
format.vandro_run <- function(x, ..., width = cli::console_width()) {
  with_style(x$plan$house$style, {
    wrapped <- function(text, ...) wrap_lines(text, width, ...)
    rows <- x$standing[x$standing$standing %in% c("departed", "not run"), ]
    c(
      paste("Run of plan:", x$plan$fields$title %||% basename(x$plan$file)),
      wrapped(declaration_sentence(x)), wrapped(standing_words(x$standing)),
      if (nrow(rows)) wrapped(sprintf("- %s, %s: %s", rows$study, rows$question, rows$what), exdent = 2),
      unlist(lapply(names(x$studies), run_study_lines, x = x, width = width)),
      if (length(x$files)) {
        c(
          "", sprintf("Written to %s:", x$output),
          wrapped(toString(x$files), indent = 2, exdent = 2)
        )
      }
    )
  })
}

# The sentences of what was asked, each with its standing.
run_study_lines <- function(name, x, width) {
  answers <- x$answers[[name]]
  asked <- intersect(c("difference", "equivalence", "evidence"), names(x$plan$fields$comparisons[[name]]$ask))
  standing <- x$standing[x$standing$study == name, ]
  lines <- lapply(asked, function(question) {
    text <- paste(tell(answers[[question]], "journal", NULL), collapse = " ")
    mark <- standing$standing[[match(question, standing$question)]]
    c(sprintf("  %s (%s)", capital(question), mark), paste0("    ", wrap_lines(text, width - 4)))
  })
  c("", sprintf("%s: %s", name, study_title(x$studies[[name]])), unlist(lines))
}

#' @rdname print.vandro_study
#' @export
print.vandro_plan <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @rdname print.vandro_study
#' @export
print.vandro_run <- function(x, ...) {
  emit(format(x, ...))
  invisible(x)
}

#' @rdname as.data.frame.vandro_answer
#' @export
as.data.frame.vandro_run <- function(x, row.names = NULL, optional = FALSE, ...) run_table(x, "difference")
