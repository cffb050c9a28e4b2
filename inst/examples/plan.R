# The spring trial, declared before it was measured: plan.yaml beside this file, the house's rules in house.yaml.
library(vandro)

folder <- tempfile("plan-")
dir.create(folder)
file <- system.file("examples", "plan.yaml", package = "vandro")

# What was declared, without touching the data.
read_plan(file)

# The whole job: report, tables, figures, numbers and the record in one folder.
results <- file.path(folder, "results")
run <- run_plan(file, results, quiet = TRUE)
run
writeLines(format(run, width = 80), file.path(folder, "paragraph.txt"))

# An editor asked for a two-sided test and for Student's beside it. The new plan names the one it departs from; the
# report tells what changed, and why.
lines <- readLines(file)
lines <- sub("secondary: [ranks, permutation]", "secondary: [ranks, permutation, student]", lines, fixed = TRUE)
lines <- lines[!grepl("expect: higher|reason: compost holds", lines)]
lines <- sub("../extdata", dirname(system.file("extdata", "seedlings.csv", package = "vandro")), lines, fixed = TRUE)
lines <- sub("conventions: house.yaml", paste("conventions:", file.path(dirname(file), "house.yaml")), lines)
lines <- append(lines, c(
  paste("departs_from:", file), "departures:", "  height.difference.expect: the editor asked for a two-sided test"
), after = match("plan: 1", lines))
revised <- file.path(folder, "revised.yaml")
writeLines(lines, revised)
second <- run_plan(revised, quiet = TRUE)
second$standing[second$standing$standing != "as a rule", c("study", "question", "standing", "what")]

# What that did to the numbers.
compare_runs(run, second)
