package studio

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strconv"
)

// A part that is made in the run has no lot of its own: its steps belong to the task of what
// it goes into. A book holds what takes it up as one recipe, with the steps of the part right
// before the step that takes it up, in one stint, and all that they take.

// partInRun is what a step makes that belongs to a part made in the run: Times of it, with
// what breaks made again at once, for each Per of what it goes into, and in the first run of a
// lot so many More. Of them In go into each Of.
type partInRun struct{ times, per, more, in, of int64 }

// ofLot is how many are made for a lot of what the part goes into, none for none of it.
func (p *partInRun) ofLot(quantity int64) int64 {
	if quantity <= 0 {
		return 0
	}
	return p.ofLater(quantity) + p.more
}

// ofLater is how many are made in a run that is not the first of its lot.
func (p *partInRun) ofLater(quantity int64) int64 { return CeilDiv(quantity*p.times, p.per) }

// runLimit is a window inside a run: from when a piece is done by one step until another takes
// it up, so many minutes or before a state.
type runLimit struct {
	from, to string
	minutes  Minute
	drying   Drying
	before   State
}

// withRuns is a recipe with the parts that it makes in its runs; itself where it makes none.
// On the way are the recipes that it goes into: what needs itself ends there.
func (b *Book) withRuns(r *Recipe, keeps func(place ID) bool, way ...*Recipe) *Recipe {
	if r == nil || slices.Contains(way, r) || !slices.ContainsFunc(r.Parts, func(p PartInput) bool { return p.InRun }) {
		return r
	}
	made := *r
	made.Steps, made.Parts, made.limits = nil, nil, nil
	made.Pastes, made.Wires = slices.Clone(r.Pastes), slices.Clone(r.Wires)
	made.Materials, made.Byproducts = slices.Clone(r.Materials), slices.Clone(r.Byproducts)
	made.Defaults = maps.Clone(r.Defaults)
	for _, s := range r.Steps {
		in := s
		for i, p := range r.Parts {
			below := b.recipes[p.Made()]
			switch {
			case p.Step != s.Key:
			case !p.InRun || s.Work == nil || below == nil || below.OutputStep() < 0:
				made.Parts = append(made.Parts, p)
			default:
				if in.Work.Stint == "" {
					work := *s.Work
					work.Stint = "run of " + s.Key
					in.Work = &work
				}
				key := s.Key + "/" + cmp.Or(p.Key, string(below.Page())+p.Variant)
				if _, taken := made.Step(key + "/" + below.Steps[0].Key); taken >= 0 {
					key += "." + strconv.Itoa(i)
				}
				t := taker{book: b, made: &made, by: r, at: in, input: p, key: key + "/", keeps: keeps}
				t.take(b.withRuns(below, keeps, append(way, r)...))
			}
		}
		made.Steps = append(made.Steps, in)
	}
	return &made
}

// taker takes a part into the run of what it goes into.
type taker struct {
	book     *Book
	made, by *Recipe
	at       Step // that takes it up, in the stint of the run
	input    PartInput
	key      string // before the keys of its steps
	keeps    func(place ID) bool
}

func (t *taker) take(part *Recipe) {
	steps := part.Steps[:part.OutputStep()+1]
	number := t.number(part)
	for i := range steps {
		s := steps[i]
		if s.Work == nil {
			continue // refused where recipes are checked
		}
		t.made.Steps = append(t.made.Steps, t.step(part, s, number.before(part.unit(i))))
		for _, w := range s.Windows {
			if from := cmp.Or(w.After, part.Steps[max(0, i-1)].Key); w.AtMost != nil && i > 0 {
				t.limit(from, t.key+s.Key, runLimit{minutes: *w.AtMost})
			}
		}
	}
	for _, state := range []Condition{WantsSoft, WantsFirm} {
		for last := len(steps) - 1; last > 0; last-- {
			if part.Wanted(last) == state {
				t.soft(part, last, t.key+steps[last].Key, state)
				break
			}
		}
	}
	if wants := t.at.WantedOf(t.input, part); wants.Perishable() {
		t.soft(part, len(part.Steps), t.at.Key, wants)
	}
	if w := t.input.Window; w != nil && w.AtMost != nil {
		t.limit(steps[len(steps)-1].Key, t.at.Key, runLimit{minutes: *w.AtMost})
	}
	for _, l := range part.limits {
		l.from, l.to, l.drying.Slot = t.key+l.from, t.key+l.to, t.slot(l.drying.Slot)
		t.made.limits = append(t.made.limits, l)
	}
	t.inputs(part)
}

