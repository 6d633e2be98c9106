package web

import (
	"slices"
	"sync"
)

// memo keeps what was worked out last, by what it was worked out from. The zero memo is empty; it may be used by several
// goroutines.
type memo[T any] struct {
	most  int // that are kept; 0 is 24
	mu    sync.Mutex
	known map[string]T
	order []string
}

// of gives what a key stands for, made once.
func (m *memo[T]) of(key string, make func() T) T {
	m.mu.Lock()
	kept, is := m.known[key]
	m.mu.Unlock()
	if is {
		return kept
	}
	kept = make()
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.known == nil {
		m.known = map[string]T{}
	}
	if m.known[key] = kept; !slices.Contains(m.order, key) {
		m.order = append(m.order, key)
	}
	most := m.most
	if most == 0 {
		most = 24
	}
	if len(m.order) > most {
		delete(m.known, m.order[0])
		m.order = m.order[1:]
	}
	return kept
}
