package browser

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/browser/drive"
	"bractum/core/studio"
	"bractum/store"
)

// counted is a page whose touches are counted: each press, and each field that is written, is one.
type counted struct {
	tab
	touches int
}

func (c *counted) touch(name string) {
	c.touches++
	c.click(name)
}

// goesOn touches what leads to the next page until that is there: one that is drawn anew takes no touch.
func (c *counted) goesOn(to string) {
	c.touches++
	for by := time.Now().Add(said); time.Now().Before(by); {
		c.click("step-on")
		if c.Timeout(10*time.Second).Wait(rod.Eval(`(to) => location.pathname.endsWith(to)`, to)) == nil {
			return
		}
	}
	require.Fail(c.t, "did not go on", to)
}

func (c *counted) type_(name, value string) {
	c.touches++
	c.write(name, value)
}

// From an empty folder to a first plan, on screen alone; in ounces and inches with a decimal comma as well.
func TestFromAnEmptyFolderToAFirstPlan(t *testing.T) {
	t.Run("grams, millimetres, point", func(t *testing.T) { firstPlan(t, "g", "mm", ".", "500.0 g") })
	t.Run("ounces, inches, comma", func(t *testing.T) { firstPlan(t, "oz", "in", ",", "500,00 oz") })
}

func firstPlan(t *testing.T, mass, length, decimal, says string) {
	beside(t)
	open, err := drive.Empty(t.TempDir())
	require.NoError(t, err)
	defer open.Close()
	c := &counted{tab: sit(t, open, "", "/")}
	c.look("begin")
	c.touch("begin-own")
	c.MustElement(test("own-name")).MustInput("Larch Lane")
	c.MustElement(test("own-me")).MustInput("Ida")
	c.MustElement(test("own-zone")).MustSelectAllText().MustInput("Europe/Dublin")
	for field, value := range map[string]string{"mass": mass, "length": length, "decimal": decimal} {
		c.MustElement(test("own-"+field)).MustEval(`(value) => { this.value = value;
			this.dispatchEvent(new Event("change", { bubbles: true })); }`, value)
	}
	c.touch("own-empty")
	c.touches += 6
	c.touch("own-begin")
	c.says(test("steps"), "Who works here, and when?")
	c.look("begin-people")
	c.type_("person-name", "Noor")
	for _, cannot := range []string{"mixing", "dusting", "assembly"} {
		c.touch("can-" + cannot)
	}
	c.touch("works-friday")
	c.touch("person-add")
	c.says(test("begun-Noor"), "shaping, wiring")

	c.goesOn("/places")
	for _, place := range []string{"Spoon tray", "Half-sphere mould 60 mm", "Wavy foam", "Foam block", "Hanging rail",
		"Half-sphere mould 90 mm", "Cone former", "Drying rack"} {
		c.type_("count-"+place, "12")
	}
	c.touch("take-places")
	c.until(`() => document.querySelector('[data-test="take-places"]').disabled`)
	c.look("begin-places")

	c.goesOn("/materials")
	c.says(test("steps"), "What is in the cupboard?")
	amounts := c.MustElements(`[name^="there-"]`)
	require.GreaterOrEqual(t, len(amounts), 12)
	for _, field := range amounts {
		c.touches++
		field.MustInput("500")
	}
	c.look("begin-cupboard")
	c.touch("take-materials")
	c.says(test("took"), fmt.Sprint(len(amounts)))
	c.says(".station", says)

	c.goesOn("/flowers")
	for i, pattern := range []string{"wired", "wired", "wired"} {
		c.MustNavigate(open.URL + "/beginning/flowers").MustWaitLoad()
		c.touch("own-flower")
		c.fill("begin-name", fmt.Sprintf("Lane lily %d", i))
		c.touches++
		c.touch("pattern-" + pattern)
		c.says(test("totals"), "Lane lily")
		c.look("begin-recipe")
		c.touch("publish")
		c.says(test("standing"), "revision 1")
	}

	c.MustNavigate(open.URL + "/beginning/order").MustWaitLoad()
	c.touch("first-order")
	c.fill("name", "Quay")
	c.setDate(time.Now().AddDate(0, 0, 28).Format("2006-01-02") + "T10:00")
	c.fill("quantity-0", "6")
	c.choose("flower-0", "Lane lily 1")
	c.choose("colourway-0", "Oyster")
	c.touches += 7
	c.look("begin-order")
	c.touch("save-order")
	c.look("begin-proposal")
	c.touch("accept")
	c.until(`() => !document.querySelector('[data-test="first-plan"]')`)
	c.MustNavigate(open.URL + "/plan").MustWaitLoad()
	c.look("begin-plan")
	for station, shows := range map[string]string{"/mixing": "Flower paste", "/wires": "full wires of"} {
		c.MustNavigate(open.URL + station).MustWaitLoad()
		c.says(".station", shows)
		assert.Regexp(t, `\d `+mass+`\b|\d `+length+`\b`, c.MustElement(".station").MustText())
		if mass != "g" {
			assert.NotRegexp(t, `\d (g|mm)\b`, c.MustElement(".station").MustText(), station)
		}
		c.look("begin-" + mass + strings.ReplaceAll(station, "/", "-"))
	}
	doc, _, err := open.Store.Document(t.Context(), store.Accepted,
		func(calendar studio.Calendar, _ *studio.Minute) studio.Minute { return calendar.MinuteOf(time.Now()) })
	require.NoError(t, err)
	assert.Len(t, doc.People, 2)
	assert.Len(t, doc.Places, 8)
	assert.Len(t, doc.Orders, 1)
	t.Logf("%d touches", c.touches)
	assert.LessOrEqual(t, c.touches, 250)
}

