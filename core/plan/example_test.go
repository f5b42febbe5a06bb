package plan_test

import (
	"fmt"

	"bractum/core/count"
	"bractum/core/plan"
	"bractum/core/studio"
	"bractum/demo"
)

// A document is counted up, and planned.
func Example() {
	doc := demo.Document()
	counted, err := count.Up(doc)
	if err != nil {
		fmt.Println(err)
		return
	}
	made, err := plan.Make(doc, counted, plan.Options{})
	if err != nil {
		fmt.Println(err)
		return
	}
	calendar, err := studio.NewCalendar(doc.Epoch, doc.Zone)
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, order := range made.Orders {
		for _, o := range doc.Orders {
			if o.ID == order.Order {
				fmt.Printf(
					"%s: ready %s, wanted by %s\n",
					o.Name,
					calendar.Wall(*order.Ready),
					calendar.Wall(order.ReadyBy),
				)
			}
		}
	}
	// Output:
	// Ferry crew: ready 2027-09-22T10:09, wanted by 2027-09-23T16:00
	// Lighthouse: ready 2027-09-22T10:36, wanted by 2027-09-28T11:00
	// Choir: ready 2027-09-23T15:17, wanted by 2027-10-05T10:00
	// Library: ready 2027-09-24T11:53, wanted by 2027-10-07T09:30
}

// What has changed is repaired: people keep what they were told as far as that can still be.
func ExampleRepair() {
	doc := demo.Document()
	counted, _ := count.Up(doc)
	before, _ := plan.Make(doc, counted, plan.Options{})
	for i := range doc.People {
		if doc.People[i].Name == "Teun" {
			doc.People[i].Away = append(doc.People[i].Away, studio.MustDate("2027-09-21"))
		}
	}
	after, _ := plan.Repair(doc, counted, before, nil)
	fmt.Println(len(plan.Compare(before, after).Moved) < len(before.Tasks)/2)
	// Output: true
}
