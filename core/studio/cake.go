package studio

import (
	"fmt"
	"strings"
	"unicode/utf8"
)

// Client is who asked for an order: no more than is needed to reach them. It can be forgotten while the order stays.
type Client struct {
	Name    string `json:"name"`
	Contact string `json:"contact,omitempty"`
}

// Cake is one that an order's flowers go on: its tiers from the lowest up, and what stands where on it.
type Cake struct {
	ID    ID     `json:"id"`
	Name  string `json:"name"`
	Tiers []Tier `json:"tiers"`
	// Placings are where flowers go, and kits of loose ones that go with the cake.
	Placings []Placing `json:"placings,omitempty"`
}

// TierShape is what a tier is seen from above.
type TierShape string

// Shapes of a tier; any other is drawn as its rectangle.
const (
	TierRound  TierShape = "round"
	TierSquare TierShape = "square"
	TierOther  TierShape = "other"
)

// Tier is one of a cake: Across is its diameter or side, Deep the other side where that differs.
type Tier struct {
	Shape  TierShape   `json:"shape"`
	Across Micrometres `json:"acrossMicrometres"`
	Deep   Micrometres `json:"deepMicrometres,omitempty"`
	Height Micrometres `json:"heightMicrometres"`
}

// Depth is how far a tier goes from its front to its back.
func (t Tier) Depth() Micrometres {
	if t.Shape == TierOther && t.Deep > 0 {
		return t.Deep
	}
	return t.Across
}

// Face is where on a tier something stands.
type Face string

// Faces: on top of it, at its side, or loose with the cake, to be placed by whoever receives it.
const (
	OnTop    Face = "top"
	AtSide   Face = "side"
	LooseKit Face = "loose"
)

// Placing is a place on a cake for so many flowers of a line, a spray being one: where its stem goes in, which way
// its tip points, and what holds it.
type Placing struct {
	ID       ID    `json:"id"`
	Line     ID    `json:"line"`
	Quantity int64 `json:"quantity"`
	On       Face  `json:"on"`
	// Tier counts from 0, the lowest.
	Tier int `json:"tier"`
	// At is where it stands as seen from above, clockwise from the front, in degrees; Out how far from the tier's
	// middle on top, or above its foot at its side.
	At  int64       `json:"atDegrees"`
	Out Micrometres `json:"outMicrometres"`
	// Points is which way its tip points: on top clockwise from the front, at a side clockwise from straight up.
	Points int64 `json:"pointsDegrees"`
	// Length and Breadth are of what is seen of it, Depth how deep its stem goes in, Holder what it goes in with.
	Length  Micrometres `json:"lengthMicrometres,omitempty"`
	Breadth Micrometres `json:"breadthMicrometres,omitempty"`
	Depth   Micrometres `json:"depthMicrometres,omitempty"`
	Holder  ID          `json:"holder,omitempty"`
	Note    string      `json:"note,omitempty"`
}

// Holder is what keeps wires out of a cake: a pick or tube of food-safe material, as its maker says.
type Holder struct {
	Deep Micrometres `json:"deepMicrometres"`
	// ComesBack is true of one that is lent with the flowers.
	ComesBack bool `json:"comesBack,omitempty"`
}

// Box is the room inside a box that flowers leave in.
type Box struct {
	Length Micrometres `json:"lengthMicrometres"`
	Width  Micrometres `json:"widthMicrometres"`
	Height Micrometres `json:"heightMicrometres"`
}

const (
	mostCakes    = 20
	mostTiers    = 12
	mostPlacings = 300
	mostPictures = 40
	mostOfWords  = 400
)

// written checks a text of an order that may be empty and run over lines.
func (v *validator) written(place, text string) {
	switch {
	case utf8.RuneCountInString(text) > mostOfWords:
		v.say(place, "is too long; up to %d characters would be right", mostOfWords)
	case strings.ContainsFunc(strings.ReplaceAll(text, "\n", ""), unseen):
		v.say(place, "holds a character that cannot be seen; type it anew")
	}
}

// whole checks what of an order is more than its flowers: who asked for it, where it goes, what is
// to be approved, and its cakes.
func (v *validator) whole(place string, o *Order) {
	if o.Client != nil {
		if flaw := nameFlaw(o.Client.Name); flaw != "" {
			v.say(place+".client.name", "%s", flaw)
		}
		v.written(place+".client.contact", o.Client.Contact)
	}
	v.written(place+".goes", o.Goes)
	v.approvals(place, o)
	if len(o.Pictures) > mostPictures {
		v.say(place+".pictures", "are %d; up to %d would be right", len(o.Pictures), mostPictures)
	}
	for i, p := range o.Pictures {
		v.named(fmt.Sprintf("%s.pictures[%d]", place, i), p.ID, p.Name)
	}
	if len(o.Cakes) > mostCakes {
		v.say(place+".cakes", "are %d; up to %d would be right", len(o.Cakes), mostCakes)
		return
	}
	for i := range o.Cakes {
		v.cake(fmt.Sprintf("%s.cakes[%d]", place, i), &o.Cakes[i])
	}
}

