package store_test

import (
	"errors"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// undo takes back a line of the journal by a command of its own.
func undo(s *store.Store, n int64) (store.Done, error) {
	return s.Do(ctx, command("undone"), func(tx *store.Tx) (any, error) { return nil, tx.Undo(n) })
}

func TestUndo(t *testing.T) {
	s, _ := seeded(t)
	o := anOrder("Wedding")
	entered := enter(t, s, o)
	o.Name = "Summer wedding"
	changed, err := s.Do(ctx, command("order changed"), func(tx *store.Tx) (any, error) {
		tx.Summary = "Renamed"
		return nil, tx.ChangeOrder(o, 1)
	})
	require.NoError(t, err)
	_, err = undo(s, entered.N)
	assert.EqualError(t, err, `"Renamed" came after it and touched the same; undo that first`)
	_, err = undo(s, changed.N)
	require.NoError(t, err)
	assert.NotNil(t, named(document(t, s, store.Wished), "Wedding"))
	_, err = undo(s, changed.N)
	assert.ErrorContains(t, err, "was undone already")
	_, err = undo(s, entered.N)
	require.NoError(t, err)
	assert.Nil(t, named(document(t, s, store.Wished), "Wedding"))
	past, err := s.PastOrders(ctx, store.Sought{})
	require.NoError(t, err)
	require.Len(t, past.Lines, 1)
	assert.Equal(t, studio.OrderCancelled, past.Lines[0].Order.State)
	_, err = undo(s, 99)
	assert.ErrorIs(t, err, store.NotFound{Thing: "line 99 of the journal"})
}

// happen runs one fact at a bench as the application does.
func happen(
	t *testing.T,
	s *store.Store,
	fact func(bench.Bench) (studio.WorkLot, []studio.Movement, error),
) store.Done {
	doc := document(t, s, store.Accepted)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	done, err := s.Do(ctx, command("fact"), func(tx *store.Tx) (any, error) {
		lot, moved, err := fact(bench.New(doc, made))
		if err != nil {
			return nil, err
		}
		return nil, errors.Join(tx.PutLot(lot), tx.Book(lot, moved))
	})
	require.NoError(t, err)
	return done
}

func TestFinishingBooksWhatWasUsedAndMadeAndUndoingTakesItBack(t *testing.T) {
	s, _ := seeded(t)
	doc := document(t, s, store.Accepted)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	var lot studio.Lot
	for _, l := range counted.Lots {
		if l.Recipe == demo.ID("Petal white") {
			lot = l
		}
	}
	task := studio.TaskID(lot.ID, "knead")
	happen(t, s, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
		return b.Start(task, demo.ID("Odalys"), false)
	})
	finished := happen(t, s, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
		return b.Finish(task, bench.Counts{Good: lot.Started})
	})
	onHand := func(d *studio.Document) int64 { return d.Materials[0].OnHand }
	shelf := func(d *studio.Document) (sum int64) {
		for _, l := range d.Shelf {
			if l.From == lot.ID {
				sum += l.Amount
			}
		}
		return sum
	}
	after := document(t, s, store.Accepted)
	assert.Equal(t, (lot.Started*7/10+99)/100*100, onHand(doc)-onHand(after), "seven parts of ten of flower paste")
	assert.Equal(t, lot.Started, shelf(after))
	require.Len(t, after.Work, 1)
	assert.Equal(t, lot.Ordinal, after.Work[0].Ordinal)

	_, err = undo(s, finished.N)
	require.NoError(t, err)
	back := document(t, s, store.Accepted)
	assert.Equal(t, onHand(doc), onHand(back))
	assert.Zero(t, shelf(back))
	assert.Equal(t, studio.TaskStarted, back.Work[0].Records[0].State)
}

// What came of a lot is recorded once its pieces are made, and no longer once that is
// taken back.
func TestWhatCameOfALotIsRecorded(t *testing.T) {
	doc := demo.Document()
	oyster := map[string]studio.ID{"petal": demo.ID("Oyster ivory")}
	stem := studio.NewBook(doc).Recipe(demo.ID("Waxflower stem"))
	doc.Work = []studio.WorkLot{{ID: "lot-5", Recipe: stem.ID, Mixes: oyster, Ordinal: 5, Need: 8, Started: 9,
		Records: []studio.TaskRecord{
			{Step: "tape", State: studio.TaskStarted, Person: demo.ID("Maren"), Start: doc.Now - 30},
		}}}
	s := opened(t, t.TempDir())
	require.NoError(t, s.Seed(ctx, doc, true))
	assert.Empty(t, document(t, s, store.Accepted).Recorded)
	finished, err := s.Do(ctx, command("task finished"), func(tx *store.Tx) (any, error) {
		w := doc.Work[0]
		w.Records = []studio.TaskRecord{
			{
				Step:   "tape",
				State:  studio.TaskDone,
				Person: demo.ID("Maren"),
				Start:  doc.Now - 30,
				End:    doc.Now,
				Good:   6,
				Second: 1,
				Broken: 2,
			},
		}
		return nil, tx.PutLot(w)
	})
	require.NoError(t, err)
	assert.Equal(
		t,
		[]studio.Recorded{{Recipe: stem.Page(), Good: 6, Lost: 3}},
		document(t, s, store.Accepted).Recorded,
		"a second does not serve as a stem",
	)
	_, err = undo(s, finished.N)
	require.NoError(t, err)
	assert.Empty(t, document(t, s, store.Accepted).Recorded)
}

func TestAnOrderThatHasLeftNeedsNoAcceptanceAndComesBackByUndo(t *testing.T) {
	s, _ := seeded(t)
	gone := *named(document(t, s, store.Accepted), "Choir")
	gone.State, gone.Lines = studio.OrderLeft, slices.Clone(gone.Lines)
	gone.Lines[0].Gone = gone.Lines[0].Quantity
	left, err := s.Do(ctx, command("order left"), func(tx *store.Tx) (any, error) {
		tx.Summary = "Choir has left"
		err := tx.HandOver(gone, 1)
		return nil, errors.Join(
			err,
			tx.Book(
				studio.WorkLot{},
				[]studio.Movement{{Kind: studio.UsedUp, Shelf: demo.ID("shelf cones"), Amount: -2}},
			),
		)
	})
	require.NoError(t, err)
	assert.Nil(t, named(document(t, s, store.Accepted), "Choir"), "what has left is past")
	past, err := s.PastOrders(ctx, store.Sought{Text: "choir"})
	require.NoError(t, err)
	require.Len(t, past.Lines, 1)
	assert.Equal(t, studio.OrderLeft, past.Lines[0].Order.State)
	assert.Equal(t, gone.Lines, past.Lines[0].Order.Lines)
	cones := func() int64 {
		for _, l := range document(t, s, store.Accepted).Shelf {
			if l.ID == demo.ID("shelf cones") {
				return l.Amount
			}
		}
		return 0
	}
	assert.EqualValues(t, 3, cones())
	_, err = s.Do(
		ctx,
		command("order left"),
		func(tx *store.Tx) (any, error) { return nil, tx.HandOver(gone, 1) },
	)
	assert.ErrorIs(t, err, store.Stale{Thing: "the order Choir", Seen: 1, Now: 2})
	_, err = undo(s, left.N)
	require.NoError(t, err)
	assert.Equal(t, studio.OrderOpen, named(document(t, s, store.Accepted), "Choir").State)
	assert.Zero(t, named(document(t, s, store.Accepted), "Choir").Lines[0].Gone)
	assert.EqualValues(t, 5, cones())
}
