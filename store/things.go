package store

import (
	"errors"
	"fmt"
	"slices"

	"modernc.org/sqlite"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// thing is a kind of thing that commands touch.
type thing struct {
	// topic is what screens, and snapshots, know it by.
	topic string
	// restore takes one back to what it was before a command touched it.
	restore func(*Tx, sqlcgen.JournalTouch) error
}

// things are all kinds, by the word that the journal has for each. What is not here cannot
// be touched, and what is here can be undone or says why not.
var things map[string]thing

func init() { // what restores a thing touches it, and so refers to this
	things = map[string]thing{
		"order":        {topic: "orders", restore: (*Tx).restoreOrder},
		"packing":      {topic: "orders", restore: (*Tx).restorePacking},
		"lot":          {topic: "work", restore: (*Tx).restoreLot},
		"lying":        {topic: "work", restore: (*Tx).restoreLying},
		"stock":        {topic: "stores", restore: (*Tx).restoreStock},
		"purchase":     {topic: "stores", restore: (*Tx).restorePurchase},
		wishOfLot:      {topic: "wishes", restore: (*Tx).restoreWish},
		wishOfGroup:    {topic: "wishes", restore: (*Tx).restoreWish},
		wishOfTask:     {topic: "wishes", restore: (*Tx).restoreWish},
		"plan":         {topic: "plan", restore: (*Tx).restorePlan},
		"person":       {topic: "standards", restore: (*Tx).restorePace},
		"settings":     {topic: "standards", restore: (*Tx).restoreSettings},
		"refusal":      {topic: "standards", restore: (*Tx).restoreRefusal},
		"timer":        {topic: "timers", restore: (*Tx).restoreTimer},
		"air":          {topic: "air", restore: (*Tx).restoreWords},
		"sensor":       {topic: "air", restore: (*Tx).restoreSensor},
		"clock":        {topic: "clock", restore: (*Tx).restoreClock},
		"scene":        {topic: "scenes", restore: (*Tx).restoreScene},
		"draft":        {topic: "drafts", restore: (*Tx).restoreDraft},
		"page":         {topic: "book", restore: (*Tx).restorePage},
		"revision":     {topic: "book", restore: (*Tx).restoreRevision},
		"colourway":    {topic: "book", restore: (*Tx).restoreColourway},
		"material":     {topic: "book", restore: (*Tx).restoreThing},
		"place":        {topic: "book", restore: (*Tx).restoreThing},
		"drying class": {topic: "book", restore: (*Tx).restoreThing},
		"supplier":     {topic: "book", restore: (*Tx).restoreThing},
		"maker":        {topic: "standards", restore: (*Tx).restoreThing},
		"name":         {topic: "standards", restore: (*Tx).restoreName},
		"zone":         {topic: "standards", restore: (*Tx).restoreZone},
		"usual air":    {topic: "air", restore: (*Tx).restoreClimate},
		"equipment":    {topic: "book", restore: (*Tx).restoreEquipment},
	}
}

// touch notes in the journal what a thing was before and is after.
func (t *Tx) touch(kind, id string, before, after any) {
	if things[kind].restore == nil {
		t.err = errors.Join(t.err, fmt.Errorf("nothing says how %q is taken back", kind))
		return
	}
	t.about(kind)
	t.err = errors.Join(
		t.err,
		t.q.AddTouch(
			t.ctx,
			sqlcgen.AddTouchParams{N: t.n, Thing: kind, ID: id, Before: asJSON(before), After: asJSON(after)},
		),
	)
}

// about notes that a command is about a kind of thing of which nothing is to be restored.
func (t *Tx) about(kind string) { t.things = append(t.things, kind) }

// topics are what a command is about, each once: what it touched, and what it moved.
func (t *Tx) topics() []string {
	topics := []string{"journal"}
	for _, kind := range t.things {
		if topic := things[kind].topic; topic != "" {
			topics = append(topics, topic)
		}
	}
	slices.Sort(topics)
	return slices.Compact(topics)
}

// stands says in words why a thing cannot be what it was: another refers to it, or has its
// name by now.
func stands(err error) error {
	const constraint, unique, primaryKey = 19, 2067, 1555
	var driver *sqlite.Error
	if !errors.As(err, &driver) || driver.Code()&0xff != constraint {
		return err
	}
	if driver.Code() == unique || driver.Code() == primaryKey {
		return CannotUndo{studio.Say("something else has its name, or its place, by now; rename or undo that first")}
	}
	return CannotUndo{studio.Say("something uses it already; what is in use stays")}
}

// restore takes one thing back to what it was before a command touched it.
func (t *Tx) restore(touched sqlcgen.JournalTouch) error {
	known := things[touched.Thing]
	if known.restore == nil {
		return CannotUndo{studio.Say("this program does not know what %q is", touched.Thing)}
	}
	return stands(known.restore(t, touched))
}
