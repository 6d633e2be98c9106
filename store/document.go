package store

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"gorm.io/gorm"

	"tornister/bundle"
)

// keptRevisions is how many states of a trip undo can go back through.
const keptRevisions = 200

// doc puts the rows of a trip together into its bundle.
func (t *Trip) doc() (bundle.Doc, error) {
	doc, err := parse(t.Detail)
	if err != nil {
		return nil, fmt.Errorf("trip %d: %w", t.ID, err)
	}
	pack, err := parse(t.Pack.Detail)
	if err != nil {
		return nil, fmt.Errorf("pack %d: %w", t.Pack.ID, err)
	}
	zones := make([]any, len(t.Pack.Zones))
	for i, z := range t.Pack.Zones {
		if zones[i], err = parse(z.Detail); err != nil {
			return nil, fmt.Errorf("zone %d: %w", z.ID, err)
		}
	}
	pack["zones"] = zones
	doc["pack"] = pack
	items := make([]any, len(t.Lines))
	for i, l := range t.Lines {
		if items[i], err = parse(l.Item.Detail); err != nil {
			return nil, fmt.Errorf("item %d: %w", l.ItemID, err)
		}
	}
	doc["items"] = items
	if len(t.Pins) > 0 {
		pins := make([]any, len(t.Pins))
		for i, p := range t.Pins {
			if pins[i], err = parse(p.Detail); err != nil {
				return nil, fmt.Errorf("pin %d: %w", p.ID, err)
			}
		}
		doc["pins"] = pins
	}
	return doc, nil
}

// save writes a bundle into the rows of a trip, touching only rows that differ.
func save(tx *gorm.DB, trip *Trip, doc bundle.Doc) error {
	rest := doc.Clone()
	pack, err := savePack(tx, rest["pack"].(map[string]any))
	if err != nil {
		return err
	}
	items, pins := rest.List("items"), rest.List("pins")
	for _, key := range []string{"pack", "items", "pins"} {
		delete(rest, key)
	}
	if trip.Detail, err = text(rest); err != nil {
		return err
	}
	before := trip.PackID
	trip.Name, trip.PackID, trip.Pack = doc.Name(), pack.ID, *pack
	if err := tx.Omit("Pack", "Lines", "Pins").Save(trip).Error; err != nil {
		return fmt.Errorf("save trip: %w", err)
	}
	if before != 0 && before != pack.ID {
		if err := dropPacks(tx, before); err != nil {
			return fmt.Errorf("remove the pack before: %w", err)
		}
	}
	if err := saveLines(tx, trip, items); err != nil {
		return err
	}
	return savePins(tx, trip.ID, pins)
}

// savePack finds the pack of exactly this description or adds it.
func savePack(tx *gorm.DB, object map[string]any) (*Pack, error) {
	zones, _ := object["zones"].([]any)
	delete(object, "zones")
	detail, err := text(object)
	if err != nil {
		return nil, err
	}
	pack := Pack{Key: word(object["id"]), Name: word(object["name"]), MassG: amount(object["mass_g"]),
		ShelfKey: word(object["shelf"]), Detail: detail}
	if pack.Name == "" {
		pack.Name = pack.Key
	}
	for i, z := range zones {
		zone := z.(map[string]any)
		detail, err := text(zone)
		if err != nil {
			return nil, err
		}
		pack.Zones = append(pack.Zones, Zone{Position: i, Key: word(zone["id"]), Kind: word(zone["kind"]), Detail: detail})
	}
	var alike []Pack
	if err := tx.Preload("Zones", func(db *gorm.DB) *gorm.DB { return db.Order("position") }).
		Where("key = ? AND detail = ?", pack.Key, detail).Find(&alike).Error; err != nil {
		return nil, err
	}
	for i := range alike {
		if sameZones(alike[i].Zones, pack.Zones) {
			return &alike[i], nil
		}
	}
	if err := tx.Create(&pack).Error; err != nil {
		return nil, fmt.Errorf("save pack: %w", err)
	}
	return &pack, nil
}

func sameZones(a, b []Zone) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].Detail != b[i].Detail {
			return false
		}
	}
	return true
}

