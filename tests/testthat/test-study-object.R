test_that("a fingerprint tells data, groups and direction apart, and nothing else", {
  base <- study_fingerprint(height_study())
  expect_match(base, "^[0-9a-f]{12}$")
  expect_identical(study_fingerprint(versus(seedlings, height, substrate, c("compost", "peat"))), base)
  expect_false(study_fingerprint(height_study(c("peat", "compost"))) == base)
  changed <- seedlings
  changed$height[[1]] <- changed$height[[1]] * (1 + 2e-16)
  expect_false(study_fingerprint(versus(changed, height, substrate, c("compost", "peat"))) == base)
  expect_false(study_fingerprint(published_study()) == base)
  expect_identical(hash_numbers(c(1, 2, 3)), hash_numbers(1:3))
})

test_that("a study is a data frame of what is compared", {
  data <- as.data.frame(height_study())
  expect_named(data, c("outcome", "group", "value"))
  want <- seedlings$height[seedlings$substrate == "compost"]
  expect_identical(data$value[data$group == "compost"], want[!is.na(want)])
  expect_identical(as.data.frame(published_study())$sd, c(3.9, 3.2))
  expect_s3_class(tibble::as_tibble(height_study()), "tbl_df")
})

test_that("data are described and documented as they are", {
  expect_identical(dim(seedlings), c(50L, 8L))
  expect_identical(nrow(station_table), 4L)
})
