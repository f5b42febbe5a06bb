package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"io"
	"net"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/api"
	"bractum/core/book"
	"bractum/core/flower"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/demo"
	"bractum/store"
)

// asked sends a request as Odalys and reads the answer into a type.
func asked[T any](t testing.TB, d desk, method, path string, body any, seen ...int64) (int, T) {
	data, err := json.Marshal(body)
	require.NoError(t, err)
	if raw, is := body.([]byte); is {
		data = raw
	}
	request := httptest.NewRequest(method, "/api"+path, bytes.NewReader(data))
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Command-Id", uuid.NewString())
	request.Header.Set("Person", string(demo.ID("Odalys")))
	for _, version := range seen {
		request.Header.Set("If-Match", fmt.Sprint(version))
	}
	answer := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(answer, request)
	var out T
	if err := json.Unmarshal(answer.Body.Bytes(), &out); err != nil {
		require.NoError(t, err, answer.Body.String())
	}
	return answer.Code, out
}

func bookOf(t testing.TB, d desk) api.BookView {
	status, view := asked[api.BookView](t, d, "GET", "/book", nil)
	require.Equal(t, 200, status)
	return view
}

func pageOf(t testing.TB, d desk, name string) api.Page {
	for _, p := range bookOf(t, d).Pages {
		if p.Name == name {
			return p
		}
	}
	t.Fatal("no page ", name)
	return api.Page{}
}

func opened(t testing.TB, d desk, name string) api.Opened {
	status, o := asked[api.Opened](t, d, "GET", "/book/pages/"+string(pageOf(t, d, name).Page), nil)
	require.Equal(t, 200, status)
	return o
}

func publish(t testing.TB, d desk, recipes ...studio.Recipe) (int, api.Published) {
	return asked[api.Published](t, d, "POST", "/book/publish", map[string]any{"recipes": recipes})
}

type refusal struct {
	Detail string
	Errors []struct{ Message, Location string }
}

func TestARevisionLeavesOrdersAloneUntilTheLeadMovesThem(t *testing.T) {
	d := newDesk(t)
	petal := opened(t, d, "Magnolia outer petal").Recipes[0]
	petal.Pastes[0].Shape.Length = 90_000
	status, done := publish(t, d, petal)
	require.Equal(t, 200, status)
	assert.Len(t, done.Revised, 2, "the petal, and the flower that it goes into")
	_, orders := asked[[]api.OrderView](t, d, "GET", "/orders", nil)
	for _, o := range orders {
		assert.False(t, o.Pending)
	}
	magnolia := opened(t, d, "Magnolia")
	require.Len(t, magnolia.Lines, 2)
	assert.Equal(t, []book.Edit{}, magnolia.Revisions[0].Changes, "its own text is the same")
	assert.EqualValues(t, 2, pageOf(t, d, "Magnolia").Behind)
	_, before := asked[api.StudioView](t, d, "GET", "/studio", nil)
	assert.Len(t, before.Flowers, 20, "an earlier revision keeps its name for the orders that keep it")

	lines := map[string]any{"lines": []studio.ID{magnolia.Lines[0].Line}}
	page := "/book/pages/" + string(pageOf(t, d, "Magnolia").Page)
	status, effect := asked[api.Effect](t, d, "POST", page+"/move/preview", lines)
	require.Equal(t, 200, status)
	assert.NotEmpty(t, effect.Each)
	assert.NotEmpty(t, effect.Differences.Added)
	assert.Len(t, opened(t, d, "Magnolia").Lines, 2, "looking moves nothing")
	status, _ = asked[api.Moved](t, d, "POST", page+"/move", lines)
	require.Equal(t, 200, status)
	assert.Len(t, opened(t, d, "Magnolia").Lines, 1)
	_, proposal := asked[api.Proposal](t, d, "GET", "/proposal", nil)
	assert.Len(t, proposal.Pending, 1, "what moved awaits acceptance")
	status, no := asked[refusal](t, d, "POST", page+"/move", lines)
	assert.Equal(t, 409, status)
	assert.Contains(t, no.Detail, "keeps an earlier revision")
}

func TestTwoPeopleWriteOneRecipe(t *testing.T) {
	d := newDesk(t)
	mine, theirs := opened(t, d, "Fern frond").Recipes[0], opened(t, d, "Fern frond").Recipes[0]
	theirs.Steps[0].Work.PerPiece = 2500
	status, _ := publish(t, d, theirs)
	require.Equal(t, 200, status)
	mine.MostPerLot = 9
	status, no := asked[refusal](t, d, "POST", "/book/publish", map[string]any{"recipes": []studio.Recipe{mine}})
	assert.Equal(t, 412, status)
	assert.Contains(t, no.Detail, "nothing of yours was written")
	assert.Contains(t, no.Errors[0].Location, "pieceMilliminutes")
}

