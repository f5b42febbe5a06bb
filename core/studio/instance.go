package studio

import "slices"

// Instance is the scheduling problem that a document comes down to: lots with
// their tasks in order, links between tasks with least and most time, and what
// orders want. Direct documents state it outright; Route works it out from
// recipes and counted lots. People, places, tools, machines, gates, setup
// families, pins and what was seen are the document's.
type Instance struct {
	Lots   []Routing `json:"lots"`
	Links  []Lag     `json:"links,omitempty"`
	Orders []Want    `json:"orders"`
}

// Routing is the tasks of one lot; each begins when the one before it has ended,
// a wait in the air at that very minute.
type Routing struct {
	ID    ID         `json:"id"`
	Tasks []Activity `json:"tasks"`
}

// Activity is what a task has to be: work of a person, or a wait.
type Activity struct {
	ID     ID     `json:"id"`
	Step   string `json:"step,omitempty"`
	Pieces int64  `json:"pieces,omitempty"`
	// Work is attended time by skill; its person has them all. It is done in runs
	// one after the other, each in one stretch; a task that may pause does so
	// anywhere. Of a task that was begun it is what is left.
	Work     []Effort `json:"work,omitempty"`
	MayPause bool     `json:"mayPause,omitempty"`
	Within   []Within `json:"within,omitempty"`
	Wait     *Stay    `json:"wait,omitempty"`

	Tools []ToolUse    `json:"tools,omitempty"`
	Holds []Occupation `json:"holds,omitempty"`
	Gates []ID         `json:"gates,omitempty"`
	Setup *ColourUse   `json:"setup,omitempty"`
	Fact  *Fact        `json:"fact,omitempty"`
}

// Effort is attended time of one skill at a pace of 100, in minutes and
// thousandths together, within a run; an effort of no time asks for the skill.
type Effort struct {
	Skill       string       `json:"skill"`
	Minutes     Minute       `json:"minutes,omitempty"`
	Thousandths Milliminutes `json:"milliminutes,omitempty"`
	Run         int          `json:"run,omitempty"`
	// Setup is what of it comes before the first piece; Pieces are those that pass in it.
	Setup  Milliminutes `json:"setupMilliminutes,omitempty"`
	Pieces int64        `json:"pieces,omitempty"`
}

// Within limits, inside each run of a task, the time from when a piece is done by one of the
// run's efforts to when another takes it up; efforts of a run are numbered from 0.
type Within struct {
	From int    `json:"from"`
	To   int    `json:"to"`
	Most Length `json:"most"`
}

// Stay is a wait of its least length or of the wished-for one; in a machine, as
// long as the load's longest least. Continues names an earlier wait in the air of
// the same lot: the piece was put down then and moved since, and what it has dried
// on the way counts.
type Stay struct {
	Least     Length      `json:"least"`
	Wished    *Length     `json:"wished,omitempty"`
	Load      *MachineUse `json:"load,omitempty"`
	Continues ID          `json:"continues,omitempty"`
}

// MachineUse is a share of a load of one of several machines at a setting.
type MachineUse struct {
	AnyOf   []ID   `json:"anyOf"`
	Setting string `json:"setting"`
	Slots   int64  `json:"slots"`
}

// ToolUse occupies so many of one of several kinds of tool.
type ToolUse struct {
	AnyOf  []ID  `json:"anyOf"`
	Number int64 `json:"number"`
}

// Occupation takes slots of a place from the start of its task until that and the
// last of some tasks have ended.
type Occupation struct {
	Place ID    `json:"place"`
	Slots int64 `json:"slots"`
	Until []ID  `json:"until"`
}

// ColourUse charges the setup of a family for coming to a mix.
type ColourUse struct {
	Family ID `json:"family"`
	Mix    ID `json:"mix"`
}

