// Package rehearse plays a studio through weeks as they might go, twice: once as Bractum would run it, once as a
// notebook would. The weeks are the same for both: what is asked for, how the air is, who is away, which deliveries are
// late; minutes, drying and breakage are drawn alike for both, for the lots that each makes.
//
// Whatever happens at a bench is what the bench of the application makes of it: the same rules say what may be begun,
// what is used, what comes of it and what leaves. Nobody looks into the future: a task takes as long as it takes,
// pieces are touched when they are thought to be dry and may be found soft, what is taken up too late is too stiff and
// lost. Both take every order that is asked for.
package rehearse

import (
	"bractum/core/risk"
	"bractum/core/studio"
)

// Options are how a rehearsal goes.
type Options struct {
	Weeks int
	Seed  uint64
	// Load is what the orders that leave within the weeks fill of the hours that people are there, in percent.
	Load     int
	Spreads  risk.Spreads
	Notebook Notebook
}

// Usual are six weeks at nine tenths.
func Usual() Options {
	return Options{Weeks: 6, Seed: 1, Load: 90, Spreads: risk.UsualSpreads(), Notebook: UsualNotebook()}
}

// Report is how both came through the same weeks.
type Report struct {
	Seed     uint64 `json:"seed"`
	Bractum  Side   `json:"bractum"`
	Notebook Side   `json:"notebook"`
}

// Side is how a studio came through the weeks.
type Side struct {
	Orders   int           `json:"orders" doc:"that were asked for beside those that were promised before"`
	InTime   int           `json:"inTime"`
	Late     []Late        `json:"late"`
	Stiff    int64         `json:"stiff" doc:"pieces that were taken up too late; they are among the broken ones"`
	Worked   studio.Minute `json:"workedMinutes" doc:"at tasks"`
	Overtime studio.Minute `json:"overtimeMinutes"`
	Present  studio.Minute `json:"presentMinutes" doc:"within the weeks"`
	Plans    int           `json:"plans" doc:"how often what is to be done was worked out anew"`
	Used
}

// Late is an order that left after it was to leave, or has not left.
type Late struct {
	Order   studio.ID     `json:"order"`
	Minutes studio.Minute `json:"minutes"`
	Never   bool          `json:"never,omitempty"`
}

// Run plays some weeks of a valid document both ways. The same document and options give the same. It takes about as
// long as planning does, once for every task.
func Run(doc *studio.Document, o Options) (Report, error) {
	report := Report{Seed: o.Seed}
	c, err := newCourse(doc, o)
	if err != nil {
		return report, err
	}
	if report.Notebook, err = played(o.Notebook.spare(doc), c, newNotebook(o.Notebook, doc)); err != nil {
		return report, err
	}
	report.Bractum, err = played(doc, c, &byPlan{})
	return report, err
}

func played(doc *studio.Document, c *course, leads lead) (Side, error) {
	p, err := newPlayer(doc, c, leads)
	if err != nil {
		return Side{}, err
	}
	return p.play()
}

// Summary are several reports, with both sides added up.
type Summary struct {
	Reports  []Report `json:"reports"`
	Bractum  Total    `json:"bractum"`
	Notebook Total    `json:"notebook"`
}

// Total is how a studio came through several courses of things.
type Total struct {
	Orders   int               `json:"orders"`
	InTime   int               `json:"inTime"`
	Late     int               `json:"late"`
	Never    int               `json:"never" doc:"of the late ones, those that had not left three weeks after"`
	Pieces   int64             `json:"pieces"`
	Broken   int64             `json:"broken"`
	Stiff    int64             `json:"stiff"`
	Left     int64             `json:"left"`
	Paste    studio.Milligrams `json:"pasteMilligrams"`
	Wires    int64             `json:"wires"`
	Worked   studio.Minute     `json:"workedMinutes"`
	Overtime studio.Minute     `json:"overtimeMinutes"`
}

// Sum adds up reports.
func Sum(reports []Report) Summary {
	s := Summary{Reports: reports}
	for _, r := range reports {
		s.Bractum.add(r.Bractum)
		s.Notebook.add(r.Notebook)
	}
	return s
}

func (t *Total) add(s Side) {
	t.Orders, t.InTime, t.Late = t.Orders+s.InTime+len(s.Late), t.InTime+s.InTime, t.Late+len(s.Late)
	for _, l := range s.Late {
		if l.Never {
			t.Never++
		}
	}
	t.Pieces, t.Broken, t.Stiff, t.Left = t.Pieces+s.Pieces, t.Broken+s.Broken, t.Stiff+s.Stiff, t.Left+s.Left
	t.Paste, t.Wires = t.Paste+s.Paste, t.Wires+s.Wires
	t.Worked, t.Overtime = t.Worked+s.Worked, t.Overtime+s.Overtime
}
