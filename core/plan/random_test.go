package plan_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// author writes random studios that are valid: every kind of step, input, window,
// hold, tool, machine, gate, stock and fact may come into them.
type author struct {
	t   *rapid.T
	doc *studio.Document
}

func (a author) n(what string, from, to int) int64 {
	return int64(rapid.IntRange(from, to).Draw(a.t, what))
}

func (a author) one(what string, in int) bool { return a.n(what, 1, in) == 1 }

func oneOf[T any](a author, what string, all ...T) T { return rapid.SampledFrom(all).Draw(a.t, what) }

func (a author) write() {
	d := a.doc
	settings := studio.DefaultSettings()
	settings.HorizonMinutes = 21 * 1440
	*d = studio.Document{
		Format:   studio.Format,
		Version:  studio.Version,
		Name:     "Pellowen Yard",
		Epoch:    time.Date(2027, 9, 1, 0, 0, 0, 0, time.UTC),
		Zone:     "Europe/Dublin",
		Now:      studio.Minute(19*1440 + a.n("now", 400, 1000)),
		Settings: settings,
	}
	for range 24 {
		d.Climate = append(
			d.Climate,
			studio.Air{TenthsCelsius: a.n("warm", 170, 220), HumidityPerMille: studio.PerMille(a.n("damp", 500, 830))},
		)
	}
	d.Surroundings = []studio.Surroundings{{ID: "cupboard", Name: "Dry cupboard", Hours: d.Climate, Closed: true}}
	if a.one("reading", 2) {
		d.Readings = []studio.Reading{
			{Hour: int64(d.Now / 60), Air: studio.Air{TenthsCelsius: 200, HumidityPerMille: 500}},
		}
	}
	d.DryingClasses = []studio.DryingClass{
		{
			ID:             "petal",
			Name:           "Petal",
			FirmMinutes:    20,
			StiffMinutes:   a.n("stiff", 21, 120),
			DryMinutes:     240,
			Thickness:      800,
			Spread:         200,
			StallHumidity:  800,
			SoftensMinutes: 60,
		},
		{
			ID:            "cone",
			Name:          "Cone",
			FirmMinutes:   60,
			StiffMinutes:  300,
			DryMinutes:    700,
			Thickness:     10_000,
			Spread:        100,
			StallHumidity: 850,
			Percentile:    90,
		}}
	d.Methods = []studio.Method{{ID: "hanging", Name: "Hanging", Factor: 800}}
	d.Places = []studio.Place{
		{ID: "tray", Name: "Spoon tray", Slots: a.n("trays", 2, 30)},
		{ID: "board", Name: "Board", Slots: a.n("boards", 1, 9)},
		{
			ID:           "sleeve",
			Name:         "Sleeve",
			Slots:        a.n("sleeves", 2, 20),
			KeepsMinutes: studio.Minute(a.n("keeps", 60, 3000)),
		},
		{ID: "rail", Name: "Hanging rail", Slots: a.n("rails", 2, 20), In: "cupboard"},
	}
	d.Tools = []studio.Tool{
		{ID: "veiner", Name: "Large veiner", Number: 1, StandIns: []studio.ID{"roller"}},
		{ID: "roller", Name: "Roller", Number: 1},
	}
	d.Machines = []studio.Machine{
		{ID: "dehydrator", Name: "Dehydrator", Slots: a.n("dehydrator", 3, 30)},
		{ID: "oven", Name: "Oven", Slots: 20},
	}
	d.Materials = []studio.Material{
		{ID: "paste", Name: "Flower paste", Unit: studio.UnitMilligrams, OnHand: 1 << 40},
		{ID: "colour", Name: "Colour", Unit: studio.UnitMilligrams, OnHand: 1 << 40},
		{
			ID:     "stamens",
			Name:   "Stamens",
			Unit:   studio.UnitPieces,
			OnHand: a.n("stamens", 0, 40),
		},
		{ID: "strips", Name: "Paper strips", Unit: studio.UnitPieces, OnHand: 9999},
		{
			ID:     "wire",
			Name:   "Wire 26, white",
			Unit:   studio.UnitPieces,
			OnHand: 9999,
			Wire:   &studio.Wire{Gauge: 26, Cover: "white paper", Length: 360_000, Diameter: 460},
		},
	}
	opens := d.Now + studio.Minute(a.n("opens", 0, 4000))
	d.Gates = []studio.Gate{
		{ID: "delivery", Name: "Stamens", Opens: &opens, Material: "stamens", Amount: 50},
		{ID: "approval", Name: "Kelp approved", Opens: &opens, Mixes: []studio.ID{"kelp"}},
		{ID: "box", Name: "Boxes", Opens: &opens},
	}
	d.Families = []studio.Family{
		{
			ID:          "brushes",
			Name:        "Brushes",
			FullMinutes: 9,
			Reset:       oneOf(a, "reset", studio.ResetNever, studio.ResetNight, studio.ResetOtherWork),
			Changes:     []studio.Change{{From: "white", To: "kelp", Minutes: 4}},
		},
	}
	a.people()
	a.mixes()
	a.book()
	a.orders()
	a.stock()
}

