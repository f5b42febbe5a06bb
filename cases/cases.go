// Package cases says how many cases the tests of properties try.
package cases

import (
	"flag"
	"os"
	"testing"
)

// Few runs the tests of a package with so many cases of each property, where the command line does
// not say how many: those of a whole studio take long. It ends the program.
func Few(m *testing.M, checks string) {
	flag.Parse()
	given := false
	flag.Visit(func(f *flag.Flag) { given = given || f.Name == "rapid.checks" })
	if !given {
		_ = flag.Set("rapid.checks", checks)
		_ = flag.Set("rapid.shrinktime", "5s")
	}
	os.Exit(m.Run())
}
