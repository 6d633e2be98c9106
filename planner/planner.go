// Package planner makes plans for whoever shows them: a first answer at once, a thorough one in the background.
//
// Each trip has one Job, for the version that was last shown. Who asks for the same version meanwhile gets the same
// job and waits for the same first answer. Thorough searches, and whatever else is given to Go, wait for one of a few
// places, since a search keeps both cores busy by itself; whoever is stopped while waiting leaves at once. The jobs
// of the trips last shown are kept; one that falls out, is replaced by a newer version or forgotten is stopped. A
// search that panics ends with the answer there was.
package planner

import (
	"cmp"
	"context"
	"fmt"
	"log/slog"
	"reflect"
	"runtime/debug"
	"sync"
	"sync/atomic"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"tornister/core/job"
	"tornister/core/load"
	"tornister/core/verdict"
)

// Seed of every search, so that the same trip always gets the same plan.
const Seed = 1

// AtOnce is how long a first answer may take where people wait for it: what is not found by then is looked for by the
// thorough search, and the page says that its answer is a first one.
const AtOnce = 80 * time.Millisecond

// Options of a planner; the zero value is that of a usual machine.
type Options struct {
	AtOnce   int           // searches that run side by side; 0 is two
	Kept     int           // jobs that are kept; 0 is 48, some hundred megabytes at most
	First    time.Duration // how long a first answer may take; 0 is a second
	Thorough time.Duration // how long a thorough one may take; 0 is half a minute
	Patience float64       // how many times as long as usual anybody waits, for a slow machine; 0 is once
	// Found is told of each answer, the first and the thorough one, by the goroutine that searches. It may be nil.
	Found func(trip uint, version int, judged *verdict.Judged)
}

// Planner makes and keeps plans, with what else A is known of their trips. Close it when it is not needed any more.
type Planner[A any] struct {
	options Options
	places  chan struct{}
	waiting atomic.Int64 // people who wait for a page just now
	all     context.Context
	end     context.CancelFunc
	under   sync.WaitGroup
	mu      sync.Mutex
	jobs    *lru.Cache[uint, *Job[A]]
}

// New begins a planner.
func New[A any](o Options) *Planner[A] {
	if o.AtOnce <= 0 {
		o.AtOnce = 2
	}
	if o.Kept <= 0 {
		o.Kept = 48
	}
	if o.Patience <= 0 {
		o.Patience = 1
	}
	p := &Planner[A]{options: o, places: make(chan struct{}, o.AtOnce)}
	p.options.First = cmp.Or(o.First, p.Patient(time.Second))
	p.options.Thorough = cmp.Or(o.Thorough, p.Patient(30*time.Second))
	p.all, p.end = context.WithCancel(context.Background())
	p.jobs, _ = lru.NewWithEvict(o.Kept, func(_ uint, j *Job[A]) { j.Stop() }) // fails only for sizes below one
	return p
}

// Close stops every search and waits until none runs any more.
func (p *Planner[A]) Close() {
	p.end()
	p.under.Wait()
}

// Doing is what a planner is doing.
type Doing struct {
	Searches int // under way in the background
	Waiting  int // people who wait for a page
	Kept     int // jobs in memory
}

// Doing tells what it is doing just now.
func (p *Planner[A]) Doing() Doing {
	p.mu.Lock()
	defer p.mu.Unlock()
	return Doing{len(p.places), int(p.waiting.Load()), p.jobs.Len()}
}

// Known is the job of a version of a trip, nil when there is none.
func (p *Planner[A]) Known(trip uint, version int) *Job[A] {
	p.mu.Lock()
	defer p.mu.Unlock()
	if j, ok := p.jobs.Get(trip); ok && j.version == version {
		return j
	}
	return nil
}

// Begin gives the job of a version of a trip, its first answer made. The first to ask begins it; what the others
// bring is not looked at.
func (p *Planner[A]) Begin(trip uint, version int, task *job.Task, about A) *Job[A] {
	p.mu.Lock()
	j, ok := p.jobs.Get(trip)
	if ok && j.version != version && j.answered(task) { // what changed has nothing to do with packing
		j = &Job[A]{About: about, trip: trip, version: version, search: j.search}
		p.jobs.Add(trip, j)
		p.under.Go(func() {
			<-j.done
			if judged, _ := j.Best(); judged != nil {
				p.found(j, judged)
			}
		})
		p.mu.Unlock()
		return j
	}
	if !ok || j.version != version {
		next := &search{task: task, ready: make(chan struct{}), better: make(chan struct{}), done: make(chan struct{})}
		if ok {
			j.Stop()
			next.past = j.known()
		}
		j = &Job[A]{About: about, trip: trip, version: version, search: next}
		j.ctx, j.stop = context.WithCancel(p.all)
		p.jobs.Add(trip, j)
		p.mu.Unlock()
		p.first(j)
		return j
	}
	p.mu.Unlock()
	<-j.ready
	return j
}

