package count_test

import (
	"fmt"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// Four magnolias: what breaks as they are put together is a petal or a cone, so these have
// spares.
func ExampleUp() {
	doc := onlyOrder("Magnolia", "Oyster", 4)
	counted, err := count.Up(doc)
	if err != nil {
		fmt.Println(err)
		return
	}
	book := studio.NewBook(doc)
	for _, item := range counted.Items {
		if r := book.Of(item.Made()); r.Kind != studio.KindMix {
			fmt.Printf("%s: %d needed, %d on the shelf, %d spare, %d started\n",
				r.Name, item.Gross, item.FromShelf, item.Spare, item.Started)
		}
	}
	// Output:
	// Magnolia: 4 needed, 0 on the shelf, 0 spare, 4 started
	// Magnolia inner petal: 12 needed, 0 on the shelf, 3 spare, 15 started
	// Magnolia cone: 4 needed, 0 on the shelf, 1 spare, 5 started
	// Magnolia outer petal: 24 needed, 0 on the shelf, 4 spare, 28 started
}

// How many to start so that enough are good often enough, at eight per cent breakage.
func ExampleOdds_ForService() {
	doc := demo.Document()
	spares := studio.Spares{Rule: studio.SparesByBreakage, Breakage: 80}
	started, enough := count.OddsOf(spares, doc.Settings.PriorWeight).ForService(20, 0.95)
	fmt.Println(started, enough)
	// Output: 25 true
}
