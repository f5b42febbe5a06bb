package book

import (
	"slices"

	"bractum/core/studio"
)

// Behind is true of a line that keeps an earlier revision of its recipe than the
// document's current one; the current one is given, nil for a recipe that is unknown.
func Behind(doc *studio.Document, line studio.OrderLine) (current *studio.Recipe, behind bool) {
	i := slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool { return r.ID == line.Recipe })
	if i < 0 {
		return nil, false
	}
	for _, r := range doc.Current() {
		if r.Page() == doc.Recipes[i].Page() {
			return r, r.ID != line.Recipe
		}
	}
	return nil, false
}

// Open is true of an order whose lines can still be moved to another revision.
func Open(o studio.Order) bool { return o.State == studio.OrderOpen || o.State == studio.OrderQuote }

// Move is an order with those of its lines that keep an earlier revision of a page, and
// are listed, on the current one, and how many were moved. The order given is not
// changed.
func Move(doc *studio.Document, o studio.Order, page studio.ID, lines []studio.ID) (studio.Order, int) {
	moved := 0
	o.Lines = slices.Clone(o.Lines)
	for i := range o.Lines {
		l := &o.Lines[i]
		if current, behind := Behind(doc, *l); behind && current.Page() == page && slices.Contains(lines, l.ID) {
			l.Recipe = current.ID
			moved++
		}
	}
	return o, moved
}
