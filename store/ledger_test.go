package store_test

import (
	"bufio"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"strconv"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/core/studio"
	"bractum/demo"
	"bractum/store"
)

// The ledger is written by numbered commands, each the same every time: five movements of
// shelf lots, materials, cut wires and reservations.
const eachCommand = 5

func movementsOf(number int) (moved []studio.Movement) {
	random := rand.New(rand.NewPCG(uint64(number), 11))
	doc := demo.Document()
	any := func(kinds ...studio.MovementKind) studio.MovementKind { return kinds[random.IntN(len(kinds))] }
	for range eachCommand {
		m := studio.Movement{
			Kind:   any(studio.Bought, studio.UsedUp, studio.Spoilt, studio.Counted, studio.Corrected),
			Amount: 1 + random.Int64N(500),
		}
		if m.Kind == studio.UsedUp || m.Kind == studio.Spoilt {
			m.Amount = -m.Amount
		}
		switch random.IntN(4) {
		case 0:
			m.Material = doc.Materials[random.IntN(4)].ID
		case 1:
			m.Material, m.Length = demo.ID("26 white wire"), studio.Micrometres(60_000+10_000*random.IntN(3))
		case 2:
			m.Shelf = doc.Shelf[random.IntN(len(doc.Shelf))].ID
		case 3:
			m.Amount = max(m.Amount, -m.Amount)
			m.Kind, m.Shelf, m.Order = studio.Reserved, doc.Shelf[random.IntN(len(doc.Shelf))].ID, doc.Orders[random.IntN(len(doc.Orders))].ID
		}
		moved = append(moved, m)
	}
	return moved
}

func bookNumbered(s *store.Store, number int) (store.Done, error) {
	c := command("booked")
	c.ID = uuid.NewSHA1(uuid.NameSpaceOID, []byte(strconv.Itoa(number))).String()
	return s.Do(ctx, c, func(tx *store.Tx) (any, error) {
		tx.Summary = strconv.Itoa(number)
		return number, tx.Book(studio.WorkLot{}, movementsOf(number))
	})
}

// bookUntilKilled writes commands from a number on and acknowledges each on its output.
func bookUntilKilled(folder string, number int) {
	s, err := store.Open(ctx, folder, store.Options{})
	if err != nil {
		panic(err)
	}
	for ; ; number++ {
		if _, err := bookNumbered(s, number); err != nil {
			panic(err)
		}
		fmt.Println(number)
	}
}

// balance is one figure of the stores.
type balance struct {
	of, order studio.ID
	length    studio.Micrometres
}

func balances(doc *studio.Document) map[balance]int64 {
	all := map[balance]int64{}
	for _, m := range doc.Materials {
		all[balance{of: m.ID}] = m.OnHand
	}
	for _, o := range doc.Offcuts {
		all[balance{of: o.Material, length: o.Length}] = o.Number
	}
	for _, s := range doc.Shelf {
		all[balance{of: s.ID}] = s.Amount
		for _, claim := range s.Reserved {
			all[balance{s.ID, claim.Order, 0}] = claim.Quantity
		}
	}
	return all
}

// Thousands of random movements, as many as BRACTUM_MOVEMENTS says, by a process that is killed again and again: the balances
// are what the commands add up to, none lost that was acknowledged, none booked twice.
func TestTheLedgerBalancesThroughMovementsAndKills(t *testing.T) {
	s, folder := seeded(t)
	expected := balances(document(t, s, store.Accepted))
	require.NoError(t, s.Close())
	next, kills, movements := 0, 0, 4_000
	if n, err := strconv.Atoi(os.Getenv("BRACTUM_MOVEMENTS")); err == nil {
		movements = n
	}
	for ; next*eachCommand < movements; kills++ {
		writer := exec.Command(os.Args[0])
		writer.Env = append(os.Environ(), "BRACTUM_BOOK_IN="+folder, "BRACTUM_BOOK_FROM="+strconv.Itoa(next))
		out, err := writer.StdoutPipe()
		require.NoError(t, err)
		require.NoError(t, writer.Start())
		last := next - 1
		enough := next + rand.IntN(120)
		for lines := bufio.NewScanner(out); lines.Scan(); {
			if number, err := strconv.Atoi(lines.Text()); err == nil {
				require.Equal(t, last+1, number)
				last = number
			}
			if last >= enough { // while it writes the next
				_ = writer.Process.Kill()
			}
		}
		_ = writer.Wait() // it was killed

		again := opened(t, folder)
		done, err := bookNumbered(again, last+1) // perhaps written already, and not acknowledged
		require.NoError(t, err)
		assert.EqualValues(t, 2+last+1, done.N, "one line of the journal for each command")
		for ; next <= last+1; next++ {
			for _, m := range movementsOf(next) {
				of := balance{of: m.Material, length: m.Length}
				if m.Shelf != "" {
					of = balance{of: m.Shelf, order: m.Order}
				}
				expected[of] += m.Amount
			}
		}
		got := balances(document(t, again, store.Accepted))
		for of, amount := range expected {
			require.Equal(t, amount, got[of], "%v after %d commands", of, next)
		}
		require.NoError(t, again.Close())
	}
	require.Greater(t, kills, 3)
}
