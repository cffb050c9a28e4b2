height_audit <- function(...) {
  audit_numbers(
    n = c(18, 20), mean = c("22.1", "19.8"), sd = c("3.9", "3.2"), ...,
    groups = c("compost", "peat"), unit = "cm", label = "Stem height"
  )
}
row_of <- function(answer, quantity) answer$table[answer$table$quantity == quantity, ]

test_that("numbers of the verbs fit together, however they are rounded", {
  for (method in c("welch", "student")) {
    found <- test_difference(published_study(), method)$table
    for (digits in 2:4) {
      shown <- function(x) formatC(x, digits = digits, format = "f")
      answer <- height_audit(
        difference = shown(found$estimate), se_difference = shown(found$se), t = shown(found$statistic),
        df = shown(found$df), p = shown(found$p), lower = shown(found$lower), upper = shown(found$upper)
      )
      expect_identical(answer$detail$kind, "none")
      expect_true(all(answer$table$fits, na.rm = TRUE))
      expect_identical(unique(answer$table$method), method)
    }
  }
  pairs <- test_difference(versus_paired(conductance, noon, dawn))$table
  d <- gauge_effect(versus_paired(conductance, noon, dawn), "g_change")$table$estimate
  found <- audit_numbers(
    n = pairs$n_first, difference = sprintf("%.1f", pairs$estimate), se_difference = sprintf("%.2f", pairs$se),
    t = sprintf("%.2f", pairs$statistic), p = "<.001", d = sprintf("%.2f", d), paired = TRUE
  )
  expect_identical(found$detail$kind, "none")
  expect_identical(found$detail$estimand, "g_change")
})

test_that("a wrong p is named with the values that would fit", {
  answer <- height_audit(t = "2.00", df = "36", p = ".13", d = "0.65")
  expect_identical(names(answer$table), c(
    "outcome", "comparison", "method", "quantity", "printed", "possible_from", "possible_to", "fits", "hint"
  ))
  expect_identical(answer$table$quantity[answer$table$fits %in% FALSE], "p")
  p <- row_of(answer, "p")
  exact <- range(2 * stats::pt(-c(1.995, 2.005), 36))
  expect_true(p$possible_from <= exact[[2]] && p$possible_to >= exact[[1]])
  lines <- format(answer, width = 100)
  expect_match(lines, "p = .13 (the others allow .053 to .054) does not fit", fixed = TRUE, all = FALSE)
  expect_match(narrate(answer), "Student's test", fixed = TRUE)
  expect_match(narrate(answer, voice = "plain"), "the number for p cannot be right if the other", fixed = TRUE)
  expect_match(narrate(height_audit(t = "1.97")), "all 7 numbers fit together", fixed = TRUE)
})

test_that("common slips are recognised", {
  hint <- function(answer) stats::na.omit(answer$table$hint)[[1]]
  with_welch <- function(...) height_audit(..., df = "33.0")
  expect_identical(hint(with_welch(difference = "2.30", t = "-1.97", p = ".057")), "with the opposite sign")
  expect_identical(hint(with_welch(difference = "2.30", t = "1.97", p = ".028")), "as a one-sided p")
  slipped <- with_welch(difference = "2.30", t = "1.97", p = ".57")
  expect_identical(hint(slipped), "with the decimal point one place to the left")
  swapped <- with_welch(difference = "3.20", t = "1.97", p = ".057", se_difference = "1.166")
  expect_identical(hint(swapped), "with two digits swapped (2.30)")
  error <- audit_numbers(
    n = c(18, 20), sd = c("0.92", "3.2"), se_difference = "1.166", df = "33.0", method = "welch"
  )
  expect_identical(hint(error), "as a standard error")
  squared <- audit_numbers(
    n = c(18, 20), sd = c("15.21", "3.2"), se_difference = "1.166", df = "33.0", method = "welch"
  )
  expect_identical(hint(squared), "as a variance")
  # A number that was cut off fits where that is allowed.
  cut <- function(...) audit_numbers(t = "2.345", df = "30", p = ".025", ...)
  expect_identical(cut()$detail$kind, "one_of")
  expect_identical(cut(rounding = "any")$detail$kind, "none")
  expect_identical(audit_swaps("12"), "21")
})

test_that("inequalities, directions and null values are taken as they stand", {
  expect_identical(audit_numbers(t = "2.10", df = "30", p = "<.05")$detail$kind, "none")
  expect_identical(audit_numbers(t = "2.10", df = "30", p = "> .05")$detail$kind, "one_of")
  found <- test_difference(published_study(), expect = "higher", beyond = 1)$table
  shown <- function(x) formatC(x, digits = 3, format = "f")
  directed <- height_audit(
    t = shown(found$statistic), df = shown(found$df), p = shown(found$p), expect = "higher", beyond = 1
  )
  expect_identical(directed$detail$kind, "none")
  expect_false(height_audit(t = shown(found$statistic), df = shown(found$df))$detail$kind == "none")
})

