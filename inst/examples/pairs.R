# The same plants at dawn and at noon: how much does leaf conductance change?
# One row per plant, two columns: pairs. Taken for two groups the plants' own differences would hide the change.
library(vandro)

folder <- tempfile("pairs-")
dir.create(folder)
conductance <- read_measurements(system.file("extdata", "conductance.csv", package = "vandro"))
study <- versus_paired(conductance, noon, dawn, unit = "mmol", label = "Leaf conductance")

# How much the pairs resemble each other tells what pairing gains.
describe_study(study)

# What the paired test leans on are the changes: their shape, not that of dawn and noon.
vet_assumptions(study)
difference <- test_difference(study, c("paired", "signed_ranks"))
difference

# Two standardizers: the spread of the changes, and that of the plants. They answer different questions.
gauge_effect(study, c("mean_difference", "g_change", "d_average"))

# The same plants in a long file, matched by their id: the same numbers.
long <- read_measurements(system.file("extdata", "conductance_long.csv", package = "vandro"))
by_key <- versus_paired(long, conductance, time, plant,
  groups = c("noon", "dawn"), unit = "mmol", label = "Leaf conductance"
)
stopifnot(identical(
  as.data.frame(test_difference(by_key))$estimate, as.data.frame(test_difference(study))$estimate
))

# Before and after without a control group: told as a difference, not as an effect.
sentence <- narrate(difference)
sentence
writeLines(format(sentence, width = 80), file.path(folder, "paragraph.txt"))
save_figure(difference, file.path(folder, "figure1.pdf"), view = "paper")
write_report(difference, file.path(folder, "report.html"), title = "Conductance over the day")
