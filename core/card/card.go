// Package card answers what a maker has to know of a task at hand: everything that its recipe says,
// step by step, in the numbers of this lot and of the run that comes next, and what follows. Whoever
// reads it has nothing to look up elsewhere.
package card

import (
	"cmp"
	"slices"

	"bractum/core/flower"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
)

// Card is a task as its maker does it.
type Card struct {
	Steps []Step `json:"steps"`
	// Forms are how the pieces are shared out.
	Forms []Portion `json:"forms,omitempty"`
	// Gives is how many pieces each one gives that is worked here; Split that it is after this task.
	Gives int64 `json:"gives,omitempty"`
	// Blend is what to weigh, of a mix.
	Blend []Blended `json:"blend,omitempty"`
	Then  []After   `json:"then"`
	// Build is the direction in which rows are joined.
	Build studio.Build `json:"build,omitempty"`
	// Leaves are what making it leaves over, in all, in the unit of the material.
	Leaves []Bought `json:"leaves,omitempty"`
}

// Portion is so many of a number: 14 of 28, open.
type Portion struct {
	Name   string `json:"name"`
	Pieces int64  `json:"pieces"`
}

// Step is one step of a task. Pieces get it of Of that come to it, in the run that comes next; All of
// them in all runs that are left.
type Step struct {
	Key      string `json:"key"`
	Name     string `json:"name"`
	Glyph    string `json:"glyph"`
	Pieces   int64  `json:"pieces"`
	Of       int64  `json:"of"`
	All      int64  `json:"all"`
	Form     string `json:"form,omitempty"`
	Together int64  `json:"together,omitempty" doc:"so many are handled at once"`

	Parts     []Part   `json:"parts,omitempty"`
	Pastes    []Paste  `json:"pastes,omitempty"`
	Wires     []Wire   `json:"wires,omitempty"`
	Materials []Bought `json:"materials,omitempty"`
	Out       []Bought `json:"out,omitempty" doc:"put in as spacers or supports before; as many come out now"`

	Tool  string   `json:"tool,omitempty" doc:"what to take, in words"`
	Tools []Tool   `json:"tools,omitempty"`
	Lay   []Lay    `json:"lay,omitempty"`
	Wants string   `json:"wants,omitempty" doc:"the state in which the piece is wanted: soft, firm, dry, any"`
	Fresh []Within `json:"fresh,omitempty"`

	Look     string           `json:"look,omitempty"`
	Mistakes []studio.Mistake `json:"mistakes,omitempty"`
	Cautions []string         `json:"cautions,omitempty"`
	MayMend  bool             `json:"mayMend,omitempty" doc:"what is weak can be mended afterwards, and is counted so"`
	Picture  studio.ID        `json:"picture,omitempty"`
}

// Part is so many pieces of something made that go into each; Least of them at the least, by eye. Now
// is what the next run takes, All what all take.
type Part struct {
	Name     string               `json:"name"`
	Form     string               `json:"form,omitempty" doc:"that of the piece, to draw it by"`
	Of       string               `json:"of,omitempty" doc:"which share of them: mirrored, left closed"`
	Colour   string               `json:"colour,omitempty"`
	Mix      string               `json:"mix,omitempty"`
	Each     int64                `json:"each"`
	Least    *int64               `json:"least,omitempty"`
	Now      int64                `json:"now"`
	All      int64                `json:"all"`
	Rows     []int64              `json:"rows,omitempty"`
	Set      studio.Set           `json:"set,omitempty"`
	Join     studio.Join          `json:"join,omitempty"`
	Reversed bool                 `json:"reversed,omitempty"`
	Sequence []int64              `json:"sequence,omitempty"`
	At       []studio.Micrometres `json:"atMicrometres,omitempty"`
	Wants    string               `json:"wants,omitempty"`
	Between  *studio.Between      `json:"between,omitempty"`
}

// Paste is a piece of paste, dust or glue: its colour and shape, how many for each piece, and the mass
// of one and of all. Sizes are what the studio's own measures call it.
type Paste struct {
	Mix    string            `json:"mix"`
	Colour string            `json:"colour,omitempty"`
	Where  string            `json:"where,omitempty"`
	Shape  studio.Geometry   `json:"shape"`
	Sizes  []Sized           `json:"sizes,omitempty"`
	Each   int64             `json:"each"`
	Run    int64             `json:"run,omitempty" doc:"pieces that are cut from one sheet"`
	Mass   studio.Milligrams `json:"mass" doc:"of one piece of paste"`
	Now    studio.Milligrams `json:"now" doc:"for the next run"`
	All    studio.Milligrams `json:"all" doc:"for all runs, as it goes into the pieces"`
	Sheet  studio.Milligrams `json:"sheet,omitempty" doc:"to roll for one sheet"`
	Cut    int64             `json:"cut,omitempty" doc:"how many are cut from that sheet now"`
}

