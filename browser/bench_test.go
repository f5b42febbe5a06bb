package browser

import (
	"encoding/json"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// sends lets a script give commands as anybody, by the interface's own requests.
const sends = `const send = (person, path, body) => fetch("/api" + path, { method: "POST", body: JSON.stringify(body),
	headers: { "Content-Type": "application/json", "Command-Id": crypto.randomUUID(), Person: person } });
	const get = async (path) => (await fetch("/api" + path, { headers: { Prefer: "wait=10" } })).json();`

// does runs a script with sends and get.
func (p tab) does(script string, args ...any) string {
	p.t.Helper()
	out, err := p.Page.Eval(`async (...args) => { `+sends+script+` }`, args...)
	require.NoError(p.t, err)
	return out.Value.Str()
}

// offline cuts a page off from everything, or lets it back.
func (p tab) offline(cut bool) {
	p.t.Helper()
	require.NoError(p.t, proto.NetworkEnable{}.Call(p.Page))
	require.NoError(p.t, proto.NetworkEmulateNetworkConditions{Offline: cut, DownloadThroughput: -1,
		UploadThroughput: -1}.Call(p.Page))
}

// The card says what to take, how large, by the studio's own measures, where to lay it down and what comes then.
func TestTheCardLeavesNothingToLookUp(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/bench")
	for _, says := range []string{"Magnolia cone", "rope 12 mm across, 32 mm long", "18 green wire, cut 172 mm",
		"14 mm deep in the piece", "hook left open", "Foam block: 1 slot, 8 in each", "Pliers", "Centred on the wire",
		"then Dry upright"} {
		page.says(test("card"), says)
	}
	page.press(test("card") + " .counted summary")
	page.says(test("card"), "How it was counted")
	page.says(test("first"), "New to you: Magnolia cone")
	page.says(test("first"), "Three quarters of the petal's height")
	page.click("day")
	page.says(test("day-sitting"), "Magnolia cone")
	page.look("bench-day")
}

// A card and a day are printed on A4 and on A6, each with a code that opens it again.
func TestTheBenchOnPaper(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/bench")
	page.click("paper")
	page.MustElement(test("print-card"))
	page.says(test("card"), "rope 12 mm across")
	page.MustElement(".paper " + test("foot") + " img")
	for size, most := range map[float64]int{a4: 1, a6: 3} {
		pages, card := page.printed(size)
		assert.LessOrEqual(t, pages, most, "%g inches wide", size)
		assert.Contains(t, card, "rope 12 mm across")
	}
	page.click("begin-card")
	page.MustElement(test("finish"))
	page.click("day")
	page.says(test("day-sitting"), "Magnolia cone")
	page.MustElement(".paper " + test("foot") + " img")
	page.MustNavigate(studio.URL + "/book").MustWaitLoad()
	page.click("page-Gardenia")
	page.click("recipe-paper")
	page.says(test("making"), "Gardenia petal, small: 3 each")
	page.says(".paper", "12 each, in rows of 6 + 6, over the gaps of the row before, glued")
	pages, _ := page.printed(a4)
	assert.LessOrEqual(t, pages, 2)
}

// Steps of a run are gone through one by one, runs are counted one by one, and what is counted stays.
func TestStepsAndRunsAreGoneThroughAtTheBench(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/bench")
	page.does(`const [lead, gardenia, oyster] = args;
		const order = await send(lead, "/orders", { name: "Vigil", occasion: "", leaves: "2027-10-11T10:00",
			leaving: "collected", lines: [{ recipe: gardenia, colourway: oyster, quantity: 8 }] });
		const { n } = await get("/proposal");
		await send(lead, "/proposal/accept", { n });`, demo.ID("Odalys"), demo.ID("Gardenia"), demo.ID("Oyster"))
	mixAll(t, studio, 1)
	begun := page.does(`const [teun] = args;
		const { blocks } = await get("/plan?days=14");
		for (const task of blocks.filter((b) => b.of.startsWith("Gardenia petal") && b.person))
			if ((await send(teun, "/tasks/" + task.id + "/start", { foundReady: true })).ok) return task.id;
		return "";`, demo.ID("Teun"))
	require.NotEmpty(t, begun)
	page.says(test("card"), "Gardenia petal")
	page.says(test("task-name"), "Roll and cut")
	page.says(test("next-step"), "Thin the edge")
	page.click("next-step")
	page.says(test("task-name"), "Thin the edge")
	page.click("piece-5")
	page.look("bench-steps")
	page.MustReload().MustWaitLoad()
	page.says(test("task-name"), "Thin the edge") // a dead tablet knows where it was
	assert.Contains(t, *page.MustElement(test("pieces")).MustAttribute("aria-label"), "5 of ")
	page.click("next-step")
	page.says(test("task-name"), "Nick the tip")
	page.says(test("card"), "in this run get it")
	page.MustElement(test("count-good"))
	assert.Equal(t, "done", *page.MustElement(test("pieces") + " button").MustAttribute("class"))
	page.click("finish")
	page.says(test("said"), "done")
}

// Who asks for help is seen by the lead, what is not as it should be stays with the lot, and a task is taken off
// somebody in two touches.
func TestTheLeadSeesTheBenches(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	teun := sit(t, studio, "Teun", "/bench")
	teun.click("start")
	teun.click("ask")
	teun.pressNamed(".talk .opened button", "Come and look")
	teun.says(test("asked"), "You asked for help")
	teun.click("remark")
	teun.MustElement(test("remark-says")).MustInput("the wires are bent")
	teun.click("remark-keep")
	teun.says(test("remark"), "(1)")
	plan := sit(t, studio, "Odalys", "/plan")
	plan.says(test("plan-asks"), "Teun asks for help")
	record := sit(t, studio, "Odalys", "/log")
	record.press(test("remarks") + " summary")
	record.says(test("remarks"), "the wires are bent")
	lead := sit(t, studio, "Odalys", "/bench?all")
	lead.says(test("asks"), "Come and look, please")
	lead.says(test("benches"), "Magnolia cone")
	lead.look("bench-all")
	lead.click("left-Teun")
	later := lead.MustElement(test("left-today") + " .hand")
	later.MustElement("button").MustClick()
	later.MustElement(test("to-Odalys")).MustClick()
	require.Eventually(t, func() bool {
		return strings.Contains(lead.does(`return JSON.stringify(await get("/journal"));`), "handed on to Odalys")
	}, time.Minute, 100*time.Millisecond)
	lead.click("left-Teun")
	lead.click("hand-Teun")
	lead.click("to-Odalys")
	lead.until(`() => !document.querySelector('[data-test="asks"]')`)
	teun.until(`() => !document.querySelector('[data-test="finish"]')`)
	journal, err := lead.Page.Eval(`async () => (await (await fetch("/api/journal")).text())`)
	require.NoError(t, err)
	assert.Contains(t, journal.Value.Str(), "handed on to Odalys")
}

// With the network gone the bench goes on, through a reload too; what was recorded goes out in order when it is
// back, once.
func TestTheBenchGoesOnWithoutAConnection(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/bench")
	page.says(test("card"), "Magnolia cone")
	_, err := page.Page.Eval(`async () => { await navigator.serviceWorker.ready; }`)
	require.NoError(t, err)
	opened, _, _, err := studio.Store.LastN(t.Context())
	require.NoError(t, err)
	page.click("start")
	page.MustElement(test("finish"))
	before := opened
	require.Eventually(t, func() bool { // the card says so before it is written
		before, _, _, err = studio.Store.LastN(t.Context())
		return err == nil && before > opened
	}, said, 20*time.Millisecond)
	photo := filepath.Join(t.TempDir(), "pale.png")
	require.NoError(t, os.WriteFile(photo, page.MustScreenshot(), 0o600))
	page.offline(true)
	page.click("remark")
	page.MustElement(test("remark-says")).MustInput("too pale")
	page.MustElement(`input[type="file"]`).MustSetFiles(photo)
	page.click("remark-keep")
	page.says(test("unsent"), "1 thing recorded here waits")
	page.click("finish")
	page.says(test("unsent"), "2 things recorded here wait")
	page.until(`() => !document.querySelector('[data-test="task-name"]').innerText.includes("Form on hooked")`)
	page.says(test("start"), "Start")
	page.look("bench-offline")
	page.MustReload()
	page.says(test("unsent"), "2 things recorded here wait")
	page.until(`() => !document.querySelector('[data-test="card"]').innerText.includes("Magnolia cone")`)
	after, _, _, err := studio.Store.LastN(t.Context())
	require.NoError(t, err)
	assert.Equal(t, before, after, "nothing has gone out")
	page.offline(false)
	page.until(`() => !document.querySelector('[data-test="unsent"]')`)
	after, _, _, err = studio.Store.LastN(t.Context())
	require.NoError(t, err)
	assert.Equal(t, before+3, after, "the photo, what was said, what was done: each counts once")
	remarks := page.does(`return JSON.stringify(await get("/log/remarks"));`)
	assert.Regexp(t, `"picture":"[0-9a-f-]{36}"`, remarks)
	assert.Contains(t, remarks, "too pale")
}

// Two people share a tablet, by keyboard, and the network goes: each one's work goes out under their own name.
func TestTwoPeopleShareATabletWithoutAConnection(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "", "/bench")
	page.click("bench-Odalys")
	page.says(test("card"), "Petal white")
	page.click("who")
	page.click("sit-Teun")
	page.says(test("card"), "Magnolia cone")
	page.MustElement(test("start")).MustFocus()
	page.Keyboard.MustType(input.Enter)
	page.MustElement(test("finish"))
	assert.Equal(t, "finish", page.MustEval(`() => document.activeElement.dataset.test ?? ""`).Str(), "focus stays")
	page.offline(true)
	page.Keyboard.MustType(input.Enter)
	page.MustElement(test("unsent"))
	page.click("who")
	page.click("sit-Odalys")
	page.says(test("card"), "Petal white")
	page.click("start")
	page.says(test("unsent"), "2 things recorded here wait")
	page.offline(false)
	page.until(`() => !document.querySelector('[data-test="unsent"]')`)
	page.MustElement(test("pause"))
	journal := page.does(`const { lines } = await get("/journal");
		return lines.map((l) => l.person + " " + l.kind).join("; ");`)
	assert.Contains(t, journal, "Odalys task started; Teun task finished; Teun task started")
}

