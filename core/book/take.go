package book

import (
	"cmp"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"bractum/core/studio"
)

// State is how a thing of a file stands to the studio's own.
type State string

// States: not here yet, here and otherwise, here just so, here under the same name but
// another thing. What a studio has of equipment and materials stays as it has it.
const (
	New      State = "new"
	Changed  State = "changed"
	Same     State = "same"
	Kept     State = "kept"
	Conflict State = "conflict"
)

// Choice is what is done with a thing that is changed or in conflict.
type Choice string

// Choices: ours stays and serves what refers to it; theirs becomes the latest revision
// of ours; theirs comes in beside ours under another name.
const (
	Keep   Choice = "keep"
	Take   Choice = "take"
	Beside Choice = "beside"
)

// Clash is why two things of one name, or two revisions of one recipe, cannot be one.
type Clash string

// Clashes: materials are counted in other units, or are other wires; another recipe has the
// name; ours was revised since the file was written.
const (
	OtherUnit    Clash = "other-unit"
	OtherWire    Clash = "other-wire"
	NamedAlike   Clash = "named-alike"
	RevisedSince Clash = "revised-since"
)

// Thing is one thing of a file as it would be taken in.
type Thing struct {
	ID     studio.ID `json:"id"` // in the file
	Kind   string    `json:"kind"`
	Name   string    `json:"name"`
	State  State     `json:"state"`
	Choice Choice    `json:"choice,omitempty"`
	Clash  Clash     `json:"clash,omitempty" enum:"other-unit,other-wire,named-alike,revised-since"`
	// With is what the clash is about, by what its words call it.
	With    studio.With `json:"with,omitempty"`
	Changes []Edit      `json:"changes"`
	// OwnColours is true of a new flower that keeps its own colours where it goes into others:
	// our colourways give slots of the same names other mixes.
	OwnColours bool `json:"ownColours,omitempty"`
}

// Intake is what a file would do to a studio's book.
type Intake struct {
	Things []Thing `json:"things"`
	// Unskilled are skills that work of the file asks for and nobody here has: what needs them
	// can be taken in, and not planned. None are named while nobody is here at all.
	Unskilled []string `json:"unskilled,omitempty"`
	// Open is how many conflicts nobody has decided, Problems what would be wrong with the
	// book then; nothing is taken while there are any.
	Open     int             `json:"open"`
	Problems studio.Problems `json:"problems,omitempty"`
	// Adds is what is written: new things, and new revisions of recipes, those of ours
	// that use them included.
	Adds Bundle `json:"adds"`
}

// Examine says what taking in a bundle would do to a document, with what was chosen for
// its things by their ids in the file, and makes what is to be written. Things are the
// same if they share their id or, where the file names them by words or has them of
// another studio, their name. The document is not changed. It takes O(n·m) in the
// things of both.
func Examine(doc *studio.Document, b *Bundle, choices map[studio.ID]Choice, newID func() studio.ID) (*Intake, error) {
	b.lift()
	if err := b.Check(); err != nil {
		return nil, err
	}
	in := &intake{
		doc:     doc,
		bundle:  copied(*b),
		choices: choices,
		newID:   newID,
		names:   NamesIn(doc),
		to:      map[reference]studio.ID{},
		Intake:  Intake{Things: []Thing{}},
	}
	in.pictures()
	in.equipment()
	in.recipes()
	in.Unskilled = unskilled(doc.People, in.bundle.Recipes)
	if in.Open > 0 {
		return &in.Intake, nil
	}
	in.colourways()
	err := in.settle()
	var problems studio.Problems
	if errors.As(err, &problems) {
		in.Problems, in.Adds = problems, Bundle{}
		return &in.Intake, nil
	}
	in.together()
	return &in.Intake, err
}

type intake struct {
	doc     *studio.Document
	bundle  Bundle
	choices map[studio.ID]Choice
	newID   func() studio.ID
	names   Names
	to      map[reference]studio.ID // ids of the file to those of the studio
	written []studio.Recipe         // as Revise wants them
	index   *studio.Book            // of the file, once it is asked for
	Intake
}

// ours is what an id of the file is here.
func (in *intake) ours(of reference) studio.ID { return cmp.Or(in.to[of], of.id) }

// stored is true of an id that some store gave: it names one thing everywhere.
func stored(id studio.ID) bool { return len(id) == 36 && strings.Count(string(id), "-") == 4 }

