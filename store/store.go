// Package store keeps the facts of a studio in one SQLite file.
//
// Every change is a command: one transaction that writes rows and, with them, one
// line of the append-only journal, whose number N names the state it leaves. A
// document is assembled at N in one read transaction. Commands carry an id made
// by the client; one sent twice answers as the first did. A Store is safe for
// use by several goroutines.
package store

import (
	"cmp"
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

	"github.com/gofrs/flock"
	"github.com/pressly/goose/v3"
	"modernc.org/sqlite"

	"bractum/core/studio"
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

// Broken says in words why the file cannot be used, what is safe and what to do.
type Broken struct {
	studio.Said
	err error
}

func (b Broken) Error() string { return b.String() }

func broken(cause error, english string, with ...any) error {
	return Broken{Said: studio.Say(english, with...), err: cause}
}

func (b Broken) Unwrap() error { return b.err }

// Stale says that a thing has been changed since the version a write saw.
type Stale struct {
	Thing string
	Seen  int64
	Now   int64
}

func (s Stale) Error() string { return s.Words().String() }

// Words are what is said of it.
func (s Stale) Words() studio.Said {
	return studio.Say("%s was changed: version %d was seen, it stands at %d", s.Thing, s.Seen, s.Now)
}

// NotFound says that there is no such thing.
type NotFound struct{ Thing string }

func (n NotFound) Error() string { return n.Words().String() }

// Words are what is said of it.
func (n NotFound) Words() studio.Said { return studio.Say("%s is not here", n.Thing) }

// Store is an open studio file.
type Store struct {
	write *sql.DB // one connection, immediate transactions
	read  *sql.DB
	// statements, prepared once on each connection that uses them
	writes, reads *sqlcgen.Queries
	held          *flock.Flock // where this program serves the folder
	about         os.FileInfo  // what is open, by which it is known again
	folder        string
	backups       string
	// recipes that were read, by id: a revision never changes. One read within a command
	// that failed is not listed by any document.
	recipes sync.Map
}

// Options for opening; the zero value is right for a program that serves.
type Options struct {
	// Patience is how long a write waits for another program; 5 s if zero.
	Patience time.Duration
	// Served says that this program serves the studio: no other may at the same time, and
	// the file is looked through for damage first.
	Served bool
	// Backups is the folder of backups; within the data folder if empty.
	Backups string
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
	var held *flock.Flock
	if o.Served {
		var err error
		if held, err = hold(folder); err != nil {
			return nil, err
		}
	}
	var s *Store
	wasPutAway, err := whole(folder)
	if err == nil {
		s, err = open(ctx, folder, o)
	}
	if err != nil {
		return nil, errors.Join(plain(err), letGo(held))
	}
	s.held, s.folder, s.backups = held, folder, o.backups(folder)
	if s.about, err = os.Stat(filepath.Join(folder, FileName)); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	if o.Served {
		err = setMark(ctx, s.write, inUse)
	} else if !wasPutAway {
		err = s.recovered(ctx)
	}
	if err != nil {
		return nil, errors.Join(plain(err), s.Close())
	}
	return s, nil
}

func open(ctx context.Context, folder string, o Options) (*Store, error) {
	dsn := fmt.Sprintf(
		"file:%s?_pragma=journal_mode(WAL)&_pragma=foreign_keys(1)&_pragma=synchronous(FULL)&_pragma=busy_timeout(%d)&_time_format=sqlite",
		filepath.Join(folder, FileName),
		o.Patience.Milliseconds(),
	)
	write, err := sql.Open("sqlite", dsn+"&_txlock=immediate")
	if err != nil {
		return nil, err
	}
	write.SetMaxOpenConns(1)
	if err = ready(ctx, write, o); err == nil {
		err = upToDate(ctx, write, o.backups(folder))
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
	if err == nil {
		err = s.closeOld(ctx)
	}
	if err != nil {
		return nil, errors.Join(plain(err), s.Close())
	}
	return s, nil
}

// ready waits once for another program that holds the file, and looks through it.
func ready(ctx context.Context, write *sql.DB, o Options) error {
	tx, err := write.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	if err := tx.Rollback(); err != nil || !o.Served {
		return err
	}
	var found string
	if err := write.QueryRowContext(ctx, "PRAGMA quick_check(1)").Scan(&found); err != nil {
		return err
	}
	if found != "ok" {
		return damaged(errors.New(found))
	}
	return nil
}

// upToDate brings the tables up to date, and refuses a file of a newer program.
// Of a file with older tables a backup is made first.
func upToDate(ctx context.Context, write *sql.DB, backups string) error {
	tables, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, write, tables)
	if err != nil {
		return err
	}
	sources := provider.ListSources()
	at, err := provider.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	newest := sources[len(sources)-1].Version
	if at > newest {
		return newer(at, newest)
	}
	if at > 0 && at < newest {
		if _, err := backUp(ctx, write, backups, fmt.Sprint(beforeTables, newest)); err != nil {
			return fmt.Errorf("before its tables are brought up to date: %w", err)
		}
	}
	_, err = provider.Up(ctx)
	return err
}

// newer says that a file is of a newer program.
func newer(is, known int64) error {
	return broken(
		nil,
		"this file was written by a newer Bractum (its tables are version %d, this program knows up to %d); nothing was changed. "+
			"Start the newer program, or go back to a copy from before",
		is,
		known,
	)
}

// newestTables is the version of the tables that this program writes.
func newestTables() (int64, error) {
	files, err := migrations.ReadDir("migrations")
	if err != nil {
		return 0, err
	}
	var newest int64
	_, err = fmt.Sscanf(files[len(files)-1].Name(), "%d_", &newest)
	return newest, err
}

func (o Options) backups(folder string) string {
	return cmp.Or(o.Backups, filepath.Join(folder, "backups"))
}

// hold makes this program the one that serves a folder; the system lets go of it whenever
// the program ends.
func hold(folder string) (*flock.Flock, error) {
	file := flock.New(filepath.Join(folder, "serving"), flock.SetPermissions(0o600))
	is, err := file.TryLock()
	if err != nil {
		return nil, fmt.Errorf(
			"the data folder cannot be written to (%w); let this user write to it, or name another with --data",
			err,
		)
	}
	if !is {
		return nil, ErrServed
	}
	return file, nil
}

// ErrServed says that another program serves the same folder.
var ErrServed = errors.New(
	"another Bractum serves this folder already; use that one, close it first, or name another folder with --data. Nothing was changed",
)

func letGo(held *flock.Flock) error {
	if held == nil {
		return nil
	}
	return held.Unlock()
}

// Close lets go of the file.
func (s *Store) Close() error {
	var marked error
	if s.held != nil {
		marked = setMark(context.Background(), s.write, putAway)
	}
	return errors.Join(marked, s.read.Close(), s.write.Close(), letGo(s.held))
}

// reading runs a function within one read transaction: one state, one N.
func (s *Store) reading(ctx context.Context, do func(*sqlcgen.Queries) error) error {
	tx, err := s.read.BeginTx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return plain(err)
	}
	defer func() { _ = tx.Rollback() }() // nothing was written
	return plain(do(s.reads.WithTx(tx)))
}

