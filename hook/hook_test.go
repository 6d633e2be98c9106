package hook_test

import (
	"context"
	"net/http"
	"net/http/httptest"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"tornister/core/weigh"
	"tornister/hook"
	"tornister/standin/scale"
)

// watch follows a scale until a state comes or some seconds have gone, and gives what was seen.
func watch(t *testing.T, service hook.Service, query url.Values, until weigh.State) (seen map[weigh.State]int,
	last hook.Event) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 15*time.Second)
	defer cancel()
	seen = map[weigh.State]int{}
	_ = service.Watch(ctx, 50, query, func(e hook.Event) {
		seen[e.State]++
		last = e
		if e.State == until {
			cancel()
		}
	})
	return seen, last
}

func TestWatch(t *testing.T) {
	t.Parallel()
	server := httptest.NewServer(scale.New(scale.Every / 5))
	t.Cleanup(server.Close)
	service := hook.Service{URL: server.URL}
	for fault, until := range map[scale.Fault]weigh.State{scale.None: weigh.Settled, scale.Silent: hook.Silent,
		scale.Rubbish: hook.Rubbish, scale.Overload: weigh.Overload} {
		t.Run(string(fault), func(t *testing.T) {
			t.Parallel()
			seen, last := watch(t, service, url.Values{"load": {"14230"}, "fault": {string(fault)}}, until)
			assert.Positive(t, seen[until], "%v", seen)
			if until == weigh.Settled {
				assert.InDelta(t, 14_230, last.G, 50)
			} else {
				assert.Zero(t, seen[weigh.Settled], "nothing settles on a bad line")
			}
		})
	}
}

func TestNoScale(t *testing.T) {
	t.Parallel()
	seen, _ := watch(t, hook.Service{URL: "http://127.0.0.1:1"}, nil, hook.Gone)
	assert.Positive(t, seen[hook.Gone])
	server := httptest.NewServer(http.NotFoundHandler())
	t.Cleanup(server.Close)
	seen, _ = watch(t, hook.Service{URL: server.URL}, nil, hook.Gone)
	assert.Positive(t, seen[hook.Gone])
}
