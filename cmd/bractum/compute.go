package main

import (
	"encoding/json"
	"fmt"
	"io"
	"math"
	"os"
	"strings"
	"time"

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
	Start string  `placeholder:"DATE" help:"Move it so that its now is half past eight on this day, as 2026-11-29; served from then on, its clock is today's."`
}

func (c *documentCommand) Validate() error {
	if c.Scale < 0.01 || c.Scale > 100 {
		return fmt.Errorf("--scale is %g; from 0.01 to 100 would be right", c.Scale)
	}
	if c.Load < 1 || c.Load > 1000 {
		return fmt.Errorf("--load is %d; from 1 to 1000 percent would be right", c.Load)
	}
	return nil
}

func (c *documentCommand) Run() error {
	doc := demo.Document()
	if c.Which == "season" {
		doc = demo.Season(c.Seed, c.Scale, c.Load)
	}
	if c.Start != "" {
		day, err := studio.ParseDate(c.Start)
		if err != nil {
			return fmt.Errorf("--start is %q; a day, such as %s, would be right", c.Start,
				time.Now().Format(time.DateOnly))
		}
		if err := demo.Begin(doc, day); err != nil {
			return err
		}
	}
	return write(doc)
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
	File      string  `arg:"" help:"The studio document; - reads standard input."`
	Objective string  `enum:"all,1" default:"all" help:"1 compares plans by weighted lateness alone; all by the whole objective."`
	FixedLots bool    `help:"Keep the lots as they are counted; search neither splits nor merges them."`
	Steps     *int    `help:"Steps of search after the first plan: of plan as many as a second brings or so, of explain none, where it is not said."`
	Seconds   float64 `default:"0" help:"Stop the search after so long, with the best so far; without --steps it goes on until then."`
	Seed      int64   `default:"1" help:"Where the search begins; the same steps from the same seed give the same plan."`
	Without   string  `default:"" hidden:"" help:"Neighbourhoods that the search does without, by name and comma; to measure them."`
	From      string  `default:"" help:"A plan in force to repair: what people were told for the next two days stays where it can."`
}

// options are those of planning; done is to be called when it is over.
func (c *planCommand) options() (options plan.Options, done func(), err error) {
	options = plan.Options{LatenessOnly: c.Objective == "1", FixedLots: c.FixedLots, Seed: c.Seed}
	if c.Steps != nil {
		options.Steps = *c.Steps
	}
	if c.Without != "" {
		options.Without = strings.Split(c.Without, ",")
	}
	if c.From != "" {
		if options.From, err = read(c.From, studio.ReadPlan); err != nil {
			return options, nil, err
		}
	}
	if c.Seconds == 0 {
		return options, func() {}, nil
	}
	if options.Steps == 0 {
		options.Steps = math.MaxInt32
	}
	stop := make(chan struct{})
	timer := time.AfterFunc(time.Duration(c.Seconds*float64(time.Second)), func() { close(stop) })
	options.Stop = stop
	return options, func() { timer.Stop() }, nil
}

func (c *planCommand) Validate() error {
	switch {
	case c.Steps != nil && (*c.Steps < 0 || *c.Steps > math.MaxInt32):
		return fmt.Errorf("--steps is %d; from 0 to %d would be right", *c.Steps, math.MaxInt32)
	case c.Seconds < 0 || c.Seconds > 86_400:
		return fmt.Errorf("--seconds is %g; from 0 to 86400 would be right", c.Seconds)
	case c.File == "-" && c.From == "-":
		return fmt.Errorf("only one of document and plan can come from standard input")
	}
	return nil
}

func (c *planCommand) Run() error {
	made, _, _, _, err := c.make(plan.UsualSteps)
	if err != nil {
		return err
	}
	fmt.Fprintf(
		os.Stderr,
		"weighted lateness %d after %d steps; no plan is below %d\n",
		made.Objective.Lateness,
		made.Steps,
		*made.Bound,
	)
	return write(made)
}

// make plans; usual says how many steps of search are made where neither they nor a time are said,
// and no plan is repaired.
func (c *planCommand) make(
	usual func(*studio.Document, *count.Result) int,
) (*studio.Plan, *studio.Document, *count.Result, plan.Options, error) {
	doc, err := read(c.File, studio.Read)
	if err != nil {
		return nil, nil, nil, plan.Options{}, err
	}
	counted, err := count.Up(doc)
	if err != nil {
		return nil, nil, nil, plan.Options{}, err
	}
	options, done, err := c.options()
	if err != nil {
		return nil, nil, nil, plan.Options{}, err
	}
	defer done()
	if options.From != nil {
		if counted, err = count.As(doc, counted, options.From.Divided); err != nil {
			return nil, nil, nil, options, err
		}
	}
	if c.Steps == nil && c.Seconds == 0 && c.From == "" {
		options.Steps = usual(doc, counted)
	}
	made, err := plan.Make(doc, counted, options)
	return made, doc, counted, options, err
}

type explainCommand struct{ planCommand }

func (c *explainCommand) Run() error {
	none := func(*studio.Document, *count.Result) int { return 0 } // each cause is planned without
	made, doc, counted, options, err := c.make(none)
	if err != nil {
		return err
	}
	options.Steps, options.Stop = made.Steps, nil
	explanation, err := plan.Explain(doc, counted, made, options, nil)
	if err != nil {
		return err
	}
	return write(explanation)
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
