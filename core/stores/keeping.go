package stores

import (
	"fmt"
	"maps"
	"slices"

	"bractum/core/paste"
	"bractum/core/studio"
)

// Keeping is where a shelf lot lies and in what air, how a mix is kept, and until when.
type Keeping struct {
	Change
	Place string
	In    studio.ID
	Kept  studio.Kept
	UseBy *studio.Minute
}

// PutAway says where a shelf lot lies from now on, in the air of which surroundings, and, of
// a mix, how it is kept, which says how long it lives.
func PutAway(doc *studio.Document, stock studio.ID, place string, in studio.ID, kept studio.Kept) (Keeping, error) {
	f, err := find(doc, Thing{ID: stock})
	if err != nil || f.shelf == nil {
		return Keeping{}, studio.Refuse("this is not on the shelf any more; look again")
	}
	if in != "" && !slices.ContainsFunc(doc.Surroundings, func(s studio.Surroundings) bool { return s.ID == in }) {
		return Keeping{}, studio.Refuse("the studio has no such surroundings any more")
	}
	k := Keeping{Place: place, In: in, Kept: kept, UseBy: f.shelf.UseBy}
	k.Summary = fmt.Sprintf("%s: put away", f.name)
	if place != "" {
		k.Summary = fmt.Sprintf("%s: lies in %s", f.name, place)
	}
	if kept == f.shelf.Kept {
		return k, nil
	}
	r := studio.NewBook(doc).Recipe(f.shelf.Recipe)
	switch {
	case r.Kind != studio.KindMix:
		return Keeping{}, studio.Refuse("%s is no mix; only a mix is kept on the board, wrapped or cold", f.name)
	case !slices.Contains([]studio.Kept{studio.OnBoard, studio.Wrapped, studio.Cold}, kept):
		return Keeping{}, studio.Refuse("%q is no way of keeping a mix; board, wrapped or cold would be right", kept)
	case f.shelf.UseBy != nil && *f.shelf.UseBy < doc.Now:
		return Keeping{}, studio.Refuse("%s is past its use-by; what has gone off is thrown away", f.name)
	}
	by := paste.UseBy(r, kept, f.shelf.MadeOn, doc.Now)
	k.UseBy, k.Summary = &by, fmt.Sprintf(
		"%s: %s",
		f.name,
		map[studio.Kept]string{studio.OnBoard: "on the board", studio.Wrapped: "wrapped", studio.Cold: "in the cold"}[kept],
	)
	return k, nil
}

// Done is how wires were cut: so many of one length, each into these pieces.
type Done struct {
	From  studio.Micrometres   `json:"fromMicrometres"`
	Cuts  []studio.Micrometres `json:"cuts"`
	Wires int64                `json:"wires"`
}

// Cut books a cutting as it was done, mistakes and all: full wires and offcuts are used,
// what was cut lies there by its length, and rests of at least the kept length are kept.
// Spoilt are full wires of which nothing is left. More wires than there are may be booked
// when it is confirmed: somebody else has taken some, and a minus stays to be explained.
func Cut(doc *studio.Document, material studio.ID, done []Done, spoilt int64, confirmed bool) (Change, error) {
	f, err := find(doc, Thing{ID: material})
	i := slices.IndexFunc(doc.Materials, func(m studio.Material) bool { return m.ID == material && m.Wire != nil })
	if err != nil || i < 0 {
		return Change{}, studio.Refuse("this is no wire")
	}
	full := doc.Materials[i].Wire.Length
	if spoilt < 0 {
		return Change{}, studio.Refuse("%d spoilt wires cannot be", spoilt)
	}
	lengths := map[studio.Micrometres]int64{}
	wires, pieces := spoilt, int64(0)
	for _, d := range done {
		rest := d.From
		for _, c := range d.Cuts {
			if rest -= c; c <= 0 {
				return Change{}, studio.Refuse("a piece of %s cannot be cut", c)
			}
			lengths[c] += d.Wires
			pieces += d.Wires
		}
		switch {
		case d.Wires <= 0:
			return Change{}, studio.Refuse("%d wires cannot be cut; say how many were", d.Wires)
		case rest < 0:
			return Change{}, studio.Refuse(
				"pieces of %s in all are not cut from %s",
				d.From-rest,
				d.From,
			)
		case rest >= doc.Settings.KeepOffcut && rest > 0:
			lengths[rest] += d.Wires
		}
		if d.From == full {
			wires += d.Wires
			continue
		}
		o, err := find(doc, Thing{ID: material, Length: d.From})
		if err != nil {
			return Change{}, err
		}
		if lengths[d.From] -= d.Wires; o.amount < d.Wires && !confirmed {
			return Change{}, studio.RefuseUnless("confirmed",
				"%d offcuts of %s are there and %d were cut; count them, or book it all the same",
				o.amount,
				d.From,
				d.Wires)
		}
	}
	if wires+pieces == 0 {
		return Change{}, studio.Refuse("nothing was cut")
	}
	if wires > f.amount && !confirmed {
		return Change{}, studio.RefuseUnless("confirmed",
			"%d of %s are there and %d were taken; somebody else may have taken some. "+
				"Count them, or book it all the same: a minus stays to be explained",
			f.amount,
			f.name,
			wires)
	}
	c := Change{Summary: fmt.Sprintf("%s: %d cut from %d wires", f.name, pieces, wires), About: []studio.ID{material}}
	if wires > spoilt {
		c.Moved = append(c.Moved, f.movement(studio.UsedUp, spoilt-wires))
	}
	if spoilt > 0 {
		c.Moved = append(c.Moved, f.movement(studio.Spoilt, -spoilt))
	}
	for _, length := range slices.Sorted(maps.Keys(lengths)) {
		m := studio.Movement{Kind: studio.MadeOf, Material: material, Length: length, Amount: lengths[length]}
		if m.Amount < 0 {
			m.Kind = studio.UsedUp
		}
		if m.Amount != 0 {
			c.Moved = append(c.Moved, m)
		}
	}
	return c, nil
}
