package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/book"
	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

const formats = "../../docs/formats/"

func TestTheSchemasBesideTheFormatPageAreUpToDate(t *testing.T) {
	for name, of := range map[string]any{"studio.schema.json": &studio.Document{}, "plan.schema.json": &studio.Plan{}, "recipes.schema.json": &book.Bundle{}} {
		want, err := schemaOf(of, "../..")
		require.NoError(t, err)
		got, err := os.ReadFile(formats + name)
		require.NoError(t, err)
		assert.JSONEq(t, string(want), string(got), "make generate")
		assert.Contains(t, string(got), "description")
	}
}

func faults(t *testing.T, schema string, data []byte) error {
	compiled, err := jsonschema.NewCompiler().Compile(formats + schema)
	require.NoError(t, err)
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	require.NoError(t, err)
	return compiled.Validate(value)
}

func TestWhatTheProgramReadsAndWritesFitsTheSchemas(t *testing.T) {
	document, err := json.Marshal(demo.Document())
	require.NoError(t, err)
	assert.NoError(t, faults(t, "studio.schema.json", document))
	counted, err := count.Up(demo.Document())
	require.NoError(t, err)
	p, err := plan.Make(demo.Document(), counted, plan.Options{})
	require.NoError(t, err)
	data, err := json.Marshal(p)
	require.NoError(t, err)
	assert.NoError(t, faults(t, "plan.schema.json", data))
	recipes, err := json.Marshal(book.Export(demo.Document()))
	require.NoError(t, err)
	assert.NoError(t, faults(t, "recipes.schema.json", recipes))
	files, err := filepath.Glob(formats + "instances/*.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		schema := "plan.schema.json"
		if strings.Count(filepath.Base(file), ".") == 1 {
			schema = "studio.schema.json"
		}
		assert.NoError(t, faults(t, schema, data), file)
	}
	for _, c := range [][2]string{{`"gauge":26`, `"gauge":"26"`}, {`"unit":"mg"`, `"unit":"kg"`}, {`"now":`, `"then":`}, {`"day":"monday"`, `"day":"Monday"`}, {`"lossPerMille":80`, `"lossPerMille":-80`}} {
		require.Contains(t, string(document), c[0])
		assert.Error(
			t,
			faults(t, "studio.schema.json", []byte(strings.Replace(string(document), c[0], c[1], 1))),
			c[1],
		)
	}
}
