package rehearse

import (
	"slices"

	"bractum/core/bench"
	"bractum/core/studio"
)

// lead decides in a studio what is made, when and by whom. What happens at the benches is nobody's to decide.
type lead interface {
	// plans says what is to be made as things stand, the plan before given.
	plans(p *player, before *studio.Plan) (*studio.Plan, error)
	// next is what somebody who is free is to begin now; empty where nothing.
	next(p *player, who *studio.Person) studio.ID
	// loads sets off and empties machines.
	loads(p *player) error
	// touched is told that pieces were not as far as they were thought to be.
	touched(p *player, task studio.ID) error
	// morning is before anybody begins; short where a task finds too little of some materials.
	morning(p *player) error
	short(p *player, materials map[studio.ID]int64) error
	// looks says whether what is to be made is worked out anew as a task is done, of which something was lost.
	looks(lost bool) bool
	// wakes is when something is to be begun next; past all time where nobody knows.
	wakes(p *player) studio.Minute
	// stays says whether somebody stays into their overtime.
	stays(p *player, who *studio.Person) bool
}

// player plays the people of a studio through a course of things.
type player struct {
	*house
	*course
	lead
	made  *studio.Plan
	stale bool // something has happened since it was made

	instance   *studio.Instance
	activities map[studio.ID]*studio.Activity
	before     map[studio.ID]studio.ID // of a task, the one before it in its lot
	after      map[studio.ID]studio.ID // the one after it
	lot        map[studio.ID]studio.ID // that it is of
	into       map[studio.ID][]studio.Lag
	soft       map[studio.ID]bool        // of tasks that take up what has to be soft still
	takers     map[studio.ID][]studio.ID // of tasks, those of other lots that do with what it makes

	hours, late map[studio.ID]studio.Hours  // when people are there, and may stay besides
	busy        map[studio.ID]*going        // by person
	ends        map[studio.ID]studio.Minute // of tasks that are done
	begun       map[studio.ID]bool          // tasks
	blocked     map[studio.ID]studio.Minute // of tasks that could not be begun, until when they are not tried again
	coming      []delivery
	ordered     map[studio.ID]int // how often something was ordered from a supplier
	result      Side
}

// going is a task that somebody is at.
type going struct {
	task  studio.ID
	until studio.Minute
}

// delivery is a purchase, and when it really comes.
type delivery struct {
	studio.Purchase
	comes studio.Minute
}

// Orders that have not left so long after the weeks are counted as late by that.
const beyond studio.Minute = 3 * 7 * 1440

// tick is how often people look round when nothing else happens.
const tick studio.Minute = 15

func newPlayer(doc *studio.Document, c *course, leads lead) (*player, error) {
	h, err := newHouse(doc)
	if err != nil {
		return nil, err
	}
	p := &player{house: h, course: c, lead: leads, stale: true, hours: map[studio.ID]studio.Hours{},
		late: map[studio.ID]studio.Hours{}, busy: map[studio.ID]*going{}, ends: map[studio.ID]studio.Minute{},
		begun:   map[studio.ID]bool{},
		blocked: map[studio.ID]studio.Minute{}, ordered: map[studio.ID]int{}}
	for _, one := range doc.People {
		one.Away = append(slices.Clone(one.Away), c.away[one.ID]...)
		p.hours[one.ID] = studio.HoursOf(one, c.calendar, c.from, c.to+2*beyond)
		p.late[one.ID] = studio.OvertimeOf(one, c.calendar, c.from, c.to+2*beyond)
	}
	return p, nil
}

// play goes through the weeks, and on until all orders have left.
func (p *player) play() (Side, error) {
	day, hour := p.course.calendar.Date(p.from), int64(p.from/60)
	asked, tidy := 0, p.from
	for now := p.from; now < p.to+beyond; now = p.wakes(now) {
		p.doc.Now = now
		for int64(now/60) > hour {
			hour++
			p.breathe(hour)
		}
		for ; asked < len(p.asks) && p.asks[asked].at <= now; asked++ {
			p.house.ordered(p.asks[asked].order)
			p.result.Orders++
			p.stale = true
		}
		if err := p.deliveries(); err != nil {
			return p.result, err
		}
		if today := p.course.calendar.Date(now); today.Compare(day) > 0 || now == p.from {
			day = today
			p.absent(day)
			if err := p.fresh(); err != nil {
				return p.result, err
			}
			if err := p.morning(p); err != nil {
				return p.result, err
			}
		}
		if now >= tidy {
			tidy = now + 60
			if done := p.leave(); done && asked == len(p.asks) {
				break
			}
		}
		if err := p.finish(); err != nil {
			return p.result, err
		}
		if err := p.begin(); err != nil {
			return p.result, err
		}
	}
	p.sum()
	return p.result, nil
}

