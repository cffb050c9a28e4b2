# Reading a 1e6-row CSV: what is added to the reader. Expected: at most 1.3 times the reader alone.
source("bench/helper.R")
library(vandro)

set.seed(3)
n <- 1e6
file <- tempfile(fileext = ".csv")
data.table::fwrite(data.frame(
  plant = sprintf("P%07d", seq_len(n)), substrate = sample(c("compost", "peat"), n, TRUE),
  height = round(rnorm(n, 20, 3), 2), dry_mass = round(rnorm(n, 1.6, 0.3), 3)
), file)
side_by_side(
  "CSV, 1e6 rows, 4 columns",
  "the reader alone (data.table)" = function() {
    data.table::fread(file, data.table = FALSE, showProgress = FALSE)
  },
  "read_measurements()" = function() read_measurements(file, quiet = TRUE),
  "read_measurements(), saying what it found" = function() suppressMessages(read_measurements(file)),
  rounds = 7
)
