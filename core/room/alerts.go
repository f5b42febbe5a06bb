package room

import (
	"cmp"
	"slices"

	"bractum/core/studio"
)

// AlertKind is what an alert is about.
type AlertKind string

// Kinds of alerts: a window is about to close, or has; pieces are dry and somebody waits for
// them; the time of pieces in a machine is over; the air is, or will soon be, too damp for
// what dries in it; dry pieces go soft; a sensor is silent.
const (
	Closing AlertKind = "closing"
	Closed  AlertKind = "closed"
	Ready   AlertKind = "ready"
	Out     AlertKind = "out"
	Stalled AlertKind = "stalled"
	Softens AlertKind = "softens"
	Quiet   AlertKind = "quiet"
)

// Alert is something to act on now. It concerns a person, or everybody.
type Alert struct {
	Kind   AlertKind     `json:"kind" enum:"closing,closed,ready,out,stalled,softens,quiet"`
	Task   studio.ID     `json:"task,omitempty"`
	Lot    studio.ID     `json:"lot,omitempty"`
	Person studio.ID     `json:"person,omitempty"`
	In     studio.ID     `json:"in,omitempty"`
	At     studio.Minute `json:"at" doc:"when it happens, or happened"`
}

// How far ahead alerts look: beyond that there is time enough.
const (
	closingSoon = 90 // minutes
	dampSoon    = 4 * 60
	softSoon    = 6 * 60
	beginsNow   = 15
)

// alerts are few: what cannot wait, soonest first.
func (v *view) alerts(lying []Lying) []Alert {
	now := v.Doc.Now
	alerts := []Alert{}
	damp := map[studio.ID]bool{}
	for i := range lying {
		l := &lying[i]
		if l.Machine != "" && l.over() <= now {
			alerts = append(alerts, Alert{Kind: Out, Task: l.Task, Lot: l.Lot, At: l.over()})
		} else if n := l.Next; n != nil {
			person := n.Person
			switch closes := l.closes(); {
			case closes < now:
				alerts = append(alerts, Alert{Kind: Closed, Task: l.Task, Lot: l.Lot, Person: person, At: closes})
			case closes <= now+closingSoon:
				alerts = append(alerts, Alert{Kind: Closing, Task: l.Task, Lot: l.Lot, Person: person, At: closes})
			case v.waitedFor(l):
				alerts = append(alerts, Alert{Kind: Ready, Task: l.Task, Lot: l.Lot, Person: person, At: min(l.over(), now)})
			}
		}
		if l.Class != "" && l.State != studio.FoundDry && l.Machine == "" && !damp[l.In] {
			if at, stalls := v.stalls(l); stalls {
				damp[l.In] = true
				alerts = append(alerts, Alert{Kind: Stalled, Task: l.Task, Lot: l.Lot, In: l.In, At: at})
			}
		}
	}
	alerts = append(alerts, v.softening()...)
	slices.SortStableFunc(
		alerts,
		func(a, b Alert) int { return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(a.Kind, b.Kind)) },
	)
	return alerts
}

// waitedFor is true of pieces whose wait is over and whose next task is to be begun now.
func (v *view) waitedFor(l *Lying) bool {
	t := v.Tasks[l.Next.Task]
	return l.over() <= v.Doc.Now && t.State == studio.TaskPlanned && t.Begin() <= v.Doc.Now+beginsNow
}

// stalls is when the air of pieces is too damp to dry in, at or soon after now.
func (v *view) stalls(l *Lying) (studio.Minute, bool) {
	clock := v.Air.Clock(l.Class, l.In)
	for at := v.Doc.Now; at < v.Doc.Now+dampSoon && at < v.Doc.Horizon(); at += 60 {
		if clock.At(at+60) == clock.At(at) {
			return at, true
		}
	}
	return 0, false
}

// softening are dry pieces on the shelf, in no closed box, that damp air will soften soon.
func (v *view) softening() (alerts []Alert) {
	for _, s := range v.Doc.Shelf {
		class := v.class(s)
		if class == "" {
			continue
		}
		if at, soft := v.Air.Limp(class, s.In, max(s.MadeOn, v.Doc.Now-7*1440)); soft && at <= v.Doc.Now+softSoon {
			alerts = append(alerts, Alert{Kind: Softens, Lot: s.ID, In: s.In, At: at})
		}
	}
	return alerts
}

// class is the drying class of the last wait of what lies on the shelf.
func (v *view) class(s studio.ShelfLot) studio.ID {
	r := v.Book.Of(s.Made())
	for i := len(r.Steps) - 1; i >= 0; i-- {
		if w := r.Steps[i].Wait; w != nil && w.Class != "" {
			return w.Class
		}
	}
	return ""
}
