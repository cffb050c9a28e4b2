#' The command line
#'
#' What the shell command `vandro` runs. Commands and options are the words of the verbs and their
#' arguments.
#'
#' @param args Words of the command line.
#' @return The exit status, invisibly: 0 done; 1 the data or the question is at fault, the message says
#'   which and what to do; 2 wrong usage; 130 interrupted. Results go to standard output, messages to standard error.
#' @section Commands:
#' ```
#' vandro read        FILE... [options]
#' vandro describe    FILE... --outcome COLUMN --by COLUMN [options]
#' vandro assumptions FILE... --outcome COLUMN --by COLUMN [options]
#' vandro difference  FILE... --outcome COLUMN --by COLUMN [options]
#' vandro equivalence FILE... --outcome COLUMN --by COLUMN --within BOUNDS [options]
#' vandro bounds      FILE... --outcome COLUMN --by COLUMN --within BOUNDS [options]
#' vandro cross-check FILE... --outcome COLUMN --by COLUMN [options]
#' vandro evidence    FILE... --outcome COLUMN --by COLUMN [--prior-half NUMBER] [options]
#' vandro priors      FILE... --outcome COLUMN --by COLUMN [--widths LIST] [options]
#' vandro rehearse    --difference NUMBER --sd S1,S2 (--n N1,N2 | --power NUMBER | --half-width NUMBER) [options]
#' vandro make-up     --difference NUMBER --sd S1,S2 --n N1,N2 [--seed NUMBER] [options]
#' vandro audit       [FILE] [--n N1,N2 --mean M1,M2 --sd S1,S2 --t NUMBER --df NUMBER --p NUMBER ...] [options]
#' vandro effect      FILE... --outcome COLUMN --by COLUMN [options]
#' vandro narrate     FILE... --outcome COLUMN --by COLUMN [options]
#' vandro plot        FILE... --outcome COLUMN --by COLUMN --output FIGURE [options]
#' vandro table       FILE... --outcome COLUMN --by COLUMN [--output TABLE] [options]
#' vandro report      FILE... --outcome COLUMN --by COLUMN --output REPORT [options]
#' vandro plan        FILE --outcome COLUMN --by COLUMN [--ask LIST] --output PLAN [options]
#' vandro run         PLAN... [--output FOLDER] [options]
#' vandro compare     RUN RUN [options]
#' vandro completion | manual [--output FILE]
#' vandro demo        [--output FOLDER]
#' vandro help [COMMAND]
#' ```
#' Other shapes: `--first COLUMN --second COLUMN` (one column per group), `--paired` with these or with
#' `--outcome --by --id` (pairs), `--change COLUMN`, `--counts COLUMN`.
#'
#' `FILE` is a text table, a Parquet file, a spreadsheet or an .rds file, `-` standard input. In place of
#' it `--n`, `--mean` and `--sd` take published numbers. Several files are asked the same question one after the other;
#' one at fault is told and does not stop the others, and the exit status is 1 then. `{name}` in `--output` stands for
#' the name of each file. `vandro help COMMAND` lists the options. A file that exists is never replaced without
#' `--force`; what is written is written whole or not at all, also when the command is interrupted.
#'
#' `vandro completion` prints completion for bash, zsh or fish (`--shell`), `vandro manual` the man page.
#' @section Errors: None in R: every error (`vandro_error_...`) becomes a message on standard error and a status.
#' @examples
#' file <- system.file("extdata", "seedlings.csv", package = "vandro")
#' vandro_command(c(
#'   "difference", file, "--outcome", "height", "--by", "substrate",
#'   "--groups", "compost,peat", "--unit", "cm"
#' ))
#' @export
vandro_command <- function(args = commandArgs(trailingOnly = TRUE)) {
  cli::start_app(theme = option_theme(c(args, "help")[[1]]))
  status <- tryCatch(
    {
      withCallingHandlers(
        cli_dispatch(args),
        vandro_message = function(m) {
          if (!"--quiet" %in% args) writeLines(sub("\n$", "", conditionMessage(m)), stderr())
          invokeRestart("muffleMessage")
        }
      )
      0L
    },
    # Whoever reads the results has seen enough, as `head` does.
    vandro_reader_gone = function(e) 141L,
    vandro_error_usage = function(e) cli_complain(e, 2L),
    error = function(e) cli_complain(e, 1L),
    interrupt = function(e) {
      cat("vandro: interrupted; what was being written was not kept.\n", file = stderr())
      130L
    }
  )
  invisible(status)
}

cli_dispatch <- function(args) {
  if (length(args) == 0 || args[[1]] %in% c("help", "--help", "-h")) {
    if (length(args) > 2) abort_usage("{.code vandro help} takes one COMMAND.")
    return(put_out(cli_help(if (length(args) > 1) args[[2]])))
  }
  if (args[[1]] == "--version") return(put_out(paste("vandro", utils::packageVersion("vandro"))))
  command <- check_command(args[[1]])
  if (any(args[-1] %in% c("--help", "-h"))) return(put_out(cli_help(command)))
  parsed <- cli_parse(command, args[-1])
  if (length(parsed$files) == 1) parsed$options <- name_output(parsed$options, parsed$files)
  # A plan names its conventions; every other command follows them.
  if (!is.null(parsed$options$conventions) && command != "plan") {
    parsed$options$house <- read_conventions(parsed$options$conventions)
  }
  # The demo types commands of its own.
  parsed$dispatch <- cli_dispatch
  with_conventions(parsed$options$house, NULL, cli_commands[[command]]$run(parsed))
}

check_command <- function(command) {
  known <- names(cli_commands)
  if (command %in% known) return(command)
  near <- near_names(command, known)
  hint <- if (length(near)) "Did you mean {.val {near[[1]]}}?" else "Commands: {.val {known}}."
  abort_usage(c("There is no command {.val {command}}.", "i" = hint), command = command)
}

cli_help <- function(command = NULL) {
  if (is.null(command)) {
    about <- vapply(cli_commands, `[[`, "", "about")
    return(c(
      "vandro COMMAND [FILE] [options]: compare two groups, from file to paper.", "",
      sprintf("  %-12s %s", names(about), about), "",
      "vandro help COMMAND lists a command's options.",
      "Exit status: 0 done, 1 the data or the question is at fault, 2 wrong usage, 130 interrupted."
    ))
  }
  command <- check_command(command)
  asked <- cli_commands[[command]]
  spec <- cli_spec_of(command)
  groups <- unique(vapply(spec, `[[`, "", "group"))
  c(
    strwrap(sprintf("vandro %s [options]: %s.", trimws(paste(command, asked$takes)), asked$about), 80, exdent = 2), "",
    unlist(lapply(groups, function(group) {
      c(paste0(group, ":"), unlist(lapply(Filter(function(o) o$group == group, spec), option_lines)), "")
    })),
    paste0("Example", if (length(asked$examples) > 1) "s", ":"), unlist(lapply(asked$examples, shell_lines))
  )
}

# Returns the lines of an option and its explanation, which begins in column 24.
option_lines <- function(option) {
  word <- paste0("  --", paste(c(option$name, option$takes), collapse = " "))
  text <- strwrap(option$help, 80 - 24)
  if (nchar(word) > 22) return(c(word, sprintf("%24s%s", "", text)))
  c(sprintf("%-24s%s", word, text[[1]]), sprintf("%24s%s", "", text[-1]))
}
