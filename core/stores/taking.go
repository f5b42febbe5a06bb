package stores

import (
	"fmt"

	"bractum/core/studio"
)

// Counted is what somebody found of a thing, and what the books said when it was counted.
type Counted struct {
	Thing
	Amount Measured `json:"amount"`
	Seen   int64    `json:"seen" doc:"what the books said, in the unit it is kept in"`
}

// StockDifference is what was found beside what the books say.
type StockDifference struct {
	Thing
	Name  string      `json:"name"`
	Unit  studio.Unit `json:"unit"`
	Books int64       `json:"books"`
	Found int64       `json:"found"`
}

// Differences compares what was counted with the books. A count below nothing, in a unit
// that does not fit, or of a thing that has moved since, is refused.
func Differences(doc *studio.Document, counts []Counted) ([]StockDifference, error) {
	seen := map[Thing]bool{}
	all := []StockDifference{}
	for _, c := range counts {
		f, err := find(doc, c.Thing)
		if err != nil {
			return nil, err
		}
		amount, err := c.Amount.in(f)
		switch {
		case err != nil:
			return nil, err
		case amount < 0:
			return nil, studio.Refuse(
				"a count of %g %s of %s cannot be; count what is there, from 0 on",
				c.Amount.Value,
				c.Amount.Unit,
				f.name,
			)
		case seen[c.Thing]:
			return nil, studio.Refuse("%s is counted twice; add the counts", f.name)
		case c.Seen != f.amount:
			return nil, studio.Refuse(
				"%s moved from %s to %s since it was counted; look again",
				f.name,
				f.says(c.Seen),
				f.says(f.amount),
			)
		}
		seen[c.Thing] = true
		all = append(all, StockDifference{Thing: c.Thing, Name: f.name, Unit: f.unit, Books: f.amount, Found: amount})
	}
	return all, nil
}

// TakeStock books what was counted, so that the books say what is there.
func TakeStock(doc *studio.Document, counts []Counted) (Change, error) {
	differences, err := Differences(doc, counts)
	if err != nil {
		return Change{}, err
	}
	if len(differences) == 0 {
		return Change{}, studio.Refuse("nothing was counted")
	}
	c := Change{Summary: fmt.Sprintf("Stock taken of %d", len(counts))}
	for _, d := range differences {
		c.About = append(c.About, d.ID)
		if d.Found != d.Books {
			f, err := find(doc, d.Thing)
			if err != nil {
				return Change{}, err
			}
			c.Moved = append(append(c.Moved, f.movement(studio.Counted, d.Found-d.Books)), f.release(d.Found)...)
		}
	}
	if len(differences) == 1 {
		c.Summary = fmt.Sprintf("%s: stock taken", differences[0].Name)
	}
	return c, nil
}

// Added is stock that was made outside the plan, or before Bractum was there.
type Added struct {
	Recipe    studio.ID      `json:"recipe"`
	Variant   string         `json:"variant,omitempty"`
	Colourway studio.ID      `json:"colourway,omitempty"`
	Reached   string         `json:"reached,omitempty" doc:"the last step done of pieces kept half way"`
	Amount    Measured       `json:"amount"`
	Quality   studio.Quality `json:"quality" enum:"good,second"`
	MadeOn    studio.Minute  `json:"madeOn"`
	UseBy     *studio.Minute `json:"useBy,omitempty"`
	Place     string         `json:"place,omitempty"`
}

func hasStep(r *studio.Recipe, key string) bool {
	_, i := r.Step(key)
	return i >= 0
}

// Add books stock that lies there and is in no book yet.
func Add(doc *studio.Document, a Added) (Change, error) {
	book := studio.NewBook(doc)
	made := studio.Made{Recipe: a.Recipe, Variant: a.Variant}
	r := book.Of(made)
	if r == nil {
		return Change{}, studio.Refuse("no recipe like this is in the flower book")
	}
	colours := map[string]studio.ID{}
	for _, c := range doc.Colourways {
		if c.ID == a.Colourway {
			colours = c.Slots
		}
	}
	mixes, missing := book.Resolve(made, colours)
	if len(missing) > 0 {
		return Change{}, studio.Refuse("say the colourway: %s of %s has no colour", missing[0], r.Name)
	}
	f := found{name: r.Name, unit: studio.UnitPieces}
	if r.Kind == studio.KindMix {
		f.unit = studio.UnitMilligrams
	}
	amount, err := a.Amount.in(f)
	switch {
	case err != nil:
		return Change{}, err
	case amount <= 0:
		return Change{}, studio.Refuse(
			"%g %s of %s cannot be; say how many there are",
			a.Amount.Value,
			a.Amount.Unit,
			r.Name,
		)
	case a.MadeOn < doc.Now-studio.LongestKept:
		return Change{}, studio.Refuse("%s made more than ten years ago cannot be; say when it was made", r.Name)
	case a.UseBy != nil && *a.UseBy > doc.Now+studio.MostAhead:
		return Change{}, studio.Refuse("%s that keeps for more than ten years cannot be; say until when it is good",
			r.Name)
	case a.Reached != "" && !hasStep(r, a.Reached):
		return Change{}, studio.Refuse(
			"%s has no step %q; say the last step that is done, or leave it out of what is finished",
			r.Name,
			a.Reached,
		)
	case a.MadeOn > doc.Now:
		return Change{}, studio.Refuse("%s made after now cannot be; say when it was made", r.Name)
	case a.UseBy != nil && *a.UseBy < a.MadeOn:
		return Change{}, studio.Refuse("%s would be spoilt before it was made; the use-by comes after", r.Name)
	}
	s := &studio.ShelfLot{
		Recipe:  a.Recipe,
		Variant: a.Variant,
		Mixes:   mixes,
		Reached: a.Reached,
		Quality: a.Quality,
		MadeOn:  a.MadeOn,
		UseBy:   a.UseBy,
		Place:   a.Place,
	}
	return Change{
		Summary: fmt.Sprintf("%s: %s put on the shelf", r.Name, f.says(amount)),
		Moved:   []studio.Movement{{Kind: studio.Corrected, New: s, Amount: amount}},
	}, nil
}
