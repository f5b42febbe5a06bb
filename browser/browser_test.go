package browser

import (
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/go-rod/rod/lib/utils"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/browser/drive"
	"bractum/demo"
)

var chromium *rod.Browser

// TestMain launches the one Chromium that all tests share.
func TestMain(m *testing.M) {
	profile, err := os.MkdirTemp("", "bractum-profile")
	if err != nil {
		panic(err)
	}
	if chromium, err = drive.Browser(profile); err != nil {
		panic("the browser tests need Debian's chromium-headless-shell (make test installs it): " + err.Error())
	}
	code := m.Run()
	_ = chromium.Close()
	_ = os.RemoveAll(profile)
	os.Exit(code)
}

func open(t *testing.T, folder string) *drive.Studio {
	beside(t)
	studio, err := drive.Open(folder)
	require.NoError(t, err)
	return studio
}

// beside lets a test run beside others: each has a studio and windows of its own, and mostly waits.
func beside(t *testing.T) {
	if _, is := besides.LoadOrStore(t.Name(), true); !is {
		t.Parallel()
	}
}

var besides sync.Map // tests that run beside others, by name

// tab is a page of one person in a browser window of their own.
type tab struct {
	*rod.Page
	t   *testing.T
	url string
}

// said and patience are for how long something may take to come, and a whole test, before
// it is taken not to come: a slow machine beside others is not a failure.
const (
	said     = time.Minute
	patience = 5 * time.Minute
)

// often is how often a page is looked at while something is waited for.
func often() utils.Sleeper {
	return utils.BackoffSleeper(20*time.Millisecond, 100*time.Millisecond, nil)
}

func sit(t *testing.T, studio *drive.Studio, name, path string) tab {
	window := chromium.MustIncognito()
	page := window.MustPage().Timeout(patience).Sleeper(often)
	t.Cleanup(func() { _ = page.CancelTimeout().Close() })
	page.MustSetViewport(1280, 800, 1, false)
	if name != "" {
		page.MustEvalOnNewDocument(drive.Sits(name))
	}
	page.MustNavigate(studio.URL + path).MustWaitLoad()
	return tab{page, t, studio.URL}
}

// search looks for something in a history, as typed and left.
func (p tab) search(name, value string) {
	p.MustElement(test(name)).
		MustEval(`(v) => { this.value = v; this.dispatchEvent(new Event("change", { bubbles: true })) }`, value)
}

// latestUndo takes back the latest line of the journal.
const latestUndo = `[data-test^="undo-"]`

func test(name string) string { return `[data-test="` + name + `"]` }

// click waits until something takes the pointer: while a dialog opens, or an answer is
// on its way, a button does not, and what comes in above it moves it or puts another there.
func (p tab) click(name string) { p.press(test(name)) }

func (p tab) press(selector string) {
	p.t.Helper()
	p.pressed(selector, func() (*rod.Element, error) { return p.Timeout(said).Element(selector) })
}

// opens presses something until what it opens is there: a page that is drawn anew meanwhile takes no press.
func (p tab) opens(selector, opened string) {
	p.t.Helper()
	for by := time.Now().Add(said); time.Now().Before(by); {
		p.press(selector)
		if _, err := p.Timeout(2 * time.Second).Element(opened); err == nil {
			return
		}
	}
	require.Failf(p.t, "did not open", "%s by %s", opened, selector)
}

// pressNamed clicks what has certain words on it.
func (p tab) pressNamed(selector, words string) {
	p.t.Helper()
	p.pressed(words, func() (*rod.Element, error) { return p.Timeout(said).ElementR(selector, words) })
}

func (p tab) pressed(what string, find func() (*rod.Element, error)) {
	p.t.Helper()
	err := drive.Press(find, said)
	require.NoError(p.t, err, what)
}

// accepts puts the proposed plan in force: once more where a better one was found meanwhile, which is to be looked at
// first.
func (p tab) accepts() {
	p.t.Helper()
	gone := `() => !document.querySelector('[data-test="accept"]')`
	for by := time.Now().Add(said); time.Now().Before(by); {
		p.click("accept")
		if p.Timeout(5*time.Second).Wait(rod.Eval(gone)) == nil {
			return
		}
	}
	require.Fail(p.t, "not accepted", p.MustElement("body").MustText())
}

// saves saves the order that is open: once more where a press was lost while the page was drawn anew.
func (p tab) saves() {
	p.t.Helper()
	gone := `() => !document.querySelector('[data-test="order-form"]')`
	for by := time.Now().Add(said); time.Now().Before(by); {
		p.click("save-order")
		if p.Timeout(10*time.Second).Wait(rod.Eval(gone)) == nil {
			return
		}
	}
	require.Fail(p.t, "not saved", p.MustElement("body").MustText())
}

func (p tab) text(name string) string { return p.MustElement(test(name)).MustText() }

func (p tab) fill(name, value string) {
	field := p.MustElement(`input[name="` + name + `"]`)
	field.MustSelectAllText().MustInput(value)
}

