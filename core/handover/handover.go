// Package handover answers whether an order may leave: whether it is counted in, whether what has to be out of its
// flowers is out, and who says so; and afterwards what of it came back and what became of it.
package handover

import (
	"slices"

	"bractum/core/contents"
	"bractum/core/studio"
)

// Packing is how an order is packed, handed over, and what came of it. Version tells writers apart.
type Packing struct {
	Lines []Packed `json:"lines"`
	// Out is what was counted out of the flowers of what had been put in for their making.
	Out []Tally `json:"out"`
	// Boxes are what they leave in, in the packer's words of what lies where.
	Boxes    []Boxed     `json:"boxes"`
	Signed   *Signature  `json:"signed,omitempty"`
	Returned []Tally     `json:"returned"`
	After    []Afterward `json:"after"`
}

// Packed is how many flowers of a line were counted into boxes, and by whom.
type Packed struct {
	Line   studio.ID     `json:"line"`
	Good   int64         `json:"good" minimum:"0"`
	Second int64         `json:"second" minimum:"0"`
	Person studio.ID     `json:"person"`
	At     studio.Minute `json:"at"`
}

// Tally is how many of a material somebody counted.
type Tally struct {
	Material studio.ID     `json:"material"`
	Number   int64         `json:"number" minimum:"0"`
	Person   studio.ID     `json:"person"`
	At       studio.Minute `json:"at"`
}

// Boxed is a box and what lies in it.
type Boxed struct {
	Box   studio.ID `json:"box,omitempty" doc:"a material that is a box"`
	Holds string    `json:"holds" maxLength:"400"`
	Dry   bool      `json:"dry,omitempty" doc:"with desiccant"`
}

// Signature is who signed an order off, checked by whom, for whom.
type Signature struct {
	At       studio.Minute `json:"at"`
	Person   studio.ID     `json:"person"`
	Checked  studio.ID     `json:"checked,omitempty" doc:"who looked at it besides"`
	Receives string        `json:"receives,omitempty" maxLength:"120" doc:"who takes it"`
}

// Afterward is what was heard of an order once it had left.
type Afterward struct {
	At     studio.Minute `json:"at"`
	Person studio.ID     `json:"person"`
	Broke  int64         `json:"broke,omitempty" minimum:"0" doc:"flowers that broke on the way"`
	Says   string        `json:"says" maxLength:"400"`
}

// Line is how many of a line are counted in, none where nobody has.
func (p *Packing) Line(id studio.ID) Packed {
	for _, l := range p.Lines {
		if l.Line == id {
			return l
		}
	}
	return Packed{Line: id}
}

// open refuses what is changed once an order is signed off.
func (p *Packing) open(o *studio.Order) error {
	if p.Signed != nil {
		return studio.Refuse("%q is signed off already; what is heard of it can still be added", o.Name)
	}
	if o.State != studio.OrderOpen {
		return studio.Refuse("%q is %s; only an open order is packed", o.Name, o.State)
	}
	return nil
}

// CountIn notes how many flowers of a line are packed: no more than are owed, and than lie there. A count takes the
// place of an earlier one.
func (p *Packing) CountIn(o *studio.Order, there map[studio.ID]int64, in Packed) error {
	if err := p.open(o); err != nil {
		return err
	}
	i := slices.IndexFunc(o.Lines, func(l studio.OrderLine) bool { return l.ID == in.Line })
	if i < 0 {
		return studio.Refuse("%q has no such line any more; look at the order again", o.Name)
	}
	switch n := in.Good + in.Second; {
	case in.Good < 0 || in.Second < 0:
		return studio.Refuse("say how many of them are packed, from 0 on")
	case n > o.Lines[i].Owed():
		return studio.Refuse("%d are counted in; %d are owed", n, o.Lines[i].Owed())
	case n > there[in.Line]:
		return studio.Refuse("%d are counted in; %d lie there by the books. Record what is finished first", n,
			there[in.Line])
	}
	p.Lines = append(slices.DeleteFunc(slices.Clone(p.Lines), func(l Packed) bool { return l.Line == in.Line }), in)
	return nil
}

// mostBoxes is how many boxes one order fills.
const mostBoxes = 60

// Fill notes what lies in which box, in place of what was said before.
func (p *Packing) Fill(o *studio.Order, boxes []Boxed) error {
	if err := p.open(o); err != nil {
		return err
	}
	if len(boxes) > mostBoxes {
		return studio.Refuse("%d boxes are too many; up to %d would be right", len(boxes), mostBoxes)
	}
	p.Boxes = append([]Boxed{}, boxes...)
	return nil
}

