package demo

import "bractum/core/studio"

// What the book tells somebody who makes a flower for the first time: where dust goes, and what usually goes
// wrong at a step and why. By the key of a step, or else by its kind of work.

func wrong(what, why string) studio.Mistake { return studio.Mistake{What: what, Why: why} }

var mistakes = map[string][]studio.Mistake{
	"cut": {
		wrong("The sheet is too thick", "Rolling stopped too soon: light should pass through it."),
		wrong("The edge is ragged", "The cutter was turned or the sheet stuck: fat on the board, press once, lift."),
	},
	"thin": {
		wrong("The edge frills or tears", "The ball was pressed too hard, or past the edge: half on, half off the piece."),
	},
	"frill": {
		wrong("It tears between the frills", "The piece was dry already, or too thin before it was stretched."),
	},
	"nick": {wrong("The flower looks stamped", "Every piece was nicked alike: only some get it, no two the same.")},
	"cup": {
		wrong("The cup falls flat", "It was cupped while still wet: wait until the edge is a little firm."),
		wrong("It cracks at the rim", "It was too dry: cup while it still bends."),
	},
	"fold":  {wrong("The fold springs back", "It was too firm, or not pinched at the foot.")},
	"clad":  {wrong("The cone shows at the foot", "The petal was rolled too small, or closed too low.")},
	"form":  {wrong("The cone is too tall for its petal", "Three quarters of the petal's height, so that it closes.")},
	"pull":  {wrong("One lobe is longer", "The cuts were not to the same depth: halve, then halve again.")},
	"pearl": {wrong("The pearl falls out later", "The middle had set: a touch of water, and press while it gives.")},
	"punch": {wrong("Pieces stick together", "The stack was damp: starch between, a few sheets at a time.")},
	"snip":  {wrong("The tips curl up", "The pieces lay open too long before they were snipped.")},
	"halve": {wrong("Halves of two sizes", "Mark the seam first, and cut away from the hand.")},
	"pour": {
		wrong("The wire shows", "The first coat was too thin under it: lay it in while the coat is wet."),
		wrong("Bubbles", "The mix was whisked too fast, or not left to stand."),
	},
	"second":  {wrong("The coats part", "The first had dried through and was dusty: brush it before the second.")},
	"release": {wrong("It tears as it comes off", "It was bent off the mat: bend the mat off the piece.")},
	"roll":    {wrong("The bead turns on its hook", "The hook was dry: dip it, and turn the bead as it goes on.")},
	"vein": {
		wrong("The veiner cuts through", "A deep veiner was pressed like a faint one."),
		wrong("Nothing shows", "A faint veiner wants the flat of the thumb all over."),
	},
	"set": {wrong("Each petal curves another way", "Lay them in the same turn of the mould, foot to the same side.")},
	"soften": {
		wrong("Lobes fuse", "They overlapped while wet: let them lie a moment before they are laid over each other."),
	},
	"lay": {
		wrong("The layers sit on top of each other", "Each is turned by half a lobe over the gaps of the last."),
		wrong("A layer snaps", "It was dry: it has to bend still."),
	},
	"wire": {
		wrong("The wire comes through", "It went in at a slant: straight, the petal between two fingers."),
		wrong("It pulls out once dry", "The foot was not pinched to it."),
	},
	"wind":  {wrong("The thread cuts into the finger", "Wind on the former: thread round a finger stops the blood.")},
	"open":  {wrong("The brush is lopsided", "It was cut off the middle of the tie.")},
	"hook":  {wrong("Hooks of all sizes", "The wires did not stand level in the pliers.")},
	"push":  {wrong("Stamens lean", "The paste had set: push them in while it is soft, from the middle out.")},
	"heart": {wrong("A hole in the middle", "The spiral was begun too low on the cone.")},
	"rows":  {wrong("The row slides", "All were put on at once: pause when half are on, films between.")},
	"inner": {wrong("The layers clump", "They were pressed on rather than laid over the gaps.")},
	"outer": {
		wrong("The outside collapses", "The rows under it had not set: look at the rest it has had."),
		wrong("Gaps", "Rows were set one behind the other instead of over the gaps."),
	},
	"fill":    {wrong("It looks full on one side", "Turn it as you go, and look from above.")},
	"bunch":   {wrong("A gap shows", "The cones were dry: bunch while they still give.")},
	"calyx":   {wrong("The points stand off", "Turn it upside down to press them on.")},
	"clear":   {wrong("A strip stays in", "Count them: as many out as went in.")},
	"slot":    {wrong("It stands askew", "Hold it level until the glue grips.")},
	"thread":  {wrong("The layers turn", "A dot of glue between each, and half a petal's turn.")},
	"ice":     {wrong("The seat sags", "The icing was too slack: a peak should stand.")},
	"cluster": {wrong("Beads turn on the wire", "Tape under the hook, tight, before the next.")},
	"join":    {wrong("The stem is thick at the join", "The ends were cut level: stagger them.")},
	"bend":    {wrong("The head breaks off", "Bend the wire at its foot, never the flower.")},
	"tape": {
		wrong("The tape tears", "It was pulled too hard: stretch it until it sticks, no more."),
		wrong("White or wire shows", "It was begun too far down: close under the petal, a turn or two each."),
	},
	"dust": {
		wrong("A harsh line", "The brush was too full: tap it first, and begin where it is deepest."),
		wrong("It drags", "The piece was not dry."),
	},
	"dip":     {wrong("Pollen on the petals", "It was not tapped off over the bowl, and left to set.")},
	"steam":   {wrong("The flower melts", "It was held too long or too near: two or three seconds.")},
	"trim":    {wrong("Stamens of all lengths", "They were cut one by one: bundle them level, then one cut.")},
	"pen":     {wrong("The colour runs down", "The pen was held upside down too long: tips down, and let them dry.")},
	"centre":  {wrong("The centre falls out", "The paste had set: a touch of glue, and press while it gives.")},
	"shape":   {wrong("The foil creases", "Press from the middle outwards, with the ball still in it.")},
	"middle":  {wrong("The rows wander", "Count the petals of a row round once before the first is glued.")},
	"stand":   {wrong("Stamens lean or fall", "They went in too shallow, or after the icing had set.")},
	"notch":   {wrong("The notch tears on", "The knife was drawn: press it once.")},
	"flatten": {wrong("The cone turns on its wire", "The hook was open or dry: squeeze it, dip it.")},
	"caps":    {wrong("Caps of different heights", "Push each to where the bead narrows, no further.")},
	"load": {
		wrong("Pieces dry unevenly", "They touched: one layer, with air between."),
		wrong("Something melts", "No foam, plastic or hot glue goes in."),
	},
	"fix": {wrong("It slides off", "The icing had crusted: pipe and set at once, and hold until it grips.")},
	"mix": {
		wrong("Streaks", "Colour was added at the end: knead it into a little first, then into all."),
		wrong("Another shade than last time", "It was mixed by eye: weigh, and note what was added."),
	},
}

