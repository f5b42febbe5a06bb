// Package reference holds, in its tests, what plans are measured by: an exhaustive
// solver of tiny direct documents, a plain minute-by-minute enumeration that it has
// to agree with, and random documents for both and for the planner.
package reference
