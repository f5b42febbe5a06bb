package promise

import (
	"slices"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
)

// mostFewer is how many smaller numbers are tried at the most; leastFewer are tried even when the time is up: enough to
// halve a line of sixty until its number is known.
const (
	mostFewer  = 40
	leastFewer = 8
)

// fewer are the largest numbers found that can be ready by the date that was asked: of the line that the date hangs
// on, whatever that takes, then of the next that it hangs on without that. None where not even one flower can be.
func (q *Question) fewer(t *trial, hangs plan.Chain, by Search) ([]Fewer, error) {
	none := []Fewer{}
	i := slices.IndexFunc(q.Doc.Orders, func(o studio.Order) bool { return o.ID == q.Order })
	if i < 0 || q.Doc.Direct != nil {
		return none, nil
	}
	tries := 0
	lines := slices.Clone(q.Doc.Orders[i].Lines)
	try := func() (*trial, error) {
		tries++
		doc := *q.Doc
		doc.Orders = slices.Clone(q.Doc.Orders)
		doc.Orders[i].Lines = slices.DeleteFunc(slices.Clone(lines),
			func(l studio.OrderLine) bool { return l.Quantity <= l.Gone })
		counted, err := count.Up(&doc)
		if err != nil {
			return nil, err
		}
		return q.try(&doc, counted)
	}
	over := func() bool { return tries >= mostFewer || tries >= leastFewer && stopped(by.End) }
	known := t
	for !over() {
		n := q.limiting(known, hangs, lines)
		if n < 0 {
			return none, nil
		}
		all, least := lines[n].Quantity, lines[n].Gone
		lines[n].Quantity = least
		if left(lines) == 0 && len(q.Doc.Orders[i].Lines) > 1 {
			return none, nil
		}
		without := (*trial)(nil)
		if left(lines) > 0 {
			var err error
			if without, err = try(); err != nil {
				return nil, err
			}
		}
		if without != nil && !without.kept() { // it hangs on another as well
			known, hangs = without, plan.Chain{}
			continue
		}
		for most := all - 1; least < most && !over(); {
			lines[n].Quantity = least + studio.CeilDiv(most-least, 2)
			k, err := try()
			if err != nil {
				return nil, err
			}
			if k.kept() {
				least = lines[n].Quantity
			} else {
				most = lines[n].Quantity - 1
			}
		}
		if lines[n].Quantity = least; left(lines) == 0 {
			return none, nil
		}
		could := []Fewer{}
		for k, l := range q.Doc.Orders[i].Lines {
			could = append(could, Fewer{Line: l.ID, Asked: l.Quantity, Could: lines[k].Quantity})
		}
		return could, nil
	}
	return none, nil
}

// left is how many flowers some lines still ask for.
func left(lines []studio.OrderLine) (n int64) {
	for _, l := range lines {
		n += l.Owed()
	}
	return n
}

// limiting is the line that a trial's date hangs on, of those that ask for something; the longest where that is not
// known, -1 where none is left.
func (q *Question) limiting(t *trial, hangs plan.Chain, lines []studio.OrderLine) int {
	lot := map[studio.ID]*studio.Lot{}
	for i := range t.made.Lots {
		lot[t.made.Lots[i].ID] = &t.made.Lots[i]
	}
	task := map[studio.ID]studio.ID{}
	last, end := studio.ID(""), studio.Minute(-1)
	of := func(l *studio.Lot) studio.ID {
		for _, peg := range l.Pegs {
			if peg.Order == q.Order {
				return peg.Line
			}
		}
		return ""
	}
	for _, placed := range t.made.Tasks {
		task[placed.ID] = placed.Lot
		if l := lot[placed.Lot]; l != nil && placed.End > end && of(l) != "" {
			last, end = of(l), placed.End
		}
	}
	for _, link := range hangs.Links {
		if l := lot[task[link.Task]]; l != nil && of(l) != "" {
			last = of(l)
			break
		}
	}
	for _, u := range t.made.Unplaced { // what has no place at all goes first
		if l := lot[u.Lot]; l != nil && of(l) != "" {
			last = of(l)
			break
		}
	}
	n := slices.IndexFunc(lines, func(l studio.OrderLine) bool { return l.ID == last && l.Owed() > 0 })
	if n < 0 {
		n = slices.IndexFunc(lines, func(l studio.OrderLine) bool { return l.Owed() > 0 })
	}
	return n
}
