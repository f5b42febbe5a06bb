package web_test

import (
	"bufio"
	"context"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// work finds a work task of the plan by name, product and person.
func work(t *testing.T, d desk, name, of string) object {
	_, v := d.ask("GET", "/api/plan?days=14&of=proposed", "", nil)
	for _, b := range objects(t, v["blocks"]) {
		if b["name"] == name && b["of"] == of && b["state"] == "planned" {
			return b
		}
	}
	require.Fail(t, "not planned", "%s, %s", name, of)
	return nil
}

func path(b object) string { return "/api/tasks/" + b["id"].(string) }

// inForceHolds asks the checker about the plan in force as it is kept.
func inForceHolds(t *testing.T, d desk) *studio.Plan {
	doc, _, err := d.store.Document(context.Background(), store.Accepted, standing)
	require.NoError(t, err)
	made, _, _, err := d.store.PlanInForce(context.Background())
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, made))
	return made
}

func TestATaskIsHandedOverPinnedAndLetGo(t *testing.T) {
	d := newDesk(t)
	dust := work(t, d, "Dust edges and heart", "Ranunculus")
	_, card := d.ask("GET", path(dust), "", nil)
	var other any
	for _, id := range card["may"].([]any) {
		if id != dust["person"] {
			other = id
		}
	}
	require.NotNil(t, other, "somebody else can dust")

	_, tried := d.ask("POST", path(dust)+"/try", object{"person": other}, nil)
	assert.Equal(t, true, tried["trial"].(object)["holds"])
	assert.NotEmpty(t, tried["trial"].(object)["differences"].(object)["moved"])
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	assert.Equal(t, false, proposal["waits"], "trying writes nothing")

	status, pinned := d.ask("POST", path(dust)+"/pin", object{"person": other}, nil)
	require.Equal(t, 200, status, pinned)
	assert.Equal(t, false, pinned["accepted"])
	_, proposal = d.ask("GET", "/api/proposal", "", nil)
	assert.Equal(t, "Dust edges and heart, Ranunculus", objects(t, proposal["pins"])[0]["name"])
	assert.Equal(t, "proposed", proposal["chosen"])
	assert.Equal(
		t,
		dust["person"],
		string(plannedTask(t, inForceHolds(t, d), dust).Person),
		"the bench goes on as planned",
	)
	status, accepted := d.ask("POST", "/api/proposal/accept", object{"n": proposal["n"]}, nil)
	require.Equal(t, 200, status, accepted)
	assert.EqualValues(t, other, plannedTask(t, inForceHolds(t, d), dust).Person)

	start := float64(plannedTask(t, inForceHolds(t, d), dust).Start + 60)
	status, pinned = d.ask("POST", path(dust)+"/pin", object{"person": other, "start": start}, nil)
	require.Equal(t, 200, status, pinned)
	_, v := d.ask("GET", "/api/plan?days=14&of=proposed", "", nil)
	assert.EqualValues(t, start, find(t, v["blocks"], "id", dust["id"].(string))["from"])

	status, _ = d.ask("POST", path(dust)+"/pin", object{}, nil)
	require.Equal(t, 200, status, "and let go")
	status, _ = d.ask("POST", "/api/journal/5/undo", "", nil)
	require.Equal(t, 200, status, "and not let go after all")
	_, v = d.ask("GET", "/api/plan?days=14&of=proposed", "", nil)
	assert.EqualValues(t, start, find(t, v["blocks"], "id", dust["id"].(string))["pin"].(object)["start"])
}

func plannedTask(t *testing.T, p *studio.Plan, b object) studio.Task {
	for _, task := range p.Tasks {
		if string(task.ID) == b["id"] {
			return task
		}
	}
	require.Fail(t, "not planned")
	return studio.Task{}
}

func TestAPinThatMovesNothingIsInForceAtOnce(t *testing.T) {
	d := newDesk(t)
	dust := work(t, d, "Dust edges and heart", "Ranunculus")
	status, pinned := d.ask("POST", path(dust)+"/pin", object{"person": dust["person"], "start": dust["from"]}, nil)
	require.Equal(t, 200, status, pinned)
	assert.Equal(t, true, pinned["accepted"])
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	assert.Equal(t, false, proposal["waits"])
	_, v := d.ask("GET", "/api/plan?days=14", "", nil)
	assert.NotNil(t, find(t, v["blocks"], "id", dust["id"].(string))["pin"])
	assert.Equal(t, dust["from"], float64(plannedTask(t, inForceHolds(t, d), dust).Start))
}

