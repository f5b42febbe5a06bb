package store_test

import (
	"bufio"
	"bytes"
	"database/sql"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/store"
)

// everything is all rows of a studio's file, table by table, but for the mark of its being open.
func everything(t *testing.T, folder string) string {
	t.Helper()
	db, err := sql.Open("sqlite", "file:"+filepath.Join(folder, store.FileName)+"?mode=ro")
	require.NoError(t, err)
	defer db.Close()
	list := func(query string) (all []string) {
		rows, err := db.Query(query)
		require.NoError(t, err)
		defer rows.Close()
		columns, err := rows.Columns()
		require.NoError(t, err)
		row, into := make([]any, len(columns)), make([]any, len(columns))
		for i := range row {
			into[i] = &row[i]
		}
		for rows.Next() {
			require.NoError(t, rows.Scan(into...))
			all = append(all, fmt.Sprintf("%q", row))
		}
		require.NoError(t, rows.Err())
		return all
	}
	var said strings.Builder
	for _, table := range list("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name") {
		name := strings.Trim(table, `[]"`)
		fmt.Fprintln(&said, name, strings.Join(slices.Sorted(slices.Values(list("SELECT * FROM "+name))), "\n"))
	}
	return said.String()
}

// A backup fills an empty file that is open already, and goes on there; a studio that is there stays, and what is no
// backup leaves nothing behind.
func TestABackupIsTakenIntoWhatIsOpenAndEmpty(t *testing.T) {
	s, folder := seeded(t)
	backup, err := s.Backup(ctx)
	require.NoError(t, err)
	full, err := os.ReadFile(filepath.Join(s.BackupFolder(), backup.Name))
	require.NoError(t, err)
	require.NoError(t, s.Close())
	was := everything(t, folder)

	empty := t.TempDir()
	served, err := store.Open(ctx, empty, store.Options{Served: true})
	require.NoError(t, err)
	for name, bad := range map[string][]byte{"none": []byte("no backup"), "torn": full[:len(full)/2], "empty": nil} {
		assert.ErrorContains(t, served.TakeIn(ctx, bytes.NewReader(bad)), "damaged", name)
		_, _, _, err = served.LastN(ctx)
		assert.ErrorIs(t, err, store.ErrEmpty, name)
	}
	require.NoError(t, served.TakeIn(ctx, bytes.NewReader(full)))
	assert.ErrorIs(t, served.TakeIn(ctx, bytes.NewReader(full)), store.ErrBegun)
	before, _, _, err := served.LastN(ctx)
	require.NoError(t, err)
	assert.Equal(t, was, everything(t, empty))
	_, err = served.Do(
		ctx,
		command("named anew"),
		func(tx *store.Tx) (any, error) { return nil, tx.Rename("The Loft") },
	)
	require.NoError(t, err)
	require.NoError(t, served.Close())
	left, err := filepath.Glob(filepath.Join(empty, "*taken*"))
	require.NoError(t, err)
	assert.Empty(t, left)

	again, err := store.Open(ctx, empty, store.Options{})
	require.NoError(t, err)
	defer again.Close()
	n, _, _, err := again.LastN(ctx)
	require.NoError(t, err)
	assert.Equal(t, before+1, n, "what is written afterwards stays")
}

// A backup made while somebody writes is a studio as it was at one moment, with all that was acknowledged before; it
// goes into an empty folder, and into no other.
func TestABackupRestoresToWhatWasAcknowledged(t *testing.T) {
	s, folder := seeded(t)
	require.NoError(t, s.Close())
	backups := t.TempDir()
	served, err := store.Open(ctx, folder, store.Options{Served: true, Backups: backups})
	require.NoError(t, err)
	defer served.Close()
	stop, written := make(chan struct{}), make(chan int64, 1)
	go func() {
		var last int64
		for i := 0; ; i++ {
			select {
			case <-stop:
				written <- last
				return
			default:
			}
			name := fmt.Sprintf("order %d", i)
			done, err := served.Do(ctx, command("order entered"), func(tx *store.Tx) (any, error) {
				return name, tx.EnterOrder(anOrder(name))
			})
			if err == nil {
				last = done.N
			}
		}
	}()
	for round := range 5 {
		acknowledged, _, _, err := served.LastN(ctx)
		require.NoError(t, err)
		file := filepath.Join(t.TempDir(), "copy.bractum")
		if round%2 == 0 {
			require.NoError(t, store.Copy(ctx, folder, file), "beside whoever serves it")
		} else {
			made, err := served.Backup(ctx)
			require.NoError(t, err)
			file = filepath.Join(backups, made.Name)
		}
		require.ErrorContains(t, store.Copy(ctx, folder, file), "is there already")
		into := filepath.Join(t.TempDir(), "restored")
		require.NoError(t, store.Restore(ctx, file, into))
		require.ErrorContains(t, store.Restore(ctx, file, into), "has a studio already")
		again := opened(t, into)
		n, _, _, err := again.LastN(ctx)
		require.NoError(t, err)
		assert.GreaterOrEqual(t, n, acknowledged)
		require.NoError(t, again.Verify(ctx, standing))
		require.NoError(t, again.Close())
	}
	close(stop)
	last := <-written
	require.NoError(t, served.Close())
	file := filepath.Join(t.TempDir(), "last.bractum")
	require.NoError(t, store.Copy(ctx, folder, file))
	into := filepath.Join(t.TempDir(), "restored")
	require.NoError(t, store.Restore(ctx, file, into))
	assert.Equal(t, everything(t, folder), everything(t, into))
	again := opened(t, into)
	defer again.Close()
	n, _, _, err := again.LastN(ctx)
	require.NoError(t, err)
	assert.Equal(t, last, n)
}

