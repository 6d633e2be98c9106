package store

import (
	"context"
	"crypto/rand"
	"errors"
	"time"

	"gorm.io/gorm"
)

// CardLink lets whoever holds its token read and tick the load card of one bearer, until it ends.
type CardLink struct {
	Token  string `gorm:"primaryKey"`
	TripID uint
	Bearer string // "" for somebody who walks alone
	Made   time.Time
	Until  time.Time
}

// ErrLinkOver says that a link has ended.
var ErrLinkOver = errors.New("this link has ended")

// MakeCardLink makes a link for a bearer in the place of the one there was. Its token has at least 128 random bits
// (crypto/rand.Text).
func (s *Store) MakeCardLink(ctx context.Context, trip uint, bearer string, until time.Time) (link CardLink,
	err error) {
	link = CardLink{rand.Text(), trip, bearer, s.now(), until}
	err = s.write(ctx, func(tx *gorm.DB) error {
		if _, err := find(tx, trip); err != nil {
			return err
		}
		if err := tx.Where("trip_id = ? AND bearer = ?", trip, bearer).Delete(&CardLink{}).Error; err != nil {
			return err
		}
		return tx.Create(&link).Error
	})
	return link, err
}

// CardLinks are the links of a trip, by bearer.
func (s *Store) CardLinks(ctx context.Context, trip uint) (map[string]CardLink, error) {
	var list []CardLink
	if err := s.reader.WithContext(ctx).Where("trip_id = ?", trip).Find(&list).Error; err != nil {
		return nil, said(err)
	}
	links := map[string]CardLink{}
	for _, l := range list {
		links[l.Bearer] = l
	}
	return links, nil
}

// CardLink is the link of a token. The error is ErrNotFound for one that was never made or was taken back, and
// ErrLinkOver for one that has ended.
func (s *Store) CardLink(ctx context.Context, token string) (link CardLink, err error) {
	err = s.reader.WithContext(ctx).Where("token = ?", token).Take(&link).Error
	switch {
	case errors.Is(err, gorm.ErrRecordNotFound):
		return link, ErrNotFound
	case err != nil:
		return link, said(err)
	case s.now().After(link.Until):
		return link, ErrLinkOver
	}
	return link, nil
}

// EndCardLink takes a bearer's link back.
func (s *Store) EndCardLink(ctx context.Context, trip uint, bearer string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Where("trip_id = ? AND bearer = ?", trip, bearer).Delete(&CardLink{}).Error
	})
}

// LaterTick is a tick that was set a while ago, on a device that could not tell of it then.
type LaterTick struct {
	Key, State string
	Ago        time.Duration
}

// SetTicks keeps ticks that come home. One that is older than what was said of its step since is passed over: it
// comes home once, however often it is sent.
func (s *Store) SetTicks(ctx context.Context, trip uint, ticks []LaterTick) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if _, err := find(tx, trip); err != nil {
			return err
		}
		for _, t := range ticks {
			at := s.now().Add(-t.Ago)
			var known Tick
			err := tx.Where("trip_id = ? AND key = ?", trip, t.Key).Take(&known).Error
			if err == nil && known.At.After(at) {
				continue
			}
			if err != nil && !errors.Is(err, gorm.ErrRecordNotFound) {
				return err
			}
			if err := tx.Save(&Tick{trip, t.Key, t.State, at}).Error; err != nil {
				return err
			}
		}
		return nil
	})
}
