package api

import (
	"slices"

	"bractum/situation"
)

// Topics are what clients refetch by. A fact is about the topics of what it touched; all
// that is worked out is about what Planned says.
var topicOf = map[string]string{
	"order": "orders", "lot": "work", "lying": "work", "stock": "stores", "purchase": "stores", "decided": "wishes", "divided": "wishes", "pin": "wishes",
	"plan": "plan", "person": "standards", "settings": "standards", "refusal": "standards", "timer": "timers", "air": "air", "sensor": "air",
	"clock": "clock", "draft": "drafts", "revision": "book", "page": "book", "colourway": "book", "material": "book", "place": "book",
	"drying class": "book", "equipment": "book",
}

// topicsOf are the topics of things, each once.
func topicsOf(things []string) []string {
	topics := []string{"journal"}
	for _, thing := range things {
		if topic := topicOf[thing]; topic != "" {
			topics = append(topics, topic)
		}
	}
	slices.Sort(topics)
	return slices.Compact(topics)
}

// published lets everybody know of what is worked out, and of minutes that go by; of what
// was recorded a command lets them know itself.
func (s *Service) published(at *situation.Situation) {
	last := s.last.Swap(at)
	switch {
	case !at.Behind():
		s.listen(Event{Name: EventPlanned, N: at.N})
	case last != nil && last.Now != at.Now:
		s.listen(Event{Name: EventFacts, N: at.N, Topics: []string{"clock"}})
	}
}

// AllTopics stands for every topic.
const AllTopics = "all"
