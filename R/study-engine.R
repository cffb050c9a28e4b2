# A table that stays in its database: what is asked of the engine, and how its errors read. Only queries that read are
# sent, and only aggregates come back.

is_lazy_table <- function(data) inherits(data, "tbl_lazy")

# The columns and their types, without a row.
engine_shape <- function(table, call) {
  for (package in c("dplyr", "dbplyr", "DBI")) need_package(package, "to read tables of a database", call)
  as.data.frame(ask_engine(utils::head(table, 0), "columns", call))
}

# Sends a query and returns what comes back; every query and the number of rows it brought are kept in `log`.
ask_engine <- function(query, what, call, log = NULL) {
  # The engine's own message becomes the cause; templates of cli have no part in it.
  found <- tryCatch(
    if (inherits(query, "vandro_query")) DBI::dbGetQuery(query$con, query$text) else dplyr::collect(query),
    error = function(e) abort_engine(e, query, what, call)
  )
  found <- as.data.frame(found)
  found[] <- lapply(found, plain_column)
  if (!is.null(log)) log$queries <- rbind(log$queries, data.frame(what = what, rows = nrow(found)))
  found
}

# Counts of a database can come as 64-bit integers.
plain_column <- function(x) {
  if (inherits(x, "integer64")) {
    text <- integer64_text(x)
    number <- text_number(text)
    # Keys beyond the whole numbers of a double keep all their digits as text.
    return(if (all(is.na(number) | abs(number) < largest_code)) number else text)
  }
  if (is.factor(x)) as.character(x) else x
}

abort_engine <- function(e, query, what, call) {
  con <- if (inherits(query, "vandro_query")) query$con else dbplyr::remote_con(query)
  alive <- tryCatch(!isFALSE(DBI::dbIsValid(con)), error = function(e) TRUE)
  said <- cli::ansi_strip(conditionMessage(e$parent %||% e))
  said <- trimws(utils::head(strsplit(said, "\n", fixed = TRUE)[[1]], 3))
  gone <- !alive || any(grepl("connection|terminat|server closed|closed unexpectedly|could not receive", said,
    ignore.case = TRUE
  ))
  if (gone) {
    abort_vandro(
      c(
        "The connection to the database was lost while {what} were computed.", "x" = "The engine says: {said}",
        "i" = "Nothing was changed in the database. Connect again and declare the comparison anew."
      ),
      "connection_lost",
      what = what, call = call
    )
  }
  abort_vandro(
    c(
      "The engine of the database could not compute {what}.", "x" = "It says: {said}",
      "i" = "Needed are {engine_needs(what)}. An engine without them can serve {.fn take_sample}."
    ),
    "engine",
    what = what, call = call
  )
}

# Functions of SQL that a step needs.
engine_needs <- function(what) {
  switch(what,
    "quartiles" = "ROW_NUMBER() OVER (PARTITION BY ... ORDER BY ...)",
    "ranks" = ,
    "signed ranks" = "SUM() OVER (... ROWS UNBOUNDED PRECEDING)",
    "products of neighbours" = "LEAD() OVER (PARTITION BY ... ORDER BY ...)",
    "COUNT, SUM, MIN, MAX, CASE and CAST"
  )
}

# --- pieces of SQL ----------------------------------------------------------------------------------

# Names and values are quoted by the rules of the connection; nothing that comes from the data is pasted as it is.
sql_name <- function(con, name) as.character(dbplyr::escape(dbplyr::ident(name), con = con))
sql_value <- function(con, value) as.character(dbplyr::escape(value, con = con))
sql_code <- function(...) dbplyr::sql(sprintf(...))

# A number with all its digits: fifteen where they are exact, else seventeen, which every engine reads back alike.
sql_number <- function(x) {
  text <- sprintf("%.17g", x)
  short <- sprintf("%.15g", x)
  text <- ifelse(as.numeric(short) == x, short, text)
  ifelse(x < 0, paste0("(", text, ")"), text)
}

# A column as a double.
sql_double <- function(con, name) sprintf("CAST(%s AS %s)", sql_name(con, name), engine_double(con))

engine_double <- function(con) {
  plain <- inherits(con, c("spark_connection", "Hive", "MySQLConnection", "MariaDBConnection", "BigQueryConnection"))
  if (inherits(con, "BigQueryConnection")) "FLOAT64" else if (plain) "DOUBLE" else "DOUBLE PRECISION"
}

# Whether a double is no number. PostgreSQL and its relatives hold NaN to be equal to itself.
sql_is_nan <- function(con, x) {
  if (inherits(con, c("PqConnection", "PostgreSQLConnection", "RedshiftConnection"))) return(sprintf("%s = 'NaN'", x))
  if (inherits(con, c("duckdb_connection", "spark_connection"))) return(sprintf("isnan(%s)", x))
  sprintf("%s <> %s", x, x)
}

# Text among numbers, where a column may hold both.
sql_is_text <- function(con, name) {
  if (inherits(con, "SQLiteConnection")) sprintf("typeof(%s) IN ('text', 'blob')", sql_name(con, name))
}

sql_count_where <- function(con, condition) {
  sprintf("CAST(SUM(CASE WHEN %s THEN 1 ELSE 0 END) AS %s)", condition, engine_double(con))
}

sql_count_all <- function(con) sprintf("CAST(COUNT(*) AS %s)", engine_double(con))

