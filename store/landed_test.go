package store_test

import (
	"bytes"
	"cmp"
	"compress/gzip"
	"database/sql"
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/store"
)

// before is what the program before tables were of version 7 said of the studio in
// testdata/landed.db.gz: four days' work at Pellowen Yard, with orders changed, cancelled and
// gone, lots used up, things added and what could be undone.
type before struct {
	Accepted, Wished *studio.Document
	Journal          []store.Entry
	Ledger           map[studio.ID][]struct {
		N        int64
		Movement studio.MovementKind
		Amount   int64
	}
	Undone         map[string]string // what undoing came to, by line
	UndoneAccepted *studio.Document  `json:"undone accepted"`
	UndoneWished   *studio.Document  `json:"undone wished"`
}

func unzipped(t *testing.T, name string) []byte {
	file, err := os.Open(filepath.Join("testdata", name))
	require.NoError(t, err)
	defer file.Close()
	unzip, err := gzip.NewReader(file)
	require.NoError(t, err)
	data, err := io.ReadAll(unzip)
	require.NoError(t, err)
	return data
}

// living is a document without what has left it since.
func living(doc *studio.Document) *studio.Document {
	doc.Orders = slices.DeleteFunc(doc.Orders, func(o studio.Order) bool {
		return o.State == studio.OrderLeft || o.State == studio.OrderCancelled
	})
	slices.SortFunc(doc.Recorded, func(a, b studio.Recorded) int { return cmp.Compare(a.Recipe, b.Recipe) })
	for i := range doc.Shelf {
		slices.SortFunc(doc.Shelf[i].Reserved, func(a, b studio.Claim) int { return cmp.Compare(a.Order, b.Order) })
	}
	for i := range doc.Work {
		slices.SortFunc(doc.Work[i].Reserved, func(a, b studio.Claim) int { return cmp.Compare(a.Order, b.Order) })
	}
	return doc
}

func sameStudio(t *testing.T, want, got *studio.Document, when string) {
	written, err := json.Marshal(want)
	require.NoError(t, err)
	want, err = studio.Read(bytes.NewReader(written)) // what it says means the same in this version
	require.NoError(t, err)
	want, got = living(want), living(got)
	for key, highest := range want.Ordinals {
		assert.GreaterOrEqual(t, got.Ordinals[key], highest)
	}
	got.Ordinals = want.Ordinals // once taken, they stay so where a lot is opened again
	a, err := json.MarshalIndent(want, "", " ")
	require.NoError(t, err)
	b, err := json.MarshalIndent(got, "", " ")
	require.NoError(t, err)
	assert.Equal(t, string(a), string(b), when)
	counted, err := count.Up(want)
	require.NoError(t, err)
	again, err := count.Up(got)
	require.NoError(t, err)
	assert.Equal(t, counted, again, when)
}

func TestAStudioOfTheProgramBeforeOpensWithNothingLost(t *testing.T) {
	var was before
	require.NoError(t, json.Unmarshal(unzipped(t, "landed.json.gz"), &was))
	folder := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), unzipped(t, "landed.db.gz"), 0o600))
	s := opened(t, folder)
	require.NoError(t, s.Verify(ctx, standing))
	sameStudio(t, was.Accepted, document(t, s, store.Accepted), "accepted")
	sameStudio(t, was.Wished, document(t, s, store.Wished), "wished")

	var lines []store.Entry
	for page := (store.Page[store.Entry]{Next: "10000"}); page.Next != ""; {
		var err error
		page, err = s.Journal(ctx, store.Sought{After: page.Next})
		require.NoError(t, err)
		lines = append(lines, page.Lines...)
	}
	for i := range lines {
		was.Journal[i].Final = lines[i].Final // which was not said
		if word, tried := was.Undone[strconv.FormatInt(lines[i].N, 10)]; tried && lines[i].Final {
			assert.NotEmpty(t, word, "%s was taken back", lines[i].Summary)
		}
	}
	assert.Equal(t, was.Journal, lines)
	for of, moved := range was.Ledger {
		page, err := s.Ledger(ctx, of, 0, store.Sought{})
		require.NoError(t, err)
		require.Len(t, page.Lines, len(moved))
		for i, line := range page.Lines {
			assert.Equal(t, moved[i].Amount, line.Amount)
			assert.Equal(t, moved[i].Movement, line.Movement)
		}
	}
	past, err := s.PastOrders(ctx, store.Sought{})
	require.NoError(t, err)
	assert.Len(t, past.Lines, 5, "four have left, one was cancelled")
	lots, err := s.ClosedLots(ctx, store.Sought{})
	require.NoError(t, err)
	assert.NotEmpty(t, lots.Lines)

	undone := map[string]string{}
	for i, e := range lines {
		if i >= 60 && e.N >= 8 {
			continue
		}
		word := ""
		now := command("undone")
		now.Now = was.Wished.Now
		if _, err := s.Do(ctx, now, func(tx *store.Tx) (any, error) { return nil, tx.Undo(e.N) }); err != nil {
			word = err.Error()
		}
		undone[strconv.FormatInt(e.N, 10)] = word
	}
	assert.Equal(t, was.Undone, undone)
	sameStudio(t, was.UndoneAccepted, document(t, s, store.Accepted), "accepted, after undoing")
	sameStudio(t, was.UndoneWished, document(t, s, store.Wished), "wished, after undoing")
	require.NoError(t, s.Verify(ctx, standing))
}

