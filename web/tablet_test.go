package web_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"net/url"
	"strconv"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/sync/errgroup"

	"bractum/api"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// recorded is something that a tablet recorded: with an id of its own, however often it is sent.
type recorded struct {
	id, path string
	person   studio.ID
	body     object
}

// tablet sends what was recorded on it, in order, over a network that loses sends, loses answers, and delivers
// again what was delivered before.
type tablet struct {
	desk
	*rand.Rand
	sent []recorded
	bad  bool
	// refused is what was said last of a command that was not taken
	refused string
}

// arrives sends until there is an answer, as a tablet's outbox does.
func (b *tablet) arrives(r recorded) (status int) {
	b.t.Helper()
	for {
		if b.bad && b.Float64() < 0.2 { // it is lost on the way
			continue
		}
		status = b.deliver(r)
		if b.bad && len(b.sent) > 0 && b.Float64() < 0.3 { // what was on its way for long comes in now
			b.deliver(b.sent[b.IntN(len(b.sent))])
		}
		if b.bad && b.Float64() < 0.2 { // the answer is lost
			continue
		}
		b.sent = append(b.sent, r)
		return status
	}
}

func (b *tablet) deliver(r recorded) int {
	b.t.Helper()
	b.person = r.person
	status, answer := b.ask("POST", r.path, r.body, map[string]string{"Command-Id": r.id})
	require.Less(b.t, status, 500, "%v", answer)
	if status >= 400 {
		b.refused = fmt.Sprint(answer["detail"])
	}
	return status
}

// Whatever a network loses, repeats or brings late, the journal is that of a perfect one.
func TestALossyNetworkLeavesTheSameJournal(t *testing.T) {
	rounds := number("BRACTUM_ROUNDS", 12)
	random := rand.New(rand.NewPCG(22, 9))
	perfect := &tablet{desk: newDeskOf(t, demo.Document()), Rand: random}
	lossy := &tablet{desk: newDeskOf(t, demo.Document()), Rand: random, bad: true}
	people := demo.Document().People
	for range rounds {
		person := people[random.IntN(len(people))].ID
		perfect.person = person
		_, view := perfect.ask("GET", "/api/bench/"+string(person), nil, map[string]string{"Prefer": "wait=20"})
		lossy.ask("GET", "/api/bench/"+string(person), nil, map[string]string{"Prefer": "wait=20"})
		card, ok := view["task"].(object)
		if !ok {
			continue
		}
		path := "/api/tasks/" + url.PathEscape(card["id"].(string))
		left := int64(card["quantity"].(float64))
		record := func(what string, body object) int {
			r := recorded{id: uuid.NewString(), path: path + what, person: person, body: body}
			status := perfect.arrives(r)
			assert.Equal(t, status, lossy.arrives(r), "%s %v: %s; %s", r.path, body, perfect.refused, lossy.refused)
			return status
		}
		counted := func(good int64) object { return object{"good": good, "second": 0, "broken": 0} }
		if record("/start", object{"foundReady": true}) >= 300 {
			continue
		}
		if card["making"] != "mix" && left > 2 {
			first := 1 + random.Int64N(left-1)
			record("/count", counted(first))
			left -= first
			record("/pause", counted(0))
			record("/ask", object{"says": "come and look"})
			record("/start", object{})
		}
		record("/finish", counted(left))
	}
	journal := func(b *tablet) (lines []string) {
		_, answer := b.ask("GET", "/api/journal", nil, nil)
		for _, line := range answer["lines"].([]any) {
			one := line.(object)
			lines = append(lines, one["kind"].(string)+": "+one["summary"].(string))
		}
		return lines
	}
	assert.Equal(t, journal(perfect), journal(lossy))
	work := func(b *tablet) []studio.WorkLot {
		doc, _, err := b.store.Document(context.Background(), store.Accepted, standing)
		require.NoError(t, err)
		return doc.Work
	}
	assert.Equal(t, work(perfect), work(lossy))
	assert.NotEmpty(t, work(perfect))
}

