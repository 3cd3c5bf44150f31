# make demo    build and start with the demo school; prints the address
# make test    every check: format, vet, staticcheck, unit tests with -race, browser tests
# make test-long  the hour-long variants of the kill and browser tests
# make fuzz TIME=1h  every parser of foreign text is fuzzed in turn; goes on where it was broken off
# make test-office  holds papers and workbooks to LibreOffice, poppler and qpdf, installing them when missing
# make dist     the archives a school downloads, for every system, into build/dist
# make pictures   take docs/screenshots again from the demo school

BIN := build/velvetladder

# The packages whose tests take longest are begun first.
LONGEST := ./internal/web/curriculum ./internal/store ./internal/exchange ./cmd/velvetladder ./internal/core/binder ./internal/web

# Not watched for races are packages that take long and work on what they are given alone: the database engine first, which is C turned into Go
# and used by one goroutine at a time. None of them may use sync.Map: of what is generic the linker takes the code of any package, and where that is
# one not watched, what the map orders looks like a race.
UNWATCHED := github.com/ncruces/... regexp/... compress/... crypto/internal/fips140/... golang.org/x/crypto/... hash/... image/... unicode/... math/... \
	sort strconv github.com/go-pdf/...
RACE := -race $(UNWATCHED:%=-gcflags=%=-race=false)

# What goes through the whole demo and is held to testdata, and what does much of one thing, runs without
# that watch: the tests that golden.Alone skips in the first run. go vet went before, so that go test need not.
# The browser tests run a program they build themselves, of which the cache knows nothing: -count=1.

.PHONY: demo build dist test test-long fuzz test-office bench pictures screens browser

build:
	go build -o $(BIN) ./cmd/velvetladder

dist:
	go run ./scripts/dist build/dist

demo: build
	./$(BIN) demo

# What is not watched for races is compiled as the archives are, so that no package is compiled a third time.
PLAIN := CGO_ENABLED=0 GOFLAGS=-trimpath

test: browser
	@bad=$$(gofmt -l cmd internal scripts); if [ -n "$$bad" ]; then echo "gofmt wants: $$bad"; exit 1; fi
	$(PLAIN) go vet ./...
	$(PLAIN) go tool staticcheck ./...
	go test $(RACE) -vet=off -timeout 8m $(LONGEST) $$(go list ./... | grep -v -e internal/e2e -e internal/arch $(LONGEST:./%=-e /%$$))
	alone=$$(sh scripts/alone.sh) && shared=$$(mktemp -d) && trap "rm -rf $$shared" EXIT && VELVETLADDER_SHARED=$$shared $(PLAIN) go test -vet=off -timeout 8m $$alone
	$(PLAIN) go test -vet=off -count=1 -timeout 14m -parallel 3 ./internal/e2e/ ./internal/arch/

test-long: browser
	command -v strace >/dev/null 2>&1 || apt-get install -y -qq strace
	VELVETLADDER_LONG=1 go test -count=1 -timeout 90m ./internal/e2e/ ./internal/store/ ./internal/core/binder/ ./internal/core/curriculum/ ./internal/core/scoring/ ./cmd/...

TIME := 1h
fuzz:
	sh scripts/fuzz.sh $(TIME)

test-office: browser
	sh scripts/office.sh
	VELVETLADDER_OFFICE=1 go test -count=1 -v -run 'Office|Papers|Certificates' -timeout 20m ./internal/e2e/ ./internal/exchange/

bench:
	go test -run '^$$' -bench . ./...

pictures: browser
	VELVETLADDER_PICTURES=1 go test -count=1 -run TestPictures ./internal/e2e/

# make screens INTO=folder [AGAINST=folder]   every kind of page at two sizes, and how many pixels differ
screens: browser
	VELVETLADDER_SCREENS=$(abspath $(INTO)) VELVETLADDER_AGAINST=$(if $(AGAINST),$(abspath $(AGAINST))) go test -count=1 -timeout 20m -v -run '^TestScreens$$' ./internal/e2e/

browser:
	sh scripts/browser.sh
