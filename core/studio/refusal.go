package studio

import (
	"encoding/json"
	"fmt"
	"regexp"
	"strconv"
	"strings"
)

// Said is a sentence for people: English in the form of fmt, and what stands in it. It can be said in another
// language, and what is measured in it in a studio's own units.
type Said struct {
	English string `json:"says"` // in JSON as Message
	With    []any  `json:"with,omitempty"`
}

// Say is a sentence in words that stand in the program.
func Say(english string, with ...any) Said { return Said{English: english, With: with} }

// verb is a place in a sentence where something stands.
var verb = regexp.MustCompile(`%[-+# 0]*[0-9]*(?:\.[0-9]+)?[a-zA-Z%]`)

var signs = regexp.MustCompile(`[{}@|]`)

// Location is where in a document or a request something stands, as Problem has it.
type Location string

// filled gives a sentence with what an argument is said as at each of its places.
func (s Said) filled(say func(verb string, at int, with any) string) string {
	at := -1
	return verb.ReplaceAllStringFunc(s.English, func(verb string) string {
		if verb == "%%" {
			return "%"
		}
		if at++; at < len(s.With) {
			return say(verb, at, s.With[at])
		}
		return say(verb, at, nil)
	})
}

// String is the sentence in English; a length, a mass or an amount that is to be read as a word has its unit.
func (s Said) String() string {
	return s.filled(func(verb string, _ int, with any) string {
		if m, is := measured(with); is && verb == "%s" {
			return m.String()
		}
		return fmt.Sprintf(verb, with)
	})
}

// Words are the sentence: of what it is part of as well.
func (s Said) Words() Said { return s }

// Message is the sentence as the catalogue of words has it, with {0} for what stands first in it, and what would
// be signs of the catalogue's own in quotes.
func (s Said) Message() string {
	s.English = signs.ReplaceAllString(s.English, "{'$0'}")
	return s.filled(func(_ string, at int, _ any) string { return "{" + strconv.Itoa(at) + "}" })
}

// MarshalJSON gives the sentence as the catalogue has it and what stands in it: texts, numbers, what is measured
// with the unit it is kept in, and other sentences.
func (s Said) MarshalJSON() ([]byte, error) {
	with := make([]any, 0, len(s.With))
	s.filled(func(verb string, _ int, one any) string {
		m, of := measured(one)
		said, worded := one.(interface{ Words() Said })
		number, counted := one.(float64)
		place, located := one.(Location)
		switch {
		case located:
			with = append(with, map[string]Location{"place": place})
		case of && strings.HasSuffix(verb, "s"), of && strings.HasSuffix(verb, "v"):
			with = append(with, m)
		case worded && said.Words().English != "":
			with = append(with, said.Words())
		case counted:
			with = append(with, number)
		default:
			with = append(with, fmt.Sprintf(verb, one))
		}
		return ""
	})
	return json.Marshal(struct {
		Says string `json:"says"`
		With []any  `json:"with,omitempty"`
	}{s.Message(), with})
}

// Amount is so much of what is counted in a unit.
type Amount struct {
	Of   int64 `json:"amount"`
	Unit Unit  `json:"unit"`
}

// String is an amount in grams, millimetres or metres, or pieces, as it would be said in English.
func (a Amount) String() string {
	switch a.Unit {
	case UnitMilligrams:
		return fmt.Sprintf("%g g", float64(a.Of)/1000)
	case UnitMicrometres:
		return fmt.Sprintf("%g m", float64(a.Of)/1_000_000)
	case unitLength:
		return fmt.Sprintf("%g mm", float64(a.Of)/1000)
	case unitShare:
		return fmt.Sprintf("%g %%", float64(a.Of)/10)
	case unitMinutes:
		return fmt.Sprintf("%d min", a.Of)
	case unitMilliminutes:
		return fmt.Sprintf("%g min", float64(a.Of)/1000)
	}
	return strconv.FormatInt(a.Of, 10)
}

// Units of what is said and not kept in stock. A piece's length is said in millimetres or inches, that of stock in
// metres.
const (
	unitLength       Unit = "length"
	unitShare        Unit = "‰"
	unitMinutes      Unit = "min"
	unitMilliminutes Unit = "min/1000"
)

// measured is what of a sentence has a unit.
func measured(with any) (Amount, bool) {
	switch m := with.(type) {
	case Milligrams:
		return Amount{Of: int64(m), Unit: UnitMilligrams}, true
	case Micrometres:
		return Amount{Of: int64(m), Unit: unitLength}, true
	case PerMille:
		return Amount{Of: int64(m), Unit: unitShare}, true
	case Minute:
		return Amount{Of: int64(m), Unit: unitMinutes}, true
	case Milliminutes:
		return Amount{Of: int64(m), Unit: unitMilliminutes}, true
	case Amount:
		return m, true
	}
	return Amount{}, false
}

// Refusal says why something cannot be recorded, and what to do instead. Confirm names
// the field by which somebody may say that it is so all the same; none where nobody may.
type Refusal struct {
	Said
	Confirm string
}

func (r Refusal) Error() string { return r.String() }

// Refuse is a refusal in words that nobody may overrule.
func Refuse(english string, with ...any) error { return Refusal{Said: Say(english, with...)} }

// RefuseUnless is a refusal that somebody may overrule by a field.
func RefuseUnless(confirm, english string, with ...any) error {
	return Refusal{Said: Say(english, with...), Confirm: confirm}
}
