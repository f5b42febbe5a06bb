package stores

import (
	"cmp"
	"slices"

	"bractum/core/count"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
)

// Take is what one task of the plan takes of a material, when it begins.
type Take struct {
	Task   studio.ID     `json:"task"`
	Lot    studio.ID     `json:"lot"`
	At     studio.Minute `json:"at"`
	Amount int64         `json:"amount"`
}

// Balance is what there is of a material: on hand, wanted by the plan, free beyond that,
// and on its way. RunsOut is when a task first finds too little, counting in what arrives
// by then.
type Balance struct {
	Material studio.ID      `json:"material"`
	OnHand   int64          `json:"onHand"`
	Reserved int64          `json:"reserved"`
	Free     int64          `json:"free"`
	Coming   int64          `json:"coming"`
	RunsOut  *studio.Minute `json:"runsOut,omitempty"`
	Takes    []Take         `json:"-"`
	needed   int64
}

// Balances are those of all materials, in the document's order, with what the plan takes of
// them.
func Balances(doc *studio.Document, takes map[studio.ID][]Take) []Balance {
	all := make([]Balance, 0, len(doc.Materials))
	for _, m := range doc.Materials {
		b := Balance{Material: m.ID, OnHand: m.OnHand, Takes: takes[m.ID]}
		for _, t := range b.Takes {
			b.needed += t.Amount
		}
		var coming []studio.Gate
		for _, g := range doc.Gates {
			if g.Material == m.ID {
				coming = append(coming, g)
				b.Coming += g.Amount
			}
		}
		b.Reserved = min(b.needed, max(0, b.OnHand))
		b.Free = b.OnHand - b.needed
		b.RunsOut = runsOut(b, coming)
		all = append(all, b)
	}
	return all
}

// runsOut is when a take first finds too little.
func runsOut(b Balance, coming []studio.Gate) *studio.Minute {
	left := b.OnHand
	for _, t := range b.Takes {
		left -= t.Amount
		arrived := left
		for _, g := range coming {
			if g.Opens != nil && *g.Opens <= t.At {
				arrived += g.Amount
			}
		}
		if arrived < 0 {
			return &t.At
		}
	}
	return nil
}

// Takes are all takes of the plan's lots by material, in order of time; what is not
// placed comes last, at the horizon. Of wires the plan wants what the cutting sheets come to,
// shared out over tasks by length.
func Takes(doc *studio.Document, plan *studio.Plan, sheets []wire.Sheet) map[studio.ID][]Take {
	book := studio.NewBook(doc)
	starts := map[studio.ID]studio.Minute{}
	for _, t := range plan.Tasks {
		starts[t.ID] = t.Begin()
	}
	takes := map[studio.ID][]Take{}
	take := func(lot *studio.Lot, r *studio.Recipe, step string, material studio.ID, amount int64) {
		_, at := r.Step(step)
		if at < lot.NextStep || amount == 0 {
			return
		}
		first, _ := r.Task(at)
		task := studio.TaskID(lot.ID, r.Steps[first].Key)
		start, placed := starts[task]
		if !placed {
			start = doc.Horizon()
		}
		takes[material] = append(takes[material], Take{Task: task, Lot: lot.ID, At: start, Amount: amount})
	}
	lengths := map[studio.ID]int64{}
	for i := range plan.Lots {
		lot := &plan.Lots[i]
		r := book.Of(lot.Made())
		for _, m := range r.Materials {
			take(lot, r, m.Step, m.Material, m.Ready(r.At(m.Step, lot.Alive)))
		}
		for _, w := range r.Wires {
			length := int64(wire.Length(w)) * w.Number * r.At(w.Step, lot.Alive)
			if _, at := r.Step(w.Step); at >= lot.NextStep {
				lengths[w.Material] += length
			}
			take(lot, r, w.Step, w.Material, length)
		}
		if r.Kind == studio.KindMix {
			for _, p := range paste.Weigh(r, studio.Milligrams(lot.Started), doc.Settings.ScaleStepMilligrams) {
				if p.Material != "" {
					take(lot, r, r.Steps[0].Key, p.Material, int64(p.Weigh))
				}
			}
		}
	}
	for _, of := range takes {
		slices.SortStableFunc(
			of,
			func(a, b Take) int { return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Task, b.Task)) },
		)
	}
	wires := map[studio.ID]int64{}
	for _, need := range count.Materials(doc, plan.Lots, sheets) {
		wires[need.Material] = need.Needed
	}
	for material, whole := range lengths {
		inWires(takes[material], wires[material], whole) // none where offcuts give them all
	}
	return takes
}

// inWires turns takes in length into full wires, which add up to what the cutting needs.
func inWires(takes []Take, wires, whole int64) {
	var length, given int64
	for i := range takes {
		length += takes[i].Amount
		upTo := studio.CeilDiv(wires*length, whole)
		takes[i].Amount, given = upTo-given, upTo
	}
}
