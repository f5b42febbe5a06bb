package book_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/book"
	"bractum/core/studio"
	"bractum/demo"
)

func ids() func() studio.ID {
	n := 0
	return func() studio.ID { n++; return studio.ID(fmt.Sprintf("00000000-0000-7000-8000-%012d", n)) }
}

func recipe(doc *studio.Document, name string) *studio.Recipe {
	for _, r := range doc.Current() {
		if r.Name == name {
			return r
		}
	}
	panic(name)
}

// through is a bundle written and read again.
func through(t *testing.T, b *book.Bundle) *book.Bundle {
	data, err := json.Marshal(b)
	require.NoError(t, err)
	read, err := book.Read(bytes.NewReader(data))
	require.NoError(t, err)
	return read
}

func states(in *book.Intake) map[book.State]int {
	n := map[book.State]int{}
	for _, t := range in.Things {
		n[t.State]++
	}
	return n
}

func bare() *studio.Document {
	doc := demo.Document()
	doc.Materials, doc.DryingClasses, doc.Methods, doc.Places, doc.Tools, doc.Machines, doc.Families = nil, nil, nil, nil, nil, nil, nil
	doc.Recipes, doc.Colourways, doc.Orders, doc.Shelf, doc.Offcuts = nil, nil, nil, nil, nil
	return doc
}

// A flower goes to a studio that has nothing, with all it needs and no more; taken in
// a second time it is the same; and back home nothing of it is news.
func TestAFlowerGoesOutAndComesIn(t *testing.T) {
	home := demo.Document()
	gardenia := recipe(home, "Gardenia")
	file := through(t, book.Export(home, gardenia.Page()))
	for _, r := range file.Recipes {
		assert.NotContains(t, r.Name, "Dahlia")
	}
	away := bare()
	in, err := book.Examine(away, file, nil, ids())
	require.NoError(t, err)
	assert.Equal(t, map[book.State]int{book.New: len(in.Things)}, states(in))
	in.Into(away)
	require.Empty(t, away.Validate())
	assert.Equal(t, gardenia.Page(), recipe(away, "Gardenia").Page(), "a stored thing keeps its id")
	again, err := book.Examine(away, file, nil, ids())
	require.NoError(t, err)
	assert.Equal(t, map[book.State]int{book.Same: len(again.Things)}, states(again))
	assert.Empty(t, again.Adds.Recipes)
	whole, err := book.Examine(home, through(t, book.Export(home)), nil, ids())
	require.NoError(t, err)
	assert.Equal(t, map[book.State]int{book.Same: len(whole.Things)}, states(whole))
}

// A changed petal comes in as a new revision, and the flowers of ours that use it
// follow; what did not change keeps its revision.
func TestAChangeComesInAsANewRevision(t *testing.T) {
	doc := demo.Document()
	file := book.Export(doc, recipe(doc, "Magnolia").Page())
	for i := range file.Recipes {
		if file.Recipes[i].Name == "Magnolia outer petal" {
			file.Recipes[i].Pastes[0].Shape.Length = 80_000
		}
	}
	in, err := book.Examine(doc, through(t, file), nil, ids())
	require.NoError(t, err)
	i := slices.IndexFunc(in.Things, func(x book.Thing) bool { return x.State == book.Changed })
	assert.Equal(
		t,
		[]book.Edit{{Place: `pastes "cut petal".shape.lengthMicrometres`, Was: "78000", Is: "80000"}},
		in.Things[i].Changes,
	)
	in.Into(doc)
	require.Empty(t, doc.Validate())
	assert.Equal(t, 2, recipe(doc, "Magnolia").Revision)
	assert.Equal(t, 2, recipe(doc, "Magnolia outer petal").Revision)
	assert.Equal(t, 1, recipe(doc, "Magnolia inner petal").Revision)
	assert.Equal(t, recipe(doc, "Magnolia outer petal").ID, recipe(doc, "Magnolia").Parts[2].Recipe)
	assert.Equal(
		t,
		demo.ID("Magnolia"),
		doc.Orders[0].Lines[0].Recipe,
		"what was ordered is not changed under the order",
	)
}

