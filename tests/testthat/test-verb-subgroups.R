benches <- function(...) versus(seedlings, ..., substrate, groups = c("compost", "peat"), each = bench)

test_that("the answer is Welch's test on the differences of the subgroups, and t of every two", {
  study <- benches(height)
  answer <- compare_subgroups(study)
  differences <- test_difference(study)$table
  table <- answer$table
  expect_identical(table$contrast, c("all", "north minus middle", "north minus south", "middle minus south"))
  whole <- core_heterogeneity(differences$estimate, differences$se, differences$df)
  expect_equal(table$p[[1]], whole$p)
  expect_equal(table$estimate[[1]], whole$centre)
  two <- core_estimate_gap(differences$estimate[c(1, 3)], differences$se[c(1, 3)], differences$df[c(1, 3)])
  expect_equal(unlist(table[3, c("estimate", "se", "df")]), unlist(two), ignore_attr = TRUE)
  expect_equal(table$p_adjusted[-1], core_adjust_p(table$p[-1], "holm"))
  expect_missing(table$p_adjusted[[1]])
  expect_equal(answer$detail$differences$p, differences$p)
})

test_that("several outcomes are adjusted together; two subgroups give one pair whose square is F", {
  study <- benches(c(height, leaf_area))
  table <- compare_subgroups(study, adjust = "bonferroni")$table
  all <- table[table$contrast == "all", ]
  expect_equal(all$p_adjusted, pmin(1, 2 * all$p))
  data <- seedlings[seedlings$bench != "south", ]
  two <- compare_subgroups(versus(data, height, substrate, groups = c("compost", "peat"), each = bench))$table
  expect_equal(two$statistic[[1]], two$statistic[[2]]^2)
  expect_equal(two$p[[1]], two$p[[2]])
  expect_identical(two$p_adjusted, c(NA_real_, NA_real_))
})

test_that("Student's is the interaction of a linear model; pairs compare changes", {
  study <- benches(height)
  table <- compare_subgroups(study, "student")$table
  data <- seedlings[!is.na(seedlings$height), ]
  rss <- function(formula) sum(stats::residuals(stats::lm(formula, data))^2)
  whole <- rss(height ~ bench * substrate)
  df <- nrow(data) - 6
  expect_equal(table$statistic[[1]], (rss(height ~ bench + substrate) - whole) / 2 / (whole / df))
  expect_equal(table$df_second[[1]], df)
  pairs <- transform(conductance, side = rep(c("left", "right"), length.out = 24))
  found <- compare_subgroups(versus_paired(pairs, noon, dawn, each = side))$table
  change <- split(pairs$noon - pairs$dawn, pairs$side)
  m <- lapply(change, core_sample_moments)
  error <- core_welch_error(m[[1]], m[[2]])
  expect_equal(found$statistic[[2]], core_mean_gap(m[[1]], m[[2]]) / error$se)
  expect_equal(found$df[[2]], error$df)
})

test_that("what cannot be compared says why", {
  expect_error(compare_subgroups(height_study()), class = "vandro_error_no_subgroups")
  expect_error(compare_subgroups(benches(height), "ranks"), class = "vandro_error_bad_value")
  expect_error(compare_subgroups(benches(height), adjust = "max_t"), class = "vandro_error_bad_value")
  data <- seedlings[seedlings$bench == "north" | seedlings$substrate == "peat", ]
  study <- quiet(versus(data, height, substrate, groups = c("compost", "peat"), each = bench))
  answer <- compare_subgroups(study)
  expect_match(answer$table$reason, "two are needed")
  expect_true(all(is.na(answer$table$p)))
  expect_identical(nrow(answer$detail$left_out), 2L)
  expect_match(paste(format(answer), collapse = " "), "two are needed")
  expect_match(narrate(answer), "could not be compared between subgroups")
})

test_that("words, figure and JSON tell what was found", {
  answer <- compare_subgroups(benches(c(height, leaf_area)))
  text <- paste(format(answer, width = 200), collapse = "\n")
  expect_match(text, "F(2, 19.6) = 1.91", fixed = TRUE)
  expect_match(text, "does not show that it is the same in all", fixed = TRUE)
  expect_match(text, "p = .175, adjusted for several outcomes p = .317: not shown to differ", fixed = TRUE)
  expect_match(narrate(answer)[[1]], "was not shown to differ between the subgroups", fixed = TRUE)
  expect_match(narrate(answer, voice = "plain")[[1]], "not evidence that it is the same in all subgroups", fixed = TRUE)
  figure <- autoplot(answer)
  expect_match(figure$labels$alt, "F\\(2, 19.6\\)")
  expect_error(ggplot2::ggplotGrob(figure), NA)
  expect_s3_class(autoplot(answer, outcome = "height"), "ggplot")
  expect_error(autoplot(answer, outcome = "width"), class = "vandro_error_bad_value")
  wide <- seedlings[rep("height", 14)]
  names(wide) <- paste0("trait", 1:14)
  wide <- cbind(wide, seedlings[c("substrate", "bench")])
  all <- versus(wide, tidyselect::starts_with("trait"), substrate, groups = c("compost", "peat"), each = bench)
  expect_match(autoplot(compare_subgroups(all))$labels$caption, "The first 12 of 14 outcomes.", fixed = TRUE)
  strong <- transform(seedlings, height = height + 20 * (bench == "north") * (substrate == "peat"))
  differs <- compare_subgroups(versus(strong, height, substrate, groups = c("compost", "peat"), each = bench))
  expect_match(narrate(differs), "differed between the subgroups")
  expect_match(narrate(differs, voice = "plain"), "depends on bench")
  file <- withr::local_tempfile(fileext = ".json")
  export_answer(answer, file)
  expect_identical(schema_faults(file), character())
})
