package store

import "time"

// Pack is the rucksack of a trip as it was described there. Detail is its object in the open format without the
// zones; ShelfKey names the pack on the shelf that it is, "" when it is none of them.
type Pack struct {
	ID       uint `gorm:"primaryKey"`
	Key      string
	Name     string
	MassG    float64
	ShelfKey string `gorm:"index"`
	Detail   string
	Zones    []Zone `gorm:"constraint:OnDelete:CASCADE"`
}

// Zone is a place in or on a pack.
type Zone struct {
	ID       uint `gorm:"primaryKey"`
	PackID   uint `gorm:"uniqueIndex:zone_of_pack"`
	Position int  `gorm:"uniqueIndex:zone_of_pack"`
	Key      string
	Kind     string
	Detail   string
}

// Item is a thing on a kit list, as it is described there. ShelfKey names the thing on the shelf that it is.
type Item struct {
	ID       uint   `gorm:"primaryKey"`
	Name     string `gorm:"index"`
	Kind     string
	MassG    float64
	ShelfKey string `gorm:"index"`
	Detail   string
}

// Thing stands on the shelf: something owned, or lent out by its owner. Detail is what the open format says of the
// thing itself. Things with the same Instead are alternatives for each other.
type Thing struct {
	ID        uint   `gorm:"primaryKey"`
	Key       string `gorm:"uniqueIndex"`
	Name      string `gorm:"index"`
	Section   string `gorm:"index"`
	MassG     float64
	Expires   string `gorm:"index"` // YYYY-MM-DD
	Status    string `gorm:"index"` // "" here, lent or retired
	Holder    string // who has it, when it is lent
	Instead   string `gorm:"index"`
	Detail    string
	Photo     []byte
	PhotoType string
	Version   int
	UpdatedAt time.Time
}

// ShelfPack is a pack that is owned. Detail is its whole object in the open format.
type ShelfPack struct {
	ID      uint   `gorm:"primaryKey"`
	Key     string `gorm:"uniqueIndex"`
	Name    string
	Detail  string
	Version int
}

// Trip is a trip with its pack. Detail is everything of its bundle but pack, items and pins.
type Trip struct {
	ID        uint `gorm:"primaryKey"`
	Name      string
	PackID    uint
	Pack      Pack
	Detail    string
	Version   int // grows with every change
	Revision  int // the number of the revision that is shown
	UpdatedAt time.Time
	Lines     []KitLine `gorm:"constraint:OnDelete:CASCADE"`
	Pins      []Pin     `gorm:"constraint:OnDelete:CASCADE"`
}

// KitLine puts an item on a trip's kit list, under the id it has there.
type KitLine struct {
	ID       uint   `gorm:"primaryKey"`
	TripID   uint   `gorm:"uniqueIndex:line_of_trip"`
	Key      string `gorm:"uniqueIndex:line_of_trip"`
	ItemID   uint   `gorm:"index"`
	Item     Item   `gorm:"constraint:OnDelete:RESTRICT"`
	Position int
	Carry    string
}

// Pin is a packer's wish.
type Pin struct {
	ID       uint `gorm:"primaryKey"`
	TripID   uint `gorm:"index"`
	Position int
	ItemKey  string
	ZoneKey  string
	Detail   string
}

// Revision is a state of a trip that undo can return to: the whole bundle and what was done to reach it.
type Revision struct {
	ID        uint `gorm:"primaryKey"`
	TripID    uint `gorm:"uniqueIndex:revision_of_trip"`
	Number    int  `gorm:"uniqueIndex:revision_of_trip"`
	Label     string
	Bundle    []byte // JSON, gzip
	CreatedAt time.Time
	Trip      *Trip `gorm:"constraint:OnDelete:CASCADE"`
}