func TestConflictsAreDecidedOrNothingIsTaken(t *testing.T) {
	file := book.Export(demo.Document(), recipe(demo.Document(), "Olive sprig").Page())
	doc := demo.Document()
	for i := range doc.Recipes { // another studio's olive, under the same name
		if doc.Recipes[i].Name == "Olive leaf" {
			doc.Recipes[i].Recipe = "00000000-0000-7000-8000-999999999999"
			doc.Recipes[i].Steps[0].Name = "Cut freehand"
		}
	}
	for i := range doc.Materials {
		if doc.Materials[i].Name == "28 green wire" {
			doc.Materials[i].Wire.Gauge = 27
		}
	}
	in, err := book.Examine(doc, through(t, file), nil, ids())
	require.NoError(t, err)
	assert.Equal(t, 2, in.Open)
	assert.Empty(t, in.Adds.Recipes)
	assert.ErrorContains(t, in.Refused(), "2 things are in conflict")
	for choice, revision := range map[book.Choice]int{book.Keep: 1, book.Take: 2, book.Beside: 1} {
		in, err = book.Examine(
			doc,
			through(t, file),
			map[studio.ID]book.Choice{demo.ID("Olive leaf"): choice, demo.ID("28 green wire"): book.Beside},
			ids(),
		)
		require.NoError(t, err)
		require.Zero(t, in.Open)
		after := *doc
		in.Into(&after)
		require.Empty(t, after.Validate())
		assert.Equal(t, revision, recipe(&after, "Olive leaf").Revision, choice)
		if choice == book.Beside {
			assert.Equal(t, recipe(&after, "Olive leaf 2").ID, recipe(&after, "Olive sprig").Parts[0].Recipe)
		}
	}
}

// Another studio's ivy leaf has no small one: taken as ours, our sprig would be wrong.
func TestWhatWouldBreakOursIsSaidAndNotTaken(t *testing.T) {
	doc := demo.Document()
	file := through(t, book.Export(doc, recipe(doc, "Ivy leaf").Page()))
	for i := range file.Recipes {
		file.Recipes[i].Variants = nil
	}
	in, err := book.Examine(doc, file, nil, ids())
	require.NoError(t, err)
	assert.ErrorContains(t, in.Refused(), `"Ivy leaf" has no variant "small"`)
	assert.Empty(t, in.Adds.Recipes)
	in, err = book.Examine(doc, file, map[studio.ID]book.Choice{demo.ID("Ivy leaf"): book.Beside}, ids())
	require.NoError(t, err)
	require.NoError(t, in.Refused())
	assert.Len(t, in.Adds.Recipes, 1)
}

// A file written by hand names things by words; the same word may name a place and a
// recipe; what the studio has by that name is meant.
func TestWordsAsIDs(t *testing.T) {
	text := `{"format": "bractum-recipes", "version": 1,
	 "materials": [{"id": "paste", "name": "Flower paste", "unit": "mg", "onHand": 0}, {"id": "tray", "name": "Tray foil", "unit": "pieces", "onHand": 0}],
	 "places": [{"id": "tray", "name": "Paper tray", "slots": 4, "madeBy": "tray"}],
	 "recipes": [
	  {"id": "white", "name": "Quay white", "kind": "mix", "colour": "#ffffff", "lifeMinutes": 600, "blend": [{"material": "paste", "parts": 1}], "steps": [{"key": "k", "name": "Knead", "work": {"skill": "mixing", "pieceMilliminutes": 100}}], "spares": {"rule": "none"}},
	  {"id": "tray", "name": "Paper tray, folded", "kind": "part", "steps": [{"key": "fold", "name": "Fold", "work": {"skill": "shaping", "pieceMilliminutes": 100}}], "materials": [{"step": "fold", "material": "tray", "amount": 1}], "spares": {"rule": "none"}},
	  {"id": "daisy", "name": "Quay daisy", "kind": "flower", "defaults": {"petal": "white"}, "pastes": [{"step": "cut", "slot": "petal", "shape": {"shape": "ball", "diameterMicrometres": 9000}}],
	   "steps": [{"key": "cut", "name": "Cut", "work": {"skill": "shaping", "pieceMilliminutes": 100}, "holds": [{"place": "tray", "perSlot": 6, "until": "cut"}]}], "spares": {"rule": "none"}}]}`
	file, err := book.Read(strings.NewReader(text))
	require.NoError(t, err)
	doc := demo.Document()
	file.Recipes[2].Pictures, file.Pictures = []studio.Picture{
		{ID: "rim", Name: "The rim"},
	}, []book.Image{
		{ID: "rim", Media: "image/png", Data: []byte("x")},
	}
	in, err := book.Examine(doc, file, nil, ids())
	require.NoError(t, err)
	in.Into(doc)
	require.Empty(t, doc.Validate())
	daisy := recipe(doc, "Quay daisy")
	assert.Len(t, string(in.Adds.Pictures[0].ID), 36)
	assert.Equal(t, in.Adds.Pictures[0].ID, daisy.Pictures[0].ID)
	file.Recipes[2].Pictures, daisy.Pictures = nil, nil
	assert.Len(t, string(daisy.ID), 36)
	place := doc.Places[len(doc.Places)-1]
	assert.Equal(t, daisy.Steps[0].Holds[0].Place, place.ID)
	assert.Equal(t, recipe(doc, "Paper tray, folded").ID, place.MadeBy)
	assert.Equal(t, demo.ID("Flower paste"), recipe(doc, "Quay white").Blend[0].Material)
	again, err := book.Examine(doc, file, nil, ids())
	require.NoError(t, err)
	assert.Equal(t, book.Same, again.Things[len(again.Things)-1].State, "a word is found again by the name")
}

