# Builds the documentation as a site of static pages in site/, without a network.
library(pkgdown)
options(pkgdown.internet = FALSE)
build_site(".", examples = TRUE, devel = FALSE, lazy = FALSE, install = FALSE, new_process = FALSE, preview = FALSE)
