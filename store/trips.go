package store

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"time"

	"gorm.io/gorm"

	"tornister/bundle"
)

// Summary is a trip in a list.
type Summary struct {
	ID        uint
	Name      string
	Pack      string
	Things    int
	Version   int
	UpdatedAt time.Time
	VerdictOf int    // the version that Verdict is of, 0 when none is kept
	Verdict   string // as KeepVerdict was given it
}

// State is a trip as it stands, with what can be taken back.
type State struct {
	ID      uint
	Version int
	Doc     bundle.Doc
	Undo    string // label of the change that undo takes back, "" for none
	Redo    string // label of the change that redo brings again
}

// Trips lists all trips, last changed first.
func (s *Store) Trips(ctx context.Context) ([]Summary, error) {
	var list []Summary
	err := s.reader.WithContext(ctx).Model(&Trip{}).
		Select("trips.id, trips.name, packs.name AS pack, trips.version, trips.updated_at, " +
			"(SELECT count(*) FROM kit_lines WHERE trip_id = trips.id) AS things, " +
			"verdicts.version AS verdict_of, verdicts.verdict").
		Joins("JOIN packs ON packs.id = trips.pack_id").Joins("LEFT JOIN verdicts ON verdicts.trip_id = trips.id").
		Order("trips.updated_at DESC, trips.id DESC").Scan(&list).Error
	return list, said(err)
}

// Create adds a trip.
func (s *Store) Create(ctx context.Context, doc bundle.Doc) (id uint, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		id, err = create(tx, doc)
		return err
	})
	return id, err
}

func create(tx *gorm.DB, doc bundle.Doc) (uint, error) {
	trip := Trip{Version: 1, Revision: 1}
	if err := save(tx, &trip, doc); err != nil {
		return 0, err
	}
	return trip.ID, remember(tx, &trip, "trip added", doc)
}

// Trip reads a trip.
func (s *Store) Trip(ctx context.Context, id uint) (state *State, err error) {
	err = s.read(ctx, func(db *gorm.DB) error {
		trip, err := find(db, id)
		if err != nil {
			return err
		}
		doc, err := trip.doc()
		if err != nil {
			return err
		}
		state = &State{ID: id, Version: trip.Version, Doc: doc}
		var near []Revision
		if err := db.Select("number", "label").
			Where("trip_id = ? AND number BETWEEN ? AND ?", id, trip.Revision-1, trip.Revision+1).Find(&near).Error; err != nil {
			return err
		}
		labels := map[int]string{}
		for _, r := range near {
			labels[r.Number] = r.Label
		}
		if _, older := labels[trip.Revision-1]; older {
			state.Undo = labels[trip.Revision]
		}
		state.Redo = labels[trip.Revision+1]
		return nil
	})
	return state, err
}

// Version reads only the version of a trip.
func (s *Store) Version(ctx context.Context, id uint) (int, error) {
	var trip Trip
	err := s.reader.WithContext(ctx).Select("version").Take(&trip, id).Error
	return trip.Version, known(said(err))
}

// Change applies an edit to the newest state of a trip. The edit was made by somebody who saw the given version:
// if the trip has moved on since, nothing is changed and the error is ErrStale. An edit that makes the bundle
// invalid changes nothing; its error is bundle.Problems. An edit that nothing else can be in the way of takes
// AnyVersion. The label says in words what was done, for undo.
func (s *Store) Change(ctx context.Context, id uint, version int, label string, edit func(bundle.Doc) error) error {
	err := s.write(ctx, func(tx *gorm.DB) error {
		trip, err := claim(tx, id, version)
		if err != nil {
			return err
		}
		doc, err := trip.doc()
		if err != nil {
			return err
		}
		before := doc.Clone()
		if err := edit(doc); err != nil {
			return err
		}
		if reflect.DeepEqual(before, doc) {
			return errUnchanged
		}
		if err := advance(tx, trip, label, doc); err != nil {
			return err
		}
		return share(tx, trip, before, doc)
	})
	if errors.Is(err, errUnchanged) {
		return nil
	}
	return err
}

// advance makes a document the newest state of a trip and leaves a revision behind.
func advance(tx *gorm.DB, trip *Trip, label string, doc bundle.Doc) error {
	if _, err := bundle.FromDoc(doc); err != nil {
		return err
	}
	if err := tx.Where("trip_id = ? AND number > ?", trip.ID, trip.Revision).Delete(&Revision{}).Error; err != nil {
		return err
	}
	trip.Revision++
	if err := remember(tx, trip, label, doc); err != nil {
		return err
	}
	return save(tx, trip, doc)
}

