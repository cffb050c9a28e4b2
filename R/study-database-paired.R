# Pairs of a database table: both columns in one row, changes, or two rows with one key, which the engine brings
# together.

versus_paired_database <- function(table, roles, options, call) {
  shape <- engine_shape(table, call)
  refuse_engine_roles(options, "blocks", call)
  refuse_engine_options(options, call)
  if (options$rows_in_order) {
    abort_vandro(
      c("Rows of a database have no order of their own: {.arg rows_in_order} cannot pair them.", "i" = "Name a key."),
      "no_key",
      call = call
    )
  }
  each <- if (is_given(options$each)) column_name(options$each, shape, "each", call)
  order <- if (is_given(options$order)) column_name(options$order, shape, "order", call)
  switch(attr(roles, "shape"),
    wide = database_wide(table, shape, roles, each, order, options, call),
    long = database_long(table, shape, roles, each, order, options, call),
    changes = database_changes(table, shape, roles, each, order, options, call)
  )
}

database_wide <- function(table, shape, roles, each, order, options, call) {
  names <- c(
    column_name(roles$first, shape, "first", call), column_name(roles$second, shape, "second", call)
  )
  if (names[[1]] == names[[2]]) abort_same_column(names[[1]], c("first", "second"), call)
  if (is.character(shape[[names[[2]]]])) {
    if (is.null(roles$id)) abort_no_key(names, call = call)
    long <- list(outcome = roles$first, by = roles$second, id = roles$id)
    return(database_long(table, shape, long, each, order, options, call))
  }
  for (name in names) check_engine_number(shape, name, call)
  engine <- new_engine(table, options$scale_by)
  engine$relation <- engine_columns(table, c(
    list(a = engine_value(names[[1]], engine), b = engine_value(names[[2]], engine)),
    engine_extras(engine, each, order), pair_texts(engine, names)
  ))
  labels <- two_labels(options$groups, names, call)
  name <- label_as_name(options$label, call)
  finish_pairs(list(list(engine = engine, name = name, unit = text_for(options$unit, name, "unit", call)[[1]])),
    names, labels, each, order, FALSE, character(), NULL, call
  )
}

pair_texts <- function(engine, names) {
  texts <- lapply(names, function(name) sql_is_text(engine$con, name))
  keep_known(stats::setNames(texts, c("ta", "tb")[seq_along(names)]))
}

database_changes <- function(table, shape, roles, each, order, options, call) {
  name <- column_name(roles$change, shape, "change", call)
  check_engine_number(shape, name, call)
  engine <- new_engine(table, options$scale_by)
  engine$relation <- engine_columns(table, c(
    list(a = engine_value(name, engine), b = sprintf("CAST(0 AS %s)", engine_double(engine$con))),
    engine_extras(engine, each, order), pair_texts(engine, name)
  ))
  labels <- if (is.null(options$groups)) c("first", "second") else check_labels(options$groups, call)
  part <- list(
    engine = engine, name = name, label = text_for(options$label, name, "label", call)[[1]],
    unit = text_for(options$unit, name, "unit", call)[[1]], changes = TRUE
  )
  finish_pairs(list(part), name, labels, each, order, is.null(options$groups), character(), NULL, call)
}

