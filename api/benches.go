package api

import (
	"context"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/bench"
	"bractum/core/card"
	"bractum/core/learn"
	"bractum/core/studio"
	"bractum/store"
)

// RemarkedView is what was found not as it should be, with names.
type RemarkedView struct {
	store.Remarked
	Of    string `json:"of"`
	Doing string `json:"doing" doc:"the step"`
	Who   string `json:"who"`
}

// remarked are the latest remarks with names.
func (s *Service) remarked(ctx context.Context, at *moment) ([]RemarkedView, error) {
	remarks, err := s.store.Remarks(ctx)
	views := make([]RemarkedView, len(remarks))
	for i, r := range remarks {
		views[i] = RemarkedView{Remarked: r, Doing: r.Step, Who: at.inForce.person(r.Person)}
		if made := at.inForce.Book.Of(r.Made); made != nil {
			views[i].Of = made.Name
			if step, _, _, known := made.TaskOf(r.Step); known {
				views[i].Doing = step.Name
			}
		}
	}
	return views, err
}

// FirstTime is that a recipe is new to somebody.
type FirstTime struct {
	Made int64    `json:"made" doc:"lots of it that they have worked on before"`
	Of   int64    `json:"of" doc:"after so many it is not new any more"`
	All  []Making `json:"all" doc:"the whole making, step by step"`
}

// Making is one step of a whole making, as who is new to it reads it first.
type Making struct {
	Name     string           `json:"name"`
	Glyph    string           `json:"glyph"`
	Wait     bool             `json:"wait,omitempty"`
	Look     string           `json:"look,omitempty"`
	Mistakes []studio.Mistake `json:"mistakes,omitempty"`
	Here     bool             `json:"here,omitempty" doc:"it belongs to the task at hand"`
	Picture  studio.ID        `json:"picture,omitempty"`
}

// firstTime is what somebody new to a recipe reads; nil for who knows it.
func (s *Service) firstTime(ctx context.Context, at *moment, person studio.ID, c *TaskCard) (*FirstTime, error) {
	a := at.inForce
	r := a.Book.Of(a.Lots[c.Lot].Made())
	made, err := s.store.LotsDoneBy(ctx, person, r.Recipe)
	if err != nil || made >= learn.FirstLots || r.Kind == studio.KindMix {
		return nil, err
	}
	first := &FirstTime{Made: made, Of: learn.FirstLots, All: []Making{}}
	_, from, past, _ := r.TaskOf(c.Step)
	for i, step := range r.Steps {
		one := Making{Name: step.Name, Glyph: "wait", Wait: step.Wait != nil, Look: step.Look,
			Mistakes: step.Mistakes, Here: i >= from && i < past}
		if step.Work != nil {
			one.Glyph = step.Work.Glyph
		}
		for _, p := range r.Pictures {
			if p.Step == step.Key {
				one.Picture = p.ID
			}
		}
		first.All = append(first.All, one)
	}
	return first, nil
}

// MakingView is a recipe's whole making in bench cards.
type MakingView struct {
	Name     string      `json:"name"`
	Form     string      `json:"form"`
	Colour   string      `json:"colour"`
	Quantity int64       `json:"quantity"`
	Cards    []card.Card `json:"cards"`
}

// RestView is a short wait that rings at a bench.
type RestView struct {
	bench.Rest
	Of       string `json:"of"`
	Name     string `json:"name" doc:"of the wait"`
	ThenName string `json:"thenName" doc:"what takes up the pieces"`
}

// DayView is a maker's day.
type DayView struct {
	N        int64         `json:"n"`
	Now      studio.Minute `json:"now"`
	Name     string        `json:"name"`
	Until    studio.Minute `json:"until" doc:"the end of the day"`
	Sittings []SittingView `json:"sittings"`
	Dry      []DryView     `json:"dry" doc:"what becomes dry in the day and is taken up by them"`
}

