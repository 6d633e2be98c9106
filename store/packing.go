package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Packing is how a hand has packed a bearer's pack: places and order, as JSON.
type Packing struct {
	TripID uint   `gorm:"primaryKey"`
	Bearer string `gorm:"primaryKey"` // "" of who walks alone
	Spots  string
	At     time.Time
}

// PackingOf gives what a hand has packed, "" when nothing was said of it. It is no part of the trip's document: no
// change of the plan takes it away, and undo does not either.
func (s *Store) PackingOf(ctx context.Context, trip uint, bearer string) (string, error) {
	var found []Packing
	err := s.reader.WithContext(ctx).Where("trip_id = ? AND bearer = ?", trip, bearer).Find(&found).Error
	if err != nil || len(found) == 0 {
		return "", said(err)
	}
	return found[0].Spots, nil
}

// SetPacking keeps what a hand has packed; "" forgets it.
func (s *Store) SetPacking(ctx context.Context, trip uint, bearer, spots string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if _, err := find(tx, trip); err != nil {
			return err
		}
		packing := Packing{trip, bearer, spots, s.now()}
		if spots == "" {
			return tx.Delete(&packing).Error
		}
		return tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&packing).Error
	})
}
