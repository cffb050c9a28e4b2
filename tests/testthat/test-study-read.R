write_bytes <- function(text, name = "trial.csv", env = parent.frame()) {
  file <- file.path(withr::local_tempdir(.local_envir = env), name)
  writeBin(if (is.raw(text)) text else charToRaw(text), file)
  file
}

test_that("the shipped file reads back as the shipped data", {
  expect_message(data <- read_measurements(demo_file()), "50 rows, 8 columns")
  expect_identical(data, seedlings)
})

test_that("tabs, semicolons, decimal commas and Latin-1 are read", {
  tabs <- read_measurements(write_bytes("a\tb\n1.5\tx\n\ty\n"), quiet = TRUE)
  expect_identical(tabs, data.frame(a = c(1.5, NA), b = c("x", "y")))
  comma <- read_measurements(write_bytes("a;b\n1,5;x\n2,25;y\n"), decimal = ",", quiet = TRUE)
  expect_identical(comma$a, c(1.5, 2.25))
  latin <- write_bytes(c(charToRaw("a,b\n1,g"), as.raw(0xfc), charToRaw("n\n2,rot\n")))
  expect_error(
    read_measurements(latin), "Column \"b\" has other bytes in row 1",
    class = "vandro_error_encoding"
  )
  expect_identical(read_measurements(latin, encoding = "Latin-1", quiet = TRUE)$b, c("gün", "rot"))
})

test_that("a file that cannot be read as it stands is an error", {
  error <- function(text, class, ...) {
    expect_error(read_measurements(write_bytes(text), ...), class = paste0("vandro_error_", class))
  }
  error(raw(), "empty_data")
  error("height,substrate\n", "empty_data")
  error("height,height\n1,2\n", "duplicate_columns")
  error("a,b\n1,2\n1,2,3\n4,5\n", "file")
  error(as.raw(c(0xff, 0xfe, 0x61, 0)), "encoding")
  error("a,b\n1,2\n", "bad_value", decimal = ";")
  expect_error(read_measurements("nowhere.csv"), class = "vandro_error_file")
  expect_error(read_measurements(tempdir()), "folder", class = "vandro_error_file")
  near <- write_bytes("a\n1\n")
  expect_error(read_measurements(sub("trial", "trail", near)), "Did you mean")
})
