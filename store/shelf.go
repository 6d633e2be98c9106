package store

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"gorm.io/gorm"

	"tornister/bundle"
)

// Status says where a thing of the shelf is.
type Status string

// Where a thing can be. Only what is Here is offered for a trip.
const (
	Here    Status = ""
	Lent    Status = "lent"
	Retired Status = "retired"
)

// ShelfThing is a thing as the shelf shows it.
type ShelfThing struct {
	Key, Name, Section string
	Expires            string
	Status             Status
	Holder             string
	Instead            string
	HasPhoto           bool
	Version            int
	Object             map[string]any // what the open format says of it, with its shelf key
	Trips              []string       // names of the trips it goes on
}

// Query picks things. Empty fields pick all.
type Query struct {
	Words   string // all of them in the name, the section or the holder
	Section string
	Status  string // here, lent, retired or dated
}

// ErrNoThing is the answer for a key that is not on the shelf.
var ErrNoThing = error(gone("thing on the shelf"))

// Things lists the shelf by section and name.
func (s *Store) Things(ctx context.Context, q Query) (list []ShelfThing, err error) {
	err = s.read(ctx, func(db *gorm.DB) error {
		picked := db.Omit("photo").Order("section, name, id")
		for _, word := range strings.Fields(q.Words) {
			like := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(word) + "%"
			picked = picked.Where(`name LIKE ? ESCAPE '\' OR section LIKE ? ESCAPE '\' OR holder LIKE ? ESCAPE '\'`, like,
				like, like)
		}
		if q.Section != "" {
			picked = picked.Where("section = ?", q.Section)
		}
		switch q.Status {
		case "here":
			picked = picked.Where("status = ''")
		case string(Lent), string(Retired):
			picked = picked.Where("status = ?", q.Status)
		case "dated":
			picked = picked.Where("expires <> ''")
		}
		var rows []Thing
		if err := picked.Find(&rows).Error; err != nil {
			return err
		}
		trips, err := tripsByThing(db)
		if err != nil {
			return err
		}
		list = make([]ShelfThing, len(rows))
		for i := range rows {
			if list[i], err = rows[i].shown(); err != nil {
				return err
			}
			list[i].Trips = trips[rows[i].Key]
		}
		return nil
	})
	return list, err
}

func (t *Thing) shown() (ShelfThing, error) {
	object, err := parse(t.Detail)
	if err != nil {
		return ShelfThing{}, fmt.Errorf("thing %d: %w", t.ID, err)
	}
	object["shelf"] = t.Key
	if word(object["name"]) == "" { // put there when a name could still follow from an id
		object["name"] = t.Name
	}
	return ShelfThing{Key: t.Key, Name: t.Name, Section: t.Section, Expires: t.Expires, Status: Status(t.Status),
		Holder: t.Holder, Instead: t.Instead,
		HasPhoto: t.PhotoType != "", Version: t.Version, Object: object}, nil
}

func tripsByThing(db *gorm.DB) (map[string][]string, error) {
	var rows []struct{ Key, Name string }
	err := db.Model(&KitLine{}).Select("DISTINCT items.shelf_key AS key, trips.name AS name").
		Joins("JOIN items ON items.id = kit_lines.item_id").Joins("JOIN trips ON trips.id = kit_lines.trip_id").
		Where("items.shelf_key <> ''").Order("trips.name").Scan(&rows).Error
	found := map[string][]string{}
	for _, r := range rows {
		found[r.Key] = append(found[r.Key], r.Name)
	}
	return found, err
}

// Thing reads one thing.
func (s *Store) Thing(ctx context.Context, key string) (shown ShelfThing, err error) {
	err = s.read(ctx, func(db *gorm.DB) error {
		row, err := thing(db.Omit("photo"), key)
		if err != nil {
			return err
		}
		if shown, err = row.shown(); err != nil {
			return err
		}
		trips, err := tripsByThing(db)
		shown.Trips = trips[key]
		return err
	})
	return shown, err
}

func thing(db *gorm.DB, key string) (*Thing, error) {
	var row Thing
	err := db.Where("key = ?", key).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, ErrNoThing
	}
	return &row, err
}

// ChangeThing edits a thing; its trips follow, each with a revision of its own. The version is that of the thing
// which the editor saw.
func (s *Store) ChangeThing(ctx context.Context, key string, version int, edit func(*ShelfThing) error) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		row, err := thing(tx, key)
		if err != nil {
			return err
		}
		if row.Version != version {
			return ErrStale
		}
		before, label := row.before(), "change "+row.Name
		if err := changeThing(tx, row, edit); err != nil {
			return err
		}
		return rememberShelf(tx, ShelfRoom, label, before)
	})
}

func changeThing(tx *gorm.DB, row *Thing, edit func(*ShelfThing) error) error {
	shown, err := row.shown()
	if err != nil {
		return err
	}
	before := bundle.Own(shown.Object)
	if err := edit(&shown); err != nil {
		return err
	}
	row.Status, row.Holder = string(shown.Status), shown.Holder
	own := bundle.Own(shown.Object)
	if err := row.describe(own); err != nil {
		return err
	}
	row.Version++
	if err := tx.Save(row).Error; err != nil {
		return err
	}
	if reflect.DeepEqual(before, own) {
		return nil
	}
	return spread(tx, 0, row.Key, own)
}

