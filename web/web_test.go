package web_test

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/plan/check"
	"bractum/core/studio"
	"bractum/demo"
	"bractum/outside"
	"bractum/store"
	"bractum/web"
)

// desk asks the application as one person does.
type desk struct {
	t      testing.TB
	app    *web.Application
	store  *store.Store
	person studio.ID
}

func newDesk(t testing.TB) desk { return newDeskOf(t, demo.Document()) }

func newDeskOf(t testing.TB, doc *studio.Document) desk {
	s, err := store.Open(context.Background(), t.TempDir(), store.Options{})
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	require.NoError(t, s.Seed(context.Background(), doc, true))
	app := web.New(s, standing, outside.Services{})
	t.Cleanup(app.Close) // before the file
	return desk{t, app, s, demo.ID("Odalys")}
}

func standing(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at }

func (d desk) ask(method, path string, body any, headers map[string]string) (int, map[string]any) {
	d.t.Helper()
	var data []byte
	switch b := body.(type) {
	case string:
		data = []byte(b)
	default:
		var err error
		data, err = json.Marshal(body)
		require.NoError(d.t, err)
	}
	request := httptest.NewRequest(method, path, bytes.NewReader(data))
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Command-Id", uuid.NewString())
	request.Header.Set("Person", string(d.person))
	request.Header.Set("Prefer", "wait=10") // for what is worked out
	for name, value := range headers {
		request.Header.Set(name, value)
	}
	answer := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(answer, request)
	var decoded any
	if err := json.Unmarshal(answer.Body.Bytes(), &decoded); err != nil {
		return answer.Code, map[string]any{"text": answer.Body.String()}
	}
	if object, ok := decoded.(map[string]any); ok {
		return answer.Code, object
	}
	return answer.Code, map[string]any{"list": decoded}
}

func order(quantity any, recipe string) map[string]any {
	return map[string]any{
		"name":     "Harvest supper",
		"occasion": "A harvest supper",
		"leaves":   "2027-10-04T10:00",
		"leaving":  "collected",
		"lines": []any{
			map[string]any{"recipe": demo.ID(recipe), "colourway": demo.ID("Oyster"), "quantity": quantity},
		},
	}
}

func with(o map[string]any, field string, value any) map[string]any {
	o[field] = value
	return o
}

