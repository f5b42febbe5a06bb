package web_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"net/url"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// player plays the people of a studio through the interface: they do what their benches say,
// in their own true minutes, break more than the book expects now and then, touch what
// dries, order and take in what is short, take new orders and hand them over.
type player struct {
	desk
	*rand.Rand
	t      testing.TB
	doc    *studio.Document
	now    float64
	busy   map[studio.ID]*going
	orders int
	said   map[string]int // refusals, by what they say
}

// going is a task that somebody is at.
type going struct {
	path  string
	card  object
	until float64
}

func newPlayer(t testing.TB, seed uint64) *player {
	doc := demo.Document()
	return &player{desk: newDeskOf(t, doc), Rand: rand.New(rand.NewPCG(seed, 7)), t: t, doc: doc,
		busy: map[studio.ID]*going{}, said: map[string]int{}}
}

// does gives a command as somebody; what the studio refuses with a reason is part of the
// game, a failure of the program is not.
func (p *player) does(who studio.ID, method, path string, body any, headers map[string]string) (int, object) {
	p.t.Helper()
	p.person = who
	status, answer := p.ask(method, path, body, headers)
	require.Less(p.t, status, 500, "%s %s %v: %v", method, path, body, answer)
	if status >= 400 {
		p.said[fmt.Sprint(status)]++
	}
	return status, answer
}

// play goes on for so many days, and looks each morning whether the plan holds.
func (p *player) play(days int) {
	lead := p.doc.People[0].ID
	_, view := p.does(lead, "GET", "/api/studio", nil, nil)
	p.now = view["now"].(float64)
	end := p.now + float64(days*1440)
	morning := p.now + 1440
	for p.now < end {
		for _, person := range p.doc.People {
			p.work(person.ID)
		}
		if p.Float64() < 0.06 {
			p.touch()
		}
		if p.Float64() < 0.01 {
			p.enter(lead)
		}
		if p.Float64() < 0.02 {
			p.decide(lead)
		}
		if p.now >= morning {
			morning += 1440
			p.buy(lead)
			p.handOver(lead)
			p.holds()
		}
		p.pass(lead)
	}
	p.holds()
}

// work has somebody finish, pause or begin what is on their bench.
func (p *player) work(who studio.ID) {
	if at := p.busy[who]; at != nil {
		if p.Float64() < 0.01 {
			p.does(who, "POST", at.path+"/pause", object{"good": 0, "second": 0, "broken": 0}, nil)
			delete(p.busy, who)
			return
		}
		if at.until > p.now {
			return
		}
		status, _ := p.does(who, "POST", at.path+"/finish", p.counts(at.card), nil)
		if status < 400 || p.Float64() < 0.5 {
			delete(p.busy, who)
		}
	}
	_, view := p.does(who, "GET", "/api/bench/"+string(who), nil, nil)
	card, ok := view["task"].(object)
	if !ok {
		return
	}
	path := "/api/tasks/" + url.PathEscape(card["id"].(string))
	if card["state"] == "started" {
		p.busy[who] = &going{path, card, p.now}
		return
	}
	if card["start"].(float64) > p.now+float64(p.IntN(30)) {
		return
	}
	status, _ := p.does(who, "POST", path+"/start", object{}, nil)
	if status == 409 && p.Float64() < 0.3 {
		status, _ = p.does(who, "POST", path+"/start", object{"foundReady": true}, nil)
	}
	if status == 200 {
		length := card["end"].(float64) - card["start"].(float64)
		p.busy[who] = &going{path, card, p.now + math.Max(1, length*math.Exp(p.NormFloat64()*0.35))}
	}
}

// counts is what comes out of a task: mostly about what the book expects, sometimes far less.
func (p *player) counts(card object) object {
	left := int64(card["quantity"].(float64))
	broken := int64(0)
	if card["making"] != "mix" {
		share := 0.05
		if p.Float64() < 0.04 {
			share = 0.5
		}
		for range min(left, 400) {
			if p.Float64() < share {
				broken++
			}
		}
	}
	return object{"good": left - broken, "second": 0, "broken": broken}
}

func (p *player) touch() {
	who := p.doc.People[p.IntN(len(p.doc.People))].ID
	_, room := p.does(who, "GET", "/api/drying-room", nil, nil)
	lying := room["lying"].([]any)
	if len(lying) == 0 {
		return
	}
	one := lying[p.IntN(len(lying))].(object)
	body := object{"found": []string{"soft", "firm", "dry"}[p.IntN(3)], "surely": p.IntN(2) == 0}
	if p.Float64() < 0.05 {
		body = object{"found": "spoilt", "pieces": 1}
	}
	p.does(who, "POST", "/api/lying/"+url.PathEscape(one["task"].(string))+"/check", body, nil)
}

// enter takes a new order, and mostly accepts what it makes of the plan.
func (p *player) enter(lead studio.ID) {
	p.orders++
	_, view := p.does(lead, "GET", "/api/studio", nil, nil)
	flowers, colours := view["flowers"].([]any), view["colourways"].([]any)
	calendar, _ := studio.NewCalendar(p.doc.Epoch, p.doc.Zone)
	leaves := calendar.Wall(studio.Minute(p.now) + studio.Minute(1440*(3+p.IntN(14))))
	p.does(lead, "POST", "/api/orders", object{"name": fmt.Sprintf("Supper %d", p.orders), "occasion": "A supper",
		"leaves": leaves, "leaving": "collected",
		"lines": []any{object{"recipe": flowers[p.IntN(len(flowers))].(object)["id"],
			"colourway": colours[p.IntN(len(colours))].(object)["id"], "quantity": 1 + p.IntN(12)}}}, nil)
	p.accept(lead)
}

