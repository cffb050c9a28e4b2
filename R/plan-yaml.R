# YAML as plain data: every scalar stays the text that stands in the file ("No", "01", "1.50"), and what is wanted in
# its place decides what it becomes. Nothing is evaluated; tags, anchors and aliases are refused.

# list(tree, lines): the values, and the line of every key by its path.
read_yaml <- function(file, kind, example, call) {
  need_package("yaml", "to read plans and conventions", call)
  lines <- read_yaml_lines(file, kind, call)
  source <- list(file = file, kind = kind, example = example, call = call)
  bare <- without_texts(lines)
  refuse_depth(bare, source)
  refuse_extras(without_texts(lines, "x"), source)
  source$lines <- key_lines(bare, source)
  source$tree <- parse_yaml(lines, source)
  source
}

# A plan is read by people: a larger file is something else.
largest_yaml <- 2^20

read_yaml_lines <- function(file, kind, call) {
  file <- check_readable(file, call)
  if (file.size(file) > largest_yaml) {
    abort_vandro(
      c("File {.file {file}} is too large for {kind}.", "x" = "It has more than 1 MB."), "plan",
      file = file, call = call
    )
  }
  bytes <- readBin(file, "raw", file.size(file))
  if (length(bytes) > 2 && identical(as.integer(bytes[1:3]), c(0xEFL, 0xBBL, 0xBFL))) bytes <- bytes[-(1:3)]
  if (any(bytes == 0)) abort_encoding_of_plan(file, kind, NULL, call)
  text <- gsub("\r\n?", "\n", rawToChar(bytes), useBytes = TRUE)
  lines <- strsplit(text, "\n", fixed = TRUE, useBytes = TRUE)[[1]]
  Encoding(lines) <- "UTF-8"
  wrong <- which(!validUTF8(lines))
  if (length(wrong)) abort_encoding_of_plan(file, kind, wrong[[1]], call)
  lines
}

abort_encoding_of_plan <- function(file, kind, line, call) {
  where <- if (is.null(line)) "It holds bytes of zero, as UTF-16 does." else "Line {line} is not."
  abort_vandro(
    c("File {.file {file}} must be text in UTF-8 to be {kind}.", "x" = where, "i" = "Save it as UTF-8 and try again."),
    "encoding",
    file = file, line = line, call = call
  )
}

# "file, line 12: ..."; `path` says where, `line` does if there is none.
abort_plan <- function(source, path, message, ..., line = line_of(source, path), .envir = parent.frame()) {
  file <- source$file
  place <- cli::format_inline(if (is.null(line)) "{.file {file}}" else "{.file {file}}, line {line}")
  said <- vapply(message, function(part) cli::format_inline(part, .envir = .envir), "")
  said[[1]] <- paste0(place, ": ", said[[1]])
  # Finished text goes in by name: what stands in a file is no template.
  abort_vandro(
    stats::setNames(sprintf("{said[[%d]]}", seq_along(said)), names(message)), "plan",
    file = file, line = line, path = path, ..., call = source$call
  )
}

# The deepest place above `path` of which the line is known: what stands in braces has no lines of its own.
line_of <- function(source, path) {
  while (length(path)) {
    at <- match(path_key(path), names(source$lines))
    if (!is.na(at)) return(source$lines[[at]])
    path <- path[-length(path)]
  }
  NULL
}

path_key <- function(path) paste(path, collapse = "\n")

# Quoted texts (as so many `fill`), texts in blocks, and comments taken out, so that what is left is structure.
without_texts <- function(lines, fill = " ") {
  quote <- ""
  block <- -1
  for (i in seq_along(lines)) {
    indent <- attr(regexpr("^ *", lines[[i]]), "match.length")
    if (block >= 0 && !nzchar(quote)) {
      if (indent > block || !nzchar(trimws(lines[[i]]))) {
        lines[[i]] <- ""
        next
      }
      block <- -1
    }
    bare <- without_quotes(lines[[i]], quote, fill)
    quote <- bare$quote
    lines[[i]] <- bare$text
    if (grepl("(^|[:-]\\s+)[|>][-+0-9]*\\s*$", bare$text)) block <- indent
  }
  lines
}

# One line without what stands in quotes; `quote` is the one that is still open from the line before.
without_quotes <- function(line, quote, fill) {
  letters <- strsplit(line, "")[[1]]
  last <- ""
  i <- 1
  while (i <= length(letters)) {
    letter <- letters[[i]]
    if (nzchar(quote)) {
      escaped <- quote == "\"" && letter == "\\"
      if (letter == quote) quote <- ""
      letters[[i]] <- fill
      if (escaped && i < length(letters)) letters[[i <- i + 1]] <- fill
      last <- "x"
    } else if (letter %in% c("\"", "'") && last %in% c("", ":", ",", "[", "{", "-", "?")) {
      quote <- letter
      letters[[i]] <- fill
    } else if (letter == "#" && (i == 1 || letters[[i - 1]] %in% c(" ", "\t"))) {
      letters <- letters[seq_len(i - 1)]
    } else if (!letter %in% c(" ", "\t")) {
      last <- letter
    }
    i <- i + 1
  }
  list(text = paste(letters, collapse = ""), quote = quote)
}

