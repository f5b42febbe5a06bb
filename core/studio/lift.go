package studio

// lifts turn what was read of a document of one version into the next one's: the
// first lifts version 0. What a new version only adds, and has left out mean what it
// meant before, needs none.
var lifts = []func(*Document){liftStiffness}

// lift brings a document of an earlier version to this one, and leaves any other.
func (d *Document) lift() {
	if d.Format != Format || d.Version < 0 || d.Version >= Version {
		return
	}
	for _, raise := range lifts[d.Version:] {
		raise(d)
	}
	d.Version = Version
}

// liftStiffness: version 0 had no stiff state; a class is stiff when it is dry.
func liftStiffness(d *Document) {
	for i := range d.DryingClasses {
		if c := &d.DryingClasses[i]; c.StiffMinutes == 0 {
			c.StiffMinutes = c.DryMinutes
		}
	}
}
