package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/studio"
	"bractum/store"
)

// PageOfHistory is what of a history a page is to have.
type PageOfHistory struct {
	Text  string `query:"text" maxLength:"120" doc:"that lines hold"`
	From  string `query:"from" format:"date" doc:"the first day, such as 2027-09-20"`
	To    string `query:"to" format:"date" doc:"the last day"`
	After string `query:"after" maxLength:"80" doc:"the next of the page before"`
	Most  int64  `query:"most" minimum:"1" maximum:"100" default:"50"`
}

func (p *PageOfHistory) sought() store.Sought {
	return store.Sought{Text: p.Text, From: day(p.From), To: day(p.To), After: p.After, Most: p.Most}
}

// day is a date that was checked already, none where it is empty.
func day(text string) studio.Date {
	d, err := studio.ParseDate(text)
	if err != nil {
		return studio.Date{}
	}
	return d
}

// undoing names a line of the journal that is to be taken back.
type undoing struct {
	Who
	N int64 `path:"n"`
}

func (s *Service) registerJournal(to huma.API) {
	read(to, get("/journal", "get-journal", "A page of the commands, newest first"),
		func(ctx context.Context, in *PageOfHistory) (store.Page[store.Entry], error) {
			return s.store.Journal(ctx, in.sought())
		})
	fact(s, to, post("/journal/{n}/undo", "undo", "undone", "Take back what a command did"),
		func(c *change, in *undoing) (Moved, error) {
			by, err := c.WrittenBy(in.N)
			if err == nil && c.asker.Role == store.Maker && by != c.asker.Person {
				err = studio.Refuse("somebody else did this; ask them or a lead to take it back")
			}
			if err != nil {
				return Moved{}, err
			}
			return Moved{c.Tx.N()}, c.Undo(in.N)
		})
}
