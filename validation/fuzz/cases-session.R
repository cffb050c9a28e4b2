# Kinds of cases about what surrounds a question: tables of other packages, formats of files, and where results go.

# A table that is changed in place after the declaration: the study is about the values that were declared.
reference_case <- function() {
  n <- sample(6:30, 1)
  data <- data.table::data.table(
    height = round(stats::rnorm(n, 20, 3), pick(0, 1, 5)), group = rep_len(c("compost", "peat"), n), hour = seq_len(n),
    noon = stats::rnorm(n), dawn = stats::rnorm(n)
  )
  paired <- chance(0.4)
  method <- some(if (paired) c("paired", "signed_ranks", "permutation") else c("welch", "ranks", "permutation"), 1)
  drawn <- if (method == "permutation") list(draws = 99, seed = 1)
  ask <- function(study) as.data.frame(do.call(test_difference, c(list(study, method), drawn)))
  judge(function() {
    declare <- function() if (paired) versus_paired(data, noon, dawn) else versus(data, height, group)
    study <- declare()
    before <- tryCatch(ask(study), vandro_error = function(e) conditionMessage(e))
    for (name in c("height", "noon")) data.table::set(data, j = name, value = -3 * data[[name]] + seq_len(n))
    data.table::setorderv(data, "dawn")
    after <- tryCatch(ask(study), vandro_error = function(e) conditionMessage(e))
    if (!identical(before, after)) stop("the study changed with its table")
    study
  })
}

# --- formats of files ----------------------------------------------------------------------------------------

sheet_cell <- function(value, at) {
  if (is.na(value)) return("")
  if (inherits(value, "Date")) return(sprintf('<c r="%s" s="1"><v>%d</v></c>', at, 25569L + as.integer(value)))
  if (is.numeric(value)) return(sprintf('<c r="%s"><v>%.17g</v></c>', at, value))
  text <- gsub(">", "&gt;", gsub("<", "&lt;", gsub("&", "&amp;", value, fixed = TRUE), fixed = TRUE), fixed = TRUE)
  sprintf('<c r="%s" t="inlineStr"><is><t xml:space="preserve">%s</t></is></c>', at, text)
}

# A spreadsheet of plain cells, as small as its readers allow.
write_sheet <- function(data, file) {
  folder <- tempfile("sheet")
  on.exit(unlink(folder, recursive = TRUE))
  for (part in c("_rels", "xl/_rels", "xl/worksheets")) dir.create(file.path(folder, part), recursive = TRUE)
  put <- function(part, ...) writeLines(enc2utf8(paste0(...)), file.path(folder, part), useBytes = TRUE)
  office <- "http://schemas.openxmlformats.org/"
  kind <- "application/vnd.openxmlformats-"
  put(
    "[Content_Types].xml", '<Types xmlns="', office, 'package/2006/content-types">',
    '<Default Extension="rels" ContentType="', kind, 'package.relationships+xml"/>',
    '<Override PartName="/xl/workbook.xml" ContentType="', kind,
    'officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="', kind,
    'officedocument.spreadsheetml.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="', kind,
    'officedocument.spreadsheetml.styles+xml"/></Types>'
  )
  related <- function(type, target) {
    about <- paste0(office, "officeDocument/2006/relationships/", type)
    each <- sprintf('<Relationship Id="%s" Type="%s" Target="%s"/>', type, about, target)
    paste0('<Relationships xmlns="', office, 'package/2006/relationships">', paste(each, collapse = ""), "</Relationships>")
  }
  put("_rels/.rels", related("officeDocument", "xl/workbook.xml"))
  put("xl/_rels/workbook.xml.rels", related(c("worksheet", "styles"), c("worksheets/sheet1.xml", "styles.xml")))
  main <- paste0('xmlns="', office, 'spreadsheetml/2006/main"')
  put(
    "xl/workbook.xml", "<workbook ", main, ' xmlns:r="', office, 'officeDocument/2006/relationships"><sheets>',
    '<sheet name="one" sheetId="1" r:id="worksheet"/></sheets></workbook>'
  )
  put("xl/styles.xml", "<styleSheet ", main, '><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></styleSheet>')
  cells <- c(list(names(data)), lapply(seq_len(nrow(data)), function(i) lapply(data, `[[`, i)))
  rows <- vapply(seq_along(cells), function(i) {
    at <- paste0(LETTERS[seq_along(cells[[i]])], i)
    sprintf('<row r="%d">%s</row>', i, paste(mapply(sheet_cell, cells[[i]], at), collapse = ""))
  }, "")
  body <- paste(rows, collapse = "")
  put("xl/worksheets/sheet1.xml", "<worksheet ", main, "><sheetData>", body, "</sheetData></worksheet>")
  file <- file.path(normalizePath(dirname(file)), basename(file))
  old <- setwd(folder)
  on.exit(setwd(old), add = TRUE, after = FALSE)
  unlink(file)
  utils::zip(file, list.files(recursive = TRUE, all.files = TRUE), "-qrX")
}

