// Package modules_test calls what the front end computes by itself: the scale of time, the board
// of the plan, outlines and portraits, fields as they are typed.
package modules_test

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"

	"github.com/dop251/goja"
	"github.com/evanw/esbuild/pkg/api"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/flower"
	"bractum/core/studio"
	"bractum/demo"
)

type object = map[string]any

// bundle is all modules that are tested here, as one script.
var bundle = sync.OnceValues(func() (string, []api.Message) {
	made := api.Build(
		api.BuildOptions{Stdin: &api.StdinOptions{ResolveDir: "../../ui", Loader: api.LoaderTS, Contents: `
		export * from "./src/drawings/timeScale";
		export * from "./src/drawings/board";
		export * from "./src/drawings/outlines";
		export * from "./src/drawings/portrait";
		export * from "./src/parts/fields/fields";
		export { manner } from "./src/manner";
		export { sheets } from "./src/stations/studio/sheets";
		export { ordersPasted } from "./src/stations/orderTable";
		export { parted, separatorOf } from "./src/parts/tableFile";
		export { pasted } from "./src/stations/studio/pasted";
		export { moved } from "./src/stations/plan/draft";
		export { typed } from "./src/number";
		export { default as en } from "./src/words/en";
		export { inWords } from "./src/words/refusals";
	`}, Bundle: true, Format: api.FormatIIFE, GlobalName: "ui", Target: api.ES2017, Platform: api.PlatformNeutral,
			MainFields: []string{"module", "main"}, Conditions: []string{"default", "import"},
			External: []string{
				"stream",
				"vue",
				"@tanstack/vue-query",
				"openapi-fetch",
				"uuid",
				"vue-i18n",
			}, LogLevel: api.LogLevelSilent},
	)
	if len(made.Errors) > 0 {
		return "", made.Errors
	}
	return string(made.OutputFiles[0].Contents), nil
})

// page is a page's script without a page.
type page struct {
	t  require.TestingT
	vm *goja.Runtime
}

func load(t require.TestingT) page {
	script, errors := bundle()
	require.Empty(t, errors)
	vm := goja.New()
	_, err := vm.RunString(`
		const t = (text, ...rest) => {
			const n = rest.find((x) => typeof x === "number"), forms = text.split(" | ");
			const with_ = { n, ...rest.find((x) => typeof x === "object") };
			return (n === 1 ? forms[0] : forms.at(-1)).replace(/\{(\w+)\}/g, (_, name) => with_[name]);
		};
		// as much of it as figures ask for
		const days = ["Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"];
		const DateTimeFormat = function () { return { format: (at) => days[new Date(at).getUTCDay()] }; };
		const Intl = { DateTimeFormat, NumberFormat: function (locale, digits) {
			const { minimumFractionDigits: least = 0, maximumFractionDigits: most = 3, maximumSignificantDigits: count } = digits;
			return { format: (n) => {
				let text = count ? String(Number(n.toPrecision(count))) : n.toFixed(most), left = count ? 0 : most;
				while (left-- > least && /[.0]$/.test(text)) text = text.replace(/\.?0$/, "");
				return locale === "de-DE" ? text.replace(".", ",") : text;
			} };
		} };
		const parts = { ref: (value) => ({ value }), createI18n: () => ({ global: { t, te: () => false } }) };
		var require = (name) => new Proxy(parts, { get: (own, name) => own[name] ?? (() => ({})) });` + script)
	require.NoError(t, err)
	return page{t, vm}
}

// run gives what an expression over some values comes to.
func run[T any](p page, expression string, values object) (out T) {
	given, err := json.Marshal(values)
	require.NoError(p.t, err)
	require.NoError(p.t, p.vm.Set("given", string(given)))
	value, err := p.vm.RunString(
		`(() => { const v = JSON.parse(given); return JSON.stringify(` + expression + `) })()`,
	)
	require.NoError(p.t, err, expression)
	require.NoError(p.t, json.Unmarshal([]byte(value.String()), &out), expression)
	return out
}

func span(from, to int) object { return object{"from": from, "to": to} }

// Two days from eight to four with a break, and a night between.
var open = []object{span(480, 720), span(765, 960), span(1920, 2400)}

