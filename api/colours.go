package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/studio"
	"bractum/picture"
	"bractum/store"
)

func asJSON(value any) []byte {
	data, err := json.MarshalIndent(value, "", "  ")
	if err != nil {
		panic(err) // our own plain types always marshal
	}
	return data
}

// ColourwayBody is a colourway as it is written.
type ColourwayBody struct {
	Name  string               `json:"name" minLength:"1" maxLength:"60"`
	Slots map[string]studio.ID `json:"slots" doc:"the mix of each colour slot"`
}

// registerColours lets the lead write colourways. One changes what every open order in
// it is made of, so its effect can be seen first.
func (s *Service) registerColours(to huma.API) {
	type preview struct {
		ID   studio.ID `path:"id" format:"uuid"`
		Body ColourwayBody
	}
	command(to, http.MethodPost, "/book/colourways/{id}/preview", "preview-colourway", "What a changed colourway would do; nothing is written", func(ctx context.Context, in *preview) (Effect, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return Effect{}, err
		}
		return at.effectOn(at.recoloured(in.ID, in.Body))
	})
	type put struct {
		Who
		ID   studio.ID `path:"id" format:"uuid"`
		Seen int64     `header:"If-Match" required:"true" doc:"the version that was seen, 0 for a new colourway"`
		Body ColourwayBody
	}
	command(to, http.MethodPut, "/book/colourways/{id}", "write-colourway", "Write a colourway whose version was seen", func(ctx context.Context, in *put) (Entered, error) {
		return facts(ctx, s, func(at *situation) (Entered, error) {
			if problems := at.recoloured(in.ID, in.Body).Validate(); len(problems) > 0 {
				return Entered{}, invalid(problems)
			}
			done, err := s.do(ctx, in.Who, "colourway written", func(tx *store.Tx) (any, error) {
				if err := at.unchanged(tx); err != nil {
					return nil, err
				}
				tx.Summary = fmt.Sprintf("Colourway %q written", in.Body.Name)
				return Entered{ID: in.ID, Version: in.Seen + 1}, tx.ChangeColourway(studio.Colourway{ID: in.ID, Name: in.Body.Name, Slots: in.Body.Slots}, in.Seen)
			})
			return Entered{in.ID, in.Seen + 1, done.N}, err
		})
	})
	type add struct {
		Who
		Body Addition
	}
	command(to, http.MethodPost, "/book/things", "add-thing", "Add a material, place, tool or drying class that a recipe needs", func(ctx context.Context, in *add) (Entered, error) {
		return facts(ctx, s, func(at *situation) (Entered, error) {
			id := newID()
			adds, name := in.Body.bundle(id)
			doc := *at.latestAnswer().doc
			(&book.Intake{Adds: adds}).Into(&doc)
			if slices.Contains(namesOf(at.latestAnswer().doc), name) {
				return Entered{}, huma.Error422UnprocessableEntity(fmt.Sprintf("there is a %q already", name), &huma.ErrorDetail{Location: "body.name", Message: "is taken"})
			}
			if problems := doc.Validate(); len(problems) > 0 {
				return Entered{}, invalid(problems)
			}
			done, err := s.do(ctx, in.Who, "thing added", func(tx *store.Tx) (any, error) {
				if err := at.unchanged(tx); err != nil {
					return nil, err
				}
				tx.Summary = fmt.Sprintf("%q added", name)
				return Entered{ID: id, Version: 1}, tx.TakeIn(&adds)
			})
			return Entered{id, 1, done.N}, err
		})
	})
}

// Addition is something new that recipes can refer to: one of these.
type Addition struct {
	Material *studio.Material    `json:"material,omitempty"`
	Place    *studio.Place       `json:"place,omitempty"`
	Tool     *studio.Tool        `json:"tool,omitempty"`
	Machine  *studio.Machine     `json:"machine,omitempty"`
	Class    *studio.DryingClass `json:"dryingClass,omitempty"`
}

func (t Addition) bundle(id studio.ID) (adds book.Bundle, name string) {
	if m := t.Material; m != nil {
		m.ID, m.OnHand, name = id, 0, m.Name
		adds.Materials = []studio.Material{*m}
	}
	if p := t.Place; p != nil {
		p.ID, name = id, p.Name
		adds.Places = []studio.Place{*p}
	}
	if x := t.Tool; x != nil {
		x.ID, name = id, x.Name
		adds.Tools = []studio.Tool{*x}
	}
	if m := t.Machine; m != nil {
		m.ID, name = id, m.Name
		adds.Machines = []studio.Machine{*m}
	}
	if c := t.Class; c != nil {
		c.ID, name = id, c.Name
		adds.DryingClasses = []studio.DryingClass{*c}
	}
	return adds, name
}

func namesOf(doc *studio.Document) (all []string) {
	for _, name := range book.NamesIn(doc) {
		all = append(all, name)
	}
	return all
}

// recoloured is the document with a colourway as it would be.
func (at *situation) recoloured(id studio.ID, b ColourwayBody) *studio.Document {
	doc := *at.latestAnswer().doc
	doc.Colourways = slices.Clone(doc.Colourways)
	c := studio.Colourway{ID: id, Name: b.Name, Slots: b.Slots}
	if i := slices.IndexFunc(doc.Colourways, func(o studio.Colourway) bool { return o.ID == id }); i >= 0 {
		doc.Colourways[i] = c
	} else {
		doc.Colourways = append(doc.Colourways, c)
	}
	return &doc
}

func (s *Service) registerPictures(to huma.API) {
	type upload struct {
		Who
		RawBody []byte `contentType:"application/octet-stream"`
	}
	huma.Register(to, huma.Operation{OperationID: "keep-picture", Method: http.MethodPost, Path: "/api/book/pictures", Summary: "Keep a photo or drawing, encoded anew", MaxBodyBytes: picture.MostBytes + 1024, Errors: []int{413, 422, 503}},
		func(ctx context.Context, in *upload) (*body[Entered], error) {
			media, clean, err := picture.Clean(in.RawBody)
			if err != nil {
				return nil, huma.Error422UnprocessableEntity("the file " + err.Error() + ". Nothing was kept")
			}
			id := newID()
			done, err := s.do(ctx, in.Who, "picture kept", func(tx *store.Tx) (any, error) {
				tx.Summary = "Picture kept"
				return Entered{ID: id, Version: 1}, tx.AddPicture(book.Image{ID: id, Media: media, Data: clean})
			})
			if err != nil {
				return nil, problem(err)
			}
			return &body[Entered]{Entered{id, 1, done.N}}, nil
		})
	type one struct {
		ID studio.ID `path:"id" format:"uuid"`
	}
	type shown struct {
		ContentType string `header:"Content-Type"`
		Policy      string `header:"Content-Security-Policy"`
		Cache       string `header:"Cache-Control"`
		Body        []byte
	}
	huma.Register(to, huma.Operation{OperationID: "get-picture", Method: http.MethodGet, Path: "/api/book/pictures/{id}", Summary: "A kept picture",
		Responses: map[string]*huma.Response{"200": {Description: "the picture", Content: map[string]*huma.MediaType{"image/png": {}, "image/jpeg": {}, "image/svg+xml": {}}}}},
		func(ctx context.Context, in *one) (*shown, error) {
			p, err := s.store.Picture(ctx, in.ID)
			if err != nil {
				return nil, problem(err)
			}
			return &shown{p.Media, "default-src 'none'; style-src 'unsafe-inline'; sandbox", "private, max-age=31536000, immutable", p.Data}, nil
		})
}
