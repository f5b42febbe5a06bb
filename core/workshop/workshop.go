// Package workshop is what of a studio is neither order, recipe nor fact: its people, places, tools, machines,
// materials and suppliers, how things dry, and the settings. Each is changed, added or taken out one by one; what
// comes of that is a whole document which is checked as any other is.
package workshop

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"bractum/core/studio"
)

// Kind is one list of the document, by its name there.
type Kind string

// Kinds of things in a workshop.
const (
	People        Kind = "people"
	Places        Kind = "places"
	Surroundings  Kind = "surroundings"
	Tools         Kind = "tools"
	Machines      Kind = "machines"
	Materials     Kind = "materials"
	Suppliers     Kind = "suppliers"
	DryingClasses Kind = "dryingClasses"
	DryingMethods Kind = "dryingMethods"
	Families      Kind = "setupFamilies"
)

// Kinds are all, in the order in which one would show somebody round.
var Kinds = []Kind{People, Places, Surroundings, Machines, Tools, Materials, Suppliers, DryingClasses, DryingMethods,
	Families}

// list is the list of a kind in a document; an invalid value where there is no such kind.
func list(doc *studio.Document, kind Kind) reflect.Value {
	if !slices.Contains(Kinds, kind) {
		return reflect.Value{}
	}
	of := reflect.ValueOf(doc).Elem()
	for i := range of.NumField() {
		if name, _, _ := strings.Cut(of.Type().Field(i).Tag.Get("json"), ","); name == string(kind) {
			return of.Field(i)
		}
	}
	return reflect.Value{}
}

// NoKind says that a workshop has no such list.
type NoKind struct{ Kind Kind }

func (n NoKind) Error() string { return fmt.Sprintf("%q is no kind of thing in a workshop", n.Kind) }

// Missing says that there is no such thing.
type Missing struct{ Kind Kind }

func (Missing) Error() string { return "this thing is not in the workshop any more" }

// All are the things of a kind, in the studio's order.
func All(doc *studio.Document, kind Kind) (all []any) {
	of := list(doc, kind)
	for i := 0; of.IsValid() && i < of.Len(); i++ {
		all = append(all, of.Index(i).Interface())
	}
	return all
}

// Thing is one thing of a kind, and its place in the list; nil where there is none.
func Thing(doc *studio.Document, kind Kind, id studio.ID) (thing any, at int) {
	for i, one := range All(doc, kind) {
		if idOf(reflect.ValueOf(one)) == id {
			return one, i
		}
	}
	return nil, -1
}

func idOf(thing reflect.Value) studio.ID { return studio.ID(thing.FieldByName("ID").String()) }

// IDOf is the id of a thing.
func IDOf(thing any) studio.ID { return idOf(reflect.ValueOf(thing)) }

// NameOf is what a thing is called.
func NameOf(thing any) string { return reflect.ValueOf(thing).FieldByName("Name").String() }

// With is a document in which a thing is as a JSON object says: added where its id is not there, else changed.
// What is on hand of a material stays as it is: that is counted, not written. The error is Problems where
// the object or the document with it does not hold; their places begin at the thing.
func With(doc *studio.Document, kind Kind, body []byte) (with *studio.Document, was, is any, err error) {
	of := list(doc, kind)
	if !of.IsValid() {
		return nil, nil, nil, NoKind{kind}
	}
	one, err := Decoded(kind, body)
	if err != nil {
		return nil, nil, nil, err
	}
	thing := reflect.New(of.Type().Elem()).Elem()
	thing.Set(reflect.ValueOf(one))
	was, at := Thing(doc, kind, idOf(thing))
	if kind == Materials {
		onHand := int64(0)
		if was != nil {
			onHand = was.(studio.Material).OnHand
		}
		thing.FieldByName("OnHand").SetInt(onHand)
	}
	for _, other := range All(doc, kind) {
		if NameOf(other) == NameOf(thing.Interface()) && idOf(reflect.ValueOf(other)) != idOf(thing) {
			return nil, nil, nil, studio.Problems{studio.Flaw("name",
				"is that of another; give it a name of its own")}
		}
	}
	if p, is := thing.Interface().(studio.Person); is && p.OutOfUse && atWork(doc, p.ID) {
		return nil, nil, nil, studio.Problems{studio.Flaw("outOfUse",
			"is not yet: they have begun something; hand that on first")}
	}
	copied := *doc
	with = &copied
	next := reflect.MakeSlice(of.Type(), of.Len(), of.Len()+1)
	reflect.Copy(next, of)
	if at < 0 {
		at, next = next.Len(), reflect.Append(next, thing)
	} else {
		next.Index(at).Set(thing)
	}
	list(with, kind).Set(next)
	if problems := with.Validate(); len(problems) > 0 {
		return nil, nil, nil, from(problems, fmt.Sprintf("%s[%d]", kind, at))
	}
	return with, was, thing.Interface(), nil
}

// atWork is true of somebody who has begun what is not done.
func atWork(doc *studio.Document, person studio.ID) bool {
	return slices.ContainsFunc(doc.Work, func(l studio.WorkLot) bool {
		return slices.ContainsFunc(l.Records, func(r studio.TaskRecord) bool {
			return r.Person == person && r.State != studio.TaskDone
		})
	})
}

// Closed are the people who come to be away on a day, or to be there after all, as they then are.
func Closed(doc *studio.Document, day studio.Date, closed bool) (changed []studio.Person) {
	for _, p := range doc.People {
		away := slices.DeleteFunc(slices.Clone(p.Away), func(d studio.Date) bool { return d == day })
		if closed {
			away = append(away, day)
		}
		if p.OutOfUse || len(away) == len(p.Away) {
			continue
		}
		slices.SortFunc(away, func(a, b studio.Date) int { return cmp.Compare(a.String(), b.String()) })
		p.Away = away
		changed = append(changed, p)
	}
	return changed
}

