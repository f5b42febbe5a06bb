package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"slices"

	"bractum/core/book"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// binder writes what a flower book is made of, one table after the other, until
// something fails.
type binder struct {
	ctx      context.Context
	q        *sqlcgen.Queries
	position int64
	err      error
}

func (b *binder) next() int64 {
	b.position++
	return b.position
}

func (b *binder) try(err error) {
	if b.err == nil {
		b.err = err
	}
}

func (b *binder) supplies(materials []studio.Material, classes []studio.DryingClass, places []studio.Place) {
	for _, m := range materials {
		b.try(
			b.q.PutMaterial(
				b.ctx,
				sqlcgen.PutMaterialParams{
					ID:          string(m.ID),
					Position:    b.next(),
					Name:        m.Name,
					Unit:        string(m.Unit),
					Wire:        asJSON(m.Wire),
					Form:        m.Form,
					SupplierID:  string(m.Supplier),
					Pack:        m.Pack,
					KeepAtLeast: m.KeepAtLeast,
					OutOfUse:    column(m.OutOfUse),
					Beyond: asJSON(ofMaterial{Price: m.Price, Allergens: m.Allergens, Food: m.Food,
						Label: m.Label, Holder: m.Holder, Box: m.Box}),
				},
			),
		)
	}
	for _, c := range classes {
		b.try(
			b.q.PutDryingClass(
				b.ctx,
				sqlcgen.PutDryingClassParams{
					ID:                    string(c.ID),
					Position:              b.next(),
					Name:                  c.Name,
					FirmMinutes:           c.FirmMinutes,
					DryMinutes:            c.DryMinutes,
					ThicknessUm:           int64(c.Thickness),
					SpreadPerMille:        int64(c.Spread),
					StallHumidityPerMille: int64(c.StallHumidity),
					StiffMinutes:          c.StiffMinutes,
					SoftensMinutes:        int64(c.SoftensMinutes),
					Percentile:            c.Percentile,
				},
			),
		)
	}
	for _, p := range places {
		b.try(
			b.q.PutPlace(
				b.ctx,
				sqlcgen.PutPlaceParams{ID: string(p.ID), Position: b.next(), Name: p.Name, Slots: p.Slots,
					KeepsMinutes: int64(p.KeepsMinutes), Surroundings: string(p.In), MadeBy: string(p.MadeBy),
					SizeUm: int64(p.Size), OutOfUse: column(p.OutOfUse)},
			),
		)
	}
}

func (b *binder) recipes(recipes []studio.Recipe) {
	for _, r := range recipes {
		b.try(
			b.q.AddRecipe(
				b.ctx,
				sqlcgen.AddRecipeParams{
					ID:       string(r.ID),
					Position: b.next(),
					RecipeID: string(r.Recipe),
					Revision: int64(r.Revision),
					Kind:     string(r.Kind),
					Name:     r.Name,
					Body:     asJSON(r),
					Format:   studio.Version,
				},
			),
		)
	}
}

func (b *binder) colourways(colourways []studio.Colourway) {
	for _, c := range colourways {
		b.colourway(c, b.next(), 1)
	}
}

func (b *binder) colourway(c studio.Colourway, position, version int64) {
	b.try(
		b.q.PutColourway(
			b.ctx,
			sqlcgen.PutColourwayParams{ID: string(c.ID), Position: position, Name: c.Name, Version: version},
		),
	)
	b.try(b.q.DropSlots(b.ctx, string(c.ID)))
	for slot, mix := range c.Slots {
		b.try(
			b.q.AddColourwaySlot(
				b.ctx,
				sqlcgen.AddColourwaySlotParams{ColourwayID: string(c.ID), Slot: slot, MixID: string(mix)},
			),
		)
	}
}

// TakeIn writes what is new in the book: revisions, and what came with them.
func (t *Tx) TakeIn(adds *book.Bundle) error {
	last, err := t.q.NextPosition(t.ctx)
	if err != nil {
		return err
	}
	b := binder{ctx: t.ctx, q: t.q, position: last - 1}
	b.supplies(adds.Materials, adds.DryingClasses, adds.Places)
	b.recipes(adds.Recipes)
	b.colourways(adds.Colourways)
	for _, p := range adds.Pictures {
		b.try(t.AddPicture(p))
	}
	for _, m := range adds.Materials {
		t.touch("material", string(m.ID), nil, m)
	}
	for _, c := range adds.DryingClasses {
		t.touch("drying class", string(c.ID), nil, c)
	}
	for _, p := range adds.Places {
		t.touch("place", string(p.ID), nil, p)
	}
	for _, c := range adds.Colourways {
		t.touch("colourway", string(c.ID), nil, ColourwayState{Colourway: c, Version: 1})
	}
	for _, r := range adds.Recipes {
		t.touch("revision", string(r.ID), nil, r.Name)
		t.touch("page", string(r.Recipe), r.Revision-1, r.Revision)
	}
	b.try(
		t.addEquipment(equipment{Methods: adds.Methods, Tools: adds.Tools, Machines: adds.Machines, Gates: adds.Gates,
			Families: adds.Families}),
	)
	return b.err
}

