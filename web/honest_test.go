package web_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/bench"
	"bractum/core/studio"
	"bractum/store"
)

// honest plays people who do what their benches say, in minutes, drying and breakage drawn around the
// book's, for a lead who promises only what the plan says is in time and orders what is short. It
// measures what their promises are worth.
type honest struct {
	*player
	eager    bool
	calendar studio.Calendar
	book     *studio.Book
	hours    map[studio.ID]studio.Hours
	truth    map[studio.ID]float64       // of waits: how much longer they take
	slack    map[studio.ID]studio.Minute // of orders, as last seen
	dawn     map[studio.ID]studio.Minute // this morning
	known    map[studio.ID]studio.Task   // of the next day, as last seen
	touched  map[studio.ID]bool          // lots that somebody did something to since
	seen     honesty
}

// honesty is what was seen: orders promised and late, by how much slack fell from morning to morning,
// at once for a mere move of the clock, tasks of the next day that were moved or handed over,
// and minutes that people were there, or idle while something could be begun.
type honesty struct {
	promised, left, late int
	falls, mornings      float64
	leaps                []leap
	unnamed              int
	moved, told          int
	idle, present        float64
}

func newHonest(t testing.TB, seed uint64, eager bool) *honest {
	h := &honest{player: newPlayer(t, seed), eager: eager, truth: map[studio.ID]float64{},
		slack: map[studio.ID]studio.Minute{}, dawn: map[studio.ID]studio.Minute{}, known: map[studio.ID]studio.Task{},
		touched: map[studio.ID]bool{}, hours: map[studio.ID]studio.Hours{}}
	h.Rand = rand.New(rand.NewPCG(seed, 21))
	calendar, err := studio.NewCalendar(h.doc.Epoch, h.doc.Zone)
	require.NoError(t, err)
	h.calendar, h.book = calendar, studio.NewBook(h.doc)
	for _, p := range h.doc.People {
		h.hours[p.ID] = studio.HoursOf(p, calendar, 0, h.doc.Now+60*1440)
	}
	return h
}

func (h *honest) play(days int) honesty {
	lead := h.doc.People[0].ID
	h.now = float64(h.doc.Now)
	end := h.now + float64(days*1440)
	morning := h.now
	for h.now < end {
		doc, plan := h.inForce()
		h.compare(plan, false)
		if h.now >= morning {
			for h.now >= morning {
				morning += 1440
			}
			h.buy(lead, doc)
			h.leave(lead)
			if h.Float64() < 0.6 && h.now < end-12*1440 {
				h.promise(lead)
			}
			doc, plan = h.inForce()
			h.compare(plan, true)
		}
		h.dry(doc, plan)
		for again := true; again; {
			again = false
			for _, person := range h.doc.People {
				again = h.work(person.ID) || again
			}
		}
		h.pass(lead, morning)
	}
	h.name()
	return h.seen
}

// inForce is what the studio and its plan say now.
func (h *honest) inForce() (*studio.Document, *studio.Plan) {
	h.does(h.doc.People[0].ID, "GET", "/api/studio", nil, nil) // until it is worked out
	doc, _, err := h.store.Document(context.Background(), store.Accepted, standing)
	require.NoError(h.t, err)
	plan, _, _, err := h.store.PlanInForce(context.Background())
	require.NoError(h.t, err)
	return doc, plan
}

// leap is an order that fell far at a mere move of the clock.
type leap struct {
	order      studio.ID
	at         studio.Minute
	was, slack studio.Minute
	why        string
}

// name says what the studio is told made the leaps of some weeks; a fall that was mended as soon as it
// was seen is not told.
func (h *honest) name() {
	falls, err := h.store.Falls(context.Background())
	require.NoError(h.t, err)
	for i := range h.seen.leaps {
		l := &h.seen.leaps[i]
		for _, f := range falls {
			if f.Order == l.order && f.At >= l.at && f.At <= l.at+120 && l.why == "" {
				l.why = fmt.Sprintf("%s %s %d min", f.Why, f.Task, f.Minutes)
			}
		}
		if l.why == "" {
			h.seen.unnamed++
		}
	}
}

