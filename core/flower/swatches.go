package flower

import (
	"cmp"
	"maps"
	"slices"

	"bractum/core/studio"
)

// mostSwatches is how many colours a colourway is told by.
const mostSwatches = 3

// Swatches are the colours by which each colourway is told from the others: those of the
// slots that most recipes of the book take a mix for and that are not alike in all
// colourways, the one most taken first. It takes O(recipes × slots).
func Swatches(doc *studio.Document, book *studio.Book) map[studio.ID][]string {
	taken := map[string]int{}
	for _, r := range doc.Current() {
		for _, slot := range book.Slots(studio.Made{Recipe: r.ID}) {
			taken[slot]++
		}
	}
	slots := slices.DeleteFunc(slices.Collect(maps.Keys(taken)), func(slot string) bool { return alike(doc, slot) })
	slices.SortFunc(slots, func(a, b string) int { return cmp.Or(cmp.Compare(taken[b], taken[a]), cmp.Compare(a, b)) })
	colours := map[studio.ID][]string{}
	for _, c := range doc.Colourways {
		colours[c.ID] = []string{}
		for _, slot := range slots[:min(mostSwatches, len(slots))] {
			if r := book.Recipe(c.Slots[slot]); r != nil {
				colours[c.ID] = append(colours[c.ID], r.Colour)
			}
		}
	}
	return colours
}

// alike is true of a slot that every one of several colourways fills with the same mix, or
// none does.
func alike(doc *studio.Document, slot string) bool {
	mixes := map[studio.ID]bool{}
	for _, c := range doc.Colourways {
		mixes[c.Slots[slot]] = true
	}
	return len(mixes) == 1 && (len(doc.Colourways) > 1 || mixes[""])
}
