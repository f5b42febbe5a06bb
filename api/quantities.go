package api

import (
	"context"
	"maps"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/count"
	"bractum/core/flower"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
	"bractum/store"
)

// Taken is so much of a thing, as it is listed with others.
type Taken struct {
	What   string `json:"what"`
	Amount int64  `json:"amount"`
	Unit   string `json:"unit"`
	Colour string `json:"colour,omitempty"`
	Detail string `json:"detail,omitempty"`
}

// MixingView are the mixes to weigh, with when and by whom.
type MixingView struct {
	N         int64          `json:"n"`
	To        studio.Minute  `json:"to" doc:"the mixes are those that are weighed before this, and those without a time"`
	Later     []LaterMixes   `json:"later" doc:"days after that, with how many mixings"`
	Density   int64          `json:"densityMilligramsPerMillilitre"`
	Mixes     []MixCard      `json:"mixes"`
	Ladders   []paste.Ladder `json:"ladders" doc:"shades that come from one weighing of a deep mix"`
	Notes     []count.Note   `json:"notes"`
	Unused    []Taken        `json:"onShelf" doc:"mixes that lie ready"`
	Materials []MaterialLine `json:"materials" doc:"what all mixings together take"`
}

// MaterialLine is what is needed of a material, and what is there.
type MaterialLine struct {
	count.MaterialNeed
	Name string      `json:"name"`
	Unit studio.Unit `json:"unit"`
}

// MixCard is one mix sheet with names.
type MixCard struct {
	Lot     studio.ID         `json:"lot"`
	Mix     studio.ID         `json:"mix"`
	Used    studio.Milligrams `json:"usedMilligrams"`
	ToMix   studio.Milligrams `json:"toMixMilligrams"`
	UseBy   studio.Minute     `json:"useByAfterMinutes"`
	Name    string            `json:"name"`
	Colour  string            `json:"colour"`
	Task    *TaskLine         `json:"task,omitempty"`
	Weighed bool              `json:"weighed" doc:"weighed in, and to be kneaded"`
	Weigh   []Ingredient      `json:"weigh"`
	Least   studio.Milligrams `json:"leastMilligrams,omitempty" doc:"from which on all can be weighed, where of this some cannot"`
	Met     []AllergyMet      `json:"met" doc:"what it takes up that allergies of its orders name"`
	// Once are the lots of the mix, this the first of them, that could be one weighing.
	Once []studio.ID `json:"once,omitempty"`
}

// OpenedMix is what goes into a mix sheet's figures.
type OpenedMix struct {
	MixCard
	For      []MixUse         `json:"for"`
	Workings []studio.Working `json:"workings"`
}

// LaterMixes are the mixings of a day that is not shown.
type LaterMixes struct {
	Day     studio.Date       `json:"day"`
	Mixings int64             `json:"mixings"`
	ToMix   studio.Milligrams `json:"toMixMilligrams"`
}

// TaskLine is a task by its time and whose it is.
type TaskLine struct {
	ID       studio.ID        `json:"id"`
	State    studio.TaskState `json:"state"`
	Person   studio.ID        `json:"person"`
	Start    studio.Minute    `json:"start"`
	End      studio.Minute    `json:"end"`
	Quantity int64            `json:"quantity" doc:"what comes to this step and is not counted yet"`
}

// Ingredient is a line to weigh.
type Ingredient struct {
	Name   string            `json:"name"`
	Colour string            `json:"colour,omitempty"`
	Weigh  studio.Milligrams `json:"weighMilligrams"`
	Exact  studio.Milligrams `json:"exactMilligrams"`
	Rule   string            `json:"rule"`
	Share  int64             `json:"share"`
	Drops  int64             `json:"drops,omitempty" doc:"of what is counted in drops"`
	// TooLittle is true of what the scale cannot weigh to within a twentieth.
	TooLittle bool `json:"tooLittle,omitempty"`
	// Weighed is what was on the scale, once it is weighed in.
	Weighed *studio.Milligrams `json:"weighedMilligrams,omitempty"`
}

// MixUse is what one lot takes of a mixing.
type MixUse struct {
	paste.Use
	Name string `json:"name"`
}

