package api

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/bench"
	"bractum/core/card"
	"bractum/core/room"
	"bractum/core/studio"
)

// BenchView is what one maker sees: the task at hand, the next, what dries.
type BenchView struct {
	N    int64         `json:"n"`
	Now  studio.Minute `json:"now"`
	Task *TaskCard     `json:"task,omitempty" doc:"the task that is going on, or the next"`
	Next []TaskCard    `json:"next"`
	// Sitting are the tasks of the same kind that follow without a long pause.
	Sitting []TaskCard `json:"sitting"`
	// Early is what could be begun now though it is planned for later.
	Early  []TaskCard `json:"early"`
	Drying []TaskCard `json:"drying" doc:"what becomes ready soon"`
	// Stiffens is by when what the task takes up, or has done, has to be taken up.
	Stiffens *StiffenView `json:"stiffens,omitempty"`
	Eyes     []bench.Eye  `json:"eyes" doc:"of a task that is going on: what is settled or counted as it is done"`
	Loads    []LoadView   `json:"loads" doc:"machines that this maker sets off or empties soon, or should have"`
	Ahead    []Ahead      `json:"ahead" doc:"the tasks after the one at hand, whole: for a tablet without connection"`
	Card     *card.Card   `json:"card,omitempty" doc:"all that the task at hand asks for, step by step"`
	First    *FirstTime   `json:"first,omitempty" doc:"where what it makes is new to this maker"`
	Rests    []RestView   `json:"rests" doc:"short waits of this maker's own work, which ring"`
	Asks     string       `json:"asks,omitempty" doc:"what help was asked for at the task at hand"`
	Remarks  int          `json:"remarks" doc:"how many things were found not as they should be"`
}

// Ahead is a task that comes later with all that it asks for.
type Ahead struct {
	Task TaskCard  `json:"task"`
	Card card.Card `json:"card"`
}

// mostAhead is of how many tasks a bench knows all beforehand.
const mostAhead = 6

// Late is of a command that was given while there was no connection.
type Late struct {
	Ago int64 `header:"Minutes-Ago" minimum:"0" doc:"how long ago it happened, where there was no connection"`
}

// LoadView is a load of a machine with names.
type LoadView struct {
	bench.Load
	Name string   `json:"name" doc:"of the machine"`
	Of   []string `json:"of" doc:"what goes through it"`
	// what the studio says of the machine itself
	Warm     int64    `json:"tenthsCelsius,omitempty" doc:"at what it usually runs"`
	Cautions []string `json:"cautions,omitempty"`
}

// mostOfSitting is of how many tasks of a sitting a bench tells.
const mostOfSitting = 24

// loadSoon is how long before its time a load is on somebody's bench.
const loadSoon = 30

// StiffenView is by when a task has to take pieces up for none to be too stiff, and what it is called.
type StiffenView struct {
	room.Stiffening
	Name string `json:"name"`
	Own  bool   `json:"own" doc:"it is the task that is shown itself"`
}

func (s *Service) registerBench(to huma.API) {
	type who struct {
		Person string `path:"person"`
	}
	kept(s, to, get("/bench/{person}", "get-bench", "What a maker does now"),
		shows{topics: []string{"work", "wishes"}, planned: true, now: true},
		func(ctx context.Context, at *moment, in *who) (BenchView, error) {
			if err := at.refuseStranger(in.Person); err != nil {
				return BenchView{}, err
			}
			return s.bench(ctx, at, studio.ID(in.Person))
		})
	type start struct {
		Who
		Late
		Task string `path:"task"`
		Body struct {
			FoundReady bool `json:"foundReady,omitempty" doc:"the maker has touched the pieces and found them ready"`
		}
	}
	fact(s, to, post("/tasks/{task}/start", "start-task", "task started", "Start or resume a task"),
		func(c *change, in *start) (Recorded, error) {
			return c.record(in.Task, in.Who, in.Late, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
				return b.Start(studio.ID(in.Task), studio.ID(in.Person), in.Body.FoundReady)
			})
		})
	type load struct {
		Who
		Body struct {
			Tasks  []studio.ID `json:"tasks" maxItems:"200" doc:"the waits that go through the machine together"`
			Begins bool        `json:"begins" doc:"it is set off; else it is emptied"`
		}
	}
	fact(s, to, post("/loads", "set-off-load", "machine set off", "Set off a machine with its load, or empty it"),
		func(c *change, in *load) (Moved, error) {
			return c.setOff(in.Body.Tasks, studio.ID(in.Person), in.Body.Begins)
		})
	type counted struct {
		Who
		Late
		Task string `path:"task"`
		Body bench.Counts
	}
	fact(
		s,
		to,
		post("/tasks/{task}/pause", "pause-task", "task paused", "Pause a task; what is counted stays counted"),
		func(c *change, in *counted) (Recorded, error) {
			return c.record(in.Task, in.Who, in.Late, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
				lot, err := b.Pause(studio.ID(in.Task), in.Body)
				return lot, nil, err
			})
		},
	)
	fact(s, to, post("/tasks/{task}/finish", "finish-task", "task finished", "Finish a task with its counts"),
		func(c *change, in *counted) (Recorded, error) {
			return c.record(in.Task, in.Who, in.Late, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
				return b.Finish(studio.ID(in.Task), in.Body)
			})
		})
}

