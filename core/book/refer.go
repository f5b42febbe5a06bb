package book

import (
	"encoding/json"
	"reflect"

	"bractum/core/studio"
)

// refers are the fields that name a thing, and the kind of thing they name: ids are
// unique among their kind only.
var refers = map[string]string{
	"Recipe":   "recipe",
	"Mix":      "recipe",
	"Mixes":    "recipe",
	"Defaults": "recipe",
	"Slots":    "recipe",
	"From":     "recipe",
	"To":       "recipe",
	"MadeBy":   "recipe",
	"Material": "material",
	"Class":    "class",
	"Method":   "method",
	"Place":    "place",
	"Tool":     "tool",
	"StandIns": "tool",
	"Machines": "machine",
	"Family":   "family",
	"Gates":    "gate",
}

// reference is an id of a kind.
type reference struct {
	kind string
	id   studio.ID
}

// rewrite replaces every id that a value, given by pointer or as a list, refers to. Ids
// of things themselves, and the page of a recipe, stay.
func rewrite(value any, to func(reference) studio.ID) { rewritten(reflect.ValueOf(value), "", to) }

func rewritten(value reflect.Value, kind string, to func(reference) studio.ID) {
	id := reflect.TypeFor[studio.ID]()
	switch value.Kind() {
	case reflect.Pointer:
		if !value.IsNil() {
			rewritten(value.Elem(), kind, to)
		}
	case reflect.Struct:
		for i := range value.NumField() {
			field := value.Type().Field(i)
			if field.IsExported() && (value.Type() != reflect.TypeFor[studio.Recipe]() || field.Name != "Recipe") {
				rewritten(value.Field(i), refers[field.Name], to)
			}
		}
	case reflect.Slice:
		for i := range value.Len() {
			rewritten(value.Index(i), kind, to)
		}
	case reflect.Map:
		if value.Type().Elem() == id {
			for _, key := range value.MapKeys() {
				value.SetMapIndex(
					key,
					reflect.ValueOf(to(reference{kind: kind, id: value.MapIndex(key).Interface().(studio.ID)})),
				)
			}
		}
	default:
		if value.Type() == id && kind != "" {
			value.Set(reflect.ValueOf(to(reference{kind: kind, id: value.Interface().(studio.ID)})))
		}
	}
}

// refersTo is everything that recipes name, and the recipes themselves.
func refersTo(recipes []studio.Recipe) map[reference]bool {
	used := map[reference]bool{}
	for _, r := range recipes {
		used[reference{kind: "recipe", id: r.ID}] = true
		r = copied(r)
		rewrite(&r, func(of reference) studio.ID {
			used[of] = true
			return of.id
		})
	}
	return used
}

// copied is a value that shares nothing with another.
func copied[T any](value T) T {
	data, err := json.Marshal(value)
	if err != nil {
		panic(err) // our own plain types always marshal
	}
	var twin T
	if err := json.Unmarshal(data, &twin); err != nil {
		panic(err)
	}
	return twin
}

// content is what a recipe says, whichever revision it is.
func content(r studio.Recipe) string {
	r.ID, r.Recipe, r.Revision = "", "", 0
	return written(r)
}

func written(value any) string {
	data, err := json.Marshal(value)
	if err != nil {
		panic(err)
	}
	return string(data)
}

// Where things of each kind keep their id and their name.
func ofMaterial(m *studio.Material) (*studio.ID, *string)       { return &m.ID, &m.Name }
func ofDryingClass(c *studio.DryingClass) (*studio.ID, *string) { return &c.ID, &c.Name }
func ofMethod(m *studio.Method) (*studio.ID, *string)           { return &m.ID, &m.Name }
func ofTool(t *studio.Tool) (*studio.ID, *string)               { return &t.ID, &t.Name }
func ofMachine(m *studio.Machine) (*studio.ID, *string)         { return &m.ID, &m.Name }
func ofGate(g *studio.Gate) (*studio.ID, *string)               { return &g.ID, &g.Name }
func ofFamily(f *studio.Family) (*studio.ID, *string)           { return &f.ID, &f.Name }
func ofPlace(p *studio.Place) (*studio.ID, *string)             { return &p.ID, &p.Name }
func ofColourway(c *studio.Colourway) (*studio.ID, *string)     { return &c.ID, &c.Name }
