package flower

import (
	"slices"

	"bractum/core/count"
	"bractum/core/studio"
)

// School is one way to make a number of a flower whose parts are wanted fresh: in phases, part
// after part in batches, or in runs across its parts, so many flowers from cut to built.
type School struct {
	Runs bool `json:"runs"`
	// Chosen is true of the way in which the recipe is written.
	Chosen bool  `json:"chosen"`
	Of     int64 `json:"of"` // so many flowers
	// AtOnce is how many are made at a time, in a batch or a run; Times how often.
	AtOnce int64 `json:"atOnce"`
	Times  int64 `json:"times"`
	// Setup and Attended are minutes at a pace of 100, of the flowers and their fresh parts.
	Setup    studio.Milliminutes `json:"setupMilliminutes"`
	Attended studio.Milliminutes `json:"attendedMilliminutes"`
	// Makers are those who can do all of it alone.
	Makers []string `json:"makers"`
	// Places are what one batch or run takes of formers, trays and stands.
	Places []Room `json:"places"`
	// None is true where not even one can be made so.
	None bool `json:"none,omitempty"`
	// Inputs are those that it makes in the run, or apart, by their place in the recipe.
	Inputs []int `json:"inputs"`
}

// Room is how many slots of a kind of place are taken.
type Room struct {
	Place studio.ID `json:"place"`
	Name  string    `json:"name"`
	Slots int64     `json:"slots"`
}

// usualOrder is how many flowers schools are set side by side for, where fewer are asked for.
const usualOrder = 24

// fresh are the inputs of a recipe that can be made in its run or apart, by their index.
func fresh(book *studio.Book, r *studio.Recipe) (inputs []int) {
	for i, p := range r.Parts {
		below := book.Of(p.Made())
		if below == nil || !p.InRun && !book.Batched(r, p) || p.Form != "" || p.Sizes {
			continue
		}
		if below.OutputStep() >= 0 && below.Waits() == nil {
			inputs = append(inputs, i)
		}
	}
	return inputs
}

// schools sets making a flower in phases beside making it in runs, for as many as are wanted or as
// are usual; none where it takes up nothing fresh. It counts up both.
func schools(doc *studio.Document, book *studio.Book, w Wanted, mixes map[string]studio.ID) ([]School, error) {
	at := slices.IndexFunc(doc.Recipes, func(r studio.Recipe) bool { return r.ID == w.Recipe })
	inputs := fresh(book, &doc.Recipes[at])
	if len(inputs) == 0 {
		return nil, nil
	}
	w.Quantity = max(w.Quantity, usualOrder)
	chosen := true
	for _, i := range inputs {
		chosen = chosen && doc.Recipes[at].Parts[i].InRun
	}
	var all []School
	for _, runs := range []bool{false, true} {
		other := *doc
		other.Recipes = slices.Clone(doc.Recipes)
		other.Recipes[at].Parts = slices.Clone(doc.Recipes[at].Parts)
		for _, i := range inputs {
			other.Recipes[at].Parts[i].InRun = runs
		}
		s, err := schoolOf(&other, w, mixes)
		if err != nil {
			return nil, err
		}
		s.Runs, s.Chosen, s.Inputs = runs, runs == chosen, inputs
		all = append(all, s)
	}
	return all, nil
}

func schoolOf(doc *studio.Document, w Wanted, mixes map[string]studio.ID) (School, error) {
	s := School{Of: w.Quantity, Makers: []string{}, Places: []Room{}}
	alone := only(doc, studio.NewBook(doc), w, mixes)
	counted, err := count.Up(alone)
	if err != nil {
		return s, err
	}
	book := studio.NewBook(alone)
	limit, err := count.BatchOf(alone, book, w.Made, mixes)
	if err != nil {
		return s, err
	}
	s.None = limit.None
	batches := book.Batches(counted.Lots, counted.Links)
	root := func(lot studio.ID) studio.ID { return batches[lot].Root }
	makers := slices.Clone(alone.People)
	rooms, most := map[studio.ID]map[studio.ID]int64{}, map[studio.ID]int64{}
	for i, routing := range studio.Tasks(alone, book, counted.Lots, counted.Links).Lots {
		lot := &counted.Lots[i]
		top := lot.Recipe == w.Recipe && lot.Variant == w.Variant
		if !top && root(lot.ID) == "" {
			continue // dry before it begins, or a mix
		}
		if top {
			s.Times++
			s.AtOnce = max(s.AtOnce, lot.Started)
			if lot.Run > 0 {
				runs := studio.CeilDiv(lot.Started, lot.Run)
				s.Times, s.AtOnce = s.Times+runs-1, studio.CeilDiv(lot.Started, runs) // as even as they go
			}
		}
		of := root(lot.ID)
		if rooms[of] == nil {
			rooms[of] = map[studio.ID]int64{}
		}
		for j := range routing.Tasks {
			a := &routing.Tasks[j]
			for _, e := range a.Work {
				s.Setup, s.Attended = s.Setup+e.Setup, s.Attended+e.Total()-e.Setup
			}
			if a.Wait == nil {
				makers = slices.DeleteFunc(makers, func(p studio.Person) bool { return !a.Skilled(&p) })
			}
			for _, h := range a.Holds {
				rooms[of][h.Place] += h.Slots
				most[h.Place] = max(most[h.Place], rooms[of][h.Place])
			}
		}
	}
	for _, p := range makers {
		s.Makers = append(s.Makers, p.Name)
	}
	for _, p := range doc.Places {
		if most[p.ID] > 0 {
			s.Places = append(s.Places, Room{Place: p.ID, Name: p.Name, Slots: most[p.ID]})
		}
	}
	return s, nil
}