// choose picks an entry of a list by its words.
func (p tab) choose(name, entry string) {
	p.press(test(name) + " .v-field")
	p.pressNamed(".v-overlay--active .v-list-item", entry)
	p.until(`() => !document.querySelector(".v-overlay--active .v-list-item")`)
}

// until waits for something to be true of the page. What is not there yet, or goes while it is looked at, is no
// failure before the time is up.
func (p tab) until(is string, args ...any) {
	p.t.Helper()
	var err error
	for by, wait := time.Now().Add(said), often(); time.Now().Before(by); {
		var answer *proto.RuntimeRemoteObject
		if answer, err = p.Page.Eval(is, args...); err == nil && answer.Value.Bool() {
			return
		}
		require.NoError(p.t, wait(p.GetContext()))
	}
	require.Failf(p.t, "never true", "%s %v: %v\n%s", is, args, err, p.MustElement("body").MustText())
}

// says waits until an element's text contains a phrase.
func (p tab) says(selector, phrase string) {
	p.t.Helper()
	p.until(`(s, phrase) => [...document.querySelectorAll(s)].some((e) => e.innerText.includes(phrase))`,
		selector, phrase)
}

// look keeps a picture when BRACTUM_LOOK names a folder.
func (p tab) look(name string) {
	if folder := os.Getenv("BRACTUM_LOOK"); folder != "" {
		time.Sleep(400 * time.Millisecond)
		p.MustScreenshot(filepath.Join(folder, name+".png"))
	}
}

func enter(p tab, name, leaves string, lines ...[3]string) {
	p.click("new-order")
	p.fill("name", name)
	p.setDate(leaves)
	for i, line := range lines {
		at := string(rune('0' + i))
		if i > 0 {
			p.click("add-line")
		}
		p.fill("quantity-"+at, line[0])
		p.choose("flower-"+at, line[1])
		p.choose("colourway-"+at, line[2])
	}
}

func (p tab) setDate(leaves string) {
	p.MustElement(`input[name="leaves"]`).
		MustEval(`(v) => { this.value = v; this.dispatchEvent(new Event("input", { bubbles: true })) }`, leaves)
}

func TestFromAnOrderWithMistakesToAnAcceptedPlanThatARestartKeeps(t *testing.T) {
	folder := t.TempDir()
	studio := open(t, folder)
	page := sit(t, studio, "", "/orders")
	page.says(test("new-order"), "Say who is here first")
	page.click("who")
	page.click("sit-Odalys")
	page.says(test("new-order"), "Enter an order")

	enter(page, "Harvest supper", "2027-09-01T10:00", [3]string{"-3", "Magnolia", "Oyster"})
	page.click("save-order")
	page.says(test("order-form"), "an order leaves after now")
	page.says(test("order-form"), "from 1 to 5000 would be right")
	page.look("order-form-flaws")
	page.setDate("2027-10-04T10:00")
	page.fill("quantity-0", "12")
	page.click("add-line")
	page.fill("quantity-1", "12")
	page.choose("flower-1", "Waxflower stem")
	page.choose("colourway-1", "Signal")
	page.click("save-order")
	page.says(test("proposal"), "Harvest supper")
	page.says(test("order-Harvest supper"), "awaits acceptance")
	page.look("proposal")

	count := sit(t, studio, "Odalys", "/count-up")
	before := count.MustElement(test("cell-Magnolia-Oyster ivory")).MustText()
	page.accepts()
	count.until(
		`(before) => document.querySelector('[data-test="cell-Magnolia-Oyster ivory"]').innerText !== before`,
		before,
	)
	count.says(test("cell-Magnolia-Oyster ivory"), "22 needed")
	require.NoError(t, studio.Close())

	again := open(t, folder)
	defer again.Close()
	kept := sit(t, again, "Odalys", "/orders")
	kept.says(test("order-Harvest supper"), "Magnolia")
	assert.False(t, kept.MustHas(test("proposal")))
}

func TestAnOrderThatCannotBeMetIsSavedAndSaysWhenItCould(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	enter(page, "Too soon", "2027-09-22T10:00", [3]string{"30", "Magnolia", "Signal"})
	page.click("save-order")
	page.says(test("order-Too soon"), "late")
	page.says(test("order-Too soon"), "at the earliest")
	page.says(test("order-Too soon"), "Hangs on")
	page.look("late-order")
}

func TestEveryFigureOpensItsWorking(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/count-up")
	cell := page.MustElement(test("cell-Magnolia outer petal-Oyster ivory"))
	figure := cell.MustElement(".figure").MustText()
	cell.MustClick()
	page.says(test("working"), figure+" to start")
	page.says(test("working"), "expected to break")
	page.says(test("working"), "short once in")
	page.says(test("working"), "Ferry crew")

	mixing := sit(t, studio, "Odalys", "/mixing")
	mixing.click("total-Oyster ivory")
	mixing.says(test("working"), "78 × 50 × 0.9 mm × 0.76 × 1.4 g/cm³")
	mixing.says(test("working"), "one working sheet")
	mixing.look("mixing-working")
}

