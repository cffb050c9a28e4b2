#' The command line
#'
#' What the shell command `vandro` runs. Commands and options are the words of the verbs and their
#' arguments.
#'
#' @param args Words of the command line.
#' @return The exit status, invisibly: 0 done; 1 the data or the question is at fault, the message says
#'   which and what to do; 2 wrong usage. Results go to standard output, messages to standard error.
#' @section Commands:
#' ```
#' vandro describe    FILE --outcome COLUMN --by COLUMN [options]
#' vandro assumptions FILE --outcome COLUMN --by COLUMN [options]
#' vandro difference  FILE --outcome COLUMN --by COLUMN [options]
#' vandro equivalence FILE --outcome COLUMN --by COLUMN --within BOUNDS [options]
#' vandro bounds      FILE --outcome COLUMN --by COLUMN --within BOUNDS [options]
#' vandro cross-check FILE --outcome COLUMN --by COLUMN [options]
#' vandro evidence    FILE --outcome COLUMN --by COLUMN [--prior-width NUMBER] [options]
#' vandro priors      FILE --outcome COLUMN --by COLUMN [--widths LIST] [options]
#' vandro rehearse    --difference NUMBER --sd S1,S2 (--n N1,N2 | --power NUMBER | --half-width NUMBER) [options]
#' vandro make-up     --difference NUMBER --sd S1,S2 --n N1,N2 [--seed NUMBER] [options]
#' vandro audit       [FILE] [--n N1,N2 --mean M1,M2 --sd S1,S2 --t NUMBER --df NUMBER --p NUMBER ...] [options]
#' vandro effect      FILE --outcome COLUMN --by COLUMN [options]
#' vandro narrate     FILE --outcome COLUMN --by COLUMN [options]
#' vandro plot        FILE --outcome COLUMN --by COLUMN --output FIGURE [options]
#' vandro table       FILE --outcome COLUMN --by COLUMN [--output TABLE] [options]
#' vandro report      FILE --outcome COLUMN --by COLUMN --output REPORT [options]
#' vandro demo        [--output FOLDER]
#' vandro help [COMMAND]
#' ```
#' Other shapes: `--first COLUMN --second COLUMN` (one column per group), `--paired` with these or with
#' `--outcome --by --id` (pairs), `--change COLUMN`, `--counts COLUMN`.
#'
#' `FILE` is a text table, a Parquet file, a spreadsheet or an .rds file, `-` standard input. In place of
#' it `--n`, `--mean` and `--sd` take published numbers. `vandro help COMMAND` lists the options. A file
#' that exists is never replaced without `--force`.
#' @examples
#' file <- system.file("extdata", "seedlings.csv", package = "vandro")
#' vandro_command(c(
#'   "difference", file, "--outcome", "height", "--by", "substrate",
#'   "--groups", "compost,peat", "--unit", "cm"
#' ))
#' @export
vandro_command <- function(args = commandArgs(trailingOnly = TRUE)) {
  status <- tryCatch(
    {
      withCallingHandlers(
        cli_dispatch(args),
        vandro_message = function(m) {
          cat(conditionMessage(m), sep = "\n", file = stderr())
          invokeRestart("muffleMessage")
        }
      )
      0L
    },
    vandro_error_usage = function(e) cli_complain(e, 2L),
    error = function(e) cli_complain(e, 1L)
  )
  invisible(status)
}

cli_complain <- function(e, status) {
  # The message without the R call it came from: at a command line there was none.
  lines <- strsplit(conditionMessage(e), "\n", fixed = TRUE)[[1]]
  if (inherits(e, "vandro_error") || !inherits(e, "rlang_error")) lines <- c(lines, parent_words(e))
  cat(paste0("vandro: ", lines[[1]]), lines[-1], sep = "\n", file = stderr())
  if (status == 2L) cat("Try: vandro help\n", file = stderr())
  status
}

parent_words <- function(e) {
  if (is.null(e$parent)) return(NULL)
  paste("Because:", conditionMessage(e$parent))
}

cli_dispatch <- function(args) {
  if (length(args) == 0 || args[[1]] %in% c("help", "--help", "-h")) {
    return(writeLines(cli_help(if (length(args) > 1) args[[2]])))
  }
  if (args[[1]] == "--version") {
    return(writeLines(paste("vandro", utils::packageVersion("vandro"))))
  }
  command <- check_command(args[[1]])
  if (any(args[-1] %in% c("--help", "-h"))) return(writeLines(cli_help(command)))
  cli_commands[[command]]$run(cli_parse(command, args[-1]))
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
      "Exit status: 0 done, 1 the data or the question is at fault, 2 wrong usage."
    ))
  }
  command <- check_command(command)
  words <- vapply(
    cli_spec_of(command), function(o) paste(c(paste0("--", o$name), o$takes), collapse = " "), ""
  )
  help <- vapply(cli_spec_of(command), `[[`, "", "help")
  file <- if (command %in% c("demo", "rehearse", "make-up")) "" else if (command == "audit") " [FILE]" else " FILE"
  c(
    sprintf("vandro %s%s [options]: %s.", command, file, cli_commands[[command]]$about),
    "", sprintf("  %-22s %s", words, help), "", cli_example(command)
  )
}

cli_example <- function(command) {
  if (command == "demo") return("Example: vandro demo --output demo")
  if (command == "audit") {
    return("Example: vandro audit --n 18,20 --mean 22.1,19.8 --sd 3.9,3.2 --t 2.00 --df 36 --p .13")
  }
  if (command %in% c("rehearse", "make-up")) {
    wanted <- if (command == "rehearse") "--power 0.8" else "--n 24,22 --seed 7"
    return(sprintf(
      "Example: vandro %s --difference 2.5 --sd 3,4 %s --groups compost,peat --unit cm", command, wanted
    ))
  }
  extra <- switch(command,
    plot = " --output height.png", report = " --output height.html", equivalence = , bounds = " --within 5", ""
  )
  sprintf(
    "Example: vandro %s seedlings.csv --outcome height --by substrate --groups compost,peat --unit cm%s",
    command, extra
  )
}
