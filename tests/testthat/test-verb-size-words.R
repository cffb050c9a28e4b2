words_of <- function(estimate, lower, upper, words = known_size_words$cohen, estimand = "g") {
  study <- published_study()
  row <- list(estimate = estimate, lower = lower, upper = upper, standardizer = "pooled SD", estimand = estimand)
  size_word_columns(row, words, study)
}

test_that("words follow the thresholds, whatever the sign", {
  expect_identical(word_for(0.1, known_size_words$cohen$thresholds), "below small")
  expect_identical(word_for(0.3, known_size_words$cohen$thresholds), "small")
  expect_identical(word_for(0.5, known_size_words$cohen$thresholds), "medium")
  expect_identical(word_for(9, known_size_words$cohen$thresholds), "large")
})

test_that("beside a border both words stand, and over the interval the range", {
  near <- words_of(-0.48, -0.9, -0.06)
  expect_identical(near$size_word, "small to medium")
  expect_identical(near$size_border, 0.5)
  expect_identical(near$size_range, "below small to large (peat higher)")
  expect_identical(words_of(0.17, 0.1, 0.24)$size_word, "below small to small")
  clear <- words_of(0.35, -0.1, 0.8)
  expect_identical(clear$size_word, "small")
  expect_missing(clear$size_border)
  expect_identical(clear$size_range, "below small (peat higher) to large (compost higher)")
  expect_identical(words_of(1.5, 1, 2)$size_range, "large (compost higher)")
})

test_that("words are off unless asked for, and stand with their source", {
  study <- height_study()
  expect_null(gauge_effect(study)$table$size_word)
  table <- gauge_effect(study, "all", size_words = "cohen")$table
  without <- setdiff(names(estimand_entries), estimands_where(scale = "sd"))
  expect_identical(is.na(table$size_word), table$estimand %in% without)
  expect_match(stats::na.omit(table$size_source), "Cohen 1988")
  paired <- gauge_effect(conductance_study(), size_words = "cohen")$table
  # The words were made for spread within a group, not for the spread of changes.
  expect_identical(is.na(paired$size_word), c(TRUE, FALSE, FALSE, TRUE, TRUE))
  own <- gauge_effect(study, "d_pooled", size_words = c(faint = 0.3, clear = 1), size_source = "House rules")
  expect_identical(own$table$size_word, "clear")
  text <- paste(format(own, width = 200), collapse = "")
  expect_match(text, "clear; over the interval: faint to clear (compost higher) (House rules)", fixed = TRUE)
  json <- jsonlite::fromJSON(paste(export_answer(own), collapse = "\n"))
  expect_equal(json$settings$size_words, list(faint = 0.3, clear = 1))
  expect_match(narrate(own), "clear according to House rules", fixed = TRUE)
})

test_that("own words are for every effect size that is named with them, and may name the lowest class", {
  words <- c(tiny = 0, some = 0.4, much = 0.9)
  asked <- c("r_rank", "superiority", "mean_difference")
  own <- gauge_effect(height_study(), asked, size_words = words, size_source = "House rules", seed = 1)
  expect_identical(own$table$size_word, c("some", "some", "much"))
  turned <- height_study(c("peat", "compost"))
  turned <- gauge_effect(turned, asked, size_words = words, size_source = "House rules", seed = 1)
  expect_identical(turned$table$size_word, own$table$size_word)
  expect_identical(turned$table$size_range[[2]], "some to much (compost higher)")
  same <- two_groups(c(1, 2, 3, 4), c(1, 2, 3, 4.1))
  expect_identical(gauge_effect(same, "g", size_words = words, size_source = "House rules")$table$size_word, "tiny")
  usual <- gauge_effect(height_study(), size_words = words, size_source = "House rules")$table
  expect_identical(is.na(usual$size_word), usual$estimand == "mean_difference")
})

test_that("a size without an interval has no word", {
  data <- data.frame(
    height = c(seedlings$height[seedlings$bench == "north"], 1, 2, 7.5, 7.5),
    substrate = c(as.character(seedlings$substrate[seedlings$bench == "north"]), "compost", "compost", "peat", "peat"),
    bench = c(rep("east", sum(seedlings$bench == "north")), rep("west", 4))
  )
  study <- versus(data, height, substrate, groups = c("compost", "peat"), each = bench)
  answer <- gauge_effect(
    study, "g", interval = "bootstrap", options = how(draws = 999), seed = 1, size_words = "cohen"
  )
  expect_identical(is.na(answer$table$lower), c(FALSE, TRUE))
  expect_identical(is.na(answer$table$size_word), c(FALSE, TRUE))
})

test_that("thresholds without source, order or names are refused", {
  study <- height_study()
  expect_error(gauge_effect(study, size_words = c(a = 0.2)), "need a source", class = "vandro_error_no_source")
  expect_error(gauge_effect(study, size_source = "x"), class = "vandro_error_contradiction")
  for (bad in list(c(0.2, 0.5), c(a = 0.5, b = 0.2), c(a = -1), c(a = 0.2, a = 0.5), list(1))) {
    expect_error(gauge_effect(study, size_words = bad, size_source = "x"), class = "vandro_error_bad_value")
  }
  expect_error(gauge_effect(study, size_words = "jacob"), "cohen", class = "vandro_error_bad_value")
})