// dustGoes is where dust, glue and icing go, by recipe and step.
var dustGoes = map[string]string{
	"Ranunculus dust": "the edges, and darker in the heart", "Magnolia inner petal dust": "the foot, fading upwards",
	"Magnolia outer petal dust": "the foot, fading upwards, a breath on the back",
	"Eucalyptus leaf dust":      "both sides, deeper along the vein", "Gardenia dust": "the heart, a breath",
	"Dahlia brush": "the tips, and the deepest in the middle", "Camellia ice": "the middle of the layers",
	"Camellia dust":      "the edges, inside darker than outside",
	"Anemone centre dip": "the tips of the brush, all round",
	"Anemone petal dust": "from the foot to a third, inside",
	"Anemone again":      "round the centre, where the petals meet",
	"Cosmos thread":      "between the layers, in the middle",
	"Cosmos dust":        "round the eye, drawn outwards",
	"Hellebore powder":   "the veins, and the back at the foot",
	"Dogwood bract pour": "the whole mould, level", "Dogwood bract second": "over wire and all, level",
	"Viburnum berry tumble": "all over, in the bowl", "Olive leaf dust": "deeper along the vein, the back paler",
	"Ivy leaf dust": "deeper along the veins, the edge reddish", "Harbour spray fix": "under each pip",
}

// forLearners adds to recipes, in all their ways, what somebody new is told.
func forLearners(recipes []studio.Recipe) []studio.Recipe {
	for i := range recipes {
		r := &recipes[i]
		for j := range r.Steps {
			warned(&r.Steps[j])
		}
		for j := range r.Pastes {
			r.Pastes[j].Where = dustGoes[r.Name+" "+r.Pastes[j].Step]
		}
		for _, v := range r.Changes() {
			for j := range v.Steps {
				warned(&v.Steps[j].Step)
			}
		}
	}
	return recipes
}

// warned tells a step's usual mistakes.
func warned(s *studio.Step) {
	if s.Work == nil {
		return
	}
	if s.Mistakes = mistakes[s.Key]; s.Mistakes == nil {
		s.Mistakes = mistakes[s.Work.Glyph]
	}
}

// measures are what this studio calls sizes at the bench.
func measures() []studio.Measure {
	marks := func(prefix string, sizes ...studio.Micrometres) (all []studio.Mark) {
		for n, size := range sizes {
			all = append(all, studio.Mark{Name: prefix + string(rune('A'+n)), Size: size})
		}
		return all
	}
	return []studio.Measure{
		{Name: "ball gauge", Of: studio.MeasuresBall,
			Marks: marks("hole ", 3_000, 5_000, 7_000, 9_000, 11_000, 14_000, 17_000, 20_000, 24_000, 28_000)},
		{Name: "rolling pin", Of: studio.MeasuresThickness,
			Marks: marks("ring ", 300, 450, 600, 800, 1_000, 1_500, 2_000, 3_000)},
	}
}
