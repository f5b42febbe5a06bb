package studio_test

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

func written(t testing.TB, doc *studio.Document) string {
	data, err := json.MarshalIndent(doc, "", "  ")
	require.NoError(t, err)
	return string(data)
}

func TestADocumentReadsBackAsItWasWritten(t *testing.T) {
	doc := demo.Document()
	read, err := studio.Read(strings.NewReader(written(t, doc)))
	require.NoError(t, err)
	assert.JSONEq(t, written(t, doc), written(t, read))
}

func TestSettingsLeftOutTakeTheDefaults(t *testing.T) {
	text := strings.Replace(written(t, demo.Document()), `"lossPerMille": 80,`, "", 1)
	read, err := studio.Read(strings.NewReader(text))
	require.NoError(t, err)
	assert.EqualValues(t, 80, read.Settings.LossPerMille)
}

func TestUnreadableFilesSayWhere(t *testing.T) {
	good := written(t, demo.Document())
	for _, c := range []struct{ name, text, says string }{
		{"empty", "", "the file is empty"},
		{"not JSON", "{\n  nonsense", "line 2, column"},
		{"unknown field", strings.Replace(good, `"format"`, `"colour": 1, "format"`, 1), `unknown field "colour"`},
		{"wrong type", strings.Replace(good, `"now": `, `"now": "soon`+`", "x": `, 1), "now: a string stands where"},
		{"something behind", good + "{}", "something follows"},
		{"wrong version", strings.Replace(good, `"version": 2`, `"version": 7`, 1), "this program reads"},
		{"bad time of day", strings.Replace(good, `"from": "10:30"`, `"from": "25:99"`, 1), `"25:99" is not a time of day`},
		{"bad weekday", strings.Replace(good, `"monday"`, `"moonday"`, 1), `"moonday" is not a weekday`},
		{"bad date", strings.Replace(good, `"2027-09-24"`, `"2027-02-30"`, 1), `"2027-02-30" is not a date`},
		{"bad leave time", strings.Replace(good, `"2027-09-24T16:00"`, `"tomorrow"`, 1), `"tomorrow" is not a local time`},
	} {
		t.Run(c.name, func(t *testing.T) {
			_, err := studio.Read(strings.NewReader(c.text))
			assert.ErrorContains(t, err, c.says)
		})
	}
}

func TestADocumentTooLargeIsRefused(t *testing.T) {
	_, err := studio.Read(bytes.NewReader(bytes.Repeat([]byte(" "), studio.MostBytes+1)))
	assert.ErrorContains(t, err, "larger than")
}

