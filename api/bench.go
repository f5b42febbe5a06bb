package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"bractum/core/bench"
	"bractum/core/studio"
	"bractum/store"
)

// BenchView is what one maker sees: the task at hand, the next, what dries.
type BenchView struct {
	N      int64         `json:"n"`
	Now    studio.Minute `json:"now"`
	Task   *TaskCard     `json:"task,omitempty" doc:"the task that is going on, or the next"`
	Next   []TaskCard    `json:"next"`
	Drying []TaskCard    `json:"drying" doc:"what becomes ready soon"`
}

func (s *Service) registerBench(to huma.API) {
	type who struct {
		Person string `path:"person"`
	}
	get(to, "/bench/{person}", "get-bench", "What a maker does now", func(ctx context.Context, in *who) (BenchView, error) {
		at, err := s.situation(ctx)
		if err != nil {
			return BenchView{}, err
		}
		if err := at.knows(in.Person); err != nil {
			return BenchView{}, err
		}
		return at.bench(studio.ID(in.Person)), nil
	})
	type start struct {
		Who
		Task string `path:"task"`
		Body struct {
			FoundReady bool `json:"foundReady,omitempty" doc:"the maker has touched the pieces and found them ready"`
		}
	}
	command(to, http.MethodPost, "/tasks/{task}/start", "start-task", "Start or resume a task", func(ctx context.Context, in *start) (Recorded, error) {
		return s.record(ctx, in.Who, "task started", in.Task, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
			return b.Start(studio.ID(in.Task), studio.ID(in.Person), in.Body.FoundReady)
		})
	})
	type counted struct {
		Who
		Task string `path:"task"`
		Body bench.Counts
	}
	command(to, http.MethodPost, "/tasks/{task}/pause", "pause-task", "Pause a task; what is counted stays counted", func(ctx context.Context, in *counted) (Recorded, error) {
		return s.record(ctx, in.Who, "task paused", in.Task, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
			lot, err := b.Pause(studio.ID(in.Task), in.Body)
			return lot, nil, err
		})
	})
	command(to, http.MethodPost, "/tasks/{task}/finish", "finish-task", "Finish a task with its counts", func(ctx context.Context, in *counted) (Recorded, error) {
		return s.record(ctx, in.Who, "task finished", in.Task, func(b bench.Bench) (studio.WorkLot, []studio.Movement, error) {
			return b.Finish(studio.ID(in.Task), in.Body)
		})
	})
}

// Recorded is the answer to a fact: what it changes.
type Recorded struct {
	N      int64             `json:"n"`
	Task   studio.ID         `json:"task"`
	Of     string            `json:"of"`
	Broken int64             `json:"broken" doc:"of the whole lot, so far"`
	After  bench.Consequence `json:"after"`
}

// record runs a fact at a bench as one command.
func (s *Service) record(ctx context.Context, who Who, kind, task string, happen func(bench.Bench) (studio.WorkLot, []studio.Movement, error)) (Recorded, error) {
	return facts(ctx, s, func(at *situation) (Recorded, error) {
		done, err := s.do(ctx, who, kind, func(tx *store.Tx) (any, error) {
			if err := at.unchanged(tx); err != nil {
				return nil, err
			}
			b := bench.New(at.inForce.doc, at.inForce.plan)
			lot, moved, err := happen(b)
			if err != nil {
				return nil, err
			}
			r := at.inForce.book.Of(lot.Made())
			tx.Summary = summary(r, lot, studio.ID(task))
			answer := Recorded{Task: studio.ID(task), Of: r.Name, Broken: lot.Started - lot.Progress(r).Alive, After: b.After(lot)}
			if err := tx.PutLot(lot); err != nil {
				return nil, err
			}
			return answer, tx.Book(lot, moved)
		})
		var answer Recorded
		if err == nil {
			err = json.Unmarshal(done.Answer, &answer)
			answer.N = done.N
		}
		return answer, err
	})
}

// summary says in a line of the journal what happened to a task.
func summary(r *studio.Recipe, lot studio.WorkLot, task studio.ID) string {
	for _, step := range r.Steps {
		record := lot.Record(step.Key)
		if record == nil || studio.TaskID(lot.ID, step.Key) != task {
			continue
		}
		what := fmt.Sprintf("%s, %s: %s", step.Name, r.Name, record.State)
		if r.Kind != studio.KindMix && record.Counted() > 0 {
			what += fmt.Sprintf(", %d good, %d second, %d broken", record.Good, record.Second, record.Broken)
		}
		return what
	}
	return r.Name
}

// bench is a maker's tasks in the order in which they come.
func (at *situation) bench(person studio.ID) BenchView {
	a := at.inForce
	mine := a.cards(func(t studio.Task) bool { return t.Person == person && t.State != studio.TaskDone })
	slices.SortStableFunc(mine, func(x, y TaskCard) int {
		if (x.State == studio.TaskStarted) != (y.State == studio.TaskStarted) {
			if x.State == studio.TaskStarted {
				return -1
			}
			return 1
		}
		return int(x.Begin() - y.Begin())
	})
	v := BenchView{N: at.n, Now: at.now, Next: []TaskCard{}, Drying: []TaskCard{}}
	if len(mine) > 0 {
		v.Task, v.Next = &mine[0], mine[1:min(3, len(mine))]
	}
	v.Drying = a.cards(func(t studio.Task) bool { return t.Person == "" && t.Start <= at.now && t.End > at.now })
	slices.SortStableFunc(v.Drying, func(x, y TaskCard) int { return int(x.End - y.End) })
	return v
}
