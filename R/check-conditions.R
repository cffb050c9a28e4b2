# Every condition of the package is raised here, so that each has a class and carries its data.

# `class` becomes "vandro_error_<class>" < "vandro_error". `message` is a cli template evaluated in
# `.envir`; text that comes from the user stands in braces there, never in the template itself.
abort_vandro <- function(message, class, ..., call = rlang::caller_env(),
                         .envir = parent.frame()) {
  session <- usual_printing()
  on.exit(options(session))
  cli::cli_abort(
    message,
    class = c(paste0("vandro_error_", class), "vandro_error"), ...,
    call = call, .envir = .envir
  )
}

# A value of the wrong kind: what it must be (a template), what it is, and an example.
abort_value <- function(x, arg, must, example, call) {
  found <- describe_value(x)
  abort_vandro(
    c(paste0("{.arg {arg}} ", must, "."), "x" = "It is {found}.", "i" = "For example {.code {example}}."), "bad_value",
    arg = arg, value = x, call = call
  )
}

# Messages print numbers alike, whatever options the session has for printing. Returns those options.
usual_printing <- function() options(OutDec = ".", scipen = 0, digits = 7)

warn_vandro <- function(message, class, ..., .envir = parent.frame()) {
  session <- usual_printing()
  on.exit(options(session))
  cli::cli_warn(
    message,
    class = c(paste0("vandro_warning_", class), "vandro_warning"), ..., .envir = .envir
  )
}

inform_vandro <- function(message, class, ..., .envir = parent.frame()) {
  session <- usual_printing()
  on.exit(options(session))
  cli::cli_inform(
    message,
    class = c(paste0("vandro_message_", class), "vandro_message"), ..., .envir = .envir
  )
}

# What only a function further up is to hear.
stop_inside <- function(message, class) rlang::abort(message, class)

# The same for lines that are finished: no templates, and so an eighth of the time.
inform_lines <- function(lines, class, ...) {
  rlang::inform(lines, class = c(paste0("vandro_message_", class), "vandro_message"), ...)
}

# Names that `wanted` stands for in the trade, else those close to it, for "Did you mean". At most three, nearest first.
near_names <- function(wanted, known) {
  known <- unique(known[!is.na(known)])
  known <- known[validUTF8(known)]
  if (length(known) == 0 || length(wanted) != 1 || is.na(wanted) || !validUTF8(wanted)) return(character())
  meant <- meant_names(tidy_name(wanted), known)
  if (length(meant)) return(utils::head(meant, 3))
  distance <- drop(utils::adist(tidy_name(wanted), tidy_name(known)))
  inside <- startsWith(tidy_name(known), tidy_name(wanted)) & nzchar(wanted)
  close <- distance <= max(1, ceiling(nchar(wanted) / 3)) | inside
  utils::head(known[close][order(distance[close])], 3)
}

tidy_name <- function(x) plain_word(printable(x))

# A bullet "Did you mean ...?" or, without a near name, the list of what there is.
suggestion <- function(wanted, known, what = "Available") {
  near <- near_names(wanted, known)
  listed <- cli::cli_vec(if (length(near)) near else known, list("vec-last" = " or ", "vec-trunc" = 12))
  if (length(near)) {
    cli::format_inline("Did you mean {.val {listed}}?")
  } else if (length(known)) {
    cli::format_inline("{what}: {.val {cli::cli_vec(known, list('vec-trunc' = 12))}}.")
  } else {
    cli::format_inline("There is none.")
  }
}

# Optional packages are asked for by name when they are needed.
need_package <- function(package, purpose, call = rlang::caller_env()) {
  if (requireNamespace(package, quietly = TRUE)) return(invisible())
  abort_vandro(
    c(
      "The package {.pkg {package}} is needed {purpose}.",
      "i" = "Install it with {.code install.packages(\"{package}\")} and try again."
    ),
    "package_missing",
    package = package, call = call
  )
}
