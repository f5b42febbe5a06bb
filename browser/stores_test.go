package browser

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
)

// put writes into a plain field, over what stands there.
func (p tab) put(name, value string) {
	p.MustElement(test(name)).MustSelectAllText().MustInput(value)
}

func TestTheShelfIsCountedAndTakenBack(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/stores")
	page.says(test("stock-Ranunculus core"), "6")
	page.click("take-stock")
	page.put("found-Ranunculus core, Centre white, Tin by the window", "-5")
	page.click("compare")
	page.says(test("stock-taking"), "a count of -5 pieces of Ranunculus core cannot be")
	page.put("found-Ranunculus core, Centre white, Tin by the window", "4")
	page.put("found-Centre white, Centre white, Cool shelf", "38.5")
	page.click("compare")
	page.says(test("stock-taking"), "−2")
	page.says(test("stock-taking"), "−1.5 g")
	page.click("accept-count")
	page.until(`() => !document.querySelector('[data-test="stock-taking"]')`)
	page.says(test("stock-Ranunculus core"), "4")
	page.press(test("stock-Ranunculus core") + " button")
	page.says(test("thing"), "counted")
	page.says(test("thing"), "no longer reserved")
	page.MustReload().MustWaitLoad()
	page.click("journal")
	page.press(latestUndo)
	page.until(`() => document.querySelector('[data-test="stock-Ranunculus core"] td.n').innerText.trim() === "6"`)
}

func TestALotIsDecidedOnAndStaysSo(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/count-up")
	page.click("cell-Magnolia cone-Centre white")
	page.pressNamed(test("working")+" button", "decide")
	page.put("lot-start", "400")
	page.click("lot-start-go")
	page.says(test("working"), "400 to start for a need of")
	page.put("lot-start", "12")
	page.click("lot-start-go")
	page.says(test("working"), "decided")
	page.says(test("working"), "12 to start")
	orders := sit(t, studio, "Odalys", "/orders")
	orders.says(test("proposal"), "what you decided about lots")
	orders.accepts()
	page.MustReload().MustWaitLoad()
	page.says(test("cell-Magnolia cone-Centre white"), "12")
	page.click("cell-Magnolia cone-Centre white")
	page.click("give-back-Ferry crew")
	page.until(`() => !document.querySelector('[data-test="give-back-Ferry crew"]')`)
}

func TestAMixIsWeighedInByTheScaleAndByHand(t *testing.T) {
	at := open(t, t.TempDir())
	defer at.Close()
	page := sit(t, at, "Odalys", "/mixing")
	page.click("weigh-Petal white")
	page.says(test("pour"), "270.2")
	at.Scale.Put(297_200) // a tenth too much
	page.says(test("weigh-in"), "still moving")
	page.until(`() => !document.querySelector('[data-test="take-reading"]').disabled`)
	page.click("take-reading")
	page.says(test("weighed-0"), "297.")
	page.says(test("pour"), "127.4") // 115.8 g, and a tenth of it
	at.Scale.Says("ERR 07")
	page.says(test("scale-says"), "which is no weight")
	page.MustReload().MustWaitLoad()
	page.click("weigh-Petal white")
	page.says(test("weighed-0"), "297.") // nothing was lost
	page.put("typed", "127.4")
	page.click("take-typed")
	page.says(test("weigh-in"), "in the bowl")
	page.click("weigh-book")
	page.until(`() => !document.querySelector('[data-test="weigh-in"]')`)
	page.says(test("mix-Petal white"), "weighed in")
	page.says(test("mix-Petal white"), "127.4") // what was on the scale, not what was planned
	bench := sit(t, at, "Odalys", "/bench")
	bench.says(test("card"), "Petal white")
	bench.click("finish")
	stores := sit(t, at, "Odalys", "/stores")
	stores.says(test("stock-Petal white"), "424.")
}

func TestACuttingIsRecordedWithItsMistake(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Teun", "/wires")
	page.click("record-18 green wire")
	page.put("cut-wires-0", "3")
	page.put("cut-lengths-0", "172 + 200")
	page.click("cut-done")
	page.says(test("cut-record"), "pieces of 372 mm in all are not cut from 360 mm")
	page.put("cut-lengths-0", "172 + 172")
	page.put("cut-spoilt", "1")
	page.click("cut-done")
	page.until(`() => !document.querySelector('[data-test="cut-record"]')`)
	page.says(test("wire-18 green wire"), "6 of 172 mm lie cut")
	page.says(test("wire-18 green wire"), "56 on hand")
	page.MustElement(test("stem-Magnolia"))
	page.click("tape-go")
	page.says(test("tape-answer"), "mm of tape each")
}

