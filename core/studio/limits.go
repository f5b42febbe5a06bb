package studio

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Limits that a studio never meets: what lies beyond them is a slip of the hand, or is meant
// to break something, and is refused before anything is written.
const (
	// MostPieces is how many pieces an order may come to with all that goes into it: two
	// whole seasons of a studio of eight.
	MostPieces int64 = 60_000
	// MostInOne is how many pieces go into one flower or spray, through all levels.
	MostInOne int64 = 20_000
	// MostCount is how many pieces one input may be.
	MostCount int64 = 2_000
	// MostLots is into how many lots one may be split.
	MostLots int64 = 60
	// MostAhead is how far ahead something may be promised, and a use-by date lie: ten years.
	MostAhead Minute = 10 * 366 * 1440
	// LongestKept is how long ago something on the shelf may have been made.
	LongestKept Minute = 10 * 366 * 1440
	// longestName is a name's greatest length in characters.
	longestName = 120
)

// nameFlaw is what is wrong with a name, empty where nothing is: it is not blank, not long, and
// holds nothing that is not seen, such as control characters and marks of direction.
func nameFlaw(name string) string {
	switch {
	case strings.TrimSpace(name) == "":
		return "is empty"
	case !utf8.ValidString(name):
		return "is not UTF-8"
	case utf8.RuneCountInString(name) > longestName:
		return "is too long; up to 120 characters would be right"
	case strings.ContainsFunc(name, unseen):
		return "holds a character that cannot be seen; type it anew"
	}
	return ""
}

// unseen is true of characters that change how a text reads without being seen.
func unseen(r rune) bool {
	return unicode.IsControl(r) || unicode.Is(unicode.Bidi_Control,
		r) || r == '\u2028' || r == '\u2029' || r == '\ufeff'
}

// Pieces is how many pieces one made so is, with all that goes into it; no more than lots
// of MostInOne are told apart.
func (b *Book) Pieces(m Made) int64 {
	return b.through(m, map[Made]int64{}, func(p *PartInput) int64 { return min(p.Count, MostInOne) })
}

// Kinds is how many kinds of pieces one made so is put together of, itself and those of every
// input among them, as many times as there are ways to them.
func (b *Book) Kinds(m Made) int64 {
	return b.through(m, map[Made]int64{}, func(*PartInput) int64 { return 1 })
}

// through adds up one and what goes into it through all levels, each input so many times.
func (b *Book) through(m Made, known map[Made]int64, times func(*PartInput) int64) int64 {
	if n, ok := known[m]; ok {
		return n
	}
	r := b.Of(m)
	if r == nil {
		return 1
	}
	known[m] = 1 // a recipe that needs itself is refused elsewhere
	n := int64(1)
	for i := range r.Parts {
		n = min(1000*MostInOne, n+times(&r.Parts[i])*b.through(r.Parts[i].Made(), known, times))
	}
	known[m] = n
	return n
}

// Distant is true of an order that is to be ready only after the horizon: it is kept, and
// counted and planned when its time comes.
func (d *Document) Distant(o Order, c Calendar) bool {
	return c.Minute(o.Leaves)-d.Settings.SafetyMinutes > d.Horizon()
}
