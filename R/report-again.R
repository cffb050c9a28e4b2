# How to run a report again: a script that reads the data, declares the studies, asks the questions and writes it.

# `frame`: that of write_report(), whose arguments the last call repeats.
again_lines <- function(chapters, frame, file, compared) {
  several <- length(chapters) > 1
  folder <- dirname(normalizePath(file, mustWork = FALSE))
  read <- character()
  lines <- unlist(lapply(seq_along(chapters), function(i) {
    answers <- chapters[[i]]
    study <- answers$difference$study
    end <- if (several) paste0("_", i) else ""
    name <- paste0("study", end)
    data <- data_lines(study, folder)
    # Data that are read already need not be read for each chapter.
    again <- identical(read, data)
    read <<- data
    c(
      if (!again) data,
      if (is.null(study$declared)) {
        sprintf("# %s: a study that was changed after it was declared; make it here.", name)
      } else {
        sprintf("%s <- %s", name, study$declared)
      },
      sprintf("# Printed, it shows the fingerprint of its data: %s.", study_fingerprint(study)),
      answer_lines(answers, name, end), ""
    )
  }))
  version <- chapters[[1]]$difference$settings$version
  list(
    doc_paragraph(
      "This script gives every number, and the report, again. It is run in R, in the folder of the report."
    ),
    doc_code(c(
      sprintf("library(vandro) # version %s", version), "", lines, report_call(chapters, frame, file, compared)
    ))
  )
}

# The lines that make the data frame of a declaration, or say what to make.
data_lines <- function(study, folder) {
  name <- data_name(study)
  if (is.null(name)) return(number_lines(study))
  if (!is.null(study$read)) {
    read <- study$read
    read$file <- path_from(read$file, folder)
    names(read)[[1]] <- ""
    return(script_lines(rlang::call2("read_measurements", !!!read, quiet = TRUE), name))
  }
  if (is_shipped(study, name)) return(sprintf("# %s comes with vandro.", name))
  kind <- if (study$source == "database") "table of a database" else "data frame"
  sprintf("# %s: the %s from which the report was made; open or make it here.", name, kind)
}

# Numbers that were too many to be written out stand in a declaration by the name of their argument.
number_lines <- function(study) {
  call <- if (!is.null(study$declared)) rlang::parse_expr(study$declared)
  args <- as.list(call)[-1]
  named <- names(args)[mapply(function(value, name) identical(value, as.name(name)), args, names(args))]
  if (length(named)) sprintf("# %s: the numbers from which the report was made; make them here.", toString(named))
}

# The name of the data in a declaration; none where it holds all numbers itself.
data_name <- function(study) {
  call <- if (!is.null(study$declared)) rlang::parse_expr(study$declared)
  if (length(call) < 2) return(NULL)
  named <- names(call)
  at <- if ("data" %in% named) "data" else if (is.null(named) || !nzchar(named[[2]])) 2
  if (!is.null(at) && is.symbol(call[[at]])) as.character(call[[at]])
}

# Whether a declaration is about data of the package, as they are.
is_shipped <- function(study, name) {
  shipped <- getNamespaceInfo("vandro", "lazydata")
  if (!exists(name, envir = shipped, inherits = FALSE)) return(FALSE)
  inside <- new.env(parent = asNamespace("vandro"))
  assign(name, get(name, envir = shipped), inside)
  ours <- tryCatch(quietly(eval(rlang::parse_expr(study$declared), inside)), error = function(e) NULL)
  !is.null(ours) && study_fingerprint(ours) == study_fingerprint(study)
}

# The names of answers in the script are those of their places, counted where there are several.
answer_lines <- function(answers, name, end) {
  all <- chapter_answers(answers)
  names <- answer_variables(answers, end)
  from <- c(bounds = "equivalence", priors = "evidence")
  vapply(seq_along(all), function(i) {
    place <- report_place(all[[i]])
    about <- if (place %in% names(from)) paste0(from[[place]], end) else name
    paste(script_lines(answer_call(all[[i]], about), names[[i]]), collapse = "\n")
  }, "")
}

answer_variables <- function(answers, end) {
  places <- vapply(chapter_answers(answers), report_place, "")
  make.unique(paste0(places, end), "_again_")
}

