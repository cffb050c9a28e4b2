# A table with whatever databases hold: other groups, missing values, ties, offsets, hostile names.
measured <- function(n = 300, seed = 1) {
  set.seed(seed)
  data <- data.frame(
    plant = seq_len(n), side = sample(c("compost", "peat", "sand", NA), n, TRUE, c(5, 5, 1, 0.5)),
    site = sample(c("a", "b", "c", NA), n, TRUE, c(4, 3, 2, 0.3)), x = rnorm(n, 20, 3), steps = sample(0:6, n, TRUE),
    far = 1e9 + rnorm(n), tiny = 1e-12 * rnorm(n), turn = sample(n)
  )
  data$x[sample(n, 20)] <- NA
  data
}
sorted <- function(data) data[order(data$side, data$site), ]
compare_all <- function(here, there, tolerance) {
  by_key <- function(table) {
    keys <- intersect(c("outcome", "subgroup", "group", "estimand"), names(table))
    table[do.call(order, unname(as.list(table[keys]))), ]
  }
  here <- by_key(here)
  there <- by_key(there)
  shared <- intersect(names(here), names(there))
  expect_equal(as.list(there[shared]), as.list(here[shared]), tolerance = tolerance)
}

for (engine in names(engines)) {
  # Takes seconds: every verb asks both engines anew.
  test_that(paste("every number is that of the data frame:", engine), {
    data <- measured()
    con <- engines[[engine]](measured = data)
    columns <- c("x", "steps", "far", "tiny")
    declare <- function(data, ...) versus(data, c(x, steps, far, tiny), side, groups = c("compost", "peat"), ...)
    here <- quiet(declare(data))
    there <- quiet(declare(lazy(con, "measured")))
    expect_identical(there$source, "database")
    expect_equal(there$left_out[order(there$left_out$outcome, there$left_out$reason, there$left_out$group), "n"],
      here$left_out[order(here$left_out$outcome, here$left_out$reason, here$left_out$group), "n"]
    )
    same <- function(verb, tolerance = 1e-9) compare_all(verb(here)$table, verb(there)$table, tolerance)
    same(test_difference, 1e-8)
    same(describe_study, 1e-8)
    # The verbs ask no further queries than these: one engine is enough for them.
    if (engine == "SQLite") {
      same(function(s) test_difference(s, "student", expect = "higher", beyond = 0.5, level = 0.9), 1e-8)
      sizes <- c("d_pooled", "g", "d_average", "d_by_first", "superiority", "rank_biserial")
      same(function(s) gauge_effect(s, sizes), 1e-8)
      same(function(s) test_equivalence(s, within = 0.5, bounds_in = "sd"), 1e-7)
      same(weigh_evidence, 1e-7)
    }
    ranks <- function(study) {
      test_difference(study, c("ranks", "relative"), options = how(exact = FALSE))$table[c(
        "p", "z", "statistic", "superiority", "n_first", "p_adjusted", "critical_low", "df"
      )]
    }
    expect_equal(ranks(there), ranks(here), tolerance = 1e-9)
    expect_equal(
      test_difference(there, "ranks", beyond = 1)$table$statistic[1:2],
      test_difference(here, "ranks", beyond = 1, options = how(exact = FALSE))$table$statistic[1:2]
    )
    expect_true(all(there$database$engine$queries$rows <= 2 * 4 * 3))
  })

  test_that(paste("hostile names and labels are names and labels:", engine), {
    hostile <- c("a'; DROP TABLE x; --", "say \"hi\" \\ %s {x}")
    data <- data.frame(c(1.5, 2, 4, 7, 5, 9), rep(hostile, each = 3), rep(c("q'1", "q\"2"), 3))
    names(data) <- c("he\"i'ght; --", "by \"it\"", "e\\ach {1}")
    con <- engines[[engine]](x = data)
    study <- versus(lazy(con, "x"), .data[["he\"i'ght; --"]], .data[["by \"it\""]], groups = hostile)
    here <- versus(data, .data[["he\"i'ght; --"]], .data[["by \"it\""]], groups = hostile)
    expect_equal(test_difference(study)$table$p, test_difference(here)$table$p)
    statistic <- function(study) suppressWarnings(test_difference(study, "ranks"))$table$statistic
    expect_equal(statistic(study), statistic(here))
    expect_error(format(test_difference(study)), NA)
    each <- quiet(versus(lazy(con, "x"), .data[["he\"i'ght; --"]], .data[["by \"it\""]],
      groups = hostile, each = .data[["e\\ach {1}"]]
    ))
    expect_setequal(each$each$labels, c("q'1", "q\"2"))
    expect_identical(nrow(DBI::dbReadTable(con, "x")), 6L)
  })

  # Takes seconds: ten declarations, each refused by the engine's own answer.
  test_that(paste("bad tables are told:", engine), {
    con <- engines[[engine]](
      empty = data.frame(x = double(), side = character()), words = data.frame(x = c("1", "2"), side = c("a", "b")),
      one = data.frame(x = c(1, 2), side = "a"), gone = data.frame(x = c(NA_real_, 1), side = c("a", "b")),
      many = data.frame(x = as.double(1:2500), side = as.character(1:2500))
    )
    asked <- function(name, ...) versus(lazy(con, name), x, side, ...)
    refused(
      empty_data = asked("empty"), not_numeric = asked("words"), one_group = asked("one"),
      all_missing = asked("gone", groups = c("a", "b")), many_groups = asked("many", groups = c("1", "2")),
      one_group = asked("one", groups = c("a", "z")), missing_column = versus(lazy(con, "one"), y, side),
      needs_values = versus(lazy(con, "one"), x, side, id = x),
      needs_values = versus(lazy(con, "one"), x, side, missing = -9),
      needs_values = versus(lazy(con, "one"), first = x, second = side)
    )
  })
}

