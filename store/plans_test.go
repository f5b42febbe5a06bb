package store_test

import (
	"database/sql"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

func planOf(t testing.TB, doc *studio.Document) *studio.Plan {
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	return made
}

// do writes one command.
func do(t testing.TB, s *store.Store, write func(*store.Tx) error) store.Done {
	done, err := s.Do(ctx, command("tried"), func(tx *store.Tx) (any, error) { return nil, write(tx) })
	require.NoError(t, err)
	return done
}

// An accepted plan is in force with its command and taken back with it; the versions say
// which were accepted.
func TestAPlanIsPutInForceAndTakenBack(t *testing.T) {
	s, _ := seeded(t)
	first := planOf(t, document(t, s, store.Accepted))
	require.NoError(t, s.KeepPlan(ctx, 1, first))
	second := *first
	second.Seed = 42
	done := do(t, s, func(tx *store.Tx) error { return tx.PutInForce(&second) })
	inForce, version, base, err := s.PlanInForce(ctx)
	require.NoError(t, err)
	assert.Equal(t, []int64{42, 2, done.N}, []int64{inForce.Seed, version, base})

	_, err = undo(s, done.N)
	require.NoError(t, err)
	inForce, version, _, err = s.PlanInForce(ctx)
	require.NoError(t, err)
	assert.Equal(t, []int64{0, 3}, []int64{inForce.Seed, version}, "the first again, as a version of its own")
	earlier, err := s.PlanVersion(ctx, 2)
	require.NoError(t, err)
	assert.EqualValues(t, 42, earlier.Seed)
	_, err = s.PlanVersion(ctx, 9)
	assert.ErrorAs(t, err, &store.NotFound{})
	versions, err := s.PlanVersions(ctx, 10)
	require.NoError(t, err)
	require.Len(t, versions, 3)
	assert.Equal(
		t,
		[]bool{true, true, false},
		[]bool{versions[0].Accepted, versions[1].Accepted, versions[2].Accepted},
	)
	assert.Equal(t, "Odalys", versions[1].Person)
}

// Of very many versions those are kept that somebody put in force, and the latest.
func TestOldVersionsOfThePlanAreLetGo(t *testing.T) {
	s, _ := seeded(t)
	made := &studio.Plan{}
	require.NoError(t, s.KeepPlan(ctx, 1, made))
	accepted := do(t, s, func(tx *store.Tx) error { return tx.PutInForce(made) })
	for range 120 {
		done := do(t, s, func(*store.Tx) error { return nil })
		require.NoError(t, s.KeepPlan(ctx, done.N, made))
	}
	versions, err := s.PlanVersions(ctx, 1000)
	require.NoError(t, err)
	require.Len(t, versions, 101)
	assert.True(t, versions[100].Accepted)
	_, err = undo(s, accepted.N)
	assert.ErrorContains(t, err, "too long ago")
}

func TestOfferedPlansAreKeptUntilOneIsAcceptedOrTheyAreDropped(t *testing.T) {
	s, folder := seeded(t)
	made := planOf(t, document(t, s, store.Accepted))
	require.NoError(t, s.KeepPlan(ctx, 1, made))
	first := store.Offer{ID: demo.ID("offer 1"), Base: 1, How: store.Searched, Steps: 900, Plan: made}
	second := store.Offer{ID: demo.ID("offer 2"), Base: 1, How: store.Earlier, Plan: made}
	require.NoError(t, s.PutOffer(ctx, first))
	require.NoError(t, s.PutOffer(ctx, second))
	done := do(t, s, func(*store.Tx) error { return nil })
	first.Base = done.N
	require.NoError(t, s.FollowOffer(ctx, first), "repaired for what has happened since")
	require.NoError(t, s.Close())

	s = opened(t, folder)
	offers := snapshot(t, s).Offers
	require.Len(t, offers, 2)
	for _, o := range offers {
		if o.ID == first.ID {
			assert.Equal(t, []int64{done.N, 900}, []int64{o.Base, o.Steps})
			kept, err := s.OfferedPlan(ctx, o.ID)
			require.NoError(t, err)
			assert.Len(t, kept.Tasks, len(made.Tasks))
		}
	}
	do(t, s, func(tx *store.Tx) error { return tx.DropOffer(second.ID) })
	assert.Len(t, snapshot(t, s).Offers, 1)
	require.NoError(t, s.FollowOffer(ctx, second), "what has been dropped meanwhile")
	assert.Len(t, snapshot(t, s).Offers, 1)
	do(t, s, func(tx *store.Tx) error { return tx.DropOffers() })
	assert.Empty(t, snapshot(t, s).Offers)
}

// A pin is a wish until it is accepted, and goes back as one by undo.
func TestPinsAndDivisionsAreWishes(t *testing.T) {
	s, _ := seeded(t)
	start := demo.Document().Now + 90
	pin := studio.Pin{Task: "lot-1.wire", Person: demo.ID("Teun"), Start: &start}
	pinned := do(t, s, func(tx *store.Tx) error { return tx.Pin(pin.Task, &pin, false) })
	assert.Empty(t, document(t, s, store.Accepted).Pins)
	assert.Equal(t, []studio.Pin{pin}, document(t, s, store.Wished).Pins)
	assert.Equal(t, []studio.Pin{pin}, snapshot(t, s).Wished.Pins)
	accepted := do(t, s, func(tx *store.Tx) error { return tx.AcceptWishes() })
	assert.Equal(t, []studio.Pin{pin}, document(t, s, store.Accepted).Pins)
	_, err := undo(s, pinned.N)
	assert.ErrorContains(t, err, "undo that first")
	_, err = undo(s, accepted.N)
	require.NoError(t, err)
	_, err = undo(s, pinned.N)
	require.NoError(t, err)
	assert.Empty(t, document(t, s, store.Wished).Pins)

	do(t, s, func(tx *store.Tx) error { return tx.Pin(pin.Task, &pin, true) })
	assert.Equal(
		t,
		[]studio.Pin{pin},
		document(t, s, store.Accepted).Pins,
		"one that moves nothing is accepted at once",
	)
	do(t, s, func(tx *store.Tx) error { return tx.Pin(pin.Task, nil, true) })
	assert.Empty(t, document(t, s, store.Wished).Pins)

	divided := do(t, s, func(tx *store.Tx) error { return tx.Divide(studio.Division{Group: "lot-7", Lots: 3}) })
	assert.Equal(t, []studio.Division{{Group: "lot-7", Lots: 3}}, document(t, s, store.Accepted).Divided)
	_, err = undo(s, divided.N)
	require.NoError(t, err)
	assert.Empty(t, document(t, s, store.Accepted).Divided)
}

// A file of the program before this one keeps what was decided, pinned and planned.
func TestAFileFromBeforeWishesIsCarriedOn(t *testing.T) {
	doc := demo.Document()
	decided := studio.DecidedLot{
		Recipe:  demo.ID("Magnolia cone"),
		Mixes:   map[string]studio.ID{"core": demo.ID("Centre white")},
		Ordinal: 3,
		Need:    4,
	}
	doc.Decided = []studio.DecidedLot{decided}
	folder := t.TempDir()
	s := opened(t, folder)
	require.NoError(t, s.Seed(ctx, doc, true))
	require.NoError(t, s.KeepPlan(ctx, 1, planOf(t, doc)))
	require.NoError(t, s.Close())

	file, err := sql.Open("sqlite", "file:"+filepath.Join(folder, store.FileName)+"?_pragma=foreign_keys(1)")
	require.NoError(t, err)
	provider, err := goose.NewProvider(goose.DialectSQLite3, file, os.DirFS("migrations"))
	require.NoError(t, err)
	_, err = provider.DownTo(ctx, 4)
	require.NoError(t, err)
	pins, err := json.Marshal([]studio.Pin{{Task: "lot-1.wire", Person: demo.ID("Teun")}})
	require.NoError(t, err)
	_, err = file.Exec(`UPDATE studio SET equipment = json_set(equipment, '$.pins', json(?))`, string(pins))
	require.NoError(t, err)
	_, err = file.Exec(
		`INSERT INTO journal_touch (n, thing, id, before, after) VALUES (1, 'decided', 'lot-3', 'null', 'null')`,
	)
	require.NoError(t, err)
	require.NoError(t, file.Close())

	s = opened(t, folder)
	got := document(t, s, store.Accepted)
	assert.Equal(t, []studio.DecidedLot{decided}, got.Decided)
	assert.Equal(t, []studio.Pin{{Task: "lot-1.wire", Person: demo.ID("Teun")}}, got.Pins)
	_, version, base, err := s.PlanInForce(ctx)
	require.NoError(t, err)
	assert.Equal(t, []int64{1, 1}, []int64{version, base})
}
