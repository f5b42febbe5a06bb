package web_test

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/store"
)

// Played is what a program says of a studio that it wrote: kept beside the file, so that every later one can be held to
// it.
type Played struct {
	Accepted, Wished *studio.Document
	Journal          []store.Entry
}

// A day is played, with people who sign in, and kept as a file and what the program says of it, where
// BRACTUM_FIXTURE names a folder. It is done once for each version of the tables that lands: store/testdata.
func TestWhatThisProgramWritesCanBeKept(t *testing.T) {
	into := os.Getenv("BRACTUM_FIXTURE")
	if into == "" {
		t.Skip("BRACTUM_FIXTURE names no folder")
	}
	p := newPlayer(t, 13)
	p.play(1)
	lead := locks(t, p.desk)
	bringsIn(t, lead, "Window")
	s := p.store
	was := Played{}
	var err error
	clock := func(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at }
	was.Accepted, _, err = s.Document(t.Context(), store.Accepted, clock)
	require.NoError(t, err)
	was.Wished, _, err = s.Document(t.Context(), store.Wished, clock)
	require.NoError(t, err)
	for page := (store.Page[store.Entry]{Next: "100000"}); page.Next != ""; {
		page, err = s.Journal(t.Context(), store.Sought{After: page.Next})
		require.NoError(t, err)
		was.Journal = append(was.Journal, page.Lines...)
	}
	said, err := json.Marshal(was)
	require.NoError(t, err)
	made, err := s.Backup(t.Context())
	require.NoError(t, err)
	file, err := os.ReadFile(filepath.Join(s.BackupFolder(), made.Name))
	require.NoError(t, err)
	for name, body := range map[string][]byte{"played.db.gz": file, "played.json.gz": said} {
		var packed bytes.Buffer
		w, err := gzip.NewWriterLevel(&packed, gzip.BestCompression)
		require.NoError(t, err)
		_, err = w.Write(body)
		require.NoError(t, err)
		require.NoError(t, w.Close())
		require.NoError(t, os.WriteFile(filepath.Join(into, name), packed.Bytes(), 0o600))
	}
}
