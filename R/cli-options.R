# The command line's options as data: name, what it takes, what it means, which commands know it.
# Every value arrives as text and is turned into a number here, strictly.

cli_spec <- function() {
  data <- c("describe", "assumptions", "difference", "effect", "narrate", "plot", "report")
  test <- c("difference", "narrate", "plot", "report")
  option <- function(name, takes, help, commands) {
    list(name = name, takes = takes, help = help, commands = commands)
  }
  list(
    option("outcome", "COLUMN", "column of measurements (several: A,B)", data),
    option("by", "COLUMN", "column that tells the groups or occasions apart", data),
    option("groups", "A,B", "the two groups, first minus second; codes with labels: A=1,B=2", data),
    option("first", "COLUMN", "one column per group: the first", data),
    option("second", "COLUMN", "one column per group: the second", data),
    option("paired", NULL, "the two columns, or the rows of one --id, are pairs", data),
    option("id", "COLUMN", "column of the key (several: A,B)", data),
    option("change", "COLUMN", "column of ready-made changes", data),
    option("counts", "COLUMN", "column with the number of times a row occurs", data),
    option("order", "COLUMN", "column by which the rows are ordered", data),
    option("blocks", "COLUMN", "column of blocks", data),
    option("missing", "LIST", "values that stand for a missing one: -99,n/a", data),
    option("scale-by", "NUMBER", "factor that changes the unit of the outcome", data),
    option("n", "N1,N2", "published sizes (instead of FILE); pairs: one number", data),
    option("mean", "M1,M2", "published means", data),
    option("sd", "S1,S2", "published standard deviations", data),
    option("se", "S1,S2", "published standard errors, in place of --sd", data),
    option("r", "NUMBER", "published pairs: correlation", data),
    option("mean-change", "NUMBER", "published pairs: mean of the changes", data),
    option("sd-change", "NUMBER", "published pairs: standard deviation of the changes", data),
    option("unit", "UNIT", "unit of the outcome", data),
    option("label", "TEXT", "name of the outcome as it should read", data),
    option("decimal", "MARK", "decimal mark of FILE: '.' or ','", data),
    option("thousands", "MARK", "thousands mark of FILE", data),
    option("encoding", "NAME", "encoding of FILE: UTF-8, Latin-1, windows-1252, UTF-16, ...", data),
    option("sheet", "NAME", "sheet of a spreadsheet", data),
    option("expect", "WORD", "either, higher or lower (of the first group)", test),
    option("beyond", "NUMBER", "difference under the null hypothesis", test),
    option("reason", "TEXT", "why the question is directional", setdiff(test, "plot")),
    option(
      "method", "LIST", "primary method, then others beside it: welch,student; pairs: paired",
      c(test, "effect")
    ),
    option("alpha", "NUMBER", "significance level", c(test, "assumptions")),
    option("level", "NUMBER", "confidence of the two-sided intervals, 0 to 1", data),
    option("adjust", "WORD", "holm or none, for several outcomes", c("difference", "narrate", "report")),
    option("set", "WORD", "full or short", "describe"),
    option("estimands", "LIST", "all, or codes: mean_difference,mean_ratio,d_pooled,g,d_average,...", "effect"),
    option("interval", "WORD", "noncentral_t, bonett or bootstrap", "effect"),
    option("draws", "NUMBER", "bootstrap samples", "effect"),
    option("seed", "NUMBER", "seed of the bootstrap", "effect"),
    option("threads", "NUMBER", "threads of the bootstrap", "effect"),
    option("size-words", "WORDS", "cohen_1988, cohen_1992, or thresholds: slight=0.1,clear=0.4", "effect"),
    option("size-source", "TEXT", "source of your own thresholds", "effect"),
    option("check-alpha", "NUMBER", "significance level of the checks", "assumptions"),
    option("centre", "WORD", "median or mean, for the test of spread", "assumptions"),
    option("spread-rule", "NUMBER", "rule of thumb for the ratio of the SDs", "assumptions"),
    option("spread-source", "TEXT", "source of your own rule", "assumptions"),
    option("limits", "LOW,HIGH", "smallest and largest possible value", "assumptions"),
    option(
      "view", "WORD",
      "estimation, points, distributions, means, pairs, changes, order, null, effects, assumptions, normal, spread",
      "plot"
    ),
    option("outliers", "WORD", "ring or label, for --view points", "plot"),
    option("caption", "TEXT", "caption of the figure", "plot"),
    option("voice", "WORD", "journal or plain", "narrate"),
    option(
      "digits", "NUMBER", "decimals in the outcome's unit",
      c("describe", "assumptions", "difference", "effect", "narrate")
    ),
    option("title", "TEXT", "title of the report or figure", c("plot", "report")),
    option("author", "TEXT", "author of the report", "report"),
    option("date", "DATE", "date printed on the report", "report"),
    option("width", "NUMBER", "width of the figure in inches", "plot"),
    option("height", "NUMBER", "height of the figure in inches", "plot"),
    option("format", "WORD", "text, json or csv", c("describe", "assumptions", "difference", "effect")),
    option(
      "output", "FILE", "write there (demo: folder); without it results go to standard output",
      c(data, "demo")
    ),
    option("force", NULL, "replace what exists", c(data, "demo"))
  )
}

cli_spec_of <- function(command) Filter(function(o) command %in% o$commands, cli_spec())

abort_usage <- function(message, ..., .envir = parent.frame()) {
  abort_vandro(message, "usage", ..., call = NULL, .envir = .envir)
}

