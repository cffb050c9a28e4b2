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

dir.create("data", showWarnings = FALSE)
save(seedlings, file = "data/seedlings.rda", version = 2, compress = "xz")
save(station_table, file = "data/station_table.rda", version = 2, compress = "xz")
write_demo <- function(data, name) {
  utils::write.csv(data, file.path("inst/extdata", name), row.names = FALSE, quote = FALSE, na = "")
}
write_demo(seedlings, "seedlings.csv")
write_demo(station_table, "station_table.csv")
