package count

import (
	"cmp"
	"maps"
	"slices"

	"bractum/core/studio"
)

// Divided counts up a valid document with some groups of lots divided into more lots than
// the document says, or fewer: so many of the group that a lot names. Spares stay as they
// are, and no lot becomes larger than the lead, formers and soft stores allow.
func Divided(doc *studio.Document, lots map[studio.ID]int64) (*Result, error) {
	all := map[studio.ID]int64{}
	for _, d := range doc.Divided {
		all[d.Group] = d.Lots
	}
	maps.Copy(all, lots)
	divided := *doc
	divided.Divided = nil
	for group, n := range all {
		divided.Divided = append(divided.Divided, studio.Division{Group: group, Lots: n})
	}
	slices.SortFunc(divided.Divided, func(a, b studio.Division) int { return cmp.Compare(a.Group, b.Group) })
	return Up(&divided)
}

// Divisions are the groups that are divided otherwise in some lots than in a count, by
// group.
func Divisions(counted *Result, lots []studio.Lot) map[studio.ID]int64 {
	members := func(of []studio.Lot) map[studio.ID]int64 {
		n := map[studio.ID]int64{}
		for _, l := range of {
			if l.Group != "" && !l.InWork && !l.Decided {
				n[l.Group]++
			}
		}
		return n
	}
	usual, now := members(counted.Lots), members(lots)
	maps.DeleteFunc(now, func(group studio.ID, n int64) bool { return usual[group] == n || usual[group] == 0 })
	return now
}
