package studio

import "slices"

// Needed is false of a lot in work of which nothing is needed any more. One whose pieces are made, and lie
// on the shelf, has no work left in any case.
func (l *Lot) Needed() bool { return !l.InWork || l.Need > 0 }

// Unneeded are the lots in work of which nothing is needed any more, and nothing goes into anything: an
// order was cancelled, or what was made in their place came out better. They are not worked on further.
func Unneeded(lots []Lot, links []Link) map[ID]bool {
	unneeded := map[ID]bool{}
	for i := range lots {
		if !lots[i].Needed() {
			unneeded[lots[i].ID] = true
		}
	}
	for i := range links {
		delete(unneeded, links[i].From)
	}
	return unneeded
}

// leaveOut ends the tasks of some lots with the last that is begun and the waits after it: what they hold
// is held until then.
func (r *router) leaveOut(unneeded map[ID]bool) {
	if len(unneeded) == 0 {
		return
	}
	gone := map[ID]bool{}
	for i := range r.instance.Lots {
		lot := &r.instance.Lots[i]
		if !unneeded[lot.ID] {
			continue
		}
		kept := slices.IndexFunc(lot.Tasks, func(a Activity) bool { return a.Wait == nil && a.Fact == nil })
		if kept < 1 {
			continue
		}
		for _, a := range lot.Tasks[kept:] {
			gone[a.ID] = true
		}
		lot.Tasks = lot.Tasks[:kept]
		for t := range lot.Tasks {
			for h := range lot.Tasks[t].Holds {
				until := lot.Tasks[t].Holds[h].Until
				for u := range until {
					if gone[until[u]] {
						until[u] = lot.Tasks[kept-1].ID
					}
				}
			}
		}
	}
	r.instance.Links = slices.DeleteFunc(r.instance.Links, func(l Lag) bool { return gone[l.From] || gone[l.To] })
}
