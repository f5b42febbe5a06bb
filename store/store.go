// Package store keeps the facts of a studio in one SQLite file.
//
// Every change is a command: one transaction that writes rows and, with them, one
// line of the append-only journal, whose number N names the state it leaves. A
// document is assembled at N in one read transaction. Commands carry an id made
// by the client; one sent twice answers as the first did. A Store is safe for
// use by several goroutines.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"sync"
	"time"

	"github.com/pressly/goose/v3"
	"modernc.org/sqlite"

	"bractum/store/sqlcgen"
)

//go:embed migrations/*.sql
var migrations embed.FS

// FileName is the one file of a studio, within its data folder.
const FileName = "bractum.db"

// ErrBusy says that another program holds the file: nothing was written.
var ErrBusy = errors.New("the studio's file is held by another program; nothing was written")

// ErrEmpty says that the file holds no studio yet.
var ErrEmpty = errors.New("the file holds no studio yet")

// Broken says what is the matter with the file or the disk that it lies on, what is safe
// and what to do.
type Broken struct {
	What string
	err  error
}

func (b Broken) Error() string { return b.What }

func (b Broken) Unwrap() error { return b.err }

// Stale says that a thing has been changed since the version a write saw.
type Stale struct {
	Thing string
	Seen  int64
	Now   int64
}

func (s Stale) Error() string {
	return fmt.Sprintf("%s was changed: version %d was seen, it stands at %d", s.Thing, s.Seen, s.Now)
}

// NotFound says that there is no such thing.
type NotFound struct{ Thing string }

func (n NotFound) Error() string { return n.Thing + " is not here" }

// Store is an open studio file.
type Store struct {
	write *sql.DB // one connection, immediate transactions
	read  *sql.DB
	// statements, prepared once on each connection that uses them
	writes, reads *sqlcgen.Queries
	// recipes that were read, by id: a revision never changes. One read within a command
	// that failed is not listed by any document.
	recipes sync.Map
}

// Options for opening; the zero value is right for a program that serves.
type Options struct {
	// Patience is how long a write waits for another program; 5 s if zero.
	Patience time.Duration
}

// Open opens the studio file in a folder, making both and bringing its tables up
// to date.
func Open(ctx context.Context, folder string, o Options) (*Store, error) {
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	if o.Patience == 0 {
		o.Patience = 5 * time.Second
	}
	dsn := fmt.Sprintf("file:%s?_pragma=journal_mode(WAL)&_pragma=foreign_keys(1)&_pragma=synchronous(FULL)&_pragma=busy_timeout(%d)&_time_format=sqlite",
		filepath.Join(folder, FileName), o.Patience.Milliseconds())
	write, err := sql.Open("sqlite", dsn+"&_txlock=immediate")
	if err != nil {
		return nil, err
	}
	write.SetMaxOpenConns(1)
	tables, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, write, tables)
	if err == nil {
		_, err = provider.Up(ctx)
	}
	if err != nil {
		return nil, errors.Join(plain(err), write.Close())
	}
	read, err := sql.Open("sqlite", dsn)
	if err != nil {
		return nil, errors.Join(err, write.Close())
	}
	read.SetMaxOpenConns(4)
	s := &Store{write: write, read: read}
	if s.writes, err = sqlcgen.Prepare(ctx, write); err == nil {
		s.reads, err = sqlcgen.Prepare(ctx, read)
	}
	if err != nil {
		return nil, errors.Join(plain(err), s.Close())
	}
	return s, nil
}

// Close lets go of the file.
func (s *Store) Close() error { return errors.Join(s.read.Close(), s.write.Close()) }

// reading runs a function within one read transaction: one state, one N.
func (s *Store) reading(ctx context.Context, do func(*sqlcgen.Queries) error) error {
	tx, err := s.read.BeginTx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return plain(err)
	}
	defer func() { _ = tx.Rollback() }() // nothing was written
	return plain(do(s.reads.WithTx(tx)))
}

// plain turns the driver's word for a file that cannot be used into ours.
func plain(err error) error {
	const busy, locked, readOnly, ioError, corrupt, full, cannotOpen, notADatabase = 5, 6, 8, 10, 11, 13, 14, 26
	var driver *sqlite.Error
	if !errors.As(err, &driver) {
		return err
	}
	switch driver.Code() & 0xff {
	case busy, locked:
		return fmt.Errorf("%w (%v)", ErrBusy, err)
	case full:
		return Broken{"the disk is full; nothing of this was written, and everything recorded before is safe. Make room and try again", err}
	case readOnly:
		return Broken{"the studio's file may only be read; nothing was written. Let this user write to the file and its folder", err}
	case corrupt, notADatabase:
		return Broken{"the studio's file is damaged or is no file of Bractum; nothing was changed. Keep it as it is, and go back to a copy", err}
	case ioError, cannotOpen:
		return Broken{"the disk did not take or give what it should; nothing of this was written. Look whether it is full, unplugged or failing", err}
	}
	return err
}

func nullString(s string) sql.NullString { return sql.NullString{String: s, Valid: s != ""} }
