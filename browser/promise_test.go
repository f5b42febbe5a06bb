package browser

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// enters presses what enters an order until the page has gone to the orders: a press can be lost while the answer
// beside it is drawn anew.
func (p tab) enters(by string) {
	p.t.Helper()
	for until := time.Now().Add(said); time.Now().Before(until); {
		p.click(by)
		if p.Timeout(10*time.Second).Wait(rod.Eval(`() => location.pathname === "/orders"`)) == nil {
			return
		}
	}
	require.Fail(p.t, "not entered", p.MustElement("body").MustText())
}

// asks types an order into the promise check.
func asks(p tab, leaves string, lines ...[3]string) {
	for i, line := range lines {
		at := string(rune('0' + i))
		if i > 0 {
			p.click("add-line")
		}
		p.fill("quantity-"+at, line[0])
		p.choose("flower-"+at, line[1])
		p.choose("colourway-"+at, line[2])
	}
	p.setDate(leaves)
}

// Somebody rings: too many by then; the date that is named, and the number by then, are a yes; what is promised is
// entered with the plan that it was answered by.
func TestAnOrderIsAskedForAndPromised(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/promise")
	asks(page, "2027-09-29T10:00", [3]string{"30", "Magnolia", "Oyster"}, [3]string{"6", "Waxflower stem", "Signal"})
	page.says(test("promise-says"), "Not by then: ")
	page.look("promise-not")

	page.click("take-fewer")
	page.until(`() => ["yes", "if"].includes(document.querySelector('[data-test="promise"]').dataset.verdict)`)
	assert.Less(t, len(page.MustElement(`input[name="quantity-0"]`).MustProperty("value").Str()), 2)
	page.fill("quantity-0", "30")
	page.until(`() => !!document.querySelector('[data-test="take-later"]')`)
	page.click("take-later")
	page.until(`() => ["yes", "if"].includes(document.querySelector('[data-test="promise"]').dataset.verdict)`)
	page.look("promise-if")

	page.fill("name", "Regatta")
	page.enters("promise-it")
	page.says(test("order-Regatta"), "awaits acceptance")
	assert.NotContains(t, page.text("order-Regatta"), " late")
	page.look("promise-entered")
	page.accepts()
	assert.NotContains(t, page.text("order-Regatta"), " late")
}

// A quote is kept with the day until which it holds, and says what has changed when it is made an order.
func TestAQuoteSaysWhatHasChanged(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/promise")
	asks(page, "2027-10-08T10:00", [3]string{"6", "Magnolia", "Oyster"})
	page.fill("name", "Regatta")
	page.until(`() => ["yes", "if"].includes(document.querySelector('[data-test="promise"]').dataset.verdict)`)
	page.enters("keep-quote")
	page.says(test("order-Regatta"), "quote only")

	page.MustNavigate(studio.URL + "/promise").MustWaitLoad()
	page.click("quote-Regatta")
	page.says(test("quote-changed"), "Nothing has changed since.")
	tell(t, studio.URL, "/api/clock", `{"by":"morning"}`)
	for range 8 {
		tell(t, studio.URL, "/api/clock", `{"by":"morning"}`)
	}
	page.MustNavigate(studio.URL + "/promise").MustWaitLoad()
	page.click("quote-Regatta")
	page.says(test("quote-changed"), "It held until")
	page.look("quote-changed")
	page.enters("promise-it")
	page.says(test("order-Regatta"), "awaits acceptance")
	assert.False(t, strings.Contains(page.text("order-Regatta"), "quote only"))

	for _, name := range []string{"Harvest", "Christening"} {
		page.MustNavigate(studio.URL + "/promise?leaves=2027-10-16T10:00&of=4|Cosmos|Oyster").MustWaitLoad()
		page.fill("name", name)
		page.until(`() => !!document.querySelector('[data-test="promise"]').dataset.verdict`)
		page.enters("keep-quote")
		page.says(test("order-"+name), "quote only")
	}
	page.MustNavigate(studio.URL + "/promise").MustWaitLoad()
	page.click("weigh-Harvest")
	page.click("weigh-Christening")
	page.click("weigh")
	page.says(test("weighed"), "Harvest")
	page.look("weighed")
}

// What is too much for the places is a yes with more of them: it is entered with them, and one touch takes both back.
func TestWhatHelpsAnOrderIsDoneWithIt(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/promise")
	asks(page, "2027-09-25T12:00", [3]string{"12", "Gardenia", "Oyster"})
	page.fill("name", "Regatta")
	page.until(`() => document.querySelector('[data-test="promise"]').dataset.verdict === "not"`)
	page.click("find-fixes")
	page.says(test("fix-0"), "in time, with")
	page.look("promise-fixes")
	page.click("take-fix-0")
	page.says(test("order-Regatta"), "awaits acceptance")
	assert.NotContains(t, page.text("order-Regatta"), " late")
	page.look("promise-fixed")
}

// How sure each order is stands beside it once somebody asks, with when it may be ready.
func TestHowSureAnOrderIs(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.click("how-sure")
	page.says(test("chance-Ferry crew"), "times of 100")
	page.until(`() => document.querySelectorAll('[data-test="chance-Ferry crew"] circle').length > 0`)
	page.look("chances")

	asking := sit(t, studio, "Odalys", "/promise")
	asks(asking, "2027-10-06T10:00", [3]string{"3", "Waxflower stem", "Signal"})
	asking.says(test("promise-chance"), "times of 100")
	asking.look("promise-yes")
}
