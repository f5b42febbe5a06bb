package web_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/api"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/core/workshop"
	"bractum/demo"
	"bractum/outside"
	"bractum/store"
	"bractum/web"
)

func (d desk) workshop() api.WorkshopView { return read[api.WorkshopView](d, "/api/workshop") }

// wishes writes a thing as it is to be, having seen it as it was.
func (d desk) wishes(kind workshop.Kind, id studio.ID, was, is any) (int, object) {
	d.t.Helper()
	body := object{}
	if was != nil {
		body["was"] = was
	}
	if is != nil {
		body["is"] = is
	}
	return d.ask("PUT", fmt.Sprintf("/api/workshop/%s/%s", kind, id), body, nil)
}

// Somebody is taken on, is away today, leaves; what that does to the plan is said before it counts, and each is
// taken back.
func TestPeopleComeAndGo(t *testing.T) {
	d := newDesk(t)
	w := d.workshop()
	teun := w.People[1]
	require.Equal(t, "Teun", teun.Name)
	away := teun
	away.Away = append(away.Away, studio.MustDate("2027-09-20"), studio.MustDate("2027-09-21"))
	path := "/api/workshop/people/" + string(teun.ID)
	code, effect := d.ask("POST", path+"/preview", object{"was": teun, "is": away}, nil)
	require.Equal(t, 200, code, effect)
	assert.Greater(t, len(effect["differences"].(object)["moved"].([]any)), 3)
	assert.Equal(t, w, d.workshop(), "nothing is written by looking")
	code, done := d.wishes(workshop.People, teun.ID, teun, away)
	require.Equal(t, 200, code, done)
	assert.Equal(t, away, d.workshop().People[1])
	code, answer := d.wishes(workshop.People, teun.ID, teun, teun)
	assert.Equal(t, 412, code, "what somebody else changed meanwhile is not overwritten: %v", answer)
	code, _ = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", done["n"]), nil, nil)
	require.Equal(t, 200, code)
	assert.Equal(t, teun, d.workshop().People[1])

	noor := studio.Person{ID: studio.ID(uuid.NewString()), Name: "Noor",
		Skills: []studio.Skill{{Skill: "wiring", Pace: 90}},
		Hours:  []studio.DayHours{{Day: "monday", From: 540, To: 1020}},
		Breaks: []studio.BreakTime{{From: 720, To: 750}}}
	code, done = d.wishes(workshop.People, noor.ID, nil, noor)
	require.Equal(t, 200, code, done)
	assert.Equal(t, noor, d.workshop().People[len(w.People)])
	code, _ = d.wishes(workshop.People, noor.ID, noor, nil)
	require.Equal(t, 200, code)
	assert.Equal(t, w.People, d.workshop().People)
	d.person = teun.ID
	d.ask("POST", "/api/clock", object{"by": "hour"}, nil) // somebody whom the journal names stays in it
	d.person = demo.ID("Odalys")
	code, answer = d.wishes(workshop.People, teun.ID, teun, nil)
	assert.Equal(t, 409, code, answer)
	gone := teun
	gone.OutOfUse = true
	code, answer = d.wishes(workshop.People, teun.ID, teun, gone)
	require.Equal(t, 200, code, answer)
	for _, b := range read[api.PlanView](d, "/api/plan?days=14").Blocks {
		assert.False(t, b.State == studio.TaskPlanned && b.Person == teun.ID, "%s is planned for who is gone", b.Name)
	}
}

// A calendar file is read without anything being written; what cannot be read says why.
func TestACalendarOfDaysAwayIsRead(t *testing.T) {
	d := newDesk(t)
	file := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nBEGIN:VEVENT\r\nUID:1\r\nSUMMARY:Dentist\r\n" +
		"DTSTART:20270921T130000\r\nDTEND:20270921T140000\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
	octets := map[string]string{"Content-Type": "application/octet-stream"}
	code, view := d.ask("POST", "/api/workshop/calendar", file, octets)
	require.Equal(t, 200, code, view)
	assert.Len(t, view["awayTimes"], 1)
	code, answer := d.ask("POST", "/api/workshop/calendar", "day,who", octets)
	assert.Equal(t, 422, code)
	assert.Contains(t, answer["detail"], "no iCalendar file")
}

