// Schema writes the JSON Schemas of the studio document, of the plan and of files of
// recipes, from the types of core/studio and core/book and their comments, into a folder. Run it from the top of the
// source tree: make generate does.
package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"time"

	"github.com/invopop/jsonschema"

	"bractum/core/book"
	"bractum/core/studio"
)

// words are the values that a type may take.
var words = map[reflect.Type][]any{
	reflect.TypeFor[studio.Unit](): {studio.UnitMilligrams, studio.UnitMicrometres, studio.UnitPieces},
	reflect.TypeFor[studio.OrderState](): {
		studio.OrderOpen,
		studio.OrderQuote,
		studio.OrderCancelled,
		studio.OrderLeft,
	},
	reflect.TypeFor[studio.Quality]():   {studio.Good, studio.Second},
	reflect.TypeFor[studio.TaskState](): {studio.TaskPlanned, studio.TaskStarted, studio.TaskPaused, studio.TaskDone},
	reflect.TypeFor[studio.Kind]():      {studio.KindMix, studio.KindPart, studio.KindFlower, studio.KindSpray},
	reflect.TypeFor[studio.Build]():     {studio.InsideOut, studio.OutsideIn},
	reflect.TypeFor[studio.Set]():       {studio.SetOverGaps, studio.SetLevel, studio.SetAlternating},
	reflect.TypeFor[studio.Join](): {
		studio.JoinTaped,
		studio.JoinGlued,
		studio.JoinWet,
		studio.JoinSlotted,
		studio.JoinThreaded,
		studio.JoinIced,
	},
	reflect.TypeFor[studio.Shape](): {
		studio.Shape(""),
		studio.ShapeCut,
		studio.ShapeBall,
		studio.ShapeRope,
		studio.ShapeWeighed,
	},
	reflect.TypeFor[studio.Hook](): {
		studio.HookOpen,
		studio.HookClosed,
		studio.HookTapeWound,
		studio.HookStraight,
	},
	reflect.TypeFor[studio.SpareRule](): {
		studio.SparesByBreakage,
		studio.SparesByNumber,
		studio.SparesByPercent,
		studio.SparesNone,
	},
	reflect.TypeFor[studio.Condition](): {studio.WantsSoft, studio.WantsFirm, studio.WantsDry, studio.WantsAny},
	reflect.TypeFor[studio.State]():     {studio.Firm, studio.Stiff, studio.Dry},
	reflect.TypeFor[studio.Reset]():     {studio.ResetNever, studio.ResetNight, studio.ResetOtherWork},
	reflect.TypeFor[studio.Weekday](): {
		"monday",
		"tuesday",
		"wednesday",
		"thursday",
		"friday",
		"saturday",
		"sunday",
	},
}

// patterns are the shapes of what is written as text.
var patterns = map[reflect.Type]string{
	reflect.TypeFor[studio.TimeOfDay](): `^([01]\d|2[0-3]):[0-5]\d$|^24:00$`,
	reflect.TypeFor[studio.Date]():      `^\d{4}-\d{2}-\d{2}$`,
	reflect.TypeFor[studio.WallTime]():  `^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$`,
}