// compare notes what changed since the plan was last seen. After a morning's orders it only looks.
func (h *honest) compare(plan *studio.Plan, anew bool) {
	for _, o := range plan.Orders {
		slack := studio.Minute(-100_000)
		if o.Slack != nil {
			slack = *o.Slack
		}
		if was, known := h.slack[o.Order]; known && !anew && was-slack > 360 && len(h.touched) == 0 {
			h.seen.leaps = append(h.seen.leaps, leap{order: o.Order, at: plan.Now, was: was, slack: slack})
		}
		h.slack[o.Order] = slack
		if anew {
			if was, known := h.dawn[o.Order]; known {
				h.seen.falls += float64(max(0, was-slack))
				h.seen.mornings++
			}
			h.dawn[o.Order] = slack
		}
	}
	next := map[studio.ID]studio.Task{}
	for _, t := range plan.Tasks {
		if t.Person == "" || t.State != studio.TaskPlanned || t.Begin() > plan.Now+1440 {
			continue
		}
		next[t.ID] = t
		if was, known := h.known[t.ID]; known && !anew && !h.touched[t.Lot] {
			h.seen.told++
			if was.Person != t.Person || t.Begin()-was.Begin() > 60 || was.Begin()-t.Begin() > 60 {
				h.seen.moved++
			}
		}
	}
	h.known, h.touched = next, map[studio.ID]bool{}
}

// dry has people find out how far what should be ready by now is: the plan waits for four in five pieces, which
// is so many deviations beyond the book's median.
func (h *honest) dry(doc *studio.Document, plan *studio.Plan) {
	const deviation, fourInFive = 0.2, 0.8416
	var activities map[studio.ID]*studio.Activity
	for _, t := range plan.Tasks {
		if t.Person != "" || t.Load != nil || t.End > studio.Minute(h.now) || t.Start > studio.Minute(h.now) ||
			t.State == studio.TaskDone || h.truth[t.ID] < 0 {
			continue
		}
		if h.truth[t.ID] == 0 {
			if activities == nil {
				activities = studio.Route(doc, studio.NewBook(doc), plan.Lots, plan.Links, plan.Pegs).Activities()
			}
			h.truth[t.ID] = float64(t.End)
			if a := activities[t.ID]; a != nil && a.Wait != nil && a.Wait.Least.Dries != nil {
				h.truth[t.ID] = float64(t.Start) +
					float64(t.End-t.Start)*math.Exp(deviation*(h.NormFloat64()-fourInFive))
			}
		}
		if h.truth[t.ID] > h.now {
			h.touched[t.Lot] = true
			h.does(h.doc.People[0].ID, "POST", "/api/lying/"+url.PathEscape(string(t.ID))+"/check",
				object{"found": "soft", "surely": true}, nil)
			continue
		}
		h.truth[t.ID] = -1
	}
}

// work has somebody finish and begin what is on their bench; true where something happened.
func (h *honest) work(who studio.ID) bool {
	if at := h.busy[who]; at != nil {
		if at.until > h.now {
			return false
		}
		status, answer := h.does(who, "POST", at.path+"/finish", h.comesOut(who, at.card), nil)
		require.Less(h.t, status, 400, "%v", answer)
		h.touched[studio.ID(at.card["lot"].(string))] = true
		delete(h.busy, who)
		return true
	}
	if h.hours[who].Worked(studio.Span{From: studio.Minute(h.now), To: studio.Minute(h.now) + 1}) == 0 {
		return false
	}
	_, view := h.does(who, "GET", "/api/bench/"+string(who), nil, nil)
	for _, one := range view["loads"].([]any) {
		if load := one.(object); load["at"].(float64) <= h.now {
			h.does(who, "POST", "/api/loads", object{"tasks": load["tasks"], "begins": load["begins"]}, nil)
		}
	}
	card, ok := view["task"].(object)
	if !ok {
		return false
	}
	path := "/api/tasks/" + url.PathEscape(card["id"].(string))
	if card["state"] != "started" {
		if card["start"].(float64) > h.now && !h.eager {
			return false
		}
		if status, _ := h.does(who, "POST", path+"/start", object{}, nil); status != 200 {
			return false
		}
		h.touched[studio.ID(card["lot"].(string))] = true
	}
	length := card["end"].(float64) - card["start"].(float64)
	h.busy[who] = &going{path, card, h.now + math.Max(1, length*math.Exp(h.NormFloat64()*0.25-0.03))}
	return true
}

