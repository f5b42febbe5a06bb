package api

import (
	"cmp"
	"context"
	"errors"
	"slices"

	"bractum/core/studio"
	"bractum/outside"
	"bractum/store"
)

// devices are what the settings say stands in the studio; none before one is begun.
func (s *Service) devices(ctx context.Context) (studio.Devices, error) {
	at, err := s.situations.Latest(ctx)
	if errors.Is(err, store.ErrEmpty) {
		return studio.Devices{}, nil
	}
	if err != nil {
		return studio.Devices{}, err
	}
	return at.Accepted.Settings.Devices, nil
}

// scale is the studio's: at the address with which the program was started, else where its settings say; nil where
// there is none. The printer goes the same way.
func (s *Service) scale(ctx context.Context) (*outside.Scale, error) {
	said, err := s.devices(ctx)
	if address := cmp.Or(s.out.Scale, said.Scale); err == nil && address != "" {
		return outside.NewScale(address), nil
	}
	return nil, err
}

func (s *Service) printer(ctx context.Context) (*outside.Printer, error) {
	said, err := s.devices(ctx)
	if address := cmp.Or(s.out.Printer, said.Printer); err == nil && address != "" {
		return outside.NewPrinter(address), nil
	}
	return nil, err
}

// desk is where a supplier takes orders: at their own address, else at the one with which the program was started;
// nil of one who takes none at a desk.
func (s *Service) desk(at *moment, supplier studio.ID) *outside.Supplier {
	all := at.inForce.Doc.Suppliers
	i := slices.IndexFunc(all, func(s studio.Supplier) bool { return s.ID == supplier })
	if i < 0 || all[i].Takes != studio.OrderedAtDesk {
		return nil
	}
	if address := cmp.Or(all[i].Address, s.out.Supplier); address != "" {
		return outside.NewSupplier(address)
	}
	return nil
}
