package api

import (
	"bytes"
	"context"
	"hash/maphash"
	"log/slog"
	"net/http"
	"runtime/debug"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/klauspost/compress/gzip"

	"bractum/core/studio"
	"bractum/situation"
)

// view is an answer that was made of a situation: encoded, and compressed for those who
// take that.
type view struct {
	made  sync.Once
	ready atomic.Bool
	err   error
	plain []byte
	tag   string

	packing sync.Once
	packed  []byte
}

// views are those that were made last, by the address they were asked for at. One stands
// for as long as nothing that it shows has changed.
type views struct {
	mu    sync.Mutex
	known map[string]stamped
}

type stamped struct {
	stamp stamp
	*view
}

// stamp is what a view was made of.
type stamp struct {
	recorded int64 // the latest journal number about what it shows
	worked   int64 // what is worked out
	behind   bool
	now      studio.Minute
}

// mostKept is how many views are kept; then they are all forgotten.
const mostKept = 600

// smallest is the number of bytes from which an answer is compressed.
const smallest = 1400

// shows is what a view shows beside the standards, the book and who works here, which
// nearly all do: topics of facts, what is worked out, the time, and whether that is behind.
type shows struct {
	topics  []string
	planned bool
	now     bool
	behind  bool
}

// Topics that are shown by all views.
var always = []string{"standards", "book", "plan"}

// stamp of a situation for what is shown.
func (w shows) stamp(at *situation.Situation) stamp {
	s := stamp{recorded: max(at.ChangedSince(always), at.ChangedSince(w.topics))}
	if slices.Contains(w.topics, everything) {
		s.recorded = at.N
	}
	if w.planned {
		s.worked = at.Worked
	}
	s.behind = w.behind && at.Behind()
	if w.now {
		s.now = at.Now
	}
	return s
}

// everything is what a view shows that says which journal number it answers for.
const everything = "everything"

// of is the view at an address, as it is or to be made.
func (v *views) of(address string, s stamp) *view {
	v.mu.Lock()
	defer v.mu.Unlock()
	known, ok := v.known[address]
	if !ok || known.stamp != s {
		if v.known == nil || len(v.known) > mostKept {
			v.known = map[string]stamped{}
		}
		known = stamped{stamp: s, view: &view{}}
		v.known[address] = known
	}
	return known.view
}

type viewKey struct{}

// asked is the view that a request is for, and the situation that it is made of.
type asked struct {
	*view
	at *situation.Situation
}

// kept registers a view of the published situation. It is worked out and encoded once for
// all who ask, by the address that they ask at, and answered 304 to who has it already.
func kept[I, O any](s *Service, to huma.API, o operation, w shows, run func(context.Context, *moment, *I) (O, error)) {
	d := o.described(WayKept, http.StatusNotFound, http.StatusUnprocessableEntity)
	answering[O](to, &d)
	d.Middlewares = huma.Middlewares{func(ctx huma.Context, next func(huma.Context)) {
		at, err := s.preferred(ctx)
		if err != nil {
			next(ctx) // which finds the same error
			return
		}
		url := ctx.URL()
		v := s.views.of(url.RequestURI(), w.stamp(at))
		if v.ready.Load() {
			v.send(ctx)
			return
		}
		next(huma.WithValue(ctx, viewKey{}, asked{view: v, at: at}))
	}}
	type sent struct{ Body func(huma.Context) }
	huma.Register(to, d, func(ctx context.Context, in *I) (*sent, error) {
		a, ok := ctx.Value(viewKey{}).(asked)
		if !ok {
			if _, err := s.now(ctx); err != nil {
				return nil, problem(err)
			}
			return nil, problem(situation.ErrBehind)
		}
		a.make(to, func() (any, error) { return run(ctx, momentOf(a.at), in) })
		if a.err != nil {
			return nil, problem(a.err)
		}
		return &sent{a.send}, nil
	})
}

// preferred is what is published; who says "Prefer: wait=5" gets what is worked out by
// then (RFC 7240).
func (s *Service) preferred(ctx huma.Context) (*situation.Situation, error) {
	if wait, ok := waits(ctx.Header("Prefer")); ok {
		waiting, cancel := context.WithTimeout(ctx.Context(), wait)
		defer cancel()
		if at, err := s.situations.Settled(waiting); err == nil {
			return at, nil
		}
	}
	return s.situations.Latest(ctx.Context())
}

func (v *view) make(to huma.API, run func() (any, error)) {
	v.made.Do(func() {
		defer func() {
			if what := recover(); what != nil {
				slog.Error("a panic while a view was made", "panic", what, "stack", string(debug.Stack()))
				v.err = huma.Error500InternalServerError("something failed that should not; nothing was written")
			}
		}()
		out, err := run()
		if err != nil {
			v.err = err
			return
		}
		text := texts.Get().(*bytes.Buffer)
		defer texts.Put(text)
		text.Reset()
		if v.err = to.Marshal(text, "application/json", out); v.err != nil {
			return
		}
		v.plain = bytes.Clone(text.Bytes())
		v.tag = `"` + strconv.FormatUint(maphash.Bytes(tagged, v.plain), 36) + `"`
		v.ready.Store(true)
	})
}

// tagged is what tags are made with: those of another run of the program are other ones.
var tagged = maphash.MakeSeed()

// packers and texts are used again and again: they are large, and views are made often.
var (
	packers = sync.Pool{New: func() any {
		pack, _ := gzip.NewWriterLevel(nil, gzip.BestSpeed) // the level is one of them
		return pack
	}}
	texts = sync.Pool{New: func() any { return new(bytes.Buffer) }}
)

func (v *view) gzipped() []byte {
	v.packing.Do(func() {
		pack := packers.Get().(*gzip.Writer)
		defer packers.Put(pack)
		packed := bytes.NewBuffer(make([]byte, 0, len(v.plain)/6))
		pack.Reset(packed)
		_, _ = pack.Write(v.plain) // into memory
		_ = pack.Close()
		v.packed = packed.Bytes()
	})
	return v.packed
}

// send answers with a view, or with nothing who has it.
func (v *view) send(ctx huma.Context) {
	ctx.SetHeader("ETag", v.tag)
	ctx.SetHeader("Cache-Control", "private, no-cache")
	ctx.SetHeader("Vary", "Accept-Encoding, Prefer")
	if has := ctx.Header("If-None-Match"); has != "" && strings.Contains(has, v.tag) {
		ctx.SetStatus(http.StatusNotModified)
		return
	}
	ctx.SetHeader("Content-Type", "application/json")
	text := v.plain
	if len(text) >= smallest && strings.Contains(ctx.Header("Accept-Encoding"), "gzip") {
		ctx.SetHeader("Content-Encoding", "gzip")
		text = v.gzipped()
	}
	ctx.SetStatus(http.StatusOK)
	_, _ = ctx.BodyWriter().Write(text) // the client is gone if this fails
}

// waits is how long a client would wait, at most patience; false where it would not.
func waits(prefer string) (time.Duration, bool) {
	for part := range strings.SplitSeq(prefer, ",") {
		name, value, _ := strings.Cut(strings.TrimSpace(part), "=")
		if seconds, err := strconv.Atoi(strings.Trim(value, `"`)); name == "wait" && err == nil && seconds > 0 {
			return min(patience, time.Duration(seconds)*time.Second), true
		}
	}
	return 0, false
}