func TestAPinThatCannotHoldIsRefusedWithItsReason(t *testing.T) {
	d := newDesk(t)
	dust := work(t, d, "Dust edges and heart", "Ranunculus")
	status, refused := d.ask("POST", path(dust)+"/pin", object{"start": 30_960}, nil)
	assert.Equal(t, 409, status)
	why := objects(t, refused["errors"])[0]
	assert.Equal(t, "pin-broken", why["message"])
	assert.NotEmpty(t, why["value"].(object)["byName"])
	assert.Greater(t, why["value"].(object)["earliest"], 30_960.0)
	status, refused = d.ask("POST", path(dust)+"/pin", object{"start": 5}, nil)
	assert.Equal(t, 409, status)
	assert.Equal(t, "this time has passed", refused["detail"])
	status, _ = d.ask("POST", path(dust)+"/pin", object{"person": "nobody"}, nil)
	assert.Equal(t, 422, status)
	_, v := d.ask("GET", "/api/plan?days=14", "", nil)
	wait := find(t, v["blocks"], "kind", "wait")
	status, refused = d.ask("POST", path(wait)+"/try", object{"start": wait["from"]}, nil)
	assert.Equal(t, 409, status)
	assert.Contains(t, refused["detail"], "waits by itself")
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	assert.Equal(t, false, proposal["waits"], "nothing was written")
}

// A pin whose time passes keeps nobody from working.
func TestAPinnedTimeThatPassesIsLetGo(t *testing.T) {
	d := newDesk(t)
	dust := work(t, d, "Dust edges and heart", "Ranunculus")
	_, pinned := d.ask("POST", path(dust)+"/pin", object{"start": dust["from"]}, nil)
	require.Equal(t, true, pinned["accepted"])
	for now := 0.0; now <= dust["from"].(float64); {
		d.ask("POST", "/api/clock", object{"by": "morning"}, nil)
		_, view := d.ask("GET", "/api/studio", "", nil)
		now = view["now"].(float64)
	}
	_, v := d.ask("GET", "/api/plan?days=14", "", nil)
	assert.Empty(t, v["unplaced"])
	inForceHolds(t, d)
}

func searched(t *testing.T, d desk, body object, until func(object) bool) object {
	status, begun := d.ask("POST", "/api/search", body, nil)
	require.Equal(t, 200, status, begun)
	var view object
	require.Eventually(t, func() bool {
		_, view = d.ask("GET", "/api/search", "", nil)
		return until(view)
	}, time.Minute, 20*time.Millisecond)
	return view
}

func ended(v object) bool { return v["running"] == false }

// What is found waits beside the plan at once, is accepted or dropped, and can be undone.
func TestABetterPlanIsLookedForInTheBackground(t *testing.T) {
	d := newDesk(t)
	d.ask("POST", "/api/orders", with(order(60, "Magnolia"), "leaves", "2027-10-01T10:00"), nil)
	further := searched(t, d, object{"seconds": 600, "anew": true}, func(v object) bool {
		return v["best"].(object)["weightedLateness"].(float64) < v["was"].(object)["weightedLateness"].(float64)
	})
	assert.Equal(t, true, further["running"])
	status, refused := d.ask("POST", "/api/search", object{"seconds": 1}, nil)
	assert.Equal(t, 409, status)
	assert.Contains(t, refused["detail"], "already")
	was := inForceHolds(t, d)
	status, _ = d.ask("POST", "/api/tasks/"+string(firstOf(was, demo.ID("Odalys")))+"/start", object{}, nil)
	require.Equal(t, 200, status, "the benches work on meanwhile")
	status, _ = d.ask("POST", "/api/search/stop", "", nil)
	require.Equal(t, 200, status)
	require.Eventually(t, func() bool { _, v := d.ask("GET", "/api/search", "", nil); return ended(v) },
		time.Minute, 10*time.Millisecond)

	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	choices := objects(t, proposal["choices"])
	require.Len(t, choices, 2)
	assert.Equal(t, "anew", choices[1]["how"])
	assert.Equal(t, choices[1]["id"], proposal["chosen"], "the better one is shown")
	status, accepted := d.ask(
		"POST",
		"/api/proposal/accept",
		object{"n": proposal["n"], "plan": choices[1]["id"]},
		nil,
	)
	require.Equal(t, 200, status, accepted)
	now := inForceHolds(t, d)
	assert.Less(t, now.Objective.Lateness, int64(further["was"].(object)["weightedLateness"].(float64)))
	_, proposal = d.ask("GET", "/api/proposal", "", nil)
	assert.Equal(t, false, proposal["waits"])

	_, versions := d.ask("GET", "/api/plan/versions", "", nil)
	assert.Equal(t, true, objects(t, versions["list"])[0]["accepted"])
	status, undone := d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", accepted["n"]), "", nil)
	require.Equal(t, 200, status, undone)
	back := inForceHolds(t, d)
	assert.Less(t, len(plan.Compare(was, back).Moved), len(plan.Compare(now, back).Moved), "nearer to what it was")
}