// saveLines makes the kit lines of a trip equal to the items of a bundle.
func saveLines(tx *gorm.DB, trip *Trip, items []map[string]any) error {
	had := map[string]KitLine{}
	for _, l := range trip.Lines {
		had[l.Key] = l
	}
	for position, object := range items {
		key := word(object["id"])
		line, known := had[key]
		delete(had, key)
		detail, err := text(object)
		if err != nil {
			return err
		}
		if known && line.Position == position && line.Item.Detail == detail {
			continue
		}
		line.TripID, line.Key, line.Position, line.Carry = trip.ID, key, position, word(object["carry"])
		line.Item.Name, line.Item.Kind, line.Item.MassG, line.Item.ShelfKey, line.Item.Detail = word(object["name"]), word(object["kind"]), amount(object["mass_g"]), word(object["shelf"]), detail
		if err := tx.Save(&line.Item).Error; err != nil {
			return fmt.Errorf("save item %s: %w", key, err)
		}
		line.ItemID = line.Item.ID
		if err := tx.Omit("Item").Save(&line).Error; err != nil {
			return fmt.Errorf("save kit line %s: %w", key, err)
		}
	}
	for _, gone := range had {
		if err := errors.Join(tx.Delete(&KitLine{}, gone.ID).Error, tx.Delete(&Item{}, gone.ItemID).Error); err != nil {
			return fmt.Errorf("remove kit line %s: %w", gone.Key, err)
		}
	}
	return nil
}

func savePins(tx *gorm.DB, trip uint, pins []map[string]any) error {
	if err := tx.Where("trip_id = ?", trip).Delete(&Pin{}).Error; err != nil {
		return err
	}
	for i, object := range pins {
		detail, err := text(object)
		if err != nil {
			return err
		}
		pin := Pin{TripID: trip, Position: i, ItemKey: word(object["item"]), ZoneKey: word(object["zone"]), Detail: detail}
		if err := tx.Create(&pin).Error; err != nil {
			return fmt.Errorf("save pin: %w", err)
		}
	}
	return nil
}

// remember keeps a state for undo and lets the oldest go.
func remember(tx *gorm.DB, trip *Trip, label string, doc bundle.Doc) error {
	if trip.ID == 0 {
		return errors.New("remember: the trip has no row yet")
	}
	plain, err := doc.JSON()
	if err != nil {
		return err
	}
	packed, err := zip(plain)
	if err != nil {
		return err
	}
	r := Revision{TripID: trip.ID, Number: trip.Revision, Label: label, Bundle: packed}
	if err := tx.Omit("Trip").Create(&r).Error; err != nil {
		return fmt.Errorf("keep revision: %w", err)
	}
	return tx.Where("trip_id = ? AND number <= ?", trip.ID, trip.Revision-keptRevisions).Delete(&Revision{}).Error
}

func (r *Revision) doc() (bundle.Doc, error) {
	plain, err := unzip(r.Bundle)
	if err != nil {
		return nil, fmt.Errorf("revision %d: %w", r.Number, err)
	}
	b, err := bundle.Read(plain)
	if err != nil {
		return nil, fmt.Errorf("revision %d: %w", r.Number, err)
	}
	return b.Doc, nil
}

func zip(plain []byte) ([]byte, error) {
	var packed bytes.Buffer
	w := gzip.NewWriter(&packed)
	_, err := w.Write(plain)
	err = errors.Join(err, w.Close())
	return packed.Bytes(), err
}

func unzip(packed []byte) ([]byte, error) {
	reader, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return nil, err
	}
	return io.ReadAll(reader)
}

func parse(detail string) (map[string]any, error) {
	decoder := json.NewDecoder(bytes.NewReader([]byte(detail)))
	decoder.UseNumber()
	var object map[string]any
	err := decoder.Decode(&object)
	return object, err
}

func text(object map[string]any) (string, error) {
	data, err := json.Marshal(object)
	return string(data), err
}

func word(v any) string { s, _ := v.(string); return s }

func amount(v any) float64 {
	n, _ := v.(json.Number)
	f, _ := n.Float64()
	return f
}
