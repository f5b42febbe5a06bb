package plan

import "bractum/core/studio"

// What one maker does of one kind of work after another is one sitting: what has to be fetched and laid out
// is, and hands keep their rhythm. So work goes to who is at the like just before, for as many minutes later as
// the studio says that is worth (settings.sittingMinutes).

// findKinds notes the kind of work of each job by number, 0 of what has none: waits, and all of a direct
// document.
func (p *problem) findKinds(book *studio.Book) {
	p.kinds = make([]int, len(p.jobs))
	if p.doc.Settings.SittingMinutes == 0 || p.doc.Direct != nil {
		return
	}
	recipes, known := map[studio.ID]*studio.Recipe{}, map[string]int{}
	for i := range p.counted.Lots {
		recipes[p.counted.Lots[i].ID] = book.Of(p.counted.Lots[i].Made())
	}
	for _, j := range p.jobs {
		kind := recipes[j.lot].KindOfWork(j.Step)
		if kind == "" {
			continue
		}
		if known[kind] == 0 {
			known[kind] = len(known) + 1
		}
		p.kinds[j.number] = known[kind]
	}
}

// goesOnSitting is true of a slot in which somebody goes on with the kind of work that they were at.
func (s *schedule) goesOnSitting(j *job, at *slot) bool {
	m := s.makers[at.maker]
	before := m.busyAfter(at.start) - 1
	if s.kinds[j.number] == 0 || s.wish.thrift == 0 || before < 0 || at.start-m.busy[before].To > studio.PauseWithin {
		return false
	}
	return s.kinds[m.busy[before].job] == s.kinds[j.number]
}