// ColourwayState is a colourway as it stands, with its version.
type ColourwayState struct {
	studio.Colourway
	Version int64 `json:"version"`
}

// Colourway is a colourway as it stands within the command.
func (t *Tx) Colourway(id studio.ID) (ColourwayState, error) {
	row, err := t.q.Colourway(t.ctx, string(id))
	if errors.Is(err, sql.ErrNoRows) {
		return ColourwayState{}, NotFound{"the colourway"}
	}
	slots, e := t.q.SlotsOfColourway(t.ctx, string(id))
	c := ColourwayState{
		Colourway: studio.Colourway{ID: id, Name: row.Name, Slots: map[string]studio.ID{}},
		Version:   row.Version,
	}
	for _, s := range slots {
		c.Slots[s.Slot] = studio.ID(s.MixID)
	}
	return c, errors.Join(err, e)
}

// Colourways lists all colourways with their versions.
func (s *Store) Colourways(ctx context.Context) (all []ColourwayState, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.Colourways(ctx)
		for _, row := range rows {
			c, e := (&Tx{ctx: ctx, q: q}).Colourway(studio.ID(row.ID))
			all, err = append(all, c), errors.Join(err, e)
		}
		return err
	})
	return all, err
}

// ChangeColourway writes a colourway whose version the writer saw; a version of 0 is
// a new one.
func (t *Tx) ChangeColourway(c studio.Colourway, seen int64) error {
	before, err := t.Colourway(c.ID)
	var missing NotFound
	if errors.As(err, &missing) && seen == 0 {
		t.touch("colourway", string(c.ID), nil, ColourwayState{Colourway: c, Version: 1})
		last, err := t.q.NextPosition(t.ctx)
		b := binder{ctx: t.ctx, q: t.q, position: last - 1, err: err}
		b.colourways([]studio.Colourway{c})
		return b.err
	}
	if err != nil {
		return err
	}
	if before.Version != seen {
		return Stale{Thing: "the colourway " + before.Name, Seen: seen, Now: before.Version}
	}
	t.touch("colourway", string(c.ID), before, ColourwayState{Colourway: c, Version: seen + 1})
	return t.putColourway(c, seen+1)
}

func (t *Tx) putColourway(c studio.Colourway, version int64) error {
	row, err := t.q.Colourway(t.ctx, string(c.ID))
	b := binder{ctx: t.ctx, q: t.q, err: err}
	b.colourway(c, row.Position, version)
	return b.err
}

// Draft is recipes that somebody is writing: the first is what they are about, the
// others what else is new or changed with it. They need not hold together yet.
type Draft struct {
	ID      studio.ID       `json:"id"`
	Version int64           `json:"version"`
	Name    string          `json:"name"`
	Recipes []studio.Recipe `json:"recipes"`
}

func draftOf(row sqlcgen.RecipeDraft) (Draft, error) {
	d := Draft{ID: studio.ID(row.ID), Version: row.Version, Name: row.Name}
	err := json.Unmarshal([]byte(row.Body), &d.Recipes)
	for i := range d.Recipes {
		d.Recipes[i].Lift(int(row.Format))
	}
	return d, err
}

// Drafts lists all drafts by name.
func (s *Store) Drafts(ctx context.Context) (all []Draft, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.Drafts(ctx)
		for _, row := range rows {
			d, e := draftOf(row)
			all, err = append(all, d), errors.Join(err, e)
		}
		return err
	})
	return all, err
}

func (t *Tx) draft(id studio.ID) (*Draft, error) {
	row, err := t.q.Draft(t.ctx, string(id))
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	d, err := draftOf(row)
	return &d, err
}