func TestAFileThatDoesNotHoldTogetherIsToldSo(t *testing.T) {
	for tampered, said := range map[string]string{
		`UPDATE material SET on_hand = on_hand + 1 WHERE name = '24 white wire'`: "material 24 white wire is kept as",
		`UPDATE stock_lot SET amount = amount - 1 WHERE amount > 0`:              "stock on the shelf",
		`DELETE FROM offcut`:                             "cut wires",
		`UPDATE reservation SET quantity = quantity + 2`: "what is reserved of",
		`UPDATE customer_order SET closed = 1 - closed`:  "is kept as closed",
		`DELETE FROM closed_ordinal`:                     "ordinals of",
		`PRAGMA foreign_keys = 0; DELETE FROM person`:    "refers to something of person that is not there",
	} {
		folder := t.TempDir()
		require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), unzipped(t, "landed.db.gz"), 0o600))
		s := opened(t, folder)
		require.NoError(t, s.Verify(ctx, standing))
		raw, err := sql.Open("sqlite", filepath.Join(folder, store.FileName))
		require.NoError(t, err)
		_, err = raw.Exec(tampered)
		require.NoError(t, err)
		require.NoError(t, raw.Close())
		var flaws store.Flaws
		require.ErrorAs(t, s.Verify(ctx, standing), &flaws, tampered)
		assert.Contains(t, flaws.Error(), said, tampered)
	}
}

// A studio file that the program before wrote is read, and counted as it was.
func TestAStudioFileOfTheProgramBeforeIsRead(t *testing.T) {
	var was map[string]json.RawMessage
	require.NoError(t, json.Unmarshal(unzipped(t, "landed.json.gz"), &was))
	doc, err := studio.Read(bytes.NewReader(was["wished"]))
	require.NoError(t, err)
	assert.Len(t, doc.Orders, 7)
	s := opened(t, t.TempDir())
	require.NoError(t, s.Seed(ctx, doc, true))
	got := document(t, s, store.Accepted)
	assert.Equal(t, doc.Ordinals, got.Ordinals)
	amounts := func(shelf []studio.ShelfLot) map[studio.ID]int64 {
		there := map[studio.ID]int64{}
		for _, l := range shelf {
			there[l.ID] = l.Amount
		}
		return there
	}
	assert.Equal(t, amounts(doc.Shelf), amounts(got.Shelf))
	assert.Len(t, got.Work, len(doc.Work))
}

// Each file that a program of earlier tables wrote opens as what that program said of it, is copied first, goes on, and
// is served again; what could be taken back can be. testdata has one of each version of the tables from 13 on.
func TestFilesOfEarlierTablesOpenWithNothingLost(t *testing.T) {
	files, err := filepath.Glob("testdata/played-*.db.gz")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		name := strings.TrimSuffix(filepath.Base(file), ".db.gz")
		t.Run(name, func(t *testing.T) {
			var was struct {
				Accepted, Wished *studio.Document
				Journal          []store.Entry
			}
			require.NoError(t, json.Unmarshal(unzipped(t, name+".json.gz"), &was))
			folder := t.TempDir()
			require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), unzipped(t, name+".db.gz"), 0o600))
			s, err := store.Open(ctx, folder, store.Options{Served: true})
			require.NoError(t, err)
			defer s.Close()
			require.NoError(t, s.Verify(ctx, standing))
			copies, err := s.Backups()
			require.NoError(t, err)
			assert.Len(t, copies, 1, "made before its tables were brought up to date")
			sameStudio(t, was.Accepted, document(t, s, store.Accepted), "accepted")
			sameStudio(t, was.Wished, document(t, s, store.Wished), "wished")
			var lines []store.Entry
			for page := (store.Page[store.Entry]{Next: "100000"}); page.Next != ""; {
				page, err = s.Journal(ctx, store.Sought{After: page.Next})
				require.NoError(t, err)
				lines = append(lines, page.Lines...)
			}
			assert.Equal(t, was.Journal, lines)
			comes, err := s.Accesses(ctx)
			require.NoError(t, err)
			assert.NotEmpty(t, comes, "who may come in stays so")
			undone := 0
			for _, e := range lines {
				if e.Final || e.Undone {
					continue
				}
				now := command("undone")
				now.Now = was.Wished.Now
				_, err := s.Do(ctx, now, func(tx *store.Tx) (any, error) { return nil, tx.Undo(e.N) })
				var cannot store.CannotUndo
				if err == nil {
					undone++
				} else {
					require.ErrorAs(t, err, &cannot, "%d %s", e.N, e.Summary)
				}
			}
			assert.Greater(t, undone, len(lines)/4)
			require.NoError(t, s.Verify(ctx, standing))
		})
	}
}