// Fact is what has happened to a task: by whom, or in which machine, and when. Setup is what
// of a task came before its first piece, Pauses what stopped it since; Uncounted is true of one
// that is under way and of which nothing was counted, so that its pieces pass from its start on.
type Fact struct {
	State   TaskState `json:"state"`
	Person  ID        `json:"person,omitempty"`
	Machine ID        `json:"machine,omitempty"`
	Start   Minute    `json:"start"`
	End     Minute    `json:"end,omitempty"`
	Setup   Minute    `json:"setup,omitempty"`
	Pauses  []Span    `json:"pauses,omitempty"`

	Uncounted bool `json:"uncounted,omitempty"`
}

// Passes is true of a fact that says when the pieces of its task passed.
func (f *Fact) Passes() bool { return f != nil && (f.State == TaskDone || f.Uncounted) }

// PausesBefore are the pauses of a fact as far as they lie before a minute.
func (f *Fact) PausesBefore(m Minute) (pauses []Span) {
	for _, p := range f.Pauses {
		if p.To = min(p.To, m); p.From < p.To {
			pauses = append(pauses, p)
		}
	}
	return pauses
}

// Lag limits the time from the end of one task to the start of another. A most
// also bounds the length of the work it is measured from; or, with Each, the time from
// when each piece is done by the one to when it is taken up by the other.
type Lag struct {
	From  ID      `json:"from"`
	To    ID      `json:"to"`
	Least *Length `json:"least,omitempty"`
	Most  *Length `json:"most,omitempty"`
	Each  bool    `json:"each,omitempty"`
}

// Want is an order: the lots it needs and when. Since is when what it takes from
// the shelf was made.
type Want struct {
	ID         ID     `json:"id"`
	ReadyBy    Minute `json:"readyBy"`
	Importance int64  `json:"importance"`
	Lots       []ID   `json:"lots"`
	Since      Minute `json:"since,omitempty"`
}

// Pin is the lead's wish for one task: its person, its start, or both. A person
// pinned to a task that was begun takes over what is left of it.
type Pin struct {
	Task   ID      `json:"task"`
	Person ID      `json:"person,omitempty"`
	Start  *Minute `json:"start,omitempty"`
}

// From is what of a pin still stands from a moment on: a start that has passed does not,
// its person does; false where nothing is left.
func (p Pin) From(now Minute) (Pin, bool) {
	if p.Start != nil && *p.Start < now {
		p.Start = nil
	}
	return p, p.Person != "" || p.Start != nil
}

// Same is true of pins that ask for the same.
func (p Pin) Same(other Pin) bool {
	return p.Task == other.Task && p.Person == other.Person && (p.Start == nil) == (other.Start == nil) &&
		(p.Start == nil || *p.Start == *other.Start)
}

// Seen is when and by whom people were last told that a task would be begun.
type Seen struct {
	Task   ID     `json:"task"`
	Person ID     `json:"person,omitempty"`
	Start  Minute `json:"start"`
}

// Total is an effort in thousandths of a minute.
func (e Effort) Total() Milliminutes { return Milliminutes(e.Minutes)*1000 + e.Thousandths }

// Begun is true of a task that was begun and is not done.
func (a *Activity) Begun() bool {
	return a.Fact != nil && (a.Fact.State == TaskStarted || a.Fact.State == TaskPaused)
}

// Pauses is true of work that may pause anywhere: the recipe says so, or it was
// begun, and what is left of it is done as it comes.
func (a *Activity) Pauses() bool { return a.MayPause || a.Begun() }

// Lies says that what a lot's task of an index holds lies there already, and since
// when: the task was begun or, of a wait in the air, the one before it is done.
func (l *Routing) Lies(index int) (since Minute, lies bool) {
	a := &l.Tasks[index]
	switch {
	case a.Fact != nil:
		return a.Fact.Start, true
	case a.Wait != nil && a.Wait.Load == nil && index > 0 && l.Tasks[index-1].Done():
		return l.Tasks[index-1].Fact.End, true
	}
	return 0, false
}

// Done is true of a task that is over.
func (a *Activity) Done() bool { return a.Fact != nil && a.Fact.State == TaskDone }

