# What the command line says: results to standard output, complaints to standard error.

# Results to standard output. R does not tell when they do not arrive, because a disk is full or nobody listens.
put_out <- function(lines) {
  lines <- enc2utf8(lines)
  if (sink.number() > 0 || interactive()) return(invisible(writeLines(lines, useBytes = TRUE)))
  why <- put_bytes(lines)
  if (why == "pipe") stop_inside("Nobody reads the results.", "vandro_reader_gone")
  if (nzchar(why)) {
    abort_vandro(c("The results could not be written to standard output.", "x" = "The system says: {why}."), "output")
  }
}

# As wide as the terminal says it is.
cli_width <- function() {
  columns <- suppressWarnings(as.integer(Sys.getenv("COLUMNS")))
  if (is.na(columns)) 80 else min(max(columns, 40), 200)
}

# The message without the R call it came from: at a command line there was none. Of several files `file` names the one.
cli_complain <- function(e, status, file = NULL) {
  lead <- if (is.null(file)) "vandro: " else sprintf("vandro: %s: ", file)
  lines <- c(own_message(e), parent_words(e))
  writeLines(c(paste0(lead, lines[[1]]), lines[-1], if (status == 2L) "Try: vandro help"), stderr())
  status
}

# Messages are templates that mark arguments and code. At the command line this theme shows them as options:
# `prior_half = 0.5` as `--prior-half 0.5`. In a plan they are keys, and stay.
option_theme <- function(command) {
  if (command %in% c("run", "compare")) return(list())
  names <- vapply(cli_spec_of(command), `[[`, "", "name")
  known <- c(stats::setNames(paste0("--", names), gsub("-", "_", names, fixed = TRUE)), file = "--output")
  ticked <- function(text) paste0("`", text, "`")
  option <- function(argument) if (isTRUE(argument %in% names(known))) known[[argument]] else argument
  setting <- function(code) {
    columns <- declared_options(code)
    if (!is.null(columns)) return(columns)
    flag <- sub(" = (TRUE)?$", "", code)
    if (flag != code && flag %in% names(known)) return(known[[flag]])
    parts <- regmatches(code, regexec("^([a-z_]+) = ([^ ]+|\"[^\"]*\"|c[(].*[)])$", code))[[1]]
    if (length(parts) == 0 || !parts[[2]] %in% names(known)) return(code)
    paste(option(parts[[2]]), gsub(" *([,=]) *", "\\1", gsub("^c[(]|[)]$|[\"`]", "", parts[[3]])))
  }
  list(
    span.arg = list(transform = function(text, ...) ticked(option(text))),
    span.code = list(transform = function(text, ...) ticked(setting(text))),
    span.fn = list(transform = function(text, ...) {
      ticked(if (text == "versus_paired") "--paired" else paste0(text, "()"))
    })
  )
}

# Turns the columns of a declaration in a hint into options; returns NULL for other code.
declared_options <- function(code) {
  parts <- regmatches(code, regexec("^(versus|versus_paired)[(](?:data, )?([^()]*)[)]$", code))[[1]]
  if (length(parts) == 0) return(NULL)
  columns <- strsplit(parts[[3]], ", ", fixed = TRUE)[[1]]
  given <- trimws(sub("=.*", "", columns))
  if (all(grepl("=", columns))) return(paste0("--", given, collapse = " and "))
  names <- list("change", c("first", "second"), c("outcome", "by", "id"))[[min(3, length(columns))]]
  columns <- vapply(columns, function(name) if (grepl(" ", name)) encodeString(name, quote = "\"") else name, "")
  paste(c(if (parts[[2]] == "versus_paired") "--paired", sprintf("--%s %s", names, columns)), collapse = " ")
}

# "{name}.html" becomes "north.html" for data/north.csv.
name_output <- function(options, file) {
  if (!is.null(options$output)) {
    stem <- sub("[.][^.]*$", "", basename(file))
    options$output <- gsub("{name}", if (file == "-") "stdin" else stem, options$output, fixed = TRUE)
  }
  options
}

own_message <- function(e) {
  if (inherits(e, "rlang_error")) rlang::cnd_message(e, inherit = FALSE) else conditionMessage(e)
}

# What lies below an error: of a plan the verb's own.
parent_words <- function(e) {
  words <- character()
  while (!is.null(e <- e$parent)) words <- c(words, paste("Because:", own_message(e)))
  words
}
