# The column by which rows are ordered contains numbers, dates or times, or text that can be read in one way only.

# These forms of text name a point in time. `parts` says what each group of the pattern captures.
time_of_day <- "(?:[T ]+([0-9]{1,2}):([0-9]{2})(?::([0-9]{2}(?:[.][0-9]+)?))? ?([AaPp][Mm])?(?:Z|[+]00:?00)?)?"
order_forms <- list(
  date = list(
    pattern = paste0("^([0-9]{4})[-/.]([0-9]{1,2})(?:[-/.]([0-9]{1,2}))?", time_of_day, "$"),
    parts = c("year", "month", "day", "hour", "minute", "second", "half"), example = "2026-03-31 or 2026-03-31 14:05"
  ),
  numbers = list(
    pattern = paste0("^([0-9]{1,2})([-/.])([0-9]{1,2})\\2([0-9]{4})", time_of_day, "$"),
    parts = c("one", "mark", "two", "year", "hour", "minute", "second", "half"),
    example = "31/03/2026 or 31.03.2026 14:05"
  ),
  name = list(
    pattern = paste0("^([0-9]{1,2})[-. ]+([A-Za-z]{3})[a-z]*[-. ]+([0-9]{4})", time_of_day, "$"),
    parts = c("day", "name", "year", "hour", "minute", "second", "half"), example = "31 March 2026"
  ),
  week = list(
    pattern = "^([0-9]{4})-?W([0-9]{2})(?:-?([1-7]))?$", parts = c("year", "week", "weekday"),
    example = "2026-W13 or 2026-W13-2"
  ),
  time = list(
    pattern = "^([0-9]{1,2}):([0-9]{2})(?::([0-9]{2}(?:[.][0-9]+)?))? ?([AaPp][Mm])?$",
    parts = c("hour", "minute", "second", "half"), example = "14:05 or 14:05:30"
  )
)

date_orders <- c("day_month", "month_day")

check_dates <- function(dates, call) if (!is.null(dates)) check_choice(dates, date_orders, call = call)

check_order <- function(column, dates, call) {
  if (is.null(column)) return(NULL)
  x <- column$values
  if (is.character(x) || (is.factor(x) && !is.ordered(x))) {
    x <- text_order(as.character(x), column$name, dates, call)
  } else if (is.ordered(x)) {
    x <- as.integer(x)
  }
  if (!is.numeric(x) && !inherits(x, c("Date", "POSIXct", "difftime"))) abort_order(x, column$name, 1L, call)
  if (anyNA(x)) abort_order(column$values, column$name, which(is.na(x))[[1]], call)
  column$values <- x
  column
}

abort_order <- function(x, name, row, call) {
  found <- if (is.na(x[[row]])) "nothing" else encodeString(format_plain(x[[row]]), quote = "\"")
  abort_vandro(
    c(
      "Order {.val {name}} must hold a number, date or time in every row.",
      "x" = "Row {row} holds {found}.",
      "i" = "Text is accepted in one of these forms: {accepted_forms()}."
    ),
    "order",
    column = name, row = row, call = call
  )
}

accepted_forms <- function() paste(vapply(order_forms, `[[`, "", "example"), collapse = "; ")

# Reads text as numbers, dates, points in time or times of day. All values must have one form.
text_order <- function(x, name, dates, call) {
  x <- trimws(as_utf8(x))
  x[!nzchar(x)] <- NA
  if (anyNA(x)) abort_order(x, name, which(is.na(x))[[1]], call)
  number <- text_number(x)
  if (!anyNA(number)) return(number)
  fits <- lapply(order_forms, function(form) grepl(form$pattern, x, perl = TRUE))
  share <- vapply(fits, mean, 0)
  form <- names(order_forms)[[which.max(share)]]
  if (max(share) < 1) abort_order(x, name, which(!fits[[form]])[[1]], call)
  parts <- text_parts(x, order_forms[[form]])
  if (form == "numbers") parts <- day_and_month(parts, x, name, dates, call)
  value <- point_in_time(parts)
  if (anyNA(value)) abort_order(x, name, which(is.na(value))[[1]], call)
  value
}

