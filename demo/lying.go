package demo

import "bractum/core/studio"

// Lying is a lot of the demo whose pieces have lain in a wait for so long, or since all work
// on them was done if none is named: the work before was done by Teun, one task right after
// the other.
func Lying(
	doc *studio.Document,
	id studio.ID,
	recipe string,
	mixes map[string]string,
	wait string,
	pieces int64,
	since studio.Minute,
) studio.WorkLot {
	w := studio.WorkLot{
		ID:      id,
		Recipe:  ID(recipe),
		Ordinal: 1,
		Need:    pieces - pieces/10,
		Started: pieces,
		Mixes:   map[string]studio.ID{},
	}
	for slot, mix := range mixes {
		w.Mixes[slot] = ID(mix)
	}
	const each = 30
	var r studio.Recipe
	for _, r = range doc.Recipes {
		if r.ID == w.Recipe {
			break
		}
	}
	_, until := r.Step(wait)
	if wait == "" {
		until = len(r.Steps)
	}
	for i := until - 1; i >= 0; i-- {
		if r.Steps[i].Wait != nil {
			continue
		}
		end := doc.Now - since - studio.Minute(until-1-i)*each
		w.Records = append(
			[]studio.TaskRecord{
				{
					Step:   r.Steps[i].Key,
					State:  studio.TaskDone,
					Person: ID("Teun"),
					Start:  end - each,
					End:    end,
					Good:   pieces,
				},
			},
			w.Records...)
	}
	return w
}

// AtWork is the demo with what dries as the week begins: petals in moulds since Friday, cores
// since Saturday, leaves since this morning.
func AtWork() *studio.Document {
	doc := Document()
	petals := Lying(
		doc,
		ID("lying petals"),
		"Magnolia inner petal",
		map[string]string{"inner petal": "Oyster shell", "dust": "Pebble dust"},
		"dry",
		20,
		64*60,
	)
	petals.Checks = []studio.Check{{Step: "dry", At: doc.Now - 46*60, Person: ID("Ishaan"), Found: studio.FoundFirm}}
	cores := Lying(
		doc,
		ID("lying cores"),
		"Ranunculus core",
		map[string]string{"core": "Centre white"},
		"dry",
		12,
		38*60,
	)
	leaves := Lying(
		doc,
		ID("lying leaves"),
		"Eucalyptus leaf",
		map[string]string{"leaf": "Slate leaf", "leaf dust": "Leaf dust"},
		"dry",
		30,
		25,
	)
	doc.Work = []studio.WorkLot{petals, cores, leaves}
	for i := range doc.Materials { // what the petals took
		if m := &doc.Materials[i]; m.Name == "24 white wire" {
			m.OnHand -= 10
		}
	}
	for i := range doc.Work {
		doc.Work[i].Ordinal = lastOfHistory + 1
	}
	return doc
}
