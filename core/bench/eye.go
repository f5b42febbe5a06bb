package bench

import (
	"slices"

	"bractum/core/studio"
)

// Eye is something that a maker settles, or counts, as a task is done: how much of a thing was
// used, from Least to Most, Usual where nothing is said; or, where it Breaks, how many of an input
// broke as they were taken up while others took their place.
type Eye struct {
	Recipe   studio.ID `json:"recipe,omitempty"`
	Variant  string    `json:"variant,omitempty"`
	Material studio.ID `json:"material,omitempty"`
	Name     string    `json:"name"`
	Unit     string    `json:"unit,omitempty"`
	Breaks   bool      `json:"breaks,omitempty"`
	Least    int64     `json:"least"`
	Usual    int64     `json:"usual"`
	Most     int64     `json:"most"`
}

// Eyes are what is settled by eye at a task that is under way: inputs that are taken as needed and
// materials with a range, and of other inputs what may break, no more than lie there beside what
// the task takes.
func (b Bench) Eyes(task studio.ID) []Eye {
	lot, step, _, err := b.running(task)
	if err != nil || step.Work == nil {
		return []Eye{}
	}
	return b.eyes(b.book.Of(lot.Made()), lot, step.Key)
}

func (b Bench) eyes(r *studio.Recipe, lot studio.WorkLot, task string) []Eye {
	all := []Eye{}
	_, at, past, _ := r.TaskOf(task)
	here := func(step string) bool { _, i := r.Step(step); return i >= at && i < past }
	add := func(e Eye) {
		for i := range all {
			if one := &all[i]; one.used().Same(e.used()) && one.Breaks == e.Breaks {
				one.Least, one.Usual, one.Most = one.Least+e.Least, one.Usual+e.Usual, one.Most+e.Most
				return
			}
		}
		all = append(all, e)
	}
	for _, p := range r.Parts {
		if !here(p.Step) {
			continue
		}
		of := b.book.Of(p.Made())
		pieces := r.At(p.Step, lot.Entering(r, p.Step))
		e := Eye{Recipe: p.Recipe, Variant: p.Variant, Name: of.Name}
		if p.Least != nil {
			e.Least, e.Usual, e.Most = *p.Least*pieces, p.Count*pieces, p.Count*pieces
		} else {
			e.Breaks, e.Most = true, -p.Count*pieces
		}
		add(e)
	}
	for i := range all {
		if e := &all[i]; e.Breaks {
			p := r.Parts[slices.IndexFunc(r.Parts, func(p studio.PartInput) bool {
				return here(p.Step) && p.Recipe == e.Recipe && p.Variant == e.Variant
			})]
			own, _ := b.book.Resolve(p.Made(), b.book.Input(p, lot.Mixes))
			for _, s := range b.shelf.Finished(studio.GatherKey(p.Made(), own)) {
				e.Most += s.Left.Amount
			}
			e.Most = max(0, e.Most)
		}
	}
	for _, m := range r.Materials {
		if pieces := r.At(m.Step, lot.Entering(r, m.Step)); here(m.Step) && m.ByEye() {
			e := Eye{Material: m.Material, Usual: m.Taken(pieces), Most: m.Ready(pieces)}
			if of := b.book.Material(m.Material); of != nil {
				e.Name, e.Unit = of.Name, string(of.Unit)
			}
			if m.Amount = 0; m.Least != nil {
				m.Amount = *m.Least
			}
			e.Least = m.Taken(pieces)
			add(e)
		}
	}
	return all
}

func (e Eye) used() studio.Used {
	return studio.Used{Recipe: e.Recipe, Variant: e.Variant, Material: e.Material}
}

// eyed adds to a record what was used of what is settled by eye, and what broke of inputs as they
// were taken up, none of it more than can be.
func (b Bench) eyed(r *studio.Recipe, lot studio.WorkLot, record *studio.TaskRecord, used []studio.Used) error {
	if len(used) == 0 {
		return nil
	}
	eyes := b.eyes(r, lot, record.Step)
	most := func(u studio.Used, breaks bool) int64 {
		for _, e := range eyes {
			if e.used().Same(u) && e.Breaks == breaks {
				return e.Most
			}
		}
		return 0
	}
	for _, u := range used {
		i := slices.IndexFunc(record.Used, u.Same)
		if i < 0 {
			i = len(record.Used)
			record.Used = append(record.Used, studio.Used{Recipe: u.Recipe, Variant: u.Variant, Material: u.Material})
		}
		sum := &record.Used[i]
		sum.Pieces, sum.Amount, sum.Broke = sum.Pieces+u.Pieces, sum.Amount+u.Amount, sum.Broke+u.Broke
		if taken := sum.Pieces + sum.Amount; u.Pieces < 0 || u.Amount < 0 || taken > most(u, false) {
			return studio.Refuse("%d pieces are said to be used of what is taken as needed; from 0 to %d would be right",
				taken, most(u, false))
		}
		if u.Broke < 0 || sum.Broke > most(u, true) {
			return studio.Refuse("%d are said to have broken as they were taken up; from 0 to %d would be right",
				sum.Broke, most(u, true))
		}
	}
	return nil
}
