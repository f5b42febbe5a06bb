package studio

import (
	"slices"
	"strings"
)

// Step is one operation of a recipe: either work or a wait. Wants is the state in which work
// wants the piece, its kind's if empty; Windows limit the time since earlier steps; Mend is
// the work on a piece counted as to mend.
type Step struct {
	Key   string    `json:"key"`
	Name  string    `json:"name"`
	Work  *Work     `json:"work,omitempty"`
	Wait  *Wait     `json:"wait,omitempty"`
	Wants Condition `json:"wants,omitempty"`
	// Loses is what breaks at it, of a thousand pieces worked on so many.
	Loses         Loss     `json:"loses,omitempty"`
	LosesPerMille PerMille `json:"losesPerMille,omitempty"`
	Windows       []Window `json:"windows,omitempty"`
	Holds         []Hold   `json:"holds,omitempty"`
	Gates         []ID     `json:"gates,omitempty"`
	Mend          *Work    `json:"mend,omitempty"`
	Look          string   `json:"look,omitempty"`
	Cautions      []string `json:"cautions,omitempty"`
	// Mistakes are the usual ones, for whoever is new to it.
	Mistakes []Mistake `json:"mistakes,omitempty"`

	part *partInRun // of a step of a part that is made in the run of what it goes into
}

// Work is attended: a skill and what else the person must be able to do, setup
// per lot, time per piece, whether it may pause.
type Work struct {
	Glyph    string       `json:"glyph"`
	Skill    string       `json:"skill"`
	Also     []string     `json:"alsoSkills,omitempty"`
	Setup    Milliminutes `json:"setupMilliminutes"`
	PerPiece Milliminutes `json:"pieceMilliminutes"`
	MayPause bool         `json:"mayPause"`
	// Share of the pieces that get the step, or the form that does; neither is all.
	Share PerMille `json:"sharePerMille,omitempty"`
	Form  string   `json:"form,omitempty"`
	// Together are pieces handled at once: a stack punched, wires hooked in one grip.
	Together int64 `json:"together,omitempty"`
	// Stint joins this step and its neighbours of the same name to one task of
	// one person, run after run of at most Run pieces.
	Stint string `json:"stint,omitempty"`
	Run   int64  `json:"run,omitempty"`
	// Tool is what to take, in words; Tools are those that are scarce.
	Tool  string     `json:"tool,omitempty"`
	Tools []ToolNeed `json:"tools,omitempty"`
	// Family charges colour setup by the mix of a slot.
	Family ID     `json:"setupFamily,omitempty"`
	Slot   string `json:"setupSlot,omitempty"`
}

// ToolNeed occupies so many of a kind of tool, or of a stand-in, while worked on.
type ToolNeed struct {
	Tool   ID    `json:"tool"`
	Number int64 `json:"number,omitempty"`
}

// Drying is what dries: a class at a thickness, in a way, made of the mix of a
// slot.
type Drying struct {
	Class     ID          `json:"class,omitempty"`
	Thickness Micrometres `json:"thicknessMicrometres,omitempty"`
	Method    ID          `json:"method,omitempty"`
	Slot      string      `json:"slot,omitempty"`
}

// Wait is unattended: until a piece has dried to a state, a fixed number of wall
// minutes, or a load of a machine. The least it takes comes first; Wished is the
// length one would like where it makes nothing late.
type Wait struct {
	Drying
	State   State  `json:"state,omitempty"`
	Minutes Minute `json:"minutes,omitempty"`
	Wished  *Wish  `json:"wished,omitempty"`
	Load    *Load  `json:"load,omitempty"`
	// Continues names an earlier wait of this recipe: pieces were put down then and
	// moved since, and what they dried on the way counts.
	Continues string `json:"continues,omitempty"`
}

// Wish is a length one would like: a further state, or wall minutes.
type Wish struct {
	State   State  `json:"state,omitempty"`
	Minutes Minute `json:"minutes,omitempty"`
}

// Load is a wait in one of several machines at a setting.
type Load struct {
	Machines []ID   `json:"machines"`
	Setting  string `json:"setting"`
	PerSlot  int64  `json:"perSlot"`
}

// Window limits the time since an earlier step of the same recipe (the one
// before, if After is empty) or since an input: in wall minutes from its end to
// this start, or by the state of what dries since it was put down.
type Window struct {
	After   string  `json:"after,omitempty"`
	AtLeast Minute  `json:"atLeastMinutes,omitempty"`
	AtMost  *Minute `json:"atMostMinutes,omitempty"`
	// From is the state to be reached first, Before the one not to be reached yet.
	From   State `json:"from,omitempty"`
	Before State `json:"before,omitempty"`
	Drying
	// Whole has the most count from the end of the lot to its start, as in version 1; else
	// it binds every piece.
	Whole bool `json:"whole,omitempty"`
}