// Forget stops and lets go what is known of a trip.
func (p *Planner[A]) Forget(trip uint) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.jobs.Remove(trip)
}

// first makes the first answer and begins the search for the thorough one. A panic goes on to whoever asked first;
// the job is forgotten then, so that the next one asks anew.
func (p *Planner[A]) first(j *Job[A]) {
	defer close(j.ready)
	var quick *verdict.Judged
	defer func() {
		if quick == nil {
			close(j.done)
			p.drop(j)
		}
	}()
	defer p.Wait()()
	options := p.within(p.options.First)
	options.Past = j.past
	quick = verdict.Of(j.task, options)
	j.judged = quick
	p.under.Add(1)
	go func() {
		defer p.under.Done()
		defer j.stop()
		defer close(j.done)
		p.found(j, quick)
		err := p.Go(j.ctx, func(ctx context.Context) {
			ctx, cancel := context.WithTimeout(ctx, p.options.Thorough)
			defer cancel()
			options := load.Options{Seed: Seed, Past: j.past, Stop: func() bool {
				j.trials.Add(1)
				return p.aside(ctx)
			}}
			better := noWorse(verdict.Of(j.task, options), quick)
			j.settle(better)
			better = surely(better, options)
			j.settle(better)
			p.found(j, better)
		})
		if _, stage := j.Best(); err != nil && stage == First { // stopped before it began, or it failed
			j.settle(cutShort(quick))
		}
	}()
}

// noWorse is the thorough answer, or the first one where the thorough search was cut short before it was as far: with
// more left out, or squeezed tighter, which is looked into last.
func noWorse(better, quick *verdict.Judged) *verdict.Judged {
	more := len(better.Plan.LeftOut) - len(quick.Plan.LeftOut)
	if better.Plan.CutShort && (more > 0 || more == 0 && better.Plan.Squeeze > quick.Plan.Squeeze) {
		return cutShort(quick)
	}
	return better
}

// surely is an answer with how sure it is, where there is time to find that, and with its zones proved to the end.
func surely(j *verdict.Judged, options load.Options) *verdict.Judged {
	plan := *j.Plan // the other is being read
	if plan.CutShort {
		return j
	}
	if plan.Assure(options); plan.Sure == nil && plan.Proof == j.Plan.Proof {
		return j
	}
	return verdict.Judge(j.Task, &plan)
}

// cutShort is an answer after which nothing better is to be looked for.
func cutShort(quick *verdict.Judged) *verdict.Judged {
	cut, plan := *quick, *quick.Plan
	plan.CutShort, cut.Plan = true, &plan
	return &cut
}

func (p *Planner[A]) drop(j *Job[A]) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if now, ok := p.jobs.Peek(j.trip); ok && now == j {
		p.jobs.Remove(j.trip)
	}
}

func (p *Planner[A]) found(j *Job[A], judged *verdict.Judged) {
	if p.options.Found != nil && p.all.Err() == nil {
		p.options.Found(j.trip, j.version, judged)
	}
}

// Quickly are the options of a plan that somebody waits for although it is not the first answer: a move that is
// tried, ways set side by side.
func (p *Planner[A]) Quickly() load.Options { return p.Within(longestTry) }

// longestTry is how long such a plan may take.
const longestTry = time.Second

// Patient is a time that somebody usually waits, as long as it may be here.
func (p *Planner[A]) Patient(usual time.Duration) time.Duration {
	return time.Duration(p.options.Patience * float64(usual))
}

// Within are the options of a quick plan that is usually to be there in such a time.
func (p *Planner[A]) Within(usual time.Duration) load.Options { return p.within(p.Patient(usual)) }

func (p *Planner[A]) within(d time.Duration) load.Options {
	end := time.Now().Add(d)
	return load.Options{Seed: Seed, Quick: true, Stop: func() bool { return time.Now().After(end) }}
}

