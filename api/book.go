package api

import (
	"context"
	"fmt"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/book"
	"bractum/core/cost"
	"bractum/core/flower"
	"bractum/core/pattern"
	"bractum/core/studio"
	"bractum/store"
)

// BookView is the flower book at a glance, and the words to write recipes in.
type BookView struct {
	N          int64                  `json:"n"`
	Pages      []Page                 `json:"pages"`
	Drafts     []DraftLine            `json:"drafts"`
	Patterns   []pattern.Beginning    `json:"patterns"`
	Colourways []store.ColourwayState `json:"colourways"`
	Words      Words                  `json:"words"`
	MostBytes  int64                  `json:"mostBytes" doc:"of a file of recipes that is taken in"`
}

// Page is one recipe of the book in its latest revision.
type Page struct {
	Page     studio.ID       `json:"page" doc:"the id that all its revisions share"`
	Recipe   studio.ID       `json:"recipe" doc:"its latest revision"`
	Revision int             `json:"revision"`
	Name     string          `json:"name"`
	Kind     studio.Kind     `json:"kind"`
	Form     string          `json:"form"`
	Colour   string          `json:"colour" doc:"in the first colourway"`
	Portrait flower.Portrait `json:"portrait"`
	Parts    []string        `json:"parts" doc:"names of what goes into it, to find it by"`
	Variants []string        `json:"variants"`
	Ordered  int64           `json:"ordered" doc:"pieces on open orders, in any revision"`
	Behind   int64           `json:"behind" doc:"open order lines that keep an earlier revision"`
}

// DraftLine is a recipe that somebody is writing.
type DraftLine struct {
	ID      studio.ID `json:"id"`
	Version int64     `json:"version"`
	Name    string    `json:"name"`
	Kind    string    `json:"kind"`
	Form    string    `json:"form"`
}

// Words are what recipes can refer to.
type Words struct {
	Materials []studio.Material    `json:"materials"`
	Classes   []studio.DryingClass `json:"dryingClasses"`
	Methods   []studio.Method      `json:"dryingMethods"`
	Places    []studio.Place       `json:"places"`
	Tools     []studio.Tool        `json:"tools"`
	Machines  []studio.Machine     `json:"machines"`
	Gates     []studio.Gate        `json:"gates"`
	Families  []studio.Family      `json:"setupFamilies"`
	Skills    []string             `json:"skills"`
	Shrinkage studio.PerMille      `json:"shrinkagePerMille"`
	Kinds     []KindOfWork         `json:"kindsOfWork"`
}

// KindOfWork is what work of a kind wants of the piece it takes up, unless its step says.
type KindOfWork struct {
	Kind  string           `json:"kind"`
	Wants studio.Condition `json:"wants"`
}