// A day on which the studio is closed is everybody's, once; and is opened again.
func TestTheStudioIsClosedOnADay(t *testing.T) {
	d := newDesk(t)
	before := d.workshop().People
	for range 2 { // twice is as once
		code, answer := d.ask("POST", "/api/workshop/closed", object{"day": "2027-09-22", "closed": true}, nil)
		require.Equal(t, 200, code, answer)
	}
	for i, p := range d.workshop().People {
		assert.Contains(t, p.Away, studio.MustDate("2027-09-22"))
		assert.LessOrEqual(t, len(p.Away), len(before[i].Away)+1)
	}
	code, _ := d.ask("POST", "/api/workshop/closed", object{"day": "2027-09-22", "closed": false}, nil)
	require.Equal(t, 200, code)
	for i, p := range d.workshop().People {
		assert.ElementsMatch(t, before[i].Away, p.Away)
	}
	uses := read[[]workshop.Use](d, fmt.Sprintf("/api/workshop/places/%s/uses", demo.ID("Wavy foam")))
	assert.NotEmpty(t, uses)
}

// What a thing may not be is said at its fields, and in words what it is used by.
func TestAWorkshopSaysWhatDoesNotHold(t *testing.T) {
	d := newDesk(t)
	w := d.workshop()
	tool := w.Tools[0]
	code, answer := d.wishes(workshop.Tools, tool.ID, tool, nil)
	assert.Equal(t, 409, code)
	assert.Contains(t, answer["detail"], "is used by")
	place := w.Places[0]
	place.Slots = 0
	code, answer = d.wishes(workshop.Places, place.ID, w.Places[0], place)
	assert.Equal(t, 422, code)
	assert.Contains(t, fmt.Sprint(answer["errors"]), "body.slots")
	code, _ = d.wishes("orders", place.ID, nil, place)
	assert.Equal(t, 404, code)
	code, _ = d.wishes(workshop.Places, studio.ID(uuid.NewString()), nil, w.Places[0])
	assert.Equal(t, 422, code, "an id other than that of its address")
	code, _ = d.wishes(workshop.Places, "spoon", nil, object{"id": "spoon", "name": "Spoon", "slots": 1})
	assert.Equal(t, 422, code)
	code, answer = d.ask(
		"PUT",
		"/api/workshop",
		object{"name": "Yard", "settings": w.Settings, "climate": w.Climate[:3],
			"was": object{"name": w.Name, "settings": w.Settings, "climate": w.Climate}},
		nil,
	)
	assert.Equal(t, 422, code, answer)
	w.Settings.SittingMinutes = 35
	air := slices.Clone(w.Climate)
	air[3].HumidityPerMille = 777
	code, answer = d.ask("PUT", "/api/workshop", object{"name": "The Yard", "settings": w.Settings, "climate": air,
		"was": object{"name": w.Name, "settings": d.workshop().Settings, "climate": w.Climate}}, nil)
	require.Equal(t, 200, code, answer)
	assert.Equal(t, "The Yard", d.workshop().Name)
	assert.Equal(t, air, d.workshop().Climate)
	code, _ = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", answer["n"]), nil, nil)
	require.Equal(t, 200, code)
	assert.Equal(t, w.Name, d.workshop().Name)
	assert.Equal(t, w.Climate, d.workshop().Climate)
}