// setOff writes that a machine was set off, or emptied.
func (c *change) setOff(tasks []studio.ID, person studio.ID, begins bool) (Moved, error) {
	lots, err := c.bench().SetOff(tasks, person, begins)
	if err != nil {
		return Moved{}, err
	}
	for i, lot := range lots {
		c.Summary = summary(c.at.inForce.Book, lot, tasks[i])
		if err := c.PutLot(lot); err != nil {
			return Moved{}, err
		}
	}
	if len(lots) > 1 {
		c.Summary += fmt.Sprintf(", with %d more", len(lots)-1)
	}
	return Moved{c.N()}, nil
}

// Recorded is the answer to a fact: what it changes.
type Recorded struct {
	N      int64             `json:"n"`
	Task   studio.ID         `json:"task"`
	Of     string            `json:"of"`
	Broken int64             `json:"broken" doc:"of the whole lot, so far"`
	After  bench.Consequence `json:"after"`
}

// bench is the studio as a maker finds it.
func (c *change) bench() bench.Bench { return bench.New(c.at.inForce.Doc, c.at.inForce.Plan) }

// record writes a fact at a bench; what somebody says of it stands in the journal instead of how far it is.
func (c *change) record(
	task string,
	who Who,
	late Late,
	happen func(bench.Bench) (studio.WorkLot, []studio.Movement, error),
	says ...string,
) (Recorded, error) {
	b := c.bench().Earlier(studio.ID(task), studio.ID(who.Person), studio.Minute(late.Ago))
	lot, moved, err := happen(b)
	if err != nil {
		return Recorded{}, err
	}
	r := c.at.inForce.Book.Of(lot.Made())
	if c.Summary = summary(c.at.inForce.Book, lot, studio.ID(task)); len(says) > 0 {
		c.Summary = r.Name + ", " + strings.Join(says, "")
	}
	if err := c.PutLot(lot); err != nil {
		return Recorded{}, err
	}
	return Recorded{N: c.N(), Task: studio.ID(task), Of: r.Name, Broken: lot.Started - lot.Progress(r).Alive,
		After: b.After(lot)}, c.Book(lot, moved)
}

// summary says in a line of the journal what happened to a task.
func summary(book *studio.Book, lot studio.WorkLot, task studio.ID) string {
	r := book.Of(lot.Made())
	for _, step := range r.Steps {
		record := lot.Record(step.Key)
		if record == nil || studio.TaskID(lot.ID, step.Key) != task {
			continue
		}
		what := fmt.Sprintf("%s, %s: %s", step.Name, r.Name, record.State)
		if r.Kind != studio.KindMix && record.Counted() > 0 {
			what += fmt.Sprintf(", %d good, %d second, %d broken", record.Good, record.Second, record.Broken)
		}
		for _, u := range record.Used {
			if u.Broke > 0 {
				what += fmt.Sprintf(
					"; %d %s broke on the way",
					u.Broke,
					book.Of(studio.Made{Recipe: u.Recipe, Variant: u.Variant}).Name,
				)
			}
		}
		return what
	}
	return r.Name
}