# list(options = named list of text, files = character())
cli_parse <- function(command, args) {
  need_package("optparse", "for the command line")
  spec <- cli_spec_of(command)
  args <- join_values(args, vapply(Filter(function(o) !is.null(o$takes), spec), `[[`, "", "name"))
  check_known_options(args, spec, command)
  parser <- optparse::OptionParser(add_help_option = FALSE, option_list = lapply(spec, function(o) {
    if (is.null(o$takes)) {
      optparse::make_option(paste0("--", o$name), action = "store_true", default = FALSE)
    } else {
      optparse::make_option(paste0("--", o$name), type = "character", default = NULL)
    }
  }))
  parsed <- tryCatch(
    optparse::parse_args(parser, args, positional_arguments = TRUE, convert_hyphens_to_underscores = FALSE),
    error = function(e) {
      said <- conditionMessage(e)
      abort_usage(c("The options could not be read.", "x" = "{said}"))
    }
  )
  list(options = parsed$options, files = parsed$args)
}

# "--beyond -5" would look like a flag to the parser: joined to "--beyond=-5". A value that is missing
# is reported here, by name.
join_values <- function(args, taking) {
  out <- character()
  i <- 1
  while (i <= length(args)) {
    name <- sub("^--", "", args[[i]])
    if (startsWith(args[[i]], "--") && name %in% taking) {
      has_value <- i < length(args) && !grepl("^--[a-z]", args[[i + 1]])
      if (!has_value) abort_usage("Option {.code --{name}} needs a value.")
      out <- c(out, paste0(args[[i]], "=", args[[i + 1]]))
      i <- i + 2
    } else {
      out <- c(out, args[[i]])
      i <- i + 1
    }
  }
  out
}

check_known_options <- function(args, spec, command) {
  known <- vapply(spec, `[[`, "", "name")
  given <- grep("^-[^-0-9.]|^--", args, value = TRUE)
  given <- sub("=.*$", "", sub("^--?", "", given))
  unknown <- setdiff(given, known)
  if (length(unknown) == 0) return(invisible())
  first <- unknown[[1]]
  near <- near_names(first, known)
  hint <- if (length(near)) {
    "Did you mean {.code --{near[[1]]}}?"
  } else {
    "{.code vandro help {command}} lists the options."
  }
  abort_usage(
    c("{.code vandro {command}} has no option {.code --{first}}.", "i" = hint),
    option = first
  )
}

cli_numbers <- function(options, name, count = 1) {
  text <- options[[name]]
  if (is.null(text)) return(NULL)
  pieces <- trimws(strsplit(text, ",", fixed = TRUE)[[1]])
  numbers <- suppressWarnings(as.numeric(pieces))
  plain <- grepl("^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$", pieces)
  if (length(pieces) == count && all(plain) && !anyNA(numbers)) return(numbers)
  wanted <- if (count == 1) "one number" else sprintf("%d numbers separated by a comma", count)
  abort_usage(c("Option {.code --{name}} must be {wanted}.", "x" = "It is {.val {text}}."), option = name)
}

cli_choice <- function(options, name, choices) {
  text <- options[[name]]
  if (is.null(text) || text %in% choices) return(text)
  listed <- cli::cli_vec(choices, list("vec-last" = " or "))
  near <- near_names(text, choices)
  hint <- if (length(near)) "Did you mean {.val {near[[1]]}}?"
  abort_usage(
    c("Option {.code --{name}} must be {.val {listed}}.", "x" = "It is {.val {text}}.", "i" = hint),
    option = name
  )
}

# Words separated by commas; one with a comma of its own in double quotes.
cli_list <- function(options, name) {
  text <- options[[name]]
  if (is.null(text)) return(NULL)
  scan(text = text, what = "", sep = ",", quote = "\"", strip.white = TRUE, quiet = TRUE)
}

# "cohen_1988" or "slight=0.1,clear=0.4"
cli_size_words <- function(options) {
  text <- options[["size-words"]]
  if (is.null(text) || !grepl("=", text, fixed = TRUE)) return(text)
  pieces <- cli_list(options, "size-words")
  numbers <- suppressWarnings(as.numeric(sub("^[^=]*=", "", pieces)))
  if (anyNA(numbers)) {
    abort_usage(
      c(
        "Option {.code --size-words} must name a scheme or thresholds.", "x" = "It is {.val {text}}.",
        "i" = "For example {.code --size-words cohen_1988} or {.code --size-words slight=0.1,clear=0.4}."
      ),
      option = "size-words"
    )
  }
  stats::setNames(numbers, trimws(sub("=.*$", "", pieces)))
}

# "compost,peat" or "compost=1,peat=2"; labels with a comma in double quotes.
cli_groups <- function(options) {
  text <- options$groups
  pieces <- cli_list(options, "groups")
  if (is.null(text)) return(NULL)
  coded <- grepl("=", pieces, fixed = TRUE)
  if (length(pieces) != 2 || (any(coded) && !all(coded))) {
    abort_usage(
      c(
        "Option {.code --groups} must name two groups, first minus second.",
        "x" = "It is {.val {text}}.",
        "i" = "For example {.code --groups compost,peat} or {.code --groups compost=1,peat=2}."
      ),
      option = "groups"
    )
  }
  if (!any(coded)) return(pieces)
  stats::setNames(sub("^[^=]*=", "", pieces), trimws(sub("=.*$", "", pieces)))
}
