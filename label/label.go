// Package label draws the small label that goes on a tray or a box: what lies in it, and a
// code that opens it on any tablet. The same label as SVG, for paper through the browser,
// and as PNG, for a label printer.
package label

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"strings"

	"github.com/boombuler/barcode/qr"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"
)

// Label is what stands on one: a name, a few lines, and the address that its code holds.
type Label struct {
	Name    string
	Lines   []string
	Address string
}

// The label is 62 by 29 mm, a common size of small labels, drawn in dots of 300 to the inch.
const (
	width, height = 732, 342
	margin        = 20
	codeSize      = 250
	textFrom      = codeSize + 2*margin
	nameSize      = 44
	lineSize      = 30
	lineStep      = 40
	mostLines     = 5
)

// code is the QR code of the address in modules, true where it is dark.
func (l Label) code() ([][]bool, error) {
	made, err := qr.Encode(l.Address, qr.M, qr.Auto)
	if err != nil {
		return nil, fmt.Errorf("the code of a label: %w", err)
	}
	size := made.Bounds().Dx()
	dark := make([][]bool, size)
	for y := range dark {
		dark[y] = make([]bool, size)
		for x := range dark[y] {
			r, _, _, _ := made.At(x, y).RGBA()
			dark[y][x] = r == 0
		}
	}
	return dark, nil
}

// lines are the name and what else there is room for, each with its baseline and size.
func (l Label) lines() (lines []line) {
	lines = append(lines, line{l.Name, margin + nameSize, nameSize, true})
	for i, text := range l.Lines[:min(mostLines, len(l.Lines))] {
		lines = append(lines, line{text, margin + nameSize + 14 + (i+1)*lineStep, lineSize, false})
	}
	return lines
}

type line struct {
	text     string
	baseline int
	size     float64
	bold     bool
}

// SVG is the label as a drawing of 62 by 29 mm.
func (l Label) SVG() ([]byte, error) {
	dark, err := l.code()
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	fmt.Fprintf(
		&out,
		`<svg xmlns="http://www.w3.org/2000/svg" width="62mm" height="29mm" viewBox="0 0 %d %d"><rect width="100%%" height="100%%" fill="#fff"/><path d="`,
		width,
		height,
	)
	module := float64(codeSize) / float64(len(dark))
	for y, row := range dark {
		for x, is := range row {
			if is {
				fmt.Fprintf(
					&out,
					"M%.2f %.2fh%.2fv%.2fh-%.2fz",
					margin+float64(x)*module,
					margin+float64(y)*module,
					module+0.05,
					module+0.05,
					module+0.05,
				)
			}
		}
	}
	out.WriteString(`"/>`)
	for _, t := range l.lines() {
		weight := "400"
		if t.bold {
			weight = "700"
		}
		fmt.Fprintf(
			&out,
			`<text x="%d" y="%d" font-family="sans-serif" font-size="%.0f" font-weight="%s">`,
			textFrom,
			t.baseline,
			t.size,
			weight,
		)
		if err := xml.EscapeText(&out, []byte(t.text)); err != nil {
			return nil, err
		}
		out.WriteString(`</text>`)
	}
	out.WriteString(`</svg>`)
	return out.Bytes(), nil
}

// PNG is the label in dots, black on white.
func (l Label) PNG() ([]byte, error) {
	dark, err := l.code()
	if err != nil {
		return nil, err
	}
	page := image.NewGray(image.Rect(0, 0, width, height))
	draw.Draw(page, page.Bounds(), image.White, image.Point{}, draw.Src)
	module := codeSize / len(dark)
	for y, row := range dark {
		for x, is := range row {
			if is {
				at := image.Rect(margin+x*module, margin+y*module, margin+(x+1)*module, margin+(y+1)*module)
				draw.Draw(page, at, image.Black, image.Point{}, draw.Src)
			}
		}
	}
	for _, t := range l.lines() {
		if err := write(page, t); err != nil {
			return nil, err
		}
	}
	var out bytes.Buffer
	err = png.Encode(&out, page)
	return out.Bytes(), err
}

// write draws a line of text, cut where the label ends.
func write(page *image.Gray, t line) error {
	body := goregular.TTF
	if t.bold {
		body = gobold.TTF
	}
	parsed, err := opentype.Parse(body)
	if err != nil {
		return err
	}
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: t.size, DPI: 72, Hinting: font.HintingFull})
	if err != nil {
		return err
	}
	defer face.Close()
	pen := font.Drawer{Dst: page, Src: image.NewUniform(color.Black), Face: face, Dot: fixed.P(textFrom, t.baseline)}
	pen.DrawString(
		fitting(t.text, func(text string) bool { return pen.MeasureString(text).Ceil() <= width-textFrom-margin }),
	)
	return nil
}

// fitting is as much of a text as there is room for.
func fitting(text string, fits func(string) bool) string {
	if fits(text) {
		return text
	}
	letters := []rune(text)
	for len(letters) > 0 && !fits(strings.TrimSpace(string(letters))+"…") {
		letters = letters[:len(letters)-1]
	}
	return strings.TrimSpace(string(letters)) + "…"
}
