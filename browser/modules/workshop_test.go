package modules_test

import (
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/core/workshop"
)

// around is what a sheet offers to choose from.
const around = `{surroundings: [], parts: [], mixes: [], tools: [], suppliers: [], classes: [], skills: [],
	languages: [], currencies: [],
	families: [{title: "Brushes", value: "family"}], moment: {}}`

// fieldsOf are the fields of a type by their names in JSON, with those of what it holds; what a thing goes by, and
// what is counted and not said, aside.
func fieldsOf(of reflect.Type, before string) (all []string) {
	for i := range of.NumField() {
		name, _, _ := strings.Cut(of.Field(i).Tag.Get("json"), ",")
		is := of.Field(i).Type
		for is.Kind() == reflect.Pointer {
			is = is.Elem()
		}
		switch {
		case before+name == "id" || name == "onHand":
		case is.Kind() == reflect.Struct && !strings.Contains(is.String(), "Time") && is.NumField() > 1:
			all = append(all, fieldsOf(is, before+name+".")...)
		case is.Kind() == reflect.Slice && is.Elem().Kind() == reflect.Struct && is.Elem().NumField() > 1:
			all = append(all, fieldsOf(is.Elem(), before+name+".")...)
		default:
			all = append(all, before+name)
		}
	}
	return all
}

// Each field of everything in the workshop can be reached on a sheet, and a sheet has no field that there is not.
func TestEachFieldOfTheWorkshopIsOnASheet(t *testing.T) {
	types := map[string]reflect.Type{"settings": reflect.TypeFor[studio.Settings]()}
	for _, kind := range workshop.Kinds {
		is, err := workshop.Decoded(kind, []byte(`{}`))
		require.NoError(t, err)
		types[string(kind)] = reflect.TypeOf(is)
	}
	for kind, of := range types {
		on := run[[]string](load(t), `(() => {
			const s = ui.sheets(`+around+`, () => 0)[v.kind];
			return [...s.columns.map((c) => c.key),
				...s.lines.flatMap((l) => l.columns.map((c) => l.key + "." + c.key))];
		})()`, object{"kind": kind})
		for i, key := range on {
			on[i] = strings.Replace(key, "colours.family", "colours", 1)
		}
		want := fieldsOf(of, "")
		for i, field := range want { // its marks are written as lines of one field
			want[i] = strings.NewReplacer("measures.marks.name", "measures.marks",
				"measures.marks.sizeMicrometres", "measures.marks").Replace(field)
		}
		slices.Sort(on)
		slices.Sort(want)
		assert.Equal(t, slices.Compact(want), slices.Compact(on), "%s", kind)
	}
}

// What is written with its unit behind it is understood in the field's own.
func TestNumbersAreWrittenWithTheirUnits(t *testing.T) {
	for text, want := range map[string]int{
		"0.8": 800, "0,8 mm": 800, "36 cm": 360_000, "1in": 25_400, "360mm": 360_000,
	} {
		assert.Equal(t, want, run[int](load(t), `ui.kept({kind: "mm"}, v.text)`, object{"text": text}), text)
	}
	for text, want := range map[string]int{"35,5 g": 35_500, "1 kg": 1_000_000, "2 oz": 56_699} {
		assert.Equal(t, want, run[int](load(t), `ui.kept({kind: "g"}, v.text)`, object{"text": text}), text)
	}
	for _, bad := range []string{"3 packs", "mm", "1 2", "1e3", "5 furlongs"} {
		assert.True(t, run[bool](load(t), `Number.isNaN(ui.kept({kind: "mm"}, v.text))`, object{"text": bad}), bad)
	}
	assert.Equal(t, 90, run[int](load(t), `ui.kept({kind: "wall"}, "1.5 h")`, nil))
	p := load(t)
	_, err := p.vm.RunString(`ui.manner.value = {mass: "oz", length: "in", decimal: ","}`)
	require.NoError(t, err)
	assert.Equal(t, []string{"1,5", "0,25"},
		run[[]string](p, `[ui.shown({kind: "mm"}, 38100), ui.shown({kind: "g"}, 7087.38)]`, nil))
	assert.Equal(t, []int{38_100, 40_000, 28_350, 28_350}, run[[]int](p, `[ui.kept({kind: "mm"}, "1,5"),
		ui.kept({kind: "mm"}, "40 mm"), ui.kept({kind: "g"}, "1"), ui.kept({kind: "g"}, "28,35 g")]`, nil))
}

// What the program refuses is said in the studio's own units; what a message of its holds is said as well.
func TestARefusalIsSaidInTheStudiosUnits(t *testing.T) {
	says := func(manner string, said studio.Said) string {
		p := load(t)
		_, err := p.vm.RunString(`ui.manner.value = ` + manner)
		require.NoError(t, err)
		return run[string](p, `ui.inWords("", v.said)`, object{"said": said})
	}
	cut := studio.Say("pieces of %s in all are not cut from %s", studio.Micrometres(381_000),
		studio.Micrometres(360_000))
	assert.Equal(t, "pieces of 381 mm in all are not cut from 360 mm", says(`{decimal: "."}`, cut))
	assert.Equal(t, "pieces of 15 in in all are not cut from 14,17 in", says(`{length: "in", decimal: ","}`, cut))
	weight := studio.Say("a weight of %s cannot be", studio.Milligrams(-56_699))
	assert.Equal(t, "a weight of -2,00 oz cannot be", says(`{mass: "oz", decimal: ","}`, weight))
	flaw := studio.Say("%s %s", studio.Location(`recipes[1] "Dahlia".steps[0].name`),
		studio.Flaw("", "is %q", "x").Words())
	assert.Equal(t, `recipe “Dahlia”, step 1, name is "x"`, says(`{}`, flaw))
}