func TestNightsAreNarrowAndBreaksAreNot(t *testing.T) {
	type day struct{ From, To, X, Width float64 }
	type scale struct {
		Width, PerMinute float64
		Days, Nights     []day
	}
	got := run[scale](load(t), `ui.timeScale(v.open, 0, 3000, 1000, 2)`, object{"open": open})
	require.Len(t, got.Days, 2, "a break of three quarters of an hour is part of the day")
	require.Len(t, got.Nights, 1)
	assert.Equal(t, []float64{480, 960}, []float64{got.Days[0].From, got.Days[0].To})
	assert.Equal(t, 40.0, got.Nights[0].Width)
	assert.InDelta(t, (1000-2*40.0)/960, got.PerMinute, 1e-9)
	assert.InDelta(t, got.Days[0].Width+40, got.Days[1].X, 1e-9)
}

func TestTheScaleOfTimeGoesOneWayAndBack(t *testing.T) {
	p := load(t)
	rapid.Check(t, func(t *rapid.T) {
		p.t = t
		var days []object
		at := 0
		for range rapid.IntRange(1, 6).Draw(t, "days") {
			from := at + rapid.IntRange(200, 900).Draw(t, "night")
			at = from + rapid.IntRange(30, 600).Draw(t, "day")
			days = append(days, span(from, at))
		}
		values := object{"open": days, "across": rapid.IntRange(1, 4).Draw(t, "across"), "end": at}
		x := run[[]float64](p, `(() => { const s = ui.timeScale(v.open, 0, v.end, 1000, v.across);
			return Array.from({ length: v.end + 1 }, (_, m) => s.x(m)) })()`, values)
		for m := 1; m < len(x); m++ {
			require.GreaterOrEqual(t, x[m], x[m-1], "later is never further left")
		}
		off := run[[]float64](p, `(() => { const s = ui.timeScale(v.open, 0, v.end, 1000, v.across);
			return v.open.flatMap((d) => [d.from, (d.from + d.to) >> 1, d.to - 1].map((m) => s.minute(s.x(m)) - m)) })()`, values)
		for _, minutes := range off {
			require.LessOrEqual(t, math.Abs(minutes), 1.0, "a working minute is found where it is drawn")
		}
	})
}

// What lies in a place at the same time lies in slots of its own, as low as there is room.
func TestHoldsAreShelvedWithoutOverlap(t *testing.T) {
	p := load(t)
	type hold struct{ From, To, Slots, Level int }
	got := run[[]hold](p, `ui.shelve(v.holds)`, object{"holds": []object{
		{"from": 0, "to": 100, "slots": 2}, {"from": 10, "to": 50, "slots": 1}, {"from": 60, "to": 90, "slots": 3},
		{"from": 100, "to": 120, "slots": 1}}})
	assert.Equal(t, []hold{{0, 100, 2, 0}, {10, 50, 1, 2}, {60, 90, 3, 2}, {100, 120, 1, 0}}, got)
	rapid.Check(t, func(t *rapid.T) {
		p.t = t
		holds := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) object {
			from := rapid.IntRange(0, 200).Draw(t, "from")
			return object{
				"from":  from,
				"to":    from + rapid.IntRange(1, 80).Draw(t, "length"),
				"slots": rapid.IntRange(1, 4).Draw(t, "slots"),
			}
		}), 1, 25).Draw(t, "holds")
		laid := run[[]hold](p, `ui.shelve(v.holds)`, object{"holds": holds})
		require.Len(t, laid, len(holds))
		for i, a := range laid {
			for _, b := range laid[:i] {
				apart := a.To <= b.From || b.To <= a.From || a.Level+a.Slots <= b.Level || b.Level+b.Slots <= a.Level
				require.True(t, apart, "%v and %v", a, b)
			}
		}
	})
}

