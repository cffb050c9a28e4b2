# Two soil-moisture probes are to replace each other: is their difference small enough not to matter?
# What is small enough was decided beforehand: the valve opens in steps of 0.5 %.
library(vandro)

folder <- tempfile("equivalence-")
dir.create(folder)
moisture <- read_measurements(system.file("extdata", "moisture.csv", package = "vandro"))
study <- versus_paired(moisture, probe_a, probe_b,
  unit = "%", label = "Soil moisture", order = hour, claim = "same"
)

# Readings follow each other in time: neighbours resemble each other.
vet_assumptions(study)

# A large p would show nothing here: the claim needs bounds.
equivalence <- test_equivalence(study, within = 0.5, reason = "the valve opens in steps of 0.5 %")
equivalence

# What narrower or wider bounds would have said, without asking again and again.
try_bounds(equivalence, bounds = c(0.2, 0.3, 0.4))

sentence <- narrate(equivalence)
sentence
writeLines(format(sentence, width = 80), file.path(folder, "paragraph.txt"))
save_figure(equivalence, file.path(folder, "figure1.pdf"))
save_figure(equivalence, file.path(folder, "bounds.pdf"), view = "bounds")
write_report(equivalence, file.path(folder, "report.html"), title = "Do the two probes agree?")
