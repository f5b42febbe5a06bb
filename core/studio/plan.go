package studio

import (
	"crypto/sha256"
	"encoding/hex"
	"strconv"
)

// Lot is a quantity of one recipe in its mixes, made together. Quantities are
// pieces, or milligrams for a mix.
type Lot struct {
	ID      ID            `json:"id"`
	Key     string        `json:"key"`
	Recipe  ID            `json:"recipe"`
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
	InWork      bool   `json:"inWork,omitempty"`
	// NextStep is the index of the first step not yet done.
	NextStep int `json:"nextStep,omitempty"`
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

// Cause is what a task waited for before it could start.
type Cause string

// Causes of a task's start: nothing but the moment of planning, an earlier step,
// an input, the person's other work, the person's hours, a full place.
const (
	CauseNow    Cause = "now"
	CauseStep   Cause = "step"
	CauseInput  Cause = "input"
	CausePerson Cause = "person"
	CauseHours  Cause = "hours"
	CausePlace  Cause = "place"
)

// Task is one step of one lot in a plan. A started or paused task begins its
// remainder at Resume and keeps the Start that happened.
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
	Pieces   int64     `json:"pieces"`
	Holds    []Held    `json:"holds,omitempty"`
	Cause    Cause     `json:"cause,omitempty"`
	CausedBy ID        `json:"causedBy,omitempty"`
}

// Begin is when the plan, as opposed to what happened, has the task begin.
func (t Task) Begin() Minute {
	if t.Resume != nil {
		return *t.Resume
	}
	return t.Start
}

// Reason says why a task could not be placed.
type Reason string

// Reasons for an unplaced task.
const (
	NoSkill   Reason = "nobody has the skill"
	NoHours   Reason = "no stretch of working time is long enough before the horizon"
	NoPlace   Reason = "no place is free before the horizon"
	Stalled   Reason = "the air does not get dry enough before the horizon"
	AfterGone Reason = "something it needs is unplaced"
)

// Unplaced is a task without a place in the plan.
type Unplaced struct {
	Task   ID     `json:"task"`
	Lot    ID     `json:"lot"`
	Step   string `json:"step"`
	Reason Reason `json:"reason"`
	Detail string `json:"detail"`
}

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

// Plan gives every task of the counted lots a time and its person and places,
// or says why not. Lateness is Σ importance × late steps.
type Plan struct {
	Format   string     `json:"format"`
	Version  int        `json:"version"`
	Now      Minute     `json:"now"`
	Lots     []Lot      `json:"lots"`
	Links    []Link     `json:"links"`
	Pegs     []Peg      `json:"shelfPegs"`
	Tasks    []Task     `json:"tasks"`
	Unplaced []Unplaced `json:"unplaced"`
	Orders   []Outcome  `json:"orders"`
	Lateness int64      `json:"weightedLateness"`
}
