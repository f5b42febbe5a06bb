package studio

// MovementKind is why an amount changed.
type MovementKind string

// Kinds of movements. Reserved and released change what is kept for whom, the others
// what is there.
const (
	Bought    MovementKind = "bought"
	Mixed     MovementKind = "mixed"
	UsedUp    MovementKind = "used"
	MadeOf    MovementKind = "made"
	Spoilt    MovementKind = "spoilt"
	Counted   MovementKind = "counted"
	Reserved  MovementKind = "reserved"
	Released  MovementKind = "released"
	Corrected MovementKind = "corrected"
)

// Movement is one line of the ledger, from which every balance follows: a change of a
// shelf lot, of a material, of the wires of a length that lie cut, or of what is reserved
// of a shelf lot or of a lot in work. What goes away is less than nothing.
type Movement struct {
	Kind     MovementKind
	Shelf    ID
	Material ID
	Length   Micrometres // of cut wires
	// Made is the quality of the shelf lot that a lot in work makes, before that has an
	// id; New a shelf lot that there is none of yet.
	Made Quality
	New  *ShelfLot
	// Lot is the lot in work whose pieces are reserved, Order whom a reservation is for:
	// none where the lead keeps it back.
	Lot    ID
	Order  ID
	UseBy  *Minute
	Amount int64
}
