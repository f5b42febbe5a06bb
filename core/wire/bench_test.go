package wire

import (
	"fmt"
	"slices"
	"testing"
	"time"
)

// BenchmarkCut reports over 585 instances the gap to the bound in wires, how many are not
// proven, and the times that 95 % and all of them stay under.
func BenchmarkCut(b *testing.B) {
	set := instances(65, 7)
	for b.Loop() {
		var gap, unproven int64
		var took []time.Duration
		slow := map[string]time.Duration{}
		for _, i := range set {
			begun := time.Now()
			got := Cut(i.pieces, i.full, 60*mm, i.offcuts)
			d := time.Since(begun)
			took = append(took, d)
			slow[i.family] = max(slow[i.family], d)
			gap += got.Full - got.LowerBound
			if !got.Proven {
				unproven++
			}
		}
		slices.Sort(took)
		b.ReportMetric(float64(gap), "wires-over-bound")
		b.ReportMetric(float64(unproven), "unproven")
		b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "ms-95%")
		b.ReportMetric(float64(took[len(took)-1].Microseconds())/1000, "ms-most")
		b.Log(fmt.Sprint(slow))
	}
}
