# Two independent groups of a database table: one query counts the groups and sums every outcome in each of them.

# Outcomes that one query sums.
engine_chunk <- 100
# More groups or subgroups than anybody compares are a column of something else.
engine_most_groups <- 2000

versus_database <- function(table, columns, options, call) {
  shape <- engine_shape(table, call)
  refuse_engine_roles(columns, c("blocks", "id", "counts", "first", "second"), call)
  refuse_engine_options(options, call)
  names <- column_names(columns$outcome, shape, "outcome", call)
  by <- column_name(columns$by, shape, "by", call)
  if (by %in% names) abort_same_column(by, c("outcome", "by"), call)
  for (name in names) check_engine_number(shape, name, call)
  each <- if (is_given(columns$each)) column_name(columns$each, shape, "each", call)
  order <- if (is_given(columns$order)) column_name(columns$order, shape, "order", call)
  engine <- new_engine(table, options$scale_by)
  engine$relation <- group_relation(engine, names, by, each, order)
  found <- group_sums(engine, names, call)
  groups <- engine_groups(found$grp, found$rows, by, call)
  wanted <- wanted_groups(options$groups, groups, by, call)
  subgroups <- engine_subgroups(found, each, call)
  sums <- pick_sums(found, wanted, subgroups)
  moments <- settle_group_sums(engine, names, found, sums, wanted, call)
  source <- list(
    kind = "database", engine = engine, keys = engine_keys(found, wanted$key), ordered = !is.null(order)
  )
  records <- engine_records(names, source, moments, sums, subgroups, options, call)
  records <- keep_incomparable(records, wanted$label, function(record) {
    abort_all_missing(record$moments, wanted$label, record$name, call)
  })
  left_out <- lapply(records, database_left_out, found, wanted)
  notes <- c(note_near_labels(groups$label, by), note_incomparable(records))
  study <- new_study(
    "independent", "database", wanted$label, records, bind_left_out(left_out), notes, is.null(options$groups)
  )
  study$database <- list(engine = engine, order = order)
  with_subgroups(study, subgroups)
}

# Outcome by outcome, each with its subgroups.
engine_records <- function(names, source, moments, sums, subgroups, options, call) {
  units <- text_for(options$unit, names, "unit", call)
  titles <- text_for(options$label, names, "label", call)
  unlist(lapply(seq_along(names), function(j) {
    lapply(seq_along(sums), function(k) {
      data <- c(source, column = paste0("x", j), list(sub = sums[[k]]$key, cache = new.env(parent = emptyenv())))
      record <- new_outcome(names[[j]], titles[[j]], units[[j]], moments[[j]][[k]], data)
      in_subgroup(record, subgroup_of(subgroups, k), NULL)
    })
  }), recursive = FALSE)
}

# What the engine counted in the column of groups; NULL is no group.
engine_groups <- function(keys, rows, by, call) {
  if (length(keys) == 0) abort_empty_table(call)
  labels <- group_text(plain_codes(keys, by, call))
  check_engine_bytes(labels, by, call)
  counted <- tapply(rows, factor(labels, sorted_text(unique(labels))), sum)
  groups <- list(
    value = names(counted), label = names(counted), count = as.double(counted), missing = sum(rows[is.na(labels)])
  )
  if (length(groups$label) < 2) abort_one_group(groups, by, call)
  groups
}

check_engine_bytes <- function(labels, name, call) {
  check_bytes(labels, name, call, "Text from a database must be UTF-8: convert it there.")
}

# What all queries of a study share.
new_engine <- function(table, scale_by) {
  engine <- new.env(parent = emptyenv())
  engine$table <- table
  engine$con <- dbplyr::remote_con(table)
  engine$scale_by <- scale_by
  engine$queries <- NULL
  engine
}

# The columns that matter, under names of our own: grp, sub, ord, x1, x2, ... as doubles.
group_relation <- function(engine, names, by, each, order) {
  engine_columns(engine$table, c(
    list(grp = sql_name(engine$con, by)), engine_extras(engine, each, order), engine_outcomes(engine, names)
  ))
}

# Outcomes as x1, x2, ..., and whether they hold text as t1, t2, ... where a column can.
engine_outcomes <- function(engine, names) {
  values <- lapply(names, engine_value, engine = engine)
  texts <- lapply(names, function(name) sql_is_text(engine$con, name))
  at <- seq_along(names)
  c(stats::setNames(values, paste0("x", at)), keep_known(stats::setNames(texts, paste0("t", at))))
}

engine_extras <- function(engine, each, order) {
  keep_known(list(
    sub = if (!is.null(each)) sql_name(engine$con, each), ord = if (!is.null(order)) sql_name(engine$con, order)
  ))
}

keep_known <- function(x) x[lengths(x) > 0]

engine_value <- function(name, engine) {
  value <- sql_double(engine$con, name)
  if (engine$scale_by == 1) value else sprintf("(%s * %s)", value, sql_number(engine$scale_by))
}

