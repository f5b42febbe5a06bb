package api

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"bractum/calendar"
	"bractum/core/book"
	"bractum/core/room"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/store"
)

// WorkshopView is what of a studio is neither order, recipe nor fact.
type WorkshopView struct {
	N             int64                 `json:"n"`
	Name          string                `json:"name"`
	Zone          string                `json:"zone"`
	Settings      studio.Settings       `json:"settings"`
	Climate       []studio.Air          `json:"climate" doc:"the usual air of the room in each of 24 hours"`
	People        []studio.Person       `json:"people"`
	Places        []studio.Place        `json:"places"`
	Surroundings  []studio.Surroundings `json:"surroundings"`
	Tools         []studio.Tool         `json:"tools"`
	Machines      []studio.Machine      `json:"machines"`
	Materials     []studio.Material     `json:"materials"`
	Suppliers     []studio.Supplier     `json:"suppliers"`
	DryingClasses []studio.DryingClass  `json:"dryingClasses"`
	DryingMethods []studio.Method       `json:"dryingMethods"`
	SetupFamilies []studio.Family       `json:"setupFamilies"`
	Mixes         []Named               `json:"mixes" doc:"of the flower book, for changes of colour"`
	Parts         []Named               `json:"parts"`
	Skills        []string              `json:"skills" doc:"that recipes ask for or somebody has"`
}

func (at *moment) workshop() WorkshopView {
	d := at.inForce.Doc
	v := WorkshopView{N: at.N, Name: d.Name, Zone: d.Zone, Settings: d.Settings,
		Climate: append([]studio.Air{}, d.Climate...),
		People:  append([]studio.Person{}, d.People...), Places: append([]studio.Place{}, d.Places...),
		Surroundings: append([]studio.Surroundings{}, d.Surroundings...), Tools: append([]studio.Tool{}, d.Tools...),
		Machines: append([]studio.Machine{}, d.Machines...), Materials: append([]studio.Material{}, d.Materials...),
		Suppliers:     append([]studio.Supplier{}, d.Suppliers...),
		DryingClasses: append([]studio.DryingClass{}, d.DryingClasses...),
		DryingMethods: append([]studio.Method{}, d.Methods...), SetupFamilies: append([]studio.Family{}, d.Families...),
		Mixes: []Named{}, Parts: []Named{}, Skills: append([]string{}, workshop.Skills(d)...),
	}
	for _, r := range d.Current() {
		switch r.Kind {
		case studio.KindMix:
			v.Mixes = append(v.Mixes, Named{ID: r.ID, Name: r.Name})
		case studio.KindPart:
			v.Parts = append(v.Parts, Named{ID: r.ID, Name: r.Name})
		}
	}
	return v
}

// UsualView is what can be taken into a workshop as it is.
type UsualView struct {
	workshop.Usual
	Flowers []Named `json:"flowers" doc:"by their pages"`
}

// usual is what the starter has beyond a document.
func (s *Service) usual(doc *studio.Document) UsualView {
	from := &studio.Document{}
	if s.beginnings.Starter != nil {
		from = s.beginnings.Starter(true)
	}
	v := UsualView{Usual: workshop.Beyond(from, doc), Flowers: []Named{}}
	for _, r := range workshop.FlowersBeyond(from, doc) {
		v.Flowers = append(v.Flowers, Named{ID: r.Page(), Name: r.Name})
	}
	return v
}

// AwayView is when somebody is away by a calendar of theirs.
type AwayView struct {
	Away      []studio.Date `json:"away"`
	AwayTimes []studio.Span `json:"awayTimes"`
}

// ThingBody is a thing of a workshop as it was seen and as it is to be; nothing where it was or will not be there.
type ThingBody struct {
	Was json.RawMessage `json:"was,omitempty" doc:"as it was seen; left out of what is new"`
	Is  json.RawMessage `json:"is,omitempty" doc:"as it is to be; left out to take it away"`
}

// changedOf is a document with a thing as somebody wishes it, and what that was and is.
func (b ThingBody) changedOf(
	doc *studio.Document,
	kind workshop.Kind,
	id studio.ID,
) (with *studio.Document, was, is any, err error) {
	if was, _ = workshop.Thing(doc, kind, id); b.Was == nil && was != nil || b.Was != nil && !b.saw(kind, was) {
		return nil, nil, nil, huma.Error412PreconditionFailed(
			"somebody else has changed this meanwhile; nothing of yours was written. Look at it again")
	}
	if b.Is == nil {
		with, was, err = workshop.Without(doc, kind, id)
		return with, was, nil, err
	}
	with, was, is, err = workshop.With(doc, kind, b.Is)
	if err == nil {
		if thing, _ := workshop.Thing(with, kind, id); thing == nil {
			err = studio.Problems{studio.Flaw("id", "is another than that of the address")}
		}
	}
	return with, was, is, err
}

// saw is true where a thing is as it was seen; what is on hand of a material is not looked at.
func (b ThingBody) saw(kind workshop.Kind, is any) bool {
	seen, err := workshop.Decoded(kind, b.Was)
	if m, of := seen.(studio.Material); of && is != nil {
		m.OnHand = is.(studio.Material).OnHand
		seen = m
	}
	return err == nil && reflect.DeepEqual(seen, is)
}

