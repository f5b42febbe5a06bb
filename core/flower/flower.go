// Package flower answers what one flower is: what it takes in pieces, paste, wire
// and minutes, how its making lies along time when nothing else is made, what it
// looks like, and whether its proportions are plausible.
//
// A Sheet is reckoned by the studio's own count-up and routing, of an order of so
// many and nothing else, without spares and stock: so it can not differ from what an
// order of the flower will ask for.
package flower

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"bractum/core/count"
	"bractum/core/paste"
	"bractum/core/studio"
	"bractum/core/wire"
)

// Wanted is what a sheet is reckoned of: a recipe in a variant, in the mixes that a
// colourway gives to its slots, so many of it.
type Wanted struct {
	studio.Made
	Colours  map[string]studio.ID
	Quantity int64
}

// Sheet is everything a recipe comes to.
type Sheet struct {
	Quantity  int64    `json:"quantity"`
	Missing   []string `json:"missing"` // colour slots that have no mix
	Pieces    []Pieces `json:"pieces"`
	Pastes    []Paste  `json:"pastes"`
	Wires     []Wires  `json:"wires"`
	Materials []Amount `json:"materials"`
	// Setup is charged once, Attended for the pieces, both at a pace of 100.
	Setup    studio.Milliminutes `json:"setupMilliminutes"`
	Attended studio.Milliminutes `json:"attendedMilliminutes"`
	// Elapsed is from the first cut to the last wait, with hands always free, in
	// standard air, each wait as long as the planner waits.
	Elapsed studio.Minute `json:"elapsedMinutes"`
	// Mass is that of the paste and the wire of one.
	Mass  studio.Milligrams `json:"massMilligrams"`
	Lanes []Lane            `json:"lanes"`
	// Batch is how many of it are made at once for their pieces to stay as they are wanted; nil
	// where nothing limits them.
	Batch *count.Batch `json:"batch,omitempty"`
	// Schools are making it in phases and in runs, side by side; none where it takes up nothing fresh.
	Schools  []School `json:"schools,omitempty"`
	Portrait Portrait `json:"portrait"`
}

// Subject is what something is said of: a recipe in a variant, what it is called and
// looks like, and the colour it shows.
type Subject struct {
	Recipe  studio.ID   `json:"recipe"`
	Variant string      `json:"variant,omitempty"`
	Name    string      `json:"name"`
	Form    string      `json:"form"`
	Kind    studio.Kind `json:"kind"`
	Colour  string      `json:"colour"`
}

func subject(book *studio.Book, made studio.Made, mixes map[string]studio.ID) Subject {
	r := book.Of(made)
	return Subject{
		Recipe:  made.Recipe,
		Variant: made.Variant,
		Name:    r.Name,
		Form:    r.Form,
		Kind:    r.Kind,
		Colour:  colourOf(book, r, mixes),
	}
}

// Pieces is how many of a recipe are made.
type Pieces struct {
	Subject
	Count int64 `json:"count"`
}

// Paste is how much of a mix is in it, before loss.
type Paste struct {
	Mix    studio.ID         `json:"mix"`
	Name   string            `json:"name"`
	Colour string            `json:"colour"`
	Mass   studio.Milligrams `json:"massMilligrams"`
}

// Wires are pieces of wire of one length.
type Wires struct {
	Material studio.ID          `json:"material"`
	Name     string             `json:"name"`
	Length   studio.Micrometres `json:"lengthMicrometres"`
	Number   int64              `json:"number"`
}

// Amount is how much of a bought material goes in.
type Amount struct {
	Material studio.ID   `json:"material"`
	Name     string      `json:"name"`
	Unit     studio.Unit `json:"unit"`
	Amount   int64       `json:"amount"`
}

const unchosen = studio.ID("~no mix")

