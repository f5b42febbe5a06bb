# Bractum: `make demo` to try it, `make test` to check it. `make` alone lists the targets.

export CGO_ENABLED = 0
PORT ?= 8080
tool = go tool -modfile=tools/go.mod
front = web/site/app/index.html
front_sources = $(shell find ui/src ui/public -type f) ui/index.html ui/vite.config.ts ui/words.ts ui/package-lock.json

.PHONY: help demo demo-fresh build dev test check generate release screenshots bench clean

help: ## list the targets
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | awk -F ':.*## ' '{ printf "  make %-12s %s\n", $$1, $$2 }'

demo: build ## start the demo studio on 127.0.0.1:8080 (PORT= changes it), keeping what was entered
	bin/bractum demo --data .demo --port $(PORT)

demo-fresh: build ## start the demo studio over
	bin/bractum demo --data .demo --port $(PORT) --fresh

build: $(front) ## leave the one self-contained program at bin/bractum
	go build -o bin/bractum ./cmd/bractum

dev: ui/node_modules/.package-lock.json build ## serve the front end with reload, on the demo
	bin/bractum demo --data .demo --port 8080 & trap "kill $$!" EXIT; cd ui && npx vite

test: build chromium check ## run everything: core, store, API, the interface in Chromium, types, lint, generated files
	go test -timeout 30m ./...

check: build ## formatting, lint, types, and that generated files are up to date
	@test -z "$$(gofmt -l api browser calendar certificate cases cmd core demo find label outside picture situation standin store web)" || { gofmt -l api browser calendar certificate cases cmd core demo find label outside picture situation standin store web; echo "gofmt: the files above are not formatted"; exit 1; }
	go vet ./...
	$(tool) staticcheck ./...
	cd store && $(subst tools/,../tools/,$(tool)) sqlc diff
	bin/bractum openapi | diff -u ui/src/api/openapi.json - || { echo "ui/src/api/openapi.json is old: make generate"; exit 1; }
	go run ./cmd/refusals | diff -u ui/src/words/refusals.json - || { echo "ui/src/words/refusals.json is old: make generate"; exit 1; }
	cd ui && npx openapi-typescript src/api/openapi.json -o ../bin/schema.gen.ts >/dev/null && diff -u src/api/schema.gen.ts ../bin/schema.gen.ts
	cd ui && npx vue-tsc --noEmit && npx eslint src && npx prettier --check src *.ts

generate: ui/node_modules/.package-lock.json ## write the generated files anew
	cd store && $(subst tools/,../tools/,$(tool)) sqlc generate
	go run ./cmd/schema docs/formats
	go run ./cmd/bractum openapi > ui/src/api/openapi.json
	go run ./cmd/refusals > ui/src/words/refusals.json
	cd ui && npx openapi-typescript src/api/openapi.json -o src/api/schema.gen.ts

version = $(shell git describe --tags --always --dirty 2>/dev/null || echo unknown)
targets = linux-amd64 linux-arm64 windows-amd64 darwin-amd64 darwin-arm64

release: $(front) ## build the program for all systems into release/, with what is inside and checksums
	rm -rf release && mkdir release
	for t in $(targets); do GOOS=$${t%-*} GOARCH=$${t#*-} go build -trimpath -buildvcs=false -ldflags "-s -w -buildid= -X main.version=$(version)" \
		-o release/bractum-$$t$$(test $${t%-*} = windows && echo .exe || true) ./cmd/bractum || exit 1; done
	go run ./cmd/licences > release/LICENCES.txt
	cp LICENSE packaging/bractum.service packaging/Containerfile release/
	cd release && sha256sum * > SHA256SUMS

screenshots: build chromium ## retake docs/screenshots from the demo data
	go run ./browser/screenshots docs/screenshots

bench: ## measure counting, cutting, planning and the API's answers
	go test -run '^$$' -timeout 1h -bench . ./core/count ./core/wire ./core/plan ./core/plan/reference ./core/drying ./core/flower ./store ./web

clean: ## forget what was built; the demo's data stay
	rm -rf bin web/site/app ui/node_modules

.PHONY: chromium
chromium:
	@command -v chromium-headless-shell >/dev/null || { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq chromium-headless-shell; }

$(front): ui/node_modules/.package-lock.json $(front_sources)
	cd ui && npx vite build

ui/node_modules/.package-lock.json: ui/package-lock.json
	cd ui && npm ci --no-audit --no-fund
	@touch $@
