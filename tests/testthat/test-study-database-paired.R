pairs_data <- function(n = 80, seed = 4) {
  set.seed(seed)
  data <- data.frame(plant = seq_len(n), site = sample(c("a", "b"), n, TRUE), dawn = round(rnorm(n, 100, 12), 1))
  data$noon <- round(data$dawn + rnorm(n, 3, 6), 1)
  data$dawn[c(3, 5)] <- NA
  data$noon[c(5, 9)] <- NA
  data
}
long_pairs <- function(data) {
  rbind(
    data.frame(plant = data$plant, site = data$site, time = "noon", value = data$noon),
    data.frame(plant = data$plant, site = data$site, time = "dawn", value = data$dawn)
  )
}
numbers <- c("estimate", "se", "lower", "upper", "statistic", "df", "p")

for (engine in names(engines)) {
  # Takes seconds: every verb asks both engines anew.
  test_that(paste("wide pairs, changes and keyed rows are those of the data frame:", engine), {
    data <- pairs_data()
    data$change <- data$noon - data$dawn
    con <- engines[[engine]](wide = data, long = long_pairs(data))
    here <- versus_paired(data, noon, dawn)
    there <- versus_paired(lazy(con, "wide"), noon, dawn)
    same <- function(a, b, tolerance = 1e-9) {
      verbs <- list(test_difference, describe_study, gauge_effect, weigh_evidence)
      for (verb in if (engine == "SQLite") verbs else verbs[1]) {
        known <- c(numbers, "mean", "sd", "median", "q1", "skewness", "r", "up", "bf_null")
        shared <- intersect(known, names(verb(a)$table))
        expect_equal(as.list(verb(b)$table[shared]), as.list(verb(a)$table[shared]), tolerance = tolerance)
      }
    }
    same(here, there, 1e-8)
    expect_equal(there$outcomes[[1]]$pairs, here$outcomes[[1]]$pairs, tolerance = 1e-10)
    expect_equal(there$left_out$n, here$left_out$n)
    keyed <- versus_paired(lazy(con, "long"), value, time, plant, groups = c("noon", "dawn"))
    same(here, keyed, 1e-8)
    expect_equal(sum(keyed$left_out$n), sum(here$left_out$n))
    changes <- versus_paired(lazy(con, "wide"), change, groups = c("noon", "dawn"))
    expect_equal(as.list(test_difference(changes)$table[numbers]), as.list(test_difference(here)$table[numbers]))
    expect_true(is.na(gauge_effect(changes, "d_change")$table$df) == FALSE)
    expect_equal(
      test_difference(there, "signed_ranks")$table[c("statistic", "p", "z", "zeros")],
      test_difference(here, "signed_ranks", options = how(exact = FALSE))$table[c("statistic", "p", "z", "zeros")]
    )
    for (zeros in c("drop", "pratt")) {
      ranks <- function(study, exact = NULL) {
        answer <- test_difference(study, "signed_ranks", options = how(exact = exact, zeros = zeros), beyond = 3)
        answer$table[c("statistic", "statistic_opposite", "p")]
      }
      expect_equal(ranks(there), ranks(here, exact = FALSE))
    }
    expect_equal(gauge_effect(there, "rank_biserial")$table$estimate,
      gauge_effect(here, "rank_biserial", options = how(draws = 199), seed = 1)$table$estimate
    )
    expect_error(format(vet_assumptions(there)), NA)
  })
}

test_that("subgroups of pairs", {
  data <- pairs_data()
  con <- sqlite(wide = data, long = long_pairs(data))
  here <- versus_paired(data[order(data$site), ], noon, dawn, each = site)
  for (there in list(
    versus_paired(lazy(con, "wide"), noon, dawn, each = site),
    versus_paired(lazy(con, "long"), value, time, plant, groups = c("noon", "dawn"), each = site)
  )) {
    expect_equal(as.list(test_difference(there)$table[numbers]), as.list(test_difference(here)$table[numbers]))
    expect_equal(compare_subgroups(there)$table$p, compare_subgroups(here)$table$p)
  }
})

test_that("keyed rows have an order, which is the same for both halves", {
  data <- pairs_data()
  long <- long_pairs(data)
  con <- sqlite(wide = data, long = long, apart = transform(long, place = seq_along(plant)))
  ask <- function(name, ...) versus_paired(lazy(con, name), value, time, plant, groups = c("noon", "dawn"), ...)
  serial <- function(study) {
    table <- vet_assumptions(study)$table
    as.list(table[table$check == "order", c("estimate", "statistic", "p")])
  }
  there <- serial(ask("long", order = plant))
  expect_false(anyNA(unlist(there)))
  expect_equal(there, serial(versus_paired(data, noon, dawn, order = plant)))
  expect_error(ask("apart", order = place), class = "vandro_error_order")
})

test_that("keys that occur twice, no keys and no pairs are told", {
  long <- long_pairs(pairs_data(12))
  con <- sqlite(long = long, twice = rbind(long, long[2, ]), apart = transform(long, plant = seq_along(plant)))
  ask <- function(name, ...) versus_paired(lazy(con, name), value, time, ..., groups = c("noon", "dawn"))
  refused(
    duplicate_key = ask("twice", plant), no_pairs = ask("apart", plant),
    no_key = versus_paired(lazy(con, "long"), outcome = value, by = time, groups = c("noon", "dawn")),
    no_key = versus_paired(lazy(con, "long"), outcome = value, by = time, rows_in_order = TRUE),
    no_key = versus_paired(lazy(con, "long"), value, time)
  )
})

test_that("equal changes have no spread, and differences of decimals are those of decimals", {
  con <- sqlite(y = data.frame(a = c(0.3, 0.5, 1.2, 0.1), b = c(0.2, 0.6, 1.1, 0.5)))
  equal <- versus_paired(lazy(con, "y"), a, b)
  # 0.3 - 0.2 and 1.2 - 1.1 are tied.
  whole <- versus_paired(data.frame(a = c(3, 5, 12, 1), b = c(2, 6, 11, 5)), a, b)
  statistic <- function(study) suppressWarnings(test_difference(study, "signed_ranks"))$table$statistic
  expect_equal(statistic(equal), statistic(whole))
  flat <- sqlite(x = data.frame(a = c(3, 5, 9), b = c(1, 3, 7)))
  expect_error(test_difference(versus_paired(lazy(flat, "x"), a, b)), class = "vandro_error_no_spread")
})

test_that("text among the numbers of SQLite is no zero, in either shape", {
  long <- long_pairs(pairs_data(12))
  con <- sqlite(long = long, wide = pairs_data(12))
  DBI::dbExecute(con, "UPDATE long SET value = 'n/a' WHERE rowid = 5")
  DBI::dbExecute(con, "UPDATE wide SET noon = 'n/a' WHERE rowid IN (2, 3)")
  expect_error(versus_paired(lazy(con, "long"), value, time, plant, groups = c("noon", "dawn")), "1 row",
    class = "vandro_error_not_numeric"
  )
  expect_error(versus_paired(lazy(con, "wide"), noon, dawn), "2 rows", class = "vandro_error_not_numeric")
})
