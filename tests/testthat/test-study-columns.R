# Columns of every class that data come in: the same study, or an error that names the column.

eight <- c(5.1, 4.2, 6.3, 5.5, 7.7, 3.9, 6.8, 4.4)
sides <- rep(c("compost", "peat"), 4)
expected <- test_difference(two_groups(eight[c(1, 3, 5, 7)], eight[c(2, 4, 6, 8)]))$table$p
declared_p <- function(y = eight, g = sides, groups = NULL, ...) {
  test_difference(quiet(versus(lean_table(list(y = y, g = g)), y, g, groups = groups, ...)))$table$p
}
# As packages for these make them: bits of a double, a class and attributes.
whole_64 <- function(high, low) {
  structure(readBin(writeBin(as.integer(rbind(low, high)), raw()), "double", length(low)), class = "integer64")
}
labelled <- function(x, ...) structure(x, ..., class = c("haven_labelled_spss", "haven_labelled", "double"))

test_that("groups of every class are the same groups", {
  for (levels in list(c(NA, "compost", "peat"), c("compost", NA, "peat"), c("compost", "peat", NA))) {
    factor_with_na <- factor(sides, levels = levels, exclude = NULL)
    expect_identical(declared_p(g = factor_with_na), expected)
    with_missing <- factor(replace(c(sides, "peat"), 9, NA), levels = levels, exclude = NULL)
    study <- quiet(versus(data.frame(y = c(eight, 9), g = with_missing), y, g))
    expect_identical(test_difference(study)$table$p, expected)
    expect_identical(study$left_out$n[study$left_out$reason == "group missing"], 1)
    within <- factor(rep(c("compost", "peat"), each = 8), levels, exclude = NULL)
    both <- data.frame(y = rep(eight, 2), g = sides, s = within)
    expect_identical(test_difference(quiet(versus(both, y, g, each = s)))$table$p, c(expected, expected))
  }
  expect_identical(declared_p(g = c(compost = 1, peat = 2)[sides], groups = c(compost = 1, peat = 2)), expected)
  codes <- quiet(versus(data.frame(y = eight, g = c(1e5, 2e5)), y, g))
  expect_identical(codes$groups, c("100000", "200000"))
  named <- quiet(versus(data.frame(y = eight, g = c(1e5, 2e5)), y, g, groups = c("1e5", "2e5")))
  expect_identical(named$groups, codes$groups)
  expect_identical(declared_p(g = labelled(c(1, 2)[match(sides, unique(sides))])), expected)
})

test_that("64-bit integers keep all their digits, as groups, subgroups and keys", {
  known <- whole_64(c(0, -1, 2097152, 2097152, NA, 2147483647), c(7, -7, 0, 1, 0, -1))
  expect_identical(
    integer64_text(known), c("7", "-7", "9007199254740992", "9007199254740993", NA, "9223372036854775807")
  )
  large <- whole_64(rep(2097152, 8), rep(0:1, 4))
  study <- quiet(versus(lean_table(list(y = eight, g = large)), y, g))
  expect_identical(study$groups, c("9007199254740992", "9007199254740993"))
  expect_identical(test_difference(study)$table$p, expected)
  numbered <- list(y = eight, g = sides, n = whole_64(rep(0, 8), 8:1), far = large)
  expect_identical(quiet(versus(lean_table(numbered), y, g, order = n))$rows$order$values, as.double(8:1))
  counted <- quiet(versus(lean_table(numbered), y, g, counts = n))
  expect_identical(counted$outcomes[[1]]$moments[[1]]$n, 8 + 6 + 4 + 2)
  refused(
    codes = versus(lean_table(numbered), y, g, order = far), codes = versus(lean_table(numbered), y, g, counts = far)
  )
  long <- list(y = eight, time = rep(c("noon", "dawn"), each = 4), plant = whole_64(rep(2097152, 8), rep(0:3, 2)))
  pairs <- versus_paired(lean_table(long), y, time, plant, groups = c("noon", "dawn"))
  expect_identical(pairs$outcomes[[1]]$moments[[3]]$n, 4)
})