abort_empty_table <- function(call) {
  abort_vandro(c("The table must have at least one row.", "x" = "It has none."), "empty_data", call = call)
}

# A shift near the mean, from the first thousand rows: what matters is its size, not its last digit.
pilot_shifts <- function(engine, columns, call) {
  query <- engine_sums(engine_first(engine$relation, 1000), stats::setNames(
    lapply(columns, function(x) sprintf("AVG(%s)", x)), columns
  ))
  found <- unlist(ask_engine(query, "means of the first rows", call, engine))
  shift <- signif(as.double(found), 6)
  shift[!is.finite(shift)] <- 0
  stats::setNames(shift, columns)
}

# Rows, known values and shifted sums of every outcome in every group and subgroup.
group_sums <- function(engine, names, call, mask = FALSE, columns = paste0("x", seq_along(names))) {
  con <- engine$con
  chunks <- split(columns, (seq_along(columns) - 1) %/% engine_chunk)
  parts <- lapply(chunks, function(own) {
    shifts <- pilot_shifts(engine, own, call)
    sums <- unlist(lapply(own, function(x) shifted_sums(con, x, shifts[[x]], mask)), recursive = FALSE)
    # Text would be summed as 0.
    texts <- intersect(sub("^x", "t", own), engine$relation$columns)
    for (t in texts) sums[[paste0("text_", sub("^t", "x", t))]] <- sql_count_where(con, t)
    by <- intersect(c("grp", "sub"), engine$relation$columns)
    query <- engine_sums(engine$relation, c(list(rows = sql_count_all(con)), sums), by)
    query <- engine_first(query, engine_most_groups + 1)
    found <- ask_engine(query, "counts and sums", call, engine)
    if (nrow(found) > engine_most_groups) abort_engine_groups(call)
    for (x in own) found[[paste0("c_", x)]] <- rep(shifts[[x]], nrow(found))
    found
  })
  found <- parts[[1]]
  keys <- intersect(c("grp", "sub"), names(found))
  for (part in parts[-1]) {
    at <- match(row_key(found, keys), row_key(part, keys))
    if (anyNA(at) || !identical(found$rows, part$rows[at])) {
      abort_table_changed(names[[1]], sum(found$rows), sum(part$rows), call)
    }
    found <- cbind(found, part[at, setdiff(names(part), c(keys, "rows")), drop = FALSE])
  }
  found
}

# NULL is another key than a label "NA".
row_key <- function(found, keys) {
  do.call(paste, c(lapply(found[keys], function(x) ifelse(is.na(x), "-", paste0("=", x))), sep = "\r"))
}

shifted_sums <- function(con, x, shift, mask = FALSE) {
  value <- if (mask) sprintf("CASE WHEN %s THEN NULL ELSE %s END", sql_is_nan(con, x), x) else x
  d <- sprintf("(%s - %s)", if (mask) paste0("(", value, ")") else x, sql_number(shift))
  stats::setNames(
    list(
      sprintf("CAST(COUNT(%s) AS %s)", value, engine_double(con)), sprintf("SUM(%s)", d),
      sprintf("SUM(%s * %s)", d, d)
    ),
    paste0(c("n_", "s_", "q_"), x)
  )
}

abort_engine_groups <- function(call) {
  abort_vandro(
    c(
      "The column of groups, or of subgroups, holds more than {engine_most_groups} different values.",
      "i" = "Check that {.arg by} and {.arg each} name columns of labels."
    ),
    "many_groups",
    call = call, .envir = rlang::current_env()
  )
}

# The subgroups found: labels in order, the key of each as the engine gave it, rows without one.
engine_subgroups <- function(found, each, call) {
  if (is.null(each)) return(NULL)
  label <- group_text(plain_codes(found$sub, each, call))
  check_engine_bytes(label, each, call)
  labels <- sorted_text(unique(label))
  if (length(labels) == 0) {
    abort_vandro(
      c("Subgroups {.val {each}} must hold labels.", "x" = "All values are NULL."), "one_group",
      column = each, call = call
    )
  }
  list(name = each, labels = labels, lost = sum(found$rows[is.na(label)]), keys = found$sub[match(labels, label)])
}

# The keys of both groups as the engine gave them.
engine_keys <- function(found, keys) found$grp[match(keys, group_text(found$grp))]

# For every subgroup (or the whole table) the row of `found` that each group has; NA where there is none.
pick_sums <- function(found, wanted, subgroups) {
  label <- group_text(found$grp)
  if (is.null(subgroups)) return(list(list(rows = match(wanted$key, label), key = NULL)))
  lapply(seq_along(subgroups$labels), function(k) {
    own <- which(group_text(found$sub) == subgroups$labels[[k]])
    list(rows = own[match(wanted$key, label[own])], key = subgroups$keys[[k]])
  })
}

