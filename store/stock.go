package store

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tornister/bundle"
)

// Stock is something of which a centre has several to lend.
type Stock struct {
	ID     uint
	Code   string // on its label
	Name   string
	Detail string // the thing in the open format
	Pieces int
	Note   string
}

// Loan is some pieces of a stock that went out, and came back or did not yet.
type Loan struct {
	ID        uint
	StockID   uint
	Pieces    int
	TripID    uint // 0 for none
	Borrower  string
	Out       time.Time
	Due       string // a day, YYYY-MM-DD, or ""
	Back      *time.Time
	Condition string // when it came back; "" is good, anything else is out of use until it is mended
}

// Stocked is a stock with what is out of it and what is out of use.
type Stocked struct {
	Stock
	Object map[string]any
	Loans  []Loan // those that are out, and those out of use
	Away   int    // pieces that are out
	Bad    int    // pieces that came back not good
}

// Here is how many can be handed out.
func (s *Stocked) Here() int { return s.Pieces - s.Away - s.Bad }

// Stocks lists what the centre has, by name.
func (s *Store) Stocks(ctx context.Context) ([]Stocked, error) {
	var rows []Stock
	if err := s.reader.WithContext(ctx).Order("name, id").Find(&rows).Error; err != nil {
		return nil, said(err)
	}
	var loans []Loan
	if err := s.reader.WithContext(ctx).Where("back IS NULL OR condition <> ''").Order("id").Find(&loans).
		Error; err != nil {
		return nil, said(err)
	}
	list := make([]Stocked, len(rows))
	for i, row := range rows {
		object, err := parse(row.Detail)
		if err != nil {
			return nil, fmt.Errorf("stock %d: %w", row.ID, err)
		}
		list[i] = Stocked{Stock: row, Object: object}
		for _, l := range loans {
			if l.StockID != row.ID {
				continue
			}
			list[i].Loans = append(list[i].Loans, l)
			if l.Back == nil {
				list[i].Away += l.Pieces
			} else {
				list[i].Bad += l.Pieces
			}
		}
	}
	return list, nil
}

// AddStock adds something to lend and gives its code, which goes on its label.
func (s *Store) AddStock(ctx context.Context, name string, object map[string]any, pieces int) (code string, err error) {
	if err := bundle.CheckItem(object); err != nil {
		return "", err
	}
	text, err := json.Marshal(object)
	if err != nil {
		return "", err
	}
	code = rand.Text()[:8]
	return code, s.write(ctx, func(tx *gorm.DB) error {
		return tx.Create(&Stock{Code: code, Name: name, Detail: string(text), Pieces: pieces}).Error
	})
}

// stockOf finds a stock by its code, with what is out of it.
func stockOf(tx *gorm.DB, code string) (row Stock, out int, err error) {
	if err := tx.Where("code = ?", code).Take(&row).Error; err != nil {
		return row, 0, bundle.Problems{{Pointer: "/code", What: "there is nothing with that code",
			Mend: "look at the label again, or choose it from the list"}}
	}
	err = tx.Model(&Loan{}).Where("stock_id = ? AND (back IS NULL OR condition <> '')", row.ID).
		Select("coalesce(sum(pieces), 0)").Scan(&out).Error
	return row, out, err
}

// SetStock changes how many there are of a stock, and its note. None takes it off the shelf.
func (s *Store) SetStock(ctx context.Context, code string, pieces int, note string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		row, out, err := stockOf(tx, code)
		switch {
		case err != nil:
			return err
		case pieces < out:
			return bundle.Problems{{Pointer: "/pieces", What: fmt.Sprintf("%d of it are out or out of use", out),
				Mend: "take them back or mend them first"}}
		case pieces == 0:
			return tx.Delete(&row).Error
		}
		row.Pieces, row.Note = pieces, note
		return tx.Save(&row).Error
	})
}

// HandOut lends pieces to somebody.
func (s *Store) HandOut(ctx context.Context, code string, pieces int, borrower string, trip uint, due string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		row, out, err := stockOf(tx, code)
		if err != nil {
			return err
		}
		if here := row.Pieces - out; pieces < 1 || pieces > here {
			return bundle.Problems{{Pointer: "/pieces", What: fmt.Sprintf("%d of %s are here", here, row.Name),
				Mend: "hand out so many at most"}}
		}
		return tx.Create(&Loan{StockID: row.ID, Pieces: pieces, TripID: trip, Borrower: borrower, Out: s.now(),
			Due: due}).Error
	})
}

// TakeBack takes pieces of a loan back: good ones with "", others with what is wrong with them.
func (s *Store) TakeBack(ctx context.Context, loan uint, pieces int, condition string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var l Loan
		if err := tx.Where("id = ? AND back IS NULL", loan).Take(&l).Error; err != nil {
			return bundle.Problems{{Pointer: "/loan", What: "that is back already", Mend: "look at the newest list"}}
		}
		if pieces < 1 || pieces > l.Pieces {
			return bundle.Problems{{Pointer: "/pieces", What: fmt.Sprintf("%d of it are out", l.Pieces),
				Mend: "take back so many at most"}}
		}
		now := s.now()
		rest := l
		l.Pieces, l.Back, l.Condition = pieces, &now, condition
		if err := tx.Save(&l).Error; err != nil {
			return err
		}
		if rest.Pieces -= pieces; rest.Pieces == 0 {
			return nil
		}
		rest.ID = 0
		return tx.Create(&rest).Error
	})
}

// Mended puts pieces that were out of use back among the good ones.
func (s *Store) Mended(ctx context.Context, loan uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Model(&Loan{}).Where("id = ? AND back IS NOT NULL", loan).Update("condition", "").Error
	})
}
