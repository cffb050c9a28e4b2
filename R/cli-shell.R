# What helps in a shell, made from the same tables as the help: completion and the man page.

# `table`: the commands, see cli-table.R.
cli_completion <- function(parsed, table) {
  refuse_files(parsed)
  shell <- cli_choice(parsed$options, "shell", c("bash", "zsh", "fish")) %||% "bash"
  cli_emit(switch(shell,
    bash = bash_completion(names(table)),
    zsh = zsh_completion(table),
    fish = fish_completion(table)
  ), parsed$options)
}

cli_manual <- function(parsed, table) {
  refuse_files(parsed)
  cli_emit(manual_lines(table), parsed$options)
}

refuse_files <- function(parsed) {
  if (length(parsed$files)) abort_usage("No FILE is taken here: {.file {parsed$files[[1]]}}.")
}

# Values that an option's help lists are completed too.
option_values <- function() {
  list(
    expect = directions, adjust = adjust_ways, zeros = c("drop", "pratt"), exact = c("yes", "no"),
    statistic = permutation_statistics, "bounds-in" = c("outcome", "sd"),
    "sd-of" = sd_names(), flagged = c("kept", "both"),
    claim = c("different", "same"), assigned = c("yes", "no"), set = c("full", "short"), centre = c("median", "mean"),
    voice = c("journal", "plain", "claim"), explain = c("yes", "no"), sources = c("yes", "no"),
    "p-as" = c("value", "inequality"), "leading-zero" = c("yes", "no"), outliers = c("ring", "label"),
    format = c("text", "json", "csv"), dates = date_orders, shell = c("bash", "zsh", "fish"),
    simulate = c("yes", "no"), rounding = c("nearest", "any"), columns = c("1", "2"),
    checks = c("yes", "no"), method = names(method_entries),
    interval = asked_intervals, "size-words" = names(known_size_words)
  )
}

bash_completion <- function(commands) {
  options <- vapply(stats::setNames(nm = commands), function(command) {
    paste0("--", vapply(cli_spec_of(command), `[[`, "", "name"), collapse = " ")
  }, "")
  values <- option_values()
  values <- values[sorted_text(names(values))]
  c(
    "# Completion of the command vandro for bash, made by `vandro completion`.",
    "_vandro() {", "  local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]} options=",
    "  COMPREPLY=()", "  if [ \"$COMP_CWORD\" = 1 ] || { [ \"$COMP_CWORD\" = 2 ] && [ \"$before\" = help ]; }; then",
    sprintf("    mapfile -t COMPREPLY < <(compgen -W \"%s\" -- \"$word\")", paste(c(commands, "help"), collapse = " ")),
    "    return", "  fi", "  case $before in",
    sprintf(
      "    --%s) mapfile -t COMPREPLY < <(compgen -W \"%s\" -- \"$word\"); return ;;", names(values),
      vapply(values, paste, "", collapse = " ")
    ),
    "  esac", "  if [ \"${word:0:1}\" != - ]; then",
    "    mapfile -t COMPREPLY < <(compgen -f -- \"$word\")", "    return", "  fi", "  case ${COMP_WORDS[1]} in",
    sprintf("    %s) options=\"%s\" ;;", names(options), options), "  esac",
    "  mapfile -t COMPREPLY < <(compgen -W \"$options\" -- \"$word\")", "}",
    "complete -o filenames -F _vandro vandro"
  )
}

