// Package studio is the studio document: the words of the trade as types.
//
// A Document is everything the core needs to know at one moment (now): what is
// bought, how things are made, who works when, where things dry, what has been
// promised, what lies on the shelf and what has been begun. It is one value and
// one JSON file. Count-up gives Lots and Links from it, planning gives a Plan.
// All quantities are integers in small units (milligrams, micrometres,
// thousandths of a minute, per mille), all instants whole minutes since the
// document's epoch. Read checks a document once; the rest of the core trusts it.
package studio

import "time"

// Format and Version head every document and plan file.
const (
	Format     = "bractum-studio"
	PlanFormat = "bractum-plan"
	Version    = 0
)

// Document is a whole studio at the moment Now.
type Document struct {
	Format        string        `json:"format"`
	Version       int           `json:"version"`
	Name          string        `json:"name"`
	Epoch         time.Time     `json:"epoch"`
	Zone          string        `json:"zone"`
	Now           Minute        `json:"now"`
	Settings      Settings      `json:"settings"`
	Climate       []Air         `json:"climate"`
	Materials     []Material    `json:"materials"`
	DryingClasses []DryingClass `json:"dryingClasses"`
	Places        []Place       `json:"places"`
	People        []Person      `json:"people"`
	Recipes       []Recipe      `json:"recipes"`
	Colourways    []Colourway   `json:"colourways"`
	Orders        []Order       `json:"orders"`
	Shelf         []ShelfLot    `json:"shelf"`
	Work          []WorkLot     `json:"work"`
	// Ordinals is, per gather key, the highest ordinal of lots that are used up
	// and no longer in Work: a new lot never takes the id of an old one.
	Ordinals map[string]int `json:"ordinals,omitempty"`
}

// Settings are the studio's own starting points; what a file leaves out takes
// the value of DefaultSettings.
type Settings struct {
	SafetyMinutes        Minute      `json:"safetyMinutes"`
	GatheringMinutes     Minute      `json:"gatheringMinutes"`
	HorizonMinutes       Minute      `json:"horizonMinutes"`
	LossPerMille         PerMille    `json:"lossPerMille"`
	SheetYieldPerMille   PerMille    `json:"sheetYieldPerMille"`
	DensityMgPerMl       int64       `json:"densityMilligramsPerMillilitre"`
	ScaleStepMilligrams  Milligrams  `json:"scaleStepMilligrams"`
	KeepOffcut           Micrometres `json:"keepOffcutMicrometres"`
	PriorWeight          int64       `json:"priorWeightPieces"`
	PlanningPercentile   int64       `json:"planningPercentile"`
	DefaultServiceLevel  PerMille    `json:"defaultServiceLevelPerMille"`
	MostPiecesOfOneOrder int64       `json:"mostPiecesOfOneOrder"`
}

// DefaultSettings are the guide's defaults.
func DefaultSettings() Settings {
	return Settings{
		SafetyMinutes: 1440, GatheringMinutes: 7 * 1440, HorizonMinutes: 56 * 1440,
		LossPerMille: 80, SheetYieldPerMille: 550, DensityMgPerMl: 1400, ScaleStepMilligrams: 100,
		KeepOffcut: 60_000, PriorWeight: 50, PlanningPercentile: 80, DefaultServiceLevel: 950,
		MostPiecesOfOneOrder: 5000,
	}
}

// Air is the expected air of one local hour of the day: index 0 is midnight to
// one o'clock. A document gives all twenty-four.
type Air struct {
	TenthsCelsius    int64    `json:"tenthsCelsius"`
	HumidityPerMille PerMille `json:"humidityPerMille"`
}

// Unit is how an amount of a material is counted.
type Unit string

// Units of materials.
const (
	UnitMilligrams  Unit = "mg"
	UnitMicrometres Unit = "µm"
	UnitPieces      Unit = "pieces"
)

// Material is something bought. A wire is counted in pieces of its full length.
type Material struct {
	ID     ID     `json:"id"`
	Name   string `json:"name"`
	Unit   Unit   `json:"unit"`
	Wire   *Wire  `json:"wire,omitempty"`
	OnHand int64  `json:"onHand"`
}

// Wire says what a wire material is: its gauge as sold, cover and full length.
type Wire struct {
	Gauge    int64       `json:"gauge"`
	Cover    string      `json:"cover"`
	Length   Micrometres `json:"lengthMicrometres"`
	Diameter Micrometres `json:"diameterMicrometres"`
}

// DryingClass is how one kind of paste dries: median minutes to firm and to dry
// in standard air (20 °C, 50 % relative humidity) at its standard thickness;
// the spread is the standard deviation of the logarithm, in thousandths; above
// the stall humidity nothing dries.
type DryingClass struct {
	ID            ID          `json:"id"`
	Name          string      `json:"name"`
	FirmMinutes   int64       `json:"firmMinutes"`
	DryMinutes    int64       `json:"dryMinutes"`
	Thickness     Micrometres `json:"thicknessMicrometres"`
	Spread        PerMille    `json:"spreadPerMille"`
	StallHumidity PerMille    `json:"stallHumidityPerMille"`
}

