package store_test

import (
	"database/sql"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/store"
)

// What is the matter with a file is said in words, and nothing of it is changed.
func TestAFileThatCannotBeUsedIsSaidInWords(t *testing.T) {
	for name, c := range map[string]struct {
		spoil func(t *testing.T, file string)
		says  string
	}{
		"no file of ours": {func(t *testing.T, file string) {
			require.NoError(t, os.WriteFile(file, []byte("Dear diary, today we made forty roses and six of them broke."), 0o600))
		}, "damaged or is no file of Bractum"},
		"cut short": {func(t *testing.T, file string) {
			info, err := os.Stat(file)
			require.NoError(t, err)
			require.NoError(t, os.Truncate(file, info.Size()/3))
		}, "damaged"},
		"overwritten in the middle": {func(t *testing.T, file string) {
			f, err := os.OpenFile(file, os.O_WRONLY, 0)
			require.NoError(t, err)
			_, err = f.WriteAt(make([]byte, 200_000), 8_192)
			require.NoError(t, err)
			require.NoError(t, f.Close())
		}, "damaged"},
		"of a newer program": {func(t *testing.T, file string) {
			db, err := sql.Open("sqlite", file)
			require.NoError(t, err)
			_, err = db.Exec("INSERT INTO goose_db_version (version_id, is_applied) VALUES (99999, 1)")
			require.NoError(t, err)
			require.NoError(t, db.Close())
		}, "newer Bractum"},
	} {
		t.Run(name, func(t *testing.T) {
			s, folder := seeded(t)
			require.NoError(t, s.Close())
			file := filepath.Join(folder, store.FileName)
			c.spoil(t, file)
			before, err := os.ReadFile(file)
			require.NoError(t, err)
			_, err = store.Open(ctx, folder, store.Options{Served: true})
			require.ErrorContains(t, err, c.says)
			after, err := os.ReadFile(file)
			require.NoError(t, err)
			assert.Equal(t, before, after, "nothing was changed")
		})
	}
}

func TestOnlyOneProgramServesAFolder(t *testing.T) {
	folder := t.TempDir()
	first, err := store.Open(ctx, folder, store.Options{Served: true})
	require.NoError(t, err)
	_, err = store.Open(ctx, folder, store.Options{Served: true})
	require.ErrorIs(t, err, store.ErrServed)
	beside, err := store.Open(ctx, folder, store.Options{})
	require.NoError(t, err, "files are taken in and out beside it")
	require.NoError(t, beside.Close())
	require.NoError(t, first.Close())
	again, err := store.Open(ctx, folder, store.Options{Served: true})
	require.NoError(t, err)
	require.NoError(t, again.Close())
}

// A file that another program holds is waited for, and then said to be held.
func TestAHeldFileIsSaidToBeHeld(t *testing.T) {
	s, folder := seeded(t)
	require.NoError(t, s.Close())
	other, err := sql.Open("sqlite", "file:"+filepath.Join(folder, store.FileName)+"?_txlock=exclusive")
	require.NoError(t, err)
	defer other.Close()
	tx, err := other.Begin()
	require.NoError(t, err)
	defer func() { _ = tx.Rollback() }()
	waits := make(chan error, 1)
	go func() {
		_, err := store.Open(ctx, folder, store.Options{Patience: 50 * time.Millisecond})
		waits <- err
	}()
	require.ErrorIs(t, <-waits, store.ErrBusy)
}
