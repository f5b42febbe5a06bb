package api

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/studio"
	"bractum/picture"
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
	beside(s, to, post("/book/colourways/{id}/preview", "preview-colourway", "",
		"What a changed colourway would do; nothing is written"),
		func(ctx context.Context, at *moment, in *preview) (Effect, error) {
			return at.effectOn(ctx, at.recoloured(in.ID, in.Body))
		})
	type write struct {
		Who
		ID   studio.ID `path:"id" format:"uuid"`
		Seen int64     `header:"If-Match" required:"true" doc:"the version that was seen, 0 for a new colourway"`
		Body ColourwayBody
	}
	fact(s, to, put("/book/colourways/{id}", "write-colourway", "colourway written",
		"Write a colourway whose version was seen"),
		func(c *change, in *write) (Entered, error) {
			if problems := c.at.recoloured(in.ID, in.Body).Validate(); len(problems) > 0 {
				return Entered{}, invalid(problems)
			}
			c.Summary = fmt.Sprintf("Colourway %q written", in.Body.Name)
			return Entered{ID: in.ID, Version: in.Seen + 1,
					N: c.N()}, c.ChangeColourway(studio.Colourway{ID: in.ID, Name: in.Body.Name, Slots: in.Body.Slots},
					in.Seen)
		})
}

// recoloured is the document with a colourway as it would be.
func (at *moment) recoloured(id studio.ID, b ColourwayBody) *studio.Document {
	doc := *at.latestAnswer().Doc
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
	errand(s, to, post("/book/pictures", "keep-picture", "picture kept",
		"Keep a photo or drawing, encoded anew").taking(picture.MostBytes+1024),
		func(ctx context.Context, _ *moment, in *upload) (write func(*change) (Entered, error), err error) {
			var media string
			var clean []byte
			err = s.limit.within(ctx, "keep-picture", func(context.Context) error {
				media, clean, err = picture.Clean(in.RawBody)
				return err
			})
			if err != nil {
				return nil, huma.Error422UnprocessableEntity("the file " + err.Error() + ". Nothing was kept")
			}
			id := newID()
			return func(c *change) (Entered, error) {
				c.Summary = "Picture kept"
				return Entered{ID: id, Version: 1,
					N: c.N()}, c.AddPicture(book.Image{ID: id, Media: media, Data: clean})
			}, nil
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
	d := get("/book/pictures/{id}", "get-picture", "A kept picture").described(WayRead)
	d.Responses = map[string]*huma.Response{"200": {Description: "the picture",
		Content: map[string]*huma.MediaType{"image/png": {}, "image/jpeg": {}, "image/svg+xml": {}}}}
	huma.Register(to, d,
		func(ctx context.Context, in *one) (*shown, error) {
			p, err := s.store.Picture(ctx, in.ID)
			if err != nil {
				return nil, problem(err)
			}
			return &shown{
				ContentType: p.Media,
				Policy:      "default-src 'none'; style-src 'unsafe-inline'; sandbox",
				Cache:       "private, max-age=31536000, immutable",
				Body:        p.Data,
			}, nil
		})
}
