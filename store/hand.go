package store

import (
	"context"
	"errors"

	"gorm.io/gorm"
)

// handKey is where the packer's factors stand among the properties.
const handKey = "hand"

// Hand is the packer's factors as JSON, "" when nothing was learned yet.
func (s *Store) Hand(ctx context.Context) (text string, err error) {
	err = s.reader.WithContext(ctx).Table("properties").Where("key = ?", handKey).Pluck("value", &text).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		err = nil
	}
	return text, said(err)
}

// SetHand keeps the packer's factors; new trips begin with them. "" forgets them.
func (s *Store) SetHand(ctx context.Context, text string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if text == "" {
			return tx.Exec("DELETE FROM properties WHERE key = ?", handKey).Error
		}
		return tx.Exec("INSERT INTO properties VALUES (?, ?) ON CONFLICT DO UPDATE SET value = excluded.value", handKey,
			text).Error
	})
}
