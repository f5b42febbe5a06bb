package studio

import "slices"

// inRun checks a part that is made in the run of what it goes into.
func (v *validator) inRun(place string, p PartInput) {
	part, known := v.recipes[p.Recipe]
	if !known {
		return
	}
	made, known := part.As(p.Variant)
	if !known {
		return
	}
	if made.OutputStep() < 0 {
		v.say(place+".inRun", "%q has no work to be done in a run", part.Name)
		return
	}
	if s := made.Waits(); s != nil {
		v.say(
			place+".inRun",
			"%q waits at %q before it is taken up, and nothing waits within a run; it has to be made apart",
			part.Name,
			s.Name,
		)
		return
	}
	if p.Form != "" {
		v.say(place+".form", "%q is made in the run as it is needed; only a lot has forms", part.Name)
	}
}

func (v *validator) part(place string, p PartInput) {
	part, known := v.recipes[p.Recipe]
	if !known || part.Kind == KindMix {
		v.say(place+".recipe", "no part or flower %q", p.Recipe)
		return
	}
	made, known := part.As(p.Variant)
	if !known {
		v.say(place+".variant", "%q has no variant %q", part.Name, p.Variant)
		return
	}
	if p.Sizes && (len(part.Sizes) == 0 || p.Variant != "" || len(p.Rows) > 0) {
		v.say(
			place+".sizes",
			"of %q are wanted; a part with a table of sizes, no variant and no rows would be right",
			part.Name,
		)
	}
	if p.Form != "" && !slices.ContainsFunc(part.Forms, func(f Form) bool { return f.Name == p.Form }) {
		v.say(place+".form", "%q has no form %q", part.Name, p.Form)
	}
	within(v, place+".count", p.Count, 1, MostCount)
	if p.Least != nil {
		within(v, place+".least", *p.Least, 0, p.Count)
	}
	if b := p.Between; b != nil {
		within(v, place+".between.most", b.Most, b.Least, MostCount)
		within(v, place+".count", p.Count, b.Least, b.Most)
	}
	if p.Window == nil || p.Window.From != Dry {
		v.wants(place+".wants", made, len(made.Steps), p.Wants)
	}
	if p.Window != nil {
		v.window(place+".window", made, len(made.Steps), *p.Window)
	}
	var sum int64
	for _, n := range p.Rows {
		within(v, place+".rows", n, 1, MostCount)
		sum += n
	}
	if len(p.Rows) > 0 && sum != p.Count {
		v.say(place+".rows", "hold %d pieces, the count is %d", sum, p.Count)
	}
	if len(p.At) > 0 && len(p.At) != int(p.Count) {
		v.say(place+".atMicrometres", "gives %d distances for %d pieces", len(p.At), p.Count)
	}
	if p.Set != "" && p.Set != SetOverGaps && p.Set != SetLevel && p.Set != SetAlternating {
		v.say(place+".set", "is %q; over-gaps, level or alternating would be right", p.Set)
	}
	joins := []Join{"", JoinTaped, JoinGlued, JoinWet, JoinSlotted, JoinThreaded, JoinIced}
	if !slices.Contains(joins, p.Join) {
		v.say(place+".join", "is %q; taped, glued, wet, slotted, threaded or iced would be right", p.Join)
	}
}
