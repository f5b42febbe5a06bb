package web_test

import (
	"context"
	"database/sql"
	"fmt"
	"path/filepath"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/outside"
	"bractum/store"
	"bractum/web"
)

const (
	departed = 5_000
	usedUp   = 20_000
	tenYears = studio.Minute(3653 * 1440)
)

// age gives a studio's file ten years of history: orders that have left, lots that were made
// and used up, and their lines in the journal and the ledger.
func age(t testing.TB, folder string, doc *studio.Document) {
	file, err := sql.Open("sqlite", "file:"+filepath.Join(folder, store.FileName)+"?_pragma=journal_mode(WAL)")
	require.NoError(t, err)
	defer file.Close()
	tx, err := file.Begin()
	require.NoError(t, err)
	do := func(query string, values ...any) {
		_, err := tx.Exec(query, values...)
		require.NoError(t, err)
	}
	recipes := []studio.Recipe{}
	for _, r := range doc.Current() {
		if r.Kind == studio.KindPart || r.Kind == studio.KindFlower {
			recipes = append(recipes, *r)
		}
	}
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	require.NoError(t, err)
	n := int64(1)
	entry := func(at studio.Minute, kind string) {
		n++
		do(
			`INSERT INTO journal (n, at_minute, person_id, command_id, kind, summary, answer) VALUES (?, ?, ?, ?, ?, ?, '{}')`,
			n,
			int64(at),
			string(doc.People[0].ID),
			uuid.NewString(),
			kind,
			fmt.Sprintf("%s %d", kind, n),
		)
	}
	for i := range departed {
		at := 1440 + studio.Minute(i)*(doc.Now-30*1440)/departed
		id, leaves := uuid.NewString(), calendar.Wall(at+1440)
		entry(at, "order left")
		do(
			`INSERT INTO order_version VALUES (?, 1, ?, 'A supper', ?, 'collected', 10, '[]', 'left')`,
			id,
			fmt.Sprintf("Supper %d", i),
			leaves.String(),
		)
		do(
			`INSERT INTO order_line (order_id, version, position, id, recipe_id, colourway_id, quantity, service_per_mille) VALUES (?, 1, 0, ?, ?, ?, 5, 950)`,
			id,
			uuid.NewString(),
			string(doc.Orders[0].Lines[0].Recipe),
			string(doc.Orders[0].Lines[0].Colourway),
		)
		do(`INSERT INTO customer_order (id, version, accepted_version, closed) VALUES (?, 1, 1, 1)`, id)
	}
	for i := range usedUp {
		at := 1440 + studio.Minute(i)*(doc.Now-30*1440)/usedUp
		r := recipes[i%len(recipes)]
		id, stock := fmt.Sprintf("lot-old-%d", i), uuid.NewString()
		do(
			`INSERT INTO lot (id, gather_key, recipe_id, mixes, ordinal, need, started) VALUES (?, ?, ?, '{}', ?, 20, 22)`,
			id,
			"old "+string(r.ID),
			string(r.ID),
			i/len(recipes)+1,
		)
		for position, step := range r.Steps {
			if step.Work != nil {
				do(
					`INSERT INTO task (lot_id, position, step, state, person_id, start_minute, end_minute, good, second, broken) VALUES (?, ?, ?, 'done', ?, ?, ?, 22, 0, 0)`,
					id,
					position,
					step.Key,
					string(doc.People[i%len(doc.People)].ID),
					int64(at)+int64(position)*60,
					int64(at)+int64(position)*60+50,
				)
			}
		}
		entry(at, "task finished")
		do(
			`INSERT INTO stock_lot (id, recipe_id, mixes, quality, made_minute, lot_id) VALUES (?, ?, '{}', 'good', ?, ?)`,
			stock,
			string(r.ID),
			int64(at),
			id,
		)
		do(`INSERT INTO ledger (n, stock_lot_id, movement, amount) VALUES (?, ?, 'made', 22)`, n, stock)
		do(`INSERT INTO ledger (n, stock_lot_id, movement, amount) VALUES (?, ?, 'used', -22)`, n, stock)
	}
	require.NoError(t, tx.Commit())
}

