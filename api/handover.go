package api

import (
	"context"
	"fmt"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/bench"
	"bractum/core/cake"
	"bractum/core/handover"
	"bractum/core/studio"
	"bractum/store"
)

// SheetView is all that goes with an order to whoever receives it, and how far its packing is.
type SheetView struct {
	N         int64            `json:"n"`
	Studio    string           `json:"studio"`
	Order     studio.Order     `json:"order"`
	Version   int64            `json:"version" doc:"of the packing, as writers say that they saw it"`
	Lines     []SheetLine      `json:"lines"`
	Contents  ContentsView     `json:"contents"`
	Findings  []cake.Finding   `json:"findings"`
	Packing   handover.Packing `json:"packing"`
	Lent      []PieceView      `json:"lent" doc:"holders that come back"`
	Boxes     []Named          `json:"boxes" doc:"those that the studio has"`
	Proposed  []BoxView        `json:"proposed" doc:"boxes that would hold what lies on its cakes"`
	ByEye     []ByEye          `json:"byEye" doc:"flowers of no said size, and those that no box has room for"`
	Damp      bool             `json:"damp" doc:"the air is damp today: the boxes want a desiccant"`
	SignedBy  string           `json:"signedBy,omitempty"`
	CheckedBy string           `json:"checkedBy,omitempty"`
}

// BoxView is a box that would be filled, with its name and room.
type BoxView struct {
	cake.Filled
	Name string     `json:"name"`
	Room studio.Box `json:"room"`
	Says string     `json:"says" doc:"what lies in it, in words"`
}

// ByEye is how many flowers of a name are packed by eye.
type ByEye struct {
	Name   string `json:"name"`
	Number int64  `json:"number"`
}

// SheetLine is a line of an order as it is handed over.
type SheetLine struct {
	Line      studio.ID `json:"line"`
	Name      string    `json:"name"`
	Colourway string    `json:"colourway"`
	Quantity  int64     `json:"quantity"`
	Owed      int64     `json:"owed"`
	There     int64     `json:"there"`
	Form      string    `json:"form"`
	PackedBy  string    `json:"packedBy,omitempty"`
}

// OfPacking names an order, and the version of its packing that was seen, 0 where nothing is packed yet.
type OfPacking struct {
	Who
	ID   studio.ID `path:"id"`
	Seen int64     `header:"If-Match" required:"true" minimum:"0" doc:"the version that was seen, 0 for none"`
}

func (o OfPacking) packing() OfPacking { return o }

// packing registers a command about how an order is packed.
func packing[I interface {
	commander
	packing() OfPacking
}](s *Service, to huma.API, o operation, run func(*change, *I, studio.Order, *handover.Packing) error) {
	fact(s, to, o, func(c *change, in *I) (Entered, error) {
		of := (*in).packing()
		state, err := c.Order(of.ID)
		if err != nil {
			return Entered{}, err
		}
		p, err := c.Packing(of.ID)
		if err != nil {
			return Entered{}, err
		}
		if err := run(c, in, state.Order, &p.Packing); err != nil {
			return Entered{}, err
		}
		return Entered{ID: of.ID, Version: of.Seen + 1, N: c.N()}, c.PutPacking(p, of.Seen)
	})
}

