package browser

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"bractum/demo"
	"bractum/store"
)

// madeUp puts every word of the interface into a language that nobody speaks: each text within marks and a third
// longer, its values in another order of plural forms, of which it has the four of Polish.
func madeUp(t *testing.T) store.Words {
	t.Helper()
	body, err := os.ReadFile("../web/site/app/words.json")
	require.NoError(t, err)
	var english store.Words
	require.NoError(t, json.Unmarshal(body, &english))
	other := store.Words{Language: "pl", Words: map[string]string{}}
	for key, says := range english.Words {
		forms := strings.Split(says, " | ")
		for i, form := range forms {
			forms[i] = "⟦" + form + strings.Repeat("~", (len([]rune(form))+2)/3) + "⟧"
		}
		if len(forms) > 1 { // one, few, many, other
			last := forms[len(forms)-1]
			forms = []string{forms[len(forms)-2], last, last, last}
		}
		other.Words[key] = strings.Join(forms, " | ")
	}
	return other
}

// unmarked gives the words on a page that are neither in a mark nor of the studio's own data, and what is cut off.
const unmarked = `async () => {
	const own = new Set(), words = /\p{L}[\p{L}'’]{2,}/gu;
	const named = /name|skill|device|variant|slot|question|school|unit|path|zone/i; // what the studio itself has named
	const gather = (value, key) => {
		if (value && typeof value === "object") for (const k in value) gather(value[k], Array.isArray(value) ? key : k);
		if (typeof value === "string" && (named.test(key) || / |^\p{Lu}/u.test(value)))
			for (const [word] of value.matchAll(words)) own.add(word.toLowerCase());
	};
	for (const text of heard) try { gather(JSON.parse(text), ""); } catch { /* no document */ }
	const left = [];
	const look = (text, where) => {
		for (let was = ""; was !== text; ) was = text, text = text.replace(/⟦[^⟦⟧]*⟧/gu, " ");
		for (const [word] of text.matchAll(words)) if (!own.has(word.toLowerCase())) left.push(word + " in " + where);
	};
	const shown = (e) => e.checkVisibility?.({ visibilityProperty: true }) ?? true;
	const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
	for (let n = walk.nextNode(); n; n = walk.nextNode()) {
		const e = n.parentElement;
		if (e.closest("script, style, noscript, code") || !shown(e)) continue;
		look(n.textContent, e.tagName + "." + e.className + ": " + n.textContent.trim().slice(0, 60));
	}
	for (const name of ["aria-label", "title", "placeholder", "alt"])
		for (const e of document.querySelectorAll("[" + name + "]"))
			if (shown(e)) look(e.getAttribute(name), e.tagName + " " + name + ": " + e.getAttribute(name).slice(0, 60));
	for (const e of document.querySelectorAll("body *")) {
		const own = [...e.childNodes].some((n) => n.nodeType === 3 && /⟧/u.test(n.textContent));
		const style = own && getComputedStyle(e);
		if (own && shown(e) && style.overflowX !== "visible" && style.overflowX !== "auto" && e.clientWidth > 0 &&
			e.scrollWidth > e.clientWidth + 1) left.push("cut off in " + e.tagName + "." + e.className + ": " + e.textContent.trim().slice(0, 80));
	}
	for (const e of document.querySelectorAll("button, a, label, h1, h2"))
		if (shown(e) && e.getBoundingClientRect().right > innerWidth + 1 && e.closest(".station, .bench, dialog, .sheet") &&
			![...function* () { for (let up = e.parentElement; up; up = up.parentElement) yield up; }()].some((up) =>
				up !== document.documentElement && up !== document.body && getComputedStyle(up).overflowX === "auto"))
			left.push("past the edge in " + e.tagName + ": " + e.textContent.trim().slice(0, 60));
	if (document.documentElement.scrollWidth > innerWidth) left.push("wide in the page");
	return [...new Set(left)];
}`

// quiet waits until a page has not changed for 150 ms, or for long enough.
const quiet = `() => new Promise((done) => {
	let wait = setTimeout(done, 150);
	new MutationObserver(() => { clearTimeout(wait); wait = setTimeout(done, 150); })
		.observe(document.body, { subtree: true, childList: true, characterData: true });
	setTimeout(done, 5000);
})`

// dates are words that the browser says, in its own language.
var dates = regexp.MustCompile(
	`(?i)^(mon|tues?|wed(nes)?|thu(rs)?|fri|sat(ur)?|sun)(day)?$|` +
		`^(january|february|march|april|may|june|july|august|september|october|november|december|` +
		`jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec)$`,
)

// stays are names that are no words: of units, of files, of the program.
const stays = `^(Bractum|min|English|csv|json|http)$`