// aged opens a season whose studio is new, or ten years old with all that happened in them.
func aged(t testing.TB, old bool) (*store.Store, *studio.Document) {
	doc, folder := demo.Season(1, 1, 90), t.TempDir()
	if old {
		doc = demo.Aged(doc, tenYears)
	}
	s, err := store.Open(context.Background(), folder, store.Options{})
	require.NoError(t, err)
	require.NoError(t, s.Seed(context.Background(), doc, true))
	if old {
		require.NoError(t, s.Close())
		age(t, folder, doc)
		s, err = store.Open(context.Background(), folder, store.Options{})
		require.NoError(t, err)
	}
	t.Cleanup(func() { _ = s.Close() })
	return s, doc
}

// BenchmarkAgedStudio sets a studio of ten years, with 5,000 departed orders and 20,000 lots
// that are used up, beside the same one when it is new.
func BenchmarkAgedStudio(b *testing.B) {
	for _, of := range []struct {
		name string
		old  bool
	}{{"new", false}, {"ten years", true}} {
		s, _ := aged(b, of.old)
		doc, _, err := s.Document(context.Background(), store.Accepted, standing)
		require.NoError(b, err)
		counted, err := count.Up(doc)
		require.NoError(b, err)
		b.Run("document/"+of.name, func(b *testing.B) {
			for b.Loop() {
				_, _, err := s.Document(context.Background(), store.Accepted, standing)
				require.NoError(b, err)
			}
		})
		b.Run("count/"+of.name, func(b *testing.B) {
			for b.Loop() {
				_, err := count.Up(doc)
				require.NoError(b, err)
			}
		})
		b.Run("plan/"+of.name, func(b *testing.B) {
			for b.Loop() {
				_, err := plan.Make(doc, counted, plan.Options{})
				require.NoError(b, err)
			}
		})
		app := web.New(s, standing, outside.Services{})
		d := desk{b, app, s, demo.ID("Odalys")}
		d.ask("GET", "/api/studio", "", nil)
		for _, path := range []string{"/api/orders", "/api/plan", "/api/stores", "/api/drying-room"} {
			b.Run("read"+path+"/"+of.name, func(b *testing.B) {
				for b.Loop() {
					b.StopTimer() // something is recorded, and worked out
					status, answer := d.ask("POST", "/api/stores/stock", object{"recipe": doc.Recipes[0].ID,
						"amount": object{"value": 1, "unit": "g"}, "madeOn": doc.Now - 60, "quality": "good"}, nil)
					require.Equal(b, 200, status, answer)
					d.ask("GET", "/api/studio", "", nil)
					b.StartTimer()
					status, answer = d.ask("GET", path, "", nil)
					require.Equal(b, 200, status, answer)
				}
			})
		}
		for _, path := range []string{"/api/journal", "/api/orders/past?text=1", "/api/log/lots", "/api/log"} {
			b.Run("history"+path+"/"+of.name, func(b *testing.B) {
				for b.Loop() {
					status, answer := d.ask("GET", path, "", nil)
					require.Equal(b, 200, status, answer)
				}
			})
		}
		app.Close()
	}
}

// BenchmarkRestoringAnAgedStudio puts a backup of a studio of ten years into an empty folder, opens it and proves it.
func BenchmarkRestoringAnAgedStudio(b *testing.B) {
	s, _ := aged(b, true)
	made, err := s.Backup(b.Context())
	require.NoError(b, err)
	file := filepath.Join(s.BackupFolder(), made.Name)
	for b.Loop() {
		into := filepath.Join(b.TempDir(), "restored")
		require.NoError(b, store.Restore(b.Context(), file, into))
		again, err := store.Open(b.Context(), into, store.Options{})
		require.NoError(b, err)
		require.NoError(b, again.Verify(b.Context(), standing))
		require.NoError(b, again.Close())
	}
	b.ReportMetric(float64(made.Bytes)/1e6, "MB")
}
