package store_test

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/store"
)

// TestMain lets the test binary be a writer that is killed half way.
func TestMain(m *testing.M) {
	if folder := os.Getenv("BRACTUM_WRITE_TO"); folder != "" {
		writeUntilKilled(folder)
	}
	if folder := os.Getenv("BRACTUM_BOOK_IN"); folder != "" {
		number, _ := strconv.Atoi(os.Getenv("BRACTUM_BOOK_FROM"))
		bookUntilKilled(folder, number)
	}
	if folder := os.Getenv("BRACTUM_COPY_FROM"); folder != "" {
		copyUntilKilled(folder, os.Getenv("BRACTUM_COPY_TO"))
	}
	os.Exit(m.Run())
}

// copyUntilKilled makes copy after copy and tells each on its output.
func copyUntilKilled(folder, into string) {
	for i := 0; ; i++ {
		if err := store.Copy(ctx, folder, fmt.Sprintf("%s/%d-%d.bractum", into, os.Getpid(), i)); err != nil {
			panic(err)
		}
		fmt.Println(i)
	}
}

// writeUntilKilled enters order after order and acknowledges each on its output.
func writeUntilKilled(folder string) {
	s, err := store.Open(ctx, folder, store.Options{})
	if err != nil {
		panic(err)
	}
	for i := 0; ; i++ {
		name := fmt.Sprintf("order %d", i)
		done, err := s.Do(ctx, command("order entered"), func(tx *store.Tx) (any, error) {
			tx.Summary = name
			return name, tx.EnterOrder(anOrder(name))
		})
		if err != nil {
			panic(err)
		}
		fmt.Println(done.N, name)
	}
}

// Whatever was acknowledged before the process was killed is there afterwards,
// and nothing is there by half.
func TestKilledHalfWayNothingAcknowledgedIsLost(t *testing.T) {
	s, folder := seeded(t)
	require.NoError(t, s.Close())
	for round := range 3 {
		writer := exec.Command(os.Args[0])
		writer.Env = append(os.Environ(), "BRACTUM_WRITE_TO="+folder)
		out, err := writer.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, writer.Start())
		acknowledged := map[int64]string{}
		lines := bufio.NewScanner(out)
		for lines.Scan() {
			number, name, complete := strings.Cut(lines.Text(), " ")
			if n, err := strconv.ParseInt(number, 10, 64); err == nil && complete {
				acknowledged[n] = name
			}
			if len(acknowledged) == 5+7*round { // while it writes the next
				_ = writer.Process.Kill()
			}
		}
		_ = writer.Wait() // it was killed
		require.NotEmpty(t, acknowledged)

		again := opened(t, folder)
		n, _, _, err := again.LastN(ctx)
		require.NoError(t, err)
		byNumber := map[int64]string{}
		for page := (store.Page[store.Entry]{Next: fmt.Sprint(n + 1)}); page.Next != ""; {
			page, err = again.Journal(ctx, store.Sought{After: page.Next})
			require.NoError(t, err)
			for _, e := range page.Lines {
				byNumber[e.N] = e.Summary
			}
		}
		assert.Len(t, byNumber, int(n))
		for number, name := range acknowledged {
			assert.Equal(t, name, byNumber[number])
		}
		assert.Len(t, document(t, again, store.Wished).Orders, int(n)-1+4, "one order for every line of the journal")
		require.NoError(t, again.Close())
	}
}