func (s *Service) registerBook(to huma.API) {
	kept(s, to, get("/book", "get-book", "The flower book at a glance"), shows{topics: []string{"orders", "drafts"}},
		func(ctx context.Context, at *moment, _ *none) (BookView, error) {
			v := BookView{N: at.N, Pages: at.pages(), Drafts: []DraftLine{}, Patterns: pattern.All(),
				Words: wordsOf(at.inForce.Doc), MostBytes: book.MostBytes}
			drafts, err := s.store.Drafts(ctx)
			if err != nil {
				return BookView{}, err
			}
			for _, d := range drafts {
				line := DraftLine{ID: d.ID, Version: d.Version, Name: d.Name}
				if len(d.Recipes) > 0 {
					line.Kind, line.Form = string(d.Recipes[0].Kind), d.Recipes[0].Form
				}
				v.Drafts = append(v.Drafts, line)
			}
			v.Colourways, err = s.store.Colourways(ctx)
			return v, err
		})
	type open struct {
		Page     studio.ID `path:"page"`
		Revision int       `query:"revision" doc:"the latest if left out"`
	}
	kept(s, to, get("/book/pages/{page}", "open-page", "A recipe with all that goes into it"),
		shows{topics: []string{"orders"}},
		func(ctx context.Context, at *moment, in *open) (Opened, error) {
			return at.opened(in.Page, in.Revision)
		})
	type examine struct {
		Body Examination
	}
	beside(s, to, post("/book/examine", "examine-recipes", "",
		"Reckon recipes as they are being written; nothing is kept"),
		func(ctx context.Context, at *moment, in *examine) (Examined, error) {
			return at.examined(in.Body)
		})
	type vary struct {
		Body struct {
			Recipe studio.Recipe `json:"recipe" doc:"the recipe itself"`
			Made   studio.Recipe `json:"made" doc:"the recipe as the variant, or the school, makes it"`
			Name   string        `json:"name"`
		}
	}
	ask(s, to, post("/book/vary", "vary-recipe", "",
		"Find the named change that makes one recipe of another; nothing is kept"),
		func(_ context.Context, _ *moment, in *vary) (studio.Variant, error) {
			plain, _ := in.Body.Recipe.As("")
			change, err := book.Vary(plain, &in.Body.Made, in.Body.Name)
			if err != nil {
				return change, huma.Error422UnprocessableEntity(err.Error())
			}
			return change, nil
		})
	type compare struct {
		Body struct {
			Recipes   []studio.Recipe `json:"recipes" maxItems:"2000" doc:"as they are being written"`
			One       flower.Way      `json:"one"`
			Other     flower.Way      `json:"other"`
			Colourway studio.ID       `json:"colourway,omitempty"`
		}
	}
	beside(
		s,
		to,
		post("/book/compare", "compare-recipes", "", "Set two recipes, or two variants of one, side by side"),
		func(ctx context.Context, at *moment, in *compare) (Compared, error) {
			return at.compared(in.Body.Recipes, in.Body.Colourway, in.Body.One, in.Body.Other)
		},
	)
	type begin struct {
		Body struct {
			Pattern string `json:"pattern"`
			Name    string `json:"name" minLength:"1" maxLength:"80"`
		}
	}
	ask(s, to, post("/book/begin", "begin-recipe", "",
		"Lay out a new recipe from a pattern of its method; nothing is kept"),
		func(ctx context.Context, at *moment, in *begin) ([]studio.Recipe, error) {
			recipes, ok := pattern.Begin(at.inForce.Doc, in.Body.Pattern, in.Body.Name, newID)
			if !ok {
				return nil, huma.Error404NotFound(fmt.Sprintf("there is no pattern %q", in.Body.Pattern))
			}
			return recipes, nil
		})
	s.registerDrafts(to)
	s.registerExchange(to)
	s.registerColours(to)
	s.registerPictures(to)
}

func wordsOf(doc *studio.Document) Words {
	w := Words{
		Materials: doc.Materials,
		Classes:   doc.DryingClasses,
		Methods:   append([]studio.Method{}, doc.Methods...),
		Places:    doc.Places,
		Tools:     append([]studio.Tool{}, doc.Tools...),
		Machines: append(
			[]studio.Machine{},
			doc.Machines...),
		Gates:     append([]studio.Gate{}, doc.Gates...),
		Families:  append([]studio.Family{}, doc.Families...),
		Skills:    []string{},
		Shrinkage: doc.Settings.ShrinkagePerMille,
		Kinds:     []KindOfWork{},
	}
	for _, wants := range []studio.Condition{studio.WantsSoft, studio.WantsFirm, studio.WantsDry} {
		for _, kind := range studio.KindsOfWork(wants) {
			w.Kinds = append(w.Kinds, KindOfWork{Kind: kind, Wants: wants})
		}
	}
	add := func(skill string) {
		if skill != "" && !slices.Contains(w.Skills, skill) {
			w.Skills = append(w.Skills, skill)
		}
	}
	for _, p := range doc.People {
		for _, skill := range p.Skills {
			add(skill.Skill)
		}
	}
	for _, r := range doc.Recipes {
		for _, step := range r.Steps {
			if step.Work != nil {
				add(step.Work.Skill)
			}
		}
	}
	return w
}

// pages lists the latest revisions, with what is ordered of each.
func (at *moment) pages() []Page {
	a := at.latestAnswer()
	ordered, behind := map[studio.ID]int64{}, map[studio.ID]int64{}
	for _, line := range at.openLines() {
		ordered[line.page] += line.Quantity
		if line.behind {
			behind[line.page]++
		}
	}
	var colours map[string]studio.ID
	if len(a.Doc.Colourways) > 0 {
		colours = a.Doc.Colourways[0].Slots
	}
	pages := []Page{}
	for _, r := range a.Doc.Current() {
		p := Page{
			Page:     r.Page(),
			Recipe:   r.ID,
			Revision: r.Revision,
			Name:     r.Name,
			Kind:     r.Kind,
			Form:     r.Form,
			Parts:    []string{},
			Variants: []string{},
			Ordered:  ordered[r.Page()],
			Behind:   behind[r.Page()],
		}
		made := studio.Made{Recipe: r.ID}
		mixes, _ := a.Book.Resolve(made, colours)
		p.Colour, _ = a.swatch(made, mixes)
		p.Portrait = flower.PortraitOf(a.Book, made, mixes)
		for _, need := range r.Needs() {
			p.Parts = append(p.Parts, a.Book.Recipe(need).Name)
		}
		for _, v := range r.Variants {
			p.Variants = append(p.Variants, v.Name)
		}
		for _, size := range r.Sizes {
			p.Variants = append(p.Variants, size.Name)
		}
		pages = append(pages, p)
	}
	return pages
}

