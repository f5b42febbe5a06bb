package drying_test

import (
	"fmt"
	"slices"

	"bractum/core/drying"
	"bractum/core/studio"
)

// A petal that takes four hours in standard air, put down in a damp room at the end of the
// day: the clock runs at half its speed, through the night.
func ExampleClock_Ready() {
	damp := slices.Repeat([]studio.Air{{TenthsCelsius: 200, HumidityPerMille: 650}}, 48)
	clock := drying.NewClock(0, damp, 800)
	ready, ok := clock.Ready(17*60, 240_000)
	fmt.Println(ready/60, ok)
	// Output: 25 true
}

// Thicker pieces take longer, by the power of one and a half.
func ExampleNeed() {
	class := studio.DryingClass{FirmMinutes: 30, DryMinutes: 240, Thickness: 1000}
	for _, thickness := range []studio.Micrometres{500, 1000, 2000} {
		fmt.Printf("%d µm: %d min\n", thickness, drying.Need(class, thickness, studio.Dry, 0, 50)/1000)
	}
	// Output:
	// 500 µm: 84 min
	// 1000 µm: 240 min
	// 2000 µm: 678 min
}
