package methods

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/book"
	"bractum/core/count"
	reckon "bractum/core/flower"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

var update = flag.Bool("update", false, "write docs/formats/recipes anew")

// written is the file of a method's recipes, which stands beside the format page.
func written(t testing.TB, m method) []byte {
	data, err := json.MarshalIndent(book.Export(m.document()), "", " ")
	require.NoError(t, err)
	data = append(data, '\n')
	path := "../../docs/formats/recipes/" + m.row + ".json"
	if *update {
		require.NoError(t, os.WriteFile(path, data, 0o644))
	}
	kept, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, string(kept), string(data), "go test ./core/methods -update")
	return data
}

// taken is a method's recipes as a file, taken into Pellowen Yard, and the recipe that
// is ordered.
func taken(t testing.TB, m method) (*studio.Document, *studio.Recipe) {
	file, err := book.Read(bytes.NewReader(written(t, m)))
	require.NoError(t, err)
	doc := demo.Document()
	n := 0
	in, err := book.Examine(
		doc,
		file,
		nil,
		func() studio.ID { n++; return studio.ID(fmt.Sprintf("00000000-0000-7000-8000-%012d", n)) },
	)
	require.NoError(t, err)
	for _, thing := range in.Things {
		require.NotEqual(t, book.Conflict, thing.State, thing.Name)
	}
	in.Into(doc)
	last := m.recipes[len(m.recipes)-1].Name
	i := slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool { return r.Name == last })
	return doc, &doc.Recipes[i]
}

func ordered(doc *studio.Document, r *studio.Recipe) {
	o := studio.Order{
		ID:         "choir",
		Name:       "Choir",
		Leaves:     studio.MustWallTime("2027-10-15T10:00"),
		Importance: 10,
		State:      studio.OrderOpen,
	}
	for _, variant := range append([]studio.Variant{{}}, r.Variants...) {
		o.Lines = append(
			o.Lines,
			studio.OrderLine{
				ID:           studio.ID("line " + variant.Name),
				Recipe:       r.ID,
				Variant:      variant.Name,
				Colourway:    doc.Colourways[len(doc.Colourways)-1].ID,
				Quantity:     2,
				ServiceLevel: 900,
			},
		)
	}
	doc.Orders = []studio.Order{o}
}

// summed is a sheet in a line: pieces, wires, mixes, the steps of the last recipe in
// their order, and how many windows all recipes have.
func summed(s *reckon.Sheet, r *studio.Recipe, all []studio.Recipe) string {
	var pieces, mixes, steps []string
	for _, p := range s.Pieces {
		pieces = append(pieces, fmt.Sprintf("%d %s", p.Count, p.Name))
	}
	slices.Sort(pieces)
	var wires int64
	for _, w := range s.Wires {
		wires += w.Number
	}
	for _, p := range s.Pastes {
		mixes = append(mixes, p.Name)
	}
	for _, step := range r.Steps {
		steps = append(steps, step.Key)
	}
	windows := 0
	for _, x := range all {
		for _, step := range x.Steps {
			windows += len(step.Windows)
		}
		for _, p := range x.Parts {
			if p.Window != nil {
				windows++
			}
		}
	}
	return fmt.Sprintf(
		"%s | %d wires | %s | %s | %d windows",
		strings.Join(pieces, ", "),
		wires,
		strings.Join(mixes, ", "),
		strings.Join(steps, ", "),
		windows,
	)
}

