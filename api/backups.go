package api

import (
	"context"
	"fmt"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"sync/atomic"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"bractum/store"
)

// BackupsView is what there is to go back to.
type BackupsView struct {
	Folder  string         `json:"folder"`
	Backups []store.Backup `json:"backups" doc:"the newest first"`
	Kept    bool           `json:"kept" doc:"one is made by itself every night"`
	Late    bool           `json:"late" doc:"none was made for two days"`
	Trouble string         `json:"trouble,omitempty" doc:"why the last could not be made"`
}

// backups are made by themselves: every night, and where the last is older than a day.
type backups struct {
	keep    int // how many; 0 where none is made by itself
	trouble atomic.Pointer[string]
}

const (
	backupEvery = 24 * time.Hour
	backupLate  = 48 * time.Hour
	backupLook  = 10 * time.Minute
	nightFrom   = 2 // o'clock, where the studio is
	nightTo     = 5
)

// KeepBackups makes a backup every night and keeps so many of the newest, until the context ends.
func (s *Service) KeepBackups(ctx context.Context, keep int) {
	s.backups.keep = keep
	look := time.NewTicker(backupLook)
	defer look.Stop()
	for {
		if err := s.backUpIfDue(ctx, time.Now()); err != nil && ctx.Err() == nil {
			slog.Warn("no backup could be made", "folder", s.store.BackupFolder(), "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-look.C:
		}
	}
}

func (s *Service) backUpIfDue(ctx context.Context, now time.Time) error {
	if empty, err := s.empty(ctx); err != nil || empty {
		return err
	}
	all, err := s.store.Backups()
	if err == nil && len(all) > 0 {
		_, calendar, _, failed := s.store.LastN(ctx)
		if failed != nil {
			return failed
		}
		if !due(now.Sub(all[0].At), calendar.Time(calendar.MinuteOf(now)).Hour()) {
			return nil
		}
	}
	if err == nil {
		_, err = s.backUp(ctx)
	}
	return err
}

// due says whether a backup is to be made, by the age of the last and the hour of the day: at night, or at once where
// the night has been missed.
func due(age time.Duration, hour int) bool {
	night := hour >= nightFrom && hour < nightTo
	return age >= backupEvery || night && age >= backupEvery/2
}

// backUp makes a backup now, and remembers why it could not.
func (s *Service) backUp(ctx context.Context) (store.Backup, error) {
	made, err := s.store.Backup(ctx)
	if err == nil && s.backups.keep > 0 {
		err = s.store.Thin(s.backups.keep)
	}
	trouble := ""
	if err != nil {
		trouble = err.Error()
	}
	s.backups.trouble.Store(&trouble)
	return made, err
}

func (s *Service) backupsView() (BackupsView, error) {
	v := BackupsView{Folder: s.store.BackupFolder(), Backups: []store.Backup{}, Kept: s.backups.keep > 0}
	if trouble := s.backups.trouble.Load(); trouble != nil {
		v.Trouble = *trouble
	}
	all, err := s.store.Backups()
	if err != nil {
		v.Trouble = "the folder of backups cannot be read"
	} else {
		v.Backups = all
	}
	v.Late = len(v.Backups) == 0 || time.Since(v.Backups[0].At) > backupLate
	return v, nil
}

func (s *Service) registerBackups(to huma.API) {
	read(to, get("/backups", "list-backups", "What there is to go back to"),
		func(context.Context, *none) (BackupsView, error) { return s.backupsView() })
	ask(s, to, post("/backups", "make-backup", "", "Make a backup now; nothing of the studio changes"),
		func(ctx context.Context, _ *moment, _ *none) (BackupsView, error) {
			if _, err := s.backUp(ctx); err != nil {
				return BackupsView{}, huma.NewError(
					http.StatusInsufficientStorage,
					"No backup could be made: "+err.Error()+". Everything recorded is safe where it is.",
				)
			}
			return s.backupsView()
		})
	type which struct {
		Name string `path:"name" maxLength:"80"`
	}
	download(s, to, get("/backups/{name}", "get-backup", "A backup, to be kept elsewhere"),
		func(_ context.Context, _ *moment, in *which) (*file, error) {
			all, err := s.store.Backups()
			if err != nil {
				return nil, err
			}
			for _, b := range all {
				if b.Name == in.Name { // and no other file of the disk
					body, err := os.ReadFile(filepath.Join(s.store.BackupFolder(), b.Name))
					return &file{ContentType: "application/vnd.sqlite3",
						Disposition: fmt.Sprintf("attachment; filename=%q", b.Name), Body: body}, err
				}
			}
			return nil, store.NotFound{Thing: "the backup " + in.Name}
		})
}
