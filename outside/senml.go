package outside

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"regexp"
	"strings"
	"time"

	"bractum/core/climate"
	"bractum/core/studio"
)

// Sent is a sample with the device that sent it.
type Sent struct {
	Device string
	climate.Sample
}

// Unread is a record that cannot be read, and why.
type Unread struct {
	Record string `json:"record"`
	Why    string `json:"why"`
}

// ErrTooMany says that more records came at once than are taken.
var ErrTooMany = fmt.Errorf("more than %d records at once are not taken; send them in several packs", mostRecords)

const mostRecords = 20_000

// senML is one record of a pack as RFC 8428, section 4, has it.
type senML struct {
	BaseName    string   `json:"bn"`
	BaseTime    float64  `json:"bt"`
	BaseUnit    string   `json:"bu"`
	BaseValue   float64  `json:"bv"`
	BaseVersion *int     `json:"bver"`
	Name        string   `json:"n"`
	Unit        string   `json:"u"`
	Time        float64  `json:"t"`
	Value       *float64 `json:"v"`
}

const (
	// newestVersion of SenML is what a pack may have at most.
	newestVersion = 10
	// relative times are below 2^28 seconds (section 4.5.3).
	relative = 1 << 28
)

// nameOf is how names are written (section 4.5.1).
var nameOf = regexp.MustCompile(`^[A-Za-z0-9][-A-Za-z0-9:./_]*$`)

// ReadSenML reads a pack of temperatures and humidities. A record's name is its device's
// and, after the last of ":/.", that of the quantity; its unit says which that is. Records
// that cannot be read are named, the others count. An error means that nothing is a pack.
func ReadSenML(body []byte, calendar studio.Calendar, now studio.Minute) ([]Sent, []Unread, error) {
	decoder := json.NewDecoder(bytes.NewReader(body))
	var raw []json.RawMessage
	if err := decoder.Decode(&raw); err != nil {
		return nil, nil, fmt.Errorf("this is no SenML pack: a list of records is expected (%w)", err)
	}
	if _, err := decoder.Token(); !errors.Is(err, io.EOF) {
		return nil, nil, errors.New("this is no SenML pack: something follows its list of records")
	}
	if len(raw) > mostRecords {
		return nil, nil, ErrTooMany
	}
	var base senML
	g := newGathering()
	for i, one := range raw {
		at := fmt.Sprintf("record %d", i+1)
		if field := mustUnderstand(one); field != "" {
			return nil, nil, fmt.Errorf("%s has the field %q, which must be understood and is not", at, field)
		}
		var r senML
		if err := json.Unmarshal(one, &r); err != nil {
			g.refuse(at, "it is not a record: "+err.Error())
			continue
		}
		if r.BaseVersion != nil && *r.BaseVersion > newestVersion {
			return nil, nil, fmt.Errorf(
				"%s is of version %d; up to %d is understood",
				at,
				*r.BaseVersion,
				newestVersion,
			)
		}
		base = based(base, r, one)
		name, unit := base.BaseName+r.Name, r.Unit
		if unit == "" {
			unit = base.BaseUnit
		}
		switch {
		case r.Value == nil && r.Name == "" && r.Unit == "": // it only carries base fields
			continue
		case !nameOf.MatchString(name):
			g.refuse(at, fmt.Sprintf("%q is not how a name is written", name))
			continue
		case r.Value == nil:
			g.refuse(name, "it has no number as its value")
			continue
		}
		seconds := base.BaseTime + r.Time
		minute := now
		if seconds >= relative {
			minute = calendar.MinuteOf(time.Unix(0, 0).Add(time.Duration(seconds * float64(time.Second))))
		} else {
			minute += studio.Minute(math.Floor(seconds / 60))
		}
		g.take(name, unit, minute, base.BaseValue+*r.Value)
	}
	return g.sent, g.unread, nil
}

// mustUnderstand is a field that a reader may not pass over (section 4.4).
func mustUnderstand(record json.RawMessage) string {
	var fields map[string]json.RawMessage
	if json.Unmarshal(record, &fields) == nil {
		for field := range fields {
			if strings.HasSuffix(field, "_") {
				return field
			}
		}
	}
	return ""
}

// based are the base fields from a record on.
func based(base, r senML, record json.RawMessage) senML {
	var has map[string]json.RawMessage
	_ = json.Unmarshal(record, &has) // it was read before
	if _, set := has["bn"]; set {
		base.BaseName = r.BaseName
	}
	if _, set := has["bt"]; set {
		base.BaseTime = r.BaseTime
	}
	if _, set := has["bu"]; set {
		base.BaseUnit = r.BaseUnit
	}
	if _, set := has["bv"]; set {
		base.BaseValue = r.BaseValue
	}
	return base
}

// gathering puts the quantities of a device and a minute together.
type gathering struct {
	sent   []Sent
	unread []Unread
	at     map[string]int // by device and minute
}

func newGathering() *gathering { return &gathering{at: map[string]int{}} }

func (g *gathering) refuse(record, why string) {
	g.unread = append(g.unread, Unread{Record: record, Why: why})
}

// take counts a value. Units are those of the SenML registry, and what CSV columns say.
func (g *gathering) take(name, unit string, at studio.Minute, value float64) {
	if math.IsNaN(value) || math.Abs(value) > 1e6 {
		g.refuse(name, fmt.Sprintf("%g is no temperature and no humidity", value))
		return
	}
	temperature := true
	switch unit {
	case "Cel":
	case "K":
		value -= 273.15
	case "degF":
		value = (value - 32) / 1.8
	case "%RH", "%":
		temperature = false
	case "/":
		temperature, value = false, 100*value
	default:
		g.refuse(
			name,
			fmt.Sprintf(
				"its unit is %q; Cel, K or degF for a temperature and %%RH or / for a humidity are understood",
				unit,
			),
		)
		return
	}
	device := name
	if cut := strings.LastIndexAny(name, ":/."); cut > 0 {
		device = name[:cut]
	}
	key := fmt.Sprint(device, "@", at)
	i, begun := g.at[key]
	if !begun {
		i, g.at[key] = len(g.sent), len(g.sent)
		g.sent = append(g.sent, Sent{Device: device, Sample: climate.Sample{At: at}})
	}
	s := &g.sent[i]
	switch tenths := int64(math.Round(10 * value)); {
	case temperature && s.Celsius == nil:
		s.Celsius = &tenths
	case !temperature && s.Humidity == nil:
		s.Humidity = (*studio.PerMille)(&tenths)
	}
}
