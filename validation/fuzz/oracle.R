# What must hold of every case: a result or an error of ours; no warning of somebody else's; inputs as they were;
# results without NaN, infinities, p of 0, and limits on the wrong side; text that can be printed.

expected_errors <- "vandro_error"

# Whether the last case had an answer: a run in which all were refused would prove little.
last_outcome <- new.env()

# Runs `work()`, and tells what is wrong with what happened: character(0) where nothing is.
judge <- function(work, inputs = list(), check = check_result, limit = 20) {
  told <- serialize(inputs, NULL, xdr = FALSE)
  before <- unserialize(told)
  here <- getwd()
  # Sessions differ in how they print and warn; nothing of a session may be another one afterwards.
  session <- if (chance(0.2)) options(pick(list(OutDec = ","), list(scipen = -5), list(digits = 3), list(warn = 2)))
  on.exit(options(session))
  state <- global_state()
  open <- length(getAllConnections())
  foreign <- character()
  last_outcome$answered <- FALSE
  setTimeLimit(elapsed = limit, transient = TRUE)
  on.exit(setTimeLimit(), add = TRUE)
  wrong <- tryCatch(
    withCallingHandlers(
      {
        found <- work()
        last_outcome$answered <- TRUE
        check(found)
      },
      warning = function(w) {
        if (!inherits(w, "vandro_warning")) foreign <<- c(foreign, paste("foreign warning:", conditionMessage(w)))
        invokeRestart("muffleWarning")
      },
      message = function(m) {
        if (!inherits(m, "vandro_message")) foreign <<- c(foreign, paste("foreign message:", conditionMessage(m)))
        invokeRestart("muffleMessage")
      }
    ),
    error = function(e) {
      if (inherits(e, expected_errors)) return(check_error(e))
      sprintf(
        "foreign error (%s): %s in %s", class(e)[[1]], conditionMessage(e),
        paste(utils::head(deparse(conditionCall(e)), 1), collapse = "")
      )
    }
  )
  setTimeLimit()
  changed <- !identical(before, inputs) && !identical(told, serialize(inputs, NULL, xdr = FALSE))
  c(
    wrong, unique(foreign), if (changed) "input changed",
    if (!identical(here, getwd())) "working directory changed", changed_state(state, global_state()),
    if (length(getAllConnections()) > open) "a connection was left open"
  )
}

# What belongs to the session: its options, language, kinds of random numbers and graphics devices.
global_state <- function() {
  list(
    options = options()[setdiff(names(options()), c("rlang_trace_top_env", "cli.__supports_ansi"))],
    language = Sys.getlocale(), random = RNGkind(), device = grDevices::dev.cur(), devices = grDevices::dev.list()
  )
}
changed_state <- function(before, after) {
  same <- vapply(names(before), function(name) identical(before[[name]], after[[name]]), NA)
  # Packages that are loaded on the way bring options of their own.
  kept <- intersect(names(before$options), names(after$options))
  same[["options"]] <- identical(before$options[kept], after$options[kept])
  if (!all(same)) paste("global state changed:", paste(names(same)[!same], collapse = ", "))
}

# An error says something, in text that can be shown.
check_error <- function(e) {
  # Putting the lines together takes longer than all else; what they are made of is there already.
  text <- paste(c(e$message, e$body), collapse = "\n")
  if (!nzchar(text)) return(paste("empty message:", class(e)[[1]]))
  # Templates that were not filled in; those of the hostile labels, damaged or not, are meant to stand as they are.
  own <- gsub("{.fn stop}", "", gsub("[{]\\.val ?[^{}]?[}]", "", text), fixed = TRUE)
  if (grepl("[{]\\.[a-z]+ [^}]*[}]", own)) return(paste("message with markup left in:", substr(text, 1, 120)))
  # The names that values get which have none: an argument is meant.
  if (grepl("`<(dbl|int|chr|lgl|list)>`", text)) return(paste("an argument without its name:", substr(text, 1, 120)))
  character()
}

check_result <- function(x) {
  if (inherits(x, "vandro_answer")) return(check_answer(x))
  if (inherits(x, c("vandro_study", "vandro_text", "vandro_world"))) return(check_printed(x))
  character()
}

check_printed <- function(x) {
  text <- paste(utils::capture.output(print(x)), collapse = "\n")
  if (!nzchar(text)) return("prints nothing")
  # Numbers that nobody may see, as words of their own.
  if (!grepl("(^|[ (=])-?(NaN|Inf)([ ,.)%]|$)", text)) return(character())
  paste("prints NaN or Inf:", substr(regmatches(text, regexpr(".{0,50}(NaN|Inf).{0,30}", text)), 1, 120))
}

check_answer <- function(x) {
  table <- x$table
  kind <- class(x)[[1]]
  wrong <- check_printed(x)
  for (name in names(table)) {
    values <- table[[name]]
    if (!is.numeric(values)) next
    if (any(is.nan(values))) wrong <- c(wrong, sprintf("%s: NaN in %s", kind, name))
    if (any(is.infinite(values)) && !name %in% may_be_infinite) {
      wrong <- c(wrong, sprintf("%s: infinite %s", kind, name))
    }
    if (name %in% c("p", "p_two_sided", "p_adjusted") && any(values <= 0 | values > 1, na.rm = TRUE)) {
      wrong <- c(wrong, sprintf("%s: %s outside (0, 1]", kind, name))
    }
  }
  if (all(c("lower", "upper") %in% names(table)) && any(table$lower > table$upper, na.rm = TRUE)) {
    wrong <- c(wrong, sprintf("%s: limits crossed", kind))
  }
  if (kind == "vandro_difference") wrong <- c(wrong, check_difference(table))
  wrong
}

# Of an audit: ranges with an open end.
may_be_infinite <- c("possible_from", "possible_to")

# A row has an answer or a reason, and test and interval agree.
check_difference <- function(table) {
  reason <- if (is.null(table$reason)) rep(NA_character_, nrow(table)) else table$reason
  none <- is.na(table$p) & is.na(reason)
  out <- if (any(none)) "no p and no reason"
  known <- !is.na(table$lower) & !is.na(table$upper) & !is.na(table$estimate) & is.na(reason)
  slack <- 1e-9 * pmax(abs(table$lower), abs(table$upper))
  outside <- table$estimate < table$lower - slack | table$estimate > table$upper + slack
  if (any(outside[known])) out <- c(out, "estimate outside its interval")
  of_means <- table$method %in% c("welch", "student", "paired")
  same <- known & of_means & abs(table$level - (1 - table$alpha)) < 1e-12 & table$expect == "either"
  gap <- pmin(abs(table$beyond - table$lower), abs(table$beyond - table$upper))
  clear <- gap > 1e-9 * (table$upper - table$lower)
  excluded <- table$beyond < table$lower | table$beyond > table$upper
  if (any((excluded != (table$p <= table$alpha))[same & clear], na.rm = TRUE)) out <- c(out, "p and interval disagree")
  out
}
