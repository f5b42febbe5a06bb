// Package methods holds, in its tests, the twenty-one ways of making of
// docs/methods.md as studio documents, each with what it demands.
package methods
