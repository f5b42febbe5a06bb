package plan

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"bractum/core/studio"
)

func TestBlocked(t *testing.T) {
	r := &stock{most: 10}
	r.take("a", 0, studio.Span{From: 100, To: 200}, 6)
	r.take("b", 0, studio.Span{From: 150, To: 300}, 4)
	for _, c := range []struct {
		name     string
		from, to studio.Minute
		slots    int64
		until    studio.Minute
		by       studio.ID
		blocked  bool
	}{
		{"before all", 0, 100, 10, 0, "", false},
		{"beside the first", 100, 150, 4, 0, "", false},
		{"beside the first, one too many", 100, 150, 5, 200, "a", true},
		{"no slot is left when both lie there", 120, 160, 1, 200, "a", true},
		{"beside the second", 200, 300, 6, 0, "", false},
		{"after all", 300, 400, 10, 0, "", false},
		{"more than there are", 250, 260, 7, 300, "b", true},
	} {
		until, by, blocked := r.blocked(studio.Span{From: c.from, To: c.to}, c.slots)
		assert.Equal(t, c.blocked, blocked, c.name)
		if c.blocked {
			assert.Equal(t, c.until, until, c.name)
			assert.Equal(t, c.by, by, c.name)
		}
	}
	r.free("a", 0)
	_, _, blocked := r.blocked(studio.Span{From: 120, To: 160}, 6)
	assert.False(t, blocked)
}
