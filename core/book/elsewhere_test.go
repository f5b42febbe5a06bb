package book_test

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/book"
	"bractum/core/studio"
	"bractum/demo"
)

// elsewhere is another studio that has nothing in its book yet.
func elsewhere() *studio.Document {
	doc := demo.Document()
	return &studio.Document{Format: studio.Format, Version: studio.Version, Name: "Elsewhere", Epoch: doc.Epoch,
		Zone: doc.Zone, Now: doc.Now, Settings: doc.Settings,
		Climate: doc.Climate, People: doc.People}
}

// twin is a studio with all that the demo has, by the same names and other ids.
func twin(t *testing.T) *studio.Document {
	data, err := json.Marshal(demo.Document())
	require.NoError(t, err)
	id := string(demo.ID("Dahlia"))[:8]
	doc, err := studio.Read(strings.NewReader(strings.ReplaceAll(string(data), id, "01b7b7b8")))
	require.NoError(t, err)
	return doc
}

func fresh() studio.ID { return studio.ID(uuid.NewString()) }

// What nobody here can do is said when a file is looked at, not found when it is planned.
func TestASkillThatNobodyHasIsSaid(t *testing.T) {
	doc := demo.Document()
	into := elsewhere()
	into.People = slices.Clone(into.People)
	for i := range into.People {
		into.People[i].Skills = slices.DeleteFunc(slices.Clone(into.People[i].Skills),
			func(s studio.Skill) bool { return s.Skill == "dusting" })
	}
	in, err := book.Examine(into, book.Export(doc), nil, fresh)
	require.NoError(t, err)
	assert.Equal(t, []string{"dusting"}, in.Unskilled)
	in, err = book.Examine(elsewhere(), book.Export(doc), nil, fresh)
	require.NoError(t, err)
	assert.Empty(t, in.Unskilled)
}

// Whatever is written out by one studio can be taken in by another: each recipe by itself,
// and the whole book.
func TestEveryRecipeCanBeTakenInElsewhere(t *testing.T) {
	doc := demo.Document()
	pages := [][]studio.ID{nil}
	for _, r := range doc.Current() {
		pages = append(pages, []studio.ID{r.Page()})
	}
	for name, into := range map[string]*studio.Document{"nothing there": elsewhere(),
		"the same by other ids": twin(t)} {
		for n, of := range pages {
			if n > 0 && name != "nothing there" {
				break // the whole book is enough: each recipe is in it
			}
			var file bytes.Buffer
			require.NoError(t, json.NewEncoder(&file).Encode(book.Export(doc, of...)))
			b, err := book.Read(&file)
			require.NoError(t, err, "%s %v", name, of)
			choices := map[studio.ID]book.Choice{}
			in, err := book.Examine(into, b, choices, fresh)
			require.NoError(t, err, "%s %v", name, of)
			for _, thing := range in.Things { // of what both have by one name, theirs is taken
				choices[thing.ID] = book.Take
			}
			if in, err = book.Examine(into, b, choices, fresh); len(choices) > 0 {
				require.NoError(t, err)
			}
			require.NoError(t, in.Refused(), "%s %v", name, of)
			after := *into
			in.Into(&after)
			assert.Empty(t, after.Validate(), "%s %v", name, of)
		}
	}
}
