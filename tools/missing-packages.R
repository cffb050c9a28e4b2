# Prints the packages that DESCRIPTION and the developers' tools need and that are not installed, in
# lower case as Debian names them; with the argument "install" installs them from CRAN. Other arguments are further
# packages, for tools that few want.
arguments <- commandArgs(trailingOnly = TRUE)
needed <- function() {
  fields <- read.dcf("DESCRIPTION", fields = c("Imports", "LinkingTo", "Suggests"))
  names <- trimws(sub("[(].*$", "", unlist(strsplit(fields[!is.na(fields)], ","))))
  sort(unique(c(names, "lintr", "roxygen2", setdiff(arguments, "install"))))
}
user_library <- Sys.getenv("R_LIBS_USER")
if (file.access(.libPaths()[[1]], 2) != 0 && nzchar(user_library)) {
  dir.create(user_library, recursive = TRUE, showWarnings = FALSE)
  .libPaths(c(user_library, .libPaths()))
}
missing <- Filter(function(name) length(find.package(name, quiet = TRUE)) == 0, needed())
if (length(missing) && "install" %in% arguments) {
  cat("setup: installing from CRAN:", missing, "\n")
  repos <- getOption("repos")
  if (identical(unname(repos["CRAN"]), "@CRAN@")) chooseCRANmirror(ind = 1, local.only = TRUE)
  Sys.setenv(MAKEFLAGS = paste0("-j", max(1, parallel::detectCores())))
  install.packages(missing, quiet = TRUE)
  lacking <- Filter(function(name) length(find.package(name, quiet = TRUE)) == 0, missing)
  # Readers of single file formats, and the way to one kind of database: everything else works, and is tested, without.
  optional <- intersect(lacking, c("nanoparquet", "readxl", "RPostgres"))
  if (length(optional)) cat("setup: going on without", optional, "(one file format, or database, less)\n")
  lacking <- setdiff(lacking, optional)
  if (length(lacking)) stop("could not install: ", paste(lacking, collapse = ", "))
} else if (length(missing)) {
  writeLines(tolower(missing))
}
