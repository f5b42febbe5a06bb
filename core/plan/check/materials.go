package check

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// offScale is by how many percent what is weighed may be off.
const offScale = 5

// taken is what a task takes of a material when it starts.
type taken struct {
	task   *studio.Task
	amount int64
}

// materials checks that tasks that are not begun take no more of what somebody sells than is there by
// then: on hand, delivered, or come of what is ordered now. Of wires it goes by their length alone, of mixes by
// what they are blended of, as far as a scale may be off.
func (c *checker) materials() {
	takes := map[studio.ID][]taken{}
	for i := range c.plan.Lots {
		l := &c.plan.Lots[i]
		r := c.book.Of(l.Made())
		take := func(step string, material studio.ID, amount int64) {
			_, at := r.Step(step)
			if at < l.NextStep || amount == 0 {
				return
			}
			first, _ := r.Task(at)
			id := studio.TaskID(l.ID, r.Steps[first].Key)
			if a, t := c.activities[id], c.tasks[id]; a != nil && a.Fact == nil && t != nil {
				takes[material] = append(takes[material], taken{t, amount})
			}
		}
		for _, m := range r.Materials {
			take(m.Step, m.Material, m.Ready(r.At(m.Step, l.Alive)))
		}
		for _, w := range r.Wires {
			take(w.Step, w.Material, int64(w.Depth+w.Stem+w.Allowance)*w.Number*r.At(w.Step, l.Alive))
		}
		var parts int64
		for _, in := range r.Blend {
			parts += in.Parts
		}
		for _, in := range r.Blend {
			if in.Material != "" && l.NextStep == 0 {
				take(r.Steps[0].Key, in.Material, l.Started*in.Parts/parts*(100-offScale)/100)
			}
		}
	}
	for _, m := range c.doc.Materials {
		if m.Supplier != "" {
			c.enough(m, takes[m.ID])
		}
	}
}

// enough checks that what is taken of a material is there by then.
func (c *checker) enough(m studio.Material, takes []taken) {
	each, there := int64(1), max(0, m.OnHand)
	if m.Wire != nil {
		each, there = int64(m.Wire.Length), there*int64(m.Wire.Length)
		for _, o := range c.doc.Offcuts {
			if o.Material == m.ID {
				there += int64(o.Length) * o.Number
			}
		}
	}
	slices.SortFunc(takes, func(a, b taken) int {
		return cmp.Or(cmp.Compare(a.task.Start, b.task.Start), cmp.Compare(a.task.ID, b.task.ID))
	})
	var all int64
	for _, t := range takes {
		all += t.amount
		left := there - all
		for _, g := range c.gates {
			switch {
			case g.Material != m.ID || g.Opens == nil || *g.Opens > t.task.Start:
			case g.ID == studio.Ordering(m.ID):
				return
			default:
				left += g.Amount * each
			}
		}
		if left < 0 {
			c.say(MaterialShort, t.task.ID, "starts at %d, when %q is short by %d", t.task.Start, m.Name, -left)
		}
	}
}