func TestUnusableFilesOfRecipes(t *testing.T) {
	good, err := json.Marshal(
		book.Export(
			demo.Document(),
			recipe(demo.Document(), "Hellebore").Page(),
			recipe(demo.Document(), "Dahlia").Page(),
		),
	)
	require.NoError(t, err)
	swap := func(old, new string) string {
		require.Contains(t, string(good), old)
		return strings.Replace(string(good), old, new, 1)
	}
	petal, flower := string(demo.ID("Hellebore petal")), string(demo.ID("Hellebore"))
	for _, c := range []struct{ text, says string }{
		{swap(`"version":2`, `"version":9`), `this program reads "bractum-recipes" version 2`},
		{swap(`"step":"cut","slot"`, `"step":"carve","slot"`), "carve"},
		{swap(`"unit":"mg"`, `"unit":""`), "mg, µm or pieces would be right"},
		{swap(`"yield":{"step":"halve","gives":2}`, `"yield":{"step":"halve","gives":0}`), "from 2 to 10000 would be right"},
		{swap(`"until":"set"`, `"until":""`), "ends with a step of this recipe"},
		{swap(`"from":"firm","before":"stiff"`, `"from":"stiff","before":"firm"`), "window ends (firm) before it starts (stiff)"},
		{strings.Replace(string(good), `"recipe":"`+petal+`","count":5`, `"recipe":"`+flower+`","count":5`, 1), "recipes nest without cycles"},
		{"[", "line 1"},
	} {
		_, err := book.Read(strings.NewReader(c.text))
		assert.ErrorContains(t, err, c.says)
	}
	_, err = book.Read(bytes.NewReader(bytes.Repeat([]byte(" "), 50<<20)))
	assert.ErrorContains(t, err, "larger than 16 MiB")
}

func TestARecipeWrittenOverAnOldRevisionIsRefused(t *testing.T) {
	doc := demo.Document()
	mine, theirs := *recipe(doc, "Fern frond"), *recipe(doc, "Fern frond")
	theirs.SecondsServe = true
	revised, err := book.Revise(doc, []studio.Recipe{theirs}, ids())
	require.NoError(t, err)
	doc.Recipes = append(doc.Recipes, revised...)
	mine.MostPerLot = 12
	_, err = book.Revise(doc, []studio.Recipe{mine}, ids())
	var overtaken book.Overtaken
	require.ErrorAs(t, err, &overtaken)
	assert.Equal(t, 2, overtaken.Is.Revision)
	same := *recipe(doc, "Fern frond")
	revised, err = book.Revise(doc, []studio.Recipe{same}, ids())
	require.NoError(t, err)
	assert.Empty(t, revised, "what says nothing new is no revision")
	same.Name = "Dahlia"
	_, err = book.Revise(doc, []studio.Recipe{same}, ids())
	assert.ErrorContains(t, err, "is the name of two recipes")
}