// number is how many of the part are made for how many of what it goes into: what is expected
// to break is made again in the run, and a fixed number of spares is made in the first.
func (t *taker) number(part *Recipe) partInRun {
	const whole = 1000
	made := partInRun{times: t.input.Count, per: 1, in: t.input.Count, of: 1}
	switch part.Spares.Rule {
	case SparesByPercent:
		made.times, made.per = t.input.Count*(100+part.Spares.Percent), 100
	case SparesByBreakage:
		losing, _ := part.Losing()
		kept := (1 - losing) * (1 - t.by.LosingOf(t.input))
		made.times, made.per = t.input.Count*whole, max(1, int64(kept*whole))
	case SparesByNumber:
		made.more = part.Spares.Number
	}
	return made
}

// before is how many units are made at a step after which each gives so many.
func (p partInRun) before(gives int64) partInRun {
	return partInRun{times: p.times, per: p.per * gives, more: CeilDiv(p.more, gives), in: p.in, of: p.of * gives}
}

// each is how many are made of what has a number of its own for each of the part: none is the
// part itself.
func (p partInRun) each(own *partInRun) partInRun {
	if own == nil {
		return p
	}
	return partInRun{times: p.times * own.times, per: p.per * own.per, more: own.more + own.ofLater(p.more),
		in: p.in * own.in, of: p.of * own.of}
}

// step is a step of the part as one of the run.
func (t *taker) step(part *Recipe, s Step, number partInRun) Step {
	number = number.each(s.part)
	work := *s.Work
	work.Stint, work.Run, work.Slot = t.at.Work.Stint, 0, t.slot(work.Slot)
	work.Share, work.Form = part.share(&work), ""
	s.Work, s.part = &work, &number
	s.Name = part.Name + ", " + s.Name
	s.Wants, s.Loses, s.LosesPerMille, s.Windows = WantsAny, LosesNothing, 0, nil
	s.Holds = slices.Clone(s.Holds)
	for i := range s.Holds {
		h := &s.Holds[i]
		if _, until := part.Step(h.Until); h.Until != "" && until <= part.OutputStep() {
			h.Until = t.key + h.Until
			continue
		}
		_, at := t.by.Step(t.at.Key)
		if _, next := t.by.Step(h.UntilNext); next > at {
			h.Until = h.UntilNext
		} else {
			h.Until = t.at.Key
		}
		h.UntilNext = ""
	}
	s.Key = t.key + s.Key
	return s
}

// soft limits how long pieces of the part wait before a step of it, or past its last, wants
// them in a state.
func (t *taker) soft(part *Recipe, before int, to string, wants Condition) {
	s, ok := part.Softness(before, t.keeps)
	if !ok {
		return
	}
	state, _ := wants.Until()
	t.limit(part.Steps[s.From].Key, to, runLimit{drying: s.Drying, before: state})
}

func (t *taker) limit(from, to string, l runLimit) {
	l.from, l.to, l.drying.Slot = t.key+from, to, t.slot(l.drying.Slot)
	t.made.limits = append(t.made.limits, l)
}

// slot is the colour slot of what the part goes into that stands for one of its own.
func (t *taker) slot(own string) string {
	if from, renamed := t.input.Slots[own]; renamed {
		return from
	}
	return own
}

