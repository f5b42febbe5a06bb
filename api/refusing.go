package api

import (
	"encoding/json"
	"errors"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
)

// ErrorModel is an RFC 9457 problem: what happened, what is safe, what to do, in English; and beside it the same as
// the catalogue of words has it, so that it can be said in another language and in the studio's units.
type ErrorModel struct {
	Title  string       `json:"title,omitempty"`
	Status int          `json:"status,omitempty"`
	Detail string       `json:"detail,omitempty" doc:"in English"`
	Says   *studio.Said `json:"says,omitempty" doc:"the detail as a message of the catalogue of words, where it is one"`
	Errors []*Fault     `json:"errors,omitempty"`
}

// Fault is what is wrong at one place of a request.
type Fault struct {
	Location string       `json:"location,omitempty"`
	Message  string       `json:"message,omitempty" doc:"in English"`
	Says     *studio.Said `json:"says,omitempty"`
	Value    any          `json:"value,omitempty"`
}

func (e *ErrorModel) Error() string { return e.Detail }

// GetStatus is the HTTP status to answer with.
func (e *ErrorModel) GetStatus() int { return e.Status }

// ContentType is that of a problem.
func (*ErrorModel) ContentType(string) string { return "application/problem+json" }

func (f *Fault) Error() string { return f.Message }

// saying is an answer in words of the catalogue.
func saying(status int, said studio.Said, faults ...error) error {
	e := newError(status, said.String(), faults...).(*ErrorModel)
	e.Says = &said
	return e
}

// newError is the one way in which errors become answers.
func newError(status int, message string, faults ...error) huma.StatusError {
	e := &ErrorModel{Title: http.StatusText(status), Status: status, Detail: message}
	for _, err := range faults {
		var own *Fault
		var other huma.ErrorDetailer
		switch {
		case err == nil:
		case errors.As(err, &own):
			e.Errors = append(e.Errors, own)
		case errors.As(err, &other):
			d := other.ErrorDetail()
			e.Errors = append(e.Errors, &Fault{Location: d.Location, Message: d.Message, Value: d.Value})
		default:
			e.Errors = append(e.Errors, &Fault{Message: err.Error()})
		}
	}
	return e
}

// answerWith writes an error as what a request is answered with.
func answerWith(ctx huma.Context, status huma.StatusError) {
	ctx.SetHeader("Content-Type", "application/problem+json")
	ctx.SetStatus(status.GetStatus())
	_ = json.NewEncoder(ctx.BodyWriter()).Encode(status) // the client is gone if this fails
}
