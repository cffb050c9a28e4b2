# Commands as a person types them: what comes next, quoted and broken into lines for a shell.

# Returns the lines that propose what to type after a look at a file.
proposed_commands <- function(file, question, options) {
  if (file == "-" || is.null(question)) return(NULL)
  read <- options[c("decimal-mark", "thousands", "encoding", "sheet")]
  c("Next, for example:", shell_lines(next_command("difference", file, question_options(question), read)))
}

# Turns a proposed comparison into options by name.
question_options <- function(question) {
  question <- lapply(question, function(value) if (is.character(value)) listed_option(value) else value)
  if (!isTRUE(question$paired)) question$paired <- NULL
  question
}

# Joins several values into one option. Values with a comma get quotes, and codes get their labels.
listed_option <- function(values) {
  if (length(values) > 1) values <- ifelse(grepl("[,\"]", values), encodeString(values, quote = "\""), values)
  if (!is.null(names(values))) values <- paste0(names(values), "=", values)
  paste(values, collapse = ",")
}

# Returns a command line. `columns` and `more` are options by name; an option without a value is `TRUE`.
next_command <- function(command, file, columns, more = list()) {
  given <- keep_given(c(columns, more))
  words <- vapply(names(given), function(name) {
    value <- given[[name]]
    trimws(paste0("--", name, " ", if (!isTRUE(value)) shell_word(as.character(value))))
  }, "")
  paste(c("vandro", command, shell_word(file), words), collapse = " ")
}

shell_word <- function(text) {
  if (grepl("[^\\p{L}\\p{N}_.,=/%:+-]", text, perl = TRUE)) single_quoted(text) else text
}

# Breaks a command into lines of 80 characters that a shell reads as one command.
shell_lines <- function(example, width = 78) {
  words <- regmatches(example, gregexpr("(\"[^\"]*\"|'[^']*'|[^ \"'])+", example))[[1]]
  # An option stays with its value.
  value <- !startsWith(words, "--") & startsWith(c("", utils::head(words, -1)), "--")
  words <- unname(tapply(words, cumsum(!value), paste, collapse = " "))
  lines <- character()
  line <- " "
  for (word in words) {
    if (nchar(line) + nchar(word) + 1 > width && nchar(line) > 4) {
      lines <- c(lines, paste0(line, " \\"))
      line <- "   "
    }
    line <- paste(line, word)
  }
  c(lines, line)
}

# Quotes a text in the way that all shells read; shQuote() chooses double quotes, in which fish keeps backslashes.
single_quoted <- function(text) sprintf("'%s'", gsub("'", "'\\''", text, fixed = TRUE))