// May says whether a person may do a task: who has begun it may, a skill they have
// not got then counting with a pace of 100; else who has all its skills, and is who
// it is pinned to if it is. What was begun stays with its person unless it is pinned.
func (a *Activity) May(p *Person, pin *Pin) bool {
	switch {
	case pin != nil && pin.Person != "" && pin.Person != p.ID:
		return false
	case a.Fact != nil && a.Fact.Person == p.ID:
		return true
	case a.Fact != nil && (pin == nil || pin.Person == ""):
		return false
	}
	return a.Skilled(p)
}

// Skilled is true of a person who works here and has all the skills of a task.
func (a *Activity) Skilled(p *Person) bool {
	return !p.OutOfUse && !slices.ContainsFunc(a.Work, func(e Effort) bool { return p.Pace(e.Skill) == 0 })
}

// Runs are the lengths of a task's runs for a person, in working minutes, the
// colour setup in the first: each run ends at ⌈all efforts so far, each ÷ pace⌉. A
// run of no minutes is none, and the whole takes at least a minute.
func (a *Activity) Runs(p *Person, setup Minute) []Minute {
	var runs []Minute
	var sum Milliminutes
	last := 0
	ended := Minute(0)
	for i, e := range a.Work {
		pace := p.PaceAt(e.Skill)
		sum += e.Total().AtPace(pace)
		last = e.Run
		if (i+1 == len(a.Work) || a.Work[i+1].Run != last) && sum.Minutes() > ended {
			runs = append(runs, sum.Minutes()-ended)
			ended = sum.Minutes()
		}
	}
	if ended == 0 {
		runs = []Minute{1}
	}
	runs[0] += setup
	return runs
}

// SetupFor is how many working minutes a person needs before the first piece, the colour
// setup among them, rounded up.
func (a *Activity) SetupFor(p *Person, colour Minute) Minute {
	var sum Milliminutes
	for _, e := range a.Work {
		pace := p.PaceAt(e.Skill)
		sum += e.Setup.AtPace(pace)
	}
	return sum.Minutes() + colour
}

// Between is when, since the run began, piece i (from 0) of a window inside a run is done by the one effort
// and when it is taken up by the other, at a person's pace: the pieces of each effort pass
// evenly over its time after its setup.
func (a *Activity) Between(w Within, p *Person, run []Effort, i int64) (done, taken Milliminutes) {
	var at Milliminutes
	for n, e := range run {
		pace := p.PaceAt(e.Skill)
		total, setup, pieces := e.Total().AtPace(pace), e.Setup.AtPace(pace), max(1, e.Pieces)
		switch n {
		case w.From:
			done = at + setup + (total-setup)*Milliminutes(i+1)/Milliminutes(pieces)
		case w.To:
			before := i * pieces / max(1, run[w.From].Pieces)
			taken = at + setup + Milliminutes(CeilDiv(int64(total-setup)*before, pieces))
		}
		at += total
	}
	return done, taken
}

// Waits is how long a piece waits at most inside a run of a task for a window, at a person's
// pace. It takes O(efforts).
func (a *Activity) Waits(w Within, p *Person) (most Milliminutes) {
	for _, run := range a.InRuns() {
		last := max(1, run[w.From].Pieces) - 1
		for _, i := range []int64{0, last} {
			done, taken := a.Between(w, p, run, i)
			most = max(most, taken-done)
		}
	}
	return most
}

// InRuns are the efforts of a task by runs.
func (a *Activity) InRuns() (runs [][]Effort) {
	for first := 0; first < len(a.Work); {
		past := first + 1
		for past < len(a.Work) && a.Work[past].Run == a.Work[first].Run {
			past++
		}
		runs = append(runs, a.Work[first:past])
		first = past
	}
	return runs
}

// Activities lists all activities of an instance by id.
func (p *Instance) Activities() map[ID]*Activity {
	all := map[ID]*Activity{}
	for i := range p.Lots {
		for j := range p.Lots[i].Tasks {
			all[p.Lots[i].Tasks[j].ID] = &p.Lots[i].Tasks[j]
		}
	}
	return all
}

// Pinned finds the pin of a task; nil when it has none.
func (d *Document) Pinned(task ID) *Pin {
	i := slices.IndexFunc(d.Pins, func(p Pin) bool { return p.Task == task })
	if i < 0 {
		return nil
	}
	return &d.Pins[i]
}
