package load

import "math/rand/v2"

// source draws numbers for a search; the same seed draws the same numbers.
type source struct{ *rand.Rand }

func newSource(seed int64) *source { return &source{rand.New(rand.NewPCG(uint64(seed), 0x70726e69))} }

func (s *source) below(n int) int { return s.IntN(n) }

func (s *source) float() float64 { return s.Float64() }
