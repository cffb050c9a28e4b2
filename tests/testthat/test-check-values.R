test_that("numbers are checked for kind, length and range", {
  expect_identical(check_number(3L), 3)
  for (bad in list("3", c(1, 2), NA_real_, Inf, NULL, TRUE)) {
    expect_error(check_number(bad), class = "vandro_error_bad_value")
  }
  expect_error(check_number(0, 0, 1, open = TRUE), "strictly between 0 and 1")
  expect_error(check_level(95), "level = 0.95")
  refused(bad_value = check_level(1), bad_value = check_alpha(0.5), bad_value = check_decimals(-1))
})

test_that("a misspelt choice is met with the nearest one", {
  expect_identical(check_choice("welch", c("welch", "student")), "welch")
  expect_identical(check_choice(c("a", "b"), c("a", "b")), "a")
  expect_error(check_choice("wlech", c("welch", "student")), "Did you mean \"welch\"")
  # No partial matching: half a word is not a word.
  refused(bad_value = check_choice("wel", c("welch", "student")), bad_value = check_choice(NA_character_, "welch"))
})

test_that("text and flags are single values", {
  expect_null(check_text(NULL))
  refused(bad_value = check_text(c("a", "b")), bad_value = check_text(NULL, null = FALSE), bad_value = check_flag(NA))
})

test_that("near names are found, and only near ones", {
  known <- c("height", "leaf_area", "dry_mass")
  expect_identical(near_names("hieght", known), "height")
  expect_identical(near_names("Leaf Area", known), "leaf_area")
  expect_identical(near_names("zzz", known), character())
})

test_that("names of several are joined by or", {
  expect_error(check_choice("wide", c("widen", "wider", "zzz"), arg = "shape"), "\"widen\" or \"wider\"?", fixed = TRUE)
  path <- file.path(withr::local_tempdir(), "figure.gif")
  expect_error(
    check_figure_path(path, FALSE), "`file` must end in \".pdf\", \".svg\" or \".png\".",
    fixed = TRUE, class = "vandro_error_output"
  )
})

test_that("a missing package is asked for by name", {
  expect_error(need_package("notapackage", "to fly"), "notapackage", class = "vandro_error_package_missing")
})

test_that("what is refused is called by its argument's name", {
  mean <- c(1L, NA)
  expect_error(check_pair(mean, groups = c("compost", "peat")), "`mean` must be a number for both", fixed = TRUE)
  n <- c(8, 0)
  expect_error(check_pair(n, 1, whole = TRUE, groups = c("compost", "peat")), "`n` must be a whole", fixed = TRUE)
  expect_error(check_date(7), "`date` must be one piece of text", fixed = TRUE)
  expect_identical(check_date(as.Date("2026-03-02")), "2026-03-02")
})