// errUnchanged rolls back an edit that changed nothing: it leaves no revision behind and makes no other window stale.
var errUnchanged = errors.New("nothing was changed")

// Undo goes back to the state before the last change; Redo goes forward again. They return what was taken back or
// brought again.
func (s *Store) Undo(ctx context.Context, id uint, version int) (string, error) {
	return s.step(ctx, id, version, -1)
}

// Redo is described at Undo.
func (s *Store) Redo(ctx context.Context, id uint, version int) (string, error) {
	return s.step(ctx, id, version, 1)
}

func (s *Store) step(ctx context.Context, id uint, version, by int) (label string, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		trip, err := claim(tx, id, version)
		if err != nil {
			return err
		}
		target, err := revision(tx, id, trip.Revision+by)
		if err != nil {
			return err
		}
		label = target.Label
		if by < 0 {
			undone, err := revision(tx, id, trip.Revision)
			if err != nil {
				return err
			}
			label = undone.Label
		}
		before, err := trip.doc()
		if err != nil {
			return err
		}
		doc, err := target.doc()
		if err != nil {
			return err
		}
		trip.Revision = target.Number
		if err := save(tx, trip, doc); err != nil {
			return err
		}
		return share(tx, trip, before, doc)
	})
	return label, err
}

// AnyVersion stands for whatever version a trip has.
const AnyVersion = -1

// Remove deletes a trip with its list, its pack and all its revisions, out of the file and its journal; the things
// stay on the shelf. Copies made before keep it.
func (s *Store) Remove(ctx context.Context, id uint, version int) error {
	err := s.write(ctx, func(tx *gorm.DB) error {
		var trip Trip
		if err := tx.Preload("Lines").Take(&trip, id).Error; err != nil {
			return known(err)
		}
		if version != AnyVersion && trip.Version != version {
			return ErrStale
		}
		items := make([]uint, len(trip.Lines))
		for i, l := range trip.Lines {
			items[i] = l.ItemID
		}
		if err := tx.Delete(&Trip{}, id).Error; err != nil {
			return err
		}
		if err := tx.Delete(&Item{}, "id IN ?", items).Error; err != nil {
			return err
		}
		if err := letKitGo(tx, id); err != nil {
			return err
		}
		return dropPacks(tx, trip.PackID)
	})
	if err != nil {
		return err
	}
	if err := s.giveBack(ctx); err != nil {
		return fmt.Errorf("the trip is removed, but what it said may stand in the file until the next one is: %w", err)
	}
	return nil
}

// dropPacks deletes a pack that no trip has any more.
func dropPacks(tx *gorm.DB, id uint) error {
	return tx.Where("id = ? AND id NOT IN (SELECT pack_id FROM trips)", id).Delete(&Pack{}).Error
}

// KeepVerdict keeps what was found of a trip's version for the list of trips. A trip that has moved on or is gone is
// no error: there is nothing to keep then.
func (s *Store) KeepVerdict(ctx context.Context, id uint, version int, verdict string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Exec("INSERT INTO verdicts SELECT id, version, ? FROM trips WHERE id = ? AND version = ? "+
			"ON CONFLICT DO UPDATE SET version = excluded.version, verdict = excluded.verdict", verdict, id, version).Error
	})
}

// claim takes the trip for a change: it counts the version up, and fails when the version is not the newest.
func claim(tx *gorm.DB, id uint, version int) (*Trip, error) {
	newest := tx.Model(&Trip{}).Where("id = ?", id)
	if version != AnyVersion {
		newest = newest.Where("version = ?", version)
	}
	result := newest.UpdateColumn("version", gorm.Expr("version + 1"))
	if result.Error != nil {
		return nil, result.Error
	}
	if result.RowsAffected == 0 {
		if _, err := find(tx, id); err != nil {
			return nil, err
		}
		return nil, ErrStale
	}
	return find(tx, id)
}

func find(db *gorm.DB, id uint) (*Trip, error) {
	byPosition := func(db *gorm.DB) *gorm.DB { return db.Order("position") }
	var trip Trip
	err := db.Preload("Pack.Zones", byPosition).Preload("Lines", byPosition).Preload("Lines.Item").
		Preload("Pins", byPosition).Take(&trip, id).Error
	return &trip, known(err)
}

// known turns the database's word for "no row" into ours.
func known(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}

func revision(tx *gorm.DB, trip uint, number int) (*Revision, error) {
	var r Revision
	err := tx.Where("trip_id = ? AND number = ?", trip, number).Take(&r).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, ErrNoUndo
	}
	if err != nil {
		return nil, fmt.Errorf("revision %d: %w", number, err)
	}
	return &r, nil
}
