package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/studio"
	"bractum/picture"
	"bractum/store"
)

// file is an answer to be saved under a name.
type file struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// Taking is a file of recipes, as text, and what was chosen for its things.
type Taking struct {
	File    string                    `json:"file" doc:"the file as it is"`
	Choices map[studio.ID]book.Choice `json:"choices,omitempty" doc:"by the ids in the file: keep, take or beside"`
}

func (s *Service) registerExchange(to huma.API) {
	type export struct {
		Pages []studio.ID `query:"page" doc:"the whole book if none is named"`
	}
	download(s, to, get("/book/export", "export-book", "Recipes with all they need, as a file"),
		func(ctx context.Context, at *moment, in *export) (*file, error) {
			b, err := Exported(ctx, s.store, at.latestAnswer().Doc, in.Pages...)
			if err != nil {
				return nil, err
			}
			name := "flower-book"
			if len(in.Pages) == 1 {
				name = at.nameOf(in.Pages[0])
			}
			return &file{
				ContentType: "application/json",
				Disposition: fmt.Sprintf("attachment; filename=%q", name+".json"),
				Body:        asJSON(b),
			}, nil
		})
	type page struct {
		Page studio.ID `path:"page"`
	}
	download(s, to, get("/book/pages/{page}/parts.csv", "export-parts", "The parts table of a flower, as CSV"),
		func(_ context.Context, at *moment, in *page) (*file, error) {
			a := at.latestAnswer()
			for _, r := range a.Doc.Current() {
				if r.Page() == in.Page {
					return &file{ContentType: "text/csv; charset=utf-8",
						Disposition: fmt.Sprintf("attachment; filename=%q", fileName(r.Name)+"-parts.csv"),
						Body:        book.PartsCSV(a.Doc, a.Book, r)}, nil
				}
			}
			return nil, huma.Error404NotFound("this recipe is not in the book")
		})
	type parts struct {
		Body struct {
			Recipes []studio.Recipe `json:"recipes" maxItems:"2000" doc:"as they are being written, the flower first"`
			File    string          `json:"file"`
		}
	}
	ask(s, to, post("/book/parts", "read-parts", "", "A flower as a parts table in CSV has it; nothing is kept"),
		func(ctx context.Context, at *moment, in *parts) (PartsRead, error) {
			return at.readParts(in.Body.Recipes, in.Body.File)
		})
	type take struct{ Body Taking }
	beside(s, to, post("/book/import/preview", "preview-import", "",
		"What a file of recipes would bring; nothing is written").taking(MostBody),
		func(_ context.Context, at *moment, in *take) (book.Intake, error) {
			return at.intake(in.Body)
		})
	type takeNow struct {
		Who
		Body Taking
	}
	wish(s, to, post("/book/import", "import-recipes", "recipes taken in",
		"Take in a file of recipes, all of it or nothing").taking(MostBody),
		func(_ context.Context, at *moment, in *takeNow) (func(*change) (book.Intake, error), error) {
			taken, err := at.intake(in.Body)
			if err != nil {
				return nil, err
			}
			if err := taken.Refused(); err != nil {
				return nil, huma.Error409Conflict(err.Error())
			}
			return func(c *change) (book.Intake, error) {
				c.Summary = fmt.Sprintf("%d recipes taken in from a file", len(taken.Adds.Recipes))
				return taken, c.TakeIn(&taken.Adds)
			}, nil
		})
}

// download registers a view of the situation that is saved as a file.
func download[I any](s *Service, to huma.API, o operation, run func(context.Context, *moment, *I) (*file, error)) {
	huma.Register(to, o.described(WayAsk), func(ctx context.Context, in *I) (*file, error) {
		at, err := s.now(ctx)
		if err != nil {
			return nil, problem(err)
		}
		out, err := run(ctx, at, in)
		return out, problem(err)
	})
}

// MostBody is the largest body of a request: a file of recipes as text within JSON.
const MostBody = book.MostBytes + 4<<20

