package api

import (
	"cmp"
	"slices"

	"bractum/core/flower"
	"bractum/core/plan"
	"bractum/core/studio"
)

// TaskCard is a planned task with all that a person wants to read of it.
type TaskCard struct {
	studio.Task
	Kind     string          `json:"kind" enum:"work,wait"`
	Name     string          `json:"name"`
	Glyph    string          `json:"glyph"`
	Recipe   studio.ID       `json:"recipe"`
	Of       string          `json:"of" doc:"the name of what is made"`
	Form     string          `json:"form"`
	Making   studio.Kind     `json:"making"`
	Colour   string          `json:"colour" doc:"swatch of the mix"`
	Mix      string          `json:"mix"`
	Quantity int64           `json:"quantity" doc:"pieces, units before a split, or milligrams of a mix, that come to this step and are not counted yet"`
	Counted  int64           `json:"counted"`
	Need     int64           `json:"need" doc:"what the lot must yield"`
	Tool     string          `json:"tool,omitempty"`
	Look     string          `json:"look,omitempty"`
	Cautions []string        `json:"cautions"`
	Met      []AllergyMet    `json:"met,omitempty" doc:"what it takes up that allergies of its orders name"`
	Orders   []studio.ID     `json:"orders"`
	Drying   *studio.Wait    `json:"drying,omitempty"`
	Working  *studio.Working `json:"working,omitempty" doc:"how its length was worked out"`
	Due      studio.Minute   `json:"due"`
	Latest   studio.Minute   `json:"latestStart"`
	May      []studio.ID     `json:"may" doc:"who may do it, were it not pinned"`
	Pin      *studio.Pin     `json:"pin,omitempty"`
	Batch    *BatchView      `json:"batch,omitempty" doc:"of lots that are made for each other"`
	Run      *Run            `json:"run,omitempty" doc:"which comes now, of work in runs"`
	Share    *Share          `json:"share,omitempty" doc:"of work that not all pieces get"`
}

// BatchView is which batch of how many a lot belongs to, and what that makes.
type BatchView struct {
	studio.InBatch
	Name string `json:"name"`
}

func (a *answer) batch(lot studio.ID) *BatchView {
	batch, is := a.Batches()[lot]
	if !is {
		return nil
	}
	v := BatchView{InBatch: batch}
	if root := a.Lots[batch.Root]; root != nil {
		v.Name = a.Book.Of(root.Made()).Name
	}
	return &v
}

// Share is how many of the pieces that come to a step get it, and of which form those are.
type Share struct {
	Pieces int64  `json:"pieces"`
	Form   string `json:"form,omitempty"`
}

// Run is one of those that a task is done in: so many, each through all its steps.
type Run struct {
	Number int `json:"number"`
	Of     int `json:"of"`
}

func (a *answer) card(t studio.Task) TaskCard {
	l := *a.Lots[t.Lot]
	r := a.Book.Of(l.Made())
	step, first, past, _ := r.TaskOf(t.Step)
	lot := a.Doc.Begun(l)
	activity := a.Activity(t.ID)
	c := TaskCard{
		Task:   t,
		Kind:   "wait",
		Name:   step.Name,
		Glyph:  "wait",
		Recipe: r.ID,
		Of:     r.Name,
		Form:   r.Form,
		Making: r.Kind,
		Need:   l.Need,
		Quantity: lot.Left(
			r,
			t.Step,
		),
		Look:     step.Look,
		Cautions: append([]string{}, step.Cautions...),
		May:      []studio.ID{},
		Pin:      a.Doc.Pinned(t.ID),
		Orders: append([]studio.ID{},
			a.OrdersOf(t.Lot)...),
		Drying: step.Wait,
		Latest: a.AtWork(l.LatestStart),
		Due:    l.Due,
	}
	c.Met = a.metAt(l, r.Steps[first:past], c.Orders)
	c.Colour, c.Mix = a.swatch(l.Made(), l.Mixes)
	c.Working = plan.Working(a.Doc, a.Air(), activity, step, t)
	if step.Work != nil {
		c.Kind, c.Glyph, c.Tool = "work", step.Work.Glyph, step.Work.Tool
	}
	for i := range a.Doc.People {
		if p := &a.Doc.People[i]; step.Work != nil && activity != nil && activity.May(p, &studio.Pin{Person: p.ID}) {
			c.May = append(c.May, p.ID)
		}
	}
	if record := lot.Record(t.Step); record != nil {
		c.Counted = record.Counted()
	}
	c.Batch = a.batch(l.ID)
	if _, mends := studio.MendedStep(t.Step); step.Work != nil && !mends {
		if pieces := r.Shared(step.Work, c.Quantity); pieces < c.Quantity && past-first == 1 {
			c.Share = &Share{Pieces: pieces, Form: step.Work.Form}
		}
		c.Run = runNow(activity, past-first, c.Counted)
		for _, s := range r.Steps[first+1 : past] {
			c.Look = cmp.Or(s.Look, c.Look)
			c.Cautions = append(c.Cautions, s.Cautions...)
		}
		if past-first > 1 {
			slices.Sort(c.Cautions)
			c.Cautions = slices.Compact(c.Cautions)
		}
	}
	return c
}

// runNow is the run of a task that comes next; nil of one that is a single step, or is done.
func runNow(a *studio.Activity, steps int, counted int64) *Run {
	if a == nil || steps < 2 || len(a.Work) == 0 {
		return nil
	}
	left := a.InRuns()
	of := int(studio.CeilDiv((counted+a.Pieces)*int64(len(left)), max(1, a.Pieces)))
	return &Run{Number: of - len(left) + 1, Of: of}
}

// swatch is the colour to draw a lot in, and the name of that mix.
func (a *answer) swatch(made studio.Made, mixes map[string]studio.ID) (colour, name string) {
	return flower.Swatch(a.Book, a.Book.Of(made), mixes)
}

func (a *answer) material(id studio.ID) string {
	if i := slices.IndexFunc(a.Doc.Materials, func(m studio.Material) bool { return m.ID == id }); i >= 0 {
		return a.Doc.Materials[i].Name
	}
	return string(id)
}