// Sized is a size by one of the studio's own measures: its nearest mark.
type Sized struct {
	Measure string             `json:"measure"`
	Mark    string             `json:"mark"`
	Of      studio.Measured    `json:"of"`
	Size    studio.Micrometres `json:"sizeMicrometres"`
}

// Wire is so many cut wires for each piece.
type Wire struct {
	Name      string             `json:"name"`
	Gauge     studio.Gauge       `json:"gauge"`
	Cover     string             `json:"cover,omitempty"`
	Each      int64              `json:"each"`
	Now       int64              `json:"now"`
	All       int64              `json:"all"`
	Length    studio.Micrometres `json:"lengthMicrometres"`
	Depth     studio.Micrometres `json:"depthMicrometres"`
	Stem      studio.Micrometres `json:"stemMicrometres"`
	Allowance studio.Micrometres `json:"allowanceMicrometres,omitempty"`
	Hook      studio.Hook        `json:"hook,omitempty"`
	Turns     int64              `json:"turns,omitempty"`
}

// Bought is an amount of a material, in its unit, for each Per pieces; Least to Most where that is
// settled by eye.
type Bought struct {
	Name   string      `json:"name"`
	Unit   studio.Unit `json:"unit"`
	Amount int64       `json:"amount"`
	Per    int64       `json:"per"`
	Least  *int64      `json:"least,omitempty"`
	Most   *int64      `json:"most,omitempty"`
	Now    int64       `json:"now"`
	All    int64       `json:"all"`
	// OutAt is the step at which what is put in comes out again.
	OutAt string `json:"outAt,omitempty"`
}

// Tool is a tool that is taken for the task: the one that the plan chose, instead of another where that
// stands in.
type Tool struct {
	Name    string             `json:"name"`
	Number  int64              `json:"number"`
	Instead string             `json:"instead,omitempty"`
	Size    studio.Micrometres `json:"sizeMicrometres,omitempty"`
}

// Lay is where pieces are laid down: so many to a slot, in so many slots, until a step of theirs.
type Lay struct {
	Place   string             `json:"place"`
	PerSlot int64              `json:"perSlot"`
	Slots   int64              `json:"slots,omitempty"`
	Pieces  int64              `json:"pieces,omitempty" doc:"where not all lie there"`
	Until   string             `json:"until,omitempty"`
	Says    string             `json:"says,omitempty"`
	Size    studio.Micrometres `json:"sizeMicrometres,omitempty"`
	Keeps   studio.Minute      `json:"keepsMinutes,omitempty" doc:"what lies in it keeps soft for so long"`
}

// Within limits when a step takes up what came before it: at least and at most so many minutes after,
// or from a state on and before another.
type Within struct {
	After   string         `json:"after"`
	AtLeast studio.Minute  `json:"atLeastMinutes,omitempty"`
	AtMost  *studio.Minute `json:"atMostMinutes,omitempty"`
	From    studio.State   `json:"from,omitempty"`
	Before  studio.State   `json:"before,omitempty"`
}

// Blended is an ingredient of a mix and what to weigh of it.
type Blended struct {
	Name   string `json:"name"`
	Colour string `json:"colour,omitempty"`
	paste.Portion
}

// After is what comes after the task: a wait, in the air or a machine, or the next work, with when the
// plan has it.
type After struct {
	Name    string         `json:"name"`
	Wait    bool           `json:"wait"`
	State   studio.State   `json:"state,omitempty"`
	Minutes studio.Minute  `json:"minutes,omitempty"`
	Wished  *studio.Wish   `json:"wished,omitempty"`
	Setting string         `json:"setting,omitempty"`
	Machine string         `json:"machine,omitempty"`
	Method  string         `json:"method,omitempty"`
	Start   *studio.Minute `json:"start,omitempty"`
	End     *studio.Minute `json:"end,omitempty"`
	Lay     []Lay          `json:"lay,omitempty"`
}

// reader reads one lot's recipe to its maker.
type reader struct {
	doc     *studio.Document
	book    *studio.Book
	lot     *studio.Lot
	task    *studio.Task
	planned func(studio.ID) *studio.Task
	work    studio.WorkLot
	r       *studio.Recipe
}