func (p *player) accept(lead studio.ID) {
	if _, proposal := p.does(lead, "GET", "/api/proposal", nil, nil); proposal["waits"] == true && p.Float64() < 0.9 {
		p.does(lead, "POST", "/api/proposal/accept", object{"n": proposal["n"]}, nil)
	}
}

// decide takes something back, or decides otherwise about a lot.
func (p *player) decide(lead studio.ID) {
	if p.IntN(2) == 0 {
		_, journal := p.does(lead, "GET", "/api/journal", nil, nil)
		entries := journal["lines"].([]any)
		entry := entries[p.IntN(min(3, len(entries)))].(object)
		p.does(lead, "POST", fmt.Sprintf("/api/journal/%v/undo", entry["n"]), nil, nil)
		p.busy = map[studio.ID]*going{} // whatever they were at, their benches say
		return
	}
	_, counted := p.does(lead, "GET", "/api/count", nil, nil)
	cells := counted["cells"].([]any)
	if len(cells) == 0 {
		return
	}
	_, cell := p.does(lead, "GET", "/api/count/cell?key="+escaped(cells[p.IntN(len(cells))].(object)["key"].(string)),
		nil, nil)
	if lots, _ := cell["lotList"].([]any); len(lots) > 0 {
		lot := lots[p.IntN(len(lots))].(object)
		p.does(lead, "POST", "/api/lots/"+lot["id"].(string)+"/decide",
			object{"what": []string{"keep", "split", "let go"}[p.IntN(3)], "into": 2}, nil)
	}
	p.accept(lead)
}

// buy orders what the shopping list says, and takes in what was ordered, late or short.
func (p *player) buy(lead studio.ID) {
	_, stores := p.does(lead, "GET", "/api/stores", nil, nil)
	for _, list := range stores["shopping"].([]any) {
		supplier, known := list.(object)["supplier"].(object)
		if !known || p.Float64() < 0.5 {
			continue
		}
		packs := object{}
		for _, buy := range list.(object)["buys"].([]any) {
			if n := buy.(object)["packs"].(float64); n > 0 {
				packs[buy.(object)["material"].(string)] = n
			}
		}
		if len(packs) > 0 {
			p.does(lead, "POST", "/api/purchases", object{"supplier": supplier["id"], "packs": packs}, nil)
		}
	}
	for _, state := range stores["purchases"].([]any) {
		purchase := state.(object)["purchase"].(object)
		if purchase["expected"].(float64) > p.now+float64(p.IntN(2*1440)) {
			continue
		}
		var came []any
		for _, line := range purchase["lines"].([]any) {
			came = append(came, object{"line": line.(object)["id"],
				"packs": math.Max(0, line.(object)["packs"].(float64)-float64(p.IntN(2)))})
		}
		p.does(lead, "POST", "/api/purchases/"+purchase["id"].(string)+"/arrived", object{"came": came},
			map[string]string{"If-Match": fmt.Sprint(state.(object)["version"])})
	}
}

func (p *player) handOver(lead studio.ID) {
	calendar, _ := studio.NewCalendar(p.doc.Epoch, p.doc.Zone)
	_, orders := p.does(lead, "GET", "/api/orders", nil, nil)
	for _, o := range orders["list"].([]any) {
		order := o.(object)["order"].(object)
		leaves := calendar.Minute(studio.MustWallTime(order["leaves"].(string)))
		if order["state"] == "open" && float64(leaves) <= p.now+600 {
			p.does(lead, "POST", "/api/orders/"+order["id"].(string)+"/hand-over", nil,
				map[string]string{"If-Match": fmt.Sprint(o.(object)["version"])})
		}
	}
}

// pass moves the clock on to when somebody is through, or a while.
func (p *player) pass(lead studio.ID) {
	next := p.now + float64(10+p.IntN(50))
	if len(p.busy) == 0 && p.Float64() < 0.2 {
		next = p.now + 300
	}
	for _, at := range p.busy {
		next = math.Min(next, math.Max(p.now+1, at.until))
	}
	by := int64(math.Ceil(next - p.now))
	status, answer := p.does(lead, "POST", "/api/clock", object{"by": "minutes", "minutes": by}, nil)
	require.Equal(p.t, 200, status, answer)
	p.now += float64(by)
}

// holds asks the checker about the plan in force.
func (p *player) holds() {
	p.does(p.doc.People[0].ID, "GET", "/api/studio", nil, nil) // until it is worked out
	doc, _, err := p.store.Document(context.Background(), store.Accepted, standing)
	require.NoError(p.t, err)
	require.Empty(p.t, doc.Validate())
	made, _, _, err := p.store.PlanInForce(context.Background())
	require.NoError(p.t, err)
	require.Empty(p.t, check.Plan(doc, made))
}

// Whatever people do, the studio goes on.
func TestAStudioThatIsPlayedGoesOn(t *testing.T) {
	newPlayer(t, 1).play(2)
}

// number is one from the environment.
func number(name string, usual int) int {
	if n, err := strconv.Atoi(os.Getenv(name)); err == nil {
		return n
	}
	return usual
}

// BenchmarkPlayed plays weeks, one seed after another: BRACTUM_PLAY_DAYS (21) and
// BRACTUM_PLAY_SEEDS (5) say how much.
func BenchmarkPlayed(b *testing.B) {
	for b.Loop() {
		for seed := range number("BRACTUM_PLAY_SEEDS", 5) {
			b.Run(fmt.Sprint(seed), func(b *testing.B) {
				p := newPlayer(b, uint64(seed))
				p.play(number("BRACTUM_PLAY_DAYS", 21))
				b.ReportMetric(float64(p.orders), "orders-entered")
				b.Log(p.said)
			})
		}
	}
}