// SittingView is work of one kind in a row.
type SittingView struct {
	Glyph string        `json:"glyph"`
	From  studio.Minute `json:"from"`
	To    studio.Minute `json:"to"`
	Tasks []DayTask     `json:"tasks"`
}

// DayTask is a task of a day, with who else waits for it.
type DayTask struct {
	TaskCard
	Awaited []string `json:"awaited" doc:"who takes up what it makes, within the day"`
}

// DryView is a wait that is over within the day, and the work that follows.
type DryView struct {
	Of   string        `json:"of"`
	Name string        `json:"name"`
	Ends studio.Minute `json:"ends"`
	Then string        `json:"then"`
}

// BenchState is what the lead sees of a bench.
type BenchState struct {
	Person   studio.ID      `json:"person"`
	Name     string         `json:"name"`
	There    bool           `json:"there" doc:"they are at work now"`
	From     *studio.Minute `json:"from,omitempty" doc:"when they come, if they are not there"`
	Task     *TaskCard      `json:"task,omitempty" doc:"what they are at, or have next"`
	Expected studio.Minute  `json:"expectedMinutes,omitempty" doc:"how long it takes them by the book, from its start"`
	Over     studio.Minute  `json:"overMinutes,omitempty" doc:"by how much it takes longer than that"`
	Late     studio.Minute  `json:"lateMinutes,omitempty" doc:"by how much it should have been begun"`
	Asks     string         `json:"asks,omitempty"`
	Tasks    int            `json:"tasks" doc:"left today"`
}

