package browser

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A maker goes round and touches; what one tablet records, another shows within a second.
func TestGoingRoundTheDryingRoom(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Maren", "/drying")
	other := sit(t, studio, "Teun", "/drying")
	petals := test("lying-Magnolia inner petal")
	page.says(petals, "by the clock: touch it")
	other.says(petals, "by the clock")
	page.press(petals + " " + test("found-dry"))
	page.says(test("said"), "Magnolia inner petal: dry")
	other.until(
		`() => document.querySelector('[data-test="lying-Magnolia inner petal"]').innerText.includes("found by touch")`,
	)

	other.press(petals + " " + test("found-soft"))
	other.MustElementR("[role=alert]", "Maren found them dry before")
	other.click("surely")
	other.says(petals, "Teun")
	page.until(
		`() => !document.querySelector('[data-test="lying-Magnolia inner petal"]').innerText.includes("found by touch")`,
	)
	page.look("drying-room")

	leaves := test("lying-Eucalyptus leaf")
	page.press(leaves + " .what")
	page.says(test("tray"), "eight by")
	page.click("print-label")
	page.says(test("tray"), "printed")
	require.Len(t, studio.Labels.Printed(), 1)
	studio.Labels.RunOut(true)
	page.click("print-label")
	page.MustElementR(test("tray")+" [role=alert]", "The label printer does not print")
	page.MustElement(test("put-to")).MustSelect("Cupboard shelf (4 free)")
	page.MustElement(test("tray") + ` input.number`).MustSelectAllText().MustInput("9")
	page.click("put")
	page.MustElementR(test("tray")+" [role=alert]", "no room")
	page.click("put-surely")
	page.until(
		`() => [...document.querySelectorAll(".shelf")].some((s) => s.innerText.includes("Cupboard shelf") && s.innerText.includes("Eucalyptus leaf"))`,
	)
	page.click("journal")
	page.press(latestUndo)
	page.until(
		`() => [...document.querySelectorAll(".shelf")].some((s) => s.innerText.includes("Wavy foam") && s.innerText.includes("Eucalyptus leaf"))`,
	)
}

func TestTheLeadSaysWhatTheAirWillBe(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/drying")
	page.says(test("air"), "loft")
	page.MustElement(test("feels")).MustSelect("very damp")
	page.click("say")
	page.says(test("air"), "Very damp until")
	page.click("journal")
	page.says("body", "Said of the air: Very damp until")
	page.MustNavigate(studio.URL + "/drying").MustWaitLoad()
	page.click("unsay")
	page.MustElement(test("say"))

	page.MustElement(`input[aria-label="What the timer is for"]`).MustInput("Lace in the oven")
	page.click("start-timer")
	page.says(test("timers"), "Lace in the oven")
	advance(page, "hour") // the stand-in follows the clock
	page.says(test("timers"), "rings")
	bench := sit(t, studio, "Odalys", "/bench")
	bench.says(test("rings"), "Lace in the oven")
	page.until(`() => document.querySelector('[data-test="air"]').innerText.includes("heard 09:")`)
}

func TestWhatWasRecordedIsAcceptedOrKept(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/log")
	class, pace := test("proposal-class-Thin petal paste"), test("proposal-pace-Teun-wiring")
	page.says(class, "5 h → ")
	page.press(class + " " + test("ask"))
	page.says(class, "move")
	page.look("log")
	page.press(class + " " + test("accept"))
	page.until(`() => !document.querySelector('[data-test="proposal-class-Thin petal paste"]')`)
	page.press(pace + " " + test("refuse"))
	page.until(`() => !document.querySelector('[data-test="proposal-pace-Teun-wiring"]')`)
	page.click("log-pace")
	page.MustElementR("tr", "Teun, wiring.*kept by choice")
	page.MustReload().MustWaitLoad()
	page.says("h1", "Log")
	assert.False(t, page.MustHas(pace), "it does not come back")
}
