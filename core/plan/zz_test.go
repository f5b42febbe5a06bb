package plan

import (
	"encoding/json"
	"os"
	"testing"

	"bractum/core/count"
	"bractum/core/studio"
)

func TestZZ(t *testing.T) {
	dir := os.Getenv("ZZ")
	if dir == "" {
		t.Skip()
	}
	read := func(name string, to any) {
		b, err := os.ReadFile(dir + name)
		if err != nil {
			t.Fatal(err)
		}
		if err := json.Unmarshal(b, to); err != nil {
			t.Fatal(err)
		}
	}
	var doc studio.Document
	var from studio.Plan
	read(".doc.json", &doc)
	read(".from.json", &from)
	counted, err := count.Up(&doc)
	if err != nil {
		t.Fatal(err)
	}
	show := func(name string, s *schedule) {
		for n, o := range s.orders {
			t.Log(name, o.ID[len(o.ID)-4:], s.was[n], s.readyOf(o), o.ReadyBy-s.readyOf(o))
		}
		t.Log(name, s.worth().Lateness, s.leftOutCount(), s.unrestOfPeople(), s.thinSlack(), s.movedOrders())
	}
	p, err := newProblem(&doc, counted)
	if err != nil {
		t.Fatal(err)
	}
	p.noteWhatWasTold(&from)
	kept := newSchedule(p)
	out := kept.keepPlaced(&from)
	t.Log("clusters", len(p.clusters), "removed", len(out.clusters))
	for _, c := range out.clusters {
		t.Log("  ", c.jobs[0].ID, len(c.jobs), c.begun)
	}
	kept.placeRemoved(&from, out)
	show("kept", kept)
	s := &search{problem: p, options: Options{From: &from}, aim: aim{sequence: p.byDate(), times: p.dueTimes(nil)}}
	show("anew", s.placedAnew())
	for _, steps := range []int{100, 600, 3000} {
		made, err := Make(&doc, counted, Options{From: &from, FixedLots: true, Steps: steps})
		if err != nil {
			t.Fatal(err)
		}
		for _, o := range made.Orders {
			t.Log(steps, o.Order[len(o.Order)-4:], *o.Slack)
		}
	}
}
