# The picture in ARCHITECTURE.md, made from the sources: `Rscript --vanilla tools/architecture.R`, from the package's
# folder. A band for each layer with its files; at its right the layers that it calls.
source("tests/testthat/helper-layers.R")
suppressPackageStartupMessages(library(ggplot2))

about <- c(
  cli = "the command line", plan = "declared plans", report = "sentences and reports", plot = "figures",
  print = "answers as text", verb = "one question per file", answer = "the answer object", study = "declarations",
  fact = "the catalogue", check = "checks of input", core = "plain statistics", native = "glue and kernels"
)
files <- list.files("R", "[.]R$", full.names = TRUE)
layers <- vapply(files, layer_of, "")
calls <- file_calls("R")
pairs <- unique(data.frame(from = vapply(calls$from, layer_of, ""), to = vapply(calls$to, layer_of, "")))
headers <- sub("[.]hpp$", "", list.files("inst/include/vandro"))
bands <- do.call(rbind, lapply(names(about), function(layer) {
  stems <- if (layer == "native") headers else sub("[.]R$", "", sub("^[^-]*-", "", basename(files[layers == layer])))
  text <- strwrap(paste(stems, collapse = ", "), 128)
  data.frame(
    layer = layer, about = about[[layer]], text = paste(text, collapse = "\n"), height = max(2.2, length(text) + 0.9),
    uses = paste(setdiff(intersect(names(about), pairs$to[pairs$from == layer]), layer), collapse = " ")
  )
}))
bands$top <- -cumsum(c(0, utils::head(bands$height, -1)))
bands$middle <- bands$top - bands$height / 2
picture <- ggplot(bands) +
  geom_rect(aes(xmin = 0, xmax = 98, ymin = top - height + 0.12, ymax = top), fill = "#EEF2F3", colour = "#0B5563") +
  geom_text(aes(1, middle + 0.4, label = layer), hjust = 0, fontface = "bold", size = 4) +
  geom_text(aes(1, middle - 0.5, label = about), hjust = 0, size = 2.7, colour = "#555555") +
  geom_text(aes(19, middle, label = text), hjust = 0, size = 2.6, lineheight = 0.95) +
  geom_text(aes(99, middle, label = ifelse(nzchar(uses), paste("calls", uses), "")), hjust = 0, size = 2.6) +
  scale_x_continuous(limits = c(0, 134), expand = c(0, 0)) +
  scale_y_continuous(expand = c(0, 0.1)) +
  theme_void() +
  theme(plot.background = element_rect(fill = "white", colour = NA), plot.margin = margin(8, 4, 8, 8))
ggsave("docs/architecture.png", picture, width = 12.8, height = 8, dpi = 100)
