package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Exercise is one exercise of somebody who practises, under way or done. It has its kit with it, so that no change of
// a trip disturbs it.
type Exercise struct {
	ID      uint
	Person  string
	Kit     string // where the kit is from; what is to be repeated is kept by it
	Name    string // of the kit
	Kind    string
	Level   int
	Seed    int64
	Bundle  []byte // JSON, gzip; nil for one that was done long ago
	State   string // how it stands, as JSON of whoever runs it
	Begun   time.Time
	Ended   *time.Time
	Of      int // asked, or to be found
	Right   int
	Score   int // of a hundred
	Seconds float64
}

// ToRepeat is something that somebody missed, and the day from which it is asked again.
type ToRepeat struct {
	Person string `gorm:"primaryKey"`
	Kit    string `gorm:"primaryKey"` // "" for what comes in any kit
	Key    string `gorm:"primaryKey"`
	Step   int
	Due    string // a day, YYYY-MM-DD
}

// keptKits is how many exercises of a person keep their kit, so that they can be looked at again.
const keptKits = 12

// BeginExercise keeps a new exercise, its kit as a bundle, and gives its number. Those of long ago let their kits go.
func (s *Store) BeginExercise(ctx context.Context, one *Exercise, kit []byte) (err error) {
	if one.Bundle, err = zip(kit); err != nil {
		return err
	}
	one.Begun = s.now()
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Create(one).Error; err != nil {
			return err
		}
		return tx.Exec(`UPDATE exercises SET bundle = NULL, state = '' WHERE person = ? AND id NOT IN
 (SELECT id FROM exercises WHERE person = ? ORDER BY id DESC LIMIT ?)`, one.Person, one.Person, keptKits).Error
	})
}

// Exercise is one exercise with its kit as a bundle, which is nil when it was let go.
func (s *Store) Exercise(ctx context.Context, id uint) (one *Exercise, kit []byte, err error) {
	one = &Exercise{}
	switch err := s.reader.WithContext(ctx).Take(one, id).Error; {
	case errors.Is(err, gorm.ErrRecordNotFound):
		return nil, nil, ErrNotFound
	case err != nil:
		return nil, nil, said(err)
	}
	if one.Bundle != nil {
		kit, err = unzip(one.Bundle)
	}
	return one, kit, err
}

// GoOnExercise keeps how an exercise stands after a step from a state; ErrStale when it does not stand there any more.
// What was missed, or known again, is kept with it.
func (s *Store) GoOnExercise(ctx context.Context, one *Exercise, from string, repeats ...ToRepeat) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		done := tx.Model(&Exercise{}).Where("id = ? AND state = ? AND ended IS NULL", one.ID, from).
			Select("state", "ended", "of", "right", "score", "seconds").Updates(one)
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 {
			return ErrStale
		}
		for _, r := range repeats {
			r.Person = one.Person
			var err error
			if r.Due == "" {
				err = tx.Delete(&r).Error
			} else {
				err = tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&r).Error
			}
			if err != nil {
				return err
			}
		}
		return nil
	})
}

// Exercises lists all exercises, the first first, without their kits.
func (s *Store) Exercises(ctx context.Context) (list []Exercise, err error) {
	err = s.reader.WithContext(ctx).Omit("bundle", "state").Order("id").Find(&list).Error
	return list, said(err)
}

// ToRepeat lists what a person is to be asked again, the longest due first.
func (s *Store) ToRepeat(ctx context.Context, person string) (list []ToRepeat, err error) {
	err = s.reader.WithContext(ctx).Where("person = ?", person).Order("due, kit, key").Find(&list).Error
	return list, said(err)
}

// ForgetPractice removes all that is kept of a person's practice.
func (s *Store) ForgetPractice(ctx context.Context, person string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("person = ?", person).Delete(&Exercise{}).Error; err != nil {
			return err
		}
		return tx.Where("person = ?", person).Delete(&ToRepeat{}).Error
	})
}

// KitOfTrip is how exercises with the kit of a trip name it.
func KitOfTrip(trip uint) string { return fmt.Sprintf("trip/%d", trip) }

// letKitGo takes the kit of a trip that is removed out of all exercises, and its name; what came of them stays.
func letKitGo(tx *gorm.DB, trip uint) error {
	err := tx.Model(&Exercise{}).Where("kit = ?", KitOfTrip(trip)).
		Updates(map[string]any{"bundle": nil, "state": "", "name": "a trip that is removed"}).Error
	if err != nil {
		return err
	}
	return tx.Where("kit = ?", KitOfTrip(trip)).Delete(&ToRepeat{}).Error
}

// Now is the store's clock.
func (s *Store) Now() time.Time { return s.now() }
