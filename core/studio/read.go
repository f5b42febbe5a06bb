package studio

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
)

// MostBytes is the largest document or plan that is read.
const MostBytes = 64 << 20

// Problem is one thing wrong with a document: where, and what would be right.
type Problem struct {
	Place   string `json:"place"`
	Message string `json:"message"`
	// Says is the message as the catalogue of words has it.
	Says *Said `json:"says,omitempty"`
}

// Flaw is a problem in words that stand in the program.
func Flaw(place, english string, with ...any) Problem {
	said := Say(english, with...)
	return Problem{Place: place, Message: said.String(), Says: &said}
}

func (p Problem) Error() string { return p.Place + ": " + p.Message }

// Words are the message, without its place.
func (p Problem) Words() Said {
	if p.Says == nil {
		return Say("%s", p.Message)
	}
	return *p.Says
}

// Problems are all things found wrong; they are an error together.
type Problems []Problem

func (ps Problems) Error() string {
	lines := make([]string, len(ps))
	for i, p := range ps {
		lines[i] = p.Error()
	}
	return strings.Join(lines, "\n")
}

// Read reads one document, fills in default settings and validates it. Documents
// of earlier versions are lifted to this one; later ones are refused. The error
// is Problems when the JSON was readable.
func Read(r io.Reader) (*Document, error) {
	doc := Document{Settings: DefaultSettings()}
	var head bytes.Buffer
	if err := Decode(io.TeeReader(r, &head), MostBytes, &doc); err != nil {
		return nil, err
	}
	problems := missing(head.Bytes(), "format", "version", "name", "epoch", "zone", "now")
	doc.lift()
	if problems = append(problems, doc.Validate()...); len(problems) > 0 {
		return nil, problems
	}
	return &doc, nil
}

// missing are the fields of a JSON object that have to be there and are not.
func missing(data []byte, fields ...string) (problems Problems) {
	var there map[string]json.RawMessage
	if json.Unmarshal(data, &there) != nil {
		return nil // it was read already
	}
	for _, field := range fields {
		if _, is := there[field]; !is {
			problems = append(problems, Flaw(field, "is missing"))
		}
	}
	return problems
}

// ReadPlan reads a plan file. Whether the plan holds is the checker's question.
func ReadPlan(r io.Reader) (*Plan, error) {
	var plan Plan
	if err := Decode(r, MostBytes, &plan); err != nil {
		return nil, err
	}
	if plan.Format == PlanFormat && plan.Version >= 1 && plan.Version < Version {
		plan.Version = Version // a plan says the same in all versions
	}
	if plan.Format != PlanFormat || plan.Version != Version {
		return nil, Problem{Place: "format", Message: fmt.Sprintf("is %q version %d; this program reads %q version %d",
			plan.Format, plan.Version, PlanFormat, Version)}
	}
	return &plan, nil
}

// Decode reads exactly one JSON value of at most so many bytes; unknown fields are
// errors, which give line and column.
func Decode(r io.Reader, most int64, into any) error {
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if err != nil {
		return fmt.Errorf("reading: %w", err)
	}
	if int64(len(data)) > most {
		return fmt.Errorf("larger than %d MiB", most>>20)
	}
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(into); err != nil {
		offset := decoder.InputOffset()
		var syntax *json.SyntaxError
		var kind *json.UnmarshalTypeError
		switch {
		case errors.Is(err, io.EOF):
			return errors.New("line 1: the file is empty; a JSON object was expected")
		case errors.As(err, &syntax):
			offset = syntax.Offset
		case errors.As(err, &kind):
			return fmt.Errorf(
				"%s, %s: a %s stands where a %s belongs",
				position(data, kind.Offset),
				kind.Field,
				kind.Value,
				kind.Type,
			)
		}
		return fmt.Errorf("%s: %s", position(data, offset), strings.TrimPrefix(err.Error(), "json: "))
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return fmt.Errorf("%s: something follows the end of the JSON value", position(data, decoder.InputOffset()))
	}
	return nil
}

func position(data []byte, offset int64) string {
	before := data[:min(int(offset), len(data))]
	line := bytes.Count(before, []byte("\n")) + 1
	return fmt.Sprintf("line %d, column %d", line, len(before)-bytes.LastIndexByte(before, '\n'))
}
