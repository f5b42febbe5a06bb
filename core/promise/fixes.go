package promise

import (
	"cmp"
	"errors"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"bractum/core/cost"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/scene"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/core/wire"
)

// Fix is something that a lead would try so that an order is in time, and what came of it when it was planned.
type Fix struct {
	Changes []scene.If `json:"changes"`
	// Kept is true where the order is in time then, and nobody else late by it.
	Kept    bool           `json:"kept"`
	Outcome studio.Outcome `json:"outcome"`
	// Gained is by how much less late everybody is together.
	Gained studio.Minute `json:"gainedMinutes"`
	// Cost is what those who stay or help are paid for being there, and what materials cost more.
	Cost studio.Money `json:"cost"`
	// Harms are other orders that would be late, or later.
	Harms []Taken     `json:"harms"`
	Moves plan.Change `json:"moves"`
	// Plan is the one that was made, for Doc.
	Plan *studio.Plan     `json:"-"`
	Doc  *studio.Document `json:"-"`
}

const (
	mostFixes   = 8
	worthFixing = 4 // one that is not enough alone has to bring the fourth part of what is missing
	mostPaired  = 5 // fixes that are not enough alone, of which each two are tried together
	leastSearch = 16
)

// Fixes tries what a lead would try so that an order is in time without anybody else being late, each by itself on the
// plan, and two together where none is enough alone. What comes about at once is looked at first; only where nothing is
// enough by that, something better is searched for with each. The smallest come first. Each takes about as long as
// planning does, and several are tried beside each other; tell, which may be nil, is told of how many are tried.
func Fixes(q Question, tell func(done, of int)) ([]Fix, error) {
	doc, made, counted, err := q.before()
	if err != nil {
		return nil, err
	}
	q.Before = made
	t, err := q.shortly(doc, counted)
	if err != nil {
		return nil, err
	}
	if t.kept() || doc.Direct != nil {
		return []Fix{}, nil
	}
	account, err := plan.Account(t.doc, t.made)
	if err != nil {
		return nil, err
	}
	lead, err := newLead(&q, t, account)
	if err != nil {
		return nil, err
	}
	singles := lead.tries()
	enough := func(f Fix) bool { return f.Kept }
	fixes, err := q.tried(t, singles, q.try, tell)
	if err == nil && !slices.ContainsFunc(fixes, enough) {
		fixes, err = q.tried(t, singles, q.shortly, tell)
	}
	if err == nil && !slices.ContainsFunc(fixes, enough) {
		var pairs []Fix
		pairs, err = q.tried(t, pairsOf(fixes), q.shortly, tell)
		fixes = append(fixes, pairs...)
	}
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(fixes, smaller)
	fixes = distinct(fixes)
	return fixes[:min(len(fixes), mostFixes)], nil
}

// tried is what comes of each of some changes that brings something, in their order.
func (q *Question) tried(t *trial, all [][]scene.If, way way, tell func(done, of int)) ([]Fix, error) {
	found, failed := make([]*Fix, len(all)), make([]error, len(all))
	var beside sync.WaitGroup
	var next atomic.Int64
	var telling sync.Mutex
	done := 0
	for range min(len(all), runtime.GOMAXPROCS(0)) {
		beside.Go(func() {
			for i := next.Add(1) - 1; i < int64(len(all)); i = next.Add(1) - 1 {
				found[i], failed[i] = q.fixed(t, all[i], way)
				telling.Lock()
				if tell != nil {
					tell(done, len(all))
				}
				done++
				telling.Unlock()
			}
		})
	}
	beside.Wait()
	fixes := []Fix{}
	for _, f := range found {
		if f != nil {
			fixes = append(fixes, *f)
		}
	}
	return fixes, errors.Join(failed...)
}

// way is how a document that was counted is planned for a question.
type way func(*studio.Document, *count.Result) (*trial, error)

// distinct keeps the first of fixes that are of one kind about one thing.
func distinct(fixes []Fix) (kept []Fix) {
	type about struct {
		kind scene.Kind
		of   studio.ID
	}
	seen := map[[2]about]bool{}
	for _, f := range fixes {
		var key [2]about
		for i := range f.Changes[:min(2, len(f.Changes))] {
			key[i] = about{f.Changes[i].Kind, f.Changes[i].Of}
		}
		if slices.SortFunc(key[:], func(a, b about) int {
			return cmp.Or(cmp.Compare(a.kind, b.kind), cmp.Compare(a.of, b.of))
		}); !seen[key] {
			seen[key], kept = true, append(kept, f)
		}
	}
	return kept
}

