package store

import "slices"

// topicOf is the topic of each kind of thing that a command touches: what screens, and
// snapshots, are about.
var topicOf = map[string]string{
	"order": "orders", "lot": "work", "lying": "work", "stock": "stores", "purchase": "stores",
	wishOfLot: "wishes", wishOfGroup: "wishes", wishOfTask: "wishes",
	"plan": "plan", "person": "standards", "settings": "standards", "refusal": "standards", "timer": "timers", "air": "air", "sensor": "air",
	"clock": "clock", "draft": "drafts", "revision": "book", "page": "book", "colourway": "book", "material": "book", "place": "book",
	"drying class": "book", "equipment": "book", "picture": "book",
}

// about notes that a command is about a kind of thing of which nothing is to be restored.
func (t *Tx) about(thing string) { t.things = append(t.things, thing) }

// topics are what a command is about, each once: what it touched, and what it moved.
func (t *Tx) topics() []string {
	topics := []string{"journal"}
	for _, thing := range t.things {
		if topic := topicOf[thing]; topic != "" {
			topics = append(topics, topic)
		}
	}
	slices.Sort(topics)
	return slices.Compact(topics)
}