// A table from a spreadsheet is read by its headings, in any order: with tabs or semicolons, decimal commas, units,
// what is there already, and what is called so usually.
func TestATableFromASpreadsheetIsRead(t *testing.T) {
	read := func(kind, text string, there, usual []object) object {
		return run[object](load(t), `(() => {
			const a = `+around+`;
			a.suppliers = [{title: "Quay stores", value: "quay"}];
			const fresh = () => ({name: "", slots: 1, unit: "pieces"});
			return ui.pasted(v.text, ui.sheets(a, () => 0)[v.kind], v.there, v.usual, fresh);
		})()`, object{"kind": kind, "text": text,
			"there": append([]object{}, there...), "usual": append([]object{}, usual...)})
	}
	is := func(table object, i int) object { return table["rows"].([]any)[i].(object)["is"].(object) }
	places := read("places", "how many\tName\twidth of a cup\tcolour\n12\tspoon tray\t\tred\n3\tNest\t3,5 cm\t",
		[]object{{"id": "1", "name": "Spoon tray", "slots": 8, "sizeMicrometres": 40_000}}, nil)
	assert.Equal(t, []any{"colour"}, places["unknown"])
	assert.Equal(t, object{"id": "1", "name": "spoon tray", "slots": 12.0, "sizeMicrometres": 40_000.0}, is(places, 0),
		"an empty cell leaves what is there")
	assert.Equal(t, 35_000.0, is(places, 1)["sizeMicrometres"])
	materials := read("materials",
		"name;counted in;in packs of;bought from;out of use\nStarch;grams;0,5;quay stores;x\nBead;;20;;", nil,
		[]object{{"id": "u", "name": "Bead", "unit": "pieces", "form": "pearl"}})
	assert.Equal(t, "mg", is(materials, 0)["unit"])
	assert.Equal(t, 500.0, is(materials, 0)["pack"], "in the unit that another cell of the line says")
	assert.Equal(t, "quay", is(materials, 0)["supplier"])
	assert.Equal(t, true, is(materials, 0)["outOfUse"])
	assert.Equal(t, "pearl", is(materials, 1)["form"])
	people := read("people", "name,can do\nNoor,\"wiring, dusting\"", nil, nil)
	assert.Len(t, is(people, 0)["skills"], 2)
	shifts := read("people", "name;works;breaks\n"+
		"Noor;\"Mon, Wed-Thu 9:30–17; Sat 10.00 to 14:00\";13:00-13:45", nil, nil)
	assert.Equal(t, []any{
		object{"day": "monday", "from": "09:30", "to": "17:00"},
		object{"day": "wednesday", "from": "09:30", "to": "17:00"},
		object{"day": "thursday", "from": "09:30", "to": "17:00"},
		object{"day": "saturday", "from": "10:00", "to": "14:00"},
	}, is(shifts, 0)["hours"])
	assert.Equal(t, []any{object{"from": "13:00", "to": "13:45"}}, is(shifts, 0)["breaks"])
	unread := read("people", "name;works\nNoor;mornings", nil, nil)
	assert.Equal(t, []any{object{"day": "mornings", "from": "", "to": ""}}, is(unread, 0)["hours"], "to be refused")
	assert.Empty(t, read("people", "", nil, nil)["rows"])
}

// Each part of a studio document has a screen on which it is said, or comes of what people do; a part that is new
// has to be given its place here.
func TestEachPartOfADocumentIsSaidSomewhere(t *testing.T) {
	const ofSheets, ofWork, ofFile = "sheets", "what people do at a station", "the file itself"
	where := map[string]string{
		"format": ofFile, "version": ofFile, "epoch": ofFile, "now": ofFile, "direct": ofFile,
		"name": "stations/studio/FrameSheet.vue", "zone": "stations/studio/FrameSheet.vue",
		"settings": ofSheets, "climate": "stations/studio/FrameSheet.vue", "sensors": "stations/studio/DeviceList.vue",
		"recipes": "stations/book/RecipePage.vue", "colourways": "stations/book/ColourwaysDialog.vue",
		"orders": "stations/OrderForm.vue", "shelf": "stations/stores/StockTaking.vue",
		"offcuts": "stations/stores/StockTaking.vue", "decided": "stations/LotDecisions.vue",
		"divided": "stations/LotDecisions.vue", "gates": "stations/stores/ShoppingLists.vue",
		"readings": ofWork, "work": ofWork, "recorded": ofWork, "pins": "stations/plan/PinDrawer.vue",
		"seen": ofWork, "ordinals": ofWork,
	}
	for _, kind := range workshop.Kinds {
		where[string(kind)] = ofSheets
	}
	var parts []string
	for i := range reflect.TypeFor[studio.Document]().NumField() {
		name, _, _ := strings.Cut(reflect.TypeFor[studio.Document]().Field(i).Tag.Get("json"), ",")
		parts = append(parts, name)
		place, known := where[name]
		assert.True(t, known, "%s is said nowhere", name)
		if strings.HasPrefix(place, "stations/") {
			assert.FileExists(t, "../../ui/src/"+place)
		}
	}
	for name := range where {
		assert.Contains(t, parts, name, "is no part of a document")
	}
}
