package studio

import (
	"cmp"
	"slices"
)

// InBatch is which batch of how many a lot belongs to. Root is the lot that all lots of the
// batch are made for.
type InBatch struct {
	Root   ID    `json:"root"`
	Number int64 `json:"number"`
	Of     int64 `json:"of"`
}

// Batches finds the batches that lots belong to: a lot that is limited by how long its pieces
// stay as they are wanted, with the lots of its own for what it needs fresh; batches of the
// same are numbered in the order of their lots. It takes O(lots + links).
func (b *Book) Batches(lots []Lot, links []Link) map[ID]InBatch {
	at := map[ID]*Lot{}
	for i := range lots {
		at[lots[i].ID] = &lots[i]
	}
	into := map[ID]ID{} // the lot that a lot is made for
	whole := map[ID]bool{}
	for _, k := range links {
		from, to := at[k.From], at[k.To]
		if from == nil || to == nil {
			continue
		}
		above := b.Of(to.Made())
		for _, p := range above.Parts {
			if p.Step == k.Step && p.Made() == from.Made() && b.Batched(above, p) {
				into[k.From], whole[k.To] = k.To, true
			}
		}
	}
	all, of := map[ID]InBatch{}, map[string]int64{}
	for i := range lots {
		if l := &lots[i]; into[l.ID] == "" && (whole[l.ID] || b.Perishes(b.Of(l.Made()))) {
			of[l.Key]++
			all[l.ID] = InBatch{Root: l.ID, Number: of[l.Key]}
		}
	}
	for i := range lots {
		root, depth := lots[i].ID, 0
		for into[root] != "" && depth <= len(lots) {
			root, depth = into[root], depth+1
		}
		if in, known := all[root]; known {
			in.Of = of[at[root].Key]
			all[lots[i].ID] = in
		}
	}
	return all
}

// InTurn numbers batches anew, by when the first of a batch's lots is begun; those that are not
// planned come last. It takes O(lots log lots).
func InTurn(batches map[ID]InBatch, lots []Lot, begins func(lot ID) (at Minute, planned bool)) {
	first := map[ID]Minute{} // by root
	for lot, in := range batches {
		if at, planned := begins(lot); planned {
			if known, is := first[in.Root]; !is || at < known {
				first[in.Root] = at
			}
		}
	}
	alike := map[string][]ID{} // the roots of batches of the same
	for i := range lots {
		if l := &lots[i]; batches[l.ID].Root == l.ID {
			alike[l.Key] = append(alike[l.Key], l.ID)
		}
	}
	turn := map[ID]int64{}
	for _, roots := range alike {
		slices.SortStableFunc(roots, func(a, b ID) int {
			at, planned := first[a]
			other, too := first[b]
			switch {
			case planned && too:
				return cmp.Compare(at, other)
			case planned:
				return -1
			case too:
				return 1
			}
			return 0
		})
		for i, root := range roots {
			turn[root] = int64(i + 1)
		}
	}
	for lot, in := range batches {
		in.Number = turn[in.Root]
		batches[lot] = in
	}
}
