# A newcomer needs two: make demo, make test.
.PHONY: demo test install setup check bench lint docs site sanitize fuzz validate coverage mutate clean

SOURCES := $(shell find R src inst data exec -type f -not -name '*.o' -not -name '*.so') \
  DESCRIPTION NAMESPACE

demo: install  ## the whole job on the shipped data
	@vandro=$$(Rscript --vanilla -e 'cat(system.file("exec/vandro", package = "vandro"))'); \
	  "$$vandro" demo --output demo --force

test: install  ## kernels with sanitizers, then the package's tests
	@$(MAKE) --no-print-directory -j2 -f tests/cpp/Makefile > .build/kernels.log 2>&1 || (cat .build/kernels.log; false)
	@tail -n 2 .build/kernels.log
	@Rscript --vanilla tools/run-tests.R .build/kernels.log

install: setup .build/installed

setup:
	@bash tools/setup.sh

.build/installed: $(SOURCES)
	@bash tools/install.sh

sanitize: setup  ## kernels under the sanitizers of addresses, undefined behaviour and threads, and valgrind
	@$(MAKE) --no-print-directory -j2 -f tests/cpp/Makefile
	@$(MAKE) --no-print-directory -j2 -f tests/cpp/Makefile SANITIZE=thread
	@$(MAKE) --no-print-directory -j2 -f tests/cpp/Makefile SANITIZE=none
	@$(MAKE) --no-print-directory -f tests/cpp/Makefile SANITIZE=none memcheck

CASES := 100000
fuzz: install  ## random cases at the public interface, the same ones every time (CASES=1000 for a taste)
	@Rscript --vanilla validation/fuzz/run.R $(CASES)

validate: install  ## proof anew: digits, error rates, invariances; hours (see CONTRIBUTING.md for the parts)
	@Rscript --vanilla validation/accuracy.R
	@Rscript --vanilla validation/invariances.R
	@for file in error_rates equivalence_rates interval_coverage permutation_rates rank_coverage; do \
	  echo "== $$file"; Rscript --vanilla validation/$$file.R || exit 1; done

coverage: install  ## lines that the tests reach
	@bash tools/setup.sh covr
	@bash tools/coverage.sh

mutate: install  ## formulas and kernels disturbed one by one: do tests notice?
	@Rscript --vanilla validation/mutation_core.R
	@Rscript --vanilla validation/mutation_kernels.R

check: setup  ## R CMD check of the built package
	@bash tools/check.sh $(CHECK)

bench: install  ## timings as ratios, side by side in one run
	@rm -f bench/results.csv
	@for file in bench/bench-*.R; do echo "== $$file"; \
	  BENCH_RESULTS=bench/results.csv Rscript --vanilla $$file || exit 1; done
	@Rscript --vanilla bench/growth.R

lint:  ## style, spelling, layout of C++
	@bash tools/setup.sh spelling
	@Rscript --vanilla tools/spelling.R
	@Rscript --vanilla -e 'found <- lintr::lint_package(); print(found); quit(status = length(found) > 0)'
	@clang-format --dry-run --Werror inst/include/vandro/*.hpp src/glue*.cpp src/glue.h tests/cpp/*.cpp

docs: install  ## help pages and exports of the kernels (pictures: tools/screenshots.R)
	@Rscript --vanilla -e 'Rcpp::compileAttributes(getwd())'
	@Rscript --vanilla -e 'suppressMessages(roxygen2::roxygenise(load_code = "installed"))'

site: install  ## the documentation as pages, in site/, without a network
	@bash tools/setup.sh pkgdown
	@Rscript --vanilla tools/site.R

clean:
	rm -rf .build demo src/*.o src/*.so vandro.Rcheck vandro_*.tar.gz
