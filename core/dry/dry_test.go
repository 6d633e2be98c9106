package dry

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"tornister/core/kit"
)

// The two questions, asked of generic things by hand (common practice).
func TestNeed(t *testing.T) {
	t.Parallel()
	for id, want := range map[string]int{
		"down-sleeping-bag": 2, "synthetic-sleeping-bag": 2, "spare-clothes": 2, "socks": 2, "insulated-jacket": 2, "tent-inner": 2,
		"first-aid-kit": 2, "power-bank": 2, "headlamp": 2, "phone": 2, "map": 2, "water-tablets": 2,
		"tent-fly": 0, "rain-jacket": 0, "pot": 0, "foam-mat": 0, "bottle": 0, "water-bag": 0, "rope": 0, "compass": 0,
	} {
		k, known := kit.KindOf(id)
		assert.True(t, known, id)
		assert.Equal(t, want, Need(&kit.Item{Water: k.Water, Use: k.Use, Shape: k.Shape, Traits: k.Traits}), id)
	}
	worn := kit.Item{Water: kit.Water{Absorbs: true, Suffers: true}, Use: kit.Use{When: kit.Moving}, Shape: kit.Shape{Kind: kit.Soft}}
	assert.Equal(t, 1, Need(&worn), "what is used on the move is wetted by use")
}

// IEC 60529: the second figure 4 is splashing from all sides, 7 is lying in water.
func TestCased(t *testing.T) {
	t.Parallel()
	for code, want := range map[string]bool{"": false, "IPX1": false, "IPX3": false, "IPX4": true, "IPX7": true, "IP67": true, "IP": false, "IP5X": false} {
		assert.Equal(t, want, Cased(&kit.Item{Water: kit.Water{Case: code}}), code)
	}
}