// Of is the card of a task of a lot in a valid document's plan, whose tasks planned finds, nil what it has
// not. Its activity may be nil, then all that is left is one run. It takes O(size of the recipe × size of the
// document's lists).
func Of(
	doc *studio.Document,
	book *studio.Book,
	lot *studio.Lot,
	task *studio.Task,
	planned func(studio.ID) *studio.Task,
	a *studio.Activity,
) Card {
	read := reader{doc: doc, book: book, lot: lot, task: task, planned: planned, work: doc.Begun(*lot),
		r: book.Of(lot.Made())}
	return read.card(a)
}

// Making are the cards of all the work of so many of a recipe, one after the other, as if nothing of it were
// planned: what is printed of a page of the flower book.
func Making(
	doc *studio.Document,
	book *studio.Book,
	made studio.Made,
	mixes map[string]studio.ID,
	quantity int64,
) []Card {
	r := book.Of(made)
	lot := studio.Lot{ID: "making", Recipe: made.Recipe, Variant: made.Variant, Mixes: mixes, Need: quantity,
		Started: studio.CeilDiv(quantity, r.Unit()) * r.Unit(), Alive: quantity}
	none := func(studio.ID) *studio.Task { return nil }
	activities := studio.Tasks(doc, book, []studio.Lot{lot}, nil).Activities()
	cards := []Card{}
	for at := 0; at < len(r.Steps); _, at = r.Task(at) {
		if s := r.Steps[at]; s.Work != nil {
			task := studio.Task{ID: studio.TaskID(lot.ID, s.Key), Lot: lot.ID, Step: s.Key}
			cards = append(cards, Of(doc, book, &lot, &task, none, activities[task.ID]))
		}
	}
	return cards
}

func (c *reader) card(a *studio.Activity) Card {
	own, first, past, _ := c.r.TaskOf(c.task.Step)
	card := Card{Build: c.r.Build, Then: c.after(past)}
	left := c.work.Left(c.r, c.task.Step)
	if _, mends := studio.MendedStep(c.task.Step); mends {
		if own.Work != nil {
			card.Steps = []Step{{Key: c.task.Step, Name: own.Name, Glyph: own.Work.Glyph, Pieces: left, Of: left,
				All: left, Tool: own.Work.Tool, Cautions: c.r.Steps[first].Cautions}}
		}
		return card
	}
	if c.r.Kind == studio.KindMix && first == 0 {
		card.Blend = c.blend(studio.Milligrams(c.lot.Started))
	}
	remaining := c.work.Remaining(c.r, c.task.Step)
	for _, f := range c.r.Forms {
		card.Forms = append(card.Forms, Portion{f.Name, studio.CeilDiv(remaining*int64(f.Share), 1000)})
	}
	if y := c.r.Yield; y != nil {
		if _, at := c.r.Step(y.Step); at < past {
			card.Gives = y.Gives
		}
	}
	runs, n := [][]studio.Effort(nil), 0
	if a != nil {
		runs = a.InRuns()
	}
	for at := first; at < past; at++ {
		s := &c.r.Steps[at]
		if s.Work == nil {
			continue
		}
		all := c.r.Passing(at, remaining)
		if c.r.Kind != studio.KindMix {
			all = c.r.At(s.Key, remaining)
		}
		now := all
		if len(runs) > 0 && n < len(runs[0]) && past-first > 1 {
			now = runs[0][n].Pieces
			all = 0
			for _, run := range runs {
				all += run[min(n, len(run)-1)].Pieces
			}
		}
		n += 1 + len(s.Work.Also)
		card.Steps = append(card.Steps, c.step(at, now, all))
	}
	for _, b := range c.r.Byproducts {
		if past > c.r.OutputStep() {
			card.Leaves = append(card.Leaves, c.bought(b.Material, b.Amount, 1, remaining, remaining))
		}
	}
	return card
}

