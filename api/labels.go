package api

import (
	"context"
	"fmt"
	"net/url"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/label"
	"bractum/outside"
)

// Printed says how a label came out.
type Printed struct {
	Printed bool `json:"printed"`
}

func (s *Service) registerLabels(to huma.API) {
	type which struct {
		Lot  studio.ID `path:"lot"`
		Host string    `header:"Host" doc:"the address that the label's code leads to"`
	}
	for _, as := range []struct {
		ending, media string
		draw          func(label.Label) ([]byte, error)
	}{{ending: "svg", media: "image/svg+xml", draw: label.Label.SVG},
		{ending: "png", media: "image/png", draw: label.Label.PNG}} {
		download(
			s,
			to,
			get("/lots/{lot}/label."+as.ending, "get-label-"+as.ending, "The label of a lot's tray or box"),
			func(_ context.Context, at *moment, in *which) (*file, error) {
				l, err := at.label(in.Lot, in.Host)
				if err != nil {
					return nil, err
				}
				body, err := as.draw(l)
				return &file{ContentType: as.media, Disposition: "inline", Body: body}, err
			},
		)
	}
	ask(s, to, post("/lots/{lot}/label/print", "print-label", "",
		"Have the label printer print a label; nothing is written"),
		func(ctx context.Context, at *moment, in *which) (Printed, error) {
			printer, err := s.printer(ctx)
			if err == nil && printer == nil {
				err = outside.Say("No label printer is connected; print the label from the browser.")
			}
			if err != nil {
				return Printed{}, err
			}
			l, err := at.label(in.Lot, in.Host)
			if err != nil {
				return Printed{}, err
			}
			body, err := l.PNG()
			if err != nil {
				return Printed{}, err
			}
			return Printed{true}, printer.Print(ctx, body)
		})
}

// label is what stands on the tray or the box of a lot: its code leads to it in the
// drying room, at the address where the application was asked for it.
func (at *moment) label(lot studio.ID, host string) (label.Label, error) {
	a := at.inForce
	l := a.Lots[lot]
	if l == nil {
		return label.Label{}, huma.Error404NotFound("nothing is planned or made of this lot any more")
	}
	made := a.Book.Of(l.Made())
	_, mix := a.swatch(l.Made(), l.Mixes)
	out := label.Label{
		Name:    made.Name,
		Address: "http://" + host + "/drying?" + url.Values{"lot": {string(lot)}}.Encode(),
	}
	out.Lines = append(out.Lines, fmt.Sprintf("%d, %s", l.Alive, mix))
	for _, card := range at.room().Lying {
		if card.Lot != lot {
			continue
		}
		out.Lines = append(out.Lines, "since "+at.Calendar.Time(card.Since).Format("Mon 2 Jan 15:04"))
		if card.Dry != nil && card.Dry.Late != nil {
			out.Lines = append(out.Lines, "dry by "+at.Calendar.Time(*card.Dry.Late).Format("Mon 2 Jan 15:04"))
		}
	}
	for _, order := range a.OrdersOf(lot) {
		out.Lines = append(out.Lines, "for "+at.orderName(order))
	}
	return out, nil
}