// Each case breaks one rule of a valid document; exactly that is said, with its place.
func TestValidation(t *testing.T) {
	recipe := func(d *studio.Document, name string) *studio.Recipe {
		for i := range d.Recipes {
			if d.Recipes[i].Name == name {
				return &d.Recipes[i]
			}
		}
		t.Fatal("no recipe " + name)
		return nil
	}
	for _, c := range []struct {
		name   string
		spoil  func(*studio.Document)
		place  string
		phrase string
	}{
		{"a cycle is named", func(d *studio.Document) {
			core := recipe(d, "Magnolia cone")
			core.Parts = []studio.PartInput{{Step: "form", Recipe: demo.ID("Magnolia"), Count: 1}}
		}, `recipes "Magnolia cone"`, "needs itself: Magnolia cone → Magnolia → Magnolia cone"},
		{"mixes too", func(d *studio.Document) {
			recipe(d, "Petal white").Blend[0] = studio.Ingredient{Mix: demo.ID("Oyster ivory"), Parts: 1}
		}, "recipes", "recipes nest without cycles"},
		{"unknown part", func(d *studio.Document) { recipe(d, "Magnolia").Parts[0].Recipe = "gone" }, ".parts[0].recipe", `no part or flower "gone"`},
		{"absurd count", func(d *studio.Document) { recipe(d, "Magnolia").Parts[0].Count = -3 }, ".parts[0].count",
			"is -3; from 1 to 2000"},
		{"input at no step", func(d *studio.Document) { recipe(d, "Magnolia").Parts[0].Step = "bake" }, ".parts[0].step", `"bake" is not a work step`},
		{"wire longer than the wire", func(d *studio.Document) { recipe(d, "Magnolia cone").Wires[0].Stem = 350_000 }, ".wires[0]", "a full wire of \"18 green wire\" has 360 mm"},
		{"hold that never ends", func(d *studio.Document) { recipe(d, "Magnolia cone").Steps[0].Holds[0].Until = "never" }, ".holds[0].until", "a hold ends"},
		{"wait of no kind", func(d *studio.Document) { *recipe(d, "Magnolia cone").Steps[1].Wait = studio.Wait{} }, ".wait", "one of the two"},
		{"work of no time", func(d *studio.Document) {
			w := recipe(d, "Magnolia").Steps[0].Work
			w.Setup, w.PerPiece = 0, 0
		}, ".work", "takes no time"},
		{"bad swatch", func(d *studio.Document) { recipe(d, "Petal white").Colour = "white" }, ".colour", "is not a colour"},
		{"two defaults for one slot", func(d *studio.Document) {
			recipe(d, "Magnolia").Defaults = map[string]studio.ID{"core": demo.ID("Petal white")}
		}, ".parts[0]", "one default mix here and another below"},
		{"nobody's quantity", func(d *studio.Document) { d.Orders[0].Lines[0].Quantity = 0 }, "lines[0].quantity", "is 0; from 1"},
		{"recipe that is not in the book", func(d *studio.Document) { d.Orders[0].Lines[0].Recipe = "rose" }, "lines[0].recipe", `no recipe "rose"`},
		{"colourway that lacks a slot", func(d *studio.Document) { delete(d.Colourways[1].Slots, "petal") }, "lines[0].colourway", "gives no mix for petal"},
		{"order without flowers", func(d *studio.Document) { d.Orders[1].Lines = nil }, "orders[1] \"Lighthouse\".lines", "at least one flower"},
		{"id used twice", func(d *studio.Document) { d.Places[1].ID = d.Places[0].ID }, "places[1]", "used twice"},
		{"hours the wrong way round", func(d *studio.Document) { d.People[0].Hours[0].To = 60 }, "people[0] \"Odalys\".hours", "ends (01:00) before it starts (08:00)"},
		{"a fact from the future", func(d *studio.Document) {
			d.Work = []studio.WorkLot{{ID: "w", Recipe: demo.ID("Waxflower stem"), Mixes: map[string]studio.ID{"petal": demo.ID("Oyster ivory")}, Ordinal: 1, Started: 4,
				Records: []studio.TaskRecord{{Step: "tape", State: studio.TaskStarted, Person: demo.ID("Maren"), Start: d.Now + 1}}}}
		}, "work[0].records[0]", "now is"},
		{"23 hours of air", func(d *studio.Document) { d.Climate = d.Climate[1:] }, "climate", "all 24 hours"},
		{"unknown zone", func(d *studio.Document) { d.Zone = "Harbour" }, "zone", "not an IANA time zone"},
	} {
		t.Run(c.name, func(t *testing.T) {
			doc := demo.Document()
			require.Empty(t, doc.Validate())
			c.spoil(doc)
			problems := doc.Validate()
			require.NotEmpty(t, problems)
			assert.Contains(t, problems[0].Place, c.place)
			assert.Contains(t, problems.Error(), c.phrase)
		})
	}
}

