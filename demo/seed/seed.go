// Package seed puts the made-up trips into a database.
package seed

import (
	"context"
	"encoding/json"
	"fmt"

	"tornister/bundle"
	"tornister/core/learn"
	"tornister/core/party"
	"tornister/core/weigh"
	"tornister/demo"
	"tornister/store"
)

// Fill puts all made-up trips into a database, their things and two packs on the shelf.
func Fill(ctx context.Context, kept *store.Store) error {
	if err := past(ctx, kept); err != nil {
		return err
	}
	for _, text := range demo.Trips {
		if _, err := open(ctx, kept, text); err != nil {
			return err
		}
	}
	_, err := Course(ctx, kept)
	return err
}

// Course puts the field course into a database, its kit shared fairly, and fills the centre's shelf.
func Course(ctx context.Context, kept *store.Store) (trip uint, err error) {
	b, err := bundle.Read(demo.FieldCourse)
	if err != nil {
		return 0, fmt.Errorf("demo data: %w", err)
	}
	shared, err := b.Doc.Sharing()
	if err != nil {
		return 0, fmt.Errorf("demo data: %w", err)
	}
	found, err := party.Fair(shared.Problem, shared.Packs().Fits, party.Options{})
	if err != nil {
		return 0, fmt.Errorf("demo data: %w", err)
	}
	if err := b.Doc.Share(found.Holder); err != nil {
		return 0, err
	}
	if err := centre(ctx, kept, b.Doc); err != nil {
		return 0, err
	}
	return kept.Create(ctx, b.Doc)
}

// centre fills the centre's shelf: of its three shelters, which the course takes, one came back with a bent pole.
func centre(ctx context.Context, kept *store.Store, course bundle.Doc) error {
	shelters := ""
	for _, one := range []struct {
		name, kind string
		pieces     int
	}{{"Shelter for two", "tent-two", 3}, {"Foam mat", "foam-mat", 12}, {"Set of two pots", "party-pots",
		4}, {"Group shelter", "group-shelter", 2}, {"Trainee's sleeping bag", "synthetic-sleeping-bag", 8}} {
		code, err := kept.AddStock(ctx, one.name, map[string]any{"name": one.name, "kind": one.kind}, one.pieces)
		if err != nil {
			return err
		}
		if shelters == "" {
			shelters = code
		}
	}
	if err := kept.HandOut(ctx, shelters, 1, "the spring course", 0, "2026-05-17"); err != nil {
		return err
	}
	stocks, err := kept.Stocks(ctx)
	if err != nil {
		return err
	}
	for i := range stocks {
		if stocks[i].Code == shelters {
			if err := kept.TakeBack(ctx, stocks[i].Loans[0].ID, 1, "one pole bent"); err != nil {
				return err
			}
		}
	}
	group := course.Party()
	for _, thing := range group.Group[:3] {
		thing["stock"] = shelters
	}
	return course.SetParty(group)
}

// past puts a trip that is over into a database: weighed, looked back on, with something learned from it.
func past(ctx context.Context, kept *store.Store) error {
	b, err := bundle.Read(demo.LoneWalker)
	if err != nil {
		return fmt.Errorf("demo data: %w", err)
	}
	doc := b.Doc
	trip := doc.Object("trip")
	trip["name"], trip["start"], trip["end"] = "Orlava in spring, looked back on", "2026-04-23T11:00", "2026-04-26T15:00"
	for _, w := range []bundle.Weighing{
		{At: "2026-04-22T19:10:00", Scale: weigh.Hanging, What: "pack", G: 19050},
		{At: "2026-04-22T19:11:00", Scale: weigh.Hanging, What: "pack", G: 19000},
		{At: "2026-04-22T19:12:00", Scale: weigh.Hanging, What: "pack", G: 16450},
		{At: "2026-04-22T19:14:00", Scale: weigh.Hanging, What: "pack", G: 19050},
		{At: "2026-04-22T19:20:00", Scale: weigh.Kitchen, What: []any{"sleep-clothes"}, G: 910},
	} {
		if err := doc.AddWeighing(w); err != nil {
			return err
		}
	}
	closes, stands := false, true
	if err := doc.SetSeen(bundle.Seen{Closes: &closes, Stands: &stands}); err != nil {
		return err
	}
	left, drunk := 540.0, 11.0
	looked := bundle.LookBack{Items: map[string]learn.Answer{}, FoodG: &left, DrunkL: &drunk, Missing: []string{"Sit mat"}}
	for i, item := range doc.List("items") {
		id, _ := item["id"].(string)
		looked.Items[id] = learn.Used
		if i%7 == 3 {
			looked.Items[id] = learn.Unused
		}
	}
	if err := doc.SetLookBack(looked); err != nil {
		return err
	}
	if _, err := kept.Create(ctx, doc); err != nil {
		return err
	}
	room := learn.Update(learn.Room(), 1.1, learn.SeenRoom)
	hand, err := json.Marshal(bundle.Hand{Room: &room})
	if err != nil {
		return err
	}
	return kept.SetHand(ctx, string(hand))
}

// Open puts the made-up trip of the lone walker into a database, its things and its pack on the shelf.
func Open(ctx context.Context, kept *store.Store) (trip uint, err error) {
	return open(ctx, kept, demo.LoneWalker)
}

func open(ctx context.Context, kept *store.Store, text []byte) (trip uint, err error) {
	b, err := bundle.Read(text)
	if err != nil {
		return 0, fmt.Errorf("demo data: %w", err)
	}
	items := b.Doc.List("items")
	var own, lasting []map[string]any
	for _, item := range items {
		if item["consumable"] == nil && item["follows"] == nil {
			own, lasting = append(own, bundle.Own(item)), append(lasting, item)
		}
	}
	keys, err := kept.AddThings(ctx, own)
	if err != nil {
		return 0, err
	}
	for i, item := range lasting {
		item["shelf"] = keys[i]
	}
	if trip, err = kept.Create(ctx, b.Doc); err != nil {
		return 0, err
	}
	pack, _ := b.Doc["pack"].(map[string]any)
	name, _ := pack["name"].(string)
	owned, err := kept.Packs(ctx)
	if err != nil {
		return 0, err
	}
	for _, p := range owned {
		if p.Name == name {
			return trip, nil
		}
	}
	_, err = kept.AddPack(ctx, pack)
	return trip, err
}
