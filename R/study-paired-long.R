# Pairs in a long table: two rows of one unit are brought together by key, or by their places.

paired_long <- function(data, roles, options, call) {
  names <- column_names(roles$outcome, data, "outcome", call)
  by <- column_name(roles$by, data, "by", call)
  if (by %in% names) abort_same_column(by, c("outcome", "by"), call)
  labels_of_rows <- clean_groups(data[[by]], by, options$missing, call)
  abort_if_wide(roles, data, options, call)
  grouping <- resolve_groups(labels_of_rows, options$groups, by, NULL, call)
  at <- lapply(grouping$code_of, function(code) which(grouping$codes == code))
  key <- if (!is.null(roles$id)) key_column(roles$id, data, call)
  match <- if (is.null(key)) {
    match_by_row(at, grouping$labels, options$rows_in_order, c(names[[1]], by), data, call)
  } else {
    match_by_key(at, key, grouping$labels, call)
  }
  units <- text_for(options$unit, names, "unit", call)
  labels <- text_for(options$label, names, "label", call)
  subgroups <- pair_subgroups(match$rows, data, options, call)
  lost <- function(rows) lost_rows(rows, data, labels_of_rows, key, grouping, options, call)
  made <- unlist(lapply(names, function(name) {
    clean <- clean_outcome(data[[name]], name, options$missing, options$scale_by, call)
    each_subgroup(subgroups, function(pairs, subgroup) {
      parts <- lapply(match$rows, function(rows) {
        if (!is.null(pairs)) rows <- rows[pairs]
        declared <- clean$declared
        if (!is.null(declared)) declared$row <- ifelse(is.na(rows), 0L, declared$row[rows])
        list(values = clean$values[rows], declared = declared)
      })
      pair_outcome(
        parts, name, options, grouping$labels, call, labels[[name]],
        units[[name]] %||% own_unit(data[[name]], options), lost(subgroup), subgroup, pairs
      )
    })
  }), recursive = FALSE)
  rows <- list(
    order = pair_order(match$rows, data, options, call),
    blocks = pair_column("blocks", match$rows, data, options, call),
    id = if (!is.null(key)) list(name = key$name, values = match$keys)
  )
  rows <- rows[lengths(rows) > 0]
  notes <- c(note_near_labels(grouping$found, by), match$note)
  study <- pair_study(made, grouping$labels, rows, grouping$announced, notes, subgroups, call)
  # Codes in their order, levels and labels as they stand.
  occasions <- if (is.numeric(data[[by]])) text_number(grouping$key) else match(grouping$key, grouping$found)
  study$earlier <- which.min(occasions)
  study
}

# Rows without a group, of other groups, and without a key, as pieces of the table of what was left out; of one
# subgroup its own.
lost_rows <- function(subgroup, data, labels_of_rows, key, grouping, options, call) {
  rows <- if (is.null(subgroup)) {
    seq_len(nrow(data))
  } else {
    which(group_text(optional_column(options$each, data, "each", call)$values) == subgroup$label)
  }
  found <- found_groups(labels_of_rows[rows])
  other <- !found$label %in% grouping$key
  list(
    reason = c("group missing", rep("other group", sum(other)), if (!is.null(key)) "key missing"),
    group = c(NA, label_text(found$label[other]), if (!is.null(key)) NA),
    n = c(
      found$missing, found$count[other],
      if (!is.null(key)) sum(is.na(key$values[rows]) & grouping$codes[rows] %in% grouping$code_of)
    )
  )
}

# Returns the subgroups of the pairs.
pair_subgroups <- function(rows, data, options, call) {
  column <- pair_column("each", rows, data, options, call)
  if (!is.null(column)) find_subgroups(column, options$missing, call)
}

# Returns one value for each pair from a column that describes the units (subgroups, blocks). Both halves must agree;
# if one half is missing, the other decides.
pair_column <- function(arg, rows, data, options, call) {
  column <- optional_column(options[[arg]], data, arg, call)
  if (is.null(column)) return(NULL)
  halves <- lapply(rows, function(at) group_text(column$values)[at])
  apart <- which(halves[[1]] != halves[[2]])
  if (length(apart)) {
    at <- c(rows[[1]][[apart[[1]]]], rows[[2]][[apart[[1]]]])
    values <- c(halves[[1]][[apart[[1]]]], halves[[2]][[apart[[1]]]])
    what <- c(each = "subgroup", blocks = "block")[[arg]]
    abort_vandro(
      c(
        "Both halves of a pair must lie in the same {what}.",
        "x" = "Rows {at[[1]]} and {at[[2]]} belong together and have {.val {values}} in {.val {column$name}}.",
        "i" = "{length(apart)} pair{?s} in all. Correct the column, or choose one that describes the units."
      ),
      sprintf("bad_%ss", what),
      column = column$name, rows = at, call = call
    )
  }
  of_pair <- ifelse(is.na(halves[[1]]), halves[[2]], halves[[1]])
  levels <- if (is.factor(column$values)) levels(column$values) else unique(of_pair)
  list(name = column$name, values = factor(of_pair, levels))
}

# Returns the order of the pairs. The halves may have different values, such as times of day, but the same sequence.
pair_order <- function(rows, data, options, call) {
  column <- check_order(optional_column(options$order, data, "order", call), options$dates, call)
  if (is.null(column)) return(NULL)
  halves <- lapply(rows, function(at) column$values[at])
  whole <- which(!is.na(rows[[1]]) & !is.na(rows[[2]]))
  place <- lapply(halves, function(half) as.double(half)[whole])
  sorted <- whole[order(place[[1]], place[[2]])]
  turned <- which(diff(as.double(halves[[2]])[sorted]) < 0)
  if (length(turned)) {
    two <- sorted[turned[[1]] + 0:1]
    at <- c(rows[[1]][two], rows[[2]][two])
    abort_vandro(
      c(
        "The order {.val {column$name}} must put the pairs in the same sequence for both halves.",
        "x" = "One pair comes first by rows {at[[1]]} and {at[[2]]}, another by rows {at[[3]]} and {at[[4]]}.",
        "i" = "Name a column with one place for each pair, such as the day or the place in a row."
      ),
      "order",
      column = column$name, rows = at, call = call
    )
  }
  values <- halves[[1]]
  alone <- is.na(rows[[1]])
  values[alone] <- halves[[2]][alone]
  list(name = column$name, values = values)
}

