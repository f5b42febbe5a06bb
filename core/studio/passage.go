package studio

// Passage is how the pieces of a task pass through it: one after the other, in the order in
// which they came, evenly over what is worked after its setup; of a wait, all at once. Rest
// is what is worked after the setup; pauses stop the work, not the clock.
type Passage struct {
	Start, Setup, Rest Minute
	Pieces             int64
	Pauses             []Span
	Whole              bool
}

// PassageOf is how the pieces of a task pass through it as a plan has it, done by somebody; of
// what is done, or under way and not counted, as it happened.
func (a *Activity) PassageOf(t *Task, by *Person) Passage {
	p := Passage{Start: t.Begin(), Pieces: max(1, a.Pieces), Pauses: t.Pauses, Whole: a.Wait != nil}
	if a.Fact.Passes() {
		return a.Fact.Passed(p, t.End)
	}
	if p.Rest = p.Worked(t.End); a.Wait == nil {
		p.Setup = min(p.Rest, a.SetupFor(by, t.Setup))
	}
	p.Rest -= p.Setup
	return p
}

// Passed is how pieces pass through a task, of which a passage until an end is what is left, with
// what happened of it before.
func (f *Fact) Passed(p Passage, end Minute) Passage {
	resume := p.Start
	if f.State == TaskDone {
		resume = end
	}
	p.Start, p.Pauses = f.Start, append(f.PausesBefore(resume), p.Pauses...)
	worked := p.Worked(end)
	p.Setup = min(f.Setup, worked)
	p.Rest = worked - p.Setup
	return p
}

// Done is when so many pieces are done, rounded down: a pause that comes right then has not
// begun, one that comes while a piece is in hand is over.
func (p *Passage) Done(pieces int64) Minute {
	if p.Whole {
		return p.Start + p.Setup + p.Rest
	}
	work := int64(p.Rest) * pieces
	at, inHand := p.Start+p.Setup+Minute(work/p.Pieces), work%p.Pieces > 0
	for _, pause := range p.Pauses {
		if pause.From < at || pause.From == at && inHand {
			at += pause.To - pause.From
		}
	}
	return at
}

// Takes is when a piece is taken up once so many are done, rounded up: a pause that comes
// right then is over, one that comes while it is in hand has not begun.
func (p *Passage) Takes(after int64) Minute {
	if p.Whole {
		return p.Start
	}
	work := int64(p.Rest) * after
	at, inHand := p.Start+p.Setup+Minute(CeilDiv(work, p.Pieces)), work%p.Pieces > 0
	for _, pause := range p.Pauses {
		if pause.From < at || pause.From == at && !inHand {
			at += pause.To - pause.From
		}
	}
	return at
}

// Worked is how many minutes are worked of a passage that ends at a minute.
func (p *Passage) Worked(end Minute) Minute {
	worked := end - p.Start
	for _, pause := range p.Pauses {
		worked -= pause.To - pause.From
	}
	return worked
}

// Latest is by how many minutes the pieces of one task are taken up too late by another, at
// most, if each may wait until last(when it was done); not more than nothing where all are in
// time. It takes O(pieces).
func (p *Passage) Latest(to *Passage, last func(done Minute) Minute) (by Minute) {
	until, since := Minute(0), Minute(-1)<<62
	for i := range p.Pieces {
		if done := p.Done(i + 1); done != since {
			until, since = last(done), done
		}
		by = max(by, to.Takes(i*to.Pieces/p.Pieces)-until)
	}
	return by
}
