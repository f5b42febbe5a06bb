// Package stores answers what there is, for whom, until when, and what to buy: balances
// from what the ledger booked and the plan in force will take, counting of stock, a change
// of mind about colours, the shopping list and what suppliers bring. What is booked comes
// out as movements; writing them down is the store's part.
package stores

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"bractum/core/studio"
)

// Change is what a command comes to: a line for the journal, what it is about, and what
// is booked.
type Change struct {
	Summary string
	About   []studio.ID
	Moved   []studio.Movement
}

// Thing is something in the stores: a shelf lot, a material, or its wires that lie cut to
// a length.
type Thing struct {
	ID     studio.ID          `json:"id"`
	Length studio.Micrometres `json:"lengthMicrometres,omitempty"`
}

// found is a thing with its name, its unit and what the books say there is.
type found struct {
	Thing
	name   string
	unit   studio.Unit
	amount int64
	shelf  *studio.ShelfLot
}

// find looks a thing up. Wires of a length that there are none of may be counted in.
func find(doc *studio.Document, t Thing) (found, error) {
	for i := range doc.Materials {
		m := &doc.Materials[i]
		if m.ID != t.ID {
			continue
		}
		if t.Length == 0 {
			return found{Thing: t, name: m.Name, unit: m.Unit, amount: m.OnHand, shelf: nil}, nil
		}
		if m.Wire == nil || t.Length < 0 || t.Length >= m.Wire.Length {
			return found{}, studio.Refuse("%q is not cut to %s", m.Name, t.Length)
		}
		f := found{
			Thing:  t,
			name:   fmt.Sprintf("%s cut to %g mm", m.Name, float64(t.Length)/1000),
			unit:   studio.UnitPieces,
			amount: 0,
			shelf:  nil,
		}
		for _, o := range doc.Offcuts {
			if o.Material == t.ID && o.Length == t.Length {
				f.amount = o.Number
			}
		}
		return f, nil
	}
	for i := range doc.Shelf {
		s := &doc.Shelf[i]
		if s.ID != t.ID {
			continue
		}
		r := doc.Recipes[slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool { return r.ID == s.Recipe })]
		unit := studio.UnitPieces
		if r.Kind == studio.KindMix {
			unit = studio.UnitMilligrams
		}
		return found{Thing: t, name: r.Name, unit: unit, amount: s.Amount, shelf: s}, nil
	}
	return found{}, studio.Refuse("this is not in the stores any more; look again")
}

// movement changes the amount of a thing.
func (f found) movement(kind studio.MovementKind, amount int64) studio.Movement {
	m := studio.Movement{Kind: kind, Length: f.Length, Amount: amount}
	if f.shelf != nil {
		m.Shelf = f.ID
	} else {
		m.Material = f.ID
	}
	return m
}

// sizes are the units that amounts are given in, in the unit that they are kept in.
var sizes = map[studio.Unit]map[string]float64{
	studio.UnitMilligrams:  {"mg": 1, "g": 1000, "kg": 1_000_000},
	studio.UnitMicrometres: {"µm": 1, "mm": 1000, "cm": 10_000, "m": 1_000_000},
	studio.UnitPieces:      {"pieces": 1},
}

// Measured is a value in a unit as people write it.
type Measured struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// in turns an amount into the unit that a thing is kept in, to the nearest whole one.
func (a Measured) in(f found) (int64, error) {
	size, fits := sizes[f.unit][a.Unit]
	if !fits {
		var would []string
		for _, unit := range []string{"g", "kg", "mg", "m", "cm", "mm", "pieces"} {
			if _, fits := sizes[f.unit][unit]; fits {
				would = append(would, unit)
			}
		}
		return 0, studio.Refuse(
			"%s is not measured in %q; %s would be right",
			f.name,
			a.Unit,
			strings.Join(would, ", "),
		)
	}
	if f.unit == studio.UnitPieces && a.Value != math.Trunc(a.Value) {
		return 0, studio.Refuse("%s is counted in whole pieces; %g is not one", f.name, a.Value)
	}
	if math.IsNaN(a.Value) || math.Abs(a.Value*size) > 1<<40 {
		return 0, studio.Refuse("%g %s of %s cannot be", a.Value, a.Unit, f.name)
	}
	return int64(math.Round(a.Value * size)), nil
}

