package api

import (
	"context"
	"errors"
	"fmt"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"bractum/core/studio"
	"bractum/core/workshop"
)

// Many are things of one kind that are written together, all or none.
type Many struct {
	Things []OneOfMany `json:"things" minItems:"1" maxItems:"500"`
}

// OneOfMany is one of them.
type OneOfMany struct {
	ThingBody
	ID studio.ID `json:"id" format:"uuid"`
}

// ManyView is what would come of things that are written together.
type ManyView struct {
	Rows   []RowView `json:"rows"`
	Effect *Effect   `json:"effect,omitempty" doc:"what they would do to the plan, where all of them hold"`
}

// RowView is what one of them would be.
type RowView struct {
	State    string           `json:"state" enum:"new,changed,same,wrong"`
	Problems []studio.Problem `json:"problems,omitempty" doc:"by its fields"`
}

// onto writes things into a document one after the other, those that hold.
func (m Many) onto(doc *studio.Document, kind workshop.Kind) (with *studio.Document, is []any, rows []RowView) {
	with, is, rows = doc, make([]any, len(m.Things)), make([]RowView, len(m.Things))
	for i, one := range m.Things {
		next, was, thing, err := one.changedOf(with, kind, one.ID)
		if one.Is == nil {
			err = studio.Problems{studio.Flaw("", "is nothing")}
		}
		switch problems := (studio.Problems{}); {
		case errors.As(err, &problems):
			rows[i] = RowView{State: "wrong", Problems: problems}
		case err != nil:
			rows[i] = RowView{State: "wrong", Problems: studio.Problems{{Message: err.Error()}}}
		case was == nil:
			rows[i].State, is[i], with = "new", thing, next
		case one.saw(kind, thing):
			rows[i].State = "same"
		default:
			rows[i].State, is[i], with = "changed", thing, next
		}
	}
	return with, is, rows
}

// wrong are the problems of all rows, by their places in what was written.
func wrong(rows []RowView) (problems studio.Problems) {
	for i, row := range rows {
		for _, p := range row.Problems {
			p.Place = fmt.Sprintf("things[%d].%s", i, p.Place)
			problems = append(problems, p)
		}
	}
	return problems
}

func (s *Service) registerMany(to huma.API) {
	type preview struct {
		Kind workshop.Kind `path:"kind"`
		Body Many
	}
	beside(s, to, post("/workshop/{kind}/many/preview", "preview-many", "",
		"What things that are written together would do; nothing is written"),
		func(ctx context.Context, at *moment, in *preview) (ManyView, error) {
			doc, is, rows := in.Body.onto(at.latestAnswer().Doc, in.Kind)
			v := ManyView{Rows: rows}
			if len(wrong(rows)) > 0 || noneOf(is) {
				return v, nil
			}
			effect, err := at.effectOfFact(ctx, doc)
			v.Effect = &effect
			return v, err
		})
	type write struct {
		Who
		Kind workshop.Kind `path:"kind"`
		Body Many
	}
	wish(s, to, post("/workshop/{kind}/many", "write-many", "things written",
		"Add or change things of the workshop together, all or none"),
		func(_ context.Context, at *moment, in *write) (func(*change) (Moved, error), error) {
			for i, one := range in.Body.Things {
				if err := uuid.Validate(string(one.ID)); err != nil {
					return nil, studio.Problems{studio.Flaw(fmt.Sprintf("things[%d].id", i), "is no UUID")}
				}
			}
			_, is, rows := in.Body.onto(at.latestAnswer().Doc, in.Kind)
			if problems := wrong(rows); len(problems) > 0 {
				return nil, problems
			}
			if noneOf(is) {
				return nil, studio.Refuse("all of this is there already; nothing was written")
			}
			return func(c *change) (Moved, error) {
				number := 0
				for i, thing := range is {
					if thing == nil {
						continue
					}
					number++
					if err := c.PutThing(in.Kind, in.Body.Things[i].ID, thing); err != nil {
						return Moved{}, err
					}
				}
				c.Summary = fmt.Sprintf("%d written at once: %s", number, in.Kind)
				return Moved{c.N()}, nil
			}, nil
		})
}

func noneOf(things []any) bool {
	for _, thing := range things {
		if thing != nil {
			return false
		}
	}
	return true
}
