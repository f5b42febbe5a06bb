package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func drawClaims(t *rapid.T, name string) (claims []Claim) {
	for range rapid.IntRange(0, 5).Draw(t, name) {
		claims = Add(
			claims,
			Claim{
				rapid.SampledFrom([]ID{"", "a", "b", "c", "d"}).Draw(t, "order"),
				rapid.Int64Range(1, 40).Draw(t, "quantity"),
			},
		)
	}
	return claims
}

func byOrder(claims []Claim) map[ID]int64 {
	all := map[ID]int64{}
	for _, c := range claims {
		all[c.Order] += c.Quantity
	}
	return all
}

func TestSharesAddUpAndAreAsClaimsAre(t *testing.T) {
	assert.Equal(t, []Claim{{"a", 48}, {"b", 32}, {"", 8}}, Spread(88, []Claim{{"a", 6}, {"b", 4}, {"", 1}}))
	assert.Equal(t, []Claim{{"", 7}}, Spread(7, nil), "what is for nobody is for the shelf")
	rapid.Check(t, func(t *rapid.T) {
		claims, quantity := drawClaims(t, "claims"), rapid.Int64Range(0, 5000).Draw(t, "quantity")
		shares := Spread(quantity, claims)
		require.Equal(t, quantity, Sum(shares))
		for _, c := range claims {
			exact := float64(quantity) * float64(c.Quantity) / float64(Sum(claims))
			require.InDelta(t, exact, byOrder(shares)[c.Order], 1)
		}
	})
}

func TestTakingFirstLosesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		claims, quantity := drawClaims(t, "claims"), rapid.Int64Range(0, 150).Draw(t, "quantity")
		taken, left := First(claims, quantity)
		require.Equal(t, min(quantity, Sum(claims)), Sum(taken))
		together := byOrder(append(append([]Claim{}, taken...), left...))
		require.Equal(t, byOrder(claims), together)
		require.Equal(t, byOrder(left), byOrder(Less(claims, taken)))
	})
}

// Whatever is asked of a supply: nobody gets what is reserved for another, nothing is given
// that is not there, and what is kept back stays.
func TestASupplyKeepsWhatIsReserved(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		amount := rapid.Int64Range(-10, 120).Draw(t, "amount")
		reserved := drawClaims(t, "reserved")
		s := Supply{amount, append([]Claim{}, reserved...)}
		holds := Sum(reserved) <= amount
		got := map[ID]int64{}
		for range rapid.IntRange(1, 6).Draw(t, "asks") {
			wants := drawClaims(t, "wants")
			var taken []Claim
			if rapid.Bool().Draw(t, "reserved first") {
				taken = s.TakeReserved(wants)
			} else {
				taken = s.TakeFree(wants)
			}
			for _, c := range taken {
				require.LessOrEqual(t, c.Quantity, byOrder(wants)[c.Order])
				got[c.Order] += c.Quantity
			}
		}
		var given int64
		for _, quantity := range got {
			given += quantity
		}
		require.LessOrEqual(t, given, max(0, amount))
		require.Equal(t, amount-given, s.Amount)
		if holds {
			for order, quantity := range byOrder(reserved) {
				require.LessOrEqual(
					t,
					quantity-min(quantity, got[order]),
					s.Amount,
					"what is reserved for %q and not taken is still there",
					order,
				)
			}
			require.GreaterOrEqual(t, s.Amount, Sum(s.Reserved))
		}
	})
}

func TestOnlyWhatIsOpenHoldsReservations(t *testing.T) {
	doc := &Document{
		Orders: []Order{{ID: "a", State: OrderOpen}, {ID: "b", State: OrderCancelled}, {ID: "c", State: OrderLeft}},
	}
	assert.Equal(
		t,
		[]Claim{{"a", 1}, {"", 4}, {"wished", 5}},
		doc.Open([]Claim{{"a", 1}, {"b", 2}, {"c", 3}, {"", 4}, {"wished", 5}}),
	)
}

func TestTheShelfGivesTheOldestFirstAndLeavesTheDocument(t *testing.T) {
	doc := &Document{
		Recipes: []Recipe{
			{ID: "core", Kind: KindPart, Steps: []Step{{Key: "roll", Work: &Work{}}, {Key: "dust", Work: &Work{}}}},
		},
		Shelf: []ShelfLot{
			{ID: "new", Recipe: "core", Amount: 5, Quality: Good, MadeOn: 9},
			{ID: "old", Recipe: "core", Amount: 3, Quality: Good, MadeOn: 1},
			{
				ID:      "second",
				Recipe:  "core",
				Amount:  9,
				Quality: Second,
				MadeOn:  0,
			},
			{ID: "half", Recipe: "core", Amount: 4, Quality: Good, Reached: "roll"},
		},
	}
	shelf := NewBook(doc).NewShelf(doc)
	stock := shelf.Finished(GatherKey(Made{Recipe: "core"}, nil))
	require.Len(t, stock, 2, "seconds do not serve as cores, half-made ones are not finished")
	assert.Equal(t, []ID{"old", "new"}, []ID{stock[0].ID, stock[1].ID})
	stock[0].Left.TakeFree([]Claim{{"a", 2}})
	assert.EqualValues(t, 1, stock[0].Left.Amount)
	assert.EqualValues(t, 3, doc.Shelf[1].Amount)
	assert.Len(t, shelf.HalfMade(Made{Recipe: "core"}, nil), 1)
	assert.Len(t, shelf.All(), 4)
}
