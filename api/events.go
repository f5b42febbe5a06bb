package api

import "bractum/situation"

// published lets everybody know of what is worked out, and of minutes that go by; of what
// was recorded a command lets them know itself.
func (s *Service) published(at *situation.Situation) {
	last := s.last.Swap(at)
	switch {
	case last == nil || last.Worked != at.Worked || last.Planned != at.Planned:
		s.listen(Event{Name: EventPlanned, N: at.Planned.N})
	case last != nil && last.Now != at.Now:
		s.listen(Event{Name: EventFacts, N: at.N, Topics: []string{"clock"}})
	}
}

// AllTopics stands for every topic.
const AllTopics = "all"
