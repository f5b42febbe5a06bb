package store

import (
	"database/sql"
	"encoding/json"
	"errors"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Timer is one that somebody has started by hand. It rings at Ends until it is stopped.
type Timer struct {
	ID      studio.ID     `json:"id"`
	Name    string        `json:"name"`
	Person  studio.ID     `json:"person"`
	Started studio.Minute `json:"started"`
	Ends    studio.Minute `json:"ends"`
}

func timerOf(r sqlcgen.Timer) Timer {
	return Timer{
		ID:      studio.ID(r.ID),
		Name:    r.Name,
		Person:  studio.ID(r.PersonID),
		Started: studio.Minute(r.StartedMinute),
		Ends:    studio.Minute(r.EndsMinute),
	}
}

// StartTimer begins a timer.
func (t *Tx) StartTimer(timer Timer) error {
	t.touch("timer", string(timer.ID), nil, timer)
	return t.q.PutTimer(
		t.ctx,
		sqlcgen.PutTimerParams{ID: string(timer.ID), Name: timer.Name, PersonID: string(timer.Person),
			StartedMinute: int64(timer.Started), EndsMinute: int64(timer.Ends)},
	)
}

// StopTimer ends a timer.
func (t *Tx) StopTimer(id studio.ID) (Timer, error) {
	row, err := t.q.Timer(t.ctx, string(id))
	if errors.Is(err, sql.ErrNoRows) {
		return Timer{}, NotFound{"this timer"}
	}
	if err != nil {
		return Timer{}, err
	}
	t.touch("timer", string(id), timerOf(row), nil)
	return timerOf(row), t.q.DropTimer(t.ctx, string(id))
}

// restoreTimer takes back that a timer was started or stopped.
func (t *Tx) restoreTimer(touched sqlcgen.JournalTouch) error {
	var before *Timer
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	if before != nil {
		return t.StartTimer(*before)
	}
	_, err := t.StopTimer(studio.ID(touched.ID))
	return err
}
