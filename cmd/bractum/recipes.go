package main

import (
	"context"
	"fmt"
	"maps"
	"os"
	"slices"
	"strings"

	"github.com/google/uuid"

	"bractum/api"
	"bractum/core/book"
	"bractum/core/studio"
	"bractum/store"
)

// source is where recipes are: a studio's data folder, or a studio document.
type source struct {
	Data     string `help:"The data folder of a studio." xor:"source"`
	Document string `help:"A studio document instead; - reads standard input." xor:"source"`
}

// Validate asks for one of the two.
func (s *source) Validate() error {
	if s.Data == "" && s.Document == "" {
		return fmt.Errorf("name a studio by --data FOLDER or --document FILE")
	}
	return nil
}

// open gives the document, and the store it is from, if it is from one; the caller
// closes it.
func (s *source) open(ctx context.Context) (*studio.Document, *store.Store, error) {
	if s.Document != "" {
		doc, err := read(s.Document, studio.Read)
		return doc, nil, err
	}
	if _, err := os.Stat(s.Data); err != nil {
		return nil, nil, fmt.Errorf("no studio is at %s: %w", s.Data, err)
	}
	from, err := store.Open(ctx, s.Data, store.Options{})
	if err != nil {
		return nil, nil, err
	}
	doc, _, err := from.Document(ctx, store.Wished, clockOf)
	if err != nil {
		_ = from.Close() // the first error is the one to tell
		return nil, nil, err
	}
	return doc, from, nil
}

func clockOf(calendar studio.Calendar, standing *studio.Minute) studio.Minute {
	if standing != nil {
		return *standing
	}
	return realTime(calendar, nil)
}

type exportCommand struct {
	source
	Names []string `arg:"" optional:"" help:"Names of recipes; the whole book if none is named."`
	Parts bool     `help:"The parts table of the one recipe named, as CSV."`
	Whole bool     `help:"The whole studio instead, as a studio document: it opens in an empty folder by serve --from."`
}

func (c *exportCommand) Run() error {
	ctx := context.Background()
	doc, from, err := c.open(ctx)
	if err != nil {
		return err
	}
	if from != nil {
		defer func() { _ = from.Close() }() // nothing was written
	}
	if c.Whole {
		return write(doc)
	}
	var pages []studio.ID
	var last *studio.Recipe
	for _, name := range c.Names {
		last = nil
		for _, r := range doc.Current() {
			if r.Name == name {
				pages, last = append(pages, r.Page()), r
			}
		}
		if last == nil {
			return fmt.Errorf("no recipe %q is in the flower book", name)
		}
	}
	if c.Parts {
		if len(pages) != 1 {
			return fmt.Errorf("--parts writes the table of one recipe; %d are named", len(pages))
		}
		_, err := os.Stdout.Write(book.PartsCSV(doc, studio.NewBook(doc), last))
		return err
	}
	if from == nil {
		return write(book.Export(doc, pages...))
	}
	b, err := api.Exported(ctx, from, doc, pages...)
	if err != nil {
		return err
	}
	return write(b)
}

type importCommand struct {
	source
	File   string   `arg:"" help:"The file of recipes; - reads standard input."`
	DryRun bool     `help:"Only say what it would bring."`
	Choose []string `help:"What to do with a thing that is changed or in conflict, as ID=keep, ID=take or ID=beside; may be given again."`
	Person string   `help:"Who takes it in, by name; the first of the studio if left out."`
}

func (c *importCommand) Run() error {
	if c.File == "-" && c.Document == "-" {
		return fmt.Errorf("only one of document and recipes can come from standard input")
	}
	ctx := context.Background()
	doc, into, err := c.open(ctx)
	if err != nil {
		return err
	}
	if into != nil {
		defer func() { _ = into.Close() }() // what was written is durable already
	}
	b, err := read(c.File, book.Read)
	if err == nil {
		err = api.Cleaned(b)
	}
	if err != nil {
		return err
	}
	choices := map[studio.ID]book.Choice{}
	for _, text := range c.Choose {
		id, choice, ok := strings.Cut(text, "=")
		if !ok || choice != string(book.Keep) && choice != string(book.Take) && choice != string(book.Beside) {
			return fmt.Errorf("--choose %s is not ID=keep, ID=take or ID=beside", text)
		}
		choices[studio.ID(id)] = book.Choice(choice)
	}
	in, err := book.Examine(doc, b, choices, func() studio.ID { return studio.ID(uuid.Must(uuid.NewV7()).String()) })
	if err != nil {
		return fmt.Errorf("%s: not usable\n%w", c.File, err)
	}
	for _, t := range in.Things {
		line := fmt.Sprintf("%-9s %-13s %s %s %s", t.State, t.Kind, t.Name, t.Choice, t.Clash)
		for _, about := range slices.Sorted(maps.Keys(t.With)) {
			line += fmt.Sprintf(" %s=%v", about, t.With[about])
		}
		fmt.Fprintln(os.Stderr, strings.TrimSpace(line))
		for _, change := range t.Changes {
			fmt.Fprintf(os.Stderr, "          %s: %s → %s\n", change.Place, change.Was, change.Is)
		}
	}
	if len(in.Unskilled) > 0 {
		fmt.Fprintln(
			os.Stderr,
			"nobody has these skills, and what needs them is not planned:",
			strings.Join(in.Unskilled, ", "),
		)
	}
	if err := in.Refused(); err != nil {
		return fmt.Errorf("%w (--choose says what to do with a thing)", err)
	}
	if c.DryRun {
		return nil
	}
	if into == nil {
		in.Into(doc)
		return write(doc)
	}
	return c.take(ctx, into, doc, in)
}

// take writes what is new as one line of the journal.
func (c *importCommand) take(ctx context.Context, into *store.Store, doc *studio.Document, in *book.Intake) error {
	var person studio.ID
	for _, p := range doc.People {
		if person == "" && (c.Person == "" || p.Name == c.Person) {
			person = p.ID
		}
	}
	if person == "" {
		return fmt.Errorf("nobody called %q works here", c.Person)
	}
	_, err := into.Do(
		ctx,
		store.Command{ID: uuid.NewString(), Kind: "recipes taken in", Person: person, Now: doc.Now},
		func(tx *store.Tx) (any, error) {
			tx.Summary = fmt.Sprintf("%d recipes taken in from %s", len(in.Adds.Recipes), c.File)
			return map[string]int{"recipes": len(in.Adds.Recipes)}, tx.TakeIn(&in.Adds)
		},
	)
	return err
}
