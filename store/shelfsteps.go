package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// ShelfStep is a change of the shelf or of the packs on it that can be taken back: what the rows were before.
type ShelfStep struct {
	ID    uint `gorm:"primaryKey"`
	Room  string
	Label string
	Rows  string // JSON of []shelfRow
	At    time.Time
}

// Room is one of the two whose changes can be taken back.
type Room string

// The rooms.
const (
	ShelfRoom Room = "shelf"
	PacksRoom Room = "packs"
)

// mostShelfSteps is how far back one can go in a room.
const mostShelfSteps = 50

// shelfRow is what a row of the shelf was before a change; Fresh when there was none.
type shelfRow struct {
	Key    string
	Fresh  bool
	Detail string `json:",omitempty"`
	Status string `json:",omitempty"`
	Holder string `json:",omitempty"`
	Photo  []byte `json:",omitempty"`
	Type   string `json:",omitempty"`
}

func (t *Thing) before() shelfRow {
	return shelfRow{t.Key, false, t.Detail, t.Status, t.Holder, t.Photo, t.PhotoType}
}

func (p *ShelfPack) before() shelfRow { return shelfRow{Key: p.Key, Detail: p.Detail} }

// rememberShelf keeps what rows were before a change.
func rememberShelf(tx *gorm.DB, room Room, label string, rows ...shelfRow) error {
	if len(rows) == 0 {
		return nil
	}
	told, err := json.Marshal(rows)
	if err != nil {
		return err
	}
	step := ShelfStep{Room: string(room), Label: label, Rows: string(told), At: tx.NowFunc()}
	if err := tx.Create(&step).Error; err != nil {
		return err
	}
	return tx.Exec("DELETE FROM shelf_steps WHERE room = ? AND id NOT IN (SELECT id FROM shelf_steps WHERE room = ? ORDER BY id DESC LIMIT ?)", room, room, mostShelfSteps).Error
}

// LastShelfStep is what undo would take back in a room, "" for nothing.
func (s *Store) LastShelfStep(ctx context.Context, room Room) (label string, err error) {
	err = s.reader.WithContext(ctx).Model(&ShelfStep{}).Where("room = ?", room).Order("id DESC").Limit(1).
		Pluck("label", &label).Error
	return label, said(err)
}

// UndoShelf takes the last change of a room back; trips follow as they followed it. What was taken off the shelf
// comes back, but the trips that carried it keep their own. ErrNoUndo when there is nothing to take back.
func (s *Store) UndoShelf(ctx context.Context, room Room) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var step ShelfStep
		if err := tx.Where("room = ?", room).Order("id DESC").Take(&step).Error; errors.Is(err, gorm.ErrRecordNotFound) {
			return ErrNoUndo
		} else if err != nil {
			return err
		}
		var rows []shelfRow
		if err := json.Unmarshal([]byte(step.Rows), &rows); err != nil {
			return fmt.Errorf("step %d of the %s: %w", step.ID, room, err)
		}
		for _, row := range rows {
			back := row.backThing
			if room == PacksRoom {
				back = row.backPack
			}
			if err := back(tx); err != nil {
				return err
			}
		}
		return tx.Delete(&step).Error
	})
}

func (r shelfRow) backThing(tx *gorm.DB) error {
	row, err := thing(tx, r.Key)
	there := err == nil
	if err != nil && !errors.Is(err, ErrNoThing) {
		return err
	}
	switch {
	case r.Fresh && there:
		if err := tx.Delete(row).Error; err != nil {
			return err
		}
		return spread(tx, 0, r.Key, nil)
	case r.Fresh:
		return nil
	}
	object, err := parse(r.Detail)
	if err != nil {
		return err
	}
	if !there {
		row = &Thing{Key: r.Key, Version: 1, Photo: r.Photo, PhotoType: r.Type, Status: r.Status, Holder: r.Holder}
		if err := row.describe(object); err != nil {
			return err
		}
		return tx.Create(row).Error
	}
	return changeThing(tx, row, func(t *ShelfThing) error {
		t.Object, t.Status, t.Holder = object, Status(r.Status), r.Holder
		return nil
	})
}

func (r shelfRow) backPack(tx *gorm.DB) error {
	row, err := packRow(tx, r.Key)
	there := err == nil
	if err != nil && !errors.Is(err, ErrNoPack) {
		return err
	}
	switch {
	case r.Fresh && there:
		return tx.Delete(row).Error
	case r.Fresh:
		return nil
	case !there:
		row = &ShelfPack{Key: r.Key}
	}
	object, err := parse(r.Detail)
	if err != nil {
		return err
	}
	return changePack(tx, row, object)
}