func (s *Service) registerBenches(to huma.API) {
	kept(s, to, get("/benches", "list-benches", "Who does what now"),
		shows{topics: []string{"work", "wishes"}, planned: true, now: true},
		func(_ context.Context, at *moment, _ *none) ([]BenchState, error) { return at.benches(), nil })
	type days struct {
		Person string `path:"person"`
		Days   int64  `query:"days" minimum:"1" maximum:"14" default:"1" doc:"from today on"`
	}
	kept(s, to, get("/bench/{person}/day", "get-day", "A maker's day, or the coming days, in sittings"),
		shows{topics: []string{"work", "wishes"}, planned: true, now: true},
		func(_ context.Context, at *moment, in *days) (DayView, error) {
			if err := at.refuseStranger(in.Person); err != nil {
				return DayView{}, err
			}
			return at.day(studio.ID(in.Person), studio.Minute(in.Days)), nil
		})
	kept(s, to, get("/log/remarks", "list-remarks", "What was found not as it should be, the latest first"),
		shows{topics: []string{"work", "book"}},
		func(ctx context.Context, at *moment, _ *none) ([]RemarkedView, error) { return s.remarked(ctx, at) })
	type making struct {
		Page     string `path:"page"`
		Quantity int64  `query:"quantity" minimum:"1" maximum:"5000" default:"1"`
		Variant  string `query:"variant"`
	}
	kept(s, to, get("/book/pages/{page}/cards", "get-making", "The bench cards of a recipe's making, to print"),
		shows{topics: []string{"book", "standards"}},
		func(_ context.Context, at *moment, in *making) (MakingView, error) {
			for _, r := range at.inForce.Doc.Current() {
				made := studio.Made{Recipe: r.ID, Variant: in.Variant}
				of := at.inForce.Book.Of(made)
				if string(r.Page()) != in.Page || of == nil {
					continue
				}
				mixes, _ := at.inForce.Book.Resolve(made, nil)
				v := MakingView{Name: of.Name, Form: of.Form, Quantity: in.Quantity,
					Cards: card.Making(at.inForce.Doc, at.inForce.Book, made, mixes, in.Quantity)}
				v.Colour, _ = at.inForce.swatch(made, mixes)
				return v, nil
			}
			return MakingView{}, store.NotFound{Thing: "the recipe"}
		})
	type one struct {
		Task string `path:"task"`
	}
	kept(s, to, get("/tasks/{task}/card", "get-card", "The whole bench card of a task, to look at or to print"),
		shows{topics: []string{"work", "wishes"}, planned: true, now: true},
		func(_ context.Context, at *moment, in *one) (Ahead, error) {
			t := at.inForce.Tasks[studio.ID(in.Task)]
			if t == nil || t.Person == "" {
				return Ahead{}, store.NotFound{Thing: "the task"}
			}
			return at.inForce.whole(t), nil
		})
	type counted struct {
		Who
		Late
		Task string `path:"task"`
		Body bench.Counts
	}
	fact(s, to, post("/tasks/{task}/count", "count-task", "pieces counted",
		"Count pieces of a task that goes on: a run that is done"),
		func(c *change, in *counted) (Recorded, error) {
			return c.record(in.Task, in.Who, in.Late, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
				lot, err := b.Count(studio.ID(in.Task), in.Body)
				return lot, nil, err
			})
		})
	type ask struct {
		Who
		Late
		Task string `path:"task"`
		Body struct {
			Says string `json:"says" maxLength:"1000" doc:"what help is asked for; empty where none is needed any more"`
		}
	}
	fact(s, to, post("/tasks/{task}/ask", "ask-for-help", "help asked for", "Ask for help at a task, or no more"),
		func(c *change, in *ask) (Recorded, error) {
			return c.record(in.Task, in.Who, in.Late, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
				lot, err := b.Ask(studio.ID(in.Task), in.Body.Says)
				return lot, nil, err
			}, "asks for help: ", in.Body.Says)
		})
	type remark struct {
		Who
		Late
		Task string `path:"task"`
		Body struct {
			Says    string    `json:"says" maxLength:"2000"`
			Picture studio.ID `json:"picture,omitempty" doc:"a picture that is kept already"`
		}
	}
	fact(s, to, post("/tasks/{task}/remark", "remark-on-task", "remark", "Say what is not as it should be"),
		func(c *change, in *remark) (Recorded, error) {
			if err := c.KnowsPicture(in.Body.Picture); err != nil {
				return Recorded{}, err
			}
			return c.record(in.Task, in.Who, in.Late, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
				lot, err := b.Remark(studio.ID(in.Task), studio.Remark{At: b.Now(),
					Person: studio.ID(in.Person), Says: in.Body.Says, Picture: in.Body.Picture})
				return lot, nil, err
			}, "not like this: ", in.Body.Says)
		})
	type give struct {
		Who
		Task string `path:"task"`
		Body struct {
			To studio.ID `json:"to" doc:"who takes it up"`
		}
	}
	fact(s, to, post("/tasks/{task}/give", "give-task", "task handed on", "Have somebody else do a task"),
		func(c *change, in *give) (Recorded, error) { return c.give(studio.ID(in.Task), in.Body.To) })
}

// give pins a task to somebody else; who is at it leaves it as it is.
func (c *change) give(task, to studio.ID) (Recorded, error) {
	a := c.at.inForce
	if !slices.ContainsFunc(a.Doc.People, func(p studio.Person) bool { return p.ID == to }) {
		return Recorded{}, studio.Refuse("nobody with this id works here; choose who takes it up")
	}
	planned := a.Tasks[task]
	may := planned != nil && slices.Contains(a.card(*planned).May, to)
	lot, begun, err := c.bench().GiveTo(task, to, may)
	if err != nil {
		return Recorded{}, err
	}
	answer := Recorded{N: c.N(), Task: task, Of: a.Book.Of(lot.Made()).Name}
	c.Summary = fmt.Sprintf("%s: handed on to %s", answer.Of, a.person(to))
	if begun {
		if err := c.PutLot(lot); err != nil {
			return answer, err
		}
	}
	return answer, c.Pin(task, &studio.Pin{Task: task, Person: to}, true)
}

