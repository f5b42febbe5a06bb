package main

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/count"
	"bractum/core/plan/check"
	"bractum/core/studio"
)

// TestMain lets the test binary be the program itself.
func TestMain(m *testing.M) {
	if os.Getenv("BRACTUM_RUN") != "" {
		main()
	}
	os.Exit(m.Run())
}

// bractum runs the program and gives its output, messages and exit code.
func bractum(t *testing.T, input string, arguments ...string) (string, string, int) {
	command := exec.Command(os.Args[0], arguments...)
	command.Env = append(os.Environ(), "BRACTUM_RUN=1")
	command.Stdin = strings.NewReader(input)
	var out, messages bytes.Buffer
	command.Stdout, command.Stderr = &out, &messages
	err := command.Run()
	if _, exited := err.(*exec.ExitError); err != nil && !exited {
		require.NoError(t, err)
	}
	return out.String(), messages.String(), command.ProcessState.ExitCode()
}

func TestFromDocumentToCheckedPlanOnTheCommandLine(t *testing.T) {
	document, _, code := bractum(t, "", "document", "demo")
	require.Equal(t, exitAnswer, code)
	file := filepath.Join(t.TempDir(), "demo.json")
	require.NoError(t, os.WriteFile(file, []byte(document), 0o600))

	counted, _, code := bractum(t, document, "count", "-")
	require.Equal(t, exitAnswer, code)
	var result count.Result
	require.NoError(t, json.Unmarshal([]byte(counted), &result))
	assert.NotEmpty(t, result.Lots)

	plan, _, code := bractum(t, "", "plan", file)
	require.Equal(t, exitAnswer, code)
	again, _, _ := bractum(t, document, "plan", "-")
	assert.Equal(t, plan, again, "to the byte")

	verdict, _, code := bractum(t, plan, "check", file, "-")
	assert.Equal(t, exitAnswer, code)
	var report check.Report
	require.NoError(t, json.Unmarshal([]byte(verdict), &report))
	assert.Empty(t, report.Breaches)
	assert.NotEmpty(t, report.Orders)

	var broken studio.Plan
	require.NoError(t, json.Unmarshal([]byte(plan), &broken))
	broken.Objective.Lateness += 7
	spoilt, err := json.Marshal(broken)
	require.NoError(t, err)
	verdict, _, code = bractum(t, string(spoilt), "check", file, "-")
	assert.Equal(t, exitBreaches, code)
	assert.Contains(t, verdict, "objective-wrong")
}

func TestUnusableInputSaysWhereAndExitsWithTwo(t *testing.T) {
	document, _, _ := bractum(t, "", "document", "demo")
	for _, c := range []struct {
		name, input string
		arguments   []string
		says        string
	}{
		{"an unknown field", strings.Replace(document, `"step": "tape",`, `"step": "tape", "glue": 1,`, 1), []string{"count", "-"}, `unknown field "glue"`},
		{"no such file", "", []string{"plan", "nowhere.json"}, "nowhere.json"},
		{"not JSON", "petals", []string{"plan", "-"}, "line 1, column"},
		{"two from standard input", "", []string{"check", "-", "-"}, "only one of document and plan"},
		{"a plan that is none", document, []string{"check", "-", os.Args[0]}, "not usable"},
		{"weeks that are too many", document, []string{"rehearse", "-", "--weeks", "90"},
			"--weeks is 90; from 2 to 26 would be right"},
		{"an unknown command", "", []string{"bake"}, "bake"},
		{"a negative quantity", strings.Replace(document, `"quantity": 4`, `"quantity": -4`, 1), []string{"plan", "-"}, `orders[0] "Ferry crew".lines[0].quantity: is -4; from 1 to 5000 would be right`},
	} {
		t.Run(c.name, func(t *testing.T) {
			out, messages, code := bractum(t, c.input, c.arguments...)
			assert.Equal(t, exitUnusable, code)
			assert.Contains(t, messages, c.says)
			assert.NotContains(t, out, `"lots"`)
		})
	}
}