// Go does some work when one of the places is free. The error is that of the context when it ends before, or says
// that the work panicked.
func (p *Planner[A]) Go(ctx context.Context, work func(context.Context)) (err error) {
	select {
	case p.places <- struct{}{}:
	case <-ctx.Done():
		return ctx.Err()
	case <-p.all.Done():
		return p.all.Err()
	}
	defer func() { <-p.places }()
	defer func() {
		if cause := recover(); cause != nil {
			err = fmt.Errorf("the search failed: %v", cause)
			slog.Error("a search failed", "cause", cause, "stack", string(debug.Stack()))
		}
	}()
	if ctx.Err() != nil {
		return ctx.Err()
	}
	work(ctx)
	return nil
}

// Wait says that somebody waits for a page until done is called: searches in the background step aside meanwhile.
func (p *Planner[A]) Wait() (done func()) {
	p.waiting.Add(1)
	return func() { p.waiting.Add(-1) }
}

// longestAside bounds how long a search steps aside between two of its trials, so that it goes on in a crowd as well.
const longestAside = 30 * time.Millisecond

// aside lets those who wait go first, and reports whether the search is to end.
func (p *Planner[A]) aside(ctx context.Context) bool {
	for begin := time.Now(); p.waiting.Load() > 0 && ctx.Err() == nil && time.Since(begin) < longestAside; {
		time.Sleep(time.Millisecond)
	}
	return ctx.Err() != nil
}

// Background does some work as Go does, without being waited for; Close waits for it.
func (p *Planner[A]) Background(ctx context.Context, work func(context.Context), after func(error)) {
	p.under.Go(func() { after(p.Go(ctx, work)) })
}

// All is done when the planner is closed.
func (p *Planner[A]) All() context.Context { return p.all }

// Job is the planning of one version of a trip.
type Job[A any] struct {
	About   A // what whoever began it wants to find with it
	trip    uint
	version int
	*search
}

// search is the planning itself. Versions whose task is the same share one.
type search struct {
	task   *job.Task
	ctx    context.Context
	stop   context.CancelFunc
	trials atomic.Int64
	ready  chan struct{} // closed when there is a first answer
	better chan struct{} // closed when there is the thorough one, not yet how sure and good it is, or there will be none
	done   chan struct{} // closed when the search has ended
	mu     sync.Mutex
	judged *verdict.Judged
	past   *load.Plan // the last thorough one of an earlier version, or nil
}

// known is the last thorough plan: of this search when it has come to its end, else of an earlier one.
func (s *search) known() *load.Plan {
	s.mu.Lock()
	defer s.mu.Unlock()
	select {
	case <-s.done:
		if s.judged != nil && !s.judged.Plan.CutShort {
			return s.judged.Plan
		}
	default:
	}
	return s.past
}

// answered reports whether there is an answer to the same task.
func (s *search) answered(task *job.Task) bool {
	select {
	case <-s.ready:
	default:
		return false
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.judged != nil && reflect.DeepEqual(s.task, task)
}

// settle takes a thorough answer.
func (s *search) settle(judged *verdict.Judged) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.judged = judged
	select {
	case <-s.better:
	default:
		close(s.better)
	}
}

// Stage is how far a search has come.
type Stage int

// There is a first answer; there is the thorough one, while it is worked out how sure it is and how good its zones are;
// the search has ended.
const (
	First Stage = iota
	Better
	Ended
)

// Best is the best plan there is by now, judged, and how far the search has come. It is nil when the first answer
// failed.
func (s *search) Best() (judged *verdict.Judged, stage Stage) {
	<-s.ready
	s.mu.Lock()
	defer s.mu.Unlock()
	select {
	case <-s.better:
		stage = Better
	default:
	}
	select {
	case <-s.done:
		stage = Ended
	default:
	}
	return s.judged, stage
}

// Better is closed when there is the thorough answer.
func (s *search) Better() <-chan struct{} { return s.better }

// Trials is how often the search has looked whether to go on: about its trial packings.
func (s *search) Trials() *atomic.Int64 { return &s.trials }

// Done is closed when the search has ended.
func (s *search) Done() <-chan struct{} { return s.done }

// Stop ends the search; what has been found so far is kept.
func (s *search) Stop() { s.stop() }
