package studio

import (
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"strconv"
)

// Lot is a quantity of one recipe in its mixes, made together. Quantities are
// pieces, or milligrams for a mix.
type Lot struct {
	ID      ID            `json:"id"`
	Key     string        `json:"key"`
	Recipe  ID            `json:"recipe"`
	Variant string        `json:"variant,omitempty"`
	Mixes   map[string]ID `json:"mixes"`
	Ordinal int           `json:"ordinal"`
	// Need is what must come out good; Started what is begun with; Alive what
	// is left of that after what has been broken so far.
	Need    int64 `json:"need"`
	Started int64 `json:"started"`
	Alive   int64 `json:"alive"`
	// Due is when the first of its pegs needs it; LatestStart is Due less the
	// standard elapsed time.
	Due         Minute `json:"due"`
	LatestStart Minute `json:"latestStart"`
	Pegs        []Peg  `json:"pegs"`
	// For is what of its need is for which order, through whatever it goes into.
	For []Claim `json:"for,omitempty"`
	// Decided is true of a lot that the lead has decided on.
	Decided bool `json:"decided,omitempty"`
	InWork  bool `json:"inWork,omitempty"`
	// Group is the first of the lots that were gathered together.
	Group ID `json:"group,omitempty"`
	// From is the shelf lot of half-made pieces that it is finished from, and
	// Reached the last step those had behind them.
	From    ID     `json:"from,omitempty"`
	Reached string `json:"reached,omitempty"`
	// Awaits are the materials that it waits for, step by step.
	Awaits []Await `json:"awaits,omitempty"`
	// Run is how many are made in one run of the steps that are one task, where their recipe
	// does not say; 0 is all of them.
	Run int64 `json:"run,omitempty"`
	// NextStep is the index of the first step not yet done.
	NextStep int `json:"nextStep,omitempty"`
}

// Await is that a step of a lot waits for a material, until a gate opens: that of a delivery, or
// of what could be ordered now.
type Await struct {
	Step string `json:"step"`
	Gate ID     `json:"gate"`
}

// Peg says for which order line a quantity of a lot or of shelf stock is meant.
type Peg struct {
	Order    ID    `json:"order"`
	Line     ID    `json:"line"`
	Quantity int64 `json:"quantity"`
	From     ID    `json:"from,omitempty"`
}

// Link says that a quantity from one lot, or shelf lot, feeds a step of another.
type Link struct {
	From     ID     `json:"from"`
	To       ID     `json:"to"`
	Step     string `json:"step"`
	Recipe   ID     `json:"recipe"`
	Quantity int64  `json:"quantity"`
}

// LotID derives the id of a lot that nobody has touched.
func LotID(key string, ordinal int) ID {
	sum := sha256.Sum256([]byte(key + "#" + strconv.Itoa(ordinal)))
	return ID("lot-" + hex.EncodeToString(sum[:8]))
}

// TaskID derives the id of the task that does a step of a lot.
func TaskID(lot ID, step string) ID { return lot + "." + ID(step) }

// Held is a number of slots of a place, occupied over [From, To).
type Held struct {
	Place ID     `json:"place"`
	Slots int64  `json:"slots"`
	From  Minute `json:"from"`
	To    Minute `json:"to"`
}

// Share is what a wait takes of a machine's load.
type Share struct {
	Machine ID     `json:"machine"`
	Setting string `json:"setting"`
	Slots   int64  `json:"slots"`
}

// Cause is what a task waited for before it could start.
type Cause string

// Causes of a task's start: nothing but the moment of planning, an earlier step,
// an input, the person's other work, the person's hours, a full place, a tool or
// machine in use, a gate, a pin, or a later task that could not follow in time.
const (
	CauseNow    Cause = "now"
	CauseStep   Cause = "step"
	CauseInput  Cause = "input"
	CausePerson Cause = "person"
	CauseHours  Cause = "hours"
	CausePlace  Cause = "place"
	CauseTool   Cause = "tool"
	CauseGate   Cause = "gate"
	CausePin    Cause = "pin"
	CauseWindow Cause = "window"
)