# Two rows per key: the engine makes one of them, and counts how often each half occurs.
database_long <- function(table, shape, roles, each, order, options, call) {
  names <- column_names(roles$outcome, shape, "outcome", call)
  by <- column_name(roles$by, shape, "by", call)
  if (by %in% names) abort_same_column(by, c("outcome", "by"), call)
  for (name in names) check_engine_number(shape, name, call)
  if (is.null(roles$id)) abort_no_key(call = call)
  ids <- column_names(roles$id, shape, "id", call)
  engine <- new_engine(table, options$scale_by)
  id <- paste0("id", seq_along(ids))
  rows <- engine_columns(table, c(
    list(grp = sql_name(engine$con, by)), stats::setNames(lapply(ids, sql_name, con = engine$con), id),
    engine_extras(engine, each, order), engine_outcomes(engine, names)
  ))
  counted <- count_occasions(engine, rows, names, id, call)
  label <- group_text(counted$grp)
  groups <- engine_groups(counted$grp, counted$rows, by, call)
  wanted <- wanted_groups(options$groups, groups, by, call)
  at <- match(wanted$key, label)
  refuse_occasion_text(counted[at, ], names, call)
  is_group <- vapply(counted$grp[at], function(key) sql_is(engine$con, "grp", key), "")
  own <- engine_where(rows, sprintf("(%s) AND (%s)", has_key(id), paste(is_group, collapse = " OR ")))
  paired <- list(rows = own, by = c(id, intersect("sub", rows$columns)))
  units <- text_for(options$unit, names, "unit", call)
  titles <- text_for(options$label, names, "label", call)
  parts <- lapply(seq_along(names), function(j) {
    made <- pair_engine(table, paired, paste0("x", j), is_group, options)
    made$queries <- engine$queries
    refuse_engine_duplicates(made, id, ids, wanted$label, call)
    if (!is.null(order)) refuse_two_places(made, id, ids, order, call)
    list(engine = made, name = names[[j]], label = titles[[j]], unit = units[[j]])
  })
  other <- !groups$label %in% wanted$key
  extra <- list(
    reason = c("group missing", rep("other group", sum(other)), "key missing"), group = c(NA, groups$label[other], NA),
    n = c(groups$missing, groups$count[other], sum(counted$keyless[at]))
  )
  finish_pairs(
    parts, names, wanted$label, each, order, is.null(options$groups), note_near_labels(groups$label, by), extra, call
  )
}

has_key <- function(id) paste(paste(id, "IS NOT NULL"), collapse = " AND ")

# Rows of every occasion, those without a key, and text among the outcomes.
count_occasions <- function(engine, rows, names, id, call) {
  con <- engine$con
  texts <- intersect(paste0("t", seq_along(names)), rows$columns)
  sums <- engine_sums(rows, c(
    list(rows = sql_count_all(con), keyless = sql_count_where(con, sprintf("NOT (%s)", has_key(id)))),
    stats::setNames(lapply(texts, sql_count_where, con = con), texts)
  ), "grp")
  counted <- ask_engine(engine_first(sums, engine_most_groups + 1), "counts", call, engine)
  if (nrow(counted) > engine_most_groups) abort_engine_groups(call)
  counted
}

refuse_occasion_text <- function(counted, names, call) {
  for (j in seq_along(names)) {
    count <- sum(counted[[paste0("t", j)]])
    if (count > 0) abort_engine_text(names[[j]], count, call)
  }
}

# Both measurements of one outcome side by side, a row for every key.
pair_engine <- function(table, paired, x, is_group, options) {
  made <- new_engine(table, options$scale_by)
  con <- made$con
  ordered <- if ("ord" %in% paired$rows$columns) list(ord = "MIN(ord)", last = "MAX(ord)")
  made$relation <- engine_sums(paired$rows, c(list(
    a = sprintf("MAX(CASE WHEN %s THEN %s END)", is_group[[1]], x),
    b = sprintf("MAX(CASE WHEN %s THEN %s END)", is_group[[2]], x),
    na = sql_count_where(con, is_group[[1]]), nb = sql_count_where(con, is_group[[2]])
  ), ordered), paired$by)
  made
}

# In a database the places themselves must agree, because comparing two sequences would fetch all pairs.
refuse_two_places <- function(engine, id, ids, order, call) {
  found <- ask_engine(engine_first(engine_where(engine$relation, "ord <> last"), 1), "order of pairs", call, engine)
  if (nrow(found) == 0) return(invisible())
  key <- paste(vapply(found[id], as.character, ""), collapse = " / ")
  abort_vandro(
    c(
      "The order {.val {order}} must be the same for both halves of a pair.",
      "x" = "For {paste(ids, collapse = ' / ')} {.val {key}} it is {.val {c(found$ord, found$last)}}.",
      "i" = "Name a column with one place for each pair, such as the day."
    ),
    "order",
    column = order, call = call
  )
}