test_that("a table of many has a verdict for each, and prints those that do not fit", {
  table <- data.frame(
    outcome = c("height", "mass", "area", "colour"), n_first = 18, n_second = 20,
    mean_first = c("22.1", "3.40", "61", ""), mean_second = c("19.8", "2.90", "48", NA),
    t = c("1.97", "2.01", "", "2.10"), df = c("33.0", "36.0", "", "30"), sd_first = c("3.9", ".81", "20", NA),
    sd_second = c("3.2", ".71", "13", NA),
    p = c(".057", ".51", "", ".044"), page = 1:4
  )
  expect_message(answer <- audit_numbers(table), "page", class = "vandro_message_columns")
  expect_identical(unname(answer$detail$kind[c(1, 4)]), c("none", "none"))
  expect_false(answer$detail$kind[[2]] == "none")
  expect_identical(nrow(answer$table[answer$table$outcome == "area", ]), 6L)
  lines <- format(answer)
  expect_match(lines[[1]], "of 4 comparisons 1 hold numbers that do not fit", fixed = TRUE)
  expect_false(any(grepl("Audit: height", lines, fixed = TRUE)))
  alone <- suppressMessages(audit_numbers(table[1, ]))
  expect_identical(alone$table$possible_from, answer$table$possible_from[answer$table$outcome == "height"])
  # Numbers of a column are written alike: 2.9 beside 3.45 is 2.90.
  expect_identical(row_of(audit_numbers(n = c(9, 9), mean = c(3.45, 2.9), sd = c(1, 2)), "mean_second")$printed, "2.90")
  csv <- export_answer(answer, format = "csv")
  expect_length(csv, nrow(answer$table) + 1)
})

test_that("what is no printed number is refused by name", {
  refused <- function(expr, class = "bad_value") expect_error(expr, class = paste0("vandro_error_", class))
  refused(audit_numbers(t = "two", df = "3"))
  refused(audit_numbers(t = "<2", df = "3"))
  refused(audit_numbers(p = "1.2", df = "3"))
  refused(audit_numbers(n = c(1, 20), sd = c(1, 2)))
  refused(audit_numbers(n = c(18.5, 20), sd = c(1, 2)))
  refused(audit_numbers(sd = c(-1, 2), n = c(5, 5)))
  refused(audit_numbers(r = "1.1", sd = c(1, 2)))
  refused(audit_numbers(t = "2", df = "0"))
  refused(audit_numbers(mean = 3, n = c(5, 5)))
  refused(audit_numbers(t = c(1, 2), df = 3))
  refused(audit_numbers(t = "2"), "missing_ingredient")
  refused(audit_numbers(), "missing_ingredient")
  refused(audit_numbers(data.frame(t = 2, df = 3), p = 0.1), "contradiction")
  refused(audit_numbers(3))
  refused(audit_numbers(data.frame()))
  refused(audit_numbers(t = 2, df = 3, method = "ranks"))
  expect_match(
    tryCatch(audit_numbers(t = "two", df = "3"), error = conditionMessage), "as it is printed",
    fixed = TRUE
  )
  expect_error(audit_numbers(t = "\xff\xfe", df = "3"), "<ff><fe>", class = "vandro_error_bad_value", fixed = TRUE)
})

test_that("a d of pairs may have been divided by one SD, or by that of repeated measurements", {
  read <- function(d) {
    answer <- audit_numbers(
      n = 20, mean = c(13.01, 10.01), sd = c(4.01, 5.02), r = 0.601, sd_change = 4.137, d = d, paired = TRUE
    )
    if (all(answer$table$fits %in% TRUE | is.na(answer$table$fits))) answer$detail$estimand else NA
  }
  expect_identical(read(round(3 / 4.01, 3)), "d_by_first")
  expect_identical(read(round(3 / 5.02, 3)), "d_by_second")
  expect_identical(read(round(3 / (4.137 / sqrt(2 * (1 - 0.601))), 3)), "d_repeated")
  expect_identical(read(round(3 / 4.137, 3)), "d_change")
  expect_identical(read(1.312), NA)
})

test_that("means and SDs that no whole numbers have are named, in print, sentence and figure", {
  audit <- function(mean, sd, ...) {
    audit_numbers(n = c(19, 20), mean = mean, sd = sd, groups = c("compost", "peat"), label = "Leaf score", ...)
  }
  found <- audit(c("3.45", "3.60"), c("1.10", "1.02"), step = 1, limits = c(1, 7))
  expect_identical(found$detail$kind, "impossible")
  expect_identical(found$table$quantity[found$table$fits %in% FALSE], c("mean_first", "sd_second"))
  of_mean <- "mean of compost cannot be 3.45: no 19 whole numbers from 1 to 7 have it [(]the nearest possible: 3.421"
  of_sd <- "SD of peat cannot be 1.02: no 20 whole numbers from 1 to 7 have it with a mean of 3.60"
  expect_match(narrate(found), of_mean, all = FALSE)
  expect_match(narrate(found, voice = "plain"), of_sd, all = FALSE)
  expect_silent(ggplot2::ggplot_build(autoplot(found)))
  expect_identical(audit(c("3.45", "3.60"), c("1.10", "1.02"))$detail$kind, "none")
  expect_identical(audit(c("3.47", "3.60"), c("1.12", "1.05"), step = 1, limits = c(1, 7))$detail$kind, "none")
  wide <- audit(c("3.47", "3.60"), c("1.12", "3.35"), step = 1, limits = c(1, 7))
  expect_match(narrate(wide), "SD of peat cannot be 3.35", all = FALSE)
  # Five items: steps of a fifth.
  expect_identical(audit(c("3.45", "3.60"), c("1.10", "1.02"), step = 0.2)$detail$kind, "none")
  expect_error(audit(c("3.45", "3.60"), c("1.1", "1.0"), limits = c(1, 7)), class = "vandro_error_contradiction")
  expect_error(audit(c("3.45", "3.60"), c("1.1", "1.0"), step = 0), class = "vandro_error_bad_value")
})