// Totals of one of each, counted by hand from the recipes of the tables.
var totals = map[string]string{
	"M01 moulded daisy on a wire":             "1 daisy spray, 1 foil cup, 2 bud, large, 2 daisy, single, 3 bud, 3 daisy, 5 calyx, 5 centre, 8 layer | 10 wires | white, kelp | tape | 0 windows",
	"M03 pulled five-petal blossom":           "1 blossoms, 13 blossom, 13 hooked wire | 13 wires | white, kelp | tape | 0 windows",
	"M08 flat daisy":                          "1 flat daisy | 0 wires | white, kelp | cut, thin edges, cup, dot, dry | 0 windows",
	"M12 flat decorations":                    "1 cake kit, 12 round, 24 small leaf, 48 small blossom | 0 wires | white, kelp, pale | fix, grip | 0 windows",
	"M13 wafer-paper blossoms":                "1 wafer spray, 3 wafer blossom, large, 33 wafer layer, 5 wafer blossom, 8 brush | 4 wires | wafer glue | tape | 0 windows",
	"M21 tiny blossoms in bulk":               "1 pips, 150 lilac pip, 50 lilac pip, painted | 0 wires | white, kelp | pack | 0 windows",
	"M02 ruffled rose":                        "1 ruffled rose, 24 petal, 4 clad cone, 4 cone, 9 frill | 4 wires | kelp, quick paste | bunch, fill, dry | 1 windows",
	"M04 peony in glued layers":               "1 core, 1 layered peony, 14 inner petal, 20 outer petal | 2 wires | kelp | layer 1, hang 1, layer 2, hang 2, layer 3, dry | 4 windows",
	"M05 petals and calyx around a dry core":  "1 cored spray, 2 cored blossom, glossed, 35 large petal, 35 small petal, 5 cored blossom, 7 bead, 7 calyx | 7 wires | white, kelp | tape | 0 windows",
	"M06 tree peony, painted":                 "1 inner wing, in the oven, 1 tree peony, 1 tree peony spray, 3 bud, 5 inner wing, 60 stamen, 7 middle wing, 9 outer wing | 25 wires | kelp, pale | tape | 2 windows",
	"M11 full peony on half a foam ball":      "1 collar, 1 full peony, 1 half ball, 26 half petal, 5 cluster, 5 whole petal, small, 6 whole petal, middle, 7 whole petal, large | 1 wires | kelp | first half, rest, second half, hang, take out | 1 windows",
	"M17 wired peony, powdered and steamed":   "1 steamed peony, 1 thread centre, 3 pod, 5 veined petal, small, 7 veined petal, middle, 8 veined petal, large | 24 wires | kelp | tape, steam, dry off | 0 windows",
	"M07 open rose":                           "1 open rose, 2 wound centre, 3 loose petal, 7 small petal, 9 large petal | 17 wires | kelp | dust petals, tape, try dry, glue, set, dust again | 0 windows",
	"M09 garden rose built outside-in":        "1 garden rose, 2 layer, 24 pen stamens, 3 inner layer, 3 layer, 5 disc, 8 folded centre | 0 wires | kelp, pale | build, dust, slot, harden | 3 windows",
	"M18 rose in interleaved rows":            "1 rose spray, 2 bead, 2 row rose, 2 row rose, bud, 20 row petal, large, 22 row petal, small, 24 row petal, middle, 4 cone, 6 filler bud | 10 wires | white, kelp | tape | 1 windows",
	"M19 rose from one-piece cut-outs":        "1 cut-out spray, 2 calyx, 2 calyx, wide, 2 cut-out rose, 2 cut-out rose, bud, 2 cut-out rose, small, 20 cut-out, 6 leaf | 6 wires | kelp | tape | 0 windows",
	"M10 orchid from embossed pieces":         "1 orchid cake, 3 lip, 3 orchid, 3 throat, 6 wing, 9 sepal | 0 wires | white, kelp, pale | fix, grip | 0 windows",
	"M14 lily-like flower":                    "1 lily, 1 narrow petal, veined first, 2 narrow petal, 2 taped stamen, long, 3 broad petal, 6 taped stamen | 14 wires | kelp | tape, dust | 0 windows",
	"M15 bead trail":                          "1 bead trail, 25 bead, 25 cap | 26 wires | kelp | tape, join stem, cap, dry, bend | 0 windows",
	"M16 ridge-petalled flower with a column": "1 column, 1 ridged flower, 14 short stamen, 5 ridged petal, 5 sepal, 6 long stamen | 6 wires | kelp | tape, join column, sepals, dry, dust | 1 windows",
	"M20 poured lace petals":                  "1 lace blossom, 1 lace centre, 2 lace petal, flat, 2 lace petal, with a solid layer, 5 lace petal | 8 wires | kelp, lace | tape, shape | 0 windows",
}

// Every row comes in through the format, into a studio that knows nothing of it; one of
// it comes to what a hand counts; it is counted, planned, and the plan holds.
func TestEveryMethodComesInThroughTheFrontDoor(t *testing.T) {
	all := slices.Concat(daisies(), peonies(), roses(), others())
	rows := map[string]bool{}
	for _, m := range all {
		rows[m.row] = true
		t.Run(m.row+" "+m.name, func(t *testing.T) {
			doc, r := taken(t, m)
			sheet, err := reckon.Reckon(
				doc,
				reckon.Wanted{
					Made:     studio.Made{Recipe: r.ID},
					Colours:  doc.Colourways[len(doc.Colourways)-1].Slots,
					Quantity: 1,
				},
			)
			require.NoError(t, err)
			assert.Empty(t, sheet.Missing)
			assert.Equal(t, totals[m.row+" "+m.name], summed(sheet, r, m.recipes))
			assert.Len(t, sheet.Portrait.Rings, len(studio.NewBook(doc).Recipe(r.ID).Parts))
			ordered(doc, r)
			counted, err := count.Up(doc)
			require.NoError(t, err)
			p, err := plan.Make(doc, counted, plan.Options{})
			require.NoError(t, err)
			assert.Empty(t, p.Unplaced)
			assert.Empty(t, check.Plan(doc, p))
		})
	}
	assert.Len(t, rows, 21)
}
