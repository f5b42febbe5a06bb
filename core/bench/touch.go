package bench

import (
	"slices"

	"bractum/core/studio"
)

// Touched is what somebody found who touched the pieces of a wait. Of spoilt ones it says
// how many. Surely says that it is so although somebody found them further before, who was
// then mistaken.
type Touched struct {
	Found  studio.Found `json:"found" enum:"soft,firm,dry,spoilt"`
	Pieces int64        `json:"pieces,omitempty" minimum:"0" doc:"of spoilt ones"`
	Surely bool         `json:"surely,omitempty" doc:"it is so, though somebody found them further before"`
}

// Touch records what somebody found who touched what lies in a wait, or what of it is spoilt; of what lies
// between two tasks only what is spoilt.
func (b Bench) Touch(task, person studio.ID, found Touched) (studio.WorkLot, []studio.Movement, error) {
	lot, r, wait, err := b.lying(task)
	if found.Found == studio.FoundSpoilt {
		if between, of, step, lies := b.between(task); lies {
			lot, r, wait, err = between, of, step, nil
		}
	}
	if err != nil {
		return lot, nil, err
	}
	check := studio.Check{Step: r.Steps[wait].Key, At: b.doc.Now, Person: person, Found: found.Found}
	if found.Found == studio.FoundSpoilt {
		alive := lot.Progress(r).Alive
		if found.Pieces < 1 || found.Pieces > alive {
			return lot, nil, studio.Refuse("from 1 to %d pieces can be spoilt; %d lie there", alive, alive)
		}
		check.Pieces = found.Pieces
		lot.Checks = append(slices.Clone(lot.Checks), check)
		if !lot.Progress(r).Made {
			return lot, nil, nil
		}
		return lot, []studio.Movement{{Kind: studio.Spoilt, Made: studio.Good, Amount: -found.Pieces}}, nil
	}
	lot.Checks = slices.Clone(lot.Checks)
	for i := len(lot.Checks) - 1; i >= 0; i-- {
		c := &lot.Checks[i]
		if c.Step != check.Step || c.Mistaken || !further(c.Found, check.Found) {
			continue
		}
		if !found.Surely {
			return lot, nil, studio.RefuseUnless("surely", "%s found them %s before. Touch them again; if they are "+
				"%s, say so, and that check counts for nothing.", b.name(c.Person), c.Found, check.Found)
		}
		c.Mistaken = true
	}
	lot.Checks = append(lot.Checks, check)
	return lot, nil, nil
}

// further is true of a finding that another one takes back.
func further(was, is studio.Found) bool {
	return was == studio.FoundDry && is != studio.FoundDry || was == studio.FoundFirm && is == studio.FoundSoft
}

func (b Bench) name(person studio.ID) string {
	for _, p := range b.doc.People {
		if p.ID == person {
			return p.Name
		}
	}
	return "Somebody"
}

// between finds a lot whose pieces lie between a task, which was its last, and the next.
func (b Bench) between(task studio.ID) (lot studio.WorkLot, r *studio.Recipe, step int, lies bool) {
	for _, w := range b.doc.Work {
		if len(w.Records) == 0 {
			continue
		}
		last := w.Records[len(w.Records)-1]
		r := b.book.Of(w.Made())
		if s, i := r.Step(last.Step); i >= 0 && s.Work != nil && last.State == studio.TaskDone &&
			studio.TaskID(w.ID, last.Step) == task && !w.Progress(r).Made {
			w.Records = slices.Clone(w.Records)
			return w, r, i, true
		}
	}
	return lot, nil, 0, false
}

// lying finds a wait that a lot's pieces lie in.
func (b Bench) lying(task studio.ID) (lot studio.WorkLot, r *studio.Recipe, wait int, err error) {
	for _, w := range b.doc.Work {
		r := b.book.Of(w.Made())
		for i, step := range r.Steps {
			if step.Wait == nil || studio.TaskID(w.ID, step.Key) != task {
				continue
			}
			if !w.Lies(r, i) {
				return w, r, i, studio.Refuse(
					"%q is not lying there to be touched: it is not put down yet, or was taken up since",
					r.Name,
				)
			}
			w.Records = slices.Clone(w.Records)
			return w, r, i, nil
		}
	}
	return lot, nil, 0, studio.Refuse("nothing of this lies in the drying room any more; look at it again")
}