func TestWhatIsShortIsOrderedAndBookedInOnce(t *testing.T) {
	at := open(t, t.TempDir())
	defer at.Close()
	page := sit(t, at, "Odalys", "/stores")
	page.click("view-To buy")
	page.says(test("buy-24 white wire"), "to keep some")
	page.click("order-Sailcloth and wire")
	page.click("order-Sailcloth and wire-yes")
	page.says(test("purchase"), "confirmed")
	page.until(`() => !document.querySelector('[data-test="buy-24 white wire"]')`)
	other := sit(t, at, "Teun", "/stores")
	other.click("view-To buy")
	other.MustElement(test("arrived"))
	page.click("arrived")
	page.until(`() => !document.querySelector('[data-test="purchase"]')`)
	page.click("view-Materials")
	page.says(test("material-24 white wire"), "80")
	other.until(`() => !document.querySelector('[data-test="purchase"]')`) // it is gone there too
	page.click("view-Change of mind")
	page.MustElement(test("mind-line")).MustSelect("Ferry crew: 4 × Magnolia")
	page.MustElement(test("mind-colour")).MustSelect("Signal")
	page.click("mind-ask")
	page.says(test("mind-answer"), "serve it as before")
}

// At a bench two people may take the last wires: the second is told.
func TestTwoPeopleTakeTheLastWires(t *testing.T) {
	at := open(t, t.TempDir())
	defer at.Close()
	teun, odalys := sit(t, at, "Teun", "/wires"), sit(t, at, "Odalys", "/wires")
	teun.click("record-20 green wire")
	odalys.click("record-20 green wire")
	teun.put("cut-wires-0", "50")
	odalys.put("cut-wires-0", "30")
	teun.click("cut-done")
	teun.until(`() => !document.querySelector('[data-test="cut-record"]')`)
	odalys.click("cut-done")
	odalys.says(test("cut-record"), "somebody else may have taken some")
	odalys.click("cut-all-the-same")
	odalys.until(`() => !document.querySelector('[data-test="cut-record"]')`)
	odalys.MustNavigate(odalys.url + "/stores").MustWaitLoad()
	odalys.says(".remark", "below nothing")
	var there int64
	doc, _, err := at.Store.Document(
		t.Context(),
		0,
		func(_ studio.Calendar, m *studio.Minute) studio.Minute { return *m },
	)
	require.NoError(t, err)
	for _, m := range doc.Materials {
		if m.ID == demo.ID("20 green wire") {
			there = m.OnHand
		}
	}
	assert.Less(t, there, int64(0))
}

// A colour that the plan has weighed twice on one day becomes one weighing, for all that both were for.
func TestAColourIsWeighedOnceADay(t *testing.T) {
	at := open(t, t.TempDir())
	defer at.Close()
	page := sit(t, at, "Odalys", "/mixing")
	page.MustElement(test("mix-Petal white"))
	require.False(t, page.MustHas(test("together")), "the demo weighs each once")
	page.MustEval(`async () => {
		const get = async (of) => (await fetch("/api/" + of)).json();
		const [mixing, studio] = [await get("mixing"), await get("studio")];
		await fetch("/api/lots/" + mixing.mixes.find((m) => m.name === "Petal white").lot + "/decide", {method: "POST",
			headers: {"Content-Type": "application/json", "Command-ID": crypto.randomUUID(),
				Person: studio.people[0].id},
			body: JSON.stringify({what: "split", into: 2})});
	}`)
	decided := sit(t, at, "Odalys", "/orders")
	decided.accepts()
	page = sit(t, at, "Odalys", "/mixing")
	page.says(test("together"), "Weighed 2 times that day")
	before := len(page.MustElements(test("mix-Petal white")))
	require.Greater(t, before, 1)
	page.click("join-Petal white")
	page.says(test("joined"), "one weighing once the proposal is accepted")
	orders := sit(t, at, "Odalys", "/orders")
	orders.accepts()
	again := sit(t, at, "Odalys", "/mixing")
	again.MustElement(test("mix-Petal white"))
	again.until(
		`(before) => document.querySelectorAll('[data-test="mix-Petal white"]').length === before - 1`,
		before,
	)
	assert.False(t, again.MustHas(test("join-Petal white")))
}
