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

// Touched is a thing as it was before a command, and after it; null where it was or is not there.
type Touched struct {
	Thing  string
	ID     string
	Before json.RawMessage
	After  json.RawMessage
}

// Movement is what a command moved of stock, in the unit it is kept in.
type Movement struct {
	Thing    studio.ID           `json:"thing"`
	Name     string              `json:"name,omitempty" doc:"of a material"`
	Unit     studio.Unit         `json:"unit,omitempty"`
	Length   studio.Micrometres  `json:"lengthMicrometres,omitempty" doc:"of wires that lie cut"`
	Movement studio.MovementKind `json:"movement"`
	Amount   int64               `json:"amount"`
}

// EntryWith is a line of the journal with all that it touched and moved.
func (s *Store) EntryWith(ctx context.Context, n int64) (entry Entry, touched []Touched, moved []Movement, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		row, err := q.JournalEntry(ctx, n)
		if errors.Is(err, sql.ErrNoRows) {
			return NotFound{fmt.Sprintf("line %d of the journal", n)}
		}
		if err != nil {
			return err
		}
		entry = Entry{N: row.N, At: studio.Minute(row.AtMinute), Person: row.Person, Kind: row.Kind,
			Summary: row.Summary, Undoes: row.Undoes.Int64}
		things, err := q.Touches(ctx, n)
		if err != nil {
			return err
		}
		for _, t := range things {
			touched = append(touched, Touched{Thing: t.Thing, ID: t.ID, Before: json.RawMessage(t.Before),
				After: json.RawMessage(t.After)})
		}
		movements, err := q.MovementsOfLine(ctx, n)
		for _, m := range movements {
			moved = append(moved, Movement{Thing: studio.ID(m.OfThing), Name: m.Material, Unit: studio.Unit(m.Unit),
				Length: studio.Micrometres(m.LengthUm), Movement: studio.MovementKind(m.Movement), Amount: m.Amount})
		}
		return err
	})
	return entry, touched, moved, err
}