// Elsewhere is where the pieces of a wait are put. Surely says that it is so although
// there is no room, or although they are expected to be wet.
type Elsewhere struct {
	In      studio.ID     `json:"in,omitempty" doc:"the surroundings, the room if empty; of a place, its own"`
	Place   studio.ID     `json:"place,omitempty" doc:"a place of the studio, none for a box or a shelf"`
	Slots   int64         `json:"slots,omitempty" minimum:"0"`
	Machine studio.ID     `json:"machine,omitempty"`
	Minutes studio.Minute `json:"minutes,omitempty" minimum:"0" doc:"how long they stay in the machine"`
	Frees   bool          `json:"frees,omitempty" doc:"they leave what they lay in"`
	Surely  bool          `json:"surely,omitempty"`
}

// Put records that what lies in a wait was put elsewhere.
func (b Bench) Put(task, person studio.ID, to Elsewhere) (studio.WorkLot, error) {
	lot, r, wait, err := b.lying(task)
	if err != nil {
		return lot, err
	}
	put := studio.Put{
		Step:    r.Steps[wait].Key,
		At:      b.doc.Now,
		Person:  person,
		In:      to.In,
		Place:   to.Place,
		Slots:   to.Slots,
		Machine: to.Machine,
		Minutes: to.Minutes,
	}
	if to.Frees {
		put.Frees = b.taken(lot.ID)
	}
	switch {
	case to.In != "" && !slices.ContainsFunc(b.doc.Surroundings, func(s studio.Surroundings) bool { return s.ID == to.In }):
		return lot, studio.Refuse("the studio has no such surroundings any more")
	case to.Machine != "":
		return b.intoMachine(lot, put, to.Surely)
	case to.Place != "":
		i := slices.IndexFunc(b.doc.Places, func(p studio.Place) bool { return p.ID == to.Place })
		if i < 0 {
			return lot, studio.Refuse("the studio has no such place any more")
		}
		p := b.doc.Places[i]
		put.In, put.Slots = p.In, max(1, to.Slots)
		if left := p.Slots - b.occupied(p.ID, lot.ID); put.Slots > left && !to.Surely {
			return lot, studio.RefuseUnless("surely", "%s has no room for this by what is recorded. "+
				"If it lies there, say so; then look what else does.", p.Name)
		}
	}
	lot.Puts = append(slices.Clone(lot.Puts), put)
	return lot, nil
}

func (b Bench) intoMachine(lot studio.WorkLot, put studio.Put, surely bool) (studio.WorkLot, error) {
	i := slices.IndexFunc(b.doc.Machines, func(m studio.Machine) bool { return m.ID == put.Machine })
	if i < 0 {
		return lot, studio.Refuse("the studio has no such machine any more")
	}
	m := b.doc.Machines[i]
	if put.Minutes < 1 || put.Minutes > 24*60 {
		return lot, studio.Refuse("say for how many minutes they stay in %s: from 1 to 1440", m.Name)
	}
	put.Slots = max(1, put.Slots)
	left := m.Slots
	for _, t := range b.plan.Tasks {
		if t.Load != nil && t.Load.Machine == m.ID && t.Lot != lot.ID && t.State == studio.TaskStarted {
			left -= t.Load.Slots
		}
	}
	if put.Slots > left && !surely {
		return lot, studio.RefuseUnless("surely",
			"%s has no room for this by what is recorded. If they are in it, say so.", m.Name)
	}
	lot.Puts = append(slices.Clone(lot.Puts), put)
	return lot, nil
}

// taken are the places that a lot's pieces lie in now.
func (b Bench) taken(lot studio.ID) (places []studio.ID) {
	for _, t := range b.plan.Tasks {
		for _, h := range t.Holds {
			if t.Lot == lot && h.From <= b.doc.Now && h.To > b.doc.Now && !slices.Contains(places, h.Place) {
				places = append(places, h.Place)
			}
		}
	}
	return places
}

// occupied is how many slots of a place others than a lot take now.
func (b Bench) occupied(place, but studio.ID) (slots int64) {
	for _, t := range b.plan.Tasks {
		for _, h := range t.Holds {
			if h.Place == place && t.Lot != but && h.From <= b.doc.Now && h.To > b.doc.Now {
				slots += h.Slots
			}
		}
	}
	return slots
}
