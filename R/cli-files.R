# One file or many, in; text, JSON or CSV, out.

# Does the work for every file. One that is at fault is told and does not stop the others; the exit status is 1 then.
cli_each <- function(parsed, work) {
  files <- parsed$files
  if (length(files) < 2) return(list(work(parsed)))
  if (sum(files == "-") > 1) abort_usage("Standard input, {.code -}, can be read only once.")
  at_fault <- character()
  done <- lapply(stats::setNames(nm = files), function(file) {
    rlang::try_fetch(
      work(list(command = parsed$command, options = name_output(parsed$options, file), files = file)),
      vandro_error = function(e) {
        # Wrong usage is wrong for every file.
        if (inherits(e, "vandro_error_usage")) return(rlang::zap())
        cli_complain(e, 1L, file)
        at_fault <<- c(at_fault, file)
        NULL
      }
    )
  })
  structure(done[!names(done) %in% at_fault], at_fault = at_fault)
}

# Commands that write one file each cannot write all into one.
check_named_outputs <- function(parsed) {
  files <- parsed$files
  output <- parsed$options$output
  if (length(files) < 2 || is.null(output)) return(invisible())
  if (!grepl("{name}", output, fixed = TRUE)) {
    abort_usage(c(
      "Several files need names of their own for what is written.",
      "i" = "{.code --output \"{{name}}-{basename(output)}\"} takes the name of each file."
    ))
  }
  names <- vapply(files, function(file) name_output(list(output = output), file)$output, "")
  if (!anyDuplicated(names)) return(invisible())
  twice <- names[duplicated(names)][[1]]
  abort_usage("Two files would be written to {.file {twice}}: their names differ only in folder or ending.")
}

cli_finish <- function(found) {
  at_fault <- attr(found, "at_fault")
  if (length(at_fault) == 0) return(invisible())
  all <- length(at_fault) + length(found)
  abort_vandro("{length(at_fault)} of {all} files could not be used.", "some_files", files = at_fault, call = NULL)
}

cli_format <- function(options, known = c("text", "json", "csv")) {
  asked <- cli_choice(options, "format", known)
  ending <- if (!is.null(options$output)) file_ending(options$output)
  ending <- if (isTRUE(ending %in% c("json", "csv", "txt"))) if (ending == "txt") "text" else ending
  if (!is.null(asked) && !is.null(ending) && asked != ending) {
    abort_usage(c(
      "{.code --format {asked}} and {.code --output {options$output}} contradict each other.",
      "i" = "Keep one of them."
    ))
  }
  asked %||% ending %||% "text"
}

cli_tell <- function(parsed, ask) {
  options <- parsed$options
  kind <- cli_format(options)
  decimals <- cli_numbers(options, "decimals")
  found <- cli_each(parsed, ask)
  # What goes to a file goes there whole or not at all.
  if (!is.null(options$output)) cli_finish(found)
  if (length(found)) cli_emit(told_answers(found, kind, decimals, isTRUE(options$details)), options)
  cli_finish(found)
}

told_answers <- function(found, kind, decimals, details) {
  if (is.null(names(found))) {
    answer <- found[[1]]
    if (kind != "text") return(export_answer(answer, format = kind))
    return(format(answer, decimals = decimals, details = details, width = cli_width()))
  }
  switch(kind,
    text = titled_texts(lapply(found, format, decimals = decimals, details = details, width = cli_width())),
    json = answers_json(found),
    csv = table_csv(by_file(found))
  )
}

# Their tables one below the other, with the name of the file in front.
by_file <- function(found) {
  stack_tables(lapply(names(found), function(file) cbind(file = file, as.data.frame(found[[file]]))))
}

# What is printed of one file, or of several under their names.
cli_texts <- function(found) {
  texts <- lapply(found, format, width = cli_width())
  if (is.null(names(found))) texts[[1]] else titled_texts(texts)
}

# Texts under the names of their files.
titled_texts <- function(texts) {
  lines <- unlist(lapply(names(texts), function(file) c(paste0("== ", file), texts[[file]], "")))
  utils::head(lines, -1)
}

cli_emit <- function(lines, options) {
  if (is.null(options$output)) {
    put_out(lines)
    return(character())
  }
  file <- check_output_path(options$output, options$force, arg = "--output", call = NULL)
  write_whole_text(file, lines, call = NULL)
}

cli_read <- function(file, options, as_written = FALSE, quiet = TRUE) {
  decimal_mark <- cli_choice(options, "decimal-mark", c(".", ",")) %||% "."
  encoding <- options$encoding %||% "UTF-8"
  if (file == "-") {
    file <- tempfile(fileext = ".txt")
    on.exit(unlink(file))
    input <- base::file("stdin", "rb")
    on.exit(close(input), add = TRUE)
    save_stream(input, file)
  }
  sheet <- options$sheet %||% 1
  if (!is.null(options$sheet) && grepl("^[0-9]+$", sheet)) sheet <- as.integer(sheet)
  read_measurements(
    file,
    decimal_mark = decimal_mark, thousands = options$thousands, encoding = encoding, sheet = sheet,
    as_written = as_written, quiet = quiet
  )
}

# One row per column: type, missing values, different ones, range of numbers, and what keeps a column from being one.
column_table <- function(data) {
  numeric <- vapply(data, is.numeric, NA)
  range_of <- function(which) {
    vapply(seq_along(data), function(i) {
      known <- if (numeric[[i]]) data[[i]][!is.na(data[[i]])]
      if (length(known)) as.double(which(known)) else NA_real_
    }, 0)
  }
  data.frame(
    column = names(data), type = unname(vapply(data, column_kind, "")), rows = nrow(data),
    missing = unname(vapply(data, function(x) sum(is.na(x)), 0L)),
    different = unname(vapply(data, function(x) length(unique(x[!is.na(x)])), 0L)), lowest = range_of(min),
    highest = range_of(max), odd = unname(vapply(data, odd_values, ""))
  )
}

# The values that made a column of numbers text, and where they are.
odd_values <- function(column) {
  bad <- strange_rows(column)
  if (length(bad) == 0) return("")
  words <- sprintf("row %d %s", utils::head(bad, 3), encodeString(column[utils::head(bad, 3)], quote = "\""))
  paste0(paste(words, collapse = ", "), if (length(bad) > 3) sprintf(" and %d more", length(bad) - 3))
}

format_columns <- function(table) {
  odd <- ifelse(nzchar(table$odd), paste0("; not numbers: ", table$odd), "")
  range <- ifelse(is.na(table$lowest), "", sprintf(
    ", %s to %s", vapply(table$lowest, format_short, ""), vapply(table$highest, format_short, "")
  ))
  names <- label_text(table$column)
  names <- cli::ansi_align(names, max(cli::ansi_nchar(names)))
  c(
    sprintf("%s rows, %d columns", format_count(table$rows[[1]]), nrow(table)),
    sprintf(
      "  %s  %s, %s missing, %s different%s%s", as.character(names), table$type, format_count(table$missing),
      format_count(table$different), range, odd
    )
  )
}
