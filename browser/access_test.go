package browser

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A lead locks the door from the studio's page and stays inside; others sign in; a tablet is brought in by a code, makers
// sit down at it by name and PIN, and a lost one is let in no more.
func TestTheDoorOfAStudio(t *testing.T) {
	studio := open(t, t.TempDir())
	defer studio.Close()
	lead := sit(t, studio, "Odalys", "/studio")
	set := func(name, role, password, pin string) {
		lead.click("access-" + name)
		lead.MustElement(test("access-role")).MustSelect(role)
		for field, value := range map[string]string{"access-password": password, "access-pin": pin} {
			if value != "" {
				lead.MustElement(test(field)).MustInput(value)
			}
		}
		lead.click("access-save")
	}
	set("Odalys", "lead", "short", "")
	lead.says(test("access-form"), "10 or more would be right")
	lead.MustElement(test("access-password")).MustSelectAllText().MustInput("three wet harbours")
	lead.click("access-save")
	lead.says(test("access"), "Only this computer is answered")
	lead.says(test("who"), "signed in")
	set("Teun", "maker", "", "4711")
	lead.says(test("access-Teun"), "PIN")
	lead.look("access")

	other := sit(t, studio, "", "/orders")
	other.says(test("sign-in"), "Who comes in?")
	assert.False(t, other.MustHas(".ticket"), "nothing is seen from outside")
	other.look("door")
	other.MustElement(test("sign-name")).MustInput("Odalys")
	other.MustElement(test("sign-password")).MustInput("a guess at it")
	other.click("sign-go")
	other.says(test("sign-in"), "not right")
	other.MustElement(test("sign-password")).MustInput("three wet harbours")
	other.click("sign-go")
	other.says(".station", "Lighthouse")
	other.click("who")
	other.click("sign-out")
	other.says(test("sign-in"), "Who comes in?")

	lead.MustElement(test("tablet-name")).MustInput("Window bench")
	lead.click("invite")
	lead.says(test("invitation"), "Good for one tablet")
	lead.look("invitation")
	code := lead.text("code")
	bench := sit(t, studio, "", "/bench?tablet="+code)
	bench.click("join-go")
	bench.says(test("who"), "Window bench")
	bench.click("who")
	bench.click("sit-Teun")
	bench.MustElement(test("pin-field")).MustInput("0000")
	bench.look("pin")
	bench.click("pin-go")
	bench.says(".v-overlay--active", "not right")
	bench.MustElement(test("pin-field")).MustSelectAllText().MustInput("4711")
	bench.click("pin-go")
	bench.says(test("card"), "Magnolia cone")
	bench.click("start")
	bench.MustElement(test("finish"))
	bench.says("nav", "Drying room")
	assert.NotContains(t, bench.MustElement("nav").MustText(), "Studio", "what a maker may not change is not offered")
	bench.MustNavigate(studio.URL + "/studio").MustWaitLoad()
	bench.MustElement(test("floor"))
	assert.False(t, bench.MustHas(test("access")), "the door is a lead's")

	lead.MustReload().MustWaitLoad()
	lead.click("drop-Window bench")
	bench.MustNavigate(studio.URL + "/bench").MustWaitLoad()
	bench.says(test("sign-in"), "Who comes in?")
	journal := lead.does(`return await (await fetch("/api/journal")).text();`)
	assert.Contains(t, journal, "Odalys has another password")
	assert.NotContains(t, journal, "harbours")
	require.NoError(t, lead.Page.GetContext().Err())
}
