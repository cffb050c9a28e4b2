same_numbers <- function(a, b, but = "outcome") {
  keep <- setdiff(intersect(names(a), names(b)), but)
  expect_equal(a[keep], b[keep], tolerance = 1e-12, ignore_attr = TRUE)
}

test_that("wide, long by key and two vectors are the same study, whatever the row order", {
  wide <- describe_study(conductance_study())$table
  long <- quiet(versus_paired(
    conductance_long, conductance, time, plant,
    groups = c("noon", "dawn")
  ))
  same_numbers(wide[3, ], describe_study(long)$table[3, ])
  shuffled <- quiet(versus_paired(
    conductance_long[order(conductance_long$conductance), ],
    outcome = "conductance", by = "time", id = "plant", groups = c("noon", "dawn")
  ))
  expect_equal(describe_study(shuffled)$table, describe_study(long)$table, tolerance = 1e-13)
  vectors <- versus_paired(first = conductance$noon, second = conductance$dawn, groups = c("noon", "dawn"))
  same_numbers(describe_study(vectors)$table, wide)
})

test_that("ready-made changes give the same test, and only that", {
  data <- transform(conductance, change = noon - dawn)
  changes <- versus_paired(data, change, groups = c("noon", "dawn"))
  a <- test_difference(changes)$table
  b <- test_difference(conductance_study())$table
  same_numbers(a, b)
  expect_identical(
    gauge_effect(changes, "g_change")$table$estimate,
    gauge_effect(conductance_study(), "g_change")$table$estimate
  )
  table <- describe_study(changes)$table
  expect_identical(table$mean[1:2], c(NA_real_, NA_real_))
  expect_identical(c(table$up[[3]], table$down[[3]], table$same[[3]]), c(21, 1, 0))
  expect_message(versus_paired(data, change), "first minus second")
})

test_that("pairs that lack a half are counted by the half they lack", {
  study <- conductance_study()
  text <- paste(format(study, width = 200), collapse = " ")
  expect_match(text, "1 pair without noon; 1 pair without dawn", fixed = TRUE)
  long <- quiet(versus_paired(conductance_long, conductance, time, plant, groups = c("noon", "dawn")))
  expect_match(long$notes[[1]], "L09")
  expect_match(long$notes[[1]], "L20")
  both <- versus_paired(rbind(conductance, list("L25", NA, NA)), noon, dawn)
  expect_match(paste(format(both, width = 200), collapse = " "), "1 pair with neither measurement", fixed = TRUE)
})

test_that("a key of several columns is exact, and missing keys are counted", {
  data <- data.frame(
    plot = c(1, 1, 11, 11, 1, 1, 11, 11), plant = c(11, 1, 1, 2, 11, 1, 1, 2),
    time = rep(c("a", "b"), each = 4), y = c(1, 2, 3, 4, 2, 3, 4, 6)
  )
  study <- quiet(versus_paired(data, y, time, id = c(plot, plant), groups = c("b", "a")))
  expect_identical(study$outcomes[[1]]$moments[[3]]$mean, 1.25)
  # "1 / 1" is one key written two ways: text parts that contain the separator stay apart.
  odd <- transform(data, plot = c("a / b", "a", "c", "d"), plant = c("c", "b / c", "e", "f"))
  expect_identical(
    quiet(versus_paired(odd, y, time, id = c(plot, plant), groups = c("b", "a")))$outcomes[[1]]$moments[[3]]$n,
    4
  )
  data$plant[[1]] <- NA
  study <- quiet(versus_paired(data, y, time, id = c(plot, plant), groups = c("b", "a")))
  expect_match(paste(format(study, width = 300), collapse = " "), "1 row without a key")
})

test_that("pairs are never made by row order unless said so", {
  expect_error(versus_paired(conductance_long, outcome = conductance, by = time), class = "vandro_error_no_key")
  expect_error(
    versus_paired(conductance_long, conductance, time), "the data are long",
    class = "vandro_error_no_key"
  )
  data <- data.frame(y = c(1, 2, 4, 3, 3, 7), time = rep(c("a", "b"), each = 3))
  by_row <- quiet(versus_paired(data, outcome = y, by = time, groups = c("b", "a"), rows_in_order = TRUE))
  expect_identical(by_row$outcomes[[1]]$moments[[3]]$mean, 2)
  expect_match(by_row$notes, "row order")
  expect_error(
    versus_paired(data[-1, ], outcome = y, by = time, groups = c("b", "a"), rows_in_order = TRUE),
    class = "vandro_error_unequal_lengths"
  )
})

test_that("each wrong pairing has an error of its own", {
  error <- function(code, class) expect_error(code, class = paste0("vandro_error_", class))
  twice <- rbind(conductance_long, conductance_long[c(1, 5), ])
  error(versus_paired(twice, conductance, time, plant, groups = c("noon", "dawn")), "duplicate_key")
  error(versus_paired(conductance), "bad_roles")
  error(versus_paired(conductance, frist = noon, second = dawn), "bad_roles")
  error(versus_paired(conductance, first = noon, change = dawn), "bad_roles")
  error(versus_paired(conductance, noon, noon), "same_column")
  error(versus_paired(first = 1:3, second = 1:4), "unequal_lengths")
  apart <- data.frame(x = c(1, NA), y = c(NA, 2))
  error(versus_paired(apart, x, y), "no_pairs")
  error(versus_paired(data.frame(x = c(1, Inf), y = c(1, 2)), x, y), "infinite")
  error(versus_paired(data.frame(ch = c(NA_real_, NA)), ch, groups = c("a", "b")), "all_missing")
  error(test_difference(versus_paired(data.frame(x = 2:4, y = 1:3), x, y)), "no_spread")
  error(test_difference(conductance_study(), "welch"), "method_design")
  error(test_difference(height_study(), "paired"), "method_design")
})

test_that("a pairing without correlation, and one that looks like it in independent groups, is noted", {
  set.seed(3)
  x <- rnorm(20)
  expect_message(versus_paired(first = x, second = rnorm(20)), "hardly correlated", class = "vandro_message_note")
  expect_message(versus(first = x, second = x + rnorm(20, 0, 0.3)), "as pairs", class = "vandro_message_note")
  expect_message(versus(first = x, second = rnorm(20)), NA)
  # Sorted samples go together without being pairs.
  expect_message(versus(first = sort(x), second = sort(rnorm(20))), NA)
})
