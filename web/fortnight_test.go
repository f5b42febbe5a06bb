package web_test

import (
	"context"
	"math"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// holds counts and plans what the file says now, and asks the checker.
func holds(t *testing.T, s *store.Store) *studio.Plan {
	doc, _, err := s.Document(context.Background(), store.Accepted, standing)
	require.NoError(t, err)
	require.Empty(t, doc.Validate())
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	require.Empty(t, check.Plan(doc, made))
	return made
}

// buys orders what is on the shopping lists, and books in what should be there.
func (d *desk) buys(t *testing.T) {
	_, stores := d.ask("GET", "/api/stores", "", nil)
	for _, one := range stores["shopping"].([]any) {
		list, packs := one.(object), object{}
		for _, b := range objects(t, list["buys"]) {
			if b["packs"].(float64) > 0 { // else it is on its way
				packs[b["material"].(string)] = b["packs"]
			}
		}
		if len(packs) == 0 {
			continue
		}
		body := object{"supplier": list["supplier"].(object)["id"], "packs": packs}
		status, answer := d.ask("POST", "/api/purchases", body, nil)
		require.Equal(t, 200, status, answer)
	}
	for _, one := range stores["purchases"].([]any) {
		state := one.(object)
		purchase := state["purchase"].(object)
		came := []object{}
		for _, l := range objects(t, purchase["lines"]) {
			came = append(came, object{"line": l["id"], "packs": l["packs"]})
		}
		if purchase["expected"].(float64) <= stores["now"].(float64) {
			status, answer := d.ask("POST", "/api/purchases/"+purchase["id"].(string)+"/arrived", object{"came": came},
				map[string]string{"If-Match": strconv.Itoa(int(state["version"].(float64)))})
			require.Equal(t, 200, status, answer)
		}
	}
}

// Everybody does what their bench says when it says so, until nothing is left;
// now and then something breaks. The plan holds all the while, nothing is made
// twice, and every order leaves with its flowers.
func TestAFortnightAtPellowenYard(t *testing.T) {
	doc := demo.Document()
	for i := range doc.Materials {
		doc.Materials[i].OnHand *= 2 // what breaks takes wires too, and a supplier days
	}
	d := newDeskOf(t, doc)
	started := map[string]int{}
	until := map[string]float64{} // when whoever began a task will be through with it
	broken, done := 0.0, 0
	left := true
	for step := 0; left; step++ {
		require.Less(t, step, 1500, "it comes to an end")
		left = false
		now, next := 0.0, math.Inf(1) // when somebody is through, or begins
		again := demo.Document().People
		for len(again) > 0 { // whoever is through begins the next at once
			person := again[0]
			again = again[1:]
			d.person = person.ID
			_, view := d.ask("GET", "/api/bench/"+string(person.ID), "", nil)
			task, busy := view["task"].(object)
			if !busy {
				continue
			}
			left = true
			path := "/api/tasks/" + task["id"].(string)
			now = view["now"].(float64)
			switch {
			case task["state"] == "started" && until[path] <= now:
				counts := object{"good": task["quantity"], "second": 0, "broken": 0}
				if done++; done%6 == 0 && task["making"] != "mix" && task["quantity"].(float64) > 3 {
					counts["good"], counts["broken"] = task["quantity"].(float64)-1, 1
					broken++
				}
				status, answer := d.ask("POST", path+"/finish", counts, nil)
				require.Equal(t, 200, status, answer)
				again = append(again, person)
			case task["state"] == "planned" && task["start"].(float64) <= now:
				status, answer := d.ask("POST", path+"/start", object{}, nil)
				require.Equal(t, 200, status, answer)
				started[task["of"].(string)]++
				until[path] = task["end"].(float64)
				next = min(next, until[path])
			case task["state"] == "started":
				next = min(next, until[path])
			default:
				next = min(next, task["start"].(float64))
			}
		}
		if step%25 == 0 {
			holds(t, d.store)
			d.buys(t)
		}
		clock := object{"by": "minutes", "minutes": next - now}
		if math.IsInf(next, 1) || next <= now {
			clock = object{"by": "next"}
		}
		d.ask("POST", "/api/clock", clock, nil)
	}
	made := holds(t, d.store)
	for _, task := range made.Tasks {
		assert.NotEqual(t, studio.TaskPlanned, task.State)
	}
	assert.Positive(t, broken)
	assert.LessOrEqual(t, started["Oyster shell"], 8, "no paste is mixed over and over") // but for what broke

	_, orders := d.ask("GET", "/api/orders", "", nil)
	for _, o := range objects(t, orders["list"]) {
		order := o["order"].(object)
		late := studio.Minute(o["outcome"].(object)["late"].(float64)) // what is made again may need the safety span
		assert.Less(t, late, doc.Settings.SafetyMinutes, order["name"])
		status, answer := d.ask(
			"POST",
			"/api/orders/"+order["id"].(string)+"/hand-over",
			"",
			map[string]string{"If-Match": "1"},
		)
		assert.Equal(t, 200, status, answer)
	}
	departed := len(objects(t, orders["list"]))
	_, orders = d.ask("GET", "/api/orders", "", nil)
	assert.Empty(t, orders["list"])
	_, past := d.ask("GET", "/api/orders/past", "", nil)
	assert.Len(t, past["lines"], departed)
	for _, o := range objects(t, past["lines"]) {
		assert.Equal(t, "left", o["order"].(object)["state"])
	}
	assert.Empty(t, holds(t, d.store).Orders)
}
