package web

import (
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
)

// mostKept is how many answers of a kind are kept.
const mostKept = 64

// memo keeps what was worked out last, by what it was worked out from. The zero memo is empty; it may be used by
// several goroutines.
type memo[T any] struct {
	once  sync.Once
	known *lru.Cache[string, T]
}

// of gives what a key stands for, made once.
func (m *memo[T]) of(key string, make func() T) T {
	m.once.Do(func() { m.known, _ = lru.New[string, T](mostKept) }) // fails only for sizes below one
	kept, is := m.known.Get(key)
	if !is {
		kept = make()
		m.known.Add(key, kept)
	}
	return kept
}