# Refuses three columns of measurements, which are not an outcome, an occasion and a key.
abort_if_wide <- function(roles, data, options, call) {
  if (is.null(roles$id) || length(options$groups)) return(invisible())
  names <- lapply(roles[c("outcome", "by", "id")], column_names, data = data, arg = "by", call = call)
  columns <- data[unlist(names)]
  if (length(columns) > 3 || !all(column_roles(columns) == "measurement")) return(invisible())
  two <- code_names(unlist(names)[1:2])
  example <- sprintf("versus_paired(data, %s, %s)", two[[1]], two[[2]])
  abort_vandro(
    c(
      "Pairs in long data need an outcome, a column of occasions and a key.",
      "x" = "{.val {unlist(names)}} all look like measurements.",
      "i" = "If each is an occasion of its own, name the two to be compared: {.code {example}}."
    ),
    "bad_roles",
    roles = unlist(names), call = call
  )
}

# Whether a column names the occasions of the other: words, or two codes, equally often, beside many values.
holds_occasions <- function(x, values) {
  if (is.factor(x)) return(TRUE)
  if (is.character(x)) return(all(is.na(text_number(x[!is.na(x)]))))
  codes <- unique(x[!is.na(x)])
  if (!is.numeric(x) || length(codes) != 2 || !is.numeric(values)) return(FALSE)
  length(unique(values)) >= 6 && sum(x == codes[[1]], na.rm = TRUE) == sum(x == codes[[2]], na.rm = TRUE)
}

# The first other column in which every value stands once for each occasion.
key_candidate <- function(data, names) {
  is_key <- function(name) {
    seen <- table(as.character(data[[name]]), as.character(data[[names[[2]]]]))
    nrow(seen) > 1 && all(seen == 1)
  }
  Filter(is_key, setdiff(names(Filter(is.atomic, data)), names))[1]
}

# `names` of outcome and occasion, where the data are long.
abort_no_key <- function(names = NULL, data = NULL, call) {
  key <- if (is.null(data)) NA else key_candidate(data, names)
  columns <- if (is.null(names)) c("outcome", "by") else code_names(names)
  id <- if (is.na(key)) "id" else code_names(key)
  example <- sprintf("versus_paired(data, %s, %s, %s)", columns[[1]], columns[[2]], id)
  kind <- if (!is.null(data) && is.numeric(data[[names[[2]]]])) "two codes" else "labels"
  abort_vandro(
    c(
      "A key must say which rows belong together.",
      "x" = if (!is.null(names)) "Column {.val {names[[2]]}} holds {kind}: the data are long.",
      "i" = "Name it: {.code {example}}.",
      "i" = "If the rows of both occasions really stand in the same order, say
        {.code outcome = }, {.code by = } and {.code rows_in_order = TRUE}."
    ),
    "no_key",
    call = call
  )
}

match_by_row <- function(at, labels, rows_in_order, names, data, call) {
  if (!rows_in_order) abort_no_key(names, data, call)
  count <- lengths(at)
  if (count[[1]] != count[[2]]) {
    abort_vandro(
      c(
        "Rows can only be paired in their order when both occasions have equally many.",
        "x" = "{.val {labels[[1]]}} has {count[[1]]}, {.val {labels[[2]]}} has {count[[2]]}.",
        "i" = "Name a key instead: {.code id = plant}."
      ),
      "unequal_lengths",
      call = call
    )
  }
  list(rows = at, note = "Pairs were made by row order, as declared (rows_in_order = TRUE).")
}

match_by_key <- function(at, key, labels, call) {
  keys <- lapply(at, function(rows) key$values[rows])
  for (k in 1:2) {
    known <- keys[[k]][!is.na(keys[[k]])]
    twice <- unique(known[duplicated(known)])
    if (length(twice)) abort_duplicate_key(twice, key$name, labels[[k]], call)
  }
  first <- keys[[1]][!is.na(keys[[1]])]
  second <- keys[[2]][!is.na(keys[[2]])]
  all <- c(first, second[!second %in% first])
  alone <- c(first[!first %in% second], second[!second %in% first])
  note <- if (length(alone)) {
    shown <- utils::head(group_text(alone), 10)
    more <- length(alone) - length(shown)
    sprintf(
      "Keys (%s) on one occasion only: %s%s.", key$name, paste(shown, collapse = ", "),
      if (more > 0) sprintf(" and %d more", more) else ""
    )
  }
  list(
    rows = list(at[[1]][match(all, keys[[1]])], at[[2]][match(all, keys[[2]])]), keys = all, note = note
  )
}

abort_duplicate_key <- function(twice, name, label, call) {
  count <- length(twice)
  shown <- cli::cli_vec(group_text(twice), list("vec-trunc" = 10))
  abort_vandro(
    c(
      "Every {.val {name}} must occur once per occasion.",
      "x" = "{cli::qty(count)}{count} key{?s} {?occurs/occur} more than once in {.val {label}}: {.val {shown}}.",
      "i" = "Add a second key column, {.code id = c(plot, plant)}, or average the repeats first."
    ),
    "duplicate_key",
    keys = twice, call = call
  )
}
