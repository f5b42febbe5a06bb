package rehearse

import (
	"fmt"
	"math"
	"slices"

	"bractum/core/bench"
	"bractum/core/drying"
	"bractum/core/studio"
)

// What happens at the benches, whoever leads: what takes how long, what breaks, what is dry.

// finish has those finish who are through with what they are at.
func (p *player) finish() error {
	for i := range p.doc.People {
		who := &p.doc.People[i]
		g := p.busy[who.ID]
		if g == nil || g.until > p.doc.Now {
			continue
		}
		delete(p.busy, who.ID)
		if err := p.finished(g.task); err != nil {
			return fmt.Errorf("%s: %w", g.task, err)
		}
	}
	return nil
}

// finished is a task that is done, with what came of it.
func (p *player) finished(task studio.ID) error {
	b := bench.New(p.doc, p.made)
	lot, record := p.record(task)
	r := p.book.Of(lot.Made())
	counts := bench.Counts{Good: lot.Left(r, record.Step)}
	if r.Kind != studio.KindMix {
		tasks := 0
		for at := 0; at < len(r.Steps); _, at = r.Task(at) {
			if r.Steps[at].Work != nil {
				tasks++
			}
		}
		if share, may := r.Losing(); may {
			counts.Broken = p.breaks(task, "", counts.Good, 1-math.Pow(1-share, 1/float64(max(1, tasks))))
		}
		stiff := p.stiff(task, record, counts.Good)
		p.result.Stiff += stiff
		counts.Broken = max(counts.Broken, stiff)
		for _, eye := range b.Eyes(task) {
			for _, part := range r.Parts {
				if eye.Breaks && eye.Recipe == part.Recipe && eye.Variant == part.Variant {
					broke := p.breaks(task, string(part.Recipe), counts.Good*part.Count, r.LosingOf(part))
					if broke = min(broke, eye.Most); broke > 0 {
						counts.Used = append(
							counts.Used,
							studio.Used{Recipe: part.Recipe, Variant: part.Variant, Broke: broke},
						)
						p.used.Broken += broke
					}
					break
				}
			}
		}
		counts.Good -= counts.Broken
		p.used.Broken += counts.Broken
	}
	lot, moved, err := b.Finish(task, counts)
	if err != nil {
		return err
	}
	p.happened(lot, moved)
	p.ends[task] = p.doc.Now
	p.stale = p.stale || p.lead.looks(counts.Broken > 0 || len(counts.Used) > 0)
	return nil
}

// record is what has happened to a task that somebody is at.
func (p *player) record(task studio.ID) (studio.WorkLot, studio.TaskRecord) {
	for _, w := range p.doc.Work {
		for _, r := range w.Records {
			if studio.TaskID(w.ID, r.Step) == task {
				return w, r
			}
		}
	}
	return studio.WorkLot{}, studio.TaskRecord{}
}

// stiff is how many pieces of a task that is done were too stiff as they were taken up: each came out of the task
// before in its turn, and was taken up in its turn.
func (p *player) stiff(task studio.ID, record studio.TaskRecord, pieces int64) (lost int64) {
	for _, lag := range p.into[task] {
		if lag.Most == nil {
			continue
		}
		_, made := p.record(lag.From)
		if made.State != studio.TaskDone {
			continue
		}
		late := int64(0)
		before, now := p.passes(lag.From, made, pieces), p.passes(task, record, pieces)
		for i := range pieces {
			done, taken := before(i+1), now(i)
			if !lag.Each {
				done = made.End
			}
			last := done + lag.Most.Minutes
			if d := lag.Most.Dries; d != nil {
				var ok bool
				if last, ok = p.air.When(*d, p.slow(lag.From), done); !ok {
					continue
				}
			}
			if taken > last+1 { // by more than what minutes are rounded by
				late++
			}
		}
		lost = max(lost, late)
	}
	return lost
}

