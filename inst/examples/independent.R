# Two substrates: does compost make taller seedlings, by how much, and how sure is that?
# The file is long: one row per seedling, a column that tells the substrate. Some seedlings were not measured.
library(vandro)

folder <- tempfile("independent-")
dir.create(folder)
seedlings <- read_measurements(system.file("extdata", "seedlings.csv", package = "vandro"))

# Said once: what is compared, in which direction, and that chance assigned the seedlings.
study <- versus(seedlings, height, substrate,
  groups = c("compost", "peat"), unit = "cm", label = "Stem height", assigned = TRUE
)
describe_study(study)

# Look first: nothing here chooses the test.
vet_assumptions(study)

# Welch's test was declared before looking; ranks stand beside it.
difference <- test_difference(study, c("welch", "ranks"))
difference
gauge_effect(study)
cross_check(study)

# Sentence, table, figure, report: every number from the same answer.
sentence <- narrate(study)
sentence
writeLines(format(sentence, width = 80), file.path(folder, "paragraph.txt"))
results_table(study, file = file.path(folder, "table.md"))
save_figure(difference, file.path(folder, "figure1.pdf"), view = "paper")
write_report(difference, file.path(folder, "report.html"), title = "Seedlings on two substrates")
