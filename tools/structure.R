# What the sources look like, as numbers: `Rscript --vanilla tools/structure.R`, from the package's folder.
source("tests/testthat/helper-layers.R")

files <- list.files("R", "[.]R$", full.names = TRUE)
files <- files[basename(files) != "RcppExports.R"]
lines <- function(file) sum(!grepl("^\\s*(#|$)", readLines(file)))
say <- function(what, value) cat(sprintf("%-46s %s\n", what, paste(value, collapse = ", ")))

# Functions at top level: name, file, lines, arguments, arguments that are never used.
functions <- do.call(rbind, lapply(files, function(file) {
  code <- parse(file, keep.source = TRUE)
  rows <- lapply(seq_along(code), function(i) {
    e <- code[[i]]
    if (!(is.call(e) && identical(e[[1]], quote(`<-`)) && is.symbol(e[[2]]))) return(NULL)
    if (!(is.call(e[[3]]) && identical(e[[3]][[1]], quote(`function`)))) return(NULL)
    source <- as.character(attr(code, "srcref")[[i]])
    args <- setdiff(names(e[[3]][[2]]), "...")
    # Names in braces inside a message count as used.
    texts <- unlist(regmatches(source, gregexpr("\\{[^{}]*\\{?[^{}]*\\}", source)))
    used <- c(all.names(e[[3]][[3]]), unlist(strsplit(texts, "[^A-Za-z0-9_.]+")))
    defaults <- unlist(lapply(as.list(e[[3]][[2]]), all.names))
    data.frame(
      name = as.character(e[[2]]), file = basename(file), lines = sum(!grepl("^\\s*(#|$)", source)),
      arguments = length(e[[3]][[2]]), unused = paste(setdiff(args, c(used, defaults)), collapse = " ")
    )
  })
  do.call(rbind, rows)
}))

cycles <- file_cycles("R")

say("R code, lines", sum(vapply(files, lines, 0)))
say("R files", length(files))
say("functions", nrow(functions))
say("literal sets outside the catalogue and core", {
  source("R/fact-catalogue.R")
  for (file in c("R/fact-estimands.R", "R/fact-methods.R")) source(file)
  length(literal_sets("R", c(names(method_entries), names(estimand_entries))))
})
longest <- functions[order(-functions$lines), ][1:3, ]
say("longest functions", sprintf("%s %d", longest$name, longest$lines))
say("functions over 60 lines", sum(functions$lines > 60))
say("functions over 8 arguments", sum(functions$arguments > 8))
say("  of these", functions$name[functions$arguments > 8])
unused <- functions[nzchar(functions$unused) & !grepl("[.]vandro_|_entry$", functions$name), ]
say("arguments never used", sum(lengths(strsplit(unused$unused, " "))))
say("  in", sprintf("%s(%s)", unused$name, unused$unused))
say("files of one layer that call each other", if (length(cycles)) lengths(cycles) else 0)
for (cycle in cycles) say("  cycle", cycle)
