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

// has reports whether what a key stands for was made.
func (m *memo[T]) has(key string) bool {
	m.start()
	return m.known.Contains(key)
}

func (m *memo[T]) start() {
	m.once.Do(func() { m.known, _ = lru.New[string, T](mostKept) }) // fails only for sizes below one
}

// of gives what a key stands for, made once.
func (m *memo[T]) of(key string, make func() T) T {
	m.start()
	kept, is := m.known.Get(key)
	if !is {
		kept = make()
		m.known.Add(key, kept)
	}
	return kept
}
