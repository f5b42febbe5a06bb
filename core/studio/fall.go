package studio

// Fall is an order that has less slack in a plan than in the one before it, and what made it so: the first
// task of the chain that sets its date which is later than it was.
type Fall struct {
	// At is when that was seen.
	At    Minute `json:"at"`
	Order ID     `json:"order"`
	// Was and Is are its slacks; none where it had, or has, no date.
	Was *Minute  `json:"was,omitempty"`
	Is  *Minute  `json:"is,omitempty"`
	Why FallCode `json:"why"`
	// Task is that first task, by how many minutes it is later, or takes longer, and who does it.
	Task    ID     `json:"task,omitempty"`
	Recipe  ID     `json:"recipe,omitempty"`
	Step    string `json:"step,omitempty"`
	Person  ID     `json:"person,omitempty"`
	Pieces  int64  `json:"pieces,omitempty"`
	Minutes Minute `json:"minutes,omitempty"`
	// By is what it waits for: another task, or a gate.
	By ID `json:"by,omitempty"`
}

// FallCode is what made an order later.
type FallCode string

// What makes an order later.
const (
	NoDate      FallCode = "no-date"      // something it needs has no place
	MadeAgain   FallCode = "made-again"   // what was not to be made before
	TookLonger  FallCode = "took-longer"  // a task that is over or under way
	BegunLate   FallCode = "begun-late"   // the same, but it began later
	NotBegun    FallCode = "not-begun"    // a task that was to begin by now
	DriesLonger FallCode = "dries-longer" // a wait
	WaitsFor    FallCode = "waits-for"    // a gate
	Busy        FallCode = "busy"         // its maker is at something else first
	Away        FallCode = "away"         // its maker is not there
	Full        FallCode = "full"         // a place, a tool or a machine
	PutLater    FallCode = "put-later"    // nothing made it later but the order of work
)
