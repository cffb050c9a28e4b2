#' A random sample of the rows of a database table
#'
#' For what needs single values (permutation, bootstrap, figures of points) when the table is too large to be fetched,
#' or should stay where it is. Which rows are drawn depends on the seed and on the key alone, not on the engine.
#'
#' @param table A lazy table of package dbplyr; select and filter it first as you like.
#' @param n Number of rows, up to 1e6. All rows where there are no more.
#' @param id Column, or columns, that tell the rows apart: the order in which they are numbered.
#' @param ... Must be empty.
#' @param seed A whole number. `NULL` takes one from R's generator, and says which.
#' @return A data frame with the columns of `table`, in the order of `id`. Its attribute `vandro_sample` holds `rows`
#'   (of the table), `n` and `seed`.
#' @section Errors: `vandro_error_data_type` (no lazy table), `vandro_error_duplicate_key` (rows that `id` does not tell
#'   apart), those of [versus()] for databases.
#' @examples
#' if (requireNamespace("RSQLite", quietly = TRUE) && requireNamespace("dbplyr", quietly = TRUE)) {
#'   connection <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
#'   DBI::dbWriteTable(connection, "seedlings", seedlings)
#'   table <- dplyr::tbl(connection, "seedlings")
#'   some <- take_sample(table, 20, id = plant, seed = 1)
#'   print(versus(some, height, substrate, groups = c("compost", "peat")))
#'   DBI::dbDisconnect(connection)
#' }
#' @export
take_sample <- function(table, n, id, ..., seed = NULL) {
  check_supplied(table)
  check_supplied(n)
  check_supplied(id)
  refuse_more(...)
  call <- rlang::current_env()
  if (!is_lazy_table(table)) {
    abort_vandro(
      c(
        "{.arg table} must be a table of a database.", "x" = "It is of type {.cls {class(table)[[1]]}}.",
        "i" = "Of a data frame take rows as usual."
      ),
      "data_type",
      call = call
    )
  }
  n <- check_whole(n, 1, 1e6)
  shape <- engine_shape(table, call)
  keys <- column_names(rlang::enquo(id), shape, "id", call)
  if (is.null(seed)) {
    seed <- as.double(sample.int(.Machine$integer.max, 1))
    inform_vandro(c("i" = "Sample drawn with {.code seed = {seed}}."), "seed", seed = seed)
  }
  seed <- check_whole(seed, 0, 2^31 - 1)
  con <- dbplyr::remote_con(table)
  counted <- ask_engine(engine_sums(table, list(rows = sql_count_all(con))), "counts", call)$rows
  if (counted == 0) abort_empty_table(call)
  order <- paste(vapply(keys, sql_name, "", con = con), collapse = ", ")
  refuse_sample_ties(table, keys, con, call)
  rows <- sampled_numbers(counted, n, seed)
  numbered <- dplyr::mutate(table, vandro_row = !!sql_code("ROW_NUMBER() OVER (ORDER BY %s)", order))
  kept <- engine_where(numbered, sprintf("vandro_row IN (%s)", paste(sprintf("%.0f", rows), collapse = ", ")))
  found <- ask_engine(kept, "a sample of rows", call)
  found <- found[order(found$vandro_row), setdiff(names(found), "vandro_row"), drop = FALSE]
  rownames(found) <- NULL
  attr(found, "vandro_sample") <- list(rows = counted, n = nrow(found), seed = seed)
  found
}

refuse_sample_ties <- function(table, keys, con, call) {
  repeated <- engine_sums(table, list(times = sql_count_all(con)), keys)
  found <- ask_engine(engine_first(engine_where(repeated, "times > 1"), 10), "duplicate keys", call)
  if (nrow(found) == 0) return(invisible())
  shown <- do.call(paste, c(lapply(found[keys], as.character), sep = " / "))
  abort_vandro(
    c(
      "{.arg id} must tell the rows apart, or the sample would not be the same again.",
      "x" = "Several rows have {.val {shown[[1]]}} in {.val {keys}}.",
      "i" = "Name more columns: {.code id = c(plot, plant)}."
    ),
    "duplicate_key",
    keys = shown, call = call
  )
}

# `n` of the numbers 1 to `total`, in order; R's generator is left as it was.
sampled_numbers <- function(total, n, seed) {
  if (n >= total) return(seq_len(total))
  global <- globalenv()
  before <- global$.Random.seed
  on.exit(if (is.null(before)) rm(".Random.seed", envir = global) else assign(".Random.seed", before, envir = global))
  set.seed(seed, kind = "Mersenne-Twister", normal.kind = "Inversion", sample.kind = "Rejection")
  sort(sample(total, n))
}
