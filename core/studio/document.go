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

import (
	"slices"
	"time"
)

// Format and Version head every document and plan file.
const (
	Format     = "bractum-studio"
	PlanFormat = "bractum-plan"
	Version    = 2
)

// Document is a whole studio at the moment Now.
type Document struct {
	Format   string    `json:"format"`
	Version  int       `json:"version"`
	Name     string    `json:"name"`
	Epoch    time.Time `json:"epoch"`
	Zone     string    `json:"zone"`
	Now      Minute    `json:"now"`
	Settings Settings  `json:"settings"`
	// Climate is the expected air of the room in each of the 24 local hours.
	Climate       []Air          `json:"climate,omitempty"`
	Surroundings  []Surroundings `json:"surroundings,omitempty"`
	Readings      []Reading      `json:"readings,omitempty"`
	Sensors       []Sensor       `json:"sensors,omitempty"`
	Suppliers     []Supplier     `json:"suppliers,omitempty"`
	Materials     []Material     `json:"materials,omitempty"`
	DryingClasses []DryingClass  `json:"dryingClasses,omitempty"`
	Methods       []Method       `json:"dryingMethods,omitempty"`
	Places        []Place        `json:"places,omitempty"`
	Tools         []Tool         `json:"tools,omitempty"`
	Machines      []Machine      `json:"machines,omitempty"`
	Gates         []Gate         `json:"gates,omitempty"`
	Families      []Family       `json:"setupFamilies,omitempty"`
	People        []Person       `json:"people,omitempty"`
	Recipes       []Recipe       `json:"recipes,omitempty"`
	Colourways    []Colourway    `json:"colourways,omitempty"`
	Orders        []Order        `json:"orders,omitempty"`
	Shelf         []ShelfLot     `json:"shelf,omitempty"`
	Offcuts       []Offcut       `json:"offcuts,omitempty"`
	Work          []WorkLot      `json:"work,omitempty"`
	Decided       []DecidedLot   `json:"decided,omitempty"`
	Divided       []Division     `json:"divided,omitempty"`
	// Recorded is what came of pieces that were made before, by page of the flower book.
	Recorded []Recorded `json:"recorded,omitempty"`
	// Direct states an instance of the scheduling problem outright: no recipes, no count-up.
	Direct *Instance `json:"direct,omitempty"`
	// Pins are the lead's wishes for single tasks; Seen is what people were last
	// told to do, from which a new plan departs as little as it can.
	Pins []Pin  `json:"pins,omitempty"`
	Seen []Seen `json:"seen,omitempty"`
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
	ShrinkagePerMille    PerMille    `json:"shrinkagePerMille"`
	MostPiecesOfOneOrder int64       `json:"mostPiecesOfOneOrder"`
	// SparesFor is what spares are reckoned for, RemakeMinutes what making some more costs
	// beside its setup: the nuisance of it.
	SparesFor     SparesFor `json:"sparesFor"`
	RemakeMinutes Minute    `json:"remakeMinutes"`
	// SittingMinutes is by how many minutes later work may be done so that its maker goes on with its kind.
	SittingMinutes Minute `json:"sittingMinutes"`
	// RemnantMilligrams is of how little of a mix, that nobody needs any more, nothing is kept.
	RemnantMilligrams Milligrams `json:"remnantMilligrams"`
	// Measures are the studio's own of sizes at the bench.
	Measures []Measure `json:"measures,omitempty"`
	// Allergens are the words by which materials and orders name what some must not eat: the usual ones if empty.
	Allergens []string `json:"allergens,omitempty"`
	Manner    Manner   `json:"manner,omitzero"`
	// MoneyStep is what sums of money are rounded up to.
	MoneyStep Money   `json:"moneyStep,omitempty"`
	Costing   Costing `json:"costing,omitzero"`
	Devices   Devices `json:"devices,omitzero"`
	// SeatMinutes is after how long without a touch a tablet forgets who sits at it: not before the day's end if 0.
	SeatMinutes Minute `json:"seatMinutes,omitempty"`
}

// SparesFor is what spares by breakage are reckoned for.
type SparesFor string

// Spares for the least cost, where what is short can be made again before it is late, else for
// the service level; or for that always.
const (
	SparesForRemaking SparesFor = "remaking"
	SparesForService  SparesFor = "service"
)

