# Another station has published n, mean and SD, nothing else. Its table is a file with a row per group.
library(vandro)

folder <- tempfile("summaries-")
dir.create(folder)
table <- read_measurements(system.file("extdata", "station_table.csv", package = "vandro"))
hillside <- table[table$station == "Hillside", ]

# First: do the printed numbers fit together at all, given how they were rounded?
audit_numbers(
  n = hillside$n, mean = sprintf("%.1f", hillside$mean_height), sd = sprintf("%.1f", hillside$sd_height), t = "2.00",
  p = ".053", groups = hillside$substrate, unit = "cm", label = "Stem height"
)

# Then everything that n, mean and SD allow, by the same verbs.
study <- versus_summary(
  n = hillside$n, mean = hillside$mean_height, sd = hillside$sd_height, groups = hillside$substrate, unit = "cm",
  label = "Stem height, Hillside"
)
difference <- test_difference(study)
difference
gauge_effect(study)
weigh_evidence(study)

# Not significant is not equal: what differences are still possible, and is 5 cm one of them?
equivalence <- test_equivalence(study, within = 5, reason = "pots are spaced for 5 cm of difference")
equivalence

sentence <- narrate(equivalence)
sentence
writeLines(format(sentence, width = 80), file.path(folder, "paragraph.txt"))
save_figure(difference, file.path(folder, "figure1.pdf"))
write_report(list(difference, equivalence), file.path(folder, "report.html"), title = "What Hillside published")