// Task is one step, or stint, of one lot in a plan: of work its person, with the
// colour setup it is charged, the tools it takes and whether it goes on into
// allowed overtime; of a wait in a machine, its share of the load. A started or
// paused task begins its remainder at Resume and keeps the Start that happened.
type Task struct {
	ID       ID        `json:"id"`
	Lot      ID        `json:"lot"`
	Step     string    `json:"step"`
	State    TaskState `json:"state"`
	Person   ID        `json:"person,omitempty"`
	Start    Minute    `json:"start"`
	Resume   *Minute   `json:"resume,omitempty"`
	End      Minute    `json:"end"`
	Pauses   []Span    `json:"pauses,omitempty"`
	Overtime bool      `json:"overtime,omitempty"`
	Setup    Minute    `json:"setup,omitempty"`
	Tools    []ID      `json:"tools,omitempty"`
	Load     *Share    `json:"load,omitempty"`
	Pieces   int64     `json:"pieces"`
	Holds    []Held    `json:"holds,omitempty"`
	// Narrow is true when the state it must have and the one it must not have yet
	// lie so close that both were planned by their medians.
	Narrow bool `json:"narrowWindow,omitempty"`
	// Overdue is by how much the piece that waits longest is taken up too late. Only a task that takes
	// up pieces of one that was begun may be that, where it could not be in time: they are touched
	// first, and what is too stiff is counted as broken.
	Overdue  Minute `json:"overdueMinutes,omitempty"`
	Cause    Cause  `json:"cause,omitempty"`
	CausedBy ID     `json:"causedBy,omitempty"`
}

// Begin is when the plan, as opposed to what happened, has the task begin.
func (t Task) Begin() Minute {
	if t.Resume != nil {
		return *t.Resume
	}
	return t.Start
}

// Reason says why a task could not be placed, as a code: words are made where it is read.
type Reason string

// Reasons for an unplaced task.
const (
	NoSkill   Reason = "no-skill"   // nobody has the skill
	NoHours   Reason = "no-hours"   // no stretch of working time is long enough before the horizon
	NoPlace   Reason = "no-place"   // no place is free before the horizon
	Stalled   Reason = "stalled"    // the air does not get dry enough before the horizon
	NoTool    Reason = "no-tool"    // no tool is free before the horizon
	NoMachine Reason = "no-machine" // no machine is free before the horizon
	GateShut  Reason = "gate-shut"  // a gate it waits for has no date before the horizon
	TooLate   Reason = "too-late"   // its window closes before it can begin
	PinBroken Reason = "pin-broken" // it cannot be begun as it is pinned
	AfterGone Reason = "after-gone" // something it needs is unplaced
	LeftOut   Reason = "left-out"   // it is left out for what orders need
	Untried   Reason = "untried"    // no place was looked for
)

// asWords are the reasons as plans said them that were written before they were codes.
var asWords = map[string]Reason{
	"nobody has the skill": NoSkill,
	"no stretch of working time is long enough before the horizon": NoHours,
	"no place is free before the horizon":                          NoPlace,
	"the air does not get dry enough before the horizon":           Stalled,
	"no tool is free before the horizon":                           NoTool,
	"no machine is free before the horizon":                        NoMachine,
	"a gate it waits for has no date before the horizon":           GateShut,
	"its window closes before it can begin":                        TooLate,
	"it cannot be begun as it is pinned":                           PinBroken,
	"something it needs is unplaced":                               AfterGone,
	"it is left out for what orders need":                          LeftOut,
	"no place was looked for":                                      Untried,
}

// UnmarshalText reads a reason, also of a plan that said it in words.
func (r *Reason) UnmarshalText(text []byte) error {
	if *r = Reason(text); asWords[string(text)] != "" {
		*r = asWords[string(text)]
	}
	return nil
}

// With is what something is about that is put into words where it is read: names as the
// studio wrote them, ids, and plain numbers in the unit that the key ends with.
type With map[string]any