// passes is when so many of some pieces are through a task: one after the other in the time that was worked, once it
// was set up.
func (p *player) passes(task studio.ID, record studio.TaskRecord, pieces int64) func(n int64) studio.Minute {
	end := record.End
	if record.State != studio.TaskDone {
		end = p.doc.Now
	}
	open := studio.Together(p.hours[record.Person], p.late[record.Person])
	worked := open.Worked(studio.Span{From: record.Start, To: end})
	setup := studio.Minute(0)
	for i := range p.doc.People {
		if a := p.activities[task]; a != nil && p.doc.People[i].ID == record.Person {
			setup = min(worked, a.SetupFor(&p.doc.People[i], 0))
		}
	}
	return func(n int64) studio.Minute {
		at, _, ok := open.Advance(record.Start, setup+(worked-setup)*studio.Minute(n)/studio.Minute(max(1, pieces)))
		if !ok || at > end {
			return end
		}
		return at
	}
}

// begin has machines set off, and those begin something who are free, as long as anybody does.
func (p *player) begin() error {
	anybody := slices.ContainsFunc(p.doc.People, func(who studio.Person) bool { return p.there(&who) })
	if !anybody {
		return nil
	}
	if err := p.fresh(); err != nil {
		return err
	}
	if err := p.loads(p); err != nil {
		return err
	}
	for again := true; again; {
		again = false
		for i := range p.doc.People {
			who := &p.doc.People[i]
			if p.busy[who.ID] != nil || !p.there(who) {
				continue
			}
			begun, err := p.takesUp(who)
			if err != nil {
				return err
			}
			again = again || begun
		}
	}
	return nil
}

// tries is how many tasks somebody looks at, at the most, until they find one that they can begin.
const tries = 8

// takesUp has somebody begin the first task that they can.
func (p *player) takesUp(who *studio.Person) (begun bool, err error) {
	for range tries {
		if err := p.fresh(); err != nil {
			return false, err
		}
		task := p.lead.next(p, who)
		if task == "" {
			return false, nil
		}
		if begun, err = p.begins(who, task); begun || err != nil {
			return begun, err
		}
	}
	return false, nil
}

// begins has somebody begin a task, or find out that they cannot yet.
func (p *player) begins(who *studio.Person, task studio.ID) (bool, error) {
	a := p.activities[task]
	if until, wait := p.ready(task); until > p.doc.Now {
		p.blocked[task] = min(until, p.doc.Now+4*tick)
		return false, p.touched(p, wait)
	}
	b := bench.New(p.doc, p.made)
	lot, moved, err := b.Start(task, who.ID, true)
	if err != nil {
		p.blocked[task] = p.doc.Now + 4*tick
		return false, nil
	}
	if short := p.lacks(lot, task); len(short) > 0 {
		p.blocked[task] = p.doc.Now + 1
		return false, p.short(p, short)
	}
	p.happened(lot, moved)
	setup := studio.Minute(0)
	if a.Setup != nil {
		setup = p.colour(who, a.Setup)
	}
	length := studio.Minute(0)
	for _, run := range a.Runs(who, setup) {
		length += run
	}
	length = max(1, studio.Minute(math.Round(float64(length)*p.minutes(task))))
	open := studio.Together(p.hours[who.ID], p.late[who.ID])
	if !p.stays(p, who) {
		open = p.hours[who.ID]
	}
	until := p.doc.Now + length
	if a.Pauses() {
		if end, _, ok := open.Advance(p.doc.Now, length); ok {
			until = end
		}
	}
	worked := studio.Span{From: p.doc.Now, To: until}
	if p.result.Worked += length; !a.Pauses() || p.stays(p, who) {
		p.result.Overtime += max(0, length-p.hours[who.ID].Worked(worked))
	}
	p.busy[who.ID] = &going{task, until}
	p.begun[task] = true
	return true, nil
}

