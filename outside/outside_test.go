package outside_test

import (
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/label"
	"bractum/outside"
	"bractum/standin/printer"
	"bractum/standin/scale"
	"bractum/standin/supplier"
)

var ctx = context.Background()

func answering(t *testing.T, answers http.Handler) string {
	server := httptest.NewServer(answers)
	t.Cleanup(server.Close)
	return server.URL
}

func TestAScaleIsReadTaredAndPouredOn(t *testing.T) {
	now := time.Date(2027, 9, 20, 8, 0, 0, 0, time.UTC)
	pan := scale.New(1, func() time.Time { return now })
	s := outside.NewScale(answering(t, pan))
	pan.Put(108_300)
	shown, err := s.Read(ctx)
	require.NoError(t, err)
	assert.False(t, shown.Stable, "it shakes while something is poured")
	now = now.Add(2 * time.Second)
	shown, err = s.Read(ctx)
	require.NoError(t, err)
	assert.True(t, shown.Stable)
	assert.InDelta(t, 108_300, int64(shown.Milligrams), 100)
	assert.Zero(t, int64(shown.Milligrams)%100, "it shows tenths of a gram")
	require.NoError(t, s.Tare(ctx))
	shown, err = s.Read(ctx)
	require.NoError(t, err)
	assert.InDelta(t, 0, int64(shown.Milligrams), 100)
	now = now.Add(24 * time.Hour)
	shown, err = s.Read(ctx)
	require.NoError(t, err)
	assert.Greater(t, int64(shown.Milligrams), int64(1_000), "over a day it drifts")
}

func TestNonsenseFromAScaleIsNoWeight(t *testing.T) {
	pan := scale.New(1, time.Now)
	s := outside.NewScale(answering(t, pan))
	for _, says := range []string{"ERR 07", `{"grams": 5}`, `{"milligrams": "much"}`, `{"milligrams": 1e30}`, `{"milligrams": -9000000}`, `{"milligrams": 3.7}`, "[]", strings.Repeat("x", 2<<20)} {
		pan.Says(says)
		_, err := s.Read(ctx)
		require.True(t, outside.IsTrouble(err), "%.20s: %v", says, err)
		assert.Contains(t, err.Error(), "type the figure")
	}
	pan.Says("")
	_, err := s.Read(ctx)
	assert.NoError(t, err, "and it works again")
	gone := outside.NewScale("http://127.0.0.1:1")
	_, err = gone.Read(ctx)
	assert.ErrorContains(t, err, "does not answer")
	assert.True(t, outside.IsTrouble(gone.Tare(ctx)))
}

func TestASupplierConfirmsOnceAndTheSameForTheSameReference(t *testing.T) {
	desk := outside.NewSupplier(answering(t, supplier.New()))
	late, short := 0, 0
	for i := range 60 {
		order := outside.PurchaseOrder{
			Reference: string(rune('A'+i)) + "1",
			Supplier:  "Quayside sugar store",
			Ordered:   studio.MustWallTime("2027-09-20T08:30"),
			Expected:  studio.MustWallTime("2027-09-24T10:00"),
			Lines:     []outside.PurchaseLine{{Line: "a", Article: "Flower paste", Packs: 3}},
		}
		c, err := desk.Order(ctx, order)
		require.NoError(t, err)
		again, err := desk.Order(ctx, order)
		require.NoError(t, err)
		require.Equal(t, c, again)
		require.GreaterOrEqual(t, c.Expected, order.Expected.String())
		if c.Expected > order.Expected.String() {
			late++
			assert.Contains(
				t,
				[]string{"2027-09-27T10:00", "2027-09-28T10:00"},
				c.Expected,
				"nobody drives at the weekend",
			)
		}
		if c.Lines[0].Packs < 3 {
			short++
		}
	}
	assert.Greater(t, late, 5)
	assert.Greater(t, short, 3)
	_, err := desk.Order(ctx, outside.PurchaseOrder{Reference: "x", Expected: studio.WallTime{}})
	assert.ErrorContains(t, err, "kept here as sent")
	_, err = outside.NewSupplier("http://127.0.0.1:1").Order(ctx, outside.PurchaseOrder{})
	assert.ErrorContains(t, err, "does not answer")
	_, err = outside.NewSupplier(answering(t, scale.New(1, time.Now))).
		Order(ctx, outside.PurchaseOrder{Reference: "x"})
	assert.True(t, outside.IsTrouble(err), "a scale is no order desk")
}

func TestADeskTakesOrdersAsTables(t *testing.T) {
	at := answering(t, supplier.New()) + "/orders"
	post := func(table string) *http.Response {
		answer, err := http.Post(at, "text/csv", strings.NewReader(table))
		require.NoError(t, err)
		t.Cleanup(func() { _ = answer.Body.Close() })
		return answer
	}
	heading := "reference,supplier,ordered,expected,line,article,packs\n"
	answer := post(heading + "R-7,Sailcloth and wire,2027-09-20T08:30,2027-09-24T10:00,a,26 white wire,2\n")
	require.Equal(t, http.StatusOK, answer.StatusCode)
	var c supplier.Confirmation
	require.NoError(t, json.NewDecoder(answer.Body).Decode(&c))
	assert.Equal(t, "R-7", c.Reference)
	assert.Equal(t, "26 white wire", c.Lines[0].Article)
	assert.Equal(t, http.StatusUnprocessableEntity, post(heading+"R-8,s,o,2027-09-24T10:00,a,wire,few\n").StatusCode)
	assert.Equal(t, http.StatusUnprocessableEntity, post("hello\n").StatusCode)
}

func TestALabelPrinterPrintsOrSaysWhy(t *testing.T) {
	labels := printer.New()
	p := outside.NewPrinter(answering(t, labels))
	drawn, err := label.Label{Name: "Petals", Address: "http://yard/drying?lot=1"}.PNG()
	require.NoError(t, err)
	require.NoError(t, p.Print(ctx, drawn))
	assert.Equal(t, drawn, labels.Printed()[0])
	err = p.Print(ctx, []byte("no picture"))
	assert.True(t, outside.IsTrouble(err))
	assert.ErrorContains(t, err, "a label is a PNG")
	labels.RunOut(true)
	assert.ErrorContains(t, p.Print(ctx, drawn), "no labels are left")
	assert.Len(t, labels.Printed(), 1)
	assert.True(t, outside.IsTrouble(outside.NewPrinter("http://127.0.0.1:1").Print(ctx, drawn)))
}