// CountOut notes how many of a material came out of the flowers again.
func (p *Packing) CountOut(o *studio.Order, c contents.Contents, out Tally) error {
	if err := p.open(o); err != nil {
		return err
	}
	if !slices.ContainsFunc(c.Out, func(piece contents.Piece) bool { return piece.Material == out.Material }) {
		return studio.Refuse("nothing of that was put into the flowers of %q", o.Name)
	}
	p.Out = counted(p.Out, out)
	return nil
}

func counted(all []Tally, one Tally) []Tally {
	return append(slices.DeleteFunc(slices.Clone(all), func(c Tally) bool { return c.Material == one.Material }), one)
}

// Number is how many of a material were counted.
func Number(all []Tally, material studio.ID) int64 {
	for _, c := range all {
		if c.Material == material {
			return c.Number
		}
	}
	return 0
}

// SignOff says that an order leaves as it is packed, all of it or, where that is said, a part, and answers how many of
// each line go. What is not packed does not leave; what was put in for making has to be out; nothing is signed twice.
// Materials are named by name.
func (p *Packing) SignOff(
	o *studio.Order, c contents.Contents, name func(studio.ID) string, part bool, s Signature,
) (leaves map[studio.ID]int64, err error) {
	if err := p.open(o); err != nil {
		return nil, err
	}
	leaves = map[studio.ID]int64{}
	var going, missing int64
	for _, l := range o.Lines {
		in := p.Line(l.ID)
		n := in.Good + in.Second
		leaves[l.ID] = n
		going, missing = going+n, missing+l.Owed()-n
	}
	switch {
	case going == 0:
		return nil, studio.Refuse("nothing of %q is packed; count it in first", o.Name)
	case missing > 0 && !part:
		return nil, studio.Refuse("%d flowers of %q are not packed; count them in, or say that a part leaves", missing,
			o.Name)
	}
	for _, out := range c.Out {
		if n := Number(p.Out, out.Material); n < out.Least && !part {
			return nil, studio.Refuse(
				"%d of %s were put in and %d are counted out; look for the others before it leaves",
				out.Least,
				name(out.Material),
				n,
			)
		}
	}
	p.Signed = &s
	return leaves, nil
}

// Rest is the packing of what stays once a part of an order has left: nothing of it is packed or signed yet, and what
// was counted out so far stays out.
func (p *Packing) Rest() Packing {
	return Packing{Lines: []Packed{}, Out: p.Out, Boxes: []Boxed{}, Returned: p.Returned, After: p.After}
}

// dampFrom is the humidity from which boxes want a desiccant.
const dampFrom studio.PerMille = 650

// Damp is true where some hour of the room's usual day is so damp that boxes want a desiccant.
func Damp(doc *studio.Document) bool {
	return slices.ContainsFunc(doc.Climate, func(air studio.Air) bool { return air.HumidityPerMille >= dampFrom })
}

// Lent is how many of each holder that comes back go with an order's cakes.
func Lent(book *studio.Book, o *studio.Order) map[studio.ID]int64 {
	lent := map[studio.ID]int64{}
	for holder, n := range Holders(o) {
		if m := book.Material(holder); m != nil && m.Holder != nil && m.Holder.ComesBack {
			lent[holder] = n
		}
	}
	return lent
}

// Holders is how many of each holder an order's cakes take.
func Holders(o *studio.Order) map[studio.ID]int64 {
	all := map[studio.ID]int64{}
	for i := range o.Cakes {
		for _, p := range o.Cakes[i].Placings {
			if p.Holder != "" {
				all[p.Holder] += p.Quantity
			}
		}
	}
	return all
}

// CameBack notes how many holders have come back in all, and answers how many more that are than were known of: no
// more than were lent.
func (p *Packing) CameBack(book *studio.Book, o *studio.Order, back Tally) (more int64, err error) {
	lent := Lent(book, o)[back.Material]
	switch {
	case p.Signed == nil:
		return 0, studio.Refuse("%q has not left yet", o.Name)
	case back.Number < 0 || back.Number > lent:
		return 0, studio.Refuse("%d came back; %d were lent with %q", back.Number, lent, o.Name)
	}
	more = back.Number - Number(p.Returned, back.Material)
	p.Returned = counted(p.Returned, back)
	return more, nil
}

// Hear notes what was heard of an order once it had left.
func (p *Packing) Hear(o *studio.Order, a Afterward) error {
	if p.Signed == nil {
		return studio.Refuse("%q has not left yet", o.Name)
	}
	if a.Says == "" && a.Broke == 0 {
		return studio.Refuse("say what was heard, or how many broke on the way")
	}
	p.After = append(slices.Clone(p.After), a)
	return nil
}
