package book

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"bractum/core/studio"
)

// Edit is one thing that two versions say differently; an empty text is nothing.
type Edit struct {
	Place string `json:"place"`
	Was   string `json:"was"`
	Is    string `json:"is"`
}

// Changes lists what two recipes say differently, place by place, with the names of
// what they refer to; entries of lists are told apart by what they are of, not by where
// they stand. That something it uses was revised is no change of a recipe's own.
func Changes(names Names, was, is studio.Recipe) []Edit {
	was, is = copied(was), copied(is)
	for _, r := range []*studio.Recipe{&was, &is} {
		r.ID, r.Recipe, r.Revision = "", "", 0
		rewrite(r, names.of)
	}
	return compared(was, is)
}

// Names are what the things of a document are called.
type Names map[reference]string

// NamesIn are the names of everything that recipes of a document refer to.
func NamesIn(doc *studio.Document) Names {
	n := Names{}
	for _, r := range doc.Recipes {
		n[reference{kind: "recipe", id: r.ID}] = r.Name
	}
	note(n, "material", doc.Materials, ofMaterial)
	note(n, "class", doc.DryingClasses, ofDryingClass)
	note(n, "method", doc.Methods, ofMethod)
	note(n, "place", doc.Places, ofPlace)
	note(n, "tool", doc.Tools, ofTool)
	note(n, "machine", doc.Machines, ofMachine)
	note(n, "family", doc.Families, ofFamily)
	note(n, "gate", doc.Gates, ofGate)
	return n
}

func note[T any](n Names, kind string, all []T, naming func(*T) (*studio.ID, *string)) {
	for i := range all {
		id, name := naming(&all[i])
		n[reference{kind: kind, id: *id}] = *name
	}
}

func (n Names) of(r reference) studio.ID {
	if name, known := n[r]; known {
		return studio.ID(name)
	}
	return r.id
}

func compared(was, is any) []Edit {
	c := &comparison{all: []Edit{}}
	c.values("", reflect.ValueOf(was), reflect.ValueOf(is))
	return c.all
}

type comparison struct{ all []Edit }

func (c *comparison) values(place string, was, is reflect.Value) {
	if reflect.DeepEqual(was.Interface(), is.Interface()) {
		return
	}
	switch was.Kind() {
	case reflect.Struct:
		for i := range was.NumField() {
			field := was.Type().Field(i)
			if !field.IsExported() {
				continue
			}
			if field.Anonymous {
				c.values(place, was.Field(i), is.Field(i))
				continue
			}
			name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
			c.values(place+"."+name, was.Field(i), is.Field(i))
		}
		return
	case reflect.Pointer:
		if !was.IsNil() && !is.IsNil() {
			c.values(place, was.Elem(), is.Elem())
			return
		}
	case reflect.Slice:
		if was.Type().Elem().Kind() == reflect.Struct {
			c.lists(place, was, is)
			return
		}
	}
	c.all = append(c.all, Edit{Place: strings.TrimPrefix(place, "."), Was: text(was), Is: text(is)})
}

func (c *comparison) lists(place string, was, is reflect.Value) {
	find := func(list reflect.Value, of string) int {
		for i := range list.Len() {
			if called(list, i) == of {
				return i
			}
		}
		return -1
	}
	for i := range was.Len() {
		of := called(was, i)
		at := fmt.Sprintf("%s %q", place, of)
		if j := find(is, of); j >= 0 {
			c.values(at, was.Index(i), is.Index(j))
		} else {
			c.all = append(c.all, Edit{Place: strings.TrimPrefix(at, "."), Was: "there", Is: ""})
		}
	}
	for j := range is.Len() {
		if of := called(is, j); find(was, of) < 0 {
			c.all = append(c.all, Edit{Place: strings.TrimPrefix(fmt.Sprintf("%s %q", place, of), "."), Is: "there"})
		}
	}
}

// called tells an entry of a list from its neighbours; a second one of the same is
// numbered.
func called(list reflect.Value, i int) string {
	name := func(i int) string {
		var words []string
		for _, field := range []string{"Key", "Name", "Question", "Rule", "Step", "Slot", "Recipe", "Variant", "Form", "Material", "Mix", "Place", "After", "Tool"} {
			if f := list.Index(i).FieldByName(field); f.IsValid() && f.Kind() == reflect.String && f.String() != "" {
				words = append(words, f.String())
				if field == "Key" || field == "Name" || field == "Question" {
					break
				}
			}
		}
		return strings.Join(words, " ")
	}
	of, twin := name(i), 1
	for j := range i {
		if name(j) == of {
			twin++
		}
	}
	if twin > 1 {
		return fmt.Sprintf("%s #%d", of, twin)
	}
	return of
}

func text(v reflect.Value) string {
	if v.IsZero() {
		return ""
	}
	data := written(v.Interface())
	return strings.Trim(data, `"`)
}

