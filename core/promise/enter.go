package promise

import (
	"fmt"
	"io"
	"slices"

	"bractum/core/studio"
)

// AskedID is the id of an order that is asked for and has none of its own.
const AskedID studio.ID = "asked"

// With is a document as it would be with an order entered, in place of one of its id where there is one. What is
// wrong with the order is answered as Problems.
func With(doc *studio.Document, order studio.Order) (*studio.Document, error) {
	order.State = studio.OrderOpen
	if problems := doc.CheckOrder(order); len(problems) > 0 {
		return nil, problems
	}
	d := *doc
	d.Orders = slices.Clone(doc.Orders)
	if i := slices.IndexFunc(d.Orders, func(o studio.Order) bool { return o.ID == order.ID }); i >= 0 {
		d.Orders[i] = order
	} else {
		d.Orders = append(d.Orders, order)
	}
	return &d, nil
}

// ReadOrder reads an order of a file for a studio: what it leaves out of ids, importance, allergies, its leaving and
// service levels takes their usual values.
func ReadOrder(r io.Reader, doc *studio.Document) (studio.Order, error) {
	o := studio.Order{ID: AskedID, Importance: 10, Allergies: []string{}, Leaving: studio.Collected}
	if err := studio.Decode(r, studio.MostBytes, &o); err != nil {
		return o, err
	}
	for i := range o.Lines {
		l := &o.Lines[i]
		if l.ID == "" {
			l.ID = studio.ID(fmt.Sprintf("%s line %d", o.ID, i+1))
		}
		if l.ServiceLevel == 0 {
			l.ServiceLevel = doc.Settings.DefaultServiceLevel
		}
	}
	return o, nil
}

// Named is an order of a document by its id or, where only one is called so, by its name: a quote, or what is promised
// already; of a direct document, what it wants. False where there is none.
func Named(doc *studio.Document, called string) (studio.ID, bool) {
	found := []studio.ID{}
	for _, o := range doc.Orders {
		if string(o.ID) == called {
			return o.ID, true
		}
		if o.Name == called && (o.State == studio.OrderOpen || o.State == studio.OrderQuote) {
			found = append(found, o.ID)
		}
	}
	if doc.Direct != nil {
		for _, w := range doc.Direct.Orders {
			if string(w.ID) == called {
				return w.ID, true
			}
		}
	}
	if len(found) != 1 {
		return "", false
	}
	return found[0], true
}