// WiresView are the cutting sheets of what is taken up in the coming days.
type WiresView struct {
	N      int64          `json:"n"`
	To     studio.Minute  `json:"to" doc:"the wires are those that are taken up before this, and those without a time"`
	Later  []LaterWires   `json:"later" doc:"days after that, with how many wires are taken up first on each"`
	Sheets []WireSheet    `json:"sheets"`
	Others []MaterialLine `json:"others" doc:"tape, stamens and what else is counted out"`
	Keep   int64          `json:"keepOffcutMicrometres"`
	Stems  []flower.Stem  `json:"stems" doc:"what carries each flower that is wanted, and whether it holds"`
}

// LaterWires are the wires of a day that is not shown.
type LaterWires struct {
	Day   studio.Date `json:"day"`
	Wires int64       `json:"wires"`
}

// TapeAnswer is how much tape of the stock is taken.
type TapeAnswer struct {
	Length studio.Micrometres `json:"lengthMicrometres"`
}

// WireSheet is a cutting sheet with names.
type WireSheet struct {
	wire.Sheet
	Name  string      `json:"name"`
	Wire  studio.Wire `json:"wire"`
	Parts []WirePart  `json:"parts"`
}

// WirePart is what the lots of one part in one colour need of a wire.
type WirePart struct {
	wire.Piece
	Name   string `json:"name"`
	Colour string `json:"colour"`
	// Depth, Stem and Allowance make up its length.
	Depth     studio.Micrometres `json:"depthMicrometres" doc:"in the paste"`
	Stem      studio.Micrometres `json:"stemMicrometres"`
	Allowance studio.Micrometres `json:"allowanceMicrometres" doc:"for its hook"`
}

// quantities is what mix sheets show of what is recorded.
var quantities = []string{"work", "stores"}

func (s *Service) registerQuantities(to huma.API) {
	type window struct {
		Days int64 `query:"days" minimum:"1" maximum:"400" default:"3" doc:"how many days, today among them"`
	}
	past := func(at *moment, days int64) studio.Minute {
		return at.Calendar.At(at.Calendar.Date(at.Now+1440*studio.Minute(days)), 0)
	}
	kept(s, to, get("/mixing", "get-mixing", "What to weigh in the coming days"),
		shows{topics: quantities, planned: true, now: true},
		func(_ context.Context, at *moment, in *window) (MixingView, error) {
			return at.mixingView(past(at, in.Days)), nil
		})
	type one struct {
		Lot string `path:"lot"`
	}
	kept(s, to, get("/mixing/{lot}", "open-mix", "What a mix sheet's figures come from"),
		shows{topics: quantities, planned: true},
		func(_ context.Context, at *moment, in *one) (OpenedMix, error) {
			return at.inForce.openedMix(studio.ID(in.Lot))
		})
	type taping struct{ Body wire.Taping }
	ask(s, to, post("/wires/tape", "reckon-tape", "", "How much tape a stem takes; nothing is written"),
		func(_ context.Context, _ *moment, in *taping) (TapeAnswer, error) {
			return TapeAnswer{wire.Tape(in.Body)}, nil
		})
	type wiring struct {
		Days int64 `query:"days" minimum:"1" maximum:"400" default:"400" doc:"how many days, today among them"`
	}
	kept(s, to, get("/wires", "get-wires", "What to cut in the coming days"),
		shows{topics: []string{"orders", "work"}, planned: true, now: true},
		func(_ context.Context, at *moment, in *wiring) (WiresView, error) {
			return at.wiresView(past(at, in.Days)), nil
		})
}