// Reserve says how much of a shelf lot is for an order, or, of no order, kept back from
// everything; 0 gives it back. What is reserved for others stays theirs.
func Reserve(doc *studio.Document, stock, order studio.ID, quantity int64) (Change, error) {
	f, err := find(doc, Thing{ID: stock})
	if err != nil || f.shelf == nil {
		return Change{}, studio.Refuse("this is not on the shelf any more; look again")
	}
	name := "kept back"
	if order != "" {
		i := slices.IndexFunc(
			doc.Orders,
			func(o studio.Order) bool { return o.ID == order && o.State == studio.OrderOpen },
		)
		if i < 0 {
			return Change{}, studio.Refuse("only an open order has something reserved")
		}
		name = "for " + doc.Orders[i].Name
	}
	var has, others int64
	for _, c := range doc.Open(f.shelf.Reserved) {
		if c.Order == order {
			has = c.Quantity
		} else {
			others += c.Quantity
		}
	}
	free := max(0, f.amount-others)
	switch {
	case quantity < 0:
		return Change{}, studio.Refuse("a reservation of %d cannot be; 0 gives it back", quantity)
	case quantity > free:
		return Change{}, studio.Refuse(
			"of %d %s, %d are reserved for others; %d can be reserved, or give those back first",
			f.amount,
			f.name,
			others,
			free,
		)
	case quantity == has:
		return Change{}, studio.Refuse("%d of %s are %s already", has, f.name, name)
	}
	m := studio.Movement{Kind: studio.Reserved, Shelf: stock, Order: order, Amount: quantity - has}
	if m.Amount < 0 {
		m.Kind = studio.Released
	}
	return Change{
		Summary: fmt.Sprintf("%s: %d %s, were %d", f.name, quantity, name, has),
		About:   []studio.ID{stock},
		Moved:   []studio.Movement{m},
	}, nil
}

// Lost is what went bad, broke on the shelf, or has to be put right.
type Lost struct {
	Thing
	Amount Measured `json:"amount"`
	Why    string   `json:"why"`
}

// Spoil books what is thrown away. More than there is may be booked when it is confirmed:
// then the books were wrong before, and a minus is left to be explained.
func Spoil(doc *studio.Document, l Lost, confirmed bool) (Change, error) {
	f, err := find(doc, l.Thing)
	if err != nil {
		return Change{}, err
	}
	amount, err := l.Amount.in(f)
	switch {
	case err != nil:
		return Change{}, err
	case amount <= 0:
		return Change{}, studio.Refuse(
			"%g %s of %s cannot be spoilt; say how much is thrown away",
			l.Amount.Value,
			l.Amount.Unit,
			f.name,
		)
	case amount > f.amount && !confirmed:
		return Change{}, studio.RefuseUnless("confirmed",
			"the books say %s of %s; more than that is thrown away. Count it first, or book it all the same: "+
				"a minus stays to be explained",
			f.says(f.amount),
			f.name)
	}
	return Change{
		Summary: fmt.Sprintf("%s: %s spoilt%s", f.name, f.says(amount), because(l.Why)),
		About:   []studio.ID{l.ID},
		Moved:   append([]studio.Movement{f.movement(studio.Spoilt, -amount)}, f.release(f.amount-amount)...),
	}, nil
}

// Got is what somebody has bought without an order to a supplier: in a shop.
type Got struct {
	Material studio.ID `json:"material"`
	Amount   Measured  `json:"amount"`
	Where    string    `json:"where,omitempty"`
}

// Acquire books what was bought without an order.
func Acquire(doc *studio.Document, g Got) (Change, error) {
	f, err := find(doc, Thing{ID: g.Material})
	if err != nil {
		return Change{}, err
	}
	amount, err := g.Amount.in(f)
	switch {
	case err != nil:
		return Change{}, err
	case f.shelf != nil:
		return Change{}, studio.Refuse("%s is made here and not bought; count it instead", f.name)
	case amount <= 0:
		return Change{}, studio.Refuse("%g %s of %s cannot be bought; say how much came", g.Amount.Value, g.Amount.Unit,
			f.name)
	}
	return Change{
		Summary: fmt.Sprintf("%s: %s bought%s", f.name, f.says(amount), because(g.Where)),
		About:   []studio.ID{g.Material},
		Moved:   []studio.Movement{f.movement(studio.Bought, amount)},
	}, nil
}

// release lets go of reservations that are no longer there, the last ones first.
func (f found) release(left int64) (moved []studio.Movement) {
	if f.shelf == nil {
		return nil
	}
	over := studio.Sum(f.shelf.Reserved) - max(0, left)
	for _, c := range slices.Backward(f.shelf.Reserved) {
		if take := min(over, c.Quantity); take > 0 {
			moved = append(moved, studio.Movement{Kind: studio.Released, Shelf: f.ID, Order: c.Order, Amount: -take})
			over -= take
		}
	}
	return moved
}

func because(why string) string {
	if why = strings.TrimSpace(why); why != "" {
		return ", " + why
	}
	return ""
}

// says words an amount.
func (f found) says(amount int64) studio.Amount { return studio.Amount{Of: amount, Unit: f.unit} }
