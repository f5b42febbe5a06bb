package book

import (
	"cmp"
	"fmt"
	"slices"

	"bractum/core/studio"
)

// Overtaken says that a recipe was written over a revision that is no longer the
// latest.
type Overtaken struct {
	Name string
	Was  studio.Recipe // the one it was written over
	Is   studio.Recipe // the latest
}

func (o Overtaken) Error() string {
	return fmt.Sprintf(
		"%q was changed meanwhile: revision %d was seen, it stands at %d",
		o.Name,
		o.Was.Revision,
		o.Is.Revision,
	)
}

// Revise makes new revisions of recipes as somebody has written them: each carries the
// id of the revision it was written over, or one that the document does not know if it
// is new. What says nothing new is left out; current recipes that use something
// revised are revised as well, so that the latest of everything goes together. The
// document itself is not changed. The error is Overtaken or studio.Problems.
func Revise(doc *studio.Document, written []studio.Recipe, newID func() studio.ID) ([]studio.Recipe, error) {
	latest := map[studio.ID]*studio.Recipe{}
	for _, r := range doc.Current() {
		latest[r.Page()] = r
	}
	edited := map[studio.ID]studio.Recipe{} // by the id it was written over
	for _, r := range written {
		r = copied(r)
		i := slices.IndexFunc(doc.Recipes, func(o studio.Recipe) bool { return o.ID == r.ID })
		if i < 0 {
			r.Recipe, r.Revision = cmp.Or(r.Recipe, r.ID), 0
			if latest[r.Recipe] != nil {
				return nil, Overtaken{Name: r.Name, Was: r, Is: *latest[r.Recipe]}
			}
			edited[r.ID] = r
			continue
		}
		was := doc.Recipes[i]
		if is := latest[was.Page()]; is.ID != was.ID {
			return nil, Overtaken{Name: r.Name, Was: was, Is: *is}
		}
		if content(r) != content(was) {
			r.Recipe, r.Revision = was.Page(), was.Revision
			edited[r.ID] = r
		}
	}
	for grown := true; grown; {
		grown = false
		for _, r := range doc.Current() {
			_, already := edited[r.ID]
			if already ||
				!slices.ContainsFunc(r.Needs(), func(id studio.ID) bool { _, changed := edited[id]; return changed }) {
				continue
			}
			edited[r.ID], grown = copied(*r), true
		}
	}
	return numbered(doc, written, edited, newID)
}

// numbered gives new revisions their ids and numbers and has them refer to each other.
func numbered(
	doc *studio.Document,
	written []studio.Recipe,
	edited map[studio.ID]studio.Recipe,
	newID func() studio.ID,
) ([]studio.Recipe, error) {
	ids := map[studio.ID]studio.ID{}
	var order []studio.ID
	for _, r := range slices.Concat(written, doc.Recipes) {
		if _, changed := edited[r.ID]; changed && ids[r.ID] == "" {
			ids[r.ID] = newID()
			order = append(order, r.ID)
		}
	}
	var revised []studio.Recipe
	after := *doc
	after.Recipes = slices.Clone(doc.Recipes)
	for _, id := range order {
		r := edited[id]
		page := r.Recipe
		rewrite(&r, func(old reference) studio.ID {
			if old.kind == "recipe" {
				return cmp.Or(ids[old.id], old.id)
			}
			return old.id
		})
		r.ID, r.Recipe, r.Revision = ids[id], page, r.Revision+1
		revised = append(revised, r)
		after.Recipes = append(after.Recipes, r)
	}
	if problems := clashes(&after); len(problems) > 0 {
		return nil, problems
	}
	if problems := after.Validate(); len(problems) > 0 {
		return nil, problems
	}
	return revised, nil
}

// clashes are current recipes that go by one name: people know them by it.
func clashes(doc *studio.Document) (problems studio.Problems) {
	names := map[string]bool{}
	for _, r := range doc.Current() {
		if names[r.Name] {
			problems = append(
				problems,
				studio.Flaw(fmt.Sprintf("recipes %q.name", r.Name),
					"is the name of two recipes; each has one of its own"),
			)
		}
		names[r.Name] = true
	}
	return problems
}