refuse_engine_duplicates <- function(engine, id, ids, labels, call) {
  twice <- engine_where(engine$relation, "na > 1 OR nb > 1")
  found <- ask_engine(engine_first(twice, 10), "duplicate keys", call, engine)
  if (nrow(found) == 0) return(invisible())
  keys <- do.call(paste, c(lapply(found[id], as.character), sep = " / "))
  abort_duplicate_key(keys, paste(ids, collapse = " / "), labels[[if (found$na[[1]] > 1) 1 else 2]], call)
}

# --- sums of pairs ----------------------------------------------------------------------------------

finish_pairs <- function(parts, names, labels, each, order, announced, notes, extra, call) {
  made <- lapply(parts, function(part) paired_records(part, names, labels, each, order, extra, call))
  subgroups <- made[[1]]$subgroups
  records <- keep_incomparable(unlist(lapply(made, `[[`, "records"), recursive = FALSE), labels, function(record) {
    sums <- made[[1]]$sums
    abort_no_pairs(lapply(as.list(sums[c("only_first", "only_second", "neither")]), sum), labels, record$name, call)
  })
  left_out <- unlist(lapply(made, `[[`, "left_out"), recursive = FALSE)
  whole <- Filter(is_comparable, records)[[1]]
  study <- new_study(
    "paired", "database", labels, records, bind_left_out(left_out),
    c(notes, note_weak_pairing(whole$pairs$r, whole$moments[[3]]$n), note_incomparable(records)), announced
  )
  study$database <- list(engine = parts[[1]]$engine, order = order)
  with_subgroups(study, subgroups)
}

paired_records <- function(part, names, labels, each, order, extra, call) {
  engine <- part$engine
  shifts <- pilot_shifts(engine, c("a", "b"), call)
  if (isTRUE(part$changes)) shifts[["b"]] <- 0
  sums <- paired_sums(engine, shifts[["a"]], shifts[["b"]], call)
  texts <- intersect(c("text_ta", "text_tb"), names(sums))
  for (k in seq_along(texts)) {
    if (sum(sums[[texts[[k]]]]) > 0) abort_engine_text(names[[k]], sum(sums[[texts[[k]]]]), call)
  }
  subgroups <- if (!is.null(each)) {
    engine_subgroups(data.frame(sub = sums$sub, rows = sums$rows), each, call)
  }
  at <- if (is.null(subgroups)) 1L else match(subgroups$labels, group_text(sums$sub))
  if (nrow(sums) == 0 || sum(sums$rows) == 0) abort_empty_table(call)
  rows <- lapply(at, function(i) lapply(sums, `[[`, i))
  records <- lapply(seq_along(at), function(k) {
    record <- paired_record(part, rows[[k]], shifts, subgroups$keys[[k]], !is.null(order), call)
    in_subgroup(record, subgroup_of(subgroups, k), NULL)
  })
  left_out <- lapply(seq_along(at), function(k) {
    paired_left_out(part, rows[[k]], labels, extra, subgroups$labels[[k]])
  })
  list(records = records, left_out = left_out, subgroups = subgroups, sums = sums)
}

# One record from its row of sums; `key` is the subgroup as the engine writes it, NULL without subgroups.
paired_record <- function(part, row, shifts, key, ordered, call) {
  engine <- part$engine
  changes <- isTRUE(part$changes)
  found <- sharp_pairs(engine, row, shifts, key, part$name, call)
  moments <- found$moments
  for (m in moments) {
    if (m$n > 0 && !is.finite(m$mean + (if (m$n > 1) m$sd else 0))) {
      abort_engine_infinite(part$name, call)
    }
  }
  r <- found$r
  if (changes) {
    moments[1:2] <- list(core_unknown_moments(moments[[3]]$n))
    r <- NA_real_
  }
  data <- list(
    kind = "database", pair = TRUE, engine = engine, sub = key, ordered = ordered, changes = changes,
    cache = new.env(parent = emptyenv())
  )
  new_outcome(
    part$name, part$label, part$unit, moments, data, list(r = r, up = row$up, down = row$down, same = row$same)
  )
}

