package browser

import (
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/browser/drive"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// write puts a value into a field of the flower book and leaves it.
func (p tab) write(name, value string) {
	p.t.Helper()
	field := p.MustElement(`[name="` + name + `"]`)
	field.MustSelectAllText().MustInput(value)
	field.MustEval(`() => this.blur()`)
	p.settles()
}

// pick chooses an entry of a plain list by its words.
func (p tab) pick(name, entry string) {
	p.t.Helper()
	p.MustElement(`select[name="` + name + `"]`).MustSelect(entry)
	p.settles()
}

// settles waits until what was written has been answered for.
func (p tab) settles() {
	p.until(`() => document.querySelector('[aria-busy="true"]') === null`)
}

func begin(t *testing.T, studio *drive.Studio, name, pattern string) tab {
	page := sit(t, studio, "Odalys", "/book")
	page.click("new-recipe")
	page.fill("begin-name", name)
	page.click("pattern-" + pattern)
	page.says(test("totals"), name)
	return page
}

// accepted is the studio's document with an order for two of a flower, in each of its
// variants, counted and planned, and the plan checked.
func accepted(t *testing.T, open *drive.Studio, name string) *studio.Recipe {
	doc, _, err := open.Store.Document(
		context.Background(),
		store.Wished,
		func(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at },
	)
	require.NoError(t, err)
	var made *studio.Recipe
	for _, r := range doc.Current() {
		if r.Name == name {
			made = r
		}
	}
	require.NotNil(t, made, "%s is in the book", name)
	o := studio.Order{
		ID:         "x",
		Name:       "x",
		Leaves:     studio.MustWallTime("2027-10-15T10:00"),
		Importance: 10,
		State:      studio.OrderOpen,
	}
	for _, v := range append([]studio.Variant{{}}, made.Variants...) {
		o.Lines = append(
			o.Lines,
			studio.OrderLine{
				ID:           studio.ID("line " + v.Name),
				Recipe:       made.ID,
				Variant:      v.Name,
				Colourway:    demo.ID("Signal"),
				Quantity:     2,
				ServiceLevel: 900,
			},
		)
	}
	require.Empty(t, doc.CheckOrder(o))
	doc.Orders = []studio.Order{o}
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	p, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	assert.Empty(t, p.Unplaced)
	assert.Empty(t, check.Plan(doc, p))
	return made
}

func TestANewFlowerOfFourPartsFromAPattern(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := begin(t, studio, "Capstan lily", "wired")
	page.write("parts-1-rows", "3")
	page.write("parts-2-rows", "3")
	page.pick("parts-2-set", "alternating")
	page.click("write-Capstan lily outer petal")
	page.write("pastes-0-shape.lengthMicrometres", "70,5")
	page.write("pastes-0-shape.widthMicrometres", "28")
	page.pick("chosen-form", "pointed petal")
	page.pick("wires-0-material", "26 white wire")
	page.click("tab-steps")
	page.click("step-Dry in the former")
	page.write("wait-thicknessMicrometres", "1")
	page.click("write-Capstan lily leaf")
	page.click("tab-parts")
	page.pick("chosen-form", "long leaf")
	page.click("write-Capstan lily")
	page.says(test("totals"), "10 parts")
	page.click("publish")
	page.says(test("standing"), "revision 1")
	lily := accepted(t, studio, "Capstan lily")
	assert.Equal(t, []int64{3}, lily.Parts[2].Rows)
	assert.EqualValues(t, 3, lily.Parts[1].Count)
	page.look("book-lily")

	orders := sit(t, studio, "Odalys", "/orders")
	enter(orders, "Slipway", "2027-10-12T10:00", [3]string{"4", "Capstan lily", "Kelp"})
	orders.click("save-order")
	orders.says(test("proposal"), "Slipway")
}

// M08: a flat daisy with a dot, no wire; a double one has a second layer.
func TestAFlatDaisyIsEntered(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := begin(t, studio, "Slip daisy", "flat")
	page.click("add-variant")
	page.fill("new-name", "double")
	page.click("name-it")
	page.click("tab-steps")
	page.click("step-Pipe the dot")
	page.click("add-work")
	page.says(test("steps"), "Work")
	page.write("step-name", "Glue a second layer")
	page.write("work-pieceMilliminutes", "0.6")
	page.click("tab-parts")
	page.click("add-pastes")
	page.MustElement(`[name="pastes-2-slot"]`)
	page.pick("pastes-2-step", "Glue a second layer")
	page.says(test("totals"), "Against the recipe as it is")
	page.click("publish")
	page.says(test("standing"), "revision 1")
	daisy := accepted(t, studio, "Slip daisy")
	assert.Empty(t, daisy.Wires)
	assert.Len(t, daisy.Steps, 3)
	double, _ := daisy.As("double")
	assert.Equal(t, "Glue a second layer", double.Steps[2].Name)
	assert.Len(t, double.Pastes, 3)
}

// M02: wired cones, clad, bunched while they still give; frills by eye.
func TestARuffledRoseIsEntered(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := begin(t, studio, "Rope rose", "pulled")
	page.click("write-Rope rose blossom")
	page.write("chosen-name", "Rope rose cone")
	page.pick("chosen-form", "bud")
	page.click("tab-steps")
	page.click("step-Dry upright")
	page.pick("wait-state", "firm")
	page.click("step-Set the centres")
	page.write("step-name", "Clad with a petal")
	page.click("tab-parts")
	page.click("add-pastes")
	page.MustElement(`[name="pastes-1-slot"]`)
	page.pick("pastes-1-step", "Clad with a petal")
	page.click("write-Rope rose")
	page.pick("chosen-form", "layered")
	page.press("summary")
	page.pick("more-window.from", "firm")
	page.pick("more-window.class", "Thin petal paste")
	page.write("more-window.thicknessMicrometres", "2")
	page.pick("more-window.before", "stiff")
	page.click("add-part")
	page.says(test("table-parts"), "how many")
	page.write("parts-1-count", "9")
	page.write("parts-1-least", "5")
	page.click("publish")
	page.says(test("standing"), "revision 1")
	rose := accepted(t, studio, "Rope rose")
	assert.EqualValues(t, 5, rose.Parts[0].Count)
	assert.Equal(t, "firm stiff", limits(rose.Parts[0].Window))
	assert.EqualValues(t, 5, *rose.Parts[1].Least)
}

func limits(w *studio.Window) string { return string(w.From) + " " + string(w.Before) }

// M19: one-piece cut-outs; bud, small and full are stages of one another; steamed.
func TestARoseFromCutOutsIsEntered(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := begin(t, studio, "Pier rose", "cut-outs")
	page.click("tab-steps")
	page.click("step-Hang to dry")
	page.pressNamed("button", "Hang to dry")
	page.click("add-work")
	page.says(test("steps"), "Work")
	page.write("step-name", "Steam")
	page.pick("work-skill", "dusting")
	page.pick("work-glyph", "steam")
	page.click("add-wait")
	page.says(test("steps"), "Wait")
	page.write("step-name", "Dry off")
	page.click("add-variant")
	page.fill("new-name", "small")
	page.click("name-it")
	for _, step := range []string{"Dry off", "Steam", "Hang to dry", "Glue on the calyx"} {
		page.click("step-" + step)
		page.pressNamed("button", "take away")
		page.settles()
	}
	page.says(test("totals"), "Pier rose, small")
	page.click("publish")
	page.says(test("standing"), "revision 1")
	rose := accepted(t, studio, "Pier rose")
	assert.Equal(t, "bud", rose.Variants[0].Name)
	assert.Equal(t, "set", rose.Variants[1].StopAfter)
	assert.Equal(t, "Dry off", rose.Steps[7].Name)
}

func TestWhatIsWrongIsSaidAsOneTypesAndADraftIsFinishedLater(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := begin(t, studio, "Fog rose", "rows")
	page.write("parts-0-count", "0")
	page.says(test("problems"), "part 1, count is 0; from 1 to 2000 would be right")
	assert.True(t, page.MustElement(test("publish")).MustProperty("disabled").Bool())
	page.Keyboard.MustType(input.Tab)
	page.click("undo")
	page.until(`() => !document.querySelector('[data-test="problems"]')`)
	page.write("parts-0-count", "0")
	page.says(test("problems"), "count is 0")
	page.click("keep-draft")
	page.says(test("standing"), "a draft")
	again := sit(t, studio, "Maren", "/book")
	again.says(test("drafts"), "Fog rose")
	orders := sit(t, studio, "Odalys", "/orders")
	orders.click("new-order")
	orders.press(test("flower-0") + " .v-field")
	orders.MustElementR(".v-overlay--active .v-list-item", "Fern frond")
	assert.NotContains(
		t,
		orders.MustElement(".v-overlay--active .v-list").MustText(),
		"Fog rose",
		"a draft cannot be ordered",
	)
	again.pressNamed("a", "Fog rose")
	again.says(test("problems"), "count is 0")
	again.write("parts-0-count", "1")
	again.click("publish")
	again.says(test("standing"), "revision 1")
	accepted(t, studio, "Fog rose")
}

func TestASizeARowAndAPictureAreAddedInSeconds(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/book")
	page.write("seek", "dahl pet large")
	page.click("page-Dahlia petal, large")
	page.says(test("standing"), "revision 1")
	page.click("tab-pictures")
	photo := filepath.Join(t.TempDir(), "rim.png")
	require.NoError(t, os.WriteFile(photo, page.MustScreenshot(), 0o600))
	page.MustElement(`input[name="picture"]`).MustSetFiles(photo)
	page.MustElement("figure img").MustWaitLoad()
	page.MustElement(`.back`)
	page.click("publish")
	page.says(test("standing"), "revision 2")
	page.says(test("revisions"), "picture")

	flower := sit(t, studio, "Odalys", "/book")
	flower.click("page-Dahlia")
	before := strings.Fields(flower.text("totals"))
	flower.click("row-4")
	flower.says(test("totals"), "82 parts")
	flower.click("size-4")
	flower.says(test("writing"), "Dahlia petal, large, larger")
	flower.click("undo")
	flower.click("undo")
	flower.click("undo")
	flower.says(test("totals"), strings.Join(before[2:4], " "))
	flower.click("duplicate")
	flower.says(test("standing"), "new, not in the book yet")
	flower.says(test("totals"), "Dahlia copy")
	flower.click("publish")
	flower.says(test("standing"), "revision 1")
	accepted(t, studio, "Dahlia copy")
}

// A proportion out of the usual is said in words as it is written, and may be let stand.
func TestAConeTooTallIsWarnedOf(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/book")
	page.click("page-Gardenia")
	page.click("write-Gardenia cone")
	page.write("pastes-0-shape.lengthMicrometres", "35")
	page.says(test("warnings"), "The cone is tall for its first petals: they will not close over it.")
	page.look("book-warned")
}

func TestAnEarlierRevisionIsKeptUntilTheLeadHasSeenTheEffect(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/book")
	page.click("page-Magnolia")
	page.click("write-Magnolia outer petal")
	page.write("pastes-0-shape.lengthMicrometres", "90")
	page.click("publish")
	page.says(test("behind"), "2 orders keep an earlier revision")
	page.click("see-move")
	page.says(test("effect"), "Oyster ivory")
	page.look("book-move")
	page.click("move-lines")
	page.until(`() => !document.querySelector('[data-test="behind"]')`)
	orders := sit(t, studio, "Odalys", "/orders")
	orders.says(test("proposal"), "Ferry crew")
	orders.accepts()
}

func TestAFileIsLookedAtDecidedTakenInAndTakenBack(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/book")
	page.click("open-import")
	file := filepath.Join(t.TempDir(), "shared.json")
	data, err := os.ReadFile("../docs/formats/recipes/M09.json")
	require.NoError(t, err)
	require.NoError(
		t,
		os.WriteFile(
			file,
			[]byte(strings.Replace(string(data), `"name": "garden rose"`, `"name": "Dahlia"`, 1)),
			0o600,
		),
	)
	page.MustElement(`input[name="recipes-file"]`).MustSetFiles(file)
	page.says(test("state-conflict"), "Dahlia")
	page.says(test("take-in"), "1 to decide")
	page.look("book-import")
	page.MustElement(test("state-conflict") + " select").MustSelect("take it beside yours")
	page.says(test("take-in"), "Take it in")
	page.click("take-in")
	page.says(test("taken"), "Taken in")
	page.pressNamed("button", "Done")
	page.MustElement(test("page-Dahlia 2"))
	page.click("journal")
	page.press(latestUndo)
	page.until(`() => !document.querySelector('[data-test="page-Dahlia 2"]')`)
	other := sit(t, studio, "Odalys", "/book")
	other.click("open-import")
	require.NoError(t, os.WriteFile(file, []byte("no recipes"), 0o600))
	other.MustElement(`input[name="recipes-file"]`).MustSetFiles(file)
	other.says(test("import"), "line 1, column")
}

// Every method, taken in by its file, is shown: drawn, laid along time, summed up.
func TestEveryMethodIsShownWithoutAGap(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	files, err := filepath.Glob("../docs/formats/recipes/*.json")
	require.NoError(t, err)
	require.Len(t, files, 21)
	var complaints []string
	page := sit(t, studio, "Odalys", "/book")
	go page.EachEvent(
		func(e *proto.RuntimeExceptionThrown) { complaints = append(complaints, e.ExceptionDetails.Text) },
	)()
	for _, path := range files {
		data, err := os.ReadFile(path)
		require.NoError(t, err)
		var b struct{ Recipes []struct{ Name string } }
		require.NoError(t, json.Unmarshal(data, &b))
		at := page.MustEval(`async (file, name) => {
			const send = (path, method, body) => fetch("/api" + path, { method, body: body && JSON.stringify(body),
				headers: { "Content-Type": "application/json", "Command-Id": crypto.randomUUID(), Person: localStorage.getItem("bractum.person") } }).then((r) => r.json());
			const seen = await send("/book/import/preview", "POST", { file });
			if (!seen.things) return JSON.stringify(seen).slice(0, 400);
			const choices = Object.fromEntries(seen.things.filter((t) => t.state === "conflict" || t.state === "changed").map((t) => [t.id, "beside"]));
			const taken = await send("/book/import", "POST", { file, choices });
			const at = taken.adds?.recipes.find((r) => r.name.startsWith(name));
			return at ? at.recipe : JSON.stringify(taken).slice(0, 300);
		}`, string(data), b.Recipes[len(b.Recipes)-1].Name).Str()
		require.Len(t, at, 36, "%s: %s", path, at)
		page.MustNavigate(studio.URL + "/book/pages/" + at).MustWaitLoad()
		page.says(test("totals"), "at the bench")
		assert.GreaterOrEqual(t, len(page.MustElements(test("portrait")+" svg path")), 1, path)
		assert.NotEmpty(t, page.MustElements(".strip .work"), path)
		assert.False(t, page.MustHas(test("problems")), path)
		assert.NotContains(t, page.text("totals"), "NaN", path)
	}
	assert.Empty(t, complaints)
}

// Runs and phases are set side by side in minutes, makers and places; the one that is chosen is written, and undone.
func TestRunsOrPhasesAreChosenSideBySide(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/book")
	page.click("page-Gardenia")
	page.says(test("schools"), "24 × 1")
	page.says(test("schools"), "12 × 2")
	page.says(test("totals"), "1 at a time.")
	page.click("choose-runs")
	page.says(test("totals"), "2 in one run")
	page.MustElement(test("choose-phases"))
	page.click("undo")
	page.MustElement(test("choose-runs"))
	page.says(test("totals"), "1 at a time.")
}
