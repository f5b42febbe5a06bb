// Command bractum is the program: it serves the application and answers from
// the command line what the core can compute of a studio document.
package main

import (
	"errors"
	"fmt"
	"os"

	"github.com/alecthomas/kong"
)

// Exit codes: an answer, breaches found, unusable input.
const (
	exitAnswer   = 0
	exitBreaches = 1
	exitUnusable = 2
)

// version is set where a release is built.
var version = "built from the source"

type commands struct {
	Document documentCommand  `cmd:"" help:"Write a studio document."`
	Count    countCommand     `cmd:"" help:"Count up a studio document: lots, links and workings as JSON."`
	Plan     planCommand      `cmd:"" help:"Plan a studio document: who does what when, as JSON."`
	Explain  explainCommand   `cmd:"" help:"Plan a studio document, and explain the plan: what sets each date, how full people and places are, what is scarcest."`
	Promise  promiseCommand   `cmd:"" help:"Say whether an order can be taken on: by when, on what condition, what it hangs on and what it costs."`
	Risk     riskCommand      `cmd:"" help:"Replay a plan many times with drying, minutes, breakage, deliveries and people away drawn from their spreads: how sure each order is."`
	Rehearse rehearseCommand  `cmd:"" help:"Play a studio through weeks as they might go, as Bractum would run it and as a notebook would: orders in time, pieces thrown away, overtime, paste and wire used."`
	Check    checkCommand     `cmd:"" help:"Check a plan against its document; names every breach."`
	Export   exportCommand    `cmd:"" help:"Write recipes with all they need as a file, or the parts table of one as CSV."`
	Import   importCommand    `cmd:"" help:"Take in a file of recipes, all of it or nothing; says first what it would bring."`
	Verify   verifyCommand    `cmd:"" help:"Look through a studio's file: damage, loose ends, balances against the ledger; names every flaw."`
	Backup   backupCommand    `cmd:"" help:"Write a backup of a studio, also while it is served."`
	Restore  restoreCommand   `cmd:"" help:"Put a backup into an empty folder."`
	Password passwordCommand  `cmd:"" help:"Give somebody a password and make them lead, at the studio's own computer."`
	Serve    serveCommand     `cmd:"" help:"Serve a studio's application, on 127.0.0.1 if nothing else is said."`
	Demo     demoCommand      `cmd:"" help:"Serve the demo studio, Pellowen Yard."`
	Scale    scaleCommand     `cmd:"" help:"Stand in for a scale on 127.0.0.1."`
	Version  kong.VersionFlag `help:"Say which Bractum this is."`
	OpenAPI  openAPICommand   `cmd:"" name:"openapi" help:"Write the description of the HTTP interface."`
}

func main() {
	var cli commands
	parser, err := kong.New(
		&cli,
		kong.Name("bractum"),
		kong.Description("Sugar flowers, counted, mixed, wired, dried and planned."),
		kong.Vars{"version": version},
		kong.UsageOnError(),
		kong.Exit(func(code int) {
			if code != 0 {
				code = exitUnusable
			}
			os.Exit(code)
		}),
	)
	if err != nil {
		panic(err)
	}
	context, err := parser.Parse(os.Args[1:])
	parser.FatalIfErrorf(err)
	if err := context.Run(); err != nil {
		var breaches breachesFound
		if errors.As(err, &breaches) {
			os.Exit(exitBreaches)
		}
		fmt.Fprintln(os.Stderr, err)
		os.Exit(exitUnusable)
	}
	os.Exit(exitAnswer)
}