// mixAll has Odalys do all her mixings, and the clock move on by some hours.
func mixAll(t *testing.T, studio *drive.Studio, hours int) {
	page := sit(t, studio, "", "/orders")
	require.NoError(t, drive.MixAll(page.Page, hours))
}

func advance(p tab, by string) {
	was := p.text("clock")
	p.click("move-clock")
	p.click("clock-" + by)
	p.until(`(was) => document.querySelector('[data-test="clock"]').innerText !== was`, was)
}

func TestBreakageBeyondTheSparesMakesANewLotAndCanBeTakenBack(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	mixAll(t, studio, 3)
	teun := sit(t, studio, "Teun", "/bench")
	if strings.Contains(teun.MustElement(test("card")).MustText(), "Magnolia cone") { // of foam: it may come first
		teun.click("start")
		teun.click("finish")
	}
	teun.says(test("card"), "Roll over a ridge")
	teun.click("start")
	teun.MustElement(test("count-broken")).MustSelectAllText().MustInput("4").MustType(input.Tab)
	teun.click("finish")
	teun.says(test("said"), "counted up again as a new lot")
	teun.look("bench-short")
	teun.pressNamed("button", "Take it back")
	teun.MustElement(test("finish"))
	teun.says(test("card"), "Roll over a ridge")
}

func TestTwoPeopleChangeOneOrder(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	first, second := sit(t, studio, "Odalys", "/orders"), sit(t, studio, "Maren", "/orders")
	first.click("open-Choir")
	second.click("open-Choir")
	first.fill("occasion", "A choir's centenary")
	first.click("save-order")
	first.says(test("order-Choir"), "centenary")
	second.fill("quantity-0", "7")
	second.click("save-order")
	second.says(test("stale"), "Nothing of yours was written")
	second.says(test("stale"), "A choir's centenary")
	assert.Equal(
		t,
		"7",
		second.MustElement(`input[name="quantity-0"]`).MustProperty("value").Str(),
		"what was typed is still there",
	)
	second.look("stale")
	second.click("save-over")
	second.says(test("order-Choir"), "7")
	first.says(test("order-Choir"), "A choir's anniversary")
}

func TestThePlanIsWalkedByKeysAndExplainsATask(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.MustElement(test("new-order"))
	page.Keyboard.MustType(input.KeyP)
	page.MustElement("[data-block]").MustFocus()
	page.Keyboard.MustType(input.ArrowRight, input.ArrowRight, input.Enter)
	page.says(test("task-drawer"), "It waited for")
	page.look("plan-drawer")
	page.Keyboard.MustType(input.KeyJ)
	page.says("ol", "Pellowen Yard opened")
}

// Nothing is asked of any other machine, nothing is complained of, and the first
// page is small.
func TestNothingLeavesTheMachineAndTheFirstPageIsSmall(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := chromium.MustIncognito().MustPage().Timeout(patience).Sleeper(often)
	defer page.MustClose()
	var outside, complaints []string
	var bytes float64
	go page.EachEvent(func(e *proto.NetworkRequestWillBeSent) {
		if !strings.HasPrefix(e.Request.URL, studio.URL) && !strings.HasPrefix(e.Request.URL, "data:") {
			outside = append(outside, e.Request.URL)
		}
	}, func(e *proto.NetworkLoadingFinished) { bytes += e.EncodedDataLength },
		func(e *proto.RuntimeExceptionThrown) { complaints = append(complaints, e.ExceptionDetails.Text) },
		func(e *proto.LogEntryAdded) { complaints = append(complaints, e.Entry.Text) })()
	require.NoError(t, proto.NetworkEnable{}.Call(page))
	require.NoError(t, proto.LogEnable{}.Call(page))
	page.MustNavigate(studio.URL + "/orders").MustWaitLoad()
	page.MustElement(test("order-Choir"))
	time.Sleep(300 * time.Millisecond)
	assert.Less(t, bytes, 300_000.0)
	t.Logf("first page: %.0f kB over the wire", bytes/1000)
	for _, path := range []string{"/count-up", "/mixing", "/wires", "/plan", "/bench", "/book", "/book/pages/" + string(demo.ID("book Dahlia"))} {
		page.MustNavigate(studio.URL + path).MustWaitLoad()
		page.MustElement(".sheet")
	}
	assert.Empty(t, outside)
	assert.Empty(t, complaints)
}

func TestTheDemoClockIsMovedOn(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/plan")
	require.Equal(t, "08:30", page.text("clock"))
	advance(page, "quarter")
	assert.Equal(t, "08:45", page.text("clock"))
	advance(page, "morning")
	assert.Equal(t, "08:00", page.text("clock"))
	page.says("header", "Sep 21")
}
