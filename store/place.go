package store

import (
	"os"
	"path/filepath"
)

// InPlace says why what is open is not the file that stands in its folder: that was moved, taken away or unplugged, or
// another was put there. What would be written then would be lost with it.
func (s *Store) InPlace() error {
	is, err := os.Stat(filepath.Join(s.folder, FileName))
	if err == nil && os.SameFile(is, s.about) {
		return nil
	}
	return broken(
		err,
		"the studio's file is not in %s any more: it was moved, taken away or unplugged, or another lies "+
			"there. Nothing is written: put it back, or stop Bractum and start it where the file is",
		s.folder,
	)
}
