package planner_test

import (
	"context"
	"errors"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tornister/bundle"
	"tornister/core/job"
	"tornister/core/kit"
	"tornister/core/verdict"
	"tornister/demo"
	"tornister/internal/sample"
	"tornister/planner"
)

// task is a kit that is planned thoroughly in a tenth of a second.
func task(t testing.TB) *job.Task { return taskOf(t, demo.ChildNight) }

func taskOf(t testing.TB, text []byte) *job.Task {
	b, err := bundle.Read(text)
	require.NoError(t, err)
	return &b.Task
}

// Many who ask for one version at once get one plan, made once, and the thorough one is not worse.
func TestOneVersionIsPlannedOnce(t *testing.T) {
	t.Parallel()
	var found atomic.Int64
	p := planner.New[string](planner.Options{Found: func(uint, int, *verdict.Judged) { found.Add(1) }})
	defer p.Close()
	one := task(t)
	jobs := make([]*planner.Job[string], 12)
	var wait sync.WaitGroup
	for i := range jobs {
		wait.Go(func() { jobs[i] = p.Begin(1, 1, one, "first") })
	}
	wait.Wait()
	for _, j := range jobs {
		assert.Same(t, jobs[0], j)
	}
	first, _ := jobs[0].Best()
	require.NotNil(t, first)
	<-jobs[0].Done()
	best, stage := jobs[0].Best()
	assert.Equal(t, planner.Ended, stage)
	assert.LessOrEqual(t, len(best.Plan.LeftOut), len(first.Plan.LeftOut))
	assert.NotNil(t, best.Plan.Sure, "the thorough answer")
	assert.EqualValues(t, 2, found.Load(), "told of the first answer and of the thorough one")
	assert.Same(t, jobs[0], p.Known(1, 1))
	assert.Nil(t, p.Known(1, 2))
}

// Whoever waits for a place leaves at once when he is stopped, with the first answer, marked as cut short.
func TestStoppingAWaitingSearchAnswersAtOnce(t *testing.T) {
	t.Parallel()
	p := planner.New[int](planner.Options{AtOnce: 1})
	defer p.Close()
	release, began := make(chan struct{}), make(chan struct{})
	p.Background(t.Context(), func(context.Context) { close(began); <-release }, func(error) {})
	<-began
	job := p.Begin(1, 1, task(t), 0)
	_, stage := job.Best()
	assert.NotEqual(t, planner.Ended, stage)
	job.Stop()
	select {
	case <-job.Done():
	case <-time.After(5 * time.Second):
		t.Fatal("the waiting search did not end")
	}
	judged, stage := job.Best()
	assert.Equal(t, planner.Ended, stage)
	assert.True(t, judged.Plan.CutShort)
	close(release)
}

// Seventy trips in a planner for eight: what falls out is stopped, and in the end no search is left.
func TestTripsThatFallOutAreStopped(t *testing.T) {
	before := runtime.NumGoroutine()
	p := planner.New[int](planner.Options{Kept: 8, First: 50 * time.Millisecond, Thorough: 200 * time.Millisecond})
	one := task(t)
	jobs := make([]*planner.Job[int], 20)
	for i := range jobs {
		jobs[i] = p.Begin(uint(i+1), 1, one, i)
	}
	for i := range len(jobs) - 8 {
		<-jobs[i].Done()
		assert.Nil(t, p.Known(uint(i+1), 1))
	}
	p.Forget(20)
	<-jobs[19].Done()
	newer := p.Begin(19, 2, one, 0)
	<-jobs[18].Done()
	assert.NotNil(t, newer)
	p.Close()
	require.Eventually(
		t,
		func() bool { return runtime.NumGoroutine() <= before+2 },
		10*time.Second,
		10*time.Millisecond,
	)
}

func TestAPanicEndsOneSearch(t *testing.T) {
	t.Parallel()
	p := planner.New[int](planner.Options{})
	defer p.Close()
	err := p.Go(t.Context(), func(context.Context) { panic("a hole in the map") })
	assert.ErrorContains(t, err, "a hole in the map")
	assert.NoError(t, p.Go(t.Context(), func(context.Context) {}), "the next one has its place")
	ended, cancel := context.WithCancel(t.Context())
	cancel()
	assert.True(t, errors.Is(p.Go(ended, func(context.Context) { t.Error("it must not run") }), context.Canceled))
	broken := task(t)
	broken.Pack.Zones = nil // no task may be so; the first answer fails, and the job with it
	assert.Panics(t, func() { p.Begin(3, 1, broken, 0) })
	assert.Nil(t, p.Known(3, 1))
}

// While somebody waits for a page, searches step aside, but they go on.
func TestSearchesStepAsideForPages(t *testing.T) {
	t.Parallel()
	p := planner.New[int](planner.Options{Thorough: 3 * time.Second})
	defer p.Close()
	done := p.Wait()
	job := p.Begin(1, 1, task(t), 0)
	before := job.Trials().Load()
	time.Sleep(600 * time.Millisecond) // the time that a crowd takes is the point
	aside := job.Trials().Load() - before
	done()
	<-job.Done()
	assert.Positive(t, aside, "it goes on")
	assert.Less(t, aside, job.Trials().Load()/2, "but slowly")
}

