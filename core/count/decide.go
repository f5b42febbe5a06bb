package count

import (
	"slices"

	"bractum/core/studio"
)

// Decision is what the lead wants of a lot that is not begun: to keep it as it is; to
// start so many; to split it into so many; to merge it with others of the same pieces; to
// have it ready by another time; to let go of what was decided on it.
type Decision struct {
	What  string         `json:"what" enum:"keep,start,split,merge,move,let go"`
	Start int64          `json:"start,omitempty"`
	Into  int64          `json:"into,omitempty"`
	With  []studio.ID    `json:"with,omitempty"`
	Due   *studio.Minute `json:"due,omitempty"`
}

// Decided is a lot that was decided on, or let go of.
type Decided struct {
	ID  studio.ID
	Lot *studio.DecidedLot // nil to let it go
}

// Decide gives what a decision about a counted lot comes to. Errors say what is wrong
// with it, and what would be right.
func Decide(doc *studio.Document, counted *Result, lot studio.ID, d Decision) ([]Decided, error) {
	find := func(id studio.ID) (studio.Lot, error) {
		i := slices.IndexFunc(counted.Lots, func(l studio.Lot) bool { return l.ID == id })
		switch {
		case i < 0:
			return studio.Lot{}, studio.Refuse("this lot is no longer counted; look at the count again")
		case counted.Lots[i].InWork:
			return studio.Lot{}, studio.Refuse("this lot is begun; what has begun stays as it is")
		case counted.Lots[i].From != "":
			return studio.Lot{}, studio.Refuse(
				"this lot finishes pieces that lie half made; reserve or give back those",
			)
		}
		return counted.Lots[i], nil
	}
	l, err := find(lot)
	if err != nil {
		return nil, err
	}
	now := asDecided(doc, l)
	switch d.What {
	case "keep":
		now.Started = l.Started
	case "start":
		if d.Start < 1 || d.Start > 3*max(l.Need, 1)+100 {
			return nil, studio.Refuse(
				"%d to start for a need of %d; from 1 to %d would be right",
				d.Start,
				l.Need,
				3*max(l.Need, 1)+100,
			)
		}
		now.Started = d.Start
	case "move":
		if d.Due == nil || *d.Due < doc.Now || *d.Due > doc.Horizon() {
			return nil, studio.Refuse("say a time from now to the end of what is planned")
		}
		now.Due = d.Due
	case "split":
		return split(doc, counted, l, now, d.Into)
	case "merge":
		all := []Decided{{ID: l.ID, Lot: &now}}
		for _, id := range d.With {
			other, err := find(id)
			if err != nil {
				return nil, err
			}
			if other.Key != l.Key || other.ID == l.ID {
				return nil, studio.Refuse("only lots of the same pieces in the same colours are merged")
			}
			now.Need += other.Need
			all = append(all, Decided{ID: other.ID, Lot: nil})
		}
		if len(d.With) == 0 {
			return nil, studio.Refuse("say which lot it is merged with")
		}
		now.Started = 0
		return all, nil
	case "let go":
		return []Decided{{ID: l.ID, Lot: nil}}, nil
	default:
		return nil, studio.Refuse("%q is no decision about a lot", d.What)
	}
	return []Decided{{ID: l.ID, Lot: &now}}, nil
}

// split makes several lots of one, as even as they go; the new ones take ordinals that no
// lot has.
func split(doc *studio.Document, counted *Result, l studio.Lot, now studio.DecidedLot, into int64) ([]Decided, error) {
	if most := min(l.Need, studio.MostLots); into < 2 || into > most {
		return nil, studio.Refuse("a lot is split into %d; from 2 to %d lots would be right", into, most)
	}
	last := doc.Ordinals[l.Key]
	for _, other := range counted.Lots {
		if other.Key == l.Key {
			last = max(last, other.Ordinal)
		}
	}
	var all []Decided
	rest := now.Need
	for i := range into {
		one := now
		one.Need, one.Started = rest/(into-i), 0
		rest -= one.Need
		if i > 0 {
			one.Ordinal = last + int(i)
		}
		all = append(all, Decided{ID: studio.LotID(l.Key, one.Ordinal), Lot: &one})
	}
	return all, nil
}

// asDecided is what was decided on a lot so far, else the lot with the spares of its rule.
func asDecided(doc *studio.Document, l studio.Lot) studio.DecidedLot {
	for _, d := range doc.Decided {
		if d.Made() == l.Made() && d.Ordinal == l.Ordinal && studio.GatherKey(d.Made(), d.Mixes) == l.Key {
			return d
		}
	}
	return studio.DecidedLot{
		Recipe:  l.Recipe,
		Variant: l.Variant,
		Mixes:   l.Mixes,
		Ordinal: l.Ordinal,
		Need:    max(1, l.Need),
	}
}
