package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Command is one change as somebody wished it.
type Command struct {
	ID     string // a UUID made by the client
	Kind   string
	Person studio.ID
	Now    studio.Minute
}

// ErrReused says that a command carries the id of another that was carried out.
var ErrReused = errors.New("another command was carried out with this id; nothing was written")

// Done is what came of a command: its journal number, and the answer that a
// repetition gets as well.
type Done struct {
	N        int64
	Answer   json.RawMessage
	Repeated bool
	Topics   []string // what it is about
}

// Tx is a command in progress. Everything it writes is one transaction.
type Tx struct {
	store   *Store
	ctx     context.Context
	q       *sqlcgen.Queries
	n       int64
	now     studio.Minute
	err     error
	undoes  int64
	things  []string
	Summary string
}

// Carried is what came of a command that was carried out already; false where it was not.
func (s *Store) Carried(ctx context.Context, id, kind string) (done Done, known bool, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		done, known, err = carried(ctx, q, id, kind)
		return err
	})
	return done, known, err
}

func carried(ctx context.Context, q *sqlcgen.Queries, id, kind string) (Done, bool, error) {
	first, err := q.EntryByCommand(ctx, id)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return Done{}, false, nil
	case err != nil:
		return Done{}, false, err
	case first.Kind != kind:
		return Done{}, false, ErrReused
	}
	return Done{N: first.N, Answer: json.RawMessage(first.Answer), Repeated: true}, true, nil
}

// Do runs a command: what do writes, the journal's line and what it touched
// become durable together or not at all. Do's answer must marshal to JSON.
// A command whose id is in the journal already is not run again.
func (s *Store) Do(ctx context.Context, c Command, do func(*Tx) (answer any, err error)) (Done, error) {
	if err := s.InPlace(); err != nil {
		return Done{}, err
	}
	tx, err := s.write.BeginTx(ctx, nil)
	if err != nil {
		return Done{}, plain(err)
	}
	defer func() { _ = tx.Rollback() }() // after a commit it does nothing
	q := s.writes.WithTx(tx)
	if done, known, err := carried(ctx, q, c.ID, c.Kind); known || err != nil {
		return done, plain(err)
	}
	last, err := q.LastN(ctx)
	if err != nil {
		return Done{}, plain(err)
	}
	t := &Tx{store: s, ctx: ctx, q: q, n: last + 1, now: c.Now}
	answer, err := do(t)
	if err == nil {
		err = t.closeLots()
	}
	if err = errors.Join(err, t.err); err != nil {
		return Done{}, plain(err)
	}
	done := Done{N: t.n, Answer: json.RawMessage(asJSON(answer)), Topics: t.topics()}
	if err := q.AddEntry(ctx, sqlcgen.AddEntryParams{N: t.n, AtMinute: int64(c.Now),
		PersonID: nullString(string(c.Person)), CommandID: c.ID,
		Kind: c.Kind, Summary: t.Summary, Answer: string(done.Answer), Undoes: nullInt(t.undoes)}); err != nil {
		return Done{}, plain(err)
	}
	if err := tx.Commit(); err != nil {
		return Done{}, plain(err)
	}
	return done, nil
}

// MoveClock sets the minute at which the clock stands.
func (t *Tx) MoveClock(to studio.Minute) error {
	row, err := t.q.Studio(t.ctx)
	if err != nil {
		return err
	}
	if !row.StandingMinute.Valid {
		return errors.New("this studio's clock runs by itself")
	}
	t.touch("clock", "clock", row.StandingMinute.Int64, to)
	return t.q.SetStandingMinute(t.ctx, sql.NullInt64{Int64: int64(to), Valid: true})
}

// PutLot writes what has happened to a lot.
func (t *Tx) PutLot(w studio.WorkLot) error {
	before, err := t.records(string(w.ID))
	if err != nil {
		return err
	}
	if err := t.q.PutLot(t.ctx, lotParams(w)); err != nil {
		return err
	}
	return t.replaceRecords(string(w.ID), before, w.Records)
}

func lotParams(w studio.WorkLot) sqlcgen.PutLotParams {
	return sqlcgen.PutLotParams{
		ID:         string(w.ID),
		GatherKey:  studio.GatherKey(w.Made(), w.Mixes),
		RecipeID:   string(w.Recipe),
		Mixes:      asJSON(w.Mixes),
		Ordinal:    int64(w.Ordinal),
		Need:       w.Need,
		Started:    w.Started,
		Variant:    w.Variant,
		StockLotID: string(w.From),
		Reached:    w.Reached,
	}
}

