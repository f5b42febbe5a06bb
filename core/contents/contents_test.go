package contents_test

import (
	"fmt"
	"math"
	"math/big"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"bractum/core/contents"
	"bractum/core/studio"
	"bractum/demo"
)

func order(allergies []string, lines ...studio.OrderLine) studio.Order {
	for i := range lines {
		lines[i].ID = studio.ID(fmt.Sprint("line ", i))
	}
	return studio.Order{Name: "Harvest supper", State: studio.OrderOpen, Allergies: allergies, Lines: lines}
}

func line(recipe, colourway string, quantity int64) studio.OrderLine {
	return studio.OrderLine{Recipe: demo.ID(recipe), Colourway: demo.ID(colourway), Quantity: quantity}
}

// An allergy is met however it is written, by the glue that a flower is put together with and by the school that
// does without; one that no material names was compared with nothing.
func TestAnAllergyIsFoundInTheGlue(t *testing.T) {
	doc := demo.Document()
	book := studio.NewBook(doc)
	hit := 0
	for i := range doc.Recipes {
		r := &doc.Recipes[i]
		if r.Kind != studio.KindFlower && r.Kind != studio.KindSpray {
			continue
		}
		c := contents.Of(doc, book, order([]string{" EGG ", "kiwi"}, studio.OrderLine{Recipe: r.ID,
			Colourway: demo.ID("Oyster"), Quantity: 3}))
		assert.Equal(t, []string{"kiwi"}, c.Uncompared)
		if !c.Concerns() {
			continue
		}
		hit++
		s := c.Allergens[0].Sources[0]
		assert.Equal(t, "Dried egg white", book.Material(s.Material).Name)
		assert.Equal(t, r.ID, s.Through[0])
		for _, way := range contents.Ways(doc, order([]string{"egg"}, studio.OrderLine{Recipe: r.ID,
			Colourway: demo.ID("Oyster"), Quantity: 3}), c.Allergens[0].Name, s) {
			with := *doc
			with.Recipes = slices.Clone(doc.Recipes)
			for j := range with.Recipes {
				if with.Recipes[j].ID == way.Recipe {
					with.Recipes[j] = *with.Recipes[j].In(way.Question, way.School)
				}
			}
			other := contents.Of(&with, studio.NewBook(&with), order([]string{"egg"}, studio.OrderLine{Recipe: r.ID,
				Colourway: demo.ID("Oyster"), Quantity: 3}))
			for _, a := range other.Allergens {
				for _, left := range a.Sources {
					assert.False(
						t,
						a.Concerns && slices.Contains(left.Through, way.Recipe),
						"%s by %s",
						r.Name,
						way.School,
					)
				}
			}
		}
	}
	assert.Positive(t, hit, "nothing of the demo holds egg")
}

// At the bench it is the step that takes the glue up, and the mixing that weighs the egg, that is told; of an allergy
// alone that an order names.
func TestWhoTakesItUpIsTold(t *testing.T) {
	doc := demo.Document()
	o := order([]string{"egg"}, line("Gardenia", "Oyster", 2))
	o.Lines[0].Variant = "glue: egg white"
	doc.Orders = append(doc.Orders, o)
	book := studio.NewBook(doc)
	mixes, _ := book.Resolve(o.Lines[0].Made(), doc.Colourways[0].Slots)
	brings := func(made studio.Made, allergies []string, steps ...string) []contents.Allergen {
		return contents.Brings(book, made, mixes, allergies, steps...)
	}
	require.Len(t, brings(o.Lines[0].Made(), o.Allergies, "heart", "rows"), 1)
	assert.Empty(t, brings(o.Lines[0].Made(), o.Allergies, "heart", "dust"))
	assert.Empty(t, brings(o.Lines[0].Made(), []string{"nuts"}, "rows"))
	assert.Empty(
		t,
		brings(studio.Made{Recipe: demo.ID("Gardenia")}, o.Allergies, "heart", "rows"),
		"by the other school",
	)
	iced := 0
	for _, r := range doc.Recipes {
		if found := brings(studio.Made{Recipe: r.ID}, o.Allergies); r.Kind == studio.KindMix && len(found) > 0 {
			iced++
			assert.Equal(t, demo.ID("Dried egg white"), found[0].Sources[0].Material, r.Name)
		}
	}
	assert.Positive(t, iced)
}