// Unplaced is a task without a place in the plan.
type Unplaced struct {
	Task   ID     `json:"task"`
	Lot    ID     `json:"lot"`
	Step   string `json:"step"`
	Reason Reason `json:"reason"`
	// Case tells reasons apart that need other words, and With is what they are about.
	Case string `json:"case,omitempty"`
	With With   `json:"with,omitempty"`
	// Detail is in words; only plans that were written before reasons were codes have it.
	Detail string `json:"detail,omitempty"`
	// Earliest is when it could begin at the earliest, where that is too late; By what
	// stands in the way.
	Earliest *Minute `json:"earliest,omitempty"`
	By       ID      `json:"by,omitempty"`
	// Limited is true where a place was looked for only as far as the planner's effort
	// allows: it may be that there is one.
	Limited bool `json:"limited,omitempty"`
}

// LateStep is in what lateness is counted: a begun quarter of an hour.
const LateStep Minute = 15

// Outcome is what a plan means for one open order. Ready is nil when something
// it needs is unplaced; Late is in minutes, Steps in begun quarters of an hour.
type Outcome struct {
	Order   ID      `json:"order"`
	ReadyBy Minute  `json:"readyBy"`
	Ready   *Minute `json:"ready,omitempty"`
	// Slack is ReadyBy − Ready, below nothing for a late order.
	Slack *Minute `json:"slack,omitempty"`
	Late  Minute  `json:"late"`
	Steps int64   `json:"lateSteps"`
	// Limit is the task that takes longest on the chain that sets Ready.
	Limit ID `json:"limit,omitempty"`
}

// WorstSlack is the least slack of a plan's orders, MostSlack at the most.
func (p *Plan) WorstSlack() Minute {
	if len(p.Objective.Slacks) == 0 {
		return MostSlack
	}
	return p.Objective.Slacks[0]
}

// Plan gives every task of the counted lots a time and its person and places,
// or says why not. Bound, where known, is the least weighted lateness that any plan
// can reach.
type Plan struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	Now     Minute `json:"now"`
	Lots    []Lot  `json:"lots"`
	// Divided are the groups of lots that are divided otherwise than the document says.
	Divided   []Division `json:"divided,omitempty"`
	Links     []Link     `json:"links"`
	Pegs      []Peg      `json:"shelfPegs"`
	Tasks     []Task     `json:"tasks"`
	Unplaced  []Unplaced `json:"unplaced"`
	Orders    []Outcome  `json:"orders"`
	Objective Objective  `json:"objective"`
	Bound     *int64     `json:"bound,omitempty"`
	Bounds    *Bounds    `json:"bounds,omitempty"`
	// Steps of search taken, and the seed they were taken from: the same again
	// give the same plan.
	Steps int   `json:"searchSteps"`
	Seed  int64 `json:"seed"`
}

// Bounds are weighted latenesses that no plan can be below, and from what: the longest
// paths of orders, the hours of those who have a skill, the slots of places and machines;
// Least is the most that these prove together.
type Bounds struct {
	Path   int64 `json:"path"`
	Skills int64 `json:"skills"`
	Slots  int64 `json:"slots"`
	Least  int64 `json:"least"`
}

// Objective is what makes a plan better than another, compared in this order:
// weighted lateness, overtime minutes and setup minutes, where less is better;
// the slacks of orders in minutes, each at most two days, worst first, where more
// is better; disturbance, less again.
type Objective struct {
	Lateness    int64    `json:"weightedLateness"`
	Overtime    Minute   `json:"overtimeMinutes"`
	Setup       Minute   `json:"setupMinutes"`
	Slacks      []Minute `json:"slackMinutes"`
	Disturbance int64    `json:"disturbance"`
}

// Compare is below nothing when o is better than p, above when it is worse.
func (o Objective) Compare(p Objective) int {
	return cmp.Or(
		cmp.Compare(o.Lateness, p.Lateness),
		cmp.Compare(o.Overtime, p.Overtime),
		cmp.Compare(o.Setup, p.Setup),
		slices.Compare(p.Slacks, o.Slacks),
		cmp.Compare(o.Disturbance, p.Disturbance),
	)
}

// Limits of the objective: what counts as disturbed, what a change of person
// costs, and the slack beyond which more is no better.
const (
	SeenAhead    Minute = 2 * 1440
	PersonChange int64  = 60
	MostSlack    Minute = 2 * 1440
)
