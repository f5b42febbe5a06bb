package studio

// Costing is how the studio reckons what an order costs beside what its makers' hours and its materials cost, and
// what it asks for it.
type Costing struct {
	// Overhead is what the house costs for each hour that somebody works: rent, light, the oven.
	Overhead Money `json:"overheadPerHour,omitempty"`
	// Hour is what an hour of work is charged at; what it costs, house and all, if nothing is said.
	Hour Money `json:"chargedPerHour,omitempty"`
	// Factor is by how much more than they cost materials are charged, in thousandths: 1000, if left out, is as
	// they cost.
	Factor PerMille `json:"materialsFactorPerMille,omitempty"`
	// Box is what packing an order costs, Delivery what bringing or posting it costs.
	Box      Money `json:"box,omitempty"`
	Delivery Money `json:"delivery,omitempty"`
}

// Charged is the factor at which materials are charged.
func (c Costing) Charged() PerMille {
	if c.Factor == 0 {
		return 1000
	}
	return c.Factor
}

// Collected is how an order leaves that its client fetches; any other way costs a delivery.
const Collected = "collected"
