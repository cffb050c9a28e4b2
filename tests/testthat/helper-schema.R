# Files of JSON against the package's schemas, by the validator of Python's jsonschema; character() where all is well.
schema_faults <- function(...) {
  knows <- function(python) {
    file.exists(python) && system2(python, c("-c", shQuote("import jsonschema")), stdout = FALSE, stderr = FALSE) == 0
  }
  # The first on the path may be one without packages.
  python <- Filter(knows, unique(c(Sys.which("python3"), "/usr/bin/python3")))
  skip_if(length(python) == 0, "Python with jsonschema (JSON schemas unchecked)")
  python <- python[[1]]
  script <- withr::local_tempfile(fileext = ".py", lines = c(
    "import json, os, sys, warnings",
    "warnings.simplefilter('ignore')",
    "import jsonschema",
    "folder, files = sys.argv[1], sys.argv[2:]",
    "read = lambda name: json.load(open(name, encoding='utf-8'))",
    "store = {name: read(os.path.join(folder, name)) for name in os.listdir(folder)}",
    "for schema in store.values():",
    "    jsonschema.Draft7Validator.check_schema(schema)",
    "for name in files:",
    "    found = read(name)",
    "    schema = store[found['layout'].replace('vandro-', '') + '-1.json']",
    "    resolver = jsonschema.RefResolver('', schema, store=store)",
    "    for fault in jsonschema.Draft7Validator(schema, resolver=resolver).iter_errors(found):",
    "        print(list(fault.absolute_path), fault.message[:200])",
    "print('read', len(files))"
  ))
  folder <- system.file("schema", package = "vandro", mustWork = TRUE)
  said <- system2(python, shQuote(c(script, folder, ...)), stdout = TRUE)
  # Nothing said at all would be no sign of health.
  stopifnot(identical(utils::tail(said, 1), paste("read", length(c(...)))))
  utils::head(said, -1)
}
