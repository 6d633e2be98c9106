# Tornister. `make demo` tries it, `make test` checks it.
GO ?= go
STATICCHECK = honnef.co/go/tools/cmd/staticcheck@v0.8.2

.PHONY: build demo test lint bench vendor screenshots need campaign licences

build: bin/tornister

bin/tornister: FORCE
	$(GO) build -trimpath -ldflags "-s -w" -o $@ ./cmd/tornister
FORCE:

## demo: the program with the Orlava demo data in a throwaway database, on a free loopback port
demo: build
	./bin/tornister demo

## test: installs what the tests need when it is missing, then runs them, the browser ones included: long ones in small;
## with ALL=1 every test at its usual length, as .ci/run does. Memory is collected seldom, and test programs are linked
## without tables for debuggers: both take some tenth off
test: need
	$(GO) vet ./...
	GOGC=400 $(GO) test -ldflags "-s -w" $(if $(ALL),,-short) ./...

need:
	@bash scripts/need.sh

## lint: formatting, lines within 120 characters but for those with a text in them, vet and staticcheck
lint:
	@unformatted=$$(gofmt -l .); if [ -n "$$unformatted" ]; then echo "gofmt wants changes in:"; echo "$$unformatted"; exit 1; fi
	@long=$$(git ls-files '*.go' | xargs awk 'length($$0) > 120 && (!/["`]/ || /^[ \t]*\/\//) {print FILENAME ": " FNR}' | grep -v "^store/migrations.go\|^internal/campaign/calibration_test.go"); if [ -n "$$long" ]; then echo "lines over 120 characters:"; echo "$$long"; exit 1; fi
	$(GO) vet ./...
	$(GO) run $(STATICCHECK) ./...

## bench: the figures that docs/speed.md records
bench:
	$(GO) test -run '^$$' -bench . -benchmem ./...

## campaign: tries to break the program at length; the figures stand in docs/hardening.md
campaign: need
	bash scripts/campaign.sh

## vendor: fetch the shipped browser libraries and fonts from npm again
vendor:
	bash scripts/vendor.sh

## screenshots: one picture of each main view, from the demo data, into docs/screenshots
screenshots: need
	TORNISTER_SCREENSHOTS=1 $(GO) test -count=1 -run TestScreenshots ./e2e

## licences: the licences of everything shipped (tornister licences) and the bill of materials, docs/sbom.json
licences:
	$(GO) run github.com/CycloneDX/cyclonedx-gomod/cmd/cyclonedx-gomod@v1.10.0 app -json -licenses -std -noserial -main cmd/tornister . | $(GO) run ./internal/licences/collect
