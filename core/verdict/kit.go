package verdict

import (
	"tornister/core/kit"
	"tornister/core/rucksack"
)

// Sum is the weight and room of a part of the kit.
type Sum struct {
	MassG, LooseL, TightL float64
	Pieces                int
}

// Kit sums the kit the way packers count it.
type Kit struct {
	Packed, Worn, Hand, Left Sum
	BaseG                    float64 // packed, without food, fuel and water, and the empty pack
	ConsumableG              float64
}

// KitOf sums the kit list. Base weight is the pack and what is packed but is not eaten, burnt or drunk.
func KitOf(items []kit.Item, pack *rucksack.Pack) Kit {
	k := Kit{BaseG: pack.MassG}
	for i := range items {
		it := &items[i]
		sum := map[kit.Carry]*Sum{kit.Pack: &k.Packed, kit.Worn: &k.Worn, kit.Hand: &k.Hand, kit.Left: &k.Left}[it.Carry]
		n := float64(it.Count)
		sum.MassG += it.TotalG()
		sum.LooseL += n * it.Shape.Litres(0)
		sum.TightL += n * it.Shape.Litres(1)
		sum.Pieces += it.Count
		if it.Carry != kit.Pack {
			continue
		}
		if it.Consumable != "" {
			k.ConsumableG += it.TotalG()
		} else {
			k.BaseG += it.TotalG()
		}
	}
	return k
}
