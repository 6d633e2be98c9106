package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Tick is what a hand that packs along has said of a step: it is in, or it did not go in.
type Tick struct {
	TripID uint   `gorm:"primaryKey"`
	Key    string `gorm:"primaryKey"` // of the piece, or the words of a step that is no thing
	State  string // in or out
	At     time.Time
}

// The states of a tick. "" is none.
const (
	TickIn  = "in"
	TickOut = "out"
)

// Ticks gives the ticks of a trip, state by key. They are no part of the trip's document: no change of the plan takes
// them away, and undo does not either.
func (s *Store) Ticks(ctx context.Context, trip uint) (map[string]string, error) {
	var list []Tick
	if err := s.reader.WithContext(ctx).Where("trip_id = ?", trip).Find(&list).Error; err != nil {
		return nil, said(err)
	}
	states := map[string]string{}
	for _, t := range list {
		if t.State != "" {
			states[t.Key] = t.State
		}
	}
	return states, nil
}

// SetTick keeps a tick, or with "" takes it away; when that was is kept, for those that come home later.
func (s *Store) SetTick(ctx context.Context, trip uint, key, state string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if _, err := find(tx, trip); err != nil {
			return err
		}
		tick := Tick{trip, key, state, s.now()}
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&tick).Error
	})
}

// ClearTicks takes all ticks of a trip away.
func (s *Store) ClearTicks(ctx context.Context, trip uint) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Where("trip_id = ?", trip).Delete(&Tick{}).Error })
}
