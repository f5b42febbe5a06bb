package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"bractum/core/scene"
	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Scene is a studio as it would be, by name.
type Scene struct {
	ID      studio.ID  `json:"id"`
	Version int64      `json:"version"`
	Name    string     `json:"name"`
	Changes []scene.If `json:"changes"`
}

func sceneOf(row sqlcgen.Scene) (Scene, error) {
	s := Scene{ID: studio.ID(row.ID), Version: row.Version, Name: row.Name}
	return s, json.Unmarshal([]byte(row.Changes), &s.Changes)
}

// Scenes are all that are kept, by name.
func (s *Store) Scenes(ctx context.Context) ([]Scene, error) {
	all := []Scene{}
	err := s.reading(ctx, func(q *sqlcgen.Queries) error {
		rows, err := q.Scenes(ctx)
		for _, row := range rows {
			one, e := sceneOf(row)
			all, err = append(all, one), errors.Join(err, e)
		}
		return err
	})
	return all, err
}

// scene is one as it stands within a command; nil where there is none.
func (t *Tx) scene(id studio.ID) (*Scene, error) {
	row, err := t.q.Scene(t.ctx, string(id))
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	s, err := sceneOf(row)
	return &s, err
}

// seenScene is one whose version the writer saw, 0 of a new one.
func (t *Tx) seenScene(id studio.ID, seen int64) (*Scene, error) {
	before, err := t.scene(id)
	if err != nil {
		return nil, err
	}
	now := int64(0)
	if before != nil {
		now = before.Version
	}
	if now != seen {
		return nil, Stale{Thing: "the scene", Seen: seen, Now: now}
	}
	return before, nil
}

// PutScene keeps a scene, new or in place of the version that the writer saw.
func (t *Tx) PutScene(s Scene) (Scene, error) {
	before, err := t.seenScene(s.ID, s.Version)
	if err != nil {
		return s, err
	}
	s.Version++
	t.touch("scene", string(s.ID), before, s)
	return s, t.writeScene(s)
}

func (t *Tx) writeScene(s Scene) error {
	return t.q.PutScene(t.ctx, sqlcgen.PutSceneParams{ID: string(s.ID), Version: s.Version, Name: s.Name,
		Changes: asJSON(s.Changes)})
}

// DropScene lets go of a scene whose version the writer saw.
func (t *Tx) DropScene(id studio.ID, seen int64) error {
	before, err := t.seenScene(id, seen)
	if err != nil {
		return err
	}
	if before == nil {
		return NotFound{"the scene"}
	}
	t.touch("scene", string(id), before, nil)
	return t.q.DropScene(t.ctx, string(id))
}

func (t *Tx) restoreScene(touched sqlcgen.JournalTouch) error {
	var before *Scene
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	now, err := t.scene(studio.ID(touched.ID))
	if err != nil {
		return err
	}
	if before == nil {
		t.touch("scene", touched.ID, now, nil)
		return t.q.DropScene(t.ctx, touched.ID)
	}
	if now != nil {
		before.Version = now.Version + 1
	}
	t.touch("scene", touched.ID, now, before)
	return t.writeScene(*before)
}