// Vary finds the named change that makes one recipe of another: what somebody did to a
// recipe as a variant, or as a school of a technique. What hangs on steps taken away
// goes with them. The error says what no variant can express.
func Vary(base, made *studio.Recipe, name string) (studio.Variant, error) {
	v := studio.Variant{Name: name}
	tidy := copied(*made)
	tidy.Forget(base.Steps)
	made = &tidy
	kept := func(key string) bool { _, i := made.Step(key); return i >= 0 }
	last := -1
	for i, s := range base.Steps {
		if kept(s.Key) {
			last = i
		}
	}
	if last >= 0 && last < len(base.Steps)-1 && base.Steps[last].Key == made.Steps[len(made.Steps)-1].Key {
		v.StopAfter = base.Steps[last].Key
	}
	for i, s := range base.Steps {
		if !kept(s.Key) && (v.StopAfter == "" || i < last) {
			v.Without = append(v.Without, s.Key)
		}
	}
	tried := func() *studio.Recipe {
		r := *base
		r.Variants, r.Techniques = []studio.Variant{v}, nil
		as, _ := r.As(name)
		return as
	}
	for i, s := range made.Steps {
		same, at := tried().Step(s.Key)
		if at >= 0 && reflect.DeepEqual(copied(same), copied(s)) {
			continue
		}
		change := studio.StepChange{Step: s}
		if _, own := base.Step(s.Key); own < 0 && i > 0 {
			change.After = made.Steps[i-1].Key
		}
		v.Steps = append(v.Steps, change)
	}
	keys := func(r *studio.Recipe) (all []string) {
		for _, s := range r.Steps {
			all = append(all, s.Key)
		}
		return all
	}
	if want := keys(made); !slices.Equal(want, keys(tried())) {
		v.Order = want
	}
	now := tried()
	v.Parts = differing(now.Parts, made.Parts, studio.PartInput.SameAs, func(p studio.PartInput) studio.PartInput {
		return studio.PartInput{Key: p.Key, Step: p.Step, Recipe: p.Recipe, Form: p.Form}
	})
	v.Pastes = differing(now.Pastes, made.Pastes, studio.PasteInput.SameAs,
		func(p studio.PasteInput) studio.PasteInput {
			return studio.PasteInput{Key: p.Key, Step: p.Step, Slot: p.Slot}
		})
	v.Materials = differing(now.Materials, made.Materials, studio.MaterialInput.SameAs,
		func(m studio.MaterialInput) studio.MaterialInput {
			return studio.MaterialInput{Key: m.Key, Step: m.Step, Material: m.Material}
		})
	v.Wires = differing(now.Wires, made.Wires, studio.WireInput.SameAs, func(w studio.WireInput) studio.WireInput {
		return studio.WireInput{Key: w.Key, Step: w.Step, Material: w.Material}
	})
	if base.Spares != made.Spares {
		spares := made.Spares
		v.Spares = &spares
	}
	got, want := *tried(), *made
	got.Name, want.Name = "", ""
	want.Variants, want.Techniques = nil, nil
	if content(ordered(got)) != content(ordered(want)) {
		places := []string{}
		for _, c := range Changes(nil, got, want) {
			places = append(places, c.Place)
		}
		return v, fmt.Errorf(
			"a variant changes steps, inputs and spares of the recipe, one input of a thing at a step, or several by their keys; it cannot change %s",
			strings.Join(places, ", "),
		)
	}
	return v, nil
}

// differing lists the entries that are new or otherwise, and takes away those that are
// gone.
func differing[T any](was, is []T, same func(a, b T) bool, none func(T) T) (changes []T) {
	for _, x := range is {
		i := slices.IndexFunc(was, func(y T) bool { return same(y, x) })
		if i < 0 || written(was[i]) != written(x) {
			changes = append(changes, x)
		}
	}
	for _, y := range was {
		if !slices.ContainsFunc(is, func(x T) bool { return same(x, y) }) {
			changes = append(changes, none(y))
		}
	}
	return changes
}

// ordered is a recipe with its inputs in an order of their own, since a variant adds
// its inputs at the end.
func ordered(r studio.Recipe) studio.Recipe {
	r = copied(r)
	slices.SortFunc(r.Parts, func(a, b studio.PartInput) int { return strings.Compare(written(a), written(b)) })
	slices.SortFunc(r.Pastes, func(a, b studio.PasteInput) int { return strings.Compare(written(a), written(b)) })
	slices.SortFunc(
		r.Materials,
		func(a, b studio.MaterialInput) int { return strings.Compare(written(a), written(b)) },
	)
	slices.SortFunc(r.Wires, func(a, b studio.WireInput) int { return strings.Compare(written(a), written(b)) })
	return r
}
