package bench

import (
	"bractum/core/paste"
	"bractum/core/studio"
)

// Weigh records what was weighed for a mixing, in the order of its ingredients, and begins
// it if nobody has; what was weighed is used. It is refused while something is still to
// weigh.
func (b Bench) Weigh(task, person studio.ID, weighed []studio.Milligrams) (studio.WorkLot, []studio.Movement, error) {
	lot, step, err := b.find(task)
	if err != nil {
		return lot, nil, err
	}
	r := b.book.Of(lot.Made())
	if r.Kind != studio.KindMix || step.Key != r.Steps[0].Key {
		return lot, nil, studio.Refuse("%q is no mixing; only what is mixed is weighed in", r.Name)
	}
	portions := paste.Weigh(r, studio.Milligrams(lot.Started), b.doc.Settings.ScaleStepMilligrams)
	if len(weighed) != len(portions) {
		return lot, nil, studio.Refuse(
			"%d weights are given; %q has %d ingredients",
			len(weighed),
			r.Name,
			len(portions),
		)
	}
	given := make([]*studio.Milligrams, len(weighed))
	for i := range weighed {
		if weighed[i] < 0 || weighed[i] > 50_000_000 {
			return lot, nil, studio.Refuse("a weight of %s cannot be", weighed[i])
		}
		given[i] = &weighed[i]
	}
	if w := paste.WeighIn(portions, given, b.doc.Settings.ScaleStepMilligrams); !w.Done {
		for i, line := range w.Lines {
			if line.Pour > 0 {
				return lot, nil, studio.Refuse(
					"%s of ingredient %d of %q are still to weigh",
					line.Pour,
					i+1,
					r.Name,
				)
			}
		}
	}
	var moved []studio.Movement
	record := lot.Record(step.Key)
	if record == nil {
		if lot, err = b.begin(lot, step, task, person, false); err != nil {
			return lot, nil, err
		}
		moved, record = b.begins(lot), lot.Record(step.Key)
	}
	switch {
	case record.State == studio.TaskDone:
		return lot, nil, studio.Refuse("%q is mixed already", r.Name)
	case len(record.Weighed) > 0:
		return lot, nil, studio.Refuse("%q is weighed in already; take that back first", r.Name)
	}
	record.Weighed = weighed
	for i, p := range portions {
		if weighed[i] == 0 {
			continue
		}
		if p.Mix != "" {
			moved = append(moved, b.take(lot, studio.Made{Recipe: p.Mix}, nil, int64(weighed[i]))...)
		} else {
			moved = append(moved, studio.Movement{Kind: studio.UsedUp, Material: p.Material, Amount: -int64(weighed[i])})
		}
	}
	return lot, moved, nil
}

// mixed is how much of a mix was weighed in, its blend without its additives; 0 where it
// was not.
func mixed(lot studio.WorkLot, r *studio.Recipe) (sum studio.Milligrams) {
	if r.Kind != studio.KindMix {
		return 0
	}
	if record := lot.Record(r.Steps[0].Key); record != nil {
		for _, weighed := range record.Weighed[:min(len(r.Blend), len(record.Weighed))] {
			sum += weighed
		}
	}
	return sum
}