// Decoded is a thing of a kind that was kept as JSON.
func Decoded(kind Kind, body []byte) (any, error) {
	of := list(&studio.Document{}, kind)
	if !of.IsValid() {
		return nil, NoKind{kind}
	}
	one := reflect.New(of.Type().Elem())
	err := strictly(body, one.Interface())
	return one.Elem().Interface(), err
}

// strictly reads one JSON object; what it does not know is a problem, at its field where that can be told.
func strictly(body []byte, into any) error {
	decoder := json.NewDecoder(bytes.NewReader(body))
	decoder.DisallowUnknownFields()
	err := decoder.Decode(into)
	if kind, is := err.(*json.UnmarshalTypeError); is {
		return studio.Problems{studio.Flaw(kind.Field, "cannot be a %s", kind.Value)}
	}
	if err != nil {
		return studio.Problems{{Message: strings.TrimPrefix(err.Error(), "json: ")}}
	}
	return nil
}

// from are problems with the places of those at a thing beginning there.
func from(problems studio.Problems, at string) studio.Problems {
	for i := range problems {
		if rest, here := strings.CutPrefix(problems[i].Place, at); here {
			rest = strings.TrimPrefix(rest, " ")
			name, _ := strconv.QuotedPrefix(rest) // an entry that has a name is known by it
			problems[i].Place = strings.TrimPrefix(rest[len(name):], ".")
		}
	}
	return problems
}

// Without is a document without a thing; refused, with all that uses it, where something does.
func Without(doc *studio.Document, kind Kind, id studio.ID) (without *studio.Document, was any, err error) {
	of := list(doc, kind)
	if !of.IsValid() {
		return nil, nil, NoKind{kind}
	}
	was, at := Thing(doc, kind, id)
	if was == nil {
		return nil, nil, Missing{kind}
	}
	if uses := Uses(doc, id); len(uses) > 0 {
		return nil, nil, InUse{Name: NameOf(was), By: uses}
	}
	copied := *doc
	without = &copied
	next := reflect.MakeSlice(of.Type(), 0, of.Len())
	next = reflect.AppendSlice(reflect.AppendSlice(next, of.Slice(0, at)), of.Slice(at+1, of.Len()))
	list(without, kind).Set(next)
	return without, was, nil
}

// Use is something that refers to a thing: which list of the document it is in, and what it is called.
type Use struct {
	Of   string    `json:"of" doc:"the list of the document"`
	ID   studio.ID `json:"id"`
	Name string    `json:"name"`
}

// InUse says what uses a thing.
type InUse struct {
	Name string
	By   []Use
}

func (u InUse) Error() string {
	names := make([]string, 0, len(u.By))
	for _, use := range u.By {
		if !slices.Contains(names, use.Name) {
			names = append(names, use.Name)
		}
	}
	const most = 5
	if more := len(names) - most; more > 0 {
		names = append(names[:most], fmt.Sprintf("%d more", more))
	}
	return fmt.Sprintf("%s is used by %s; it can be taken out of use instead", u.Name, strings.Join(names, ", "))
}

// Uses are all entries of a document's lists that refer to a thing, itself left out; of recipes only the latest
// revisions and those that orders name. It reads the whole document once.
func Uses(doc *studio.Document, id studio.ID) (uses []Use) {
	live := map[studio.ID]bool{}
	for _, r := range doc.Current() {
		live[r.ID] = true
	}
	for i := range doc.Orders {
		for _, l := range doc.Orders[i].Lines {
			live[l.Recipe] = true
		}
	}
	of := reflect.ValueOf(doc).Elem()
	for i := range of.NumField() {
		entries := of.Field(i)
		if entries.Kind() != reflect.Slice {
			continue
		}
		name, _, _ := strings.Cut(of.Type().Field(i).Tag.Get("json"), ",")
		for n := range entries.Len() {
			one := entries.Index(n)
			use := Use{Of: name, ID: identified(one), Name: called(one, name)}
			if use.ID != id && refers(one, id) && (name != "recipes" || live[use.ID]) {
				uses = append(uses, use)
			}
		}
	}
	slices.SortStableFunc(uses, func(a, b Use) int { return cmp.Compare(a.Of, b.Of) })
	return uses
}

func identified(entry reflect.Value) studio.ID {
	if entry.Kind() == reflect.Struct && entry.FieldByName("ID").IsValid() {
		return idOf(entry)
	}
	return ""
}

// called is the name of an entry, or else of its list.
func called(entry reflect.Value, of string) string {
	if entry.Kind() == reflect.Struct {
		if name := entry.FieldByName("Name"); name.IsValid() && name.Kind() == reflect.String {
			return name.String()
		}
	}
	return "what is recorded (" + of + ")"
}

// refers is true of a value that has an id anywhere in it.
func refers(v reflect.Value, id studio.ID) bool {
	switch v.Kind() {
	case reflect.String:
		return v.Type() == reflect.TypeFor[studio.ID]() && v.String() == string(id)
	case reflect.Pointer:
		return !v.IsNil() && refers(v.Elem(), id)
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() && refers(v.Field(i), id) {
				return true
			}
		}
	case reflect.Slice:
		for i := range v.Len() {
			if refers(v.Index(i), id) {
				return true
			}
		}
	case reflect.Map:
		for _, key := range v.MapKeys() {
			if refers(key, id) || refers(v.MapIndex(key), id) {
				return true
			}
		}
	}
	return false
}
