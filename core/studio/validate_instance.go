package studio

import (
	"fmt"
	"slices"
)

// direct checks an instance that is stated outright.
func (v *validator) direct() {
	d := v.doc
	if len(d.Recipes)+len(d.Orders)+len(d.Shelf)+len(d.Work)+len(d.Colourways) > 0 {
		v.say(
			"direct",
			"states lots and tasks outright; recipes, colourways, orders, shelf and work do not go with it",
		)
	}
	lots, tasks := map[ID]bool{}, map[ID]*Activity{}
	for i, l := range d.Direct.Lots {
		place := fmt.Sprintf("direct.lots[%d] %q", i, l.ID)
		register(v, place, lots, l.ID, true)
		if l.ID == "" || len(l.Tasks) == 0 {
			v.say(place, "has no id or no tasks")
		}
		for j := range l.Tasks {
			at := fmt.Sprintf("%s.tasks[%d] %q", place, j, l.Tasks[j].ID)
			if l.Tasks[j].ID == "" {
				v.say(at+".id", "is empty; give every task an id of its own")
			}
			register(v, at, tasks, l.Tasks[j].ID, &d.Direct.Lots[i].Tasks[j])
		}
	}
	for i, l := range d.Direct.Lots {
		for j := range l.Tasks {
			v.activity(fmt.Sprintf("direct.lots[%d] %q.tasks[%d] %q", i, l.ID, j, l.Tasks[j].ID), l, j, tasks)
		}
	}
	for i, k := range d.Direct.Links {
		place := fmt.Sprintf("direct.links[%d]", i)
		if tasks[k.From] == nil || tasks[k.To] == nil || k.From == k.To {
			v.say(place, "from %q to %q: two tasks of this document would be right", k.From, k.To)
			continue
		}
		if k.Least != nil {
			v.length(place+".least", *k.Least)
		}
		if k.Each && (k.Most == nil || tasks[k.From].Wait != nil) {
			v.say(place+".each", "is of a window that ends, from work; give it a most, or leave it out")
		}
		if k.Most != nil {
			v.length(place+".most", *k.Most)
			if k.Least != nil && k.Least.Dries == nil && k.Most.Dries == nil && k.Most.Minutes < k.Least.Minutes {
				v.say(place, "window ends (%d min) before it starts (%d min)", k.Most.Minutes, k.Least.Minutes)
			}
		}
	}
	orders := map[ID]bool{}
	for i, o := range d.Direct.Orders {
		place := fmt.Sprintf("direct.orders[%d] %q", i, o.ID)
		register(v, place, orders, o.ID, true)
		within(v, place+".importance", o.Importance, 1, 100)
		for _, l := range o.Lots {
			if !lots[l] {
				v.say(place+".lots", "no lot %q", l)
			}
		}
	}
	for i, p := range d.Pins {
		if a := tasks[p.Task]; a == nil || a.Wait != nil || p.Person != "" && v.people[p.Person] == nil {
			v.say(
				fmt.Sprintf("pins[%d]", i),
				"task %q, person %q: a work task and a person of this document would be right",
				p.Task,
				p.Person,
			)
		}
	}
	if len(v.problems) == 0 {
		v.circles(tasks)
	}
}

// activity checks one task of a lot.
func (v *validator) activity(place string, l Routing, index int, tasks map[ID]*Activity) {
	a := &l.Tasks[index]
	if (a.Wait == nil) == (len(a.Work) == 0 && !a.Done()) {
		v.say(place, "is work or a wait, one of the two")
		return
	}
	run := 0
	for i, e := range a.Work {
		at := fmt.Sprintf("%s.work[%d]", place, i)
		if e.Skill == "" {
			v.say(at+".skill", "is empty")
		}
		within(v, at+".minutes", e.Minutes, 0, 60*1440)
		if e.Run != run && e.Run != run+1 {
			v.say(at+".run", "is %d after %d; runs are counted from 0 in order", e.Run, run)
		}
		run = e.Run
	}
	for i, w := range a.Within {
		at := fmt.Sprintf("%s.within[%d]", place, i)
		for _, efforts := range a.InRuns() {
			if w.From < 0 || w.To <= w.From || w.To >= len(efforts) {
				v.say(at, "is from effort %d to %d of runs that have %d; an earlier and a later one would be right",
					w.From, w.To, len(efforts))
				break
			}
		}
		if a.MayPause {
			v.say(at, "limits waiting inside runs of a task that may pause anywhere; it may not")
		}
		v.length(at+".most", w.Most)
	}
	if a.Wait != nil {
		v.stay(place+".wait", l, index)
	}
	if a.Wait != nil && (len(a.Work) > 0 || len(a.Tools) > 0 || a.Setup != nil || a.MayPause) {
		v.say(place, "is a wait; work, tools, setup and pauses belong to work")
	}
	for i, t := range a.Tools {
		within(v, fmt.Sprintf("%s.tools[%d].number", place, i), t.Number, 1, 1000)
		if len(t.AnyOf) == 0 || slices.ContainsFunc(t.AnyOf, func(id ID) bool { return !v.tools[id] }) {
			v.say(fmt.Sprintf("%s.tools[%d].anyOf", place, i), "names no tool, or one that is not there: %q", t.AnyOf)
		}
	}
	for i, h := range a.Holds {
		at := fmt.Sprintf("%s.holds[%d]", place, i)
		if v.places[h.Place] == nil {
			v.say(at+".place", "no place %q", h.Place)
		}
		within(v, at+".slots", h.Slots, 0, 1_000_000)
		if len(h.Until) == 0 || slices.ContainsFunc(h.Until, func(id ID) bool { return tasks[id] == nil }) {
			v.say(at+".until", "names no task, or one that is not there: %q", h.Until)
		}
	}
	for _, g := range a.Gates {
		if !v.gates[g] {
			v.say(place+".gates", "no gate %q", g)
		}
	}
	if a.Setup != nil && (!v.families[a.Setup.Family] || a.Setup.Mix == "") {
		v.say(
			place+".setup",
			"is of family %q and mix %q; a setup family of this document and a mix would be right",
			a.Setup.Family,
			a.Setup.Mix,
		)
	}
	if a.Fact != nil {
		v.fact(place+".fact", l, index)
	}
}

