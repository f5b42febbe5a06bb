package store

import (
	"context"
	"fmt"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// A disk that is full is said in words; what was acknowledged is there, what was refused is
// not, and it goes on once there is room. The file may have no more pages, as on such a disk.
func TestAFullDiskIsSaidInWordsAndNothingIsLost(t *testing.T) {
	ctx := context.Background()
	s, err := Open(ctx, t.TempDir(), Options{})
	require.NoError(t, err)
	defer func() { _ = s.Close() }()
	require.NoError(t, s.Seed(ctx, demo.Document(), true))
	standing := func(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at }
	enter := func(n int) error {
		c := Command{ID: uuid.NewString(), Person: demo.ID("Odalys"), Kind: "order entered", Now: demo.Document().Now}
		_, err := s.Do(ctx, c,
			func(tx *Tx) (any, error) {
				o := demo.Document().Orders[0]
				o.ID, o.Name, o.State = studio.ID(uuid.NewString()), fmt.Sprint("Supper ", n), studio.OrderQuote
				o.Lines = []studio.OrderLine{o.Lines[0]}
				o.Lines[0].ID = studio.ID(uuid.NewString())
				return nil, tx.EnterOrder(o)
			})
		return err
	}
	var pages int
	require.NoError(t, s.write.QueryRow("PRAGMA page_count").Scan(&pages))
	_, err = s.write.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages+8))
	require.NoError(t, err)
	entered := 0
	for err = enter(entered); err == nil; err = enter(entered) {
		entered++
		require.Less(t, entered, 5000, "the disk is never full")
	}
	var broken Broken
	require.ErrorAs(t, err, &broken)
	assert.Contains(t, broken.Error(), "the disk is full; nothing of this was written")
	orders := func() int {
		at, err := s.Snapshot(ctx, standing)
		require.NoError(t, err, "what is recorded is read")
		return len(at.Orders)
	}
	assert.Equal(t, len(demo.Document().Orders)+entered, orders())
	_, err = s.write.Exec("PRAGMA max_page_count = 1000000")
	require.NoError(t, err)
	require.NoError(t, enter(entered))
	assert.Equal(t, len(demo.Document().Orders)+entered+1, orders())
}
