package browser

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// set fills a field of the browser's own for days and times.
func (p tab) set(name, value string) {
	p.MustElement(`input[name="`+name+`"]`).
		MustEval(`(v) => { this.value = v; this.dispatchEvent(new Event("input", { bubbles: true })) }`, value)
}

// A damp week with somebody away is set beside the plan, kept by name and found again; what can be decided is made so,
// and taken back in one touch.
func TestWhatWouldBeIf(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/what-if")
	page.choose("if-kind", "the air is otherwise")
	page.choose("if-air", "very damp")
	page.set("if-from", "2027-09-20")
	page.set("if-until", "2027-09-24")
	page.click("if-add")
	page.says(test("scene-result"), "tasks move")
	page.choose("if-kind", "somebody is away")
	page.choose("if-of", "Teun")
	page.set("if-from", "2027-09-21")
	page.set("if-until", "2027-09-23")
	page.click("if-add")
	page.says(test("scene-result"), "Teun")
	page.says(test("scene-result"), "Ferry crew")
	page.look("what-if")
	page.fill("scene-name", "A damp week without Teun")
	page.click("keep-scene")
	page.MustElement(test("scene-A damp week without Teun"))
	assert.False(t, page.MustHas(test("scene-real")), "nobody decides on the air")

	page.MustNavigate(studio.URL + "/what-if").MustWaitLoad()
	page.choose("if-kind", "there is more room")
	page.choose("if-of", "Hanging rail")
	page.fill("if-number", "2")
	page.click("if-add")
	page.says(test("scene-result"), "tasks move")
	page.click("scene-real")
	page.MustElement(test("order-Ferry crew"))
	page.MustNavigate(studio.URL + "/what-if").MustWaitLoad()
	page.click("scene-A damp week without Teun")
	page.says(test("scene-result"), "Teun")
}