// pictures gives those that a file names by words ids of their own.
func (in *intake) pictures() {
	given := map[studio.ID]studio.ID{}
	for i := range in.bundle.Pictures {
		p := &in.bundle.Pictures[i]
		given[p.ID] = in.idFor(p.ID, false)
		p.ID = given[p.ID]
	}
	for _, r := range in.bundle.Recipes {
		for i := range r.Pictures {
			r.Pictures[i].ID = cmp.Or(given[r.Pictures[i].ID], r.Pictures[i].ID)
		}
	}
}

// equipment matches everything that is not a recipe or a colourway. What is here stays
// as it is here; another material of the same name is a conflict.
func (in *intake) equipment() {
	b, doc := &in.bundle, in.doc
	in.Adds.Gates = matched(in, "gate", "gate", doc.Gates, b.Gates, ofGate, nil)
	in.Adds.Materials = matched(
		in,
		"material",
		"material",
		doc.Materials,
		b.Materials,
		ofMaterial,
		func(ours, theirs studio.Material) (Clash, studio.With) {
			switch {
			case ours.Unit != theirs.Unit:
				return OtherUnit, studio.With{"ours": ours.Unit, "theirs": theirs.Unit}
			case (ours.Wire == nil) != (theirs.Wire == nil) || ours.Wire != nil && ours.Wire.Gauge != theirs.Wire.Gauge:
				return OtherWire, nil
			}
			return "", nil
		},
	)
	for i := range in.Adds.Materials {
		in.Adds.Materials[i] = unbought(in.Adds.Materials[i])
	}
	in.Adds.DryingClasses = matched(
		in,
		"class",
		"drying class",
		doc.DryingClasses,
		b.DryingClasses,
		ofDryingClass,
		nil,
	)
	in.Adds.Methods = matched(in, "method", "way of drying", doc.Methods, b.Methods, ofMethod, nil)
	in.Adds.Tools = matched(in, "tool", "tool", doc.Tools, b.Tools, ofTool, nil)
	in.Adds.Machines = matched(in, "machine", "machine", doc.Machines, b.Machines, ofMachine, nil)
	in.Adds.Families = matched(in, "family", "setup family", doc.Families, b.Families, ofFamily, nil)
	in.Adds.Places = matched(in, "place", "place", doc.Places, b.Places, ofPlace, nil)
}

// matched finds each thing of a file among ours, says how it stands, and lists those
// that are to be added. Clashing says why two of one name cannot be one thing.
func matched[T any](
	in *intake,
	of, kind string,
	ours, theirs []T,
	naming func(*T) (*studio.ID, *string),
	clashing func(ours, theirs T) (Clash, studio.With),
) (adds []T) {
	for _, x := range theirs {
		id, name := naming(&x)
		thing := Thing{ID: *id, Kind: kind, Name: *name, State: New, Changes: []Edit{}}
		at := slices.IndexFunc(ours, func(y T) bool { own, _ := naming(&y); return *own == *id })
		if at < 0 {
			at = slices.IndexFunc(ours, func(y T) bool { _, own := naming(&y); return *own == *name })
		}
		if at >= 0 {
			own, _ := naming(&ours[at])
			thing.State = Same
			if clashing != nil {
				thing.Clash, thing.With = clashing(ours[at], x)
			}
			if thing.Clash != "" {
				thing.State, thing.Choice = Conflict, in.choices[*id]
			} else if thing.Changes = withoutIDs(compared(ours[at], x)); len(thing.Changes) > 0 {
				thing.State = Kept
			}
			in.to[reference{kind: of, id: *id}] = *own
		}
		if thing.State == Conflict && thing.Choice != Keep && thing.Choice != Beside {
			in.Open++
		}
		if thing.State == New || thing.Choice == Beside {
			if thing.Choice == Beside {
				*name = in.free(*name, func(n string) bool {
					return slices.ContainsFunc(ours, func(y T) bool { _, own := naming(&y); return *own == n })
				})
			}
			given := in.idFor(*id, thing.Choice == Beside)
			in.to[reference{kind: of, id: *id}] = given
			in.names[reference{kind: of, id: given}] = *name
			*id = given
			adds = append(adds, x)
		}
		in.Things = append(in.Things, thing)
	}
	return adds
}

// withoutIDs leaves out what is not a difference between two studios.
func withoutIDs(all []Edit) []Edit {
	own := []string{"id", "onHand", "supplier", "pack", "keepAtLeast", "pricePerPack", "label",
		"tenthsCelsius", "cautions", "opens", "madeBy", "in"}
	return slices.DeleteFunc(all, func(c Edit) bool {
		unsaid := c.Is == "" && (c.Place == "food" || c.Place == "allergens")
		return unsaid || slices.Contains(own, c.Place) || strings.HasPrefix(c.Place, "changes")
	})
}