// What is no backup is told, and leaves nothing behind.
func TestWhatIsNoBackupIsNotRestored(t *testing.T) {
	s, folder := seeded(t)
	require.NoError(t, s.Close())
	good := filepath.Join(t.TempDir(), "good.bractum")
	require.NoError(t, store.Copy(ctx, folder, good))
	whole, err := os.ReadFile(good)
	require.NoError(t, err)
	for name, body := range map[string][]byte{
		"empty": {}, "a letter": []byte("Dear Odalys"), "half of it": whole[:len(whole)/2],
		"torn in the middle": append(append([]byte{}, whole[:40_000]...), make([]byte, len(whole)-40_000)...),
	} {
		t.Run(name, func(t *testing.T) {
			file, into := filepath.Join(t.TempDir(), "file"), filepath.Join(t.TempDir(), "into")
			require.NoError(t, os.WriteFile(file, body, 0o600))
			require.Error(t, store.Restore(ctx, file, into))
			left, err := os.ReadDir(into)
			require.NoError(t, err)
			assert.Empty(t, left)
		})
	}
	require.ErrorContains(t, store.Copy(ctx, t.TempDir(), filepath.Join(t.TempDir(), "x")), "no studio is in")
	require.Error(t, store.Restore(ctx, filepath.Join(t.TempDir(), "nowhere"), t.TempDir()))
}

// A file that was copied while it was written, without its log beside it, is found out; one whose program was killed
// is not taken for such a one, whoever opens it next.
func TestACopyWithoutItsLogIsFoundOut(t *testing.T) {
	s, folder := seeded(t)
	require.NoError(t, s.Close())
	served, err := store.Open(ctx, folder, store.Options{Served: true})
	require.NoError(t, err)
	_, err = served.Do(
		ctx,
		command("order entered"),
		func(tx *store.Tx) (any, error) { return "", tx.EnterOrder(anOrder("late")) },
	)
	require.NoError(t, err)
	beside := opened(t, folder) // another program looks in
	require.NoError(t, beside.Close())
	take := func(endings ...string) string {
		into := t.TempDir()
		for _, ending := range endings {
			body, err := os.ReadFile(filepath.Join(folder, store.FileName+ending))
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(filepath.Join(into, store.FileName+ending), body, 0o600))
		}
		return into
	}
	torn, killed := take(""), take("", "-wal")
	require.NoError(t, served.Close())
	for _, o := range []store.Options{{}, {Served: true}} {
		_, err = store.Open(ctx, torn, o)
		require.ErrorContains(t, err, "without bractum.db-wal beside it")
	}
	into := filepath.Join(t.TempDir(), "as it is")
	require.NoError(t, store.Restore(ctx, filepath.Join(torn, store.FileName), into), "taken as it is, knowingly")
	require.NoError(t, opened(t, into).Close())
	for range 2 { // first it is brought in order, then it is as any other
		again := opened(t, killed)
		require.NoError(t, again.Verify(ctx, standing))
		require.NoError(t, again.Close())
	}
	require.NoError(t, opened(t, take("")).Close(), "put away, one file is enough")
}

// So many of the newest stay; those made before new tables do not count.
func TestBackupsAreThinnedOut(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "stick")
	s, err := store.Open(ctx, t.TempDir(), store.Options{Backups: folder})
	require.NoError(t, err)
	defer s.Close()
	all, err := s.Backups()
	require.NoError(t, err)
	assert.Empty(t, all, "there is no stick yet")
	require.NoError(t, os.Mkdir(folder, 0o755))
	at := time.Date(2027, 9, 20, 3, 0, 0, 0, time.UTC)
	for i := range 5 {
		for _, name := range []string{fmt.Sprintf("day %d.bractum", i), fmt.Sprintf("%d-before-tables-9.bractum", i), "notes.txt"} {
			file := filepath.Join(folder, name)
			require.NoError(t, os.WriteFile(file, []byte("x"), 0o600))
			require.NoError(t, os.Chtimes(file, at.AddDate(0, 0, i), at.AddDate(0, 0, i)))
		}
	}
	require.NoError(t, s.Thin(2))
	all, err = s.Backups()
	require.NoError(t, err)
	names := ""
	for _, b := range all {
		names += b.Name + " "
	}
	assert.Equal(
		t,
		"day 4.bractum 4-before-tables-9.bractum day 3.bractum 3-before-tables-9.bractum 2-before-tables-9.bractum "+
			"1-before-tables-9.bractum 0-before-tables-9.bractum",
		strings.TrimSpace(names),
	)
}

// A program that is killed while it makes a backup leaves none that is half made.
func TestKilledWhileItCopiesNoBackupIsHalfMade(t *testing.T) {
	s, folder := seeded(t)
	require.NoError(t, s.Close())
	backups := t.TempDir()
	for round := range 12 {
		copier := exec.Command(os.Args[0])
		copier.Env = append(os.Environ(), "BRACTUM_COPY_FROM="+folder, "BRACTUM_COPY_TO="+backups)
		out, err := copier.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, copier.Start())
		made := bufio.NewScanner(out)
		for range 1 + round%3 { // while it makes the next
			require.True(t, made.Scan())
		}
		_ = copier.Process.Kill()
		_ = copier.Wait() // it was killed
	}
	again, err := store.Open(ctx, folder, store.Options{Backups: backups})
	require.NoError(t, err)
	defer again.Close()
	all, err := again.Backups()
	require.NoError(t, err)
	for i, b := range all {
		into := filepath.Join(t.TempDir(), fmt.Sprint(i))
		require.NoError(t, store.Restore(ctx, filepath.Join(backups, b.Name), into))
		if i%10 == 0 {
			assert.Equal(t, everything(t, folder), everything(t, into))
		}
	}
	assert.GreaterOrEqual(t, len(all), 12*2, "all that it told of are there")
}