func (at *moment) intake(t Taking) (book.Intake, error) {
	b, err := book.Read(strings.NewReader(t.File))
	if err != nil {
		return book.Intake{}, unread(err)
	}
	if err := Cleaned(b); err != nil {
		return book.Intake{}, unread(err)
	}
	in, err := book.Examine(at.latestAnswer().Doc, b, t.Choices, newID)
	if err != nil {
		return book.Intake{}, unread(err)
	}
	return *in, nil
}

// unread says what is wrong with a file, by its places.
func unread(err error) error {
	var problems studio.Problems
	if errors.As(err, &problems) {
		return invalid(problems)
	}
	return huma.Error422UnprocessableEntity("the file cannot be used: " + err.Error() + ". Nothing was taken")
}

// Cleaned makes the pictures of a file harmless, or says which is none.
func Cleaned(b *book.Bundle) error {
	for i := range b.Pictures {
		p := &b.Pictures[i]
		var err error
		if p.Media, p.Data, err = picture.Clean(p.Data); err != nil {
			return studio.Problems{{Place: fmt.Sprintf("pictures[%d]", i), Message: err.Error()}}
		}
	}
	return nil
}

// Exported is the bundle of recipes by their pages, with their pictures; of the whole
// book if none is named.
func Exported(ctx context.Context, s *store.Store, doc *studio.Document, pages ...studio.ID) (*book.Bundle, error) {
	b := book.Export(doc, pages...)
	for _, r := range b.Recipes {
		for _, named := range r.Pictures {
			if slices.ContainsFunc(b.Pictures, func(p book.Image) bool { return p.ID == named.ID }) {
				continue
			}
			p, err := s.Picture(ctx, named.ID)
			var missing store.NotFound
			if errors.As(err, &missing) {
				continue // named only: it never came
			}
			if err != nil {
				return nil, err
			}
			b.Pictures = append(b.Pictures, p)
		}
	}
	return b, nil
}

// PartsRead is what a parts table makes of a flower: recipes to be looked at.
type PartsRead struct {
	Recipes []studio.Recipe `json:"recipes"`
	Changes []PartChanges   `json:"changes"`
}

// PartChanges is what a table changes in one recipe; a new one has none.
type PartChanges struct {
	Name    string      `json:"name"`
	State   book.State  `json:"state"`
	Changes []book.Edit `json:"changes"`
}

func (at *moment) readParts(recipes []studio.Recipe, table string) (PartsRead, error) {
	if len(recipes) == 0 {
		return PartsRead{}, huma.Error422UnprocessableEntity("there is no flower to read the table for")
	}
	doc := at.latestAnswer().Doc.With(recipes)
	index := studio.NewBook(doc)
	changed, err := book.WithPartsCSV(doc, index, recipes[0], bytes.NewReader([]byte(table)), newID)
	if err != nil {
		return PartsRead{}, unread(err)
	}
	read := PartsRead{Recipes: changed, Changes: []PartChanges{}}
	names := book.NamesIn(doc.With(changed))
	for _, r := range changed {
		before := slices.IndexFunc(doc.Recipes, func(o studio.Recipe) bool { return o.ID == r.ID })
		if before < 0 {
			read.Changes = append(read.Changes, PartChanges{Name: r.Name, State: book.New, Changes: []book.Edit{}})
			continue
		}
		changes := PartChanges{Name: r.Name, State: book.Changed, Changes: book.Changes(names, doc.Recipes[before], r)}
		if len(changes.Changes) == 0 {
			changes.State = book.Same
		}
		read.Changes = append(read.Changes, changes)
	}
	return read, nil
}

func (at *moment) nameOf(page studio.ID) string {
	for _, r := range at.latestAnswer().Doc.Current() {
		if r.Page() == page {
			return fileName(r.Name)
		}
	}
	return "recipe"
}

// fileName is a name without what file names do not bear.
func fileName(name string) string {
	return strings.Trim(strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		}
		return '-'
	}, name), "-")
}
