package browser

import (
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// block is a task on the board by its name and what it is of, brought into view.
func (p tab) block(name string) *rod.Element {
	p.click("a-week")
	p.MustElement(test("a-week") + ".here")
	return p.MustElement(blockOf(name))
}

func blockOf(name string) string { return `[data-block][data-name^="` + name + `"]` }

func (p tab) laneOf(name string) string { return *p.block(name).MustAttribute("data-block") }

func (p tab) alt(key input.Key) { p.KeyActions().Press(input.AltLeft).Type(key).MustDo() }

const dusting = "Dust edges and heart, Ranunculus"

// A block is dragged to another maker: what that moves is said before anything is written.
func TestATaskIsDraggedToAnotherMaker(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/plan")
	block := page.block(dusting)
	was := *block.MustAttribute("data-block")
	card := *block.MustAttribute("data-card")
	page.opens(blockOf(dusting), test("hand"))
	page.press(test("hand"))
	page.until(`() => !!document.querySelector(".v-overlay--active .v-list-item")?.innerText.trim()`)
	other := page.MustElement(".v-overlay--active .v-list-item").MustText()
	page.Keyboard.MustType(input.Escape)
	page.until(`() => !document.querySelector(".v-overlay--active .v-list-item")`)
	block = page.block(dusting)
	from := block.MustShape().OnePointInside()
	to := page.MustElementR(".name", other).MustShape().OnePointInside()
	page.Mouse.MustMoveTo(from.X, from.Y).
		MustDown(proto.InputMouseButtonLeft).
		MustMoveTo(from.X+3, (from.Y+to.Y)/2).
		MustMoveTo(from.X+3, to.Y)
	page.MustElement(test("ghost"))
	page.Mouse.MustUp(proto.InputMouseButtonLeft)
	page.says(test("verdict"), "It can")
	page.says(test("pin-drawer"), other+", when it suits the plan")
	page.look("plan-drag")
	page.click("confirm-pin")
	page.says(test("proposal"), dusting+" pinned")
	page.look("plan-proposed")
	page.until(
		`(card, was) => document.querySelector('[data-card="' + card + '"]')?.dataset.block !== was`,
		card,
		was,
	)
	page.click("show-in-force")
	page.until(
		`(card, was) => document.querySelector('[data-card="' + card + '"]')?.dataset.block === was`,
		card,
		was,
	)
	page.accepts()
	page.until(
		`(card, was) => document.querySelector('[data-card="' + card + '"]')?.dataset.block !== was`,
		card,
		was,
	)
	page.until(`() => !document.querySelector('[data-test="show-in-force"]')`)
}

// The same by keys alone: p pins, Alt with arrows moves, Esc leaves, Enter confirms.
func TestTasksArePinnedMovedAndHandedOverByKeys(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/plan")
	pinned := `[data-block][data-name^="` + dusting + `"][aria-label$="pinned"]`
	page.block(dusting)
	page.MustEval(quiet) // the air that has just been read moves tasks by minutes
	page.block(dusting).MustFocus()
	page.Keyboard.MustType(input.KeyP)
	page.MustElement(pinned)
	page.until(`() => !document.querySelector('[data-test="show-in-force"]')`) // what moves nothing needs no acceptance
	page.Keyboard.MustType(input.KeyP)
	page.until(`(pinned) => !document.querySelector(pinned)`, pinned)

	was := page.laneOf(dusting)
	page.block(dusting).MustFocus()
	page.alt(input.ArrowLeft)
	page.says(test("pin-drawer"), "now ")
	page.Keyboard.MustType(input.Escape)
	page.until(`() => !document.querySelector('[data-test="pin-drawer"]')`)
	page.alt(input.ArrowDown)
	page.says(test("verdict"), "It can")
	page.Keyboard.MustType(input.Enter)
	page.says(test("proposal"), dusting+" pinned")
	page.until(`(was, name) => { // it keeps the focus where it comes to lie
		const at = document.activeElement;
		return at.dataset.block && at.dataset.block !== was && at.dataset.name.startsWith(name);
	}`, was, dusting)
}

// A pin that cannot hold says why and cannot be confirmed.
func TestAPinThatCannotHoldSaysWhy(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/plan")
	page.block(dusting).MustFocus()
	for range 40 {
		page.alt(input.ArrowLeft)
	}
	page.says(test("verdict"), "It cannot be so: it can begin ")
	require.True(t, page.MustElement(test("confirm-pin")).MustProperty("disabled").Bool())
	page.click("leave-pin")
	page.until(`() => !document.querySelector('[data-test="pin-drawer"]')`)
}

func TestTheChainOfAnOrderIsLitUp(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/plan")
	page.pressNamed(".pick", "Ferry crew")
	page.says(test("chain"), "What sets its date")
	page.says(test("chain"), "waited ")
	page.MustElement(test("chain-line"))
	links := len(page.MustElements(test("chain") + " li"))
	assert.Greater(t, links, 5)
	page.click("a-week")
	assert.LessOrEqual(t, len(page.MustElements(".block.linked")), links)
	page.press(test("chain") + " [aria-label=Close]")
	page.until(`() => !document.querySelector('[data-test="chain-line"]')`)
	page.click("open-scarce")
	page.says(test("scarce"), "gives ")
}

// A better plan is looked for while people work on; it waits beside the one made at once.
func TestABetterPlanIsLookedForAndStopped(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	enter(page, "Harvest supper", "2027-09-29T10:00", [3]string{"100", "Magnolia", "Oyster"})
	page.click("save-order")
	page.says(test("proposal"), "Harvest supper")
	page.MustNavigate(studio.URL + "/plan").MustWaitLoad()
	page.click("look-for")
	page.press(`input[name="seconds"][value="600"]`)
	page.press(`input[name="anew"]`)
	page.click("begin-search")
	page.says(test("search"), "less late")
	page.look("plan-search")
	page.click("stop-search")
	page.says(test("search"), "A better plan was found")
	page.MustElement(test("choice-anew") + " input:checked")
	page.press(test("choice-repaired") + " input")
	page.MustElement(test("choice-repaired") + " input:checked")
	page.press(test("choice-anew") + " input")
	page.click("drop-choice")
	page.until(`() => !document.querySelector('[data-test="choice-anew"]')`)
	page.accepts()

	page.click("open-versions")
	page.click("version-1")
	page.says(".bar", "Version 1, as it was")
	page.click("go-back")
	page.says(test("proposal"), "A plan awaits you")
}

// The tasks of a batch that one maker does in a row are one block, which opens into them and closes again.
func TestABatchOnTheBoardOpens(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/plan")
	sitting := page.MustElement(test("sitting") + `[aria-label*=", batch "]`)
	says := *sitting.MustAttribute("aria-label")
	assert.Regexp(t, `, batch \d+ of \d+: .+, .+`, says)
	card := *sitting.MustAttribute("data-card")
	tasks := len(page.MustElements(".block"))
	sitting.MustFocus()
	page.Keyboard.MustType(input.Enter)
	page.MustElement(`.block[data-card="` + card + `"]`)
	assert.False(t, page.MustHas(`[data-test="sitting"][data-card="`+card+`"]`), "what it is made of may be sittings")
	assert.Greater(t, len(page.MustElements(".block")), tasks+1)
	page.click("sitting-open")
	page.MustElement(`[data-test="sitting"][data-card="` + card + `"]`)
	assert.Len(t, page.MustElements(".block"), tasks)
}
