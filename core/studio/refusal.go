package studio

import "fmt"

// Refusal says why something cannot be recorded, and what to do instead. Confirm names
// the field by which somebody may say that it is so all the same; none where nobody may.
type Refusal struct {
	Message string
	Confirm string
}

func (r Refusal) Error() string { return r.Message }

// Refuse is a refusal in words that nobody may overrule.
func Refuse(format string, args ...any) error { return Refusal{Message: fmt.Sprintf(format, args...)} }
