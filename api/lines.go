package api

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/store"
)

// LineView is a line of the journal with all that it changed.
type LineView struct {
	store.Entry
	Touched []TouchedView    `json:"touched"`
	Moved   []store.Movement `json:"moved" doc:"of stock"`
}

// TouchedView is a thing that a command touched, by what of it differs.
type TouchedView struct {
	Thing   string        `json:"thing" doc:"what kind it is, as the journal has it"`
	Name    string        `json:"name"`
	State   string        `json:"state" enum:"new,changed,gone"`
	Changes []ValueChange `json:"changes"`
	More    int           `json:"more,omitempty" doc:"how many further differences there are"`
}

// ValueChange is a value that is another than it was; empty where there was or is none.
type ValueChange struct {
	Place string `json:"place"`
	Was   string `json:"was,omitempty"`
	Is    string `json:"is,omitempty"`
}

// mostDifferences is how many differences of a thing are told.
const mostDifferences = 60

func (s *Service) registerLines(to huma.API) {
	type line struct {
		N int64 `path:"n"`
	}
	ask(s, to, get("/journal/{n}", "get-journal-line", "A line of the journal with what was before and is after it"),
		func(ctx context.Context, at *moment, in *line) (LineView, error) {
			entry, touched, moved, err := s.store.EntryWith(ctx, in.N)
			if err != nil {
				return LineView{}, err
			}
			v := LineView{Entry: entry, Touched: []TouchedView{}, Moved: append([]store.Movement{}, moved...)}
			names := at.names()
			for _, t := range touched {
				v.Touched = append(v.Touched, differing(t, names))
			}
			for i := range v.Moved {
				m := &v.Moved[i]
				if m.Name == "" {
					m.Name = names[m.Thing]
				}
			}
			return v, nil
		})
}

// names are what everything that has an id is called, in the plan in force and as it is wished.
func (at *moment) names() map[studio.ID]string {
	names := map[studio.ID]string{}
	for _, doc := range []*studio.Document{at.inForce.Doc, at.latestAnswer().Doc} {
		for _, kind := range workshop.Kinds {
			for _, thing := range workshop.All(doc, kind) {
				names[workshop.IDOf(thing)] = workshop.NameOf(thing)
			}
		}
		for _, r := range doc.Recipes {
			names[r.ID] = r.Name
		}
		for _, c := range doc.Colourways {
			names[c.ID] = c.Name
		}
		for _, o := range doc.Orders {
			names[o.ID] = o.Name
		}
		for _, l := range doc.Shelf {
			names[l.ID] = names[l.Recipe]
		}
	}
	for id, l := range at.inForce.Lots {
		if r := at.inForce.Book.Of(l.Made()); r != nil {
			names[id] = r.Name
		}
	}
	return names
}

// differing tells what of a thing is another than it was.
func differing(t store.Touched, names map[studio.ID]string) TouchedView {
	_, id, within := strings.Cut(t.ID, "/")
	if !within {
		id = t.ID
	}
	v := TouchedView{Thing: t.Thing, Name: names[studio.ID(id)], State: "changed", Changes: []ValueChange{}}
	was, is := leaves(t.Before), leaves(t.After)
	switch {
	case len(was) == 0 || string(t.Before) == "null":
		v.State = "new"
	case len(is) == 0 || string(t.After) == "null":
		v.State = "gone"
	}
	for _, own := range []map[string]string{is, was} {
		if name := own["name"]; v.Name == "" && name != "" {
			v.Name = name
		}
	}
	all := map[string]bool{}
	for place := range maps.Keys(was) {
		all[place] = true
	}
	for place := range maps.Keys(is) {
		all[place] = true
	}
	said := func(value string) string {
		if name, known := names[studio.ID(value)]; known {
			return name
		}
		return value
	}
	for _, place := range slices.Sorted(maps.Keys(all)) {
		if was[place] == is[place] || place == "id" || strings.HasSuffix(place, ".id") {
			continue
		}
		if len(v.Changes) == mostDifferences {
			v.More++
			continue
		}
		v.Changes = append(v.Changes, ValueChange{Place: place, Was: said(was[place]), Is: said(is[place])})
	}
	return v
}

// leaves are the values that a JSON text comes down to, by their places.
func leaves(body []byte) map[string]string {
	var value any
	all := map[string]string{}
	if json.Unmarshal(body, &value) == nil {
		gather(all, "", value)
	}
	return all
}

func gather(all map[string]string, place string, value any) {
	switch value := value.(type) {
	case map[string]any:
		for key, of := range value {
			gather(all, strings.TrimPrefix(place+"."+key, "."), of)
		}
	case []any:
		for i, of := range value {
			gather(all, fmt.Sprintf("%s[%d]", place, i), of)
		}
	case string:
		all[place] = value
	case float64:
		all[place] = strconv.FormatFloat(value, 'f', -1, 64)
	case bool:
		all[place] = strconv.FormatBool(value)
	}
}
