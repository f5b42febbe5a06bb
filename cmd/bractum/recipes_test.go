package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/demo"
	"bractum/store"
)

// A flower is written out of one studio and taken into another, whose journal has it
// as one line; a second time it brings nothing; a file that clashes brings nothing
// until somebody has chosen.
func TestRecipesGoOutAndComeInOnTheCommandLine(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "studio")
	s, err := store.Open(t.Context(), folder, store.Options{})
	require.NoError(t, err)
	require.NoError(t, s.Seed(t.Context(), demo.Document(), true))
	require.NoError(t, s.Close())

	dahlia, _, code := bractum(t, "", "export", "--data", folder, "Dahlia")
	require.Equal(t, exitAnswer, code)
	assert.NotContains(t, dahlia, "Gardenia")
	changed := strings.Replace(dahlia, `"lengthMicrometres": 58000`, `"lengthMicrometres": 60000`, 1)
	require.NotEqual(t, dahlia, changed)
	_, said, code := bractum(t, changed, "import", "--data", folder, "--dry-run", "-")
	assert.Equal(t, exitAnswer, code)
	assert.Contains(t, said, "changed   part          Dahlia petal, large take")
	assert.Contains(t, said, "58000 → 60000")
	_, said, code = bractum(t, changed, "import", "--data", folder, "--person", "Maren", "-")
	require.Equal(t, exitAnswer, code, said)
	again, _, _ := bractum(t, "", "export", "--data", folder, "Dahlia")
	assert.Contains(t, again, `"lengthMicrometres": 60000`)
	table, _, code := bractum(t, "", "export", "--data", folder, "--parts", "Dahlia")
	assert.Equal(t, exitAnswer, code)
	assert.Contains(t, table, "cut,60,24,0.65")

	_, said, code = bractum(t, dahlia, "import", "--data", folder, "-")
	assert.Equal(t, exitUnusable, code)
	assert.Contains(t, said, "revised-since ours=2 theirs=1")
	assert.Contains(t, said, "Nothing was taken")

	document, _, _ := bractum(t, "", "document", "demo")
	file := filepath.Join(t.TempDir(), "demo.json")
	require.NoError(t, os.WriteFile(file, []byte(document), 0o600))
	merged, said, code := bractum(t, changed, "import", "--document", file, "-")
	require.Equal(t, exitAnswer, code, said)
	_, said, code = bractum(t, merged, "count", "-")
	assert.Equal(t, exitAnswer, code, said)
	_, said, code = bractum(t, "{}", "import", "--data", folder, "-")
	assert.Equal(t, exitUnusable, code)
	assert.Contains(t, said, `this program reads "bractum-recipes" version 2`)
	_, _, code = bractum(t, "", "export", "--data", folder, "No such flower")
	assert.Equal(t, exitUnusable, code)
}
