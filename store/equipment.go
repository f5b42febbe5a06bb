package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// equipment is what of a document is kept as rows of one table, each with a version and
// its body as the document has it.
type equipment struct {
	Surroundings []studio.Surroundings `json:"surroundings,omitempty"`
	Methods      []studio.Method       `json:"dryingMethods,omitempty"`
	Tools        []studio.Tool         `json:"tools,omitempty"`
	Machines     []studio.Machine      `json:"machines,omitempty"`
	Gates        []studio.Gate         `json:"gates,omitempty"`
	Families     []studio.Family       `json:"setupFamilies,omitempty"`
}

func equipmentOf(d *studio.Document) equipment {
	return equipment{
		Surroundings: d.Surroundings,
		Methods:      d.Methods,
		Tools:        d.Tools,
		Machines:     d.Machines,
		Gates:        d.Gates,
		Families:     d.Families,
	}
}

func (e equipment) into(d *studio.Document) {
	d.Surroundings, d.Methods, d.Tools = e.Surroundings, e.Methods, e.Tools
	d.Machines, d.Gates, d.Families = e.Machines, e.Gates, e.Families
}

// piece is one of them.
type piece struct {
	kind string
	id   studio.ID
	body any
}

// pieces are all of them, kind by kind in their order.
func (e equipment) pieces() (all []piece) {
	for _, s := range e.Surroundings {
		all = append(all, piece{kind: "surroundings", id: s.ID, body: s})
	}
	for _, m := range e.Methods {
		all = append(all, piece{kind: "drying method", id: m.ID, body: m})
	}
	for _, t := range e.Tools {
		all = append(all, piece{kind: "tool", id: t.ID, body: t})
	}
	for _, m := range e.Machines {
		all = append(all, piece{kind: "machine", id: m.ID, body: m})
	}
	for _, g := range e.Gates {
		all = append(all, piece{kind: "gate", id: g.ID, body: g})
	}
	for _, f := range e.Families {
		all = append(all, piece{kind: "colour family", id: f.ID, body: f})
	}
	return all
}

// add takes in a row.
func (e *equipment) add(row sqlcgen.Equipment) error {
	switch row.Kind {
	case "surroundings":
		return decoded(&e.Surroundings, row.Body)
	case "drying method":
		return decoded(&e.Methods, row.Body)
	case "tool":
		return decoded(&e.Tools, row.Body)
	case "machine":
		return decoded(&e.Machines, row.Body)
	case "gate":
		return decoded(&e.Gates, row.Body)
	case "colour family":
		return decoded(&e.Families, row.Body)
	}
	return fmt.Errorf("%q is no kind of equipment", row.Kind)
}

func decoded[T any](into *[]T, body string) error {
	var one T
	err := json.Unmarshal([]byte(body), &one)
	*into = append(*into, one)
	return err
}

// allEquipment reads all rows.
func (a *assembler) allEquipment() (all equipment) {
	for _, row := range rows(a, a.q.Equipment) {
		a.err = errors.Join(a.err, all.add(row))
	}
	return all
}

// equip writes new rows behind those of their kinds.
func equip(ctx context.Context, q *sqlcgen.Queries, adds equipment) error {
	for _, p := range adds.pieces() {
		position, err := q.NextOfKind(ctx, p.kind)
		if err != nil {
			return err
		}
		if err := q.PutEquipment(ctx, sqlcgen.PutEquipmentParams{Kind: p.kind, ID: string(p.id), Position: position, Version: 1,
			Body: asJSON(p.body)}); err != nil {
			return err
		}
	}
	return nil
}

// addEquipment writes what came with a file of recipes.
func (t *Tx) addEquipment(adds equipment) error {
	for _, p := range adds.pieces() {
		t.touch("equipment", p.kind+"/"+string(p.id), nil, p.body)
	}
	return equip(t.ctx, t.q, adds)
}

// restoreEquipment takes one piece back to what it was, or, of a line of an older program,
// all of it.
func (t *Tx) restoreEquipment(touched sqlcgen.JournalTouch) error {
	kind, id, one := strings.Cut(touched.ID, "/")
	if !one {
		return t.restoreAllEquipment(touched)
	}
	now, err := t.q.EquipmentOf(t.ctx, sqlcgen.EquipmentOfParams{Kind: kind, ID: id})
	if errors.Is(err, sql.ErrNoRows) {
		now.Body, err = "null", nil
	}
	if err != nil {
		return err
	}
	t.touch("equipment", touched.ID, json.RawMessage(now.Body), json.RawMessage(touched.Before))
	if touched.Before == "null" {
		return t.q.DropEquipment(t.ctx, sqlcgen.DropEquipmentParams{Kind: kind, ID: id})
	}
	return t.putEquipment(kind, id, touched.Before)
}

// restoreAllEquipment takes away what was added since.
func (t *Tx) restoreAllEquipment(touched sqlcgen.JournalTouch) error {
	var before, after equipment
	if err := errors.Join(json.Unmarshal([]byte(touched.Before), &before), json.Unmarshal([]byte(touched.After), &after)); err != nil {
		return err
	}
	was := map[string]bool{}
	for _, p := range before.pieces() {
		was[p.kind+"/"+string(p.id)] = true
	}
	for _, p := range after.pieces() {
		key := p.kind + "/" + string(p.id)
		if was[key] {
			continue
		}
		t.touch("equipment", key, p.body, nil)
		if err := t.q.DropEquipment(t.ctx, sqlcgen.DropEquipmentParams{Kind: p.kind, ID: string(p.id)}); err != nil {
			return err
		}
	}
	return nil
}