// openLine is a line of an open order, its page, and whether it keeps an earlier revision.
type openLine struct {
	studio.OrderLine
	order    store.OrderState
	page     studio.ID
	revision int
	behind   bool
}

func (at *moment) openLines() []openLine {
	a := at.latestAnswer()
	var lines []openLine
	for _, o := range at.Orders {
		for _, l := range o.Order.Lines {
			if current, behind := book.Behind(a.Doc, l); current != nil && book.Open(o.Order) {
				lines = append(
					lines,
					openLine{
						OrderLine: l,
						order:     o,
						page:      current.Page(),
						revision:  a.Book.Recipe(l.Recipe).Revision,
						behind:    behind,
					},
				)
			}
		}
	}
	return lines
}

// Opened is a recipe of the book: itself first, then all that goes into it.
type Opened struct {
	Recipes   []studio.Recipe `json:"recipes"`
	Revisions []Revision      `json:"revisions" doc:"latest first"`
	Lines     []Behind        `json:"lines" doc:"open order lines that keep an earlier revision"`
	// UsedIn are the names of current recipes that it goes into.
	UsedIn []Named `json:"usedIn"`
}

// Revision is one revision of a recipe, with what it changed.
type Revision struct {
	Recipe   studio.ID   `json:"recipe"`
	Revision int         `json:"revision"`
	Changes  []book.Edit `json:"changes"`
}

// Behind is an open order line that keeps an earlier revision.
type Behind struct {
	Order    studio.ID `json:"order"`
	Name     string    `json:"name"`
	Version  int64     `json:"version"`
	Line     studio.ID `json:"line"`
	Quantity int64     `json:"quantity"`
	Revision int       `json:"revision"`
}

func (at *moment) opened(page studio.ID, revision int) (Opened, error) {
	a := at.latestAnswer()
	var revisions []*studio.Recipe
	for i := range a.Doc.Recipes {
		if r := &a.Doc.Recipes[i]; r.Page() == page {
			revisions = append(revisions, r)
		}
	}
	slices.SortFunc(revisions, func(x, y *studio.Recipe) int { return y.Revision - x.Revision })
	i := slices.IndexFunc(revisions, func(r *studio.Recipe) bool { return revision == 0 || r.Revision == revision })
	if i < 0 {
		return Opened{}, huma.Error404NotFound("this recipe is not in the book")
	}
	r := revisions[i]
	o := Opened{Recipes: []studio.Recipe{*r}, Revisions: []Revision{}, Lines: []Behind{}, UsedIn: []Named{}}
	for _, other := range flower.Closure(a.Doc, a.Book, []studio.ID{r.ID}, nil) {
		if other.ID != r.ID {
			o.Recipes = append(o.Recipes, other)
		}
	}
	names := book.NamesIn(a.Doc)
	for j, now := range revisions {
		entry := Revision{Recipe: now.ID, Revision: now.Revision, Changes: []book.Edit{}}
		if j+1 < len(revisions) {
			entry.Changes = book.Changes(names, *revisions[j+1], *now)
		}
		o.Revisions = append(o.Revisions, entry)
	}
	for _, line := range at.openLines() {
		if line.behind && line.page == page {
			o.Lines = append(
				o.Lines,
				Behind{
					Order:    line.order.Order.ID,
					Name:     line.order.Order.Name,
					Version:  line.order.Version,
					Line:     line.ID,
					Quantity: line.Quantity,
					Revision: line.revision,
				},
			)
		}
	}
	for _, user := range a.Doc.Current() {
		if slices.Contains(user.Needs(), r.ID) {
			o.UsedIn = append(o.UsedIn, Named{ID: user.Page(), Name: user.Name, Form: user.Form})
		}
	}
	return o, nil
}

