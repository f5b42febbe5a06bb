package book

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"bractum/core/studio"
)

// columns of the parts table as CSV, in this order. Lengths are in millimetres, masses
// in grams; rows are joined by +, a count settled by eye is its least to its most.
var columns = []string{
	"part",
	"variant",
	"form",
	"step",
	"count",
	"rows",
	"set",
	"join",
	"shape",
	"length_mm",
	"width_mm",
	"thickness_mm",
	"diameter_mm",
	"mass_g",
	"wire",
	"wires",
	"depth_mm",
	"stem_mm",
	"allowance_mm",
}

// PartsCSV writes the parts table of a flower: a line for each of its inputs, with the
// size of the part and its wire.
func PartsCSV(doc *studio.Document, index *studio.Book, flower *studio.Recipe) []byte {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	lines := [][]string{columns}
	for _, p := range flower.Parts {
		part := index.Recipe(p.Recipe)
		if made := index.Of(p.Made()); made != nil {
			named := *made
			named.Name = part.Name
			lines = append(lines, line(index, p, &named))
		}
	}
	if err := w.WriteAll(lines); err != nil {
		panic(err) // a buffer takes everything
	}
	return out.Bytes()
}

func line(index *studio.Book, p studio.PartInput, part *studio.Recipe) []string {
	count := strconv.FormatInt(p.Count, 10)
	if p.Least != nil {
		count = fmt.Sprintf("%d-%d", *p.Least, p.Count)
	}
	rows := make([]string, len(p.Rows))
	for i, n := range p.Rows {
		rows[i] = strconv.FormatInt(n, 10)
	}
	cells := []string{
		part.Name,
		p.Variant,
		p.Form,
		p.Step,
		count,
		strings.Join(rows, "+"),
		string(p.Set),
		string(p.Join),
		"",
		"",
		"",
		"",
		"",
		"",
		"",
		"",
		"",
		"",
		"",
	}
	if len(part.Pastes) > 0 {
		g := part.Pastes[0].Shape
		copy(
			cells[8:],
			[]string{
				string(g.Shape),
				thousandths(g.Length),
				thousandths(g.Width),
				thousandths(g.Thickness),
				thousandths(g.Diameter),
				thousandths(g.Mass),
			},
		)
	}
	if len(part.Wires) > 0 {
		w := part.Wires[0]
		if m := index.Material(w.Material); m != nil {
			copy(
				cells[14:],
				[]string{
					m.Name,
					strconv.FormatInt(w.Number, 10),
					thousandths(w.Depth),
					thousandths(w.Stem),
					thousandths(w.Allowance),
				},
			)
		}
	}
	return cells
}

// thousandths writes a small unit in its thousandfold one, exactly.
func thousandths[T ~int64](n T) string {
	if n == 0 {
		return ""
	}
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%d.%03d", int64(n)/1000, int64(n)%1000), "0"), ".")
}

// WithPartsCSV is a flower and its parts as a parts table has them: inputs are set as
// the lines say, in their order, and the sizes and wires of parts in no variant follow.
// A part that the flower does not have yet is one of the book by name, or a new one
// made as the part on the line above. Only recipes that the table changes are returned,
// the flower first. Errors are studio.Problems with the line.
func WithPartsCSV(
	doc *studio.Document,
	index *studio.Book,
	flower studio.Recipe,
	table io.Reader,
	newID func() studio.ID,
) ([]studio.Recipe, error) {
	r := csv.NewReader(io.LimitReader(table, MostBytes))
	r.FieldsPerRecord = len(columns)
	lines, err := r.ReadAll()
	var unread *csv.ParseError
	if errors.As(err, &unread) {
		return nil, studio.Problems{
			{
				Place:   fmt.Sprintf("line %d", unread.Line),
				Message: fmt.Sprintf("%v; the columns are %s", unread.Err, strings.Join(columns, ", ")),
			},
		}
	}
	if err != nil {
		return nil, err
	}
	if len(lines) < 2 || !slices.Equal(lines[0], columns) {
		return nil, studio.Problems{
			{Place: "line 1", Message: "is not the heading of a parts table: " + strings.Join(columns, ",")},
		}
	}
	t := &partsTable{doc: doc, index: index, newID: newID, flower: copied(flower), parts: map[string]*studio.Recipe{}}
	inputs := t.flower.Parts
	t.flower.Parts = nil
	for i, cells := range lines[1:] {
		t.line(i+2, cells, inputs)
	}
	if len(t.problems) > 0 {
		return nil, t.problems
	}
	changed := []studio.Recipe{t.flower}
	for _, name := range t.order {
		if part := t.parts[name]; index.Recipe(part.ID) == nil || written(*part) != t.was[name] {
			changed = append(changed, *part)
		}
	}
	return changed, nil
}