paired_left_out <- function(part, row, labels, extra, subgroup) {
  if (isTRUE(part$changes)) {
    return(left_out_table(
      part$name, list(reason = "change missing", group = NA_character_, n = row$only_second),
      subgroup = subgroup
    ))
  }
  left_out_table(
    part$name,
    list(reason = rep("half missing", 2), group = labels, n = c(row$only_second, row$only_first)),
    list(reason = "both halves missing", group = NA_character_, n = row$neither), extra,
    subgroup = subgroup
  )
}

paired_sums <- function(engine, a, b, call, where = NULL) {
  con <- engine$con
  whole <- whole_pair(con)
  has <- function(x) sprintf("(%s IS NOT NULL AND NOT (%s))", x, sql_is_nan(con, x))
  counted <- function(...) sql_count_where(con, sprintf(...))
  da <- sprintf("(a - %s)", sql_number(a))
  db <- sprintf("(b - %s)", sql_number(b))
  dd <- sprintf("((a - b) - %s)", sql_number(a - b))
  total <- function(x) sprintf("SUM(CASE WHEN %s THEN %s END)", whole, x)
  texts <- intersect(c("ta", "tb"), engine$relation$columns)
  sums <- c(list(
    rows = sql_count_all(con), n = counted(whole), only_first = counted("%s AND NOT %s", has("a"), has("b")),
    only_second = counted("%s AND NOT %s", has("b"), has("a")),
    neither = counted("NOT %s AND NOT %s", has("a"), has("b")),
    sa = total(da), qa = total(paste(da, "*", da)), sb = total(db), qb = total(paste(db, "*", db)), sd = total(dd),
    qd = total(paste(dd, "*", dd)), ab = total(paste(da, "*", db)), up = counted("%s AND a > b", whole),
    down = counted("%s AND a < b", whole), same = counted("%s AND a = b", whole),
    low = total("(a - b)"), high = total("(a - b)")
  ), stats::setNames(lapply(texts, function(t) sql_count_where(con, t)), sprintf("text_%s", texts)))
  sums$low <- sub("^SUM", "MIN", sums$low)
  sums$high <- sub("^SUM", "MAX", sums$high)
  rows <- if (is.null(where)) engine$relation else engine_where(engine$relation, where)
  by <- if (is.null(where)) intersect("sub", rows$columns) else character()
  found <- ask_engine(engine_sums(rows, sums, by), "counts and sums of pairs", call, engine)
  for (x in c("sa", "qa", "sb", "qb", "sd", "qd", "ab")) found[[x]][found$n == 0] <- 0
  found
}

# Moments of one set of pairs; about their own means where the first shifts were far from them.
sharp_pairs <- function(engine, row, shifts, key, name, call) {
  found <- core_paired_aggregates(row, shifts[["a"]], shifts[["b"]])
  far <- vapply(found$moments, core_far_shift, NA)
  if (any(far) && row$n > 0) {
    a <- found$moments[[1]]$mean
    b <- found$moments[[2]]$mean
    where <- if (is.null(key)) "1 = 1" else sql_is(engine$con, "sub", key)
    again <- lapply(paired_sums(engine, a, b, call, where), `[[`, 1)
    if (again$n != row$n) abort_table_changed(name, row$n, again$n, call)
    found <- core_paired_aggregates(again, a, b)
    row <- again
  }
  # Equal changes leave rounding dust.
  size <- max(abs(c(found$moments[[1]]$mean, found$moments[[2]]$mean, row$low, row$high)))
  if (isTRUE(row$high - row$low <= 8 * .Machine$double.eps * size)) {
    found$moments[[3]] <- core_shifted_moments(row$n, 0, row$low, 0, 0)
  }
  found
}
