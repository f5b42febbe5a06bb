package studio

// Kind is what a recipe makes. Mixes are counted in milligrams, all else in pieces.
type Kind string

// Kinds of recipes.
const (
	KindMix    Kind = "mix"
	KindPart   Kind = "part"
	KindFlower Kind = "flower"
	KindSpray  Kind = "spray"
)

// Recipe is one immutable revision of how something is made. Its references to
// other recipes are to revisions, so one revision pins its whole closure.
type Recipe struct {
	ID       ID     `json:"id"`
	Recipe   ID     `json:"recipe"`
	Revision int    `json:"revision"`
	Name     string `json:"name"`
	Kind     Kind   `json:"kind"`
	// Form is the glyph a part or flower is drawn with: petal, leaf, centre, …
	Form string `json:"form,omitempty"`

	Parts     []PartInput     `json:"parts,omitempty"`
	Pastes    []PasteInput    `json:"pastes,omitempty"`
	Materials []MaterialInput `json:"materials,omitempty"`
	Wires     []WireInput     `json:"wires,omitempty"`
	// Defaults give a slot its mix where the colourway is silent.
	Defaults map[string]ID `json:"defaults,omitempty"`
	// OwnColours is true of a recipe whose colour slots are its own: what it goes into, and
	// its colourways, know each as the recipe's name, a colon and the slot (White daisy: petal).
	OwnColours bool `json:"ownColours,omitempty"`

	// Of a mix: its blend by parts or by per cent, additives per 100 g, swatch and life.
	Blend       []Ingredient `json:"blend,omitempty"`
	ByPercent   bool         `json:"byPercent,omitempty"` // the parts of its blend are per cent
	Additives   []Additive   `json:"additives,omitempty"`
	Colour      string       `json:"colour,omitempty"`
	LifeMinutes Minute       `json:"lifeMinutes,omitempty"`

	// LifeCold is its life in a closed bag in the cold; Drying the factor it puts
	// on drying needs: below 1000 with CMC, above with soft paste.
	LifeColdMinutes Minute   `json:"lifeColdMinutes,omitempty"`
	Drying          PerMille `json:"dryingPerMille,omitempty"`

	// Dries says how its pieces dry where no wait or window does: how long they stay soft.
	Dries *Drying `json:"dries,omitempty"`

	Steps        []Step `json:"steps"`
	Spares       Spares `json:"spares"`
	SecondsServe bool   `json:"secondsServe,omitempty"`
	// MostPerLot is the lead's own limit on the pieces of a lot, LeastPerLot what
	// is worth beginning with; 0 is none.
	MostPerLot  int64  `json:"mostPerLot,omitempty"`
	LeastPerLot int64  `json:"leastPerLot,omitempty"`
	Yield       *Yield `json:"yield,omitempty"`
	// Forms share out a lot: half of the petals mirrored, a third left closed.
	Forms []Form `json:"forms,omitempty"`
	// KeepInStock is how many are made ahead for the shelf.
	KeepInStock int64       `json:"keepInStock,omitempty"`
	Byproducts  []Byproduct `json:"byproducts,omitempty"`
	// Build is the direction in which rows are joined.
	Build    Build     `json:"build,omitempty"`
	Variants []Variant `json:"variants,omitempty"`
	// Techniques are the questions that makers answer in different ways; Silenced
	// the warnings of proportion that the studio has looked at and let stand;
	// Pictures the photos and drawings kept with it.
	Techniques []Technique `json:"techniques,omitempty"`
	// Sizes are those that a part is made in.
	Sizes []Size `json:"sizes,omitempty"`

	Silenced []Silence `json:"silenced,omitempty"`
	Pictures []Picture `json:"pictures,omitempty"`

	limits []runLimit // of parts that are made in the run
}

// Silence lets one warning of proportion stand, with the reason.
type Silence struct {
	Rule   string `json:"rule"`
	Reason string `json:"reason"`
}

// Picture names a photo or drawing; what it shows is stored beside the recipes.
type Picture struct {
	ID   ID     `json:"id"`
	Name string `json:"name"`
	Step string `json:"step,omitempty"` // that it shows
}

// Build is a school of assembly: rows from the inside out (the default), or the
// outermost first, into a former.
type Build string

// Directions of building.
const (
	InsideOut Build = "inside-out"
	OutsideIn Build = "outside-in"
)

// Yield says that one unit worked at the steps up to and including Step gives
// several pieces after it: a winding gives two brushes, a petal two halves.
type Yield struct {
	Step  string `json:"step"`
	Gives int64  `json:"gives"`
}

// Form names a share of a lot that is treated in a way of its own.
type Form struct {
	Name  string   `json:"name"`
	Share PerMille `json:"sharePerMille"`
}

