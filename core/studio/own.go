package studio

import (
	"maps"
	"slices"
)

// ownColours gives the slots of inputs whose colours are their own, in what they go into, names
// and mixes of their own. It takes O(inputs × slots).
func (b *Book) ownColours(all []Made, byID map[ID]*Recipe) {
	if !slices.ContainsFunc(all, func(m Made) bool { return b.recipes[m].OwnColours }) {
		return
	}
	done := map[Made]bool{}
	var visit func(m Made)
	visit = func(m Made) {
		r := b.recipes[m]
		if r == nil || done[m] {
			return
		}
		done[m] = true
		made := *r
		for i, p := range r.Parts {
			visit(p.Made())
			if below := b.recipes[p.Made()]; below == nil || !below.OwnColours {
				continue
			}
			if made.Parts = slices.Clone(made.Parts); p.Slots == nil {
				p.Slots = map[string]string{}
			}
			made.Defaults, p.Slots = maps.Clone(made.Defaults), maps.Clone(p.Slots)
			if made.Defaults == nil {
				made.Defaults = map[string]ID{}
			}
			for slot, mix := range b.subtree(p.Made()) {
				if _, renamed := p.Slots[slot]; renamed {
					continue
				}
				own := byID[p.Recipe].Name + ": " + slot
				if p.Slots[slot] = own; made.Defaults[own] == "" {
					made.Defaults[own] = mix
				}
			}
			made.Parts[i] = p
		}
		b.recipes[m] = &made
	}
	for _, m := range all {
		visit(m)
	}
	b.slots = map[Made]map[string]ID{}
}