// fixed is what comes of some changes; nil where the studio cannot have them, or they bring nothing.
func (q *Question) fixed(t *trial, changes []scene.If, way way) (*Fix, error) {
	doc, err := scene.With(t.doc, changes)
	if err != nil {
		return nil, nil // such as a colour that a flower is not made in
	}
	counted, err := count.Up(doc)
	if err != nil {
		return nil, err
	}
	k, err := way(doc, counted)
	if err != nil {
		return nil, err
	}
	f := &Fix{
		Changes: changes,
		Outcome: k.outcome,
		Harms:   []Taken{},
		Moves:   plan.Sum(q.Before, k.made),
		Plan:    k.made,
		Doc:     doc,
		Gained:  t.outcome.Late + t.harm - k.outcome.Late - k.harm,
		Kept:    k.kept(),
	}
	for _, o := range q.others(k.made) {
		if o.harm() > 0 {
			f.Harms = append(f.Harms, o)
		}
	}
	for _, o := range k.made.Orders {
		if o.Order == scene.RestOf(q.Order) && o.Late > 0 {
			f.Kept, f.Gained = false, f.Gained-o.Late
		}
	}
	if !f.Kept && f.Gained*worthFixing < t.outcome.Late+t.harm {
		return nil, nil
	}
	f.Cost = paid(doc, changes) + materials(doc, k.made) - materials(t.doc, t.made)
	return f, nil
}

// shortly is what comes about at once or, in a plan that is not large, something better after about as much search.
func (q *Question) shortly(doc *studio.Document, counted *count.Result) (*trial, error) {
	t, err := q.try(doc, counted)
	steps := plan.UsualSteps(doc, counted) / 4
	if err != nil || t.kept() || steps < leastSearch {
		return t, err
	}
	return q.searched(t, Search{Steps: steps})
}

// paid is what those who stay or help cost for all the time that they are there besides.
func paid(doc *studio.Document, changes []scene.If) (sum studio.Money) {
	for _, c := range changes {
		rate := studio.Money(0)
		switch c.Kind {
		case scene.Helps:
			rate = studio.Money(c.Number)
		case scene.Stays:
			for i := range doc.People {
				if doc.People[i].ID == c.Of {
					rate = doc.People[i].Rate
				}
			}
		}
		for _, s := range c.Spans {
			sum += studio.CeilDiv(studio.Money(s.To-s.From)*rate, 60)
		}
	}
	return sum
}

// materials is what all orders of a plan take of them.
func materials(doc *studio.Document, made *studio.Plan) (sum studio.Money) {
	for _, b := range cost.Bills(doc, made, stores.Takes(doc, made, wire.Sheets(doc, made.Lots))) {
		sum += b.Materials + b.Box + b.Delivery
	}
	return sum
}

// pairsOf are each two of the fixes that bring most, where they are not of one kind about one thing.
func pairsOf(fixes []Fix) (pairs [][]scene.If) {
	best := slices.Clone(fixes)
	slices.SortStableFunc(best, func(a, b Fix) int { return cmp.Compare(b.Gained, a.Gained) })
	best = best[:min(len(best), mostPaired)]
	for i := range best {
		for j := range i {
			a, b := best[j].Changes[0], best[i].Changes[0]
			if a.Kind != b.Kind || a.Of != b.Of {
				pairs = append(pairs, []scene.If{a, b})
			}
		}
	}
	return pairs
}

// effort is how much there is to a kind of change, least first: what is decided at the desk, what asks something of
// people, what is bought, what goes back on somebody's word.
var effort = []scene.Kind{
	scene.Spares,
	scene.Otherwise,
	scene.Freed,
	scene.Arrives,
	scene.Stays,
	scene.Helps,
	scene.Tools,
	scene.Places,
	scene.Machines,
	scene.Recolour,
	scene.Parted,
	scene.Moved,
}

// smaller orders fixes: what is enough first, single ones before others, then by how much there is to them and what
// they cost; what is not enough by what it brings.
func smaller(a, b Fix) int {
	rank := func(f Fix) (most int) {
		for _, c := range f.Changes {
			most = max(most, slices.Index(effort, c.Kind))
		}
		return most
	}
	enough := func(f Fix) int {
		if f.Kept {
			return 0
		}
		return 1
	}
	if !a.Kept && !b.Kept {
		return cmp.Compare(b.Gained, a.Gained)
	}
	return cmp.Or(cmp.Compare(enough(a), enough(b)), cmp.Compare(len(a.Changes), len(b.Changes)),
		cmp.Compare(rank(a), rank(b)), cmp.Compare(a.Cost, b.Cost), cmp.Compare(a.Moves.Told, b.Moves.Told))
}
