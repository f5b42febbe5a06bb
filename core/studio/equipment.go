package studio

// Place is a kind of former, rack, rail, foam block, box or soft store with its
// number of slots. What lies in a soft store keeps workable for KeepsMinutes;
// 0 is no limit. In names the surroundings it stands in, the room if empty.
// A homemade former is the product of a recipe. Size is the width of its cups, where
// that matters to what lies in them. What is OutOfUse is not offered any more, here as below.
type Place struct {
	ID           ID          `json:"id"`
	Name         string      `json:"name"`
	Slots        int64       `json:"slots"`
	KeepsMinutes Minute      `json:"keepsMinutes,omitempty"`
	In           ID          `json:"in,omitempty"`
	MadeBy       ID          `json:"madeBy,omitempty"`
	Size         Micrometres `json:"sizeMicrometres,omitempty"`
	OutOfUse     bool        `json:"outOfUse,omitempty"`
}

// Tool is a kind of cutter, veiner, mould, roller or steamer, how many there
// are, and which other kinds stand in for it. Each is with one person at a time.
// Size is the length that a cutter cuts.
type Tool struct {
	ID       ID          `json:"id"`
	Name     string      `json:"name"`
	Number   int64       `json:"number"`
	StandIns []ID        `json:"standIns,omitempty"`
	Size     Micrometres `json:"sizeMicrometres,omitempty"`
	OutOfUse bool        `json:"outOfUse,omitempty"`
}

// Machine is one dehydrator or oven: it runs one load at a time, of at most so
// many slots at one setting.
// Dries is how long pieces of a class need in it from soft to dry.
type Machine struct {
	ID    ID              `json:"id"`
	Name  string          `json:"name"`
	Slots int64           `json:"slots"`
	Dries []MachineDrying `json:"dries,omitempty"`
	// Warm is at what it usually runs, in tenths of a degree Celsius; Cautions are the studio's own, beside the usual.
	Warm     int64    `json:"tenthsCelsius,omitempty"`
	Cautions []string `json:"cautions,omitempty"`
	OutOfUse bool     `json:"outOfUse,omitempty"`
}

// MachineDrying is the minutes that pieces of a drying class need in a machine, at the
// standard thickness of the class, whatever the air of the room.
type MachineDrying struct {
	Class   ID     `json:"class"`
	Minutes Minute `json:"minutes"`
}

// Sensor is something that measures the air, by the name that it sends under, and the
// surroundings where it hangs: the room if empty.
type Sensor struct {
	Device string `json:"device"`
	In     ID     `json:"in,omitempty"`
}

// Gate is something outside the studio that tasks wait for: a delivery of so
// much of a material, or a client's approval of mixes. Opens is when it is
// expected; without it, what waits for the gate cannot be planned.
type Gate struct {
	ID       ID      `json:"id"`
	Name     string  `json:"name"`
	Opens    *Minute `json:"opens,omitempty"`
	Material ID      `json:"material,omitempty"`
	Amount   int64   `json:"amount,omitempty"`
	Mixes    []ID    `json:"mixes,omitempty"`
}

// Family is a kind of work in which going from one colour to another costs time:
// brushes washed, the bench wiped. A change from one mix to another costs the
// minutes of its entry, and FullMinutes without one; from a mix to itself
// nothing. A person's first task of the family pays the full change.
type Family struct {
	ID          ID       `json:"id"`
	Name        string   `json:"name"`
	FullMinutes Minute   `json:"fullMinutes"`
	Changes     []Change `json:"changes,omitempty"`
	Reset       Reset    `json:"reset,omitempty"`
}

// Change is the setup from one mix to another.
type Change struct {
	From    ID     `json:"from"`
	To      ID     `json:"to"`
	Minutes Minute `json:"minutes"`
}

// Reset says what makes a person begin anew with the full change.
type Reset string

// Resets of a family: nothing (the default), a night, any other work between.
const (
	ResetNever     Reset = ""
	ResetNight     Reset = "night"
	ResetOtherWork Reset = "other-work"
)

// Cost is the setup of going from one mix to another; an empty mix is none yet.
func (f Family) Cost(from, to ID) Minute {
	if from == to {
		return 0
	}
	for _, c := range f.Changes {
		if c.From == from && c.To == to && from != "" {
			return c.Minutes
		}
	}
	return f.FullMinutes
}
