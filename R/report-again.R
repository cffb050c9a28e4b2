# The script at the end of a report reads the data, declares the studies, asks the questions and writes the report.

# `frame` is the environment of write_report(); the last call of the script repeats its arguments.
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
    # Chapters that share their data read them once.
    again <- identical(read, data)
    read <<- data
    c(
      if (!again) data,
      if (is.null(study$declared)) {
        sprintf("# Provide %s here: the study was changed after it was declared.", name)
      } else {
        sprintf("%s <- %s", name, study$declared)
      },
      sprintf("# The data must have the fingerprint %s; printing the study shows it.", study_fingerprint(study)),
      answer_lines(answers, name, end), ""
    )
  }))
  version <- chapters[[1]]$difference$settings$version
  list(
    doc_paragraph(
      "This R script computes every number and writes the report again. Run it in the folder of the report."
    ),
    doc_code(c(
      sprintf("library(vandro) # version %s", version), "", lines, report_call(chapters, frame, file, compared)
    ))
  )
}

# Returns the lines that read the data of a declaration, or a comment that says which data to provide.
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
  sprintf("# Provide %s here: the %s from which the report was made.", name, kind)
}

# A declaration refers to long vectors by the name of their argument.
number_lines <- function(study) {
  call <- if (!is.null(study$declared)) rlang::parse_expr(study$declared)
  args <- as.list(call)[-1]
  named <- names(args)[mapply(function(value, name) identical(value, as.name(name)), args, names(args))]
  if (length(named)) sprintf("# Provide %s here: the numbers from which the report was made.", toString(named))
}

# Returns the name of the data in a declaration, or NULL if the declaration contains all numbers itself.
data_name <- function(study) {
  call <- if (!is.null(study$declared)) rlang::parse_expr(study$declared)
  if (length(call) < 2) return(NULL)
  named <- names(call)
  at <- if ("data" %in% named) "data" else if (is.null(named) || !nzchar(named[[2]])) 2
  if (!is.null(at) && is.symbol(call[[at]])) as.character(call[[at]])
}

# Does the declaration use unchanged data of the package?
is_shipped <- function(study, name) {
  shipped <- getNamespaceInfo("vandro", "lazydata")
  if (!exists(name, envir = shipped, inherits = FALSE)) return(FALSE)
  inside <- new.env(parent = asNamespace("vandro"))
  assign(name, get(name, envir = shipped), inside)
  ours <- tryCatch(quietly(eval(rlang::parse_expr(study$declared), inside)), error = function(e) NULL)
  !is.null(ours) && study_fingerprint(ours) == study_fingerprint(study)
}

# In the script, answers are named after their places, with a counter if a place has several.
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

# Rebuilds the call of write_report() from its arguments.
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

# Rebuilds the calls of compare_answers(), with their headings.
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

# Rebuilds the call that made these conventions or this style.
made_call <- function(maker, made) {
  if (is.null(made)) return(NULL)
  defaults <- lapply(formals(maker), function(x) tryCatch(eval(x), error = function(e) NULL))
  made <- keep_given(unclass(made)[names(unclass(made)) %in% names(defaults)])
  own <- made[!mapply(function(value, name) identical(value, defaults[[name]][seq_along(value)]), made, names(made))]
  if (!is.null(own$style)) own$style <- made_call("number_style", own$style)
  as.call(c(as.name(maker), own))
}

# Writes a call, and the name it is assigned to, on one line or with a line for each argument. Nothing is abbreviated.
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

# Rebuilds the call of an answer from the arguments that differ from the defaults of its verb.
answer_call <- function(x, name) {
  asked <- own_settings(x)
  # A default method is not written, so that it is reported as the default again.
  if (identical(x$settings$method_from, "default")) asked$method <- NULL
  inside <- names(asked) %in% names(options_of(x$settings$verb))
  options <- if (any(inside)) list(options = rlang::call2("method_options", !!!asked[inside]))
  rlang::call2(x$settings$verb, as.name(name), !!!asked[!inside], !!!options)
}

# Returns the arguments of an answer that differ from the defaults of its verb.
own_settings <- function(x) {
  s <- x$settings
  defaults <- c(formals(verb_of(s$verb)), options_of(s$verb))
  asked <- lapply(stats::setNames(nm = intersect(names(s), names(defaults))), function(argument) {
    value <- s[[argument]]
    default <- tryCatch(eval(defaults[[argument]]), error = function(e) NULL)
    if (is.null(value) || identical(value, default) || (length(default) && identical(value, default[[1]]))) return(NULL)
    # If nothing was drawn, the setting is the number of draws that were made, not an argument.
    if (argument == "draws" && is.null(s$seed)) return(NULL)
    if (argument == "level" && identical(value, x$detail$agreeing)) return(NULL)
    value
  })
  # The source of the default rule is not an argument of the caller.
  if (is.null(asked$spread_rule)) asked$spread_source <- NULL
  keep_given(asked)
}