func firstOf(p *studio.Plan, person studio.ID) studio.ID {
	var first studio.Task
	for _, t := range p.Tasks {
		if t.Person == person && (first.ID == "" || t.Start < first.Start) {
			first = t
		}
	}
	return first.ID
}

// Several plans wait side by side; wishes that come later are in all of them.
func TestPlansForTheSameWishesWaitSideBySide(t *testing.T) {
	d := newDesk(t)
	d.ask("POST", "/api/orders", order(12, "Magnolia"), nil)
	searched(t, d, object{"seconds": 1, "anew": true}, ended)
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	choices := objects(t, proposal["choices"])
	require.NotEmpty(t, choices)
	assert.Equal(t, "repaired", choices[0]["how"])
	for _, c := range choices {
		_, of := d.ask("GET", "/api/plan?of="+c["id"].(string), "", nil)
		assert.Len(t, of["orders"], 5, "all know the new order")
	}
	status, _ := d.ask("POST", "/api/plan/versions/1/propose", "", nil)
	require.Equal(t, 200, status)
	_, proposal = d.ask("GET", "/api/proposal", "", nil)
	choices = objects(t, proposal["choices"])
	last := choices[len(choices)-1]
	assert.Equal(t, "earlier", last["how"])
	status, _ = d.ask("POST", "/api/proposal/"+last["id"].(string)+"/drop", "", nil)
	require.Equal(t, 200, status)
	_, proposal = d.ask("GET", "/api/proposal", "", nil)
	assert.Len(t, proposal["choices"], len(choices)-1)
	status, _ = d.ask("POST", "/api/proposal/accept", object{"n": proposal["n"], "plan": choices[0]["id"]}, nil)
	require.Equal(t, 200, status)
	inForceHolds(t, d)
	status, _ = d.ask("GET", "/api/plan?of=v1", "", nil)
	assert.Equal(t, 200, status, "an earlier version can be looked at")
	status, _ = d.ask("GET", "/api/plan?of=v99", "", nil)
	assert.Equal(t, 404, status)
}

func TestTheChainOfAnOrderIsToldFromItsEnd(t *testing.T) {
	d := newDesk(t)
	_, v := d.ask("GET", "/api/plan", "", nil)
	promise := objects(t, v["orders"])[0]
	_, chain := d.ask("GET", "/api/orders/"+promise["id"].(string)+"/chain", "", nil)
	links := objects(t, chain["links"])
	require.Greater(t, len(links), 3)
	spent := chain["spent"].(object)
	assert.Equal(
		t,
		links[0]["end"].(float64)-links[len(links)-1]["begin"].(float64),
		spent["workMinutes"].(float64)+spent["liesMinutes"].(float64)+spent["idleMinutes"].(float64),
		"all of its time is accounted for",
	)
	assert.Equal(t, promise["outcome"].(object)["ready"], links[0]["end"])
	for i := range links[1:] {
		assert.LessOrEqual(t, links[i+1]["begin"], links[i]["begin"])
	}
	_, scarce := d.ask("GET", "/api/plan/scarce", "", nil)
	for _, s := range objects(t, scarce["list"]) {
		assert.NotEmpty(t, s["name"])
		assert.Positive(t, s["withWorstSlackMinutes"])
	}
	status, _ := d.ask("GET", "/api/orders/none/chain", "", nil)
	assert.Equal(t, 404, status)
}

// Whoever listens is told how far a search is, and when it is over.
func TestASearchIsToldToEverybody(t *testing.T) {
	d := newDesk(t)
	url, stop := d.serve()
	answer, err := http.Get(url + "/api/events")
	require.NoError(t, err)
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	next := func() string {
		for lines.Scan() {
			if event, is := strings.CutPrefix(lines.Text(), "event: "); is && event != "facts" && event != "planned" {
				return event
			}
		}
		return "closed"
	}
	assert.Equal(t, "hello", next(), "the latest number comes first")
	status, _ := d.ask("POST", "/api/search", object{"seconds": 1}, nil)
	require.Equal(t, 200, status)
	assert.Equal(t, "search", next())
	searched := 1
	for _, view := d.ask("GET", "/api/search", "", nil); !ended(view); _, view = d.ask("GET", "/api/search", "", nil) {
		assert.Equal(t, "search", next())
		searched++
	}
	assert.Less(t, searched, 10, "now and then, not at every step")
	status, _ = d.ask("POST", "/api/search", object{"seconds": 600}, nil)
	require.Equal(t, 200, status)
	require.NoError(t, stop(), "a search does not hold the shutdown up")
	_, view := d.ask("GET", "/api/search", "", nil)
	assert.True(t, ended(view))
}