// plan is one maker who puts petals on a rack, and another who takes them up.
func plan() object {
	block := func(id, person string, from, to int, more object) object {
		b := object{
			"id":     id,
			"lot":    "petals",
			"person": person,
			"from":   from,
			"to":     to,
			"pauses": []object{},
			"holds":  []object{},
		}
		for k, v := range more {
			b[k] = v
		}
		return b
	}
	return object{"now": 480,
		"people": []object{
			{"id": "odalys", "hours": []object{span(480, 720), span(765, 960)}},
			{"id": "teun", "hours": []object{span(480, 960)}},
		},
		"places": []object{{"id": "rack", "slots": 8}, {"id": "tray", "slots": 40}},
		"blocks": []object{
			block("cut", "odalys", 500, 800, object{"pauses": []object{span(720, 765)},
				"holds": []object{{"place": "rack", "from": 500, "to": 900, "slots": 2}}}),
			block("wire", "teun", 900, 950, nil),
		}}
}

func TestTheBoardDrawsWhatThePlanSays(t *testing.T) {
	type part struct{ X, Width float64 }
	type laid struct {
		Lanes []struct {
			Y      float64
			Off    []struct{ From, To int }
			Blocks []struct {
				X, Width float64
				Parts    []part
			}
		}
		Shelves []struct {
			Y, Height float64
			Holds     []struct{ X, Width, Y, Height float64 }
		}
		Height float64
	}
	values := object{"open": open[:2], "plan": plan()}
	const board = `const s = ui.timeScale(v.open, 0, 3000, 1000, 1); const b = ui.layBoard(v.plan, s);`
	got := run[laid](load(t), `(() => { `+board+` return b })()`, values)
	require.Len(t, got.Lanes, 2)
	assert.Equal(t, 56.0, got.Lanes[1].Y-got.Lanes[0].Y)
	assert.Equal(t, []struct{ From, To int }{{720, 765}}, got.Lanes[0].Off, "her break")
	cut := got.Lanes[0].Blocks[0]
	require.Len(t, cut.Parts, 2, "before the break and after it")
	assert.InDelta(t, 220, cut.Parts[0].Width/cut.Width*300, 0.01)
	assert.InDelta(t, cut.X+cut.Width, cut.Parts[1].X+cut.Parts[1].Width, 1e-9)
	rack := got.Shelves[0]
	require.Len(t, rack.Holds, 1)
	assert.Equal(t, 26.0, rack.Height, "few slots are still to be seen")
	assert.Equal(t, 66.0, got.Shelves[1].Height, "many are not higher than that")
	assert.InDelta(t, 2*26.0/8-1, rack.Holds[0].Height, 1e-9)
	assert.Greater(t, got.Height, got.Shelves[1].Y+66)

	threads := run[[]struct {
		Path     string
		X, Width float64
	}](load(t), `(() => { `+board+` return ui.threads(v.plan, b, s) })()`, values)
	require.Len(t, threads, 1)
	assert.Equal(t, 2, strings.Count(threads[0].Path, "V"), "it drops from who puts down and climbs to who takes up")
	line := run[string](
		load(t),
		`(() => { `+board+` return ui.chainLine([{ task: "wire" }, { task: "cut" }, { task: "gone" }], b) })()`,
		values,
	)
	assert.True(t, strings.HasPrefix(line, "M") && strings.Count(line, "C") == 1, line)
}

// Every form has an outline of its own within its box, mirrored where its sides are.
func TestOutlinesStayInTheirBox(t *testing.T) {
	p := load(t)
	seen := map[string]string{}
	for _, form := range []string{"petal", "inner petal", "round petal", "notched petal", "pointed petal", "leaf", "", "what nobody knows"} {
		path := run[string](p, `ui.outline(v.form, 20, 40)`, object{"form": form})
		require.True(t, strings.HasPrefix(path, "M") && strings.HasSuffix(path, "Z"), form)
		numbers := run[[]float64](p, `v.path.match(/-?[\d.]+/g).map(Number)`, object{"path": path})
		for i := 0; i+1 < len(numbers); i += 2 {
			assert.LessOrEqual(t, math.Abs(numbers[i]), 20.0, form)
			assert.True(t, numbers[i+1] <= 8 && numbers[i+1] >= -48, "%s: %v", form, numbers[i+1])
		}
		seen[form] = path
	}
	assert.NotEqual(t, seen["petal"], seen["leaf"])
	for _, form := range []string{"daisy", "blossom", "star", "calyx", "notched ring"} {
		assert.Positive(t, run[struct{ Count int }](p, `ui.lobes(v.form)`, object{"form": form}).Count, form)
	}
	for _, seed := range []int{0, 1, 7, 1000} {
		at := run[float64](p, `ui.scatter(v.seed)`, object{"seed": seed})
		assert.True(t, at >= 0 && at < 1)
		assert.Equal(
			t,
			at,
			run[float64](p, `ui.scatter(v.seed)`, object{"seed": seed}),
			"the same place lies the same",
		)
	}
}

