# A data frame of published numbers has a row for each group, or a row for each comparison.

# These are the names that a column may have, in small letters, with underscores for everything else.
published_roles <- list(
  group = c("group", "groups", "by", "arm", "treatment"), outcome = c("outcome", "variable", "measure", "trait"),
  unit = c("unit", "units"), n = c("n", "size", "sample_size", "count"), mean = c("mean", "m", "average"),
  sd = c("sd", "s", "std_dev", "standard_deviation"), se = c("se", "sem", "standard_error"),
  lower = c("lower", "lower_limit", "ci_lower", "lower_ci"), upper = c("upper", "upper_limit", "ci_upper", "upper_ci")
)
published_numbers <- c("n", "mean", "sd", "se", "lower", "upper")

# Returns a study with an outcome for each comparison in the data frame. `given` are the arguments of the call, and
# `data` is the name of the data frame.
study_from_table <- function(frame, columns, given, data, call) {
  check_data_frame(frame, call)
  refuse_numbers(given, call)
  columns <- check_published_columns(columns, frame, call)
  read <- attr(frame, "vandro_read")
  frame <- as.data.frame(frame)
  rows <- published_by_group(frame, columns, given$groups, call) %||%
    published_by_comparison(frame, columns, given$groups, call)
  if (is.null(rows)) abort_published_columns(frame, call)
  common <- given[setdiff(names(given), c("groups", if (any(lengths(lapply(rows, `[[`, "outcome")))) "outcome"))]
  studies <- lapply(rows, function(row) {
    row <- row[lengths(row) > 0 & !names(row) %in% names(common)]
    declare <- function() do.call(versus_summary, c(row, common))
    if (length(rows) == 1) return(declare())
    rlang::try_fetch(declare(), vandro_error = function(e) {
      abort_vandro(
        "The published numbers of {.val {row$outcome}} could not be used.", sub("^vandro_error_", "", class(e)[[1]]),
        parent = e, call = call
      )
    })
  })
  study <- studies[[1]]
  study$announced <- is.null(given$groups)
  if (length(studies) > 1) {
    study$outcomes <- lapply(studies, function(one) one$outcomes[[1]])
    names <- vapply(study$outcomes, `[[`, "", "name")
    if (anyDuplicated(names)) {
      abort_vandro(
        c(
          "Every comparison must have an outcome of its own.",
          "x" = "{cli::qty(sum(duplicated(names)))}Used more than once: {.val {unique(names[duplicated(names)])}}.",
          "i" = "Add a column {.val outcome} that names them."
        ),
        "duplicate_columns",
        call = call
      )
    }
    study$declared <- table_call(data, columns, given)
    study$read <- read
  }
  announce_direction(study)
  study
}

# Numbers come from the data frame alone.
refuse_numbers <- function(given, call) {
  arg <- intersect(published_numbers, names(given))
  if (length(arg) == 0) return(invisible())
  example <- sprintf("columns = c(%s = \"name\")", arg[[1]])
  abort_vandro(
    c(
      "{.arg {arg}} {?does/do} not go with a data frame of published numbers.",
      "i" = "To say which column holds {cli::qty(1)}{?it/them}, write {.code {example}}."
    ),
    "contradiction",
    call = call
  )
}

table_call <- function(data, columns, given) {
  parts <- c(list(columns = columns[lengths(columns) > 0]), given)
  parts <- parts[lengths(parts) > 0]
  texts <- mapply(function(value, name) paste(name, "=", code_text(value, name)), parts, names(parts))
  sprintf("versus_summary(%s)", paste(c(data_text(data), texts), collapse = ", "))
}

check_published_columns <- function(columns, frame, call) {
  columns <- as.list(columns)
  known <- names(published_roles)
  good <- length(columns) == 0 || (!is.null(names(columns)) && all(names(columns) %in% known) &&
    all(vapply(columns, is.character, NA)))
  if (!good) {
    abort_value(
      columns, "columns", "must name columns by what they hold", "columns = c(n = \"plants\", mean = \"average\")", call
    )
  }
  for (name in unlist(columns)) check_column_exists(name, frame, "columns", call)
  columns
}

plain_name <- function(x) gsub("^_+|_+$", "", gsub("[^a-z0-9]+", "_", tolower(x)))

# Returns the column of a role, as it was given or by its known name, or NULL.
published_column <- function(role, frame, columns) {
  if (!is.null(columns[[role]])) return(columns[[role]])
  at <- plain_name(names(frame)) %in% published_roles[[role]]
  if (sum(at) == 1) names(frame)[at]
}

