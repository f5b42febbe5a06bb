package store

import (
	"context"
	"encoding/json"
	"errors"
	"slices"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Remarked is what was said of a task of a lot.
type Remarked struct {
	Lot  studio.ID   `json:"lot"`
	Made studio.Made `json:"-"`
	Step string      `json:"step"`
	studio.Remark
}

// mostRemarked is of how many tasks remarks are read at once.
const mostRemarked = 50

// Remarks are what was said of the latest tasks of which anything was, the latest first.
func (s *Store) Remarks(ctx context.Context) (all []Remarked, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.TasksRemarkedOn(ctx, mostRemarked)
		for _, r := range rows {
			var remarks []studio.Remark
			err = errors.Join(err, json.Unmarshal([]byte(r.Remarks), &remarks))
			for _, remark := range slices.Backward(remarks) {
				all = append(all, Remarked{Lot: studio.ID(r.LotID), Step: r.Step, Remark: remark,
					Made: studio.Made{Recipe: studio.ID(r.RecipeID), Variant: r.Variant}})
			}
		}
		return err
	})
	return all, err
}

// LotsDoneBy is of how many lots of a recipe, in whichever revision, somebody has done some work.
func (s *Store) LotsDoneBy(ctx context.Context, person, page studio.ID) (lots int64, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		lots, err = q.LotsDoneBy(ctx, sqlcgen.LotsDoneByParams{PersonID: string(person), RecipeID: string(page)})
		return err
	})
	return lots, err
}