# One table in four formats: read alike, or refused alike. What a text file cannot hold (blanks at the ends, the text
# "NA") is left out of it.
formats_case <- function() {
  n <- pick(3, 10, 40, 1200)
  words <- c("compost", "peat", "na\u00efve", "a \"b\" c", "x,y", "a;b", "<b>", "007x")
  late <- function(x) if (chance(0.4)) replace(as.character(x), n, pick("n/a", "2026-03-02", "3,5")) else x
  data <- data.frame(
    height = late(pick(round(stats::rnorm(n, 20, 3), 2), stats::rnorm(n), sample(1e6, n), 1e5 * seq_len(n))),
    group = rep_len(some(words, 2), n),
    code = rep_len(pick(c("01", "02"), c("9007199254740993", "9007199254740992")), n)
  )
  if (chance(0.3)) data$late <- c(rep(NA, n - 1), pick(1.5, "text"))
  if (chance(0.3)) data$day <- as.Date("2026-03-02") + seq_len(n)
  if (chance(0.3)) data$height[sample.int(n - 1, 1)] <- NA
  folder <- folder_of_cases()
  files <- file.path(folder, paste0("data.", c("csv", "xlsx", "parquet", "rds")))
  on.exit(unlink(files))
  data.table::fwrite(data, files[[1]], quote = TRUE, na = "")
  if (n > 1000 && chance(0.7)) files <- files[-2] else write_sheet(data, files[[2]])
  parquet <- grep("parquet", files, value = TRUE)
  if (requireNamespace("nanoparquet", quietly = TRUE)) nanoparquet::write_parquet(data, parquet)
  saveRDS(data, grep("rds", files, value = TRUE))
  judge(function() {
    read <- lapply(files[file.exists(files)], function(file) {
      found <- read_measurements(file, quiet = TRUE)
      # A column without values has no type in text.
      lapply(as.list(found), function(x) {
        if (all(is.na(x))) NA else if (is.numeric(x)) as.double(x) else as.character(x)
      })
    })
    for (other in read[-1]) {
      if (!isTRUE(all.equal(read[[1]], other, tolerance = 1e-14))) {
        stop("formats differ: ", paste(utils::head(all.equal(read[[1]], other), 2), collapse = "; "))
      }
    }
    ask <- function(frame) {
      tryCatch(
        signif(test_difference(versus(as.data.frame(frame), height, group))$table$p, 12),
        vandro_error = function(e) class(e)[[1]]
      )
    }
    found <- lapply(read, ask)
    if (length(unique(found)) > 1) stop("formats differ in their answer: ", paste(found, collapse = ", "))
    NULL
  })
}

# --- where results go ----------------------------------------------------------------------------------------