// DefaultSettings are the guide's defaults.
func DefaultSettings() Settings {
	return Settings{
		SafetyMinutes: 1440, GatheringMinutes: 7 * 1440, HorizonMinutes: 56 * 1440,
		LossPerMille: 80, SheetYieldPerMille: 550, DensityMgPerMl: 1400, ScaleStepMilligrams: 100,
		KeepOffcut: 60_000, PriorWeight: 50, PlanningPercentile: 80, DefaultServiceLevel: 950,
		ShrinkagePerMille: 40, MostPiecesOfOneOrder: 5000, SparesFor: SparesForRemaking, RemakeMinutes: 30,
		RemnantMilligrams: 1000, SittingMinutes: 20, MoneyStep: 1,
	}
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
	// Form is what a bought piece looks like: stamens, pearl, foam.
	Form string `json:"form,omitempty"`
	// Supplier sells it in packs of Pack, in its unit; KeepAtLeast is what is to be there.
	Supplier    ID    `json:"supplier,omitempty"`
	Pack        int64 `json:"pack,omitempty"`
	KeepAtLeast int64 `json:"keepAtLeast,omitempty"`
	// Price is what a pack of it cost last; of one without packs, one of its unit, a metre or a gram.
	Price Money `json:"pricePerPack,omitempty"`
	// Allergens are what of it some must not eat, Food whether anybody may, Label its words for who receives it.
	Allergens []string `json:"allergens,omitempty"`
	Food      Food     `json:"food,omitempty"`
	Label     string   `json:"label,omitempty"`
	// Holder and Box are of what flowers go into a cake with, and leave in.
	Holder   *Holder `json:"holder,omitempty"`
	Box      *Box    `json:"box,omitempty"`
	OutOfUse bool    `json:"outOfUse,omitempty"`
}

// Wire says what a wire material is: its gauge as sold, cover and full length.
type Wire struct {
	Gauge    Gauge       `json:"gauge"`
	Cover    string      `json:"cover"`
	Length   Micrometres `json:"lengthMicrometres"`
	Diameter Micrometres `json:"diameterMicrometres"`
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
	// Quoted is what was said of it when it was asked for.
	Quoted *Quoted `json:"quoted,omitempty"`
	// Client is who asked for it, Goes where it goes, Eaten when the cake is eaten, Cakes what the flowers go on.
	// None of it is needed for a plain two dozen roses by Friday.
	Client *Client  `json:"client,omitempty"`
	Goes   string   `json:"goes,omitempty"`
	Eaten  WallTime `json:"eaten,omitzero"`
	// Pictures are sketches and photos kept with it.
	Pictures []Picture `json:"pictures,omitempty"`
	// Approvals are what its client is to approve before it is mixed.
	Approvals []Approval `json:"approvals,omitempty"`
	Cakes     []Cake     `json:"cakes,omitempty"`
}

// PlannedAs is true of an order for which the plan has to do just what it has to for another.
func (o Order) PlannedAs(other Order) bool {
	return o.Leaves.Compare(other.Leaves) == 0 && o.Importance == other.Importance && o.State == other.State &&
		slices.Equal(o.Lines, other.Lines)
}

// Quoted is what was said of an order when it was asked for: at what minute, until which day that holds, when it would
// be ready and at what price.
type Quoted struct {
	At    Minute  `json:"at,omitempty"`
	Until Date    `json:"until,omitzero"`
	Ready *Minute `json:"ready,omitempty"`
	Price Money   `json:"price,omitempty"`
}

// OrderLine is a quantity of one recipe revision in one colourway. The revision
// pins the whole closure of the recipe.
type OrderLine struct {
	ID           ID       `json:"id"`
	Recipe       ID       `json:"recipe"`
	Variant      string   `json:"variant,omitempty"`
	Colourway    ID       `json:"colourway"`
	Quantity     int64    `json:"quantity"`
	ServiceLevel PerMille `json:"serviceLevelPerMille"`
	// Gone is how many of them have left the studio already.
	Gone int64 `json:"gone,omitempty"`
}

// Owed is how many are still to leave.
func (l OrderLine) Owed() int64 { return max(0, l.Quantity-l.Gone) }

// Quality of finished pieces: a second is usable where it won't show.
type Quality string

// Qualities of pieces on the shelf.
const (
	Good   Quality = "good"
	Second Quality = "second"
)

// ShelfLot is stock of one recipe and its mixes: pieces, or milligrams of a mix.
// From names the work lot it came out of while that lot still dries. Reached is
// the last step done of pieces kept half way, empty for finished ones.
type ShelfLot struct {
	ID      ID            `json:"id"`
	Recipe  ID            `json:"recipe"`
	Variant string        `json:"variant,omitempty"`
	Mixes   map[string]ID `json:"mixes"`
	Reached string        `json:"reached,omitempty"`
	Amount  int64         `json:"amount"`
	Quality Quality       `json:"quality"`
	MadeOn  Minute        `json:"madeOn"`
	UseBy   *Minute       `json:"useBy,omitempty"`
	From    ID            `json:"from,omitempty"`
	// Reserved is what of it is kept for which order.
	Reserved []Claim `json:"reserved,omitempty"`
	// Place is where it lies, as the studio says it; Kept how a mix is kept.
	Place string `json:"place,omitempty"`
	Kept  Kept   `json:"kept,omitempty"`
	// In is the air in which it lies, the room if empty.
	In ID `json:"in,omitempty"`
}

