package api

import (
	"cmp"
	"context"
	"fmt"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
)

// Frame is the studio itself: what it is called, where it is, what it counts and plans by, its usual air.
type Frame struct {
	Name     string          `json:"name" minLength:"1" maxLength:"80"`
	Settings studio.Settings `json:"settings"`
	Climate  []studio.Air    `json:"climate" doc:"of each of 24 hours"`
	Zone     string          `json:"zone,omitempty" maxLength:"60" doc:"stays where it is left out"`
}

// onto is a document with the studio itself as somebody wishes it.
func (f Frame) onto(doc *studio.Document) (*studio.Document, error) {
	with := *doc
	with.Name, with.Settings, with.Climate, with.Zone = f.Name, f.Settings, f.Climate, cmp.Or(f.Zone, doc.Zone)
	if problems := with.Validate(); len(problems) > 0 {
		return nil, problems
	}
	return &with, nil
}

func (s *Service) registerFrame(to huma.API) {
	type preview struct{ Body Frame }
	beside(s, to, post("/workshop/preview", "preview-workshop", "",
		"What other settings would do to the plan; nothing is written"),
		func(ctx context.Context, at *moment, in *preview) (Effect, error) {
			doc, err := in.Body.onto(at.latestAnswer().Doc)
			if err != nil {
				return Effect{}, err
			}
			return at.effectOfFact(ctx, doc)
		})
	type frame struct {
		Who
		Body struct {
			Frame
			Was Frame `json:"was" doc:"as it was seen"`
		}
	}
	fact(s, to, put("/workshop", "write-workshop", "studio changed", "The studio's name, zone, usual air and settings"),
		func(c *change, in *frame) (Moved, error) {
			d := c.at.inForce.Doc
			seen := in.Body.Was
			if seen.Name != d.Name || cmp.Or(seen.Zone, d.Zone) != d.Zone ||
				!reflect.DeepEqual(seen.Settings, d.Settings) ||
				len(seen.Climate)+len(d.Climate) > 0 && !reflect.DeepEqual(seen.Climate, d.Climate) {
				return Moved{}, huma.Error412PreconditionFailed(
					"somebody else has changed this meanwhile; nothing of yours was written. Look at it again")
			}
			with, err := in.Body.Frame.onto(d)
			if err != nil {
				return Moved{}, err
			}
			if of := with.Settings.Manner.Language; of != "" && of != d.Settings.Manner.Language {
				if _, err := s.store.Words(of); err != nil {
					return Moved{}, studio.Problems{{Place: "settings.manner.language", Message: err.Error()}}
				}
			}
			return Moved{c.N()}, c.writeFrame(d, with)
		})
}

// writeFrame writes what of the studio itself is another than it was.
func (c *change) writeFrame(was, is *studio.Document) error {
	c.Summary = "The studio's own settings"
	if was.Name != is.Name {
		c.Summary = fmt.Sprintf("The studio is called %q", is.Name)
		if err := c.Rename(is.Name); err != nil {
			return err
		}
	}
	if was.Zone != is.Zone {
		c.Summary = "The studio is in the time zone " + is.Zone
		if err := c.SetZone(is.Zone); err != nil {
			return err
		}
	}
	if !reflect.DeepEqual(was.Settings, is.Settings) {
		if err := c.SetSettings(is.Settings); err != nil {
			return err
		}
	}
	if len(is.Climate)+len(was.Climate) > 0 && !reflect.DeepEqual(was.Climate, is.Climate) {
		return c.SetClimate(is.Climate)
	}
	return nil
}
