# Welch's test on 1e7 rows in PostgreSQL, beside a plain query for sizes, means and variances. Expected: at most 1.5
# times the plain query, declaration and test together. Starts a server of its own.
source("bench/helper.R")
skip_if_not_installed <- function(package) stopifnot(requireNamespace(package, quietly = TRUE))
skip_if <- function(condition, message) if (condition) stop(message)
source("tests/testthat/helper-database.R")
library(vandro)

compare <- function() {
  con <- postgres()
  DBI::dbExecute(con, "CREATE TABLE trees AS SELECT
    CASE WHEN random() < 0.5 THEN 'compost' ELSE 'peat' END AS side,
    20 + 3 * sqrt(-2 * ln(1 - random())) * cos(2 * pi() * random()) AS x FROM generate_series(1, 1e7)")
  DBI::dbExecute(con, "VACUUM ANALYZE trees")
  table <- lazy(con, "trees")
  plain <- function() {
    DBI::dbGetQuery(con, "SELECT side, count(*), avg(x), var_samp(x) FROM trees GROUP BY side")
  }
  ours <- function() test_difference(versus(table, x, side, groups = c("compost", "peat")))
  side_by_side("Welch's test on 1e7 rows in PostgreSQL",
    "plain SELECT ... GROUP BY" = plain, "vandro, declared and tested" = ours,
    rounds = 7
  )
  found <- plain()
  answer <- ours()
  stopifnot(abs(answer$table$estimate - diff(rev(found$avg[order(found$side)]))) < 1e-9)
  print(answer$study$database$engine$queries)
}
compare()
