package picture

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func photo(t *testing.T, across, high int) []byte {
	picture := image.NewRGBA(image.Rect(0, 0, across, high))
	picture.Set(1, 1, color.RGBA{200, 20, 40, 255})
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, picture))
	return out.Bytes()
}

func TestAPhotoIsEncodedAnewAndMadeSmall(t *testing.T) {
	hidden := append(photo(t, 3200, 400), []byte("<script>alert(1)</script>")...)
	media, clean, err := Clean(hidden)
	require.NoError(t, err)
	assert.Equal(t, PNG, media)
	assert.NotContains(t, string(clean), "script")
	config, err := png.DecodeConfig(bytes.NewReader(clean))
	require.NoError(t, err)
	assert.Equal(t, [2]int{1600, 200}, [2]int{config.Width, config.Height})
}

func TestADrawingKeepsOnlyWhatDraws(t *testing.T) {
	media, clean, err := Clean([]byte(`<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY x "y">]>
		<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9" onload="alert(1)"><script>alert(2)</script><style>@import url(http://x)</style>
		<g fill="url(#a)" style="behavior:url(x)"><path d="M0 0L9 9" fill="url( http://out )" stroke="red"/><a href="javascript:alert(3)"><text>inside a link</text></a></g>
		<foreignObject><b>html</b></foreignObject><use href="#a"/><use href="http://out/#a"/><image href="data:x"/></svg>`))
	require.NoError(t, err)
	assert.Equal(t, SVG, media)
	text := string(clean)
	assert.Contains(t, text, `<path d="M0 0L9 9" stroke="red">`)
	assert.Contains(t, text, `<g fill="url(#a)">`)
	assert.Contains(t, text, `<use href="#a">`)
	for _, gone := range []string{"script", "alert", "onload", "import", "http://out", "behavior", "html", "data:", "image", "ENTITY"} {
		assert.NotContains(t, strings.ReplaceAll(text, space, ""), gone)
	}
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	for _, c := range []struct {
		data string
		says string
	}{
		{"GIF89a", "is no PNG, JPEG or SVG"}, {"%PDF-1.4", "is no PNG, JPEG or SVG"}, {"<html><svg></svg></html>", "its outermost element is not svg"},
		{"hello <svg", "cannot be read as a drawing"}, {string(photo(t, 9, 9)[:40]), "cannot be read as a picture"}, {strings.Repeat("x", MostBytes+1), "is larger than 6 MiB"},
	} {
		_, _, err := Clean([]byte(c.data))
		assert.ErrorContains(t, err, c.says)
	}
}
