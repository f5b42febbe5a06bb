package wire

import (
	"math/rand/v2"
	"slices"

	"bractum/core/studio"
)

// instance is one made-up week of cutting; least is the fewest full wires where the
// making of it tells, else −1.
type instance struct {
	family  string
	pieces  []Piece
	full    studio.Micrometres
	offcuts []studio.Offcut
	least   int64
}

const mm = studio.Micrometres(1000)

// instances are so many of each family, the same for the same seed.
func instances(each int, seed uint64) []instance {
	var all []instance
	for family, make := range map[string]func(*rand.Rand) instance{
		"anything": anything, "with offcuts": withOffcuts, "a quarter to a half": quarterToHalf, "threes that fill": threes,
		"threes and offcuts that fill": threesAndOffcuts, "as in a week": week, "in tenths": tenths, "any that fill": fills,
		"odd, with many offcuts": odd,
	} {
		random := rand.New(rand.NewPCG(seed, uint64(len(family))))
		for range each {
			one := make(random)
			one.family = family
			all = append(all, one)
		}
	}
	slices.SortStableFunc(all, func(a, b instance) int { return slices.Compare([]byte(a.family), []byte(b.family)) })
	return all
}

func between(r *rand.Rand, least, most int64) int64 { return least + r.Int64N(most-least+1) }

func random(r *rand.Rand, kinds int, least, most, unit studio.Micrometres, pieces int64) []Piece {
	var all []Piece
	for range kinds {
		all = append(
			all,
			Piece{
				"lot",
				studio.Micrometres(between(r, int64(least/unit), int64(most/unit))) * unit,
				between(r, 1, 2*pieces/int64(kinds)-1),
			},
		)
	}
	return all
}

func anything(r *rand.Rand) instance {
	return instance{pieces: random(r, 5+r.IntN(36), 20*mm, 350*mm, mm, 1000), full: 360 * mm, least: -1}
}

func withOffcuts(r *rand.Rand) instance {
	i := instance{pieces: random(r, 5+r.IntN(36), 30*mm, 300*mm, mm, 700), full: 360 * mm, least: -1}
	for range 1 + r.IntN(20) {
		i.offcuts = append(
			i.offcuts,
			studio.Offcut{Length: studio.Micrometres(between(r, 60, 340)) * mm, Number: between(r, 1, 12)},
		)
	}
	return i
}

func quarterToHalf(r *rand.Rand) instance {
	return instance{pieces: random(r, 20+r.IntN(21), 91*mm, 179*mm, mm, 500), full: 360 * mm, least: -1}
}

func week(r *rand.Rand) instance {
	lengths := []studio.Micrometres{45, 60, 75, 80, 95, 100, 110, 120, 140, 160, 180, 240}
	i := instance{full: 360 * mm, least: -1}
	for _, length := range lengths[:3+r.IntN(10)] {
		i.pieces = append(i.pieces, Piece{"lot", length * mm, between(r, 5, 220)})
	}
	for range r.IntN(5) {
		i.offcuts = append(
			i.offcuts,
			studio.Offcut{Length: studio.Micrometres(between(r, 60, 200)) * mm, Number: between(r, 1, 6)},
		)
	}
	return i
}

func tenths(r *rand.Rand) instance {
	return instance{pieces: random(r, 10+r.IntN(31), 30*mm, 250*mm, mm/10, 900), full: 360 * mm, least: -1}
}

func odd(r *rand.Rand) instance {
	i := instance{pieces: random(r, 20+r.IntN(36), 30*mm, 250*mm, 1, 600), full: 360 * mm, least: -1}
	for range 10 + r.IntN(31) {
		i.offcuts = append(i.offcuts, studio.Offcut{Length: studio.Micrometres(between(r, int64(60*mm),
			int64(340*mm))), Number: between(r, 1, 12)})
	}
	return i
}

// threes are cut from whole wires without any rest, three pieces each, so that the least
// is known; first-fit loses wires on them.
func threes(r *rand.Rand) instance {
	i := instance{full: 360 * mm}
	for range 4 + r.IntN(9) {
		a := between(r, 91, 140)
		b := between(r, 91, min(179, 360-91-a))
		times := between(r, 1, 50)
		i.least += times
		for _, length := range []int64{a, b, 360 - a - b} {
			i.pieces = append(i.pieces, Piece{"lot", studio.Micrometres(length) * mm, times})
		}
	}
	return i
}

func threesAndOffcuts(r *rand.Rand) instance {
	i := threes(r)
	for range 1 + r.IntN(4) {
		a, b, times := between(r, 60, 120), between(r, 60, 120), between(r, 1, 5)
		i.offcuts = append(i.offcuts, studio.Offcut{Length: studio.Micrometres(a+b) * mm, Number: times})
		i.pieces = append(
			i.pieces,
			Piece{"lot", studio.Micrometres(a) * mm, times},
			Piece{"lot", studio.Micrometres(b) * mm, times},
		)
	}
	i.pieces = i.pieces[max(0, len(i.pieces)-40):]
	i.least = -1
	return i
}

// fills are wires broken at random into up to nine pieces of at most forty lengths.
func fills(r *rand.Rand) instance {
	i := instance{full: 360 * mm}
	kinds := map[int64]bool{}
	for range 40 {
		var cuts []int64
		for left := int64(360); left > 0; {
			length := min(left, between(r, 30, 150))
			if left-length < 30 {
				length = left
			}
			cuts, left = append(cuts, length), left-length
		}
		fresh := map[int64]bool{}
		for _, c := range cuts {
			if !kinds[c] {
				fresh[c] = true
			}
		}
		if len(kinds)+len(fresh) > 40 {
			continue
		}
		times := between(r, 1, 40)
		i.least += times
		for _, c := range cuts {
			kinds[c] = true
			i.pieces = append(i.pieces, Piece{"lot", studio.Micrometres(c) * mm, times})
		}
	}
	return i
}
