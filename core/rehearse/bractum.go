package rehearse

import (
	"maps"
	"slices"

	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/drying"
	"bractum/core/plan"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/core/wire"
)

// byPlan is a studio that Bractum plans: counted and repaired at least every half hour in which anything happens, and
// at once where something is lost; searched for something better where orders have become later by it, but less often
// than the application does; an order accepted with the plan that it makes, short materials ordered each morning, and
// everybody at what their bench says when it says so.
type byPlan struct {
	counter  count.Counter
	searched studio.Minute // when something better was looked for last
	owed     bool          // orders have become later since
	planned  studio.Minute // when it was planned last
	orders   int           // that were known then
}

func (l *byPlan) plans(p *player, before *studio.Plan) (*studio.Plan, error) {
	counted, err := l.counter.Up(p.doc)
	if err != nil {
		return nil, err
	}
	asked := len(p.doc.Orders) > l.orders
	l.planned = p.doc.Now
	var made *studio.Plan
	switch l.orders = len(p.doc.Orders); {
	case before == nil:
		made, err = plan.Make(p.doc, counted, plan.Options{Steps: plan.UsualSteps(p.doc, counted)})
	case asked:
		made, err = plan.Propose(p.doc, counted, before, nil)
	default: // without any search: that is what there is no time for between two tasks
		made, err = plan.Make(p.doc, counted, plan.Options{From: before, FixedLots: true})
	}
	if err != nil {
		return nil, err
	}
	l.owed = l.owed || before != nil && (made.Objective.Lateness > before.Objective.Lateness || plan.Fell(before, made))
	if l.owed && (asked || p.doc.Now >= l.searched+searchesEach) {
		l.searched, l.owed = p.doc.Now, false
		better, err := plan.Improve(p.doc, counted, before, nil)
		if err != nil {
			return nil, err
		}
		if plan.Mends(before, made, better) {
			made = better
		}
	}
	if counted, err = count.As(p.doc, counted, made.Divided); err != nil {
		return nil, err
	}
	if asked {
		p.doc.Divided = slices.Clone(p.doc.Divided)
		beyond := count.Beyond(p.doc, made.Divided)
		for _, group := range slices.Sorted(maps.Keys(beyond)) {
			p.doc.Divided = append(
				slices.DeleteFunc(p.doc.Divided, func(d studio.Division) bool { return d.Group == group }),
				beyond[group],
			)
		}
		p.move(studio.WorkLot{}, count.Reservations(p.doc, counted))
	}
	return made, nil
}

func (l *byPlan) next(p *player, who *studio.Person) studio.ID {
	var open []*studio.Task
	for i := range p.made.Tasks {
		if t := &p.made.Tasks[i]; t.Person == who.ID && t.State == studio.TaskPlanned && !p.begun[t.ID] &&
			t.Begin() <= p.doc.Now &&
			p.blocked[t.ID] <= p.doc.Now {
			open = append(open, t)
		}
	}
	if next := bench.Next(open); len(next) > 0 {
		return next[0].ID
	}
	return ""
}

func (l *byPlan) wakes(p *player) studio.Minute {
	next := drying.Never
	for i := range p.made.Tasks {
		if t := &p.made.Tasks[i]; t.State == studio.TaskPlanned && t.Begin() > p.doc.Now {
			next = min(next, t.Begin())
		}
	}
	return next
}

func (l *byPlan) loads(p *player) error {
	if p.doc.Now >= l.planned+looksEach {
		p.stale = true
		if err := p.fresh(); err != nil {
			return err
		}
	}
	hours := make([]studio.Hours, len(p.doc.People))
	for i := range p.doc.People {
		hours[i] = p.hours[p.doc.People[i].ID]
	}
	for _, load := range bench.Loads(p.doc, p.made, hours) {
		if load.At > p.doc.Now {
			break
		}
		lots, err := bench.New(p.doc, p.made).SetOff(load.Tasks, load.Person, load.Begins)
		if err != nil {
			continue
		}
		for _, lot := range lots {
			p.happened(lot, nil)
		}
		for _, t := range load.Tasks {
			if !load.Begins {
				p.ends[t] = p.doc.Now
			}
		}
		p.stale = true
	}
	return nil
}

// searchesEach is after how long something better is looked for again where orders have become later.
const searchesEach = 8 * 60

// looksEach is after how long what was done is planned with at the latest; what was lost is at once.
const looksEach = 2 * tick

func (l *byPlan) looks(lost bool) bool { return lost }

func (l *byPlan) touched(p *player, task studio.ID) error {
	lot, moved, err := bench.New(p.doc, p.made).Touch(task, p.doc.People[0].ID,
		bench.Touched{Found: studio.FoundSoft, Surely: true})
	if err == nil {
		p.happened(lot, moved)
		p.stale = true
	}
	return nil // what lies nowhere cannot be touched, and is tried again
}

func (l *byPlan) morning(p *player) error {
	takes := stores.Takes(p.doc, p.made, wire.Sheets(p.doc, p.made.Lots))
	lists, err := stores.Shopping(p.doc, stores.Balances(p.doc, takes))
	if err != nil {
		return err
	}
	for _, list := range lists {
		if list.Supplier == nil {
			continue
		}
		packs := map[studio.ID]int64{}
		for _, b := range list.Buys {
			packs[b.Material] = b.Packs
		}
		if err := p.buys(list.Supplier.ID, packs); err != nil {
			return err
		}
	}
	return nil
}

func (l *byPlan) short(p *player, materials map[studio.ID]int64) error {
	return p.buyAll(p.notComing(materials))
}

// stays: overtime is used where it is planned.
func (l *byPlan) stays(p *player, who *studio.Person) bool {
	return slices.ContainsFunc(p.made.Tasks, func(t studio.Task) bool {
		return t.Overtime && t.Person == who.ID && t.State != studio.TaskDone && t.Begin() <= p.doc.Now+tick &&
			t.End > p.doc.Now
	})
}