// By hand: a magnolia's wires, one for each petal, and its centre's.
func TestWhatHasToComeOffIsCounted(t *testing.T) {
	doc := demo.Document()
	book := studio.NewBook(doc)
	one := contents.Of(doc, book, order(nil, line("Magnolia", "Oyster", 1)))
	six := contents.Of(doc, book, order(nil, line("Magnolia", "Oyster", 6)))
	require.NotEmpty(t, one.NotFood)
	for i, p := range one.NotFood {
		if p.Unit == studio.UnitPieces {
			assert.Equal(t, 6*p.Most, six.NotFood[i].Most, book.Material(p.Material).Name)
			assert.Equal(t, 6*p.Least, six.NotFood[i].Least)
		}
	}
	doc.Materials[slices.IndexFunc(doc.Materials, func(m studio.Material) bool {
		return m.ID == one.NotFood[0].Material
	})].Food = ""
	unsaid := contents.Of(doc, studio.NewBook(doc), order(nil, line("Magnolia", "Oyster", 1)))
	assert.Equal(t, []studio.ID{one.NotFood[0].Material}, unsaid.Unsaid)
}

// What is made in the run of a flower is in it as what is made before it, spares aside.
func TestPartsMadeInTheRunAreInTheFlower(t *testing.T) {
	doc := demo.Document()
	ordered := order(nil, line("Magnolia", "Oyster", 5))
	before := contents.Of(doc, studio.NewBook(doc), ordered)
	var petal *studio.Recipe
	for i := range doc.Recipes {
		if doc.Recipes[i].Name == "Magnolia outer petal" {
			petal = &doc.Recipes[i]
		}
	}
	petal.Steps = slices.DeleteFunc(petal.Steps[:petal.OutputStep()+1],
		func(s studio.Step) bool { return s.Work == nil })
	for i := range doc.Recipes {
		for j := range doc.Recipes[i].Parts {
			p := &doc.Recipes[i].Parts[j]
			p.InRun = doc.Recipes[i].Name == "Magnolia" && p.Recipe == petal.ID
		}
	}
	assert.Equal(t, before.NotFood, contents.Of(doc, studio.NewBook(doc), ordered).NotFood)
}

// Whatever is ordered, of whatever is in the book and in whatever materials hold, what is counted and found is what a
// slow walk comes to that takes every single piece apart by itself.
func TestContentsAreWhatEveryPieceHolds(t *testing.T) {
	doc := demo.Document()
	var flowers []studio.ID
	for _, r := range doc.Recipes {
		if r.Kind == studio.KindFlower || r.Kind == studio.KindSpray {
			flowers = append(flowers, r.ID)
		}
	}
	rapid.Check(t, func(t *rapid.T) {
		d := *doc
		d.Materials = slices.Clone(doc.Materials)
		for i := range d.Materials {
			d.Materials[i].Food = rapid.SampledFrom([]studio.Food{studio.IsFood, studio.NotFood, ""}).Draw(t, "food")
			d.Materials[i].Allergens = rapid.SampledFrom([][]string{nil, nil, {"egg"}, {"Egg", "soya"}}).
				Draw(t, "holds")
		}
		var lines []studio.OrderLine
		for range rapid.IntRange(1, 4).Draw(t, "lines") {
			lines = append(lines, studio.OrderLine{Recipe: rapid.SampledFrom(flowers).Draw(t, "flower"),
				Colourway: demo.ID(rapid.SampledFrom([]string{"Oyster", "Signal"}).Draw(t, "colours")),
				Quantity:  rapid.Int64Range(1, 12).Draw(t, "quantity")})
		}
		book := studio.NewBook(&d)
		c := contents.Of(&d, book, order([]string{"egg"}, lines...))
		slow := pieceByPiece{&d, book, map[string]bool{}, map[studio.ID]bool{}, map[studio.ID]*[2]big.Rat{}}
		for _, l := range lines {
			var slots map[string]studio.ID
			for _, way := range d.Colourways {
				if way.ID == l.Colourway {
					slots = way.Slots
				}
			}
			mixes, _ := book.Resolve(l.Made(), slots)
			slow.takeApart(l.Made(), mixes, big.NewRat(l.Quantity, 1), big.NewRat(l.Quantity, 1))
		}
		found := map[string]bool{}
		for _, a := range c.Allergens {
			found[a.Name] = true
			assert.Equal(t, a.Name == "egg", a.Concerns)
		}
		assert.Equal(t, slow.allergens, found)
		unsaid := map[studio.ID]bool{}
		for _, id := range c.Unsaid {
			unsaid[id] = true
		}
		assert.Equal(t, slow.unsaid, unsaid)
		pieces := map[studio.ID][2]int64{}
		for _, p := range c.NotFood {
			pieces[p.Material] = [2]int64{pieces[p.Material][0] + p.Least, pieces[p.Material][1] + p.Most}
		}
		whole := map[studio.ID][2]int64{}
		for id, exact := range slow.pieces {
			least, _ := new(big.Float).SetRat(&exact[0]).Float64()
			most, _ := new(big.Float).SetRat(&exact[1]).Float64()
			whole[id] = [2]int64{int64(math.Ceil(least - 1e-9)), int64(math.Ceil(most - 1e-9))}
		}
		assert.Equal(t, whole, pieces)
	})
}

