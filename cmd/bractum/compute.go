package main

import (
	"encoding/json"
	"fmt"
	"io"
	"os"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
)

type documentCommand struct {
	Which string  `arg:"" enum:"demo,season" help:"demo: Pellowen Yard. season: its season, for load: sixty orders over six weeks."`
	Seed  uint64  `default:"1" help:"Of the season: the same seed gives the same document."`
	Scale float64 `default:"1" help:"Of the season: twice the orders over twice the weeks at 2."`
	Load  int     `default:"75" help:"Of the season: percent of the makers' hours that its work fills."`
}

func (c *documentCommand) Validate() error {
	if c.Scale < 0.01 || c.Scale > 100 {
		return fmt.Errorf("--scale is %g; from 0.01 to 100 would be right", c.Scale)
	}
	return nil
}

func (c *documentCommand) Run() error {
	if c.Which == "season" {
		return write(demo.Season(c.Seed, c.Scale, c.Load))
	}
	return write(demo.Document())
}

type countCommand struct {
	File string `arg:"" help:"The studio document; - reads standard input."`
}

func (c *countCommand) Run() error {
	doc, err := read(c.File, studio.Read)
	if err != nil {
		return err
	}
	counted, err := count.Up(doc)
	if err != nil {
		return err
	}
	return write(counted)
}

type planCommand struct {
	File      string `arg:"" help:"The studio document; - reads standard input."`
	Objective string `enum:"all,1" default:"all" help:"1 compares plans by weighted lateness alone; all by the whole objective."`
	FixedLots bool   `help:"Keep the lots as they are counted; search neither splits nor merges them."`
	Steps     int    `default:"0" help:"Steps of search after the first plan."`
	Seed      int64  `default:"1" help:"Where the search begins; the same steps from the same seed give the same plan."`
}

func (c *planCommand) options() plan.Options {
	return plan.Options{LatenessOnly: c.Objective == "1", FixedLots: c.FixedLots, Steps: c.Steps, Seed: c.Seed}
}

func (c *planCommand) Validate() error {
	if c.Steps < 0 || c.Steps > 1_000_000 {
		return fmt.Errorf("--steps is %d; from 0 to 1000000 would be right", c.Steps)
	}
	return nil
}

func (c *planCommand) Run() error {
	doc, err := read(c.File, studio.Read)
	if err != nil {
		return err
	}
	counted, err := count.Up(doc)
	if err != nil {
		return err
	}
	made, err := plan.Make(doc, counted, c.options())
	if err != nil {
		return err
	}
	return write(made)
}

type checkCommand struct {
	File string `arg:"" help:"The studio document; - reads standard input."`
	Plan string `arg:"" help:"The plan; - reads standard input."`
}

// breachesFound ends the program with its exit code once they are written.
type breachesFound int

func (b breachesFound) Error() string { return fmt.Sprintf("%d breaches", int(b)) }

func (c *checkCommand) Run() error {
	if c.File == "-" && c.Plan == "-" {
		return fmt.Errorf("only one of document and plan can come from standard input")
	}
	doc, err := read(c.File, studio.Read)
	if err != nil {
		return err
	}
	made, err := read(c.Plan, studio.ReadPlan)
	if err != nil {
		return err
	}
	report := check.Reckon(doc, made)
	if err := write(report); err != nil {
		return err
	}
	if len(report.Breaches) > 0 {
		return breachesFound(len(report.Breaches))
	}
	return nil
}

func read[T any](path string, reader func(io.Reader) (*T, error)) (*T, error) {
	in := io.Reader(os.Stdin)
	if path != "-" {
		file, err := os.Open(path)
		if err != nil {
			return nil, err
		}
		defer file.Close()
		in = file
	}
	value, err := reader(in)
	if err != nil {
		return nil, fmt.Errorf("%s: not usable\n%w", path, err)
	}
	return value, nil
}

func write(value any) error {
	out := json.NewEncoder(os.Stdout)
	out.SetIndent("", "  ")
	return out.Encode(value)
}