# The call of write_report() with what was given to it.
report_call <- function(chapters, frame, file, compared) {
  several <- length(chapters) > 1
  items <- unlist(lapply(seq_along(chapters), function(i) {
    answers <- chapters[[i]]
    end <- if (several) paste0("_", i) else ""
    all <- chapter_answers(answers)
    given <- attr(answers, "given")
    at <- vapply(all, report_place, "") %in% given
    items <- lapply(if (any(at)) answer_variables(answers, end)[at] else paste0("study", end), as.name)
    own <- vapply(if (any(at)) all[at] else list(answers$difference), function(x) x$told_as %||% "", "")
    heading <- names(chapters)[[i]]
    if (!any(nzchar(own)) && heading != study_title(answers$difference$study)) own[] <- heading
    stats::setNames(items, own)
  }), recursive = FALSE)
  items <- c(items, compared_calls(compared, chapters))
  x <- if (length(items) == 1 && !any(nzchar(names(items)))) items[[1]] else as.call(c(quote(list), items))
  given <- mget(
    c("within", "bounds_in", "sd_of", "estimands", "text", "title", "author", "style", "conventions"), frame
  )
  given$bounds_in <- if (!is.null(given$within)) given$bounds_in[[1]]
  if (is.list(given$within)) given$within <- lapply(given$within, as.numeric)
  given$style <- made_call("number_style", given$style)
  given$conventions <- made_call("house_conventions", given$conventions)
  if (!identical(frame$parts, names(part_headings))) given$parts <- frame$parts
  asked <- eval(quote(list(...)), frame)
  args <- c(list(x, basename(file)), asked, keep_given(given), list(date = frame$page$date, overwrite = TRUE))
  script_lines(as.call(c(quote(write_report), args)))
}

# The calls that lay answers of the report side by side again, with their headings.
compared_calls <- function(compared, chapters) {
  several <- length(chapters) > 1
  known <- unlist(lapply(seq_along(chapters), function(i) {
    all <- chapter_answers(chapters[[i]])
    stats::setNames(all, answer_variables(chapters[[i]], if (several) paste0("_", i) else ""))
  }), recursive = FALSE)
  lapply(compared, function(item) {
    of <- lapply(item$detail$answers, function(answer) {
      at <- vapply(known, function(one) {
        identical(one$table, answer$table) && study_key(one$study) == study_key(answer$study)
      }, NA)
      if (any(at)) as.name(names(known)[[which(at)[[1]]]])
    })
    if (any(vapply(of, is.null, NA))) quote(compared) else as.call(c(quote(compare_answers), of))
  })
}

# The call of a maker of conventions or styles that gives the same again.
made_call <- function(maker, made) {
  if (is.null(made)) return(NULL)
  defaults <- lapply(formals(maker), function(x) tryCatch(eval(x), error = function(e) NULL))
  made <- keep_given(unclass(made)[names(unclass(made)) %in% names(defaults)])
  own <- made[!mapply(function(value, name) identical(value, defaults[[name]][seq_along(value)]), made, names(made))]
  if (!is.null(own$style)) own$style <- made_call("number_style", own$style)
  as.call(c(as.name(maker), own))
}

# A call, and what it is assigned to, in one line or with a line for each argument. Nothing in it is shortened.
script_lines <- function(call, to = NULL) {
  code <- function(x) paste(trimws(deparse(x, 500, control = c("keepNA", "niceNames"))), collapse = " ")
  args <- as.list(call)[-1]
  names <- names(args) %||% rep("", length(args))
  texts <- paste0(ifelse(nzchar(names), paste0(vapply(names, as_written_name, ""), " = "), ""), vapply(args, code, ""))
  if (!l10n_info()[["UTF-8"]]) texts <- gsub("<U[+]([0-9A-F]{4,8})>", "\\\\u{\\1}", texts)
  start <- paste0(if (!is.null(to)) paste(to, "<- "), code(call[[1]]), "(")
  line <- paste0(start, paste(texts, collapse = ", "), ")")
  if (nchar(line) <= 100) line else c(start, paste0("  ", texts, c(rep(",", length(texts) - 1), "")), ")")
}

as_written_name <- function(name) if (make.names(name) == name) name else encodeString(name, quote = "`")

# The call that gives an answer again: what differs from the defaults of its verb.
answer_call <- function(x, name) {
  asked <- own_settings(x)
  # What nobody chose is not said to be chosen.
  if (identical(x$settings$method_from, "default")) asked$method <- NULL
  inside <- names(asked) %in% names(options_of(x$settings$verb))
  options <- if (any(inside)) list(options = rlang::call2("method_options", !!!asked[inside]))
  rlang::call2(x$settings$verb, as.name(name), !!!asked[!inside], !!!options)
}

# The arguments that an answer was asked with, where they differ from the defaults of its verb.
own_settings <- function(x) {
  s <- x$settings
  defaults <- c(formals(verb_of(s$verb)), options_of(s$verb))
  asked <- lapply(stats::setNames(nm = intersect(names(s), names(defaults))), function(argument) {
    value <- s[[argument]]
    default <- tryCatch(eval(defaults[[argument]]), error = function(e) NULL)
    if (is.null(value) || identical(value, default) || (length(default) && identical(value, default[[1]]))) return(NULL)
    # A number of draws is what was drawn, not what was asked, where nothing was drawn.
    if (argument == "draws" && is.null(s$seed)) return(NULL)
    if (argument == "level" && identical(value, x$detail$agreeing)) return(NULL)
    value
  })
  # The source of the usual rule is no wish.
  if (is.null(asked$spread_rule)) asked$spread_source <- NULL
  keep_given(asked)
}
