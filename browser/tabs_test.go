package browser

import (
	"fmt"
	"net/http"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// A browser opens six connections to one place and no more: pages that were left, and tabs
// that are open beside each other, hold none of them for good.
func TestTwentyLoadsAndTenTabsAllAnswer(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	paths := []string{"/orders", "/plan", "/bench", "/stores"}
	for n := range 20 {
		page.leaveFor(studio.URL + paths[n%len(paths)])
		if n%5 == 4 {
			require.Eventually(t, func() bool { return page.Reload() == nil }, said, 20*time.Millisecond)
		}
	}
	page.goBack()
	page.leaveFor(studio.URL + "/orders")
	page.says("[data-test^='order-']", "Lighthouse")

	window := page.Browser().BrowserContextID
	tabs := []*rod.Page{}
	for n := range 10 {
		beside := page.Browser().MustPage(studio.URL + paths[n%len(paths)]).Timeout(patience).Sleeper(often)
		require.Equal(t, window, beside.Browser().BrowserContextID)
		tabs = append(tabs, beside)
	}
	for _, beside := range tabs {
		beside.MustElement(test("clock"))
	}
	tell(t, studio.URL, "/api/clock", `{"by":"hour"}`)
	for _, beside := range tabs { // whichever of them has the stream
		beside.MustActivate()
		beside.MustWait(`() => document.querySelector('[data-test="clock"]').innerText.includes("09:30")`)
	}
	page.MustActivate()
	page.says(test("clock"), "09:30")
}

// What was asked for before something happened, and comes after, is asked for once more.
func TestAnAnswerThatWasUnderWayIsAskedForAgain(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/book")
	page.MustElement(test("page-Dahlia"))
	answered, goOn := make(chan struct{}), make(chan struct{})
	router := page.HijackRequests()
	var asked atomic.Bool
	router.MustAdd("*/api/orders", func(h *rod.Hijack) {
		if h.LoadResponse(http.DefaultClient, true) != nil {
			return // the page is gone
		}
		if !asked.Swap(true) {
			close(answered)
			<-goOn
		}
	})
	go router.Run()
	defer router.MustStop()
	page.pressNamed("nav a", "Orders")
	<-answered
	tell(t, studio.URL, "/api/orders", fmt.Sprintf(`{"name":"Harvest supper","occasion":"","leaves":"2027-10-04T10:00",
		"leaving":"collected","lines":[{"recipe":%q,"colourway":%q,"quantity":3}]}`,
		demo.ID("Magnolia"), demo.ID("Oyster")))
	tell(t, studio.URL, "/api/clock", `{"by":"hour"}`)
	page.says(test("clock"), "09:30")
	close(goOn)
	page.says("[data-test^='order-']", "Harvest supper")
}

// leaveFor goes to another page, whether the one before has come or not: one that has not is
// given up by the browser, which may say so of the next.
func (p tab) leaveFor(url string) {
	p.t.Helper()
	require.Eventually(p.t, func() bool { return p.Navigate(url) == nil }, said, 20*time.Millisecond)
}

// goBack has the browser go back to the page before, and waits until it says that it is there.
// No script of the page is asked to, which is gone before it can answer.
func (p tab) goBack() {
	p.t.Helper()
	var before int
	require.Eventually(p.t, func() bool { // while one page takes another's place there is none
		at, err := proto.PageGetNavigationHistory{}.Call(p)
		if err != nil || at.CurrentIndex == 0 {
			return false
		}
		before = at.Entries[at.CurrentIndex-1].ID
		return proto.PageNavigateToHistoryEntry{EntryID: before}.Call(p) == nil
	}, said, 20*time.Millisecond)
	require.Eventually(p.t, func() bool { // a page that was just leaving may have taken the asking with it
		at, err := proto.PageGetNavigationHistory{}.Call(p)
		if err == nil && at.Entries[at.CurrentIndex].ID == before {
			return true
		}
		_ = proto.PageNavigateToHistoryEntry{EntryID: before}.Call(p)
		return false
	}, said, 500*time.Millisecond)
}

// tell sends a command as another program would.
func tell(t *testing.T, url, path, body string) {
	t.Helper()
	request, err := http.NewRequest("POST", url+path, strings.NewReader(body))
	require.NoError(t, err)
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Command-Id", string(demo.ID(body+time.Now().String())))
	request.Header.Set("Person", string(demo.ID("Odalys")))
	answer, err := http.DefaultClient.Do(request)
	require.NoError(t, err)
	require.Equal(t, 200, answer.StatusCode)
	require.NoError(t, answer.Body.Close())
}

// Where nothing is told live, the page asks, says so, and shows what happens all the same.
func TestWithoutAStreamThePageAsks(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.MustEvalOnNewDocument(`window.EventSource = class extends EventTarget { readyState = 0; close() {} };
		const timer = setInterval; window.setInterval = (run, each) => timer(run, Math.min(each, 300));
		const now = Date.now; let ahead = 0; timer(() => ahead += 60000, 200); Date.now = () => now() + ahead;`)
	page.MustNavigate(studio.URL + "/orders")
	page.says("[role=status]", "asks now and then")
	tell(t, studio.URL, "/api/clock", `{"by":"hour"}`)
	page.says(test("clock"), "09:30")
}

// A figure with a comma is what its typist means, and one that is none is marked and refused:
// never another figure.
func TestFiguresAreNeverRepaired(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.click("new-order")
	page.fill("name", "Supper")
	page.fill("leaves", "2027-10-04T10:00")
	page.choose("flower-0", "Magnolia")
	page.choose("colourway-0", "Oyster")
	for _, wrong := range []string{"2.5", "abc"} {
		page.fill("quantity-0", wrong)
		page.click("save-order")
		page.until(
			`() => [...document.querySelectorAll('[data-test="order-form"] .v-messages__message, [data-test="order-form"] [role=alert]')].some((e) => /integer|number/.test(e.innerText))`,
		)
	}
	page.MustNavigate(studio.URL + "/stores")
	page.click("take-stock")
	page.put("found-Centre white, Centre white, Cool shelf", "35,5")
	page.click("compare")
	page.says(test("stock-taking"), "35.5 g")
}