// benches are all makers with what they are at.
func (at *moment) benches() []BenchState {
	a := at.inForce
	all := make([]BenchState, 0, len(a.Doc.People))
	b := bench.New(a.Doc, a.Plan)
	until := at.midnight()
	for i := range a.Doc.People {
		p := &a.Doc.People[i]
		if p.OutOfUse {
			continue
		}
		one := BenchState{Person: p.ID, Name: p.Name}
		hours := studio.HoursOf(*p, at.Calendar, max(0, at.Now-1440), at.Now+14*1440)
		if next, ok := hours.Next(at.Now); ok {
			if one.There = next == at.Now; !one.There {
				one.From = &next
			}
		}
		mine := bench.Next(a.Open(p.ID))
		for _, t := range mine {
			if t.Begin() < until || t.State == studio.TaskStarted {
				one.Tasks++
			}
		}
		if len(mine) > 0 {
			card := a.card(*mine[0])
			one.Task = &card
			if card.State == studio.TaskStarted {
				one.Expected = b.Expected(card.ID)
				one.Over = max(0, at.Now-card.Start-one.Expected)
				if lot := a.Doc.Begun(*a.Lots[card.Lot]); lot.Record(card.Step) != nil {
					one.Asks = lot.Record(card.Step).Asks
				}
			} else if one.There {
				one.Late = max(0, at.Now-card.Begin())
			}
		}
		all = append(all, one)
	}
	return all
}

// midnight is the end of the local day.
func (at *moment) midnight() studio.Minute { return at.Calendar.At(at.Calendar.Date(at.Now).Next(), 0) }

// day is what somebody is to do from now to the end of the day, or of so many.
func (at *moment) day(person studio.ID, days studio.Minute) DayView {
	a := at.inForce
	until := at.midnight() + (max(1, days)-1)*1440
	v := DayView{
		N:        at.N,
		Now:      at.Now,
		Name:     a.person(person),
		Until:    until,
		Sittings: []SittingView{},
		Dry:      []DryView{},
	}
	taken := map[studio.ID]*studio.Task{} // by lot: the first open work of each
	for i := range a.Plan.Tasks {
		t := &a.Plan.Tasks[i]
		if t.Person != "" && t.State == studio.TaskPlanned &&
			(taken[t.Lot] == nil || t.Begin() < taken[t.Lot].Begin()) {
			taken[t.Lot] = t
		}
	}
	for _, sitting := range bench.Day(bench.Next(a.Open(person)), until, at.kindOfWork) {
		one := SittingView{From: sitting[0].Begin(), To: sitting[len(sitting)-1].End, Tasks: []DayTask{}}
		for _, t := range sitting {
			task := DayTask{TaskCard: a.card(*t), Awaited: at.awaits(t, person, until)}
			one.Glyph = task.Glyph
			one.Tasks = append(one.Tasks, task)
		}
		v.Sittings = append(v.Sittings, one)
	}
	for _, t := range a.Open("") {
		then := taken[t.Lot]
		if t.Start <= at.Now && t.End < until && then != nil && then.Person == person {
			v.Dry = append(v.Dry, DryView{Of: a.Book.Of(a.Lots[t.Lot].Made()).Name, Name: a.named(t.Lot, t.Step),
				Ends: t.End, Then: a.named(then.Lot, then.Step)})
		}
	}
	return v
}

func (at *moment) kindOfWork(t *studio.Task) string {
	return at.inForce.Book.Of(at.inForce.Lots[t.Lot].Made()).KindOfWork(t.Step)
}

// awaits are the names of those who take up what a task makes before a minute, and are not who does it.
func (at *moment) awaits(of *studio.Task, person studio.ID, until studio.Minute) []string {
	a, names, seen := at.inForce, []string{}, map[studio.ID]bool{person: true, "": true}
	add := func(t *studio.Task) {
		if t.State == studio.TaskPlanned && t.Begin() >= of.End && t.Begin() < until && !seen[t.Person] {
			seen[t.Person] = true
			names = append(names, a.person(t.Person))
		}
	}
	takes := map[studio.ID]bool{of.Lot: true}
	for _, l := range a.Plan.Links {
		if l.From == of.Lot {
			takes[l.To] = true
		}
	}
	for i := range a.Plan.Tasks {
		if t := &a.Plan.Tasks[i]; takes[t.Lot] {
			add(t)
		}
	}
	return names
}