// mixingView are the mixes whose weighing is planned before a minute, or has no time.
func (at *moment) mixingView(until studio.Minute) MixingView {
	a := at.inForce
	v := MixingView{N: at.N, To: until, Density: a.Doc.Settings.DensityMgPerMl, Mixes: []MixCard{},
		Later: []LaterMixes{}, Notes: []count.Note{},
		Unused: []Taken{}, Materials: a.materials(true)}
	for _, note := range a.Count.Notes {
		if r := a.Book.Recipe(note.Recipe); r != nil && r.Kind == studio.KindMix {
			v.Notes = append(v.Notes, note)
		}
	}
	var shown []paste.MixSheet
	later := map[studio.Date]*LaterMixes{}
	for _, sheet := range a.MixSheets() {
		c := a.mixCard(sheet)
		if c.Task == nil || c.Task.Start < until {
			v.Mixes, shown = append(v.Mixes, c), append(shown, sheet)
			continue
		}
		day := at.Calendar.Date(c.Task.Start)
		if later[day] == nil {
			later[day] = &LaterMixes{Day: day}
		}
		later[day].Mixings, later[day].ToMix = later[day].Mixings+1, later[day].ToMix+c.ToMix
	}
	for _, day := range slices.SortedFunc(maps.Keys(later), studio.Date.Compare) {
		v.Later = append(v.Later, *later[day])
	}
	var open []paste.Mixing
	for _, c := range v.Mixes {
		if c.Task != nil && c.Task.State == studio.TaskPlanned && !c.Weighed {
			open = append(open, paste.Mixing{Lot: c.Lot, Mix: c.Mix, At: c.Task.Start, Keeps: c.UseBy})
		}
	}
	together := paste.Together(open, at.Calendar.Date)
	for i := range v.Mixes {
		v.Mixes[i].Once = together[v.Mixes[i].Lot]
	}
	v.Ladders = paste.Ladders(a.Book, shown, a.Plan.Links)
	for _, s := range a.Doc.Shelf {
		r := a.Book.Recipe(s.Recipe)
		if r.Kind != studio.KindMix {
			continue
		}
		if same := slices.IndexFunc(v.Unused, func(t Taken) bool { return t.What == r.Name }); same >= 0 {
			v.Unused[same].Amount += s.Amount
			continue
		}
		v.Unused = append(v.Unused, Taken{What: r.Name, Amount: s.Amount, Unit: "mg", Colour: r.Colour, Detail: ""})
	}
	return v
}

func (a *answer) mixCard(sheet paste.MixSheet) MixCard {
	r := a.Book.Recipe(sheet.Mix)
	c := MixCard{Lot: sheet.Lot, Mix: sheet.Mix, Used: sheet.Used, ToMix: sheet.ToMix, UseBy: sheet.UseBy,
		Name: r.Name, Colour: r.Colour, Weigh: []Ingredient{}, Least: sheet.Least,
		Met: append([]AllergyMet{}, a.metAt(*a.Lots[sheet.Lot], r.Steps, a.OrdersOf(sheet.Lot))...)}
	lot := a.Doc.Begun(*a.Lots[sheet.Lot])
	if t := a.Tasks[studio.TaskID(sheet.Lot, r.Steps[0].Key)]; t != nil {
		c.Task = &TaskLine{ID: t.ID, State: t.State, Person: t.Person, Start: t.Start, End: t.End,
			Quantity: lot.Left(r, t.Step)}
	}
	if record := lot.Record(r.Steps[0].Key); record != nil {
		c.Weighed = len(record.Weighed) > 0
	}
	for i, p := range sheet.Portions {
		in := a.ingredient(p)
		if record := lot.Record(r.Steps[0].Key); record != nil && i < len(record.Weighed) {
			in.Weighed = &record.Weighed[i]
		}
		c.Weigh = append(c.Weigh, in)
	}
	return c
}

// openedMix is a mix sheet with what it goes into, and how its amount was worked out.
func (a *answer) openedMix(lot studio.ID) (OpenedMix, error) {
	for _, sheet := range a.MixSheets() {
		if sheet.Lot != lot {
			continue
		}
		o := OpenedMix{MixCard: a.mixCard(sheet), For: []MixUse{}, Workings: []studio.Working{}}
		for _, u := range sheet.Uses {
			o.For = append(o.For, MixUse{Use: u, Name: a.Book.Of(a.Lots[u.Lot].Made()).Name})
		}
		for _, item := range a.Count.Items {
			for _, w := range item.Workings {
				if item.Key == a.Lots[lot].Key && (len(w.Lots) == 0 || slices.Contains(w.Lots, lot)) {
					o.Workings = append(o.Workings, w)
				}
			}
		}
		return o, nil
	}
	return OpenedMix{}, store.NotFound{Thing: "this mixing"}
}

