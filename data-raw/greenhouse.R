# The made-up greenhouse research station: all data shown anywhere come from here.
# Run from the project's root: Rscript data-raw/greenhouse.R
# Writes data/*.rda (lazy data) and inst/extdata/*.csv, the same numbers in both.

RNGkind("Mersenne-Twister", "Inversion", "Rejection")
set.seed(20260301)

# --- seedlings: two substrates, several traits, some values lost ------------------------------------
n <- c(compost = 26, peat = 24)
substrate <- sample(rep(names(n), n))
compost <- substrate == "compost"
seedlings <- data.frame(
  plant = sprintf("P%02d", seq_along(substrate)),
  substrate = substrate,
  substrate_code = ifelse(compost, 1L, 2L),
  bench = rep_len(c("north", "middle", "south"), length(substrate)),
  height = round(rnorm(50, ifelse(compost, 21.4, 18.6), ifelse(compost, 4.1, 2.9)), 1),
  leaf_area = round(exp(rnorm(50, ifelse(compost, 4.02, 3.78), 0.35)), 1),
  dry_mass = round(rnorm(50, ifelse(compost, 1.62, 1.57), 0.31), 3),
  chlorophyll = round(rnorm(50, ifelse(compost, 38.2, 38.0), 3.4), 1)
)
seedlings$height[c(7, 31, 44)] <- NA
seedlings$leaf_area[31] <- NA
seedlings$dry_mass[c(7, 12, 31, 44, 46)] <- NA

# --- station_table: what other stations printed, n, mean and SD only --------------------------------
station_table <- data.frame(
  station = c("Hillside", "Hillside", "Lakeshore", "Lakeshore"),
  substrate = c("compost", "peat", "compost", "peat"),
  n = c(18L, 20L, 31L, 29L),
  mean_height = c(22.1, 19.8, 20.3, 18.9),
  sd_height = c(3.9, 3.2, 4.6, 2.7)
)

# --- conductance: the same leaves at dawn and at noon, wide and long --------------------------------
set.seed(20260302)
level <- rnorm(24, 150, 34)
conductance <- data.frame(
  plant = sprintf("L%02d", 1:24),
  dawn = round(level + rnorm(24, 0, 12)),
  noon = round(level * 1.1 + 28 + rnorm(24, 0, 24))
)
conductance$noon[9] <- NA
conductance$dawn[20] <- NA
conductance_long <- data.frame(
  plant = rep(conductance$plant, 2), time = rep(c("dawn", "noon"), each = 24),
  conductance = c(conductance$dawn, conductance$noon)
)
conductance_long <- conductance_long[sample(nrow(conductance_long)), ]
conductance_long <- conductance_long[!is.na(conductance_long$conductance), ]
rownames(conductance_long) <- NULL

# --- moisture: two probes in one bed, hour by hour --------------------------------------------------
set.seed(20260303)
bed <- 31 - cumsum(pmax(0, rnorm(48, 0.09, 0.12)))
moisture <- data.frame(
  hour = 1:48,
  probe_a = round(bed + rnorm(48, 0.1, 0.35), 1),
  probe_b = round(bed + rnorm(48, 0, 0.35), 1)
)

# --- root_damage: scores with many ties, as a table of counts ---------------------------------------
root_damage <- data.frame(
  substrate = rep(c("compost", "peat"), each = 6), score = rep(0:5, 2),
  plants = c(14, 11, 8, 4, 2, 1, 6, 9, 10, 9, 5, 3)
)

# --- leaching: nitrate under a few small plots ------------------------------------------------------
set.seed(20260304)
leaching <- data.frame(
  plot = sprintf("P%02d", 1:11),
  cover = rep(c("bare", "sown"), c(6, 5)),
  nitrate = round(c(rlnorm(6, log(31), 0.28), rlnorm(5, log(19), 0.24)), 1)
)

write_demo <- function(name) {
  data <- get(name)
  save(list = name, file = file.path("data", paste0(name, ".rda")), version = 2, compress = "xz")
  file <- file.path("inst/extdata", paste0(name, ".csv"))
  utils::write.csv(data, file, row.names = FALSE, quote = FALSE, na = "")
}
dir.create("data", showWarnings = FALSE)
for (name in c(
  "seedlings", "station_table", "conductance", "conductance_long", "moisture", "root_damage", "leaching"
)) {
  write_demo(name)
}