// inputs are what the part takes up, at its steps in the run.
func (t *taker) inputs(part *Recipe) {
	m, last := t.made, part.OutputStep()
	in := func(step string) bool { _, i := part.Step(step); return i <= last }
	for _, p := range part.Pastes {
		if in(p.Step) {
			p.Step, p.Slot = t.key+p.Step, t.slot(p.Slot)
			m.Pastes = append(m.Pastes, p)
		}
	}
	for _, w := range part.Wires {
		if in(w.Step) {
			w.Step = t.key + w.Step
			m.Wires = append(m.Wires, w)
		}
	}
	for _, x := range part.Materials {
		if in(x.Step) {
			x.Step = t.key + x.Step
			if x.OutAt != "" && in(x.OutAt) {
				x.OutAt = t.key + x.OutAt
			} else if x.OutAt != "" {
				x.OutAt = t.at.Key
			}
			m.Materials = append(m.Materials, x)
		}
	}
	for _, q := range part.Parts {
		if !in(q.Step) {
			continue
		}
		q.Step = t.key + q.Step
		slots := map[string]string{}
		for slot := range t.book.subtree(q.Made()) {
			of := slot
			if from, renamed := q.Slots[slot]; renamed {
				of = from
			}
			if of = t.slot(of); of != slot {
				slots[slot] = of
			}
		}
		q.Slots = slots
		m.Parts = append(m.Parts, q)
	}
	for _, x := range part.Byproducts {
		x.Amount *= t.input.Count
		m.Byproducts = append(m.Byproducts, x)
	}
	for slot, mix := range part.Defaults {
		if slot = t.slot(slot); m.Defaults[slot] == "" {
			if m.Defaults == nil {
				m.Defaults = map[string]ID{}
			}
			m.Defaults[slot] = mix
		}
	}
}

// runLimits are the windows inside a run of the steps [first, past) that are one task: of
// parts made in it, and the recipe's own, whose pieces are wanted in a state or within minutes
// of a step of the same task.
func (r *Recipe) runLimits(first, past int, keeps func(place ID) bool) []runLimit {
	var all []runLimit
	inside := func(step string) bool { _, i := r.Step(step); return i >= first && i < past }
	for _, l := range r.limits {
		if inside(l.from) && inside(l.to) {
			all = append(all, l)
		}
	}
	for _, state := range []Condition{WantsSoft, WantsFirm} {
		for last := past - 1; last > first; last-- {
			if r.Wanted(last) != state {
				continue
			}
			if s, ok := r.Softness(last, keeps); ok && s.From >= first && s.From < last {
				before, _ := state.Until()
				all = append(
					all,
					runLimit{from: r.Steps[s.From].Key, to: r.Steps[last].Key, drying: s.Drying, before: before},
				)
			}
			break
		}
	}
	for i := first + 1; i < past; i++ {
		for _, w := range r.Steps[i].Windows {
			from := cmp.Or(w.After, r.Steps[i-1].Key)
			l := runLimit{from: from, to: r.Steps[i].Key}
			if w.Whole || !inside(from) {
				continue
			}
			if w.AtMost != nil {
				l.minutes = *w.AtMost
				all = append(all, l)
			}
			if w.Before != "" {
				l.minutes, l.drying, l.before = 0, w.Drying, w.Before
				all = append(all, l)
			}
		}
	}
	return all
}

// Lacking is work that asks for skills that nobody has together.
type Lacking struct {
	Step   string   `json:"step"`
	Skills []string `json:"skills"`
}

// Waits is the wait that a recipe has before its last work, which cannot be done in a run then; nil
// where it has none.
func (r *Recipe) Waits() *Step {
	for i := range max(0, r.OutputStep()) {
		if r.Steps[i].Wait != nil {
			return &r.Steps[i]
		}
	}
	return nil
}

// Beyond is the work of a recipe, as a book holds it, that none of some people has all the
// skills for, each set of skills once.
func (r *Recipe) Beyond(people []Person) (all []Lacking) {
	seen := map[string]bool{}
	for first := 0; first < len(r.Steps); {
		_, past := r.Task(first)
		skills := map[string]bool{}
		for _, s := range r.Steps[first:past] {
			if s.Work != nil {
				skills[s.Work.Skill] = true
				for _, also := range s.Work.Also {
					skills[also] = true
				}
			}
		}
		has := func(p Person) bool {
			if p.OutOfUse {
				return false
			}
			for skill := range skills {
				if p.Pace(skill) == 0 {
					return false
				}
			}
			return true
		}
		if wanted := slices.Sorted(maps.Keys(skills)); len(wanted) > 0 && !slices.ContainsFunc(people, has) &&
			!seen[fmt.Sprint(wanted)] {
			seen[fmt.Sprint(wanted)] = true
			all = append(all, Lacking{Step: r.Steps[first].Name, Skills: wanted})
		}
		first = past
	}
	return all
}
