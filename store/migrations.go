package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"path/filepath"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"

	"tornister/internal/release"
)

type migration = gormigrate.Migration

// migrations bring any older file to the present shape, one step each, in order. Each is the SQL of its day and never
// follows a change of the models; a released step is never edited.
var migrations = []*migration{
	step("0001-packs-items-trips", `
CREATE TABLE packs (id integer PRIMARY KEY AUTOINCREMENT, key text, name text, mass_g real, detail text);
CREATE TABLE zones (id integer PRIMARY KEY AUTOINCREMENT, pack_id integer, position integer, key text, kind text,
 detail text, CONSTRAINT fk_packs_zones FOREIGN KEY (pack_id) REFERENCES packs(id) ON DELETE CASCADE);
CREATE UNIQUE INDEX zone_of_pack ON zones(pack_id, position);
CREATE TABLE items (id integer PRIMARY KEY AUTOINCREMENT, name text, kind text, mass_g real, detail text);
CREATE INDEX idx_items_name ON items(name);
CREATE TABLE trips (id integer PRIMARY KEY AUTOINCREMENT, name text, pack_id integer, detail text, version integer,
 revision integer, updated_at datetime, CONSTRAINT fk_trips_pack FOREIGN KEY (pack_id) REFERENCES packs(id));
CREATE TABLE kit_lines (id integer PRIMARY KEY AUTOINCREMENT, trip_id integer, key text, item_id integer,
 position integer, carry text,
 CONSTRAINT fk_kit_lines_item FOREIGN KEY (item_id) REFERENCES items(id) ON DELETE RESTRICT,
 CONSTRAINT fk_trips_lines FOREIGN KEY (trip_id) REFERENCES trips(id) ON DELETE CASCADE);
CREATE INDEX idx_kit_lines_item_id ON kit_lines(item_id);
CREATE UNIQUE INDEX line_of_trip ON kit_lines(trip_id, key);
CREATE TABLE pins (id integer PRIMARY KEY AUTOINCREMENT, trip_id integer, position integer, item_key text,
 zone_key text, detail text,
 CONSTRAINT fk_trips_pins FOREIGN KEY (trip_id) REFERENCES trips(id) ON DELETE CASCADE);
CREATE INDEX idx_pins_trip_id ON pins(trip_id);
CREATE TABLE revisions (id integer PRIMARY KEY AUTOINCREMENT, trip_id integer, number integer, label text, bundle blob,
 created_at datetime, CONSTRAINT fk_revisions_trip FOREIGN KEY (trip_id) REFERENCES trips(id) ON DELETE CASCADE);
CREATE UNIQUE INDEX revision_of_trip ON revisions(trip_id, number)`),
	step("0002-shelf", `
ALTER TABLE packs ADD shelf_key text;
CREATE INDEX idx_packs_shelf_key ON packs(shelf_key);
ALTER TABLE items ADD shelf_key text;
CREATE INDEX idx_items_shelf_key ON items(shelf_key);
CREATE TABLE things (id integer PRIMARY KEY AUTOINCREMENT, key text, name text, section text, mass_g real, expires text,
 status text, holder text, instead text, detail text, photo blob, photo_type text, version integer, updated_at datetime);
CREATE INDEX idx_things_instead ON things(instead);
CREATE INDEX idx_things_status ON things(status);
CREATE INDEX idx_things_expires ON things(expires);
CREATE INDEX idx_things_section ON things(section);
CREATE INDEX idx_things_name ON things(name);
CREATE UNIQUE INDEX idx_things_key ON things(key);
CREATE TABLE shelf_packs (id integer PRIMARY KEY AUTOINCREMENT, key text, name text, detail text, version integer);
CREATE UNIQUE INDEX idx_shelf_packs_key ON shelf_packs(key)`),
	// From here on a file says whose it is, and the list of trips has the verdicts at hand. What belongs to no trip
	// goes.
	step("0003-marked-and-verdicts", fmt.Sprintf(`
PRAGMA application_id = %d;
CREATE TABLE properties (key text PRIMARY KEY, value text);
CREATE TABLE verdicts (trip_id integer PRIMARY KEY, version integer, verdict text,
 CONSTRAINT fk_verdicts_trip FOREIGN KEY (trip_id) REFERENCES trips(id) ON DELETE CASCADE);
CREATE INDEX idx_trips_pack_id ON trips(pack_id);
DELETE FROM items WHERE id NOT IN (SELECT item_id FROM kit_lines);
DELETE FROM packs WHERE id NOT IN (SELECT pack_id FROM trips)`, applicationID)),
	step("0004-ticks-and-shelf-steps", `
CREATE TABLE ticks (trip_id integer, key text, state text, at datetime, PRIMARY KEY (trip_id, key),
 CONSTRAINT fk_ticks_trip FOREIGN KEY (trip_id) REFERENCES trips(id) ON DELETE CASCADE);
CREATE TABLE shelf_steps (id integer PRIMARY KEY AUTOINCREMENT, room text, label text, rows text, at datetime);
CREATE INDEX idx_shelf_steps_room ON shelf_steps(room)`),
	step("0005-card-links-and-stock", `
CREATE TABLE card_links (token text PRIMARY KEY, trip_id integer, bearer text, made datetime, until datetime,
 CONSTRAINT fk_card_links_trip FOREIGN KEY (trip_id) REFERENCES trips(id) ON DELETE CASCADE);
CREATE UNIQUE INDEX idx_card_links_bearer ON card_links(trip_id, bearer);
CREATE TABLE stocks (id integer PRIMARY KEY AUTOINCREMENT, code text, name text, detail text, pieces integer, note text);
CREATE UNIQUE INDEX idx_stocks_code ON stocks(code);
CREATE TABLE loans (id integer PRIMARY KEY AUTOINCREMENT, stock_id integer, pieces integer, trip_id integer, borrower text,
 out datetime, due text, back datetime, condition text,
 CONSTRAINT fk_loans_stock FOREIGN KEY (stock_id) REFERENCES stocks(id) ON DELETE CASCADE);
CREATE INDEX idx_loans_stock_id ON loans(stock_id)`),
	step("0006-packings", `
CREATE TABLE packings (trip_id integer, bearer text, spots text, at datetime, PRIMARY KEY (trip_id, bearer),
 CONSTRAINT fk_packings_trip FOREIGN KEY (trip_id) REFERENCES trips(id) ON DELETE CASCADE)`),
	step("0007-practice", `
CREATE TABLE exercises (id integer PRIMARY KEY AUTOINCREMENT, person text, kit text, name text, kind text, level integer,
 seed integer, bundle blob, state text, begun datetime, ended datetime, of integer, right integer, score integer,
 seconds real);
CREATE INDEX idx_exercises_person ON exercises(person);
CREATE TABLE to_repeats (person text, kit text, key text, step integer, due text, PRIMARY KEY (person, kit, key))`),
}

