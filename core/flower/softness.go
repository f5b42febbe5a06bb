package flower

import (
	"bractum/core/drying"
	"bractum/core/studio"
)

// softness holds what steps want of pieces against how long those stay so: nothing may say
// how they dry, or a wait may lie between that is longer than they keep.
func (j *judge) softness(r *studio.Recipe) {
	for last := len(r.Steps) - 1; last > 0; last-- {
		wants := r.Wanted(last)
		before, perishes := wants.Until()
		if !perishes {
			continue
		}
		softness, held := r.Softness(last, studio.SoftStores(j.doc))
		if !held {
			if _, says := r.HowItDries(); !says && len(r.Pastes) > 0 {
				j.warn(r, RuleSoftness, NotHeld, studio.NewFigure("may-wait", 0, "min").OfThing(r.Steps[last].Name))
			}
			return
		}
		room := j.room()
		var waits studio.Minute
		for _, s := range r.Steps[softness.From:last] {
			if s.Wait != nil {
				waits += studio.Milliminutes(room.Need(s.Wait.Longest())).Minutes()
			}
		}
		keeps := room.Most(j.book.Dries(softness.Drying, r.Defaults, before))
		if waits > keeps {
			j.warn(r, RuleSoftness, DriesOut, studio.NewFigure("may-wait", keeps, "min"),
				studio.NewFigure("waits-between", waits, "min").OfThing(r.Steps[last].Name))
			return
		}
	}
}

// room is the studio's drying in standard air.
func (j *judge) room() drying.Room {
	calendar, err := studio.NewCalendar(j.doc.Epoch, j.doc.Zone)
	if err != nil {
		return drying.Room{} // a valid document has a calendar
	}
	return drying.NewRoom(j.doc, calendar)
}