func piece(kind, form string, shape object, rings ...object) object {
	return object{
		"kind":   kind,
		"form":   form,
		"colour": "#d9cfc0",
		"shape":  shape,
		"bits":   []object{},
		"rings":  append([]object{}, rings...),
	}
}

func cut(length, width int) object {
	return object{"shape": "cut", "lengthMicrometres": length * 1000, "widthMicrometres": width * 1000}
}

// A portrait is drawn to scale, within the frame that shows it.
func TestAPortraitFitsItsFrame(t *testing.T) {
	p := load(t)
	petal := piece("part", "petal", cut(40, 30))
	ring := object{"of": petal, "rows": []int{3, 5}, "atMicrometres": []int{}, "count": 8}
	flower := piece("flower", "layered", nil, ring)
	type size struct{ Width, Height float64 }
	assert.Equal(t, size{30, 40}, run[size](p, `ui.size(v.p)`, object{"p": petal}))
	assert.Equal(t, 40.0, run[float64](p, `ui.reach(v.p)`, object{"p": flower}), "as far as its petals")
	bud := piece("flower", "layered", nil, object{"of": petal, "rows": []int{3}, "atMicrometres": []int{}, "count": 3})
	assert.Less(t, run[float64](p, `ui.reach(v.p)`, object{"p": bud}), 40.0, "a bud is closed")
	type box struct{ X, Y, Width, Height float64 }
	for name, drawn := range map[string]object{"petal": petal, "flower": flower, "bud": bud} {
		frame := run[box](p, `ui.frame(v.p)`, object{"p": drawn})
		far := run[float64](p, `ui.reach(v.p)`, object{"p": drawn})
		assert.GreaterOrEqual(t, frame.Height, far, name)
		assert.True(t, frame.X < 0 && frame.X+frame.Width > 0, name)
		marks := run[[]struct {
			D    string
			Ring int
		}](p, `ui.drawn(v.p)`, object{"p": drawn})
		require.NotEmpty(t, marks, name)
	}
	marks := run[[]struct{ Ring int }](p, `ui.drawn(v.p)`, object{"p": flower})
	assert.GreaterOrEqual(t, len(marks), 8, "every petal")
	address := run[string](p, `decodeURIComponent(ui.address(v.p))`, object{"p": piece("part", "petal", cut(40, 30))})
	assert.Contains(t, address, "viewBox=")
	harmful := piece("part", "petal", cut(40, 30))
	harmful["colour"] = `red"/><script>alert(1)</script>`
	assert.NotContains(t, run[string](p, `decodeURIComponent(ui.address(v.p))`, object{"p": harmful}), "script")
}

// The whole flower book of the demo is drawn, each from what the core says of it.
func TestEveryFlowerOfTheBookIsDrawn(t *testing.T) {
	p := load(t)
	doc := demo.Document()
	book := studio.NewBook(doc)
	for _, r := range doc.Current() {
		portrait := flower.PortraitOf(book, studio.Made{Recipe: r.ID}, doc.Colourways[0].Slots)
		if r.Kind == studio.KindMix {
			continue
		}
		got := run[struct {
			Marks, Broken      int
			Reach, Frame, Size float64
		}](p, `(() => { const marks = ui.drawn(v.p); const f = ui.frame(v.p); const s = ui.size(v.p);
			return { marks: marks.length, broken: marks.filter((m) => /NaN|undefined|Infinity/.test(m.d + m.at)).length,
				reach: ui.reach(v.p), frame: Math.max(f.width, f.height), size: Math.max(s.width, s.height) } })()`, object{"p": portrait})
		assert.Positive(t, got.Marks, r.Name)
		assert.Zero(t, got.Broken, r.Name)
		assert.GreaterOrEqual(t, got.Frame, got.Reach, r.Name)
		if r.Kind == studio.KindFlower {
			assert.Greater(t, got.Marks, 3, "%s is more than a piece", r.Name)
		}
	}
}

