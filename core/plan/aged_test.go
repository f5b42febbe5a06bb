package plan_test

import (
	"bytes"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

// old is the age of a studio of fifty years.
const old = studio.Minute(18_263 * 1440)

func TestAStudioOfFiftyYearsIsCountedAndPlannedAsANewOne(t *testing.T) {
	planned := func(doc *studio.Document) *studio.Plan {
		counted, err := count.Up(doc)
		require.NoError(t, err)
		made, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		assert.Empty(t, check.Plan(doc, made))
		return made
	}
	text, err := json.Marshal(demo.Aged(demo.Document(), old))
	require.NoError(t, err)
	_, err = studio.Read(bytes.NewReader(text))
	require.NoError(t, err)
	fresh, aged := planned(demo.Document()), planned(demo.Aged(demo.Document(), old))
	require.Len(t, aged.Tasks, len(fresh.Tasks))
	assert.Equal(t, fresh.Objective, aged.Objective)
	for i, was := range fresh.Tasks {
		is := aged.Tasks[i]
		assert.Equal(t, [2]any{was.ID, was.Start}, [2]any{is.ID, is.Start - old})
		assert.Equal(t, was.End, is.End-old)
		assert.Equal(t, was.Person, is.Person)
	}
}

// BenchmarkAged sets a season of a studio of fifty years beside that of a new one.
func BenchmarkAged(b *testing.B) {
	for _, of := range []struct {
		name string
		by   studio.Minute
	}{{"new", 0}, {"fifty years", old}} {
		doc := demo.Aged(demo.Season(1, 1, 90), of.by)
		counted, err := count.Up(doc)
		require.NoError(b, err)
		b.Run("count/"+of.name, func(b *testing.B) {
			for b.Loop() {
				_, _ = count.Up(doc)
			}
		})
		b.Run("plan/"+of.name, func(b *testing.B) {
			for b.Loop() {
				_, _ = plan.Make(doc, counted, plan.Options{})
			}
		})
	}
}
