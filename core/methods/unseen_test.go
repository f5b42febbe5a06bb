package methods

import (
	"flag"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// maker makes up flowers as makers describe them.
type maker struct{ *rapid.T }

func (m maker) n(name string, from, to int64) int64 {
	return rapid.Int64Range(from, to).Draw(m.T, name)
}

func (m maker) one(name string, in int64) bool { return m.n(name, 1, in) == 1 }

func pick[X any](m maker, name string, of ...X) X { return of[m.n(name, 0, int64(len(of)-1))] }

// each is how long a maker takes for a piece: from some seconds to two minutes.
func (m maker) each() studio.Milliminutes { return studio.Milliminutes(m.n("each", 50, 2000)) }

// petal is a part that is cut and shaped soft, sometimes kept under a sheet, left to set, wired
// and dried.
func (m maker) petal(name string) studio.Recipe {
	all := steps(work("cut", "shaping", m.each()/3))
	for i, kind := range []string{"thin", "vein", "frill", "cup", "wire", "curl"} {
		if m.one("is "+kind, 2) {
			skill := pick(m, "skill", "shaping", "shaping", "wiring")
			all = append(all, work(fmt.Sprint(kind, " ", i), skill, m.each()))
		}
	}
	if len(all) > 2 && m.one("sheeted", 3) {
		held("sheet", 8, all[1].Key)(&all[0])
	}
	if m.one("set", 3) {
		all = append(all, dries("set", "thin", studio.Firm, held("spoon tray", m.n("in a spoon", 1, 6), "set")))
	}
	dry := m.one("dried", 2)
	if dry {
		all = append(
			all,
			dries(
				"dry",
				"thin",
				studio.Dry,
				held(
					pick(m, "former", studio.ID("spoon tray"), "half-sphere", "foam"),
					m.n("in a former", 1, 8),
					"dry",
				),
			),
		)
	}
	if dry && m.one("dusted", 2) {
		all = append(all, work("dust", "dusting", m.each()/2, coloured("dust")))
	}
	r := part(
		name,
		all,
		paste("cut", "petal", sheet(40_000, 30_000, studio.Micrometres(m.n("thick", 500, 1200)))),
		loses(studio.PerMille(m.n("lost", 0, 100))),
	)
	if dry {
		wired("cut", 26, 1)(&r)
	}
	if m.one("in sizes", 3) {
		for i, size := range []string{"small", "middle", "large"} {
			sized(
				size,
				m.n("of a size", 2, 8),
				studio.Micrometres(30_000+10_000*i),
				studio.Micrometres(25_000+9000*i),
				700,
			)(
				&r,
			)
		}
	}
	return r
}

// flower takes up to three kinds of petals, in one to three layers with waits between, around a
// core or none.
func (m maker) flower() []studio.Recipe {
	all := []studio.Recipe{
		part("core", steps(work("roll", "shaping", m.each()), dries("dry", "solid", studio.Dry, thick(12_000))),
			paste("roll", "petal", ball(12_000)), wired("roll", 24, 1), solid(12_000)),
	}
	var built []studio.Step
	var takings []change
	petals := m.n("kinds of petals", 1, 3)
	for i := range petals {
		petal := m.petal(fmt.Sprint("petal ", i))
		all = append(all, petal)
		key := fmt.Sprint("layer ", i)
		built = append(built, work(key, "assembly", studio.Milliminutes(m.n("building", 500, 15_000))))
		if m.one("hangs", 3) {
			built = append(
				built,
				stands(
					fmt.Sprint("hang ", i),
					studio.Minute(m.n("hanging", 5, 60)),
					held("rail", 1, fmt.Sprint("hang ", i)),
				),
			)
		}
		takings = append(takings, takes(key, petal.ID, m.n("petals", 1, 16), func(p *studio.PartInput) {
			_, dried := petal.Step("dry")
			switch {
			case dried >= 0:
				p.Join = studio.JoinTaped
			case m.one("half dry", 3):
				p.Join, p.Wants = studio.JoinGlued, studio.WantsFirm
			default:
				p.Join = studio.JoinWet
			}
			if len(petal.Sizes) > 0 {
				p.Sizes, p.Count = true, 1
			}
			_, set := petal.Step("set")
			p.InRun = dried < 0 && set < 0 && m.one("in the run", 3)
		}))
	}
	if m.one("cored", 2) {
		takings = append(takings, takes("layer 0", "core", 1))
	}
	built = append(built, dries("dry", "thin", studio.Dry, held("half-sphere", 1, "dry")))
	if m.one("dusted", 2) {
		built = append(built, work("dust", "dusting", m.each(), coloured("dust")))
	}
	return append(all, flower("flower", built, takings...))
}

// Whatever a maker describes, 24 of it are planned whole with every piece as it is wanted, or the
// count says what stands in the way.
func TestWhatIsDescribedIsPlannedWholeOrSaid(t *testing.T) {
	drawnAlike(t)
	rapid.Check(t, func(t *rapid.T) {
		doc := method{row: "M", name: "unseen", recipes: maker{t}.flower()}.document()
		doc = atSize(t, doc, doc.Recipes[len(doc.Recipes)-1:])
		counted, err := count.Up(doc)
		require.NoError(t, err)
		said := false
		for _, note := range counted.Notes {
			said = said || note.Code == count.NotEvenOne
		}
		p, err := plan.Make(doc, counted, plan.Options{})
		require.NoError(t, err)
		require.Empty(t, check.Plan(doc, p))
		if !said {
			require.Empty(t, p.Unplaced, "%+v", counted.Notes)
		}
	})
}

// drawnAlike has flowers drawn the same at every run. -rapid.seed draws others: of some hundreds of those one is left
// unplaced and said to be, as with 7549318511509852703 and 11058165305182668301, which the planner does not solve yet.
func drawnAlike(t *testing.T) {
	seed := flag.Lookup("rapid.seed")
	if seed.Value.String() != "0" {
		return
	}
	require.NoError(t, seed.Value.Set("21"))
	t.Cleanup(func() { _ = seed.Value.Set("0") }) // it was that
}
