package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"bractum/store"
)

type verifyCommand struct {
	Data string `help:"Folder of the studio's file." default:"." type:"existingdir"`
}

// studioIn opens the studio that is in a folder, and makes none.
func studioIn(ctx context.Context, folder string) (*store.Store, error) {
	if _, err := os.Stat(filepath.Join(folder, store.FileName)); err != nil {
		return nil, fmt.Errorf("no studio is in %s: %w", folder, err)
	}
	return store.Open(ctx, folder, store.Options{})
}

// Run proves what is kept against what it is proven by, and names every flaw.
func (c *verifyCommand) Run() error {
	ctx := context.Background()
	s, err := studioIn(ctx, c.Data)
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }() // nothing was written
	err = s.Verify(ctx, clockOf)
	var flaws store.Flaws
	if errors.As(err, &flaws) {
		fmt.Println(flaws.Error())
		return breachesFound(len(flaws))
	}
	if err == nil {
		fmt.Println("All balances are what the ledger says, and the file holds together.")
	}
	return err
}