func TestADraftIsKeptUnfinishedAndCannotBeOrdered(t *testing.T) {
	d := newDesk(t)
	_, begun := asked[[]studio.Recipe](
		t,
		d,
		"POST",
		"/book/begin",
		map[string]any{"pattern": "wired", "name": "Beacon lily"},
	)
	begun[0].Steps = begun[0].Steps[:1]
	begun[0].Parts[0].Count = 0
	id := uuid.NewString()
	status, kept := asked[api.Entered](
		t,
		d,
		"PUT",
		"/book/drafts/"+id,
		map[string]any{"name": "Beacon lily", "recipes": begun},
		0,
	)
	require.Equal(t, 200, status)
	assert.EqualValues(t, 1, kept.Version)
	_, x := asked[api.Examined](t, d, "POST", "/book/examine", map[string]any{"recipes": begun, "recipe": begun[0].ID})
	require.NotEmpty(t, x.Problems)
	assert.Equal(t, "parts[0].count", x.Problems[0].Place)
	assert.Nil(t, x.Sheet)
	status, _ = publish(t, d, begun...)
	assert.Equal(t, 422, status)
	o := map[string]any{
		"name":     "Beacon",
		"occasion": "",
		"leaves":   "2027-10-12T10:00",
		"leaving":  "collected",
		"lines":    []any{map[string]any{"recipe": begun[0].ID, "colourway": demo.ID("Signal"), "quantity": 2}},
	}
	status, no := asked[refusal](t, d, "POST", "/orders", o)
	assert.Equal(t, 422, status)
	assert.Contains(t, no.Detail, "that can be ordered is in the flower book")
	status, _ = asked[refusal](t, d, "PUT", "/book/drafts/"+id, map[string]any{"name": "x", "recipes": begun}, 7)
	assert.Equal(t, 412, status)

	begun[0].Parts[0].Count = 1
	begun[0].Parts = begun[0].Parts[:3]
	status, _ = asked[api.Published](
		t,
		d,
		"POST",
		"/book/publish",
		map[string]any{"recipes": begun, "draft": id, "draftVersion": 1},
	)
	require.Equal(t, 200, status)
	assert.Empty(t, bookOf(t, d).Drafts)
	o["lines"] = []any{
		map[string]any{"recipe": pageOf(t, d, "Beacon lily").Recipe, "colourway": demo.ID("Signal"), "quantity": 2},
	}
	status, _ = asked[refusal](t, d, "POST", "/orders", o)
	assert.Equal(t, 200, status)
}

func undo(t testing.TB, d desk) (int, refusal) {
	_, page := asked[store.Page[store.Entry]](t, d, "GET", "/journal", nil)
	return asked[refusal](t, d, "POST", fmt.Sprintf("/journal/%d/undo", page.Lines[0].N), nil)
}

func TestWhatWasWrittenIntoTheBookIsTakenBackUnlessItIsUsed(t *testing.T) {
	d := newDesk(t)
	cone := opened(t, d, "Gardenia cone").Recipes[0]
	cone.Steps[0].Look = "Three quarters of its petal."
	status, _ := publish(t, d, cone)
	require.Equal(t, 200, status)
	require.Equal(t, 2, pageOf(t, d, "Gardenia").Revision)
	status, _ = undo(t, d)
	require.Equal(t, 200, status)
	assert.Equal(t, 1, pageOf(t, d, "Gardenia").Revision)
	status, _ = publish(t, d, cone)
	require.Equal(t, 200, status, "and can be written again")
	o := map[string]any{"name": "Beacon", "occasion": "", "leaves": "2027-10-12T10:00", "leaving": "collected",
		"lines": []any{
			map[string]any{"recipe": pageOf(t, d, "Gardenia").Recipe, "colourway": demo.ID("Signal"), "quantity": 2},
		}}
	status, _ = asked[refusal](t, d, "POST", "/orders", o)
	require.Equal(t, 200, status)
	_, page := asked[store.Page[store.Entry]](t, d, "GET", "/journal", nil)
	status, no := asked[refusal](t, d, "POST", fmt.Sprintf("/journal/%d/undo", page.Lines[1].N), nil)
	assert.Equal(t, 409, status)
	assert.Contains(t, no.Detail, "uses it")
	assert.Equal(t, 2, pageOf(t, d, "Gardenia").Revision, "nothing was undone")
}