// edited is a thing with something of it changed at random, which may not hold.
func edited(r *rand.Rand, kind workshop.Kind, thing any) object {
	var is object
	data, _ := json.Marshal(thing)
	_ = json.Unmarshal(data, &is)
	switch number := func(most int64) int64 { return r.Int64N(most) }; kind {
	case workshop.People:
		is["skills"] = []object{{"skill": "wiring", "paceHundredths": 50 + number(150)},
			{"skill": "dusting", "paceHundredths": 100}}
		is["outOfUse"] = r.IntN(4) == 0
	case workshop.Places:
		is["slots"] = number(20)
		is["name"] = fmt.Sprintf("Place %d", number(30))
	case workshop.Tools:
		is["number"] = number(5)
		is["outOfUse"] = r.IntN(4) == 0
	case workshop.Materials:
		is["keepAtLeast"] = number(9000)
		is["pack"] = number(500)
	case workshop.Suppliers:
		is["days"] = number(10)
	case workshop.DryingClasses:
		is["dryMinutes"] = number(4000)
	case workshop.Families:
		is["fullMinutes"] = number(40)
	default:
		is["name"] = fmt.Sprintf("Thing %d", number(30))
	}
	return is
}

// Whatever two leads do to a workshop at once, the studio holds, counts and plans; all of it can be taken back.
func TestTwoLeadsEditAWorkshop(t *testing.T) {
	edits := number("BRACTUM_EDITS", 40)
	d := newDesk(t)
	begun, _, err := d.store.Document(t.Context(), store.Wished, standing)
	require.NoError(t, err)
	leads := []desk{d, d}
	leads[1].person = demo.ID("Maren")
	seen := []api.WorkshopView{d.workshop(), d.workshop()}
	random := rand.New(rand.NewPCG(23, 1))
	var lines []any
	stale := 0
	for range edits {
		who := random.IntN(2)
		if random.IntN(3) == 0 {
			seen[who] = leads[who].workshop()
		}
		kind := workshop.Kinds[random.IntN(len(workshop.Kinds))]
		all := map[workshop.Kind][]any{}
		for _, k := range workshop.Kinds {
			all[k] = workshop.All(&studio.Document{People: seen[who].People, Places: seen[who].Places,
				Surroundings: seen[who].Surroundings, Tools: seen[who].Tools, Machines: seen[who].Machines,
				Materials: seen[who].Materials, Suppliers: seen[who].Suppliers, DryingClasses: seen[who].DryingClasses,
				Methods: seen[who].DryingMethods, Families: seen[who].SetupFamilies}, k)
		}
		if len(all[kind]) == 0 {
			continue
		}
		was := all[kind][random.IntN(len(all[kind]))]
		is := edited(random, kind, was)
		id := studio.ID(is["id"].(string))
		var code int
		var answer object
		switch random.IntN(6) {
		case 0:
			code, answer = leads[who].wishes(kind, id, was, nil)
		case 1:
			id = studio.ID(uuid.NewString())
			is["id"], is["name"] = id, fmt.Sprintf("New %d", random.IntN(40))
			code, answer = leads[who].wishes(kind, id, nil, is)
		default:
			code, answer = leads[who].wishes(kind, id, was, is)
		}
		require.Contains(t, []int{200, 404, 409, 412, 422}, code, "%v", answer)
		if code == 200 {
			lines = append(lines, answer["n"])
		} else if code == 412 {
			stale++
		}
		if code == 200 && random.IntN(10) == 0 {
			doc, _, err := d.store.Document(t.Context(), store.Wished, standing)
			require.NoError(t, err)
			require.Empty(t, doc.Validate())
			counted, err := count.Up(doc)
			require.NoError(t, err)
			_, err = plan.Make(doc, counted, plan.Options{})
			require.NoError(t, err)
		}
	}
	t.Logf("%d written, %d stale", len(lines), stale)
	assert.NotEmpty(t, lines)
	for i := len(lines) - 1; i >= 0; i-- {
		code, answer := d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", lines[i]), nil, nil)
		require.Equal(t, 200, code, answer)
	}
	after, _, err := d.store.Document(t.Context(), store.Wished, standing)
	require.NoError(t, err)
	for _, kind := range workshop.Kinds {
		assert.ElementsMatch(t, workshop.All(begun, kind), workshop.All(after, kind), "%s", kind)
	}
}