// Byproduct is what making one piece leaves over of a material: scraps for glue.
type Byproduct struct {
	Material ID    `json:"material"`
	Amount   int64 `json:"amount"`
}

// PartInput takes Count pieces of another recipe, in a variant and form of it,
// for each piece, at a step. As needed, Least to Count of them are used, by eye.
type PartInput struct {
	// Key tells this input of a thing at a step from others of it; variants and schools
	// change it by that.
	Key     string `json:"key,omitempty"`
	Step    string `json:"step"`
	Recipe  ID     `json:"recipe"`
	Variant string `json:"variant,omitempty"`
	Form    string `json:"form,omitempty"`
	Count   int64  `json:"count"`
	Least   *int64 `json:"least,omitempty"`
	// Between is the range that the studio makes it in; Count is chosen from it.
	Between *Between `json:"between,omitempty"`
	// Window limits the time between the end of the input and this step. An
	// input with an upper limit cannot come from stock.
	Window *Window `json:"window,omitempty"`
	// Wants is the state in which it is wanted; by how it is joined if empty.
	Wants Condition `json:"wants,omitempty"`
	// InRun is true of an input that is made in the run: its steps belong to the task that
	// takes it up, which one maker does run after run.
	InRun bool `json:"inRun,omitempty"`
	// Sizes is true of an input of all sizes of a part, as many of each as its table says,
	// Count times.
	Sizes bool `json:"sizes,omitempty"`
	// Slots names, for colour slots of the input, the slot of this recipe that
	// gives the mix: a deeper shade for the inner row.
	Slots map[string]string `json:"slots,omitempty"`

	// Rows are the pieces of each row in the order of building; Set how a row
	// stands against the one before; Join how pieces hold; Reversed those put on
	// the other way round; Sequence the order around one cut-out; At the
	// distances from the tip of a spray.
	Rows     []int64       `json:"rows,omitempty"`
	Set      Set           `json:"set,omitempty"`
	Join     Join          `json:"join,omitempty"`
	Reversed bool          `json:"reversed,omitempty"`
	Sequence []int64       `json:"sequence,omitempty"`
	At       []Micrometres `json:"atMicrometres,omitempty"`
}

// Between is a range of counts: from five to seven petals.
type Between struct {
	Least int64 `json:"least"`
	Most  int64 `json:"most"`
}

// Set is how a row stands against the one before it.
type Set string

// Settings of a row.
const (
	SetOverGaps    Set = "over-gaps"
	SetLevel       Set = "level"
	SetAlternating Set = "alternating"
)

// Join is how pieces are held together.
type Join string

// Ways of joining.
const (
	JoinTaped    Join = "taped"
	JoinGlued    Join = "glued"
	JoinWet      Join = "wet"
	JoinSlotted  Join = "slotted"
	JoinThreaded Join = "threaded"
	JoinIced     Join = "iced"
)

// PasteInput takes paste, dust or glue of a colour slot at a step: for each piece Number pieces
// of paste of that shape, one if left out. Run is the pieces cut from one working sheet; 0
// where nothing is rolled.
type PasteInput struct {
	Key   string   `json:"key,omitempty"`
	Step  string   `json:"step"`
	Slot  string   `json:"slot"`
	Shape Geometry `json:"shape"`
	// Number is how many of them one piece takes: five petals cut for a blossom.
	Number int64 `json:"number,omitempty"`
	Run    int64 `json:"run,omitempty"`
	// Where it goes on the piece, of dust and glue: the base, the edge, the back.
	Where string `json:"where,omitempty"`
}

// Each is how many pieces of paste one piece takes.
func (p PasteInput) Each() int64 { return max(1, p.Number) }

// Cut is how many pieces of paste a quantity of the recipe's pieces takes of an input.
func (r *Recipe) Cut(p PasteInput, quantity int64) int64 { return r.At(p.Step, quantity) * p.Each() }

// Shape of a piece of paste, for its mass.
type Shape string

// Shapes: a cut sheet, a ball, a rope, or a weighed mass.
const (
	ShapeCut     Shape = "cut"
	ShapeBall    Shape = "ball"
	ShapeRope    Shape = "rope"
	ShapeWeighed Shape = "weighed"
)

// Geometry is the size of one piece; which fields count depends on its shape:
// cut takes length, width, thickness and the factor of its outline (an ellipse
// is 785 ‰ of its rectangle); ball takes diameter; rope diameter and length;
// weighed takes the mass itself.
type Geometry struct {
	Shape     Shape       `json:"shape"`
	Length    Micrometres `json:"lengthMicrometres,omitempty"`
	Width     Micrometres `json:"widthMicrometres,omitempty"`
	Thickness Micrometres `json:"thicknessMicrometres,omitempty"`
	Diameter  Micrometres `json:"diameterMicrometres,omitempty"`
	Factor    PerMille    `json:"factorPerMille,omitempty"`
	Mass      Milligrams  `json:"massMilligrams,omitempty"`
	// Dried is the length wanted once dry; the cutter is chosen by it.
	Dried Micrometres `json:"driedMicrometres,omitempty"`
}