// wanted are the recipes that open orders want, each once.
func (a *answer) wanted() []studio.Made {
	var all []studio.Made
	for _, o := range a.Doc.Orders {
		for _, l := range o.Lines {
			if o.State == studio.OrderOpen && !slices.Contains(all, l.Made()) {
				all = append(all, l.Made())
			}
		}
	}
	return all
}

// materials lists what is needed of the materials that are, or are not, weighed.
func (a *answer) materials(weighed bool) []MaterialLine {
	lines := []MaterialLine{}
	for _, need := range a.Materials() {
		i := slices.IndexFunc(a.Doc.Materials, func(m studio.Material) bool { return m.ID == need.Material })
		if m := a.Doc.Materials[i]; m.Wire == nil && (m.Unit == studio.UnitMilligrams) == weighed {
			lines = append(lines, MaterialLine{MaterialNeed: need, Name: m.Name, Unit: m.Unit})
		}
	}
	return lines
}

func (a *answer) ingredient(p paste.Portion) Ingredient {
	in := Ingredient{Weigh: p.Weigh, Exact: p.Exact, Rule: "parts", Share: p.Parts, Drops: p.Drops,
		TooLittle: p.TooLittle}
	if p.Per100g > 0 {
		in.Rule, in.Share = "per 100 g", int64(p.Per100g)
	}
	if mix := a.Book.Recipe(p.Mix); mix != nil {
		in.Name, in.Colour = mix.Name, mix.Colour
	} else {
		in.Name = a.material(p.Material)
	}
	return in
}

// begins is when a task begins; false where it has no time.
func (a *answer) begins(task studio.ID) (studio.Minute, bool) {
	t := a.Tasks[task]
	if t == nil {
		return 0, false
	}
	return t.Start, true
}

// wiresView are the wires that are taken up before a minute, cut together.
func (at *moment) wiresView(until studio.Minute) WiresView {
	a := at.inForce
	v := WiresView{N: at.N, To: until, Later: []LaterWires{}, Sheets: []WireSheet{}, Others: a.materials(false),
		Keep: int64(a.Doc.Settings.KeepOffcut)}
	v.Stems = flower.Stems(a.Doc, a.Book, a.wanted())
	lots := map[studio.ID]studio.Lot{}
	var soon, others []studio.Lot
	days := map[studio.Date][]studio.Lot{}
	for _, l := range a.Plan.Lots {
		lots[l.ID] = l
		if first, timed := wire.First(a.Book, &l, a.begins); timed && first >= until {
			others, days[at.Calendar.Date(first)] = append(others, l), append(days[at.Calendar.Date(first)], l)
		} else {
			soon = append(soon, l)
		}
	}
	for _, day := range slices.SortedFunc(maps.Keys(days), studio.Date.Compare) {
		later := LaterWires{Day: day}
		for _, pieces := range wire.Pieces(a.Book, days[day]) {
			for _, piece := range pieces {
				later.Wires += piece.Number
			}
		}
		v.Later = append(v.Later, later)
	}
	sheets := a.Sheets()
	if len(others) > 0 {
		sheets = wire.Sheets(a.Doc, soon)
	}
	for _, sheet := range sheets {
		i := slices.IndexFunc(a.Doc.Materials, func(m studio.Material) bool { return m.ID == sheet.Material })
		w := WireSheet{
			Sheet: sheet,
			Name:  a.Doc.Materials[i].Name,
			Wire:  *a.Doc.Materials[i].Wire,
			Parts: []WirePart{},
		}
		for _, piece := range sheet.Pieces {
			l := lots[piece.Lot]
			r := a.Book.Of(l.Made())
			part := WirePart{Piece: piece, Name: r.Name}
			part.Colour, _ = a.swatch(l.Made(), l.Mixes)
			if same := slices.IndexFunc(w.Parts, func(p WirePart) bool {
				return p.Name == part.Name && p.Colour == part.Colour && p.Length == part.Length
			}); same >= 0 {
				w.Parts[same].Number += piece.Number
				continue
			}
			for _, in := range r.Wires {
				if in.Material == sheet.Material && wire.Length(in) == piece.Length {
					part.Depth, part.Stem, part.Allowance = in.Depth, in.Stem, in.Allowance
				}
			}
			w.Parts = append(w.Parts, part)
		}
		v.Sheets = append(v.Sheets, w)
	}
	return v
}