// Things that are written together are looked at row by row first, and are all there or none is.
func TestManyThingsAreWrittenTogether(t *testing.T) {
	d := newDesk(t)
	w := d.workshop()
	more := w.Places[0]
	more.Slots += 5
	rack := studio.Place{ID: studio.ID(uuid.NewString()), Name: "Long rack", Slots: 9}
	things := []object{{"id": more.ID, "was": w.Places[0], "is": more},
		{"id": w.Places[1].ID, "was": w.Places[1], "is": w.Places[1]},
		{"id": rack.ID, "is": rack},
		{"id": uuid.NewString(), "is": object{"id": uuid.NewString(), "name": "Bad", "slots": 0}}}
	code, view := d.ask("POST", "/api/workshop/places/many/preview", object{"things": things}, nil)
	require.Equal(t, 200, code, view)
	states := []any{}
	for _, row := range view["rows"].([]any) {
		states = append(states, row.(object)["state"])
	}
	assert.Equal(t, []any{"changed", "same", "new", "wrong"}, states)
	code, answer := d.ask("POST", "/api/workshop/places/many", object{"things": things}, nil)
	assert.Equal(t, 422, code)
	assert.Contains(t, fmt.Sprint(answer["errors"]), "things[3].slots")
	assert.Equal(t, w.Places, d.workshop().Places, "none is written")
	code, view = d.ask("POST", "/api/workshop/places/many/preview", object{"things": things[:3]}, nil)
	require.Equal(t, 200, code)
	assert.NotNil(t, view["effect"])
	code, answer = d.ask("POST", "/api/workshop/places/many", object{"things": things[:3]}, nil)
	require.Equal(t, 200, code, answer)
	assert.Equal(t, more, d.workshop().Places[0])
	assert.Contains(t, d.workshop().Places, rack)
	code, _ = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", answer["n"]), nil, nil)
	require.Equal(t, 200, code)
	assert.Equal(t, w.Places, d.workshop().Places)
}

// A flower that ships with the program comes into an empty book with all it needs, as a file of recipes does.
func TestAUsualFlowerComesIntoAnEmptyBook(t *testing.T) {
	s, err := store.Open(t.Context(), t.TempDir(), store.Options{})
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	app := web.New(s, func(calendar studio.Calendar, _ *studio.Minute) studio.Minute {
		return calendar.MinuteOf(time.Now())
	}, outside.Services{})
	t.Cleanup(app.Close)
	app.Begins(api.Beginnings{Starter: demo.Starter})
	d := desk{t, app, s, ""}
	own := object{"name": "Own", "zone": "Europe/Dublin", "book": false, "person": "Ida", "skills": []string{"wiring"},
		"hours": []object{{"day": "monday", "from": "09:00", "to": "17:00"}}, "breaks": []any{}}
	code, answer := d.ask("POST", "/api/beginning", own, nil)
	require.Equal(t, 200, code, answer)
	d.person = d.workshop().People[0].ID
	usual := read[api.UsualView](d, "/api/workshop/usual")
	require.Greater(t, len(usual.Flowers), 15)
	code, file := d.ask("GET", "/api/workshop/usual/flowers/"+string(usual.Flowers[0].ID), nil, nil)
	require.Equal(t, 200, code)
	data, err := json.Marshal(file)
	require.NoError(t, err)
	code, answer = d.ask("POST", "/api/book/import", object{"file": string(data), "choices": object{}}, nil)
	require.Equal(t, 200, code, answer)
	assert.Len(t, read[api.UsualView](d, "/api/workshop/usual").Flowers, len(usual.Flowers)-1)
	assert.NotEmpty(t, d.workshop().Places, "what it lies in came with it")
	code, _ = d.ask("GET", "/api/workshop/usual/flowers/"+uuid.NewString(), nil, nil)
	assert.Equal(t, 404, code)
}

