package studio

import (
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"
)

// Money is an amount in whole minor units of the studio's one currency: cents, pence. From nothing to ten million
// of the currency.
type Money int64

// PricedAt is the amount that a price of a material is for: of what is sold in packs one of them, of the rest a piece,
// a metre or a gram.
func (m *Material) PricedAt() int64 {
	switch {
	case m.Pack > 0:
		return m.Pack
	case m.Unit == UnitMilligrams:
		return 1000
	case m.Unit == UnitMicrometres:
		return 1_000_000
	}
	return 1
}

// currencyCode is how a currency is named, by ISO 4217.
var currencyCode = regexp.MustCompile(`^[A-Z]{3}$`)

// RoundedUp is an amount in whole steps, the next at or above it; a step of one or less leaves it.
func (m Money) RoundedUp(step Money) Money {
	if step <= 1 {
		return m
	}
	return CeilDiv(m, step) * step
}

// Food says whether a material may be eaten.
type Food string

// Food and what is none; nothing where nobody has said.
const (
	IsFood  Food = "food"
	NotFood Food = "not-food"
)

// longestLabel is the greatest length of a material's words for a label, in characters.
const longestLabel = 200

// label checks what is said of a material to who receives it.
func (v *validator) label(place string, m *Material) {
	if m.Food != "" && m.Food != IsFood && m.Food != NotFood {
		v.say(place+".food", "is %q; food, not-food or nothing would be right", m.Food)
	}
	if utf8.RuneCountInString(m.Label) > longestLabel || strings.ContainsFunc(m.Label, unseen) {
		v.say(place+".label", "is too long, or holds what cannot be seen; up to 200 characters would be right")
	}
	for _, a := range m.Allergens {
		if flaw := nameFlaw(a); flaw != "" {
			v.say(place+".allergens", "%s", flaw)
		}
	}
}

// UsualAllergens are those that materials of the trade often hold; a studio's own list takes their place.
var UsualAllergens = []string{"egg", "maize", "milk", "nuts", "soya", "wheat"}

// Allergens are the words by which a studio tells allergens apart: its list, and what its materials name beside.
func (d *Document) Allergens() []string {
	known := slices.Clone(d.Settings.Allergens)
	if len(known) == 0 {
		known = slices.Clone(UsualAllergens)
	}
	for i := range d.Materials {
		for _, a := range d.Materials[i].Allergens {
			if !slices.ContainsFunc(known, func(k string) bool { return strings.EqualFold(k, a) }) {
				known = append(known, a)
			}
		}
	}
	return known
}
