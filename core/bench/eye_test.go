package bench_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/count"
	"bractum/core/stores"
	"bractum/core/studio"
	"bractum/demo"
)

// taping is the demo's stems as one is being taped, with tape that is settled by eye.
func taping(t *testing.T, change func(*studio.Recipe)) (*studio.Document, bench.Bench, studio.Lot, studio.ID) {
	doc := stems()
	change(&doc.Recipes[slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool {
		return r.ID == demo.ID("Waxflower stem")
	})])
	b, p := at(t, doc)
	lot := lotOf(t, p, "Waxflower stem")
	task := studio.TaskID(lot.ID, "tape")
	happened(t, doc)(b.Start(task, demo.ID("Maren"), false))
	b, _ = at(t, doc)
	return doc, b, lot, task
}

// What breaks as it is taken up goes off the shelf beside what was taken, and no more than lies there.
func TestWhatBreaksAsItIsTakenUpIsUsedToo(t *testing.T) {
	_, b, lot, task := taping(t, func(*studio.Recipe) {})
	blossom := demo.ID("Waxflower blossom")
	eyes := b.Eyes(task)
	require.Len(t, eyes, 1)
	takes := int64(0)
	for _, p := range studio.NewBook(stems()).Recipe(lot.Recipe).Parts {
		takes += p.Count * lot.Started
	}
	there := int64(0)
	for _, s := range stems().Shelf {
		there += s.Amount
	}
	assert.Equal(t, bench.Eye{Recipe: blossom, Name: "Waxflower blossom", Breaks: true, Most: there - takes}, eyes[0])

	_, _, err := b.Finish(task, bench.Counts{Good: lot.Started, Used: []studio.Used{{Recipe: blossom, Broke: 500}}})
	refused(t, err, "500 are said to have broken")
	_, _, err = b.Finish(task, bench.Counts{Good: lot.Started, Used: []studio.Used{{Recipe: blossom, Broke: -1}}})
	refused(t, err, "-1 are said to have broken")
	_, _, err = b.Finish(task, bench.Counts{Good: lot.Started, Used: []studio.Used{{Recipe: "rose", Broke: 1}}})
	refused(t, err, "from 0 to 0 would be right")
	done, moved, err := b.Finish(
		task,
		bench.Counts{Good: lot.Started, Used: []studio.Used{{Recipe: blossom, Broke: 3}}},
	)
	require.NoError(t, err)
	assert.Equal(t, []studio.Used{{Recipe: blossom, Broke: 3}}, done.Records[0].Used)
	taken := int64(0)
	for _, m := range moved {
		if m.Kind == studio.UsedUp && m.Shelf != "" {
			taken -= m.Amount
		}
	}
	assert.Equal(t, takes+3, taken)
}

// Of a material with a range the most is made ready, the usual is taken where nothing is said, and
// else what was used.
func TestOfAMaterialWithARangeWhatWasUsedIsTaken(t *testing.T) {
	least, most := int64(100), int64(900)
	pearl := demo.ID("Dried egg white")
	doc, b, lot, task := taping(t, func(r *studio.Recipe) {
		r.Materials = []studio.MaterialInput{
			{Step: "tape", Material: pearl, Amount: 300, Least: &least, Most: &most},
		}
	})
	counted, err := count.Up(doc)
	require.NoError(t, err)
	needs := count.Materials(doc, counted.Lots, nil)
	i := slices.IndexFunc(needs, func(n count.MaterialNeed) bool { return n.Material == pearl })
	require.GreaterOrEqual(t, i, 0)
	assert.Equal(t, most*lot.Started, needs[i].Needed)
	_, p := at(t, doc)
	assert.Equal(t, most*lot.Started, stores.Takes(doc, p, nil)[pearl][0].Amount)

	eye := b.Eyes(task)[1]
	assert.Equal(t, []int64{least * lot.Started, 300 * lot.Started, most * lot.Started},
		[]int64{eye.Least, eye.Usual, eye.Most})
	assert.Equal(t, "mg", eye.Unit)
	taken := func(used ...studio.Used) (amount int64) {
		_, moved, err := b.Finish(task, bench.Counts{Good: lot.Started, Used: used})
		require.NoError(t, err)
		for _, m := range moved {
			if m.Material == pearl {
				amount -= m.Amount
			}
		}
		return amount
	}
	assert.Equal(t, 300*lot.Started, taken())
	assert.EqualValues(t, 1234, taken(studio.Used{Material: pearl, Amount: 1234}))
	_, _, err = b.Finish(
		task,
		bench.Counts{Good: lot.Started, Used: []studio.Used{{Material: pearl, Amount: 9_000_000}}},
	)
	refused(t, err, "9000000 pieces are said to be used")
}
