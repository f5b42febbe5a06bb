package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/store/sqlcgen"
)

// inJournal is the word that the journal has for a thing of a workshop, by its kind; what is kept as
// equipment goes there by its kind and id.
var inJournal = map[workshop.Kind]string{
	workshop.People:        "maker",
	workshop.Places:        "place",
	workshop.Materials:     "material",
	workshop.Suppliers:     "supplier",
	workshop.DryingClasses: "drying class",
	workshop.Surroundings:  "surroundings",
	workshop.DryingMethods: "drying method",
	workshop.Tools:         "tool",
	workshop.Machines:      "machine",
	workshop.Families:      "colour family",
}

// touchThing notes what a thing of a workshop was and is.
func (t *Tx) touchThing(kind workshop.Kind, id studio.ID, was, is any) {
	word, name := inJournal[kind], string(id)
	if things[word].restore == nil {
		word, name = "equipment", word+"/"+name
	}
	t.touch(word, name, was, is)
}

// workshop is a document with the things of the workshop alone.
func (t *Tx) workshop() (*studio.Document, error) {
	a := &assembler{ctx: t.ctx, q: t.q, doc: &studio.Document{}}
	a.people()
	a.supplies()
	a.suppliers()
	a.allEquipment().into(a.doc)
	return a.doc, a.err
}

// PutThing writes a thing of a workshop as a valid document has it, new or changed.
func (t *Tx) PutThing(kind workshop.Kind, id studio.ID, is any) error {
	doc, err := t.workshop()
	if err != nil {
		return err
	}
	was, _ := workshop.Thing(doc, kind, id)
	t.touchThing(kind, id, was, is)
	return t.writeThing(kind, id, is)
}

func (t *Tx) writeThing(kind workshop.Kind, id studio.ID, is any) error {
	last, err := t.q.NextPosition(t.ctx)
	if err != nil {
		return err
	}
	b := binder{ctx: t.ctx, q: t.q, position: last - 1}
	switch thing := is.(type) {
	case studio.Person:
		b.person(thing)
	case studio.Place:
		b.supplies(nil, nil, []studio.Place{thing})
	case studio.Material:
		b.supplies([]studio.Material{thing}, nil, nil)
	case studio.DryingClass:
		b.supplies(nil, []studio.DryingClass{thing}, nil)
	case studio.Supplier:
		b.supplier(thing)
	default:
		return t.putEquipment(inJournal[kind], string(id), asJSON(is))
	}
	return b.err
}

// putEquipment writes a piece at its place in the list, or behind all others.
func (t *Tx) putEquipment(kind, id, body string) error {
	now, err := t.q.EquipmentOf(t.ctx, sqlcgen.EquipmentOfParams{Kind: kind, ID: id})
	if errors.Is(err, sql.ErrNoRows) {
		now.Position, err = t.q.NextOfKind(t.ctx, kind)
	}
	if err != nil {
		return err
	}
	return t.q.PutEquipment(t.ctx, sqlcgen.PutEquipmentParams{Kind: kind, ID: id, Position: now.Position,
		Version: now.Version + 1, Body: body})
}

// DropThing takes a thing that nothing uses out of the workshop.
func (t *Tx) DropThing(kind workshop.Kind, id studio.ID) error {
	doc, err := t.workshop()
	if err != nil {
		return err
	}
	was, _ := workshop.Thing(doc, kind, id)
	if was == nil {
		return NotFound{"this thing"}
	}
	t.touchThing(kind, id, was, nil)
	return stands(t.eraseThing(kind, string(id)))
}

func (t *Tx) eraseThing(kind workshop.Kind, id string) error {
	drop := map[workshop.Kind]func(context.Context, string) error{
		workshop.People: func(ctx context.Context, id string) error {
			return errors.Join(t.q.DropSkills(ctx, id), t.q.DropHours(ctx, id), t.q.DropAway(ctx, id),
				t.q.DropPerson(ctx, id))
		},
		workshop.Places:        t.q.DropPlace,
		workshop.Materials:     t.q.DropMaterial,
		workshop.Suppliers:     t.q.DropSupplier,
		workshop.DryingClasses: t.q.DropDryingClass,
	}[kind]
	if drop == nil {
		return t.q.DropEquipment(t.ctx, sqlcgen.DropEquipmentParams{Kind: inJournal[kind], ID: id})
	}
	return drop(t.ctx, id)
}