func (a author) people() {
	for i, name := range []string{"Odalys", "Teun", "Maren"} {
		p := studio.Person{
			ID:      studio.ID(name),
			Name:    name,
			Breaks:  []studio.BreakTime{{From: 720, To: 780}},
			Colours: map[studio.ID]studio.ID{"brushes": "white"},
		}
		for _, skill := range []string{"mixing", "shaping", "dusting", "assembly"} {
			if i == 0 || a.one("skilled", 2) {
				p.Skills = append(p.Skills, studio.Skill{Skill: skill, Pace: oneOf(a, "pace", int64(80), 100, 125)})
			}
		}
		for _, day := range []studio.Weekday{"monday", "tuesday", "wednesday", "thursday", "friday"} {
			p.Hours = append(p.Hours, studio.DayHours{Day: day, From: 480, To: 1020})
		}
		if a.one("overtime", 3) {
			p.Overtime = []studio.DayHours{
				{Day: "tuesday", From: 1020, To: 1140},
				{Day: "saturday", From: 480, To: 720},
			}
		}
		if a.one("away", 3) {
			p.Away = []studio.Date{studio.MustDate("2027-09-22")}
		}
		a.doc.People = append(a.doc.People, p)
	}
}

func (a author) orders() {
	for i := range a.n("orders", 1, 3) {
		d := a.doc
		o := studio.Order{
			ID:     studio.ID(fmt.Sprint("order ", i)),
			Name:   fmt.Sprint("Order ", i),
			Leaves: studio.MustWallTime(fmt.Sprintf("2027-09-%02dT14:00", a.n("leaves", 22, 30))),
			Importance: a.n(
				"importance",
				1,
				100,
			),
			State: oneOf(a, "state", studio.OrderOpen, studio.OrderOpen, studio.OrderQuote),
		}
		for k := range a.n("lines", 1, 2) {
			o.Lines = append(
				o.Lines,
				studio.OrderLine{
					ID:     studio.ID(fmt.Sprint(o.ID, " line ", k)),
					Recipe: oneOf(a, "wants", studio.ID("Anemone"), "Spray", "Core"),
					Colourway: oneOf(
						a,
						"in",
						studio.ID("Oyster"),
						"Kelp",
					),
					Quantity:     a.n("quantity", 1, 4),
					ServiceLevel: 900,
				},
			)
		}
		d.Orders = append(d.Orders, o)
	}
}

func (a author) stock() {
	d := a.doc
	mixes := map[string]studio.ID{"petal": "white", "core": "white", "dust": "kelp"}
	if a.one("shelf", 2) {
		useBy := d.Now + studio.Minute(a.n("use-by", 0, 9000))
		d.Shelf = append(
			d.Shelf,
			studio.ShelfLot{
				ID:      "petals",
				Recipe:  "Petal",
				Mixes:   mixes,
				Amount:  a.n("on the shelf", 0, 20),
				Quality: oneOf(a, "quality", studio.Good, studio.Second),
				MadeOn:  d.Now - 1440,
				UseBy:   &useBy,
			},
		)
	}
	book := studio.NewBook(d)
	if r := book.Recipe("Core"); r.OutputStep() > 0 && a.one("half made", 2) {
		_, at := r.Step("s0")
		_, past := r.Task(at)
		if past <= r.OutputStep() && (r.Steps[at+1].Wait == nil || r.Steps[at+1].Wait.Load == nil) {
			d.Shelf = append(
				d.Shelf,
				studio.ShelfLot{
					ID:      "half",
					Recipe:  "Core",
					Mixes:   mixes,
					Reached: "s0",
					Amount:  a.n("half", 1, 20),
					Quality: studio.Good,
					MadeOn:  d.Now - 1440,
				},
			)
		}
	}
}

// reserve keeps some of the stock for orders, or back from them.
func (a author) reserve() {
	d := a.doc
	for i := range d.Shelf {
		for _, o := range append(d.Orders, studio.Order{}) {
			if a.one("reserved", 3) {
				d.Shelf[i].Reserved = append(
					d.Shelf[i].Reserved,
					studio.Claim{Order: o.ID, Quantity: a.n("reserved pieces", 1, 12)},
				)
			}
		}
	}
}