// wakes is when something is to be looked at next.
func (p *player) wakes(now studio.Minute) studio.Minute {
	next := min(now/tick*tick+tick, max(now+1, p.lead.wakes(p)))
	anybody := false
	for i := range p.doc.People {
		who := &p.doc.People[i]
		if g := p.busy[who.ID]; g != nil {
			next = min(next, max(now+1, g.until))
		}
		anybody = anybody || p.there(who)
	}
	if !anybody {
		return now/tick*tick + tick
	}
	return next
}

// there is true of somebody who is at work: in their hours, or beyond them where they are to stay.
func (p *player) there(who *studio.Person) bool {
	now := studio.Span{From: p.doc.Now, To: p.doc.Now + 1}
	return p.hours[who.ID].Worked(now) > 0 || p.late[who.ID].Worked(now) > 0 && p.stays(p, who)
}

// breathe notes the air of an hour; of the last days only, as the drying clocks look no further back.
func (p *player) breathe(hour int64) {
	for _, r := range p.readings {
		if r.Hour == hour {
			p.doc.Readings = append(slices.Clone(p.doc.Readings), r)
		}
	}
	p.doc.Readings = slices.DeleteFunc(p.doc.Readings, func(r studio.Reading) bool {
		return studio.Minute(r.Hour*60) < p.doc.Since()
	})
}

// absent notes who is not there today: nobody knew before.
func (p *player) absent(day studio.Date) {
	for i := range p.doc.People {
		who := &p.doc.People[i]
		if slices.Contains(p.away[who.ID], day) {
			p.doc.People = slices.Clone(p.doc.People)
			who = &p.doc.People[i]
			who.Away = append(slices.Clone(who.Away), day)
			p.stale = true
		}
	}
}

// fresh has the lead plan what has happened.
func (p *player) fresh() (err error) {
	if !p.stale {
		return nil
	}
	if p.made, err = p.plans(p, p.made); err != nil {
		return err
	}
	p.stale = false
	p.result.Plans++
	p.instance = studio.Route(p.doc, p.book, p.made.Lots, p.made.Links, p.made.Pegs)
	p.activities = p.instance.Activities()
	p.before, p.after, p.into = map[studio.ID]studio.ID{}, map[studio.ID]studio.ID{}, map[studio.ID][]studio.Lag{}
	p.lot = map[studio.ID]studio.ID{}
	p.soft, p.takers = map[studio.ID]bool{}, map[studio.ID][]studio.ID{}
	for _, lot := range p.instance.Lots {
		for i := range lot.Tasks {
			p.lot[lot.Tasks[i].ID] = lot.ID
		}
		for i := range lot.Tasks[1:] {
			p.before[lot.Tasks[i+1].ID], p.after[lot.Tasks[i].ID] = lot.Tasks[i].ID, lot.Tasks[i+1].ID
		}
	}
	for _, lag := range p.instance.Links {
		p.into[lag.To] = append(p.into[lag.To], lag)
		if lag.Most != nil {
			p.soft[lag.To] = true
			p.takers[lag.From] = append(p.takers[lag.From], lag.To)
		}
	}
	return nil
}

// leave has orders leave that are due and finished; true once all have.
func (p *player) leave() bool {
	all := true
	for _, o := range p.doc.Orders {
		if o.State != studio.OrderOpen {
			continue
		}
		due := p.course.calendar.Minute(o.Leaves)
		if due > p.doc.Now {
			all = false
			continue
		}
		left, moved, err := bench.New(p.doc, p.made).HandOver(o, nil)
		if err != nil {
			all = false
			continue
		}
		p.move(studio.WorkLot{}, moved)
		p.close()
		p.house.ordered(left)
		p.stale = true
		if by := p.doc.Now - due; by < 60 { // they are looked at once an hour
			p.result.InTime++
		} else {
			p.result.Late = append(p.result.Late, Late{Order: o.ID, Minutes: by})
		}
	}
	return all
}

// sum adds up what is left at the end.
func (p *player) sum() {
	for _, o := range p.doc.Orders {
		if o.State == studio.OrderOpen {
			p.result.Late = append(p.result.Late,
				Late{Order: o.ID, Minutes: p.doc.Now - p.course.calendar.Minute(o.Leaves), Never: true})
		}
	}
	for _, s := range p.doc.Shelf {
		r := p.book.Recipe(s.Recipe)
		switch {
		case s.MadeOn < p.from || s.Amount < 0:
		case r.Kind == studio.KindMix:
			p.used.PasteLeft += studio.Milligrams(s.Amount)
		default:
			p.used.Left += s.Amount
		}
	}
	for i := range p.doc.People {
		p.result.Present += p.hours[p.doc.People[i].ID].Worked(studio.Span{From: p.from, To: p.to})
	}
	p.result.Used = p.used
}
