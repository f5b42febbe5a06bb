package api

import (
	"context"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/situation"
	"bractum/store"
)

// moment is a situation as answers are written from it.
type moment struct {
	*situation.Situation
	inForce *answer
	wished  *answer // nil when nothing is pending
	offers  []offer // other plans for what is wished, or for what is in force
}

// answer is what facts come to, as it is written for people.
type answer struct{ *situation.Answer }

// offer is a plan that was searched for, or gone back to, and awaits the lead's word.
type offer struct {
	store.Offer
	answer *answer
}

func momentOf(s *situation.Situation) *moment {
	at := &moment{Situation: s, inForce: &answer{s.InForce}}
	if s.Wished != nil {
		at.wished = &answer{s.Wished}
	}
	for _, o := range s.Offers {
		at.offers = append(at.offers, offer{Offer: o.Offer, answer: &answer{o.Answer}})
	}
	return at
}

// now is what is published: facts as they are, and what is worked out, which may be behind.
func (s *Service) now(ctx context.Context) (*moment, error) {
	at, err := s.situations.Latest(ctx)
	if err != nil {
		return nil, err
	}
	return momentOf(at), nil
}

// settled waits until what is published is worked out.
func (s *Service) settled(ctx context.Context) (*moment, error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	at, err := s.situations.Settled(ctx)
	if err != nil {
		return nil, err
	}
	return momentOf(at), nil
}

// refuseStranger refuses a person who does not work here.
func (at *moment) refuseStranger(person string) error {
	for _, p := range at.inForce.Doc.People {
		if string(p.ID) == person {
			return nil
		}
	}
	return huma.Error422UnprocessableEntity("nobody with this id works here", &huma.ErrorDetail{
		Message: "choose who is at this bench", Location: "header.Person", Value: person})
}

// earlier is a version of the plan in force that was, beside the studio as it is.
func (s *Service) earlier(ctx context.Context, at *moment, number string) (*answer, error) {
	version, err := strconv.ParseInt(number, 10, 64)
	if err != nil {
		return nil, store.NotFound{Thing: "this version of the plan"}
	}
	was, err := s.store.PlanVersion(ctx, version)
	if err != nil {
		return nil, err
	}
	return &answer{at.InForce.WithPlan(was, at.Calendar)}, nil
}

// orderName is what an order is called now.
func (at *moment) orderName(order studio.ID) string {
	for _, o := range at.Orders {
		if o.Order.ID == order {
			return o.Order.Name
		}
	}
	return string(order)
}

// latestAnswer is the plan for all wishes, accepted or not.
func (at *moment) latestAnswer() *answer {
	if at.wished != nil {
		return at.wished
	}
	return at.inForce
}

// options are those of a plan that somebody waits for and may stop waiting for.
func options(ctx context.Context) plan.Options {
	return plan.Options{FixedLots: true, Stop: ctx.Done(), Abandon: ctx.Done()}
}
