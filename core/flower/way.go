package flower

import (
	"fmt"
	"slices"

	"bractum/core/studio"
)

// Way is one way of making a recipe: itself, one of its variants, or as if a school of
// one of its techniques were chosen.
type Way struct {
	Recipe   studio.ID `json:"recipe"`
	Variant  string    `json:"variant,omitempty"`
	Question string    `json:"question,omitempty"`
	School   string    `json:"school,omitempty"`
}

// Plain is true of the recipe itself.
func (w Way) Plain() bool { return w.Variant == "" && w.School == "" }

// In gives the document in which the school is chosen, and the recipe as the way makes
// it. The error says what there is none of.
func (w Way) In(doc *studio.Document) (*studio.Document, *studio.Recipe, error) {
	i := slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool { return r.ID == w.Recipe })
	if i < 0 {
		return nil, nil, fmt.Errorf("this recipe is not in the book")
	}
	r := &doc.Recipes[i]
	if w.School != "" {
		r = r.In(w.Question, w.School)
		doc = doc.With([]studio.Recipe{*r})
	}
	made, known := r.As(w.Variant)
	if !known {
		return nil, nil, fmt.Errorf("%q has no variant %q", r.Name, w.Variant)
	}
	return doc, made, nil
}

// Reckon is the sheet of so many made that way, in the colours of a colourway.
func (w Way) Reckon(doc *studio.Document, colourway studio.ID, quantity int64) (*Sheet, error) {
	as, _, err := w.In(doc)
	if err != nil {
		return nil, err
	}
	return Reckon(
		as,
		Wanted{
			Made:     studio.Made{Recipe: w.Recipe, Variant: w.Variant},
			Colours:  doc.Colours(colourway),
			Quantity: quantity,
		},
	)
}