// step reads one step, of which the next run takes up now, and all runs all.
func (c *reader) step(at int, now, all int64) Step {
	s := &c.r.Steps[at]
	step := Step{Key: s.Key, Name: s.Name, Glyph: s.Work.Glyph, Pieces: c.r.Shared(s.Work, now), Of: now,
		All: all, Form: s.Work.Form, Together: s.Work.Together, Tool: s.Work.Tool, Look: s.Look,
		Mistakes: s.Mistakes, Cautions: s.Cautions, MayMend: s.Mend != nil, Picture: c.picture(s.Key)}
	said := slices.ContainsFunc(s.Windows, func(w studio.Window) bool { return w.From != "" || w.Before != "" })
	// Before its first step there is no piece that could be in a state.
	if wants := c.r.Wanted(at); s.Wants != "" || at > 0 && wants != studio.WantsAny && !said {
		step.Wants = string(wants)
	}
	for _, need := range s.Work.Tools {
		step.Tools = append(step.Tools, c.tool(need))
	}
	for i := range s.Holds {
		step.Lay = append(step.Lay, c.lay(&s.Holds[i], at, all))
	}
	for _, w := range s.Windows {
		step.Fresh = append(step.Fresh, within(w, c.named(cmp.Or(w.After, c.r.Steps[max(0, at-1)].Key))))
	}
	for _, p := range c.r.Parts {
		if p.Step == s.Key {
			step.Parts = append(step.Parts, c.part(s, p, now, all))
			if p.Window != nil {
				step.Fresh = append(step.Fresh, within(*p.Window, c.book.Of(p.Made()).Name))
			}
		}
	}
	for _, p := range c.r.Pastes {
		if p.Step == s.Key {
			step.Pastes = append(step.Pastes, c.paste(p, now, all))
		}
	}
	for _, w := range c.r.Wires {
		if w.Step == s.Key {
			step.Wires = append(step.Wires, c.wire(w, now, all))
		}
	}
	for _, m := range c.r.Materials {
		per := max(1, m.Per)
		if m.Step == s.Key {
			one := c.bought(m.Material, m.Amount, per, now, all)
			one.Least, one.Most, one.OutAt = m.Least, m.Most, c.named(m.OutAt)
			step.Materials = append(step.Materials, one)
		}
		if m.OutAt == s.Key {
			step.Out = append(step.Out, c.bought(m.Material, m.Amount, per, now, all))
		}
	}
	return step
}

func (c *reader) part(s *studio.Step, p studio.PartInput, now, all int64) Part {
	below := c.book.Of(p.Made())
	part := Part{Name: below.Name, Form: below.Form, Of: p.Form, Each: p.Count, Least: p.Least, Now: now * p.Count,
		All: all * p.Count, Rows: p.Rows, Set: p.Set, Join: p.Join, Reversed: p.Reversed, Sequence: p.Sequence,
		At: p.At, Between: p.Between}
	part.Colour, part.Mix = flower.Swatch(c.book, below, c.book.Input(p, c.lot.Mixes))
	if wants := s.WantedOf(p, below); wants != studio.WantsAny || p.Wants != "" {
		part.Wants = string(wants)
	}
	return part
}

func (c *reader) paste(p studio.PasteInput, now, all int64) Paste {
	mass := paste.Mass(p.Shape, c.doc.Settings.DensityMgPerMl)
	one := Paste{Where: p.Where, Shape: p.Shape, Each: p.Each(), Run: p.Run, Mass: mass,
		Now: mass * studio.Milligrams(now*p.Each()), All: mass * studio.Milligrams(all*p.Each())}
	one.Mix = p.Slot // as long as no colourway says of what
	if mix := c.book.Recipe(c.lot.Mixes[p.Slot]); mix != nil {
		one.Mix, one.Colour = mix.Name, mix.Colour
	}
	if p.Run > 0 {
		one.Cut = min(p.Run, now*p.Each())
		one.Sheet = paste.Sheet(one.Cut, mass, c.doc.Settings.SheetYieldPerMille)
	}
	for i := range c.doc.Settings.Measures {
		m := &c.doc.Settings.Measures[i]
		size := p.Shape.Size(m.Of)
		if mark, near := m.Marked(size); size > 0 && near {
			one.Sizes = append(one.Sizes, Sized{m.Name, mark.Name, m.Of, mark.Size})
		}
	}
	return one
}

func (c *reader) wire(w studio.WireInput, now, all int64) Wire {
	one := Wire{Each: w.Number, Now: now * w.Number, All: all * w.Number, Length: wire.Length(w), Depth: w.Depth,
		Stem: w.Stem, Allowance: w.Allowance, Hook: w.Hook, Turns: w.Turns}
	if m := c.book.Material(w.Material); m != nil {
		if one.Name = m.Name; m.Wire != nil {
			one.Gauge, one.Cover = m.Wire.Gauge, m.Wire.Cover
		}
	}
	return one
}

func (c *reader) bought(id studio.ID, amount, per, now, all int64) Bought {
	one := Bought{Amount: amount, Per: per, Now: studio.CeilDiv(amount*now, per), All: studio.CeilDiv(amount*all, per)}
	if m := c.book.Material(id); m != nil {
		one.Name, one.Unit = m.Name, m.Unit
	}
	return one
}