type partsTable struct {
	doc      *studio.Document
	index    *studio.Book
	newID    func() studio.ID
	flower   studio.Recipe
	parts    map[string]*studio.Recipe
	was      map[string]string
	order    []string
	above    *studio.Recipe
	problems studio.Problems
}

func (t *partsTable) say(line int, column, english string, with ...any) {
	t.problems = append(t.problems, studio.Flaw(fmt.Sprintf("line %d, %s", line, column), english, with...))
}

// part is the recipe of a name: of the book, or made as the part on the line above.
func (t *partsTable) part(name string) *studio.Recipe {
	if known := t.parts[name]; known != nil {
		return known
	}
	var found *studio.Recipe
	for _, r := range t.doc.Current() {
		if r.Name == name && r.Kind != studio.KindMix {
			twin := copied(*r)
			found = &twin
		}
	}
	if found == nil && t.above != nil {
		twin := copied(*t.above)
		twin.ID = t.newID()
		twin.Recipe, twin.Revision, twin.Name = twin.ID, 0, name
		found = &twin
	}
	if found != nil {
		if t.was == nil {
			t.was = map[string]string{}
		}
		t.parts[name], t.was[name], t.order = found, written(*found), append(t.order, name)
	}
	return found
}

func (t *partsTable) line(at int, cells []string, inputs []studio.PartInput) {
	cell := func(column string) string { return strings.TrimSpace(cells[slices.Index(columns, column)]) }
	part := t.part(cell("part"))
	if cell("part") == "" || part == nil {
		t.say(at, "part", "no part %q is in the flower book, and none stands above it to make it like", cell("part"))
		return
	}
	t.above = part
	whole := func(column string) int64 { return t.whole(at, column, cell(column)) }
	size := func(column string) studio.Micrometres {
		return studio.Micrometres(t.thousandfold(at, column, cell(column)))
	}
	in := studio.PartInput{Step: cell("step")}
	if i := slices.IndexFunc(inputs, func(p studio.PartInput) bool {
		return p.Recipe == part.ID && p.Variant == cell("variant") && p.Form == cell("form") && (p.Step == cell("step") || cell("step") == "")
	}); i >= 0 {
		in = inputs[i]
	}
	in.Recipe, in.Variant, in.Form, in.Set, in.Join, in.Rows, in.Least = part.ID, cell(
		"variant",
	), cell(
		"form",
	), studio.Set(
		cell("set"),
	), studio.Join(
		cell("join"),
	), nil, nil
	if in.Step == "" && len(t.flower.Steps) > 0 {
		in.Step = t.flower.Steps[0].Key
	}
	if least, most, ranged := strings.Cut(cell("count"), "-"); ranged {
		n := t.whole(at, "count", least)
		in.Least, in.Count = &n, t.whole(at, "count", most)
	} else {
		in.Count = whole("count")
	}
	for _, row := range strings.Split(cell("rows"), "+") {
		if row != "" {
			in.Rows = append(in.Rows, t.whole(at, "rows", row))
		}
	}
	t.flower.Parts = append(t.flower.Parts, in)
	if cell("variant") != "" {
		return // its size is the variant's own
	}
	if len(part.Pastes) > 0 && cell("shape") != "" {
		g := &part.Pastes[0].Shape
		g.Shape = studio.Shape(cell("shape"))
		g.Length, g.Width, g.Thickness, g.Diameter = size(
			"length_mm",
		), size(
			"width_mm",
		), size(
			"thickness_mm",
		), size(
			"diameter_mm",
		)
		g.Mass = studio.Milligrams(t.thousandfold(at, "mass_g", cell("mass_g")))
	}
	if len(part.Wires) > 0 && cell("wire") != "" {
		w := &part.Wires[0]
		i := slices.IndexFunc(
			t.doc.Materials,
			func(m studio.Material) bool { return m.Name == cell("wire") && m.Wire != nil },
		)
		if i < 0 {
			t.say(at, "wire", "no wire %q", cell("wire"))
			return
		}
		w.Material, w.Number, w.Depth, w.Stem, w.Allowance = t.doc.Materials[i].ID, whole(
			"wires",
		), size(
			"depth_mm",
		), size(
			"stem_mm",
		), size(
			"allowance_mm",
		)
	}
}

func (t *partsTable) whole(at int, column, text string) int64 {
	n, err := strconv.ParseInt(strings.TrimSpace(text), 10, 64)
	if err != nil || n < 0 {
		t.say(at, column, "%q is not a whole number", text)
	}
	return n
}

// thousandfold reads a decimal number of at most three places, exactly.
func (t *partsTable) thousandfold(at int, column, text string) int64 {
	if text == "" {
		return 0
	}
	whole, part, _ := strings.Cut(text, ".")
	n, err := strconv.ParseInt(whole+(part + "000")[:3], 10, 64)
	if err != nil || n < 0 || len(part) > 3 {
		t.say(at, column, "%q is not a number with at most three places", text)
	}
	return n
}
