package store

import (
	"context"
	"database/sql"
	"errors"
	"slices"

	"bractum/core/studio"
	"bractum/store/sqlcgen"
)

// Snapshot is all that is recorded of a studio at one journal number, read in one
// transaction: nothing of it is from another moment. What is large and never changes, a
// version of the plan or the plan of an offer, is named and read when it is wanted.
// Nothing of a snapshot may be changed.
type Snapshot struct {
	N   int64
	Now studio.Minute
	// Stands is the minute at which the clock stands, nil where it runs.
	Stands   *studio.Minute
	Calendar studio.Calendar
	Orders   []OrderState // as they are wished
	// Accepted is what the plan in force is made for; Wished is nil where nothing awaits
	// acceptance.
	Accepted, Wished *studio.Document
	InForce          PlanHead
	Offers           []Offer // without their plans
	Timers           []Timer
	Sensors          []Sensor
	Purchases        []PurchaseState

	read *assembler // what it was made from, for the next
}

// Without is the snapshot without an offer that is gone since.
func (s *Snapshot) Without(offer studio.ID) *Snapshot {
	left := *s
	left.Offers = slices.DeleteFunc(slices.Clone(s.Offers), func(o Offer) bool { return o.ID == offer })
	return &left
}

// PlanHead names a version of the plan in force and the journal number it was made at;
// both are 0 before the first.
type PlanHead struct{ Version, Base int64 }

// Snapshot reads the studio as it stands.
func (s *Store) Snapshot(ctx context.Context, clock Clock) (snapshot *Snapshot, err error) {
	return s.SnapshotAfter(ctx, clock, nil, Recent{})
}

// Recent is what has been recorded up to a journal number since an earlier snapshot, by the
// topics it is about.
type Recent struct {
	N      int64
	Topics []string
}

// SnapshotAfter reads the studio as it stands, and of an earlier snapshot takes over what
// nothing was recorded about since. Where more was recorded than is known, it reads all.
func (s *Store) SnapshotAfter(
	ctx context.Context,
	clock Clock,
	before *Snapshot,
	since Recent,
) (snapshot *Snapshot, err error) {
	err = s.reading(ctx, func(q *sqlcgen.Queries) error {
		n, err := q.LastN(ctx)
		if err != nil {
			return err
		}
		snapshot, err = s.snapshot(ctx, q, n, clock, before.reused(n, since))
		return err
	})
	return snapshot, err
}

// reused is what a snapshot at a journal number may take over.
func (s *Snapshot) reused(n int64, since Recent) *reuse {
	switch {
	case s == nil:
		return nil
	case n == s.N:
		return &reuse{assembler: s.read, since: nil}
	case n == since.N:
		return &reuse{assembler: s.read, since: since.Topics}
	}
	return nil
}

// SnapshotAfter is the studio as the command finds it: at its base.
func (t *Tx) SnapshotAfter(before *Snapshot, since Recent) (*Snapshot, error) {
	clock := func(studio.Calendar, *studio.Minute) studio.Minute { return t.now }
	return t.store.snapshot(t.ctx, t.q, t.Base(), clock, before.reused(t.Base(), since))
}

func (s *Store) snapshot(
	ctx context.Context,
	q *sqlcgen.Queries,
	n int64,
	clock Clock,
	from *reuse,
) (*Snapshot, error) {
	a, row, err := s.assemble(ctx, q, clock, from)
	if err != nil {
		return nil, err
	}
	calendar, standing, err := clockOf(row)
	if err != nil {
		return nil, err
	}
	at := &Snapshot{N: n, Now: a.doc.Now, Stands: standing, Calendar: calendar, Orders: a.orderStates(),
		Accepted: a.seen(Accepted), Timers: a.timers, read: a}
	if a.pending() {
		at.Wished = a.seen(Wished)
	}
	if a.err != nil {
		return nil, a.err
	}
	head, err := q.LatestPlanHead(ctx)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return nil, err
	}
	at.InForce = PlanHead(head)
	for _, o := range rows(a, a.q.OfferHeads) {
		at.Offers = append(at.Offers, Offer{ID: studio.ID(o.ID), Base: o.Base, How: o.How, Steps: o.Steps})
	}
	for _, r := range rows(a, a.q.Sensors) {
		at.Sensors = append(at.Sensors, sensorOf(r))
	}
	at.Purchases = a.openPurchases()
	a.q, a.ctx = nil, nil // it is over
	return at, a.err
}

// pending is true where something that the lead wishes awaits acceptance.
func (a *assembler) pending() bool {
	for _, o := range a.orders {
		if o.Pending() {
			return true
		}
	}
	for _, w := range a.wished {
		if w.Wished != w.Accepted {
			return true
		}
	}
	return false
}