refuse_extras <- function(bare, source) {
  # Where a value begins: after a dash or a key, and in brackets after each of their signs.
  block <- "^\\s*(-\\s+)*([^\\s:][^:]*:\\s+)?"
  flow <- "[\\[{,:]\\s*"
  extras <- list(
    list("!", "a tag (!)", "Nothing in it is evaluated: write the value itself; text that begins so stands in quotes."),
    list("[&*][^ ]", "an anchor or alias (&, *)", "Write the value itself; text that begins so stands in quotes."),
    list("<<\\s*:", "a merged mapping (<<)", "Write the keys themselves."),
    list("\\?\\s", "a key of several parts (?)", "Write a key, a colon and its value.")
  )
  braces <- in_brackets(bare)
  for (extra in extras) {
    at <- grepl(paste0(block, extra[[1]]), bare, perl = TRUE) |
      (braces & grepl(paste0(flow, extra[[1]]), bare, perl = TRUE))
    if (any(at)) refuse_extra(source, extra[[2]], extra[[3]], which(at)[[1]])
  }
  directive <- grep("^%", bare)
  if (length(directive)) refuse_extra(source, "a directive (%)", "Remove the line.", directive[[1]])
  documents <- grep("^(---|\\.\\.\\.)", bare)
  before <- vapply(documents, function(at) any(nzchar(trimws(bare[seq_len(at - 1)]))), NA)
  if (any(before)) refuse_extra(source, "a second document", "One file holds one.", documents[before][[1]])
}

# Brackets within brackets: a plan has three or four, and thousands would keep the parser busy for ever.
most_brackets <- 20

refuse_depth <- function(bare, source) {
  depth <- 0
  for (i in seq_along(bare)) {
    signs <- utf8ToInt(bare[[i]])
    deep <- depth + cumsum((signs %in% c(91, 123)) - (signs %in% c(93, 125)))
    if (any(deep > most_brackets)) {
      refuse_extra(source, sprintf("more than %d brackets within each other", most_brackets), "Remove some.", i)
    }
    if (length(deep)) depth <- max(0, deep[[length(deep)]])
  }
}

refuse_extra <- function(source, what, hint, line) {
  kind <- source$kind
  abort_plan(source, NULL, c("here stands {what}, which {kind} cannot have.", "i" = "{hint}"), line = line)
}

# Lines on which a list in brackets or a mapping in braces begins or goes on.
in_brackets <- function(bare) {
  count <- function(line, signs) lengths(regmatches(line, gregexpr(signs, line)))
  depth <- 0
  vapply(bare, function(line) {
    inside <- depth > 0 || grepl("^\\s*(-\\s+)*([^\\s:][^:]*:\\s+)?[\\[{]", line, perl = TRUE)
    if (inside) depth <<- max(0, depth + count(line, "[[{]") - count(line, "[]}]"))
    inside
  }, NA, USE.NAMES = FALSE)
}

# Lines of the keys of block mappings, by path. A key that comes twice is an error here, where its lines are known.
key_lines <- function(bare, source) {
  found <- regmatches(bare, regexec("^((?:\\s|- )*)([^\\s:#\\[{\"'][^:#]*?)\\s*:(?:\\s|$)", bare, perl = TRUE))
  lines <- list()
  indents <- integer()
  path <- character()
  for (at in which(lengths(found) > 0)) {
    indent <- nchar(found[[at]][[2]])
    keep <- indents < indent
    indents <- c(indents[keep], indent)
    path <- c(path[keep], found[[at]][[3]])
    key <- path_key(path)
    in_list <- grepl("-", found[[at]][[2]], fixed = TRUE)
    if (!in_list && !is.null(lines[[key]])) {
      name <- path[[length(path)]]
      first <- lines[[key]]
      abort_plan(source, path, c(
        "the key {.val {name}} stands here a second time.",
        "x" = "The first time is line {first}.", "i" = "Keep one."
      ), line = at)
    }
    lines[[key]] <- at
  }
  lines
}

parse_yaml <- function(lines, source) {
  kinds <- c(
    "bool#yes", "bool#no", "int", "int#hex", "int#oct", "int#base60", "float", "float#fix", "float#exp", "float#nan",
    "float#inf", "float#neginf", "float#base60", "timestamp", "timestamp#iso8601", "timestamp#spaced", "timestamp#ymd",
    "str", "seq"
  )
  handlers <- stats::setNames(rep(list(identity), length(kinds)), kinds)
  # No value is told from the text "NA" by its type.
  handlers$null <- function(x) NA
  text <- paste(c(lines, ""), collapse = "\n")
  tree <- rlang::try_fetch(
    # A list in the place of a key is warned of, and refused below.
    suppressWarnings(yaml::yaml.load(text, handlers = handlers, eval.expr = FALSE, merge.precedence = "override")),
    error = function(e) {
      said <- conditionMessage(e)
      line <- as.integer(sub("^.*at line ([0-9]+).*$", "\\1", grep("at line", said, value = TRUE)))
      key <- if (startsWith(said, "Duplicate map key")) "A key stands twice: {said}" else "{said}"
      abort_plan(source, NULL, c("the file is not whole YAML.", "x" = key), line = if (length(line)) line[[1]])
    }
  )
  if (is.list(tree) && !is.null(names(tree))) return(tree)
  kind <- source$kind
  abort_plan(source, NULL, c(
    if (is.null(tree)) "there is nothing in it." else "keys with values are needed.",
    "i" = "The first line of {kind} may be {.code {source$example}}."
  ))
}
