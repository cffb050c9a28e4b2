# Digits that every number of every verb reaches against the references of accuracy_reference.py, through the public
# interface: writes inst/validation/accuracy.csv. Run after `make install` from the project's root.
suppressMessages(library(vandro))
source("tests/testthat/helper-accuracy.R")

found <- accuracy_digits("tests/testthat/reference")
by <- paste(found$verb, found$method, found$column, sep = "\r")
table <- do.call(rbind, lapply(split(found, factor(by, unique(by))), function(rows) {
  worst <- which.min(rows$digits)
  data.frame(
    verb = rows$verb[[1]], method = rows$method[[1]], number = rows$column[[1]], cases = nrow(rows),
    fewest = floor(10 * rows$digits[[worst]]) / 10, median = floor(10 * stats::median(rows$digits)) / 10,
    hardest = rows$case[[worst]]
  )
}))
utils::write.csv(table, "inst/validation/accuracy.csv", row.names = FALSE)
few <- found[found$digits < 9, ]
if (nrow(few)) print(few[order(few$digits), ], row.names = FALSE, digits = 17)
cat(sprintf("%d numbers, at least %.1f digits\n", nrow(found), min(found$digits)))
