package bench

import (
	"strings"

	"bractum/core/studio"
)

// Limits of what is said at a bench, in characters.
const (
	longestAsk    = 200
	longestRemark = 500
	mostRemarks   = 20
)

// mostAgo is how long ago, in minutes, something may have happened at a bench that is told now.
const mostAgo studio.Minute = 24 * 60

// Earlier is the bench as of some minutes ago, for what happened while a tablet had no connection: but no
// earlier than the last that is known of the task's lot, or that somebody did.
func (b Bench) Earlier(task, person studio.ID, ago studio.Minute) Bench {
	lot, _, err := b.find(task)
	if ago <= 0 || err != nil {
		return b
	}
	at := b.doc.Now - min(ago, mostAgo)
	for _, w := range append(b.doc.Work[:len(b.doc.Work):len(b.doc.Work)], lot) {
		for _, r := range w.Records {
			if w.ID == lot.ID || r.Person == person && r.Machine == "" {
				at = max(at, r.Start, r.End)
			}
		}
	}
	doc := *b.doc
	doc.Now = min(at, b.doc.Now)
	b.doc = &doc
	return b
}

// Count writes down pieces of a task that goes on: a run that is done stays done, whatever happens to the
// tablet. It is refused where more is counted than is left.
func (b Bench) Count(task studio.ID, c Counts) (studio.WorkLot, error) {
	lot, step, record, err := b.running(task)
	switch {
	case err != nil:
		return lot, err
	case step.Wait != nil || record.State != studio.TaskStarted:
		return lot, studio.Refuse("%q is not being done; only what somebody is at is counted on the way", step.Name)
	case c.Good+c.Second+c.Mend+c.Broken == 0:
		return lot, studio.Refuse("nothing is counted; say how many came out")
	}
	return lot, b.count(lot, step, record, c, false)
}

// Ask has somebody who is at a task ask for help, in a word or two; with none they have it, or need it no
// more.
func (b Bench) Ask(task studio.ID, says string) (studio.WorkLot, error) {
	lot, step, record, err := b.running(task)
	says = strings.TrimSpace(says)
	switch {
	case err != nil:
		return lot, err
	case record.Machine != "":
		return lot, studio.Refuse("%q runs in a machine; nobody is at it", step.Name)
	case len([]rune(says)) > longestAsk:
		return lot, studio.Refuse("that is longer than %d characters; say it shorter", longestAsk)
	}
	record.Asks = says
	return lot, nil
}

// Remark keeps with a lot what was not as it should be at a task of it that has begun.
func (b Bench) Remark(task studio.ID, r studio.Remark) (studio.WorkLot, error) {
	lot, step, err := b.find(task)
	if err != nil {
		return lot, err
	}
	record := lot.Record(step.Key)
	r.Says = strings.TrimSpace(r.Says)
	switch {
	case record == nil:
		return lot, studio.Refuse("%q is not begun; start it first", step.Name)
	case r.Says == "" && r.Picture == "":
		return lot, studio.Refuse("say in a word what is not as it should be, or take a photo of it")
	case len([]rune(r.Says)) > longestRemark:
		return lot, studio.Refuse("that is longer than %d characters; say it shorter", longestRemark)
	case len(record.Remarks) >= mostRemarks:
		return lot, studio.Refuse("%d remarks are kept with %q already", mostRemarks, step.Name)
	}
	record.Remarks = append(record.Remarks[:len(record.Remarks):len(record.Remarks)], r)
	return lot, nil
}

// GiveTo has somebody else do a task: who is at it leaves it as it is, and whoever takes it up has all its
// skills. It is refused of a machine's, of what is done, and of who cannot do it. Of a task that is not
// begun nothing changes but whose it is; then begun is false.
func (b Bench) GiveTo(task, person studio.ID, may bool) (lot studio.WorkLot, begun bool, err error) {
	lot, step, err := b.find(task)
	if err != nil {
		return lot, false, err
	}
	record := lot.Record(step.Key)
	switch {
	case step.Wait != nil:
		return lot, false, studio.Refuse("%q runs in a machine; it is nobody's to give away", step.Name)
	case record != nil && record.State == studio.TaskDone:
		return lot, false, studio.Refuse("%q is done already", step.Name)
	case !may:
		return lot, false, studio.Refuse("who is to take up %q cannot do all that it asks for", step.Name)
	case record == nil:
		return lot, false, nil
	}
	begun = record.State == studio.TaskStarted
	record.State, record.Asks = studio.TaskPaused, ""
	return lot, begun, nil
}
