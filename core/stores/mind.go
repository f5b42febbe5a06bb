package stores

import (
	"cmp"
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// Fate is what becomes of pieces that lie there, or are in work, for an order line that
// changes its colour: Stays serves it as before; Becomes is finished, from half made, in the
// other colour; Freed goes to the orders in For; Left is what nobody wants now, and stays
// on the shelf in the old colour.
type Fate struct {
	Recipe  studio.ID            `json:"recipe"`
	Variant string               `json:"variant,omitempty"`
	Mixes   map[string]studio.ID `json:"mixes"`
	InWork  bool                 `json:"inWork"`
	Stays   int64                `json:"stays"`
	Becomes int64                `json:"becomes"`
	Freed   int64                `json:"freed"`
	For     []studio.Claim       `json:"for"`
	Left    int64                `json:"left"`
}

// Anew is what has to be made that would not have to be made otherwise, or no more.
type Anew struct {
	Recipe  studio.ID            `json:"recipe"`
	Variant string               `json:"variant,omitempty"`
	Mixes   map[string]studio.ID `json:"mixes"`
	Before  int64                `json:"before"`
	After   int64                `json:"after"`
}

// Mind is what a change of mind costs.
type Mind struct {
	Fates []Fate `json:"fates"`
	Anew  []Anew `json:"anew"`
}

// Recolour answers what it costs to have a line of an order in another colourway, by
// counting both ways. What the order had reserved and does not take any more is free for
// others. The document stays as it is.
func Recolour(doc *studio.Document, line, colourway studio.ID) (*Mind, error) {
	changed := *doc
	changed.Orders = slices.Clone(doc.Orders)
	var order studio.ID
	for i := range changed.Orders {
		o := &changed.Orders[i]
		if at := slices.IndexFunc(o.Lines, func(l studio.OrderLine) bool { return l.ID == line }); at >= 0 &&
			o.State == studio.OrderOpen {
			o.Lines = slices.Clone(o.Lines)
			o.Lines[at].Colourway = colourway
			order = o.ID
			if problems := doc.CheckOrder(*o); len(problems) > 0 {
				return nil, problems
			}
		}
	}
	if order == "" {
		return nil, studio.Refuse("only a line of an open order changes its colour")
	}
	before, err := count.Up(doc)
	if err != nil {
		return nil, err
	}
	wanted, err := count.Up(&changed)
	if err != nil {
		return nil, err
	}
	release(&changed, order, wanted)
	after, err := count.Up(&changed)
	if err != nil {
		return nil, err
	}
	m := &Mind{Fates: []Fate{}, Anew: []Anew{}}
	half := map[studio.ID]bool{}
	for _, l := range after.Lots {
		if l.From != "" && !l.InWork &&
			slices.ContainsFunc(l.For, func(c studio.Claim) bool { return c.Order == order }) {
			half[l.From] = true
		}
	}
	fate := func(id, recipe studio.ID, variant string, mixes map[string]studio.ID, inWork, halfMade bool) {
		f := Fate{Recipe: recipe, Variant: variant, Mixes: mixes, InWork: inWork, For: []studio.Claim{}}
		was, is := before.Reserves[id], after.Reserves[id]
		has := of(was, order)
		if has == 0 {
			return
		}
		f.Stays = min(has, of(is, order))
		if halfMade && half[id] {
			f.Becomes, f.Stays = f.Stays, 0
		}
		freed := has - f.Stays - f.Becomes
		for _, c := range is {
			if more := min(freed-f.Freed, c.Quantity-of(was, c.Order)); c.Order != order && more > 0 {
				f.Freed += more
				f.For = append(f.For, studio.Claim{Order: c.Order, Quantity: more})
			}
		}
		f.Left = freed - f.Freed
		m.Fates = append(m.Fates, f)
	}
	for _, w := range doc.Work {
		fate(w.ID, w.Recipe, w.Variant, w.Mixes, true, false)
	}
	for _, s := range doc.Shelf {
		fate(s.ID, s.Recipe, s.Variant, s.Mixes, false, s.Reached != "")
	}
	m.Anew = anew(before, after)
	return m, nil
}

func of(claims []studio.Claim, order studio.ID) (quantity int64) {
	for _, c := range claims {
		if c.Order == order {
			quantity += c.Quantity
		}
	}
	return quantity
}

// release lets an order keep what it still takes, and nothing more.
func release(doc *studio.Document, order studio.ID, wanted *count.Result) {
	keep := func(id studio.ID, claims []studio.Claim) (kept []studio.Claim) {
		for _, c := range claims {
			if c.Order == order {
				c.Quantity = min(c.Quantity, of(wanted.Reserves[id], order))
			}
			kept = studio.Add(kept, c)
		}
		return kept
	}
	doc.Shelf, doc.Work = slices.Clone(doc.Shelf), slices.Clone(doc.Work)
	for i := range doc.Shelf {
		doc.Shelf[i].Reserved = keep(doc.Shelf[i].ID, doc.Shelf[i].Reserved)
	}
	for i := range doc.Work {
		doc.Work[i].Reserved = keep(doc.Work[i].ID, doc.Work[i].Reserved)
	}
}

// anew compares what two counts start, by gather key.
func anew(before, after *count.Result) []Anew {
	all := map[string]*Anew{}
	at := func(item count.Item) *Anew {
		if all[item.Key] == nil {
			all[item.Key] = &Anew{Recipe: item.Recipe, Variant: item.Variant, Mixes: item.Mixes}
		}
		return all[item.Key]
	}
	for _, item := range before.Items {
		at(item).Before = item.Started
	}
	for _, item := range after.Items {
		at(item).After = item.Started
	}
	changed := []Anew{}
	for _, a := range all {
		if a.Before != a.After {
			changed = append(changed, *a)
		}
	}
	slices.SortFunc(changed, func(a, b Anew) int {
		return cmp.Or(
			cmp.Compare(a.Recipe, b.Recipe),
			cmp.Compare(
				studio.GatherKey(studio.Made{Recipe: a.Recipe, Variant: a.Variant}, a.Mixes),
				studio.GatherKey(studio.Made{Recipe: b.Recipe, Variant: b.Variant}, b.Mixes),
			),
		)
	})
	return changed
}
