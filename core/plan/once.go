package plan

import (
	"cmp"
	"maps"
	"slices"

	"bractum/core/count"
	"bractum/core/paste"
	"bractum/core/studio"
)

// Mixings are counted together so often at the most, in a plan of many clusters and in one of few: all of
// them first, then those of a half that were too much to be joined at once.
const (
	mostJoining = 3
	moreJoining = 9
)

// mostBeginnings is how many first plans are looked through: with weighings joined, the next is another.
const mostBeginnings = 4

// WeighedOnce is a valid document with what its first plan weighs twice on a day weighed once, where
// nothing is later by it: for one that nobody works by yet. It costs up to a dozen first plans.
func WeighedOnce(doc *studio.Document) (*studio.Document, error) {
	once := *doc
	for range mostBeginnings {
		counted, err := count.Up(&once)
		if err != nil {
			return nil, err
		}
		p, err := newProblem(&once, counted)
		if err != nil {
			return nil, err
		}
		z := newSizes(newSearch(p, Options{}))
		if z.weighOnce(); len(z.divided) == 0 {
			break
		}
		next := once
		next.Divided = slices.Concat(once.Divided, slices.SortedFunc(
			maps.Values(z.divided),
			func(a, b studio.Division) int { return cmp.Compare(a.Group, b.Group) },
		))
		once = next
	}
	return &once, nil
}

// weighOnce has what is weighed twice on a day be one weighing while the first keeps, as far as nothing
// is later by it: all that there is at once, or the halves of it.
func (z *sizes) weighOnce() {
	pending := [][][]studio.ID{z.weighedTwice()}
	tries := mostJoining
	if len(z.clusters) <= quick {
		tries = moreJoining
	}
	for tries > 0 && len(pending) > 0 && !z.isAbandoned() {
		these := pending[0]
		if pending = pending[1:]; len(these) == 0 {
			continue
		}
		tries--
		if !z.join(these) && len(these) > 1 {
			pending = append(pending, these[:len(these)/2], these[len(these)/2:])
		}
	}
}

// weighedTwice are the lots of mixes that the schedule found weighs on one day while the first of them
// keeps, by what could be one weighing. Of a proposal it is what is not all in the plan that it comes from.
func (z *sizes) weighedTwice() (all [][]studio.ID) {
	found := z.found()
	book := studio.NewBook(z.doc)
	var mixings []paste.Mixing
	for i := range z.counted.Lots {
		l := &z.counted.Lots[i]
		r := book.Of(l.Made())
		if r.Kind != studio.KindMix || l.InWork || l.Decided || l.Group != l.ID {
			continue
		}
		j := z.byID[studio.TaskID(l.ID, r.Steps[0].Key)]
		if j == nil || j.Fact != nil || found.at[j.number].state == gone {
			continue
		}
		mixings = append(
			mixings,
			paste.Mixing{Lot: l.ID, Mix: l.Recipe, At: found.at[j.number].start, Keeps: r.LifeMinutes},
		)
	}
	told := map[studio.ID]bool{}
	if z.options.Proposes && z.options.From != nil {
		for _, l := range z.options.From.Lots {
			told[l.ID] = true
		}
	}
	together := paste.Together(mixings, z.calendar.Date)
	for i := range z.counted.Lots {
		lots := together[z.counted.Lots[i].ID]
		if slices.ContainsFunc(lots, func(id studio.ID) bool { return !told[id] }) {
			all = append(all, lots)
		}
	}
	return all
}

// join goes on with some mixings weighed together, and is true, if nothing is later by it.
func (z *sizes) join(mixings [][]studio.ID) bool {
	divided := maps.Clone(z.divided)
	for _, lots := range mixings {
		maps.Copy(divided, count.Joined(z.counted, lots[0], lots[1:]))
	}
	next := z.recounted(divided)
	if next == nil || len(next.counted.Lots) >= len(z.counted.Lots) {
		return false
	}
	before, after := z.found(), next.found()
	if after.worth().Lateness > before.worth().Lateness || after.leftOutCount() > before.leftOutCount() ||
		after.thinSlack() > before.thinSlack() {
		return false
	}
	for i, o := range before.orders { // beyond MostSlack an order is as safe as can be
		was, is := o.ReadyBy-before.readyOf(o), o.ReadyBy-after.readyOf(after.orders[i])
		if z.options.From != nil && min(was, studio.MostSlack)-min(is, studio.MostSlack) > mostFall {
			return false
		}
	}
	z.search, z.divided = next, divided
	return true
}
