package stores

import (
	"fmt"
	"slices"

	"bractum/core/studio"
)

// Buy is a line of the shopping list: what is short, in the packs it is sold in. NeededBy
// is when the first task finds too little, OrderBy the last minute to order so that it is
// there by then; none where only the studio's own reserve runs low. Tasks stand still
// without it.
type Buy struct {
	Material studio.ID      `json:"material"`
	Short    int64          `json:"short"`
	Pack     int64          `json:"pack"`
	Packs    int64          `json:"packs"`
	NeededBy *studio.Minute `json:"neededBy,omitempty"`
	OrderBy  *studio.Minute `json:"orderBy,omitempty"`
	Late     bool           `json:"late"`
	// Price is what the packs would come to at the last price; nothing where none is known.
	Price   studio.Money   `json:"price,omitempty"`
	Tasks   []studio.ID    `json:"tasks"`
	Lots    []studio.ID    `json:"lots"`
	Working studio.Working `json:"working"`
}

// List is what to buy from one supplier; of no supplier, what none is known for.
type List struct {
	Supplier *studio.Supplier `json:"supplier,omitempty"`
	Buys     []Buy            `json:"buys"`
	// Total is what all of it would come to, in the studio's steps; Unpriced of how many lines no price is known.
	Total    studio.Money `json:"total,omitempty"`
	Unpriced int          `json:"unpriced,omitempty"`
}

// Shopping is what to buy, by supplier in the document's order; what has no supplier comes
// last.
func Shopping(doc *studio.Document, balances []Balance) ([]List, error) {
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return nil, err
	}
	lists := make([]List, len(doc.Suppliers)+1)
	for i := range doc.Suppliers {
		lists[i].Supplier = &doc.Suppliers[i]
	}
	for i, m := range doc.Materials {
		b := balances[i]
		short := b.needed + m.KeepAtLeast - b.OnHand - b.Coming
		if short <= 0 && b.RunsOut == nil {
			continue
		}
		to := slices.IndexFunc(doc.Suppliers, func(s studio.Supplier) bool { return s.ID == m.Supplier })
		if to < 0 {
			to = len(doc.Suppliers)
		}
		buy := Buy{
			Material: m.ID,
			Short:    max(0, short),
			Pack:     max(1, m.Pack),
			NeededBy: b.RunsOut,
			Tasks:    []studio.ID{},
			Lots:     []studio.ID{},
		}
		buy.Packs = studio.CeilDiv(buy.Short, buy.Pack)
		buy.Price = m.Price * studio.Money(buy.Packs)
		lists[to].Total += buy.Price
		if m.Price == 0 {
			lists[to].Unpriced++
		}
		unit := string(m.Unit)
		buy.Working = studio.Working{
			Rule:     "to-buy",
			Rounding: studio.ToPackage,
			Inputs: []studio.Figure{studio.NewFigure("taken-by-the-plan", b.needed, unit),
				studio.NewFigure(
					"to-be-there-always",
					m.KeepAtLeast,
					unit,
				), studio.NewFigure("on-hand", b.OnHand, unit), studio.NewFigure("on-its-way", b.Coming, unit),
				studio.NewFigure("in-a-pack", buy.Pack, unit)},
			Result: studio.NewFigure("packs", buy.Packs, ""),
		}
		if b.RunsOut != nil {
			for _, t := range b.Takes {
				if t.At >= *b.RunsOut {
					buy.Tasks = append(buy.Tasks, t.Task)
					if !slices.Contains(buy.Lots, t.Lot) {
						buy.Lots = append(buy.Lots, t.Lot)
					}
				}
			}
			if s := lists[to].Supplier; s != nil {
				by := s.OrderBy(calendar, *b.RunsOut)
				buy.OrderBy, buy.Late = &by, by < doc.Now
			}
		}
		lists[to].Buys = append(lists[to].Buys, buy)
	}
	for i := range lists {
		lists[i].Total = lists[i].Total.RoundedUp(doc.Settings.MoneyStep)
	}
	return slices.DeleteFunc(lists, func(l List) bool { return len(l.Buys) == 0 }), nil
}

