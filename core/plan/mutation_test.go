package plan_test

import (
	"bytes"
	"encoding/json"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// leaf is one number, word or list of a JSON value, and how to set it.
type leaf struct {
	value any
	set   func(any)
}

func leaves(value any, set func(any), into []leaf) []leaf {
	switch v := value.(type) {
	case map[string]any:
		for _, key := range slices.Sorted(maps.Keys(v)) {
			into = leaves(v[key], func(to any) { v[key] = to }, into)
		}
	case []any:
		for i := range v {
			into = leaves(v[i], func(to any) { v[i] = to }, into)
		}
		into = append(into, leaf{v, set})
	case float64:
		into = append(into, leaf{v, set})
	}
	return into
}

// spoil changes a few numbers of a JSON value, and drops a few entries of its lists.
func spoil(t *rapid.T, value any) []byte {
	for range rapid.IntRange(1, 3).Draw(t, "changes") {
		all := leaves(value, nil, nil)
		one := all[rapid.IntRange(0, len(all)-1).Draw(t, "leaf")]
		switch v := one.value.(type) {
		case float64:
			one.set(rapid.SampledFrom([]float64{-1, 0, 1, 2, 3, 7, v - 1, v + 1, 2 * v, 10 * v}).Draw(t, "number"))
		case []any:
			if len(v) > 0 && one.set != nil {
				i := rapid.IntRange(0, len(v)-1).Draw(t, "without")
				one.set(slices.Concat(v[:i], v[i+1:]))
			}
		}
	}
	spoilt, err := json.Marshal(value)
	require.NoError(t, err)
	return spoilt
}

// Whatever is done to the numbers and lists of a plan, the checker does not panic; and
// where it has nothing to say, the plan is worth what it says.
func TestSpoiltPlansAreAnswered(t *testing.T) {
	doc := demo.Document()
	data, err := json.Marshal(made(t, doc))
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		var value map[string]any
		require.NoError(t, json.Unmarshal(data, &value))
		p, err := studio.ReadPlan(bytes.NewReader(spoil(t, value)))
		if err != nil {
			return
		}
		if report := check.Reckon(doc, p); len(report.Breaches) == 0 {
			require.Zero(t, report.Objective.Compare(p.Objective))
		}
	})
}

// Whatever is done to the numbers and lists of a document: either it is refused
// with a place, or it is counted and planned without a breach. Nothing panics.
func TestSpoiltDocumentsAreRefusedOrPlanned(t *testing.T) {
	data, err := json.Marshal(demo.Document())
	require.NoError(t, err)
	documents := [][]byte{data}
	files, err := filepath.Glob("../../docs/formats/instances/?-*[a-z].json")
	require.NoError(t, err)
	for _, file := range files {
		if strings.Count(filepath.Base(file), ".") == 1 {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			documents = append(documents, data)
		}
	}
	require.Len(t, documents, 6)
	var planned, refused int
	rapid.Check(t, func(t *rapid.T) {
		var value map[string]any
		require.NoError(t, json.Unmarshal(rapid.SampledFrom(documents).Draw(t, "document"), &value))
		spoilt := spoil(t, value)
		doc, err := studio.Read(bytes.NewReader(spoilt))
		if err != nil {
			refused++
			require.Contains(t, err.Error(), ": ", "with its place")
			return
		}
		planned++
		counted, err := count.Up(doc)
		require.NoError(t, err)
		p, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, p))
	})
	t.Logf("%d planned, %d refused", planned, refused)
}
