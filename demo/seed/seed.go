// Package seed puts the made-up trips into a database.
package seed

import (
	"context"
	"fmt"

	"tornister/bundle"
	"tornister/demo"
	"tornister/store"
)

// Fill puts all made-up trips into a database, their things and two packs on the shelf.
func Fill(ctx context.Context, kept *store.Store) error {
	for _, text := range demo.Trips {
		if _, err := open(ctx, kept, text); err != nil {
			return err
		}
	}
	return nil
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
