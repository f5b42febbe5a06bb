package flower

import (
	"slices"

	"bractum/core/studio"
)

// Total is what a sheet adds up.
type Total string

// The totals of a sheet. Those of pieces, pastes, wires and materials are of a thing.
const (
	TotalSetup     Total = "setup"
	TotalAttended  Total = "attended"
	TotalElapsed   Total = "elapsed"
	TotalMass      Total = "mass"
	TotalPieces    Total = "pieces"
	TotalPaste     Total = "paste"
	TotalWires     Total = "wires"
	TotalLength    Total = "length"
	TotalMaterials Total = "materials"
)

// Difference is a total that two sheets do not share.
type Difference struct {
	What Total  `json:"what" enum:"setup,attended,elapsed,mass,pieces,paste,wires,length,materials"`
	Of   string `json:"of,omitempty" doc:"the name of the thing that it is of"`
	Unit string `json:"unit"`
	Was  int64  `json:"was"`
	Is   int64  `json:"is"`
}

// Compare lists where two sheets differ, in the order of the sheet.
func Compare(a, b *Sheet) []Difference {
	all := []Difference{}
	of := func(what Total, of, unit string, was, is int64) {
		if was != is {
			all = append(all, Difference{What: what, Of: of, Unit: unit, Was: was, Is: is})
		}
	}
	say := func(what Total, unit string, was, is int64) { of(what, "", unit, was, is) }
	say(TotalSetup, "milliminutes", int64(a.Setup), int64(b.Setup))
	say(TotalAttended, "milliminutes", int64(a.Attended), int64(b.Attended))
	say(TotalElapsed, "minutes", int64(a.Elapsed), int64(b.Elapsed))
	say(TotalMass, "mg", int64(a.Mass), int64(b.Mass))
	listed(
		a.Pieces,
		b.Pieces,
		func(p Pieces) string { return p.Name },
		func(p Pieces) int64 { return p.Count },
		func(name string, was, is int64) { of(TotalPieces, name, "pieces", was, is) },
	)
	listed(
		a.Pastes,
		b.Pastes,
		func(p Paste) string { return p.Name },
		func(p Paste) int64 { return int64(p.Mass) },
		func(name string, was, is int64) { of(TotalPaste, name, "mg", was, is) },
	)
	named := func(w Wires) string { return w.Name }
	listed(
		a.Wires,
		b.Wires,
		named,
		func(w Wires) int64 { return w.Number },
		func(name string, was, is int64) { of(TotalWires, name, "pieces", was, is) },
	)
	listed(
		a.Wires,
		b.Wires,
		named,
		func(w Wires) int64 { return w.Number * int64(w.Length) },
		func(name string, was, is int64) { of(TotalLength, name, "µm", was, is) },
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
		func(name string, was, is int64) { of(TotalMaterials, name, string(units[name]), was, is) },
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
