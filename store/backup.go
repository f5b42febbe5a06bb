package store

import (
	"cmp"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"modernc.org/sqlite"
)

// A backup is one file with all of a studio: what is recorded, its plans, its pictures. It is made by SQLite itself
// while the studio goes on, holds what was acknowledged when it began, and counts only once it was read through.

// Backup is a copy that was read through when it was made.
type Backup struct {
	Name  string    `json:"name"`
	At    time.Time `json:"at"`
	Bytes int64     `json:"bytes"`
}

const backupEnding = ".bractum"

// Copy writes a backup of a folder's studio into a file that is not there yet, beside whoever serves the folder.
func Copy(ctx context.Context, folder, file string) error {
	if _, err := os.Stat(filepath.Join(folder, FileName)); err != nil {
		return fmt.Errorf("no studio is in %s: %w", folder, err)
	}
	db, err := sql.Open(
		"sqlite",
		"file:"+escaped(filepath.Join(folder, FileName))+"?mode=ro&_pragma=busy_timeout(5000)",
	)
	if err != nil {
		return err
	}
	return plain(errors.Join(copyInto(ctx, db, file), db.Close()))
}

// copyInto has SQLite write a database into a file, and reads that through: it has its name only once it is good.
func copyInto(ctx context.Context, db *sql.DB, file string) (err error) {
	if _, err := os.Stat(file); !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("%s is there already; name a file that is not. Nothing was changed", file)
	}
	part := file + ".part"
	if err := cleared(part); err != nil {
		return err
	}
	defer func() {
		if err != nil {
			_ = cleared(part) // what is left of it is taken away by the next
		}
	}()
	if _, err := db.ExecContext(ctx, "VACUUM INTO ?", part); err != nil {
		return err
	}
	if err := sound(ctx, part); err != nil {
		return err
	}
	if err := synced(part); err != nil {
		return err
	}
	if err := os.Rename(part, file); err != nil {
		return err
	}
	return synced(filepath.Dir(file))
}

// sound reads a file through that is no open studio's, and marks it as one that was put away in order.
func sound(ctx context.Context, file string) error {
	db, err := sql.Open("sqlite", "file:"+escaped(file)+"?_pragma=journal_mode(DELETE)")
	if err != nil {
		return err
	}
	check := func() error {
		var found string
		if err := db.QueryRowContext(ctx, "PRAGMA integrity_check(1)").Scan(&found); err != nil {
			return err
		}
		if found != "ok" {
			return damaged(errors.New(found))
		}
		var tables int64
		if err := db.QueryRowContext(ctx, "SELECT MAX(version_id) FROM goose_db_version").Scan(&tables); err != nil {
			return damaged(err)
		}
		if newest, err := newestTables(); err != nil || tables > newest {
			return errors.Join(err, newer(tables, newest))
		}
		return setMark(ctx, db, putAway)
	}
	return plain(errors.Join(check(), db.Close()))
}

// Restore puts a backup into a folder that has no studio, and leaves no half of one.
func Restore(ctx context.Context, file, folder string) error {
	at := filepath.Join(folder, FileName)
	for _, ending := range []string{"", "-wal"} {
		if _, err := os.Stat(at + ending); !errors.Is(err, fs.ErrNotExist) {
			return fmt.Errorf("%s has a studio already; name an empty folder with --data. Nothing was changed", folder)
		}
	}
	if about, err := os.Stat(file); err != nil || !about.Mode().IsRegular() {
		return cmp.Or(err, fmt.Errorf("%s is no file", file))
	}
	if err := os.MkdirAll(folder, 0o755); err != nil {
		return err
	}
	part := at + ".part"
	if err := cleared(part); err != nil {
		return err
	}
	if err := errors.Join(copied(file, part), sound(ctx, part)); err != nil {
		return errors.Join(err, cleared(part))
	}
	if err := errors.Join(synced(part), os.Rename(part, at)); err != nil {
		return err
	}
	return synced(folder)
}

// Backup makes a backup of what is open, named by when it is made, in the folder of backups.
func (s *Store) Backup(ctx context.Context) (Backup, error) {
	return backUp(ctx, s.read, s.backups, "")
}

// BackupFolder is where backups are made.
func (s *Store) BackupFolder() string { return s.backups }

func backUp(ctx context.Context, db *sql.DB, into, why string) (Backup, error) {
	if err := os.MkdirAll(into, 0o755); err != nil {
		return Backup{}, fmt.Errorf("the folder of backups cannot be written to: %w", err)
	}
	name := time.Now().UTC().Format("2006-01-02T150405.000000") + why + backupEnding
	file := filepath.Join(into, name)
	if err := copyInto(ctx, db, file); err != nil {
		return Backup{}, plain(err)
	}
	about, err := os.Stat(file)
	if err != nil {
		return Backup{}, err
	}
	return Backup{Name: name, At: about.ModTime().UTC(), Bytes: about.Size()}, nil
}

