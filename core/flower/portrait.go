package flower

import (
	"cmp"
	"slices"

	"bractum/core/paste"
	"bractum/core/studio"
)

// Portrait is what something looks like, as data to draw it from: its shape and
// colour, and what it is built of from the first row to the last.
type Portrait struct {
	Subject
	Mix   string           `json:"mix"`
	Shape *studio.Geometry `json:"shape,omitempty"`
	// Stem is the free length of its wire; Build which row is joined first.
	Stem  studio.Micrometres `json:"stemMicrometres,omitempty"`
	Build studio.Build       `json:"build,omitempty"`
	Rings []Ring             `json:"rings"`
	Bits  []Bit              `json:"bits"`
	// Shares are what a mix is blended of, with the colours of mixes.
	Shares []BlendPart `json:"shares,omitempty"`
}

// Ring is one input: so many of a thing, in rows or along a stem. Input is its index
// among the parts of the recipe as it is made.
type Ring struct {
	Input    int                  `json:"input"`
	Of       Portrait             `json:"of"`
	Count    int64                `json:"count"`
	Least    *int64               `json:"least,omitempty"`
	Rows     []int64              `json:"rows"`
	Set      studio.Set           `json:"set,omitempty"`
	Join     studio.Join          `json:"join,omitempty"`
	Reversed bool                 `json:"reversed,omitempty"`
	At       []studio.Micrometres `json:"atMicrometres"`
}

// Bit is a bought thing that stays in it.
type Bit struct {
	Name   string `json:"name"`
	Form   string `json:"form"`
	Amount int64  `json:"amount"`
}

// BlendPart is one ingredient of a mix.
type BlendPart struct {
	Name   string `json:"name"`
	Colour string `json:"colour,omitempty"`
	Parts  int64  `json:"parts"`
}

// PortraitOf draws up something in its mixes.
func PortraitOf(book *studio.Book, made studio.Made, mixes map[string]studio.ID) Portrait {
	r := book.Of(made)
	f := Portrait{Subject: subject(book, made, mixes), Build: r.Build, Rings: []Ring{}, Bits: []Bit{}}
	if main := shows(r); main != nil {
		shape := paste.Rolled(main.Shape, book.Density())
		f.Shape = &shape
		if mix := book.Recipe(mixes[main.Slot]); mix != nil {
			f.Mix = mix.Name
		}
	}
	for _, w := range r.Wires {
		f.Stem = max(f.Stem, w.Stem)
	}
	for i, p := range r.Parts {
		ring := Ring{
			Input:    i,
			Of:       PortraitOf(book, p.Made(), book.Input(p, mixes)),
			Count:    p.Count,
			Least:    p.Least,
			Rows:     p.Rows,
			Set:      p.Set,
			Join:     p.Join,
			Reversed: p.Reversed,
			At:       append([]studio.Micrometres{}, p.At...),
		}
		if len(ring.Rows) == 0 {
			ring.Rows = []int64{p.Count}
		}
		f.Rings = append(f.Rings, ring)
	}
	for _, m := range r.Materials {
		if bought := book.Material(m.Material); bought != nil && m.OutAt == "" && bought.Form != "" {
			f.Bits = append(f.Bits, Bit{Name: bought.Name, Form: bought.Form, Amount: studio.CeilDiv(m.Amount, max(1, m.Per))})
		}
	}
	for _, in := range r.Blend {
		share := BlendPart{Parts: in.Parts}
		if mix := book.Recipe(in.Mix); mix != nil {
			share.Name, share.Colour = mix.Name, mix.Colour
		} else if m := book.Material(in.Material); m != nil {
			share.Name = m.Name
		}
		f.Shares = append(f.Shares, share)
	}
	return f
}

// shows is the paste that gives a part its look: the one that covers most; nil where
// there is none.
func shows(r *studio.Recipe) (main *studio.PasteInput) {
	for i := range r.Pastes {
		if main == nil || spread(r.Pastes[i].Shape) > spread(main.Shape) {
			main = &r.Pastes[i]
		}
	}
	return main
}

// spread is about how much a piece covers, in square micrometres; what is weighed and
// has no size covers nothing.
func spread(g studio.Geometry) studio.Micrometres {
	return max(g.Length*max(g.Width, g.Diameter), g.Diameter*g.Diameter)
}

// colourOf is the colour to draw something in.
func colourOf(book *studio.Book, r *studio.Recipe, mixes map[string]studio.ID) string {
	colour, _ := Swatch(book, r, mixes)
	return colour
}

// Swatch is the colour that something shows, and the name of that mix: a mix its own,
// a part that of the paste that covers it, what is put together that of the parts that
// cover most of it.
func Swatch(book *studio.Book, r *studio.Recipe, mixes map[string]studio.ID) (colour, name string) {
	if r.Kind == studio.KindMix {
		return r.Colour, r.Name
	}
	if r.Kind != studio.KindPart {
		parts := slices.Clone(r.Parts)
		slices.SortStableFunc(
			parts,
			func(a, b studio.PartInput) int { return cmp.Compare(covers(book, b), covers(book, a)) },
		)
		for _, p := range parts {
			if colour, name := Swatch(book, book.Of(p.Made()), book.Input(p, mixes)); colour != "" {
				return colour, name
			}
		}
	}
	if main := shows(r); main != nil {
		if mix := book.Recipe(mixes[main.Slot]); mix != nil {
			return mix.Colour, mix.Name
		}
	}
	return "", ""
}

// covers is about how much of a thing the pieces of an input cover, in square
// micrometres.
func covers(book *studio.Book, p studio.PartInput) (area studio.Micrometres) {
	r := book.Of(p.Made())
	if main := shows(r); main != nil {
		area = spread(main.Shape)
	}
	for _, in := range r.Parts {
		area += covers(book, in)
	}
	return area * studio.Micrometres(p.Count)
}