// What somebody else did meanwhile is not overwritten: whoever recorded the other thing decides.
func TestWhatHappenedMeanwhileIsTold(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/bench")
	page.click("start")
	page.MustElement(test("finish"))
	other := sit(t, studio, "Odalys", "/orders")
	page.offline(true)
	page.click("finish")
	page.MustElement(test("unsent"))
	other.does(`const [teun] = args;
		const { task } = await get("/bench/" + teun);
		await send(teun, "/tasks/" + task.id + "/finish", { good: task.quantity - 1, second: 0, broken: 1 });`,
		demo.ID("Teun"))
	page.offline(false)
	page.says(test("refused"), "recorded while there was no connection, and is not taken")
	page.says(test("refused"), "6 good")
	page.look("bench-refused")
	page.click("tell-lead")
	page.until(`() => !document.querySelector('[data-test="refused"]')`)
	require.Eventually(t, func() bool {
		journal := other.does(`return await (await fetch("/api/journal")).text();`)
		return strings.Contains(journal, "remark") || strings.Contains(journal, "Remark")
	}, time.Minute, 100*time.Millisecond)
}

// A short rest that is over rings across the bench until it is put off or taken up.
func TestAShortRestRingsAtTheBench(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "", "/orders")
	router := page.HijackRequests()
	router.MustAdd("*/api/bench/*", func(h *rod.Hijack) {
		if h.LoadResponse(http.DefaultClient, true) != nil {
			return // the page is gone
		}
		var view map[string]any
		if json.Unmarshal([]byte(h.Response.Body()), &view) == nil && view["task"] != nil {
			now := view["now"].(float64)
			view["rests"] = []any{map[string]any{"task": "a rest", "then": "", "ends": now - 2, "of": "Gardenia",
				"name": "Let it grip", "thenName": "Glue the rows"}}
			h.Response.SetBody(view)
		}
	})
	go router.Run()
	defer router.MustStop()
	page.click("who")
	page.click("sit-Teun")
	page.MustNavigate(studio.URL + "/bench").MustWaitLoad()
	page.says(test("ringing"), "Gardenia: “Let it grip” is over for 2 min. Now: Glue the rows.")
	page.look("bench-ring")
	page.click("put-off")
	page.until(`() => !document.querySelector('[data-test="ringing"]')`)
}

// Doubling the type that the browser is set to doubles what the bench says.
func TestTheBenchFollowsTheReadersType(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/bench")
	height := func() float64 { return page.MustElement(test("task-name")).MustShape().Box().Height }
	page.says(test("card"), "Magnolia cone")
	before := height()
	page.MustEval(`() => { document.documentElement.style.fontSize = "187.5%"; }`)
	require.NoError(t, page.MustElement(".bench").WaitStableRAF())
	assert.GreaterOrEqual(t, height(), 1.9*before)
	assert.LessOrEqual(t, page.MustEval(`() => document.documentElement.scrollWidth`).Int(), 1280)
}