// In a made-up language every word of every station is another: nothing stands outside the catalogue. And every station,
// dialog and drawer is open to all, by both lights.
func TestEveryWordIsInTheCatalogue(t *testing.T) {
	folder := t.TempDir()
	words, err := json.Marshal(madeUp(t))
	require.NoError(t, err)
	require.NoError(t, os.MkdirAll(filepath.Join(folder, store.WordsFolder), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(folder, store.WordsFolder, "made-up.json"), words, 0o600))
	studio := open(t, folder)
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/studio")
	page.MustEvalOnNewDocument(`
		window.heard = [];
		const fetched = window.fetch;
		window.fetch = async (...asked) => {
			const answer = await fetched(...asked);
			if (!String(asked[0]?.url ?? asked[0]).includes("/api/words")) heard.push(await answer.clone().text());
			return answer;
		};`)
	page.click("open-manner")
	page.pick("settings-manner.language", "made-up")
	page.click("frame-save")
	page.says(".station", "⟦Studio~~⟧")
	stay := regexp.MustCompile(stays)
	for _, at := range []struct {
		path  string
		opens []string
	}{
		{"/orders", nil},
		{"/orders", []string{test("new-order"), test("add-line")}},
		{"/orders", []string{test("open-Lighthouse")}},
		{"/orders", []string{test("open-order-table")}},
		{"/promise?leaves=2027-09-29T10:00&of=30|Magnolia|Oyster", []string{test("take-later")}},
		{"/promise?leaves=2027-09-25T12:00&of=12|Gardenia|Oyster", []string{test("find-fixes")}},
		{"/orders", []string{test("how-sure")}},
		{"/what-if", nil},
		{"/orders/" + string(demo.ID("order Lighthouse")) + "/sheet", []string{test("add-box")}},
		{"/count-up", []string{`[data-test^="cell-"]`}},
		{"/mixing", nil},
		{"/mixing", []string{`[data-test^="weigh-"]`}},
		{"/wires", []string{`[data-test^="record-"]`}},
		{"/plan", []string{test("a-week")}},
		{"/plan", []string{test("to-its-end")}},
		{"/plan", []string{test("as-list")}},
		{"/plan", []string{test("open-versions")}},
		{"/plan", []string{test("open-scarce")}},
		{"/bench", []string{test("start")}},
		{"/bench", []string{test("ask")}},
		{"/bench", []string{test("remark")}},
		{"/bench/day", nil},
		{"/orders", []string{test("open-find")}},
		{"/drying", []string{`[data-test^="lying-"] button`}},
		{"/stores", []string{`[data-test^="stock-"]`}},
		{"/stores?view=Materials", []string{test("take-stock")}},
		{"/stores?view=To buy", nil},
		{"/stores?view=Change of mind", nil},
		{"/book", []string{test("new-recipe")}},
		{"/book", []string{test("open-import")}},
		{"/book", []string{test("page-Dahlia")}},
		{"/book", []string{test("page-Dahlia"), test("tab-steps")}},
		{"/book", []string{test("page-Dahlia"), test("tab-quantities")}},
		{"/book", []string{test("page-Dahlia"), test("tab-pictures")}},
		{"/book", []string{test("page-Dahlia"), test("tab-compare")}},
		{"/log", nil},
		{"/journal", []string{`[data-test^="line-"]`}},
		{"/beginning/people", nil},
		{"/beginning/places", nil},
		{"/beginning/materials", nil},
		{"/beginning/flowers", nil},
		{"/studio", []string{test("person-Teun")}},
		{"/studio", []string{`[data-test^="place-"]`}},
		{"/studio", []string{test("new-materials")}},
		{"/studio", []string{test("open-table")}},
		{"/studio", []string{test("open-manner")}},
		{"/studio", []string{test("open-plans")}},
		{"/studio", []string{test("open-devices")}},
	} {
		page.MustNavigate(studio.URL + at.path).MustWaitLoad()
		page.says(".station, .bench, .paper", "⟦")
		for _, opens := range at.opens {
			page.press(opens)
		}
		page.settles()
		_, err := page.Page.Eval(quiet)
		require.NoError(t, err)
		page.look("words" + strings.ReplaceAll(at.path, "/", "-"))
		said, err := page.Page.Eval(unmarked)
		require.NoError(t, err)
		for _, left := range said.Value.Arr() {
			if word, _, _ := strings.Cut(left.Str(), " in "); !dates.MatchString(word) && !stay.MatchString(word) {
				t.Errorf("%s %v: %s", at.path, at.opens, left)
			}
		}
		page.isOpenToAll(fmt.Sprint(at.path, " ", at.opens), len(at.opens) == 0)
	}
	// what is refused is said at its field
	page.MustNavigate(studio.URL + "/studio").MustWaitLoad()
	page.click("person-Teun")
	page.write("skills-0-paceHundredths", "9999")
	page.says(test("thing"), "⟦is 9999; from 10 to 1000 would be right")
}
