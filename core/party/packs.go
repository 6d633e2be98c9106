package party

import (
	"slices"
	"strings"
	"sync"

	"tornister/core/job"
	"tornister/core/load"
)

// Packs try what the bearers of a party would have to carry, each set once. They may be used by several goroutines.
type Packs struct {
	// Task is a bearer's own kit with parts of the group's.
	Task    func(bearer string, parts []string) *job.Task
	Options load.Options // of a trial

	mu    sync.Mutex
	plans map[string]*load.Plan
}

// Plan is the packing of a bearer's own kit with some parts.
func (p *Packs) Plan(bearer string, parts []string) *load.Plan {
	key := bearer + "\x00" + strings.Join(slices.Sorted(slices.Values(parts)), "\x00")
	p.mu.Lock()
	plan := p.plans[key]
	p.mu.Unlock()
	if plan != nil {
		return plan
	}
	plan = load.Make(p.Task(bearer, parts), p.Options)
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.plans == nil {
		p.plans = map[string]*load.Plan{}
	}
	p.plans[key] = plan
	return plan
}

// Fits reports whether the trial packing takes it.
func (p *Packs) Fits(bearer string, parts []string) bool { return p.Plan(bearer, parts).Fits() }