// Ball, Rope and Weighed are the geometries that need no outline.
func Ball(diameter Micrometres) Geometry { return Geometry{Shape: ShapeBall, Diameter: diameter} }

// Rope is a roll of so much across and so long.
func Rope(diameter, length Micrometres) Geometry {
	return Geometry{Shape: ShapeRope, Diameter: diameter, Length: length}
}

// Weighed is a piece of a mass, whatever its size.
func Weighed(mass Milligrams) Geometry { return Geometry{Shape: ShapeWeighed, Mass: mass} }

// Sheet is a piece cut from a rolled sheet, its outline filling a share of its rectangle.
func Sheet(length, width, thickness Micrometres, factor PerMille) Geometry {
	return Geometry{Shape: ShapeCut, Length: length, Width: width, Thickness: thickness, Factor: factor}
}

// MaterialInput takes an amount of a bought material, in its unit, for each piece
// or for every so many of them: Least to Most of it where that is settled by eye, Amount usually.
// What is put in as a spacer or support comes out again at a later step, counted.
type MaterialInput struct {
	Key      string `json:"key,omitempty"`
	Step     string `json:"step"`
	Material ID     `json:"material"`
	Amount   int64  `json:"amount"`
	Least    *int64 `json:"least,omitempty"`
	Most     *int64 `json:"most,omitempty"`
	Per      int64  `json:"perPieces,omitempty"`
	OutAt    string `json:"outAtStep,omitempty"`
}

// Taken is how much of the material so many pieces take up, usually.
func (m MaterialInput) Taken(pieces int64) int64 {
	return CeilDiv(m.Amount*pieces, max(1, m.Per))
}

// Ready is how much of the material is made ready for so many pieces: the most that they may take up.
func (m MaterialInput) Ready(pieces int64) int64 {
	if m.Most != nil {
		m.Amount = *m.Most
	}
	return m.Taken(pieces)
}

// ByEye is true of an amount that is settled as it is taken up.
func (m MaterialInput) ByEye() bool { return m.Least != nil || m.Most != nil }

// WireInput takes Number cut wires for each piece, each as long as its depth in
// the paste, its free stem and the allowance for hook or loop together.
type WireInput struct {
	Key       string      `json:"key,omitempty"`
	Step      string      `json:"step"`
	Material  ID          `json:"material"`
	Number    int64       `json:"number"`
	Depth     Micrometres `json:"depthMicrometres"`
	Stem      Micrometres `json:"stemMicrometres"`
	Allowance Micrometres `json:"allowanceMicrometres"`
	Hook      Hook        `json:"hook,omitempty"`
	Turns     int64       `json:"turns,omitempty"`
}

// Hook is a school of fastening the wire in the paste.
type Hook string

// Hooks: open, squeezed shut, wound with tape (so many turns), straight and glued.
const (
	HookOpen      Hook = "open"
	HookClosed    Hook = "closed"
	HookTapeWound Hook = "tape-wound"
	HookStraight  Hook = "straight"
)

// Ingredient is a share of a blend, by parts: a material or another mix.
type Ingredient struct {
	Material ID    `json:"material,omitempty"`
	Mix      ID    `json:"mix,omitempty"`
	Parts    int64 `json:"parts"`
}

// Additive is an amount of a material kneaded into each 100 g of a mix: weighed, or
// so many drops of so much each.
type Additive struct {
	Material ID         `json:"material"`
	Per100g  Milligrams `json:"milligramsPer100g,omitempty"`
	Drops    int64      `json:"dropsPer100g,omitempty"`
	Drop     Milligrams `json:"dropMilligrams,omitempty"`
}

// Mass is what goes into each 100 g.
func (a Additive) Mass() Milligrams { return a.Per100g + Milligrams(a.Drops)*a.Drop }

// Spares says how many more than needed are started.
type Spares struct {
	Rule      SpareRule `json:"rule"`
	Breakage  PerMille  `json:"breakagePerMille,omitempty"`
	Number    int64     `json:"number,omitempty"`
	Percent   int64     `json:"percent,omitempty"`
	GoodSoFar int64     `json:"goodSoFar,omitempty"`
	LostSoFar int64     `json:"brokenSoFar,omitempty"`
}

// SpareRule is one of the three schools of spares.
type SpareRule string

// Rules for spares: by expected breakage, a fixed number, a percentage, none.
const (
	SparesByBreakage SpareRule = "breakage"
	SparesByNumber   SpareRule = "number"
	SparesByPercent  SpareRule = "percent"
	SparesNone       SpareRule = "none"
)
