package studio

import "slices"

// Progress is how far a begun lot has come, reckoned from its records.
type Progress struct {
	// NextStep is the index of the first step whose work is not done.
	NextStep int
	// Alive are the pieces not broken; Seconds those of them that are seconds.
	Alive, Seconds int64
	// ToMend are pieces counted as to mend whose mending is not done.
	ToMend int64
	// Made is true once the last work step is done and nothing is to mend: the
	// pieces exist and are on the shelf, though they may still have to dry.
	Made bool
}

// Progress of a lot of the given recipe. A second, once counted, stays one.
func (w WorkLot) Progress(r *Recipe) Progress {
	p := Progress{Alive: w.Started, NextStep: r.after(w.Reached)}
	for _, record := range w.Records {
		p.Alive -= record.Broken * w.unit(r, record)
		p.Seconds += record.Second * w.unit(r, record)
		if mended := w.Record(MendKey(record.Step)); mended == nil || mended.State != TaskDone {
			p.ToMend += record.Mend
		}
		if _, i := r.Step(record.Step); record.State == TaskDone && i >= p.NextStep {
			_, p.NextStep = r.Task(i)
		}
	}
	p.Alive -= w.spoilt(r, len(r.Steps))
	p.Made = p.NextStep > r.OutputStep() && p.ToMend == 0
	return p
}

// after is the index of the first work step after one that pieces have reached, 0
// when they have reached none: the waits between are over, they have lain.
func (r *Recipe) after(reached string) int {
	if _, i := r.Step(reached); i >= 0 {
		_, past := r.Task(i)
		for past < len(r.Steps) && r.Steps[past].Wait != nil {
			past++
		}
		return past
	}
	return 0
}

// Serves is how many of the pieces can serve a need for good ones.
func (p Progress) Serves(r *Recipe) int64 {
	if r.SecondsServe {
		return p.Alive
	}
	return max(0, p.Alive-p.Seconds)
}

// unit is how many pieces each one counted by a record stands for.
func (w WorkLot) unit(r *Recipe, record TaskRecord) int64 {
	of, _ := MendedStep(record.Step)
	_, i := r.Step(of)
	return r.unit(i)
}

// Left is how many a task has still to count: pieces, units before the yield, or
// milligrams of a mix; less than nothing when its record counts more than came to it.
func (w WorkLot) Left(r *Recipe, task string) int64 {
	of, _ := MendedStep(task)
	_, at := r.Step(of)
	left := CeilDiv(w.Entering(r, task), r.unit(at))
	if record := w.Record(task); record != nil {
		left -= record.Counted()
	}
	return left
}

// Remaining is how many of a recipe's pieces a task has still to count: those that Left counts in units.
func (w WorkLot) Remaining(r *Recipe, task string) int64 {
	of, _ := MendedStep(task)
	_, at := r.Step(of)
	if r.Kind == KindMix {
		return w.Left(r, task)
	}
	return max(0, w.Left(r, task)) * r.unit(at)
}

// Entering is how many pieces come to a step: those not broken before it; to a
// mending, those counted as to mend.
func (w WorkLot) Entering(r *Recipe, step string) int64 {
	if mended, is := MendedStep(step); is {
		if record := w.Record(mended); record != nil {
			return record.Mend * w.unit(r, *record)
		}
	}
	pieces := w.Started
	for _, record := range w.Records {
		if record.Step == step {
			break
		}
		pieces -= record.Broken * w.unit(r, record)
	}
	_, at := r.Step(step)
	return max(0, pieces-w.spoilt(r, at))
}

// Begun is a counted lot as it stands, or as it would be begun.
func (d *Document) Begun(l Lot) WorkLot {
	for _, w := range d.Work {
		if w.ID == l.ID {
			w.Records = slices.Clone(w.Records)
			return w
		}
	}
	return WorkLot{
		ID:       l.ID,
		Recipe:   l.Recipe,
		Variant:  l.Variant,
		Mixes:    l.Mixes,
		Ordinal:  l.Ordinal,
		Need:     l.Need,
		Started:  l.Started,
		From:     l.From,
		Reached:  l.Reached,
		Reserved: OfOrders(l.For),
	}
}

// Record finds what happened to a step, nil when nothing has.
func (w WorkLot) Record(step string) *TaskRecord {
	for i := range w.Records {
		if w.Records[i].Step == step {
			return &w.Records[i]
		}
	}
	return nil
}

// Turnout is what came of a lot whose pieces are made: how many of them can serve, how many were lost
// on the way, when its last task ended and how many minutes its tasks at hand took.
type Turnout struct {
	Good, Lost     int64
	Ended, Minutes Minute
}

// Broke is how many pieces of inputs broke as the lot took them up.
func (w WorkLot) Broke() (pieces int64) {
	for _, record := range w.Records {
		for _, u := range record.Used {
			pieces += u.Broke
		}
	}
	return pieces
}

// Turnout is what a lot came to; false while there is work left to do. Mixes lose nothing.
func (w WorkLot) Turnout(r *Recipe) (y Turnout, made bool) {
	progress := w.Progress(r)
	if !progress.Made {
		return Turnout{}, false
	}
	for _, record := range w.Records {
		y.Ended = max(y.Ended, record.End)
		if record.Machine == "" {
			y.Minutes += record.End - record.Start
		}
	}
	if r.Kind != KindMix {
		y.Good = progress.Serves(r)
		y.Lost = max(0, w.Started-y.Good)
	}
	return y, true
}