zsh_completion <- function(table) {
  values <- option_values()
  values <- values[sorted_text(names(values))]
  described <- function(names, texts) {
    paste(single_quoted(paste0(names, ":", gsub(":", "\\:", texts, fixed = TRUE))), collapse = " ")
  }
  about <- vapply(table, `[[`, "", "about")
  options <- vapply(names(table), function(command) {
    spec <- cli_spec_of(command)
    described(paste0("--", vapply(spec, `[[`, "", "name")), vapply(spec, `[[`, "", "help"))
  }, "")
  c(
    "#compdef vandro", "# Completion of the command vandro for zsh, made by `vandro completion --shell zsh`.",
    "_vandro() {", "  local before=${words[CURRENT-1]}", "  local -a listed",
    "  if (( CURRENT == 2 )) || [[ $CURRENT == 3 && $before == help ]]; then",
    sprintf("    listed=(%s)", described(c(names(about), "help"), c(about, "lists the options of a command"))),
    "    _describe command listed", "    return", "  fi", "  case $before in",
    sprintf("    --%s) compadd -- %s; return ;;", names(values), vapply(values, paste, "", collapse = " ")), "  esac",
    "  if [[ $PREFIX != -* ]]; then", "    _files", "    return", "  fi", "  case ${words[2]} in",
    sprintf("    %s) listed=(%s) ;;", names(options), options), "  esac", "  _describe -o option listed", "}",
    "compdef _vandro vandro"
  )
}

fish_completion <- function(table) {
  values <- option_values()
  about <- vapply(table, `[[`, "", "about")
  c(
    "# Completion of the command vandro for fish, made by `vandro completion --shell fish`.",
    sprintf(
      "complete -c vandro -n __fish_use_subcommand -f -a %s -d %s", c(names(about), "help"),
      single_quoted(c(about, "lists the options of a command"))
    ),
    vapply(cli_spec(), function(o) {
      commands <- paste(o$commands %||% names(table), collapse = " ")
      known <- values[[o$name]]
      takes <- if (is.null(known)) " -r" else paste0(" -x -a ", single_quoted(paste(known, collapse = " ")))
      if (is.null(o$takes)) takes <- ""
      sprintf(
        "complete -c vandro -n '__fish_seen_subcommand_from %s' -l %s%s -d %s", commands, o$name, takes,
        single_quoted(o$help)
      )
    }, "")
  )
}

# Text of the man page in the language of man(7).
manual_lines <- function(table) {
  escape <- function(text) {
    text <- gsub("\\", "\\e", text, fixed = TRUE)
    gsub("-", "\\-", sub("^([.'])", "\\\\&\\1", text), fixed = TRUE)
  }
  typed <- function(o) paste(c(paste0("--", o$name), o$takes), collapse = " ")
  command_lines <- function(command) {
    about <- table[[command]]
    c(
      sprintf(".SS \"%s\"", escape(trimws(paste("vandro", command, about$takes)))),
      escape(paste0(capital(about$about), ".")), ".PP",
      escape(paste0("Options: ", toString(vapply(cli_spec_of(command), function(o) paste0("--", o$name), "")), ".")),
      ".PP", ".nf", escape(about$examples), ".fi"
    )
  }
  option_lines <- unlist(lapply(cli_spec(), function(o) c(".TP", sprintf(".B %s", escape(typed(o))), escape(o$help))))
  c(
    sprintf(".TH VANDRO 1 \"\" \"vandro %s\"", getNamespaceVersion("vandro")), ".SH NAME",
    "vandro \\- compare two groups, or paired measurements, from file to paper", ".SH SYNOPSIS",
    ".B vandro", "COMMAND [FILE] [options]", ".SH DESCRIPTION", escape(manual_about), ".SH COMMANDS",
    unlist(lapply(names(table), command_lines)), ".SH OPTIONS", option_lines, ".SH EXIT STATUS", ".TP", ".B 0",
    "done", ".TP", ".B 1",
    "the data or the question is at fault; the message says which and what to do", ".TP", ".B 2", "wrong usage", ".TP",
    ".B 130", "interrupted; nothing half written is left"
  )
}

manual_about <- paste(
  "FILE is a text table, a Parquet file, a spreadsheet or an .rds file; - is standard input. In place of it",
  "--n, --mean and --sd take published numbers. Several FILEs are asked the same question one after the other. Results",
  "go to standard output, messages to standard error. A file that exists is never replaced without --force, and what",
  "is written is written whole or not at all."
)
