package studio

// PauseWithin is the longest gap over which work of one kind is one sitting, in minutes.
const PauseWithin Minute = 20

// KindOfWork is the kind of a step's work, by which sittings are told apart; empty of waits.
func (r *Recipe) KindOfWork(step string) string {
	of, mends := MendedStep(step)
	s, at := r.Step(of)
	switch {
	case at < 0:
	case mends && s.Mend != nil:
		return s.Mend.Glyph
	case !mends && s.Work != nil:
		return s.Work.Glyph
	}
	return ""
}