# "key = 'a' AND sub = 'x'": the rows of one group of one subgroup; NULL is no value. Numbers keep all their digits, and
# what may be a whole number beyond those of a double is compared as text.
sql_is <- function(con, column, value) {
  if (is.na(value)) return(sprintf("%s IS NULL", column))
  if (is.numeric(value)) return(sprintf("%s = %s", column, sql_number(value)))
  if (grepl("^-?[0-9]{16,}$", value)) column <- sprintf("CAST(%s AS VARCHAR)", column)
  sprintf("%s = %s", column, sql_value(con, value))
}

# A query is its text and the names of its columns. dbplyr writes the first one, the analyst's own table; every step of
# ours stands around the text of the one before.
as_query <- function(table) {
  if (inherits(table, "vandro_query")) return(table)
  new_query(dbplyr::remote_con(table), as.character(dbplyr::sql_render(table)), colnames(table))
}

new_query <- function(con, text, columns) {
  structure(list(con = con, text = text, columns = columns), class = "vandro_query")
}

# SELECT what FROM (the query before) rest
engine_step <- function(query, what, columns, rest = "") {
  text <- sprintf("SELECT %s FROM (%s) %s%s", what, query$text, sql_name(query$con, "q"), rest)
  new_query(query$con, text, columns)
}

sql_names <- function(con, names) vapply(names, sql_name, "", con = con, USE.NAMES = FALSE)

sql_named <- function(con, columns) {
  paste(sprintf("%s AS %s", unlist(columns), sql_names(con, names(columns))), collapse = ", ")
}

engine_columns <- function(query, columns) {
  query <- as_query(query)
  engine_step(query, sql_named(query$con, columns), names(columns))
}

engine_where <- function(query, condition) {
  query <- as_query(query)
  engine_step(query, "*", query$columns, paste(" WHERE", condition))
}

engine_sums <- function(query, sums, by = character()) {
  query <- as_query(query)
  keys <- paste(sql_names(query$con, by), collapse = ", ")
  what <- sql_named(query$con, sums)
  if (length(by) == 0) return(engine_step(query, what, names(sums)))
  engine_step(query, paste(keys, what, sep = ", "), c(by, names(sums)), paste(" GROUP BY", keys))
}

# Engines differ in how they stop after so many rows.
engine_first <- function(query, n) {
  rows <- dplyr::tbl(query$con, dbplyr::sql(query$text), vars = query$columns)
  new_query(query$con, as.character(dbplyr::sql_render(utils::head(rows, n))), query$columns)
}

# --- checks -----------------------------------------------------------------------------------------

check_engine_number <- function(shape, name, call) {
  x <- shape[[name]]
  if (is.numeric(x) || inherits(x, "integer64")) return(invisible())
  kind <- class(x)[[1]]
  abort_vandro(
    c(
      "Outcome {.val {name}} must be numeric.", "x" = "In the database it is of type {.cls {kind}}.",
      "i" = "Convert it there first: {.code dplyr::mutate(table, {name} = as.numeric({name}))}."
    ),
    "not_numeric",
    column = name, call = call
  )
}

abort_engine_text <- function(name, count, call) {
  abort_vandro(
    c(
      "Outcome {.val {name}} must be numeric.",
      "x" = "{cli::qty(count)}{count} row{?s} of the database hold{?s/} text in it.",
      "i" = "Make them NULL there, or convert them."
    ),
    "not_numeric",
    column = name, call = call
  )
}

# What needs single rows is said so, with what there is instead.
refuse_engine_roles <- function(columns, roles, call) {
  given <- roles[vapply(columns[roles], is_given, NA)]
  if (length(given) == 0) return(invisible())
  abort_vandro(
    c(
      "{cli::qty(length(given))}{.arg {given}} {?needs/need} single rows, which stay in the database.",
      "i" = "Leave {cli::qty(length(given))}{?it/them} out, or take a sample:
        {.code take_sample(table, 10000, id = plant, seed = 1)}."
    ),
    "needs_values",
    roles = given, call = call
  )
}

refuse_engine_options <- function(options, call) {
  if (is.null(options$missing)) return(invisible())
  abort_vandro(
    c(
      "{.arg missing} is not looked for in a database.",
      "i" = "Make those values NULL there first: {.code dplyr::mutate(table, height = dplyr::na_if(height, -99))}."
    ),
    "needs_values",
    call = call
  )
}

# Two queries that do not speak of the same rows.
abort_table_changed <- function(outcome, before, now, call) {
  abort_vandro(
    c(
      "The table changed while {.val {outcome}} was read.",
      "x" = "It had {before} value{?s} when the comparison was declared and has {now} now.",
      "i" = "Declare the comparison anew, on a table or snapshot that rests."
    ),
    "table_changed",
    outcome = outcome, before = before, now = now, call = call, .envir = rlang::current_env()
  )
}

group_condition <- function(con, key, sub) {
  paste(c(sql_is(con, "grp", key), if (!is.null(sub)) sql_is(con, "sub", sub)), collapse = " AND ")
}

abort_engine_small <- function(name, call) {
  abort_vandro(
    c(
      "The values of {.val {name}} vary by less than their squares can hold in a database.",
      "i" = "Change their unit there: {.code dplyr::mutate(table, {name} = {name} * 1e9)}."
    ),
    "out_of_range",
    column = name, call = call
  )
}