// Limited is true of a window that something can be too late for.
func (w *Window) Limited() bool { return w != nil && (w.AtMost != nil || w.Before != "") }

// Hold occupies slots of a place from its step's start until a later step of
// the same recipe, or its own, ends; or a step of the recipe that it feeds.
type Hold struct {
	Place     ID       `json:"place"`
	PerSlot   int64    `json:"perSlot"`
	Share     PerMille `json:"sharePerMille,omitempty"`
	Until     string   `json:"until,omitempty"`
	UntilNext string   `json:"untilNext,omitempty"`
	// StandIns are other kinds of places for lots that find no room in it, in order of
	// preference.
	StandIns []Seat `json:"standIns,omitempty"`
}

// Seat is a place that stands in for another: with so many pieces to a slot, as many as there if
// it is 0, so much more time for each piece, and what is other about them, as their shape.
type Seat struct {
	Place    ID           `json:"place"`
	PerSlot  int64        `json:"perSlot,omitempty"`
	PerPiece Milliminutes `json:"pieceMilliminutes,omitempty"`
	Says     string       `json:"says,omitempty"`
}

// Seats are the place of a hold and those that stand in for it.
func (h *Hold) Seats() []Seat {
	all := append(make([]Seat, 0, 1+len(h.StandIns)), Seat{Place: h.Place, PerSlot: h.PerSlot})
	for _, s := range h.StandIns {
		if s.PerSlot == 0 {
			s.PerSlot = h.PerSlot
		}
		all = append(all, s)
	}
	return all
}

// slots are how many a number of pieces takes in a seat.
func (h *Hold) slots(in Seat, pieces int64) int64 {
	if h.Share > 0 {
		pieces = CeilDiv(pieces*int64(h.Share), 1000)
	}
	return CeilDiv(pieces, in.PerSlot)
}

const mending = "~mend"

// MendKey is the key of the task that mends what was counted at a step.
func MendKey(step string) string { return step + mending }

// MendedStep is the key of the step that a task belongs to, and whether the task
// mends what was counted there.
func MendedStep(task string) (step string, mends bool) { return strings.CutSuffix(task, mending) }

// TaskOf is what the key of a task stands for: its step, under the names of all the
// steps [first, past) that are that task, or the mending of what was counted at it.
// False when the recipe has no such task.
func (r *Recipe) TaskOf(key string) (step Step, first, past int, ok bool) {
	of, mends := MendedStep(key)
	step, at := r.Step(of)
	if at < 0 || mends && step.Mend == nil {
		return Step{}, 0, 0, false
	}
	first, past = r.Task(at)
	var own []string // what is done to the pieces themselves, where parts are made in the run
	for _, s := range r.Steps[first:past] {
		if s.part == nil {
			own = append(own, s.Name)
		}
	}
	step.Name = strings.Join(own, ", ")
	if mends {
		step = Step{Key: key, Name: "Mend after " + step.Name, Work: step.Mend}
	}
	return step, first, past, at == first
}

// Pieces is the quantity that work and holds are reckoned on at a step: the
// pieces of a lot, its units before its yield, as many as are made of a part that is made in
// the run, or for a mix its hundreds of grams begun.
func (r *Recipe) Pieces(step int, quantity int64) int64 {
	if r.Kind == KindMix {
		return CeilDiv(quantity, 100_000)
	}
	return r.made(step, quantity)
}

// inLaterRun is what Pieces is in a run that is not the first of its lot: spares of a fixed
// number were made in that.
func (r *Recipe) inLaterRun(step int, quantity int64) int64 {
	if p := r.Steps[step].part; p != nil {
		return CeilDiv(p.ofLater(quantity), r.unit(step))
	}
	return r.Pieces(step, quantity)
}

// Passing is how many pass through the task of a step, and are counted there: pieces, units
// before the yield, or for a mix its hundreds of grams begun.
func (r *Recipe) Passing(step int, quantity int64) int64 {
	if r.Kind == KindMix {
		return CeilDiv(quantity, 100_000)
	}
	return CeilDiv(quantity, r.unit(step))
}

// Unit is how many pieces one unit gives in all: lots are begun in multiples of it.
func (r *Recipe) Unit() int64 { return r.unit(-1) }

// unit is how many pieces one unit at a step will give.
func (r *Recipe) unit(step int) int64 {
	if r.Yield != nil {
		if _, at := r.Step(r.Yield.Step); step <= at {
			return max(1, r.Yield.Gives)
		}
	}
	return 1
}

