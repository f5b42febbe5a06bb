package plan_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/demo"
)

// BenchmarkFirstPlan plans the counted season without any search.
func BenchmarkFirstPlan(b *testing.B) {
	for _, load := range []int{75, 90, 105} {
		b.Run(fmt.Sprintf("load=%d", load), func(b *testing.B) {
			doc := demo.Season(1, 1, load)
			counted, err := count.Up(doc)
			require.NoError(b, err)
			b.ReportAllocs()
			for b.Loop() {
				_, err := plan.Make(doc, counted, plan.Options{})
				require.NoError(b, err)
			}
		})
	}
}

// BenchmarkSearch takes so many steps of search on the overloaded season.
func BenchmarkSearch(b *testing.B) {
	doc := demo.Season(1, 1, 105)
	counted, err := count.Up(doc)
	require.NoError(b, err)
	for b.Loop() {
		_, err := plan.Make(doc, counted, plan.Options{Steps: 96, Seed: 1, LatenessOnly: true})
		require.NoError(b, err)
	}
}
