# What a machine can see of how Vandro speaks: patterns of tools/prose.csv in the texts of the code and in what tests
# print. Prints every finding with its place; the status is 1 where there are any. Rscript tools/prose.R
prose_patterns <- function() utils::read.csv("tools/prose.csv", stringsAsFactors = FALSE)

# Texts of one file: string constants of code, lines of anything else.
prose_texts <- function(file) {
  if (!grepl("[.]R$", file)) {
    lines <- readLines(file, encoding = "UTF-8", warn = FALSE)
    return(data.frame(line = seq_along(lines), text = lines))
  }
  parsed <- utils::getParseData(parse(file, keep.source = TRUE, encoding = "UTF-8"), includeText = TRUE)
  strings <- parsed[parsed$token == "STR_CONST", ]
  # Texts have blanks; patterns and codes have none.
  strings <- strings[grepl("[a-z]+ [a-z]+", strings$text), ]
  data.frame(line = strings$line1, text = substr(strings$text, 2, nchar(strings$text) - 1))
}

# What is wrong with these texts: line, pattern number.
prose_faults <- function(texts, patterns = prose_patterns()) {
  found <- lapply(seq_len(nrow(patterns)), function(i) {
    at <- grep(patterns$pattern[[i]], texts$text, perl = TRUE)
    data.frame(line = texts$line[at], text = texts$text[at], instead = rep(patterns$instead[[i]], length(at)))
  })
  words <- lengths(strsplit(texts$text, "[^[:alnum:]'-]+"))
  long <- which(words > 45)
  rbind(do.call(rbind, found), data.frame(
    line = texts$line[long], text = texts$text[long], instead = rep("a shorter sentence", length(long))
  ))
}

# What the package says: its code, without the words of others, and what tests print.
prose_of_package <- function() {
  files <- c(
    setdiff(list.files("R", "[.]R$", full.names = TRUE), "R/check-meant.R"),
    list.files("tests/testthat/_snaps", "[.]md$", full.names = TRUE)
  )
  do.call(rbind, lapply(files, function(file) {
    faults <- prose_faults(prose_texts(file))
    cbind(file = rep(file, nrow(faults)), faults)
  }))
}

if (sys.nframe() == 0) {
  found <- prose_of_package()
  cat(sprintf("%s:%d: %s [%s]\n", found$file, found$line, substr(found$text, 1, 110), found$instead), sep = "")
  cat(sprintf("%d findings\n", nrow(found)))
  quit(status = nrow(found) > 0)
}