# Moments of every outcome and subgroup; sums that lost digits, or met NaN, are asked for again.
settle_group_sums <- function(engine, names, found, sums, wanted, call) {
  columns <- paste0("x", seq_along(names))
  rows <- unlist(lapply(sums, `[[`, "rows"))
  used <- found[rows[!is.na(rows)], ]
  for (j in seq_along(names)) {
    text <- found[[paste0("text_", columns[[j]])]]
    if (sum(text[rows[!is.na(rows)]]) > 0) abort_engine_text(names[[j]], sum(text[rows[!is.na(rows)]]), call)
  }
  broken <- columns[!vapply(columns, function(x) all_finite(used, x), NA)]
  if (length(broken)) {
    masked <- group_sums(engine, names, call, mask = TRUE, columns = broken)
    keys <- intersect(c("grp", "sub"), names(found))
    at <- match(row_key(found, keys), row_key(masked, keys))
    if (!identical(found$rows, masked$rows[at])) {
      abort_table_changed(names[[1]], sum(found$rows), sum(masked$rows), call)
    }
    for (x in broken) {
      for (what in paste0(c("n_", "s_", "q_", "c_"), x)) found[[what]] <- masked[[what]][at]
      if (!all_finite(found[rows[!is.na(rows)], ], x)) {
        abort_engine_infinite(names[[match(x, columns)]], call)
      }
    }
  }
  moments <- lapply(columns, function(x) {
    lapply(sums, function(sum) lapply(1:2, function(g) sum_moments(found, sum$rows[[g]], x)))
  })
  sharpen_moments(engine, names, columns, moments, found, sums, wanted, call)
}

all_finite <- function(found, x) {
  n <- found[[paste0("n_", x)]]
  all(n == 0 | (is.finite(found[[paste0("s_", x)]]) & is.finite(found[[paste0("q_", x)]])))
}

sum_moments <- function(found, row, x) {
  if (is.na(row)) return(core_shifted_moments(0, 0, 0, 0, 0))
  pick <- function(what) found[[paste0(what, x)]][[row]]
  n <- pick("n_")
  zero <- function(value) if (n == 0) 0 else value
  core_shifted_moments(n, found$rows[[row]] - n, pick("c_"), zero(pick("s_")), zero(pick("q_")))
}

# A second pass about each group's own mean where the shift of the first one was far from it.
sharpen_moments <- function(engine, names, columns, moments, found, sums, wanted, call) {
  con <- engine$con
  keys <- engine_keys(found, wanted$key)
  for (j in seq_along(columns)) {
    far <- vapply(moments[[j]], function(pair) any(vapply(pair, core_far_shift, NA)), NA)
    if (!any(far)) next
    x <- columns[[j]]
    sharp <- list()
    for (k in which(far)) {
      for (g in 1:2) {
        m <- moments[[j]][[k]][[g]]
        if (m$n == 0) next
        own <- engine_where(engine$relation, group_condition(con, keys[[g]], sums[[k]]$key))
        query <- engine_sums(own, c(
          shifted_sums(con, x, m$mean, TRUE), list(low = sprintf("MIN(%s)", x), high = sprintf("MAX(%s)", x))
        ))
        again <- ask_engine(query, "sums about the means", call, engine)
        if (again[[1]] != m$n) abort_table_changed(names[[j]], m$n, again[[1]], call)
        new <- core_shifted_moments(m$n, m$missing, m$mean, again[[2]], again[[3]])
        # Equal values leave rounding dust.
        if (isTRUE(again$high - again$low <= 8 * .Machine$double.eps * max(abs(c(again$low, again$high))))) {
          new <- core_shifted_moments(m$n, m$missing, again$low, 0, 0)
        } else if (isTRUE(new$sd < 1e-140)) {
          abort_engine_small(names[[j]], call)
        }
        moments[[j]][[k]][[g]] <- new
      }
    }
  }
  moments
}

abort_engine_infinite <- function(name, call) {
  abort_vandro(
    c(
      "Outcome {.val {name}} must be finite.", "x" = "In the database it holds infinite values, or sums beyond the range
        of a double.",
      "i" = "Often a division by zero or a logarithm of zero: make them NULL there."
    ),
    "infinite",
    column = name, call = call
  )
}

database_left_out <- function(record, found, wanted) {
  own <- if (is.null(record$subgroup)) rep(TRUE, nrow(found)) else group_text(found$sub) %in% record$subgroup
  labels <- without_blanks(group_text(found$grp))
  other <- setdiff(sorted_text(unique(labels[own])), wanted$key)
  left_out_table(
    record$name,
    list(
      reason = rep("outcome missing", 2), group = wanted$label, n = vapply(record$moments, `[[`, 0, "missing")
    ),
    list(reason = "group missing", group = NA_character_, n = sum(found$rows[own & is.na(labels)])),
    list(
      reason = rep("other group", length(other)), group = other,
      n = vapply(other, function(label) sum(found$rows[own & labels %in% label]), 0)
    ),
    subgroup = record$subgroup
  )
}
