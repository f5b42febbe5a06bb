package studio

// Working is how one figure was worked out: the rule by name, what went in, what
// came out, and how it was rounded. The interface words and draws it.
type Working struct {
	Rule     string   `json:"rule"`
	Inputs   []Figure `json:"inputs"`
	Result   Figure   `json:"result"`
	Rounding string   `json:"rounding,omitempty"`
	// Lots are those that the working is of; none when it is of all together.
	Lots []ID `json:"lots,omitempty"`
}

// Figure is a named number with its unit.
type Figure struct {
	Name  string  `json:"name"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// NewFigure names a number of any kind.
func NewFigure[T ~int64 | ~int | ~float64](name string, value T, unit string) Figure {
	return Figure{name, float64(value), unit}
}