// required are the fields that a thing has not got its meaning without; all others
// may be left out.
var required = map[string]string{
	"Document": "format version name epoch zone now", "Material": "id name unit", "Wire": "gauge lengthMicrometres", "Air": "tenthsCelsius humidityPerMille",
	"DryingClass": "id name firmMinutes stiffMinutes dryMinutes thicknessMicrometres stallHumidityPerMille", "Method": "id name factorPerMille", "Place": "id name slots",
	"Tool": "id name number", "Machine": "id name slots", "Gate": "id name", "Family": "id name fullMinutes", "Change": "from to minutes", "Surroundings": "id name hours", "Reading": "hour",
	"Person": "id name", "Skill": "skill paceHundredths", "DayHours": "day from to", "BreakTime": "from to", "Span": "from to",
	"Recipe": "id name kind steps spares", "Step": "key name", "Work": "skill", "Hold": "place perSlot", "PartInput": "step recipe count", "PasteInput": "step slot shape",
	"MaterialInput": "step material amount", "WireInput": "step material number", "Geometry": "shape", "Spares": "rule", "Yield": "step gives", "Form": "name sharePerMille", "Variant": "name",
	"Order": "id name leaves importance state lines", "OrderLine": "id recipe colourway quantity serviceLevelPerMille", "ShelfLot": "id recipe amount quality madeOn",
	"Technique": "question as schools", "Silence": "rule reason", "Picture": "id name", "Between": "least most", "Bundle": "format version recipes", "Image": "id media data",
	"WorkLot": "id recipe ordinal need started records", "TaskRecord": "step state start", "Colourway": "id name slots",
	"Instance": "lots orders", "Routing": "id tasks", "Activity": "id", "Effort": "skill", "Stay": "least", "MachineUse": "anyOf setting slots", "ToolUse": "anyOf number",
	"Occupation": "place slots until", "ColourUse": "family mix", "Fact": "state start", "Lag": "from to", "Want": "id readyBy importance lots", "Pin": "task", "Seen": "task start",
	"Dries": "class thicknessMicrometres state", "Plan": "format version now tasks", "Task": "id lot state start end", "Held": "place slots from to",
	"Objective": "weightedLateness overtimeMinutes setupMinutes slackMinutes disturbance", "Outcome": "order readyBy late lateSteps", "Share": "machine setting slots", "Unplaced": "task",
}

func main() {
	if len(os.Args) != 2 {
		fmt.Fprintln(os.Stderr, "schema FOLDER")
		os.Exit(2)
	}
	for name, of := range map[string]any{"studio.schema.json": &studio.Document{}, "plan.schema.json": &studio.Plan{}, "recipes.schema.json": &book.Bundle{}} {
		data, err := schemaOf(of, ".")
		if err == nil {
			err = os.WriteFile(filepath.Join(os.Args[1], name), data, 0o644)
		}
		if err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(2)
		}
	}
}

// schemaOf is the schema of a type, described by the comments of the source tree.
func schemaOf(value any, source string) ([]byte, error) {
	r := jsonschema.Reflector{Anonymous: true, RequiredFromJSONSchemaTags: true, Mapper: small}
	for _, of := range []string{"/studio", "/book"} {
		if err := r.AddGoComments("bractum", filepath.Join(source, "core"+of), jsonschema.WithFullComment()); err != nil {
			return nil, err
		}
		for at, comment := range r.CommentMap { // keyed by the folder, whatever the source tree is called
			if i := strings.LastIndex(at, of); i >= 0 {
				r.CommentMap["bractum/core"+of+at[i+len(of):]] = strings.Join(strings.Fields(comment), " ")
			}
		}
	}
	s := r.Reflect(value)
	for name, definition := range s.Definitions {
		if fields, known := required[name]; known {
			definition.Required = strings.Fields(fields)
		}
	}
	return json.MarshalIndent(s, "", "  ")
}

// small is the schema of a value type: its words, its pattern or its range.
func small(t reflect.Type) *jsonschema.Schema {
	if all, known := words[t]; known {
		return &jsonschema.Schema{Type: "string", Enum: all}
	}
	if pattern, known := patterns[t]; known {
		return &jsonschema.Schema{Type: "string", Pattern: pattern}
	}
	if t == reflect.TypeFor[time.Time]() {
		return &jsonschema.Schema{Type: "string", Format: "date-time"}
	}
	if least, most, known := studio.RangeOf(t); known {
		return &jsonschema.Schema{
			Type:    "integer",
			Minimum: json.Number(fmt.Sprint(least)),
			Maximum: json.Number(fmt.Sprint(most)),
		}
	}
	return nil
}
