package studio

import "reflect"

// ID names one thing of a document. Stored things carry a UUIDv7; a document
// written by hand may use any non-empty word.
type ID string

// Minute is a whole UTC minute counted from the document's epoch, or a length of
// time in whole minutes. Intervals of minutes are half-open: [from, to).
type Minute int64

// Milligrams is a mass of paste, dust or any other mixed or weighed material,
// from nothing to a tonne.
type Milligrams int64

// Micrometres is a length: a petal, a thickness, a wire; from nothing to a kilometre.
type Micrometres int64

// Milliminutes is an attended or a standard drying duration in thousandths of a
// minute, from nothing to a year.
type Milliminutes int64

// PerMille is a share or a factor in thousandths: 80 is 8 %. From 0 to 10,000.
type PerMille int64

// Gauge is a wire's number as sold, 10 to 40: the higher, the thinner.
type Gauge int64

const year = 366 * 1440

// oldest is how long a document goes back to its epoch, and as far ahead besides.
const oldest = 60 * year

// limits are the least and the most that make sense of each small value, and how it
// is counted. Read holds every value of a document against them, wherever it stands,
// so that the rest of the core need not.
var limits = map[reflect.Type]struct {
	least, most int64
	unit        string
}{
	reflect.TypeFor[Minute]():       {least: -oldest, most: oldest, unit: "minutes"},
	reflect.TypeFor[Milligrams]():   {least: 0, most: 1_000_000_000, unit: "mg"},
	reflect.TypeFor[Micrometres]():  {least: 0, most: 1_000_000_000, unit: "µm"},
	reflect.TypeFor[Milliminutes](): {least: 0, most: 1000 * year, unit: "thousandths of a minute"},
	reflect.TypeFor[PerMille]():     {least: 0, most: 10_000, unit: "‰"},
	reflect.TypeFor[Gauge]():        {least: 10, most: 40, unit: "as a gauge"},
	reflect.TypeFor[Money]():        {least: 0, most: 1_000_000_000, unit: "in cents or pence"},
}

// RangeOf is the least and the most of a small value type; false of any other type.
func RangeOf(t reflect.Type) (least, most int64, known bool) {
	l, known := limits[t]
	return l.least, l.most, known
}

// Span is the half-open interval [From, To) of minutes.
type Span struct {
	From Minute `json:"from"`
	To   Minute `json:"to"`
}

// CeilDiv divides rounding upward: the one place where an integer quantity of
// the core is rounded. It needs a ≥ 0 and b > 0.
func CeilDiv[T ~int64](a, b T) T {
	return (a + b - 1) / b
}

// AtPace is attended time at a pace in hundredths of the recipe's, rounded up to
// the thousandth of a minute.
func (m Milliminutes) AtPace(pace int64) Milliminutes {
	return CeilDiv(m*100, Milliminutes(pace))
}

// Minutes rounds up to whole minutes.
func (m Milliminutes) Minutes() Minute { return Minute(CeilDiv(m, 1000)) }