test_that("codes that print alike, or that a double cannot tell apart, are refused in every role", {
  data <- data.frame(y = eight, g = sides, near = c(0.3, 0.1 + 0.2), far = 2^53 + c(0, 2), plant = 1:8)
  refused(
    codes = versus(data, y, near), codes = versus(data, y, far), codes = versus(data, y, g, each = near),
    codes = versus(data, y, g, id = far), codes = versus(data, y, g, blocks = near),
    codes = versus_paired(data, y, g, far), codes = versus_paired(data, y, g, c(near, plant)),
    column_type = versus_paired(transform(data, plant = I(as.list(1:8))), y, g, plant)
  )
})

test_that("values that a labelled column declares missing are missing, and counted", {
  height <- labelled(c(eight, -99, -98), na_values = -99, na_range = c(-98.5, -97))
  study <- quiet(versus(lean_table(list(y = height, g = c(sides, "peat", "peat"))), y, g))
  expect_identical(test_difference(study)$table$p, expected)
  expect_identical(study$left_out$reason[3:4], paste("declared missing:", c(-99, -98)))
})

test_that("durations are compared in one unit, which comes along unless values are scaled", {
  minutes <- data.frame(a = as.difftime(60 * eight, units = "mins"), b = as.difftime(rev(eight), units = "hours"))
  plain <- data.frame(a = 60 * eight, b = 60 * rev(eight))
  for (declare in list(
    function(d, ...) quiet(versus_paired(d, a, b, ...)), function(d, ...) versus(d, first = a, second = b, ...),
    function(d, ...) versus(first = d$a, second = d$b, ...),
    function(d, ...) quiet(versus_paired(first = d$a, second = d$b, ...))
  )) {
    expect_equal(test_difference(declare(minutes))$table, test_difference(declare(plain))$table)
    expect_identical(declare(minutes)$outcomes[[1]]$unit, "mins")
    expect_null(declare(minutes, scale_by = 60)$outcomes[[1]]$unit)
    expect_error(declare(transform(minutes, b = 1:8)), class = "vandro_error_units_differ")
  }
  expect_identical(quiet(versus_paired(minutes, a))$outcomes[[1]]$unit, "mins")
})

test_that("a data.table that is changed in place leaves the study as it was", {
  table <- data.table::data.table(y = eight, g = sides, noon = eight, dawn = rev(eight))
  studies <- list(
    quiet(versus(table, y, g)), quiet(versus_paired(table, noon, dawn)),
    quiet(versus(table, first = noon, second = dawn))
  )
  by_ranks <- function(study) test_difference(study, if (is_paired(study)) "signed_ranks" else "ranks")$table
  ask <- function() lapply(studies, by_ranks)
  before <- ask()
  for (name in c("y", "noon", "dawn")) data.table::set(table, j = name, value = -table[[name]]^2)
  expect_identical(ask(), before)
})

test_that("values in the place of a column, and labels that are other groups, are refused", {
  data <- data.frame(y = eight, g = sides)
  places <- 2
  expect_error(versus(data, data$y, g), "outcome = y", fixed = TRUE, class = "vandro_error_not_a_column")
  refused(
    not_a_column = versus(data, y, data[["g"]]), not_a_column = versus(data, c(y, places + 0), g),
    not_a_column = versus_paired(data, data$y, y),
    bad_groups = versus(data, y, g, groups = c(peat = "compost", compost = "peat"))
  )
  expect_identical(declared_p(groups = c("compost", "peat")), expected)
  picked <- quiet(versus(data, tidyselect::all_of("y") & tidyselect::where(is.numeric), g))
  expect_identical(picked$outcomes[[1]]$name, "y")
})

test_that("equal values and equal changes that carry rounding do not vary", {
  dust <- 0.1 + 0.2
  refused(
    no_spread = test_difference(quiet(versus_paired(data.frame(change = c(0.3, dust, 0.3)), change))),
    no_spread = test_difference(versus_paired(first = 1e3 + eight / 7 + 0.1, second = 1e3 + eight / 7)),
    no_spread = test_difference(versus(first = c(0.3, dust), second = c(0.4, 0.4))),
    no_spread = test_difference(quiet(versus(data.frame(y = c(0.3, dust), g = sides, n = 1:8), y, g, counts = n)))
  )
  expect_s3_class(test_difference(versus(first = 1e9 + c(0.1, 0.2), second = 1e9 + c(0.3, 0.5))), "vandro_answer")
})