// Every variant and school of the demo, made and looked at as a whole, is found again
// as the change that makes it.
func TestAChangeIsFoundFromWhatItMakes(t *testing.T) {
	doc := demo.Document()
	tried := 0
	for _, r := range doc.Recipes {
		for _, v := range r.Changes() {
			base := r
			base.Techniques, base.Variants = nil, []studio.Variant{v}
			plain, _ := base.As("")
			made, ok := base.As(v.Name)
			require.True(t, ok)
			found, err := book.Vary(plain, made, v.Name)
			require.NoError(t, err, "%s, %s", r.Name, v.Name)
			base.Variants = []studio.Variant{found}
			again, _ := base.As(v.Name)
			assert.Empty(t, book.Changes(nil, *made, *again), "%s, %s", r.Name, v.Name)
			tried++
		}
	}
	assert.Greater(t, tried, 25)
	magnolia := recipe(doc, "Magnolia")
	other, _ := magnolia.As("")
	other.Form = "daisy"
	_, err := book.Vary(magnolia, other, "single")
	assert.ErrorContains(t, err, "cannot change form")
}

func TestThePartsTableGoesOutAndComesIn(t *testing.T) {
	doc := demo.Document()
	index := studio.NewBook(doc)
	dahlia := *recipe(doc, "Dahlia")
	table := string(book.PartsCSV(doc, index, &dahlia))
	assert.Contains(t, table, `"Dahlia petal, large",,cupped,outer,10-12,12,over-gaps,glued,cut,58,24,0.65,,`)
	same, err := book.WithPartsCSV(doc, index, dahlia, strings.NewReader(table), ids())
	require.NoError(t, err)
	require.Len(t, same, 1)
	assert.Empty(t, book.Changes(nil, dahlia, same[0]))

	table = strings.ReplaceAll(table, `cut,58,24,0.65`, `cut,60.5,24,0.65`)
	table += `"Dahlia petal, giant",,cupped,outer,14,7+7,over-gaps,glued,cut,72,30,0.7,,,,,,,` + "\n"
	changed, err := book.WithPartsCSV(doc, index, dahlia, strings.NewReader(table), ids())
	require.NoError(t, err)
	assert.Equal(
		t,
		[]string{"Dahlia", "Dahlia petal, large", "Dahlia petal, giant"},
		[]string{changed[0].Name, changed[1].Name, changed[2].Name},
	)
	assert.Equal(t, []int64{7, 7}, changed[0].Parts[6].Rows)
	revised, err := book.Revise(doc, changed, ids())
	require.NoError(t, err)
	assert.Len(t, revised, 3)

	for _, c := range []struct{ old, new, says string }{
		{"part,", "piece,", "is not the heading"},
		{"10-12", "some", `line 6, count: "some" is not a whole number`},
		{"cut,58,", "cut,58.12345,", `"58.12345" is not a number with at most three places`},
	} {
		bad := strings.Replace(string(book.PartsCSV(doc, index, &dahlia)), c.old, c.new, 1)
		_, err := book.WithPartsCSV(doc, index, dahlia, strings.NewReader(bad), ids())
		assert.ErrorContains(t, err, c.says)
	}
}

// A white daisy that is taken in stays white where it goes into a flower of ours, and is ordered in
// our colours where a line says so.
func TestAFlowerOfOthersKeepsItsColours(t *testing.T) {
	doc := demo.Document()
	from := demo.Document()
	hellebore := recipe(from, "Hellebore")
	hellebore.Defaults = map[string]studio.ID{}
	_, missing := studio.NewBook(from).Resolve(studio.Made{Recipe: hellebore.ID}, nil)
	for _, slot := range missing {
		hellebore.Defaults[slot] = demo.ID("Petal white")
	}
	require.Contains(t, missing, "petal")
	file := book.Export(from, hellebore.Page())
	doc.Recipes = slices.DeleteFunc(doc.Recipes, func(r studio.Recipe) bool {
		return strings.HasPrefix(r.Name, "Hellebore")
	})
	in, err := book.Examine(doc, file, nil, ids())
	require.NoError(t, err)
	for _, thing := range in.Things {
		assert.Equal(t, thing.Name == "Hellebore", thing.OwnColours, thing.Name)
	}
	in.Into(doc)
	require.Empty(t, doc.Validate())
	assert.True(t, recipe(doc, "Hellebore").OwnColours)
	again, err := book.Examine(doc, file, nil, ids())
	require.NoError(t, err)
	for _, thing := range again.Things {
		assert.Equal(t, book.Same, thing.State, thing.Name)
	}
}