// pieceByPiece walks down every branch by itself, adding nothing up on the way.
type pieceByPiece struct {
	doc       *studio.Document
	book      *studio.Book
	allergens map[string]bool
	unsaid    map[studio.ID]bool
	pieces    map[studio.ID]*[2]big.Rat
}

func (s pieceByPiece) takeApart(made studio.Made, mixes map[string]studio.ID, least, most *big.Rat) {
	r := s.book.Of(made)
	here := func(step string, least, most *big.Rat, fewest, greatest, per int64) (*big.Rat, *big.Rat) {
		if r.Yield != nil {
			_, splits := r.Step(r.Yield.Step)
			if _, at := r.Step(step); at <= splits {
				per *= r.Yield.Gives
			}
		}
		return new(big.Rat).Mul(least, big.NewRat(fewest, per)), new(big.Rat).Mul(most, big.NewRat(greatest, per))
	}
	for _, p := range r.Parts {
		fewest := p.Count
		if p.Least != nil {
			fewest = *p.Least
		}
		few, many := here(p.Step, least, most, fewest, p.Count, 1)
		s.takeApart(p.Made(), s.book.Input(p, mixes), few, many)
	}
	for _, m := range r.Materials {
		fewest, greatest := m.Amount, m.Amount
		if m.Least != nil {
			fewest = *m.Least
		}
		if m.Most != nil {
			greatest = *m.Most
		}
		few, many := here(m.Step, least, most, fewest, greatest, max(1, m.Per))
		s.holds(m.Material, m.OutAt == "", few, many)
	}
	for _, w := range r.Wires {
		few, many := here(w.Step, least, most, w.Number, w.Number, 1)
		s.holds(w.Material, true, few, many)
	}
	for _, p := range r.Pastes {
		s.blend(mixes[p.Slot])
	}
	for _, step := range r.Steps {
		if step.Work != nil {
			s.blend(mixes[step.Work.Slot])
		}
	}
}

func (s pieceByPiece) blend(mix studio.ID) {
	for i := range s.doc.Recipes {
		if r := &s.doc.Recipes[i]; r.ID == mix {
			for _, in := range r.Blend {
				s.blend(in.Mix)
				s.holds(in.Material, true, new(big.Rat), new(big.Rat))
			}
			for _, a := range r.Additives {
				s.holds(a.Material, true, new(big.Rat), new(big.Rat))
			}
			for _, m := range r.Materials {
				s.holds(m.Material, true, new(big.Rat), new(big.Rat))
			}
		}
	}
}

func (s pieceByPiece) holds(id studio.ID, stays bool, least, most *big.Rat) {
	for _, m := range s.doc.Materials {
		if m.ID != id {
			continue
		}
		for _, a := range m.Allergens {
			s.allergens[strings.ToLower(a)] = true
		}
		if m.Food == "" {
			s.unsaid[id] = true
		}
		if m.Food == studio.NotFood && stays {
			if s.pieces[id] == nil {
				s.pieces[id] = &[2]big.Rat{}
			}
			s.pieces[id][0].Add(&s.pieces[id][0], least)
			s.pieces[id][1].Add(&s.pieces[id][1], most)
		}
	}
}
