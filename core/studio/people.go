package studio

// Person is a maker: skills, weekly hours, breaks, days and times away, and the overtime
// they are willing to do. Shifts, where given, state the hours outright.
type Person struct {
	ID     ID          `json:"id"`
	Name   string      `json:"name"`
	Skills []Skill     `json:"skills"`
	Hours  []DayHours  `json:"hours,omitempty"`
	Breaks []BreakTime `json:"breaks,omitempty"`
	Away   []Date      `json:"away,omitempty"`
	// AwayTimes are stretches in which they are not there, whatever their hours: late, off early, an afternoon.
	AwayTimes []Span `json:"awayTimes,omitempty"`
	Shifts    []Span `json:"shifts,omitempty"`
	// Overtime is allowed beyond the hours: by weekday, or outright.
	Overtime       []DayHours `json:"overtime,omitempty"`
	OvertimeShifts []Span     `json:"overtimeShifts,omitempty"`
	// Rate is what an hour of theirs costs.
	Rate Money `json:"ratePerHour,omitempty"`
	// Colours are the mixes this person last worked with, by setup family.
	Colours map[ID]ID `json:"colours,omitempty"`
	// OutOfUse is of who does not work here any more: nothing is planned for them.
	OutOfUse bool `json:"outOfUse,omitempty"`
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

// PaceAt is the pace at which a person does what falls to them: that of the recipe, 100, at a
// skill that they have not got.
func (p Person) PaceAt(skill string) int64 {
	if pace := p.Pace(skill); pace > 0 {
		return pace
	}
	return 100
}
