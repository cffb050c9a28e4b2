# This file guesses what the columns of a data frame are, and which comparison they suggest.

# Returns "measurement", "labels" (few different words), "codes" (few whole numbers), "key" (names of units), "time" or
# "other" for every column.
column_roles <- function(data, most = 200) {
  shown <- as.list(data)[seq_len(min(most, ncol(data)))]
  vapply(shown, column_role, "")
}

column_role <- function(x) {
  if (!is.atomic(x) || !is.null(dim(x))) return("other")
  if (inherits(x, c("Date", "POSIXct"))) return("time")
  if (is.character(x)) x <- without_blanks(x)
  known <- x[!is.na(x)]
  if (length(unique(known)) < 2) "other" else if (is.numeric(x)) number_role(known) else word_role(as.character(known))
}

number_role <- function(x) {
  if (any(abs(x) >= largest_code | x != round(x))) return("measurement")
  different <- length(unique(x))
  if (different == length(x) && diff(range(x)) == different - 1) return("key")
  if (different <= min(10, length(x) / 3)) "codes" else "measurement"
}

word_role <- function(x) {
  different <- length(unique(x))
  times <- vapply(order_forms, function(form) all(grepl(form$pattern, utils::head(x, 50), perl = TRUE)), NA)
  if (any(times)) return("time")
  if (different <= min(12, length(x) / 2)) "labels" else "key"
}

# Returns the arguments of a declaration as text by name, with `paired`, or NULL if nothing suggests itself.
proposed_question <- function(data, most = 1e5) {
  # A look at the first rows spares large files.
  if (nrow(data) > most) data <- utils::head(data, most)
  roles <- column_roles(data)
  of <- function(role) names(roles)[roles == role]
  measured <- of("measurement")
  if (length(measured) == 0) return(NULL)
  by <- proposed_groups(data, of("labels"), of("codes"))
  if (!is.null(by)) {
    id <- proposed_key(data, by, of("key"))
    return(c(list(paired = length(id) > 0, outcome = measured[[1]]), by, if (length(id)) list(id = id)))
  }
  if (length(measured) == 1) {
    # Changes go both ways; a column of anything else has too little beside it.
    values <- data[[measured]]
    return(if (any(values < 0, na.rm = TRUE) && any(values > 0, na.rm = TRUE)) list(paired = TRUE, change = measured))
  }
  two <- measured[1:2]
  key <- of("key")[vapply(of("key"), function(name) !anyNA(data[[name]]) && !anyDuplicated(data[[name]]), NA)]
  correlated <- !is.null(note_row_correlation(data[[two[[1]]]], data[[two[[2]]]], two))
  paired <- length(key) > 0 || correlated
  c(list(paired = paired, first = two[[1]], second = two[[2]]), if (paired && length(key)) list(id = key[[1]]))
}

# Returns the key of pairs in long data: it has no value twice in a group, and most values in both groups.
proposed_key <- function(data, by, keys) {
  label <- group_text(plain_codes(data[[by$by]], by$by, NULL))
  is_key <- function(name) {
    halves <- lapply(by$groups, function(group) data[[name]][label %in% group])
    both <- length(intersect(halves[[1]], halves[[2]]))
    !any(vapply(halves, anyDuplicated, 0L) > 0) && both > length(unique(unlist(halves))) / 2
  }
  utils::head(Filter(is_key, keys), 1)
}

# Returns the column of groups and its first two groups. Two labels are preferred to more, and words to codes.
proposed_groups <- function(data, labels, codes) {
  groups_in <- function(name) found_groups(plain_codes(data[[name]], name, NULL))$label
  count <- vapply(c(labels, codes), function(name) length(groups_in(name)), 0L)
  at <- which(count >= 2 & !(names(count) %in% codes & count > 2))
  if (length(at) == 0) return(NULL)
  name <- names(count)[at[order(count[at] != 2)]][[1]]
  list(by = name, groups = groups_in(name)[1:2])
}

# Returns the declaration as R code; `data` is the name of the data frame.
declaration_code <- function(question, data) {
  named <- setdiff(names(question), c("paired", "groups"))
  columns <- vapply(question[named], function(name) paste(code_names(name), collapse = ", "), "")
  several <- lengths(question[named]) > 1
  columns[several] <- sprintf("c(%s)", columns[several])
  leading <- named %in% c("outcome", "by", "first", "second", "change") | (named == "id" & "by" %in% named)
  if (!isTRUE(question$paired)) leading <- named %in% c("outcome", "by")
  columns[!leading] <- paste(named[!leading], "=", columns[!leading])
  groups <- if (!is.null(question$groups)) {
    label <- names(question$groups)
    quoted <- encodeString(question$groups, quote = "\"")
    if (!is.null(label)) quoted <- paste(code_names(label), "=", quoted)
    sprintf("groups = c(%s)", toString(quoted))
  }
  sprintf("%s(%s)", if (isTRUE(question$paired)) "versus_paired" else "versus", toString(c(data, columns, groups)))
}
