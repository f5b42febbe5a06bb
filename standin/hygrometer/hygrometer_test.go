package hygrometer_test

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"math"
	"net/http"
	"net/http/httptest"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"bractum/standin/hygrometer"
)

var morning = time.Date(2027, 9, 20, 8, 30, 0, 0, time.UTC)

func TestTheHarbourHasItsDayAndItsFronts(t *testing.T) {
	h := hygrometer.New(1, hygrometer.Loft)
	var least, most, day, night float64 = 100, 0, 0, 0
	for hour := range 24 * 90 {
		at := morning.Add(time.Duration(hour) * time.Hour)
		celsius, humidity := h.Air(at)
		assert.True(t, celsius > 8 && celsius < 32, "%v", celsius)
		least, most = min(least, humidity), max(most, humidity)
		if at.Hour() == 15 {
			day += humidity
		}
		if at.Hour() == 3 {
			night += humidity
		}
	}
	assert.Greater(t, night/90-day/90, 10.0, "nights are damper")
	assert.Greater(t, most, 80.0, "now and then nothing dries")
	assert.Less(t, least, 60.0)
	_, shut := hygrometer.New(1, hygrometer.Cupboard).Air(morning)
	_, open := h.Air(morning)
	assert.Less(t, shut, open)
}

func TestItSendsTheSameFromTheSameSeedWithGapsAndNonsense(t *testing.T) {
	h := hygrometer.New(1, hygrometer.Loft)
	pack := h.Pack(morning, morning.AddDate(0, 0, 10))
	assert.Equal(t, pack, hygrometer.New(1, hygrometer.Loft).Pack(morning, morning.AddDate(0, 0, 10)))
	assert.NotEqual(t, pack, hygrometer.New(2, hygrometer.Loft).Pack(morning, morning.AddDate(0, 0, 10)))
	assert.Less(t, len(pack), 2*14_400, "there are gaps")
	assert.Greater(t, len(pack), 27_500)
	nonsense := 0
	for _, r := range pack {
		at := morning.Add(time.Duration(r.Time) * time.Second)
		celsius, humidity := h.Air(at)
		if is := celsius; r.Unit == "Cel" && math.Abs(r.Value-is) > 3 ||
			r.Unit == "%RH" && math.Abs(r.Value-humidity) > 5 {
			nonsense++
		}
	}
	assert.Greater(t, nonsense, 5)
	assert.Less(t, nonsense, 80)
	assert.Equal(t, "loft:", pack[0].BaseName)
	assert.Empty(t, h.Pack(morning, morning))
}

func TestItFollowsTheClockAndTriesAgain(t *testing.T) {
	var mu sync.Mutex
	now, fails, minutes := morning, true, map[float64]bool{}
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		mu.Lock()
		defer mu.Unlock()
		if fails {
			w.WriteHeader(http.StatusServiceUnavailable)
			return
		}
		var pack []hygrometer.Record
		body, _ := io.ReadAll(r.Body)
		assert.NoError(t, json.Unmarshal(body, &pack))
		base := pack[0].BaseTime
		for _, record := range pack {
			minutes[base+record.Time] = true
		}
	}))
	defer server.Close()
	ctx, stop := context.WithCancel(t.Context())
	done := make(chan struct{})
	go func() {
		hygrometer.New(1, hygrometer.Loft).Follow(ctx, server.URL, func() (time.Time, error) {
			mu.Lock()
			defer mu.Unlock()
			return now, nil
		})
		close(done)
	}()
	time.Sleep(50 * time.Millisecond)
	mu.Lock()
	now = morning.Add(25 * time.Hour)
	mu.Unlock()
	time.Sleep(600 * time.Millisecond)
	mu.Lock()
	fails = false
	mu.Unlock()
	require.Eventually(t, func() bool {
		mu.Lock()
		defer mu.Unlock()
		return len(minutes) > 1300
	}, time.Minute, 50*time.Millisecond, "nothing of a day is lost")
	stop()
	<-done
	hygrometer.New(1, hygrometer.Loft).
		Follow(t.Context(), server.URL, func() (time.Time, error) { return now, errors.New("closed") })
}
