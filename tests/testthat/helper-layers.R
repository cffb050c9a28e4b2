# Which layer may call which. A file's layer is its name up to the first "-".
layer_rules <- list(
  vandro  = character(), # the package's own page
  data    = character(), # pages of the shipped data
  native  = character(),
  core    = c("native"),
  check   = c("native"), # what R cannot say of files
  fact    = c("core"), # the catalogue
  study   = c("check", "fact", "core"),
  answer  = c("check", "fact", "study"),
  verb    = c("check", "fact", "core", "study", "answer"),
  print   = c("check", "fact", "study", "answer"),
  plot    = c("check", "fact", "study", "answer", "verb", "print"),
  report  = c("check", "fact", "study", "answer", "verb", "print", "plot"),
  plan    = c("check", "fact", "study", "answer", "verb", "print", "plot", "report"),
  cli     = c("check", "fact", "study", "answer", "verb", "print", "plot", "report", "plan")
)
core_packages <- "stats"
core_forbidden <- c(
  "stop", "warning", "message", "signalCondition", "cat", "print", "writeLines",
  "getOption", "options", "Sys.getenv", "Sys.time", "set.seed", "library", "require",
  "data.frame", "get", "do.call", "match.fun"
)

layer_of <- function(file) {
  name <- basename(file)
  if (name == "RcppExports.R") "native" else sub("-.*$", "", sub("[.]R$", "", name))
}

# One row a symbol: file, layer, line, token, text.
read_symbols <- function(dir) {
  files <- list.files(dir, "[.]R$", full.names = TRUE)
  tokens <- lapply(files, function(file) {
    data <- utils::getParseData(parse(file, keep.source = TRUE))
    data <- data[data$token %in% c("SYMBOL", "SYMBOL_FUNCTION_CALL", "SYMBOL_PACKAGE"), ]
    data.frame(
      file = rep(basename(file), nrow(data)), layer = rep(layer_of(file), nrow(data)),
      line = data$line1, token = data$token, text = data$text
    )
  })
  do.call(rbind, tokens)
}

# Named vector: top-level name -> layer that defines it.
read_definitions <- function(dir) {
  files <- list.files(dir, "[.]R$", full.names = TRUE)
  per_file <- lapply(files, function(file) {
    is_assignment <- function(e) is.call(e) && identical(e[[1]], quote(`<-`)) && is.symbol(e[[2]])
    assignments <- Filter(is_assignment, as.list(parse(file)))
    names <- vapply(assignments, function(e) as.character(e[[2]]), "")
    stats::setNames(rep(layer_of(file), length(names)), names)
  })
  do.call(c, per_file)
}

layer_violations <- function(dir, rules = layer_rules) {
  symbols <- read_symbols(dir)
  defined <- read_definitions(dir)
  unknown <- setdiff(unique(symbols$layer), names(rules))
  target <- unname(defined[symbols$text])
  crossing <- !is.na(target) & target != symbols$layer
  permitted <- mapply(function(from, to) to %in% rules[[from]], symbols$layer, target)
  in_core <- symbols$layer == "core"
  foreign <- in_core & symbols$token == "SYMBOL_PACKAGE" & !symbols$text %in% core_packages
  banned <- in_core & symbols$token == "SYMBOL_FUNCTION_CALL" & symbols$text %in% core_forbidden
  bad <- symbols[(crossing & !permitted) | foreign | banned, ]
  c(
    if (length(unknown)) paste0("no rule for layer '", unknown, "'"),
    if (nrow(bad)) sprintf("%s:%d (%s) uses %s", bad$file, bad$line, bad$layer, bad$text)
  )
}

package_source <- function() {
  skip_on_covr() # covr runs the tests far from the sources; every other run must find them
  candidates <- test_path(c("../../R", "../../00_pkg_src/vandro/R"))
  found <- candidates[file.exists(file.path(candidates, "core-moments.R"))]
  if (length(found) == 0) stop("The package's R sources were not found: the layering is unchecked.")
  found[[1]]
}

# Pairs of files, `from` calling what `to` defines.
file_calls <- function(dir) {
  files <- list.files(dir, "[.]R$", full.names = TRUE)
  defined <- unlist(lapply(files, function(file) {
    is_named <- function(e) is.call(e) && identical(e[[1]], quote(`<-`)) && is.symbol(e[[2]])
    names <- vapply(Filter(is_named, as.list(parse(file))), function(e) as.character(e[[2]]), "")
    stats::setNames(rep(basename(file), length(names)), names)
  }))
  symbols <- read_symbols(dir)
  calls <- data.frame(from = symbols$file, to = unname(defined[symbols$text]))
  unique(calls[!is.na(calls$to) & calls$from != calls$to, ])
}

# Groups of files of one layer that all reach each other by calls.
file_cycles <- function(dir) {
  calls <- file_calls(dir)
  calls <- calls[vapply(calls$to, layer_of, "") == vapply(calls$from, layer_of, ""), ]
  reach <- function(queue) {
    seen <- character()
    while (length(queue)) {
      queue <- setdiff(calls$to[calls$from %in% queue], seen)
      seen <- c(seen, queue)
    }
    seen
  }
  reached <- lapply(stats::setNames(nm = unique(calls$from)), reach)
  cycles <- lapply(names(reached), function(file) {
    sort(Filter(function(other) file %in% reached[[other]], reached[[file]]))
  })
  unique(cycles[lengths(cycles) > 1])
}

# Calls outside the catalogue and the core that list codes of methods or effect sizes: c("welch", "student"),
# c(welch = 1, student = 2), switch(method, welch = , student = ). What is listed there would be forgotten when a method
# is added.
literal_sets <- function(dir, codes) {
  files <- list.files(dir, "[.]R$", full.names = TRUE)
  files <- files[!vapply(files, layer_of, "") %in% c("fact", "core", "native")]
  listed <- function(e) {
    args <- as.list(e)[-1]
    texts <- unlist(Filter(is.character, args))
    if (identical(e[[1]], quote(switch))) texts <- NULL
    sum(unique(c(texts, names(args))) %in% codes)
  }
  walk <- function(e) {
    if (!is.call(e)) return(if (is.pairlist(e)) unlist(lapply(e, walk)))
    if (identical(e[[1]], quote(`function`))) return(c(walk(e[[2]]), walk(e[[3]])))
    own <- if (is.symbol(e[[1]]) && as.character(e[[1]]) %in% c("c", "switch") && listed(e) > 1) {
      substr(paste(deparse(e), collapse = " "), 1, 90)
    }
    c(own, unlist(lapply(as.list(e), function(part) if (!rlang::is_missing(part)) walk(part))))
  }
  unlist(lapply(files, function(file) {
    found <- unlist(lapply(as.list(parse(file)), walk))
    if (length(found)) paste0(basename(file), ": ", found)
  }))
}
