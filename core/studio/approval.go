package studio

import (
	"fmt"
	"slices"
)

// Approval is a client's word that is waited for before the whole amount of a mix is weighed: a dried sample of its
// colour is made, sent, and approved or changed.
type Approval struct {
	ID  ID `json:"id"`
	Mix ID `json:"mix"`
	// By is when the client's word is expected; what waits for it is planned from then on.
	By    WallTime      `json:"by"`
	State ApprovalState `json:"state"`
	Note  string        `json:"note,omitempty"`
}

// ApprovalState is how far an approval has come.
type ApprovalState string

// States of an approval: the sample is to be made, is sent, is approved; or the client wants another, which is an
// approval of its own.
const (
	SampleToMake ApprovalState = "to-make"
	SampleSent   ApprovalState = "sent"
	Approved     ApprovalState = "approved"
	AnotherOne   ApprovalState = "another"
)

// Awaited is true of an approval that is still waited for.
func (a Approval) Awaited() bool { return a.State == SampleToMake || a.State == SampleSent }

// Approvals are the approvals of open orders that are waited for, as gates: none opens before now.
func (d *Document) Approvals(c Calendar) (gates []Gate) {
	for i := range d.Orders {
		o := &d.Orders[i]
		for _, a := range o.Approvals {
			if o.State == OrderOpen && a.Awaited() {
				opens := max(d.Now, c.Minute(a.By))
				gates = append(gates, Gate{ID: a.ID, Name: fmt.Sprintf("%s approved for %s", d.mixName(a.Mix), o.Name),
					Opens: &opens})
			}
		}
	}
	return gates
}

func (d *Document) mixName(id ID) string {
	for i := range d.Recipes {
		if d.Recipes[i].ID == id {
			return d.Recipes[i].Name
		}
	}
	return string(id)
}

// ApprovedBy is until when a client's word on an approval of an order is in time: the latest minute at which the first
// of the lots that wait for it may be begun; false where none does.
func (p *Plan) ApprovedBy(order ID, a Approval) (latest Minute, waits bool) {
	for i := range p.Lots {
		l := &p.Lots[i]
		if a.Awaited() && l.Recipe == a.Mix && !l.InWork && (!waits || l.LatestStart < latest) &&
			slices.ContainsFunc(l.For, func(c Claim) bool { return c.Order == order }) {
			latest, waits = l.LatestStart, true
		}
	}
	return latest, waits
}

// approved are the approvals that a lot of a mix waits for: those of the orders that it is for.
func (r *router) approved(l *Lot) (gates []ID) {
	for i := range r.doc.Orders {
		o := &r.doc.Orders[i]
		if len(o.Approvals) == 0 || o.State != OrderOpen ||
			!slices.ContainsFunc(l.For, func(c Claim) bool { return c.Order == o.ID }) {
			continue
		}
		for _, a := range o.Approvals {
			if a.Mix == l.Recipe && a.Awaited() {
				gates = append(gates, a.ID)
			}
		}
	}
	return gates
}

// mostApprovals is how many approvals one order waits for.
const mostApprovals = 40

// approvals checks what of an order a client is to approve.
func (v *validator) approvals(place string, o *Order) {
	if len(o.Approvals) > mostApprovals {
		v.say(place+".approvals", "are %d; up to %d would be right", len(o.Approvals), mostApprovals)
		return
	}
	for i, a := range o.Approvals {
		at := fmt.Sprintf("%s.approvals[%d]", place, i)
		if a.ID == "" {
			v.say(at+".id", "is empty; give every thing an id of its own")
		}
		if r := v.recipes[a.Mix]; r == nil || r.Kind != KindMix {
			v.say(at+".mix", "no mix %q is in the flower book", a.Mix)
		}
		if a.By.IsZero() {
			v.say(at+".by", "is missing; say when the client's word is expected")
		}
		if !a.Awaited() && a.State != Approved && a.State != AnotherOne {
			v.say(at+".state", "is %q; to-make, sent, approved or another would be right", a.State)
		}
		v.written(at+".note", a.Note)
	}
}
