package studio

// ID names one thing of a document. Stored things carry a UUIDv7; a document
// written by hand may use any non-empty word.
type ID string

// Minute is a whole UTC minute counted from the document's epoch. Intervals of
// minutes are half-open: [from, to).
type Minute int64

// Milligrams is a mass of paste, dust or any other mixed or weighed material.
type Milligrams int64

// Micrometres is a length: a petal, a thickness, a wire.
type Micrometres int64

// Milliminutes is an attended duration in thousandths of a minute.
type Milliminutes int64

// PerMille is a share in thousandths: 80 is 8 %.
type PerMille int64

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

// WorkMinutes is the length of a work step for one person:
// ⌈(setup + pieces × perPiece) ÷ pace⌉ whole minutes, pace in hundredths.
// Quantities of a mix are counted in hundreds of grams begun (see Recipe.Pieces).
func WorkMinutes(setup, perPiece Milliminutes, pieces, pace int64) Minute {
	return Minute(CeilDiv((int64(setup)+int64(perPiece)*pieces)*100, 1000*pace))
}
