package paste

import (
	"math/big"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/studio"
)

// The slow way: a solid as many thin slices, each its area times its thickness.
func sliced(thin, length float64, area func(at float64) float64) (volume float64) {
	for at := thin / 2; at < length; at += thin {
		volume += area(at) * thin
	}
	return volume
}

func TestMassesAgreeWithSlices(t *testing.T) {
	const pi = 3.141592653589793
	rapid.Check(t, func(t *rapid.T) {
		mm := func(name string, least, most int64) studio.Micrometres {
			return studio.Micrometres(1000 * rapid.Int64Range(least, most).Draw(t, name))
		}
		density := rapid.Int64Range(1000, 1700).Draw(t, "density")
		d, l := mm("diameter", 2, 40), mm("length", 5, 90)
		radius, long := float64(d)/2000, float64(l)/1000
		ball := sliced(
			2*radius/20_000,
			2*radius,
			func(at float64) float64 { return pi * (radius*radius - (at-radius)*(at-radius)) },
		)
		rope := sliced(long/1000, long, func(float64) float64 { return pi * radius * radius })
		w, factor := mm("width", 5, 90), studio.PerMille(rapid.Int64Range(300, 1000).Draw(t, "factor"))
		thick := studio.Micrometres(100 * rapid.Int64Range(3, 30).Draw(t, "thickness"))
		cut := sliced(
			long/1000,
			long,
			func(float64) float64 { return float64(w) / 1000 * float64(thick) / 1000 * float64(factor) / 1000 },
		)
		for shape, volume := range map[studio.Geometry]float64{studio.Ball(d): ball, studio.Rope(d, l): rope, studio.Sheet(l, w, thick, factor): cut} {
			want := volume * float64(density) / 1000 // mg
			got := float64(Mass(shape, density))
			require.InDelta(t, want+0.5, got, 0.6+want/5000, "%+v", shape)
		}
	})
}

// The slow way: exact fractions, rounded up once.
func TestMixesAgreeWithFractions(t *testing.T) {
	up := func(r *big.Rat) int64 {
		whole, rest := new(big.Int).DivMod(r.Num(), r.Denom(), new(big.Int))
		if rest.Sign() > 0 {
			whole.Add(whole, big.NewInt(1))
		}
		return whole.Int64()
	}
	rapid.Check(t, func(t *rapid.T) {
		mix := &studio.Recipe{Kind: studio.KindMix}
		var parts int64
		for range rapid.IntRange(1, 6).Draw(t, "ingredients") {
			p := rapid.Int64Range(1, 97).Draw(t, "parts")
			parts += p
			mix.Blend = append(mix.Blend, studio.Ingredient{Material: "m", Parts: p})
		}
		for range rapid.IntRange(0, 3).Draw(t, "additives") {
			if rapid.Bool().Draw(t, "by drops") {
				mix.Additives = append(
					mix.Additives,
					studio.Additive{
						Material: "c",
						Drops:    rapid.Int64Range(1, 40).Draw(t, "drops"),
						Drop:     studio.Milligrams(rapid.Int64Range(10, 60).Draw(t, "each")),
					},
				)
				continue
			}
			mix.Additives = append(
				mix.Additives,
				studio.Additive{
					Material: "c",
					Per100g:  studio.Milligrams(rapid.Int64Range(1, 5000).Draw(t, "per 100 g")),
				},
			)
		}
		amount := rapid.Int64Range(1, 5_000_000).Draw(t, "amount")
		scale := rapid.SampledFrom([]int64{10, 100, 500, 1000}).Draw(t, "step")
		step := scale
		var together int64
		for i, portion := range Weigh(mix, studio.Milligrams(amount), studio.Milligrams(step)) {
			exact := new(big.Rat)
			if i < len(mix.Blend) {
				exact.SetFrac64(amount*mix.Blend[i].Parts, parts)
				together += int64(portion.Exact)
			} else {
				a := mix.Additives[i-len(mix.Blend)]
				exact.SetFrac64(amount*int64(a.Mass()), 100_000)
				require.Equal(t, up(big.NewRat(2*amount*a.Drops-100_000, 200_000)), portion.Drops, "the nearest")
				if a.Drops > 0 {
					step = int64(a.Drop)
				}
			}
			require.Equal(t, up(exact), int64(portion.Exact))
			off := new(big.Rat).SetFrac64(int64(portion.Weigh)-int64(portion.Exact), int64(portion.Exact))
			require.LessOrEqual(t, off.Abs(off).Cmp(big.NewRat(1, 20)), 0, "no more than a twentieth off")
			if portion.TooLittle {
				require.Equal(t, portion.Exact, portion.Weigh)
			} else {
				require.Zero(t, int64(portion.Weigh)%step)
			}
			step = scale
		}
		require.GreaterOrEqual(t, together, amount, "the blend is never less than what is wanted")
		loss := rapid.Int64Range(0, 300).Draw(t, "loss")
		with := int64(WithLoss(studio.Milligrams(amount), studio.PerMille(loss)))
		require.Equal(t, up(big.NewRat(amount*1000, 1000-loss)), with)
	})
}

func TestLaddersComeFromOneDeepMix(t *testing.T) {
	doc := &studio.Document{Recipes: []studio.Recipe{
		{
			ID:        "deep",
			Kind:      studio.KindMix,
			Additives: []studio.Additive{{Material: "red", Per100g: 500}},
			Blend:     []studio.Ingredient{{Material: "paste", Parts: 1}},
			Steps:     []studio.Step{{Key: "knead"}},
		},
		{
			ID:    "white",
			Kind:  studio.KindMix,
			Blend: []studio.Ingredient{{Material: "paste", Parts: 1}},
			Steps: []studio.Step{{Key: "knead"}},
		},
		{
			ID:    "middle",
			Kind:  studio.KindMix,
			Blend: []studio.Ingredient{{Mix: "deep", Parts: 1}, {Mix: "white", Parts: 1}},
			Steps: []studio.Step{{Key: "knead"}},
		},
		{
			ID:    "pale",
			Kind:  studio.KindMix,
			Blend: []studio.Ingredient{{Mix: "deep", Parts: 1}, {Mix: "white", Parts: 3}},
			Steps: []studio.Step{{Key: "knead"}},
		}}}
	sheet := func(mix studio.ID, mg studio.Milligrams) MixSheet {
		r := doc.Recipes[map[studio.ID]int{"deep": 0, "white": 1, "middle": 2, "pale": 3}[mix]]
		return MixSheet{Lot: "lot " + mix, Mix: mix, ToMix: mg, Portions: Weigh(&r, mg, 100)}
	}
	got := Ladders(
		studio.NewBook(doc),
		[]MixSheet{sheet("deep", 100_000), sheet("white", 90_000), sheet("middle", 60_000), sheet("pale", 80_000)},
		[]studio.Link{
			{From: "lot deep", To: "lot middle", Quantity: 30_000},
			{From: "lot white", To: "lot middle", Quantity: 30_000},
			{From: "lot deep", To: "lot pale", Quantity: 20_000},
			{From: "lot deep", To: "lot petals", Quantity: 45_000},
		},
	)
	require.Equal(t, []Ladder{{Lot: "lot deep", Mix: "deep", Weigh: 100_000, AsIs: 50_000,
		Shades: []Shade{
			{"lot middle", "middle", 30_000, 60_000, 500},
			{"lot pale", "pale", 20_000, 80_000, 250},
		}}}, got)
}
