package plan

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/studio"
)

// day is somebody who works 100 to 200 and 250 to 400, a break between.
func day() *maker {
	return &maker{hours: studio.Hours{{From: 100, To: 200}, {From: 250, To: 400}}}
}

func TestEarliest(t *testing.T) {
	for _, c := range []struct {
		name         string
		busy         []studio.Span
		from, length studio.Minute
		pause        bool
		start, end   studio.Minute
		behind       studio.ID
	}{
		{"at the first working minute", nil, 0, 30, false, 100, 130, ""},
		{"at once within hours", nil, 120, 30, false, 120, 150, ""},
		{"over the break if it may pause", nil, 180, 40, true, 180, 270, ""},
		{"after the break if it may not", nil, 180, 40, false, 250, 290, ""},
		{"up to the very end of a stretch", nil, 180, 20, false, 180, 200, ""},
		{"behind other work", []studio.Span{{From: 100, To: 150}}, 100, 30, false, 150, 180, "busy"},
		{"into a gap that is just large enough", []studio.Span{{From: 100, To: 120}, {From: 150, To: 200}}, 0, 30, false, 120, 150, "busy"},
		{"past a gap that is too small", []studio.Span{{From: 100, To: 120}, {From: 149, To: 200}}, 0, 30, false, 250, 280, "busy"},
		{"not before other work that its pause would run into", []studio.Span{{From: 250, To: 300}}, 190, 20, true, 300, 320, "busy"},
	} {
		t.Run(c.name, func(t *testing.T) {
			m := day()
			for _, s := range c.busy {
				m.occupy(slot{maker: m, start: s.From, end: s.To}, "busy")
			}
			s, ok := m.earliest(c.from, c.length, c.pause)
			require.True(t, ok)
			assert.Equal(t, [2]studio.Minute{c.start, c.end}, [2]studio.Minute{s.start, s.end})
			assert.Equal(t, c.behind, s.behind)
		})
	}
	_, ok := day().earliest(0, 151, false)
	assert.False(t, ok, "no stretch is so long")
	_, ok = day().earliest(0, 251, true)
	assert.False(t, ok, "the hours run out")
}

// The earliest slot against trying every minute.
func TestEarliestAgreesWithTryingEveryMinute(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := day()
		taken := map[studio.Minute]bool{}
		for range rapid.IntRange(0, 5).Draw(t, "busy") {
			from := studio.Minute(rapid.Int64Range(90, 380).Draw(t, "from"))
			s, ok := m.earliest(from, studio.Minute(rapid.Int64Range(1, 60).Draw(t, "length")), true)
			if ok {
				m.occupy(s, "busy")
				for at := s.start; at < s.end; at++ {
					taken[at] = true
				}
			}
		}
		from, length := studio.Minute(rapid.Int64Range(90, 390).Draw(t, "wanted")), studio.Minute(rapid.Int64Range(1, 90).Draw(t, "long"))
		pause := rapid.Bool().Draw(t, "pause")
		got, found := m.earliest(from, length, pause)
		for start := from; start < 400; start++ {
			if next, ok := m.hours.Next(start); !ok || next != start {
				continue
			}
			end, pauses, ok := m.hours.Advance(start, length)
			free := ok && (pause || len(pauses) == 0)
			for at := start; free && at < end; at++ {
				free = !taken[at]
			}
			if free {
				require.True(t, found)
				require.Equal(t, start, got.start)
				require.Equal(t, end, got.end)
				return
			}
		}
		require.False(t, found)
	})
}

func TestBlocked(t *testing.T) {
	r := &room{place: studio.Place{Slots: 10}}
	r.hold("a", studio.Held{Slots: 6, From: 100, To: 200})
	r.hold("b", studio.Held{Slots: 4, From: 150, To: 300})
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
	r.free("a")
	_, _, blocked := r.blocked(studio.Span{From: 120, To: 160}, 6)
	assert.False(t, blocked)
}
