package count_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/demo"
)

// BenchmarkSeason counts up the season document of sixty orders.
func BenchmarkSeason(b *testing.B) {
	doc := demo.Season(1, 1)
	b.ReportAllocs()
	for b.Loop() {
		_, err := count.Up(doc)
		require.NoError(b, err)
	}
}
