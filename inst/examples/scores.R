# Root damage was scored from 0 to 5 and counted: a table of score and number of plants, full of ties.
library(vandro)

folder <- tempfile("scores-")
dir.create(folder)
damage <- read_measurements(system.file("extdata", "root_damage.csv", package = "vandro"))
study <- versus(damage, score, substrate,
  counts = plants, groups = c("compost", "peat"), label = "Root damage score", assigned = TRUE
)
describe_study(study)

# Means of scores say little: how often is a plant on compost more damaged than one on peat?
difference <- test_difference(study, "ranks")
difference
gauge_effect(study, c("superiority", "rank_biserial"))

# Spreads differ? Brunner and Munzel's test asks the same without one shape for both groups.
test_difference(study, "relative", seed = 1)

sentence <- narrate(difference)
sentence
writeLines(format(sentence, width = 80), file.path(folder, "paragraph.txt"))
save_figure(difference, file.path(folder, "superiority.pdf"), view = "superiority")
write_report(difference, file.path(folder, "report.html"), title = "Root damage on two substrates")