// comesOut is what comes out of a task: what breaks does at the recipe's own rates, of the pieces and of what
// they take up.
func (h *honest) comesOut(who studio.ID, card object) object {
	left, broken, used := int64(card["quantity"].(float64)), int64(0), []any{}
	breaks := func(most int64, rate float64) (number int64) {
		for range most {
			if h.Float64() < rate {
				number++
			}
		}
		return number
	}
	if r := h.book.Recipe(studio.ID(card["recipe"].(string))); r != nil && card["making"] != "mix" {
		tasks := 0
		for at := 0; at < len(r.Steps); _, at = r.Task(at) {
			if r.Steps[at].Work != nil {
				tasks++
			}
		}
		if share, may := r.Losing(); may {
			broken = breaks(left, 1-math.Pow(1-share, 1/float64(tasks)))
		}
		_, view := h.does(who, "GET", "/api/bench/"+string(who), nil, nil)
		for _, one := range view["eyes"].([]any) {
			eye := one.(object)
			for _, p := range r.Parts {
				if eye["breaks"] == true && eye["recipe"] == string(p.Recipe) {
					number := breaks(left*p.Count, r.LosingOf(p))
					if number = min(number, int64(eye["most"].(float64))); number > 0 {
						used = append(used, object{"recipe": p.Recipe, "variant": p.Variant, "broke": number})
					}
					break
				}
			}
		}
	}
	return object{"good": left - broken, "second": 0, "broken": broken, "used": used}
}

// buy orders what is short and books in what has come.
func (h *honest) buy(lead studio.ID, doc *studio.Document) {
	_, stores := h.does(lead, "GET", "/api/stores", nil, nil)
	for _, one := range stores["shopping"].([]any) {
		list, packs := one.(object), object{}
		supplier, known := list["supplier"].(object)
		for _, b := range list["buys"].([]any) {
			if n := b.(object)["packs"].(float64); n > 0 {
				packs[b.(object)["material"].(string)] = n
			}
		}
		if known && len(packs) > 0 {
			h.does(lead, "POST", "/api/purchases", object{"supplier": supplier["id"], "packs": packs}, nil)
		}
	}
	for _, one := range stores["purchases"].([]any) {
		purchase := one.(object)["purchase"].(object)
		if purchase["expected"].(float64) > h.now {
			continue
		}
		came := []any{}
		for _, line := range purchase["lines"].([]any) {
			came = append(came, object{"line": line.(object)["id"], "packs": line.(object)["packs"]})
		}
		h.does(lead, "POST", "/api/purchases/"+purchase["id"].(string)+"/arrived", object{"came": came},
			map[string]string{"If-Match": fmt.Sprint(one.(object)["version"])})
	}
}

// promise takes an order that the plan says is in time, with all others; another is taken back.
func (h *honest) promise(lead studio.ID) {
	h.orders++
	_, view := h.does(lead, "GET", "/api/studio", nil, nil)
	flowers, colours := view["flowers"].([]any), view["colourways"].([]any)
	leaves := h.calendar.Wall(studio.Minute(h.now) + studio.Minute(1440*(5+h.IntN(10))))
	_, entered := h.does(lead, "POST", "/api/orders", object{"name": fmt.Sprintf("Supper %d", h.orders),
		"occasion": "A supper", "leaves": leaves, "leaving": "collected",
		"lines": []any{object{"recipe": flowers[h.IntN(len(flowers))].(object)["id"],
			"colourway": colours[h.IntN(len(colours))].(object)["id"], "quantity": 2 + h.IntN(8)}}}, nil)
	_, proposal := h.does(lead, "GET", "/api/proposal", nil, nil)
	_, orders := h.does(lead, "GET", "/api/orders", nil, nil)
	for _, o := range orders["list"].([]any) {
		outcome, planned := o.(object)["outcome"].(object)
		if id := o.(object)["order"].(object)["id"]; id == entered["id"] &&
			(!planned || outcome["late"].(float64) > 0) {
			h.does(lead, "POST", fmt.Sprintf("/api/journal/%v/undo", entered["n"]), nil, nil)
			return
		}
	}
	if proposal["waits"] == true {
		status, _ := h.does(lead, "POST", "/api/proposal/accept", object{"n": proposal["n"]}, nil)
		if status == 200 {
			h.seen.promised++
			h.touched[""] = true
		}
	}
}

// leave hands over the orders that leave today, and counts those that are not there.
func (h *honest) leave(lead studio.ID) {
	_, orders := h.does(lead, "GET", "/api/orders", nil, nil)
	for _, o := range orders["list"].([]any) {
		order := o.(object)["order"].(object)
		leaves := h.calendar.Minute(studio.MustWallTime(order["leaves"].(string)))
		if order["state"] != "open" || float64(leaves) > h.now {
			continue
		}
		h.seen.left++
		status, answer := h.does(lead, "POST", "/api/orders/"+order["id"].(string)+"/hand-over", nil,
			map[string]string{"If-Match": fmt.Sprint(o.(object)["version"])})
		if status != 200 {
			h.seen.late++
			h.t.Log("late: ", order["name"], answer["detail"])
			h.does(lead, "POST", "/api/orders/"+order["id"].(string)+"/cancel", nil,
				map[string]string{"If-Match": fmt.Sprint(o.(object)["version"])})
		}
	}
}