func (v *validator) fact(place string, l Routing, index int) {
	a := &l.Tasks[index]
	f := a.Fact
	if a.Wait == nil && v.people[f.Person] == nil {
		v.say(place+".person", "no person %q", f.Person)
	}
	load := a.Wait != nil && a.Wait.Load != nil && f.State != TaskPaused
	if f.State != TaskStarted && f.State != TaskPaused && f.State != TaskDone ||
		a.Wait != nil && f.State != TaskDone && !load {
		v.say(
			place+".state",
			"is %q; started, paused or done would be right, of a wait done, of one in a machine started or done",
			f.State,
		)
	}
	if load && !slices.Contains(a.Wait.Load.AnyOf, f.Machine) {
		v.say(place+".machine", "is %q; one of %q would be right", f.Machine, a.Wait.Load.AnyOf)
	}
	if f.Start > v.doc.Now || f.End > v.doc.Now || f.State == TaskDone && f.End < f.Start {
		v.say(place, "happened from %d to %d, now is %d", f.Start, f.End, v.doc.Now)
	}
	for i := range l.Tasks[:index] {
		before := &l.Tasks[i]
		if !before.Done() && (before.Wait == nil || before.Wait.Load != nil) {
			v.say(place, "happened before %q was done", before.ID)
		} else if before.Done() && before.Fact.End > f.Start {
			v.say(place, "began at %d, before %q ended at %d", f.Start, before.ID, before.Fact.End)
		}
	}
}

func (v *validator) stay(place string, l Routing, index int) {
	w := l.Tasks[index].Wait
	if index == 0 {
		v.say(place, "is the first task of its lot; a lot begins with work")
	}
	v.length(place+".least", w.Least)
	if w.Continues != "" {
		i := slices.IndexFunc(l.Tasks[:index], func(a Activity) bool { return a.ID == w.Continues })
		if i < 0 || l.Tasks[i].Wait == nil || l.Tasks[i].Wait.Least.Dries == nil || w.Least.Dries == nil {
			v.say(place+".continues", "%q is not a wait for drying before this one in its lot", w.Continues)
		}
	}
	if w.Wished != nil {
		v.length(place+".wished", *w.Wished)
		if w.Wished.Dries == nil && w.Least.Dries == nil && w.Wished.Minutes < w.Least.Minutes {
			v.say(place+".wished.minutes", "is %d, less than the least, %d", w.Wished.Minutes, w.Least.Minutes)
		}
	}
	if w.Load == nil {
		return
	}
	if w.Wished != nil || w.Least.Dries != nil || w.Continues != "" {
		v.say(place, "is a load of a machine: it takes its minutes, whatever the air")
	}
	if index > 0 && l.Tasks[index-1].Wait != nil {
		v.say(place, "follows a wait; loading a machine is work")
	}
	within(v, place+".load.slots", w.Load.Slots, 0, 1_000_000)
	if len(w.Load.AnyOf) == 0 || slices.ContainsFunc(w.Load.AnyOf, func(id ID) bool { return v.machines[id] == nil }) {
		v.say(place+".load.anyOf", "names no machine, or one that is not there: %q", w.Load.AnyOf)
	}
}

func (v *validator) length(place string, l Length) {
	within(v, place+".minutes", l.Minutes, 0, 400*1440)
	if l.Dries == nil {
		return
	}
	if l.Minutes != 0 {
		v.say(place, "is minutes or dries, one of the two")
	}
	v.state(place+".dries.state", l.Dries.State)
	v.drying(place+".dries", Drying{Class: l.Dries.Class, Thickness: l.Dries.Thickness})
	v.surroundings(place+".dries.in", l.Dries.In)
}

// circles names a task that would have to come before itself.
func (v *validator) circles(tasks map[ID]*Activity) {
	after := map[ID][]ID{}
	for _, l := range v.doc.Direct.Lots {
		for j := 1; j < len(l.Tasks); j++ {
			after[l.Tasks[j-1].ID] = append(after[l.Tasks[j-1].ID], l.Tasks[j].ID)
		}
	}
	for _, k := range v.doc.Direct.Links {
		after[k.From] = append(after[k.From], k.To)
	}
	const open, closed = 1, 2
	state := map[ID]int{}
	var visit func(id ID) bool
	visit = func(id ID) bool {
		switch state[id] {
		case open:
			v.say("direct.links", "task %q would have to come before itself", id)
			return true
		case closed:
			return false
		}
		state[id] = open
		if slices.ContainsFunc(after[id], visit) {
			return true
		}
		state[id] = closed
		return false
	}
	for _, l := range v.doc.Direct.Lots {
		for _, a := range l.Tasks {
			if visit(a.ID) {
				return
			}
		}
	}
}