// Reckon makes the sheet of something that a valid document's flower book holds.
func Reckon(doc *studio.Document, w Wanted) (*Sheet, error) {
	book := studio.NewBook(doc)
	top := book.Of(w.Made)
	if top == nil {
		return nil, fmt.Errorf("no recipe %q in variant %q", w.Recipe, w.Variant)
	}
	w.Quantity = max(1, w.Quantity)
	if top.Kind == studio.KindMix {
		return mixed(doc, book, top), nil
	}
	mixes, missing := book.Resolve(w.Made, w.Colours)
	for _, slot := range missing {
		mixes[slot] = unchosen
	}
	alone := only(doc, book, w, mixes)
	counted, err := count.Up(alone)
	if err != nil {
		return nil, err
	}
	s := &Sheet{
		Quantity:  w.Quantity,
		Missing:   append([]string{}, missing...),
		Pieces:    []Pieces{},
		Pastes:    []Paste{},
		Wires:     []Wires{},
		Materials: []Amount{},
	}
	batch, err := count.BatchOf(doc, book, w.Made, mixes)
	if err != nil {
		return nil, err
	}
	if batch.Most > 0 || batch.Run > 0 {
		s.Batch = &batch
	}
	if s.Schools, err = schools(doc, book, w, mixes); err != nil {
		return nil, err
	}
	book = studio.NewBook(alone)
	s.amounts(alone, book, counted)
	s.alongTime(alone, book, counted)
	s.Portrait = PortraitOf(book, w.Made, mixes)
	return s, nil
}

// only is the document with nothing in it but what is wanted, in standard air.
func only(doc *studio.Document, book *studio.Book, w Wanted, mixes map[string]studio.ID) *studio.Document {
	alone := *doc
	alone.Shelf, alone.Work, alone.Pins, alone.Seen, alone.Readings, alone.Ordinals, alone.Gates = nil, nil, nil, nil, nil, nil, nil
	alone.Decided, alone.Divided = nil, nil
	alone.Surroundings = slices.Clone(doc.Surroundings)
	air := make([]studio.Air, 24)
	for hour := range air {
		air[hour] = studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}
	}
	alone.Climate, alone.Now = air, 0
	for i := range alone.Surroundings {
		alone.Surroundings[i].Hours = air
	}
	alone.Recipes = []studio.Recipe{
		{ID: unchosen, Name: "no mix chosen", Kind: studio.KindMix, Colour: "#e9e2d6", LifeMinutes: 1440,
			Steps: []studio.Step{{Key: "mix", Name: "Mix", Work: &studio.Work{Skill: "mixing"}}}},
	}
	for _, r := range Closure(doc, book, []studio.ID{w.Recipe}, mixes) {
		r.Spares, r.LeastPerLot, r.KeepInStock, r.MostPerLot = studio.Spares{Rule: studio.SparesNone}, 0, 0, 0
		r.Variants = slices.Clone(r.Variants)
		for i := range r.Variants {
			r.Variants[i].Spares = nil
		}
		r.Techniques = slices.Clone(r.Techniques)
		for i := range r.Techniques {
			r.Techniques[i].Schools = slices.Clone(r.Techniques[i].Schools)
			for j := range r.Techniques[i].Schools {
				r.Techniques[i].Schools[j].Spares = nil
			}
		}
		alone.Recipes = append(alone.Recipes, r)
	}
	alone.Settings.GatheringMinutes = alone.Settings.HorizonMinutes
	alone.Colourways = []studio.Colourway{{ID: "colours", Name: "as chosen", Slots: mixes}}
	alone.Settings.HorizonMinutes = max(alone.Settings.HorizonMinutes, 400*1440) // however long it takes
	leaves := studio.WallTimeOf(alone.Epoch.AddDate(0, 0, 300))
	alone.Orders = []studio.Order{{ID: "one", Name: "one", Leaves: leaves, Importance: 10, State: studio.OrderOpen,
		Lines: []studio.OrderLine{
			{
				ID:           "line",
				Recipe:       w.Recipe,
				Variant:      w.Variant,
				Colourway:    "colours",
				Quantity:     w.Quantity,
				ServiceLevel: 900,
			},
		}}}
	return &alone
}

// Closure lists copies of the recipes with these ids and of all that they need, and
// of mixes given besides, in the document's order.
func Closure(doc *studio.Document, book *studio.Book, ids []studio.ID, mixes map[string]studio.ID) []studio.Recipe {
	wanted := map[studio.ID]bool{}
	var want func(studio.ID)
	want = func(id studio.ID) {
		r := book.Recipe(id)
		if id == "" || wanted[id] || r == nil {
			return
		}
		wanted[id] = true
		i := slices.IndexFunc(doc.Recipes, func(o studio.Recipe) bool { return o.ID == id })
		for _, below := range doc.Recipes[i].Needs() {
			want(below)
		}
	}
	for _, id := range ids {
		want(id)
	}
	for _, mix := range mixes {
		want(mix)
	}
	var all []studio.Recipe
	for _, r := range doc.Recipes {
		if wanted[r.ID] {
			all = append(all, r)
		}
	}
	return all
}