# Reads a table with a row for each group of every outcome; returns NULL for other tables.
published_by_group <- function(frame, columns, groups, call) {
  found <- lapply(stats::setNames(nm = names(published_roles)), published_column, frame = frame, columns = columns)
  words <- names(frame)[vapply(frame, function(x) is.character(x) || is.factor(x), NA)]
  if (is.null(found$group)) {
    other <- setdiff(words, unlist(found))
    if (length(other) == 1) found$group <- other
  }
  if (any(lengths(found[c("group", "n", "mean")]) != 1)) return(NULL)
  labels <- group_text(plain_codes(frame[[found$group]], found$group, call))
  outcome <- if (!is.null(found$outcome)) group_text(plain_codes(frame[[found$outcome]], found$outcome, call))
  check_rows_named(labels, found$group, call)
  check_rows_named(outcome, found$outcome, call)
  wanted <- wanted_groups(groups, found_groups(labels), found$group, call)
  lapply(split(seq_along(labels), factor(outcome %||% rep("", nrow(frame)), unique(outcome %||% ""))), function(rows) {
    at <- lapply(wanted$key, function(key) rows[which(labels[rows] == key)])
    if (any(lengths(at) != 1)) abort_published_rows(outcome[rows[[1]]], wanted$label, lengths(at), call)
    at <- unlist(at)
    numbers <- lapply(stats::setNames(nm = published_numbers), function(role) {
      if (!is.null(found[[role]])) frame[[found[[role]]]][at]
    })
    unit <- if (!is.null(found$unit)) as.character(frame[[found$unit]][at[[1]]])
    c(numbers, list(groups = wanted$label, outcome = outcome[at[[1]]], unit = unit))
  })
}

check_rows_named <- function(values, name, call) {
  row <- which(is.na(values))
  if (length(row) == 0) return(invisible())
  abort_vandro(
    c(
      "Column {.val {name}} must name the group or outcome in every row.", "x" = "Row {row[[1]]} is blank.",
      "i" = "Fill it in, or leave that row out of the table."
    ),
    "bad_value",
    arg = "n", call = call
  )
}

abort_published_rows <- function(outcome, labels, count, call) {
  what <- if (length(outcome)) sprintf("Outcome \"%s\"", outcome) else "The table"
  abort_vandro(
    c(
      "{what} must have one row for each of the two groups.",
      "x" = "{.val {labels[[1]]}} has {count[[1]]}, {.val {labels[[2]]}} has {count[[2]]}.",
      "i" = "For several outcomes, add a column {.val outcome} that names them."
    ),
    "bad_value",
    arg = "n", call = call
  )
}

# Reads a table with a row for each comparison (n_compost, n_peat, ... or n1, n2, ...); returns NULL for other tables.
published_by_comparison <- function(frame, columns, groups, call) {
  found <- lapply(stats::setNames(nm = published_numbers), function(role) {
    if (!is.null(columns[[role]])) return(stats::setNames(columns[[role]], seq_along(columns[[role]])))
    group_columns(role, names(frame))
  })
  ends <- intersect(names(found$n), names(found$mean))
  if (length(ends) < 2) return(NULL)
  if (all(grepl("^[0-9]+$", ends))) {
    if (length(ends) > 2) return(NULL)
    labels <- groups %||% c("first", "second")
  } else {
    # Columns have plain names; labels stand as they were given.
    keys <- if (!is.null(groups)) stats::setNames(plain_name(unlist(groups)), names(groups) %||% unlist(groups))
    wanted <- wanted_groups(keys, found_groups(ends), "names of columns", call)
    ends <- wanted$key
    labels <- wanted$label
  }
  outcome <- published_column("outcome", frame, columns)
  unit <- published_column("unit", frame, columns)
  lapply(seq_len(nrow(frame)), function(row) {
    numbers <- lapply(found, function(names) {
      if (all(ends %in% names(names))) unlist(frame[row, names[ends]], use.names = FALSE)
    })
    c(numbers, list(
      groups = labels, outcome = if (!is.null(outcome)) as.character(frame[[outcome]][[row]]),
      unit = if (!is.null(unit)) as.character(frame[[unit]][[row]])
    ))
  })
}

# Returns the columns of one role, named after the group to which they belong.
group_columns <- function(role, names) {
  plain <- plain_name(names)
  words <- paste(published_roles[[role]], collapse = "|")
  forms <- c(sprintf("^(?:%s)_(.+)$", words), sprintf("^(?:%s)([0-9]+)$", words), sprintf("^(.+)_(?:%s)$", words))
  end <- rep("", length(names))
  for (form in forms) {
    here <- grepl(form, plain, perl = TRUE) & !nzchar(end)
    end[here] <- sub(form, "\\1", plain[here], perl = TRUE)
  }
  kept <- nzchar(end) & !duplicated(end)
  stats::setNames(names[kept], end[kept])
}

abort_published_columns <- function(frame, call) {
  abort_vandro(
    c(
      "The data frame must have a row for each group (columns group, n, mean, sd), or for each comparison (n_compost,
        n_peat, mean_compost, mean_peat, sd_compost, sd_peat).",
      "x" = "Its columns are {.val {names(frame)}}.",
      "i" = "Say what other names stand for: {.code columns = c(group = \"substrate\", n = \"plants\")}."
    ),
    "missing_ingredient",
    call = call
  )
}