// Bad input is always a problem with its place, never a failure of ours.
func TestBadInputIsAnsweredWithItsPlace(t *testing.T) {
	d := newDesk(t)
	for _, c := range []struct {
		name   string
		method string
		path   string
		body   any
		header map[string]string
		status int
		place  string
	}{
		{"a date that has passed", "POST", "/api/orders", with(order(3, "Magnolia"), "leaves", "2027-09-19T10:00"), nil, 422, "body.leaves"},
		{"no date", "POST", "/api/orders", with(order(3, "Magnolia"), "leaves", "soon"), nil, 422, "body.leaves"},
		{"unknown recipe", "POST", "/api/orders", order(3, "Tulip"), nil, 422, "body.lines[0].recipe"},
		{"minus three", "POST", "/api/orders", order(-3, "Magnolia"), nil, 422, "body.lines[0].quantity"},
		{"absurdly many", "POST", "/api/orders", order(9_000_000, "Magnolia"), nil, 422, "body.lines[0].quantity"},
		{"more than a number holds", "POST", "/api/orders", order(1e30, "Magnolia"), nil, 422, ""},
		{"half a flower", "POST", "/api/orders", order(2.5, "Magnolia"), nil, 422, "body.lines[0].quantity"},
		{"words for a number", "POST", "/api/orders", order("many", "Magnolia"), nil, 422, "body.lines[0].quantity"},
		{"no lines", "POST", "/api/orders", with(order(1, "Magnolia"), "lines", []any{}), nil, 422, "body.lines"},
		{"a field we do not know", "POST", "/api/orders", with(order(1, "Magnolia"), "glitter", true), nil, 422, "body.glitter"},
		{"importance out of range", "POST", "/api/orders", with(order(1, "Magnolia"), "importance", 400), nil, 422, "body.importance"},
		{"not JSON", "POST", "/api/orders", "{nonsense", nil, 400, ""},
		{"nothing", "POST", "/api/orders", "", nil, 400, ""},
		{"no command id", "POST", "/api/orders", order(1, "Magnolia"), map[string]string{"Command-Id": ""}, 422, "header.Command-Id"},
		{"a command id that is none", "POST", "/api/orders", order(1, "Magnolia"), map[string]string{"Command-Id": "x"}, 422, "header.Command-Id"},
		{"nobody", "POST", "/api/orders", order(1, "Magnolia"), map[string]string{"Person": uuid.NewString()}, 422, "header.Person"},
		{"an order that is not there", "PUT", "/api/orders/" + uuid.NewString(), order(1, "Magnolia"), map[string]string{"If-Match": "1"}, 404, ""},
		{"a change without its version", "PUT", "/api/orders/" + string(demo.ID("order Choir")), order(1, "Magnolia"), nil, 422, "header.If-Match"},
		{"a task that is not there", "POST", "/api/tasks/lot-1.bake/start", map[string]any{}, nil, 409, ""},
		{"a bench of nobody", "GET", "/api/bench/nobody", "", nil, 422, "header.Person"},
		{"a line that cannot be undone", "POST", "/api/journal/1/undo", "", nil, 409, ""},
		{"a line that is not there", "POST", "/api/journal/77/undo", "", nil, 404, ""},
		{"an address that is not there", "GET", "/api/nothing", "", nil, 404, ""},
		{"an old proposal", "POST", "/api/proposal/accept", map[string]any{"n": 0}, nil, 409, ""},
		{"an acceptance of nothing", "POST", "/api/proposal/accept", map[string]any{"n": 1}, nil, 409, ""},
		{"a clock step that is none", "POST", "/api/clock", map[string]any{"by": "year"}, nil, 422, "body.by"},
	} {
		t.Run(c.name, func(t *testing.T) {
			status, answer := d.ask(c.method, c.path, c.body, c.header)
			assert.Equal(t, c.status, status, answer)
			assert.NotEmpty(t, answer["detail"], answer)
			if c.place != "" {
				errors, _ := json.Marshal(answer["errors"])
				assert.Contains(t, string(errors), `"`+c.place+`"`)
			}
		})
	}
	_, journal := d.ask("GET", "/api/journal", "", nil)
	assert.Len(t, journal["lines"], 1, "nothing of it was written")
}

// serve answers on a port until the test, or stop, ends it.
func (d desk) serve() (url string, stop func() error) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(d.t, err)
	ctx, cancel := context.WithCancel(context.Background())
	served := make(chan error, 1)
	go func() { served <- d.app.Serve(ctx, on) }()
	d.t.Cleanup(cancel)
	return "http://" + on.Addr().String(), func() error {
		cancel()
		select {
		case err := <-served:
			return err
		case <-time.After(30 * time.Second):
			return context.DeadlineExceeded
		}
	}
}

func TestARequestTooLargeIsRefused(t *testing.T) {
	url, stop := newDesk(t).serve()
	answer, err := http.Post(url+"/api/orders", "application/json", strings.NewReader(strings.Repeat(" ", 5<<20)))
	if err == nil { // the connection may be closed before all is sent
		assert.Equal(t, http.StatusRequestEntityTooLarge, answer.StatusCode)
		require.NoError(t, answer.Body.Close())
	}
	answer, err = http.Get(url + "/api/orders")
	require.NoError(t, err, "and it goes on answering")
	assert.Equal(t, 200, answer.StatusCode)
	require.NoError(t, answer.Body.Close())
	require.NoError(t, stop())
}

