package store

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"bractum/core/studio"
)

// WordsFolder is where a studio keeps its languages, within its data folder: a file each, as docs/formats/words.md
// says.
const WordsFolder = "words"

// mostWords is how large a file of words may be, in bytes.
const mostWords = 4 << 20

// Words are the interface's words in another language, by their English.
type Words struct {
	Language string            `json:"language" doc:"the tag that plural forms go by, as pl or pt-BR"`
	Words    map[string]string `json:"words"`
}

// Languages are the languages that the studio has words of, besides English, by the names of their files.
func (s *Store) Languages() ([]string, error) {
	files, err := os.ReadDir(filepath.Join(s.folder, WordsFolder))
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, err
	}
	names := []string{}
	for _, f := range files {
		if name, is := strings.CutSuffix(f.Name(), ".json"); is && studio.LanguageName.MatchString(name) {
			names = append(names, name)
		}
	}
	return names, nil
}

// Words reads a language; NotFound if there is none of that name, a Refusal if its file cannot be read as words.
func (s *Store) Words(language string) (Words, error) {
	none := NotFound{fmt.Sprintf("the language %q", language)}
	if !studio.LanguageName.MatchString(language) {
		return Words{}, none
	}
	file := filepath.Join(s.folder, WordsFolder, language+".json")
	about, err := os.Stat(file)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return Words{}, none
	case err != nil:
		return Words{}, err
	case about.Size() > mostWords:
		return Words{}, studio.Refuse("%s is larger than any words are", file)
	}
	body, err := os.ReadFile(file)
	if err != nil {
		return Words{}, err
	}
	var w Words
	if err := json.Unmarshal(bytes.TrimPrefix(body, []byte("\xef\xbb\xbf")), &w); err != nil {
		return Words{}, studio.Refuse("%s is not a file of words: %v", file, err)
	}
	if w.Language == "" || len(w.Words) == 0 {
		return Words{}, studio.Refuse("%s names no language, or has no words", file)
	}
	return w, nil
}
