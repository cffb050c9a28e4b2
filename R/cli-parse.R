# Words of a command line, read against the table of options.

# The options of a command; those without commands belong to all of them.
cli_spec_of <- function(command) Filter(function(o) is.null(o$commands) || command %in% o$commands, cli_spec())

abort_usage <- function(message, ..., .envir = parent.frame()) {
  abort_vandro(message, "usage", ..., call = NULL, .envir = .envir)
}

# list(command =, options = named list of text, files = character())
cli_parse <- function(command, args) {
  need_package("optparse", "for the command line")
  odd <- not_text(args)
  if (length(odd)) abort_usage(c("What is given must be text in UTF-8.", "x" = "{odd} {?is/are} none."))
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
  list(command = command, options = parsed$options, files = parsed$args)
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
  if (length(unknown) == 0) return(refuse_twice(given))
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

# Of two values one would be dropped in silence.
refuse_twice <- function(given) {
  twice <- given[duplicated(given)]
  if (length(twice) == 0) return(invisible())
  abort_usage(
    c("Option {.code --{twice[[1]]}} stands twice.", "i" = "Give it once; several values stand in one list: A,B."),
    option = twice[[1]]
  )
}

# `lacking`: NA may stand for a number that there is not.
cli_numbers <- function(options, name, count = 1, lacking = FALSE) {
  text <- options[[name]]
  if (is.null(text)) return(NULL)
  pieces <- trimws(strsplit(text, ",", fixed = TRUE)[[1]])
  numbers <- plain_numbers(pieces)
  if (length(pieces) == count && !anyNA(numbers[!(lacking & pieces == "NA")])) return(numbers)
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
  if (is.null(options[[name]])) return(NULL)
  cli_split(options[[name]], name, ",")
}

cli_split <- function(text, name, sep) {
  if (lengths(regmatches(text, gregexpr("\"", text))) %% 2 == 1) {
    abort_usage(c(
      "Option {.code --{name}} has a double quote without its partner.", "x" = "It is {.val {text}}.",
      "i" = "Quotes hold together a name with {.val {sep}} in it."
    ), option = name)
  }
  scan(text = text, what = "", sep = sep, quote = "\"", strip.white = TRUE, quiet = TRUE)
}

# "cohen" or "slight=0.1,clear=0.4"
cli_words <- function(options, name) {
  text <- options[[name]]
  if (is.null(text) || !grepl("=", text, fixed = TRUE)) return(text)
  pieces <- cli_list(options, name)
  numbers <- text_number(sub("^[^=]*=", "", pieces))
  if (anyNA(numbers)) {
    abort_usage(
      c(
        "Option {.code --{name}} must name a scheme or thresholds.",
        "x" = "It is {.val {text}}.",
        "i" = "For example {.code --{name} slight=0.1,clear=0.4}."
      ),
      option = name
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

# "height.unit=mm;mass.unit=g" as texts by name.
cli_named <- function(options, name, sep, must, example) {
  text <- options[[name]]
  if (is.null(text)) return(NULL)
  parts <- cli_split(text, name, sep)
  if (!all(grepl("^[^=]+=.", parts))) {
    abort_usage(
      c(
        "Option {.code --{name}} must {must}.", "x" = "It is {.val {text}}.",
        "i" = "For example {.code --{name} {example}}."
      ),
      option = name
    )
  }
  stats::setNames(sub("^[^=]*=", "", parts), trimws(sub("=.*$", "", parts)))
}
