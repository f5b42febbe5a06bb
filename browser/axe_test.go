package browser

import (
	"fmt"
	"os"
	"strings"

	"github.com/stretchr/testify/require"
)

// axe is the library that tells what on a page is shut to people who see, hear or move otherwise.
const axe = "../ui/node_modules/axe-core/axe.min.js"

// everything are its rules, and contrast the one that hangs on the light.
const (
	everything = `{}`
	contrast   = `{runOnly: ["color-contrast"]}`
)

// openToAll says what of a page is shut to somebody, by rule and element.
func (p tab) openToAll(rules string) (found []string) {
	p.t.Helper()
	if !p.MustEval(`() => "axe" in window`).Bool() {
		source, err := os.ReadFile(axe)
		require.NoError(p.t, err)
		_, err = p.Page.Eval("() => { " + string(source) + " }")
		require.NoError(p.t, err)
	}
	answer, err := p.Page.Eval(fmt.Sprintf(`async () => {
		const options = {resultTypes: ["violations"], ...%s};
		const {violations} = await axe.run(document, options);
		return violations.map((v) => v.id + ": " + v.help + v.nodes.slice(0, 4).map((n) => "\n\t\t" + n.html.slice(0, 160) +
			" " + (n.any[0]?.message ?? n.all[0]?.message ?? "")).join(""));
	}`, rules))
	require.NoError(p.t, err)
	for _, says := range answer.Value.Arr() {
		found = append(found, says.Str())
	}
	return found
}

// isOpenToAll holds a page against all rules by morning light, and, where it is wanted, against contrast by evening light.
func (p tab) isOpenToAll(where string, evening bool) {
	p.t.Helper()
	light := func(as string) {
		p.MustEval(`(as) => { document.documentElement.dataset.light = as;
			for (const e of document.querySelectorAll(".v-theme--morning, .v-theme--evening")) {
				e.classList.remove("v-theme--morning", "v-theme--evening"); e.classList.add("v-theme--" + as); } }`, as)
	}
	tell := func(by, rules string) {
		if shut := p.openToAll(rules); len(shut) > 0 {
			p.t.Errorf("%s, by %s light:\n\t%s", where, by, strings.Join(shut, "\n\t"))
		}
	}
	tell("morning", everything)
	if evening {
		light("evening")
		tell("evening", contrast)
		light("morning")
	}
}
