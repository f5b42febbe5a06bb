package flower

import (
	"slices"

	"bractum/core/studio"
)

// Difference is a total that two sheets do not share.
type Difference struct {
	What string `json:"what"`
	Unit string `json:"unit"`
	Was  int64  `json:"was"`
	Is   int64  `json:"is"`
}

// Compare lists where two sheets differ, in the order of the sheet.
func Compare(a, b *Sheet) []Difference {
	all := []Difference{}
	say := func(what, unit string, was, is int64) {
		if was != is {
			all = append(all, Difference{what, unit, was, is})
		}
	}
	say("setup", "milliminutes", int64(a.Setup), int64(b.Setup))
	say("at the bench", "milliminutes", int64(a.Attended), int64(b.Attended))
	say("from first cut to done", "minutes", int64(a.Elapsed), int64(b.Elapsed))
	say("mass", "mg", int64(a.Mass), int64(b.Mass))
	listed(
		a.Pieces,
		b.Pieces,
		func(p Pieces) string { return p.Name },
		func(p Pieces) int64 { return p.Count },
		func(what string, was, is int64) { say(what, "pieces", was, is) },
	)
	listed(
		a.Pastes,
		b.Pastes,
		func(p Paste) string { return p.Name },
		func(p Paste) int64 { return int64(p.Mass) },
		func(what string, was, is int64) { say(what, "mg", was, is) },
	)
	of := func(w Wires) string { return w.Name }
	listed(
		a.Wires,
		b.Wires,
		of,
		func(w Wires) int64 { return w.Number },
		func(what string, was, is int64) { say(what, "pieces", was, is) },
	)
	listed(
		a.Wires,
		b.Wires,
		of,
		func(w Wires) int64 { return w.Number * int64(w.Length) },
		func(what string, was, is int64) { say(what+", in all", "µm", was, is) },
	)
	units := map[string]studio.Unit{}
	for _, m := range slices.Concat(a.Materials, b.Materials) {
		units[m.Name] = m.Unit
	}
	listed(
		a.Materials,
		b.Materials,
		func(m Amount) string { return m.Name },
		func(m Amount) int64 { return m.Amount },
		func(what string, was, is int64) { say(what, string(units[what]), was, is) },
	)
	return all
}

// listed adds up both lists by name and tells of each name, in order of appearance.
func listed[T any](a, b []T, name func(T) string, amount func(T) int64, tell func(what string, was, is int64)) {
	var names []string
	was, is := map[string]int64{}, map[string]int64{}
	for _, x := range a {
		names, was[name(x)] = append(names, name(x)), was[name(x)]+amount(x)
	}
	for _, x := range b {
		names, is[name(x)] = append(names, name(x)), is[name(x)]+amount(x)
	}
	seen := map[string]bool{}
	for _, n := range names {
		if !seen[n] {
			seen[n] = true
			tell(n, was[n], is[n])
		}
	}
}