// dates checks what of an order is to be after it leaves, or before. It is asked where an order is entered; one that
// is moved later, in a scene or by a fix, is a document all the same.
func (v *validator) dates(o *Order) {
	if !o.Eaten.IsZero() && o.Eaten.Compare(o.Leaves) < 0 {
		v.say("eaten", "is before the flowers leave; the cake is eaten after that")
	}
	for i, a := range o.Approvals {
		if !a.By.IsZero() && a.By.Compare(o.Leaves) >= 0 {
			v.say(fmt.Sprintf("approvals[%d].by", i), "is not before the flowers leave")
		}
	}
}

func (v *validator) cake(place string, c *Cake) {
	v.named(place, c.ID, c.Name)
	if len(c.Tiers) > mostTiers || len(c.Placings) > mostPlacings {
		v.say(place+".tiers", "are too many, or its places; up to %d tiers and %d places would be right", mostTiers,
			mostPlacings)
		return
	}
	for j, t := range c.Tiers {
		at := fmt.Sprintf("%s.tiers[%d]", place, j)
		if t.Shape != TierRound && t.Shape != TierSquare && t.Shape != TierOther {
			v.say(at+".shape", "is %q; round, square or other would be right", t.Shape)
		}
		within(v, at+".acrossMicrometres", t.Across, 20_000, 1_500_000)
		within(v, at+".deepMicrometres", t.Deep, 0, 1_500_000)
		within(v, at+".heightMicrometres", t.Height, 5_000, 800_000)
		if j > 0 && (t.Across > c.Tiers[j-1].Across || t.Depth() > c.Tiers[j-1].Depth()) {
			v.say(
				at+".acrossMicrometres",
				"is %s, and it stands on a tier of %s; a tier is no wider than the one below",
				max(t.Across, t.Depth()),
				min(c.Tiers[j-1].Across, c.Tiers[j-1].Depth()),
			)
		}
	}
	for j := range c.Placings {
		v.placing(fmt.Sprintf("%s.placings[%d]", place, j), c, &c.Placings[j])
	}
}

// placing checks a place on a cake. What lies there may be of a line that the order has fewer of, or has no more: what
// is ordered changes without the drawing, and the drawing says so.
func (v *validator) placing(place string, c *Cake, p *Placing) {
	within(v, place+".quantity", p.Quantity, 1, MostPieces)
	v.written(place+".note", p.Note)
	for _, l := range []struct {
		field string
		is    Micrometres
	}{{"outMicrometres", p.Out}, {"lengthMicrometres", p.Length}, {"breadthMicrometres", p.Breadth},
		{"depthMicrometres", p.Depth}} {
		within(v, place+"."+l.field, l.is, 0, 2_000_000)
	}
	within(v, place+".atDegrees", p.At, 0, 359)
	within(v, place+".pointsDegrees", p.Points, 0, 359)
	if p.Holder != "" {
		m := v.materials[p.Holder]
		switch {
		case m == nil:
			v.say(place+".holder", "no material %q is in the studio", p.Holder)
		case m.Holder == nil:
			v.say(place+".holder", "%q is no holder; say on its sheet how deep it is", m.Name)
		}
	}
	switch p.On {
	case LooseKit:
		return
	case OnTop, AtSide:
	default:
		v.say(place+".on", "is %q; top, side or loose would be right", p.On)
		return
	}
	if p.Tier < 0 || p.Tier >= len(c.Tiers) {
		v.say(place+".tier", "is %d; %q has %d", p.Tier+1, c.Name, len(c.Tiers))
		return
	}
	t := c.Tiers[p.Tier]
	if room := t.Height; p.On == OnTop && p.Depth > room {
		v.say(place+".depthMicrometres", "is %s, and the tier is %s high", p.Depth, room)
	}
	if room := min(t.Across, t.Depth()); p.On == AtSide && p.Depth > room {
		v.say(place+".depthMicrometres", "is %s, and the tier is %s across", p.Depth, room)
	}
}

// carries checks what a material is that flowers are held or boxed in.
func (v *validator) carries(place string, m *Material) {
	if m.Holder != nil {
		within(v, place+".holder.deepMicrometres", m.Holder.Deep, 1_000, 500_000)
	}
	if m.Box != nil {
		within(v, place+".box.lengthMicrometres", m.Box.Length, 10_000, 2_000_000)
		within(v, place+".box.widthMicrometres", m.Box.Width, 10_000, 2_000_000)
		within(v, place+".box.heightMicrometres", m.Box.Height, 10_000, 2_000_000)
	}
	if (m.Holder != nil || m.Box != nil) && m.Unit != UnitPieces {
		v.say(place+".unit", "is %q; holders and boxes are counted in pieces", m.Unit)
	}
}
