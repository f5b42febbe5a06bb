package main

import (
	"context"
	"fmt"

	"bractum/store"
)

type backupCommand struct {
	Data string `help:"Folder of the studio's file." default:"./data" type:"existingdir"`
	File string `arg:"" help:"The backup to write; it may not be there yet." type:"path"`
}

// Run copies the studio, also while it is served.
func (c *backupCommand) Run() error {
	if err := store.Copy(context.Background(), c.Data, c.File); err != nil {
		return err
	}
	fmt.Printf("%s holds the studio as it is now, and was read through.\n", c.File)
	return nil
}

type restoreCommand struct {
	File string `arg:"" help:"A backup, or a studio's file." type:"existingfile"`
	Data string `help:"Folder to put it into, without a studio yet." default:"./data" type:"path"`
}

// Run puts a backup into an empty folder, and proves that it holds together.
func (c *restoreCommand) Run() error {
	ctx := context.Background()
	if err := store.Restore(ctx, c.File, c.Data); err != nil {
		return err
	}
	s, err := store.Open(ctx, c.Data, store.Options{})
	if err != nil {
		return err
	}
	defer func() { _ = s.Close() }() // nothing more is written
	if err := s.Verify(ctx, clockOf); err != nil {
		return fmt.Errorf("it is restored, but does not hold together:\n%w", err)
	}
	n, calendar, _, err := s.LastN(ctx)
	if err != nil {
		return err
	}
	last, err := s.LastMinute(ctx)
	if err != nil {
		return err
	}
	fmt.Printf("Restored: %d lines of the journal, the last of %s. bractum serve --data %s opens it.\n",
		n, calendar.Time(last).Format("2 January 2006, 15:04"), c.Data)
	fmt.Println("Browsers, tablets and keys that it knew may come in again; " +
		"Studio, tablets and people, takes them out.")
	return nil
}
