package store

import (
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
)

// While a studio is served, what was written last stands beside its file, in SQLite's own write-ahead log. The file is
// marked as open for as long, in the file itself: one that is marked, and has no such log, was copied without it, and
// lacks what was written last.
const (
	putAway = 0 // SQLite's user_version
	inUse   = 1
)

// mark reads a file's mark without opening it; putAway where there is no file.
func mark(file string) (uint32, error) {
	const at = 60 // of the header, by SQLite's file format
	in, err := os.Open(file)
	if errors.Is(err, fs.ErrNotExist) {
		return putAway, nil
	}
	if err != nil {
		return 0, err
	}
	defer in.Close()
	var four [4]byte
	if _, err := in.ReadAt(four[:], at); errors.Is(err, io.EOF) {
		return putAway, nil // it is empty
	} else if err != nil {
		return 0, err
	}
	return binary.BigEndian.Uint32(four[:]), nil
}

func setMark(ctx context.Context, db *sql.DB, is int) error {
	if _, err := db.ExecContext(ctx, fmt.Sprintf("PRAGMA user_version = %d", is)); err != nil {
		return err
	}
	_, err := db.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)")
	return err
}

// recovered puts away a file whose program was killed: SQLite has brought what stood beside it into it.
func (s *Store) recovered(ctx context.Context) error {
	held, err := hold(s.folder)
	if errors.Is(err, ErrServed) { // it is at work
		return nil
	}
	if err != nil {
		return err
	}
	return errors.Join(setMark(ctx, s.write, putAway), letGo(held))
}

// whole refuses a folder's file that was copied without what was written last.
func whole(folder string) (wasPutAway bool, err error) {
	file := filepath.Join(folder, FileName)
	is, err := mark(file)
	if err != nil || is == putAway {
		return true, err
	}
	if _, err := os.Stat(file + "-wal"); !errors.Is(err, fs.ErrNotExist) {
		return false, err
	}
	return false, broken(
		nil,
		"%s was copied while Bractum was at work, without %s-wal beside it: what was written last "+
			"is missing. Nothing was changed. Copy both, or go back to a backup; or take it as it is, "+
			"into another folder: "+
			"bractum restore %s --data FOLDER",
		file,
		FileName,
		file,
	)
}