// The workshop is changed on its own page: what that does to the plan is said before it counts.
func TestTheStudioIsChangedOnItsPage(t *testing.T) {
	yard := open(t, t.TempDir())
	defer yard.Close()
	page := sit(t, yard, "Odalys", "/studio")
	page.click("person-Teun")
	page.click("ill-today")
	page.says(test("does"), "move")
	page.look("studio-away")
	page.click("thing-save")
	page.says(test("person-Teun"), "away today")
	page.click("open-table")
	page.MustElement(test("paste-text")).MustInput("name\thow many\nLong rack\t9\nWavy foam\tsix")
	page.click("paste-look")
	page.says(test("paste-rows"), "wrong")
	page.MustElement(test("paste-text")).MustSelectAllText().MustInput("name\thow many\nLong rack\t9\nWavy foam\t7")
	page.click("paste-look")
	page.says(test("paste-rows"), "changed")
	page.look("studio-table")
	page.click("paste-take")
	page.says(test("place-Long rack"), "9 slots")
	page.click("open-plans")
	page.write("settings-safetyMinutes", "3 d")
	page.says(test("does"), "slack")
	page.look("studio-plans")
	page.write("settings-sittingMinutes", "35 min")
	page.MustElement(test("does") + " b")
	page.click("frame-save")
	require.Eventually(t, func() bool {
		doc, _, err := yard.Store.Document(t.Context(), store.Wished,
			func(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at })
		return err == nil && doc.Settings.SittingMinutes == 35
	}, time.Minute, 100*time.Millisecond)
	page.MustNavigate(yard.URL + "/stores?view=Materials").MustWaitLoad()
	page.click("take-stock")
	page.press(test("stock-taking") + " summary")
	page.MustElement(test("paste-stock")).MustInput("Icing sugar\t1,2 kg\nQuay dust\t3")
	page.says(test("stock-taking"), "Not known or not read: Quay dust")
	page.click("compare")
	page.says(test("stock-taking"), "1,200.0 g")
}

// What a recipe needs and the workshop has not is added where it is missed.
func TestAThingIsAddedFromARecipe(t *testing.T) {
	yard := open(t, t.TempDir())
	defer yard.Close()
	page := sit(t, yard, "Odalys", "/book")
	page.click("page-Dahlia")
	page.click("add-thing")
	page.click("thing-wire")
	page.write("thing-name", "27 pale wire")
	page.write("thing-wire.cover", "pale")
	page.look("book-thing")
	page.click("save-thing")
	page.until(`() => !document.querySelector('[data-test="thing-form"]')`)
	doc, _, err := yard.Store.Document(t.Context(), store.Wished,
		func(_ studio.Calendar, at *studio.Minute) studio.Minute { return *at })
	require.NoError(t, err)
	wire := doc.Materials[len(doc.Materials)-1]
	assert.Equal(t, "27 pale wire", wire.Name)
	assert.Equal(t, studio.Micrometres(360_000), wire.Wire.Length)
}
