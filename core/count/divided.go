package count

import (
	"cmp"
	"maps"
	"slices"

	"bractum/core/studio"
)

// Divided counts up a valid document with some groups of lots divided otherwise than the
// document says: into more lots or fewer, or mixes weighed together. Spares stay as they
// are, and no lot becomes larger than the lead, formers and soft stores allow.
func Divided(doc *studio.Document, divisions map[studio.ID]studio.Division) (*Result, error) {
	all := map[studio.ID]studio.Division{}
	for _, d := range doc.Divided {
		all[d.Group] = d
	}
	maps.Copy(all, divisions)
	divided := *doc
	divided.Divided = slices.SortedFunc(
		maps.Values(all),
		func(a, b studio.Division) int { return cmp.Compare(a.Group, b.Group) },
	)
	return Up(&divided)
}

// As counts up a valid document with groups divided as a plan has them beyond what the document says; what
// was counted, where it has nothing beyond.
func As(doc *studio.Document, counted *Result, divided []studio.Division) (*Result, error) {
	beyond := Beyond(doc, divided)
	if len(beyond) == 0 {
		return counted, nil
	}
	return Divided(doc, beyond)
}

// Beyond are divisions that a document does not say, by group.
func Beyond(doc *studio.Document, divided []studio.Division) map[studio.ID]studio.Division {
	beyond := map[studio.ID]studio.Division{}
	for _, d := range divided {
		if !slices.Contains(doc.Divided, d) {
			beyond[d.Group] = d
		}
	}
	return beyond
}

// joinedWithin is by how much more than when it was decided two weighings may be apart, and still be one.
const joinedWithin = 1440

// Joined has lots of a mix weighed with another of it, those of them that a count has, by lot.
func Joined(counted *Result, into studio.ID, lots []studio.ID) map[studio.ID]studio.Division {
	latest := map[studio.ID]studio.Minute{}
	if len(lots) > 0 {
		for i := range counted.Lots {
			latest[counted.Lots[i].ID] = counted.Lots[i].LatestStart
		}
	}
	joined := map[studio.ID]studio.Division{}
	first, known := latest[into]
	for _, id := range lots {
		if at, there := latest[id]; known && there {
			joined[id] = studio.Division{Group: id, Into: into, Within: max(first-at, at-first) + joinedWithin}
		}
	}
	return joined
}
