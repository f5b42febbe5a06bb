package label_test

import (
	"bytes"
	"encoding/xml"
	"image/png"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/label"
)

var petals = label.Label{
	Name:    "Magnolia <outer> petal",
	Lines:   []string{"18, Oyster ivory", "since Mon", "dry by Tue", "for Ferry crew", "for Library", "for nobody"},
	Address: "http://10.0.0.5:8080/drying?lot=lot-1",
}

func TestALabelAsADrawing(t *testing.T) {
	drawn, err := petals.SVG()
	require.NoError(t, err)
	read := xml.NewDecoder(bytes.NewReader(drawn))
	for err == nil {
		_, err = read.Token()
	}
	require.ErrorIs(t, err, io.EOF, "it is well-formed")
	assert.Contains(t, string(drawn), "Magnolia &lt;outer&gt; petal")
	assert.Contains(t, string(drawn), "for Library")
	assert.NotContains(t, string(drawn), "for nobody", "there is room for five lines")
	other := petals
	other.Address += "x"
	also, err := other.SVG()
	require.NoError(t, err)
	assert.NotEqual(t, drawn, also, "the code holds the address")
	other.Address = strings.Repeat("x", 5000)
	_, err = other.SVG()
	assert.ErrorContains(t, err, "the code of a label")
	_, err = other.PNG()
	assert.Error(t, err)
}

func TestALabelInDots(t *testing.T) {
	drawn, err := petals.PNG()
	require.NoError(t, err)
	page, err := png.Decode(bytes.NewReader(drawn))
	require.NoError(t, err)
	assert.Equal(t, 732, page.Bounds().Dx())
	dark := func(fromX, toX int) (n int) {
		for y := range page.Bounds().Dy() {
			for x := fromX; x < toX; x++ {
				if r, _, _, _ := page.At(x, y).RGBA(); r < 0x8000 {
					n++
				}
			}
		}
		return n
	}
	assert.Greater(t, dark(0, 280), 10_000, "the code")
	assert.Greater(t, dark(290, 712), 1_000, "the words")
	assert.Zero(t, dark(713, 732), "a name that is too long is cut")
	long := petals
	long.Name = strings.Repeat("very ", 20) + "long"
	drawn, err = long.PNG()
	require.NoError(t, err)
	page, err = png.Decode(bytes.NewReader(drawn))
	require.NoError(t, err)
	assert.Zero(t, dark(713, 732))
}