// A line of the journal says what was before it and is after it, in names; what was done on one day is taken back on
// another.
func TestALineOfTheJournalSaysBeforeAndAfter(t *testing.T) {
	d := newDesk(t)
	w := d.workshop()
	wires := w.Suppliers[slices.IndexFunc(w.Suppliers, func(s studio.Supplier) bool {
		return s.Name == "Sailcloth and wire"
	})]
	later := wires
	later.Days = 9
	code, written := d.wishes(workshop.Suppliers, wires.ID, wires, later)
	require.Equal(t, 200, code, written)
	_, stores := d.ask("GET", "/api/stores", "", nil)
	code, counted := d.ask("POST", "/api/stores/count", object{"counts": []object{{"id": demo.ID("Icing sugar"),
		"amount": object{
			"value": 2,
			"unit":  "g",
		}, "seen": find(t, stores["materials"], "name", "Icing sugar")["onHand"]}}}, nil)
	require.Equal(t, 200, code, counted)
	line := read[api.LineView](d, fmt.Sprintf("/api/journal/%v", written["n"]))
	require.Len(t, line.Touched, 1)
	assert.Equal(t, api.TouchedView{Thing: "supplier", Name: "Sailcloth and wire", State: "changed",
		Changes: []api.ValueChange{{Place: "days", Was: "4", Is: "9"}}}, line.Touched[0])
	assert.Equal(t, "Odalys", line.Person)
	moved := read[api.LineView](d, fmt.Sprintf("/api/journal/%v", counted["n"])).Moved
	require.Len(t, moved, 1)
	assert.Equal(t, "Icing sugar", moved[0].Name)
	assert.Negative(t, moved[0].Amount)
	code, _ = d.ask("GET", "/api/journal/999", "", nil)
	assert.Equal(t, 404, code)

	code, answer := d.ask("POST", "/api/clock", object{"by": "minutes", "minutes": 2 * 1440}, nil)
	require.Equal(t, 200, code, answer)
	code, answer = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", written["n"]), "", nil)
	require.Equal(t, 200, code, answer)
	undone := read[api.LineView](d, fmt.Sprintf("/api/journal/%v", answer["n"]))
	assert.Equal(t, []api.ValueChange{{Place: "days", Was: "9", Is: "4"}}, undone.Touched[0].Changes)
}

// A studio that moves to another time zone keeps the local times at which orders leave, and what was
// recorded its moment.
func TestAStudioMovesToAnotherTimeZone(t *testing.T) {
	d := newDesk(t)
	w := d.workshop()
	orders := func() []object {
		_, answer := d.ask("GET", "/api/orders", "", nil)
		return objects(t, answer["list"])
	}
	before := orders()
	frame := func(zone string) (int, object) {
		return d.ask("PUT", "/api/workshop", object{"name": w.Name, "settings": w.Settings, "climate": w.Climate,
			"zone": zone, "was": object{"name": w.Name, "zone": w.Zone,
				"settings": w.Settings, "climate": w.Climate}}, nil)
	}
	code, answer := frame("Atlantis")
	assert.Equal(t, 422, code, answer)
	code, moved := frame("Asia/Tokyo")
	require.Equal(t, 200, code, moved)
	_, studio := d.ask("GET", "/api/studio", "", nil)
	assert.Equal(t, "Asia/Tokyo", studio["zone"])
	after := orders()
	require.Len(t, after, len(before))
	for i := range after {
		assert.Equal(t, before[i]["order"].(object)["leaves"], after[i]["order"].(object)["leaves"])
		is, was := after[i]["outcome"].(object), before[i]["outcome"].(object)
		assert.InDelta(t, was["readyBy"].(float64)-8*60, is["readyBy"].(float64), 18*60,
			"a local time, eight hours sooner")
	}
	code, answer = frame("Europe/Dublin")
	assert.Equal(t, 412, code, "whoever saw another zone does not move it back unasked: %v", answer)
	code, answer = d.ask("POST", fmt.Sprintf("/api/journal/%v/undo", moved["n"]), "", nil)
	require.Equal(t, 200, code, answer)
	assert.Equal(t, w.Zone, d.workshop().Zone)
}