func TestAFileIsTakenInWholeOrNotAtAll(t *testing.T) {
	d := newDesk(t)
	file := func(change func(*book.Bundle)) map[string]any {
		b := book.Export(demo.Document(), pageOf(t, d, "Dahlia").Page)
		change(b)
		data, err := json.Marshal(b)
		require.NoError(t, err)
		return map[string]any{"file": string(data)}
	}
	status, same := asked[book.Intake](t, d, "POST", "/book/import/preview", file(func(*book.Bundle) {}))
	require.Equal(t, 200, status)
	for _, thing := range same.Things {
		assert.Equal(t, book.Same, thing.State, thing.Name)
	}
	larger := file(func(b *book.Bundle) {
		for i := range b.Recipes {
			if b.Recipes[i].Name == "Dahlia petal, large" {
				b.Recipes[i].Pastes[0].Shape.Length = 61_000
			}
		}
		b.Materials = append(
			b.Materials,
			studio.Material{ID: "sequins", Name: "Tide sequins", Unit: studio.UnitPieces},
		)
	})
	before := bookOf(t, d)
	status, in := asked[book.Intake](t, d, "POST", "/book/import/preview", larger)
	require.Equal(t, 200, status)
	assert.Zero(t, in.Open)
	assert.Equal(t, before.N, bookOf(t, d).N, "looking writes nothing")
	status, _ = asked[book.Intake](t, d, "POST", "/book/import", larger)
	require.Equal(t, 200, status)
	assert.Equal(t, 2, pageOf(t, d, "Dahlia").Revision)
	assert.Len(t, bookOf(t, d).Words.Materials, len(before.Words.Materials)+1)
	status, _ = undo(t, d)
	require.Equal(t, 200, status)
	assert.Len(t, bookOf(t, d).Words.Materials, len(before.Words.Materials))
	assert.Equal(t, 1, pageOf(t, d, "Dahlia").Revision)

	for says, broken := range map[string]map[string]any{
		"recipes nest without cycles": file(func(b *book.Bundle) {
			for i := range b.Recipes {
				if b.Recipes[i].Name == "Dahlia core" {
					b.Recipes[i].Parts = []studio.PartInput{{Step: "fix", Recipe: demo.ID("Dahlia"), Count: 1}}
				}
			}
		}),
		"is no PNG, JPEG or SVG picture": file(func(b *book.Bundle) {
			b.Pictures = []book.Image{{ID: "p", Media: "image/png", Data: []byte("GIF89a")}}
		}),
		"line 1, column": {"file": "{nonsense"},
	} {
		status, no := asked[refusal](t, d, "POST", "/book/import", broken)
		assert.Equal(t, 422, status)
		assert.Contains(t, no.Detail, says)
	}
	url, stop := d.serve()
	line, err := net.Dial("tcp", strings.TrimPrefix(url, "http://"))
	require.NoError(t, err)
	_, err = fmt.Fprintf(
		line,
		"POST /api/book/import/preview HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n{",
		50<<20,
	)
	require.NoError(t, err)
	said, _ := io.ReadAll(line)
	assert.Contains(t, string(said), "413")
	assert.Contains(t, string(said), "larger than the 20 MiB that are taken at once; nothing was written")
	require.NoError(t, stop())
	assert.Equal(t, len(before.Pages), len(bookOf(t, d).Pages))
}

