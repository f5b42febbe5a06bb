package studio

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