// A version whose task is the same has the same plan: nothing is searched anew, and what goes with the trip is new.
func TestTheSameTaskIsNotPlannedAgain(t *testing.T) {
	t.Parallel()
	p := planner.New[string](planner.Options{})
	t.Cleanup(p.Close)
	first := p.Begin(1, 1, task(t), "one")
	<-first.Done()
	was, _ := first.Best()
	second := p.Begin(1, 2, task(t), "two")
	is, stage := second.Best()
	assert.Same(t, was, is)
	assert.Equal(t, planner.Ended, stage)
	assert.Equal(t, "two", second.About)
	assert.Same(t, second, p.Known(1, 2))
	other := task(t)
	other.Items[0].MassG++
	third := p.Begin(1, 3, other, "three")
	is, _ = third.Best()
	assert.NotSame(t, was, is)
}

// What the search of an earlier version found of litres too much holds for the next one, also when that came before
// the earlier one had ended.
func TestTheNextVersionRemembers(t *testing.T) {
	t.Parallel()
	p := planner.New[int](planner.Options{AtOnce: 1})
	defer p.Close()
	full := task(t)
	full.Items = nil
	for _, id := range []string{"a", "b", "c", "d"} {
		full.Items = append(full.Items, kit.Item{ID: id, Name: id, Count: 5, Carry: kit.Pack, MassG: 100,
			Shape: kit.Shape{Kind: kit.Soft, LooseL: 8, TightL: 7, GapCm: 3}})
	}
	first := p.Begin(1, 1, full, 0)
	<-first.Done()
	said, _ := first.Best()
	require.Greater(t, said.Plan.OverL, 0.0)
	said.Plan.OverL = 0.1 // less than any search finds
	for version, less := range []func(*job.Task){
		func(o *job.Task) { o.Items[0].Count-- },
		func(o *job.Task) { o.Items[1].Count-- },
	} {
		changed := *full
		changed.Items = slices.Clone(full.Items)
		less(&changed)
		full = &changed
		next := p.Begin(1, 2+version, full, 0)
		quick, _ := next.Best()
		require.False(t, quick.Plan.Fits())
		assert.InDelta(t, 0.1, quick.Plan.OverL, 1e-9, "version %d", 2+version)
	}
}

// A thorough search that the clock ends before it is as far as the first answer takes nothing away from it.
func TestCutShortIsNoWorse(t *testing.T) {
	t.Parallel()
	p := planner.New[string](planner.Options{First: time.Minute, Thorough: time.Nanosecond})
	defer p.Close()
	j := p.Begin(1, 1, taskOf(t, demo.SkiTour), "first")
	first, _ := j.Best()
	require.True(t, first.Plan.Fits())
	<-j.Done()
	best, stage := j.Best()
	assert.Equal(t, planner.Ended, stage)
	assert.True(t, best.Plan.CutShort)
	assert.True(t, best.Plan.Fits())
	assert.LessOrEqual(t, best.Plan.Squeeze, first.Plan.Squeeze)
}

// The better plan is there before how sure it is; the rest of it is the same then.
func TestThePlanComesBeforeItsFigure(t *testing.T) {
	t.Parallel()
	p := planner.New[string](planner.Options{First: time.Minute, Thorough: 5 * time.Minute})
	defer p.Close()
	kit := demo.LoneWalker
	if sample.Small() {
		kit = demo.ChildNight
	}
	j := p.Begin(1, 1, taskOf(t, kit), "first")
	first, stage := j.Best()
	assert.Equal(t, planner.First, stage)
	<-j.Better()
	better, stage := j.Best()
	require.Equal(t, planner.Better, stage)
	assert.Nil(t, better.Plan.Sure)
	assert.Less(t, better.Plan.Bill, first.Plan.Bill)
	<-j.Done()
	last, stage := j.Best()
	assert.Equal(t, planner.Ended, stage)
	require.NotNil(t, last.Plan.Sure)
	assert.Nil(t, better.Plan.Sure, "it is read by others")
	assert.Equal(t, better.Plan.Arrangement(), last.Plan.Arrangement())
	assert.Equal(t, better.Plan.Trials, last.Plan.Trials)
}

// Nobody waits for the end of a proof that changes nothing of the plan.
func TestThePlanComesBeforeItsProof(t *testing.T) {
	t.Parallel()
	sample.Whole(t)
	p := planner.New[string](planner.Options{First: time.Minute, Thorough: 5 * time.Minute})
	defer p.Close()
	short := *taskOf(t, demo.LoneWalker)
	short.Pack = short.Pack.Grown(-24)
	j := p.Begin(1, 1, &short, "first")
	<-j.Better()
	better, stage := j.Best()
	require.Equal(t, planner.Better, stage)
	assert.Positive(t, better.Plan.Proof.Gap())
	<-j.Done()
	last, _ := j.Best()
	assert.Zero(t, last.Plan.Proof.Gap())
	assert.Equal(t, better.Plan.Arrangement(), last.Plan.Arrangement())
}
