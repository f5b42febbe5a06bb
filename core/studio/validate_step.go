package studio

import "fmt"

func (v *validator) step(place string, r *Recipe, index int) {
	s := r.Steps[index]
	if (s.Work == nil) == (s.Wait == nil) {
		v.say(place, "is work or a wait, one of the two")
		return
	}
	for i, m := range s.Mistakes {
		if m.What == "" {
			v.say(fmt.Sprintf("%s.mistakes[%d].what", place, i), "is missing; say what goes wrong")
		}
	}
	if s.Work != nil {
		v.work(place+".work", r, s.Work)
		v.wants(place+".wants", r, index, s.Wants)
		v.loses(place, r, s)
	} else {
		if s.Loses != "" || s.LosesPerMille != 0 {
			v.say(place+".loses", "is of a wait; pieces break as they are worked on")
		}
		if s.Wants != "" {
			v.say(place+".wants", "is of a wait; only work wants a piece in a state")
		}
		v.wait(place+".wait", r, index)
	}
	if s.Mend != nil {
		if s.Work == nil {
			v.say(place+".mend", "only what was worked on is mended; this is a wait")
		}
		v.work(place+".mend", r, s.Mend)
	}
	for i, w := range s.Windows {
		v.window(fmt.Sprintf("%s.windows[%d]", place, i), r, index, w)
	}
	for i, g := range s.Gates {
		if !v.gates[g] {
			v.say(fmt.Sprintf("%s.gates[%d]", place, i), "no gate %q", g)
		}
	}
	for i, h := range s.Holds {
		here := fmt.Sprintf("%s.holds[%d]", place, i)
		if _, known := v.places[h.Place]; !known {
			v.say(here+".place", "no place %q", h.Place)
		}
		within(v, here+".perSlot", h.PerSlot, 1, 10_000)
		within(v, here+".sharePerMille", h.Share, 0, 1000)
		for j, in := range h.StandIns {
			v.standIn(fmt.Sprintf("%s.standIns[%d]", here, j), h, in)
		}
		if (h.Until == "") == (h.UntilNext == "") {
			v.say(here, "ends with a step of this recipe (until) or of the one it feeds (untilNext), one of the two")
		} else if _, until := r.Step(h.Until); h.Until != "" && until < index {
			v.say(here+".until", "%q is not this step or one after it; a hold ends", h.Until)
		}
	}
}

// standIn checks a place that stands in for that of a hold: pieces dry and keep there as they do in it.
func (v *validator) standIn(here string, h Hold, in Seat) {
	place, other := v.places[h.Place], v.places[in.Place]
	switch {
	case other == nil:
		v.say(here+".place", "no place %q", in.Place)
	case in.Place == h.Place:
		v.say(here+".place", "stands in for itself")
	case place != nil && (place.In != other.In || (place.KeepsMinutes > 0) != (other.KeepsMinutes > 0)):
		v.say(here+".place", "%q stands elsewhere than %q, or keeps pieces soft otherwise; one in the same air would be right",
			other.Name, place.Name)
	}
	within(v, here+".perSlot", in.PerSlot, 0, 10_000)
	within(v, here+".pieceMilliminutes", in.PerPiece, 0, 600_000)
}

// loses checks what is said to break at a step of work.
func (v *validator) loses(place string, r *Recipe, s Step) {
	switch s.Loses {
	case "", LosesPiece, LosesNothing:
	case LosesInput:
		if r.inputsAt(s.Key) == 0 {
			v.say(place+".loses", "is input, and nothing is taken up at %q; piece or nothing would be right", s.Name)
		}
	default:
		v.say(place+".loses", "is %q; piece, input or nothing would be right", s.Loses)
	}
	within(v, place+".losesPerMille", s.LosesPerMille, 0, 900)
	if s.Loses == LosesNothing && s.LosesPerMille > 0 {
		v.say(place+".losesPerMille", "is %d at a step that loses nothing", s.LosesPerMille)
	}
}

// wants checks the state that is said to be wanted of a recipe's pieces at a step, or past
// the last by what they go into.
func (v *validator) wants(place string, r *Recipe, index int, wants Condition) {
	switch wants {
	case "", WantsAny:
	case WantsSoft, WantsFirm:
		if _, says := r.HowItDries(); !says {
			v.say(
				place,
				"is %s, and nothing says how fast %q dries; say it with dries, or a wait or window with a class",
				wants,
				r.Name,
			)
		}
	case WantsDry:
		if !r.driedBefore(index) {
			v.say(place, "is dry, and nothing dries %q before; a wait until dry, a load or a fixed time would", r.Name)
		}
	default:
		v.say(place, "is %q; soft, firm, dry or any would be right", wants)
	}
}

// driedBefore is true where pieces of a recipe have dried before a step: they wait until they
// are dry, in a machine, or for a fixed time, or a window wants them dry.
func (r *Recipe) driedBefore(step int) bool {
	for i, s := range r.Steps[:min(step+1, len(r.Steps))] {
		if w := s.Wait; w != nil && i < step && (w.State == Dry || w.Load != nil || w.Minutes > 0 ||
			w.Wished != nil && w.Wished.State == Dry) {
			return true
		}
		for _, w := range s.Windows {
			if w.From == Dry {
				return true
			}
		}
	}
	return false
}

