package store_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/store"
)

// A language is a file in the studio's folder; what is none is told by name, and no other file can be asked for.
func TestALanguageIsAFileOfTheStudio(t *testing.T) {
	folder := t.TempDir()
	s, err := store.Open(t.Context(), folder, store.Options{})
	require.NoError(t, err)
	defer s.Close()
	languages, err := s.Languages()
	require.NoError(t, err)
	assert.Empty(t, languages, "there is no folder of them yet")
	at := filepath.Join(folder, store.WordsFolder)
	require.NoError(t, os.Mkdir(at, 0o755))
	for name, body := range map[string]string{
		"harbour.json": "\xef\xbb\xbf" + `{"language": "cy", "words": {"Orders": "Archebion"}}`,
		"notes.txt":    "no words",
		"a b.json":     "{}",
		"torn.json":    `{"language": "cy", "wor`,
		"empty.json":   `{"language": "cy", "words": {}}`,
	} {
		require.NoError(t, os.WriteFile(filepath.Join(at, name), []byte(body), 0o600))
	}
	languages, err = s.Languages()
	require.NoError(t, err)
	assert.Equal(t, []string{"empty", "harbour", "torn"}, languages)
	words, err := s.Words("harbour")
	require.NoError(t, err)
	assert.Equal(t, store.Words{Language: "cy", Words: map[string]string{"Orders": "Archebion"}}, words)
	for _, unread := range []string{"torn", "empty"} {
		_, err := s.Words(unread)
		var refused studio.Refusal
		require.ErrorAs(t, err, &refused, unread)
		assert.Contains(t, refused.Error(), unread+".json")
	}
	for _, none := range []string{"elsewhere", "../bractum", "", "a b"} {
		_, err := s.Words(none)
		require.ErrorAs(t, err, new(store.NotFound), none)
	}
}