// damaged says that a file is none, or none any more.
func damaged(cause error) error {
	return broken(cause, "the studio's file is damaged or is no file of Bractum; nothing was changed. "+
		"Keep it as it is, and go back to a copy")
}

// plain turns the driver's word for a file that cannot be used into ours.
func plain(err error) error {
	const busy, locked, readOnly, ioError, corrupt, full, cannotOpen, notADatabase = 5, 6, 8, 10, 11, 13, 14, 26
	said := codes(err)
	switch {
	case said[busy], said[locked]:
		return fmt.Errorf("%w (%v)", ErrBusy, err)
	case said[full]:
		return broken(err, "the disk is full; nothing of this was written, and everything recorded before is safe. "+
			"Make room and try again")
	case said[readOnly]:
		return broken(
			err,
			"the studio's file may only be read; nothing was written. Let this user write to the file and its folder",
		)
	case said[corrupt], said[notADatabase]:
		return damaged(err)
	case said[ioError], said[cannotOpen]:
		return broken(err, "the disk did not take or give what it should; nothing of this was written. "+
			"Look whether it is full, unplugged or failing")
	}
	return err
}

// codes are what the driver says in an error and in all that are joined in it: what fails
// first, such as a full disk, has others fail after it.
func codes(err error) map[int]bool {
	said := map[int]bool{}
	var look func(error)
	look = func(err error) {
		if driver, is := err.(*sqlite.Error); is {
			said[driver.Code()&0xff] = true
		}
		switch within := err.(type) {
		case interface{ Unwrap() []error }:
			for _, e := range within.Unwrap() {
				look(e)
			}
		case interface{ Unwrap() error }:
			look(within.Unwrap())
		}
	}
	look(err)
	return said
}

func nullString(s string) sql.NullString { return sql.NullString{String: s, Valid: s != ""} }
