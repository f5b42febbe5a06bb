package store

import (
	"context"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// LotsDoneBy is of how many lots of a recipe, in whichever revision, somebody has done some work.
func (s *Store) LotsDoneBy(ctx context.Context, person, page studio.ID) (lots int64, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		lots, err = q.LotsDoneBy(ctx, sqlcgen.LotsDoneByParams{PersonID: string(person), RecipeID: string(page)})
		return err
	})
	return lots, err
}