// What happened while there was no connection is booked when it happened, and no earlier than what is known.
func TestWhatHappenedWithoutAConnectionIsBookedThen(t *testing.T) {
	b := &tablet{desk: newDeskOf(t, demo.Document()), Rand: rand.New(rand.NewPCG(1, 1))}
	teun := demo.ID("Teun")
	_, view := b.ask("GET", "/api/bench/"+string(teun), nil, map[string]string{"Prefer": "wait=20"})
	card := view["task"].(object)
	path := "/api/tasks/" + url.PathEscape(card["id"].(string))
	b.person = demo.ID("Odalys")
	for range 2 {
		status, _ := b.ask("POST", "/api/clock", object{"by": "hour"}, nil)
		require.Equal(t, 200, status)
	}
	b.person = teun
	late := func(what string, ago int, body object) (int, object) {
		return b.ask("POST", path+what, body, map[string]string{"Minutes-Ago": strconv.Itoa(ago)})
	}
	status, answer := late("/start", 90, object{"foundReady": true})
	require.Equal(t, 200, status, answer)
	status, answer = late("/finish", 110, object{"good": card["quantity"], "second": 0, "broken": 0})
	require.Equal(t, 200, status, answer)
	status, _ = late("/start", -1, object{})
	assert.Equal(t, 422, status)
	doc, _, err := b.store.Document(context.Background(), store.Accepted, standing)
	require.NoError(t, err)
	require.Len(t, doc.Work, 1)
	record := doc.Work[0].Records[0]
	assert.Equal(t, doc.Now-90, record.Start)
	assert.Equal(t, record.Start, record.End, "it did not end before it began")
}

// BenchmarkATouchOnTheSeasonSeenByFortyTablets is one touch at the size of a season until forty tablets were told
// of it and each has read its own bench with it: of the plan as it is once that has been worked out. All of them were
// brought in by the lead, and somebody has sat down at each.
func BenchmarkATouchOnTheSeasonSeenByFortyTablets(b *testing.B) {
	d := newDeskOf(b, demo.Season(1, 1, 90))
	benches := read[[]api.BenchState](d, "/api/benches")
	lead := locks(b, d)
	url, stop := d.serve()
	defer func() { _ = stop() }()
	people := demo.Season(1, 1, 90).People
	var all []*browser
	var heard []chan string
	for i := range 40 {
		one := bringsIn(b, lead, fmt.Sprintf("Bench %d", i))
		if code, said := one.sits(people[i%len(people)].Name, ""); code != 200 {
			b.Fatal(said)
		}
		all, heard = append(all, one), append(heard, follows(b, url, one.cookie))
	}
	for _, says := range heard {
		<-says
	}
	var maker *browser
	path := ""
	for _, state := range benches {
		if maker != nil || state.Task == nil || !state.There {
			continue
		}
		for _, one := range all {
			if one.person == state.Person {
				path = "/tasks/" + string(state.Task.ID)
				if code, _ := one.ask("POST", path+"/start", object{"foundReady": true}); code == 200 {
					maker = one
				}
				break
			}
		}
	}
	if maker == nil {
		b.Fatal("nobody has begun anything")
	}
	touches := []string{"/pause", "/start"}
	with := []object{{"good": 0, "second": 0, "broken": 0}, {"foundReady": true}}
	for i := 0; b.Loop(); i++ {
		code, answer := maker.ask("POST", path+touches[i%2], with[i%2])
		if code != 200 {
			b.Fatal(answer)
		}
		n := answer["n"].(float64)
		var seen errgroup.Group
		for t, says := range heard {
			seen.Go(func() error {
				for told := ""; told != fmt.Sprint(n); {
					told = <-says
				}
				code, view := all[t].ask("GET", "/bench/"+string(all[t].person), nil, "Prefer", "wait=10")
				if code != 200 || view["n"].(float64) < n {
					return fmt.Errorf("%d: %v of %g", code, view["n"], n)
				}
				return nil
			})
		}
		if err := seen.Wait(); err != nil {
			b.Fatal(err)
		}
	}
}