// Twelve of each flower for two weeks ahead: entered, accepted, and the plan in
// force holds by the checker's word, as does what the command line makes of it.
func TestTwelveOfEachForTwoWeeksAhead(t *testing.T) {
	d := newDesk(t)
	body := order(12, "Magnolia")
	var lines []any
	for _, flower := range []string{"Ranunculus", "Magnolia", "Waxflower stem", "Eucalyptus sprig"} {
		lines = append(
			lines,
			map[string]any{"recipe": demo.ID(flower), "colourway": demo.ID("Oyster"), "quantity": 12},
		)
	}
	body["lines"] = lines
	id := uuid.NewString()
	status, first := d.ask("POST", "/api/orders", body, map[string]string{"Command-Id": id})
	require.Equal(t, 200, status, first)
	_, again := d.ask("POST", "/api/orders", body, map[string]string{"Command-Id": id})
	assert.Equal(t, first, again, "sent twice, entered once")

	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	require.Len(t, proposal["pending"], 1)
	status, answer := d.ask("POST", "/api/proposal/accept", map[string]any{"n": 1}, nil)
	require.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "look at it again")
	id = uuid.NewString()
	for range 2 {
		status, answer = d.ask(
			"POST",
			"/api/proposal/accept",
			map[string]any{"n": proposal["n"]},
			map[string]string{"Command-Id": id},
		)
		require.Equal(t, 200, status, "and when the answer was lost, the same again")
		assert.EqualValues(t, 3, answer["n"])
	}

	doc, _, err := d.store.Document(context.Background(), store.Accepted, standing)
	require.NoError(t, err)
	require.Len(t, doc.Orders, 5)
	counted, err := count.Up(doc)
	require.NoError(t, err)
	made, err := plan.Make(doc, counted, plan.Options{})
	require.NoError(t, err)
	assert.Empty(t, check.Plan(doc, made))
	_, inForce := d.ask("GET", "/api/plan?days=14", "", nil)
	assert.Len(t, inForce["blocks"], len(made.Tasks))
	_, matrix := d.ask("GET", "/api/count", "", nil)
	assert.Len(t, matrix["cells"], len(counted.Items))
}

func TestWhatSomebodyElseChangedIsTold(t *testing.T) {
	d := newDesk(t)
	path := "/api/orders/" + string(demo.ID("order Choir"))
	status, _ := d.ask("PUT", path, with(order(3, "Magnolia"), "name", "Choir"), map[string]string{"If-Match": "1"})
	require.Equal(t, 200, status)
	status, answer := d.ask("PUT", path, order(5, "Magnolia"), map[string]string{"If-Match": "1"})
	assert.Equal(t, 412, status)
	told, _ := json.Marshal(answer["errors"])
	assert.Contains(t, string(told), `"body.occasion"`)
	assert.Contains(t, string(told), "A choir's anniversary")
	assert.Contains(t, string(told), `"location":"header.If-Match","message":"the version it stands at","value":2`)
	status, _ = d.ask("POST", path+"/cancel", "", map[string]string{"If-Match": "2"})
	assert.Equal(t, 200, status)
	_, proposal := d.ask("GET", "/api/proposal", "", nil)
	changed, _ := json.Marshal(proposal["differences"])
	assert.Contains(t, string(changed), `"gone":["lot-`)
}

// A morning at the bench: refusals in words, a pause, seconds and breakage.
func TestFactsAtTheBench(t *testing.T) {
	d := newDesk(t)
	taskOf := func(person string) map[string]any {
		_, bench := d.ask("GET", "/api/bench/"+string(demo.ID(person)), "", nil)
		task, _ := bench["task"].(map[string]any)
		require.NotNil(t, task, bench)
		return task
	}
	does := func(what string, task map[string]any, body map[string]any) (int, map[string]any) {
		return d.ask("POST", "/api/tasks/"+task["id"].(string)+"/"+what, body, nil)
	}
	counts := func(good, second, broken float64) map[string]any {
		return map[string]any{"good": good, "second": second, "broken": broken}
	}
	d.person = demo.ID("Teun")
	cones := taskOf("Teun")
	status, answer := does("start", cones, map[string]any{})
	require.Equal(t, 200, status, answer)
	status, answer = does("finish", cones, counts(cones["quantity"].(float64), 0, 0))
	require.Equal(t, 200, status, answer)
	petals := taskOf("Teun")
	status, answer = does("start", petals, map[string]any{})
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "is not made yet")
	d.person = demo.ID("Odalys")

	for range 3 {
		mix := taskOf("Odalys")
		status, answer = does("start", mix, map[string]any{})
		require.Equal(t, 200, status, answer)
		status, answer = does("finish", mix, counts(mix["quantity"].(float64), 0, 0))
		require.Equal(t, 200, status, answer)
	}
	d.person = demo.ID("Teun")
	petals = taskOf("Teun")
	status, answer = does("start", petals, map[string]any{})
	require.Equal(t, 409, status, answer)
	assert.Contains(t, answer["detail"], "expected to be ready in 0 h 30 min")
	status, answer = does("start", petals, map[string]any{"foundReady": true})
	require.Equal(t, 200, status, answer)
	status, answer = does("start", taskOf("Odalys"), map[string]any{})
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "pause or finish it first")

	many := petals["quantity"].(float64)
	status, answer = does("finish", petals, counts(many, 0, 3))
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "are to be counted")
	status, answer = does("finish", petals, counts(many+1, 0, -1))
	assert.Equal(t, 409, status)
	assert.Contains(t, answer["detail"], "below nothing")
	status, answer = does("pause", petals, counts(3, 0, 0))
	require.Equal(t, 200, status, answer)
	assert.EqualValues(t, many-3, taskOf("Teun")["quantity"])
	status, answer = does("start", petals, map[string]any{})
	require.Equal(t, 200, status, answer)
	status, answer = does("finish", petals, counts(many-4, 0, 1))
	require.Equal(t, 200, status, answer)
	assert.EqualValues(t, 1, answer["broken"])
	after := answer["after"].(map[string]any)
	assert.Zero(t, after["short"])
	status, answer = does("finish", petals, counts(0, 0, 0))
	assert.Equal(t, 409, status, answer)
}