// pass moves the clock on to when something happens, and counts who is idle until then though they
// could begin something.
func (h *honest) pass(lead studio.ID, morning float64) {
	doc, plan := h.inForce()
	next := math.Min(morning, h.now+120)
	for _, at := range h.busy {
		next = math.Min(next, at.until)
	}
	for _, t := range plan.Tasks {
		for _, m := range []studio.Minute{t.Begin(), t.End} {
			if float64(m) > h.now && t.State != studio.TaskDone {
				next = math.Min(next, float64(m))
			}
		}
	}
	next = math.Max(h.now+1, math.Ceil(next))
	span := studio.Span{From: studio.Minute(h.now), To: studio.Minute(next)}
	instance := studio.Route(doc, studio.NewBook(doc), plan.Lots, plan.Links, plan.Pegs)
	for i := range doc.People {
		p := &doc.People[i]
		there := float64(h.hours[p.ID].Worked(span))
		h.seen.present += there
		if h.busy[p.ID] != nil || there == 0 {
			continue
		}
		if couldBegin(doc, plan, instance, p) {
			h.seen.idle += there
		}
	}
	status, answer := h.does(lead, "POST", "/api/clock", object{"by": "minutes", "minutes": int(next - h.now)}, nil)
	require.Equal(h.t, 200, status, answer)
	h.now = next
}

// couldBegin is true of somebody who could begin a task of the plan now, and leave it for as long as they
// like: what has to be taken up fresh after it, or holds a place, is not theirs to begin.
func couldBegin(doc *studio.Document, plan *studio.Plan, instance *studio.Instance, p *studio.Person) bool {
	b, activities, soft := bench.New(doc, plan), instance.Activities(), map[studio.ID]bool{}
	for _, lag := range instance.Links {
		soft[lag.From] = soft[lag.From] || lag.Most != nil
		soft[lag.To] = soft[lag.To] || lag.Most != nil
	}
	for i := range plan.Tasks {
		t := &plan.Tasks[i]
		a := activities[t.ID]
		if t.Person == "" || t.State != studio.TaskPlanned || a == nil ||
			!a.May(p, doc.Pinned(t.ID)) || len(a.Gates) > 0 ||
			soft[t.ID] || len(a.Holds) > 0 ||
			len(a.Tools) > 0 {
			continue
		}
		if _, _, err := b.Start(t.ID, p.ID, false); err == nil {
			return true
		}
	}
	return false
}

// What an honest lead promises is kept, and nobody is shuffled about for it.
func TestWhatAnHonestLeadPromisesIsKept(t *testing.T) {
	s := newHonest(t, 3, false).play(1)
	assert.Zero(t, s.late)
	assert.Positive(t, s.told)
	assert.Less(t, float64(s.moved), 0.05*float64(s.told))
	assert.Less(t, s.idle, 0.2*s.present)
}

// BenchmarkHonest plays weeks of honest leads, one seed after another, with makers who do what their
// benches say when they say so; BRACTUM_PLAY_EAGER has them begin as soon as they may.
func BenchmarkHonest(b *testing.B) {
	for b.Loop() {
		var all honesty
		for seed := range number("BRACTUM_PLAY_SEEDS", 2) {
			h := newHonest(b, uint64(seed), number("BRACTUM_PLAY_EAGER", 0) > 0)
			s := h.play(number("BRACTUM_PLAY_DAYS", 21))
			b.Logf("%+v", s)
			all.promised, all.left, all.late = all.promised+s.promised, all.left+s.left, all.late+s.late
			all.falls, all.mornings = all.falls+s.falls, all.mornings+s.mornings
			all.leaps, all.moved, all.told = append(all.leaps, s.leaps...), all.moved+s.moved, all.told+s.told
			all.unnamed += s.unnamed
			all.idle, all.present = all.idle+s.idle, all.present+s.present
		}
		b.ReportMetric(100*float64(all.late)/float64(max(1, all.left)), "%late")
		b.ReportMetric(all.falls/math.Max(1, all.mornings), "fall-min/order-day")
		b.ReportMetric(float64(len(all.leaps)), "leaps")
		b.ReportMetric(float64(all.unnamed), "unnamed")
		b.ReportMetric(100*float64(all.moved)/float64(max(1, all.told)), "%moved")
		b.ReportMetric(100*all.idle/math.Max(1, all.present), "%idle")
	}
}