func TestAPictureIsServedHarmless(t *testing.T) {
	d := newDesk(t)
	status, kept := asked[api.Entered](
		t,
		d,
		"POST",
		"/book/pictures",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script><path d="M0 0"/></svg>`),
	)
	require.Equal(t, 200, status)
	request := httptest.NewRequest("GET", "/api/book/pictures/"+string(kept.ID), nil)
	answer := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(answer, request)
	assert.Equal(t, "image/svg+xml", answer.Header().Get("Content-Type"))
	assert.Contains(t, answer.Header().Get("Content-Security-Policy"), "sandbox")
	assert.NotContains(t, answer.Body.String(), "script")
	var photo bytes.Buffer
	require.NoError(t, png.Encode(&photo, image.NewRGBA(image.Rect(0, 0, 3, 3))))
	fern := opened(t, d, "Fern frond").Recipes[0]
	_, kept = asked[api.Entered](t, d, "POST", "/book/pictures", photo.Bytes())
	fern.Pictures = []studio.Picture{{ID: kept.ID, Name: "The curl"}}
	status, _ = publish(t, d, fern)
	require.Equal(t, 200, status)
	_, b := asked[book.Bundle](t, d, "GET", "/book/export?page="+string(pageOf(t, d, "Fern frond").Page), nil)
	require.Len(t, b.Pictures, 1, "pictures are handed on with their recipes")
	assert.Equal(t, "image/png", b.Pictures[0].Media)
	status, no := asked[refusal](t, d, "POST", "/book/pictures", []byte("hello"))
	assert.Equal(t, 422, status)
	assert.Contains(t, no.Detail, "Nothing was kept")
}

func TestAColourwayIsSeenBeforeItIsWritten(t *testing.T) {
	d := newDesk(t)
	body := map[string]any{
		"name": "Signal",
		"slots": map[string]studio.ID{
			"petal":       demo.ID("Buoy apricot"),
			"inner petal": demo.ID("Buoy orange"),
			"dust":        demo.ID("Ember dust"),
		},
	}
	at := "/book/colourways/" + string(demo.ID("Signal"))
	status, effect := asked[api.Effect](t, d, "POST", at+"/preview", body)
	require.Equal(t, 200, status)
	assert.NotEmpty(t, effect.Differences.Added, "other mixes are kneaded")
	status, _ = asked[api.Entered](t, d, "PUT", at, body, 1)
	require.Equal(t, 200, status)
	status, _ = asked[refusal](t, d, "PUT", at, body, 1)
	assert.Equal(t, 412, status)
	status, _ = undo(t, d)
	assert.Equal(t, 200, status)
	for _, c := range bookOf(t, d).Colourways {
		if c.Name == "Signal" {
			assert.Equal(t, demo.ID("Signal red"), c.Slots["petal"])
		}
	}
	delete(body["slots"].(map[string]studio.ID), "inner petal")
	status, no := asked[refusal](t, d, "PUT", at, body, 3)
	assert.Equal(t, 422, status)
	assert.Contains(t, no.Detail, "gives no mix for inner petal")
}

func TestThingsAreAddedForARecipe(t *testing.T) {
	d := newDesk(t)
	for kind, is := range map[workshop.Kind]object{
		"materials": {"name": "Tide sequins", "unit": "pieces", "onHand": 0},
		"places":    {"name": "Slate", "slots": 4},
		"tools":     {"name": "Fan cutter", "number": 1, "sizeMicrometres": 30_000},
		"machines":  {"name": "Warm box", "slots": 2},
		"dryingClasses": {"name": "Wafer", "firmMinutes": 5, "stiffMinutes": 10, "dryMinutes": 20,
			"thicknessMicrometres": 300, "spreadPerMille": 100, "stallHumidityPerMille": 800},
	} {
		for _, want := range []int{200, 422} { // the second has its name
			id := studio.ID(uuid.NewString())
			is["id"] = id
			status, answer := d.wishes(kind, id, nil, is)
			assert.Equal(t, want, status, "%v", answer)
		}
	}
	words := bookOf(t, d).Words
	assert.Equal(t, "Slate", words.Places[len(words.Places)-1].Name)
	assert.Equal(t, "Warm box", words.Machines[len(words.Machines)-1].Name)
	status, _ := undo(t, d)
	assert.Equal(t, 200, status)
	number := func(w api.Words) int {
		return len(w.Materials) + len(w.Places) + len(w.Tools) + len(w.Machines) + len(w.Classes)
	}
	assert.Equal(t, number(words)-1, number(bookOf(t, d).Words), "the last is taken back")
}

func TestVariantsAndRecipesSideBySide(t *testing.T) {
	d := newDesk(t)
	gardenia := pageOf(t, d, "Gardenia").Recipe
	status, c := asked[api.Compared](
		t,
		d,
		"POST",
		"/book/compare",
		map[string]any{"recipes": []any{}, "colourway": demo.ID("Oyster"),
			"one": flower.Way{Recipe: gardenia}, "other": flower.Way{Recipe: gardenia, Variant: "bud"}},
	)
	require.Equal(t, 200, status)
	assert.Less(t, c.Other.Attended, c.One.Attended)
	assert.NotEmpty(t, c.Differences)
	status, x := asked[api.Examined](
		t,
		d,
		"POST",
		"/book/examine",
		map[string]any{"recipes": []any{}, "recipe": gardenia, "question": "glue", "school": "egg white"},
	)
	require.Equal(t, 200, status)
	assert.Contains(t, x.Made.Steps[2].Cautions[0], "allergen")
	assert.NotEmpty(t, x.Against)
	made := *x.Made
	made.Steps[0].Work.PerPiece = 4000
	whole := opened(t, d, "Gardenia").Recipes[0]
	status, change := asked[studio.Variant](
		t,
		d,
		"POST",
		"/book/vary",
		map[string]any{"recipe": whole, "made": made, "name": "egg white"},
	)
	require.Equal(t, 200, status)
	assert.Len(t, change.Steps, 2)
	status, _ = asked[refusal](
		t,
		d,
		"POST",
		"/book/examine",
		map[string]any{"recipes": []any{}, "recipe": gardenia, "variant": "no such"},
	)
	assert.Equal(t, 404, status)
}

func TestAPartsTableIsReadOverWhatIsBeingWritten(t *testing.T) {
	d := newDesk(t)
	dahlia := opened(t, d, "Dahlia")
	request := httptest.NewRequest("GET", "/api/book/pages/"+string(pageOf(t, d, "Dahlia").Page)+"/parts.csv", nil)
	answer := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(answer, request)
	assert.Contains(t, answer.Header().Get("Content-Disposition"), "dahlia-parts.csv")
	table := strings.ReplaceAll(answer.Body.String(), "cut,28,14,0.6", "cut,29,14,0.6")
	status, read := asked[api.PartsRead](
		t,
		d,
		"POST",
		"/book/parts",
		map[string]any{"recipes": dahlia.Recipes, "file": table},
	)
	require.Equal(t, 200, status)
	require.Len(t, read.Changes, 2)
	assert.Equal(t, book.Same, read.Changes[0].State)
	assert.Equal(
		t,
		[]book.Edit{{Place: `pastes "cut petal".shape.lengthMicrometres`, Was: "28000", Is: "29000"}},
		read.Changes[1].Changes,
	)
	status, no := asked[refusal](t, d, "POST", "/book/parts", map[string]any{"recipes": dahlia.Recipes, "file": "a,b"})
	assert.Equal(t, 422, status)
	assert.Contains(t, no.Detail, "the columns are part, variant")
}

// fiveHundred is a studio whose book has 500 recipes: the demo's, again and again.
func fiveHundred(b testing.TB) desk {
	doc := demo.Document()
	for n := 1; len(doc.Recipes) < 500; n++ {
		for _, r := range demo.Document().Recipes {
			if r.Kind == studio.KindMix {
				continue
			}
			r.ID, r.Recipe, r.Name = demo.ID(
				fmt.Sprint(r.Name, n),
			), demo.ID(
				fmt.Sprint("book", r.Name, n),
			), fmt.Sprintf(
				"%s %d",
				r.Name,
				n,
			)
			for i, p := range r.Parts {
				for _, o := range demo.Document().Recipes {
					if o.ID == p.Recipe {
						r.Parts[i].Recipe = demo.ID(fmt.Sprint(o.Name, n))
					}
				}
			}
			for v := range r.Techniques { // schools name parts of the first book
				for s := range r.Techniques[v].Schools {
					r.Techniques[v].Schools[s].Parts = nil
				}
			}
			doc.Recipes = append(doc.Recipes, r)
		}
	}
	require.Empty(b, doc.Validate())
	return newDeskOf(b, doc)
}

func BenchmarkABookOf500Recipes(b *testing.B) {
	d := fiveHundred(b)
	b.Run("opens", func(b *testing.B) {
		for b.Loop() {
			bookOf(b, d)
		}
	})
	b.Run("opens after a command", func(b *testing.B) {
		for b.Loop() {
			d.ask("POST", "/api/clock", map[string]any{"by": "quarter"}, nil)
			bookOf(b, d)
		}
	})
	o := opened(b, d, "Harbour spray 3")
	b.Run("totals while editing", func(b *testing.B) {
		for b.Loop() {
			o.Recipes[0].Steps[0].Work.PerPiece++
			status, x := asked[api.Examined](
				b,
				d,
				"POST",
				"/book/examine",
				map[string]any{"recipes": o.Recipes[:1], "recipe": o.Recipes[0].ID, "colourway": demo.ID("Signal")},
			)
			if status != 200 || x.Sheet == nil {
				b.Fatal(status, x.Problems)
			}
		}
	})
}
