package count_test

import (
	"fmt"

	"bractum/core/count"
	"bractum/core/studio"
	"bractum/demo"
)

// Four magnolias: each part is counted with its spares, level by level.
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
	// Magnolia: 4 needed, 0 on the shelf, 1 spare, 5 started
	// Magnolia inner petal: 15 needed, 0 on the shelf, 6 spare, 21 started
	// Magnolia cone: 5 needed, 0 on the shelf, 1 spare, 6 started
	// Magnolia outer petal: 30 needed, 0 on the shelf, 9 spare, 39 started
}

// How many to start so that enough are good often enough, at eight per cent breakage.
func ExampleStart() {
	doc := demo.Document()
	spares := studio.Spares{Rule: studio.SparesByBreakage, Breakage: 80}
	started, enough := count.Start(20, spares, 0.95, doc.Settings.PriorWeight)
	fmt.Println(started, enough)
	// Output: 25 true
}
