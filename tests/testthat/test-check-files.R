test_that("files are written whole or not at all, and never over another unasked", {
  folder <- withr::local_tempdir()
  file <- file.path(folder, "a.txt")
  write_whole_text(file, c("one", "two"))
  expect_identical(readLines(file), c("one", "two"))
  expect_error(check_output_path(file, overwrite = FALSE), class = "vandro_error_file_exists")
  expect_identical(check_output_path(file, overwrite = TRUE), file)
  expect_error(check_output_path(folder, TRUE), class = "vandro_error_output")
  expect_error(check_output_path(file.path(folder, "no", "a.txt"), TRUE), class = "vandro_error_output")
  half <- function(draft) {
    writeLines("half", draft)
    stop("the pen broke")
  }
  expect_error(write_whole(file, half), class = "vandro_error_output")
  expect_identical(readLines(file), c("one", "two"))
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), "a.txt")
})

test_that("a folder takes its place whole, or the old one stays", {
  folder <- withr::local_tempdir()
  place <- file.path(folder, "figures")
  write_whole_folder(place, function(draft) writeLines("one", file.path(draft, "1.txt")))
  write_whole_folder(place, function(draft) writeLines("two", file.path(draft, "2.txt")))
  expect_identical(list.files(place), "2.txt")
  broken <- function(draft) {
    writeLines("half", file.path(draft, "3.txt"))
    stop("the pen broke")
  }
  expect_error(write_whole_folder(place, broken), class = "vandro_error_output")
  expect_identical(list.files(place), "2.txt")
  expect_identical(list.files(folder, all.files = TRUE, no.. = TRUE), "figures")
})
