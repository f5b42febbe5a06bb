package reference

import (
	"flag"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan/check"
	"bractum/core/promise"
	"bractum/core/studio"
)

// soonest is an order of a direct document that is wanted at once, and everybody else so much more that they are no
// later by it: what the solver proves of that is how soon the order can be ready.
func soonest(doc *studio.Document) (asked studio.ID, guarded *studio.Document) {
	asked = doc.Direct.Orders[len(doc.Direct.Orders)-1].ID
	d, direct := *doc, *doc.Direct
	direct.Orders = slices.Clone(direct.Orders)
	for i := range direct.Orders {
		o := &direct.Orders[i]
		if o.Importance *= 1000; o.ID == asked {
			o.Importance, o.ReadyBy = 1, doc.Now
		}
	}
	d.Direct = &direct
	return asked, &d
}

var promises = flag.Uint64("promises", 24, "seeds of which orders are asked for that the solver answers as well")

// An order that is asked for at once can have the date that it is answered, and hardly ever an earlier one. More of
// them are asked for with -promises.
func TestANearestDateIsAsNearAsTheSolverProves(t *testing.T) {
	compared, near := 0, 0
	for seed := range *promises {
		doc := drawn(seed, 6+int(seed)%5, false)
		if len(doc.Direct.Orders) < 2 {
			continue
		}
		asked, guarded := soonest(doc)
		s := solve(guarded, true, 20_000)
		if !s.proven() {
			continue
		}
		for i := range doc.Direct.Orders {
			if o := &doc.Direct.Orders[i]; o.ID == asked {
				o.ReadyBy = doc.Now
			}
		}
		q := promise.Question{Doc: doc, Order: asked}
		search, err := promise.UsualSearch(q)
		require.NoError(t, err)
		a, err := promise.Look(q, search)
		require.NoError(t, err)
		require.Empty(t, check.Plan(a.Doc, a.Plan), "%d: %s", seed, readable(doc))
		exact := s.plan()
		var best studio.Outcome
		for _, o := range exact.Orders {
			if o.Order == asked {
				best = o
			}
		}
		compared++
		switch {
		case best.Ready == nil:
			near++
		case a.Could != nil && *a.Could <= *best.Ready+studio.LateStep:
			near++
		default:
			t.Logf("%d: %v, %v would do; harms %+v", seed, a.Could, *best.Ready, a.Harms)
		}
	}
	t.Logf("%d compared, %d as near", compared, near)
	assert.Greater(t, compared, int(*promises)/4)
	assert.GreaterOrEqual(t, float64(near), 0.97*float64(compared))
}
