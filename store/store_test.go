package store_test

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

var ctx = context.Background()

func standing(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at }

func opened(t testing.TB, folder string) *store.Store {
	s, err := store.Open(ctx, folder, store.Options{Patience: 200 * time.Millisecond})
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func seeded(t testing.TB) (*store.Store, string) {
	folder := t.TempDir()
	s := opened(t, folder)
	require.NoError(t, s.Seed(ctx, demo.Document(), true))
	return s, folder
}

func document(t testing.TB, s *store.Store, view store.View) *studio.Document {
	doc, _, err := s.Document(ctx, view, standing)
	require.NoError(t, err)
	require.Empty(t, doc.Validate())
	return doc
}

func snapshot(t *testing.T, s *store.Store) *store.Snapshot {
	t.Helper()
	at, err := s.Snapshot(ctx, standing)
	require.NoError(t, err)
	return at
}

func command(kind string) store.Command {
	return store.Command{ID: uuid.NewString(), Kind: kind, Person: demo.ID("Odalys"), Now: demo.Document().Now}
}

func anOrder(name string) studio.Order {
	return studio.Order{
		ID:         studio.ID(uuid.NewString()),
		Name:       name,
		Leaves:     studio.MustWallTime("2027-10-04T10:00"),
		Importance: 10,
		State:      studio.OrderOpen,
		Allergies:  []string{},
		Lines: []studio.OrderLine{
			{
				ID:           studio.ID(uuid.NewString()),
				Recipe:       demo.ID("Magnolia"),
				Colourway:    demo.ID("Oyster"),
				Quantity:     3,
				ServiceLevel: 950,
			},
		},
	}
}

func enter(t testing.TB, s *store.Store, o studio.Order) store.Done {
	done, err := s.Do(ctx, command("order entered"), func(tx *store.Tx) (any, error) {
		tx.Summary = "Order entered"
		return "entered", tx.EnterOrder(o)
	})
	require.NoError(t, err)
	return done
}

func named(doc *studio.Document, name string) *studio.Order {
	for i := range doc.Orders {
		if doc.Orders[i].Name == name {
			return &doc.Orders[i]
		}
	}
	return nil
}

func TestTheApplicationCountsWhatTheCommandLineCounts(t *testing.T) {
	s, _ := seeded(t)
	want, got := demo.Document(), document(t, s, store.Accepted)
	assert.Len(t, got.Orders, len(want.Orders))
	assert.Equal(t, want.Orders[0].Lines, named(got, want.Orders[0].Name).Lines)
	a, err := count.Up(want)
	require.NoError(t, err)
	b, err := count.Up(got)
	require.NoError(t, err)
	assert.Equal(t, a.Items, b.Items)
}

func TestOnlyUUIDsAreStored(t *testing.T) {
	doc := demo.Document()
	doc.Materials[0].ID = "flour"
	s := opened(t, t.TempDir())
	assert.ErrorContains(t, s.Seed(ctx, doc, true), `"flour" is not a UUID`)
	_, _, _, err := s.LastN(ctx)
	assert.ErrorIs(t, err, store.ErrEmpty)
}

func TestAWishIsNotInForceUntilItIsAccepted(t *testing.T) {
	s, _ := seeded(t)
	enter(t, s, anOrder("Christening"))
	assert.Nil(t, named(document(t, s, store.Accepted), "Christening"))
	require.NotNil(t, named(document(t, s, store.Wished), "Christening"))
	_, err := s.Do(ctx, command("plan accepted"), func(tx *store.Tx) (any, error) { return nil, tx.AcceptOrders() })
	require.NoError(t, err)
	require.NotNil(t, named(document(t, s, store.Accepted), "Christening"))
	orders, err := s.Orders(ctx)
	require.NoError(t, err)
	for _, o := range orders {
		assert.False(t, o.Pending())
	}
}

func TestACommandSentTwiceAnswersAsTheFirstDid(t *testing.T) {
	s, _ := seeded(t)
	c := command("order entered")
	runs := 0
	send := func() store.Done {
		done, err := s.Do(ctx, c, func(tx *store.Tx) (any, error) {
			runs++
			return runs, tx.EnterOrder(anOrder("Wedding"))
		})
		require.NoError(t, err)
		return done
	}
	first, second := send(), send()
	assert.Equal(t, 1, runs)
	assert.Equal(t, first.N, second.N)
	assert.JSONEq(t, string(first.Answer), string(second.Answer))
	assert.True(t, second.Repeated)
}

func TestAChangeOfAnOldVersionIsRefused(t *testing.T) {
	s, _ := seeded(t)
	o := anOrder("Wedding")
	enter(t, s, o)
	change := func(seen int64, name string) error {
		o.Name = name
		_, err := s.Do(
			ctx,
			command("order changed"),
			func(tx *store.Tx) (any, error) { return nil, tx.ChangeOrder(o, seen) },
		)
		return err
	}
	require.NoError(t, change(1, "Summer wedding"))
	assert.ErrorIs(t, change(1, "Winter wedding"), store.Stale{Thing: "the order Summer wedding", Seen: 1, Now: 2})
	assert.Nil(t, named(document(t, s, store.Wished), "Winter wedding"))
	var was studio.Order
	do(t, s, func(tx *store.Tx) (err error) {
		was, err = tx.OrderVersion(o.ID, 1)
		return err
	})
	assert.Equal(t, "Wedding", was.Name, "old versions stay readable")
}

func TestACommandThatFailsLeavesNothing(t *testing.T) {
	s, _ := seeded(t)
	n, _, _, err := s.LastN(ctx)
	require.NoError(t, err)
	o := anOrder("Wedding")
	o.Lines[0].Recipe = studio.ID(uuid.NewString())
	_, err = s.Do(ctx, command("order entered"), func(tx *store.Tx) (any, error) { return nil, tx.EnterOrder(o) })
	assert.ErrorContains(t, err, "FOREIGN KEY", "the schema itself refuses an unknown recipe")
	_, err = s.Do(ctx, command("order entered"), func(tx *store.Tx) (any, error) {
		return nil, errors.Join(tx.EnterOrder(anOrder("Half")), errors.New("the power failed"))
	})
	assert.ErrorContains(t, err, "the power failed")
	after, _, _, err := s.LastN(ctx)
	require.NoError(t, err)
	assert.Equal(t, n, after)
	assert.Nil(t, named(document(t, s, store.Wished), "Half"))
}

func TestALockedFileIsSaidAndNothingIsHalfWritten(t *testing.T) {
	s, folder := seeded(t)
	other, err := sql.Open("sqlite", "file:"+filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	defer other.Close()
	lock, err := other.Conn(ctx)
	require.NoError(t, err)
	_, err = lock.ExecContext(ctx, "BEGIN IMMEDIATE")
	require.NoError(t, err)
	_, err = s.Do(
		ctx,
		command("order entered"),
		func(tx *store.Tx) (any, error) { return nil, tx.EnterOrder(anOrder("Locked out")) },
	)
	assert.ErrorIs(t, err, store.ErrBusy)
	assert.Nil(t, named(document(t, s, store.Wished), "Locked out"), "reading goes on")
	_, err = lock.ExecContext(ctx, "ROLLBACK")
	require.NoError(t, err)
	require.NoError(t, lock.Close())
	enter(t, s, anOrder("Let in"))
}

func TestTheFileKeepsWhatWasEntered(t *testing.T) {
	s, folder := seeded(t)
	enter(t, s, anOrder("Shop window"))
	require.NoError(t, s.Close())
	assert.NotNil(t, named(document(t, opened(t, folder), store.Wished), "Shop window"))
}

func TestJournalAndLedgerAreAppendOnly(t *testing.T) {
	s, folder := seeded(t)
	require.NoError(t, s.Close())
	raw, err := sql.Open("sqlite", "file:"+filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	defer raw.Close()
	for _, statement := range []string{"UPDATE journal SET summary = 'x'", "DELETE FROM journal", "UPDATE ledger SET amount = 1", "DELETE FROM ledger"} {
		_, err := raw.Exec(statement)
		assert.ErrorContains(t, err, "append-only", statement)
	}
}

func TestPlansAreKeptAsVersions(t *testing.T) {
	s, _ := seeded(t)
	doc := document(t, s, store.Accepted)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	require.NoError(t, s.KeepPlan(ctx, 1, made))
	require.NoError(t, s.KeepPlan(ctx, 1, made), "one plan for one journal number")
	kept, version, base, err := s.PlanInForce(ctx)
	require.NoError(t, err)
	assert.Equal(t, []int64{1, 1}, []int64{version, base})
	a, _ := json.Marshal(made)
	b, _ := json.Marshal(kept)
	assert.JSONEq(t, string(a), string(b))
}

func TestAFolderThatCannotBeIsSaid(t *testing.T) {
	file := filepath.Join(t.TempDir(), "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, err := store.Open(ctx, filepath.Join(file, "below"), store.Options{})
	assert.ErrorContains(t, err, "data folder")
}

// What no station changes yet, and every kind of fact, comes back as it was seeded.
func TestNothingOfADocumentIsLostInTheFile(t *testing.T) {
	doc := demo.Document()
	opens := doc.Now + 600
	id := demo.ID
	doc.Surroundings = append(
		doc.Surroundings,
		studio.Surroundings{ID: id("cupboard"), Name: "Salt cupboard", Hours: doc.Climate, Closed: true},
	)
	doc.Readings = []studio.Reading{
		{Hour: 500, In: id("cupboard"), Air: studio.Air{TenthsCelsius: 200, HumidityPerMille: 480}},
	}
	doc.Methods = append(doc.Methods, []studio.Method{{ID: id("hanging"), Name: "Hanging", Factor: 800}}...)
	doc.Tools = append(
		doc.Tools,
		[]studio.Tool{
			{ID: id("veiner"), Name: "Large veiner", Number: 1},
			{ID: id("roller"), Name: "Roller", Number: 2, StandIns: []studio.ID{id("veiner")}},
		}...)
	doc.Machines = append(doc.Machines, []studio.Machine{{ID: id("dehydrator"), Name: "Dehydrator", Slots: 6}}...)
	doc.Gates = []studio.Gate{
		{ID: id("delivery"), Name: "Tape", Opens: &opens, Material: doc.Materials[0].ID, Amount: 5},
	}
	doc.Families = append(
		doc.Families,
		[]studio.Family{
			{
				ID:          id("brushes"),
				Name:        "Brushes",
				FullMinutes: 9,
				Reset:       studio.ResetNight,
				Changes:     []studio.Change{{From: id("Leaf dust"), To: id("Ember dust"), Minutes: 4}},
			},
		}...)
	doc.Pins = []studio.Pin{{Task: "lot-1.cut", Person: id("Teun"), Start: &opens}}
	doc.Seen = []studio.Seen{{Task: "lot-1.cut", Person: id("Teun"), Start: opens}}
	doc.Places[0].KeepsMinutes, doc.Places[0].In, doc.Places[0].MadeBy = 90, id("cupboard"), id("Magnolia cone")
	doc.DryingClasses[0].SoftensMinutes, doc.DryingClasses[0].Percentile = 120, 90
	p := &doc.People[0]
	p.Overtime, p.OvertimeShifts, p.Shifts = []studio.DayHours{
		{Day: "monday", From: 1020, To: 1080},
	}, []studio.Span{
		{From: 1, To: 9},
	}, []studio.Span{
		{From: 20, To: 30},
	}
	p.Colours = map[studio.ID]studio.ID{id("brushes"): id("Leaf dust")}
	var petal *studio.Recipe
	for i := range doc.Recipes {
		if doc.Recipes[i].ID == id("Magnolia outer petal") {
			petal = &doc.Recipes[i]
			petal.Steps[0].Mend = &studio.Work{Skill: "shaping", PerPiece: 500}
			petal.Variants = []studio.Variant{{Name: "small", StopAfter: petal.Steps[1].Key}}
		}
	}
	mixes := map[string]studio.ID{"petal": id("Oyster ivory"), "dust": id("Pebble dust")}
	doc.Shelf = append(
		doc.Shelf,
		studio.ShelfLot{
			ID:      id("half"),
			Recipe:  petal.ID,
			Mixes:   mixes,
			Reached: "set",
			Amount:  40,
			Quality: studio.Good,
			MadeOn:  100,
		},
		studio.ShelfLot{
			ID:      id("small"),
			Recipe:  petal.ID,
			Variant: "small",
			Mixes:   mixes,
			Amount:  4,
			Quality: studio.Second,
			MadeOn:  100,
		},
	)
	doc.Work = []studio.WorkLot{
		{
			ID:      "lot-9",
			Recipe:  petal.ID,
			Variant: "small",
			Mixes:   mixes,
			Ordinal: 1,
			Need:    8,
			Started: 10,
			Records: []studio.TaskRecord{
				{
					Step:   petal.Steps[0].Key,
					State:  studio.TaskDone,
					Person: id("Teun"),
					Start:  100,
					End:    120,
					Good:   7,
					Mend:   2,
					Broken: 1,
					Used:   []studio.Used{{Recipe: id("Slate leaf"), Pieces: 3}},
				}},
		},
		{
			ID:      "lot-10",
			Recipe:  petal.ID,
			Mixes:   mixes,
			Ordinal: 2,
			Need:    8,
			Started: 9,
			From:    id("half"),
			Reached: "set",
			Records: []studio.TaskRecord{
				{
					Step:   petal.Steps[len(petal.Steps)-1].Key,
					State:  studio.TaskPaused,
					Person: id("Teun"),
					Start:  130,
					Good:   1,
				}},
		},
	}
	doc.Suppliers = append(doc.Suppliers, studio.Supplier{ID: id("chandler"), Name: "Chandler", Days: 3})
	doc.Materials[0].Supplier, doc.Materials[0].Pack, doc.Materials[0].KeepAtLeast = id("chandler"), 1_000_000, 500_000
	doc.Recorded = []studio.Recorded{{Recipe: petal.Page(), Good: 80, Lost: 9}}
	doc.Offcuts = []studio.Offcut{
		{Material: id("26 white wire"), Length: 110_000, Number: 12},
		{Material: id("26 white wire"), Length: 80_000, Number: 3},
	}
	doc.Decided = []studio.DecidedLot{
		{
			Recipe:  id("Magnolia cone"),
			Mixes:   map[string]studio.ID{"core": id("Centre white")},
			Ordinal: 3,
			Need:    4,
			Due:     &opens,
		},
	}
	doc.Divided = []studio.Division{{Group: "lot-1", Lots: 3}}
	later := doc.Now + 60
	doc.Pins = []studio.Pin{{Task: "lot-1.dust", Person: id("Teun"), Start: &later}}
	doc.Shelf[0].Place, doc.Shelf[3].Kept, doc.Shelf[0].In = "Tin 4", studio.Cold, id("cupboard")
	wait := slices.IndexFunc(petal.Steps, func(s studio.Step) bool { return s.Wait != nil })
	doc.Work[1].Checks = []studio.Check{
		{Step: petal.Steps[wait].Key, At: 110, Person: id("Maren"), Found: studio.FoundSpoilt, Pieces: 1},
	}
	doc.Work[1].Puts = []studio.Put{
		{
			Step:   petal.Steps[wait].Key,
			At:     112,
			Person: id("Maren"),
			In:     id("cupboard"),
			Frees:  []studio.ID{doc.Places[0].ID},
			Place:  doc.Places[1].ID,
			Slots:  2,
		},
	}
	doc.Shelf[0].Reserved = []studio.Claim{{Quantity: 1}}
	require.Empty(t, doc.Validate())
	s := opened(t, t.TempDir())
	require.NoError(t, s.Seed(ctx, doc, true))
	got := document(t, s, store.Accepted)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	for i := range doc.Shelf {
		doc.Shelf[i].Reserved = append(doc.Shelf[i].Reserved, counted.Reserves[doc.Shelf[i].ID]...)
	}
	for i := range doc.Work {
		doc.Work[i].Reserved = counted.Reserves[doc.Work[i].ID]
	}
	assert.ElementsMatch(t, doc.Shelf, got.Shelf)
	assert.ElementsMatch(t, doc.Work, got.Work)
	for _, d := range []*studio.Document{doc, got} {
		d.Orders, d.Shelf, d.Work, d.Ordinals = nil, nil, nil, nil
	}
	want, err := json.Marshal(doc)
	require.NoError(t, err)
	have, err := json.Marshal(got)
	require.NoError(t, err)
	assert.JSONEq(t, string(want), string(have))
	doc.Direct = &studio.Instance{}
	assert.ErrorContains(t, opened(t, t.TempDir()).Seed(ctx, doc, true), "it can be planned and checked, not stored")
}
