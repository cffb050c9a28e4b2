test_that("a style changes how numbers look, everywhere in a text, and nothing after it", {
  study <- height_study()
  before <- unclass(narrate(study))
  german <- number_style(leading_zero = TRUE, decimal_mark = ",")
  expect_match(
    narrate(study, style = german),
    "95% CI [1,89; 5,02] for compost minus peat, Welch's t(44,5) = 4,45, p < 0,001",
    fixed = TRUE
  )
  expect_no_match(gsub("[^0-9.,]", " ", narrate(study, style = german)), "[0-9][.][0-9]")
  expect_identical(unclass(narrate(study)), before)
  expect_error(narrate(study, voice = "plain", style = german, decimals = 99))
  expect_identical(unclass(narrate(study)), before)
  three <- narrate(gauge_effect(study, "g"), style = number_style(decimals = 3))
  expect_match(three, sprintf("g = %.3f", gauge_effect(study, "g")$table$estimate), fixed = TRUE)
  ranks <- narrate(gauge_effect(study, "rank_biserial"), style = number_style(leading_zero = TRUE))
  expect_match(ranks, "correlation 0.64, 95% CI [0.33, 0.82]", fixed = TRUE)
  expect_match(narrate(gauge_effect(study, "rank_biserial")), "correlation .64, 95% CI [.33, .82]", fixed = TRUE)
})

test_that("p can be an inequality, against alpha and the usual thresholds", {
  said <- function(p, alpha = 0.05) with_style(number_style(p_as = "inequality"), format_p(p, alpha = alpha))
  expect_identical(
    said(c(0.0002, 0.001, 0.004, 0.01, 0.03, 0.05, 0.0501, 1)),
    c("p < .001", "p = .001", "p < .01", "p = .01", "p < .05", "p = .05", "p > .05", "p > .05")
  )
  expect_identical(said(0.03, 0.025), "p > .025")
  expect_identical(said(0.02, 0.025), "p < .025")
  # Never on the wrong side of alpha.
  for (p in c(runif(200), 10^-runif(100, 0, 5))) {
    text <- said(p, 0.025)
    if (p > 0.025) expect_match(text, ">") else expect_match(text, "[<=]")
  }
  expect_identical(with_style(number_style(p_decimals = 2), format_p(0.0512, alpha = 0.05)), "p = .051")
})

test_that("a style is checked, printed, and knows only what it was told", {
  expect_error(number_style(decimals = 1.5), class = "vandro_error_bad_value")
  expect_error(number_style(decimal_mark = ";"), class = "vandro_error_bad_value")
  expect_error(number_style(p_as = "stars"), class = "vandro_error_bad_value")
  expect_error(narrate(height_study(), style = ","), class = "vandro_error_bad_value")
  lines <- format(number_style(decimal_mark = ",", leading_zero = TRUE))
  expect_match(lines, "95% CI [0,12; 1,23], p = 0,012", fixed = TRUE, all = FALSE)
  expect_output(print(number_style()), "p           as a value")
})

test_that("a table and its files take a style, and CSV none", {
  table <- results_table(height_study(), style = number_style(decimal_mark = ",", p_as = "inequality"))
  expect_identical(table$cells[["difference [95% CI]"]], "3,46 [1,89; 5,02]")
  expect_identical(table$cells$p, "< ,001")
  expect_match(paste(table$notes, collapse = " "), "1,16 [0,76; 1,77]", fixed = TRUE)
  expect_identical(as.data.frame(table), as.data.frame(results_table(height_study())))
})
