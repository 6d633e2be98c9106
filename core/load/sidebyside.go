package load

import (
	"fmt"
	"log/slog"
	"runtime/debug"
	"sync"
)

// sideBySide runs functions beside each other. A panic of one of them is thrown where they are waited for, so that
// whoever asked for the plan can catch it; in a goroutine of its own it would end the whole program. The zero value is
// ready.
type sideBySide struct {
	wait   sync.WaitGroup
	once   sync.Once
	caught *caught
}

// caught is a panic of another goroutine.
type caught struct {
	cause any
	stack []byte
}

func (c *caught) Error() string { return fmt.Sprint(c.cause) }

// LogValue adds where it was to the log.
func (c *caught) LogValue() slog.Value {
	return slog.StringValue(fmt.Sprintf("%v\n%s", c.cause, c.stack))
}

// Go begins a function.
func (s *sideBySide) Go(f func()) {
	s.wait.Go(func() {
		defer func() {
			if cause := recover(); cause != nil {
				s.once.Do(func() { s.caught = &caught{cause, debug.Stack()} })
			}
		}()
		f()
	})
}

// Wait waits for all that were begun.
func (s *sideBySide) Wait() {
	s.wait.Wait()
	if s.caught != nil {
		panic(s.caught)
	}
}