// amounts adds up what the lots take.
func (s *Sheet) amounts(doc *studio.Document, book *studio.Book, counted *count.Result) {
	pastes, wires, materials := map[studio.ID]studio.Milligrams{}, map[Wires]int64{}, map[studio.ID]int64{}
	lines := map[string]int{} // of pieces, by key: batches of one are one line
	for i := range counted.Lots {
		l := &counted.Lots[i]
		r := book.Of(l.Made())
		for at, step := range r.Steps {
			if step.Work != nil && r.Kind != studio.KindMix {
				pieces := r.Pieces(at, l.Started)
				s.Attended += r.Effort(step.Work, false, pieces)
				s.Setup += step.Work.Setup
			}
		}
		if r.Kind == studio.KindMix {
			continue
		}
		if at, known := lines[l.Key]; known {
			s.Pieces[at].Count += l.Started
		} else {
			lines[l.Key] = len(s.Pieces)
			s.Pieces = append(s.Pieces, Pieces{Subject: subject(book, l.Made(), l.Mixes), Count: l.Started})
		}
		for _, p := range r.Pastes {
			pastes[l.Mixes[p.Slot]] += studio.Milligrams(
				r.Cut(p, l.Started),
			) * paste.Mass(
				p.Shape,
				doc.Settings.DensityMgPerMl,
			)
		}
		for _, w := range r.Wires {
			wires[Wires{Material: w.Material, Length: wire.Length(w)}] += w.Number * r.At(w.Step, l.Started)
		}
		for _, m := range r.Materials {
			materials[m.Material] += m.Taken(r.At(m.Step, l.Started))
		}
	}
	for _, r := range doc.Recipes {
		if mass := pastes[r.ID]; mass > 0 {
			s.Pastes = append(s.Pastes, Paste{Mix: r.ID, Name: r.Name, Colour: r.Colour, Mass: mass})
			s.Mass += mass
		}
	}
	for _, m := range doc.Materials {
		if m.Wire != nil {
			for w, number := range wires {
				if w.Material == m.ID {
					s.Wires = append(s.Wires, Wires{Material: m.ID, Name: m.Name, Length: w.Length, Number: number})
					s.Mass += wire.Mass(m.Wire.Diameter, w.Length) * studio.Milligrams(number)
				}
			}
		}
		if amount := materials[m.ID]; amount > 0 {
			s.Materials = append(s.Materials, Amount{Material: m.ID, Name: m.Name, Unit: m.Unit, Amount: amount})
		}
	}
	slices.SortStableFunc(s.Wires, func(a, b Wires) int {
		return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(b.Length, a.Length))
	})
	s.Mass = studio.Milligrams(math.Ceil(float64(s.Mass) / float64(s.Quantity)))
}

// mixed is the sheet of 100 g of a mix.
func mixed(doc *studio.Document, book *studio.Book, r *studio.Recipe) *Sheet {
	s := &Sheet{
		Quantity:  1,
		Missing:   []string{},
		Pieces:    []Pieces{},
		Pastes:    []Paste{},
		Wires:     []Wires{},
		Materials: []Amount{},
		Mass:      100_000,
	}
	for _, p := range paste.Weigh(r, 100_000, 1) {
		if mix := book.Recipe(p.Mix); mix != nil {
			s.Pastes = append(s.Pastes, Paste{Mix: mix.ID, Name: mix.Name, Colour: mix.Colour, Mass: p.Exact})
			continue
		}
		for _, m := range doc.Materials {
			if m.ID == p.Material {
				s.Materials = append(
					s.Materials,
					Amount{Material: m.ID, Name: m.Name, Unit: m.Unit, Amount: int64(p.Exact)},
				)
			}
		}
	}
	s.Portrait = PortraitOf(book, studio.Made{Recipe: r.ID}, nil)
	lane := Lane{Subject: subject(book, studio.Made{Recipe: r.ID}, nil), Count: 1, Spans: []Stretch{}}
	for i, step := range r.Steps {
		span := Stretch{Step: step.Key, Name: step.Name, From: s.Elapsed}
		if step.Work != nil {
			span.Glyph = step.Work.Glyph
			effort := r.Effort(step.Work, true, r.Pieces(i, 100_000))
			s.Setup, s.Attended = s.Setup+step.Work.Setup, s.Attended+effort-step.Work.Setup
			span.To = span.From + max(1, effort.Minutes())
		} else {
			span.Wait, span.To = true, span.From+step.Wait.Longest().Minutes
		}
		s.Elapsed = span.To
		lane.Spans = append(lane.Spans, span)
	}
	s.Lanes = []Lane{lane}
	return s
}