// PutDraft keeps a draft whose version the writer saw, 0 for a new one.
func (t *Tx) PutDraft(d Draft) (Draft, error) {
	before, err := t.seen(d.ID, d.Version)
	if err != nil {
		return d, err
	}
	d.Version++
	t.touch("draft", string(d.ID), before, d)
	return d, t.writeDraft(d)
}

func (t *Tx) writeDraft(d Draft) error {
	return t.q.PutDraft(
		t.ctx,
		sqlcgen.PutDraftParams{ID: string(d.ID), Version: d.Version, Name: d.Name, Body: asJSON(d.Recipes),
			Format: studio.Version},
	)
}

// DropDraft throws a draft away, or lets go of it once it is in the book.
func (t *Tx) DropDraft(id studio.ID, seen int64) error {
	before, err := t.seen(id, seen)
	if err != nil {
		return err
	}
	if before == nil {
		return NotFound{"the draft"}
	}
	t.touch("draft", string(id), before, nil)
	return t.q.DropDraft(t.ctx, string(id))
}

// seen is the draft as it stands if that is the version that was seen.
func (t *Tx) seen(id studio.ID, version int64) (*Draft, error) {
	before, err := t.draft(id)
	switch {
	case err != nil:
		return nil, err
	case before == nil && version != 0:
		return nil, NotFound{"the draft"}
	case before != nil && before.Version != version:
		return nil, Stale{Thing: "the draft of " + before.Name, Seen: version, Now: before.Version}
	}
	return before, nil
}

// AddPicture keeps a picture as it is to be served.
func (t *Tx) AddPicture(p book.Image) error {
	return t.q.AddPicture(t.ctx, sqlcgen.AddPictureParams{ID: string(p.ID), Media: p.Media, Body: p.Data})
}

// KnowsPicture refuses a picture that is not kept; no picture is none.
func (t *Tx) KnowsPicture(id studio.ID) error {
	if id == "" {
		return nil
	}
	if _, err := t.q.Picture(t.ctx, string(id)); errors.Is(err, sql.ErrNoRows) {
		return NotFound{"the picture"}
	} else if err != nil {
		return err
	}
	return nil
}

// Picture is a kept picture.
func (s *Store) Picture(ctx context.Context, id studio.ID) (p book.Image, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		row, err := q.Picture(ctx, string(id))
		if errors.Is(err, sql.ErrNoRows) {
			return NotFound{"the picture"}
		}
		p = book.Image{ID: studio.ID(row.ID), Media: row.Media, Data: row.Body}
		return err
	})
	return p, err
}

// restorePage leaves a page to its revisions: they say what it is.
func (t *Tx) restorePage(sqlcgen.JournalTouch) error { return nil }

func (t *Tx) restoreRevision(touched sqlcgen.JournalTouch) error {
	return t.q.DropRevision(t.ctx, touched.ID)
}

func (t *Tx) restoreDraft(touched sqlcgen.JournalTouch) error {
	var before *Draft
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	now, err := t.draft(studio.ID(touched.ID))
	if err != nil {
		return err
	}
	if before == nil {
		t.touch("draft", touched.ID, now, nil)
		return t.q.DropDraft(t.ctx, touched.ID)
	}
	if now != nil {
		before.Version = now.Version + 1
	}
	t.touch("draft", touched.ID, now, before)
	return t.writeDraft(*before)
}

func (t *Tx) restoreColourway(touched sqlcgen.JournalTouch) error {
	var before *ColourwayState
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	now, err := t.Colourway(studio.ID(touched.ID))
	if err != nil {
		return err
	}
	if before == nil {
		return errors.Join(t.q.DropSlots(t.ctx, touched.ID), t.q.DropColourway(t.ctx, touched.ID))
	}
	t.touch("colourway", touched.ID, now, ColourwayState{Colourway: before.Colourway, Version: now.Version + 1})
	return t.putColourway(before.Colourway, now.Version+1)
}

// standsAlone refuses an undo that leaves a studio in which something refers to what
// is gone.
func (t *Tx) standsAlone(touches []sqlcgen.JournalTouch) error {
	if !slices.ContainsFunc(
		touches,
		func(x sqlcgen.JournalTouch) bool { return x.Thing != "order" && x.Thing != "lot" && x.Thing != "draft" },
	) {
		return nil
	}
	doc, err := t.Document(Wished)
	if err != nil {
		return err
	}
	if problems := doc.Validate(); len(problems) > 0 {
		return CannotUndo{studio.Say("something uses it since (%s)", problems[0].Error())}
	}
	return nil
}