func (t *Tx) replaceRecords(lot string, before, after []studio.TaskRecord) error {
	t.touch("lot", lot, before, after)
	err := t.q.DropTasks(t.ctx, lot)
	for i, r := range after {
		err = errors.Join(err, t.q.AddTask(t.ctx, taskParams(lot, i, r)))
	}
	return err
}

func taskParams(lot string, position int, r studio.TaskRecord) sqlcgen.AddTaskParams {
	return sqlcgen.AddTaskParams{
		LotID:       lot,
		Position:    int64(position),
		Step:        r.Step,
		State:       string(r.State),
		PersonID:    string(r.Person),
		StartMinute: int64(r.Start),
		EndMinute:   int64(r.End),
		Good:        r.Good,
		Second:      r.Second,
		Broken:      r.Broken,
		Mend:        r.Mend,
		Machine:     string(r.Machine),
		Used:        asJSON(append([]studio.Used{}, r.Used...)),
		Weighed:     asJSON(append([]studio.Milligrams{}, r.Weighed...)),
		Asks:        r.Asks,
		Remarks:     asJSON(append([]studio.Remark{}, r.Remarks...)),
	}
}

func (t *Tx) records(lot string) ([]studio.TaskRecord, error) {
	rows, err := t.q.TasksOfLot(t.ctx, lot)
	records := []studio.TaskRecord{}
	for _, row := range rows {
		record, e := taskRecord(row)
		records, err = append(records, record), errors.Join(err, e)
	}
	return records, err
}

// CannotUndo says why a journal line cannot be undone.
type CannotUndo struct{ studio.Said }

func (c CannotUndo) Error() string { return c.String() }

// WrittenBy is who gave the command of a line of the journal.
func (t *Tx) WrittenBy(n int64) (studio.ID, error) {
	entry, err := t.q.Entry(t.ctx, n)
	if errors.Is(err, sql.ErrNoRows) {
		return "", NotFound{fmt.Sprintf("line %d of the journal", n)}
	}
	return studio.ID(entry.PersonID.String), err
}

// Undo takes back what a journal line did, by a line of its own. It is refused
// when a later line touched the same things.
func (t *Tx) Undo(n int64) error {
	entry, err := t.q.Entry(t.ctx, n)
	if errors.Is(err, sql.ErrNoRows) {
		return NotFound{fmt.Sprintf("line %d of the journal", n)}
	}
	if err != nil {
		return err
	}
	if _, err := t.q.UndoneBy(t.ctx, nullInt(n)); err == nil {
		return CannotUndo{studio.Say("%q was undone already", entry.Summary)}
	}
	touches, err := t.q.Touches(t.ctx, n)
	if err != nil {
		return err
	}
	if len(touches) == 0 || entry.Undoes.Valid {
		return CannotUndo{studio.Say("%q cannot be undone", entry.Summary)}
	}
	for _, touched := range touches {
		t.about(touched.Thing)
		later, err := t.q.LaterTouch(t.ctx, sqlcgen.LaterTouchParams{Thing: touched.Thing, ID: touched.ID, N: n})
		if err == nil {
			return CannotUndo{studio.Say("%q came after it and touched the same; undo that first", later.Summary)}
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return err
		}
		if err := t.restore(touched); err != nil {
			return err
		}
	}
	t.about("stock") // whatever it moved
	t.undoes, t.Summary = n, "Undone: "+entry.Summary
	if err := t.q.ReverseMovements(t.ctx, sqlcgen.ReverseMovementsParams{Undo: t.n, Undone: n}); err != nil {
		return err
	}
	return t.standsAlone(touches)
}

// restoreLot takes the records of a lot back to what they were.
func (t *Tx) restoreLot(touched sqlcgen.JournalTouch) error {
	var before []studio.TaskRecord
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	for _, r := range before {
		if r.State != studio.TaskStarted || r.Machine != "" {
			continue
		}
		others, err := t.q.AtOtherWork(t.ctx, sqlcgen.AtOtherWorkParams{PersonID: string(r.Person), LotID: touched.ID})
		if err != nil {
			return err
		}
		if others > 0 {
			return CannotUndo{studio.Say("whoever was at it is at other work by now; pause or finish that first")}
		}
	}
	now, err := t.records(touched.ID)
	return errors.Join(err, t.replaceRecords(touched.ID, now, before))
}

func (t *Tx) restoreClock(sqlcgen.JournalTouch) error {
	return CannotUndo{studio.Say("the clock is not moved back")}
}

// Base is the journal number the command builds on.
func (t *Tx) Base() int64 { return t.n - 1 }

// Now is the minute of the command.
func (t *Tx) Now() studio.Minute { return t.now }

// N is the journal number that the command gets.
func (t *Tx) N() int64 { return t.n }