func (v *validator) work(place string, r *Recipe, w *Work) {
	if w.Skill == "" {
		v.say(place+".skill", "is empty")
	}
	within(v, place+".setupMilliminutes", w.Setup, 0, 10_000_000)
	within(v, place+".pieceMilliminutes", w.PerPiece, 0, 10_000_000)
	if w.Setup+w.PerPiece == 0 {
		v.say(place, "takes no time; give setup or minutes for a piece")
	}
	within(v, place+".sharePerMille", w.Share, 0, 1000)
	within(v, place+".together", w.Together, 0, 10_000)
	within(v, place+".run", w.Run, 0, 10_000)
	if w.Form != "" && r.share(&Work{Form: w.Form, Share: 1}) == 1 {
		v.say(place+".form", "no form %q in this recipe", w.Form)
	}
	for i, t := range w.Tools {
		here := fmt.Sprintf("%s.tools[%d]", place, i)
		if !v.tools[t.Tool] {
			v.say(here+".tool", "no tool %q", t.Tool)
		}
		within(v, here+".number", t.Number, 0, 1000)
	}
	if w.Family == "" {
		return
	}
	if !v.families[w.Family] {
		v.say(place+".setupFamily", "no setup family %q", w.Family)
	}
	if w.Slot == "" {
		v.say(place+".setupSlot", "is empty; name the colour slot that the setup goes by")
	}
}

func (v *validator) wait(place string, r *Recipe, index int) {
	w := r.Steps[index].Wait
	drying := w.State != ""
	switch {
	case w.Load != nil:
		v.load(place, r, index)
		return
	case drying == (w.Minutes != 0):
		v.say(place, "is for drying (class, thicknessMicrometres, state) or for fixed minutes, one of the two")
	case drying:
		v.state(place+".state", w.State)
		v.drying(place, w.Drying)
	default:
		within(v, place+".minutes", w.Minutes, 1, 60*1440)
		if w.Drying != (Drying{}) && w.Wished == nil {
			v.say(place, "is for fixed minutes; class, thicknessMicrometres and method belong to drying")
		}
	}
	if w.Continues != "" {
		if s, i := r.Step(w.Continues); i < 0 || i >= index || s.Wait == nil || s.Wait.State == "" || !drying {
			v.say(place+".continues", "%q is not a wait for drying before this one", w.Continues)
		}
	}
	if wish := w.Wished; wish != nil {
		if (wish.State == "") == (wish.Minutes == 0) {
			v.say(place+".wished", "is a state or minutes, one of the two")
		} else if wish.State != "" {
			v.state(place+".wished.state", wish.State)
			v.drying(place, w.Drying)
		} else {
			within(v, place+".wished.minutes", wish.Minutes, max(1, w.Minutes), 60*1440)
		}
	}
}

func (v *validator) load(place string, r *Recipe, index int) {
	w := r.Steps[index].Wait
	within(v, place+".minutes", w.Minutes, 1, 60*1440)
	within(v, place+".load.perSlot", w.Load.PerSlot, 1, 10_000)
	if w.State != "" || w.Wished != nil || w.Continues != "" {
		v.say(place, "is a load of a machine: it takes its minutes, whatever the air")
	}
	if index > 0 && r.Steps[index-1].Work == nil {
		v.say(place, "follows a wait; loading a machine is work")
	}
	if len(w.Load.Machines) == 0 {
		v.say(place+".load.machines", "is empty; name the machines that would do")
	}
	for _, m := range w.Load.Machines {
		if v.machines[m] == nil {
			v.say(place+".load.machines", "no machine %q", m)
		}
	}
}

func (v *validator) state(place string, s State) {
	if s != Firm && s != Stiff && s != Dry {
		v.say(place, "is %q; firm, stiff or dry would be right", s)
	}
}

func (v *validator) drying(place string, d Drying) {
	if !v.classes[d.Class] {
		v.say(place+".class", "no drying class %q", d.Class)
	}
	within(v, place+".thicknessMicrometres", d.Thickness, 50, 100_000)
	if d.Method != "" && !v.methods[d.Method] {
		v.say(place+".method", "no drying method %q", d.Method)
	}
}

// window checks a window before the step of an index; inputs are measured from
// the end of their recipe.
func (v *validator) window(place string, r *Recipe, index int, w Window) {
	if w.AtLeast == 0 && w.AtMost == nil && w.From == "" && w.Before == "" {
		v.say(place, "limits nothing; give atLeastMinutes, atMostMinutes, from or before")
	}
	within(v, place+".atLeastMinutes", w.AtLeast, 0, 60*1440)
	if w.AtMost != nil && *w.AtMost < w.AtLeast {
		v.say(place, "window ends (%d min) before it starts (%d min)", *w.AtMost, w.AtLeast)
	}
	if w.AtMost != nil {
		within(v, place+".atMostMinutes", *w.AtMost, 0, 60*1440)
	}
	if _, after := r.Step(w.After); w.After != "" && (after < 0 || after >= index) {
		v.say(place+".after", "%q is not a step before this one", w.After)
	}
	if index == 0 {
		v.say(place, "is on the first step; nothing comes before it")
	} else if index < len(r.Steps) {
		from := index - 1
		if _, i := r.Step(w.After); i >= 0 {
			from = i
		}
		if first, _ := r.Task(index); from >= first {
			v.say(place, "lies within one stint, which is one task of one person; a window is between tasks")
		}
	}
	order := map[State]int{Firm: 1, Stiff: 2, Dry: 3}
	for _, s := range []State{w.From, w.Before} {
		if s != "" {
			v.state(place, s)
			v.drying(place, w.Drying)
		}
	}
	if w.From != "" && w.Before != "" && order[w.From] >= order[w.Before] {
		v.say(place, "window ends (%s) before it starts (%s)", w.Before, w.From)
	}
}