func TestEventsTellOfEveryCommand(t *testing.T) {
	d := newDesk(t)
	url, stop := d.serve()
	answer, err := http.Get(url + "/api/events")
	require.NoError(t, err)
	defer answer.Body.Close()
	read := make(chan string, 10)
	go func() {
		buffer := make([]byte, 200)
		for {
			n, err := answer.Body.Read(buffer)
			if err != nil {
				close(read)
				return
			}
			read <- string(buffer[:n])
		}
	}()
	assert.Contains(t, <-read, "event: hello\ndata: {\"n\":1,", "the latest number comes first")
	d.ask("POST", "/api/clock", map[string]any{"by": "hour"}, nil)
	told := ""
	for !strings.Contains(told, "event: planned\ndata: {\"n\":2,") {
		told += <-read
	}
	assert.Contains(
		t,
		told,
		`event: facts`+"\n"+`data: {"n":2,"topics":["clock","journal"]}`,
		"and what to ask for again",
	)
	require.NoError(t, stop(), "an open stream does not hold the shutdown up")
	for range read { // ends when the stream is closed
	}
}

func TestThePageIsServedWithItsGuards(t *testing.T) {
	d := newDesk(t)
	request := httptest.NewRequest("GET", "/plan", nil)
	request.Header.Set("Accept-Encoding", "br")
	answer := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(answer, request)
	if answer.Code == http.StatusServiceUnavailable {
		t.Skip("the front end is not built")
	}
	assert.Equal(t, 200, answer.Code)
	assert.Equal(t, "br", answer.Header().Get("Content-Encoding"))
	assert.Contains(t, answer.Header().Get("Content-Security-Policy"), "default-src 'self'")
	missing := httptest.NewRecorder()
	d.app.API.Adapter().ServeHTTP(missing, httptest.NewRequest("GET", "/assets/none.js", nil))
	body, _ := io.ReadAll(missing.Body)
	assert.Equal(t, 404, missing.Code, string(body))
}

// Five benches at once: none is told to try again, and every fact is kept.
func TestFiveBenchesRecordAtOnce(t *testing.T) {
	d := newDesk(t)
	_, plan := d.ask("GET", "/api/plan", "", nil)
	var mixes []string
	for _, one := range plan["blocks"].([]any) {
		card := one.(map[string]any)
		if card["making"] == "mix" && card["kind"] == "work" && card["cause"] != "input" &&
			strings.Contains(
				"Petal white Oyster shell Signal deep red Slate leaf Leaf dust Ember dust",
				card["of"].(string),
			) {
			mixes = append(mixes, card["id"].(string))
		}
	}
	people := []string{"Odalys", "Teun", "Maren", "Ishaan", "Brisa"}
	require.GreaterOrEqual(t, len(mixes), len(people))
	statuses := make(chan int, len(people))
	for i, name := range people {
		desk := d
		desk.person = demo.ID(name)
		go func() {
			status, _ := desk.ask("POST", "/api/tasks/"+mixes[i]+"/start", map[string]any{}, nil)
			statuses <- status
		}()
	}
	for range people {
		assert.Equal(t, 200, <-statuses)
	}
	n, _, _, err := d.store.LastN(context.Background())
	require.NoError(t, err)
	assert.EqualValues(t, 1+len(people), n)
	doc, _, err := d.store.Document(context.Background(), store.Accepted, standing)
	require.NoError(t, err)
	assert.Len(t, doc.Work, len(people))
}

