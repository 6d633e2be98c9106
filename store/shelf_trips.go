package store

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"tornister/bundle"

	"gorm.io/gorm"
)

// share carries what a change of one trip says of things on the shelf to the shelf and to the other trips. A thing
// that was made smaller for one trip stays as it is elsewhere; a line with a key that the shelf does not know is put
// there.
func share(tx *gorm.DB, trip *Trip, before, after bundle.Doc) error {
	was := map[string]map[string]any{}
	for _, item := range before.List("items") {
		was[word(item["id"])] = item
	}
	for _, item := range after.List("items") {
		key := word(item["shelf"])
		if key == "" || item["made_small"] != nil {
			continue
		}
		own := bundle.Own(item)
		if old := was[word(item["id"])]; old != nil && word(old["shelf"]) == key &&
			(old["made_small"] != nil || reflect.DeepEqual(bundle.Own(old), own)) {
			continue
		}
		row, err := thing(tx, key)
		if errors.Is(err, ErrNoThing) {
			row, err = &Thing{Key: key}, nil
		}
		if err != nil {
			return err
		}
		if err := row.describe(own); err != nil {
			return err
		}
		row.Version++
		if err := tx.Save(row).Error; err != nil {
			return err
		}
		if err := spread(tx, trip.ID, key, own); err != nil {
			return err
		}
	}
	return nil
}

// spread writes what is now known of a thing into every trip that it goes on, but one. With nothing to write, the
// trips keep the thing as their own.
func spread(tx *gorm.DB, but uint, key string, own map[string]any) error {
	var ids []uint
	err := tx.Model(&KitLine{}).Joins("JOIN items ON items.id = kit_lines.item_id").
		Where("items.shelf_key = ? AND kit_lines.trip_id <> ?", key, but).Distinct().Order("trip_id").Pluck("trip_id",
		&ids).Error
	if err != nil {
		return err
	}
	return onTrips(tx, ids, "changed on the shelf: "+word(own["name"]), func(doc bundle.Doc) {
		for _, item := range doc.List("items") {
			switch {
			case word(item["shelf"]) != key || item["made_small"] != nil && own != nil:
			case own == nil:
				delete(item, "shelf")
			default:
				bundle.TakeOwn(item, own)
			}
		}
	})
}

// onTrips edits several trips, leaving a revision in each that changes.
func onTrips(tx *gorm.DB, ids []uint, label string, edit func(bundle.Doc)) error {
	for _, id := range ids {
		trip, err := find(tx, id)
		if err != nil {
			return err
		}
		doc, err := trip.doc()
		if err != nil {
			return err
		}
		before := doc.Clone()
		if edit(doc); reflect.DeepEqual(before, doc) {
			continue
		}
		trip.Version++
		if err := advance(tx, trip, label, doc); err != nil {
			return fmt.Errorf("on the trip %q: %w", trip.Name, err)
		}
	}
	return nil
}

// LeftBehind names the things of the shelf that stayed at home on the trip changed last before this one and are not
// on this trip's list either: what was forgotten once is forgotten again.
func (s *Store) LeftBehind(ctx context.Context, id uint) ([]string, error) {
	var names []string
	db := s.reader.WithContext(ctx)
	last := db.Model(&Trip{}).Select("trips.id").Joins("JOIN kit_lines ON kit_lines.trip_id = trips.id").
		Joins("JOIN items ON items.id = kit_lines.item_id").
		Where("trips.id <> ? AND kit_lines.carry = 'left' AND items.shelf_key <> ''", id).Order("trips.updated_at DESC").
		Limit(1)
	here := db.Model(&KitLine{}).Select("items.shelf_key").Joins("JOIN items ON items.id = kit_lines.item_id").
		Where("kit_lines.trip_id = ? AND kit_lines.carry <> 'left'", id)
	err := db.Model(&KitLine{}).Joins("JOIN items ON items.id = kit_lines.item_id").
		Where("kit_lines.trip_id = (?) AND kit_lines.carry = 'left' AND items.shelf_key <> '' AND items.shelf_key NOT IN (?)", last, here).Order("items.name").Pluck("items.name", &names).Error
	return names, err
}

// HowLast gives of things of the shelf how many went along on the latest trip that took them, and how they were
// carried: the count and carry of their lines, as the open format has them.
func (s *Store) HowLast(ctx context.Context, keys []string) (map[string]map[string]any, error) {
	var lines []struct{ ShelfKey, Detail string }
	err := s.reader.WithContext(ctx).Table("items").Select("items.shelf_key, items.detail").
		Joins("JOIN kit_lines ON kit_lines.item_id = items.id").Joins("JOIN trips ON trips.id = kit_lines.trip_id").
		Where("items.shelf_key IN ? AND kit_lines.carry <> 'left'", keys).Order("trips.updated_at, trips.id").Scan(&lines).
		Error
	if err != nil {
		return nil, said(err)
	}
	last := map[string]map[string]any{}
	for _, l := range lines {
		object, err := parse(l.Detail)
		if err != nil {
			return nil, err
		}
		how := map[string]any{}
		for _, key := range []string{"count", "carry"} {
			if value, given := object[key]; given {
				how[key] = value
			}
		}
		last[l.ShelfKey] = how
	}
	return last, nil
}
