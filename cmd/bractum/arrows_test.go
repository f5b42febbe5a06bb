package main

import (
	"os/exec"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// may lists, for each package, the only packages of ours it may import. Arrows
// point one way: cmd → web → api → situation → store → core, and cmd, api, situation → core.
var may = map[string][]string{
	"bractum/core/studio":   {},
	"bractum/core/drying":   {"core/studio"},
	"bractum/core/learn":    {"core/studio", "core/drying"},
	"bractum/core/climate":  {"core/studio", "core/drying"},
	"bractum/core/room":     {"core/studio", "core/drying"},
	"bractum/core/paste":    {"core/studio"},
	"bractum/core/wire":     {"core/studio"},
	"bractum/core/count":    {"core/studio", "core/drying", "core/paste", "core/wire"},
	"bractum/core/stores":   {"core/studio", "core/count", "core/paste", "core/wire"},
	"bractum/core/cost":     {"core/studio", "core/flower", "core/paste", "core/stores"},
	"bractum/core/cake":     {"core/studio", "core/flower"},
	"bractum/core/contents": {"core/studio"},
	"bractum/core/handover": {"core/studio", "core/contents"},
	"bractum/core/scene":    {"core/studio", "core/cost", "core/count", "core/plan", "core/stores", "core/wire"},
	"bractum/core/risk":     {"core/studio", "core/count", "core/drying"},
	"bractum/core/rehearse": {
		"core/studio",
		"core/bench",
		"core/count",
		"core/drying",
		"core/plan",
		"core/risk",
		"core/stores",
		"core/wire",
	},
	"bractum/core/promise": {"core/studio", "core/cost", "core/count", "core/plan", "core/scene", "core/stores",
		"core/wire"},
	"bractum/core/plan":           {"core/studio", "core/drying", "core/count", "core/paste"},
	"bractum/core/plan/check":     {"core/studio", "core/drying"},
	"bractum/core/plan/reference": {},
	"bractum/core/methods":        {},
	"bractum/cases":               {},
	"bractum/browser/modules":     {},
	"bractum/core/bench":          {"core/studio", "core/paste", "core/wire"},
	"bractum/core/card":           {"core/studio", "core/flower", "core/paste", "core/wire"},
	"bractum/core/flower":         {"core/studio", "core/count", "core/drying", "core/paste", "core/wire"},
	"bractum/core/book":           {"core/studio", "core/flower"},
	"bractum/core/pattern":        {"core/studio"},
	"bractum/core/workshop":       {"core/studio"},
	"bractum/demo":                {"core/studio", "core/drying", "core/count", "core/workshop"},
	"bractum/demo/yard": {
		"core/studio",
		"core/drying",
		"core/plan",
		"demo",
		"outside",
		"standin/hygrometer",
		"store",
		"web",
	},
	"bractum/certificate":   {},
	"bractum/cmd/licences":  {},
	"bractum/cmd/refusals":  {"core/studio"},
	"bractum/store/sqlcgen": {},
	"bractum/store": {
		"core/studio",
		"core/climate",
		"core/count",
		"core/book",
		"core/learn",
		"core/handover",
		"core/scene",
		"core/workshop",
		"store/sqlcgen",
	},
	"bractum/api": {"core/studio", "core/climate", "core/drying", "core/room", "core/count",
		"core/paste", "core/wire", "core/plan", "core/stores", "core/bench", "core/book", "core/flower", "core/learn",
		"core/card", "core/cake", "core/contents", "core/handover", "core/cost", "core/pattern", "core/promise", "core/risk", "core/scene", "core/workshop",
		"find", "label", "picture", "calendar", "outside", "situation", "store"},
	"bractum/situation": {"core/studio", "core/drying", "core/count", "core/paste", "core/wire", "core/plan",
		"core/stores", "store"},
	"bractum/picture":            {},
	"bractum/calendar":           {"core/studio"},
	"bractum/find":               {"core/studio"},
	"bractum/outside":            {"core/studio", "core/climate"},
	"bractum/standin/hygrometer": {},
	"bractum/standin/printer":    {},
	"bractum/standin/scale":      {},
	"bractum/label":              {},
	"bractum/standin/supplier":   {},
	"bractum/web":                {"api", "outside", "store"},
	"bractum/cmd/schema":         {"core/book", "core/studio"},
	"bractum/cmd/bractum": {
		"core/promise",
		"core/rehearse",
		"core/risk",
		"core/book",
		"core/studio",
		"core/count",
		"core/plan",
		"core/plan/check",
		"demo",
		"demo/yard",
		"store",
		"api",
		"web",
		"certificate",
		"outside",
		"standin/printer",
		"standin/scale",
		"standin/supplier",
	},
	"bractum/browser/drive": {
		"api",
		"core/studio",
		"demo",
		"demo/yard",
		"store",
		"web",
		"outside",
		"standin/printer",
		"standin/scale",
		"standin/supplier",
	},
	"bractum/browser/screenshots": {"browser/drive", "demo"},
	"bractum/browser":             {},
}

func TestArrowsPointOneWay(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "bractum/...").Output()
	require.NoError(t, err, string(out))
	seen := map[string]bool{}
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		words := strings.Fields(line)
		allowed, known := may[words[0]]
		require.True(t, known, "%s is new: say in this test what it may import", words[0])
		seen[words[0]] = true
		for _, imported := range words[1:] {
			ours, inside := strings.CutPrefix(imported, "bractum/")
			if inside {
				assert.Contains(t, allowed, ours, "%s imports against the arrows", words[0])
			} else if strings.HasPrefix(words[0], "bractum/core/") {
				assert.False(t, strings.Contains(strings.SplitN(imported, "/", 2)[0], ".") && !strings.HasPrefix(imported, "gonum.org/"),
					"%s imports %s; core uses the standard library and numeric libraries only", words[0], imported)
				assert.False(t, slices.Contains([]string{"net/http", "database/sql", "math/rand", "os"}, imported), "%s imports %s", words[0], imported)
			}
		}
	}
	for path, allowed := range may {
		assert.True(t, seen[path], "%s is gone: take it out of this test", path)
		for _, other := range allowed {
			assert.True(t, seen["bractum/"+other], "%s may import %s, which is gone", path, other)
		}
	}
}