func BenchmarkReadAfterACommand(b *testing.B) {
	d := newDesk(b)
	for b.Loop() {
		d.ask("POST", "/api/clock", map[string]any{"by": "quarter"}, nil)
		d.ask("GET", "/api/plan", "", nil)
	}
}

// BenchmarkViewsMadeAnew is what each main view of the season costs when something that it
// shows has changed: at another address it is made once more.
func BenchmarkViewsMadeAnew(b *testing.B) {
	d := newDeskOf(b, demo.Season(1, 1, 90))
	n := 0
	for _, path := range mainReads(demo.Season(1, 1, 90))[:10] {
		b.Run(strings.Split(path, "/")[2], func(b *testing.B) {
			for b.Loop() {
				n++
				if status, answer := d.ask("GET", path+"?anew="+strconv.Itoa(n), "", nil); status != 200 {
					b.Fatal(answer)
				}
			}
		})
	}
}

func TestALockedFileIsAnsweredInWords(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(context.Background(), folder, store.Options{Patience: 100 * time.Millisecond})
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Seed(context.Background(), demo.Document(), true))
	d := desk{t, web.New(s, standing, outside.Services{}), s, demo.ID("Odalys")}
	other, err := sql.Open("sqlite", "file:"+filepath.Join(folder, store.FileName))
	require.NoError(t, err)
	defer other.Close()
	lock, err := other.Conn(context.Background())
	require.NoError(t, err)
	_, err = lock.ExecContext(context.Background(), "BEGIN IMMEDIATE")
	require.NoError(t, err)
	status, answer := d.ask("POST", "/api/orders", order(3, "Magnolia"), nil)
	assert.Equal(t, http.StatusServiceUnavailable, status, answer)
	assert.Contains(t, answer["detail"], "nothing was written")
	status, orders := d.ask("GET", "/api/orders", "", nil)
	assert.Equal(t, 200, status, "reading goes on")
	assert.Len(t, orders["list"], 4)
	_, err = lock.ExecContext(context.Background(), "ROLLBACK")
	require.NoError(t, err)
	require.NoError(t, lock.Close())
	status, _ = d.ask("POST", "/api/orders", order(3, "Magnolia"), nil)
	assert.Equal(t, 200, status)
}

// Whatever an order is made of, the answer is a number below 500 and a reason.
func TestNoOrderHoweverOddIsAFailureOfOurs(t *testing.T) {
	d := newDesk(t)
	odd := []any{
		nil,
		true,
		-1,
		0,
		7,
		1e9,
		2.5,
		"",
		"Magnolia",
		"2027-13-40T99:99",
		strings.Repeat("x", 3000),
		[]any{},
		[]any{nil},
		map[string]any{},
		"\x00'; DROP TABLE journal",
	}
	fields := []string{"name", "occasion", "leaves", "leaving", "importance", "allergies", "state", "lines"}
	inner := []string{"recipe", "colourway", "quantity", "serviceLevelPerMille", "id"}
	refused := 0
	for _, value := range odd {
		for _, field := range fields {
			status, answer := d.ask("POST", "/api/orders", with(order(1, "Magnolia"), field, value), nil)
			require.Less(t, status, 500, "%s %v: %v", field, value, answer)
			if status != 200 {
				refused++
			}
		}
		for _, field := range inner {
			body := order(1, "Magnolia")
			body["lines"].([]any)[0].(map[string]any)[field] = value
			status, answer := d.ask("POST", "/api/orders", body, nil)
			require.Less(t, status, 500, "line %s %v: %v", field, value, answer)
			if status != 200 {
				refused++
			}
		}
	}
	assert.Greater(t, refused, 100)
	twice := order(1, "Magnolia")
	line := map[string]any{
		"id":        uuid.NewString(),
		"recipe":    demo.ID("Magnolia"),
		"colourway": demo.ID("Oyster"),
		"quantity":  1,
	}
	twice["lines"] = []any{line, line}
	status, answer := d.ask("POST", "/api/orders", twice, nil)
	assert.Equal(t, 422, status, answer)
	status, _ = d.ask("GET", "/api/plan", "", nil)
	assert.Equal(t, 200, status)
}