test_that("the table of an answer is not changed under its sentences", {
  answer <- test_difference(two_groups(eight[1:4], eight[5:8]))
  refused(
    answer_fixed = answer$table <- answer$table[0, ], answer_fixed = answer[["table"]] <- NULL,
    answer_fixed = answer$table$p <- 1
  )
  expect_identical(with_table(answer, answer$table), answer)
})

test_that("the many are counted, not named one by one", {
  data <- data.frame(y = rnorm(4000), g = c(rep(c("compost", "peat"), 1000), sprintf("other %d", 1:2000)))
  study <- quiet(versus(data, y, g, groups = c("compost", "peat")))
  words <- excluded_words(study, study$outcomes[[1]])
  expect_match(words, "1 row of other 8, not compared; 1992 rows of 1992 more groups, not compared$")
  expect_lt(nchar(words), 400)
  subgroups <- data.frame(y = rnorm(1200), g = sides, s = rep(1:150, each = 8))
  table <- compare_subgroups(quiet(versus(subgroups, y, g, each = s)))
  expect_identical(table$table$contrast, "all")
  expect_match(format(table), "at most 100 subgroups", all = FALSE)
  counts <- data.frame(y = 1:4, g = c("a", "a", "b", "b"), n = c(5e8, 3, 4, 2))
  counted <- quiet(versus(counts, y, g, counts = n))
  expect_match(format(counted), "5e\\+08|500000003", all = FALSE)
  expect_error(test_difference(counted, "permutation"), class = "vandro_error_too_large")
  expect_error(versus(transform(counts, n = n * 1e6), y, g, counts = n), class = "vandro_error_bad_counts")
})

# The same numbers, however a session prints, sorts and warns.
test_that("options and language of the session change nothing", {
  said <- function() {
    study <- quiet(versus(data.frame(y = eight * 1e5, g = c("\u00e4", "z")), y, g))
    plan <- read_plan(system.file("examples", "plan.yaml", package = "vandro"))
    refused_text <- tryCatch(test_difference(study, level = 1.5), error = conditionMessage)
    c(
      format(study), narrate(test_difference(study)), format(test_equivalence(study, 12345.5)), plan$fingerprint,
      export_answer(gauge_effect(study)), format(results_table(study)), refused_text, sorted_text(c("z", "\u00e4", "A"))
    )
  }
  usual <- said()
  withr::with_options(list(OutDec = ",", scipen = -9, digits = 3, warn = 2), expect_identical(said(), usual))
  withr::with_collate("C", expect_identical(said(), usual))
})

test_that("labelled columns whose class refuses arithmetic are counts, orders and outcomes all the same", {
  refuse <- function(e1, e2) stop("cannot combine a labelled column with plain numbers")
  registerS3method("Ops", "labelled_and_strict", refuse, envir = baseenv())
  classes <- c("haven_labelled_spss", "haven_labelled", "labelled_and_strict", "double")
  strict <- function(x, ...) structure(x, ..., class = classes)
  data <- data.frame(height = c(3, 5, 4, 7, 6, 9), group = rep(c("compost", "peat"), 3))
  data$plants <- strict(c(1, 2, 1, 3, 1, 2))
  data$day <- strict(6:1 / 1, na_values = 99)
  data$tall <- strict(data$height)
  counted <- versus(data, height, group, groups = c("compost", "peat"), counts = plants)
  expect_identical(outcome_sizes(counted$outcomes[[1]]), c(3, 7))
  ordered <- versus(data, tall, group, groups = c("compost", "peat"), order = day)
  expect_identical(ordered$rows$order$values, 6:1 / 1)
  # As halves of pairs, changes, vectors, keys and subgroups.
  data$late <- strict(c(4, 6, 7, 8, 6, 9.5))
  data$pot <- strict(rep(c(1, 2, 3), each = 2))
  p <- function(study) test_difference(study)$table$p[[1]]
  plain <- as.data.frame(lapply(data, function(column) if (is.object(column)) as.vector(unclass(column)) else column))
  same <- function(declare) expect_identical(p(declare(data)), p(declare(plain)))
  same(function(d) versus_paired(d, late, tall, order = day))
  same(function(d) versus_paired(d, change = late))
  same(function(d) versus(first = d$late, second = d$tall))
  same(function(d) versus_paired(d, tall, group, id = pot, groups = c("compost", "peat")))
  same(function(d) versus(d, c(tall, late), group, groups = c("compost", "peat"), blocks = pot))
})
