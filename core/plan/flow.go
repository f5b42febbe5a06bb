package plan

import (
	"math"
	"slices"
)

// flow is a transportation problem: so much is needed by each source, there is so much
// room at each sink, and a unit costs so much from a source to a sink.
type flow struct {
	need, room []float64
	costs      [][]float64
	sent       [][]float64
}

// least is the least cost of sending everything, by successive shortest paths with
// potentials. There must be room for all.
func (f *flow) least() (sum float64) {
	sources, sinks := len(f.need), len(f.room)
	f.sent = make([][]float64, sources)
	for i := range f.sent {
		f.sent[i] = make([]float64, sinks)
	}
	need, room := slices.Clone(f.need), slices.Clone(f.room)
	high, low := make([]float64, sources), make([]float64, sinks) // potentials
	for source := range sources {
		for need[source] > tiny(f.need[source]) {
			sink, from, amount := f.path(source, need[source], room, high, low)
			for at := sink; ; {
				i := from.sink[at]
				f.sent[i][at] += amount
				if i == source {
					break
				}
				f.sent[i][from.source[i]] -= amount
				at = from.source[i]
			}
			need[source] -= amount
			room[sink] -= amount
		}
	}
	for i := range f.sent {
		for k, amount := range f.sent[i] {
			if amount > 0 {
				sum += amount * f.costs[i][k]
			}
		}
	}
	return sum
}

func tiny(amount float64) float64 { return amount * 1e-9 }

// steps of a path: from which source to each sink, and back from which sink to each source.
type trace struct{ sink, source []int }

// path is a cheapest way from a source to a sink with room, and how much can go along it.
func (f *flow) path(source int, amount float64, room, high, low []float64) (int, trace, float64) {
	sources, sinks := len(f.need), len(f.room)
	t := trace{sink: make([]int, sinks), source: make([]int, sources)}
	toSink, toSource := make([]float64, sinks), make([]float64, sources)
	doneSink, doneSource := make([]bool, sinks), make([]bool, sources)
	for k := range toSink {
		toSink[k] = math.Inf(1)
	}
	for i := range toSource {
		toSource[i] = math.Inf(1)
	}
	toSource[source] = 0
	end, length := -1, 0.0
	for end < 0 {
		i, k, nearest := -1, -1, math.Inf(1)
		for n, far := range toSource {
			if !doneSource[n] && far < nearest {
				i, nearest = n, far
			}
		}
		for n, far := range toSink {
			if !doneSink[n] && far < nearest {
				i, k, nearest = -1, n, far
			}
		}
		switch {
		case i >= 0:
			doneSource[i] = true
			for n := range toSink {
				if far := nearest + max(0, f.costs[i][n]+high[i]-low[n]); far < toSink[n] {
					toSink[n], t.sink[n] = far, i
				}
			}
		case k >= 0 && room[k] > tiny(f.room[k]):
			end, length = k, nearest
		default:
			doneSink[k] = true
			for n := range toSource {
				if f.sent[n][k] > tiny(f.need[n]) {
					if far := nearest + max(0, low[k]-high[n]-f.costs[n][k]); far < toSource[n] {
						toSource[n], t.source[n] = far, k
					}
				}
			}
		}
	}
	for n := range high {
		high[n] += min(toSource[n], length)
	}
	for n := range low {
		low[n] += min(toSink[n], length)
	}
	amount = min(amount, room[end])
	for at := end; ; {
		i := t.sink[at]
		if i == source {
			break
		}
		amount = min(amount, f.sent[i][t.source[i]])
		at = t.source[i]
	}
	return end, t, amount
}
