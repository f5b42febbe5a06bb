package store

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
)

// Flaws are what is wrong with a file: what of it does not hold together.
type Flaws []string

func (f Flaws) Error() string { return strings.Join(f, "\n") }

// proofs are queries that find what is kept beside what it is proven against, and nothing where
// both agree.
var proofs = []struct{ what, query string }{
	{
		what: "stock on the shelf %s is kept as %d, the ledger says %d",
		query: `SELECT id, amount, (SELECT COALESCE(SUM(ledger.amount), 0) FROM ledger
		WHERE stock_lot_id = stock_lot.id AND movement NOT IN ('reserved', 'released')) AS proven FROM stock_lot WHERE amount <> proven`,
	},
	{
		what: "material %s is kept as %d, the ledger says %d",
		query: `SELECT name, on_hand, (SELECT COALESCE(SUM(ledger.amount), 0) FROM ledger
		WHERE material_id = material.id AND length_um IS NULL) AS proven FROM material WHERE on_hand <> proven`,
	},
	{
		what: "cut wires %s are kept as %d, the ledger says %d",
		query: `WITH proven AS (SELECT material_id || ' of ' || length_um || ' µm' AS name, SUM(amount) AS number
			FROM ledger WHERE length_um IS NOT NULL GROUP BY material_id, length_um HAVING SUM(amount) <> 0),
		kept AS (SELECT material_id || ' of ' || length_um || ' µm' AS name, number FROM offcut)
		SELECT COALESCE(kept.name, proven.name), COALESCE(kept.number, 0), COALESCE(proven.number, 0) FROM kept FULL JOIN proven ON kept.name = proven.name
		WHERE COALESCE(kept.number, 0) <> COALESCE(proven.number, 0)`,
	},
	{
		what: "what is reserved of %s is kept as %d, the ledger says %d",
		query: `WITH proven AS (SELECT COALESCE(stock_lot_id, lot_id) || ' for ' || COALESCE(order_id, 'nobody') AS name,
			SUM(amount) AS number FROM ledger WHERE movement IN ('reserved', 'released') GROUP BY stock_lot_id, lot_id, order_id HAVING SUM(amount) <> 0),
		kept AS (SELECT of_lot || ' for ' || CASE order_id WHEN '' THEN 'nobody' ELSE order_id END AS name, quantity AS number FROM reservation)
		SELECT COALESCE(kept.name, proven.name), COALESCE(kept.number, 0), COALESCE(proven.number, 0) FROM kept FULL JOIN proven ON kept.name = proven.name
		WHERE COALESCE(kept.number, 0) <> COALESCE(proven.number, 0)`,
	},
	{
		what: "pieces of %s in closed lots are kept as %d, the lots say at least %d",
		query: `SELECT page_id, closed_pieces.good + closed_pieces.lost,
		(SELECT COALESCE(SUM(lot.good + lot.lost), 0) FROM lot JOIN recipe_revision ON recipe_revision.id = lot.recipe_id
			WHERE recipe_revision.recipe_id = page_id AND closed_minute IS NOT NULL) AS proven
		FROM closed_pieces WHERE closed_pieces.good + closed_pieces.lost < proven`,
	},
	{
		what: "ordinals of %s are kept up to %d, closed lots have %d",
		query: `SELECT lot.gather_key, COALESCE(highest, 0), MAX(ordinal) FROM lot
		LEFT JOIN closed_ordinal ON closed_ordinal.gather_key = lot.gather_key WHERE closed_minute IS NOT NULL
		GROUP BY lot.gather_key HAVING MAX(ordinal) > COALESCE(highest, 0)`,
	},
	{
		what: "lot %s is closed and has %d left (%d in the ledger)",
		query: `SELECT lot.id, SUM(stock_lot.amount), SUM(stock_lot.amount) FROM lot JOIN stock_lot ON stock_lot.lot_id = lot.id
		WHERE closed_minute IS NOT NULL GROUP BY lot.id HAVING SUM(stock_lot.amount <> 0) > 0`,
	},
	{
		what: "order %s is kept as closed %d, its state says %d",
		query: `SELECT order_version.name, closed, state IN ('left', 'cancelled') AND (accepted_version IS NULL OR accepted_version = customer_order.version) AS proven
		FROM customer_order JOIN order_version ON order_id = customer_order.id AND order_version.version = customer_order.version WHERE closed <> proven`,
	},
}

// Verify looks through the whole file: that its pages and indexes are sound, that what refers
// to something finds it, that every balance is what the ledger comes to, and what is summed up
// is what it is the sum of. It returns Flaws with all that is wrong. It takes O(ledger), and
// writes nothing.
func (s *Store) Verify(ctx context.Context, clock Clock) error {
	var flaws Flaws
	tx, err := s.read.BeginTx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return plain(err)
	}
	defer func() { _ = tx.Rollback() }() // nothing was written
	err = each(ctx, tx, "PRAGMA integrity_check(20)", func(rows *sql.Rows) error {
		var found string
		if err := rows.Scan(&found); err != nil || found == "ok" {
			return err
		}
		flaws = append(flaws, "the file is damaged: "+found)
		return nil
	})
	if err != nil {
		return plain(err)
	}
	err = each(ctx, tx, "PRAGMA foreign_key_check", func(rows *sql.Rows) error {
		var table, parent string
		var row sql.NullInt64
		var key int
		err := rows.Scan(&table, &row, &parent, &key)
		flaws = append(
			flaws,
			fmt.Sprintf("row %d of %s refers to something of %s that is not there", row.Int64, table, parent),
		)
		return err
	})
	if err != nil {
		return plain(err)
	}
	for _, proof := range proofs {
		err := each(ctx, tx, proof.query, func(rows *sql.Rows) error {
			var name string
			var kept, proven int64
			err := rows.Scan(&name, &kept, &proven)
			flaws = append(flaws, fmt.Sprintf(proof.what, name, kept, proven))
			return err
		})
		if err != nil {
			return plain(err)
		}
	}
	if len(flaws) > 0 {
		return flaws // a document of this could not be trusted
	}
	a, _, err := s.assemble(ctx, s.reads.WithTx(tx), clock, nil)
	if err != nil {
		return plain(err)
	}
	for _, problem := range a.seen(Wished).Validate() {
		flaws = append(flaws, "the studio does not hold together: "+problem.Error())
	}
	if len(flaws) > 0 {
		return flaws
	}
	return a.err
}

func each(ctx context.Context, tx *sql.Tx, query string, row func(*sql.Rows) error) error {
	rows, err := tx.QueryContext(ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := row(rows); err != nil {
			return err
		}
	}
	return rows.Err()
}