// restoreThing takes a thing back to what it was before a command touched it; of what was new, away.
func (t *Tx) restoreThing(touched sqlcgen.JournalTouch) error {
	for kind, is := range inJournal {
		if is != touched.Thing {
			continue
		}
		if touched.Before == "null" {
			return t.DropThing(kind, studio.ID(touched.ID))
		}
		before, err := workshop.Decoded(kind, []byte(touched.Before))
		if err != nil {
			return err
		}
		return t.PutThing(kind, studio.ID(touched.ID), before)
	}
	return fmt.Errorf("%q is no thing of a workshop", touched.Thing)
}

// Rename gives the studio another name.
func (t *Tx) Rename(name string) error {
	row, err := t.q.Studio(t.ctx)
	if err != nil {
		return err
	}
	t.touch("name", "name", row.Name, name)
	return t.q.Rename(t.ctx, name)
}

func (t *Tx) restoreName(touched sqlcgen.JournalTouch) error {
	var name string
	if err := json.Unmarshal([]byte(touched.Before), &name); err != nil {
		return err
	}
	return t.Rename(name)
}

// SetZone says in which time zone the studio is. What was recorded stays at its moment; when orders leave is a local
// time, and stays that.
func (t *Tx) SetZone(zone string) error {
	row, err := t.q.Studio(t.ctx)
	if err != nil {
		return err
	}
	t.touch("zone", "zone", row.Zone, zone)
	return t.q.SetZone(t.ctx, zone)
}

func (t *Tx) restoreZone(touched sqlcgen.JournalTouch) error {
	var zone string
	if err := json.Unmarshal([]byte(touched.Before), &zone); err != nil {
		return err
	}
	return t.SetZone(zone)
}

// SetClimate says what the air of the room usually is in each of 24 hours.
func (t *Tx) SetClimate(hours []studio.Air) error {
	a := &assembler{ctx: t.ctx, q: t.q, doc: &studio.Document{}}
	a.climate()
	if a.err != nil {
		return a.err
	}
	t.touch("usual air", "room", a.doc.Climate, hours)
	err := t.q.DropClimate(t.ctx)
	for hour, air := range hours {
		err = errors.Join(err, t.q.AddClimateHour(t.ctx, climateParams(hour, air)))
	}
	return err
}

func climateParams(hour int, air studio.Air) sqlcgen.AddClimateHourParams {
	return sqlcgen.AddClimateHourParams{Hour: int64(hour), TenthsCelsius: air.TenthsCelsius,
		HumidityPerMille: int64(air.HumidityPerMille)}
}

func (t *Tx) restoreClimate(touched sqlcgen.JournalTouch) error {
	var before []studio.Air
	if err := json.Unmarshal([]byte(touched.Before), &before); err != nil {
		return err
	}
	return t.SetClimate(before)
}

// person writes somebody with all that is kept of them.
func (b *binder) person(p studio.Person) {
	id := string(p.ID)
	b.try(b.q.PutPerson(b.ctx, sqlcgen.PutPersonParams{ID: id, Position: b.next(), Name: p.Name,
		Beyond: asJSON(ofPerson{Shifts: p.Shifts, Overtime: p.Overtime, OvertimeShifts: p.OvertimeShifts,
			Colours: p.Colours, AwayTimes: p.AwayTimes, Rate: p.Rate, OutOfUse: p.OutOfUse})}))
	b.try(errors.Join(b.q.DropSkills(b.ctx, id), b.q.DropHours(b.ctx, id), b.q.DropAway(b.ctx, id)))
	for i, s := range p.Skills {
		b.try(b.q.AddSkill(b.ctx, sqlcgen.AddSkillParams{PersonID: id, Position: int64(i), Skill: s.Skill,
			PaceHundredths: s.Pace}))
	}
	position := int64(0)
	add := func(day string, from, to studio.TimeOfDay) {
		b.try(b.q.AddHours(b.ctx, sqlcgen.AddHoursParams{PersonID: id, Position: position, Day: day,
			FromMinute: int64(from), ToMinute: int64(to)}))
		position++
	}
	for _, h := range p.Hours {
		add(string(h.Day), h.From, h.To)
	}
	for _, r := range p.Breaks {
		add("break", r.From, r.To)
	}
	for _, day := range p.Away {
		b.try(b.q.AddAway(b.ctx, sqlcgen.AddAwayParams{PersonID: id, Day: day.String()}))
	}
}

func (b *binder) supplier(s studio.Supplier) {
	b.try(b.q.PutSupplier(b.ctx, sqlcgen.PutSupplierParams{ID: string(s.ID), Position: b.next(), Name: s.Name,
		Days: s.Days, OutOfUse: column(s.OutOfUse),
		Beyond: asJSON(ofSupplier{CutOff: s.CutOff, Comes: s.Comes, Takes: s.Takes, Address: s.Address})}))
}

// column is a truth as a table has it.
func column(yes bool) int64 {
	if yes {
		return 1
	}
	return 0
}
