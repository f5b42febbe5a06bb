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
func written(t *testing.T, m method) []byte {
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
func taken(t *testing.T, m method) (*studio.Document, *studio.Recipe) {
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
	"M01 moulded daisy on a wire":             "1 bud, large, 1 daisy, 1 daisy spray, 1 daisy, single, 1 foil cup, 2 bud, 2 calyx, 2 centre, 3 layer | 5 wires | white, kelp | tape | 0 windows",
	"M03 pulled five-petal blossom":           "1 blossoms, 13 blossom, 13 hooked wire | 13 wires | white, kelp | tape | 0 windows",
	"M08 flat daisy":                          "1 flat daisy | 0 wires | white, kelp | cut, dry | 0 windows",
	"M12 flat decorations":                    "1 cake kit, 30 small blossom, 8 round | 0 wires | white, kelp, pale | fix, grip | 0 windows",
	"M13 wafer-paper blossoms":                "1 wafer spray, 14 wafer layer, 2 wafer blossom, large, 3 wafer blossom, 6 brush | 3 wires | wafer glue | tape | 0 windows",
	"M21 tiny blossoms in bulk":               "1 pips, 150 lilac pip, 50 lilac pip, painted | 0 wires | white, kelp | pack | 0 windows",
	"M02 ruffled rose":                        "1 ruffled rose, 5 clad cone, 9 frill | 5 wires | kelp, quick paste | bunch, fill, dry | 1 windows",
	"M04 peony in glued layers":               "1 core, 1 layered peony, 10 inner petal, 14 outer petal | 2 wires | kelp | layer 1, hang 1, layer 2, hang 2, layer 3, dry | 2 windows",
	"M05 petals and calyx around a dry core":  "1 cored blossom, glossed, 1 cored spray, 12 small petal, 20 large petal, 3 cored blossom, 4 bead, 4 calyx | 4 wires | white, kelp | tape | 0 windows",
	"M06 tree peony, painted":                 "1 inner wing, in the oven, 1 tree peony, 1 tree peony spray, 2 bud, 5 inner wing, 60 stamen, 8 outer wing | 14 wires | kelp, pale | tape | 1 windows",
	"M11 full peony on half a foam ball":      "1 collar, 1 full peony, 1 half ball, 18 half petal, 3 cluster, 5 whole petal | 1 wires | kelp | first half, rest, second half, hang, take out | 1 windows",
	"M17 wired peony, powdered and steamed":   "1 steamed peony, 1 thread centre, 3 pod, 9 veined petal | 10 wires | kelp | tape, rest, powder, steam, dry off | 0 windows",
	"M07 open rose":                           "1 open rose, 2 wound centre, 3 loose petal, 5 small petal, 6 large petal | 12 wires | kelp | dust petals, tape, try dry, glue, set, dust again | 0 windows",
	"M09 garden rose built outside-in":        "1 garden rose, 12 pen stamens, 2 layer, 2 layer, 3 disc, 5 folded centre | 0 wires | kelp, pale | build, dust, slot, harden | 2 windows",
	"M18 rose in interleaved rows":            "1 bead, 1 rose spray, 1 row rose, 1 row rose, bud, 18 row petal, 2 cone, 4 filler bud | 2 wires | white, kelp | tape | 1 windows",
	"M19 rose from one-piece cut-outs":        "1 calyx, 1 calyx, wide, 1 cut-out rose, 1 cut-out rose, bud, 1 cut-out rose, small, 1 cut-out spray, 3 leaf, 7 cut-out | 3 wires | kelp | tape | 0 windows",
	"M10 orchid from embossed pieces":         "1 lip, 1 orchid, 1 orchid cake, 5 sepal | 0 wires | white, kelp, pale | fix, grip | 0 windows",
	"M14 lily-like flower":                    "1 lily, 1 narrow petal, veined first, 2 narrow petal, 2 taped stamen, long, 3 broad petal, 6 taped stamen | 14 wires | kelp | tape, dust | 0 windows",
	"M15 bead trail":                          "1 bead trail, 15 bead, 15 cap | 16 wires | kelp | tape, join stem, cap, dry, bend | 0 windows",
	"M16 ridge-petalled flower with a column": "1 column, 1 ridged flower, 4 long stamen, 5 ridged petal, 8 short stamen | 6 wires | kelp | tape, join column | 1 windows",
	"M20 poured lace petals":                  "1 lace blossom, 1 lace petal, flat, 1 lace petal, with a solid layer, 4 lace petal | 5 wires | kelp, lace | tape | 0 windows",
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
			assert.Len(t, sheet.Portrait.Rings, len(r.Parts))
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
