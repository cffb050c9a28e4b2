# Checks of single argument values. Each returns the value in its plain form.

describe_value <- function(x) {
  if (is.null(x)) return("NULL")
  if (length(x) == 1 && is.atomic(x)) {
    if (is.character(x)) return(encodeString(x, quote = "\""))
    return(if (is.double(x)) sprintf("%.15g", unclass(x)) else as.character(unclass(x)))
  }
  sprintf("%s of length %d", class(x)[[1]], length(x))
}

# Numbers as text, whatever the session's options for printing are.
format_plain <- function(x, ...) {
  session <- usual_printing()
  on.exit(options(session))
  format(x, ...)
}

# Shortest decimal text that reads back as the same double, in R and in programs that round correctly; 17 digits always
# do.
exact_number <- function(x) {
  out <- rep(NA_character_, length(x))
  known <- which(!is.na(x))
  for (digits in 15:17) {
    out[known] <- sprintf("%.*g", digits, x[known])
    known <- known[as.numeric(out[known]) != x[known] | native_numbers_read(out[known]) != x[known]]
  }
  out
}

# A date, or text, as text.
check_date <- function(date, call = rlang::caller_env()) {
  if (inherits(date, c("Date", "POSIXt"))) date <- as.character(date)
  check_text(date, arg = "date", call = call, null = FALSE)
}

# R's own error for what is left out has no class.
check_supplied <- function(x, arg = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (!missing(x)) return(invisible())
  hint <- if (arg %in% names(supply_hints)) supply_hints[[arg]]
  abort_vandro(
    c("Argument {.arg {arg}} is missing.", "i" = hint), "missing_argument",
    arg = arg, call = call
  )
}

# What to give, by argument.
supply_hints <- list(
  study = "Declare one: {.code versus(data, outcome, by)} or {.code versus_paired(data, first, second)}.",
  x = "Give a study or an answer, for example {.code test_difference(study)}.",
  world = "Create one: {.code suppose_world(difference = 2, sd = 3)}.",
  file = "Give its path, for example {.code file = \"results.csv\"}.",
  plan = "Read one: {.code read_plan(\"plan.yaml\")}.",
  n = "Give the sample size, for example {.code n = 22}; of two groups {.code n = c(18, 20)}.",
  mean = "Give both means, for example {.code mean = c(22.1, 19.8)}.",
  id = "Name the column that tells the units apart, for example {.code id = plant}.",
  table = "Give a data frame or a lazy table of a database."
)

# What is given beyond the arguments there are.
refuse_more <- function(..., known = names(formals(rlang::caller_fn())), call = rlang::caller_env()) {
  if (...length() == 0) return(invisible())
  given <- ...names()
  named <- given[!is.na(given) & nzchar(given)]
  known <- setdiff(known, "...")
  hint <- if (length(named)) suggestion(named[[1]], known, "Arguments are") else "Give arguments by their names."
  found <- if (length(named)) {
    cli::format_inline("There is no argument {.arg {named}}.")
  } else {
    sprintf("%d value%s without a name %s too many.", ...length(), if (...length() == 1) "" else "s",
      if (...length() == 1) "is" else "are"
    )
  }
  abort_vandro(c("{found}", "i" = "{hint}"), "unknown_argument",
    arguments = named, call = call
  )
}

check_number <- function(x, low = -Inf, high = Inf, open = FALSE, arg = rlang::caller_arg(x),
                         call = rlang::caller_env()) {
  force(arg)
  x <- unlabelled(x)
  single <- is.numeric(x) && length(x) == 1 && !is.na(x) && is.finite(x)
  inside <- single && (if (open) x > low && x < high else x >= low && x <= high)
  if (inside) return(as.double(x))
  range <- if (is.finite(low) && is.finite(high)) {
    sprintf(if (open) "a number strictly between %s and %s" else "a number from %s to %s", low, high)
  } else {
    "a single finite number"
  }
  found <- describe_value(x)
  abort_vandro(
    c("{.arg {arg}} must be {range}.", "x" = "It is {found}."),
    "bad_value",
    arg = arg, value = x, call = call
  )
}

check_whole <- function(x, low, high, arg = rlang::caller_arg(x), call = rlang::caller_env()) {
  x <- check_number(x, low, high, arg = arg, call = call)
  if (x == round(x)) return(x)
  abort_vandro(
    c("{.arg {arg}} must be a whole number.", "x" = "It is {format_plain(x)}."), "bad_value",
    arg = arg, value = x, call = call
  )
}

