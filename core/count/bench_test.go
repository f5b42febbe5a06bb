package count_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/demo"
)

// BenchmarkOneOrderOfASeason counts the season document again after one of its orders has
// changed, a different one each time.
func BenchmarkOneOrderOfASeason(b *testing.B) {
	doc := demo.Season(1, 1, 75)
	var counter count.Counter
	_, err := counter.Up(doc)
	require.NoError(b, err)
	b.ReportAllocs()
	for i := 0; b.Loop(); i++ {
		next := *doc
		next.Orders = slices.Clone(doc.Orders)
		order := &next.Orders[i%len(next.Orders)]
		order.Lines = slices.Clone(order.Lines)
		order.Lines[0].Quantity += 3
		_, err := counter.Up(&next)
		require.NoError(b, err)
		doc = &next
	}
}

// BenchmarkSeason counts up the season document of sixty orders.
func BenchmarkSeason(b *testing.B) {
	doc := demo.Season(1, 1, 75)
	b.ReportAllocs()
	for b.Loop() {
		_, err := count.Up(doc)
		require.NoError(b, err)
	}
}