// A day or a time that is none is not made, whatever asks for it; what is made says what it was
// made of.
func TestDaysAndWallTimesAreParsedOnce(t *testing.T) {
	for _, text := range []string{"", "2027-02-29", "2027-9-20", "20.9.2027", "2027-09-20T08:30", "tomorrow"} {
		_, err := studio.ParseDate(text)
		assert.ErrorContains(t, err, "is not a date such as", text)
		assert.Error(t, new(studio.Date).UnmarshalText([]byte(text)), text)
	}
	for _, text := range []string{"", "2027-09-20", "2027-09-20T24:00", "2027-09-20 08:30", "2027-09-20T08:30Z"} {
		_, err := studio.ParseWallTime(text)
		assert.ErrorContains(t, err, "is not a local time such as", text)
	}
	assert.True(t, studio.Date{}.IsZero() && studio.WallTime{}.IsZero())
	day, wall := studio.MustDate("2028-02-28"), studio.MustWallTime("2027-12-31T23:59")
	assert.Equal(t, studio.MustDate("2028-03-01"), day.Next().Next())
	assert.Equal(t, 2, day.Plus(2).Since(day))
	assert.Equal(t, "2028-01-07T23:59", wall.Plus(7).String())
	assert.Equal(t, -1, wall.Compare(wall.Plus(1)))
	assert.True(
		t,
		day == studio.MustDate(day.String()) && wall == studio.MustWallTime(wall.String()),
		"compared with ==",
	)
}

func calendar(t testing.TB) studio.Calendar {
	c, err := studio.NewCalendar(time.Date(2027, 1, 1, 0, 0, 0, 0, time.UTC), demo.Zone)
	require.NoError(t, err)
	return c
}

func TestWallTimeAtTheChangesOfTheClock(t *testing.T) {
	c := calendar(t)
	assert.Equal(
		t,
		"2027-07-01T11:00:00Z",
		c.Time(c.Minute(studio.MustWallTime("2027-07-01T12:00"))).UTC().Format(time.RFC3339),
	)
	assert.Equal(
		t,
		studio.MustWallTime("2027-03-28T02:30"),
		c.Wall(c.Minute(studio.MustWallTime("2027-03-28T01:30"))),
		"a gap moves forward",
	)
	assert.Equal(
		t,
		"2027-10-31T00:30:00Z",
		c.Time(c.Minute(studio.MustWallTime("2027-10-31T01:30"))).UTC().Format(time.RFC3339),
		"the first of two",
	)
	assert.EqualValues(
		t,
		23*60,
		c.At(studio.MustDate("2027-03-29"), 0)-c.At(studio.MustDate("2027-03-28"), 0),
		"a short day",
	)
}

func TestHours(t *testing.T) {
	c := calendar(t)
	p := studio.Person{Away: []studio.Date{studio.MustDate("2027-06-08")},
		Hours: []studio.DayHours{
			{Day: "monday", From: 480, To: 720},
			{Day: "tuesday", From: 480, To: 720},
			{Day: "wednesday", From: 480, To: 720},
		},
		Breaks: []studio.BreakTime{{From: 600, To: 615}}}
	h := studio.HoursOf(
		p,
		c,
		c.At(studio.MustDate("2027-06-07"), 0),
		c.At(studio.MustDate("2027-06-10"), 0),
	) // a Monday on
	monday, wednesday := c.At(studio.MustDate("2027-06-07"), 480), c.At(studio.MustDate("2027-06-09"), 480)
	require.Equal(t, studio.Hours{{From: monday, To: monday + 120}, {From: monday + 135, To: monday + 240},
		{
			From: wednesday,
			To:   wednesday + 120,
		}, {From: wednesday + 135, To: wednesday + 240}}, h, "breaks cut out, the day away left out")

	next, ok := h.Next(monday + 125)
	assert.True(t, ok)
	assert.Equal(t, monday+135, next)
	_, ok = h.Next(wednesday + 240)
	assert.False(t, ok, "the hours run out")
	end, pauses, ok := h.Advance(monday+100, 150)
	assert.True(t, ok)
	assert.Equal(t, wednesday+25, end, "20 before the break, 105 after it, 25 two days later")
	assert.Equal(t, []studio.Span{{From: monday + 120, To: monday + 135}, {From: monday + 240, To: wednesday}}, pauses)
	assert.EqualValues(t, 150, h.Worked(studio.Span{From: monday + 100, To: end}))
	assert.Equal(t, monday+240, h.LastBefore(wednesday))
	assert.Equal(
		t,
		studio.Hours{{From: 0, To: 9}},
		studio.Together(studio.Hours{{From: 0, To: 5}}, studio.Hours{{From: 4, To: 9}}),
	)
}