// loads are the machines that somebody sets off or empties soon.
func (at *moment) loads(person studio.ID) []LoadView {
	a := at.inForce
	views := []LoadView{}
	hours := make([]studio.Hours, len(a.Doc.People))
	for i, p := range a.Doc.People {
		hours[i] = studio.HoursOf(p, at.Calendar, max(0, at.Now-1440), at.Now+7*1440)
	}
	for _, l := range bench.Loads(a.Doc, a.Plan, hours) {
		if l.Person != person || l.At > at.Now+loadSoon {
			continue
		}
		v := LoadView{Load: l, Name: a.called(l.Machine), Of: []string{}}
		for _, m := range a.Doc.Machines {
			if m.ID == l.Machine {
				v.Warm, v.Cautions = m.Warm, m.Cautions
			}
		}
		for _, task := range l.Tasks {
			if name := a.Book.Of(a.Lots[a.Tasks[task].Lot].Made()).Name; !slices.Contains(v.Of, name) {
				v.Of = append(v.Of, name)
			}
		}
		views = append(views, v)
	}
	return views
}

// mostDrying is how much of what dries a bench is told of: what is over first.
const mostDrying = 12

// whole is a task with all that it asks for.
func (a *answer) whole(t *studio.Task) Ahead {
	planned := func(id studio.ID) *studio.Task { return a.Tasks[id] }
	return Ahead{Task: a.card(*t), Card: card.Of(a.Doc, a.Book, a.Lots[t.Lot], t, planned, a.Activity(t.ID))}
}

// bench is what a maker sees, with all that the task at hand asks for.
func (s *Service) bench(ctx context.Context, at *moment, person studio.ID) (v BenchView, err error) {
	if v = at.bench(person); v.Task == nil {
		return v, nil
	}
	a := at.inForce
	whole := a.whole(a.Tasks[v.Task.ID])
	v.Card = &whole.Card
	mine := bench.Next(a.Open(person))
	for _, t := range mine[1:min(1+mostAhead, len(mine))] {
		v.Ahead = append(v.Ahead, a.whole(t))
	}
	if lot := a.Doc.Begun(*a.Lots[v.Task.Lot]); lot.Record(v.Task.Step) != nil {
		record := lot.Record(v.Task.Step)
		v.Asks, v.Remarks = record.Asks, len(record.Remarks)
	}
	v.First, err = s.firstTime(ctx, at, person, v.Task)
	return v, err
}

// bench is a maker's tasks in the order in which they come.
func (at *moment) bench(person studio.ID) BenchView {
	a := at.inForce
	mine := bench.Next(a.Open(person))
	v := BenchView{
		N:       at.N,
		Now:     at.Now,
		Next:    []TaskCard{},
		Sitting: []TaskCard{},
		Early:   []TaskCard{},
		Drying:  []TaskCard{},
		Eyes:    []bench.Eye{},
		Loads:   at.loads(person),
		Rests:   []RestView{},
		Ahead:   []Ahead{},
	}
	for _, rest := range bench.New(a.Doc, a.Plan).Rests(mine, func(id studio.ID) *studio.Task { return a.Tasks[id] }) {
		t, then := a.Tasks[rest.Task], a.Tasks[rest.Then]
		v.Rests = append(v.Rests, RestView{Rest: rest, Of: a.Book.Of(a.Lots[t.Lot].Made()).Name,
			Name: a.named(t.Lot, t.Step), ThenName: a.named(then.Lot, then.Step)})
	}
	if len(mine) > 0 {
		card := a.card(*mine[0])
		v.Task = &card
		v.Eyes = bench.New(a.Doc, a.Plan).Eyes(card.ID)
		if soon := room.Stiffens(a.seenFrom(), a.Tasks[card.ID]); soon != nil {
			to := a.Tasks[soon.Task]
			v.Stiffens = &StiffenView{Stiffening: *soon, Name: a.named(to.Lot, to.Step), Own: soon.Task == card.ID}
		}
		sitting := bench.Sitting(mine, at.kindOfWork)
		for _, t := range sitting[1:min(mostOfSitting, len(sitting))] {
			v.Sitting = append(v.Sitting, a.card(*t))
		}
		after := mine[len(sitting):]
		for _, t := range after[:min(2, len(after))] {
			v.Next = append(v.Next, a.card(*t))
		}
		early := bench.New(a.Doc, a.Plan).Early(person, mine, a.Activity, bench.Fresh(a.Instance()))
		for _, t := range early[:min(3, len(early))] {
			v.Early = append(v.Early, a.card(*t))
		}
	}
	drying := bench.UnderWay(a.Open(""), at.Now)
	for _, t := range drying[:min(mostDrying, len(drying))] {
		v.Drying = append(v.Drying, a.card(*t))
	}
	return v
}
