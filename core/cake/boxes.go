package cake

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// Filled is a box and what lies where in it, seen from above.
type Filled struct {
	Box  studio.ID `json:"box"`
	Lies []Lies    `json:"lies"`
}

// Lies is a flower or spray in a box: from its corner so far along and across, as long and as broad as it is.
type Lies struct {
	Line    studio.ID          `json:"line"`
	Along   studio.Micrometres `json:"alongMicrometres"`
	Across  studio.Micrometres `json:"acrossMicrometres"`
	Length  studio.Micrometres `json:"lengthMicrometres"`
	Breadth studio.Micrometres `json:"breadthMicrometres"`
}

// Boxes proposes into which of the studio's boxes what is laid on an order's cakes goes, and how many of what has no
// size are left to be packed by eye. They lie in rows, the broadest first, a centimetre from each other and from the
// walls, in one layer; the smallest box is taken that holds all that is left, else the one that holds most. No more
// boxes are taken than lie there; what is left then counts as without a box. It takes time proportional to the places,
// times the boxes that are filled and the sizes of box.
func Boxes(doc *studio.Document, o studio.Order) (filled []Filled, left map[studio.ID]int64) {
	left = map[studio.ID]int64{}
	for _, l := range o.Lines {
		left[l.ID] = l.Quantity
	}
	var items []Lies
	for i := range o.Cakes {
		for _, p := range o.Cakes[i].Placings {
			for n := int64(0); p.Length > 0 && n < p.Quantity && len(items) < mostBoxed; n++ {
				items = append(items, Lies{Line: p.Line, Length: max(p.Length, p.Breadth),
					Breadth: min(p.Length, cmp.Or(p.Breadth, p.Length))})
				left[p.Line]--
			}
		}
	}
	slices.SortStableFunc(items, func(a, b Lies) int {
		return cmp.Or(cmp.Compare(b.Breadth, a.Breadth), cmp.Compare(b.Length, a.Length))
	})
	boxes := []*studio.Material{}
	there := map[studio.ID]int64{}
	for i := range doc.Materials {
		if m := &doc.Materials[i]; m.Box != nil && !m.OutOfUse {
			boxes, there[m.ID] = append(boxes, m), m.OnHand
		}
	}
	slices.SortStableFunc(boxes, func(a, b *studio.Material) int {
		return cmp.Compare(a.Box.Length*a.Box.Width, b.Box.Length*b.Box.Width)
	})
	filled = []Filled{}
	for len(items) > 0 {
		var best Filled
		var rest []Lies
		for _, m := range boxes {
			lies, over := fill(*m.Box, items)
			if there[m.ID] > 0 && len(lies) > len(best.Lies) {
				best, rest = Filled{Box: m.ID, Lies: lies}, over
			}
		}
		if len(best.Lies) == 0 {
			break
		}
		there[best.Box]--
		filled, items = append(filled, best), rest
	}
	for _, one := range items {
		left[one.Line]++
	}
	for line, n := range left {
		if n <= 0 {
			delete(left, line)
		}
	}
	return filled, left
}

// mostBoxed is how many flowers are laid into boxes.
const mostBoxed = 2000

// fill lays what has room into a box, row after row, and gives the others back.
func fill(b studio.Box, items []Lies) (lies, rest []Lies) {
	long, wide := max(b.Length, b.Width), min(b.Length, b.Width)
	along, across, row := clear, clear, studio.Micrometres(0)
	for _, one := range items {
		if one.Breadth+clear > b.Height || one.Length+2*clear > long || one.Breadth+2*clear > wide {
			rest = append(rest, one)
			continue
		}
		if along+one.Length+clear > long && row > 0 {
			along, across, row = clear, across+row+clear, 0
		}
		if across+one.Breadth+clear > wide {
			rest = append(rest, one)
			continue
		}
		one.Along, one.Across = along, across
		lies = append(lies, one)
		along, row = along+one.Length+clear, max(row, one.Breadth)
	}
	return lies, rest
}
