package studio

import "slices"

// atOnce adds the use of a tool to those of a task: of one that several of its steps use, as
// many as the one that uses most.
func atOnce(all []ToolUse, use ToolUse) []ToolUse {
	i := slices.IndexFunc(all, func(u ToolUse) bool { return slices.Equal(u.AnyOf, use.AnyOf) })
	if i < 0 {
		return append(all, use)
	}
	all[i].Number = max(all[i].Number, use.Number)
	return all
}

// runOf is how many pass in one run of the task of steps [first, past): what the recipe says,
// else what was counted for the lot; 0 is all of them.
func runOf(l *Lot, recipe *Recipe, first, past int) (run int64) {
	if recipe.Steps[first].Work == nil || recipe.Steps[first].Work.Stint == "" {
		return 0
	}
	for _, s := range recipe.Steps[first:past] {
		if s.Work.Run > 0 && (run == 0 || s.Work.Run < run) {
			run = s.Work.Run
		}
	}
	if run == 0 && l.Run > 0 { // as even as they go
		pieces := max(1, recipe.Passing(first, l.Started))
		return CeilDiv(pieces, CeilDiv(pieces, l.Run))
	}
	return run
}

// efforts are the attended times of steps that are one task, run after run of so many of the
// pieces that pass; 0 is one run.
func efforts(recipe *Recipe, first, past int, setup bool, pieces, most int64) []Effort {
	if most == 0 {
		most = pieces
	}
	var all []Effort
	for run := 0; run == 0 || pieces > 0; run++ {
		now := min(pieces, most)
		for i := first; i < past; i++ {
			s := recipe.Steps[i]
			worked := now
			if recipe.Kind != KindMix {
				worked = recipe.Pieces(i, now*recipe.unit(first))
			}
			e := Effort{Skill: s.Work.Skill, Thousandths: recipe.Effort(s.Work, setup && run == 0, worked), Run: run}
			if past-first > 1 {
				e.Pieces = worked
			}
			if setup && run == 0 {
				e.Setup = s.Work.Setup
			}
			all = append(all, e)
			for _, also := range s.Work.Also {
				all = append(all, Effort{Skill: also, Run: run})
			}
		}
		pieces -= now
	}
	return all
}

// within are the windows inside each run of the task of steps [first, past).
func (r *router) within(l *Lot, recipe *Recipe, first, past int) (all []Within) {
	if past-first < 2 {
		return nil
	}
	at := map[string]int{} // the place of a step's effort in a run
	n := 0
	for _, s := range recipe.Steps[first:past] {
		at[s.Key] = n
		n += 1 + len(s.Work.Also)
	}
	for _, limit := range recipe.runLimits(first, past, r.keeps) {
		w := Within{From: at[limit.from], To: at[limit.to], Most: Length{Minutes: limit.minutes}}
		if limit.before != "" {
			_, from := recipe.Step(limit.from)
			w.Most = Length{Dries: r.dries(l, recipe, limit.drying, limit.before, from)}
		}
		all = append(all, w)
	}
	return all
}
