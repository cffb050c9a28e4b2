# The record of a plan: one line per field, so that one change is one line; its fingerprint; and how two differ.

# Named text: "height.difference.alpha" = "0.05".
plan_record <- function(fields) {
  walk <- function(value, path) {
    if (is.list(value) && length(value)) {
      return(unlist(lapply(names(value), function(key) walk(value[[key]], c(path, key)))))
    }
    stats::setNames(if (is.list(value)) "yes" else yaml_value(value), paste(short_path(path), collapse = "."))
  }
  walk(fields, character())
}

# Without the words that only group: comparisons.height.ask.difference is height.difference.
short_path <- function(path) {
  if (path[[1]] == "comparisons") path <- path[-1]
  if (length(path) > 1 && path[[2]] == "ask") path <- path[-2]
  path
}

# The fields of one question by their own names; none where it has its defaults.
question_record <- function(plan, name, question) {
  lead <- paste0(name, ".", question, ".")
  own <- plan$record[startsWith(names(plan$record), lead)]
  stats::setNames(own, substring(names(own), nchar(lead) + 1))
}

# What decides no number: words, looks, and what is said about the plan itself.
fields_without_numbers <- paste0(
  "^(title|author|text|departs_from|conventions|(declared|departures|outputs)[.].*|data[.][^.]+[.]fingerprint",
  "|conventions[.](name|numbers|figures|size_words|size_source).*|[^.]+[.](heading|label|unit)([.].*)?)$"
)

# A file is the same in another folder; whether its bytes are is another question (data_rows()). What a file of
# conventions holds counts in the fingerprint.
deciding <- function(record) {
  record <- record[!grepl(fields_without_numbers, names(record))]
  files <- grep("^data[.][^.]+[.]file$", names(record))
  record[files] <- basename(gsub("\"", "", record[files], fixed = TRUE))
  record
}

# Of the fields in the order of their names: moving a line changes nothing. A file of conventions counts by its content.
plan_fingerprint <- function(plan) {
  record <- deciding(plan$record)
  house <- if (is.character(plan$fields$conventions)) house_record(plan$house)
  lines <- sorted_text(paste0(names(record), ": ", record))
  substr(cli::hash_md5(paste(enc2utf8(c(lines, house)), collapse = "\n")), 1, 12)
}

# What of the house's conventions decides numbers.
house_record <- function(house) {
  decided <- keep_given(unclass(house)[c("level", "alpha", "method", "checks")])
  unlist(lapply(names(decided), function(key) {
    value <- unlist(rapply(as.list(decided[[key]]), exact_number, "numeric", how = "replace"))
    paste(key, names(value), value)
  }))
}

# Rows of fields that differ: field, first, second; NA where one has no such field.
record_differences <- function(first, second) {
  fields <- union(names(first), names(second))
  same <- vapply(fields, function(field) identical(unname(first[field]), unname(second[field])), NA)
  fields <- fields[!same]
  data.frame(field = fields, first = unname(first[fields]), second = unname(second[fields]))
}

# --- YAML of values -------------------------------------------------------------------------------------------------

# One value on one line: what read_yaml() reads back as the same.
yaml_value <- function(x) {
  if (is.list(x)) {
    inner <- vapply(x, yaml_value, "")
    return(sprintf("{%s}", paste0(yaml_text_of(names(x)), ": ", inner, collapse = ", ")))
  }
  texts <- if (is.logical(x)) ifelse(x, "yes", "no") else if (is.numeric(x)) exact_number(x) else yaml_text_of(x)
  if (!is.null(names(x))) return(sprintf("{%s}", paste0(yaml_text_of(names(x)), ": ", texts, collapse = ", ")))
  if (length(x) == 1) texts else sprintf("[%s]", paste(texts, collapse = ", "))
}

# Text that could be read as anything else stands in double quotes.
yaml_text_of <- function(x) {
  plain <- grepl("^[A-Za-z/][A-Za-z0-9 _./()%^-]*$", x) & !grepl(" $", x) &
    !tolower(printable(x)) %in% c("yes", "no", "true", "false", "null", "y", "n", "on", "off")
  quoted <- gsub("\\", "\\\\", x, fixed = TRUE)
  quoted <- gsub("\"", "\\\"", quoted, fixed = TRUE)
  quoted <- gsub("\n", "\\n", gsub("\t", "\\t", gsub("\r", "\\r", quoted, fixed = TRUE), fixed = TRUE), fixed = TRUE)
  # Other control characters, and line ends that only YAML knows.
  for (code in c(1:8, 11:12, 14:31, 127, 0x85, 0x2028, 0x2029)) {
    quoted <- gsub(intToUtf8(code), sprintf("\\u%04x", code), quoted, fixed = TRUE)
  }
  ifelse(plain, x, paste0("\"", quoted, "\""))
}

# A whole mapping, in lines; what is short stands on one line, questions and entries on their own.
yaml_block <- function(fields, indent = 0) {
  pad <- strrep(" ", indent)
  unlist(lapply(names(fields), function(key) {
    value <- fields[[key]]
    lead <- paste0(pad, yaml_text_of(key), ":")
    if (is.list(value) && length(value) == 0) return(paste(lead, "yes"))
    if (is.list(value)) return(c(lead, yaml_block(value, indent + 2)))
    paste(lead, yaml_value(value))
  }))
}
