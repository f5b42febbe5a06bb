package studio

// Air is the expected air of one hour.
type Air struct {
	TenthsCelsius    int64    `json:"tenthsCelsius"`
	HumidityPerMille PerMille `json:"humidityPerMille"`
}

// Surroundings are a part of the studio with air of its own: a cupboard, a loft.
// Hours are the expected air of its 24 local hours. Closed air lets nothing in:
// what lies in it does not go soft.
type Surroundings struct {
	ID     ID     `json:"id"`
	Name   string `json:"name"`
	Hours  []Air  `json:"hours"`
	Closed bool   `json:"closed,omitempty"`
}

// Reading is the air of one hour as measured, or as somebody expects it, in
// place of the daily profile. Hour counts whole hours since the epoch; In names
// the surroundings, the room if empty.
type Reading struct {
	Hour int64 `json:"hour"`
	In   ID    `json:"in,omitempty"`
	Air
}

// DryingClass is how one kind of paste dries: median minutes to firm, to stiff
// (too dry to shape) and to dry in standard air (20 °C, 50 % relative humidity)
// at its standard thickness; the spread is the standard deviation of the
// logarithm, in thousandths; above the stall humidity nothing dries. Dry pieces
// are limp after SoftensMinutes in air above it; 0 is never.
type DryingClass struct {
	ID             ID          `json:"id"`
	Name           string      `json:"name"`
	FirmMinutes    int64       `json:"firmMinutes"`
	StiffMinutes   int64       `json:"stiffMinutes"`
	DryMinutes     int64       `json:"dryMinutes"`
	Thickness      Micrometres `json:"thicknessMicrometres"`
	Spread         PerMille    `json:"spreadPerMille"`
	StallHumidity  PerMille    `json:"stallHumidityPerMille"`
	SoftensMinutes Minute      `json:"softensMinutes,omitempty"`
	// Percentile is the lead's choice for this class, 0 for the studio's.
	Percentile int64 `json:"percentile,omitempty"`
}

// Method is a way of drying in the air, with the factor it puts on the need:
// hanging, a rack, moving air.
type Method struct {
	ID     ID       `json:"id"`
	Name   string   `json:"name"`
	Factor PerMille `json:"factorPerMille"`
}

// State is how far a piece has dried: firm (may be cupped or bunched), stiff
// (too dry to shape), dry (may be taped, dusted hard, boxed).
type State string

// States that a drying piece reaches.
const (
	Firm  State = "firm"
	Stiff State = "stiff"
	Dry   State = "dry"
)

// Dries is what has to dry and how far: a class at a thickness to a state, with
// the factors of its mix and of the method together, in the air of surroundings.
type Dries struct {
	Class     ID          `json:"class"`
	Thickness Micrometres `json:"thicknessMicrometres"`
	State     State       `json:"state"`
	Factor    PerMille    `json:"factorPerMille,omitempty"`
	In        ID          `json:"in,omitempty"`
	// Lain is where pieces that were put down have lain up to the last that is known of
	// them; Reached when they were found to be that far.
	Lain    []Lain  `json:"lain,omitempty"`
	Reached *Minute `json:"reached,omitempty"`
}

// Length is how long something unattended takes: wall minutes, or as long as
// something dries on the drying clock.
type Length struct {
	Minutes Minute `json:"minutes,omitempty"`
	Dries   *Dries `json:"dries,omitempty"`
}
