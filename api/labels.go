package api

import (
	"context"
	"fmt"
	"net/http"
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
	drawn := func(ctx context.Context, in *which) (label.Label, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return label.Label{}, err
		}
		return at.label(in.Lot, in.Host)
	}
	for _, as := range []struct {
		ending, media string
		draw          func(label.Label) ([]byte, error)
	}{{"svg", "image/svg+xml", label.Label.SVG}, {"png", "image/png", label.Label.PNG}} {
		huma.Register(to, huma.Operation{OperationID: "get-label-" + as.ending, Method: http.MethodGet, Path: "/api/lots/{lot}/label." + as.ending, Summary: "The label of a lot's tray or box"},
			func(ctx context.Context, in *which) (*file, error) {
				l, err := drawn(ctx, in)
				if err != nil {
					return nil, problem(err)
				}
				body, err := as.draw(l)
				return &file{as.media, "inline", body}, problem(err)
			})
	}
	command(to, http.MethodPost, "/lots/{lot}/label/print", "print-label", "Have the label printer print a label; nothing is written", func(ctx context.Context, in *which) (Printed, error) {
		if s.out.Printer == nil {
			return Printed{}, outside.Trouble{Message: "No label printer is connected; print the label from the browser."}
		}
		l, err := drawn(ctx, in)
		if err != nil {
			return Printed{}, err
		}
		body, err := l.PNG()
		if err != nil {
			return Printed{}, err
		}
		return Printed{true}, s.out.Printer.Print(ctx, body)
	})
}

// label is what stands on the tray or the box of a lot: its code leads to it in the
// drying room, at the address where the application was asked for it.
func (at *situation) label(lot studio.ID, host string) (label.Label, error) {
	a := at.inForce
	l := a.lots[lot]
	if l == nil {
		return label.Label{}, huma.Error404NotFound("nothing is planned or made of this lot any more")
	}
	made := a.book.Of(l.Made())
	_, mix := a.swatch(l.Made(), l.Mixes)
	out := label.Label{Name: made.Name, Address: "http://" + host + "/drying?" + url.Values{"lot": {string(lot)}}.Encode()}
	out.Lines = append(out.Lines, fmt.Sprintf("%d, %s", l.Alive, mix))
	for _, card := range at.room().Lying {
		if card.Lot != lot {
			continue
		}
		out.Lines = append(out.Lines, "since "+at.calendar.Time(card.Since).Format("Mon 2 Jan 15:04"))
		if card.Dry != nil && card.Dry.Late != nil {
			out.Lines = append(out.Lines, "dry by "+at.calendar.Time(*card.Dry.Late).Format("Mon 2 Jan 15:04"))
		}
	}
	for _, order := range a.orders[lot] {
		out.Lines = append(out.Lines, "for "+at.orderName(order))
	}
	return out, nil
}