// ⌈(setup 10 + 20 pieces × 1.6) ÷ pace⌉, and colour setup added to it unscaled.
func TestTheLengthOfATask(t *testing.T) {
	r := &studio.Recipe{Kind: studio.KindPart}
	work := &studio.Work{Skill: "wiring", Setup: 10_000, PerPiece: 1_600}
	length := func(pace int64, setup studio.Minute) studio.Minute {
		a := studio.Activity{Work: []studio.Effort{{Skill: "wiring", Thousandths: r.Effort(work, true, 20)}}}
		return a.Runs(&studio.Person{Skills: []studio.Skill{{Skill: "wiring", Pace: pace}}}, setup)[0]
	}
	assert.EqualValues(t, 42, length(100, 0))
	assert.EqualValues(t, 34, length(125, 0), "33.6 is rounded up")
	assert.EqualValues(t, 60, length(70, 0))
	assert.EqualValues(t, 41, length(125, 7))
	work.Share = 250
	assert.EqualValues(t, 18, length(100, 0), "a quarter of the pieces gets the step")
	work.Share, work.Together = 0, 8
	assert.EqualValues(t, 15, length(100, 0), "three grips of eight")
}

func TestProgressOfALot(t *testing.T) {
	doc := demo.Document()
	r := studio.NewBook(doc).Recipe(demo.ID("Magnolia outer petal"))
	w := studio.WorkLot{Recipe: r.ID, Started: 20, Records: []studio.TaskRecord{
		{Step: "cut", State: studio.TaskDone, Good: 18, Broken: 2},
		{Step: "wire", State: studio.TaskDone, Good: 14, Second: 3, Broken: 1},
		{Step: "set", State: studio.TaskStarted}}}
	assert.Equal(t, studio.Progress{NextStep: 2, Alive: 17, Seconds: 3}, w.Progress(r))
	assert.EqualValues(t, 14, w.Progress(r).Serves(r), "seconds do not serve this petal")
	assert.EqualValues(t, 18, w.Entering(r, "wire"))
	assert.EqualValues(t, 17, w.Entering(r, "set"))
}

func TestLevelsFollowTheLongestPath(t *testing.T) {
	doc := demo.Document()
	book := studio.NewBook(doc)
	assert.Equal(t, 0, book.Level(studio.Made{Recipe: demo.ID("Magnolia")}))
	assert.Equal(t, 1, book.Level(studio.Made{Recipe: demo.ID("Magnolia cone")}))
	assert.Equal(
		t,
		[]string{"core", "dust", "inner petal", "petal"},
		book.Slots(studio.Made{Recipe: demo.ID("Magnolia")}),
	)
	mixes, missing := book.Resolve(studio.Made{Recipe: demo.ID("Magnolia cone")}, map[string]studio.ID{"petal": "x"})
	assert.Empty(t, missing)
	assert.Equal(
		t,
		map[string]studio.ID{"core": demo.ID("Centre white")},
		mixes,
		"a white core is white in every colourway",
	)
}

func FuzzRead(f *testing.F) {
	f.Add(written(f, demo.Document()))
	f.Add(`{"format":"bractum-studio","version":0}`)
	f.Fuzz(func(t *testing.T, text string) {
		if doc, err := studio.Read(strings.NewReader(text)); err == nil {
			require.Empty(t, doc.Validate())
		}
	})
}

