package main

import (
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A studio is opened to a network once a lead has a password, set at its computer; a backup of it opens elsewhere with
// the same door.
func TestAStudioIsOpenedToItsNetworkOnceItIsLocked(t *testing.T) {
	folder, document := t.TempDir(), filepath.Join(t.TempDir(), "studio.json")
	out, _, code := bractum(t, "", "document", "season", "--start", "2026-11-29")
	require.Zero(t, code)
	require.NoError(t, os.WriteFile(document, []byte(out), 0o600))
	_, said, code := bractum(t, "", "serve", "--data", folder, "--from", document, "--listen", "0.0.0.0:0")
	assert.Equal(t, 2, code)
	assert.Contains(t, said, "no lead has a password yet")
	_, said, code = bractum(t, "", "serve", "--data", folder, "--listen", "everywhere")
	assert.Equal(t, 2, code)
	assert.Contains(t, said, "0.0.0.0:8080")
	_, said, code = bractum(t, "short\n", "password", "--data", folder)
	assert.Equal(t, 2, code)
	assert.Contains(t, said, "10 or more would be right")
	_, said, code = bractum(t, "three wet harbours\n", "password", "--data", folder, "--person", "Nobody")
	assert.Equal(t, 2, code)
	assert.Contains(t, said, "Odalys")
	out, _, code = bractum(t, "three wet harbours\n", "password", "--data", folder)
	require.Zero(t, code)
	assert.Contains(t, out, "Odalys signs in with it now")

	url, stop := running(t, "serve", "--data", folder, "--listen", "127.0.0.1:0", "--keep", "0")
	for path, wants := range map[string]int{"/api/orders": 401, "/api/access": 200, "/healthz": 200,
		"/": 200, "/root.crt": 404} {
		answer, err := http.Get(url + path)
		require.NoError(t, err)
		require.NoError(t, answer.Body.Close())
		assert.Equal(t, wants, answer.StatusCode, path)
	}
	backup := filepath.Join(t.TempDir(), "studio.bractum")
	_, said, code = bractum(t, "", "backup", "--data", folder, backup)
	require.Zero(t, code, said)
	stop()
	into := filepath.Join(t.TempDir(), "elsewhere")
	out, said, code = bractum(t, "", "restore", backup, "--data", into)
	require.Zero(t, code, said)
	assert.Contains(t, out, "Restored:")
	url, stop = running(t, "serve", "--data", into, "--keep", "0")
	defer stop()
	answer, err := http.Post(url+"/api/access/sign-in", "application/json",
		strings.NewReader(`{"name": "Odalys", "password": "three wet harbours"}`))
	require.NoError(t, err)
	defer answer.Body.Close()
	assert.Equal(t, 200, answer.StatusCode)
}
