package wire

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/studio"
)

func TestLengthIsDepthStemAndAllowance(t *testing.T) {
	assert.EqualValues(t, 95_000, Length(studio.WireInput{Depth: 15_000, Stem: 75_000, Allowance: 5_000}))
}

func TestCut(t *testing.T) {
	got := Cut([]Piece{{"petals", 110_000, 7}, {"leaves", 200_000, 1}}, 360_000, 60_000)
	assert.EqualValues(t, 3, got.Full, "200+110, 3 × 110, 3 × 110")
	assert.EqualValues(t, 3, got.LowerBound)
	assert.Equal(t, []Pattern{
		{[]studio.Micrometres{110_000, 110_000, 110_000}, 30_000, false, 2},
		{[]studio.Micrometres{200_000, 110_000}, 50_000, false, 1},
	}, got.Patterns)
	for _, c := range []struct {
		says           string
		length         studio.Micrometres
		number, lowest int64
	}{
		{"no two longer than half share a wire", 200_000, 3, 3},
		{"exactly a half does", 180_000, 4, 2},
		{"no three longer than a third", 132_000, 13, 7},
		{"no four longer than a quarter", 104_000, 142, 48},
		{"short ones by their sum", 10_000, 73, 3},
	} {
		cutting := Cut([]Piece{{"stems", c.length, c.number}}, 360_000, 0)
		assert.Equal(t, c.lowest, cutting.LowerBound, c.says)
		assert.Equal(t, c.lowest, cutting.Full, "of one length first-fit is the best: %s", c.says)
	}
}

func TestEveryPieceIsCutAndNoWireIsTooShort(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var pieces []Piece
		var wanted int64
		for range rapid.IntRange(1, 8).Draw(t, "lengths") {
			p := Piece{"lot", studio.Micrometres(rapid.Int64Range(1_000, 360_000).Draw(t, "length")), rapid.Int64Range(1, 40).Draw(t, "number")}
			pieces, wanted = append(pieces, p), wanted+p.Number
		}
		got := Cut(pieces, 360_000, 60_000)
		require.LessOrEqual(t, got.LowerBound, got.Full)
		var wires, cut int64
		for _, p := range got.Patterns {
			sum := p.Offcut
			for _, c := range p.Cuts {
				sum += c
			}
			require.EqualValues(t, 360_000, sum)
			require.Equal(t, p.Offcut >= 60_000, p.Kept)
			wires += p.Bundles
			cut += p.Bundles * int64(len(p.Cuts))
		}
		require.Equal(t, wanted, cut)
		require.Equal(t, got.Full, wires)
	})
}