// Runs against trying every minute: each run is one stretch, as early as it goes.
func TestLayingRuns(t *testing.T) {
	hours := studio.Hours{{From: 100, To: 200}, {From: 250, To: 400}, {From: 500, To: 520}}
	for _, c := range []struct {
		name   string
		start  studio.Minute
		runs   []studio.Minute
		pause  bool
		end    studio.Minute
		pauses []studio.Span
	}{
		{"one run in one stretch", 100, []studio.Minute{100}, false, 200, nil},
		{"over the break if it may pause", 180, []studio.Minute{40}, true, 270, []studio.Span{{From: 200, To: 250}}},
		{"a run that would be cut off waits", 100, []studio.Minute{60, 60}, false, 310, []studio.Span{{From: 160, To: 250}}},
		{"runs that just fit", 100, []studio.Minute{60, 40, 150}, false, 400, []studio.Span{{From: 200, To: 250}}},
		{"past a stretch that is too short", 250, []studio.Minute{140, 20}, false, 520, []studio.Span{{From: 390, To: 500}}},
	} {
		end, pauses, ok := hours.Lay(c.start, c.runs, c.pause)
		assert.True(t, ok, c.name)
		assert.Equal(t, c.end, end, c.name)
		assert.Equal(t, c.pauses, pauses, c.name)
	}
	_, _, ok := hours.Lay(150, []studio.Minute{51}, false)
	assert.False(t, ok, "the first run begins at the start, or not at all")
	_, _, ok = hours.Lay(100, []studio.Minute{60, 151}, false)
	assert.False(t, ok, "no stretch is so long")
}

func TestVersionsBeforeThisOneAreLifted(t *testing.T) {
	var raw map[string]any
	require.NoError(t, json.Unmarshal([]byte(written(t, demo.Document())), &raw))
	raw["version"] = 0
	for _, class := range raw["dryingClasses"].([]any) {
		delete(class.(map[string]any), "stiffMinutes")
	}
	old, err := json.Marshal(raw)
	require.NoError(t, err)
	doc, err := studio.Read(bytes.NewReader(old))
	require.NoError(t, err)
	assert.Equal(t, studio.Version, doc.Version)
	assert.Equal(
		t,
		doc.DryingClasses[0].DryMinutes,
		doc.DryingClasses[0].StiffMinutes,
		"version 0 knew no stiff state",
	)
	raw["version"] = studio.Version + 1
	later, err := json.Marshal(raw)
	require.NoError(t, err)
	_, err = studio.Read(bytes.NewReader(later))
	assert.ErrorContains(t, err, "this program reads")
}

func TestSmallValuesSayTheirRangeWhereverTheyStand(t *testing.T) {
	for _, c := range []struct {
		spoil func(*studio.Document)
		says  string
	}{
		{func(d *studio.Document) { d.Materials[12].Wire.Gauge = 5 }, `materials[12] "18 green wire".wire.gauge: is 5; from 10 to 40`},
		{func(d *studio.Document) {
			d.Recipes[0].Additives = []studio.Additive{{Material: d.Materials[2].ID, Per100g: -4}}
		}, `.additives[0].milligramsPer100g: is -4; from 0`},
		{func(d *studio.Document) { d.DryingClasses[0].Thickness = 2_000_000_000 }, `.thicknessMicrometres: is 2000000000; from 0`},
		{func(d *studio.Document) { d.Climate[3].HumidityPerMille = -1 }, `climate[3].humidityPerMille: is -1; from 0 to 10000 ‰`},
		{func(d *studio.Document) { d.Shelf[0].MadeOn = 1 << 50 }, `shelf[0].madeOn: is 1125899906842624`},
	} {
		doc := demo.Document()
		c.spoil(doc)
		assert.ErrorContains(t, doc.Validate(), c.says)
	}
}

// While recipes are written they may need what is not there, or themselves.
func TestABookOfRecipesThatAreBeingWritten(t *testing.T) {
	doc := demo.Document()
	r := *studio.NewBook(doc).Recipe(demo.ID("Dahlia"))
	r.Parts = append(slices.Clone(r.Parts), studio.PartInput{Key: "a", Recipe: "nothing", Count: 1},
		studio.PartInput{Key: "b", Recipe: r.ID, Count: 1})
	book := studio.NewBook(doc.With([]studio.Recipe{r}))
	assert.NotEmpty(t, book.Slots(studio.Made{Recipe: r.ID}))
	assert.Nil(t, book.Of(studio.Made{Recipe: "nothing"}))
}