// Place is a kind of former, rack, rail or foam block with its number of slots.
type Place struct {
	ID    ID     `json:"id"`
	Name  string `json:"name"`
	Slots int64  `json:"slots"`
}

// Person is a maker: skills with a pace, weekly hours, breaks, days away.
type Person struct {
	ID     ID          `json:"id"`
	Name   string      `json:"name"`
	Skills []Skill     `json:"skills"`
	Hours  []DayHours  `json:"hours"`
	Breaks []BreakTime `json:"breaks"`
	Away   []Date      `json:"away"`
}

// Skill is what a person can do, with the pace in hundredths of the recipe's:
// 125 is a quarter faster.
type Skill struct {
	Skill string `json:"skill"`
	Pace  int64  `json:"paceHundredths"`
}

// DayHours is one stretch of work on one weekday, in local wall time.
type DayHours struct {
	Day  Weekday   `json:"day"`
	From TimeOfDay `json:"from"`
	To   TimeOfDay `json:"to"`
}

// BreakTime is a daily break in local wall time.
type BreakTime struct {
	From TimeOfDay `json:"from"`
	To   TimeOfDay `json:"to"`
}

// Pace is the person's pace at a skill, 0 when they have not got it.
func (p Person) Pace(skill string) int64 {
	for _, s := range p.Skills {
		if s.Skill == skill {
			return s.Pace
		}
	}
	return 0
}

// Colourway gives colour slots their mixes by name of the slot.
type Colourway struct {
	ID    ID            `json:"id"`
	Name  string        `json:"name"`
	Slots map[string]ID `json:"slots"`
}

// OrderState is where an order stands. Only open orders are counted up.
type OrderState string

// States of an order.
const (
	OrderOpen      OrderState = "open"
	OrderQuote     OrderState = "quote"
	OrderCancelled OrderState = "cancelled"
	OrderLeft      OrderState = "left"
)

// Order is what one cake needs by a date.
type Order struct {
	ID         ID          `json:"id"`
	Name       string      `json:"name"`
	Occasion   string      `json:"occasion"`
	Leaves     WallTime    `json:"leaves"`
	Leaving    string      `json:"leaving"`
	Importance int64       `json:"importance"`
	Allergies  []string    `json:"allergies"`
	State      OrderState  `json:"state"`
	Lines      []OrderLine `json:"lines"`
}

// OrderLine is a quantity of one recipe revision in one colourway. The revision
// pins the whole closure of the recipe.
type OrderLine struct {
	ID           ID       `json:"id"`
	Recipe       ID       `json:"recipe"`
	Colourway    ID       `json:"colourway"`
	Quantity     int64    `json:"quantity"`
	ServiceLevel PerMille `json:"serviceLevelPerMille"`
}

// Quality of finished pieces: a second is usable where it won't show.
type Quality string

// Qualities of pieces on the shelf.
const (
	Good   Quality = "good"
	Second Quality = "second"
)

// ShelfLot is finished stock of one recipe and its mixes: pieces, or milligrams
// of a mix. From names the work lot it came out of while that lot still dries.
type ShelfLot struct {
	ID      ID            `json:"id"`
	Recipe  ID            `json:"recipe"`
	Mixes   map[string]ID `json:"mixes"`
	Amount  int64         `json:"amount"`
	Quality Quality       `json:"quality"`
	MadeOn  Minute        `json:"madeOn"`
	UseBy   *Minute       `json:"useBy,omitempty"`
	From    ID            `json:"from,omitempty"`
}

// WorkLot is a lot that somebody has begun: the facts recorded of it so far.
type WorkLot struct {
	ID      ID            `json:"id"`
	Recipe  ID            `json:"recipe"`
	Mixes   map[string]ID `json:"mixes"`
	Ordinal int           `json:"ordinal"`
	// Need is what the lot was begun to yield; the rest of Started are spares.
	Need    int64        `json:"need"`
	Started int64        `json:"started"`
	Records []TaskRecord `json:"records"`
}

// TaskState is what has happened to a task.
type TaskState string

// States of a task; a wait is planned until it has run out.
const (
	TaskPlanned TaskState = "planned"
	TaskStarted TaskState = "started"
	TaskPaused  TaskState = "paused"
	TaskDone    TaskState = "done"
)

// TaskRecord is what happened to one work step of a lot: who, when, and the
// pieces counted so far by outcome. End is set once it is done.
type TaskRecord struct {
	Step   string    `json:"step"`
	State  TaskState `json:"state"`
	Person ID        `json:"person"`
	Start  Minute    `json:"start"`
	End    Minute    `json:"end,omitempty"`
	Good   int64     `json:"good"`
	Second int64     `json:"second"`
	Broken int64     `json:"broken"`
}

// Counted is the number of pieces this record accounts for.
func (r TaskRecord) Counted() int64 { return r.Good + r.Second + r.Broken }
