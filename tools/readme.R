# Writes into README.md what its R blocks print today. Run after `make install`: Rscript tools/readme.R
library(vandro)
source("tests/testthat/helper-documents.R")
lines <- readLines("README.md", encoding = "UTF-8")
done <- run_document(normalizePath("README.md"))
for (segment in rev(Filter(function(segment) length(segment$shown), done))) {
  if (!is.null(segment$error)) stop("README.md:", segment$line, ": ", segment$error)
  first <- segment$line + match(segment$code[[length(segment$code)]], lines[-seq_len(segment$line)])
  old <- first + seq_along(segment$shown)
  stopifnot(startsWith(lines[old], "#>"))
  lines <- append(lines[-old], sub(" $", "", paste("#>", segment$printed)), first)
}
writeLines(enc2utf8(lines), "README.md", useBytes = TRUE)