// A plan that is offered goes along with what happens, and knows what is wished later.
func TestAnOfferIsRepairedForWhatHappens(t *testing.T) {
	d := newDesk(t)
	status, _ := d.ask("POST", "/api/plan/versions/7/propose", "", nil)
	require.Equal(t, 404, status)
	status, _ = d.ask("POST", "/api/plan/versions/1/propose", "", nil)
	require.Equal(t, 200, status)
	first := firstOf(inForceHolds(t, d), demo.ID("Odalys"))
	status, _ = d.ask("POST", "/api/tasks/"+string(first)+"/start", object{}, nil)
	require.Equal(t, 200, status)
	_, entered := d.ask("POST", "/api/orders", order(3, "Magnolia"), nil)
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	choices := objects(t, proposal["choices"])
	require.Len(t, choices, 2)
	_, offered := d.ask("GET", "/api/plan?days=14&of="+choices[1]["id"].(string), "", nil)
	assert.Equal(t, "started", find(t, offered["blocks"], "id", string(first))["state"])
	assert.Len(t, offered["orders"], 5)
	_, card := d.ask("GET", "/api/tasks/"+string(first)+"?of="+choices[1]["id"].(string), "", nil)
	assert.Equal(t, "started", card["state"])
	status, _ = d.ask("POST", "/api/proposal/accept", object{"n": entered["n"], "plan": choices[1]["id"]}, nil)
	require.Equal(t, 200, status)
	inForceHolds(t, d)
}

// The board asks for days, not for the whole plan.
func TestThePlanIsGivenByDays(t *testing.T) {
	d := newDesk(t)
	_, week := d.ask("GET", "/api/plan", "", nil)
	_, day := d.ask("GET", "/api/plan?days=1", "", nil)
	assert.Less(t, len(day["blocks"].([]any)), len(week["blocks"].([]any)))
	from := week["from"].(float64) + 1440
	_, next := d.ask("GET", fmt.Sprintf("/api/plan?days=1&from=%.0f", from), "", nil)
	assert.Equal(t, from, next["from"])
	for _, b := range objects(t, next["blocks"]) {
		until := b["to"].(float64)
		for _, h := range b["holds"].([]any) {
			until = max(until, h.(object)["to"].(float64))
		}
		assert.Less(t, b["from"], from+1440)
		assert.Greater(t, until, from)
	}
	status, refused := d.ask("GET", "/api/plan?days=99", "", nil)
	assert.Equal(t, 422, status, refused)
	odalys := find(t, week["people"], "name", "Odalys")
	for _, l := range objects(t, odalys["loads"]) {
		assert.LessOrEqual(t, l["takenMinutes"], l["thereMinutes"])
	}
}

// What is left of a task that was begun is handed to somebody else.
func TestABegunTaskIsHandedOver(t *testing.T) {
	d := newDesk(t)
	first := firstOf(planInForce(t, d), demo.ID("Odalys"))
	status, _ := d.ask("POST", "/api/tasks/"+string(first)+"/start", object{}, nil)
	require.Equal(t, 200, status)
	_, card := d.ask("GET", "/api/tasks/"+string(first), "", nil)
	var other string
	for _, id := range card["may"].([]any) {
		if id != string(demo.ID("Odalys")) {
			other = id.(string)
		}
	}
	require.NotEmpty(t, other)
	status, pinned := d.ask("POST", "/api/tasks/"+string(first)+"/pin", object{"person": other, "start": 5}, nil)
	require.Equal(t, 200, status, pinned)
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	status, _ = d.ask("POST", "/api/proposal/accept", object{"n": proposal["n"]}, nil)
	require.Equal(t, 200, status)
	handed := plannedTask(t, inForceHolds(t, d), object{"id": string(first)})
	assert.EqualValues(t, other, handed.Person)
	_, bench := d.ask("GET", "/api/bench/"+other, "", nil)
	assert.Equal(t, string(first), bench["task"].(object)["id"])
}

func planInForce(t *testing.T, d desk) *studio.Plan {
	d.ask("GET", "/api/plan", "", nil)
	return inForceHolds(t, d)
}
