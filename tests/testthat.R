library(testthat)
library(vandro)

test_check("vandro")
