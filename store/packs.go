package store

import (
	"cmp"
	"context"
	"errors"
	"fmt"

	"gorm.io/gorm"

	"tornister/bundle"
)

// OwnedPack is a pack on the shelf: its object in the open format, with its shelf key.
type OwnedPack struct {
	Key, Name string
	Version   int
	Object    map[string]any
}

// ErrNoPack is the answer for a key that no pack has.
var ErrNoPack = error(gone("pack on the shelf"))

func (p *ShelfPack) shown() (OwnedPack, error) {
	object, err := parse(p.Detail)
	if err != nil {
		return OwnedPack{}, fmt.Errorf("pack %d: %w", p.ID, err)
	}
	return OwnedPack{p.Key, p.Name, p.Version, object}, nil
}

// Packs lists the packs on the shelf by name.
func (s *Store) Packs(ctx context.Context) ([]OwnedPack, error) {
	var rows []ShelfPack
	if err := s.reader.WithContext(ctx).Order("name, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	list := make([]OwnedPack, len(rows))
	for i := range rows {
		var err error
		if list[i], err = rows[i].shown(); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// PackOf reads one pack of the shelf.
func (s *Store) PackOf(ctx context.Context, key string) (OwnedPack, error) {
	row, err := packRow(s.reader.WithContext(ctx), key)
	if err != nil {
		return OwnedPack{}, err
	}
	return row.shown()
}

func packRow(db *gorm.DB, key string) (*ShelfPack, error) {
	var row ShelfPack
	err := db.Where("key = ?", key).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, ErrNoPack
	}
	return &row, err
}

// AddPack puts a pack on the shelf and gives its key.
func (s *Store) AddPack(ctx context.Context, object map[string]any) (key string, err error) {
	row := ShelfPack{Key: newKey()}
	return row.Key, s.write(ctx, func(tx *gorm.DB) error {
		if err := row.keep(tx, object); err != nil {
			return err
		}
		return rememberShelf(tx, PacksRoom, "put "+row.Name+" on the shelf", shelfRow{Key: row.Key, Fresh: true})
	})
}

func (p *ShelfPack) keep(tx *gorm.DB, object map[string]any) error {
	object["shelf"] = p.Key
	whole, err := bundle.CheckPack(object)
	if err != nil {
		return err
	}
	p.Name = cmp.Or(word(object["name"]), whole.Name)
	if p.Detail, err = text(object); err != nil {
		return err
	}
	p.Version++
	return tx.Save(p).Error
}

// ChangePack edits a pack of the shelf; the trips that carry it follow, each with a revision of its own.
func (s *Store) ChangePack(ctx context.Context, key string, version int, edit func(object map[string]any) error) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		row, err := packRow(tx, key)
		if err != nil {
			return err
		}
		if row.Version != version {
			return ErrStale
		}
		now, err := row.shown()
		if err != nil {
			return err
		}
		before, label := row.before(), "change "+row.Name
		if err := edit(now.Object); err != nil {
			return err
		}
		if err := changePack(tx, row, now.Object); err != nil {
			return err
		}
		return rememberShelf(tx, PacksRoom, label, before)
	})
}

// changePack keeps a pack and takes it to the trips that carry it.
func changePack(tx *gorm.DB, row *ShelfPack, object map[string]any) error {
	if err := row.keep(tx, object); err != nil {
		return err
	}
	var ids []uint
	if err := tx.Model(&Trip{}).Joins("JOIN packs ON packs.id = trips.pack_id").Where("packs.shelf_key = ?", row.Key).
		Order("trips.id").Pluck("trips.id", &ids).Error; err != nil {
		return err
	}
	return onTrips(tx, ids, "pack changed on the shelf: "+row.Name, func(doc bundle.Doc) { doc.SetPack(object) })
}

// RemovePack takes a pack off the shelf; trips keep it.
func (s *Store) RemovePack(ctx context.Context, key string, version int) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		row, err := packRow(tx, key)
		if err != nil {
			return err
		}
		if row.Version != version {
			return ErrStale
		}
		if err := tx.Delete(row).Error; err != nil {
			return err
		}
		return rememberShelf(tx, PacksRoom, "take "+row.Name+" off the shelf", row.before())
	})
}