// Backups are those that there are, the newest first; none where there is no folder of them.
func (s *Store) Backups() ([]Backup, error) {
	files, err := os.ReadDir(s.backups)
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, err
	}
	all := []Backup{}
	for _, f := range files {
		if !strings.HasSuffix(f.Name(), backupEnding) {
			continue
		}
		about, err := f.Info()
		if errors.Is(err, fs.ErrNotExist) { // it was taken away just now
			continue
		}
		if err != nil {
			return nil, err
		}
		all = append(all, Backup{Name: f.Name(), At: about.ModTime().UTC(), Bytes: about.Size()})
	}
	slices.SortFunc(all, func(a, b Backup) int { return cmp.Or(b.At.Compare(a.At), cmp.Compare(b.Name, a.Name)) })
	return all, nil
}

// Thin takes away all but so many of the newest backups that were made of themselves, and what is left of copies that
// were broken off. Those made before new tables stay.
func (s *Store) Thin(keep int) error {
	all, err := s.Backups()
	if err != nil {
		return err
	}
	parts, err := filepath.Glob(filepath.Join(s.backups, "*"+backupEnding+".part"))
	if err != nil {
		return err
	}
	for _, part := range parts {
		if about, err := os.Stat(part); err == nil && time.Since(about.ModTime()) > time.Hour {
			_ = cleared(part) // the next time, if not now
		}
	}
	all = slices.DeleteFunc(all, func(b Backup) bool { return strings.Contains(b.Name, beforeTables) })
	for _, b := range all[min(keep, len(all)):] {
		if err := os.Remove(filepath.Join(s.backups, b.Name)); err != nil {
			return err
		}
	}
	return nil
}

// beforeTables marks a backup that was made before tables were brought up to date.
const beforeTables = "-before-tables-"

// cleared takes away what a program that was killed has left of a file, with SQLite's own beside it: a journal that
// is not this file's would be played back into it.
func cleared(part string) error {
	for _, ending := range []string{"", "-journal", "-wal", "-shm"} {
		if err := os.Remove(part + ending); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

func escaped(file string) string { return (&url.URL{Path: file}).EscapedPath() }

func copied(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = out.ReadFrom(in)
	return errors.Join(err, out.Close())
}

// synced has the disk take what was written.
func synced(path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(file.Sync(), file.Close())
}

// TakeIn fills what is open, and empty, with a backup: read through first, and brought up to date beside. A studio
// that is there stays.
func (s *Store) TakeIn(ctx context.Context, backup io.Reader) (err error) {
	part := filepath.Join(s.folder, FileName+".taken")
	if err := cleared(part); err != nil {
		return plain(err)
	}
	out, err := os.OpenFile(part, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return plain(err)
	}
	defer func() { err = errors.Join(err, cleared(part)) }()
	_, err = out.ReadFrom(backup)
	if err = errors.Join(err, out.Close()); err == nil {
		err = sound(ctx, part)
	}
	if err != nil {
		return plain(err)
	}
	db, err := sql.Open("sqlite", "file:"+escaped(part)+"?_pragma=journal_mode(DELETE)")
	if err == nil {
		err = errors.Join(upToDate(ctx, db, s.backups), db.Close())
	}
	if err != nil {
		return plain(err)
	}
	conn, err := s.write.Conn(ctx) // the only one that writes: nobody begins a studio meanwhile
	if err != nil {
		return err
	}
	var begun int
	err = conn.QueryRowContext(ctx, "SELECT COUNT(*) FROM studio").Scan(&begun)
	if err == nil && begun > 0 {
		err = ErrBegun
	}
	if err == nil {
		err = conn.Raw(func(driver any) error { return filled(driver, part) })
	}
	if err = errors.Join(err, conn.Close()); err != nil {
		return plain(err)
	}
	return setMark(ctx, s.write, inUse)
}

// ErrBegun says that a studio is there already.
var ErrBegun = errors.New("a studio is begun here already; nothing was written")

// filled has SQLite copy a file into what a connection has open, as a whole or not at all.
func filled(driver any, file string) error {
	restore, err := driver.(interface {
		NewRestore(from string) (*sqlite.Backup, error)
	}).NewRestore("file:" + escaped(file))
	if err != nil {
		return err
	}
	const all = -1
	_, err = restore.Step(all)
	return errors.Join(err, restore.Finish())
}
