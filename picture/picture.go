// Package picture makes photos and drawings from anywhere harmless before they are
// kept: bitmaps are decoded and encoded anew, drawings keep only what draws.
package picture

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"io"
	"net/http"
	"slices"
	"strings"

	"golang.org/x/image/draw"
)

// Limits of what is taken: bytes of a file, and pixels of what it unfolds to. What is
// kept is at most MostAcross wide or high.
const (
	MostBytes  = 6 << 20
	mostPixels = 25_000_000
	MostAcross = 1600
)

// Media types that are kept.
const (
	PNG  = "image/png"
	JPEG = "image/jpeg"
	SVG  = "image/svg+xml"
)

// Clean makes a file harmless: it finds out what it is by looking inside, and gives the
// type and the bytes to keep. The error says what is wrong with it.
func Clean(data []byte) (media string, clean []byte, err error) {
	if len(data) > MostBytes {
		return "", nil, fmt.Errorf("is larger than %d MiB", MostBytes>>20)
	}
	switch media = http.DetectContentType(data); {
	case media == PNG || media == JPEG:
		clean, err = bitmap(data, media)
		return media, clean, err
	case strings.HasPrefix(media, "text/") && bytes.Contains(data, []byte("<svg")):
		clean, err = drawing(data)
		return SVG, clean, err
	}
	return "", nil, errors.New("is no PNG, JPEG or SVG picture")
}

func bitmap(data []byte, media string) ([]byte, error) {
	config, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("cannot be read as a picture: %w", err)
	}
	if config.Width*config.Height > mostPixels {
		return nil, fmt.Errorf(
			"has %d million pixels; at most %d would be right",
			config.Width*config.Height/1_000_000,
			mostPixels/1_000_000,
		)
	}
	picture, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("cannot be read as a picture: %w", err)
	}
	for most := max(config.Width, config.Height); most > MostAcross; {
		most = max(MostAcross, (most+1)/2) // halves are as good as a wide kernel, and take no memory of their own
		whole := max(config.Width, config.Height)
		small := image.NewRGBA(image.Rect(0, 0, max(1, config.Width*most/whole), max(1, config.Height*most/whole)))
		draw.ApproxBiLinear.Scale(small, small.Bounds(), picture, picture.Bounds(), draw.Src, nil)
		picture = small
	}
	var out bytes.Buffer
	if media == PNG {
		err = png.Encode(&out, picture)
	} else {
		err = jpeg.Encode(&out, picture, &jpeg.Options{Quality: 88})
	}
	return out.Bytes(), err
}

// What draws: elements and attributes of a drawing that are kept.
var (
	elements = strings.Fields(
		"svg g defs title desc path rect circle ellipse line polyline polygon text tspan linearGradient radialGradient stop clipPath mask pattern symbol use marker",
	)
	attrs = strings.Fields(
		"id class d x y x1 y1 x2 y2 cx cy r rx ry fx fy width height points transform viewBox preserveAspectRatio fill fill-opacity fill-rule stroke stroke-width stroke-opacity " +
			"stroke-linecap stroke-linejoin stroke-dasharray stroke-dashoffset stroke-miterlimit opacity offset stop-color stop-opacity gradientUnits gradientTransform spreadMethod clip-path clip-rule " +
			"mask patternUnits patternTransform markerWidth markerHeight refX refY orient marker-start marker-mid marker-end font-family font-size font-weight font-style text-anchor dominant-baseline version",
	)
)

const space = "http://www.w3.org/2000/svg"

// drawing writes anew the elements and attributes that draw and leaves out everything
// else: scripts, styles, links, foreign content, entities.
func drawing(data []byte) ([]byte, error) {
	in := xml.NewDecoder(bytes.NewReader(data))
	var out bytes.Buffer
	writer := xml.NewEncoder(&out)
	depth, skipped := 0, 0
	for {
		token, err := in.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("cannot be read as a drawing: %w", err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			if depth == 0 && t.Name.Local != "svg" {
				return nil, errors.New("is no drawing: its outermost element is not svg")
			}
			depth++
			if skipped > 0 || !slices.Contains(elements, t.Name.Local) {
				skipped++
				continue
			}
			err = writer.EncodeToken(xml.StartElement{Name: xml.Name{Local: t.Name.Local}, Attr: kept(t.Attr, depth == 1)})
		case xml.EndElement:
			depth--
			if skipped > 0 {
				skipped--
				continue
			}
			err = writer.EncodeToken(xml.EndElement{Name: xml.Name{Local: t.Name.Local}})
		case xml.CharData:
			if skipped == 0 && depth > 0 {
				err = writer.EncodeToken(t)
			}
		}
		if err != nil {
			return nil, err
		}
	}
	if err := writer.Flush(); err != nil {
		return nil, fmt.Errorf("cannot be read as a drawing: %w", err)
	}
	return out.Bytes(), nil
}

func kept(all []xml.Attr, outermost bool) []xml.Attr {
	var some []xml.Attr
	if outermost {
		some = append(some, xml.Attr{Name: xml.Name{Local: "xmlns"}, Value: space})
	}
	for _, a := range all {
		within := a.Name.Local == "href" && strings.HasPrefix(a.Value, "#")
		harmless := slices.Contains(attrs, a.Name.Local) && !outward(a.Value)
		if within || harmless {
			some = append(some, xml.Attr{Name: xml.Name{Local: a.Name.Local}, Value: a.Value})
		}
	}
	return some
}

// outward is true of a value that fetches something: only url(#…) points inside.
func outward(value string) bool {
	flat := strings.ToLower(strings.Join(strings.Fields(value), ""))
	return strings.Contains(strings.ReplaceAll(flat, "url(#", ""), "url(") || strings.Contains(flat, "javascript:") ||
		strings.Contains(flat, "data:")
}
