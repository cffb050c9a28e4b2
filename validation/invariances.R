# What must stay the same when nothing that matters changes: thousands of random data sets, declared and asked in two
# ways each. Prints the largest relative differences and fails where one is more than rounding. Run from the project's
# root after `make install`: Rscript validation/invariances.R [data sets] [seed]
suppressMessages(library(vandro))
source("tests/testthat/helper-invariances.R")
arguments <- as.integer(commandArgs(trailingOnly = TRUE))
sets <- c(arguments, 3000)[[1]]
seed <- c(arguments[-1], 20261128)[[1]]
found <- do.call(rbind, lapply(seq_len(sets), function(i) invariances(seed + i)))
table <- stats::aggregate(difference ~ rule + method, found, function(x) c(checks = length(x), largest = max(x)))
table <- data.frame(table[c("rule", "method")], table$difference)
utils::write.csv(table, "inst/validation/invariances.csv", row.names = FALSE)
print(table, digits = 2)
cat(sprintf("%d comparisons, largest difference %.2g\n", nrow(found), max(found$difference)))
worst <- found[found$difference > 1e-9, ]
if (nrow(worst)) print(utils::head(worst[order(-worst$difference), ], 20))
quit(save = "no", status = nrow(worst) > 0)
