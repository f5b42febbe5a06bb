// Package cake looks at where an order's flowers go: whether each has room where it is laid, whether its tier is deep
// enough for what it goes in with, whether its stem carries it, whether it has a box to leave in, and what goes into
// the cake with no holder round it. It warns, with its working, and never blocks.
package cake

import (
	"math"
	"slices"

	"bractum/core/flower"
	"bractum/core/studio"
)

// Case is what is amiss with a place on a cake.
type Case string

// Cases: more of its line is laid than is ordered; its tip stands over the edge, or past the top or the foot of a side;
// it runs into the tier that stands on its own; its wires have no holder; the holder is deeper than the tier, or
// shallower than the stem goes in; the free stem is shorter than it is to go in; the stem does not hold the head up; no
// box has room for it.
const (
	MoreLaid    Case = "more-laid"
	OverEdge    Case = "over-edge"
	PastTop     Case = "past-top"
	PastFoot    Case = "past-foot"
	UnderTier   Case = "under-tier"
	NoHolder    Case = "no-holder"
	HolderDeep  Case = "holder-deep"
	HolderShort Case = "holder-short"
	StemShort   Case = "stem-short"
	StemWeak    Case = "stem-weak"
	NoBox       Case = "no-box"
)

// Finding is what is amiss with a place on a cake, with its working. Lengths are in millimetres.
type Finding struct {
	Cake    studio.ID      `json:"cake"`
	Placing studio.ID      `json:"placing"`
	Case    Case           `json:"case" enum:"more-laid,over-edge,past-top,past-foot,under-tier,no-holder,holder-deep,holder-short,stem-short,stem-weak,no-box"`
	Working studio.Working `json:"working"`
}

// clear is how far from each other and from the walls of a box flowers are packed, so that nothing touches.
const clear studio.Micrometres = 10_000

// Findings are what is amiss with the places on an order's cakes, in their order. What no size is said of is not
// judged by it. It takes time proportional to the places, and to the closure of what stands in them.
func Findings(doc *studio.Document, book *studio.Book, o studio.Order) []Finding {
	found := []Finding{}
	laid := map[studio.ID]int64{}
	for i := range o.Cakes {
		c := &o.Cakes[i]
		for j := range c.Placings {
			p := &c.Placings[j]
			l := slices.IndexFunc(o.Lines, func(l studio.OrderLine) bool { return l.ID == p.Line })
			var ordered int64
			if l >= 0 {
				ordered = o.Lines[l].Quantity
			}
			if laid[p.Line] += p.Quantity; laid[p.Line] > ordered {
				found = append(found, Finding{Cake: c.ID, Placing: p.ID, Case: MoreLaid, Working: studio.Working{
					Rule: "placing", Inputs: []studio.Figure{studio.NewFigure("laid", laid[p.Line], ""),
						studio.NewFigure("ordered", ordered, "")},
					Result: studio.NewFigure("over", laid[p.Line]-ordered, "")}})
			}
			if l < 0 || book.Of(o.Lines[l].Made()) == nil {
				continue
			}
			g := look{doc: doc, book: book, cake: c, placing: p, made: o.Lines[l].Made(), found: &found}
			g.stem()
			g.box()
			if p.On != studio.LooseKit && p.Tier >= 0 && p.Tier < len(c.Tiers) {
				g.room()
				g.holder()
			}
		}
	}
	return found
}

type look struct {
	doc     *studio.Document
	book    *studio.Book
	cake    *studio.Cake
	placing *studio.Placing
	made    studio.Made
	found   *[]Finding
}

func mm(name string, l float64) studio.Figure {
	return studio.NewFigure(name, math.Round(l/100)/10, "mm")
}

func (g *look) say(is Case, result studio.Figure, inputs ...studio.Figure) {
	*g.found = append(*g.found, Finding{Cake: g.cake.ID, Placing: g.placing.ID, Case: is,
		Working: studio.Working{Rule: "placing", Inputs: inputs, Result: result}})
}

// room is whether all of it lies on its tier, from where its stem goes in to its tip.
func (g *look) room() {
	p, t := g.placing, g.cake.Tiers[g.placing.Tier]
	if p.Length == 0 {
		return
	}
	length := float64(p.Length)
	if p.On == studio.AtSide {
		up := float64(p.Out) + length*math.Cos(radians(p.Points))
		if over := up - float64(t.Height); over > 0 {
			g.say(PastTop, mm("over", over), mm("long", length), mm("above-the-foot", float64(p.Out)),
				mm("tier-high", float64(t.Height)))
		}
		if up < 0 {
			g.say(PastFoot, mm("over", -up), mm("long", length), mm("above-the-foot", float64(p.Out)))
		}
		return
	}
	sin, cos := math.Sincos(radians(p.At))
	x, y := float64(p.Out)*sin, float64(p.Out)*cos
	sin, cos = math.Sincos(radians(p.Points))
	tipX, tipY := x+length*sin, y+length*cos
	if over := beyond(t, tipX, tipY); over > 0 {
		g.say(OverEdge, mm("over", over), mm("long", length), mm("from-the-middle", float64(p.Out)),
			mm("tier-across", float64(t.Across)))
	}
	if p.Tier+1 < len(g.cake.Tiers) {
		above := g.cake.Tiers[p.Tier+1]
		inside := 0.0
		for _, s := range []float64{0, 0.25, 0.5, 0.75, 1} {
			inside = max(inside, -beyond(above, x+s*(tipX-x), y+s*(tipY-y)))
		}
		if inside > 0 {
			g.say(UnderTier, mm("over", inside), mm("long", length), mm("from-the-middle", float64(p.Out)),
				mm("tier-across", float64(above.Across)))
		}
	}
}