test_that("subgroups, and their comparison", {
  data <- measured(seed = 2)
  con <- sqlite(measured = data)
  declare <- function(data) quiet(versus(data, c(x, steps), side, groups = c("compost", "peat"), each = site))
  there <- declare(lazy(con, "measured"))
  here <- declare(data[order(data$site), ])
  compare_all(test_difference(here)$table, test_difference(there)$table, 1e-9)
  compare_all(describe_study(here)$table, describe_study(there)$table, 1e-8)
  expect_equal(compare_subgroups(there)$table$p, compare_subgroups(here)$table$p, tolerance = 1e-9)
  expect_match(there$notes, "no site", all = FALSE)
  few <- data[!(data$site %in% "c" & data$side %in% "peat"), ]
  DBI::dbWriteTable(con, "few", few, temporary = TRUE)
  lost <- declare(lazy(con, "few"))
  table <- test_difference(lost)$table
  expect_match(table$reason[table$subgroup == "c"], "no value in peat")
})

test_that("checks of assumptions ask the engine, order included", {
  data <- measured(seed = 3)
  con <- sqlite(measured = data)
  declare <- function(data) quiet(versus(data, x, side, groups = c("compost", "peat"), order = turn))
  rows <- function(data) {
    table <- vet_assumptions(declare(data))$table
    table <- table[!table$check %in% c("normality", "pairing"), ]
    table[order(table$check, table$group), c("check", "group", "estimate", "statistic", "p", "reading")]
  }
  there <- rows(lazy(con, "measured"))
  here <- rows(data)
  apart <- there$check %in% c("fences", "far")
  expect_equal(there[!apart, ], here[!apart, ], tolerance = 1e-8, ignore_attr = TRUE)
  expect_equal(there$estimate[apart], here$estimate[apart])
})

