package browser

import (
	"context"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/browser/drive"
	"bractum/demo"
	"bractum/store"
)

// season is a studio with sixty orders and eight makers.
func season(t testing.TB) *drive.Studio {
	t.Helper()
	folder := t.TempDir()
	s, err := store.Open(context.Background(), folder, store.Options{})
	require.NoError(t, err)
	require.NoError(t, s.Seed(context.Background(), demo.Season(1, 1, 90), true))
	require.NoError(t, s.Close())
	studio, err := drive.Open(folder)
	require.NoError(t, err)
	return studio
}

// Sixty orders are lines below a line of days; a filter, a word and what is open stand in the address, and going back
// takes them back.
func TestSixtyOrdersAreFoundAndOpened(t *testing.T) {
	beside(t)
	studio := season(t)
	defer studio.Close()
	page := sit(t, studio, "", "/orders")
	page.until(`() => document.querySelectorAll(".row").length === 60`)
	assert.Len(t, page.MustElements("[data-test^='mark-']"), 60)
	page.until(`() => document.querySelectorAll("[data-test='rail'] [tabindex='0']").length === 1`)
	page.MustElement(`[data-test='rail'] [tabindex='0']`).MustFocus()
	page.Keyboard.MustType(input.ArrowRight, input.Enter)
	page.until(`() => document.querySelectorAll(".ticket").length === 1 && /open=/.test(location.search)`)
	page.MustNavigateBack()
	page.until(`() => !document.querySelector(".ticket") && !/open=/.test(location.search)`)
	page.click("orders-late")
	page.until(`() => /show=late/.test(location.search)`)
	page.until(`() => [...document.querySelectorAll(".row")].every((r) => /late/.test(r.innerText))`)
	page.click("orders-all")
	page.MustElement(test("orders-text")).MustInput("cake 12")
	page.until(`() => document.querySelectorAll(".row").length === 1`)
	page.MustReload().MustWaitLoad()
	page.until(
		`() => document.querySelectorAll(".row").length === 1 && document.querySelector(".row").innerText.includes("Cake 12")`,
	)

	page.MustElement("h1").MustFocus()
	page.Keyboard.MustType(input.Slash)
	page.MustElement(`input[name="find"]`).MustInput("magnolia con")
	page.says(test("find")+` [aria-selected="true"]`, "Magnolia cone")
	page.Keyboard.MustType(input.Enter)
	page.until(`() => location.pathname.startsWith("/book/pages/")`)
	page.until(`() => !document.querySelector('[data-test="find"]')`)
}

// What is shut gives the focus back to where it was; what cannot be called back is asked first, and can be let be.
func TestWhatIsShutGivesTheFocusBack(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	focused := func(name string) {
		t.Helper()
		page.until(`(name) => document.activeElement?.dataset.test === name`, name)
	}
	page.MustElement(test("open-Lighthouse")).MustFocus()
	page.Keyboard.MustType(input.Enter)
	page.MustElement(test("cancel-order")).MustFocus()
	page.Keyboard.MustType(input.Enter)
	page.says(test("order-form"), "Cancel Lighthouse?")
	focused("cancel-order-no")
	page.Keyboard.MustType(input.Escape)
	focused("cancel-order")
	page.Keyboard.MustType(input.Escape)
	page.until(`() => !document.querySelector('[data-test="order-form"]')`)
	focused("open-Lighthouse")
	page.says(test("order-Lighthouse"), "slack")
}

// BenchmarkStationsOfASeason is from a click on a station's name until its question is answered on the screen, on the
// season, by the median and the worst.
func BenchmarkStationsOfASeason(b *testing.B) {
	studio := season(b)
	defer studio.Close()
	page := chromium.MustIncognito().MustPage(studio.URL + "/studio").Timeout(time.Minute).MustWaitLoad()
	defer page.MustClose()
	page.MustSetViewport(1280, 800, 1, false)
	answers := []struct{ path, answer string }{
		{"/orders", ".row"}, {"/count-up", ".cell"}, {"/mixing", ".mix"}, {"/wires", ".wire"}, {"/plan", "[data-card]"},
		{
			"/bench",
			"[data-test=benches]",
		}, {"/drying", ".wells"}, {"/stores", "tbody tr"}, {"/book", ".pages li"}, {"/log", "h1"},
	}
	page.MustElement("nav")
	for range b.N {
		for _, at := range answers {
			begun := time.Now()
			page.MustElement(`nav a[href="` + at.path + `"]`).MustEval("() => this.click()")
			_, err := page.Timeout(20 * time.Second).Element(at.answer)
			require.NoError(b, err, at.path)
			page.MustEval(`() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))`)
			b.ReportMetric(float64(time.Since(begun).Milliseconds()), "ms"+at.path)
		}
	}
}