// beyond is how far a point over a tier's middle, y to the front, lies outside it; less than nothing inside.
func beyond(t studio.Tier, x, y float64) float64 {
	if t.Shape == studio.TierRound {
		return math.Hypot(x, y) - float64(t.Across)/2
	}
	return max(math.Abs(x)-float64(t.Across)/2, math.Abs(y)-float64(t.Depth())/2)
}

func radians(degrees int64) float64 { return float64(degrees) * math.Pi / 180 }

// holder is whether wires go in with something round them that the tier and the stem fit.
func (g *look) holder() {
	p, t := g.placing, g.cake.Tiers[g.placing.Tier]
	m := g.book.Material(p.Holder)
	if m == nil || m.Holder == nil {
		if wires := g.wires(g.made, map[studio.Made]bool{}); wires {
			g.say(NoHolder, mm("goes-in", float64(p.Depth)))
		}
		return
	}
	room := t.Height
	if p.On == studio.AtSide {
		room = min(t.Across, t.Depth())
	}
	if m.Holder.Deep > room {
		g.say(
			HolderDeep,
			mm("over", float64(m.Holder.Deep-room)),
			mm("holder-deep", float64(m.Holder.Deep)).OfThing(m.Name),
			mm("tier-high", float64(room)),
		)
	}
	if p.Depth > m.Holder.Deep {
		g.say(HolderShort, mm("over", float64(p.Depth-m.Holder.Deep)), mm("goes-in", float64(p.Depth)),
			mm("holder-deep", float64(m.Holder.Deep)).OfThing(m.Name))
	}
}

// wires is true of what has wires in it.
func (g *look) wires(made studio.Made, seen map[studio.Made]bool) bool {
	r := g.book.Of(made)
	if r == nil || seen[made] {
		return false
	}
	seen[made] = true
	return len(r.Wires) > 0 || slices.ContainsFunc(r.Parts, func(p studio.PartInput) bool {
		return g.wires(p.Made(), seen)
	})
}

// stem is whether it is long enough, and carries its head.
func (g *look) stem() {
	for _, s := range flower.Stems(g.doc, g.book, []studio.Made{g.made}) {
		if s.Holds != flower.Holds {
			g.say(StemWeak, s.Working.Result, s.Working.Inputs...)
		}
		i := slices.IndexFunc(s.Working.Inputs, func(f studio.Figure) bool { return f.Name == "free-stem" })
		if free := s.Working.Inputs[i].Value * 1000; float64(g.placing.Depth) > free {
			g.say(StemShort, mm("over", float64(g.placing.Depth)-free), mm("goes-in", float64(g.placing.Depth)),
				mm("free-stem", free))
		}
	}
}

// box is whether some box has room for it, its sides clear.
func (g *look) box() {
	p := g.placing
	if p.Length == 0 {
		return
	}
	var nearest *studio.Material
	for i := range g.doc.Materials {
		m := &g.doc.Materials[i]
		if m.Box != nil && !m.OutOfUse && (nearest == nil || lacks(*p, *m.Box) < lacks(*p, *nearest.Box)) {
			nearest = m
		}
	}
	if nearest != nil && lacks(*p, *nearest.Box) > 0 {
		g.say(NoBox, mm("over", float64(lacks(*p, *nearest.Box))), mm("long", float64(p.Length)),
			mm("broad", float64(p.Breadth)), mm("box-long", float64(nearest.Box.Length)).OfThing(nearest.Name),
			mm("box-wide", float64(nearest.Box.Width)), mm("box-high", float64(nearest.Box.Height)))
	}
}

// lacks is by how much a box is too small for what stands in a place, as long, as broad and as high as it is broad,
// so that it touches no wall; nothing or less where it has room.
func lacks(p studio.Placing, b studio.Box) studio.Micrometres {
	long, wide := max(b.Length, b.Width), min(b.Length, b.Width)
	return max(p.Length+2*clear-long, p.Breadth+2*clear-wide, p.Breadth+clear-b.Height)
}
