# Databases for the tests: SQLite inside R, and a PostgreSQL server of our own in a temporary folder.

sqlite <- function(..., envir = parent.frame()) {
  skip_if_not_installed("RSQLite")
  skip_if_not_installed("dbplyr")
  con <- DBI::dbConnect(RSQLite::SQLite(), ":memory:")
  withr::defer(DBI::dbDisconnect(con), envir = envir)
  write_tables(con, ...)
  con
}

write_tables <- function(con, ...) {
  tables <- list(...)
  for (name in names(tables)) DBI::dbWriteTable(con, name, tables[[name]])
  con
}

postgres_server <- new.env()

# The folder with the server's programs; "" where there is none.
postgres_programs <- function() {
  found <- c(dirname(Sys.which("initdb")), Sys.glob("/usr/lib/postgresql/*/bin"))
  found <- found[file.exists(file.path(found, "initdb")) & file.exists(file.path(found, "pg_ctl"))]
  if (length(found)) found[[length(found)]] else ""
}

# A server that refuses to run as root runs as the user its package made.
as_postgres <- function(program, args) {
  command <- file.path(postgres_programs(), program)
  if (Sys.info()[["effective_user"]] == "root") {
    args <- c("-u", "postgres", "--", command, args)
    command <- "runuser"
  }
  log <- file.path(postgres_server$dir, "commands.log")
  status <- system2(command, shQuote(args), stdout = log, stderr = log)
  if (status != 0) stop("PostgreSQL: ", paste(readLines(log), collapse = "\n"))
}

# Starts the server once; it stops when the tests end.
start_postgres <- function() {
  if (!is.null(postgres_server$dir)) return(invisible())
  postgres_server$dir <- tempfile("pg")
  dir.create(postgres_server$dir)
  # The server's user must get there, and write.
  Sys.chmod(c(dirname(postgres_server$dir), postgres_server$dir), c("0711", "0777"), use_umask = FALSE)
  data <- file.path(postgres_server$dir, "data")
  as_postgres("initdb", c("-D", data, "-U", "tests", "-A", "trust", "-E", "UTF8", "--no-sync", "--locale=C"))
  as_postgres("pg_ctl", c(
    "-D", data, "-w", "-l", file.path(postgres_server$dir, "server.log"), "-o",
    sprintf("-c listen_addresses='' -c unix_socket_directories='%s' -c fsync=off", postgres_server$dir), "start"
  ))
  # Also when the tests are interrupted: the server goes with its R session.
  reg.finalizer(postgres_server, onexit = TRUE, function(server) {
    as_postgres("pg_ctl", c("-D", data, "-m", "immediate", "-s", "stop"))
  })
}

postgres <- function(..., envir = parent.frame()) {
  skip_if_not_installed("RPostgres")
  skip_if_not_installed("dbplyr")
  skip_if(postgres_programs() == "", "PostgreSQL's server programs are not installed")
  start_postgres()
  # A machine without a time zone of its own would be asked for it, in vain.
  if (Sys.getenv("TZ") == "") withr::local_envvar(TZ = "UTC")
  con <- DBI::dbConnect(RPostgres::Postgres(), host = postgres_server$dir, user = "tests", dbname = "postgres")
  withr::defer(if (DBI::dbIsValid(con)) DBI::dbDisconnect(con), envir = envir)
  tables <- list(...)
  for (name in names(tables)) DBI::dbWriteTable(con, name, tables[[name]], temporary = TRUE)
  con
}

# Both of them, for what must be the same everywhere.
engines <- list(SQLite = sqlite, PostgreSQL = postgres)

lazy <- function(con, name) dplyr::tbl(con, name)