// decide has the lead decide on some of the lots, and change them.
func (a author) decide(counted *count.Result) {
	for _, l := range counted.Lots {
		if l.InWork || l.From != "" || !a.one("decided", 4) {
			continue
		}
		d := studio.DecidedLot{
			Recipe:  l.Recipe,
			Variant: l.Variant,
			Mixes:   l.Mixes,
			Ordinal: l.Ordinal,
			Need:    max(1, l.Need+a.n("more or fewer", -2, 5)),
		}
		if a.one("number to start", 2) {
			d.Started = max(1, l.Started+a.n("started", -4, 4))
		}
		if a.one("moved", 3) {
			due := a.doc.Now + studio.Minute(a.n("to", -1000, 20_000))
			d.Due = &due
		}
		a.doc.Decided = append(a.doc.Decided, d)
	}
}

// begin has things happen: of some lots, the first tasks were done and the next may
// have been begun, by Odalys, one after the other.
func (a author) begin(counted *count.Result) {
	d := a.doc
	book := studio.NewBook(d)
	at := d.Now - 4000
	busy := false
	for _, l := range counted.Lots {
		if l.InWork || at > d.Now-200 || !a.one("begun", 4) {
			continue
		}
		r := book.Of(l.Made())
		w := studio.WorkLot{
			ID:      l.ID,
			Recipe:  l.Recipe,
			Variant: l.Variant,
			Mixes:   l.Mixes,
			Ordinal: l.Ordinal,
			Need:    l.Need,
			Started: l.Started,
			From:    l.From,
			Reached: l.Reached,
		}
		for i := l.NextStep; i < len(r.Steps); {
			s := r.Steps[i]
			_, past := r.Task(i)
			i = past
			if s.Work == nil {
				continue
			}
			record := studio.TaskRecord{Step: s.Key, State: studio.TaskDone, Person: "Odalys", Start: at, End: at + 20}
			at += 25
			entering := w.Left(r, s.Key)
			record.Broken = min(entering, a.n("broken", 0, 2))
			if r.Kind == studio.KindMix {
				record.Broken = 0
			}
			if s.Mend != nil {
				record.Mend = min(entering-record.Broken, a.n("to mend", 0, 2))
			}
			record.Good = entering - record.Broken - record.Mend
			if !busy && a.one("running", 3) {
				record.State, record.End, busy = oneOf(
					a,
					"running or paused",
					studio.TaskStarted,
					studio.TaskPaused,
				), 0, true
				record.Good = max(0, record.Good-3)
			}
			w.Records = append(w.Records, record)
			if record.State != studio.TaskDone || record.Mend > 0 || !a.one("further", 2) {
				break
			}
		}
		for k := range d.Shelf {
			if d.Shelf[k].ID == l.From {
				d.Shelf[k].Amount -= l.Started
			}
		}
		if p := w.Progress(r); p.Made {
			d.Shelf = append(
				d.Shelf,
				studio.ShelfLot{
					ID:      "made " + w.ID,
					Recipe:  w.Recipe,
					Variant: w.Variant,
					Mixes:   w.Mixes,
					Amount:  p.Alive,
					Quality: studio.Good,
					MadeOn:  at,
					From:    w.ID,
				},
			)
		}
		d.Work = append(d.Work, w)
	}
}

func throughTheCore(t *rapid.T) {
	a := author{t, &studio.Document{}}
	a.write()
	require.Empty(t, a.doc.Validate())
	counted, err := count.Up(a.doc)
	require.NoError(t, err)
	a.begin(counted)
	a.reserve()
	if counted, err = count.Up(a.doc); err == nil {
		a.decide(counted)
	}
	require.NoError(t, err)
	data, err := json.Marshal(a.doc)
	require.NoError(t, err)
	doc, err := studio.Read(bytes.NewReader(data))
	require.NoError(t, err)
	counted, err = count.Up(doc)
	require.NoError(t, err)
	p, err := plan.Make(doc, counted, plan.Options{Steps: 60})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, p))
	pieces, latest := spoilt(t, doc, p)
	require.Zero(t, pieces, "pieces are taken up up to %g minutes too late", latest)
	for _, u := range p.Unplaced {
		require.NotEmpty(t, u.Reason, "%v says why", u.Task)
	}
}

// Whatever a studio is and whatever has happened in it: it is read, counted and
// planned without a breach.
func TestRandomStudiosGoThroughTheCore(t *testing.T) { rapid.Check(t, throughTheCore) }

// go test ./core/plan -fuzz RandomStudios
func FuzzRandomStudios(f *testing.F) { f.Fuzz(rapid.MakeFuzz(throughTheCore)) }