# Takes seconds: starts a server where no test did before.
test_that("numbers that are none and infinite ones, of an engine that holds them", {
  con <- postgres(x = data.frame(
    v = c(1, NaN, 3, 4, NaN, 7, NA), w = c(1, 2, Inf, 3, 4, 5, 6), side = rep(c("a", "b"), c(4, 3))
  ))
  study <- versus(lazy(con, "x"), v, side, groups = c("a", "b"))
  expect_equal(vapply(study$outcomes[[1]]$moments, `[[`, 0, "n"), c(3, 1))
  expect_equal(study$left_out$n[1:2], c(1, 2))
  expect_equal(describe_study(study)$table$mean[1:2], c(8 / 3, 7))
  expect_error(versus(lazy(con, "x"), w, side, groups = c("a", "b")), class = "vandro_error_infinite")
  DBI::dbExecute(con, "CREATE TEMPORARY TABLE t AS SELECT side, CAST(v AS numeric(8,2)) AS dec,
    CAST(w * 10 AS bigint) AS big FROM x WHERE v <> 'NaN' AND w < 100")
  DBI::dbExecute(con, "INSERT INTO t VALUES ('b', 2.25, 9000000000), ('b', 2.5, 9000000001), ('a', 3, 9000000002)")
  found <- describe_study(versus(lazy(con, "t"), c(dec, big), side, groups = c("a", "b")))$table
  here <- DBI::dbGetQuery(con, "SELECT side, CAST(dec AS float8) dec, CAST(big AS float8) big FROM t")
  expect_equal(found$mean, describe_study(versus(here, c(dec, big), side, groups = c("a", "b")))$table$mean)
  expect_equal(found$sd, describe_study(versus(here, c(dec, big), side, groups = c("a", "b")))$table$sd)
})

test_that("text among the numbers of SQLite is no zero", {
  con <- sqlite(x = data.frame(v = c(1, 2, 3, 4), side = c("a", "a", "b", "b")))
  DBI::dbExecute(con, "UPDATE x SET v = 'n/a' WHERE v = 3")
  expect_error(versus(lazy(con, "x"), v, side, groups = c("a", "b")), "1 row", class = "vandro_error_not_numeric")
})

# Takes seconds: every verb asks a server.
test_that("only aggregates are fetched, and only reading queries are sent", {
  con <- postgres()
  DBI::dbExecute(con, "CREATE TABLE large AS SELECT i, CASE WHEN i % 2 = 0 THEN 'a' ELSE 'b' END side,
    sin(i) AS x FROM generate_series(1, 20000) i")
  withr::defer(DBI::dbExecute(con, "DROP TABLE large"))
  # A connection that may read and nothing else.
  reader <- DBI::dbConnect(RPostgres::Postgres(), host = postgres_server$dir, user = "tests", dbname = "postgres",
    options = "-c default_transaction_read_only=on"
  )
  withr::defer(DBI::dbDisconnect(reader))
  fetched <- 0
  suppressMessages(trace("dbFetch",
    where = asNamespace("DBI"), print = FALSE,
    exit = substitute(assign("rows", c(get("rows", where), NROW(returnValue())), where), list(where = globalenv()))
  ))
  assign("rows", integer(), globalenv())
  withr::defer({
    suppressMessages(untrace("dbFetch", where = asNamespace("DBI")))
    rm("rows", envir = globalenv())
  })
  study <- versus(lazy(reader, "large"), x, side, groups = c("a", "b"), order = i)
  for (verb in list(
    function(s) test_difference(s, c("welch", "ranks", "relative")), gauge_effect, describe_study, vet_assumptions,
    weigh_evidence, cross_check, function(s) test_equivalence(s, within = 0.1), function(s) autoplot(s),
    function(s) autoplot(s, view = "distributions")
  )) {
    verb(study)
  }
  rows <- get("rows", globalenv())
  expect_gt(length(rows), 10)
  # The bars of a histogram are the most there is.
  expect_lte(max(rows), 61)
  expect_lte(max(study$database$engine$queries$rows), 61)
  expect_lte(max(study$database$engine$queries$rows[study$database$engine$queries$what != "bars of a histogram"]), 6)
})

test_that("offsets cost no digits: the sums are taken near the mean, again where the first rows mislead", {
  x <- c(rep(5, 1500), 1e9 + c(0.1, 0.4, 0.2, 0.7), 1e9 + c(1.1, 1.3, 1.8))
  data <- data.frame(x = x, side = rep(c("other", "a", "b"), c(1500, 4, 3)))
  con <- sqlite(x = data)
  study <- versus(lazy(con, "x"), x, side, groups = c("a", "b"))
  expect_true("sums about the means" %in% study$database$engine$queries$what)
  here <- test_difference(versus(data, x, side, groups = c("a", "b")))$table
  expect_relative(test_difference(study)$table$statistic, here$statistic, 1e-8)
  flat <- sqlite(x = data.frame(x = rep(c(0.1, 1 / 3), each = 3), side = rep(c("a", "b"), each = 3)))
  flat <- versus(lazy(flat, "x"), x, side, groups = c("a", "b"))
  expect_error(test_difference(flat), class = "vandro_error_no_spread")
})

test_that("a table that changes between two queries is noticed", {
  con <- sqlite(x = data.frame(x = c(1, 2, 4, 8, 9), side = c("a", "a", "b", "b", "b")))
  study <- versus(lazy(con, "x"), x, side, groups = c("a", "b"))
  DBI::dbExecute(con, "DELETE FROM x WHERE x = 9")
  expect_error(describe_study(study), "had 3 values.*has 2 now", class = "vandro_error_table_changed")
  refused(table_changed = test_difference(study, "ranks"), table_changed = vet_assumptions(study))
  # What was summed at the declaration holds.
  expect_error(test_difference(study), NA)
})

test_that("a lost connection, and an engine that lacks a function, are told for what they are", {
  con <- postgres()
  DBI::dbExecute(con, "CREATE TABLE slow AS SELECT i AS x, CASE WHEN i % 2 = 0 THEN 'a' ELSE 'b' END side
    FROM generate_series(1, 50) i")
  killer <- DBI::dbConnect(RPostgres::Postgres(), host = postgres_server$dir, user = "tests", dbname = "postgres")
  withr::defer({
    DBI::dbExecute(killer, "DROP TABLE slow")
    DBI::dbDisconnect(killer)
  })
  study <- versus(lazy(con, "slow"), x, side, groups = c("a", "b"))
  pid <- DBI::dbGetQuery(con, "SELECT pg_backend_pid()")[[1]]
  DBI::dbGetQuery(killer, sprintf("SELECT pg_terminate_backend(%d)", pid))
  expect_error(suppressWarnings(describe_study(study)), class = "vandro_error_connection_lost")
  old <- sqlite(x = data.frame(x = c(1, 2, 4), side = c("a", "b", "b")))
  study <- versus(lazy(old, "x"), x, side, groups = c("a", "b"))
  # As an engine without window functions would answer.
  study$outcomes[[1]]$data$engine$relation <- engine_where(
    study$outcomes[[1]]$data$engine$relation, "no_such(x1) > 1"
  )
  expect_error(test_difference(study, "ranks"), "no_such.*OVER|OVER.*no_such", class = "vandro_error_engine")
  expect_error(quartiles_of(study$outcomes[[1]], 2), "quartiles", class = "vandro_error_engine")
})

test_that("what needs single values says so, with what there is instead", {
  con <- sqlite(x = transform(seedlings, side = substrate))
  study <- versus(lazy(con, "x"), c(height, leaf_area), side, groups = c("compost", "peat"))
  for (ask in list(
    quote(test_difference(study, "permutation")), quote(gauge_effect(study, "shift")),
    quote(gauge_effect(study, "g", interval = "bootstrap")), quote(test_difference(
      study, "ranks", options = how(exact = TRUE)
    )),
    quote(test_difference(study, adjust = "max_t")), quote(autoplot(study, view = "points", outcome = "height")),
    quote(cross_check(study, flagged = "both"))
  )) {
    expect_error(eval(ask), class = "vandro_error_needs_values")
  }
  expect_error(
    test_equivalence(study, within = 1, method = "ranks"), "take_sample",
    class = "vandro_error_method_bounds"
  )
  expect_error(test_difference(study, "permutation"), "take_sample")
  expect_match(paste(format(study), collapse = " "), "from a table in a database")
  expect_setequal(unique(cross_check(study)$table$method), c("welch", "student", "ranks", "relative"))
})

# Takes seconds: eight figures whose numbers come by queries.
test_that("figures and reports are made from sums and bars", {
  con <- sqlite(x = seedlings)
  study <- versus(lazy(con, "x"), height, substrate, groups = c("compost", "peat"), unit = "cm")
  here <- versus(seedlings, height, substrate, groups = c("compost", "peat"), unit = "cm")
  bars <- engine_histogram(study$outcomes[[1]], 30)
  expect_equal(tapply(bars$count, bars$which, sum), c("1" = 24, "2" = 23), ignore_attr = TRUE)
  for (figure in list(
    autoplot(study), autoplot(study, view = "distributions"), autoplot(study, view = "means"),
    autoplot(test_difference(study)), autoplot(test_difference(study, "ranks")), autoplot(gauge_effect(study)),
    autoplot(test_difference(study, "ranks"), view = "null"), autoplot(weigh_evidence(study))
  )) {
    drawn <- if (inherits(figure, "vandro_page")) figure$plots else list(figure)
    for (one in drawn) expect_error(ggplot2::ggplotGrob(one), NA)
  }
  squares <- superiority_data(test_difference(study, "ranks"), study$outcomes[[1]])
  expect_equal(squares$shares, superiority_data(test_difference(here, "ranks"), here$outcomes[[1]])$shares)
  folder <- withr::local_tempdir()
  quick_report(study, file.path(folder, "report.html"))
  expect_match(paste(readLines(file.path(folder, "report.html")), collapse = " "), "by its own sums and counts")
  file <- file.path(folder, "answer.json")
  export_answer(test_difference(study), file)
  expect_identical(schema_faults(file), character())
  expect_match(narrate(test_difference(study, "ranks")), "probability of a higher value in the compost group")
})

test_that("pieces of SQL are exact and quoted", {
  expect_identical(sql_number(c(0.1, 1 / 3, -2, 1e-300)), c("0.1", "0.33333333333333331", "(-2)", "1e-300"))
  con <- sqlite(x = data.frame(a = 1))
  expect_identical(sql_is(con, "grp", NA), "grp IS NULL")
  expect_identical(sql_is(con, "grp", "o'x"), "grp = 'o''x'")
  expect_identical(engine_double(con), "DOUBLE PRECISION")
  expect_identical(engine_double(structure(list(), class = "spark_connection")), "DOUBLE")
  expect_identical(sql_is_nan(structure(list(), class = "duckdb_connection"), "x"), "isnan(x)")
})

test_that("ranks without ties are exact, as from values", {
  set.seed(5)
  data <- data.frame(x = rnorm(31), side = rep_len(c("compost", "peat"), 31), plant = 1:31, y = rnorm(31))
  con <- sqlite(measured = data)
  columns <- c("statistic", "p", "p_kind", "critical_low", "tail_low", "p_smallest")
  declare <- function(data) versus(data, x, side, groups = c("compost", "peat"))
  there <- declare(lazy(con, "measured"))
  found <- test_difference(there, "ranks")$table
  expect_equal(found[columns], test_difference(declare(data), "ranks")$table[columns], tolerance = 1e-12)
  expect_identical(test_difference(there, "ranks", options = how(exact = TRUE))$table$p_kind, "exact")
  expect_identical(test_difference(there, "ranks", options = how(exact = FALSE))$table$p_kind, "asymptotic")
  pairs <- function(data) versus_paired(data, x, y)
  expect_equal(
    test_difference(pairs(lazy(con, "measured")), "signed_ranks")$table[columns],
    test_difference(pairs(data), "signed_ranks")$table[columns],
    tolerance = 1e-12
  )
})

test_that("values whose squares a database cannot hold are refused, and third moments of small ones are right", {
  steps <- c(1:6, 2:7)
  data <- data.frame(side = rep(c("compost", "peat"), each = 6), big = steps * 1e-100, small = steps * 1e-165)
  con <- sqlite(measured = data)
  found <- vet_assumptions(versus(lazy(con, "measured"), big, side))$table
  expect_false(anyNA(found$estimate[found$check == "kurtosis"]))
  expect_error(versus(lazy(con, "measured"), small, side), class = "vandro_error_out_of_range")
})