func (s *Service) registerWorkshop(to huma.API) {
	kept(s, to, get("/workshop", "get-workshop", "People, places, tools, materials and settings"),
		shows{topics: []string{"book", "standards", "stores", "air", "orders", "wishes"}, planned: true},
		func(_ context.Context, at *moment, _ *none) (WorkshopView, error) { return at.workshop(), nil })
	kept(s, to, get("/workshop/usual", "list-usual", "What a workshop usually has, and this one has not"),
		shows{topics: []string{"book"}},
		func(_ context.Context, at *moment, _ *none) (UsualView, error) { return s.usual(at.inForce.Doc), nil })
	download(s, to, get("/workshop/document", "get-document", "The whole studio as a studio document"),
		func(_ context.Context, at *moment, _ *none) (*file, error) {
			data, err := json.MarshalIndent(at.latestAnswer().Doc, "", "\t")
			return &file{ContentType: "application/json", Disposition: `attachment; filename="studio.json"`,
				Body: data}, err
		})
	type usual struct {
		Page studio.ID `path:"page" format:"uuid"`
	}
	download(s, to, get("/workshop/usual/flowers/{page}", "get-usual-flower", "A usual flower as a file of recipes"),
		func(_ context.Context, _ *moment, in *usual) (*file, error) {
			for _, f := range s.usual(&studio.Document{}).Flowers {
				if f.ID == in.Page {
					data, err := json.Marshal(book.Export(s.beginnings.Starter(true), in.Page))
					return &file{ContentType: "application/json",
						Disposition: fmt.Sprintf("attachment; filename=%q", fileName(f.Name)+".json"), Body: data}, err
				}
			}
			return nil, store.NotFound{Thing: "this flower"}
		})
	type uses struct {
		Kind workshop.Kind `path:"kind"`
		ID   studio.ID     `path:"id" format:"uuid"`
	}
	ask(s, to, get("/workshop/{kind}/{id}/uses", "list-uses", "What uses a thing"),
		func(_ context.Context, at *moment, in *uses) ([]workshop.Use, error) {
			return append([]workshop.Use{}, workshop.Uses(at.latestAnswer().Doc, in.ID)...), nil
		})
	type closed struct {
		Who
		Body struct {
			Day    studio.Date `json:"day"`
			Closed bool        `json:"closed" doc:"false where it is open after all"`
		}
	}
	fact(s, to, post("/workshop/closed", "close-day", "day closed",
		"Everybody is away on a day, or is there after all"),
		func(c *change, in *closed) (Moved, error) {
			c.Summary = fmt.Sprintf("The studio is closed on %s", in.Body.Day)
			if !in.Body.Closed {
				c.Summary = fmt.Sprintf("The studio is open on %s after all", in.Body.Day)
			}
			for _, p := range workshop.Closed(c.at.inForce.Doc, in.Body.Day, in.Body.Closed) {
				if err := c.PutThing(workshop.People, p.ID, p); err != nil {
					return Moved{}, err
				}
			}
			return Moved{c.N()}, nil
		})
	type calendarFile struct {
		RawBody []byte `contentType:"application/octet-stream"`
	}
	ask(s, to, post("/workshop/calendar", "read-calendar", "",
		"The days and times away that an iCalendar file has within a year; nothing is written").
		taking(calendar.MostBytes),
		func(_ context.Context, at *moment, in *calendarFile) (AwayView, error) {
			days, times, err := calendar.Away(bytes.NewReader(in.RawBody), at.Calendar, at.Now, at.Now+366*1440)
			if err != nil {
				return AwayView{}, huma.Error422UnprocessableEntity("the file: " + err.Error())
			}
			return AwayView{append([]studio.Date{}, days...), append([]studio.Span{}, times...)}, nil
		})
	type preview struct {
		Kind workshop.Kind `path:"kind"`
		ID   studio.ID     `path:"id" format:"uuid"`
		Body ThingBody
	}
	beside(s, to, post("/workshop/{kind}/{id}/preview", "preview-thing", "",
		"What a changed thing would do to the plan; nothing is written"),
		func(ctx context.Context, at *moment, in *preview) (Effect, error) {
			doc, _, _, err := in.Body.changedOf(at.latestAnswer().Doc, in.Kind, in.ID)
			if err != nil {
				return Effect{}, refused(err)
			}
			return at.effectOfFact(ctx, doc)
		})
	type write struct {
		Who
		Kind workshop.Kind `path:"kind"`
		ID   studio.ID     `path:"id"`
		Body ThingBody
	}
	wish(s, to, put("/workshop/{kind}/{id}", "write-thing", "thing written",
		"Add, change or take away a thing of the workshop"),
		func(_ context.Context, at *moment, in *write) (func(*change) (Moved, error), error) {
			if err := uuid.Validate(string(in.ID)); err != nil {
				return nil, huma.Error422UnprocessableEntity("a thing goes by a UUID")
			}
			_, was, is, err := in.Body.changedOf(at.latestAnswer().Doc, in.Kind, in.ID)
			if err == nil && is == nil && in.Kind == workshop.Places {
				_, err = room.Remove(at.latestAnswer().Doc, at.inForce.Plan, in.ID)
			}
			return func(c *change) (Moved, error) {
				switch {
				case is == nil:
					c.Summary = workshop.NameOf(was) + " is not there any more"
					return Moved{c.N()}, c.DropThing(in.Kind, in.ID)
				case was == nil:
					c.Summary = workshop.NameOf(is) + " added"
				default:
					c.Summary = workshop.NameOf(is) + " changed"
				}
				return Moved{c.N()}, c.PutThing(in.Kind, in.ID, is)
			}, refused(err)
		})
	s.registerFrame(to)
}

// refused tells what a workshop says as the API does.
func refused(err error) error {
	var used workshop.InUse
	var kind workshop.NoKind
	var missing workshop.Missing
	switch {
	case errors.As(err, &used):
		return studio.Refuse("%s", used.Error())
	case errors.As(err, &kind):
		return huma.Error404NotFound(kind.Error())
	case errors.As(err, &missing):
		return store.NotFound{Thing: "this thing"}
	}
	return err
}