check_level <- function(level, call = rlang::caller_env()) {
  if (is.numeric(level) && length(level) == 1 && isTRUE(level >= 1 & level <= 100)) {
    abort_vandro(
      c(
        "{.arg level} must be strictly between 0 and 1.",
        "x" = "It is {level}.",
        "i" = if (level > 1) "For {level} % write {.code level = {level / 100}}."
      ),
      "bad_value",
      arg = "level", value = level, call = call
    )
  }
  check_number(level, 0, 1, open = TRUE, arg = "level", call = call)
}

# Above 0.5 a directional test would call the smaller half of all results convincing.
check_alpha <- function(alpha, call = rlang::caller_env()) {
  check_number(alpha, 0, 0.5, open = TRUE, arg = "alpha", call = call)
}

check_choice <- function(x, choices, arg = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (is.character(x) && length(x) == 1 && x %in% choices) return(x)
  if (identical(x, choices)) return(choices[[1]])
  listed <- cli::cli_vec(choices, list("vec-last" = " or "))
  found <- describe_value(x)
  near <- if (is.character(x) && length(x) == 1) near_names(x, choices)
  hint <- if (length(near)) cli::format_inline("Did you mean {.or {.val {near}}}?")
  abort_vandro(
    c("{.arg {arg}} must be one of {.val {listed}}.", "x" = "It is {found}.", "i" = hint),
    "bad_value",
    arg = arg, value = x, call = call
  )
}

check_text <- function(x, arg = rlang::caller_arg(x), call = rlang::caller_env(), null = TRUE) {
  if (null && is.null(x)) return(NULL)
  single <- is.character(x) && length(x) == 1 && !is.na(x)
  if (single && is_text(x)) return(printable(x))
  found <- describe_value(x)
  abort_vandro(
    c(
      "{.arg {arg}} must be one piece of text.",
      "x" = "It is {found}{if (single) ', bytes that are no text in UTF-8'}."
    ),
    "bad_value",
    arg = arg, value = x, call = call
  )
}

check_flag <- function(x, arg = rlang::caller_arg(x), call = rlang::caller_env()) {
  if (isTRUE(x) || isFALSE(x)) return(x)
  found <- describe_value(x)
  abort_vandro(
    c("{.arg {arg}} must be TRUE or FALSE.", "x" = "It is {found}."),
    "bad_value",
    arg = arg, value = x, call = call
  )
}

# One number per group, in the order of `groups`.
check_pair <- function(x, low = -Inf, open = FALSE, whole = FALSE, groups,
                       arg = rlang::caller_arg(x), call = rlang::caller_env()) {
  force(arg)  # before x is another value
  x <- unlabelled(x)
  if (!is.numeric(x) || length(x) != 2) {
    abort_value(x, arg, "must hold two numbers, first group first", paste(arg, "= c(24, 22)"), call)
  }
  x <- as.double(x)
  off <- !is.finite(x) | (if (open) x <= low else x < low) | (whole & x != round(x))
  off[is.na(off)] <- TRUE
  if (!any(off)) return(x)
  at <- which(off)[[1]]
  found <- format_plain(x[[at]])
  group <- groups[[at]]
  kind <- if (whole) "a whole number" else "a number"
  limit <- if (is.finite(low)) sprintf(if (open) " above %s" else " of at least %s", format_plain(low)) else ""
  abort_vandro(
    c(
      "{.arg {arg}} must be {kind}{limit} for both groups.",
      "x" = "For {.val {group}} (value {at}) it is {found}.",
      "i" = if (arg == "sd") "An SD is needed, not a variance; with only one value there is none."
    ),
    "bad_value",
    arg = arg, value = x, position = at, call = call
  )
}

# A list without what was left out.
keep_given <- function(x) x[!vapply(x, is.null, NA)]

# Values that a labelled column itself declares missing: single ones and a range.
declared_in_column <- function(x) {
  values <- attr(x, "na_values", exact = TRUE)
  range <- attr(x, "na_range", exact = TRUE)
  plain <- as.vector(unclass(x))
  inside <- if (length(range) == 2) unique(plain[!is.na(plain) & plain >= range[[1]] & plain <= range[[2]]])
  unique(c(as.vector(unclass(values)), inside))
}

without_declared <- function(x) {
  plain <- as.vector(unclass(x))
  plain[plain %in% declared_in_column(x)] <- NA
  plain
}

# The values of a labelled column as plain ones: its class may refuse to calculate.
unlabelled <- function(x) if (inherits(x, "haven_labelled")) without_declared(x) else x
