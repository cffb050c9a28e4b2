test_that("every answer's table keeps to the shared columns and their order", {
  answers <- list(test_difference(height_study()), gauge_effect(height_study()))
  for (answer in answers) {
    expect_s3_class(answer, "vandro_answer")
    shared <- intersect(names(answer$table), answer_columns)
    expect_identical(shared, intersect(answer_columns, names(answer$table)))
    expect_s3_class(tibble::as_tibble(answer), "tbl_df")
    expect_identical(as.data.frame(answer), answer$table)
    expect_identical(summary(answer), answer)
    expect_identical(answer$settings$version, as.character(utils::packageVersion("vandro")))
  }
  expect_error(check_answer(1), class = "vandro_error_not_an_answer")
})

test_that("a lean table is a data frame like any other", {
  columns <- bind_rows(list(list(a = 1, b = "x"), list(a = 2, b = NA_character_)))
  expect_identical(lean_table(columns), data.frame(a = c(1, 2), b = c("x", NA)))
})