func (s *Service) registerHandover(to huma.API) {
	type which struct {
		ID string `path:"id"`
	}
	kept(
		s,
		to,
		get("/orders/{id}/sheet", "get-sheet", "What leaves with an order, how far it is packed, and its sheet"),
		shows{topics: []string{"orders", "work", "stores", "book", "standards", "air"}, planned: true},
		func(ctx context.Context, at *moment, in *which) (SheetView, error) {
			o, p, err := s.store.PackedOrder(ctx, studio.ID(in.ID))
			if err != nil {
				return SheetView{}, err
			}
			return at.sheetView(o, p), nil
		},
	)
	type packs struct {
		OfPacking
		Body struct {
			Line   studio.ID `json:"line"`
			Good   int64     `json:"good" minimum:"0"`
			Second int64     `json:"second,omitempty" minimum:"0"`
		}
	}
	packing(s, to, post("/orders/{id}/pack", "pack-line", "flowers counted in", "Count flowers of an order into boxes"),
		func(c *change, in *packs, o studio.Order, p *handover.Packing) error {
			c.Summary = fmt.Sprintf("%d flowers of order %q are packed", in.Body.Good+in.Body.Second, o.Name)
			return p.CountIn(&o, c.bench().There(o), handover.Packed{Line: in.Body.Line, Good: in.Body.Good,
				Second: in.Body.Second, Person: studio.ID(in.Person), At: c.at.inForce.Doc.Now})
		})
	type counts struct {
		OfPacking
		Body struct {
			Material studio.ID `json:"material"`
			Number   int64     `json:"number" minimum:"0"`
		}
	}
	counted := func(c *change, in *counts) handover.Tally {
		return handover.Tally{Material: in.Body.Material, Number: in.Body.Number, Person: studio.ID(in.Person),
			At: c.at.inForce.Doc.Now}
	}
	packing(s, to, post("/orders/{id}/count-out", "count-out", "spacers counted out",
		"Count what came out of an order's flowers again"),
		func(c *change, in *counts, o studio.Order, p *handover.Packing) error {
			_, holds := c.at.inForce.contentsView(o)
			c.Summary = fmt.Sprintf("%d of %s are out of order %q", in.Body.Number,
				c.at.inForce.material(in.Body.Material), o.Name)
			return p.CountOut(&o, holds, counted(c, in))
		})
	type fills struct {
		OfPacking
		Body struct {
			Boxes []handover.Boxed `json:"boxes" maxItems:"60"`
		}
	}
	packing(s, to, post("/orders/{id}/boxes", "fill-boxes", "boxes filled", "Say what of an order lies in which box"),
		func(c *change, in *fills, o studio.Order, p *handover.Packing) error {
			c.Summary = fmt.Sprintf("Order %q is in %d boxes", o.Name, len(in.Body.Boxes))
			return p.Fill(&o, in.Body.Boxes)
		})
	type signs struct {
		OfPacking
		Body struct {
			Part     bool      `json:"part,omitempty" doc:"what is not packed is still owed"`
			Checked  studio.ID `json:"checked,omitempty" doc:"who looked at it besides"`
			Receives string    `json:"receives,omitempty" maxLength:"120" doc:"who takes it"`
		}
	}
	packing(s, to, post("/orders/{id}/sign-off", "sign-off", "order signed off",
		"Sign off what leaves: the flowers go off the shelf, and the sheet is final"),
		func(c *change, in *signs, o studio.Order, p *handover.Packing) error {
			return c.signOff(o, p, in.Body.Part, handover.Signature{At: c.at.inForce.Doc.Now,
				Person: studio.ID(in.Person), Checked: in.Body.Checked, Receives: in.Body.Receives})
		})
	packing(s, to, post("/orders/{id}/came-back", "came-back", "holders came back",
		"Book back holders and stands that were lent with an order"),
		func(c *change, in *counts, o studio.Order, p *handover.Packing) error {
			more, err := p.CameBack(c.at.inForce.Book, &o, counted(c, in))
			if err != nil {
				return err
			}
			c.Summary = fmt.Sprintf("%d of %s came back from order %q", in.Body.Number,
				c.at.inForce.material(in.Body.Material), o.Name)
			if more == 0 {
				return nil
			}
			return c.Book(studio.WorkLot{}, []studio.Movement{{Kind: studio.Corrected, Material: in.Body.Material,
				Amount: more}})
		})
	type hears struct {
		OfPacking
		Body struct {
			Broke int64  `json:"broke,omitempty" minimum:"0" doc:"flowers that broke on the way"`
			Says  string `json:"says,omitempty" maxLength:"400"`
		}
	}
	packing(
		s,
		to,
		post("/orders/{id}/after", "hear-after", "heard of an order", "Note what was heard of an order that has left"),
		func(c *change, in *hears, o studio.Order, p *handover.Packing) error {
			c.Summary = fmt.Sprintf("Heard of order %q", o.Name)
			return p.Hear(&o, handover.Afterward{At: c.at.inForce.Doc.Now, Person: studio.ID(in.Person),
				Broke: in.Body.Broke, Says: in.Body.Says})
		},
	)
	type forgets struct {
		Who
		ID studio.ID `path:"id"`
	}
	fact(s, to, post("/orders/{id}/forget-client", "forget-client", "client forgotten",
		"Forget who asked for an order; the order stays"),
		func(c *change, in *forgets) (Moved, error) {
			state, err := c.Order(in.ID)
			if err != nil {
				return Moved{}, err
			}
			c.Summary = fmt.Sprintf("The client of order %q is forgotten", state.Order.Name)
			return Moved{c.N()}, c.SetClient(in.ID, nil)
		})
}

