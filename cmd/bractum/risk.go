package main

import (
	"fmt"
	"runtime"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/risk"
	"bractum/core/studio"
)

type riskCommand struct {
	File    string `arg:"" help:"The studio document; - reads standard input."`
	Plan    string `default:"" placeholder:"PLAN" help:"The plan that is replayed; else one is made."`
	Replays int    `default:"1000" help:"How many replays are made at the most."`
	Within  int    `default:"0" help:"End sooner once every chance is known within so many thousandths."`
	Seed    uint64 `default:"1" help:"The same seed gives the same."`
	Minutes int    `default:"250" help:"How far attended time goes from what is planned: the standard deviation of its logarithm, in thousandths."`
	Late    int    `default:"100" help:"In how many of a thousand times a delivery is a day late."`
	Away    int    `default:"15" help:"In how many of a thousand days somebody is not there."`
}

func (c *riskCommand) Validate() error {
	for name, share := range map[string]int{"minutes": c.Minutes, "late": c.Late, "away": c.Away, "within": c.Within} {
		if share < 0 || share > 1000 {
			return fmt.Errorf("--%s is %d; from 0 to 1000 would be right", name, share)
		}
	}
	if c.Replays < 1 || c.Replays > 1_000_000 {
		return fmt.Errorf("--replays is %d; from 1 to 1000000 would be right", c.Replays)
	}
	return nil
}

func (c *riskCommand) Run() error {
	doc, err := read(c.File, studio.Read)
	if err != nil {
		return err
	}
	made, err := c.plan(doc)
	if err != nil {
		return err
	}
	spreads := risk.UsualSpreads()
	spreads.Minutes, spreads.Late, spreads.Away = studio.PerMille(
		c.Minutes,
	), studio.PerMille(
		c.Late,
	), studio.PerMille(
		c.Away,
	)
	chances, err := risk.Chances(doc, made, risk.Options{Spreads: spreads, Seed: c.Seed, Most: c.Replays,
		Within: studio.PerMille(c.Within), Workers: runtime.NumCPU()})
	if err != nil {
		return err
	}
	return write(chances)
}

// plan is the one that is replayed.
func (c *riskCommand) plan(doc *studio.Document) (*studio.Plan, error) {
	if c.Plan != "" {
		return read(c.Plan, studio.ReadPlan)
	}
	counted, err := count.Up(doc)
	if err != nil {
		return nil, err
	}
	return plan.Make(doc, counted, plan.Options{Steps: plan.UsualSteps(doc, counted), FixedLots: true})
}