// Examination is recipes as somebody is writing them: those that are new or changed,
// and which of them is looked at, how.
type Examination struct {
	Recipes []studio.Recipe `json:"recipes" maxItems:"2000"`
	flower.Way
	Colourway studio.ID `json:"colourway,omitempty"`
	Quantity  int64     `json:"quantity,omitempty" minimum:"0" maximum:"1000"`
}

// Examined is what they come to. There is no sheet while something is wrong.
type Examined struct {
	Problems []Flaw           `json:"problems"`
	Warnings []flower.Warning `json:"warnings"`
	Sheet    *flower.Sheet    `json:"sheet,omitempty"`
	// Cost is what the sheet comes to in money.
	Cost *cost.Each `json:"cost,omitempty"`
	// Made is the recipe as the variant or the school makes it, to be edited as that.
	Made  *studio.Recipe `json:"made,omitempty"`
	Slots []string       `json:"slots" doc:"colour slots of all that goes into it"`
	Cuts  []flower.Cut   `json:"cuts" doc:"of sizes wanted once dry"`
	// Against is what differs from the recipe itself, of a variant or a school.
	Against []flower.Difference `json:"against"`
}

// Flaw is something wrong with a recipe, and where.
type Flaw struct {
	Recipe  studio.ID    `json:"recipe"`
	Name    string       `json:"name"`
	Place   string       `json:"place"`
	Message string       `json:"message"`
	Says    *studio.Said `json:"says,omitempty"`
}

func (at *moment) examined(e Examination) (Examined, error) {
	x := Examined{
		Problems: []Flaw{},
		Warnings: []flower.Warning{},
		Slots:    []string{},
		Cuts:     []flower.Cut{},
		Against:  []flower.Difference{},
	}
	doc := at.latestAnswer().Doc
	found := doc.CheckRecipes(e.Recipes)
	for _, r := range e.Recipes {
		for _, p := range found[r.ID] {
			x.Problems = append(x.Problems, Flaw{Recipe: r.ID, Name: r.Name, Place: p.Place, Message: p.Message,
				Says: p.Says})
		}
	}
	with := doc.With(e.Recipes)
	_, made, err := e.Way.In(with)
	if err != nil {
		return x, huma.Error404NotFound(err.Error())
	}
	if !e.Plain() {
		x.Made = made
	}
	if len(x.Problems) > 0 {
		return x, nil
	}
	index := studio.NewBook(with)
	x.Slots = append(x.Slots, index.Slots(studio.Made{Recipe: e.Recipe})...)
	all := flower.Closure(with, index, []studio.ID{e.Recipe}, nil)
	x.Warnings, x.Cuts = flower.Proportions(with, index, all), flower.Cuts(with, all)
	if x.Sheet, err = e.Way.Reckon(with, e.Colourway, e.Quantity); err != nil {
		return x, err
	}
	each := cost.OfSheet(with, x.Sheet)
	if x.Cost = &each; e.Plain() {
		return x, nil
	}
	plain, err := flower.Way{Recipe: e.Recipe}.Reckon(with, e.Colourway, e.Quantity)
	if err == nil {
		x.Against = flower.Compare(plain, x.Sheet)
	}
	return x, err
}

// Compared is two things side by side: what they come to, where that differs, and what
// their recipes say differently.
type Compared struct {
	One         *flower.Sheet       `json:"one"`
	Other       *flower.Sheet       `json:"other"`
	Differences []flower.Difference `json:"differences"`
	Changes     []book.Edit         `json:"changes"`
}

func (at *moment) compared(recipes []studio.Recipe, colourway studio.ID, one, other flower.Way) (Compared, error) {
	doc := at.latestAnswer().Doc
	for _, problems := range doc.CheckRecipes(recipes) {
		return Compared{}, problems
	}
	doc = doc.With(recipes)
	_, was, err := one.In(doc)
	if err != nil {
		return Compared{}, huma.Error404NotFound(err.Error())
	}
	_, is, err := other.In(doc)
	if err != nil {
		return Compared{}, huma.Error404NotFound(err.Error())
	}
	c := Compared{Changes: book.Changes(book.NamesIn(doc), *was, *is)}
	if c.One, err = one.Reckon(doc, colourway, 1); err != nil {
		return c, err
	}
	if c.Other, err = other.Reckon(doc, colourway, 1); err != nil {
		return c, err
	}
	c.Differences = flower.Compare(c.One, c.Other)
	return c, nil
}
