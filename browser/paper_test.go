package browser

import (
	"bytes"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/proto"
	"github.com/ledongthuc/pdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
)

// The widths of A4 and A6, in inches.
const (
	a4 = 8.27
	a6 = 4.13
)

// printed is on how many pages of a width a page prints, and what can be read on them: none is empty, and nothing is
// cut off at an edge. The browser's own PDF says where each letter lies; which it is, the page says as it is for paper.
func (p tab) printed(width float64) (pages int, text string) {
	p.t.Helper()
	p.MustEval(`() => document.fonts.ready.then(() => {})`) // what has no letters yet is printed without
	stream, err := p.PDF(&proto.PagePrintToPDF{PaperWidth: &width, PaperHeight: new(width * 1.414)})
	require.NoError(p.t, err)
	all, err := io.ReadAll(stream)
	require.NoError(p.t, err)
	file, err := pdf.NewReader(bytes.NewReader(all), int64(len(all)))
	require.NoError(p.t, err)
	right, top := 72*width, 72*width*1.414
	for n := 1; n <= file.NumPage(); n++ {
		letters := file.Page(n).Content().Text
		assert.Greater(p.t, len(letters), 10, "page %d of %d is empty", n, file.NumPage())
		for _, l := range letters {
			if l.X < 0 || l.X+l.W > right+1 || l.Y < 0 || l.Y > top {
				assert.Fail(p.t, "cut off", "at %.0f, %.0f on page %d of %g inches", l.X, l.Y, n, width)
				break
			}
		}
	}
	require.NoError(p.t, proto.EmulationSetEmulatedMedia{Media: "print"}.Call(p))
	text = p.MustEval(`() => document.body.innerText`).Str()
	require.NoError(p.t, proto.EmulationSetEmulatedMedia{}.Call(p))
	return file.NumPage(), text
}

// An order is told as a client tells it, laid on its cake, packed by whoever packs, and signed off; the sheet alone
// says what is in the box and what has to come off.
func TestAnOrderIsHandedOverWithItsSheet(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders?new")
	page.fill("name", "Regatta")
	page.setDate("2027-10-06T10:00")
	page.fill("allergies", "egg")
	page.press(test("whom") + " summary")
	page.fill("client", "The harbour master")
	page.fill("goes", "The quay hall")
	page.fill("quantity-0", "1")
	page.choose("flower-0", "Gardenia")
	page.choose("colourway-0", "Oyster")
	egg := func() { page.pressNamed(".v-overlay--active .v-list-item", "glue: egg white") }
	page.press(test("otherwise-0") + " .v-field")
	egg()
	page.says(test("allergy-met"), "Dried egg white")
	page.says(test("allergy-met"), "CMC glue on half dry")
	egg()
	page.until(`() => !document.querySelector('[data-test="allergy-met"]')`)

	page.press(`input[name="name"]`)
	page.click("add-cake")
	page.click("add-tiers-0")
	page.click("add-placings-0")
	page.fill("placings-0-0-quantity", "2")
	page.until(`() => document.querySelector('input[name="quantity-0"]').value === "2"`)
	page.fill("placings-0-0-lengthMicrometres", "90")
	page.fill("placings-0-0-depthMicrometres", "30")
	page.pick("placings-0-0-holder", "Steel cup, lent")
	page.says(test("cake-findings"), "over the edge of its tier")
	page.MustElement(test("cake-drawing"))
	page.look("order-cake")
	page.saves()
	page.says(test("order-Regatta"), "awaits acceptance")
	page.accepts()
	tell(t, studio.URL, "/api/stores/stock", `{"recipe": "`+string(demo.ID("Gardenia"))+`", "colourway": "`+
		string(demo.ID("Oyster"))+`", "quality": "good", "amount": {"value": 2, "unit": "pieces"}, "madeOn": 0}`)

	page.click("sheet-Regatta")
	page.says(test("comes-off"), "2 × Steel cup, lent")
	page.says(test("holds"), "Asked for without: egg")
	require.True(t, page.MustElement(test("sign-off")).MustProperty("disabled").Bool(), "nothing is packed")
	page.click("count-in-Gardenia")
	page.says(test("packed-Gardenia"), "✓ 2 by Odalys")
	page.click("add-box")
	page.fill("box-0", "both gardenias, heads up")
	page.click("fill-boxes")
	page.fill("receives", "the harbour master")
	page.click("sign-off")
	page.says(".paper", "were put in and 0 are counted out")
	for _, spacer := range page.MustElements(`[data-test^="out-"]`) {
		spacer.MustSelectAllText().MustInput("24")
		spacer.MustEval(`() => this.form.requestSubmit()`)
		page.settles()
	}
	page.click("sign-off")
	page.says(test("signed"), "handed to the harbour master")
	page.look("signed-sheet")

	for width, most := range map[float64]int{a4: 2, a6: 5} {
		pages, sheet := page.printed(width)
		assert.LessOrEqual(t, pages, most, "%g inches wide", width)
		for _, words := range []string{"Regatta", "Gardenia", "2 × Steel cup, lent", "Asked for without: egg",
			"Not in a refrigerator", "Signed off", "Please send back: 2", "Pellowen Yard"} {
			assert.Contains(t, sheet, words)
		}
		assert.NotContains(t, sheet, "What was heard of it", "that is not for who receives it")
	}
	page.fill("heard", "arrived whole")
	page.click("hear")
	page.says(".paper", "arrived whole")
	page.click("forget-client")
	page.until(`() => !document.querySelector('[data-test="forget-client"]')`)
	assert.NotContains(t, page.text("handover-sheet"), "The harbour master")
}

