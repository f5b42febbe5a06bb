package store_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/store"
)

// A folder that is moved while it is served takes nothing more; put back, it goes on, and nothing is lost.
func TestAFolderThatIsGoneIsSaid(t *testing.T) {
	s, folder := seeded(t)
	rename := func(name string) error {
		_, err := s.Do(ctx, command("named anew"), func(tx *store.Tx) (any, error) { return nil, tx.Rename(name) })
		return err
	}
	require.NoError(t, rename("The Loft"))
	elsewhere := filepath.Join(t.TempDir(), "away")
	require.NoError(t, os.Rename(folder, elsewhere))
	var broken store.Broken
	require.ErrorAs(t, rename("The Attic"), &broken)
	assert.Contains(t, broken.Error(), "is not in "+folder+" any more")
	require.NoError(t, os.Mkdir(folder, 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(folder, store.FileName), nil, 0o600))
	require.ErrorAs(t, rename("The Attic"), &broken, "another file lies there")
	require.NoError(t, os.RemoveAll(folder))
	require.NoError(t, os.Rename(elsewhere, folder))
	require.NoError(t, s.InPlace())
	require.NoError(t, rename("The Cellar"))
	require.NoError(t, s.Close())
	doc := document(t, opened(t, folder), store.Accepted)
	assert.Equal(t, "The Cellar", doc.Name)
}
