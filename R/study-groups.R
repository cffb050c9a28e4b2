# Which two groups, in which order, and which rows belong to them.

# Returns labels, integer codes per row (no copy for a factor), the codes of the two groups, counts of
# the rows left out, and whether the direction had to be announced.
resolve_groups <- function(by, groups, name, times, call) {
  check_group_column(by, name, call)
  found <- found_groups(by, times)
  check_bytes(found$label, name, call)
  if (length(found$label) < 2) abort_one_group(found, name, call)
  wanted <- wanted_groups(groups, found, name, call)
  if (is.factor(by)) {
    codes <- unclass(by)
    attributes(codes) <- NULL
    code_of <- match(wanted$key, levels(by))
  } else {
    codes <- match(by, found$value[match(wanted$key, found$label)])
    code_of <- 1:2
  }
  other <- !found$label %in% wanted$key
  list(
    labels = wanted$label, key = wanted$key, codes = codes, code_of = code_of,
    no_group = found$missing,
    others = stats::setNames(found$count[other], label_text(found$label[other])), found = found$label,
    announced = is.null(groups)
  )
}

# Returns a label as it is shown. Blanks at its ends are visible only in quotes.
label_text <- function(label) {
  label <- printable(label)
  outer <- !is.na(label) & grepl("^[[:space:]]|[[:space:]]$", label)
  label[outer] <- encodeString(label[outer], quote = "\"")
  label
}

check_group_column <- function(by, name, call) {
  ok <- is.atomic(by) && is.null(dim(by)) &&
    (is.factor(by) || is.character(by) || is.numeric(by) || is.logical(by))
  if (ok) return(invisible())
  kind <- class(by)[[1]]
  abort_vandro(
    c(
      "Group column {.val {name}} must hold labels or codes.",
      "x" = "It is of type {.cls {kind}}."
    ),
    "group_type",
    column = name, call = call
  )
}

# The groups that occur, with their counts (`times`: how often each row occurs): a factor's in the
# order of its levels, others as they first appear.
found_groups <- function(by, times = NULL) {
  value <- if (is.factor(by)) levels(by) else unique(by)
  value <- value[!is.na(value)]
  code <- if (is.factor(by)) as.integer(by) else match(by, value)
  if (is.null(times)) {
    count <- tabulate(code, length(value))
    missing <- length(by) - sum(count)
  } else {
    count <- vapply(seq_along(value), function(k) sum(times[which(code == k)]), 0)
    missing <- sum(times[is.na(code)])
  }
  present <- count > 0
  list(
    value = value[present], label = group_text(value[present]), count = count[present],
    missing = missing
  )
}

abort_one_group <- function(found, name, call) {
  abort_vandro(
    c(
      "Two groups are needed to compare.",
      "x" = if (length(found$label)) {
        "Column {.val {name}} holds only {.val {found$label}} ({found$count} row{?s})."
      } else {
        "Column {.val {name}} holds no group at all: all {found$missing} values are missing."
      },
      "i" = "Check that {.arg by} names the column that tells the groups apart."
    ),
    "one_group",
    column = name, found = found$label, call = call
  )
}