// Order makes a purchase of some of a list: packs of each material, as they are ordered.
// Next gives its lines their ids.
func Order(
	doc *studio.Document,
	supplier studio.ID,
	packs map[studio.ID]int64,
	next func() studio.ID,
) (studio.Purchase, error) {
	i := slices.IndexFunc(doc.Suppliers, func(s studio.Supplier) bool { return s.ID == supplier })
	if i < 0 {
		return studio.Purchase{}, studio.Refuse("no such supplier is known")
	}
	if doc.Suppliers[i].Takes == studio.BoughtInShop {
		return studio.Purchase{}, studio.Refuse("%s is a shop and takes no orders; book in what was bought there",
			doc.Suppliers[i].Name)
	}
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		return studio.Purchase{}, err
	}
	p := studio.Purchase{
		ID:       next(),
		Supplier: supplier,
		State:    studio.PurchaseSent,
		Ordered:  doc.Now,
		Expected: doc.Suppliers[i].Arrival(calendar, doc.Now),
		Lines:    []studio.PurchaseLine{},
	}
	for _, m := range doc.Materials {
		n, wanted := packs[m.ID]
		switch {
		case !wanted || n == 0:
			continue
		case n < 0 || n > 10_000:
			return studio.Purchase{}, studio.Refuse("%d packs of %s cannot be ordered", n, m.Name)
		case m.Supplier != supplier:
			return studio.Purchase{}, studio.Refuse("%s does not sell %s", doc.Suppliers[i].Name, m.Name)
		}
		p.Lines = append(
			p.Lines,
			studio.PurchaseLine{ID: next(), Material: m.ID, Pack: max(1, m.Pack), Packs: n, Promised: n},
		)
	}
	if len(p.Lines) == 0 {
		return studio.Purchase{}, studio.Refuse("nothing is ordered; say how many packs of what")
	}
	return p, nil
}

// Arrived is what a supplier brought of a line, in packs.
type Arrived struct {
	Line  studio.ID `json:"line"`
	Packs int64     `json:"packs"`
}

// GoodsIn books what came of a purchase. A line may come in parts; more than was ordered
// is refused, and so is what has come already.
func GoodsIn(doc *studio.Document, p studio.Purchase, came []Arrived) (studio.Purchase, Change, error) {
	supplier := doc.Suppliers[slices.IndexFunc(doc.Suppliers, func(s studio.Supplier) bool { return s.ID == p.Supplier })].Name
	switch p.State {
	case studio.PurchaseArrived:
		return p, Change{}, studio.Refuse(
			"this delivery from %s is booked in already; it is not booked twice",
			supplier,
		)
	case studio.PurchaseCancelled:
		return p, Change{}, studio.Refuse("this order to %s was cancelled", supplier)
	}
	p.Lines = slices.Clone(p.Lines)
	c := Change{Summary: "Goods in from " + supplier}
	all := int64(0)
	for _, a := range came {
		i := slices.IndexFunc(p.Lines, func(l studio.PurchaseLine) bool { return l.ID == a.Line })
		if i < 0 {
			return p, Change{}, studio.Refuse("that was not ordered from %s", supplier)
		}
		l := &p.Lines[i]
		if left := l.Packs - l.Arrived; a.Packs < 0 || a.Packs > left {
			return p, Change{}, studio.Refuse(
				"%d packs came of a line of which %d are still to come; from 0 to %d would be right",
				a.Packs,
				left,
				left,
			)
		}
		if a.Packs > 0 {
			l.Arrived += a.Packs
			all += a.Packs
			c.About = append(c.About, l.Material)
			c.Moved = append(
				c.Moved,
				studio.Movement{Kind: studio.Bought, Material: l.Material, Amount: a.Packs * l.Pack},
			)
		}
	}
	if all == 0 {
		return p, Change{}, studio.Refuse("nothing came; say how many packs of what")
	}
	c.Summary += fmt.Sprintf(": %d packs", all)
	if !slices.ContainsFunc(
		p.Lines,
		func(l studio.PurchaseLine) bool { return l.Arrived < min(l.Promised, l.Packs) },
	) {
		p.State = studio.PurchaseArrived
	} else if p.State == studio.PurchaseSent {
		p.State = studio.PurchaseConfirmed
	}
	return p, c, nil
}

// Confirm keeps what a supplier promised of a purchase: packs by line, when it comes, and
// what was said. More than was ordered, or a time that cannot be, is refused.
func Confirm(
	p *studio.Purchase,
	promised map[string]int64,
	c studio.Calendar,
	expected string,
	said string,
) error {
	when, err := studio.ParseWallTime(expected)
	if err != nil || c.Minute(when) < p.Ordered {
		return studio.Refuse("the supplier says %q for when it comes; call them, the order is kept as sent", expected)
	}
	for i := range p.Lines {
		packs, answered := promised[string(p.Lines[i].ID)]
		if !answered || packs < 0 || packs > p.Lines[i].Packs {
			return studio.Refuse(
				"the supplier promises %d packs of %d; call them, the order is kept as sent",
				packs,
				p.Lines[i].Packs,
			)
		}
		p.Lines[i].Promised = packs
	}
	p.State, p.Expected, p.Said = studio.PurchaseConfirmed, c.Minute(when), said
	return nil
}