// Every code that the core gives has its words.
func TestEveryCodeHasItsWords(t *testing.T) {
	p := load(t)
	for _, of := range []struct {
		files, code, words string
		least              int
	}{
		{"core/count/count.go", `NoteCode\s+= "([a-z-]+)"`, "note", 10},
		{"core/studio/plan.go", `Reason\s+= "([a-z-]+)"`, "unplaced", 12},
		{"core/flower/proportion.go", `Case\s+= "([a-z-]+)"`, "proportion", 8},
		{"core/*/*.go", `(?:NewFigure|figure|millimetres)\(\s*(?:r,\s*)?"([^"]+)"`, "figure", 60},
		{"core/*/*.go", `Rule:\s+"([^"]+)"`, "rule", 4},
		{"core/count/*.go", `working\(\s*item,\s*"([^"]+)"[,+]`, "rule", 4},
		{"core/studio/working.go", `Rounding = "([^"]+)"`, "rounding", 5},
		{"core/flower/compare.go", `Total = "([^"]+)"`, "total", 9},
		{"core/book/take.go", `Clash = "([^"]+)"`, "clash", 4},
		{"core/pattern/patterns.go", `Key: "([^"]+)"`, "beginning", 11},
	} {
		files, err := filepath.Glob("../../" + of.files)
		require.NoError(t, err)
		codes := map[string]bool{}
		for _, file := range files {
			if strings.HasSuffix(file, "_test.go") {
				continue
			}
			source, err := os.ReadFile(file)
			require.NoError(t, err)
			for _, found := range regexp.MustCompile(of.code).FindAllStringSubmatch(string(source), -1) {
				codes[found[1]] = true
			}
		}
		require.GreaterOrEqual(t, len(codes), of.least, of.code)
		for code := range codes {
			known := run[bool](
				p,
				`[ui.en[v.of], ...Object.values(ui.en[v.of])].some((words) =>
					Object.keys(words).some((key) => key === v.code || v.code.endsWith("-") && key.startsWith(v.code)))`,
				object{"of": of.words, "code": code},
			)
			assert.True(t, known, "%s %s", of.words, code)
		}
	}
}

// What is typed is kept as it was meant, or not taken at all.
func TestFieldsAreNeverRepaired(t *testing.T) {
	p := load(t)
	for typed, want := range map[string]any{"35,5": 35500.0, "35.5": 35500.0, " 2 ": 2000.0, "": nil} {
		assert.Equal(t, want, run[any](p, `ui.kept({ kind: "mm" }, v.text) ?? null`, object{"text": typed}), typed)
	}
	assert.Equal(
		t,
		2.5,
		run[float64](p, `ui.kept({ kind: "whole" }, "2,5")`, nil),
		"half a piece is for the studio to refuse",
	)
	assert.Nil(
		t,
		run[any](p, `ui.kept({ kind: "mm" }, "forty")`, nil),
		"what is no number is none: NaN, which is sent as null",
	)
	assert.Equal(t, []any{1000.0, 2500.0}, run[any](p, `ui.kept({ kind: "numbers", scale: 1000 }, "1 + 2,5")`, nil))
	assert.Equal(t, "1 + 2.5", run[string](p, `ui.shown({ kind: "numbers", scale: 1000 }, [1000, 2500])`, nil))
	assert.Equal(t, "12.5", run[string](p, `ui.shown({ kind: "percent" }, 125)`, nil))
	row := run[object](
		p,
		`(() => { const r = { shape: { shape: "cut" } }; ui.put(r, "shape.length", 3); ui.put(r, "wait.most", 5);
		ui.put(r, "wait.most", undefined); return r })()`,
		nil,
	)
	assert.Equal(t, object{"shape": object{"shape": "cut", "length": 3.0}}, row, "what holds nothing is gone as well")
	assert.Equal(t, 3.0, run[float64](p, `ui.at(v.row, "shape.length")`, object{"row": row}))
	assert.Equal(t, object{"standIns": []any{object{"place": "tray"}}}, run[object](p, `(() => { const r = {};
		ui.put(r, "standIns.0.place", "tray"); ui.put(r, "says.0.by", 1); ui.put(r, "says.0.by", undefined); return r })()`, nil))
	assert.Equal(t, "step “Dry upright”, wait, thickness",
		run[string](p, `ui.placeWords(v.place)`, object{"place": `steps[3] "Dry upright".wait.thicknessMicrometres`}))
	assert.Equal(t, "dry upright 2", run[string](p, `ui.keyFor("Dry upright!", ["dry upright"])`, nil))
}

