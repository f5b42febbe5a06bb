package count_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// inLotsOfOne is the demo with so many orders of dahlias, one a day, each piece a lot of its own.
func inLotsOfOne(orders int, quantity int64) *studio.Document {
	doc := onlyOrder("Dahlia", "Oyster", quantity)
	for i := range doc.Recipes {
		if doc.Recipes[i].Kind != studio.KindMix {
			doc.Recipes[i].MostPerLot = 1
		}
	}
	doc.Orders = manyOf(doc.Orders[0], orders)
	return doc
}

// manyOf are so many orders like one, over two weeks.
func manyOf(like studio.Order, number int) (all []studio.Order) {
	for n := range number {
		o := like
		o.ID, o.Name = studio.ID(fmt.Sprint("order ", n)), fmt.Sprint("Supper ", n)
		o.Leaves = studio.MustWallTime(fmt.Sprintf("2027-10-%02dT%02d:00", 4+n%14, 9+n%9))
		line := like.Lines[0]
		line.ID = studio.ID(fmt.Sprint("line ", n))
		o.Lines = []studio.OrderLine{line}
		all = append(all, o)
	}
	return all
}

func noted(counted *count.Result, code count.NoteCode) (all []count.Note) {
	for _, n := range counted.Notes {
		if n.Code == code {
			all = append(all, n)
		}
	}
	return all
}

// However small the lots are to be, there are no more of them than can be planned, and all
// that is ordered is made.
func TestThereAreNoMoreLotsThanCanBe(t *testing.T) {
	doc := inLotsOfOne(2, 150)
	var counter count.Counter
	counted, err := counter.Up(doc)
	require.NoError(t, err)
	assert.Greater(t, len(counted.Lots), 19_000)
	assert.Less(t, len(counted.Lots), 20_000+len(counted.Items))
	assert.NotEmpty(t, noted(counted, count.LotsTooLarge))
	for _, item := range counted.Items {
		assert.GreaterOrEqual(t, item.Started, item.Net, item.Key)
	}
	fewer := *doc
	fewer.Orders = doc.Orders[:1]
	for _, next := range []*studio.Document{&fewer, doc} {
		fresh, err := count.Up(next)
		require.NoError(t, err)
		again, err := counter.Up(next)
		require.NoError(t, err)
		require.Equal(t, fresh, again, "whatever was counted before")
	}
}

// What is to be ready only after the horizon is counted when its time comes.
func TestADistantOrderIsCountedWhenItsTimeComes(t *testing.T) {
	doc := onlyOrder("Dahlia", "Oyster", 4)
	doc.Orders[0].Leaves = studio.MustWallTime("2030-03-01T10:00")
	counted, err := count.Up(doc)
	require.NoError(t, err)
	assert.Empty(t, counted.Lots)
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	doc.Now = calendar.Minute(doc.Orders[0].Leaves) - doc.Settings.SafetyMinutes - doc.Settings.HorizonMinutes
	counted, err = count.Up(doc)
	require.NoError(t, err)
	assert.NotEmpty(t, counted.Lots)
}

// Where more is ordered than can be counted at once the nearest orders are.
func TestOrdersBeyondWhatCanBeCountedAreLeftForLater(t *testing.T) {
	doc := onlyOrder("Dahlia", "Oyster", 1)
	kinds := studio.NewBook(doc).Kinds(studio.Made{Recipe: demo.ID("Dahlia")})
	doc.Orders = manyOf(doc.Orders[0], int(20_000/kinds)+30)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	left := noted(counted, count.LeftForLater)
	assert.Len(t, left, 30)
	assert.Equal(t, studio.With{"order": left[0].With["order"], "most": 20_000}, left[0].With)
	pegged := map[studio.ID]bool{}
	for _, l := range counted.Lots {
		for _, p := range l.Pegs {
			pegged[p.Order] = true
		}
	}
	assert.Len(t, pegged, len(doc.Orders)-30)
	for _, o := range doc.Orders {
		if !pegged[o.ID] {
			assert.Equal(t, "2027-10-17", o.Leaves.String()[:10], "the last")
		}
	}
}