// boxes are those proposed for an order, and what is left to be packed by eye.
func (a *answer) boxes(o studio.Order, lines []SheetLine) ([]BoxView, []ByEye) {
	filled, left := cake.Boxes(a.Doc, o)
	views, eye := []BoxView{}, []ByEye{}
	for _, f := range filled {
		m := a.Book.Material(f.Box)
		v := BoxView{Filled: f, Name: m.Name, Room: *m.Box}
		var says []string
		for _, l := range lines {
			n := 0
			for _, one := range f.Lies {
				if one.Line == l.Line {
					n++
				}
			}
			if n > 0 {
				says = append(says, fmt.Sprintf("%d %s", n, l.Name))
			}
		}
		v.Says = strings.Join(says, ", ")
		views = append(views, v)
	}
	for _, l := range lines {
		if left[l.Line] > 0 {
			eye = append(eye, ByEye{l.Name, left[l.Line]})
		}
	}
	return views, eye
}

// signOff hands over what is packed of an order, with the holders that its cakes take once all of it goes.
func (c *change) signOff(o studio.Order, p *handover.Packing, part bool, by handover.Signature) error {
	a := c.at.inForce
	_, holds := a.contentsView(o)
	leaves, err := p.SignOff(&o, holds, a.material, part, by)
	if err != nil {
		return err
	}
	state, err := c.Order(o.ID)
	if err != nil {
		return err
	}
	if _, err := c.handOver(o.ID, state.Version, leaves); err != nil {
		return err
	}
	if part {
		*p = p.Rest()
		return nil
	}
	var moved []studio.Movement
	for _, m := range a.Doc.Materials {
		if n := min(handover.Holders(&o)[m.ID], m.OnHand); n > 0 {
			moved = append(moved, studio.Movement{Kind: studio.UsedUp, Material: m.ID, Amount: -n})
		}
	}
	return c.Book(studio.WorkLot{}, moved)
}

func (at *moment) sheetView(o store.OrderState, p store.PackingState) SheetView {
	a := at.latestAnswer()
	v := SheetView{N: at.N, Studio: a.Doc.Name, Order: o.Order, Version: p.Version, Packing: p.Packing,
		Lines: []SheetLine{}, Lent: []PieceView{}, Boxes: []Named{}, Findings: cake.Findings(a.Doc, a.Book, o.Order)}
	v.Contents, _ = a.contentsView(o.Order)
	v.Damp = handover.Damp(a.Doc)
	if signed := p.Packing.Signed; signed != nil {
		v.SignedBy, v.CheckedBy = a.person(signed.Person), a.person(signed.Checked)
	}
	there := bench.New(at.inForce.Doc, at.inForce.Plan).There(o.Order)
	for _, l := range o.Order.Lines {
		line := SheetLine{Line: l.ID, Quantity: l.Quantity, Owed: l.Owed(), There: there[l.ID],
			PackedBy: a.person(p.Packing.Line(l.ID).Person)}
		if r := a.Book.Of(l.Made()); r != nil {
			line.Name, line.Form = r.Name, r.Form
		}
		for _, c := range a.Doc.Colourways {
			if c.ID == l.Colourway {
				line.Colourway = c.Name
			}
		}
		v.Lines = append(v.Lines, line)
	}
	v.Proposed, v.ByEye = a.boxes(o.Order, v.Lines)
	for _, m := range a.Doc.Materials {
		if n := handover.Lent(a.Book, &o.Order)[m.ID]; n > 0 {
			piece := PieceView{Name: m.Name}
			piece.Material, piece.Unit, piece.Least, piece.Most = m.ID, m.Unit, n, n
			v.Lent = append(v.Lent, piece)
		}
		if m.Box != nil && !m.OutOfUse {
			v.Boxes = append(v.Boxes, Named{ID: m.ID, Name: m.Name})
		}
	}
	return v
}