// A block that is moved by the arrow keys goes by quarters of an hour, never before now, and
// only to who may do it.
func TestABlockIsMovedByTheArrowKeys(t *testing.T) {
	p := load(t)
	values := object{"plan": plan(), "may": []string{"odalys", "teun"}}
	const block = `v.plan.blocks[0]`
	assert.Equal(
		t,
		510.0,
		run[object](p, `ui.moved(undefined, `+block+`, "ArrowRight", v.plan, v.may)`, values)["start"],
	)
	early := run[object](
		p,
		`["ArrowLeft", "ArrowLeft", "ArrowLeft"].reduce((d, key) => ui.moved(d, `+block+`, key, v.plan, v.may), undefined)`,
		values,
	)
	assert.Equal(t, 480.0, early["start"])
	assert.Equal(
		t,
		"teun",
		run[object](p, `ui.moved(undefined, `+block+`, "ArrowDown", v.plan, v.may)`, values)["person"],
	)
	values["may"] = []string{"odalys"}
	assert.Equal(
		t,
		"odalys",
		run[object](p, `ui.moved(undefined, `+block+`, "ArrowDown", v.plan, v.may)`, values)["person"],
	)
}

// Tasks of one batch that follow one another in a lane are one sitting; other work between them, a long
// gap or another batch ends it.
func TestTasksOfABatchInARowAreOneSitting(t *testing.T) {
	p := load(t)
	laid := func(id, root string, from, to float64) object {
		block := object{"id": id, "from": from, "to": to}
		if root != "" {
			block["batch"] = object{"root": root}
		}
		return object{"block": block, "x": from, "width": to - from, "y": 0, "parts": []any{}}
	}
	found := run[[]any](p, `ui.sittings(v.blocks).map((s) => [s.key, s.width, s.blocks.map((b) => b.block.id).join()])`,
		object{"blocks": []any{
			laid("cut", "rose", 0, 10), laid("wire", "rose", 10, 25), laid("set", "rose", 40, 50),
			laid("cut 2", "rose 2", 50, 60), laid("mix", "", 60, 65), laid("wire 2", "rose 2", 65, 80),
			laid("late", "rose 2", 110, 120),
		}})
	assert.Equal(t, []any{[]any{"rose/cut", 50.0, "cut,wire,set"}}, found)
}

// What is too narrow to be read and is work of one kind is one sitting, of whatever batches; what can be
// read, or is pinned, stays by itself.
func TestWorkOfOneKindInARowIsOneSitting(t *testing.T) {
	p := load(t)
	laid := func(id, glyph string, from, to float64) object {
		return object{"block": object{"id": id, "from": from, "to": to, "glyph": glyph}, "x": from, "width": to - from,
			"y": 0, "parts": []any{}}
	}
	pinned := laid("pinned", "wire", 130, 140)
	pinned["block"].(object)["pin"] = object{"person": "teun"}
	found := run[[]any](
		p,
		`ui.sittings(v.blocks).map((s) => [s.glyph, s.width, s.blocks.map((b) => b.block.id).join()])`,
		object{"blocks": []any{
			laid(
				"a",
				"wire",
				0,
				10,
			), laid("b", "wire", 10, 25), laid("wide", "wire", 30, 90), laid("c", "dust", 90, 95),
			laid("d", "dust", 100, 110), laid("e", "wire", 110, 120), laid("f", "wire", 120, 130), pinned,
			laid("far", "wire", 190, 200),
		}},
	)
	assert.Equal(t, []any{
		[]any{"wire", 25.0, "a,b"}, []any{"dust", 20.0, "c,d"}, []any{"wire", 20.0, "e,f"},
	}, found)
}