// made is how many are worked on at a step for a quantity of the recipe's pieces.
func (r *Recipe) made(step int, quantity int64) int64 {
	if step >= 0 && r.Steps[step].part != nil {
		quantity = r.Steps[step].part.ofLot(quantity)
	}
	return CeilDiv(quantity, r.unit(step))
}

// Room is how many of the recipe's pieces have room where a hold of one of its steps has so
// many slots: of the lot as a whole, or inside is true, of one run.
func (r *Recipe) Room(step int, h Hold, slots int64) (quantity int64, inside bool) {
	first, past := r.Task(step)
	_, until := r.Step(h.Until)
	inside = past-first > 1 && until >= 0 && until < past
	quantity = slots * h.PerSlot
	if h.Share > 0 {
		quantity = quantity * 1000 / int64(h.Share)
	}
	if p := r.Steps[step].part; p != nil {
		quantity = max(0, quantity-p.more) * p.per / p.times
	}
	return quantity, inside
}

// At is how many pieces, or units before the yield, take up inputs at a step.
func (r *Recipe) At(step string, quantity int64) int64 {
	_, i := r.Step(step)
	return r.made(i, quantity)
}

// Each is how many pieces, or units before the yield, take up inputs at a step for so many of the recipe's pieces,
// exactly and without spares: one for two of a winding that gives two.
func (r *Recipe) Each(step string) (number, of int64) {
	_, i := r.Step(step)
	number, of = 1, r.unit(i)
	if i >= 0 && r.Steps[i].part != nil {
		number, of = number*r.Steps[i].part.in, of*r.Steps[i].part.of
	}
	return number, of
}

// Step finds a step and its index by key.
func (r *Recipe) Step(key string) (Step, int) {
	i := slices.IndexFunc(r.Steps, func(s Step) bool { return s.Key == key })
	if i < 0 {
		return Step{}, -1
	}
	return r.Steps[i], i
}

// Task is the range [first, past) of steps that are one task with step i: the
// steps of its stint, or itself alone.
func (r *Recipe) Task(i int) (first, past int) {
	first, past = i, i+1
	if w := r.Steps[i].Work; w != nil && w.Stint != "" {
		same := func(j int) bool { return r.Steps[j].Work != nil && r.Steps[j].Work.Stint == w.Stint }
		for first > 0 && same(first-1) {
			first--
		}
		for past < len(r.Steps) && same(past) {
			past++
		}
	}
	return first, past
}

// OutputStep is the index of the last work step: when it is done, the pieces
// exist, though they may still have to dry.
func (r *Recipe) OutputStep() int {
	last := -1
	for i, s := range r.Steps {
		if s.Work != nil {
			last = i
		}
	}
	return last
}

// nextTask is the index of the first step of the next work task from an index
// on, -1 past the last.
func (r *Recipe) nextTask(from int) int {
	for i := from; i < len(r.Steps); i++ {
		if r.Steps[i].Work != nil {
			return i
		}
	}
	return -1
}

// share is the part of the pieces that a step works on.
func (r *Recipe) share(w *Work) PerMille {
	if i := slices.IndexFunc(r.Forms, func(f Form) bool { return f.Name == w.Form }); i >= 0 {
		return r.Forms[i].Share
	}
	if w.Share > 0 {
		return w.Share
	}
	return 1000
}

// Shared is how many of so many pieces a step works on.
func (r *Recipe) Shared(w *Work, pieces int64) int64 { return CeilDiv(pieces*int64(r.share(w)), 1000) }

// Effort is the attended time of a work step for so many pieces at its own pace:
// setup once, and the minutes of the share that gets the step, in grips of as
// many as are handled together; rounded up to the thousandth of a minute.
func (r *Recipe) Effort(w *Work, setup bool, pieces int64) Milliminutes {
	grips := CeilDiv(pieces*int64(r.share(w)), 1000*max(1, w.Together))
	effort := CeilDiv(Milliminutes(pieces*int64(r.share(w)))*w.PerPiece, 1000)
	if w.Together > 1 {
		effort = Milliminutes(grips) * w.PerPiece
	}
	if setup {
		effort += w.Setup
	}
	return effort
}

// Longest is the length one would wish for a wait, without what mix, method and
// place make of it: enough for reckoning how early a lot must begin.
func (w *Wait) Longest() Length {
	state, minutes := w.State, w.Minutes
	if w.Wished != nil {
		state, minutes = w.Wished.State, w.Wished.Minutes
	}
	if state != "" {
		return Length{Dries: &Dries{Class: w.Class, Thickness: w.Thickness, State: state}}
	}
	return Length{Minutes: minutes}
}
