package web

import (
	"context"
	"sync"
	"sync/atomic"
	"time"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/load"
	"tornister/core/rucksack"
	"tornister/core/shrink"
	"tornister/planner"
	"tornister/store"
)

// shrunk keeps what was worked out for the newest state of each trip last looked at: it takes a second or two for a
// kit that is too large.
type shrunk struct {
	mu   sync.Mutex
	last *lru.Cache[uint, *shrinking]
}

// keptShrunk is how many of them are kept.
const keptShrunk = 32

func (k *shrunk) init() {
	k.last, _ = lru.NewWithEvict(keptShrunk, func(_ uint, s *shrinking) { s.stop() }) // fails only for sizes below one
}

func (k *shrunk) forget(trip uint) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.last.Remove(trip)
}

// shrinking is what the step Shrink knows of a state of a trip, a plan of it and the shelf. Everything but plan and
// stamp is there when done is closed.
type shrinking struct {
	plan   *load.Plan
	stamp  string
	done   chan struct{}
	tried  atomic.Int64 // times that the search asked whether to go on: as many trial packings, about
	stop   context.CancelFunc
	answer shrink.Answer
	shelf  map[string]map[string]any // objects of the things that may come instead, by key
	packs  []packOffer
	best   int // of packs, the smallest that takes the kit; -1 for none
}

type packOffer struct {
	Value, Name string
	Litres      float64
	Owned       bool
}

// patience is how long a page waits for the search before it comes without its result.
const patience = 900 * time.Millisecond

// shrinkingOf gives what is known, beginning the search when something has changed.
func (s *Server) shrinkingOf(c *gin.Context, t *trip) (*shrinking, error) {
	stamp, err := s.store.ShelfStamp(c.Request.Context())
	if err != nil {
		return nil, err
	}
	s.shrunk.mu.Lock()
	defer s.shrunk.mu.Unlock()
	before, _ := s.shrunk.last.Get(t.ID)
	if before != nil && before.plan.Cells == t.plan.Cells && before.stamp == stamp {
		return before, nil
	}
	if before != nil {
		before.stop()
	}
	things, err := s.store.Things(c.Request.Context(), store.Query{Status: "here"})
	if err != nil {
		return nil, err
	}
	now := &shrinking{plan: t.plan, stamp: stamp, done: make(chan struct{}), shelf: map[string]map[string]any{}}
	var objects []map[string]any
	for _, thing := range things {
		now.shelf[thing.Key] = bundle.Own(thing.Object)
		objects = append(objects, thing.Object)
	}
	items, err := bundle.Things(objects)
	if err != nil {
		return nil, err
	}
	offers, packs, err := s.packOffers(c)
	if err != nil {
		return nil, err
	}
	now.packs = offers
	ctx, stop := context.WithTimeout(s.planner.All(), longestShrink)
	now.stop, now.best = stop, -1
	now.answer = shrink.Answer{Plan: t.plan, CutShort: true}
	s.shrunk.last.Add(t.ID, now)
	s.planner.Background(ctx, func(ctx context.Context) { now.search(ctx, t.task(), items, packs) }, func(error) {
		stop()
		close(now.done)
	})
	return now, nil
}

// longestShrink bounds the search with its waiting.
const longestShrink = time.Minute

// search works the rest out.
func (k *shrinking) search(ctx context.Context, task *job.Task, shelf []kit.Item, packs []rucksack.Pack) {
	options := load.Options{Seed: planner.Seed, Quick: true, Stop: func() bool {
		k.tried.Add(1)
		return ctx.Err() != nil
	}}
	k.answer = shrink.Fit(task, k.plan, shelf, options)
	k.best, _ = shrink.SmallestPack(task, packs, options)
}

// wait reports whether the search is done, after at most a little while.
func (k *shrinking) wait(most time.Duration) bool {
	select {
	case <-k.done:
		return true
	case <-time.After(most):
	}
	select { // both may have come at once
	case <-k.done:
		return true
	default:
		return false
	}
}

// shrinkProgress tells a page how the search goes.
func (s *Server) shrinkProgress(c *gin.Context) {
	s.show(c, func(t *trip) {
		known, err := s.shrinkingOf(c, t)
		if err != nil {
			s.refuse(c, err)
			return
		}
		events(c, nil, known.done, &known.tried)
	})
}

// stop ends all searches under way.
func (k *shrunk) stop() {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.last.Purge()
}

// packOffers lists the packs of the shelf and the generic ones, as objects of the core and as choices.
func (s *Server) packOffers(c *gin.Context) ([]packOffer, []rucksack.Pack, error) {
	choices, err := s.packChoices(c)
	if err != nil {
		return nil, nil, err
	}
	var offers []packOffer
	var packs []rucksack.Pack
	for _, choice := range choices {
		pack, err := bundle.CheckPack(choice.object)
		if err != nil {
			continue // a pack that does not pass any more is shown on its own page
		}
		packs = append(packs, *pack)
		offers = append(offers, packOffer{choice.Value, choice.Name, pack.StatedL(), choice.owned})
	}
	return offers, packs, nil
}
