# Nitrate leaching from five bare and six sown plots: every assignment of the plots can be counted.
library(vandro)

folder <- tempfile("tiny-")
dir.create(folder)
leaching <- read_measurements(system.file("extdata", "leaching.csv", package = "vandro"))
study <- versus(leaching, nitrate, cover,
  groups = c("bare", "sown"), unit = "mg/l", label = "Nitrate", assigned = TRUE
)

# Checks see little in so few values, and say so.
vet_assumptions(study)

# Exact: all 462 ways of choosing the bare plots. The smallest p there can be is told with it.
difference <- test_difference(study, "permutation", expect = "higher", reason = "nothing takes up nitrate on bare soil")
difference

# Would another method, or leaving out a flagged plot, have changed the conclusion?
cross_check(study, flagged = "both")

sentence <- narrate(difference)
sentence
writeLines(format(sentence, width = 80), file.path(folder, "paragraph.txt"))
save_figure(difference, file.path(folder, "null.pdf"), view = "null")
save_figure(difference, file.path(folder, "figure1.pdf"), view = "paper")
write_report(difference, file.path(folder, "report.html"), title = "Nitrate from bare and sown plots")