# `groups` as the analyst gave it -> keys as they stand in the column, and labels to print.
wanted_groups <- function(groups, found, name, call) {
  if (is.null(groups)) {
    if (length(found$label) > 2) abort_many_groups(found, name, call)
    return(list(key = found$label, label = label_text(found$label)))
  }
  plain <- unlist(groups)
  if (inherits(groups, "integer64")) plain <- stats::setNames(integer64_text(groups), names(groups))
  key <- if (is.atomic(plain)) group_text(plain) else describe_value(groups)
  key <- as_found(as_utf8(key), found)
  label <- if (is.null(names(groups))) key else ifelse(nzchar(names(groups)), names(groups), key)
  fit <- length(key) == 2 && !anyNA(key) && all(is_text(c(key, label)))
  if (!fit || key[[1]] == key[[2]] || label[[1]] == label[[2]]) {
    abort_vandro(
      c(
        "{.arg groups} must name two different groups, first minus second.",
        "x" = "It is {.val {key}}{if (!is.null(names(groups))) ' labelled '}{.val {names(groups)}}.",
        "i" = "For example {.code groups = c(\"treated\", \"plain\")}, or with labels for codes
          {.code groups = c(treated = 1, plain = 2)}."
      ),
      "bad_groups",
      groups = groups, call = call
    )
  }
  check_labels_free(key, label, found, call)
  unknown <- key[!key %in% found$label]
  if (length(unknown)) {
    near <- near_names(unknown[[1]], found$label)
    abort_vandro(
      c(
        "{cli::qty(length(unknown))}Group{?s} {.val {unknown}} {?does/do} not occur in column {.val {name}}.",
        "i" = if (length(near)) "Did you mean {.or {.val {near}}}?",
        "x" = "Found: {list_counts(found)}.",
        "i" = if (length(unknown) == 2) "Write {.code {found_example(label, found)}}."
      ),
      "unknown_group",
      column = name, unknown = unknown, found = found$label, call = call
    )
  }
  list(key = key, label = label_text(label))
}

# Names as they stand in code.
code_names <- function(x) vapply(x, function(one) deparse(as.name(one), backtick = TRUE), "", USE.NAMES = FALSE)

# Codes are labelled by what was asked for; labels that were asked for by codes stand as they are.
found_example <- function(label, found) {
  two <- utils::head(found$label, 2)
  coded <- is.numeric(found$value) && is.character(label) && all(is.na(text_number(label)))
  shown <- if (coded) paste(code_names(label), "=", two) else encodeString(two, quote = "\"")
  sprintf("groups = c(%s)", paste(shown, collapse = ", "))
}

# Numbers written in another way, such as "1.0" or "1e5", mean the code of that value.
as_found <- function(key, found) {
  if (!is.numeric(found$value)) return(key)
  number <- number_text(text_number(key))
  other <- !key %in% found$label & number %in% found$label
  ifelse(other, number, key)
}

# A label that is another group's own name would make every sentence read the wrong way round.
check_labels_free <- function(key, label, found, call) {
  taken <- key %in% found$label & label != key & label %in% found$label
  if (!any(taken)) return(invisible())
  at <- which(taken)[[1]]
  example <- sprintf("groups = c(%s)", paste(encodeString(key, quote = "\""), collapse = ", "))
  abort_vandro(
    c(
      "A label in {.arg groups} must not be the name of another group.",
      "x" = "Group {.val {key[[at]]}} is labelled {.val {label[[at]]}}, and {.val {label[[at]]}} is a group as well.",
      "i" = "To keep the names of the data write {.code {example}}."
    ),
    "bad_groups",
    call = call, .envir = rlang::current_env()
  )
}

abort_many_groups <- function(found, name, call) {
  two <- encodeString(found$label[1:2], quote = "\"")
  example <- sprintf("groups = c(%s, %s)", two[[1]], two[[2]])
  # So many numbers are measurements.
  swapped <- length(found$label) > 10 && !anyNA(suppressWarnings(as.numeric(found$label)))
  abort_vandro(
    c(
      "Column {.val {name}} holds {length(found$label)} groups; say which two are compared.",
      "x" = "Found: {list_counts(found, if (swapped) 3 else 12)}.",
      "i" = if (swapped) {
        "They look like measurements. If {.val {name}} is the outcome, give it as {.arg outcome}, and the column of
          groups as {.arg by}."
      } else {
        "For example {.code {example}} (first minus second)."
      }
    ),
    "many_groups",
    column = name, found = found$label, call = call
  )
}

list_counts <- function(found, most = 12) {
  shown <- utils::head(sprintf(
    "%s (%s %s)", encodeString(found$label, quote = "\""), found$count, ifelse(found$count == 1, "row", "rows")
  ), most)
  more <- length(found$label) - length(shown)
  paste0(paste(shown, collapse = ", "), if (more > 0) sprintf(" and %d more", more))
}
