package load

import (
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestAPanicIsThrownWhereItIsWaitedFor(t *testing.T) {
	t.Parallel()
	var side sideBySide
	var done atomic.Int32
	for k := range 4 {
		side.Go(func() {
			if k == 2 {
				panic("no such zone")
			}
			done.Add(1)
		})
	}
	defer func() {
		cause, ok := recover().(error)
		assert.True(t, ok)
		assert.EqualError(t, cause, "no such zone")
		assert.Contains(t, side.caught.LogValue().String(), "sidebyside_test.go", "and where")
		assert.Equal(t, int32(3), done.Load(), "the others go on to their end")
	}()
	side.Wait()
}