// colour is what it takes somebody to come to a mix, who has come to it then.
func (p *player) colour(who *studio.Person, use *studio.ColourUse) (minutes studio.Minute) {
	for _, f := range p.doc.Families {
		if f.ID == use.Family {
			minutes = f.Cost(who.Colours[f.ID], use.Mix)
		}
	}
	who.Colours[use.Family] = use.Mix
	return minutes
}

// ready is when all that a task waits for is really over, and the wait that is over last.
func (p *player) ready(task studio.ID) (at studio.Minute, wait studio.ID) {
	see := func(end studio.Minute, of studio.ID) {
		if end > at {
			at, wait = end, of
		}
	}
	if of := p.before[task]; of != "" {
		if a := p.activities[of]; a != nil && a.Wait != nil && a.Wait.Load == nil {
			see(p.over(of), of)
		}
	}
	for _, lag := range p.into[task] {
		from := p.activities[lag.From]
		switch {
		case from == nil:
		case from.Wait != nil && from.Wait.Load == nil:
			see(p.over(lag.From), lag.From)
		case lag.Least != nil:
			if end, done := p.done(lag.From); done {
				see(p.length(*lag.Least, lag.From, end), lag.From)
			}
		}
	}
	return at, wait
}

// over is when a wait in the air is really over: from when the task before it was done.
func (p *player) over(wait studio.ID) studio.Minute {
	since, _ := p.done(p.before[wait])
	return p.length(p.activities[wait].Wait.Least, wait, since)
}

// done is when a task was done, in the rehearsal or before it.
func (p *player) done(task studio.ID) (end studio.Minute, done bool) {
	if end, done = p.ends[task]; !done {
		if a := p.activities[task]; a != nil && a.Done() {
			return a.Fact.End, true
		}
	}
	return end, done
}

// length is when what begins at a minute is really over.
func (p *player) length(l studio.Length, task studio.ID, since studio.Minute) studio.Minute {
	if l.Dries == nil {
		return since + l.Minutes
	}
	d := *l.Dries
	d.Lain, d.Reached = nil, nil
	at, ok := p.air.When(d, p.slow(task), since)
	if !ok {
		return drying.Never
	}
	return at
}

// lacks is what a task that has been begun will find too little of.
func (p *player) lacks(lot studio.WorkLot, task studio.ID) map[studio.ID]int64 {
	try := *p.doc
	try.Work = append(
		slices.DeleteFunc(slices.Clone(p.doc.Work), func(w studio.WorkLot) bool { return w.ID == lot.ID }),
		lot,
	)
	r := p.book.Of(lot.Made())
	step := lot.Records[len(lot.Records)-1].Step
	_, moved, err := bench.New(&try, p.made).Finish(task, bench.Counts{Good: lot.Left(r, step)})
	if err != nil {
		return nil
	}
	short := map[studio.ID]int64{}
	for _, m := range moved {
		if m.Material != "" && m.Length == 0 {
			short[m.Material] -= m.Amount
		}
	}
	for i := range p.doc.Materials {
		m := &p.doc.Materials[i]
		if short[m.ID] <= m.OnHand || short[m.ID] == 0 {
			delete(short, m.ID)
		} else {
			short[m.ID] -= m.OnHand
		}
	}
	return short
}

// usualLength is how long a task takes somebody by the book, a wait as long as it usually is.
func (p *player) usualLength(who *studio.Person, a *studio.Activity) (minutes studio.Minute) {
	switch {
	case a.Wait == nil:
		for _, run := range a.Runs(who, 0) {
			minutes += run
		}
	case a.Wait.Least.Dries != nil:
		minutes = p.usual(*a.Wait.Least.Dries)
	default:
		minutes = a.Wait.Least.Minutes
	}
	return minutes
}

// usual is how long pieces usually dry, whatever the air.
func (p *player) usual(d studio.Dries) studio.Minute {
	d.Lain, d.Reached = nil, nil
	return studio.Minute(studio.CeilDiv(p.air.Standard(d, 50), 1000))
}
