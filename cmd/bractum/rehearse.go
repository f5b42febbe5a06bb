package main

import (
	"fmt"
	"runtime"

	"golang.org/x/sync/errgroup"

	"bractum/core/rehearse"
	"bractum/core/studio"
)

type rehearseCommand struct {
	File      string `arg:"" help:"The studio document; - reads standard input."`
	Weeks     int    `default:"6" help:"How many weeks are played."`
	Seed      uint64 `default:"1" help:"The same seed gives the same weeks."`
	Seeds     int    `default:"1" help:"How many courses of things are played, from that seed on, beside each other."`
	Load      int    `default:"90" help:"What the orders that leave within the weeks fill of the hours that people are there, in percent."`
	Extra     int64  `default:"10" help:"How many percent more of everything the notebook begins."`
	Overnight bool   `default:"true" negatable:"" help:"The notebook leaves what dries overnight; else for as long as it usually takes."`
	Stock     bool   `default:"false" help:"The notebook looks what lies there before it makes something."`
	Turn      string `default:"leaves" enum:"leaves,asked" help:"What comes first by the notebook: what ${enum} first."`
	Stays     int    `default:"2" help:"Days before an order leaves from which on everybody stays for it, by the notebook."`
	Minutes   int    `default:"250" help:"How far attended time goes from what is planned: the standard deviation of its logarithm, in thousandths."`
	Breakage  int    `default:"1000" help:"By how much more breaks than the book says, in thousandths."`
	Late      int    `default:"100" help:"In how many of a thousand times a delivery is a day late."`
	Away      int    `default:"15" help:"In how many of a thousand days somebody is not there."`
}

func (c *rehearseCommand) Validate() error {
	for _, v := range []struct {
		name            string
		is, least, most int
	}{
		{"weeks", c.Weeks, 2, 26}, {"seeds", c.Seeds, 1, 1000}, {"load", c.Load, 1, 200},
		{"extra", int(c.Extra), 0, 200},
		{"stays", c.Stays, 0, 30}, {"minutes", c.Minutes, 0, 1000}, {"breakage", c.Breakage, 0, 5000},
		{"late", c.Late, 0, 900}, {"away", c.Away, 0, 1000},
	} {
		if v.is < v.least || v.is > v.most {
			return fmt.Errorf("--%s is %d; from %d to %d would be right", v.name, v.is, v.least, v.most)
		}
	}
	return nil
}

func (c *rehearseCommand) Run() error {
	doc, err := read(c.File, studio.Read)
	if err != nil {
		return err
	}
	o := rehearse.Usual()
	o.Weeks, o.Load = c.Weeks, c.Load
	o.Spreads.Minutes, o.Spreads.Breakage = studio.PerMille(c.Minutes), studio.PerMille(c.Breakage)
	o.Spreads.Late, o.Spreads.Away = studio.PerMille(c.Late), studio.PerMille(c.Away)
	o.Notebook = rehearse.Notebook{Extra: c.Extra, Overnight: c.Overnight, Stock: c.Stock, Turn: rehearse.Turn(c.Turn),
		Stays: studio.Minute(c.Stays) * 1440}
	reports := make([]rehearse.Report, c.Seeds)
	var beside errgroup.Group
	beside.SetLimit(runtime.NumCPU())
	for i := range reports {
		own := o
		own.Seed = c.Seed + uint64(i)
		beside.Go(func() (err error) {
			reports[i], err = rehearse.Run(doc, own)
			return err
		})
	}
	if err := beside.Wait(); err != nil {
		return err
	}
	return write(rehearse.Sum(reports))
}