# Returns a data frame of what the pattern captures; a part that is not written is "".
text_parts <- function(x, form) {
  found <- do.call(rbind, regmatches(x, regexec(form$pattern, x, perl = TRUE)))
  stats::setNames(as.data.frame(found[, -1, drop = FALSE]), form$parts)
}

# The day is the number that exceeds 12 somewhere, or else the declared one. Dates with points have the day first.
day_and_month <- function(parts, x, name, dates, call) {
  one <- as.integer(parts$one)
  two <- as.integer(parts$two)
  possible <- c(day_month = all(two <= 12), month_day = all(one <= 12))
  form <- dates %||% if (sum(possible) == 1) names(which(possible)) else if (all(parts$mark == ".")) "day_month"
  if (is.null(form) && any(possible)) {
    abort_two_ways(
      name, "{.val {x[[1]]}} could name the day first or the month first.",
      "Say which: {.code dates = \"day_month\"} or {.code dates = \"month_day\"}.", call
    )
  }
  if (is.null(form)) {
    abort_two_ways(
      name, "In some rows the first number is above 12, in others the second.", "Write all of them alike.", call
    )
  }
  if (!possible[[form]]) {
    row <- which((if (form == "day_month") two else one) > 12)[[1]]
    abort_two_ways(
      name, "Row {row} holds {.val {x[[row]]}}, and {.arg dates} is {.val {form}}.",
      "Leave {.arg dates} out, or correct the row.", call
    )
  }
  parts$day <- if (form == "day_month") parts$one else parts$two
  parts$month <- if (form == "day_month") parts$two else parts$one
  parts
}

abort_two_ways <- function(name, found, way, call, .envir = parent.frame()) {
  abort_vandro(
    c("Order {.val {name}} must hold dates that can be read in one way only.", "x" = found, "i" = way), "order",
    column = name, call = call, .envir = .envir
  )
}

# Turns parts of dates and times into Date, POSIXct (in UTC) or difftime. 31 February becomes NA.
point_in_time <- function(parts) {
  number <- function(part) {
    text <- parts[[part]]
    if (is.null(text)) NULL else as.numeric(ifelse(nzchar(text), text, NA))
  }
  seconds <- seconds_of_day(number("hour"), number("minute"), number("second"), parts$half)
  if (is.null(parts$year)) return(as.difftime(seconds, units = "secs"))
  if (!is.null(parts$week)) return(week_start(number("year"), number("week"), number("weekday")))
  month <- if (is.null(parts$name)) number("month") else match(tolower(parts$name), tolower(month.abb))
  day <- number("day")
  day[is.na(day)] <- 1
  days <- as.Date(sprintf("%04.0f-%02.0f-%02.0f", number("year"), month, day), "%Y-%m-%d", optional = TRUE)
  if (all(!nzchar(parts$hour))) return(days)
  seconds[!nzchar(parts$hour)] <- 0
  as.POSIXct(as.numeric(days) * 86400 + seconds, origin = "1970-01-01", tz = "UTC")
}

seconds_of_day <- function(hour, minute, second, half) {
  if (is.null(hour)) return(NULL)
  halved <- nzchar(half)
  second[is.na(second)] <- 0
  wrong <- 60 * hour + minute + second / 60 > 1440 | minute > 59 | second >= 61 | (halved & (hour < 1 | hour > 12))
  hour <- ifelse(halved, hour %% 12 + 12 * (tolower(half) == "pm"), hour)
  ifelse(wrong, NA, 3600 * hour + 60 * minute + second)
}

# Returns the first or n-th day of a week of ISO 8601, in which week 1 contains the year's first Thursday.
week_start <- function(year, week, weekday) {
  fourth <- as.Date(sprintf("%04.0f-01-04", year))
  first_monday <- fourth - (as.integer(format(fourth, "%u")) - 1)
  weekday[is.na(weekday)] <- 1
  week[week < 1 | week > 53] <- NA
  monday <- first_monday + 7 * (week - 1)
  # A week belongs to the year of its Thursday; most years have no week 53.
  monday[format(monday + 3, "%Y") != sprintf("%04.0f", year)] <- NA
  monday + weekday - 1
}
