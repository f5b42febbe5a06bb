package demo_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/flower"
	"bractum/core/studio"
	"bractum/demo"
)

// What the methods of docs/methods.md ask for is in the demo's book, each shown by how
// it stands in the file.
func TestTheBookUsesEveryWord(t *testing.T) {
	doc := demo.Document()
	data, err := json.Marshal(struct{ A, B, C, D any }{doc.Recipes, doc.Places, doc.Tools, doc.Families})
	require.NoError(t, err)
	text := string(data)
	for _, word := range []string{
		`"work":`, `"wait":`, `"mend":`, `"alsoSkills":`, `"mayPause":false`, `"sharePerMille":350`, `"form":"cupped"`, `"together":`, `"stint":`, `"run":`, `"tool":`, `"tools":`, `"setupFamily":`, `"look":`, `"cautions":`,
		`"state":"firm"`, `"state":"dry"`, `"minutes":`, `"wished":{"state"`, `"wished":{"minutes"`, `"load":`, `"continues":`, `"method":`,
		`"until":`, `"untilNext":`, `"place":"` + string(demo.ID("Soft sleeve")), `"place":"` + string(demo.ID("Foil cup")), `"place":"` + string(demo.ID("Lace mat")), `"place":"` + string(demo.ID("Cone former")), `"place":"` + string(demo.ID("Half-sphere mould 90 mm")), `"place":"` + string(demo.ID("Wavy foam")), `"place":"` + string(demo.ID("Hanging rail")), `"madeBy":"` + string(demo.ID("Foil cup, shaped")), `"keepsMinutes":`,
		`"atLeastMinutes":`, `"atMostMinutes":`, `"from":"firm"`, `"before":"stiff"`, `"before":"dry"`, `"after":"rows"`, `"window":`,
		`"yield":`, `"gives":2`, `"gives":10`, `"forms":`, `"byproducts":`, `"outAtStep":`, `"least":`, `"between":`, `"rows":`, `"sequence":`, `"atMicrometres":`, `"reversed":true`, `"slots":{"petal":"inner petal"}`,
		`"set":"over-gaps"`, `"set":"level"`, `"set":"alternating"`, `"join":"taped"`, `"join":"glued"`, `"join":"wet"`, `"join":"slotted"`, `"join":"threaded"`, `"join":"iced"`,
		`"build":"outside-in"`, `"variants":`, `"stopAfter":`, `"without":`, `"order":`, `"secondsServe":true`, `"leastPerLot":`, `"mostPerLot":`,
		`"rule":"breakage"`, `"rule":"number"`, `"rule":"percent"`, `"rule":"none"`, `"hook":"open"`, `"hook":"closed"`, `"hook":"tape-wound"`, `"hook":"straight"`, `"turns":`,
		`"shape":"cut"`, `"shape":"ball"`, `"shape":"rope"`, `"shape":"weighed"`, `"driedMicrometres":`, `"byPercent":true`, `"milligramsPer100g":`, `"dropsPer100g":`, `"lifeColdMinutes":`, `"dryingPerMille":`,
		`"kind":"mix"`, `"kind":"part"`, `"kind":"flower"`, `"kind":"spray"`, `"standIns":`, `"changes":`,
		`"question":"hook"`, `"question":"wire depth"`, `"question":"veining"`, `"question":"runs or phases"`, `"question":"direction"`, `"question":"glue"`, `"question":"colour"`, `"question":"drying"`, `"question":"stay soft or dry fast"`, `"question":"spares"`, `"question":"spray tip"`,
	} {
		assert.True(t, strings.Contains(text, word), "%s is in no recipe", word)
	}
}

// Every flower, filler and leaf can be drawn and reckoned in every colourway, variant
// and school, and its proportions are plausible.
func TestEveryFlowerIsPlausible(t *testing.T) {
	doc := demo.Document()
	book := studio.NewBook(doc)
	var flowers int
	for _, r := range doc.Current() {
		if r.Kind != studio.KindFlower && r.Kind != studio.KindSpray {
			continue
		}
		flowers++
		for _, variant := range append([]studio.Variant{{}}, r.Variants...) {
			s, err := flower.Reckon(
				doc,
				flower.Wanted{
					Made:    studio.Made{Recipe: r.ID, Variant: variant.Name},
					Colours: doc.Colourways[flowers%len(doc.Colourways)].Slots,
				},
			)
			require.NoError(t, err)
			assert.Empty(t, s.Missing, r.Name)
			t.Logf(
				"%-16s %-10s %3d kinds, %5.1f g, bench %5.1f + %5.1f min, elapsed %5.1f h",
				r.Name,
				variant.Name,
				len(s.Pieces),
				float64(s.Mass)/1000,
				float64(s.Setup)/1000,
				float64(s.Attended)/1000,
				float64(s.Elapsed)/60,
			)
			assert.Less(t, s.Elapsed, studio.Minute(4*1440), r.Name)
			assert.Greater(t, s.Attended, studio.Milliminutes(1000), r.Name)
		}
	}
	assert.Equal(t, 19, flowers, "eighteen and a spray")
	for _, w := range flower.Proportions(doc, book, doc.Recipes) {
		t.Log(book.Recipe(w.Recipe).Name, w.Case, w.Working)
	}
}

// Whoever makes a flower for the first time is told what usually goes wrong, and where dust goes.
func TestTheBookTellsWhoIsNewToIt(t *testing.T) {
	book := demo.Document()
	for _, r := range book.Recipes {
		for _, s := range r.Steps {
			if s.Work != nil {
				assert.NotEmpty(t, s.Mistakes, "%s, %s", r.Name, s.Name)
			}
		}
		for _, p := range r.Pastes {
			if p.Slot == "dust" || p.Slot == "leaf dust" || p.Slot == "icing" {
				assert.NotEmpty(t, p.Where, "%s, %s", r.Name, p.Step)
			}
		}
	}
}