# Files that are there, links, devices, folders and the data themselves as the place of a result.
output_case <- function() {
  folder <- tempfile("out", folder_of_cases())
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE))
  input <- file.path(folder, "input.csv")
  file.copy(system.file("extdata", "seedlings.csv", package = "vandro"), input)
  ending <- pick("csv", "json", "md", "txt", "tex")
  old <- file.path(folder, paste0("old.", ending))
  writeLines("old", old)
  Sys.chmod(old, "640", use_umask = FALSE)
  link <- file.path(folder, paste0("link.", ending))
  file.symlink(basename(old), link)
  loose <- file.path(folder, paste0("loose.", ending))
  file.symlink("nowhere.csv", loose)
  hard <- file.path(folder, paste0("hard.", ending))
  file.link(input, hard)
  target <- pick(
    file.path(folder, paste0("new.", ending)), old, link, loose, hard, input, "/dev/full", "/dev/null", folder,
    file.path(folder, "none", "x.csv")
  )
  overwrite <- chance(0.5)
  before <- tools::md5sum(input)
  done <- FALSE
  wrong <- judge(function() {
    study <- versus(read_measurements(input, quiet = TRUE), height, substrate, groups = c("compost", "peat"))
    if (ending %in% c("csv", "json")) {
      export_answer(test_difference(study), target, overwrite = overwrite)
    } else {
      results_table(study, file = target, overwrite = overwrite)
    }
    done <<- TRUE
    NULL
  })
  c(
    wrong,
    if (!identical(before, tools::md5sum(input))) "the data were written over",
    if (!identical(Sys.readlink(link), basename(old))) "a link was replaced",
    if (!overwrite && !identical(readLines(old, 1), "old")) "a file was replaced unasked",
    if (!identical(format(file.info(old)$mode), "640")) "permissions changed",
    if (done && !overwrite && identical(target, old)) "a file was to be replaced without a word",
    if (length(list.files(folder, "^[.]vandro", all.files = TRUE))) "a draft was left"
  )
}

# Two processes write one file, or one folder, at once: each result is whole, and none is replaced unasked.
race_case <- function() {
  folder <- tempfile("race", folder_of_cases())
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE))
  plan <- file.path(folder, "plan.yaml")
  writeLines(plan_lines("height"), plan)
  folders <- chance(0.3)
  target <- file.path(folder, if (folders) "results" else "out.json")
  overwrite <- chance(0.5)
  study <- suppressMessages(versus(seedlings, height, substrate, groups = c("compost", "peat")))
  write <- function() {
    tryCatch(
      {
        if (folders) {
          run_plan(plan, target, overwrite = overwrite, quiet = TRUE, date = "2026-06-30")
        } else {
          export_answer(test_difference(study), target, overwrite = overwrite)
        }
        "done"
      },
      vandro_error_file_exists = function(e) "kept", error = function(e) paste(class(e)[[1]], conditionMessage(e))
    )
  }
  last_outcome$answered <- TRUE
  jobs <- list(parallel::mcparallel(write(), silent = TRUE), parallel::mcparallel(write(), silent = TRUE))
  said <- unlist(parallel::mccollect(jobs))
  whole <- tryCatch(
    {
      jsonlite::fromJSON(if (folders) file.path(target, "results.json") else target)
      TRUE
    },
    error = function(e) FALSE
  )
  broken <- setdiff(said, c("done", "kept"))
  c(
    if (length(broken)) paste("a writer broke:", broken[[1]]),
    if (!overwrite && sum(said == "done") > 1) "both wrote without being asked to replace",
    if ("done" %in% said && !whole) "the result is not whole",
    if (length(list.files(folder, "^[.]", all.files = TRUE, no.. = TRUE))) "something was left behind"
  )
}

kinds <- list(
  study = study_case, junk = junk_case, summary = summary_case, world = world_case, audit = audit_case,
  file = file_case, plan = plan_case, command = command_case, database = database_case, reference = reference_case,
  formats = formats_case, output = output_case, race = race_case
)
kind_weights <- c(
  study = 44, junk = 10, summary = 12, world = 4, audit = 4, file = 8, plan = 6, command = 4, database = 1,
  reference = 1, formats = 1, output = 2.5, race = 0.3
)