// step is a migration made of SQL statements. SQLite's own parser takes them one after another.
func step(id, statements string) *migration {
	return &migration{ID: id, Migrate: func(tx *gorm.DB) error { return tx.Exec(statements).Error }}
}

// migrate brings the tables up to date in one transaction, after a copy of the file as it was has been kept.
func (s *Store) migrate(found *state) error {
	ctx := context.Background()
	if found.pending() {
		if err := s.keepCopy(ctx, fmt.Sprintf("before-step-%d", len(found.steps)+1)); err != nil {
			return fmt.Errorf("keep a copy first: %w", err)
		}
	}
	if found.fresh || found.pending() {
		options := *gormigrate.DefaultOptions
		options.UseTransaction, options.ValidateUnknownMigrations = true, true
		if err := gormigrate.New(s.writer, &options, migrations).Migrate(); err != nil {
			return err
		}
	}
	if found.program == release.Version {
		return nil
	}
	err := s.writer.Exec(
		"INSERT INTO properties VALUES ('program', ?) ON CONFLICT DO UPDATE SET value = excluded.value",
		release.Version,
	).Error
	if err != nil || found.fresh {
		return err
	}
	return s.makeGiveBack(ctx)
}

// makeGiveBack lets an older file give the room of removed rows back; SQLite takes up the setting when it writes the
// file anew.
func (s *Store) makeGiveBack(ctx context.Context) error {
	pool, err := s.writer.DB()
	if err != nil {
		return err
	}
	var now int
	if err := pool.QueryRowContext(ctx, "PRAGMA auto_vacuum").Scan(&now); err != nil || now == 2 {
		return err
	}
	_, err = pool.ExecContext(ctx, "PRAGMA auto_vacuum = incremental; VACUUM")
	return err
}

// giveBack cuts the room of removed rows off the file and empties the journal, in which they stand as well.
func (s *Store) giveBack(ctx context.Context) error {
	pool, err := s.writer.DB()
	if err != nil {
		return err
	}
	rows, err := pool.QueryContext(ctx, "PRAGMA incremental_vacuum")
	if err != nil {
		return said(err)
	}
	for rows.Next() { // each step of it gives a page back
	}
	return said(errors.Join(rows.Err(), rows.Close(), emptyJournal(ctx, pool)))
}

func emptyJournal(ctx context.Context, pool *sql.DB) error {
	_, err := pool.ExecContext(ctx, "PRAGMA wal_checkpoint(TRUNCATE)")
	return err
}

// backupFolder is where the copies lie that the program keeps by itself.
func backupFolder(path string) string { return filepath.Join(filepath.Dir(path), "backups") }