// What a station shows goes on paper as well: on A4 and on A6 nothing is cut off and no page is empty, its figures are
// there, and a code opens it again.
func TestStationsOnPaper(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	for path, words := range map[string][]string{
		"/orders":             {"Ferry crew", "4 Magnolia"},
		"/count-up":           {"Outer petal", "Oyster shell"},
		"/mixing":             {"Petal white", "Flower paste"},
		"/wires":              {"24 white wire", "Magnolia outer petal"},
		"/stores?view=To buy": {"Sailcloth and wire", "24 white wire"},
		"/stores":             {"Ranunculus core"},
		"/drying":             {"Magnolia inner petal"},
		"/bench/day?days=7":   {"of a kind", "Odalys, the coming week", "Monday, September 20"},
	} {
		page.MustNavigate(studio.URL + path).MustWaitLoad()
		page.says(".station", words[0])
		for _, width := range []float64{a4, a6} {
			_, text := page.printed(width)
			for _, say := range append(words, "Pellowen Yard") {
				assert.Contains(t, strings.Join(strings.Fields(text), " "), say, path)
			}
			assert.NotContains(t, text, "Take back", path)
		}
	}
}

// What is shown as a table goes into a file for a spreadsheet as it is shown; what begins as a formula does is text.
func TestAStationGoesIntoASpreadsheet(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/stores?view=Materials")
	page.says(".station", "Soft sugar paste")
	page.MustEval(`() => { document.querySelector(".station td").textContent = "=1+1"; }`)
	page.MustEval(`() => { window.kept = []; const made = URL.createObjectURL.bind(URL);
		URL.createObjectURL = (blob) => { blob.text().then((text) => window.kept.push(text)); return made(blob); }; }`)
	page.click("as-csv")
	page.until(`() => window.kept.length > 0`)
	file := page.MustEval(`() => window.kept[0]`).Str()
	assert.Contains(t, file, "Soft sugar paste")
	assert.Contains(t, file, "'=1+1")
	assert.NotContains(t, file, "\n=1+1")
}

// A list of orders comes from a file of whatever letters and separators: how it was read is said, and can be put right;
// what is no text is refused, and what was there stays.
func TestAFileOfOrdersSaysHowItWasRead(t *testing.T) {
	beside(t)
	studio := open(t, t.TempDir())
	defer studio.Close()
	page := sit(t, studio, "Odalys", "/orders")
	page.click("open-order-table")
	chooses := func(name string, bytes []byte) {
		file := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.WriteFile(file, bytes, 0o600))
		page.MustElement(test("orders-text-file")).MustSetFiles(file)
	}
	table := "order;leaves;how many;flower;colours\nF\xeate;2027-10-12 10:00;3;Magnolia;Oyster\n"
	chooses("orders.csv", []byte(table))
	page.says(test("orders-text-letters"), "Windows-1252")
	assert.Equal(t, ";", page.MustElement(test("orders-text-by")).MustProperty("value").Str())
	page.click("orders-look")
	page.says(test("orders-rows"), "Fête: new")
	chooses("picture.csv", []byte{0x89, 'P', 'N', 'G', 0, 0, 0, 13})
	page.says(test("orders-text-refused"), "picture.csv is no text")
	page.says(test("orders-rows"), "Fête")
	chooses("wide.csv", append([]byte{0xff, 0xfe}, []byte("o\x00r\x00d\x00e\x00r\x00")...))
	page.says(test("orders-text-letters"), "UTF-16")
}