func (in *intake) idFor(id studio.ID, another bool) studio.ID {
	if stored(id) && !another {
		return id
	}
	return in.newID()
}

// free is the first of "name 2", "name 3", … that is not taken.
func (in *intake) free(name string, taken func(string) bool) string {
	for n := 2; ; n++ {
		if other := fmt.Sprintf("%s %d", name, n); !taken(other) {
			return other
		}
	}
}

// recipes matches the recipes of a file, what is needed first, so that each is compared
// with ours in our own terms.
func (in *intake) recipes() {
	things := make([]Thing, len(in.bundle.Recipes))
	done := map[studio.ID]bool{}
	var visit func(id studio.ID)
	visit = func(id studio.ID) {
		i := slices.IndexFunc(in.bundle.Recipes, func(r studio.Recipe) bool { return r.ID == id })
		if i < 0 || done[id] {
			return
		}
		done[id] = true
		for _, below := range in.bundle.Recipes[i].Needs() {
			visit(below)
		}
		things[i] = in.recipe(in.bundle.Recipes[i])
	}
	for _, r := range in.bundle.Recipes {
		visit(r.ID)
	}
	in.Things = append(in.Things, things...)
}

func (in *intake) recipe(r studio.Recipe) Thing {
	file, page := r.ID, r.Page()
	thing := Thing{ID: file, Kind: string(r.Kind), Name: r.Name, State: New, Changes: []Edit{}}
	rewrite(&r, in.ours)
	current := in.doc.Current()
	at := slices.IndexFunc(current, func(o *studio.Recipe) bool { return o.Page() == page })
	byName := at < 0
	if byName {
		at = slices.IndexFunc(current, func(o *studio.Recipe) bool { return o.Name == r.Name })
	}
	if at < 0 {
		thing.OwnColours = in.keepsColours(file)
		r.OwnColours = r.OwnColours || thing.OwnColours
		r.ID, r.Recipe, r.Revision = in.idFor(file, false), in.idFor(page, false), 0
		if slices.ContainsFunc(in.doc.Recipes, func(o studio.Recipe) bool { return o.ID == r.ID }) {
			r.ID = in.newID()
		}
		in.to[reference{kind: "recipe", id: file}], in.written = r.ID, append(in.written, r)
		in.names[reference{kind: "recipe", id: r.ID}] = r.Name
		return thing
	}
	ours := current[at]
	r.OwnColours = r.OwnColours || ours.OwnColours
	in.to[reference{kind: "recipe", id: file}] = ours.ID
	if content(r) == content(*ours) {
		thing.State = Same
		return thing
	}
	thing.State, thing.Choice, thing.Changes = Changed, cmp.Or(in.choices[file], Take), Changes(in.names, *ours, r)
	if byName {
		thing.State, thing.Choice, thing.Clash = Conflict, in.choices[file], NamedAlike
	} else if ours.Revision > r.Revision && r.Revision > 0 {
		thing.State, thing.Choice, thing.Clash = Conflict, in.choices[file], RevisedSince
		thing.With = studio.With{"ours": ours.Revision, "theirs": r.Revision}
	}
	switch thing.Choice {
	case Take:
		r.ID, r.Recipe = ours.ID, ours.Page()
		in.written = append(in.written, r)
	case Beside:
		r.Name = in.free(r.Name, func(n string) bool {
			return slices.ContainsFunc(current, func(o *studio.Recipe) bool { return o.Name == n })
		})
		r.ID, r.Recipe, r.Revision = in.newID(), in.newID(), 0
		in.to[reference{kind: "recipe", id: file}], in.written = r.ID, append(in.written, r)
		in.names[reference{kind: "recipe", id: r.ID}] = r.Name
	case Keep:
	default:
		in.Open++
	}
	return thing
}

// keepsColours is true of a recipe of the file that goes into no other of it, has a default for
// each of its colour slots, and has one that a colourway of ours gives a mix: in a spray of ours
// a white daisy stays white.
func (in *intake) keepsColours(id studio.ID) bool {
	if in.index == nil {
		in.index = studio.NewBook(in.bundle.document())
	}
	if slices.ContainsFunc(in.bundle.Recipes, func(r studio.Recipe) bool { return slices.Contains(r.Needs(), id) }) {
		return false
	}
	mixes, missing := in.index.Resolve(studio.Made{Recipe: id}, nil)
	return len(missing) == 0 && slices.ContainsFunc(in.doc.Colourways, func(c studio.Colourway) bool {
		for slot := range mixes {
			if c.Slots[slot] != "" {
				return true
			}
		}
		return false
	})
}