// describe takes over an object and the columns that follow from it.
func (t *Thing) describe(own map[string]any) error {
	own["shelf"] = t.Key
	if err := bundle.CheckItem(own); err != nil {
		return err
	}
	item, err := bundle.CompleteItem(own)
	if err != nil {
		return err
	}
	detail, err := text(own)
	if err != nil {
		return err
	}
	t.Name, t.Section, t.MassG, t.Expires, t.Instead, t.Detail = cmp.Or(word(own["name"]), item.Name,
		"Thing"), item.Group, item.MassG, item.Expires, item.Instead, detail
	return nil
}

// AddThings puts things on the shelf, all or none, and gives their keys.
func (s *Store) AddThings(ctx context.Context, objects []map[string]any) (keys []string, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		var rows []shelfRow
		for i, object := range objects {
			key, err := addThing(tx, object)
			if err != nil {
				return fmt.Errorf("thing %d: %w", i+1, err)
			}
			keys, rows = append(keys, key), append(rows, shelfRow{Key: key, Fresh: true})
		}
		return rememberShelf(tx, ShelfRoom, "put "+manyThings(len(keys))+" on the shelf", rows...)
	})
	return keys, err
}

// Import keeps trips and things that come together, all or none.
func (s *Store) Import(ctx context.Context, docs []bundle.Doc, things []map[string]any) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		for _, doc := range docs {
			if _, err := create(tx, doc); err != nil {
				return err
			}
		}
		for i, object := range things {
			if _, err := addThing(tx, object); err != nil {
				return fmt.Errorf("thing %d: %w", i+1, err)
			}
		}
		return nil
	})
}

func addThing(tx *gorm.DB, object map[string]any) (string, error) {
	row := Thing{Key: newKey(), Version: 1}
	if err := row.describe(bundle.Own(object)); err != nil {
		return "", err
	}
	return row.Key, tx.Create(&row).Error
}

// newKey names a thing for good; the text of rand is long enough never to be drawn twice.
func newKey() string { return "s-" + strings.ToLower(rand.Text()[:12]) }

// Shelve puts lines of a trip on the shelf that are not there yet: those with the given ids, or all that are neither
// eaten nor burnt when ids is empty. It says how many.
func (s *Store) Shelve(ctx context.Context, id uint, version int, ids []string) (n int, err error) {
	err = s.Change(ctx, id, version, "put on the shelf", func(doc bundle.Doc) error {
		for _, item := range doc.List("items") {
			if word(item["shelf"]) != "" || word(item["follows"]) != "" || len(ids) > 0 &&
				!slices.Contains(ids, word(item["id"])) {
				continue
			}
			whole, err := bundle.CompleteItem(item)
			if err != nil || len(ids) == 0 && (whole.Consumable != "" || len(whole.MadeSmall) > 0) {
				continue
			}
			if word(item["name"]) == "" { // on the list its name follows from its id, which stays there
				item["name"] = whole.Name
			}
			item["shelf"] = newKey() // share makes the row
			n++
		}
		return nil
	})
	return n, err
}

// BulkThings makes one change to many things at once, all or none.
func (s *Store) BulkThings(ctx context.Context, keys []string, change func(*ShelfThing)) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var rows []shelfRow
		for _, key := range keys {
			row, err := thing(tx, key)
			if err != nil {
				return err
			}
			rows = append(rows, row.before())
			if err := changeThing(tx, row, func(t *ShelfThing) error { change(t); return nil }); err != nil {
				return fmt.Errorf("%s: %w", row.Name, err)
			}
		}
		return rememberShelf(tx, ShelfRoom, "change "+manyThings(len(rows)), rows...)
	})
}

func manyThings(n int) string {
	if n == 1 {
		return "a thing"
	}
	return fmt.Sprintf("%d things", n)
}

// RemoveThing takes a thing off the shelf. Trips keep it as a thing of their own.
func (s *Store) RemoveThing(ctx context.Context, key string, version int) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		row, err := thing(tx, key)
		if err != nil {
			return err
		}
		if row.Version != version {
			return ErrStale
		}
		if err := tx.Delete(row).Error; err != nil {
			return err
		}
		if err := rememberShelf(tx, ShelfRoom, "take "+row.Name+" off the shelf", row.before()); err != nil {
			return err
		}
		return spread(tx, 0, key, nil)
	})
}

// Photo reads a thing's picture.
func (s *Store) Photo(ctx context.Context, key string) (data []byte, mediaType string, err error) {
	row, err := thing(s.reader.WithContext(ctx), key)
	if err != nil {
		return nil, "", err
	}
	return row.Photo, row.PhotoType, nil
}

// SetPhoto keeps a picture with a thing; no data takes it away.
func (s *Store) SetPhoto(ctx context.Context, key string, data []byte, mediaType string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		result := tx.Model(&Thing{}).Where("key = ?", key).
			Updates(map[string]any{"photo": data, "photo_type": mediaType, "version": gorm.Expr("version + 1")})
		if result.Error == nil && result.RowsAffected == 0 {
			return ErrNoThing
		}
		return result.Error
	})
}

// ShelfStamp changes whenever a thing or a pack of the shelf does.
func (s *Store) ShelfStamp(ctx context.Context) (string, error) {
	var sums [2]struct{ N, V int64 }
	db := s.reader.WithContext(ctx)
	err := errors.Join(db.Model(&Thing{}).Select("count(*) AS n, coalesce(sum(version * id), 0) AS v").Scan(&sums[0]).
		Error,
		db.Model(&ShelfPack{}).Select("count(*) AS n, coalesce(sum(version * id), 0) AS v").Scan(&sums[1]).Error)
	return fmt.Sprint(sums), err
}
