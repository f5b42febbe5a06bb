package browser

import (
	"strconv"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

func TestAnOrderIsCancelledAndTakenBack(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.click("open-Lighthouse")
	page.click("cancel-order")
	page.click("cancel-order-yes")
	page.says(test("order-Lighthouse"), "cancelled, awaits acceptance")
	page.says(test("proposal"), "is no longer made")
	page.click("journal")
	page.press(latestUndo)
	page.until(`() => !document.querySelector('[data-test="proposal"]')`)
	page.says(test("order-Lighthouse"), "slack")
}

// What is over leaves the lists, and is found again by its words and its days.
func TestWhatIsOverIsFoundAgain(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.click("open-Lighthouse")
	page.click("cancel-order")
	page.click("cancel-order-yes")
	page.accepts()
	page.until(`() => !document.querySelector('[data-test="order-Lighthouse"]')`)
	page.press(test("past-orders") + " summary")
	page.says(test("past-Lighthouse"), "cancelled")
	page.search("past-text", "no such supper")
	page.says(test("past-none"), "Nothing like this")
	page.search("past-text", "lighth")
	page.says(test("past-Lighthouse"), "Ranunculus")
	page.look("past-orders")
	page.click("journal")
	page.says(".journal", "opened")
	page.search("journal-text", "cancelled")
	page.until(`() => document.querySelectorAll(".journal li").length === 1`)
	page.says(".journal li", "Lighthouse")
	page.look("journal")
	page.search("journal-to", "2027-09-01")
	page.says(test("journal-none"), "Nothing like this")
}

func TestAnOrderIsChangedAndSeenBeforeItIsAccepted(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.click("open-Choir")
	page.fill("quantity-0", "18")
	page.choose("colourway-0", "Signal")
	page.click("save-order")
	page.says(test("order-Choir"), "18")
	page.says(test("proposal"), "Choir")
	count := sit(t, studio, "Odalys", "/count-up")
	count.says(test("cell-Ranunculus-Ferry blush"), "9 needed")
	page.accepts()
	count.says(test("cell-Ranunculus-Signal red"), "23 needed")
}

func TestAQuoteIsKeptButNotMade(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	enter(page, "Shop window", "2027-10-11T10:00", [3]string{"40", "Waxflower stem", "Signal"})
	page.choose("state", "a quote only")
	page.click("save-order")
	page.says(test("order-Shop window"), "quote only")
	assert.False(t, page.MustHas(test("proposal")), "a quote moves nothing")
}

func TestTheMatrixIsWalkedByArrowKeys(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/count-up")
	page.MustElement(test("cell-Eucalyptus leaf-Slate leaf")).MustFocus()
	focused := func() string { return page.MustEval(`() => document.activeElement.dataset.test ?? ""`).Str() }
	page.Keyboard.MustType(input.ArrowRight)
	assert.Equal(t, "cell-Eucalyptus sprig-Slate leaf", focused())
	page.Keyboard.MustType(input.ArrowDown)
	assert.Regexp(t, "^cell-Magnolia", focused())
	page.Keyboard.MustType(input.ArrowUp)
	assert.Equal(t, "cell-Eucalyptus sprig-Slate leaf", focused())
	page.Keyboard.MustType(input.Enter)
	page.says(test("working"), "Spares are a share of what is needed")
	page.Keyboard.MustType(input.Escape)
	page.until(`() => !document.querySelector('[data-test="working"]')`)
}

func TestMixingWeighsWhatTheMatrixNeeds(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/mixing")
	page.says(test("mix-Slate leaf"), "8 parts")
	page.says(test("mix-Slate leaf"), "0.9 g in 100 g")
	total := strings.Fields(page.text("total-Slate leaf"))[0]
	grams, err := strconv.ParseFloat(total, 64)
	require.NoError(t, err)
	var sum float64
	for _, cell := range page.MustElement(test("mix-Slate leaf")).MustElements("td b") {
		weight, err := strconv.ParseFloat(cell.MustText(), 64)
		require.NoError(t, err)
		sum += weight
	}
	assert.InDelta(t, grams*1.013, sum, 0.1, "the blend, and 1.3 g of colours in 100 g on top")
}

func TestWiresAreDrawnToScale(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/wires")
	page.says(test("wire-24 white wire"), "104 mm")
	page.says(test("wire-24 white wire"), "at the very least")
	widths := page.MustEval(`() => [...document.querySelectorAll('[data-test="wire-18 green wire"] .patterns svg')[0].querySelectorAll(".piece")].map((r) => r.width.baseVal.value)`).
		Arr()
	require.Len(t, widths, 2)
	assert.InDelta(t, 390.0*172/360, widths[0].Num()+2, 0.5)
}

func TestLightingUpAnOrderDimsTheOthers(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/plan")
	page.MustElement("[data-block]")
	require.False(t, page.MustHas(".block.dim"))
	page.pressNamed(".pick", "Ferry crew")
	page.MustElement(".block.dim")
	assert.NotEmpty(t, page.MustElements(".block:not(.dim)"))
	page.pressNamed(".pick", "Ferry crew")
	page.until(`() => !document.querySelector(".block.dim")`)
}

func TestAPauseKeepsWhatWasCountedAndReloadsToo(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	mixAll(t, studio, 3)
	teun := sit(t, studio, "Teun", "/bench")
	teun.click("start")
	teun.MustElement(test("finish"))
	many, err := strconv.Atoi(teun.MustElement(test("count-good")).MustProperty("value").Str())
	require.NoError(t, err)
	teun.click("more-broken")
	teun.click("pause")
	teun.says(test("start"), "Go on")
	teun.MustReload().MustWaitLoad()
	teun.says(test("start"), "Go on")
	teun.says(test("card"), strconv.Itoa(many-1))
	teun.click("start")
	teun.MustElement(test("finish"))
	assert.Equal(t, strconv.Itoa(many-1), teun.MustElement(test("count-good")).MustProperty("value").Str())
	teun.MustElement(test("count-good")).MustSelectAllText().MustInput("3").MustType(input.Tab)
	teun.says(".counters", "3 counted, "+strconv.Itoa(many-1)+" are here")
	assert.True(t, teun.MustElement(test("finish")).MustProperty("disabled").Bool())
}

// Blossoms that snap as they are taped are said beside the stems, taken off the shelf, and told in the journal.
func TestWhatBreaksAsItIsTakenUpIsCountedAtTheBench(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Maren", "/stores")
	page.says(test("stock-Waxflower blossom"), "34")
	begun, err := page.Page.Eval(`async (stem, person, blossom, oyster) => {
		const send = (path, body) => fetch("/api" + path, { method: "POST", body: JSON.stringify(body),
			headers: { "Content-Type": "application/json", "Command-Id": crypto.randomUUID(), Person: person } });
		await send("/stores/stock", { recipe: blossom, colourway: oyster, quality: "good", madeOn: 0,
			amount: { value: 60, unit: "pieces" } });
		const { blocks } = await (await fetch("/api/plan?days=14", { headers: { Prefer: "wait=10" } })).json();
		for (const task of blocks.filter((b) => b.of === stem && b.person))
			if ((await send("/tasks/" + task.id + "/start", {})).ok) return true;
	}`, "Waxflower stem", demo.ID("Maren"), demo.ID("Waxflower blossom"), demo.ID("Oyster"))
	require.NoError(t, err)
	require.True(t, begun.Value.Bool())
	maren := sit(t, studio, "Maren", "/bench")
	maren.says(test("card"), "Waxflower stem")
	maren.says(test("eyes"), "Waxflower blossom that broke")
	maren.look("bench-eyes")
	maren.MustElement(test("count-broke-0")).MustSelectAllText().MustInput("400").MustType(input.Tab)
	maren.click("finish")
	maren.says(".counters", "400 are said to have broken as they were taken up")
	maren.MustElement(test("count-broke-0")).MustSelectAllText().MustInput("1").MustType(input.Tab)
	maren.click("more-broke-0")
	maren.click("finish")
	maren.says(test("said"), "done")
	journal, err := page.Page.Eval(`async () => (await (await fetch("/api/journal")).text())`)
	require.NoError(t, err)
	assert.Contains(t, journal.Value.Str(), "2 Waxflower blossom broke on the way")
}

func TestTouchOverrulesTheClockAtTheBench(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	mixAll(t, studio, 0) // nothing has rested yet
	page := sit(t, studio, "Teun", "/bench")
	page.says(test("card"), "Magnolia cone") // of foam: it waits for nothing
	page.click("start")
	page.click("finish")
	page.until(`() => {
		const card = document.querySelector('[data-test="card"]');
		return !!card && !card.innerText.includes("Magnolia cone") && !!document.querySelector("[data-test=\"start\"]");
	}`) // whatever comes next is of paste that rests
	page.click("start")
	page.says(".counters", "touch it, and say so if it is ready now")
	page.click("ready")
	page.MustElement(test("finish"))
}

func TestTheBenchFitsATabletAndAPhone(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/bench")
	for _, size := range [][2]int{{1024, 768}, {390, 844}} {
		page.MustSetViewport(size[0], size[1], 1, true)
		page.MustElement(test("start"))
		require.NoError(t, page.MustElement(".bench").WaitStableRAF())
		assert.LessOrEqual(
			t,
			page.MustEval(`() => document.querySelector(".bench").getBoundingClientRect().right`).Int(),
			size[0],
		)
		for _, button := range page.MustElements(".counters button") {
			assert.GreaterOrEqual(t, button.MustShape().Box().Height, 56.0, "large enough for floury fingers")
		}
	}
}

// The order arrives, its answer is lost, the lead saves again: it is entered once.
func TestAnOrderWhoseAnswerWasLostIsEnteredOnce(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	lost := false
	router := page.HijackRequests()
	router.MustAdd("*/api/orders", func(h *rod.Hijack) {
		if h.Request.Method() != "POST" || lost {
			h.ContinueRequest(&proto.FetchContinueRequest{})
			return
		}
		lost = true
		h.MustLoadResponse()
		h.Response.Fail(proto.NetworkErrorReasonConnectionReset)
	})
	go router.Run()
	defer router.MustStop()
	before, _, _, err := studio.Store.LastN(t.Context())
	require.NoError(t, err)
	enter(page, "Christening", "2027-10-11T10:00", [3]string{"6", "Waxflower stem", "Signal"})
	page.click("save-order")
	page.says(test("order-form"), "Bractum does not answer")
	page.click("save-order")
	page.until(`() => !document.querySelector('[data-test="order-form"]')`)
	page.MustElement(test("order-Christening"))
	assert.Len(t, page.MustElements(test("order-Christening")), 1)
	n, _, _, err := studio.Store.LastN(t.Context())
	require.NoError(t, err)
	assert.EqualValues(t, before+1, n, "one line of the journal")
}

// A list of orders comes in from a spreadsheet, and awaits acceptance as any order does.
func TestOrdersComeFromASpreadsheet(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.click("open-order-table")
	page.MustElement(test("orders-text")).MustInput("order\tleaves\thow many\tflower\tcolours\n" +
		"Regatta supper\t2027-10-12 10:00\t3\tPeony\tOyster")
	page.says(test("orders-rows"), "“Peony” is not in the flower book")
	page.MustElement(test("orders-text")).MustSelectAllText().MustInput("order\tleaves\thow many\tflower\tcolours\n" +
		"Regatta supper\t2027-10-12 10:00\t3\tMagnolia\tOyster\n\t\t2\tEucalyptus sprig\tOyster\n" +
		"Slipway lunch\t2027-10-14 10:00\t1\tMagnolia\tSignal")
	page.click("orders-look")
	page.says(test("orders-rows"), "Slipway lunch: new")
	page.look("orders-table")
	page.click("orders-take")
	page.says(test("order-Regatta supper"), "Regatta supper")
	page.says(test("order-Slipway lunch"), "Slipway lunch")
	page.says(test("proposal"), "Slipway lunch")
}