// together adds what one maker would have to be able to do at once and nobody here is.
func (in *intake) together() {
	if len(in.doc.People) == 0 {
		return
	}
	book := studio.NewBook(in.doc.With(in.Adds.Recipes))
	for i := range in.Adds.Recipes {
		for _, lacking := range book.Recipe(in.Adds.Recipes[i].ID).Beyond(in.doc.People) {
			all := strings.Join(lacking.Skills, " with ")
			if len(lacking.Skills) > 1 && !slices.Contains(in.Unskilled, all) {
				in.Unskilled = append(in.Unskilled, all)
			}
		}
	}
}

// unskilled are the skills that recipes, with all their ways, ask for and that none of some
// people has, in order.
func unskilled(people []studio.Person, recipes []studio.Recipe) (skills []string) {
	if len(people) == 0 {
		return nil
	}
	wanted := map[string]bool{}
	ask := func(w *studio.Work) {
		if w != nil {
			for _, skill := range append([]string{w.Skill}, w.Also...) {
				wanted[skill] = true
			}
		}
	}
	for i := range recipes {
		steps := slices.Clone(recipes[i].Steps)
		for _, change := range recipes[i].Changes() {
			for _, s := range change.Steps {
				steps = append(steps, s.Step)
			}
		}
		for _, s := range steps {
			ask(s.Work)
			ask(s.Mend)
		}
	}
	for _, p := range people {
		for _, s := range p.Skills {
			delete(wanted, s.Skill)
		}
	}
	return slices.Sorted(maps.Keys(wanted))
}

// colourways come in where they are new; ours stay.
func (in *intake) colourways() {
	for i := range in.bundle.Colourways {
		rewrite(&in.bundle.Colourways[i], in.ours)
	}
	in.Adds.Colourways = matched(in, "", "colourway", in.doc.Colourways, in.bundle.Colourways, ofColourway, nil)
}

// settle makes the new revisions, and has everything added refer to them.
func (in *intake) settle() error {
	in.Adds.Format, in.Adds.Version = Format, Version
	for _, list := range []any{in.Adds.Gates, in.Adds.Families, in.Adds.Tools, in.Adds.Machines} {
		rewrite(list, in.ours)
	}
	with := *in.doc
	places, families, colourways := in.Adds.Places, in.Adds.Families, in.Adds.Colourways
	in.Adds.Places, in.Adds.Families, in.Adds.Colourways = plainPlaces(places), plainFamilies(families), nil
	in.Adds.into(&with)
	revised, err := Revise(&with, in.written, in.newID)
	if err != nil {
		return err
	}
	in.Adds.Recipes = revised
	latest := map[studio.ID]studio.ID{} // of a page, its new revision
	pages := map[studio.ID]studio.ID{}  // of a revision as it was written, its page
	for _, r := range revised {
		latest[r.Recipe] = r.ID
	}
	for _, r := range slices.Concat(in.written, in.doc.Recipes) {
		pages[r.ID] = cmp.Or(r.Recipe, r.ID)
	}
	now := func(of reference) studio.ID {
		id := in.ours(of)
		return cmp.Or(latest[pages[id]], id)
	}
	in.Adds.Places, in.Adds.Families, in.Adds.Colourways = places, families, colourways
	for i := range places {
		places[i].MadeBy = now(reference{kind: "recipe", id: places[i].MadeBy})
	}
	rewrite(families, now)
	rewrite(colourways, now)
	in.Adds.Pictures = in.bundle.Pictures
	with = *in.doc
	in.Adds.into(&with)
	if problems := with.Validate(); len(problems) > 0 {
		return problems
	}
	return nil
}

// plainPlaces are places before what makes them is there.
func plainPlaces(places []studio.Place) []studio.Place {
	places = slices.Clone(places)
	for i := range places {
		places[i].MadeBy = ""
	}
	return places
}

// plainFamilies are families before the mixes between which they cost are there.
func plainFamilies(families []studio.Family) []studio.Family {
	families = slices.Clone(families)
	for i := range families {
		families[i].Changes = nil
	}
	return families
}

// Refused says why nothing may be taken in yet; nil if it may.
func (in *Intake) Refused() error {
	switch {
	case in.Open > 0:
		return fmt.Errorf("%d things are in conflict; say of each what to do. Nothing was taken", in.Open)
	case len(in.Problems) > 0:
		return fmt.Errorf("taken in so, something would be wrong with the book. Nothing was taken\n%w", in.Problems)
	}
	return nil
}

// Into adds what is to be written to a document.
func (in *Intake) Into(doc *studio.Document) { in.Adds.into(doc) }
