test_that("a sample is told by its seed and key, the same from every engine", {
  data <- data.frame(plot = rep(1:50, each = 4), plant = rep(1:4, 50), x = seq_len(200) / 7)
  taken <- lapply(engines, function(engine) {
    con <- tryCatch(engine(x = data[sample(200), ]), skip = function(e) NULL)
    if (!is.null(con)) take_sample(lazy(con, "x"), 30, id = c(plot, plant), seed = 8)
  })
  found <- taken$SQLite
  expect_identical(nrow(found), 30L)
  expect_false(is.unsorted(found$plot))
  expect_identical(attr(found, "vandro_sample"), list(rows = 200, n = 30L, seed = 8))
  if (!is.null(taken$PostgreSQL)) expect_equal(taken$PostgreSQL, found, ignore_attr = TRUE)
  expect_true(all(found$x %in% data$x))
})

test_that("R's generator is left as it was, and every row can come", {
  con <- sqlite(x = data.frame(id = 1:20, x = 1:20 / 2))
  set.seed(4)
  before <- .Random.seed
  all <- take_sample(lazy(con, "x"), 500, id = id, seed = 1)
  expect_identical(.Random.seed, before)
  expect_identical(nrow(all), 20L)
  expect_setequal(unlist(lapply(1:40, function(seed) sampled_numbers(20, 3, seed))), 1:20)
  expect_message(take_sample(lazy(con, "x"), 2, id = id), "seed = ", class = "vandro_message_seed")
})

test_that("a key that does not tell rows apart, no table and no rows are refused", {
  con <- sqlite(x = data.frame(id = c(1, 1, 2), x = 1:3), empty = data.frame(id = integer()))
  expect_error(take_sample(lazy(con, "x"), 2, id = id, seed = 1), class = "vandro_error_duplicate_key")
  expect_error(take_sample(seedlings, 2, id = plant), class = "vandro_error_data_type")
  expect_error(take_sample(lazy(con, "empty"), 2, id = id, seed = 1), class = "vandro_error_empty_data")
  expect_error(take_sample(lazy(con, "x"), 0, id = id, seed = 1), class = "vandro_error_bad_value")
})
