package studio

// Working is how one figure was worked out: the rule, what went in, what came out,
// and how it was rounded, all by codes. The interface words and draws it.
type Working struct {
	Rule     string   `json:"rule"`
	Inputs   []Figure `json:"inputs"`
	Result   Figure   `json:"result"`
	Rounding Rounding `json:"rounding,omitempty"`
	// Lots are those that the working is of; none when it is of all together.
	Lots []ID `json:"lots,omitempty"`
}

// Rounding is to what a figure was rounded, always upward.
type Rounding string

// What figures are rounded to.
const (
	ToWhole   Rounding = "whole"
	ToEven    Rounding = "even" // whole pieces, divided as evenly as they go
	ToMinute  Rounding = "minute"
	ToStep    Rounding = "step" // of the scale
	ToPackage Rounding = "package"
	ToMoney   Rounding = "money" // in the studio's steps
)

// Figure is a number with its unit: what it is by a code, and the name of the thing it is
// of where a working has several of one kind.
type Figure struct {
	Name  string  `json:"name"`
	Of    string  `json:"of,omitempty"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// NewFigure names a number of any kind.
func NewFigure[T ~int64 | ~int | ~float64](name string, value T, unit string) Figure {
	return Figure{Name: name, Value: float64(value), Unit: unit}
}

// OfThing names what a figure is of.
func (f Figure) OfThing(name string) Figure {
	f.Of = name
	return f
}