// WorkLot is a lot that somebody has begun: the facts recorded of it so far.
type WorkLot struct {
	ID      ID            `json:"id"`
	Recipe  ID            `json:"recipe"`
	Variant string        `json:"variant,omitempty"`
	Mixes   map[string]ID `json:"mixes"`
	Ordinal int           `json:"ordinal"`
	// Need is what the lot was begun to yield; the rest of Started are spares.
	Need    int64 `json:"need"`
	Started int64 `json:"started"`
	// From and Reached are of a lot that is finished from half-made pieces.
	From    ID           `json:"from,omitempty"`
	Reached string       `json:"reached,omitempty"`
	Records []TaskRecord `json:"records"`
	// Checks are what was found of its pieces by touch, Puts where they were put since.
	Checks []Check `json:"checks,omitempty"`
	Puts   []Put   `json:"puts,omitempty"`
	// Reserved is what of its good pieces is kept for which order.
	Reserved []Claim `json:"reserved,omitempty"`
}

// Division says into how many lots the pieces are divided that are gathered into the lot
// Group, where that is not as many as their recipe and formers ask for. Of a mix it may say instead
// that what would be the lot Group is weighed with the lot Into, as long as both must be begun within
// Within of each other.
type Division struct {
	Group  ID     `json:"group"`
	Lots   int64  `json:"lots,omitempty"`
	Into   ID     `json:"into,omitempty"`
	Within Minute `json:"withinMinutes,omitempty"`
}

// DecidedLot is a lot that nobody has begun and the lead has decided on: it is made as
// it stands, whatever is counted beside it. It goes by its gather key and ordinal.
type DecidedLot struct {
	Recipe  ID            `json:"recipe"`
	Variant string        `json:"variant,omitempty"`
	Mixes   map[string]ID `json:"mixes"`
	Ordinal int           `json:"ordinal"`
	// Need is what it is to yield. Started is what it is begun with, 0 for as many as
	// the recipe's spares come to.
	Need    int64 `json:"need"`
	Started int64 `json:"started,omitempty"`
	// Due is when its pieces are to be there, where that is not when they are needed.
	Due *Minute `json:"due,omitempty"`
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

// TaskRecord is what happened to one work step, stint or mending of a lot: who,
// when, the pieces counted so far by outcome, and how many were used of inputs
// that are as needed. A stint goes by its first step, a mending by MendKey of its
// step. A wait in a machine is recorded by its machine. End is set once it is done.
type TaskRecord struct {
	Step    string    `json:"step"`
	State   TaskState `json:"state"`
	Person  ID        `json:"person"`
	Machine ID        `json:"machine,omitempty"`
	Start   Minute    `json:"start"`
	End     Minute    `json:"end,omitempty"`
	Good    int64     `json:"good"`
	Second  int64     `json:"second"`
	Mend    int64     `json:"mend,omitempty"`
	Broken  int64     `json:"broken"`
	Used    []Used    `json:"used,omitempty"`
	// Weighed is what was weighed for a mixing, in the order of its ingredients: the
	// blend, then the additives.
	Weighed []Milligrams `json:"weighedMilligrams,omitempty"`
	// Asks is what somebody who is at it asks for help with, until that is answered.
	Asks string `json:"asks,omitempty"`
	// Remarks are what was not as it should be.
	Remarks []Remark `json:"remarks,omitempty"`
}

// Remark is what somebody found not as it should be, in their words, with a photo where there is one.
type Remark struct {
	At      Minute `json:"at"`
	Person  ID     `json:"person"`
	Says    string `json:"says"`
	Picture ID     `json:"picture,omitempty"`
}

// Used is what a task took up of one thing, where that is settled as it is done: how many pieces
// of an input in all, where the recipe leaves that to the maker's eye; how many of an input Broke
// as they were taken up, and others took their place; how much of a material.
type Used struct {
	Recipe   ID     `json:"recipe,omitempty"`
	Variant  string `json:"variant,omitempty"`
	Pieces   int64  `json:"pieces,omitempty"`
	Broke    int64  `json:"broke,omitempty"`
	Material ID     `json:"material,omitempty"`
	Amount   int64  `json:"amount,omitempty"`
}

// Same is true of what is used of one and the same thing.
func (u Used) Same(v Used) bool {
	return u.Recipe == v.Recipe && u.Variant == v.Variant && u.Material == v.Material
}

// Recorded is how many pieces of a recipe, in any revision, came out of finished lots, and
// how many were lost on the way.
type Recorded struct {
	Recipe ID    `json:"recipe"`
	Good   int64 `json:"good"`
	Lost   int64 `json:"lost"`
}

// Counted is the number of pieces this record accounts for.
func (r TaskRecord) Counted() int64 { return r.Good + r.Second + r.Mend + r.Broken }

// Offcut is a number of cut wires on the shelf, all of one length: kept rests, and what
// was cut to measure and is not taken up yet.
type Offcut struct {
	Material ID          `json:"material"`
	Length   Micrometres `json:"lengthMicrometres"`
	Number   int64       `json:"number"`
}

// Shared is true of lists that two documents share: one in memory, or both empty. It costs
// nothing, where comparing costs their length.
func Shared[T any](a, b []T) bool { return len(a) == len(b) && (len(a) == 0 || &a[0] == &b[0]) }
