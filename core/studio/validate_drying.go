package studio

import "fmt"

// sensors checks where what measures the air hangs.
func (v *validator) sensors() {
	seen := map[string]bool{}
	for i, s := range v.doc.Sensors {
		place := fmt.Sprintf("sensors[%d] %q", i, s.Device)
		if s.Device == "" || seen[s.Device] {
			v.say(place+".device", "each sensor sends under a name of its own")
		}
		seen[s.Device] = true
		v.surroundings(place+".in", s.In)
	}
}

// machineDrying checks how long classes need in machines, how warm they run and what is said of them.
func (v *validator) machineDrying(place string, m *Machine) {
	if m.Warm != 0 {
		within(v, place+".tenthsCelsius", m.Warm, 200, 2500)
	}
	for _, caution := range m.Cautions {
		if flaw := nameFlaw(caution); flaw != "" {
			v.say(place+".cautions", "%s", flaw)
		}
	}
	for i, d := range m.Dries {
		at := fmt.Sprintf("%s.dries[%d]", place, i)
		if !v.classes[d.Class] {
			v.say(at+".class", "no drying class %q", d.Class)
		}
		within(v, at+".minutes", d.Minutes, 1, 7*1440)
	}
}

// lying checks what was found of a lot's pieces, and where they were put.
func (v *validator) lying(place string, w *WorkLot, recipe *Recipe) {
	wait := func(at, key string) {
		if step, i := recipe.Step(key); i < 0 || step.Wait == nil {
			v.say(at+".step", "%q is no wait of %q", key, recipe.Name)
		}
	}
	var lost int64
	for i, c := range w.Checks {
		at := fmt.Sprintf("%s.checks[%d]", place, i)
		if _, i := recipe.Step(c.Step); c.Found != FoundSpoilt || i < 0 {
			wait(at, c.Step)
		}
		within(v, at+".at", c.At, 0, v.doc.Now)
		switch c.Found {
		case FoundSoft, FoundFirm, FoundDry:
			if c.Pieces != 0 {
				v.say(at+".pieces", "only spoilt ones are counted")
			}
		case FoundSpoilt:
			lost += c.Pieces
			within(v, at+".pieces", c.Pieces, 1, w.Started)
		default:
			v.say(at+".found", "is %q; soft, firm, dry or spoilt would be right", c.Found)
		}
	}
	if lost > w.Started {
		v.say(place+".checks", "%d pieces are spoilt of %d", lost, w.Started)
	}
	for i, p := range w.Puts {
		at := fmt.Sprintf("%s.puts[%d]", place, i)
		wait(at, p.Step)
		within(v, at+".at", p.At, 0, v.doc.Now)
		v.surroundings(at+".in", p.In)
		if p.Place != "" {
			if v.places[p.Place] == nil {
				v.say(at+".place", "no place %q", p.Place)
			}
			within(v, at+".slots", p.Slots, 1, 100_000)
		}
		if p.Machine != "" {
			if v.machines[p.Machine] == nil {
				v.say(at+".machine", "no machine %q", p.Machine)
			}
			within(v, at+".slots", p.Slots, 1, 100_000)
			within(v, at+".minutes", p.Minutes, 1, 1440)
		}
	}
}