// tool is the one that the plan chose of those that can be taken.
func (c *reader) tool(need studio.ToolNeed) Tool {
	one := Tool{Number: max(1, need.Number)}
	for _, t := range c.doc.Tools {
		if t.ID == need.Tool {
			one.Name, one.Size = t.Name, t.Size
			for _, other := range c.doc.Tools {
				if slices.Contains(t.StandIns, other.ID) && slices.Contains(c.task.Tools, other.ID) &&
					!slices.Contains(c.task.Tools, t.ID) {
					one.Name, one.Size, one.Instead = other.Name, other.Size, t.Name
				}
			}
		}
	}
	return one
}

// lay is where the pieces of a hold lie: where the plan has them, else in its place.
func (c *reader) lay(h *studio.Hold, at int, all int64) Lay {
	seat := h.Seats()[0]
	one := Lay{Until: c.named(cmp.Or(h.Until, h.UntilNext))}
	if h.Share > 0 {
		one.Pieces = studio.CeilDiv(all*int64(h.Share), 1000)
	}
	for _, held := range c.holds(at) {
		for _, s := range h.Seats() {
			if held.Place == s.Place {
				seat, one.Slots = s, held.Slots
			}
		}
	}
	one.PerSlot, one.Says = seat.PerSlot, seat.Says
	for _, p := range c.doc.Places {
		if p.ID == seat.Place {
			one.Place, one.Size, one.Keeps = p.Name, p.Size, p.KeepsMinutes
		}
	}
	return one
}

// holds are what the plan has lie for a step.
func (c *reader) holds(at int) []studio.Held {
	first, _ := c.r.Task(at)
	if t := c.stands(c.r.Steps[first].Key); t != nil {
		return t.Holds
	}
	return nil
}

// stands is the planned task of a step of the lot; nil where there is none.
func (c *reader) stands(step string) *studio.Task { return c.planned(studio.TaskID(c.lot.ID, step)) }

// after are the waits that follow a task, up to and with the next work.
func (c *reader) after(past int) []After {
	all := []After{}
	for at := past; at < len(c.r.Steps); {
		s, _, end, _ := c.r.TaskOf(c.r.Steps[at].Key)
		one := After{Name: s.Name, Wait: s.Wait != nil}
		if t := c.stands(s.Key); t != nil {
			from, to := t.Begin(), t.End
			one.Start, one.End = &from, &to
			if t.Load != nil {
				one.Machine = c.machine(t.Load.Machine)
			}
		}
		for i := range s.Holds {
			one.Lay = append(one.Lay, c.lay(&s.Holds[i], at, c.work.Remaining(c.r, c.task.Step)))
		}
		if w := s.Wait; w != nil {
			one.State, one.Minutes, one.Wished = w.State, w.Minutes, w.Wished
			if w.Load != nil {
				one.Setting = w.Load.Setting
			}
			for _, m := range c.doc.Methods {
				if m.ID == w.Method {
					one.Method = m.Name
				}
			}
		}
		all = append(all, one)
		if at = end; s.Wait == nil {
			break
		}
	}
	return all
}

func (c *reader) blend(amount studio.Milligrams) (all []Blended) {
	for _, p := range paste.Weigh(c.r, amount, c.doc.Settings.ScaleStepMilligrams) {
		one := Blended{Portion: p}
		if mix := c.book.Recipe(p.Mix); mix != nil {
			one.Name, one.Colour = mix.Name, mix.Colour
		} else if m := c.book.Material(p.Material); m != nil {
			one.Name = m.Name
		}
		all = append(all, one)
	}
	return all
}

func within(w studio.Window, after string) Within {
	return Within{After: after, AtLeast: w.AtLeast, AtMost: w.AtMost, From: w.From, Before: w.Before}
}

// named is the name of a step of the recipe; of what it goes into, its key.
func (c *reader) named(step string) string {
	if s, at := c.r.Step(step); at >= 0 {
		return s.Name
	}
	return step
}

func (c *reader) machine(id studio.ID) string {
	if i := slices.IndexFunc(c.doc.Machines, func(m studio.Machine) bool { return m.ID == id }); i >= 0 {
		return c.doc.Machines[i].Name
	}
	return string(id)
}

// picture is the recipe's picture of a step.
func (c *reader) picture(step string) studio.ID {
	if i := slices.IndexFunc(c.r.Pictures, func(p studio.Picture) bool { return p.Step == step }); i >= 0 {
		return c.r.Pictures[i].ID
	}
	return ""
}
