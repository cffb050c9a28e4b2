# The spring trial, declared before it was measured: plan.yaml beside this file, the house's rules in house.yaml.
library(vandro)

# A folder with the plan, the house's rules and the data beside each other, as an analyst has them.
folder <- tempfile("plan-")
dir.create(folder)
for (name in c("plan.yaml", "house.yaml")) {
  lines <- readLines(system.file("examples", name, package = "vandro"), encoding = "UTF-8")
  writeLines(sub("../extdata/", "", lines, fixed = TRUE), file.path(folder, name))
}
file.copy(system.file("extdata", c("seedlings.csv", "moisture.csv"), package = "vandro"), folder)
file <- file.path(folder, "plan.yaml")

# What was declared, without touching the data.
read_plan(file)

# The whole job: report, tables, figures, numbers and the record in one folder.
run <- run_plan(file, file.path(folder, "results"), quiet = TRUE)
run
writeLines(format(run, width = 80), file.path(folder, "paragraph.txt"))

# An editor asked for a two-sided test and for Student's beside it. The new plan names the one it departs from; the
# report tells what changed, and why.
lines <- readLines(file)
lines <- sub("secondary: [ranks, permutation]", "secondary: [ranks, permutation, student]", lines, fixed = TRUE)
lines <- lines[!grepl("expect: higher|reason: compost holds", lines)]
lines <- append(lines, c(
  "departs_from: plan.yaml", "departures:", "  height.difference.expect: the editor asked for a two-sided test"
), after = match("plan: 1", lines))
writeLines(lines, file.path(folder, "revised.yaml"))
second <- run_plan(file.path(folder, "revised.yaml"), quiet = TRUE)
second$standing[second$standing$standing != "as a rule", c("study", "question", "standing", "what")]

# What that did to the numbers.
compare_runs(run, second)
