package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"
	"slices"
	"time"

	"bractum/core/promise"
	"bractum/core/studio"
)

type promiseCommand struct {
	File    string  `arg:"" help:"The studio document; - reads standard input."`
	Order   string  `arg:"" help:"The order that is asked for: a file as docs/formats/promise.md has it, or the id or the name of an order in the document."`
	From    string  `default:"" placeholder:"PLAN" help:"The plan in force, without the order; what people were told stays where it can. Else both are planned anew."`
	At      bool    `name:"at-once" help:"Answer from what comes about at once, without a search."`
	Seconds float64 `default:"0" help:"Search for so long; else as many steps as a second brings or so, which give the same answer wherever it is made."`
	Write   string  `name:"write" default:"" placeholder:"FILE" help:"Write the plan that the answer is of to this file."`
}

func (c *promiseCommand) Validate() error {
	if c.Seconds < 0 || c.Seconds > 86_400 {
		return fmt.Errorf("--seconds is %g; from 0 to 86400 would be right", c.Seconds)
	}
	return nil
}

func (c *promiseCommand) Run() error {
	doc, err := read(c.File, studio.Read)
	if err != nil {
		return err
	}
	q := promise.Question{}
	if q.Doc, q.Order, err = c.asked(doc); err != nil {
		return err
	}
	if c.From != "" {
		if q.From, err = read(c.From, studio.ReadPlan); err != nil {
			return err
		}
		q.Before = q.From
	}
	a, err := c.answer(q)
	if err != nil {
		return err
	}
	if c.Write != "" {
		data, err := json.MarshalIndent(a.Plan, "", "  ")
		if err != nil {
			return err
		}
		if err := os.WriteFile(c.Write, data, 0o600); err != nil {
			return err
		}
	}
	return write(a)
}

func (c *promiseCommand) answer(q promise.Question) (*promise.Answer, error) {
	if c.At {
		return promise.Ask(q)
	}
	search, err := promise.UsualSearch(q)
	if err != nil {
		return nil, err
	}
	if c.Seconds > 0 {
		stop := make(chan struct{})
		timer := time.AfterFunc(time.Duration(c.Seconds*float64(time.Second)), func() { close(stop) })
		defer timer.Stop()
		search.Steps, search.Stop = promise.UntilStopped, stop
	}
	return promise.Look(q, search)
}

// asked is the document with the order that is asked for.
func (c *promiseCommand) asked(doc *studio.Document) (*studio.Document, studio.ID, error) {
	if id, there := promise.Named(doc, c.Order); there {
		if doc.Direct != nil {
			return doc, id, nil
		}
		i := slices.IndexFunc(doc.Orders, func(o studio.Order) bool { return o.ID == id })
		with, err := promise.With(doc, doc.Orders[i])
		return with, id, err
	}
	if doc.Direct != nil {
		return nil, "", fmt.Errorf(
			"the document has no order %q; of a direct document one of its own would be right",
			c.Order,
		)
	}
	order, err := read(c.Order, func(r io.Reader) (*studio.Order, error) {
		o, err := promise.ReadOrder(r, doc)
		return &o, err
	})
	if err != nil {
		return nil, "", err
	}
	with, err := promise.With(doc, *order)
	if err != nil {
		return nil, "", fmt.Errorf("%s: not usable\n%w", c.Order, err)
	}
	return with, order.ID, nil
}
