package room

import (
	"slices"

	"bractum/core/studio"
)

// Remove says whether a kind of place may go: nothing lies in it, and no recipe of the book
// or lot in work asks for it.
func Remove(doc *studio.Document, plan *studio.Plan, place studio.ID) (studio.Place, error) {
	i := slices.IndexFunc(doc.Places, func(p studio.Place) bool { return p.ID == place })
	if i < 0 {
		return studio.Place{}, studio.Refuse("the studio has no such place any more")
	}
	p := doc.Places[i]
	for _, t := range plan.Tasks {
		for _, h := range t.Holds {
			if h.Place == place && h.From <= doc.Now && h.To > doc.Now && t.State != studio.TaskPlanned {
				return p, studio.Refuse("something lies in %s; it is not removed. Put that elsewhere first", p.Name)
			}
		}
	}
	for _, r := range doc.Recipes {
		for _, s := range r.Steps {
			if slices.ContainsFunc(s.Holds, func(h studio.Hold) bool {
				return slices.ContainsFunc(h.Seats(), func(in studio.Seat) bool { return in.Place == place })
			}) {
				return p, studio.Refuse(
					"%s is asked for by %q, %q; it is not removed. Write another into that recipe first, or give it fewer slots",
					p.Name,
					s.Name,
					r.Name,
				)
			}
		}
	}
	for _, w := range doc.Work {
		if slices.ContainsFunc(
			w.Puts,
			func(put studio.Put) bool { return put.Place == place || slices.Contains(put.Frees, place) },
		) {
			return p, studio.Refuse("pieces in work have lain in %s; it is not removed until they are made", p.Name)
		}
	}
	return p, nil
}
